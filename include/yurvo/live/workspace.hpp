// workspace: all that a window shows and changes, without the window.
#pragma once

#include <array>
#include <chrono>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/live/background.hpp"
#include "yurvo/live/document.hpp"
#include "yurvo/live/handles.hpp"
#include "yurvo/live/judge.hpp"
#include "yurvo/live/scene_round.hpp"
#include "yurvo/live/watched_files.hpp"
#include "yurvo/study/cost.hpp"
#include "yurvo/study/curves.hpp"
#include "yurvo/study/show.hpp"
#include "yurvo/verify/explain.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// What stands beside the picture, behind the wipe line.
enum class beside_kind : std::uint8_t { nothing, face, vertex, fragment, mistake, subject };

/// Codes for a screen, four bytes a pixel, and what making them took.
struct screen_picture {
    int width = 0, height = 0;       ///< pixels
    std::vector<std::uint8_t> bytes; ///< codes, red, green, blue, alpha, row by row from the top
    double draw_milliseconds = 0, encode_milliseconds = 0; ///< what drawing and encoding took
    std::uint64_t number = 0;                              ///< another one than before: it was drawn anew
};

/// As code_of() gives them, on all processors.
void encode_for_screen(const picture& from, std::vector<std::uint8_t>& bytes);

/// All that the window shows, without a window: a scene being changed, its picture, what stands beside it,
/// the verdict.
class workspace {
    document document_;
    const models* own_;
    subject subject_;
    std::optional<kept_program> program_; // of the judging thread alone, as the round is
    scene_round round_;
    watched_files files_;
    struct judged_now {
        std::uint64_t revision = 0;
        verdict about;
        round_state all;
    };
    background<judged_now> work_;
    std::optional<judged_now> judged_now_;
    std::uint64_t judged_ = 0; // the revision that the verdict is about, or will be
    bool all_scenes_ = false;
    term_choice terms_;
    std::optional<study::shown_part> part_;
    std::string part_fault_;
    beside_kind beside_ = beside_kind::nothing;
    std::string mistake_ = "normal-not-renormalized"; // beside
    bool difference_ = false;
    double difference_scale_ = 0;
    int width_ = 0, height_ = 0;
    std::uint64_t drawn_ = 0, drawn_beside_ = 0; // the state that was drawn last
    std::uint64_t look_ = 1;                     // grows with what is looked at
    screen_picture main_, other_;
    std::string beside_fault_;
    struct beside_picture {
        yurvo::picture drawn;
        double milliseconds = 0;
        double scale = 0; // of a difference
        std::string fault;
    };
    background<beside_picture> beside_work_;
    struct measured_costs {
        std::optional<study::cost> cost;
        std::string fault;
    };
    background<measured_costs> cost_work_;
    std::optional<measured_costs> costs_;
    bool costs_wanted_ = false;
    std::uint64_t costs_of_ = 0;  // the state that they are of, or will be
    std::uint64_t looked_at_ = 0; // the state at the last look
    std::chrono::steady_clock::time_point same_since_;
    std::optional<held_handle> held_;
    std::optional<std::size_t> light_, object_; // chosen

    // Of all that a picture depends on.
    [[nodiscard]] std::uint64_t state() const { return document_.revision() * 0x100000U + look_; }
    void draw_beside();
    void look_at_costs();
    [[nodiscard]] scene sized() const;
    void watch_files();
    void judge_again();

  public:
    /// Throws yurvo::error where the scene cannot be read.
    workspace(scene_source source, subject of, const models* own = nullptr);

    /// The scene that is being changed.
    [[nodiscard]] document& edited() { return document_; }
    /// The scene that is being changed.
    [[nodiscard]] const document& edited() const { return document_; }
    /// What is judged; empty where nothing is.
    [[nodiscard]] const subject& verified() const { return subject_; }
    /// The C++ models that the program was built with, or null.
    [[nodiscard]] const models* own_models() const { return own_; }

    /// What has come since: files that were saved, a verdict, figures. True where something has.
    bool look();

