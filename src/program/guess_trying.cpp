#include "program/guess_trying.hpp"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "program/guess_climbing.hpp"
#include "program/guess_comparing.hpp"
#include "program/guess_first.hpp"
#include "program/guess_looking.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_numbers.hpp"
#include "program/guess_reading.hpp"
#include "program/guess_subject.hpp"
#include "program/source_text.hpp"
#include "program/written_formulas.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr double never = guess_subject::never;

class trying : climber {
    [[nodiscard]] bool may_go_on(std::size_t tries) const { return subject.may_go_on(tries); }

  public:
    settled_guess result;

    trying(const shader_program& first, const std::function<void(const std::string&)>& tell_to)
        : climber(first, tell_to) {
        result.program = first;
    }

    // Whether a number was found by fitting that the text does not have.
    [[nodiscard]] bool is_foreign(const reading& of, const shader_constant& number) const {
        return of.how.contains(about_constant(number.quantity)) &&
               std::find(literals.begin(), literals.end(), number.numbers.front()) == literals.end();
    }

    // What was fitted while something else was off is what the text says, where that is as good.
    void as_written(reading& right) {
        for (std::size_t i = 0; i < right.program.constants.size(); ++i) {
            const shader_constant& fitted = right.program.constants[i];
            if (!is_foreign(right, fitted)) {
                continue;
            }
            for (const double written : written_near(fitted.numbers.front(), literals)) {
                reading made = right;
                made.program.constants[i].numbers = {written};
                if (may_go_on(most_tries) && subject.off_of(made.program) == 0) {
                    right = std::move(made);
                    break;
                }
            }
        }
    }

    // What the text has and small scenes do not show: light that falls off farther away, colours that end
    // at 1.
    void take_beyond_small_scenes(reading& right) {
        const bool fades = right.program.falloffs != std::vector{falloff_kind::none};
        const auto ends_colors = [&](const shader_program& of) { // and does nothing worse
            const auto mistakes = mistakes_in_formulas(of);
            return right.program.formulas[formulas::slot::color].empty() && changes_what_is_bright(of) &&
                   std::none_of(mistakes.begin(), mistakes.end(),
                                [](const auto& one) { return one.first == "color"; });
        };
        for (const move& each : moves_of_written(right.program, stages)) {
            const bool falloff = each.about == "falloff" && !fades;
            reading further = right;
            each.make(further.program);
            if (!falloff && !(each.about == "color" && ends_colors(further.program))) {
                continue;
            }
            further.say(each.about, each.says, each.omits);
            if (subject.off_of(further.program) != 0) {
                continue;
            }
            if (falloff) {
                std::erase_if(further.omitted,
                              [](const auto& other) { return other.second == "falloff-missing"; });
            }
            right = std::move(further);
            break;
        }
    }

    // Whether the text has its highlight where the light is alone, which small scenes may not show.
    [[nodiscard]] bool has_gated_highlight(const shader_program& of) const {
        const std::vector<written_formula> all = written_formulas(of, stages);
        return std::any_of(all.begin(), all.end(), [](const written_formula& each) {
            return each.where == formulas::slot::specular && each.text.find(" ? ") != std::string::npos;
        });
    }

