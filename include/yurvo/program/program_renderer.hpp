// program_renderer: a user's shader, drawn by the system's OpenGL driver, off screen.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "yurvo/program/program_stopped.hpp"
#include "yurvo/scene/renderer.hpp"
#include "yurvo/scene/shader_program.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// It claims the model and the rate that its program file says; its pictures are linear (decoded where the
/// program encodes).
class program_renderer final : public renderer {
    struct parts;
    std::unique_ptr<parts> parts_;

    explicit program_renderer(std::unique_ptr<parts> made);

  public:
    /// Starts the driver, compiles, links, and looks up every name. Throws yurvo::error with the place in the
    /// program file or the source, missing_error without a driver, program_stopped where compiling does not
    /// end.
    explicit program_renderer(shader_program the_program);
    ~program_renderer() override;

    /// The same stages, compiled once, under another claim and other bindings. Throws as the constructor
    /// does.
    [[nodiscard]] std::unique_ptr<program_renderer> with_claim(shader_program changed) const;

    /// What it draws with.
    [[nodiscard]] const shader_program& program() const;
    [[nodiscard]] const std::vector<std::string>& remarks() const; ///< what is declared and unused
    /// Lines for the program file that would say what is not bound is meant not to be there.
    [[nodiscard]] std::vector<std::string> advice() const;
    /// The uniforms that mean quantities and of which no other value changes a picture of one of these
    /// scenes, which were fitted: what the shader does with them is not looked at there. Throws as draw()
    /// does.
    [[nodiscard]] std::vector<std::string> names_without_effect(const std::vector<scene>& scenes) const;
    /// By how many codes of 255 the precisions that the source declares change a picture that was drawn, at
    /// the most; 0 where the driver ignores them. Beyond two, nothing can be said of the shader as it is
    /// written.
    [[nodiscard]] int codes_off_by_precision() const;

    /// Of a scene that was fitted. A program draws all terms: what is not asked for is taken out of the
    /// scene. Throws program_stopped, and cannot_draw where the scene does not suit the program.
    [[nodiscard]] picture draw(const scene& the_scene, const draw_settings& settings = {},
                               draw_statistics* statistics = nullptr) const override;
    [[nodiscard]] fitted_scene fit(const scene& the_scene) const override;
    [[nodiscard]] std::string name_for(const scene& the_scene) const override;
    [[nodiscard]] std::vector<rate> rates_for(const scene& the_scene) const override;
    [[nodiscard]] pixel_format format() const override;
    /// By the driver's own numbers: see the source.
    [[nodiscard]] tolerance_model tolerance() const override;
    [[nodiscard]] std::string drawn_by() const override; ///< the driver's name
};

/// Drivers run in processes of their own, which are copies of this one. Where this one is to use a driver
/// itself, as a window does, they must be copies of what it was before: call this first. Once is enough.
void prepare_driver_processes();

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