    /// The size of what is drawn, in pixels; the view's own where it is never set.
    void set_size(int width, int height);
    /// The largest size within another that has the shape of the picture that is verified; all of it where
    /// none is.
    [[nodiscard]] std::array<int, 2> fitting(int width, int height) const;
    /// The terms that are drawn.
    [[nodiscard]] const term_choice& terms() const { return terms_; }
    /// Draws these terms alone.
    void set_terms(const term_choice& terms);
    /// What is shown in the place of the light; nothing is the light. Of the cosine the chosen light's, or
    /// the first one's.
    [[nodiscard]] std::optional<study::shown_part> part() const { return part_; }
    /// Shows normals, depth and the like in place of the lit picture; none for the lit one.
    void set_part(std::optional<study::shown_part> part);
    [[nodiscard]] const std::string& part_fault() const { return part_fault_; } ///< why it cannot be shown
    /// What stands beside the picture.
    [[nodiscard]] beside_kind beside() const { return beside_; }
    /// The mistake's id; empty where it is not a mistake.
    [[nodiscard]] const std::string& mistake_beside() const { return mistake_; }
    /// Puts something beside the picture; the mistake's id where it is one.
    void set_beside(beside_kind kind, const std::string& mistake = "");
    /// Whether what stands beside is shown as its difference from the picture: blue where it is darker, amber
    /// where it is brighter.
    [[nodiscard]] bool difference() const { return difference_; }
    /// Shows the difference of both in place of the one beside.
    void set_difference(bool wanted);
    /// The luminance from which on its colours are full: 99 % of the pixels that differ do so by less.
    [[nodiscard]] double difference_scale() const { return difference_scale_; }

    /// Drawn where something has changed since.
    const screen_picture& picture();
    /// What stands beside it, in the same size; null where nothing does, or it cannot be drawn:
    /// beside_fault() says why.
    const screen_picture* picture_beside();
    /// Why nothing stands beside; empty where something does, or nothing was asked for.
    [[nodiscard]] const std::string& beside_fault() const { return beside_fault_; }

    /// What each rate costs in the picture's size: measured once nothing has changed for a moment, as long as
    /// that is wanted. Null before the first; costs_fault() says where it cannot be.
    void want_costs(bool wanted) { costs_wanted_ = wanted; }
    /// The costs, once they are measured; else null.
    [[nodiscard]] const study::cost* costs() const;
    /// Why they could not be measured; empty where they could.
    [[nodiscard]] std::string costs_fault() const { return costs_ ? costs_->fault : ""; }

    /// The last verdict; null where nothing is verified, or none has come.
    [[nodiscard]] const verdict* judged() const { return judged_now_ ? &judged_now_->about : nullptr; }
    /// Whether it is about what was before.
    [[nodiscard]] bool judging() const {
        return judged_ != 0 && (!judged_now_ || judged_now_->revision != judged_);
    }
    /// Whether a program is held to all reference scenes too, after the one that is shown.
    void want_all_scenes(bool wanted);
    /// As far as they were asked; null where none was.
    [[nodiscard]] const round_state* all_scenes() const {
        return judged_now_ && judged_now_->all.all > 0 ? &judged_now_->all : nullptr;
    }
    /// Until nothing is worked on in the background.
    void wait();

    /// The light whose values are open.
    [[nodiscard]] std::optional<std::size_t> chosen_light() const { return light_; }
    /// The object whose values are open.
    [[nodiscard]] std::optional<std::size_t> chosen_object() const { return object_; }
    /// Opens a light's values.
    void choose_light(std::optional<std::size_t> light);
    /// Opens an object's values.
    void choose_object(std::optional<std::size_t> object) { object_ = object; }

    /// What can be taken in the picture, in its size.
    [[nodiscard]] std::vector<handle> handles() const;
    /// Points of the circle that a handle draws, in pixels; of a cone's border.
    [[nodiscard]] std::vector<std::array<double, 2>> circle(const handle& of) const;
    /// Takes hold of one with the mouse at a pixel; false where it is behind the eye.
    bool hold(const handle& taken, double x, double y);
    /// Moves what is held as the mouse has gone since, as held_handle says. False where it cannot.
    bool drag_held(double x, double y, drag_along along);

    /// As in walk.hpp; false where nothing came of it.
    bool orbit(double around, double up);
    /// The distance to the target by a factor, nearer below 1; false where it would be too near.
    bool zoom(double factor);
    /// Moves eye and target by pixels of the picture; false where it cannot be.
    bool pan(double dx, double dy);
    /// The whole scene in the picture; false where it cannot be.
    bool fit();

    /// The pixel worked by hand, of the drawn size. Nothing outside of the picture.
    [[nodiscard]] std::optional<verify::explanation> explain(int x, int y) const;
    /// How the pixel got its colour, as `explain` says it.
    [[nodiscard]] std::string explanation_text(int x, int y) const;
    /// The laws of one light, as `curves` plots them; without points where it has none.
    [[nodiscard]] study::curves curves_of(std::size_t light) const;
};

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
