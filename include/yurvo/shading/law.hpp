// law: which of the equations a light goes by, known either now or when the program is compiled.
#pragma once

#include <utility>

#include "yurvo/shading/light.hpp"

namespace yurvo {

// Read from a light, point by point.
struct read_law {
    light_kind kind{};
    falloff_kind falloff{};
    penumbra_kind penumbra{};
};

// Fixed: what is not of this law is not even compiled in.
template <light_kind Kind, falloff_kind Falloff, penumbra_kind Penumbra> struct fixed_law {
    static constexpr light_kind kind = Kind;
    static constexpr falloff_kind falloff = Falloff;
    static constexpr penumbra_kind penumbra = Penumbra;
};

namespace detail {

template <light_kind Kind, falloff_kind Falloff, class Use>
void with_penumbra(penumbra_kind penumbra, Use&& use) {
    switch (penumbra) {
    case penumbra_kind::hard:
        return use(fixed_law<Kind, Falloff, penumbra_kind::hard>{});
    case penumbra_kind::ramp:
        return use(fixed_law<Kind, Falloff, penumbra_kind::ramp>{});
    case penumbra_kind::squared:
        return use(fixed_law<Kind, Falloff, penumbra_kind::squared>{});
    case penumbra_kind::smooth:
        return use(fixed_law<Kind, Falloff, penumbra_kind::smooth>{});
    case penumbra_kind::power:
        return use(fixed_law<Kind, Falloff, penumbra_kind::power>{});
    }
}

template <light_kind Kind, falloff_kind Falloff, class Use> void with_kind(const read_law& law, Use&& use) {
    if constexpr (Kind == light_kind::spot) {
        with_penumbra<Kind, Falloff>(law.penumbra, use);
    } else {
        use(fixed_law<Kind, Falloff, penumbra_kind::hard>{});
    }
}

template <light_kind Kind, class Use> void with_falloff(const read_law& law, Use&& use) {
    switch (law.falloff) {
    case falloff_kind::none:
        return with_kind<Kind, falloff_kind::none>(law, use);
    case falloff_kind::inverse_square:
        return with_kind<Kind, falloff_kind::inverse_square>(law, use);
    case falloff_kind::polynomial:
        return with_kind<Kind, falloff_kind::polynomial>(law, use);
    case falloff_kind::linear:
        return with_kind<Kind, falloff_kind::linear>(law, use);
    case falloff_kind::windowed:
        return with_kind<Kind, falloff_kind::windowed>(law, use);
    }
}

} // namespace detail

// Calls use(law) with the law fixed: one loop per law, so that nothing is decided per point.
template <class Use> void with_fixed_law(const read_law& law, Use&& use) {
    switch (law.kind) {
    case light_kind::directional:
        return use(fixed_law<light_kind::directional, falloff_kind::none, penumbra_kind::hard>{});
    case light_kind::point:
        return detail::with_falloff<light_kind::point>(law, use);
    case light_kind::spot:
        return detail::with_falloff<light_kind::spot>(law, use);
    }
}

} // namespace yurvo
