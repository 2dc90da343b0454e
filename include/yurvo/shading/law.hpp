// law: which of the equations a light goes by, known either now or when the program is compiled.
#pragma once

#include <utility>

#include "yurvo/shading/light.hpp"

namespace yurvo {

// Read from a light, point by point.
struct read_law {
    light_kind kind{};
    falloff_kind falloff{};
    rim_kind rim{};
};

// Fixed: what is not of this law is not even compiled in.
template <light_kind Kind, falloff_kind Falloff, rim_kind Rim> struct fixed_law {
    static constexpr light_kind kind = Kind;
    static constexpr falloff_kind falloff = Falloff;
    static constexpr rim_kind rim = Rim;
};

namespace detail {

template <light_kind Kind, falloff_kind Falloff, class Use> void with_rim(rim_kind rim, Use&& use) {
    switch (rim) {
    case rim_kind::hard:
        return use(fixed_law<Kind, Falloff, rim_kind::hard>{});
    case rim_kind::ramp:
        return use(fixed_law<Kind, Falloff, rim_kind::ramp>{});
    case rim_kind::squared:
        return use(fixed_law<Kind, Falloff, rim_kind::squared>{});
    case rim_kind::smooth:
        return use(fixed_law<Kind, Falloff, rim_kind::smooth>{});
    case rim_kind::power:
        return use(fixed_law<Kind, Falloff, rim_kind::power>{});
    }
}

template <light_kind Kind, falloff_kind Falloff, class Use> void with_kind(const read_law& law, Use&& use) {
    if constexpr (Kind == light_kind::spot) {
        with_rim<Kind, Falloff>(law.rim, use);
    } else {
        use(fixed_law<Kind, Falloff, rim_kind::hard>{});
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
        return use(fixed_law<light_kind::directional, falloff_kind::none, rim_kind::hard>{});
    case light_kind::point:
        return detail::with_falloff<light_kind::point>(law, use);
    case light_kind::spot:
        return detail::with_falloff<light_kind::spot>(law, use);
    }
}

} // namespace yurvo
