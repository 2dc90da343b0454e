// written_vectors: texts of formulas in the making, and which of a model's vectors stand in them.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace yurvo::inline v0_1::program {

// Where the light is: formulas have no name for it.
inline constexpr const char* lamp_place = "LAMP";
// Where the light shines, along its axis, whichever way round: the way to the light of a directional one.
inline constexpr const char* light_axis = "AXIS";
// What turns places and directions into another space's. Formulas are of vectors, in whatever space those
// are.
inline constexpr const char* matrix_to_world = "TO_WORLD";
inline constexpr const char* matrix_to_view = "TO_VIEW";
bool is_matrix(const std::string& text);
// A place or a direction behind matrices: seen from the eye where those lead there.
std::string transformed(const std::string& text);
// The way between a point and the light, of its whole length.
inline constexpr const char* to_light = "(l * d)";
inline constexpr const char* from_light = "(-l * d)";

// Whether a text has one of the names: `n|l`.
bool has_word(const std::string& text, const char* names);
// A name, a number, a call or what stands in brackets already.
bool is_one(const std::string& text);
std::string in_brackets(const std::string& text);
// Directions and places, and nothing that is a colour.
bool is_of_places(const std::string& text);
// The same, and no number; where the light is, too.
bool is_place_or_direction(const std::string& text);
// Of the ways between a point and a light, where there is a shorter text for them.
std::string simplified(const std::string& made);

// The products and lengths of vectors as the models have them, whatever the text does with those: a vector
// that is turned round or not of length 1 is a mistake for the catalogue, and no formula. Nothing where no
// model has such a product.
std::optional<std::string> dot_of(const std::string& a, const std::string& b);
std::optional<std::string> length_of(const std::string& vector);
// What a light's colour is multiplied by, where a text is a product of both, without its falloff: `(base +
// shine) * dot(n, l)` of `(base + shine) * (?color / (d * d)) * dot(n, l)`. Nothing where something else is
// unknown.
std::optional<std::string> share_of_light(const std::string& added);

// What of a product is of the distance: `a * a` of `color * a * a * cosine`; nothing where one factor or none
// is.
std::optional<std::string> distances_in(const std::string& product);
// What a text adds up, sums within sums too: `a`, `b` and `c` of `a + (b + c)`. The text itself where it is
// no sum.
std::vector<std::string> summands_of(const std::string& text);
// The factors of what falls off with the distance and with the angle to a spot's axis alike, each for itself:
// those with `d`, those with `cos_theta`. Nothing where one knows of both.
std::optional<std::pair<std::string, std::string>> distance_and_angle(const std::string& text);
// Whether it follows how a surface is turned to the eye, and knows of no light: a rim.
bool is_of_the_eye_alone(const std::string& text);
// Whether a vector stands in a formula but in those.
bool holds_other_vectors(const std::string& formula);

} // namespace yurvo::inline v0_1::program
