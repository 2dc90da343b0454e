// quiz: a question, as a sheet and in words.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/quiz.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// Both pictures, side by side.
picture quiz_sheet(const study::question& the_question);
/// The answers to choose from, a letter each.
std::string choices_text(const study::question& the_question);
/// Whether the answer was right, what the mistake is, and what gave it away.
std::string answer_text(const study::question& the_question, std::size_t chosen);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
