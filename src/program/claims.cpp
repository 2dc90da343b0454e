#include "program/claims.hpp"

#include <algorithm>
#include <limits>

#include "program/carried_lights.hpp"
#include "program/source_text.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// The factors of what is a product: whoever binds it binds them.
const std::vector<std::string>& factors_of(const std::string& quantity) {
    static const std::map<std::string, std::vector<std::string>> products{
        {"ambient.light", {"ambient.color", "ambient.strength"}},
        {"material.base_alpha", {"material.base", "material.alpha"}},
        {"lights.light", {"color", "intensity"}},
        {"lights.ambient_light", {"color", "intensity", "ambient"}},
        {"lights.diffuse_light", {"color", "intensity", "diffuse"}},
        {"lights.specular_light", {"color", "intensity", "specular"}}};
    static const std::vector<std::string> none;
    const auto found = products.find(quantity);
    return found == products.end() ? none : found->second;
}

// Reads off the bindings what a program can be given.
class collection {
    const shader_program& the_program;
    std::set<light_kind> sets_by_kind_;
    int most_general_ = 0;
    bool sized_ = false; // some array of lights has a size

    static light_kind kind_with(const std::set<std::string>& properties) {
        const auto has = [&](std::initializer_list<const char*> any) {
            return std::any_of(any.begin(), any.end(),
                               [&](const char* each) { return properties.count(each) > 0; });
        };
        if (!has({"position", "place"})) {
            return light_kind::directional;
        }
        return has({"shines", "axis"}) && has({"outer", "outer_degrees", "cos_outer"}) ? light_kind::spot
                                                                                       : light_kind::point;
    }

    // Where no one kind has what is bound of all lights, each has a kind of its own.
    void tell_kinds_apart() {
        const auto& of_index = result.bound_of_index;
        const auto& of_name = result.bound_of_name;
        if (!result.kinds.empty() || the_program.kinds || (of_index.empty() && of_name.empty())) {
            return;
        }
        const bool in_a_row =
            !of_index.empty() && of_index.rbegin()->first + 1 == static_cast<int>(of_index.size());
        if (of_name.empty() && in_a_row) {
            for (const auto& [index, properties] : of_index) {
                result.kinds.push_back(kind_with(properties));
            }
            result.in_order = true;
            return;
        }
        for (const auto& [name, properties] : of_name) {
            const light_kind kind = kind_with(properties);
            result.kind_of_name[name] = kind;
            if (std::find(result.kinds.begin(), result.kinds.end(), kind) == result.kinds.end()) {
                result.kinds.push_back(kind);
            }
        }
    }
    int fewest_general_ = 0; // lights[1] alone, without a count, wants two: nothing says that there is none
    bool counted_ = false;

    // Components of colours and factors that are bound: only the first, or more.
    std::map<std::string, bool> only_first_;

    void note_component(const quantity& wanted, const std::string& name) {
        const bool first = wanted.component && *wanted.component == 0;
        const auto known = only_first_.emplace(name, first);
        known.first->second = known.first->second && first;
    }

    void look_at(const quantity& wanted, int each) {
        if (wanted.of != "lights") {
            const std::string name = wanted.of + "." + wanted.property;
            result.bound.insert(name);
            note_component(wanted, name);
            for (const std::string& factor : factors_of(name)) {
                result.bound.insert(factor);
                note_component(wanted, factor);
            }
            return;
        }
        if (wanted.property == "count") {
            counted_ = true;
            return;
        }
        const std::string property = without_space(wanted.property);
        std::set<std::string>& bound = wanted.only            ? result.bound_of_kind[*wanted.only]
                                       : wanted.each          ? result.bound_of_all
                                       : !wanted.name.empty() ? result.bound_of_name[wanted.name]
                                                              : result.bound_of_index[*wanted.index];
        result.light_bound.insert(property);
        bound.insert(property);
        note_component(wanted, "lights." + property);
        for (const std::string& factor : factors_of("lights." + property)) {
            result.light_bound.insert(factor);
            bound.insert(factor);
            note_component(wanted, "lights." + factor);
        }
        if (!wanted.each && !wanted.only) {
            result.by_index.insert(property);
        }
        if (!wanted.name.empty()) {
            result.names.insert(wanted.name);
            return;
        }
        const int needs = (wanted.each ? each : *wanted.index) + 1;
        sized_ = sized_ || (wanted.each && !wanted.only);
        if (wanted.only) {
            sets_by_kind_.insert(*wanted.only);
            int& fewest = result.fewest_of_kind[*wanted.only];
            fewest = std::max(fewest, wanted.each ? 0 : needs);
            result.most_of_kind[*wanted.only] = std::max(result.most_of_kind[*wanted.only], needs);
        } else {
            most_general_ = std::max(most_general_, needs);
            fewest_general_ = std::max(fewest_general_, wanted.each ? 0 : needs);
        }
    }

  public:
    claims result;