    // What a right guess was narrowed by on its way, and can do without: a claim of more is held to more. A
    // name may have been taken for something else because of it, and be what it says after all.
    void widen(reading& right, const guessed_bindings& guessed, const std::vector<move>& usual) {
        for (const guessed_name& name : guessed.uniforms) { // what a name says, where that is as good
            std::vector<std::pair<std::string, std::string>> says{{name.means, by_name}};
            if (name.means == "material.texture") { // which the shader may decode
                says.emplace_back("material.texture_codes", "tried: it is right so");
            }
            for (const auto& [means, how] : says) {
                reading as_said = right;
                if (means.empty() || !as_said.how[name.name].starts_with("tried: it fits best")) {
                    continue;
                }
                take_as(as_said.program.uniforms, name.name, means);
                as_said.say(name.name, how, "");
                if (may_go_on(most_tries) && subject.off_of(as_said.program) == 0) {
                    right = std::move(as_said);
                }
            }
        }
        std::vector<move> widening = moves_that_widen(right.program);
        if (has_gated_highlight(right.program)) {
            std::vector<move> gates = moves_that_gate(right.program);
            widening.insert(widening.begin(), gates.begin(), gates.end());
        }
        for (const move& each : widening) {
            reading wider = right;
            each.make(wider.program);
            std::erase_if(wider.omitted, [&](const auto& other) { return other.second == each.omits; });
            wider.how.erase(each.about);
            if (!each.says.empty()) {
                wider.how[each.about] = each.says;
            }
            wider.off = subject.off_of(wider.program);
            std::vector<move> others;
            for (const guessed_name& name : guessed.uniforms) {
                if (!name.means.empty() && wider.how[name.name] != by_name) {
                    others.push_back(
                        {name.name, by_name,
                         [name](shader_program& of) { take_as(of.uniforms, name.name, name.means); }, ""});
                }
            }
            if (each.about != "without") { // beside that, what a name says is not given up for it
                std::copy_if(usual.begin(), usual.end(), std::back_inserter(others),
                             [&](const move& other) { return other.about != each.about; });
            }
            for (int i = 0; i < 3 && wider.off > 0; ++i) {
                std::vector<reading> next = step({wider}, others, 0.02, most_tries);
                if (next.empty()) {
                    break;
                }
                wider = std::move(next.front());
            }
            if (wider.off == 0) {
                right = std::move(wider);
            }
        }
        take_beyond_small_scenes(right);
        // More kinds of lights, by all names together: by one alone a lamp may get a cone that it has not.
        reading wider = for_more_kinds(right, guessed);
        if (may_go_on(most_tries) && subject.off_of(wider.program) == 0) {
            right = std::move(wider);
        }
    }

    // What is done with them is not looked at.
    [[nodiscard]] std::vector<std::string> not_looked_at(const shader_program& right) const {
        return names_in_use(subject.names_without_effect(right), right);
    }

    // A right reading under which something is not looked at: as it was meant at first, with all kinds of
    // lights, where that is right as well; else it is none.
    void look_at_all(reading& right, const shader_program& first) {
        const std::vector<std::string> names = not_looked_at(right.program);
        if (names.empty()) {
            return;
        }
        const auto say_of_names = [&](reading& of, const char* how) {
            for (const shader_binding& each : of.program.uniforms) {
                if (std::any_of(names.begin(), names.end(), [&](const std::string& name) {
                        return last_name(name) == last_name(each.name);
                    })) {
                    of.how[each.name] = how;
                }
            }
        };
        reading other = right;
        other.program = as_meant_at_first(right.program, first, names);
        other.how.erase("kinds");
        other.how.erase("penumbra");
        if (may_go_on(most_tries) && subject.off_of(other.program) == 0 &&
            not_looked_at(other.program).empty()) {
            say_of_names(other, by_name);
            right = std::move(other);
            return;
        }
        right.off = guess_subject::hiding_is_off;
        say_of_names(right, "open: no value of it changes a picture");
    }

    // The first reading, its lights of a kind that they can be.
    reading first_drawn() {
        reading first{result.program, result.how, {}, never};
        try {
            first.off = subject.off_of(first.program);
        } catch (const error&) { // what is bound so far makes no kind of light, perhaps, or too many
            first.off = subject.off_with_some_kind(first.program);
        }
        if (first.off >= never) { // its lights lack what is bound of them
            reading of_some_kind = first;
            of_some_kind.off = subject.off_with_some_kind(of_some_kind.program);
            first = of_some_kind.off < never ? of_some_kind : first;
        }
        return first;
    }

    // Whole readings that hand over unit directions.
    std::vector<move> unit_directions;

