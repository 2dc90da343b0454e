// tool: the program that is driven, where its target says where it is (YURVO_TOOL).
#pragma once

#include <string>

namespace yurvo::testing {

inline const std::string tool = YURVO_TOOL;

} // namespace yurvo::testing
