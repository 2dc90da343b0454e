// window: what `view` shows, painted by Dear ImGui, whatever puts it on a screen or into a file.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/live/workspace.hpp"

namespace yurvo::app {

enum class panel : std::uint8_t { lights, scene, materials, formulas, pixel, verdict };
constexpr std::array<const char*, 6> panel_names{"lights",   "scene", "materials",
                                                 "formulas", "pixel", "verdict"};

// What shows a picture: ImGui's ImTextureID.
using shown_texture = void*;

class window {
    live::workspace& on_;
    panel panel_;
    bool dark_;
    bool help_ = false;
    bool ends_ = false;
    bool switch_panel_ = true; // to panel_, at the next frame
    float wipe_ = 0.5F;
    std::optional<std::size_t> chosen_;  // a light
    std::optional<std::size_t> dragged_; // the same, while it follows the mouse
    bool pressed_ = false, moved_ = false, wiping_ = false;
    std::array<int, 2> pinned_{-1, -1};
    std::string pinned_text_;
    std::uint64_t pinned_revision_ = 0;
    std::string said_; // of saving
    std::string save_name_;
    std::array<float, 4> area_{}; // of the picture: left, top, width, height

    void number(const char* label, const std::string& place, double is, double low, double high,
                bool curved = false);
    void color(const char* label, const std::string& place, const rgb<double>& is);
    void triple(const char* label, const std::string& place, const vec3<double>& is, float speed);
    void step_of_item();
    void top_bar(float width, float height);
    void status_bar(float width, float top, float height);
    void picture_area(shown_texture main, shown_texture beside);
    void mouse_on_picture();
    void wipe_line(float x);
    void side_label(const std::string& name, float at, bool left) const;
    void lights_panel();
    void one_light(std::size_t i);
    void scene_panel();
    void materials_panel();
    void formulas_panel();
    void pixel_panel();
    void verdict_panel();
    void keys_panel();
    void save();

  public:
    explicit window(live::workspace& on, panel first = panel::lights, bool dark = true);

    // Where the picture goes, in a window of that size: its size in pixels.
    [[nodiscard]] static std::array<int, 2> picture_size(int width, int height);
    // The style and the font; once, before the first frame.
    void set_up(float scale);
    // One frame, between ImGui::NewFrame() and ImGui::Render().
    void frame(shown_texture main, shown_texture beside);
    // A key that went down, by SDL's number. Told as it comes: one that goes up again before the next frame
    // counts too.
    void key(int code, bool ctrl, bool shift);
    void choose_light(std::size_t light) { chosen_ = light; }
    void pin(int x, int y);
    [[nodiscard]] bool ends() const { return ends_; }
};

} // namespace yurvo::app