    // The first of some readings that is right but for one mistake; right, where that is that the shader
    // wants its directions unit.
    std::optional<reading> explained_by_a_mistake(const std::vector<reading>& all) {
        const auto found = std::find_if(all.begin(), all.end(), [&](const reading& each) {
            return each.off < never && subject.one_mistake_explains(each.program, most_tries);
        });
        if (found == all.end()) {
            return std::nullopt;
        }
        for (const move& each : unit_directions) {
            reading made = *found;
            each.make(made.program);
            made.say(each.about, each.says, each.omits);
            made.off = subject.off_of(made.program);
            if (made.off > 0 && made.off < never) { // under another law, perhaps
                made = climb({made}, moves_of_claim(), 0.02, subject.tried() + few_tries, false);
            }
            if (made.off == 0) {
                return made;
            }
        }
        return *found;
    }

    // From a few whole readings step by step, the likely first. What is unlikely has to make the guess right,
    // or nearly.
    reading search(const guessed_bindings& guessed, const move_lists& moves, const std::vector<move>& known) {
        const reading first = first_drawn();
        std::vector<reading> from{first};
        if (first.off > 0) {
            for (reading& each : step({first}, moves.starts, 0, likely_tries)) {
                keep(from, std::move(each));
            }
        }
        // What names say, with those that say nothing as they fit best, or under the laws and kinds that come
        // nearest, and each of the whole readings under those: right, perhaps, but for a mistake.
        const auto under_laws = [&](const std::vector<reading>& of) {
            return of.front().off > 0 && of.front().off < never
                       ? climb(of, moves_of_claim(), 0.02, subject.tried() + few_tries, false)
                       : of.front();
        };
        std::vector<reading> as_said{under_laws({first}), under_laws(from)};
        if (!moves.open.empty() && first.off > 0 && first.off < never) {
            as_said.insert(as_said.begin(),
                           climb({first}, moves.open, 0.02, subject.tried() + few_tries, false));
        }
        for (const reading& each : as_said) {
            if (each.off == 0) {
                return each;
            }
        }
        std::optional<reading> explained = explained_by_a_mistake(as_said);
        // Several formulas, with names as they are: what comes nearer without them leads away from there.
        const auto right_by_its_text = [&](const reading& written) {
            if (written.off == 0) {
                explained = explained_by_a_mistake(without_each_formula(written));
            }
            return written.off == 0 && !explained;
        };
        if (!explained) {
            reading written = by_own_formulas({first}, {});
            if (right_by_its_text(written)) {
                return written;
            }
        }
        // Which space is meant no name says; a mistake may make another one look nearer.
        for (std::size_t i = 0; i < moves.spaces.size() && !explained && first.off > 0; ++i) {
            reading there = first;
            moves.spaces[i].make(there.program);
            there.off = subject.off_of(there.program);
            reading lawful = under_laws({there});
            if (lawful.off == 0) {
                return lawful;
            }
            reading wider = for_more_kinds(there, guessed);
            wider.off = subject.off_of(wider.program);
            explained = explained_by_a_mistake({there, wider, lawful});
        }
        if (!explained) {
            // By what names say first: without the formula another law, or another curve, may have come
            // nearer.
            std::vector<reading> plain{first};
            plain.insert(plain.end(), as_said.begin(), as_said.end());
            std::vector<reading> own = with_own_formulas(plain);
            if (!own.empty() && own.front().off == 0) {
                return std::move(own.front());
            }
            // A formula and a mistake.
            explained = explained_by_a_mistake(with_each_own_formula(plain));
        }
        if (explained && explained->off == 0) {
            return *explained;
        }
        std::for_each(as_said.begin(), as_said.end(), [&](const reading& each) { keep(from, each); });
        reading best = climb(from, moves.usual, 0.02, likely_tries);
        best = climb({best}, known, 0.02, likely_tries + 150);
        if (best.off == 0) {
            return best;
        }
        if (!explained) {
            from.push_back(best);
            from.push_back(taken_back(best, first, guessed, false));
            from.push_back(taken_back(best, first, guessed, true));
            explained = explained_by_a_mistake(from);
        }
        if (!explained) {
            from.insert(from.begin(), as_said.begin(), as_said.end());
            reading written = by_own_formulas(from, moves.usual);
            if (right_by_its_text(written)) {
                return written;
            }
        }
        // What is unlikely may be all that is wanting to what names say.
        for (const reading& each : step(as_said, moves.unlikely, 0.05, subject.tried() + few_tries)) {
            if (each.off == 0) {
                return each;
            }
        }
        reading further = best;
        for (int i = 0; i < 4 && further.off > 0 && may_go_on(most_tries); ++i) {
            const std::vector<reading> next = step({further}, moves.unlikely, 0.05, most_tries);
            if (next.empty()) {
                break;
            }
            further = climb(next, moves.usual, 0.05, most_tries);
        }
        if (further.off == 0 || (!explained && further.off < 0.4 * best.off)) {
            return further;
        }
        return explained ? *explained : best;
    }

