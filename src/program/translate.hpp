// translate: the user's sources as the driver takes them, and its complaints as the user's file has them.
#pragma once

#include <map>
#include <string>

#include "program/driver_process.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::program {

struct translated_program {
    driver_sources sources;
    // What the driver calls something, and what the user does: a block by its instance, an input by its
    // semantic.
    std::map<std::string, std::string> attribute_names;
    bool transposed_matrices = false; // the driver's matrices are the user's, rows for columns
    bool origin_above = true;         // of SPIR-V, as its execution mode says
};

// Throws yurvo::error with the user's file and line where a source does not compile.
// `as_declared` keeps the offsets of HLSL's blocks, which GLSL cannot always say.
translated_program translate(const shader_program& the_program, bool as_declared = false);

// The driver's first complaint as an error at the user's own file and line.
error complaint_of(const shader_program& the_program, const linked_program& linked);

// The instance names of uniform blocks and push constants in the sources: `block` to `instance`.
std::map<std::string, std::string> block_instances(const shader_program& the_program);

// The size in `name[SIZE]` as a source declares it; 0 where none does, or not as a number. The driver may
// find that fewer elements are used.
int declared_size(const shader_program& the_program, const std::string& name);

// Whether a member of a block is read anywhere: named more often than it is declared.
bool reads(const driver_sources& sources, const std::string& name);

// Whether a source declares a name.
bool declares(const shader_program& the_program, const std::string& name);

} // namespace yurvo::program
