// mistakes: the catalogue in words.
#pragma once

#include <string>

#include "yurvo/verify/mistakes.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// All that is said of one mistake.
std::string mistake_text(const verify::mistake_entry& entry);
/// What it is, its cause and its fix, under its id: for the end of a failing check.
std::string explanation_text(const std::string& id);
/// The whole catalogue, a line each.
std::string catalogue_text();

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
