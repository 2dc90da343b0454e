#include "yurvo/formula/bounds.hpp"

#include <algorithm>
#include <cmath>

#include "yurvo/formula/formula_set.hpp"
#include "yurvo/numeric/functions.hpp"

namespace yurvo::inline v0_1::formulas {

namespace {

// Far within what a float holds, so that a product of such a number and a light's strength is still one.
constexpr double greatest_number = 1e15;
// Below that a float loses digits, and may be 0.
constexpr double least_number = 1e-30;
// Of a sum's parts, and of any other result: a hundred times what a float rounds by.
constexpr double room = 0x1p-17;

constexpr bounds anything{};
constexpr bounds truth{0, 1};
constexpr bounds certain{1, 1};
constexpr bounds never{0, 0};

double greatest_size(const bounds& a) { return std::max(std::abs(a.low), std::abs(a.high)); }

// With room by `apart`, and by the rounding of the result; the sign of a result is always kept.
bounds rounded(double low, double high, double apart = 0) {
    low -= apart + room * std::abs(low);
    high += apart + room * std::abs(high);
    if (low > 0 && low < least_number) {
        low = 0;
    }
    if (high < 0 && high > -least_number) {
        high = 0;
    }
    const bounds result{low, high};
    return result.finite() ? result : anything; // of NaN too
}

bounds hull(const bounds& a, const bounds& b) { return {std::min(a.low, b.low), std::max(a.high, b.high)}; }
bounds minus(const bounds& a) { return {-a.high, -a.low}; }

bounds sum(const bounds& a, const bounds& b) {
    if (a.zero() || b.zero()) {
        return a.zero() ? b : a;
    }
    return rounded(a.low + b.low, a.high + b.high, room * (greatest_size(a) + greatest_size(b)));
}

bounds product(const bounds& a, const bounds& b) {
    if (!a.finite() || !b.finite()) {
        return anything;
    }
    const auto [low, high] = std::minmax({a.low * b.low, a.low * b.high, a.high * b.low, a.high * b.high});
    return rounded(low, high);
}

bounds squared(const bounds& a) {
    if (!a.finite()) {
        return anything;
    }
    const bounds square = product(a, a);
    const bool through_zero = a.low <= 0 && a.high >= 0;
    return {through_zero ? 0 : square.low, square.high};
}

bounds quotient(const bounds& a, const bounds& b) {
    if (!a.finite() || !b.finite() || (b.low <= 0 && b.high >= 0)) {
        return anything;
    }
    const auto [low, high] = std::minmax({a.low / b.low, a.low / b.high, a.high / b.low, a.high / b.high});
    return rounded(low, high);
}

// As GLSL's min and max, of which a number that is none may be either.
bounds lesser(const bounds& a, const bounds& b) {
    return a.finite() && b.finite() ? bounds{std::min(a.low, b.low), std::min(a.high, b.high)} : anything;
}
bounds greater(const bounds& a, const bounds& b) {
    return a.finite() && b.finite() ? bounds{std::max(a.low, b.low), std::max(a.high, b.high)} : anything;
}

bounds is_less(const bounds& a, const bounds& b) {
    return !a.finite() || !b.finite() ? truth : a.high < b.low ? certain : a.low >= b.high ? never : truth;
}
bounds is_less_or_equal(const bounds& a, const bounds& b) {
    return !a.finite() || !b.finite() ? truth : a.high <= b.low ? certain : a.low > b.high ? never : truth;
}

// A function that rises, where it is defined.
template <class Function> bounds rising(const bounds& a, bool defined, Function&& function) {
    return defined && a.finite() ? rounded(function(a.low), function(a.high), room) : anything;
}

bounds root(const bounds& a) {
    return a.low >= 0 && a.finite() ? rounded(std::sqrt(a.low), std::sqrt(a.high)) : anything;
}

bounds power(const bounds& base, const bounds& exponent) {
    if (!base.finite() || !exponent.finite() || base.low < 0 || (base.low == 0 && exponent.low <= 0)) {
        return anything;
    }
    const double high = std::max({std::pow(base.low, exponent.low), std::pow(base.low, exponent.high),
                                  std::pow(base.high, exponent.low), std::pow(base.high, exponent.high)});
    return rounded(0, high, base.high == 0 ? 0 : 0.01 * high); // a float's exponent multiplies its rounding
}

bounds within(double size) { return {-size, size}; }
constexpr double nearly_one = 1 + room;

bounds sine(const bounds& a) { return a.finite() ? within(nearly_one) : anything; }

// Component by component.
bounds of_components(function which, const bounds& a, const bounds& b, const bounds& c) {
    switch (which) {
    case function::radians:
        return product(a, exactly(yurvo::radians(1)));
    case function::degrees:
        return product(a, exactly(yurvo::degrees(1)));
    case function::sin:
    case function::cos:
        return sine(a);
    case function::asin:
    case function::acos:
        return a.low >= -1 && a.high <= 1 ? within(3.2) : anything;
    case function::pow:
        return power(a, b);
    case function::exp:
        return rising(a, true, [](double x) { return std::exp(x); });
    case function::exp2:
        return rising(a, true, [](double x) { return std::exp2(x); });
    case function::log:
        return rising(a, a.low > 0, [](double x) { return std::log(x); });
    case function::log2:
        return rising(a, a.low > 0, [](double x) { return std::log2(x); });
    case function::sqrt:
        return root(a);
    case function::inversesqrt:
        return quotient(certain, root(a));
    case function::abs:
        return {a.low <= 0 && a.high >= 0 ? 0 : std::min(std::abs(a.low), std::abs(a.high)),
                greatest_size(a)};
    case function::sign:
        return a.zero() ? a : a.finite() ? within(1) : anything;
    case function::floor:
        return {std::floor(a.low), std::floor(a.high)};
    case function::ceil:
        return {std::ceil(a.low), std::ceil(a.high)};
    case function::fract:
        return a.finite() ? bounds{0, 1} : anything;
    case function::min:
        return lesser(a, b);
    case function::max:
        return greater(a, b);
    case function::clamp:
        return lesser(greater(a, b), c);
    case function::mix:
        return sum(product(a, sum(certain, minus(c))), product(b, c));
    case function::step:
        return is_less_or_equal(a, b);
    case function::smoothstep:
        return a.finite() && b.finite() && c.finite() ? bounds{0, nearly_one} : anything;
    default: // tan, atan, mod: seldom where it would help
        return anything;
    }
}

class estimator {
    const expression& formula_;
    const std::vector<component_bounds>& inputs_;
    const known_directions& directions_;
    std::vector<component_bounds> values_;

