// window: what `view` shows, painted by Dear ImGui, whatever puts it on a screen or into a file.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/live/workspace.hpp"

namespace yurvo::app {

enum class panel : std::uint8_t { lights, objects, scene, formulas, pixel, verdict };
constexpr std::array<const char*, 6> panel_names{"lights",   "objects", "scene",
                                                 "formulas", "pixel",   "verdict"};

// What shows a picture: ImGui's ImTextureID.
using shown_texture = void*;

// A part of the window, in points.
struct box {
    float left = 0, top = 0, width = 0, height = 0;
    [[nodiscard]] float right() const { return left + width; }
    [[nodiscard]] float bottom() const { return top + height; }
};

class window {
    live::workspace& on_;
    panel panel_;
    bool dark_;
    bool help_ = false;
    bool ends_ = false;
    bool switch_panel_ = true; // to panel_, at the next frame
    float wipe_ = 0.5F;
    std::optional<live::handle> dragged_; // what follows the mouse
    bool pressed_ = false, moved_ = false, wiping_ = false;
    std::array<int, 2> pinned_{-1, -1};
    std::string pinned_text_;
    std::uint64_t pinned_revision_ = 0;
    std::string said_; // of saving
    bool asks_name_ = false, name_is_taken_ = false;
    std::array<char, 512> name_{}; // to save as
    box area_;                     // of the picture
    float scale_ = 1, density_ = 1;
    study::curves curves_; // of the chosen light
    std::uint64_t curves_revision_ = 0;
    std::optional<std::size_t> curves_light_;

    void number(const char* label, const std::string& place, double is, double low, double high,
                bool curved = false);
    void color(const char* label, const std::string& place, const rgb<double>& is);
    void triple(const char* label, const std::string& place, const vec3<double>& is, float speed);
    void step_of_item();
    void top_bar(const box& in);
    void model_choice();
    void terms_choice(float end);
    void status_bar(const box& in);
    void picture_area(const box& in, shown_texture main, shown_texture beside);
    void mouse_on_picture();
    void handles();
    void one_handle(const live::handle& each);
    void wipe_line(float x);
    void side_label(const std::string& name, float at, bool left) const;
    void hint() const;
    void lights_panel();
    void one_light(std::size_t i);
    void curves_of(std::size_t light);
    void objects_panel();
    void one_object(std::size_t i);
    void materials();
    void scene_panel();
    void beside_choice();
    void costs();
    void formulas_panel();
    void pixel_panel();
    void verdict_panel();
    void mistakes_of(const live::verdict& found);
    void makeup_of(const live::verdict& found);
    void all_scenes();
    void keys_panel();
    void name_panel();
    void save();
    void save_as();
    [[nodiscard]] std::array<double, 2> pixel_at(float x, float y) const; // of the picture, from points
    [[nodiscard]] std::array<float, 2> point_at(double x, double y) const;
    [[nodiscard]] box room() const; // for the picture

  public:
    explicit window(live::workspace& on, panel first = panel::lights, bool dark = true);

    // The style and the font; once, before the first frame. `scale`: how large all is; `density`: pixels for
    // a point, of screens that have more.
    void set_up(float scale, float density = 1);
    // How many pixels the picture gets, in a window of the size that ImGui knows.
    [[nodiscard]] std::array<int, 2> picture_pixels() const;
    // One frame, between ImGui::NewFrame() and ImGui::Render().
    void frame(shown_texture main, shown_texture beside);
    // A key that went down, by SDL's number. Told as it comes: one that goes up again before the next frame
    // counts too.
    void key(int code, bool ctrl, bool shift);
    void pin(int x, int y);
    [[nodiscard]] bool ends() const { return ends_; }
};

} // namespace yurvo::app
