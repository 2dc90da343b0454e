// reference: pages of docs/reference that are made from the lists of models, laws, shapes, formulas,
// quantities and mistakes.
#pragma once

#include <string>
#include <utility>
#include <vector>

namespace yurvo::app {

// Each with its file's name.
std::vector<std::pair<std::string, std::string>> reference_pages();

} // namespace yurvo::app
