// translate: the user's sources as the driver takes them, and its complaints as the user's file has them.
#pragma once

#include <map>
#include <string>

#include "program/driver_process.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

inline constexpr const char* source_remedy = "a source that this language's compiler takes";

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

// A compiler's complaint about a stage as an error at the user's own file and line; `given` is the source as
// the compiler had it.
error complaint(const shader_stage& stage, const std::string& given, const std::string& log);

// Of messages of several lines.
std::string first_line(const std::string& text);

} // namespace yurvo::inline v0_1::program
