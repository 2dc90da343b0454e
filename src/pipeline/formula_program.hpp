// formula_program: the formulas of a scene as a list of operations on lanes, one number for each point of a
// block: what is worked out once a block, once a light, after the light has arrived, and on the sum.
#pragma once

#include <array>
#include <cstdint>
#include <utility>
#include <vector>

#include "yurvo/formula/formula_set.hpp"
#include "yurvo/shading/choices.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

enum class lane_operation : std::uint8_t {
    negate,
    add,
    subtract,
    multiply,
    divide,
    less,
    less_or_equal,
    equal,
    negation,
    conjunction,
    disjunction,
    choice,
    radians,
    degrees,
    sin,
    cos,
    tan,
    asin,
    acos,
    atan,
    atan_of_two,
    pow,
    exp,
    log,
    exp2,
    log2,
    sqrt,
    inverse_sqrt,
    abs,
    sign,
    floor,
    ceil,
    fract,
    mod,
    min,
    max,
    clamp,
    mix,
    step,
    smoothstep,
    dot3,
    normalize3,  // three results
    half_vector, // of unit l and v; three results
    mirrored,    // r of n and l; three results
    highlight,   // max(a·b, 0)^e of unit vectors a and b
};

using lane_number = std::uint16_t;

struct lane_instruction {
    lane_operation what{};
    bool uniform = false;    // one number for all points
    std::uint8_t uniforms{}; // bit i: what it takes i-th is one number for all points
    std::array<lane_number, 3> to{};
    std::array<lane_number, 7> from{};
};

// One to three lanes that hold a result.
struct lane_result {
    bool present = false;
    std::uint8_t width = 1;
    std::array<lane_number, 3> lanes{};
    std::array<bool, 3> uniform{};

    // Of a component; one number serves for all three.
    [[nodiscard]] std::size_t at(std::size_t component) const { return width == 1 ? 0 : component; }
};

struct formula_program {
    static constexpr lane_number none = 0xFFFF;

    std::vector<lane_instruction> once, each_light, arrived, finishing;
    std::vector<std::pair<lane_number, float>> constants; // lanes of one number that never change
    lane_number lanes = 0;                                // how many there are
    // Where each component of an input is expected; `none` where no formula asks for it.
    std::array<std::array<lane_number, 3>, formulas::input_count> inputs{};
    std::array<lane_result, formulas::slot_count> results{};

    [[nodiscard]] const lane_result& operator[](formulas::slot which) const {
        return results[static_cast<std::size_t>(which)];
    }
    [[nodiscard]] bool asks_for(formulas::input which) const {
        return inputs[static_cast<std::size_t>(which)][0] != none;
    }
};

// Where the set has no formula for diffuse or specular, the model's own equations stand there.
formula_program make_program(const formulas::formula_set& set, model_kind model);

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
