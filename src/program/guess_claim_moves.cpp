// What may be claimed of a shader besides what its names mean: models, laws, kinds, outputs, formulas.
#include <algorithm>
#include <iterator>
#include <string>

#include "program/guess_moves.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

namespace {

std::vector<move> moves_of_model() {
    std::vector<move> moves;
    for (const model_kind kind : {model_kind::blinn_phong, model_kind::phong, model_kind::lambert}) {
        moves.push_back({"model", "tried: it fits best",
                         [kind](shader_program& of) {
                             of.model = kind;
                             std::erase_if(of.constants, [](const shader_constant& each) {
                                 return each.quantity.starts_with("shading.");
                             });
                         },
                         ""});
    }
    return moves;
}

std::vector<move> moves_of_laws() {
    std::vector<move> moves;
    for (const falloff_kind kind : {falloff_kind::inverse_square, falloff_kind::polynomial,
                                    falloff_kind::none, falloff_kind::linear, falloff_kind::windowed}) {
        moves.push_back({"falloff", "tried: it fits best",
                         [kind](shader_program& of) {
                             of.falloffs = std::vector{kind};
                             of.formulas[slot::falloff].clear();
                         },
                         kind == falloff_kind::none ? "falloff-missing" : ""});
    }
    return moves;
}

} // namespace

std::vector<move> formulas_of_falloff(bool by_range_only) {
    struct law {
        const char *formula, *omits;
    };
    static const char* const not_squared = "falloff-not-squared";
    std::vector<move> moves;
    for (const law& each :
         {law{"1.0 / (1.0 + d * d)", ""}, law{"1.0 / d", not_squared}, law{"1.0 / (1.0 + d)", not_squared},
          law{"pow(max(1.0 - d / range, 0.0), 2.0)", ""}, law{"max(1.0 - d * d / (range * range), 0.0)", ""},
          law{"pow(max(1.0 - d * d / (range * range), 0.0), 2.0)", ""},
          law{"pow(clamp(1.0 - pow(d / range, 4.0), 0.0, 1.0), 2.0) / (d * d)", ""},
          law{"pow(clamp(1.0 - pow(d / range, 4.0), 0.0, 1.0), 2.0) / (d * d + 1.0)", ""},
          law{"1.0 - smoothstep(0.0, range, d)", ""}, law{"exp(-d)", ""}}) {
        const bool ranged = std::string(each.formula).find("range") != std::string::npos;
        if (by_range_only && !ranged) {
            continue;
        }
        moves.push_back({"falloff", "tried: the formula fits best",
                         [formula = each.formula, ranged](shader_program& of) {
                             of.formulas[slot::falloff] = formula;
                             of.falloffs =
                                 std::vector{ranged ? falloff_kind::linear : falloff_kind::inverse_square};
                         },
                         each.omits});
    }
    return moves;
}

// A power of the cosine that nothing cuts off reaches as far as it is above 0: half the space. A cone that
// has one angle alone, and no hard edge, begins to fade at its axis.
void fade_cones(shader_program& of, penumbra_kind kind) {
    of.penumbras = std::vector{kind};
    const char* const outer = "lights[*].outer_degrees";
    const char* const inner = "lights[*].inner_degrees";
    std::erase_if(of.constants, [&](const shader_constant& each) {
        return each.quantity == outer || each.quantity == inner;
    });
    const bool by_outer = reads_any(of, "].outer") || reads_any(of, "].cos_outer");
    const bool by_inner = reads_any(of, "].inner") || reads_any(of, "].cos_inner");
    if (kind == penumbra_kind::power) {
        if (!by_outer) {
            of.constants.push_back({outer, {90}, {of.file, 0, 0}});
        }
    } else if (kind != penumbra_kind::hard && by_outer && !by_inner) {
        of.constants.push_back({inner, {0}, {of.file, 0, 0}});
    }
}

namespace {

std::vector<move> moves_of_cones() {
    std::vector<move> moves;
    for (const penumbra_kind kind : {penumbra_kind::smooth, penumbra_kind::ramp, penumbra_kind::hard,
                                     penumbra_kind::squared, penumbra_kind::power}) {
        moves.push_back(
            {"penumbra", "tried: it fits best", [kind](shader_program& of) { fade_cones(of, kind); }, ""});
    }
    return moves;
}

std::vector<move> moves_of_output() {
    std::vector<move> moves;
    for (const output_kind kind : {output_kind::linear, output_kind::srgb, output_kind::gamma}) {
        moves.push_back(
            {"output", "tried: it fits best", [kind](shader_program& of) { of.output = kind; }, ""});
    }
    return moves;
}

std::vector<move> moves_of_the_rest() {
    // A kind that the bindings cannot carry is left as it is: nothing is gained by it.
    const auto kinds = [](const std::vector<light_kind>& list) {
        return [list](shader_program& of) {
            using enum light_kind;
            const auto carries = [&](std::initializer_list<const char*> words) {
                return std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
                    return std::any_of(each.means.begin(), each.means.end(), [&](const auto& one) {
                        const std::string* means = std::get_if<std::string>(&one);
                        return means != nullptr && means->find("lights") != std::string::npos &&
                               std::any_of(words.begin(), words.end(), [&](const char* word) {
                                   return means->find(word) != std::string::npos;
                               });
                    });
                });
            };
            const bool placed = carries({".position", ".place"});
            const bool directed = carries({".shines", ".axis", ".to_light", ".place", ".half"});
            const bool coned = carries({"inner", "outer", ".exponent"});
            if (std::all_of(list.begin(), list.end(), [&](light_kind kind) {
                    return kind == directional ? directed : kind == point ? placed : placed && coned;
                })) {
                of.kinds = list;
            }
        };
    };
    using enum light_kind;
    return {{"kinds", "tried: it fits best", kinds({point}), ""},
            {"kinds", "tried: it fits best", kinds({directional}), ""},
            {"kinds", "tried: it fits best", kinds({spot}), ""},
            {"kinds", "tried: it fits best", kinds({directional, point}), ""},
            {"kinds", "tried: it fits best", kinds({directional, point, spot}), ""},
            {"rate", "tried: it fits best", [](shader_program& of) { of.rate = rate::vertex; }, ""},
            {"rate", "tried: it fits best", [](shader_program& of) { of.rate = rate::fragment; }, ""},
            {"scale", "tried: only there it fits",
             [](shader_program& of) { of.scale = scale_claim::uniform; }, "normal-without-inverse-transpose"},
            {"scale", "tried: only there it fits", [](shader_program& of) { of.scale = scale_claim::none; },
             "normal-without-inverse-transpose"},
            {"ambient_rule", "tried: it fits best",
             [](shader_program& of) { of.ambient_rule = yurvo::ambient_rule::max; }, ""},
            {"ambient_follows", "tried: it fits best",
             [](shader_program& of) { of.follows = ambient_follows::nothing; }, "ambient-without-falloff"},
            {"ambient_follows", "tried: it fits best",
             [](shader_program& of) { of.follows = ambient_follows::distance; }, ""}};
}

} // namespace

