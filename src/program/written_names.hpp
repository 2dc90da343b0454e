// written_names: what a name is in a formula, in the text of the stage that lights.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "program/written_formulas.hpp"

namespace yurvo::inline v0_1::program {

// Whether a uniform is called as numbers of a claim are, and no quantity of a model: `rimColor`,
// `fogDensity`.
bool names_a_number(const shader_binding& bound);

class name_meanings {
    const shader_program& of_;
    const std::string& text_;
    std::map<std::string, std::string> passed_; // by the stage before

  public:
    std::vector<written_formula::number> numbers; // those that were asked for

    name_meanings(const shader_program& of, const std::string& text,
                  std::map<std::string, std::string> passed)
        : of_(of), text_(text), passed_(std::move(passed)) {}

    // Of what is no local: a uniform by what it is bound to, a varying, a constant. `?name` where nothing is
    // known.
    std::string of(const std::string& name);

  private:
    [[nodiscard]] const shader_binding* uniform(const std::string& name) const;
    std::string value_of_uniform(const shader_binding& bound);
    // What a vector that means several things has at its fourth place or its first three, or at each; empty
    // where that is nothing that formulas know.
    [[nodiscard]] std::string part_of_uniform(const std::string& name) const;
    [[nodiscard]] bool asks_for_number(const shader_binding& bound) const;
    std::string own_number(const shader_binding& bound);
    [[nodiscard]] const shader_binding* attribute(const std::string& name) const;
    [[nodiscard]] bool is_varying(const std::string& name) const;
    [[nodiscard]] std::string of_varying(const std::string& name) const;
    [[nodiscard]] std::optional<std::string> constant(const std::string& name) const;
};

} // namespace yurvo::inline v0_1::program
