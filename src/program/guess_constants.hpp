// guess_constants: numbers that a shader's text gives names to, and what they are likely to be.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// A number, three, or a list of threes, as the source writes them: `const vec3 MOON = normalize(vec3(0.3,
// 0.8, 0.4));`.
struct written_constant {
    std::string name;
    std::vector<double> numbers; // 1, or 3 for each element
    bool list = false;
};
std::vector<written_constant> constants_in(const std::string& text);

// What has been found in the text already: a light's ambient part, a specular factor, an exponent.
struct found_before {
    bool ambient_part = false, specular_factor = false, exponent = false;
};
// Takes named numbers for constants of the claim, where nothing that is bound brings them. `any_means` says
// whether a uniform means what holds such a text.
void take_constants(shader_program& of, const std::string& text,
                    const std::function<bool(const char*)>& any_means, const found_before& before);

} // namespace yurvo::inline v0_1::program
