#include "yurvo/formula/evaluate.hpp"

#include <cmath>
#include <limits>

#include "yurvo/numeric/functions.hpp"

namespace yurvo::inline v0_1::formulas {

namespace {

// As GLSL defines them, what is no number included.
double lesser(double x, double y) { return y < x ? y : x; }
double greater(double x, double y) { return x < y ? y : x; }

double power(double x, double y) {
    return x < 0 && y != 0 ? std::numeric_limits<double>::quiet_NaN() : std::pow(x, y);
}

double smooth_step(double low, double high, double x) {
    if (low == high) {
        return x < low ? 0 : 1;
    }
    const double t = lesser(greater((x - low) / (high - low), 0), 1);
    return t * t * (3 - 2 * t);
}

// Component by component.
double of_components(function which, double a, double b, double c, bool one) {
    switch (which) {
    case function::radians:
        return yurvo::radians(a);
    case function::degrees:
        return yurvo::degrees(a);
    case function::sin:
        return std::sin(a);
    case function::cos:
        return std::cos(a);
    case function::tan:
        return std::tan(a);
    case function::asin:
        return std::asin(a);
    case function::acos:
        return std::acos(a);
    case function::atan:
        return one ? std::atan(a) : std::atan2(a, b);
    case function::pow:
        return power(a, b);
    case function::exp:
        return std::exp(a);
    case function::log:
        return std::log(a);
    case function::exp2:
        return std::exp2(a);
    case function::log2:
        return std::log2(a);
    case function::sqrt:
        return std::sqrt(a);
    case function::inversesqrt:
        return 1 / std::sqrt(a);
    case function::abs:
        return std::abs(a);
    case function::sign:
        return a > 0 ? 1 : a < 0 ? -1 : 0;
    case function::floor:
        return std::floor(a);
    case function::ceil:
        return std::ceil(a);
    case function::fract:
        return a - std::floor(a);
    case function::mod:
        return a - b * std::floor(a / b);
    case function::min:
        return lesser(a, b);
    case function::max:
        return greater(a, b);
    case function::clamp:
        return lesser(greater(a, b), c);
    case function::mix:
        return a * (1 - c) + b * c;
    case function::step:
        return b < a ? 0 : 1;
    case function::smoothstep:
        return smooth_step(a, b, c);
    default:
        return 0;
    }
}

class evaluator {
    const expression& formula_;
    const std::vector<components>& inputs_;
    std::vector<components> values_;

    [[nodiscard]] std::uint8_t width_of(const step& of, std::size_t argument) const {
        return formula_.steps[of.from[argument]].type.width;
    }
    // A component of an argument; of one number the same for all.
    [[nodiscard]] double at(const step& of, std::size_t argument, std::size_t component) const {
        return values_[of.from[argument]][width_of(of, argument) == 1 ? 0 : component];
    }
    [[nodiscard]] double dot_of(const step& of, std::size_t a, std::size_t b) const {
        double sum = 0;
        for (std::size_t i = 0; i < width_of(of, a); ++i) {
            sum += at(of, a, i) * at(of, b, i);
        }
        return sum;
    }

