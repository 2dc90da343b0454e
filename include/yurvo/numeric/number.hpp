// number: a float or a double as a model of one's own is given it.
//
// A model calls max, sqrt, pow and the like unqualified, so that a batch brings its own. A float belongs to
// no namespace, and would bring none: this one does, and is otherwise a float.
#pragma once

#include <cmath>
#include <concepts>
#include <cstddef>

#include "yurvo/numeric/functions.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A float or a double that brings its functions along: max, sqrt, pow and the like are found unqualified.
template <std::floating_point Scalar> struct number {
    using scalar = Scalar; ///< what it holds
    Scalar value{};        ///< the number itself

    /// From numbers, and back to the plain one.
    ///@{
    constexpr number() = default;
    constexpr number(Scalar number_given) : value(number_given) {} // NOLINT: a float is a number
    template <class Other>
    requires(std::is_arithmetic_v<Other> &&
             !std::same_as<Other, Scalar>) constexpr number(Other number_given) // NOLINT
        : value(static_cast<Scalar>(number_given)) {}
    template <class Other>
    requires(!std::same_as<Other, Scalar>) explicit constexpr number(const number<Other>& number_given)
        : value(static_cast<Scalar>(number_given.value)) {}
    explicit constexpr operator Scalar() const { return value; }
    ///@}

#define YURVO_OF_NUMBERS(op)                                                                                 \
    friend constexpr number operator op(const number& a, const number& b) {                                  \
        return number(a.value op b.value);                                                                   \
    }                                                                                                        \
    constexpr number& operator op##=(const number& b) { return *this = *this op b; }
    /// As of plain numbers.
    ///@{
    YURVO_OF_NUMBERS(+)
    YURVO_OF_NUMBERS(-)
    YURVO_OF_NUMBERS(*)
    YURVO_OF_NUMBERS(/)
#undef YURVO_OF_NUMBERS
    friend constexpr number operator-(const number& a) { return number(-a.value); }
    friend constexpr number operator+(const number& a) { return a; }
    friend constexpr auto operator<=>(const number&, const number&) = default;
    ///@}

    /// The first where it is so, else the second.
    friend constexpr number select(bool which, const number& a, const number& b) { return which ? a : b; }

#define YURVO_OF_ONE(name)                                                                                   \
    friend number name(const number& a) { return number(std::name(a.value)); }
    /// What batches have too, as the standard has it.
    ///@{
    YURVO_OF_ONE(abs)
    YURVO_OF_ONE(acos)
    YURVO_OF_ONE(asin)
    YURVO_OF_ONE(atan)
    YURVO_OF_ONE(cbrt)
    YURVO_OF_ONE(ceil)
    YURVO_OF_ONE(cos)
    YURVO_OF_ONE(cosh)
    YURVO_OF_ONE(exp)
    YURVO_OF_ONE(exp2)
    YURVO_OF_ONE(expm1)
    YURVO_OF_ONE(floor)
    YURVO_OF_ONE(log)
    YURVO_OF_ONE(log10)
    YURVO_OF_ONE(log1p)
    YURVO_OF_ONE(log2)
    YURVO_OF_ONE(round)
    YURVO_OF_ONE(sin)
    YURVO_OF_ONE(sinh)
    YURVO_OF_ONE(sqrt)
    YURVO_OF_ONE(tan)
    YURVO_OF_ONE(tanh)
    YURVO_OF_ONE(trunc)
#undef YURVO_OF_ONE
#define YURVO_OF_TWO(name)                                                                                   \
    friend number name(const number& a, const number& b) { return number(std::name(a.value, b.value)); }
    YURVO_OF_TWO(atan2)
    YURVO_OF_TWO(copysign)
    YURVO_OF_TWO(fmod)
    YURVO_OF_TWO(hypot)
    YURVO_OF_TWO(pow)
#undef YURVO_OF_TWO
    friend constexpr number max(const number& a, const number& b) {
        return number(yurvo::max(a.value, b.value));
    }
    friend constexpr number min(const number& a, const number& b) {
        return number(yurvo::min(a.value, b.value));
    }
    ///@}
};

template <class Scalar> struct scalar_of<number<Scalar>> { using type = Scalar; };

template <class Scalar> struct real_functions<number<Scalar>> {
    using real = number<Scalar>;
    using plain = real_functions<Scalar>;

    static real reciprocal(const real& x) { return plain::reciprocal(x.value); }
    static real inverse_sqrt(const real& x) { return plain::inverse_sqrt(x.value); }
    static real inverse_sqrt_or_zero(const real& x) { return plain::inverse_sqrt_or_zero(x.value); }
    static bool any(const real& x, const real& y, const real& z) {
        return plain::any(x.value, y.value, z.value);
    }
    static real cosine_power(const real& versine, const real& exponent) {
        return plain::cosine_power(versine.value, exponent.value);
    }
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
