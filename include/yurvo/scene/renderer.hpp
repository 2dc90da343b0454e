// renderer: whatever draws scenes: the pipeline under a built-in model, a model of one's own, a model with a
// mistake in it, a shader program in the driver.
#pragma once

#include <array>
#include <cstdint>
#include <exception>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/picture/pixel_format.hpp"
#include "yurvo/scene/scene.hpp"
#include "yurvo/shading/point_model.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// How a scene is to be drawn.
struct draw_settings {
    term_choice terms; ///< which terms the picture holds
    int threads = 0;   ///< at most so many; 0 is as many as the machine has. The picture is the same.
};

/// What drawing a picture took. All 0 where a renderer cannot tell.
struct draw_statistics {
    std::uint64_t evaluations = 0; ///< how often the model was run
    std::uint64_t pixels = 0;      ///< that show an object
    /// How often a formula gave no finite number, by its place (formulas::slot_list): what was being
    /// evaluated is black.
    std::array<std::uint64_t, formulas::slot_count> not_finite{};
    /// Seconds, added up over the threads.
    double vertex_seconds =
        0; ///< moved, projected, triangles sorted into tiles; at rates vertex and face, lit
    double visibility_seconds = 0; ///< coverage and depth
    double shading_seconds = 0;    ///< pixels interpolated, lit and written
};

/// What a renderer's own arithmetic and rasteriser make of a right picture beyond the rounding of a float.
struct tolerance_model {
    double precision = 1; ///< how many times as large as unit roundoff its errors are, ≥ 1
    double snap = 0;      ///< pixels by which the places where attributes are evaluated may be off
    double texel = 0;     ///< relative rounding of what a texture gives, beyond a float's
    double angle = 0; ///< radians by which an angle that it takes of a cosine may be off, at a cone's border
    /// The world normals are made unit at the vertices, before they are interpolated; or only at each
    /// fragment.
    bool unit_at_vertices = true;
    /// It works each triangle's normal out by differences between pixels, which rounds more the nearer they
    /// are.
    bool normals_by_derivatives = false;

    friend bool operator==(const tolerance_model&, const tolerance_model&) = default;
};

/// A scene as a renderer can draw it: what it does not take is left out or replaced.
struct fitted_scene {
    std::optional<scene> fitted;      ///< nothing where nothing is left to show
    std::vector<std::string> changes; ///< what was fitted, a line each
    std::string skipped;              ///< why nothing was left
};

/// Thrown by a renderer that cannot draw a scene, a shader written for one lamp that is asked for two.
struct cannot_draw : std::exception {
    /// The message.
    [[nodiscard]] const char* what() const noexcept override {
        return "the renderer does not take this scene";
    }
};

/// A scene drawn again and again, as someone does who turns it.
class repeated_drawing {
  public:
    virtual ~repeated_drawing() = default;
    /// The picture lives until the next call.
    virtual const picture& draw() = 0;
    /// Of the last picture.
    [[nodiscard]] virtual draw_statistics statistics() const = 0;
};

/// Whatever draws scenes.
class renderer {
  public:
    renderer() = default;
    renderer(const renderer&) = delete;
    renderer(renderer&&) = delete;
    renderer& operator=(const renderer&) = delete;
    renderer& operator=(renderer&&) = delete;
    virtual ~renderer() = default;

    /// Draws a valid scene at the rate that it asks for, at its view's size: linear, unclamped. Throws
    /// cannot_draw, or yurvo::error.
    [[nodiscard]] virtual picture draw(const scene& the_scene, const draw_settings& settings = {},
                                       draw_statistics* statistics = nullptr) const = 0;

    /// The same scene again and again. A renderer that keeps nothing draws it anew each time.
    [[nodiscard]] virtual std::unique_ptr<repeated_drawing> repeat(const scene& the_scene,
                                                                   const draw_settings& settings) const;

    /// What draws, for people: `phong`, `wrapped`, `phong by lantern.toml`.
    [[nodiscard]] virtual std::string name_for(const scene& the_scene) const;

    /// Whether its pictures are to be those of the scene's own model. If not, only relations between pictures
    /// are known to hold.
    [[nodiscard]] virtual bool claims_scene_model() const { return true; }

    /// The rates at which it can draw a scene, from the coarsest to the finest.
    [[nodiscard]] virtual std::vector<rate> rates_for(const scene& the_scene) const;

    /// The scene as it can draw it: as it is, where nothing has to be fitted.
    [[nodiscard]] virtual fitted_scene fit(const scene& the_scene) const { return {the_scene, {}, ""}; }

    /// How it gives its colours, and how far right ones may be off.
    [[nodiscard]] virtual pixel_format format() const { return pixel_format::floats; }
    /// By how much its pictures may be off against what it claims to equal.
    [[nodiscard]] virtual tolerance_model tolerance() const { return {}; }

    /// Its model at one point, where that is not the one that the scene names; else null.
    [[nodiscard]] virtual const point_model* own_model() const { return nullptr; }

    /// The machine's part that draws, where it is not this program: a driver's name. Empty otherwise.
    [[nodiscard]] virtual std::string drawn_by() const { return ""; }
};

/// The C++ model by which a renderer draws a scene: its own, or the one that the scene names; null under a
/// built-in one.
const point_model* own_model_of(const scene& the_scene, const renderer& by);

/// Anything that draws a scene, as a renderer: a function of yours, for checks and studies.
class function_renderer final : public renderer {
    std::function<picture(const scene&)> draw_;

  public:
    /// From a function that gives the scene's picture, linear.
    explicit function_renderer(std::function<picture(const scene&)> draw) : draw_(std::move(draw)) {}

    /// All terms, whatever the settings ask for.
    [[nodiscard]] picture draw(const scene& the_scene, const draw_settings& settings = {},
                               draw_statistics* statistics = nullptr) const override;
};

/// The rates at which a scene can be drawn at all: `cel`, fields, and textures under a formula for `color`
/// are per fragment only.
std::vector<rate> possible_rates(const scene& the_scene);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
