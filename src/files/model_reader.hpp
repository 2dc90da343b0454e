// model_reader: the key `model`, alike in scene and program files: a built-in model, or a C++ one.
#pragma once

#include <vector>

#include "files/toml_section.hpp"
#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::files {

// What `model` names. A built-in model goes into `built_in`; of a C++ one, which `known` holds (null: none),
// its name is given back, and `built_in` is one with every term. Throws yurvo::error with the nearest name.
std::string read_model(section& from, const models* known, model_kind& built_in);

// The C++ model of that name with the file's [numbers], each of which must be one of its own; nothing for no
// name. Throws yurvo::error.
own_model own_model_with(const std::string& name, const models* known,
                         const std::vector<formulas::named_number>& numbers, const value_places& places);

} // namespace yurvo::inline v0_1::files
