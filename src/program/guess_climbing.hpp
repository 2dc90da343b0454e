// guess_climbing: readings of a shader changed step by step, as long as that brings their pictures nearer to
// right ones.
#pragma once

#include <cstddef>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "program/guess_moves.hpp"
#include "program/guess_reading.hpp"
#include "program/guess_subject.hpp"
#include "program/written_formulas.hpp"

namespace yurvo::inline v0_1::program {

// What is tried is bound by its number, and so the same however busy the machine is.
inline constexpr std::size_t likely_tries = 800; // of likely readings
inline constexpr std::size_t few_tries = 100;    // of what is claimed, with names as they are
inline constexpr std::size_t most_tries = 1200;  // of all

struct climber {
    stage_texts stages;
    std::string text; // of both
    guess_subject subject;
    std::vector<double> literals;  // numbers that the text has
    std::vector<std::string> said; // what names say
    const std::function<void(const std::string&)>& tell;

    climber(const shader_program& first, const std::function<void(const std::string&)>& tell_to);

    // The reading changed by a move; nothing where it does not help by what the move has to.
    std::optional<reading> changed_by(const move& each, const reading& from, double least_gain, double worth);
    // All these readings changed by all these moves: the best few that come of it.
    std::vector<reading> step(const std::vector<reading>& from, const std::vector<move>& moves,
                              double least_gain, std::size_t until);
    // Steps while they help; the best reading of all.
    reading climb(std::vector<reading> from, const std::vector<move>& moves, double least_gain,
                  std::size_t until, bool numbers_too = true);
    // With a number that is written into the source, found by fitting.
    std::optional<reading> with_numbers(const reading& from);
    // With a formula that the text has, each; and with several, and whatever else is usual.
    std::vector<reading> with_own_formulas(const std::vector<reading>& from);
    // The same, whether that comes nearer or not: beside a mistake the right formula may not.
    std::vector<reading> with_each_own_formula(const std::vector<reading>& from);
    reading by_own_formulas(const std::vector<reading>& from, const std::vector<move>& usual);
};

} // namespace yurvo::inline v0_1::program
