// Random formulas of one's own: templates as people write them, with random numbers.
#pragma once

#include <random>
#include <string>
#include <vector>

#include "yurvo/scene/scene.hpp"

namespace yurvo::testing {

class random_formulas {
    std::mt19937_64 engine_;

    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(engine_);
    }
    bool chance(double probability) { return between(0, 1) < probability; }
    const char* one_of(const std::vector<const char*>& list) {
        return list[std::uniform_int_distribution<std::size_t>(0, list.size() - 1)(engine_)];
    }

  public:
    explicit random_formulas(std::uint64_t seed) : engine_(seed ^ 0xF0) {}

    /// Gives a scene some, with the numbers they ask for. `unlit` and `cel` become `phong`.
    void give(scene& to) {
        using formulas::slot;
        if (!descriptor_of(to.shading.model).sums_terms) {
            to.shading.model = model_kind::phong;
            to.shading.cel = {};
        }
        to.numbers = {{"tint", {between(0, 1), between(0, 1), between(0, 1)}},
                      {"wrap", {between(0.1, 0.9)}},
                      {"bow", {between(0, 0.5), between(0.5, 1.5), between(0, 0.3), 1}}};
        const auto maybe = [&](slot which, double probability, const std::vector<const char*>& list) {
            if (chance(probability)) {
                to.formulas[which] = one_of(list);
            }
        };
        maybe(slot::falloff, 0.6,
              {"1.0 / (1.0 + d * d)", "exp(-wrap * d)", "1.0 / (bow.x + bow.y * d + bow.z * d * d + 0.1)",
               "d < range ? 1.0 - d / range : 0.0", "1.0 / (1.0 + dot(coefficients, vec3(1.0, d, d * d)))",
               "smoothstep(range, 0.0, d)", "pow(clamp(1.0 - d / range, 0.0, 1.0), 2.0)",
               "inversesqrt(1.0 + d)"});
        maybe(slot::penumbra, 0.5,
              {"smoothstep(cos_outer, cos_inner, cos_theta)", "step(cos_outer, cos_theta)",
               "pow(max(cos_theta, 0.0), exponent)",
               "clamp((cos_theta - cos_outer) / max(cos_inner - cos_outer, 0.001), 0.0, 1.0)",
               "acos(clamp(cos_theta, -0.999, 0.999)) < outer ? 1.0 : wrap"});
        maybe(slot::diffuse, 0.6,
              {"max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)", "dot(n, l) * 0.5 + 0.5",
               "max(dot(n, l), 0.0) * tint", "pow(dot(n, l) * 0.5 + 0.5, 2.0)", "abs(dot(n, l))",
               "floor(max(dot(n, l), 0.0) * 4.0) / 4.0", "front ? max(dot(n, l), 0.0) : 0.2",
               "mix(tint, vec3(1.0), max(dot(n, l), 0.0))"});
        maybe(slot::specular, 0.6,
              {"pow(max(dot(n, h), 0.0), shininess)",
               "pow(max(dot(r, v), 0.0), shininess) * max(dot(n, l), 0.0)",
               "dot(n, l) > 0.0 ? pow(max(dot(n, h), 0.0), 4.0 * shininess) : 0.0",
               "(shininess + 2.0) / (2.0 * pi) * pow(max(dot(n, h), 0.0), shininess)",
               "tint * exp(-8.0 * (1.0 - dot(n, h)))", "pow(max(dot(n, normalize(l + v)), 0.0), shininess)"});
        maybe(slot::ambient, 0.4,
              {"mix(tint, vec3(1.0), 0.5 + 0.5 * n.y)", "0.5 + 0.5 * n.y", "vec3(wrap)", "base * 0.5 + 0.5",
               "1.0 - 0.5 * clamp(dot(n, v), 0.0, 1.0)"});
        maybe(slot::more, 0.4,
              {"tint * pow(1.0 - clamp(dot(n, v), 0.0, 1.0), 3.0)", "0.1 * base",
               "tint * fract(position.x * 0.7)", "vec3(0.02) * sin(3.0 * position)", "emission * wrap"});
        maybe(slot::color, 0.3,
              {"c / (c + 1.0)", "clamp(c, 0.0, 1.0)", "1.0 - exp(-c)", "sqrt(max(c, 0.0))", "min(c, tint)"});
        maybe(slot::l, 0.1, {"normalize(l + vec3(0.0, wrap, 0.0))"});
        maybe(slot::v, 0.15, {"axis", "normalize(eye - position)", "normalize(v + 0.2 * l)"});
        maybe(slot::h, 0.15, {"normalize(l + v)", "(l + v) * 0.5"});
        maybe(slot::r, 0.15, {"reflect(-l, n)", "2.0 * dot(n, l) * n - l"});
        if (to.formulas[slot::v].find("* l") != std::string::npos) { // then it is known for a light only
            for (const slot each : {slot::ambient, slot::more}) {
                if (to.formulas[each].find("n, v") != std::string::npos) {
                    to.formulas[each].clear();
                }
            }
        }
        if (to.formulas.has(slot::color) && to.shading.rate != rate::fragment) {
            for (named_material& each : to.materials) { // no texture before a curve
                each.image = nullptr;
                each.texture_file.clear();
            }
        }
    }
};

} // namespace yurvo::testing
