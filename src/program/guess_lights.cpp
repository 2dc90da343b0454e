// What only all names together say: lights of several kinds, numbered ones, parts beside colours.
#include <algorithm>
#include <cctype>
#include <iterator>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/guess_words.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// Beside a colour of their own, a light's ambient, diffuse and specular are parts of it.
void tell_parts_from_colors(std::vector<guessed_name>& all) {
    const bool colored = std::any_of(all.begin(), all.end(), [](const guessed_name& each) {
        return each.means.starts_with("lights") && each.means.ends_with(".color");
    });
    for (guessed_name& each : all) {
        for (const char* const part : {".ambient_light", ".diffuse_light", ".specular_light"}) {
            if (colored && each.means.starts_with("lights") && each.means.ends_with(part)) {
                each.means.resize(each.means.size() - std::string_view("_light").size());
            }
        }
    }
}

// The kind that a word says: `pointLights`, `sunColor`.
std::string kind_in(const std::string& word) {
    if (word.starts_with("dir")) {
        return "directional";
    }
    return first_of({{{"point", "pts", "bulb", "lantern"}, "point"},
                     {{"spot", "beam", "torch", "search", "sps"}, "spot"},
                     {{"directional", "sun", "moon"}, "directional"}},
                    word);
}

// The kind that a light's structure says, or else its name.
std::string kind_in(const guessed_name& of) {
    std::string by_structure = kind_in(lowered(of.structure));
    if (!by_structure.empty()) {
        return by_structure;
    }
    const std::size_t dot = of.name.find_last_of('.');
    std::string before = kind_in(lowered(dot == std::string::npos ? of.name : of.name.substr(0, dot)));
    if (!before.empty() || dot == std::string::npos) {
        return before;
    }
    // `Lights.sunColor`, in a block of lights of all kinds; a direction says nothing there.
    return first_of({{{"sun", "moon"}, "directional"}}, lowered(of.name.substr(dot + 1)));
}

// Where names say lights of two kinds or more, each is numbered among its own.
void tell_kinds_apart(std::vector<guessed_name>& all) {
    std::set<std::string> kinds;
    std::set<std::string> placed; // those that have a place; empty: lights whose kind no name says
    const auto of_light = [](const guessed_name& each) {
        return each.means.find("lights[") != std::string::npos;
    };
    if (std::any_of(all.begin(), all.end(), [](const guessed_name& each) {
            return each.means.find("].kind") != std::string::npos;
        })) {
        return; // a number says each one's kind, whatever its directions are called
    }
    for (const guessed_name& each : all) {
        if (of_light(each)) {
            const std::string kind = kind_in(each);
            kinds.insert(kind);
            if (each.means.find(".position") != std::string::npos) {
                placed.insert(kind);
            }
        }
    }
    std::string unnamed;
    if (placed.contains("") && kinds.size() > 1) {
        // A cone that nothing else gives a place is that light's: `lightPos`, `spotCutoff`. Beside lights of
        // other kinds it is a point light.
        unnamed = kinds.contains("spot") && !placed.contains("spot") ? "spot"
                  : kinds.contains("point")                          ? ""
                                                                     : "point";
    }
    if (!unnamed.empty()) {
        kinds.erase("");
        kinds.insert(unnamed);
    }
    const auto kind_of = [&](const guessed_name& each) {
        const std::string kind = kind_in(each);
        return kind.empty() ? unnamed : kind;
    };
    if (kinds.size() < 2 || kinds.contains("")) {
        return;
    }
    for (guessed_name& each : all) {
        if (of_light(each)) {
            const std::string kind = "." + kind_of(each);
            for (std::size_t at = each.means.find("lights["); at != std::string::npos;
                 at = each.means.find("lights[", at + 1)) {
                each.means.insert(at + std::string_view("lights").size(), kind);
            }
            const std::size_t place = each.means.find("].position");
            if (kind == ".directional" && place != std::string::npos) { // its name alone: `moon`
                each.means.replace(place, std::string_view("].position").size(), "].to_light");
            }
        } else if (each.means.empty() && each.name.find("[*]") != std::string::npos) {
            each.kind = kind_of(each);
        } else if (each.means == "lights.count") {
            const std::string word = lowered(last_name(each.name)); // `numDirLights`
            std::string kind = kind_in(each);
            kind = kind.empty() ? kind_in(word) : kind;
            kind = kind.empty() && word.find("dir") != std::string::npos ? "directional" : kind;
            each.means = kind.empty() ? each.means : "lights." + kind + ".count";
        }
    }
}

