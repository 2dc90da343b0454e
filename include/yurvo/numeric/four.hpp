// four: four batches side by side, used like one.
//
// Lighting a point is one long chain of operations, each waiting for the one before, and a processor that
// looks two hundred operations ahead sees little more than one such chain. Every operation of a `four` is
// done for all four batches before the next begins: there are always four chains to work on.
#pragma once

#include <type_traits>

#include "yurvo/numeric/batch.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Four masks side by side: what comparing two fours gives.
template <class Mask> struct four_masks {
    Mask a, b, c, d; ///< of each batch

#define YURVO_OF_MASKS(op)                                                                                   \
    friend four_masks operator op(const four_masks& x, const four_masks& y) {                                \
        return {x.a op y.a, x.b op y.b, x.c op y.c, x.d op y.d};                                             \
    }
    /// Lane by lane; any, all and none over the lanes of all four.
    ///@{
    YURVO_OF_MASKS(&)
    YURVO_OF_MASKS(|)
    YURVO_OF_MASKS(^)
    YURVO_OF_MASKS(==)
    YURVO_OF_MASKS(!=)
    YURVO_OF_MASKS(&&)
    YURVO_OF_MASKS(||)
#undef YURVO_OF_MASKS
    friend four_masks operator!(const four_masks& x) { return {!x.a, !x.b, !x.c, !x.d}; }
    friend four_masks operator~(const four_masks& x) { return {~x.a, ~x.b, ~x.c, ~x.d}; }
    friend bool any(const four_masks& x) {
        return xsimd::any(x.a) || xsimd::any(x.b) || xsimd::any(x.c) || xsimd::any(x.d);
    }
    friend bool all(const four_masks& x) {
        return xsimd::all(x.a) && xsimd::all(x.b) && xsimd::all(x.c) && xsimd::all(x.d);
    }
    friend bool none(const four_masks& x) { return !any(x); }
    ///@}
};

/// Four batches side by side, with the operations of one.
template <class Batch> struct four {
    using scalar = scalar_t<Batch>;                            ///< float or double
    using masks = four_masks<typename Batch::batch_bool_type>; ///< what a comparison gives

    Batch a, b, c, d; ///< in the order in which they lie in memory

    /// Not initialised; one number in every lane; of four batches.
    ///@{
    four() = default;
    four(scalar every) : a(every), b(every), c(every), d(every) {} // NOLINT: as numbers become batches
    four(const Batch& a_, const Batch& b_, const Batch& c_, const Batch& d_) : a(a_), b(b_), c(c_), d(d_) {}
    ///@}

#define YURVO_OF_FOURS(op)                                                                                   \
    friend four operator op(const four& x, const four& y) {                                                  \
        return {x.a op y.a, x.b op y.b, x.c op y.c, x.d op y.d};                                             \
    }                                                                                                        \
    four& operator op##=(const four& y) { return *this = *this op y; }
    /// Lane by lane.
    ///@{
    YURVO_OF_FOURS(+)
    YURVO_OF_FOURS(-)
    YURVO_OF_FOURS(*)
    YURVO_OF_FOURS(/)
#undef YURVO_OF_FOURS
    friend four operator-(const four& x) { return {-x.a, -x.b, -x.c, -x.d}; }
    friend four operator+(const four& x) { return x; }

#define YURVO_COMPARISON_OF_FOURS(op)                                                                        \
    friend masks operator op(const four& x, const four& y) {                                                 \
        return {x.a op y.a, x.b op y.b, x.c op y.c, x.d op y.d};                                             \
    }
    YURVO_COMPARISON_OF_FOURS(<)
    YURVO_COMPARISON_OF_FOURS(<=)
    YURVO_COMPARISON_OF_FOURS(>)
    YURVO_COMPARISON_OF_FOURS(>=)
    YURVO_COMPARISON_OF_FOURS(==)
    YURVO_COMPARISON_OF_FOURS(!=)
#undef YURVO_COMPARISON_OF_FOURS
    ///@}

    /// Of each lane the first where its mask is set, else the second.
    friend four select(const masks& which, const four& x, const four& y) {
        return {xsimd::select(which.a, x.a, y.a), xsimd::select(which.b, x.b, y.b),
                xsimd::select(which.c, x.c, y.c), xsimd::select(which.d, x.d, y.d)};
    }

#define YURVO_OF_ONE(name)                                                                                   \
    friend four name(const four& x) {                                                                        \
        return {xsimd::name(x.a), xsimd::name(x.b), xsimd::name(x.c), xsimd::name(x.d)};                     \
    }
    /// What a model may call: all that batches have, found as theirs are.
    ///@{
    YURVO_OF_ONE(abs)
    YURVO_OF_ONE(acos)
    YURVO_OF_ONE(acosh)
    YURVO_OF_ONE(asin)
    YURVO_OF_ONE(asinh)
    YURVO_OF_ONE(atan)
    YURVO_OF_ONE(atanh)
    YURVO_OF_ONE(cbrt)
    YURVO_OF_ONE(ceil)
    YURVO_OF_ONE(cos)
    YURVO_OF_ONE(cosh)
    YURVO_OF_ONE(erf)
    YURVO_OF_ONE(erfc)
    YURVO_OF_ONE(exp)
    YURVO_OF_ONE(exp10)
    YURVO_OF_ONE(exp2)
    YURVO_OF_ONE(expm1)
    YURVO_OF_ONE(fabs)
    YURVO_OF_ONE(floor)
    YURVO_OF_ONE(log)
    YURVO_OF_ONE(log10)
    YURVO_OF_ONE(log1p)
    YURVO_OF_ONE(log2)
    YURVO_OF_ONE(nearbyint)
    YURVO_OF_ONE(reciprocal)
    YURVO_OF_ONE(rint)
    YURVO_OF_ONE(round)
    YURVO_OF_ONE(sign)
    YURVO_OF_ONE(sin)
    YURVO_OF_ONE(sinh)
    YURVO_OF_ONE(sqrt)
    YURVO_OF_ONE(tan)
    YURVO_OF_ONE(tanh)
    YURVO_OF_ONE(trunc)
#undef YURVO_OF_ONE
#define YURVO_OF_TWO(name)                                                                                   \
    friend four name(const four& x, const four& y) {                                                         \
        return {xsimd::name(x.a, y.a), xsimd::name(x.b, y.b), xsimd::name(x.c, y.c), xsimd::name(x.d, y.d)}; \
    }
    YURVO_OF_TWO(atan2)
    YURVO_OF_TWO(copysign)
    YURVO_OF_TWO(fdim)
    YURVO_OF_TWO(fmax)
    YURVO_OF_TWO(fmin)
    YURVO_OF_TWO(fmod)
    YURVO_OF_TWO(hypot)
    YURVO_OF_TWO(max)
    YURVO_OF_TWO(min)
    YURVO_OF_TWO(pow)
    YURVO_OF_TWO(remainder)
#undef YURVO_OF_TWO
#define YURVO_OF_THREE(name)                                                                                 \
    friend four name(const four& x, const four& y, const four& z) {                                          \
        return {xsimd::name(x.a, y.a, z.a), xsimd::name(x.b, y.b, z.b), xsimd::name(x.c, y.c, z.c),          \
                xsimd::name(x.d, y.d, z.d)};                                                                 \
    }
    YURVO_OF_THREE(clip)
    YURVO_OF_THREE(fma)
    YURVO_OF_THREE(fms)
    YURVO_OF_THREE(fnma)
    YURVO_OF_THREE(fnms)
#undef YURVO_OF_THREE
#define YURVO_QUESTION_OF_ONE(name)                                                                          \
    friend masks name(const four& x) {                                                                       \
        return {xsimd::name(x.a), xsimd::name(x.b), xsimd::name(x.c), xsimd::name(x.d)};                     \
    }
    YURVO_QUESTION_OF_ONE(isfinite)
    YURVO_QUESTION_OF_ONE(isinf)
    YURVO_QUESTION_OF_ONE(isnan)
#undef YURVO_QUESTION_OF_ONE
    ///@}
};

