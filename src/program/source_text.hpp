// source_text: a shader's source before the driver has it: includes, dialects, precisions, what it may not
// name.
#pragma once

#include <map>
#include <string>

#include "program/driver_process.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// Comments become spaces, lines stay lines.
std::string without_comments(const std::string& source);

// GLSL and GLSL ES as the driver takes them: a version where an ES source says none, high precision whatever
// the source declares (and, where it declares another, the source as it is written beside it). Throws
// yurvo::error where a source names what belongs to the fixed function.
driver_sources prepared(const shader_program& the_program);

// The line of the user's file, from a line of what prepared() made of a stage.
std::size_t line_as_written(const std::string& prepared_source, std::size_t line);

// The place of a line of a stage's source in the file that holds it: its own or one that it includes.
yurvo::source_location place_of(const shader_stage& stage, std::size_t line, std::size_t column);

// The instance names of uniform blocks and push constants in the sources: `block` to `instance`.
std::map<std::string, std::string> block_instances(const shader_program& the_program);

// How many elements an array has as the sources declare it, of `name`, or of what `name[0]` holds where it is
// an array of arrays; 0 where none does, or by what is no whole number there. The driver may find that fewer
// elements are used. In declared_size.cpp.
int declared_size(const shader_program& the_program, const std::string& name);

// Whether a member of a block is read anywhere: named more often than it is declared.
bool reads(const driver_sources& sources, const std::string& name);

// Whether a source calls for an angle: acos, asin, atan.
bool asks_for_angles(const std::string& source);

// Whether a source declares a name.
bool declares(const shader_program& the_program, const std::string& name);

} // namespace yurvo::inline v0_1::program
