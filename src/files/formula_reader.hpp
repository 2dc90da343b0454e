// formula_reader: the sections [formulas] and [numbers], alike in scene and program files.
#pragma once

#include "files/toml_section.hpp"
#include "yurvo/formula/formula_set.hpp"

namespace yurvo::inline v0_1::files {

struct read_formulas {
    formulas::formula_texts texts;
    std::vector<formulas::named_number> numbers;
};

// Parsed, so that what is wrong is told with its place in the file. Throws yurvo::error. Without the
// sections: nothing.
read_formulas read_formula_sections(const toml::table& root, value_places& places);

} // namespace yurvo::inline v0_1::files
