// formula_set: the formulas that take the places of parts of a model, as text and parsed: which places there
// are, what each gives and what it knows.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "yurvo/formula/expression.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::formulas {

/// Where a formula may stand, in the order in which they are asked.
enum class slot : std::uint8_t { l, v, h, r, falloff, penumbra, diffuse, specular, ambient, more, color };

/// A place in a model that a formula may take.
struct slot_descriptor {
    slot which{};              ///< the place
    std::string_view name;     ///< its key in files
    bool may_be_number = true; ///< a float will do
    bool may_be_vector = true; ///< a vec3 will do
    bool of_light = true;      ///< asked for each light; else once
    std::string_view replaces; ///< what stands there otherwise, for people
};

/// The places, in the order of the enum.
inline constexpr std::array slot_list{
    slot_descriptor{slot::l, "l", false, true, true, "the unit vector to the light"},
    slot_descriptor{slot::v, "v", false, true, true, "the unit vector to the eye"},
    slot_descriptor{slot::h, "h", false, true, true, "normalize(l + v)"},
    slot_descriptor{slot::r, "r", false, true, true, "2(n·l)n − l"},
    slot_descriptor{slot::falloff, "falloff", true, false, true, "the light's falloff"},
    slot_descriptor{slot::penumbra, "penumbra", true, false, true, "the light's penumbra"},
    slot_descriptor{slot::diffuse, "diffuse", true, true, true, "max(n·l, 0)"},
    slot_descriptor{slot::specular, "specular", true, true, true, "the model's highlight, with its gate"},
    slot_descriptor{slot::ambient, "ambient", true, true, false, "1: times all ambient light"},
    slot_descriptor{slot::more, "more", false, true, false, "nothing: added once"},
    slot_descriptor{slot::color, "color", false, true, false, "c, the sum of all terms"},
};
/// How many there are.
inline constexpr std::size_t slot_count = slot_list.size();

/// Of that place.
constexpr const slot_descriptor& descriptor_of(slot which) {
    return slot_list[static_cast<std::size_t>(which)];
}
/// The place with that key; nothing where there is none.
std::optional<slot> slot_named(std::string_view name);

/// What formulas know, in world space; the numbers of one's own follow, from input_count on.
enum class input : std::uint8_t {
    n,
    l,
    v,
    h,
    r,
    position,
    eye,
    axis,
    base,
    light,
    light_color,
    coefficients,
    material_ambient,
    material_diffuse,
    material_specular,
    emission,
    d,
    range,
    cos_theta,
    cos_inner,
    cos_outer,
    inner,
    outer,
    exponent,
    shininess,
    pi,
    front,
    c,
};

/// How often an input changes: never in a scene, with the material, the light, the point, or with both.
enum class varies : std::uint8_t { never, by_material, by_light, by_point, by_point_and_light };

/// A name that formulas know.
struct input_descriptor {
    input which{};          ///< what it is
    std::string_view name;  ///< as formulas write it
    value_type type;        ///< number or vector
    varies how{};           ///< what it changes with
    std::string_view means; ///< for people
};

/// The type of a vector or colour.
inline constexpr value_type vec3_type{3, false};
/// The type of a number.
inline constexpr value_type float_type{1, false};

