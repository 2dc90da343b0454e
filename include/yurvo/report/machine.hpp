// machine: what is here and what is missing, for people.
#pragma once

#include <string>
#include <vector>

#include "yurvo/report/data.hpp"
#include "yurvo/study/machine.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// A line for each part, and what is missing with the package that brings it.
std::string machine_text(const std::vector<study::machine_part>& parts);

/// `version`, and `parts`: each `name`, `here`, `what`, `lost`, `package`.
data data_of(const std::vector<study::machine_part>& parts, const std::string& version);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
