// function_list: the functions that formulas may call, each one descriptor, in the order of the enum.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::formulas {

/// What formulas may call, in the order of function_list.
enum class function : std::uint8_t {
    radians,
    degrees,
    sin,
    cos,
    tan,
    asin,
    acos,
    atan,
    pow,
    exp,
    log,
    exp2,
    log2,
    sqrt,
    inversesqrt,
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
    length,
    distance,
    dot,
    cross,
    normalize,
    reflect,
    faceforward,
};

/// A function that expressions may call.
struct function_descriptor {
    function which{};      ///< which
    std::string_view name; ///< as it is written
    /// What it takes, a letter each: `g` a number or a vector, all of one width; `s` that, or one number
    /// where the others are vectors (all of them then); `3` a vec3.
    std::string_view takes;
    bool gives_number = false; ///< else the width of what it takes
    std::size_t fewest = 0;    ///< where it may be called with fewer than it takes; else 0
};

/// The functions, in the order of the enum.
inline constexpr std::array function_list{
    function_descriptor{function::radians, "radians", "g"},
    function_descriptor{function::degrees, "degrees", "g"},
    function_descriptor{function::sin, "sin", "g"},
    function_descriptor{function::cos, "cos", "g"},
    function_descriptor{function::tan, "tan", "g"},
    function_descriptor{function::asin, "asin", "g"},
    function_descriptor{function::acos, "acos", "g"},
    function_descriptor{function::atan, "atan", "gg", false, 1},
    function_descriptor{function::pow, "pow", "gg"},
    function_descriptor{function::exp, "exp", "g"},
    function_descriptor{function::log, "log", "g"},
    function_descriptor{function::exp2, "exp2", "g"},
    function_descriptor{function::log2, "log2", "g"},
    function_descriptor{function::sqrt, "sqrt", "g"},
    function_descriptor{function::inversesqrt, "inversesqrt", "g"},
    function_descriptor{function::abs, "abs", "g"},
    function_descriptor{function::sign, "sign", "g"},
    function_descriptor{function::floor, "floor", "g"},
    function_descriptor{function::ceil, "ceil", "g"},
    function_descriptor{function::fract, "fract", "g"},
    function_descriptor{function::mod, "mod", "gs"},
    function_descriptor{function::min, "min", "gs"},
    function_descriptor{function::max, "max", "gs"},
    function_descriptor{function::clamp, "clamp", "gss"},
    function_descriptor{function::mix, "mix", "ggs"},
    function_descriptor{function::step, "step", "sg"},
    function_descriptor{function::smoothstep, "smoothstep", "ssg"},
    function_descriptor{function::length, "length", "g", true},
    function_descriptor{function::distance, "distance", "gg", true},
    function_descriptor{function::dot, "dot", "gg", true},
    function_descriptor{function::cross, "cross", "33"},
    function_descriptor{function::normalize, "normalize", "g"},
    function_descriptor{function::reflect, "reflect", "gg"},
    function_descriptor{function::faceforward, "faceforward", "ggg"},
};

/// Of that function.
constexpr const function_descriptor& descriptor_of(function which) {
    return function_list[static_cast<std::size_t>(which)];
}

} // namespace yurvo::inline v0_1::formulas
#pragma GCC visibility pop