/// The names, in the order of the enum.
inline constexpr std::array input_list{
    input_descriptor{input::n, "n", vec3_type, varies::by_point, "the unit normal"},
    input_descriptor{input::l, "l", vec3_type, varies::by_point_and_light, "to the light, unit"},
    input_descriptor{input::v, "v", vec3_type, varies::by_point, "to the eye, unit"},
    input_descriptor{input::h, "h", vec3_type, varies::by_point_and_light, "normalize(l + v)"},
    input_descriptor{input::r, "r", vec3_type, varies::by_point_and_light, "2(n·l)n − l"},
    input_descriptor{input::position, "position", vec3_type, varies::by_point, "the point, metres"},
    input_descriptor{input::eye, "eye", vec3_type, varies::never, "the view's eye, metres"},
    input_descriptor{input::axis, "axis", vec3_type, varies::never,
                     "towards the viewer along the view's axis, unit"},
    input_descriptor{input::base, "base", vec3_type, varies::by_point, "the base colour"},
    input_descriptor{input::light, "light", vec3_type, varies::by_point_and_light, "E, what arrives"},
    input_descriptor{input::light_color, "light_color", vec3_type, varies::by_light, "color · intensity"},
    input_descriptor{input::coefficients, "coefficients", vec3_type, varies::by_light, "k0, k1, k2"},
    input_descriptor{input::material_ambient, "material_ambient", vec3_type, varies::by_material,
                     "the material's ambient factor"},
    input_descriptor{input::material_diffuse, "material_diffuse", vec3_type, varies::by_material,
                     "the material's diffuse factor"},
    input_descriptor{input::material_specular, "material_specular", vec3_type, varies::by_material,
                     "the material's specular factor"},
    input_descriptor{input::emission, "emission", vec3_type, varies::by_material, "the material's emission"},
    input_descriptor{input::d, "d", float_type, varies::by_point_and_light,
                     "the distance to the light, metres; 0 of a directional one"},
    input_descriptor{input::range, "range", float_type, varies::by_light, "the light's range, metres"},
    input_descriptor{input::cos_theta, "cos_theta", float_type, varies::by_point_and_light,
                     "of the angle to a spot's axis"},
    input_descriptor{input::cos_inner, "cos_inner", float_type, varies::by_light, "of a spot's inner angle"},
    input_descriptor{input::cos_outer, "cos_outer", float_type, varies::by_light, "of a spot's outer angle"},
    input_descriptor{input::inner, "inner", float_type, varies::by_light, "a spot's inner angle, radians"},
    input_descriptor{input::outer, "outer", float_type, varies::by_light, "a spot's outer angle, radians"},
    input_descriptor{input::exponent, "exponent", float_type, varies::by_light, "a spot's exponent"},
    input_descriptor{input::shininess, "shininess", float_type, varies::by_material,
                     "the material's shininess"},
    input_descriptor{input::pi, "pi", float_type, varies::never, "π"},
    input_descriptor{input::front, "front", {1, true}, varies::by_point, "the triangle faces the eye"},
    input_descriptor{input::c, "c", vec3_type, varies::by_point, "the sum of all terms"},
};
/// How many there are.
inline constexpr std::size_t input_count = input_list.size();

/// Of that input.
constexpr const input_descriptor& descriptor_of(input which) {
    return input_list[static_cast<std::size_t>(which)];
}
/// The place of its value, for steps that read it.
constexpr std::uint32_t index_of(input which) { return static_cast<std::uint32_t>(which); }

/// A number of one's own, of one to four components, finite.
struct named_number {
    std::string name;           ///< as formulas write it
    std::vector<double> values; ///< one number, or three

    friend bool operator==(const named_number&, const named_number&) = default;
};

/// The formulas as they are written; empty where the model's own stands.
struct formula_texts {
    std::array<std::string, slot_count> of; ///< each place's text; empty where the model's own formula stays

    /// The text of a place.
    [[nodiscard]] const std::string& operator[](slot which) const {
        return of[static_cast<std::size_t>(which)];
    }
    /// The text of a place, to be changed.
    [[nodiscard]] std::string& operator[](slot which) { return of[static_cast<std::size_t>(which)]; }
    /// Whether a formula stands there.
    [[nodiscard]] bool has(slot which) const { return !(*this)[which].empty(); }
    /// Whether a formula stands anywhere.
    [[nodiscard]] bool any() const {
        for (const std::string& each : of) {
            if (!each.empty()) {
                return true;
            }
        }
        return false;
    }

    friend bool operator==(const formula_texts&, const formula_texts&) = default;
};

/// The formulas parsed.
struct formula_set {
    std::array<std::optional<expression>, slot_count>
        of;                            ///< each place's expression; none where the model's own formula stays
    std::vector<named_number> numbers; ///< what `numbers` of the scene give

    /// The expression of a place.
    [[nodiscard]] const std::optional<expression>& operator[](slot which) const {
        return of[static_cast<std::size_t>(which)];
    }
    /// Whether a formula stands there.
    [[nodiscard]] bool has(slot which) const { return (*this)[which].has_value(); }
    /// Whether any of them asks for it.
    [[nodiscard]] bool uses(input which) const;
};

/// What is wrong with one of several formulas.
class fault_in_formula : public fault_in_text {
  public:
    slot where; ///< the place it was written for
    /// A fault in the text of that place.
    fault_in_formula(slot which, const fault_in_text& fault) : fault_in_text(fault), where(which) {}
};

/// Throws fault_in_formula where one does not parse, is of a wrong type, or asks for what it does not know.
formula_set parse_all(const formula_texts& texts, const std::vector<named_number>& numbers);

/// What is wrong with a name for a number of one's own: empty where nothing is.
std::string fault_in_number_name(std::string_view name);

} // namespace yurvo::inline v0_1::formulas
#pragma GCC visibility pop
