// Whole readings to begin from, where one move alone finds nothing: two things are wrong at once.
#include <algorithm>
#include <iterator>
#include <string>
#include <string_view>
#include <vector>

#include "program/guess_moves.hpp"
#include "program/guess_words.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// All lights and normals in one space, but what is called after the world.
void to_space(shader_program& of, const std::string& space) {
    for (shader_binding& each : of.uniforms) {
        const std::string name = lowered(last_name(each.name));
        if (name.find("world") != std::string::npos && name.find("view") == std::string::npos) {
            continue;
        }
        for (auto& one : each.means) {
            std::string* means = std::get_if<std::string>(&one);
            if (means == nullptr || means->starts_with('=')) {
                continue;
            }
            const bool eye = *means == "view.eye" || *means == "object.eye";
            *means = !eye ? in_space(*means, space) : space == "_object" ? "object.eye" : "view.eye";
        }
    }
}

} // namespace

std::vector<move> moves_of_space() {
    std::vector<move> moves;
    for (const char* space : {"", "_view", "_object"}) {
        moves.push_back({"space", "", [space](shader_program& of) { to_space(of, space); }, ""});
    }
    return moves;
}

namespace {

// Every light's direction by one name.
void direct(shader_program& of, const std::string& property) {
    for (shader_binding& each : of.uniforms) {
        for (auto& one : each.means) {
            std::string* means = std::get_if<std::string>(&one);
            if (means == nullptr || !means->starts_with("lights")) {
                continue;
            }
            const std::size_t dot = means->find_last_of('.');
            const std::string now = means->substr(dot + 1);
            for (const char* other : {"shines", "to_light", "axis"}) {
                if (now == other || now == std::string(other) + "_view") {
                    // The direction to a spot light differs from place to place: its axis turned round is
                    // meant.
                    const bool turned = property == "to_light" && means->starts_with("lights.spot[");
                    *means = (turned ? "= -" : "") + means->substr(0, dot + 1) +
                             (turned ? "axis" : property) + (now.ends_with("_view") ? "_view" : "");
                    break;
                }
            }
        }
    }
}

// Whole readings to begin from: one move finds none of them where two things are wrong at once.
std::vector<move> starts_by_space(const guessed_bindings& guessed) {
    const bool spots =
        std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [](const guessed_name& each) {
            return each.means.starts_with("lights.spot[") && each.means.ends_with("shines");
        });
    std::vector<move> moves;
    for (const move& space : moves_of_space()) {
        for (const char* property : {"", "to_light", "shines", "axis"}) {
            const std::string chosen = property;
            moves.push_back({"space", "",
                             [space, chosen](shader_program& of) {
                                 space.make(of);
                                 if (!chosen.empty()) {
                                     direct(of, chosen);
                                 }
                             },
                             chosen == "axis"                ? taken_out_by("shines", chosen)
                             : chosen == "to_light" && spots ? "cone-axis-flipped"
                                                             : ""});
        }
    }
    return moves;
}

// Whether some name is the strength of a light's diffuse light.
bool holds_strengths_of_parts(const guessed_bindings& guessed) {
    return std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [](const guessed_name& each) {
        const std::string member = last_name(each.name);
        return each.means.ends_with("].intensity") &&
               (member.find("dif") != std::string::npos || member.find("Dif") != std::string::npos);
    });
}

// It is of that part alone, and so is that of ambient light; the colour is all of the light.
void make_strengths_of_parts(shader_program& of) {
    const auto instead = [](std::string& means, std::string_view end, const char* other) {
        if (means.starts_with("lights") && means.ends_with(end)) {
            means.replace(means.size() - end.size(), end.size(), other);
        }
    };
    for (shader_binding& each : of.uniforms) {
        for (auto& one : each.means) {
            std::string* means = std::get_if<std::string>(&one);
            if (means == nullptr) {
                continue;
            }
            const std::size_t times = means->find(".intensity * ");
            if (means->starts_with("= lights") && times != std::string::npos &&
                means->ends_with(".ambient.x")) {
                *means = means->substr(2, times - 2) + ".ambient[0]";
            }
            instead(*means, "].intensity", "].diffuse[0]");
            instead(*means, "].color", "].light");
        }
    }
}

std::vector<move> with_strengths_of_parts(std::vector<move> starts) {
    for (move& each : starts) {
        each.make = [usual = each.make](shader_program& of) {
            usual(of);
            make_strengths_of_parts(of);
        };
    }
    return starts;
}

// Of those the likely ones: in the world or the view, by the direction that a name says or the one against
// it.
std::vector<move> likely_spaces_and_directions() {
    std::vector<move> moves;
    for (const char* const space : {"", "_view"}) {
        for (const bool turned : {false, true}) {
            moves.push_back({"space", "",
                             [space, turned](shader_program& of) {
                                 to_space(of, space);
                                 if (turned) {
                                     direct(of, "to_light");
                                 }
                             },
                             ""});
        }
    }
    return moves;
}

