// choices: which model, which terms, how they are put together: what a scene says of its shading, as plain
// data.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string_view>
#include <vector>

#include "yurvo/numeric/rgb.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// In the order of model_list.
enum class model_kind : std::uint8_t { unlit, lambert, phong, blinn_phong, cel };

/// What is known of a model besides its formula (models.hpp).
struct model_descriptor {
    model_kind kind{};          ///< which
    std::string_view name;      ///< in files and messages
    bool lit = true;            ///< it looks at lights at all
    bool sums_terms = true;     ///< ambient and diffuse light are terms of its colour
    bool specular = true;       ///< so is specular light
    bool looks_at_eye = true;   ///< its colour depends on v
    bool fragment_only = false; ///< it is evaluated per fragment only
};

/// The models, in the order of the enum.
inline constexpr std::array model_list{
    model_descriptor{.kind = model_kind::unlit,
                     .name = "unlit",
                     .lit = false,
                     .sums_terms = false,
                     .specular = false,
                     .looks_at_eye = false},
    model_descriptor{
        .kind = model_kind::lambert, .name = "lambert", .specular = false, .looks_at_eye = false},
    model_descriptor{.kind = model_kind::phong, .name = "phong"},
    model_descriptor{.kind = model_kind::blinn_phong, .name = "blinn-phong"},
    model_descriptor{.kind = model_kind::cel,
                     .name = "cel",
                     .sums_terms = false,
                     .specular = false,
                     .fragment_only = true},
};

/// Of that model.
constexpr const model_descriptor& descriptor_of(model_kind kind) {
    return model_list[static_cast<std::size_t>(kind)];
}

/// How the ambient term joins diffuse light: added, or the greater of both counts.
enum class ambient_rule : std::uint8_t { add, max };

/// Which terms are summed; a term left out contributes zero.
struct term_choice {
    bool ambient = true, diffuse = true, specular = true, emission = true; ///< whether each term is added

    friend bool operator==(const term_choice&, const term_choice&) = default;
};

/// The terms, in the order in which a picture is built up.
enum class term : std::uint8_t { ambient, diffuse, specular, emission };

/// A term and its name.
struct term_descriptor {
    term kind{};                         ///< which
    std::string_view name;               ///< as commands and files write it
    bool term_choice::*chosen = nullptr; ///< its member in a choice
};

/// The terms, in the order of the enum.
inline constexpr std::array term_list{
    term_descriptor{term::ambient, "ambient", &term_choice::ambient},
    term_descriptor{term::diffuse, "diffuse", &term_choice::diffuse},
    term_descriptor{term::specular, "specular", &term_choice::specular},
    term_descriptor{term::emission, "emission", &term_choice::emission},
};

/// How the terms are put together, the same for every point of a picture.
template <class Scalar> struct finish_settings {
    rgb<Scalar> ambient_light;             ///< ambient.color · ambient.strength
    ambient_rule rule = ambient_rule::add; ///< how the ambient term joins the rest
    term_choice terms;                     ///< those that are added
};

/// The model `cel`: flat bands of the base colour, chosen by how much light falls on the surface.
struct cel_settings {
    std::vector<double> thresholds{0.3, 0.8}; ///< strictly ascending
    std::vector<rgb<double>> bands{rgb<double>(0.2), rgb<double>(0.6),
                                   rgb<double>(1.0)}; ///< one more than thresholds
    double outline = 0.2;                             ///< where n·v is less, outline_color is used
    rgb<double> outline_color{0, 0, 0};               ///< linear

    friend bool operator==(const cel_settings&, const cel_settings&) = default;
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
