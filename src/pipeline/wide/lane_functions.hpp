// lane_functions: what each operation of a formula does to batches.
#pragma once

#include <limits>

#include "yurvo/numeric/four.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

template <class Real> struct lane_functions {
    // As GLSL defines them, what is no number included.
    static Real lesser(const Real& x, const Real& y) { return select(y < x, y, x); }
    static Real greater(const Real& x, const Real& y) { return select(x < y, y, x); }

    static Real truth(const typename Real::masks& mask) { return select(mask, Real(1), Real(0)); }
    static typename Real::masks is(const Real& truth) { return truth != Real(0); }
    static Real not_a_number() { return Real(std::numeric_limits<float>::quiet_NaN()); }

    // exp(y · ln x), and what C says of the rest.
    static Real power(const Real& x, const Real& y) {
        const auto positive = x > Real(0);
        const Real inside = exp(y * log(select(positive, x, Real(1))));
        const Real infinite(std::numeric_limits<float>::infinity());
        const Real of_zero = select(y > Real(0), Real(0), infinite);
        const Real outside = select(x == Real(0), of_zero, not_a_number());
        return select(y == Real(0), Real(1), select(positive, inside, outside));
    }
    // NaN where they have no value, whatever the wrapper's own give.
    static Real arc(const Real& x, const Real& result) {
        return select(abs(x) <= Real(1), result, not_a_number());
    }
    static Real logarithm(const Real& x, const Real& result) {
        const Real least(-std::numeric_limits<float>::infinity());
        return select(x > Real(0), result, select(x == Real(0), least, not_a_number()));
    }
    static Real sign_of(const Real& x) {
        return select(x > Real(0), Real(1), select(x < Real(0), Real(-1), Real(0)));
    }
    static Real smooth(const Real& low, const Real& high, const Real& x) {
        const Real t = lesser(greater((x - low) / (high - low), Real(0)), Real(1));
        return select(low == high, select(x < low, Real(0), Real(1)), t * t * (Real(3) - Real(2) * t));
    }
};

} // namespace yurvo::inline v0_1::pipeline::wide
