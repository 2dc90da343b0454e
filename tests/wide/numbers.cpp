// Compiled once for each instruction set; see numbers.hpp.
#include "numbers.hpp"

#include <array>
#include <bit>
#include <cstdint>

#include "yurvo/numeric/four.hpp"

namespace yurvo::testing {

namespace {

using batch = xsimd::batch<float, YURVO_BATCH>;
using real = four<batch>;
constexpr std::size_t lanes = lanes_of<real>;
constexpr std::size_t batch_lanes = lanes_of<batch>;

template <class Of> void each(const float* from, std::size_t count, float* into, Of&& of) {
    for (std::size_t i = 0; i < count; i += lanes) {
        store_lanes(into + i, of(load_lanes<real>(from + i)));
    }
}

void power(const float* versine, const float* exponent, std::size_t count, float* into) {
    for (std::size_t i = 0; i < count; i += lanes) {
        store_lanes(into + i, cosine_power(load_lanes<real>(versine + i), load_lanes<real>(exponent + i)));
    }
}
void roots(const float* of, std::size_t count, float* into) {
    each(of, count, into, [](const real& x) { return inverse_sqrt(x); });
}
void roots_or_zero(const float* of, std::size_t count, float* into) {
    each(of, count, into, [](const real& x) { return inverse_sqrt_or_zero(x); });
}
void reciprocals(const float* of, std::size_t count, float* into) {
    each(of, count, into, [](const real& x) { return one_over(x); });
}

struct operands {
    const float *x, *y, *z;
};

// Both ways lane by lane, bit by bit.
template <class Of> bool same(const operands& from, Of&& of) {
    const real at_once = of(load_lanes<real>(from.x), load_lanes<real>(from.y), load_lanes<real>(from.z));
    alignas(64) std::array<float, lanes> all;
    alignas(64) std::array<float, lanes> apart;
    store_lanes(all.data(), at_once);
    for (std::size_t i = 0; i < lanes; i += batch_lanes) {
        const batch one =
            of(load_lanes<batch>(from.x + i), load_lanes<batch>(from.y + i), load_lanes<batch>(from.z + i));
        store_lanes(apart.data() + i, one);
    }
    using bits = std::array<std::uint32_t, lanes>; // NaN is the same as itself
    return std::bit_cast<bits>(all) == std::bit_cast<bits>(apart);
}

// As numbers: what a comparison says.
template <class Real, class Mask> Real ones(const Mask& mask) { return select(mask, Real(1), Real(0)); }

const char* first_that_differs(const float* x, const float* y, const float* z) {
    const operands from{x, y, z};
#define CHECK_SAME(name, ...)                                                                                \
    if (!same(from, []<class Real>(const Real& a, const Real& b, const Real& c) {                            \
            static_cast<void>(b);                                                                            \
            static_cast<void>(c);                                                                            \
            return Real(__VA_ARGS__);                                                                        \
        })) {                                                                                                \
        return name;                                                                                         \
    }
    CHECK_SAME("+", a + b)
    CHECK_SAME("-", a - b)
    CHECK_SAME("*", a * b)
    CHECK_SAME("/", a / b)
    CHECK_SAME("minus", -a)
    CHECK_SAME("a number for all", a * 3.0F + 1)
    CHECK_SAME("<", ones<Real>(a < b))
    CHECK_SAME("<=", ones<Real>(a <= b))
    CHECK_SAME(">", ones<Real>(a > b))
    CHECK_SAME(">=", ones<Real>(a >= b))
    CHECK_SAME("==", ones<Real>(a == b))
    CHECK_SAME("!=", ones<Real>(a != b))
    CHECK_SAME("and", ones<Real>((a < b) & (b < c)))
    CHECK_SAME("or", ones<Real>((a < b) | (b < c)))
    CHECK_SAME("both", ones<Real>((a < b) && (b < c)))
    CHECK_SAME("either", ones<Real>((a < b) || (b < c)))
    CHECK_SAME("not", ones<Real>(!(a < b)))
    CHECK_SAME("select", select(a < b, c, a))
    CHECK_SAME("min", min(a, b))
    CHECK_SAME("max", max(a, b))
    CHECK_SAME("clamp", clamp(a, Real(0.25F), Real(0.75F)))
    CHECK_SAME("abs", abs(a - b))
    CHECK_SAME("sqrt", sqrt(a))
    CHECK_SAME("exp", exp(a))
    CHECK_SAME("exp2", exp2(a))
    CHECK_SAME("log", log(a))
    CHECK_SAME("log2", log2(a))
    CHECK_SAME("log1p", log1p(a))
    CHECK_SAME("expm1", expm1(a))
    CHECK_SAME("pow", pow(a, b))
    CHECK_SAME("sin", sin(a))
    CHECK_SAME("cos", cos(a))
    CHECK_SAME("tan", tan(a))
    CHECK_SAME("asin", asin(a))
    CHECK_SAME("acos", acos(a))
    CHECK_SAME("atan", atan(a))
    CHECK_SAME("atan2", atan2(a, b))
    CHECK_SAME("tanh", tanh(a))
    CHECK_SAME("cbrt", cbrt(a))
    CHECK_SAME("hypot", hypot(a, b))
    CHECK_SAME("fmod", fmod(a, b))
    CHECK_SAME("floor", floor(a * 8.0F))
    CHECK_SAME("ceil", ceil(a * 8.0F))
    CHECK_SAME("round", round(a * 8.0F))
    CHECK_SAME("trunc", trunc(a * 8.0F))
    CHECK_SAME("copysign", copysign(a, b - c))
    CHECK_SAME("fma", fma(a, b, c))
    CHECK_SAME("sign", sign(a - b))
    CHECK_SAME("isnan", ones<Real>(isnan(a)))
    CHECK_SAME("power of a cosine", cosine_power(a, b))
    CHECK_SAME("one over the root", inverse_sqrt(a))
    CHECK_SAME("the same of zero", inverse_sqrt_or_zero(a - a))
    CHECK_SAME("one over", one_over(a))
#undef CHECK_SAME
    return nullptr;
}

} // namespace

const wide_numbers& YURVO_KERNELS() {
    static constexpr wide_numbers made{power, roots, roots_or_zero, reciprocals, first_that_differs};
    return made;
}

} // namespace yurvo::testing