    [[nodiscard]] std::uint8_t width_of(const step& of, std::size_t argument) const {
        return formula_.steps[of.from[argument]].type.width;
    }
    [[nodiscard]] bounds at(const step& of, std::size_t argument, std::size_t component) const {
        return values_[of.from[argument]][width_of(of, argument) == 1 ? 0 : component];
    }
    [[nodiscard]] bool reads(std::uint32_t at, input which) const {
        const step& from = formula_.steps[at];
        return from.kind == step_kind::input && from.from[0] == index_of(which);
    }

    [[nodiscard]] bool is_unit(std::uint32_t at) const {
        const step& from = formula_.steps[at];
        return from.kind == step_kind::input && std::find(directions_.unit.begin(), directions_.unit.end(),
                                                          from.from[0]) != directions_.unit.end();
    }
    // Two steps that say the same, word by word.
    [[nodiscard]] bool same(std::uint32_t a, std::uint32_t b) const {
        const step& one = formula_.steps[a];
        const step& other = formula_.steps[b];
        if (a == b || one.kind != other.kind || one.called != other.called || one.count != other.count ||
            one.components != other.components || one.numbers != other.numbers) {
            return a == b;
        }
        if (one.kind == step_kind::input) {
            return one.from[0] == other.from[0];
        }
        for (std::size_t i = 0; i < one.count; ++i) {
            if (!same(one.from[i], other.from[i])) {
                return false;
            }
        }
        return true;
    }

    [[nodiscard]] bounds dot_of(const step& of, std::size_t a, std::size_t b) const {
        const std::uint32_t first = of.from[a];
        const std::uint32_t second = of.from[b];
        if (directions_.n_dot_l && ((reads(first, input::n) && reads(second, input::l)) ||
                                    (reads(first, input::l) && reads(second, input::n)))) {
            return *directions_.n_dot_l;
        }
        if (is_unit(first) && is_unit(second)) {
            return within(nearly_one);
        }
        const bool square = same(first, second);
        bounds total{0, 0};
        for (std::size_t i = 0; i < width_of(of, a); ++i) {
            total = sum(total, square ? squared(at(of, a, i)) : product(at(of, a, i), at(of, b, i)));
        }
        return square ? greater(total, never) : total; // no square is less than 0, however rounded
    }

