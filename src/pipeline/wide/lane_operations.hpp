// lane_operations: each operation of a formula over the points of a block. For the one file that runs
// formulas, compiled once for each instruction set.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "pipeline/formula_program.hpp"
#include "pipeline/wide/lane_functions.hpp"
#include "yurvo/pipeline/shading_kernel.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

namespace {

using real = four<xsimd::batch<float, YURVO_BATCH>>;
using functions = lane_functions<real>;
inline constexpr std::size_t step_of = lanes_of<real>;

// Where one of an operation's numbers comes from: a lane, or one number for all points, of which there are as
// many copies as a batch holds.
class source {
    const float* from_;
    std::size_t step_;

  public:
    source(const float* from, bool uniform) : from_(from), step_(uniform ? 0 : 1) {}
    [[nodiscard]] real at(std::size_t i) const { return load_lanes<real>(from_ + i * step_); }
};

// One operation over its points.
class lane_loop {
    const lane_instruction& of_;
    float* const* lanes_;
    std::size_t count_;

    [[nodiscard]] source take(std::size_t i) const {
        return {lanes_[of_.from[i]], ((of_.uniforms >> i) & 1U) != 0};
    }
    [[nodiscard]] float* into(std::size_t i) const { return lanes_[of_.to[i]]; }

  public:
    lane_loop(const lane_instruction& of, float* const* lanes, std::size_t count)
        : of_(of), lanes_(lanes), count_(of.uniform ? 1 : count) {}

    template <class Function> YURVO_FLATTENED void one(Function&& function) const {
        const source a = take(0);
        float* const to = into(0);
        for (std::size_t i = 0; i < count_; i += step_of) {
            store_lanes(to + i, function(a.at(i)));
        }
    }
    template <class Function> YURVO_FLATTENED void two(Function&& function) const {
        const source a = take(0);
        const source b = take(1);
        float* const to = into(0);
        for (std::size_t i = 0; i < count_; i += step_of) {
            store_lanes(to + i, function(a.at(i), b.at(i)));
        }
    }
    template <class Function> YURVO_FLATTENED void three(Function&& function) const {
        const source a = take(0);
        const source b = take(1);
        const source c = take(2);
        float* const to = into(0);
        for (std::size_t i = 0; i < count_; i += step_of) {
            store_lanes(to + i, function(a.at(i), b.at(i), c.at(i)));
        }
    }
    template <class Function> YURVO_FLATTENED void vector(Function&& function) const {
        const source x = take(0);
        const source y = take(1);
        const source z = take(2);
        for (std::size_t i = 0; i < count_; i += step_of) {
            put(i, function(vec3<real>{x.at(i), y.at(i), z.at(i)}));
        }
    }
    template <class Function> YURVO_FLATTENED void two_vectors(Function&& function) const {
        const std::array<source, 6> s{take(0), take(1), take(2), take(3), take(4), take(5)};
        for (std::size_t i = 0; i < count_; i += step_of) {
            put(i, function(vec3<real>{s[0].at(i), s[1].at(i), s[2].at(i)},
                            vec3<real>{s[3].at(i), s[4].at(i), s[5].at(i)}));
        }
    }
    template <class Function> YURVO_FLATTENED void two_vectors_and_one(Function&& function) const {
        const std::array<source, 7> s{take(0), take(1), take(2), take(3), take(4), take(5), take(6)};
        for (std::size_t i = 0; i < count_; i += step_of) {
            put(i, function(vec3<real>{s[0].at(i), s[1].at(i), s[2].at(i)},
                            vec3<real>{s[3].at(i), s[4].at(i), s[5].at(i)}, s[6].at(i)));
        }
    }

