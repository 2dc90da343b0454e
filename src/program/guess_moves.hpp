// guess_moves: the ways in which a guess can be changed, each of which is tried by drawing.
#pragma once

#include <functional>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "yurvo/program/guess.hpp"
#include "yurvo/scene/shader_program.hpp"

namespace yurvo::inline v0_1::program {

struct stage_texts;

// One way to change a guess: what it is about, what it says, and how it is done.
struct move {
    std::string about; // a uniform's name, or `model`, `falloff`, ...
    std::string says;
    std::function<void(shader_program&)> make;
    std::string omits;        // a catalogued mistake that the claim then takes out; empty for none
    double least_gain = 0.02; // of what is off: what makes the scenes simpler has to help much
};

// The quantity that a binding means, where it means one alone; else empty.
std::string text_of(const shader_binding& binding);

// Whether something is bound to a quantity in whose name that stands.
bool reads_any(const shader_program& of, const char* quantity);

shader_binding* find_binding(std::vector<shader_binding>& names, const std::string& name);

// The same quantity in another space, "", "_view" or "_object"; as it is where it has none there.
std::string in_space(const std::string& quantity, const std::string& space);

// Takes a name of the program's for something. (Not `bind`: std::bind would be chosen for a std::vector.)
// `means` may be several, one after another, for the numbers of one vector: `lights[0].position,
// lights[0].range`.
void take_as(std::vector<shader_binding>& names, const std::string& name, const std::string& means);

// What a name of that type may mean, whatever it says.
std::vector<std::string> meanings_of(const guessed_name& name);

// A vector of numbers that have nothing to do with one another: its components that the text reads one by
// one, of x, y, z, w; empty where the text reads it in another way as well.
std::string components_alone(const std::string& text, const std::string& name);
// A component's letter as one of x, y, z, w; and what stands behind a name's last dot, without its index.
inline constexpr std::string_view places = "xyzw";
char as_place(char letter);
std::string last_name(const std::string& name);
// Whether a text declares what is so called and never reads it, a member's bare name taken for it.
bool is_only_declared(const std::string& text, const std::string& name);
// Whether what is so called is a factor and neither a place nor a direction.
bool used_as_color(const std::string& text, const std::string& name);
// What the text says beside the name: the exponent of a power, alone or as the fourth number beside a factor;
// a colour and its strength, a place or a direction, what a cone's cosine is scaled by.
std::string means_by_use(const std::string& text, const guessed_name& name);
// The matrices of HLSL that stand on the right, as rows: `mul(position, world)`; and a program that hands
// them over so.
std::set<std::string> matrices_of_rows(const shader_program& of, const std::string& text);
shader_program with_rows(shader_program of, const std::set<std::string>& matrices);
// Numbers as the text has them.
std::vector<double> numbers_in(const std::string& text);
// Whether a name says no more than that it holds numbers: `params`.
bool says_only_numbers(const std::string& name);
// What such a vector begins as, for take_as(): an exponent where its component is one, else 1.
std::string means_by_components(const std::string& text, const guessed_name& name);
std::vector<move> moves_of_components(const guessed_name& name);

// What a name with such a meaning holds about as often: more than it says, or a product.
std::vector<move> moves_alike(const guessed_name& name);
// What is taken for one another: colour and light, an angle and its cosine, a direction and the one against
// it.
std::vector<move> moves_within_group(const guessed_name& name);
// The mistake that nobody sees any more where the one is taken for the other; empty where there is none.
std::string taken_out_by(const std::string& said, const std::string& other);

// What such a meaning may be for lights of more kinds: a place whose fourth number is 0 for a direction.
std::vector<move> moves_to_more_kinds(const guessed_name& name, const std::string& means);

// What is claimed besides names: models, laws, kinds, outputs; and formulas, and what a claim leaves out.
std::vector<move> moves_of_claim();
std::vector<move> unlikely_moves_of_claim();
std::vector<move> moves_that_omit(); // of those: what is left out, and formulas
// Cones that end so: what of their angles is bound to nothing is what it can only be then.
void fade_cones(shader_program& of, penumbra_kind kind);
// Highlights with a factor that keeps their light the same for any exponent: with n·h or r·v, times the
// cosine, behind a gate or without.
std::vector<move> moves_of_normalised();
// What the text works out where it lights, as formulas. They make right whatever it does there, mistakes
// too: they are for what no mistake explains.
std::vector<move> moves_of_written(const shader_program& of, const stage_texts& texts);
inline constexpr const char* as_the_text_has_it = "as the text has it: see that it is what is meant";
// Formulas of the distance, and of the range if only those are asked for.
std::vector<move> formulas_of_falloff(bool by_range_only);
// Formulas, parts left out and axes turned round that take a catalogued mistake out of a claim: what it is
// claimed of
// (`specular`, `without`, a uniform's name), and the mistake.
std::vector<std::pair<std::string, std::string>> claimed_mistakes(const shader_program& of);
// Of those, what formulas do by the numbers that they give: light from behind, a falloff that is none.
std::vector<std::pair<std::string, std::string>> mistakes_in_formulas(const shader_program& of);
// Whether light from straight behind a surface lights it, by the formula for `diffuse`.
bool lets_light_through(const shader_program& of);
// Whether the formula for `color` leaves no colour above 1 as it is.
bool changes_what_is_bright(const shader_program& of);
// Whether a claim leaves out what a name means: cones without a spot light, coefficients where nothing has a
// place. What the shader does with it could be anything then.
bool leaves_unseen(const shader_program& of);
// What takes a claim's limits back, one by one: kinds, scales, what it is without. `omits` is the mistake
// that the limit took out.
std::vector<move> moves_that_widen(const shader_program& of);

// A specular term that is nothing where no light falls, where the claimed formula is not.
std::vector<move> moves_that_gate(const shader_program& of);

// Every light in one space; and whole readings to begin from.
std::vector<move> moves_of_space();
std::vector<move> starting_points(const guessed_bindings& guessed);

// Moves by how likely they are.
struct move_lists {
    std::vector<move> spaces; // every light in one space
    std::vector<move> starts; // whole readings to begin from: a space and a sign for every light at once
    std::vector<move> open;   // of names that say nothing
    std::vector<move>
        usual; // those, what is asked of any program, and of names that could be taken for others
    std::vector<move> twins;    // of names that could be taken for others: what those are
    std::vector<move> unlikely; // formulas, what a claim leaves out, names that mean what they do not say
};
move_lists all_moves(const guessed_bindings& guessed);

} // namespace yurvo::inline v0_1::program