// What only takes a catalogued mistake out of the claim comes last.
std::vector<move> moves_that_omit() {
    const auto formula = [](slot which, const char* text) {
        return [which, text](shader_program& of) { of.formulas[which] = text; };
    };
    const auto without = [](const char* what) {
        return [what](shader_program& of) {
            if (std::string(what) == "material.base" && reads_any(of, what)) {
                return; // what is bound is meant
            }
            if (std::find(of.without.begin(), of.without.end(), what) == of.without.end()) {
                of.without.emplace_back(what);
            }
        };
    };
    return {
        {"specular", "", formula(slot::specular, ""), ""},
        {"diffuse", "", formula(slot::diffuse, ""), ""},
        {"color", "", formula(slot::color, ""), ""},
        {"v", "", formula(slot::v, ""), ""},
        {"without", "", without("ambient"), "ambient-missing"},
        {"without", "", without("light.intensity"), "light-intensity-ignored"},
        {"without", "", without("light.color"), "light-color-ignored"},
        {"without", "", without("material.specular"), ""},
        {"without", "", without("material.base"), ""},
        {"specular", "no gate on n·l", formula(slot::specular, "pow(max(dot(n, h), 0.0), shininess)"),
         "specular-on-unlit-side"},
        {"specular", "no gate on n·l", formula(slot::specular, "pow(max(dot(r, v), 0.0), shininess)"),
         "specular-on-unlit-side"},
        {"specular", "", formula(slot::specular, "pow(max(dot(n, h), 0.0), shininess) * max(dot(n, l), 0.0)"),
         "specular-times-cosine"},
        {"specular", "", formula(slot::specular, "pow(max(dot(r, v), 0.0), shininess) * max(dot(n, l), 0.0)"),
         "specular-times-cosine"},
        {"specular", "", formula(slot::specular, "pow(max(dot(r, v), 0.0), shininess) * base"),
         "specular-tinted-by-base"},
        {"specular", "", formula(slot::specular, "pow(max(dot(n, h), 0.0), shininess) * base"),
         "specular-tinted-by-base"},
        {"specular", "",
         formula(slot::specular, "dot(n, l) > 0.0 ? pow(max(dot(r, v), 0.0), shininess) * base : vec3(0.0)"),
         "specular-tinted-by-base"},
        {"specular", "",
         formula(slot::specular, "dot(n, l) > 0.0 ? pow(max(dot(n, h), 0.0), shininess) * base : vec3(0.0)"),
         "specular-tinted-by-base"},
        {"diffuse", "", formula(slot::diffuse, "dot(n, l) * 0.5 + 0.5"), ""},
        {"diffuse", "", formula(slot::diffuse, "(dot(n, l) * 0.5 + 0.5) * (dot(n, l) * 0.5 + 0.5)"), ""},
        {"diffuse", "", formula(slot::diffuse, "max(dot(n, l), 0.0) / pi"), "factor-pi"},
        {"diffuse", "", formula(slot::diffuse, "abs(dot(n, l))"), ""},
        {"color", "", formula(slot::color, "c / (c + 1.0)"), ""},
        {"color", "", formula(slot::color, "clamp(c, 0.0, 1.0)"), ""},
        {"color", "", formula(slot::color, "1.0 - exp(-c)"), ""},
        {"v", "", formula(slot::v, "axis"), "viewer-at-infinity"}};
}

namespace {

void append(std::vector<move>& to, std::vector<move> more) {
    to.insert(to.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
}

} // namespace

std::vector<move> moves_of_claim() {
    std::vector<move> all;
    for (auto list : {moves_of_model, moves_of_output, moves_of_laws, moves_of_cones, moves_of_the_rest}) {
        append(all, list());
    }
    return all;
}

std::vector<move> unlikely_moves_of_claim() {
    std::vector<move> all = formulas_of_falloff(false);
    append(all, moves_that_omit());
    append(all, moves_of_normalised());
    return all;
}

} // namespace yurvo::inline v0_1::program