// A block that holds an array of lights is none itself: what stands beside the array is the scene's.
void tell_blocks_from_lights(std::vector<guessed_name>& all) {
    std::set<std::string> blocks;
    for (const guessed_name& each : all) {
        const std::size_t dot = each.name.find('.');
        const std::size_t array = each.name.find("[*]");
        if (dot != std::string::npos && array != std::string::npos && dot < array) {
            blocks.insert(each.name.substr(0, dot));
        }
    }
    for (guessed_name& each : all) {
        const std::size_t dot = each.name.find('.');
        if (dot == std::string::npos || each.name.find("[*]") != std::string::npos ||
            !each.means.starts_with("lights[0].") || !blocks.contains(each.name.substr(0, dot)) ||
            each.name.find('.', dot + 1) != std::string::npos) {
            continue;
        }
        type_shape shape;
        shape.name = each.type;
        shape.components = each.type == "float" ? 1 : each.type == "vec2" ? 2 : each.type == "vec3" ? 3 : 4;
        each.means = likely_uniform(each.name.substr(dot + 1), shape);
    }
}

// What two names cannot both mean: the factor of a term beside what it is a factor of, a cone's inner angle
// beside its outer one.
void tell_twins_apart(std::vector<guessed_name>& all) {
    const auto any = [&](const guessed_name& but, const auto& says) {
        return std::any_of(all.begin(), all.end(),
                           [&](const guessed_name& each) { return each.name != but.name && says(each); });
    };
    for (guessed_name& each : all) {
        const std::size_t dot = each.name.find_last_of('.');
        const std::string member = lowered(dot == std::string::npos ? each.name : each.name.substr(dot + 1));
        const bool ambient_elsewhere = any(each, [](const guessed_name& other) {
            return other.means.ends_with(".ambient_light") || other.means.starts_with("ambient.");
        });
        if (each.means == "ambient.light" && member.ends_with("ka") && ambient_elsewhere) {
            each.means = "material.ambient";
        }
        // A surface's ambient colour is the scene's, where nothing else brings that.
        if (each.means == "material.ambient" && !any(each, [](const guessed_name& other) {
                return other.means.find("ambient") != std::string::npos;
            })) {
            each.means = "ambient.light";
        }
        // A lamp's ambient colour beside the scene's is its own.
        if (each.means == "ambient.light" && names_a_light(member) &&
            any(each, [](const guessed_name& other) {
                return other.means == "ambient.light" && !names_a_light(lowered(other.name));
            })) {
            each.means = "lights[0].ambient_light";
        }
        if (each.means == "material.base" && member.ends_with("kd") &&
            any(each, [](const guessed_name& other) { return other.means.starts_with("material.base"); })) {
            each.means = "material.diffuse";
        }
        if (each.means == "ambient.light" &&
            any(each, [](const guessed_name& other) { return other.means == "ambient.strength"; })) {
            each.means = "ambient.color";
        }
        // `exp` beside a constant and a linear factor is the third of them, where no name is.
        const std::string exponent = ".exponent";
        if (each.means.ends_with(exponent)) {
            const std::string of =
                each.means.substr(0, each.means.size() - exponent.size()) + ".coefficients";
            const auto beside = [&](const char* which) {
                return any(each, [&](const guessed_name& other) {
                    return other.means == of + which &&
                           other.name.substr(0, other.name.find_last_of('.')) == each.name.substr(0, dot);
                });
            };
            if (dot != std::string::npos && beside("[0]") && beside("[1]") && !beside("[2]")) {
                each.means = of + "[2]";
            }
        }
        const std::string outer = "cos_outer";
        if (each.means.ends_with("." + outer) && member.find("out") == std::string::npos &&
            any(each, [&](const guessed_name& other) {
                return other.means == each.means && lowered(other.name).find("out") != std::string::npos;
            })) {
            each.means.replace(each.means.size() - outer.size(), outer.size(), "cos_inner");
        }
    }
}

// The number in a name: `lamp2Color`, or the letter that stands for one at its light's end: `lampB.color`;
// nothing where there is none.
std::optional<int> number_in(const std::string& name) {
    const std::size_t at = name.find_first_of("0123456789");
    if (at != std::string::npos) {
        return name[at] - '0';
    }
    const std::size_t end = name.find('.');
    const char last = end == std::string::npos || end == 0 ? ' ' : name[end - 1];
    return last >= 'A' && last <= 'H' ? std::optional<int>(last - 'A') : std::nullopt;
}

// Lights that are numbered by their names are the first, the second, ...
void tell_numbered_apart(std::vector<guessed_name>& all) {
    std::set<int> numbers;
    for (const guessed_name& each : all) {
        if (const std::optional<int> number = number_in(each.name);
            number && each.means.find("lights[0]") != std::string::npos) {
            numbers.insert(*number);
        }
    }
    if (numbers.size() < 2) {
        return;
    }
    for (guessed_name& each : all) {
        const std::optional<int> number = number_in(each.name);
        if (!number || !numbers.contains(*number)) {
            continue;
        }
        const auto index = std::distance(numbers.begin(), numbers.find(*number));
        for (std::size_t at = each.means.find("lights[0]"); at != std::string::npos;
             at = each.means.find("lights[0]", at + 1)) {
            each.means.replace(at, std::string_view("lights[0]").size(),
                               "lights[" + std::to_string(index) + "]");
        }
    }
}

