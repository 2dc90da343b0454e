// subject: a user's shader, drawn by the system's OpenGL driver, off screen.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/program/program_stopped.hpp"
#include "yurvo/scene/shader_program.hpp"
#include "yurvo/verify/check.hpp"

namespace yurvo {

// A scene that a program can draw: what it claims not to take is left out or replaced.
struct fitted_scene {
    std::optional<scene> made;        // nothing where nothing is left to show
    std::vector<std::string> changes; // what was fitted, a line each
    std::string skipped;              // why nothing was made
};

class program_subject {
    struct parts;
    std::unique_ptr<parts> parts_;

  public:
    // Starts the driver, compiles, links, and looks up every name. Throws yurvo::error with the place in the
    // program file or the source, missing_error without a driver, program_stopped where compiling does not
    // end.
    explicit program_subject(shader_program given);
    ~program_subject();
    program_subject(program_subject&&) noexcept;
    program_subject& operator=(program_subject&&) noexcept;

    [[nodiscard]] const shader_program& program() const;
    [[nodiscard]] const std::vector<std::string>& remarks() const; // what is declared and unused
    [[nodiscard]] const std::string& driver() const;

    // Of a valid scene.
    [[nodiscard]] fitted_scene fit(const scene& given) const;

    // A scene that was fitted; linear colours (decoded where the program encodes). Throws program_stopped,
    // and verify::cannot_draw where the scene does not suit the program.
    [[nodiscard]] picture draw(const scene& fitted) const;

    // How far a right program's picture may be off, by the driver's own numbers: see the source.
    [[nodiscard]] verify::allowance allowed() const;
    [[nodiscard]] verify::precision held() const;

    // The reference scenes, or one scene, as this program is checked on them: at its rate, with its model,
    // fitted. What was fitted or skipped is told, a line for each.
    [[nodiscard]] std::vector<verify::check_unit> units(const verify::reference_scene& of,
                                                        std::vector<std::string>& told) const;
    [[nodiscard]] std::vector<verify::check_unit> units(const std::string& name, const scene& of,
                                                        std::vector<std::string>& told) const;
};

} // namespace yurvo
