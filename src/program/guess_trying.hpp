// guess_trying: what names and types leave open is settled by drawing.
#pragma once

#include <functional>
#include <string>

#include "program/guess_text.hpp"
#include "yurvo/program/guess.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

// Draws candidates on small scenes and keeps what fits best. `tell` gets progress. Throws as program_renderer
// does.
settled_guess settle(const shader_program& sources, const guessed_bindings& guessed,
                     const std::function<void(const std::string&)>& tell);

} // namespace yurvo::inline v0_1::program