    components call(const step& of) const {
        components result{};
        switch (of.called) {
        case function::dot:
            result[0] = dot_of(of, 0, 1);
            return result;
        case function::length:
            result[0] = std::sqrt(dot_of(of, 0, 0));
            return result;
        case function::distance: {
            double sum = 0;
            for (std::size_t i = 0; i < width_of(of, 0); ++i) {
                const double difference = at(of, 0, i) - at(of, 1, i);
                sum += difference * difference;
            }
            result[0] = std::sqrt(sum);
            return result;
        }
        case function::cross:
            for (std::size_t i = 0; i < 3; ++i) {
                const std::size_t j = (i + 1) % 3;
                const std::size_t k = (i + 2) % 3;
                result[i] = at(of, 0, j) * at(of, 1, k) - at(of, 0, k) * at(of, 1, j);
            }
            return result;
        case function::normalize: {
            const double length = std::sqrt(dot_of(of, 0, 0));
            for (std::size_t i = 0; i < of.type.width; ++i) {
                result[i] = at(of, 0, i) / length;
            }
            return result;
        }
        case function::reflect: {
            const double twice = 2 * dot_of(of, 1, 0);
            for (std::size_t i = 0; i < of.type.width; ++i) {
                result[i] = at(of, 0, i) - twice * at(of, 1, i);
            }
            return result;
        }
        case function::faceforward: {
            const bool kept = dot_of(of, 2, 1) < 0;
            for (std::size_t i = 0; i < of.type.width; ++i) {
                result[i] = kept ? at(of, 0, i) : -at(of, 0, i);
            }
            return result;
        }
        default:
            for (std::size_t i = 0; i < of.type.width; ++i) {
                result[i] = of_components(of.called, at(of, 0, i), of.count > 1 ? at(of, 1, i) : 0,
                                          of.count > 2 ? at(of, 2, i) : 0, of.count == 1);
            }
            return result;
        }
    }

    components construct(const step& of) const {
        components result{};
        std::size_t filled = 0;
        for (std::size_t a = 0; a < of.count; ++a) {
            for (std::size_t i = 0; i < width_of(of, a) && filled < of.type.width; ++i) {
                result[filled++] = at(of, a, i);
            }
        }
        while (filled < of.type.width) { // of one number, all alike
            result[filled++] = result[0];
        }
        return result;
    }

    // What each component gives.
    double one(const step& of, std::size_t i) const {
        switch (of.kind) {
        case step_kind::swizzle:
            return values_[of.from[0]][of.components[i]];
        case step_kind::negate:
            return -at(of, 0, i);
        case step_kind::add:
            return at(of, 0, i) + at(of, 1, i);
        case step_kind::subtract:
            return at(of, 0, i) - at(of, 1, i);
        case step_kind::multiply:
            return at(of, 0, i) * at(of, 1, i);
        case step_kind::divide:
            return at(of, 0, i) / at(of, 1, i);
        case step_kind::less:
            return at(of, 0, i) < at(of, 1, i) ? 1 : 0;
        case step_kind::less_or_equal:
            return at(of, 0, i) <= at(of, 1, i) ? 1 : 0;
        case step_kind::negation:
            return at(of, 0, i) == 0 ? 1 : 0;
        case step_kind::conjunction:
            return at(of, 0, i) != 0 && at(of, 1, i) != 0 ? 1 : 0;
        case step_kind::disjunction:
            return at(of, 0, i) != 0 || at(of, 1, i) != 0 ? 1 : 0;
        case step_kind::choice:
            return values_[of.from[0]][0] != 0 ? at(of, 1, i) : at(of, 2, i);
        default:
            return 0;
        }
    }

    components value_of(const step& of) const {
        if (of.kind == step_kind::constant) {
            return of.numbers;
        }
        if (of.kind == step_kind::input) {
            return inputs_[of.from[0]];
        }
        if (of.kind == step_kind::construct) {
            return construct(of);
        }
        if (of.kind == step_kind::call) {
            return call(of);
        }
        components result{};
        if (of.kind == step_kind::equal) { // all of them
            bool same = true;
            for (std::size_t i = 0; i < width_of(of, 0); ++i) {
                same = same && at(of, 0, i) == at(of, 1, i);
            }
            result[0] = same ? 1 : 0;
            return result;
        }
        for (std::size_t i = 0; i < of.type.width; ++i) {
            result[i] = one(of, i);
        }
        return result;
    }

  public:
    evaluator(const expression& formula, const std::vector<components>& inputs)
        : formula_(formula), inputs_(inputs) {
        values_.reserve(formula.steps.size());
    }
    components result() {
        for (const step& each : formula_.steps) {
            values_.push_back(value_of(each));
        }
        return values_.back();
    }
};

} // namespace

components evaluate(const expression& formula, const std::vector<components>& inputs) {
    return evaluator(formula, inputs).result();
}

} // namespace yurvo::inline v0_1::formulas