    explicit collection(const shader_program& to_read) : the_program(to_read) {
        result.model = the_program.model;
        result.own = the_program.own;
        result.rate = the_program.rate;
        result.rule = the_program.ambient_rule;
        result.formulas = the_program.formulas;
        result.numbers = the_program.numbers;
        result.in_order = the_program.in_order;
        result.scale = the_program.scale;
        result.follows = the_program.follows;
        result.normals = the_program.normals;
        result.without = {the_program.without.begin(), the_program.without.end()};
    }

    void read_constants() {
        for (const shader_constant& constant : the_program.constants) {
            quantity what = parse_quantity(constant.quantity, constant.where);
            if (what.of == "object" || what.of == "view" || what.of == "numbers" ||
                what.property == "count" || what.transposed) {
                throw error(constant.where, "`" + constant.quantity + "` is no constant of a scene's",
                            "a quantity of a material, of ambient light, of [shading] or of a light");
            }
            const bool every_light = what.of == "lights" && what.each;
            const int most_general = most_general_;
            look_at(what, 0);
            if (every_light) { // of however many
                most_general_ = most_general;
            }
            result.constants.push_back({std::move(what), constant.numbers, constant.where});
        }
    }

    void note_whole(const quantity& wanted, const bound_uniform& uniform) {
        if (shape_of(uniform.active.type).whole && uniform.means.size() == 1) {
            result.whole.insert(wanted.of + "." + wanted.property);
        }
    }
    void note_list(const quantity& wanted, const bound_uniform& uniform) {
        if (wanted.of != "shading" || (wanted.property != "thresholds" && wanted.property != "bands")) {
            return;
        }
        std::optional<std::size_t>& held = wanted.property == "bands" ? result.bands : result.thresholds;
        const auto components =
            static_cast<std::size_t>(std::max(1, shape_of(uniform.active.type).components));
        const bool element = uniform.active.name.ends_with(']');
        if (!element && wanted.property == "bands") {
            return; // the first of them, whatever the others are
        }
        if (element && wanted.property == "bands" && components == 1) {
            result.grey.insert("shading.bands");
        }
        const std::size_t here = element ? static_cast<std::size_t>(uniform.each) + 1 : components;
        held = std::max(held.value_or(0), here);
    }

    void read_uniforms(const bindings& bound) {
        for (const bound_uniform& uniform : bound.uniforms) {
            for (const auto& means : uniform.means) {
                for (const quantity* wanted : quantities_of(means)) {
                    look_at(*wanted, uniform.each);
                    note_whole(*wanted, uniform);
                    note_list(*wanted, uniform);
                }
            }
        }
        // What the driver has found to be unused is claimed all the same, of one light at least.
        for (const shader_binding& binding : the_program.uniforms) {
            const std::string array = binding.name.substr(0, binding.name.find("[*]"));
            const std::size_t dot = array.find_last_of('.'); // of a block, or of a structure
            const int size =
                array.size() == binding.name.size()
                    ? 0
                    : declared_size(the_program, dot == std::string::npos ? array : array.substr(dot + 1));
            for (const auto& means : binding.means) {
                if (const std::string* text = std::get_if<std::string>(&means)) {
                    const meaning parsed = parse_meaning(*text, binding.where);
                    for (const quantity* wanted : quantities_of(parsed)) {
                        look_at(*wanted, std::max(0, size - 1));
                    }
                }
            }
        }
    }

    void read_attributes(const bindings& bound) {
        for (const shader_binding& binding : the_program.attributes) {
            if (const std::string* const word = attribute_word(binding)) {
                result.texcoords = result.texcoords || *word == "texcoord";
                result.colors = result.colors || *word == "color";
            } else { // used or not
                for (const meaning& means : meanings_of_binding(binding)) {
                    for (const quantity* wanted : quantities_of(means)) {
                        look_at(*wanted, 0);
                    }
                }
            }
        }
        for (const bound_attribute& attribute : bound.attributes) {
            result.texcoords = result.texcoords || attribute.means == "texcoord";
            result.colors = result.colors || attribute.means == "color";
        }
    }

    void conclude_grey() {
        for (const auto& [name, first] : only_first_) {
            if (first) {
                result.grey.insert(name);
            }
        }
    }

    // A model that is lit, of which no light reaches the shader: the scenes keep theirs, so that it fails.
    [[nodiscard]] bool forgets_lights() const {
        const bool lit = !result.own.name.empty() || descriptor_of(result.model).lit;
        return lit && result.light_bound.empty() && !the_program.lights;
    }

    void conclude_kinds() {
        result.kinds = the_program.kinds.value_or(carried_kinds(result, sets_by_kind_));
        if (!the_program.kinds) {
            std::erase_if(result.kinds, [&](light_kind kind) {
                return std::any_of(result.by_index.begin(), result.by_index.end(),
                                   [&](const std::string& property) { return !kind_has(kind, property); });
            });
        }
        tell_kinds_apart();
        if (forgets_lights()) {
            result.kinds = {light_kind::directional, light_kind::point, light_kind::spot};
        }
        // A claim of no light at all would hide every mistake in light.
        if (result.kinds.empty() && !result.light_bound.empty()) {
            throw error(
                {the_program.file, 0, 0}, "what [uniforms] binds of lights makes no kind of light",
                "kinds = [\"directional\"], \"point\" or \"spot\", and what such a light has: to_light, "
                "position");
        }
        result.falloffs = the_program.falloffs.value_or(carried_falloffs(result));
        result.penumbras = the_program.penumbras.value_or(carried_penumbras(result));
    }

