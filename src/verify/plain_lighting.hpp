// plain_lighting: one point lit by angles and scalars, with the interval that float would leave.
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "verify/plain_formulas.hpp"
#include "verify/range.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::verify {

// The falloff at d > 0 metres, written again without looking at the pipeline's.
double falloff_of(const light& light, double d);

struct plain_light {
    light given;           // its place and direction in world space
    vec3<double> position; // the same, found without the pipeline's camera
    vec3<double> shines;   // unit
    double from_eye = 0;   // metres
    double angle_off = 0;  // radians by which a subject's angles may be off, beside rounding

    // Whether nothing arrives at a place, as that is beyond the range, farther than rounding may have moved
    // either end.
    [[nodiscard]] bool ends_before(const vec3<double>& place) const;
};

// What arrives: the brightness without colour, and how the light lies to the surface.
struct plain_arrival {
    range brightness;
    range ambient; // F: what the ambient part falls off by
    vec3<double> to_light;
    double to_light_error = 0;       // radians
    range falloff = 1, penumbra = 1; // by its laws
    range distance;                  // metres; 0 of a directional light
    range cos_theta = 1;             // of a spot
    bool there = true;               // the light is not at the point itself
};
// Laws that `own_falloff` and `own_penumbra` replace are not asked.
plain_arrival arrive_at(const plain_light& light, const vec3<double>& position, const vec3<double>& eye,
                        bool own_falloff = false, bool own_penumbra = false);

// Angles, and what float makes of them; `in_front` is where n·l > 0.
double angle_between(const vec3<double>& a, const vec3<double>& b);
vec3<double> direction_of(const vec3<double>& v);
// Of an angle in radians known to ± error.
range cosine_over(double angle, double error);
struct point_errors {
    double normal = 0, to_light = 0; // radians
};
struct plain_point;
range phong_highlight(const plain_point& point, const vec3<double>& to_light, const vec3<double>& to_eye,
                      const point_errors& errors, double shininess, const range& in_front);
range half_highlight(const plain_point& point, const vec3<double>& to_light, const vec3<double>& to_eye,
                     const point_errors& errors, double shininess, const range& in_front);

// The point to be lit.
struct plain_point {
    vec3<double> position;
    vec3<double> normal;     // unit, or zero
    double normal_error = 0; // radians by which float may have turned it
    range3 base;
    bool front = true; // the triangle faces the eye
};

struct plain_lit {
    range3 tinted, untinted;
};

class plain_lighting {
    const scene& scene_;
    std::vector<plain_light> lights_;

    struct light_sums {
        range3 diffuse, specular; // before the material's factors
        range gradient;           // without colour
    };
    // Over all lights, at a point whose normal is not zero.
    [[nodiscard]] light_sums sum_lights(const plain_point& point, const vec3<double>& to_eye,
                                        double shininess) const;

  public:
    explicit plain_lighting(const scene& the_scene, double angle_off = 0);

    // How each light's interval at a point comes about, a line each.
    [[nodiscard]] std::vector<std::string> derivation(const vec3<double>& position) const;

    [[nodiscard]] plain_lit light_point(const plain_point& point, const material& look) const;

  private:
    // Formulas of one's own, in plain_formula_lighting.cpp.
    std::array<std::optional<plain_formula>, formulas::slot_count> formulas_; // by their places
    bool by_formulas_ = false;                                                // some place has one
    plain_names constants_;                                                   // eye, axis, pi and the numbers
    bool v_of_the_eye_ = false;   // there is a formula for v that asks for nothing of a light
    std::uint64_t number_ = 0;    // no two have the same
    std::vector<char> asked_for_; // by names' numbers: some formula asks for it

    void read_formulas();
    [[nodiscard]] const std::optional<plain_formula>& of(formulas::slot place) const {
        return formulas_[static_cast<std::size_t>(place)];
    }
    [[nodiscard]] bool has(formulas::slot place) const { return of(place).has_value(); }
    struct formula_point;
    [[nodiscard]] bool asks_for(plain_name name) const {
        return name.number() < asked_for_.size() && asked_for_[name.number()] != 0;
    }
    [[nodiscard]] bool gives_directions_anew() const {
        using formulas::slot;
        return has(slot::l) || has(slot::v) || has(slot::h) || has(slot::r);
    }
    [[nodiscard]] plain_value asked(formulas::slot place, const plain_names& known, formula_point& at) const;
    void give_numbers_of(const plain_light& light, const plain_arrival& in, plain_names& known) const;
    void give_directions(plain_names& known, const vec3<double>& to_light, double to_light_error,
                         formula_point& at) const;
    [[nodiscard]] plain_value default_specular(const plain_names& known, formula_point& at) const;
    void add_light(const plain_light& light, formula_point& at) const;
    [[nodiscard]] plain_lit light_by_formulas(const plain_point& point, const material& look) const;
    // A C++ model, in plain_own_model.cpp.
    [[nodiscard]] plain_lit light_by_own_model(const plain_point& point, const material& look) const;
};

} // namespace yurvo::inline v0_1::verify
