// claims: what a program says that it is, or its bindings can carry.
#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "program/bindings.hpp"

namespace yurvo::program {

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
    bool in_order = false;
    std::vector<falloff_kind> falloffs;
    std::vector<penumbra_kind> penumbras;
    scale_claim scale{};
    ambient_follows follows{};
    std::set<std::string> bound;       // scene quantities, `material.base`
    std::set<std::string> light_bound; // light properties, `color`
    std::set<std::string> by_index;    // those bound by index or name: a light must have them
    std::set<std::string> names;       // lights by name
    bool texcoords = false, colors = false;
};

claims claims_of(const shader_program& the_program, const bindings& bound);

} // namespace yurvo::program