  private:
    void put(std::size_t i, const real& value) const { store_lanes(into(0) + i, value); }
    void put(std::size_t i, const vec3<real>& value) const {
        store_lanes(into(0) + i, value.x);
        store_lanes(into(1) + i, value.y);
        store_lanes(into(2) + i, value.z);
    }
};

inline void run_arithmetic(lane_operation what, const lane_loop& loop) {
    const auto truth = [](const auto& mask) { return functions::truth(mask); };
    const auto is = [](const real& x) { return functions::is(x); };
    switch (what) {
    case lane_operation::negate:
        return loop.one([](const real& a) { return -a; });
    case lane_operation::add:
        return loop.two([](const real& a, const real& b) { return a + b; });
    case lane_operation::subtract:
        return loop.two([](const real& a, const real& b) { return a - b; });
    case lane_operation::multiply:
        return loop.two([](const real& a, const real& b) { return a * b; });
    case lane_operation::divide:
        return loop.two([](const real& a, const real& b) { return a / b; });
    case lane_operation::less:
        return loop.two([&](const real& a, const real& b) { return truth(a < b); });
    case lane_operation::less_or_equal:
        return loop.two([&](const real& a, const real& b) { return truth(a <= b); });
    case lane_operation::equal:
        return loop.two([&](const real& a, const real& b) { return truth(a == b); });
    case lane_operation::negation:
        return loop.one([&](const real& a) { return truth(a == real(0)); });
    case lane_operation::conjunction:
        return loop.two([&](const real& a, const real& b) { return truth(is(a) & is(b)); });
    case lane_operation::disjunction:
        return loop.two([&](const real& a, const real& b) { return truth(is(a) | is(b)); });
    default:
        return loop.three([&](const real& a, const real& b, const real& c) { return select(is(a), b, c); });
    }
}

inline void run_function(lane_operation what, const lane_loop& loop) {
    constexpr auto degree = static_cast<float>(pi / 180);
    constexpr auto radian = static_cast<float>(180 / pi);
    switch (what) {
    case lane_operation::radians:
        return loop.one([](const real& a) { return a * real(degree); });
    case lane_operation::degrees:
        return loop.one([](const real& a) { return a * real(radian); });
    case lane_operation::sin:
        return loop.one([](const real& a) { return sin(a); });
    case lane_operation::cos:
        return loop.one([](const real& a) { return cos(a); });
    case lane_operation::tan:
        return loop.one([](const real& a) { return tan(a); });
    case lane_operation::asin:
        return loop.one([](const real& a) { return functions::arc(a, asin(a)); });
    case lane_operation::acos:
        return loop.one([](const real& a) { return functions::arc(a, acos(a)); });
    case lane_operation::atan:
        return loop.one([](const real& a) { return atan(a); });
    case lane_operation::atan_of_two:
        return loop.two([](const real& a, const real& b) { return atan2(a, b); });
    case lane_operation::pow:
        return loop.two([](const real& a, const real& b) { return functions::power(a, b); });
    case lane_operation::exp:
        return loop.one([](const real& a) { return exp(a); });
    case lane_operation::log:
        return loop.one([](const real& a) { return functions::logarithm(a, log(a)); });
    case lane_operation::exp2:
        return loop.one([](const real& a) { return exp2(a); });
    case lane_operation::log2:
        return loop.one([](const real& a) { return functions::logarithm(a, log2(a)); });
    case lane_operation::sqrt:
        return loop.one([](const real& a) { return sqrt(a); });
    case lane_operation::inverse_sqrt:
        return loop.one([](const real& a) { return real(1) / sqrt(a); });
    case lane_operation::abs:
        return loop.one([](const real& a) { return abs(a); });
    case lane_operation::sign:
        return loop.one([](const real& a) { return functions::sign_of(a); });
    case lane_operation::floor:
        return loop.one([](const real& a) { return floor(a); });
    case lane_operation::ceil:
        return loop.one([](const real& a) { return ceil(a); });
    case lane_operation::fract:
        return loop.one([](const real& a) { return a - floor(a); });
    case lane_operation::mod:
        return loop.two([](const real& a, const real& b) { return a - b * floor(a / b); });
    case lane_operation::min:
        return loop.two([](const real& a, const real& b) { return functions::lesser(a, b); });
    case lane_operation::max:
        return loop.two([](const real& a, const real& b) { return functions::greater(a, b); });
    case lane_operation::clamp:
        return loop.three([](const real& a, const real& b, const real& c) {
            return functions::lesser(functions::greater(a, b), c);
        });
    case lane_operation::mix:
        return loop.three(
            [](const real& a, const real& b, const real& c) { return a * (real(1) - c) + b * c; });
    case lane_operation::step:
        return loop.two([](const real& a, const real& b) { return select(b < a, real(0), real(1)); });
    default:
        return loop.three(
            [](const real& a, const real& b, const real& c) { return functions::smooth(a, b, c); });
    }
}

inline void run_vectors(lane_operation what, const lane_loop& loop) {
    using vector = vec3<real>;
    switch (what) {
    case lane_operation::dot3:
        return loop.two_vectors([](const vector& a, const vector& b) { return dot(a, b); });
    case lane_operation::normalize3: // of the zero vector NaN
        return loop.vector([](const vector& a) { return a * (real(1) / sqrt(dot(a, a))); });
    case lane_operation::half_vector:
        return loop.two_vectors([](const vector& l, const vector& v) { return formula::half(l, v); });
    case lane_operation::mirrored:
        return loop.two_vectors([](const vector& n, const vector& l) { return formula::reflect(n, l); });
    default:
        return loop.two_vectors_and_one([](const vector& a, const vector& b, const real& exponent) {
            const real power = cosine_power(versine(a, b), exponent);
            return select(dot(a, a) * dot(b, b) > real(0), power, real(0));
        });
    }
}

inline void run(const std::vector<lane_instruction>& instructions, float* const* lanes, std::size_t count) {
    for (const lane_instruction& each : instructions) {
        const lane_loop loop(each, lanes, count);
        if (each.what <= lane_operation::choice) {
            run_arithmetic(each.what, loop);
        } else if (each.what < lane_operation::dot3) {
            run_function(each.what, loop);
        } else {
            run_vectors(each.what, loop);
        }
    }
}

} // namespace

} // namespace yurvo::inline v0_1::pipeline::wide
