// workspace: all that a window shows and changes, without the window.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/live/background.hpp"
#include "yurvo/live/document.hpp"
#include "yurvo/live/judge.hpp"
#include "yurvo/live/watched_files.hpp"
#include "yurvo/verify/explain.hpp"

namespace yurvo::live {

/// How a light follows the mouse.
enum class drag_along : std::uint8_t { ground, height, view };

/// What stands beside the picture, behind the wipe line.
enum class beside_kind : std::uint8_t { nothing, face, vertex, fragment, mistake, subject };

/// A light in the picture.
struct light_marker {
    std::size_t light = 0;
    double x = 0, y = 0; ///< pixels from the top left
    bool in_front = false;
};

/// Codes for a screen, four bytes a pixel, and what making them took.
struct screen_picture {
    int width = 0, height = 0;
    std::vector<std::uint8_t> bytes;
    double draw_milliseconds = 0, encode_milliseconds = 0;
    std::uint64_t number = 0; ///< another one than before: it was drawn anew
};

/// As code_of() gives them, on all processors.
void encode_for_screen(const picture& from, std::vector<std::uint8_t>& bytes);

class workspace {
    document document_;
    const models* own_;
    subject subject_;
    std::optional<kept_program> program_;
    watched_files files_;
    background<verdict> work_;
    std::optional<verdict> verdict_;
    std::uint64_t judged_ = 0; // the revision that the verdict is about, or will be
    term_choice terms_;
    beside_kind beside_ = beside_kind::nothing;
    std::string mistake_ = "normal-not-renormalized"; // beside
    int width_ = 0, height_ = 0;
    std::uint64_t drawn_ = 0, drawn_beside_ = 0; // the state that was drawn last
    std::uint64_t look_ = 1;                     // grows with what is looked at
    screen_picture main_, other_;
    std::string beside_fault_;
    struct beside_picture {
        yurvo::picture drawn;
        double milliseconds = 0;
        std::string fault;
    };
    background<beside_picture> beside_work_;
    struct held_light {
        std::size_t light = 0;
        vec3<double> start;              // world
        double mouse_x = 0, mouse_y = 0; // when it was taken
        double marker_x = 0, marker_y = 0;
    };
    std::optional<held_light> held_;

    void draw_beside();

    [[nodiscard]] scene sized() const;
    void watch_files();
    void judge_again();

  public:
    /// Throws yurvo::error where the scene cannot be read.
    workspace(scene_source source, subject of, const models* own = nullptr);

    [[nodiscard]] document& edited() { return document_; }
    [[nodiscard]] const document& edited() const { return document_; }
    [[nodiscard]] const subject& verified() const { return subject_; }

    /// What has come since: files that were saved, a verdict. True where something has.
    bool look();

    /// The size of what is drawn, in pixels; the view's own where it is never set.
    void set_size(int width, int height);
    [[nodiscard]] const term_choice& terms() const { return terms_; }
    void set_terms(const term_choice& terms);
    [[nodiscard]] beside_kind beside() const { return beside_; }
    [[nodiscard]] const std::string& mistake_beside() const { return mistake_; }
    void set_beside(beside_kind kind, const std::string& mistake = "");

    /// Drawn where something has changed since.
    const screen_picture& picture();
    /// What stands beside it, in the same size; null where nothing does, or it cannot be drawn:
    /// beside_fault() says why.
    const screen_picture* picture_beside();
    [[nodiscard]] const std::string& beside_fault() const { return beside_fault_; }

    /// The last verdict; null where nothing is verified, or none has come.
    [[nodiscard]] const verdict* judged() const { return verdict_ ? &*verdict_ : nullptr; }
    [[nodiscard]] bool judging() { return work_.busy(); }
    /// Until nothing is worked on in the background.
    void wait();

    /// Where the lights with a place are.
    [[nodiscard]] std::vector<light_marker> markers() const;
    /// The light whose marker is nearest to a pixel, within some pixels.
    [[nodiscard]] std::optional<std::size_t> light_at(double x, double y, double within = 14) const;
    /// Takes hold of a light at a pixel; false where it has no place, or is behind the eye.
    bool hold_light(std::size_t light, double x, double y);
    /// Moves the light that is held as the mouse has gone since: along the ground (its height stays), up and
    /// down, or across the view (its depth stays). Where a level plane is seen edge-on it goes aside with the
    /// mouse, and to and fro as the mouse goes down and up. False where it cannot.
    bool drag_held(double x, double y, drag_along along);

    /// The eye around the target, by radians; nearer or farther by a factor; both moved across the view, by
    /// pixels.
    bool orbit(double around, double up);
    bool zoom(double factor);
    bool pan(double dx, double dy);
    /// Back or forth on the line from target to eye, and aside, so that all objects are seen.
    bool fit();

    /// The pixel worked by hand, of the drawn size. Nothing outside of the picture.
    [[nodiscard]] std::optional<verify::explanation> explain(int x, int y) const;
    [[nodiscard]] std::string explanation_text(int x, int y) const;
};

} // namespace yurvo::live