template <class Batch> struct scalar_of<four<Batch>> { using type = scalar_t<Batch>; };
/// As many as its four batches have.
template <class Batch> inline constexpr std::size_t lanes_of<four<Batch>> = 4 * lanes_of<Batch>;

/// As many numbers as it has lanes; the address is a multiple of a batch's size.
template <class Four>
requires(std::is_same_v<Four, four<decltype(Four::a)>>) Four load_lanes(const scalar_t<Four>* from) {
    using batch = decltype(Four::a);
    constexpr std::size_t lanes = lanes_of<batch>;
    return {load_lanes<batch>(from), load_lanes<batch>(from + lanes), load_lanes<batch>(from + 2 * lanes),
            load_lanes<batch>(from + 3 * lanes)};
}
/// To as many places; the address is a multiple of a batch's size.
template <class Batch> void store_lanes(scalar_t<Batch>* to, const four<Batch>& value) {
    constexpr std::size_t lanes = lanes_of<Batch>;
    store_lanes(to, value.a);
    store_lanes(to + lanes, value.b);
    store_lanes(to + 2 * lanes, value.c);
    store_lanes(to + 3 * lanes, value.d);
}

template <class Batch> struct real_functions<four<Batch>> {
    using real = four<Batch>;
    using one = real_functions<Batch>;

    static real reciprocal(const real& x) {
        return {one::reciprocal(x.a), one::reciprocal(x.b), one::reciprocal(x.c), one::reciprocal(x.d)};
    }
    static real inverse_sqrt(const real& x) {
        return {one::inverse_sqrt(x.a), one::inverse_sqrt(x.b), one::inverse_sqrt(x.c),
                one::inverse_sqrt(x.d)};
    }
    static real inverse_sqrt_or_zero(const real& x) {
        return {one::inverse_sqrt_or_zero(x.a), one::inverse_sqrt_or_zero(x.b),
                one::inverse_sqrt_or_zero(x.c), one::inverse_sqrt_or_zero(x.d)};
    }
    static typename real::masks any(const real& x, const real& y, const real& z) {
        return {one::any(x.a, y.a, z.a), one::any(x.b, y.b, z.b), one::any(x.c, y.c, z.c),
                one::any(x.d, y.d, z.d)};
    }
    static real cosine_power(const real& versine, const real& exponent) {
        return {one::cosine_power(versine.a, exponent.a), one::cosine_power(versine.b, exponent.b),
                one::cosine_power(versine.c, exponent.c), one::cosine_power(versine.d, exponent.d)};
    }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
