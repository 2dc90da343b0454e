// law: which of the equations a light goes by, known either now or when the program is compiled.
#pragma once

#include <utility>

#include "yurvo/numeric/each_constant.hpp"
#include "yurvo/shading/light.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Read from a light, point by point.
struct read_law {
    light_kind kind{};        ///< directional, point or spot
    falloff_kind falloff{};   ///< over distance
    penumbra_kind penumbra{}; ///< over the angle in the cone
};

/// Fixed: what is not of this law is not even compiled in.
template <light_kind Kind, falloff_kind Falloff, penumbra_kind Penumbra> struct fixed_law {
    static constexpr light_kind kind = Kind;            ///< known when it is compiled
    static constexpr falloff_kind falloff = Falloff;    ///< known when it is compiled
    static constexpr penumbra_kind penumbra = Penumbra; ///< known when it is compiled
};

/// Calls use(constant) with a law's falloff or penumbra as a constant.
template <class Law, class Use> constexpr void with_falloff(const Law& law, Use&& use) {
    if constexpr (requires { typename detail::constant<falloff_kind, Law::falloff>; }) {
        use(detail::constant<falloff_kind, Law::falloff>{});
    } else {
        detail::with_constant<falloff_count>(law.falloff, use);
    }
}
/// Calls `use` with the law's penumbra as a constant, as above with its falloff.
template <class Law, class Use> constexpr void with_penumbra(const Law& law, Use&& use) {
    if constexpr (requires { typename detail::constant<penumbra_kind, Law::penumbra>; }) {
        use(detail::constant<penumbra_kind, Law::penumbra>{});
    } else {
        detail::with_constant<penumbra_count>(law.penumbra, use);
    }
}

/// Calls use(law) with the law fixed: one loop per law, so that nothing is decided per point.
template <class Use> void with_fixed_law(const read_law& law, Use&& use) {
    if (law.kind == light_kind::directional) {
        use(fixed_law<light_kind::directional, falloff_kind::none, penumbra_kind::hard>{});
        return;
    }
    with_falloff(law, [&](auto falloff) {
        if (law.kind == light_kind::point) {
            use(fixed_law<light_kind::point, falloff(), penumbra_kind::hard>{});
        } else {
            with_penumbra(law,
                          [&](auto penumbra) { use(fixed_law<light_kind::spot, falloff(), penumbra()>{}); });
        }
    });
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