    void conclude_counts() {
        result.in_any_order = most_general_ > 0 || !result.names.empty();
        int most = most_general_ + static_cast<int>(result.names.size());
        for (const auto& [kind, count] : result.most_of_kind) {
            most += count;
        }
        result.most = most;
        if (the_program.lights && most_general_ > 0 && (*the_program.lights)[1] > most_general_ && sized_) {
            throw error({the_program.file, 0, 0},
                        "`lights` says up to " + std::to_string((*the_program.lights)[1]) +
                            ", and the shader's arrays hold " + std::to_string(most_general_),
                        "lights = [" + std::to_string(std::min((*the_program.lights)[0], most_general_)) +
                            ", " + std::to_string(most_general_) + "], or larger arrays");
        }
        if (the_program.lights) {
            result.fewest = (*the_program.lights)[0];
            result.most = (*the_program.lights)[1];
        } else if (!counted_) {
            // A shader written for one lamp is given one; one that reads lights[0] and lights[1], two.
            result.fewest = most == 1 ? 1 : fewest_general_;
        }
        if (forgets_lights()) {
            result.most = std::numeric_limits<int>::max();
        }
        if (the_program.lights || counted_) {
            result.fewest_of_kind.clear();
        }
    }

    // Whether a binding means that number of a light that is not the first.
    static bool is_of_another(const shader_binding& bound, std::string_view number) {
        return std::any_of(bound.means.begin(), bound.means.end(), [&](const auto& one) {
            const std::string* const means = std::get_if<std::string>(&one);
            if (means == nullptr || !means->starts_with("lights") || means->starts_with("lights[0].")) {
                return false;
            }
            const std::string property = means->substr(means->find_last_of('.') + 1);
            return number_of_law(property.substr(0, property.find('['))) == number;
        });
    }

    // What a program that takes several lights is given of the first alone is one number for all of them:
    // `uniform float range;` beside an array of places.
    void conclude_shared() {
        const auto first = result.bound_of_index.find(0);
        if (first == result.bound_of_index.end() || result.most < 2) {
            return;
        }
        for (const std::string_view number : numbers_of_laws) {
            const auto is_in = [&](const std::set<std::string>& bound) {
                return std::any_of(bound.begin(), bound.end(), [&](const std::string& property) {
                    return number_of_law(property) == number;
                });
            };
            const auto others = [&](const auto& by) {
                return std::any_of(by.begin(), by.end(), [&](const auto& each) {
                    return &each.second != &first->second && is_in(each.second);
                });
            };
            // Nor where the file binds another light's to a name that the shader does not read.
            const bool told =
                std::any_of(the_program.uniforms.begin(), the_program.uniforms.end(),
                            [&](const shader_binding& bound) { return is_of_another(bound, number); });
            if (is_in(first->second) && !is_in(result.bound_of_all) && !others(result.bound_of_kind) &&
                !others(result.bound_of_index) && !others(result.bound_of_name) && !told) {
                result.shared.emplace(number);
            }
        }
    }
};

} // namespace

bool claims::light_has(const std::string& property, const named_light& lamp, int index) const {
    const auto is_in = [&](const auto& by, const auto& which) {
        const auto found = by.find(which);
        return found != by.end() && found->second.count(property) > 0;
    };
    if (bound_of_all.count(property) > 0 || is_in(bound_of_kind, lamp.light.kind)) {
        return true;
    }
    if (bound_of_all.empty()) {
        return is_in(bound_of_index, index) || is_in(bound_of_name, lamp.name);
    }
    // Beside what all lights have, what is bound of one is theirs as well.
    const auto any_in = [&](const auto& by) {
        return std::any_of(by.begin(), by.end(),
                           [&](const auto& each) { return each.second.count(property) > 0; });
    };
    return any_in(bound_of_index) || any_in(bound_of_name);
}

std::string without_space(const std::string& property) {
    for (const char* space : {"_view", "_object"}) {
        if (property.ends_with(space)) {
            return property.substr(0, property.size() - std::string_view(space).size());
        }
    }
    return property;
}

bool claims::has_essential(const std::string& what) const {
    if (what == "ambient") {
        return has("ambient.color") || has("ambient.strength");
    }
    return what.starts_with("light.") ? light_has(what.substr(6)) : has(what);
}

claims claims_of(const shader_program& the_program, const bindings& bound) {
    collection all(the_program);
    all.read_uniforms(bound);
    all.read_constants();
    all.conclude_grey();
    all.read_attributes(bound);
    all.conclude_kinds();
    all.conclude_counts();
    all.conclude_shared();
    return all.result;
}

} // namespace yurvo::inline v0_1::program
