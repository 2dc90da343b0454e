// written_reader: a stage's statements, read one after another, with what each name is at that
// place.
#pragma once

#include <cstddef>
#include <map>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "program/shader_words.hpp"
#include "program/written_names.hpp"

namespace yurvo::inline v0_1::program {

// Works out, in a formula's words, what the text does; `?name` is what is not known. What stands under a
// condition is that, or what was before; of a loop one round is read, of a `switch` every case.
class text_reader {
    std::vector<std::string> words_;
    name_meanings names_;
    std::map<std::string, written_function> functions_;
    std::map<std::string, std::string> known_;   // by the name of a local or of a parameter
    std::set<std::string> vectors_;              // of those: of three numbers or four
    std::map<std::string, std::string> members_; // what was assigned to members, by their last names
    std::vector<std::string> conditions_;        // under which a statement stands
    std::vector<std::string> ended_;             // by which distances a round is at its end
    std::vector<std::pair<std::string, std::string>> returned_; // under what, and what
    std::map<std::string, std::string> curves_; // what became of a colour, by the name that has it now
    int calls_within_ = 0;
    std::size_t calls_ = 0;
    int nested_ = 0;

  public:
    std::vector<std::string> scalars; // all that was worked out, in order
    std::vector<std::string> curves;  // what became of a colour `c`
    std::vector<std::string> shares;  // what lights were multiplied by
    std::vector<std::string> added;   // what was added to a colour, and knows of no light

    // `passed`: what the stage before hands over, by its last name, where that is known.
    text_reader(const shader_program& of, const std::string& text,
                std::map<std::string, std::string> passed = {});
    // What a name is at the end, by its last name; empty where it is not worked out, or in more than one way.
    [[nodiscard]] std::string at_the_end(const std::string& last) const;
    [[nodiscard]] const std::vector<written_formula::number>& numbers() const { return names_.numbers; }

  private:
    static constexpr std::size_t longest_text = 6000;
    static constexpr std::size_t longest_part =
        600;                                    // what is longer is the whole lighting, and no part of it
    static constexpr int deepest_nesting = 100; // of brackets and blocks

    void read_statements(std::size_t begin, std::size_t end);
    // Gives where the next one begins.
    std::size_t read_statement(std::size_t i, std::size_t end);
    std::size_t read_one(std::size_t i, std::size_t end);
    std::size_t under(const std::string& condition, std::size_t i, std::size_t end);
    [[nodiscard]] std::string all_conditions() const;
    void read_assignments(std::size_t begin, std::size_t end);
    void assign(std::size_t at, std::size_t end, bool declares, bool vector);
    void note(const std::string& value);
    void note_text(const std::string& value);
    void note_added(const std::string& value, bool to_a_sum);
    void note_curve(const std::string& name, const std::string& how, std::size_t begin, std::size_t end);
    // Expressions: written_expressions.cpp.
    std::string read(std::size_t begin, std::size_t end);
    std::string read_words(std::size_t begin, std::size_t end);
    std::vector<std::string> arguments(std::size_t begin, std::size_t end);
    std::string call(const std::string& name, std::size_t begin, std::size_t end);
    std::string called(const written_function& what, const std::vector<std::string>& given);
    std::string value_of(const std::string& word);
};

} // namespace yurvo::inline v0_1::program
