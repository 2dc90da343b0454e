// interfaces: what the stages of a linked program write for one another and for the picture.
#pragma once

#include <string>

#include "program/driver_process.hpp"

namespace yurvo::inline v0_1::program {

// A colour of three numbers leaves alpha undefined: 1 stands for it, and scenes have no other.
bool writes_alpha(const linked_program& linked);

// A picture needs one colour, and that what the fragment stage reads is written. Throws `error` with the
// fragment stage's file.
void require_interfaces(const linked_program& linked, const std::string& file);

} // namespace yurvo::inline v0_1::program