    // Where colours are right and alpha is above 1: whether it is right as well by another meaning of one
    // name.
    bool alpha_by_another_name(reading& best, const guessed_bindings& guessed, const move_lists& moves) {
        std::vector<move> of_names;
        for (const std::vector<move>* list : {&moves.open, &moves.twins, &moves.usual, &moves.unlikely}) {
            std::copy_if(list->begin(), list->end(), std::back_inserter(of_names), [&](const move& each) {
                return std::any_of(
                    guessed.uniforms.begin(), guessed.uniforms.end(), [&](const guessed_name& name) {
                        return name.name == each.about && (name.type == "float" || name.type == "vec4");
                    });
            });
        }
        subject.judge_alpha(beyond_one::counts);
        best.off = subject.off_of(best.program);
        std::vector<reading> next = step({best}, of_names, 0, subject.tried() + few_tries);
        const bool right = !next.empty() && next.front().off == 0;
        if (right) {
            best = std::move(next.front());
        } else {
            subject.judge_alpha(beyond_one::passed_over);
            best.off = 0;
        }
        return right;
    }

    void run(const guessed_bindings& guessed) {
        for (const guessed_name& each : guessed.uniforms) {
            said.push_back(each.means);
        }
        const move_lists moves = all_moves(guessed);
        std::copy_if(moves.starts.begin(), moves.starts.end(), std::back_inserter(unit_directions),
                     [](const move& each) { return each.omits == "shines-not-normalized"; });
        std::vector<move> known = moves.twins;
        known.insert(known.end(), moves.usual.begin(), moves.usual.end());
        reading best = search(guessed, moves, known);
        const bool beyond = best.off == 0 && subject.alpha_beyond(best.program);
        result.alpha_beyond = beyond && !alpha_by_another_name(best, guessed, moves);
        if (best.off == 0) {
            as_written(best);
            widen(best, guessed, known);
            best.off = leaves_unseen(best.program) ? guess_subject::hiding_is_off : 0;
            if (best.off == 0) {
                look_at_all(best, result.program);
            }
        }
        result.program = subject.written(std::move(best.program));
        result.how = std::move(best.how);
        result.off = best.off;
        const auto omits = [&](const std::string& mistake) {
            if (std::find(result.omitted.begin(), result.omitted.end(), mistake) == result.omitted.end()) {
                result.omitted.push_back(mistake);
            }
        };
        for (const auto& [about, mistake] : best.omitted) {
            omits(mistake);
        }
        // What the text says may have been claimed before anything was tried.
        for (const auto& [about, mistake] : claimed_mistakes(result.program)) {
            omits(mistake);
        }
    }
};

} // namespace

settled_guess settle(const shader_program& sources, const guessed_bindings& guessed,
                     const std::function<void(const std::string&)>& tell) {
    std::map<std::string, std::string> how;
    trying all(first_reading(sources, guessed, how), tell);
    all.result.how = std::move(how);
    all.run(guessed);
    return std::move(all.result);
}

} // namespace yurvo::inline v0_1::program
