// light_block: lights as bytes, in words.
#pragma once

#include <string>

#include "yurvo/program/guess.hpp"
#include "yurvo/program/light_block.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// Offsets and sizes in each layout, side by side.
std::string light_block_text(const std::vector<packed_lights>& layouts);
/// Bytes in hexadecimal, sixteen a line, at most so many.
std::string bytes_text(const std::vector<std::uint8_t>& bytes, std::size_t most);
/// What the driver reads where, against the same members one after another in memory. `file` is the
/// program's.
std::string block_members_text(const std::vector<block_member>& members, const std::string& file);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
