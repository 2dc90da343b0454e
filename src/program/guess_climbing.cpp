#include "program/guess_climbing.hpp"

#include <algorithm>
#include <utility>

#include "program/guess_numbers.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr double never = guess_subject::never;

}

climber::climber(const shader_program& first, const std::function<void(const std::string&)>& tell_to)
    : stages(first),
      text(stages.vertex + "\n" + stages.fragment),
      subject(first, text),
      literals(numbers_in(text)),
      tell(tell_to) {}

// The reading changed by a move; nothing where it does not help by what the move has to.
std::optional<reading> climber::changed_by(const move& each, const reading& from, double least_gain,
                                           double worth) {
    reading made{from.program, {}, {}, never};
    each.make(made.program);
    if (leaves_unseen(made.program) && !leaves_unseen(from.program)) {
        return std::nullopt;
    }
    const double enough = from.off * (1 - std::max(least_gain, each.least_gain));
    made.off = subject.off_of(made.program, std::min(enough, worth));
    if (made.off >= enough || made.off >= worth) {
        return std::nullopt;
    }
    made.how = from.how;
    made.omitted = from.omitted;
    made.say(each.about, each.says, each.omits);
    return made;
}

// All these readings changed by all these moves: the best few that come of it.
std::vector<reading> climber::step(const std::vector<reading>& from, const std::vector<move>& moves,
                                   double least_gain, std::size_t until) {
    std::vector<reading> best;
    for (const reading& each : from) {
        for (const move& one : moves) {
            if (!subject.may_go_on(until) || (!best.empty() && best.front().off == 0)) {
                break;
            }
            const double worth = best.size() < kept_readings ? never : best.back().off;
            if (std::optional<reading> made = changed_by(one, each, least_gain, worth)) {
                keep(best, std::move(*made));
            }
        }
    }
    tell("trying what the names mean: " + std::to_string(subject.tried()) + " pictures");
    return best;
}

// Steps while they help; the best reading of all.
reading climber::climb(std::vector<reading> from, const std::vector<move>& moves, double least_gain,
                       std::size_t until, bool numbers_too) {
    reading best = from.front();
    for (int i = 0; i < 10 && best.off > 0 && subject.may_go_on(until); ++i) {
        std::vector<reading> next = step(from, moves, least_gain, until);
        if (next.empty() || next.front().off >= best.off) {
            std::optional<reading> numbers = numbers_too ? with_numbers(best) : std::nullopt;
            if (!numbers) {
                break;
            }
            next = {std::move(*numbers)};
        }
        best = next.front();
        from = std::move(next);
    }
    return best;
}

// With a number that is written into the source, found by fitting.
std::optional<reading> climber::with_numbers(const reading& from) {
    if (from.off >= never) {
        return std::nullopt;
    }
    const std::vector<move> moves =
        moves_of_numbers(subject.nearest_numbers(from.program), from.program, said, literals);
    std::vector<reading> best = step({from}, moves, 0.3, most_tries);
    return best.empty() ? std::nullopt : std::optional<reading>(std::move(best.front()));
}

// With a formula that the text has, each.
std::vector<reading> climber::with_own_formulas(const std::vector<reading>& from) {
    std::vector<reading> best;
    for (const reading& each : from) {
        const std::vector<move> written = moves_of_written(each.program, stages);
        for (reading& made : step({each}, written, 0.02, subject.tried() + few_tries)) {
            keep(best, std::move(made));
        }
    }
    return best;
}

std::vector<reading> climber::with_each_own_formula(const std::vector<reading>& from) {
    std::vector<reading> all;
    for (const reading& each : from) {
        for (const move& written : moves_of_written(each.program, stages)) {
            if (!subject.may_go_on(most_tries)) {
                break;
            }
            reading made = each;
            written.make(made.program);
            made.say(written.about, written.says, written.omits);
            made.off = leaves_unseen(made.program) ? never : subject.off_of(made.program);
            if (made.off < never) {
                all.push_back(std::move(made));
            }
        }
    }
    std::stable_sort(all.begin(), all.end(),
                     [](const reading& a, const reading& b) { return a.off < b.off; });
    return all;
}

// With several, and whatever else is usual.
reading climber::by_own_formulas(const std::vector<reading>& from, const std::vector<move>& usual) {
    const std::vector<reading> best = with_own_formulas(from);
    if (best.empty()) {
        return from.front();
    }
    std::vector<move> all = moves_of_written(best.front().program, stages);
    all.insert(all.end(), usual.begin(), usual.end());
    return climb(best, all, 0.02, subject.tried() + likely_tries / 2);
}

} // namespace yurvo::inline v0_1::program
