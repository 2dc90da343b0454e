// claims: what a program says that it is, or its bindings can carry.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "program/bindings.hpp"

namespace yurvo::inline v0_1::program {

// What is written into the shader, and which quantity it is.
struct claimed_constant {
    quantity what;
    std::vector<double> numbers;
    source_location where;
};

struct claims {
    model_kind model{};
    own_model own; // a C++ model in its place
    yurvo::rate rate{};
    yurvo::ambient_rule rule{};
    yurvo::formulas::formula_texts formulas;
    std::vector<yurvo::formulas::named_number> numbers;
    std::vector<light_kind> kinds;
    int fewest = 0, most = 0;
    std::map<light_kind, int> most_of_kind; // where lights come in sets by kind
    std::map<light_kind, int> fewest_of_kind;
    bool in_any_order = false; // lights are also read whatever their kind, by index or by name
    bool in_order = false;
    std::vector<falloff_kind> falloffs;
    std::vector<penumbra_kind> penumbras;
    scale_claim scale{};
    ambient_follows follows{};
    std::set<std::string> bound;       // scene quantities, `material.base`
    std::set<std::string> light_bound; // light properties, `color`
    // Those bound of every light, of each light of a kind, and of one light by its index or its name.
    std::set<std::string> bound_of_all;
    std::map<light_kind, std::set<std::string>> bound_of_kind;
    std::map<int, std::set<std::string>> bound_of_index;
    std::map<std::string, std::set<std::string>> bound_of_name;
    std::set<std::string> by_index; // those bound by index or name: a light must have them
    std::set<std::string> shared;   // one value for all lights, `range`: bound of the first alone
    std::set<std::string> names;    // lights by name
    std::map<std::string, light_kind> kind_of_name; // where what is bound of one says so
    bool texcoords = false, colors = false;
    normals_claim normals{};
    std::set<std::string> without; // essentials that it is meant not to have
    std::vector<claimed_constant> constants;
    std::set<std::string>
        grey; // colours of which only the first component is bound; a light's as `lights.color`
    std::set<std::string> whole;                  // bound to whole numbers; a light's as `lights.intensity`
    std::optional<std::size_t> thresholds, bands; // how many its arrays hold

    // Whether a quantity of the scene's, or a property of a light's, reaches the shader or is written into
    // it.
    [[nodiscard]] bool has(const std::string& what) const { return bound.count(what) > 0; }
    [[nodiscard]] bool light_has(const std::string& property) const {
        return light_bound.count(property) > 0;
    }
    // The same of one light of a scene's, which has that index.
    [[nodiscard]] bool light_has(const std::string& property, const named_light& lamp, int index) const;
    // The same of an essential, by its name in `without`.
    [[nodiscard]] bool has_essential(const std::string& what) const;
};

// `position` of `position_view`: the same in another space.
std::string without_space(const std::string& property);

claims claims_of(const shader_program& the_program, const bindings& bound);

} // namespace yurvo::inline v0_1::program