// What the text gives a number is not left out.
void leave_out(shader_program& of, const std::vector<std::string>& without) {
    for (const std::string& each : without) {
        const bool written =
            std::any_of(of.constants.begin(), of.constants.end(),
                        [&](const shader_constant& constant) { return constant.quantity.starts_with(each); });
        if (!written && std::find(of.without.begin(), of.without.end(), each) == of.without.end()) {
            of.without.push_back(each);
        }
    }
}

// Lights that are as bright as they are, a highlight that is as strong, and no ambient light: what no name
// speaks of. Where several of those are wanting, none alone comes nearer.
void append_bare_ones(std::vector<move>& all, const guessed_bindings& guessed) {
    const auto speaks_of = [&](std::initializer_list<const char*> parts) {
        return std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [&](const guessed_name& each) {
            return std::any_of(parts.begin(), parts.end(),
                               [&](const char* part) { return each.means.find(part) != std::string::npos; });
        });
    };
    if (!speaks_of({"lights"}) ||
        speaks_of({"].color", "].intensity", "].light", "].ambient", "].diffuse", "].specular"})) {
        return;
    }
    std::vector<std::string> bare{"light.color", "light.intensity"};
    if (!speaks_of({"material.specular"})) {
        bare.emplace_back("material.specular");
    }
    const bool far_away = !speaks_of({"].position", "].place"});
    const auto append = [&](const std::vector<std::string>& without) {
        for (const move& each : likely_spaces_and_directions()) {
            for (const bool falls_off : {true, false}) {
                if (!falls_off && (far_away || speaks_of({"range", "coefficients"}))) {
                    continue;
                }
                all.push_back({"without", "",
                               [usual = each.make, without, falls_off](shader_program& of) {
                                   usual(of);
                                   leave_out(of, without);
                                   if (!falls_off) {
                                       of.falloffs = std::vector{falloff_kind::none};
                                   }
                               },
                               "light-color-ignored"});
            }
        }
    };
    append(bare);
    if (!speaks_of({"ambient"})) {
        bare.emplace_back("ambient");
        append(bare);
    }
}

// A place that tells lamps from directional lights, beside a cone, and nothing that tells spots from other
// lamps: the shader takes all for spots, whatever else it could be given.
void append_spots_alone(std::vector<move>& all, const guessed_bindings& guessed) {
    const auto speaks_of = [&](const char* property) {
        return std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [&](const guessed_name& each) {
            return each.means.find(property) != std::string::npos;
        });
    };
    if (!speaks_of("].place") || !speaks_of("outer") || speaks_of("].kind")) {
        return;
    }
    const auto for_spots = [](shader_program& of) {
        for (shader_binding& each : of.uniforms) {
            for (auto& one : each.means) {
                std::string* means = std::get_if<std::string>(&one);
                const std::size_t at = means == nullptr ? std::string::npos : means->find("].place");
                if (at != std::string::npos) {
                    means->replace(at, std::string_view("].place").size(), "].position");
                }
            }
        }
    };
    std::vector<move> of_spots = all;
    for (move& each : of_spots) {
        each.make = [usual = each.make, for_spots](shader_program& of) {
            usual(of);
            for_spots(of);
        };
    }
    all.insert(all.end(), of_spots.begin(), of_spots.end());
}

// Matrices whose names say nothing: every order of the few sets that a vertex stage has.
std::vector<move> moves_of_open_matrices(const guessed_bindings& guessed) {
    std::vector<std::string> open;
    for (const guessed_name& each : guessed.uniforms) {
        if (each.type == "mat4" && each.means.empty()) {
            open.push_back(each.name);
        }
    }
    static const std::vector<std::vector<std::string>> sets{
        {"object.to_clip"},
        {"object.to_world", "view.world_to_clip"},
        {"object.to_view", "view.view_to_clip"},
        {"object.to_clip", "object.to_world"},
        {"object.to_clip", "object.to_view"},
        {"object.to_world", "view.world_to_view", "view.view_to_clip"}};
    std::vector<move> moves;
    for (std::vector<std::string> set : sets) {
        if (set.size() != open.size()) {
            continue;
        }
        std::sort(set.begin(), set.end());
        do {
            for (const move& space : moves_of_space()) {
                moves.push_back({"space", "",
                                 [open, set, space](shader_program& of) {
                                     for (std::size_t i = 0; i < open.size(); ++i) {
                                         take_as(of.uniforms, open[i], set[i]);
                                     }
                                     space.make(of);
                                 },
                                 ""});
            }
        } while (std::next_permutation(set.begin(), set.end()));
    }
    return moves;
}

} // namespace

std::vector<move> starting_points(const guessed_bindings& guessed) {
    std::vector<move> all = starts_by_space(guessed);
    append_bare_ones(all, guessed);
    append_spots_alone(all, guessed);
    if (holds_strengths_of_parts(guessed)) {
        std::vector<move> of_parts = with_strengths_of_parts(all);
        std::move(of_parts.begin(), of_parts.end(), std::back_inserter(all));
    }
    std::vector<move> matrices = moves_of_open_matrices(guessed);
    std::move(matrices.begin(), matrices.end(), std::back_inserter(all));
    return all;
}

} // namespace yurvo::inline v0_1::program