    component_bounds call(const step& of) const {
        component_bounds result{};
        const auto each = [&](auto&& function) {
            for (std::size_t i = 0; i < of.type.width; ++i) {
                result[i] = function(i);
            }
            return result;
        };
        switch (of.called) {
        case function::dot:
            result[0] = dot_of(of, 0, 1);
            return result;
        case function::length:
            result[0] = root(dot_of(of, 0, 0));
            return result;
        case function::distance:
            result[0] = {0, 0};
            for (std::size_t i = 0; i < width_of(of, 0); ++i) {
                result[0] = sum(result[0], squared(sum(at(of, 0, i), minus(at(of, 1, i)))));
            }
            result[0] = root(greater(result[0], never));
            return result;
        case function::cross:
            return each([&](std::size_t i) {
                const std::size_t j = (i + 1) % 3;
                const std::size_t k = (i + 2) % 3;
                return sum(product(at(of, 0, j), at(of, 1, k)), minus(product(at(of, 0, k), at(of, 1, j))));
            });
        case function::normalize: { // of the zero vector none
            const bool has_length = root(dot_of(of, 0, 0)).low > 0;
            return each([&](std::size_t) { return has_length ? within(nearly_one) : anything; });
        }
        case function::reflect: {
            const bounds twice = product({2, 2}, dot_of(of, 1, 0));
            return each(
                [&](std::size_t i) { return sum(at(of, 0, i), minus(product(twice, at(of, 1, i)))); });
        }
        case function::faceforward:
            return each([&](std::size_t i) { return hull(at(of, 0, i), minus(at(of, 0, i))); });
        case function::atan:
            return each([&](std::size_t i) {
                return of.count == 1 && at(of, 0, i).finite() ? within(1.6) : anything;
            });
        default:
            return each([&](std::size_t i) {
                return of_components(of.called, at(of, 0, i), of.count > 1 ? at(of, 1, i) : anything,
                                     of.count > 2 ? at(of, 2, i) : anything);
            });
        }
    }

    component_bounds construct(const step& of) const {
        component_bounds result{};
        std::size_t filled = 0;
        for (std::size_t a = 0; a < of.count; ++a) {
            for (std::size_t i = 0; i < width_of(of, a) && filled < of.type.width; ++i) {
                result[filled++] = at(of, a, i);
            }
        }
        for (; filled < of.type.width; ++filled) {
            result[filled] = result[0];
        }
        return result;
    }

    [[nodiscard]] bounds chosen(const step& of, std::size_t i) const {
        const bounds condition = values_[of.from[0]][0];
        if (condition.low > 0) {
            return at(of, 1, i);
        }
        return condition.zero() ? at(of, 2, i) : hull(at(of, 1, i), at(of, 2, i));
    }

    // What each component gives.
    [[nodiscard]] bounds one(const step& of, std::size_t i) const {
        switch (of.kind) {
        case step_kind::swizzle:
            return values_[of.from[0]][of.components[i]];
        case step_kind::negate:
            return minus(at(of, 0, i));
        case step_kind::add:
            return sum(at(of, 0, i), at(of, 1, i));
        case step_kind::subtract:
            return sum(at(of, 0, i), minus(at(of, 1, i)));
        case step_kind::multiply:
            return same(of.from[0], of.from[1]) ? squared(at(of, 0, i)) : product(at(of, 0, i), at(of, 1, i));
        case step_kind::divide:
            return quotient(at(of, 0, i), at(of, 1, i));
        case step_kind::less:
            return is_less(at(of, 0, i), at(of, 1, i));
        case step_kind::less_or_equal:
            return is_less_or_equal(at(of, 0, i), at(of, 1, i));
        case step_kind::negation:
            return {1 - at(of, 0, i).high, 1 - at(of, 0, i).low};
        case step_kind::conjunction:
            return lesser(at(of, 0, i), at(of, 1, i));
        case step_kind::disjunction:
            return greater(at(of, 0, i), at(of, 1, i));
        case step_kind::choice:
            return chosen(of, i);
        case step_kind::equal:
            return truth;
        default:
            return anything;
        }
    }

    component_bounds value_of(const step& of) const {
        component_bounds result{};
        switch (of.kind) {
        case step_kind::constant:
            for (std::size_t i = 0; i < result.size(); ++i) {
                result[i] = exactly(of.numbers[i]);
            }
            return result;
        case step_kind::input:
            return inputs_[of.from[0]];
        case step_kind::construct:
            return construct(of);
        case step_kind::call:
            return call(of);
        default:
            for (std::size_t i = 0; i < of.type.width; ++i) {
                result[i] = one(of, i);
            }
            return result;
        }
    }

  public:
    estimator(const expression& formula, const std::vector<component_bounds>& inputs,
              const known_directions& directions)
        : formula_(formula), inputs_(inputs), directions_(directions) {
        values_.reserve(formula.steps.size());
    }
    component_bounds result() {
        for (const step& each : formula_.steps) {
            values_.push_back(value_of(each));
        }
        return values_.back();
    }
};

} // namespace

bounds exactly(double number) { // a float may be the next to it
    return static_cast<double>(static_cast<float>(number)) == number ? bounds{number, number}
                                                                     : rounded(number, number);
}

bool bounds::finite() const { return low >= -greatest_number && high <= greatest_number; }

component_bounds bounds_of(const expression& formula, const std::vector<component_bounds>& inputs,
                           const known_directions& directions) {
    return estimator(formula, inputs, directions).result();
}

} // namespace yurvo::inline v0_1::formulas