// Whose a light's property is, as names say: `keyLight` of `keyLightColor`, `left` of `left.color`.
std::string owner_in(const guessed_name& of) {
    if (!of.instance.empty()) {
        return of.instance;
    }
    if (of.name.find('.') != std::string::npos) {
        return of.name.substr(0, of.name.find_last_of('.'));
    }
    std::string word = of.name;
    std::transform(word.begin(), word.end(), word.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    std::size_t end = 0;
    for (const char* const each : light_words) {
        const std::size_t at = word.find(each);
        end = at == std::string::npos ? end : std::max(end, at + std::string_view(each).size());
    }
    const std::string plain = lowered(of.name);
    if (end == 0 && (lamp_of_studio(plain) > 0 || plain.starts_with("rimcol"))) {
        return plain.substr(0, std::max<std::size_t>(lamp_of_studio(plain), 3));
    }
    // A letter counts: `lanternAPosition`, `lampB`.
    const auto is_lower = [&](std::size_t at) {
        return at < of.name.size() && std::islower(static_cast<unsigned char>(of.name[at])) != 0;
    };
    const bool letter = end > 0 && end < of.name.size() &&
                        std::isupper(static_cast<unsigned char>(of.name[end])) != 0 && !is_lower(end + 1);
    return word.substr(0, letter ? end + 1 : end);
}

// What two names cannot both mean of one light they mean of two, where they say whose it is: the first, the
// second, ... of their kind.
void tell_owners_apart(std::vector<guessed_name>& all) {
    static constexpr std::string_view first = "[0].";
    std::map<std::string, std::vector<std::string>> owners; // by what is meant
    const auto lamp_of = [](const guessed_name& each) { // `lights.point`; empty where it is not of the first
        const std::size_t at = each.means.find(first);
        return each.means.starts_with("lights") && at != std::string::npos ? each.means.substr(0, at) : "";
    };
    for (const guessed_name& each : all) {
        std::vector<std::string>& same = owners[each.means];
        const std::string owner = owner_in(each);
        if (!lamp_of(each).empty() && !owner.empty() &&
            std::find(same.begin(), same.end(), owner) == same.end()) {
            same.push_back(owner);
        }
    }
    std::map<std::string, std::vector<std::string>> several; // by `lights.point`, in order
    for (const guessed_name& each : all) {
        const std::vector<std::string>& same = owners[each.means];
        std::vector<std::string>& in_order = several[lamp_of(each)];
        for (const std::string& owner : same) {
            if (same.size() > 1 && std::find(in_order.begin(), in_order.end(), owner) == in_order.end()) {
                in_order.push_back(owner);
            }
        }
    }
    for (guessed_name& each : all) {
        const std::string lamp = lamp_of(each);
        const std::vector<std::string>& in_order = several[lamp];
        const auto found = std::find(in_order.begin(), in_order.end(), owner_in(each));
        if (lamp.empty() || found == in_order.end()) {
            continue;
        }
        const std::string number = "[" + std::to_string(found - in_order.begin()) + "].";
        for (std::size_t at = each.means.find(lamp + std::string(first)); at != std::string::npos;
             at = each.means.find(lamp + std::string(first), at + 1)) {
            each.means.replace(at + lamp.size(), first.size(), number);
        }
    }
}

// Of `La` and `Ka` the one is the light's, the other the material's.
void tell_ambient_factors_apart(std::vector<guessed_name>& all) {
    const auto is = [](const guessed_name& each, const char* letters) {
        return lowered(last_name(each.name)) == letters;
    };
    const bool of_light =
        std::any_of(all.begin(), all.end(), [&](const guessed_name& each) { return is(each, "la"); });
    for (guessed_name& each : all) {
        if (of_light && is(each, "ka") && each.means == "ambient.light") {
            each.means = "material.ambient";
        }
    }
}

// Beside the place of a rim light its colour is no number of a rim's.
void tell_rim_lights(std::vector<guessed_name>& all) {
    const bool placed = std::any_of(all.begin(), all.end(), [](const guessed_name& each) {
        return lowered(each.name).starts_with("rim") && each.means.starts_with("lights[0].");
    });
    for (guessed_name& each : all) {
        if (placed && each.means.empty() && lowered(each.name).starts_with("rimcol")) {
            each.means = "lights[0].color";
        }
    }
}

// A block that is called after what lights holds ambient light, too: the scene's, where nothing else does.
void tell_ambient_of_blocks(std::vector<guessed_name>& all) {
    const bool other = std::any_of(
        all.begin(), all.end(), [](const guessed_name& each) { return each.means.starts_with("ambient."); });
    for (guessed_name& each : all) {
        if (!other && each.structure.empty() && each.means.starts_with("lights[0].ambient") &&
            each.name.find('.') != std::string::npos) {
            each.means = "ambient.light";
        }
    }
}

} // namespace

void tell_lights_apart(std::vector<guessed_name>& all) {
    tell_rim_lights(all);
    tell_numbered_apart(all);
    tell_twins_apart(all);
    tell_blocks_from_lights(all);
    tell_ambient_of_blocks(all);
    tell_parts_from_colors(all);
    tell_kinds_apart(all);
    tell_owners_apart(all);
    tell_ambient_factors_apart(all);
}

} // namespace yurvo::inline v0_1::program
