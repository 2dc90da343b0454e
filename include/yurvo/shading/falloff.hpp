// What distance does to a light; d > 0 in metres. Some are also given 1 / d, where that is known already:
// then nothing has to be divided.
#pragma once

#include "yurvo/numeric/functions.hpp"

namespace yurvo {

struct falloff_formulas {
    template <class Real> static Real falloff_none(const Real&) { return Real(1); }

    template <class Real> static Real falloff_inverse_square(const Real&, const Real& inverse) {
        return inverse * inverse;
    }
    template <class Real> static Real falloff_inverse_square(const Real& d) { return one_over(d * d); }

    template <class Real>
    static Real falloff_polynomial(const Real& d, const Real& k0, const Real& k1, const Real& k2) {
        return one_over(k0 + k1 * d + k2 * d * d);
    }

    template <class Real> static Real falloff_linear(const Real& d, const Real& range) {
        return max(Real(0), Real(1) - d / range);
    }

    template <class Real>
    static Real falloff_windowed(const Real& d, const Real& range, const Real& inverse) {
        const Real ratio = d / range;
        const Real squared = ratio * ratio;
        return clamp(Real(1) - squared * squared, Real(0), Real(1)) * (inverse * inverse);
    }
    template <class Real> static Real falloff_windowed(const Real& d, const Real& range) {
        return falloff_windowed(d, range, one_over(d));
    }
};

} // namespace yurvo
