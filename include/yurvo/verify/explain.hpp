// explain: why a pixel has its colour, every number on the way.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/mistakes.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// What one light does at one point.
struct explained_light {
    std::string name;             ///< `lights[2]` where it has none
    light_kind kind{};            ///< directional, point or spot
    falloff_kind falloff_law{};   ///< over distance
    penumbra_kind penumbra_law{}; ///< over the angle in the cone
    vec3<double> whole;           ///< from the point to the light, metres; directional: to_light
    vec3<double> to_light;        ///< l, unit
    double distance = 0;          ///< metres; infinity for a directional light
    double cosine = 0;            ///< n·l, not clamped
    double falloff = 1;           ///< factor, 0 to 1 or above
    double cone_cosine = 1;       ///< cos θ; of a spot
    double penumbra = 1;          ///< factor, 0 to 1
    rgb<double> arriving;         ///< E
    vec3<double> half;            ///< h, unit
    vec3<double> reflected;       ///< r
    double highlight_cosine = 0;  ///< n·h, or r·v for phong; not clamped
    double highlight = 0;         ///< max(that, 0)^shininess, after the gate
    double gradient = 0;          ///< of cel: this light's share of it
    double ambient_factor = 1;    ///< F: what its ambient part falls off by
    rgb<double> ambient;          ///< its parts of the final colour
    rgb<double> diffuse;          ///< of it, linear
    rgb<double> specular;         ///< of it, linear
};

/// A formula of one's own, asked at one point.
struct explained_formula {
    std::string name;          ///< its key
    std::string light;         ///< which light it was asked for; empty where it is asked once
    std::string text;          ///< as it is written
    std::vector<double> value; ///< one number, or three
    /// What a formula was given.
    struct input {
        std::string name;          ///< as formulas write it
        std::vector<double> value; ///< one number, or three
    };
    std::vector<input> inputs; ///< what it asked for, each once
};

/// One evaluation of the model.
struct explained_point {
    vec3<double> position;    ///< world, metres
    vec3<double> normal;      ///< n, unit
    double normal_length = 0; ///< before it was normalised
    vec3<double> to_eye;      ///< v, unit
    double eye_distance = 0;  ///< metres
    /// Linear: the terms as they are in the final colour; ambient without the lights' parts.
    ///@{
    rgb<double> base, ambient, emission;
    ///@}
    std::vector<explained_light> lights;     ///< in the scene's order
    rgb<double> more;                        ///< what the formula `more` added
    bool failed = false;                     ///< a formula gave no finite number: the point is black
    std::vector<explained_formula> formulas; ///< in the order in which they were asked
    double gradient = 0;                     ///< of cel: clamped
    int band = -1;                           ///< of cel; −1 where it is outlined
    rgb<double> color;                       ///< all terms
};

/// A vertex and its part in a pixel.
struct explained_vertex {
    double weight = 0;  ///< of its colour in the pixel's
    explained_point at; ///< worked out there
};

/// How a pixel got its colour.
struct explanation {
    std::optional<std::size_t> object; ///< index in the scene; nothing where the pixel shows the background
    std::size_t material = 0;          ///< index in the scene
    std::string object_name, material_name; ///< as people read them
    yurvo::rate rate = rate::fragment;      ///< where it is lit
    model_descriptor model;                 ///< what lit it; of a model of yours as much of it as is known
    bool own_model = false;                 ///< a C++ one lights
    std::uint32_t triangle = 0;             ///< of the object; 0 for a field
    bool front = true;                      ///< it faces the eye
    bool turned = false;                    ///< its normals were negated: two-sided and seen from behind
    bool textured = false;                  ///< by the material's image
    rgb<double> texel{1, 1, 1};             ///< linear; 1 without a texture
    explained_point point; ///< where the model is evaluated; at rate vertex: at the pixel, with the
                           /// terms blended from the vertices
    std::vector<explained_vertex> vertices; ///< the triangle's three at rate vertex
    rgb<double> linear;                     ///< as it leaves the model
    double alpha = 1;                       ///< 0 to 1
    std::array<std::uint8_t, 3> encoded{};  ///< as a PNG has it
    std::array<bool, 3> clamped{};          ///< beyond what a code can hold
};

/// What the pixel (x, y) of a valid scene's picture shows, and why; x and y within the view.
/// Of a model of yours its terms as they are reflected; what it worked out on the way is its own.
explanation explain(const scene& the_scene, int x, int y, const renderer& by = built_in_renderer());

/// One number that, changed alone, would give another colour.
struct needed_change {
    std::string what;   ///< `lantern's diffuse`, `all light of lantern`, `ambient`, `the whole colour`
    double factor = 1;  ///< what it would have to be multiplied by
    std::string number; ///< which number of the explanation would do that, `n·l`; may be empty
    double is = 0, would_be = 0; ///< the number, and what it would have to be
};

/// What, changed alone, would give the colour that was found in its place: every number whose change fits all
/// three components at once. Empty where none does, or where the colours agree.
std::vector<needed_change> changes_needed(const explanation& explained, const rgb<double>& found,
                                          pixel_format held);

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
