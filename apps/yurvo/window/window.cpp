#include "window/window.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>

#include <SDL_scancode.h>
#include <fmt/format.h>
#include <imgui.h>

#include "yurvo/files/toml_edit.hpp"
#include "yurvo/report/fonts.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::app {

namespace {

constexpr float bar_height = 46;
constexpr float status_height = 28;
constexpr float panel_width = 404;

constexpr ImGuiWindowFlags fixed = ImGuiWindowFlags_NoTitleBar | ImGuiWindowFlags_NoResize |
                                   ImGuiWindowFlags_NoMove | ImGuiWindowFlags_NoCollapse |
                                   ImGuiWindowFlags_NoSavedSettings | ImGuiWindowFlags_NoBringToFrontOnFocus;

ImVec4 rgb(unsigned hex, float alpha = 1) {
    return {static_cast<float>((hex >> 16U) & 0xFFU) / 255, static_cast<float>((hex >> 8U) & 0xFFU) / 255,
            static_cast<float>(hex & 0xFFU) / 255, alpha};
}

struct palette {
    ImVec4 ground, raised, field, line, text, faint, accent, good, bad;
};
const palette& colors(bool dark) {
    static const palette night{rgb(0x0D131D), rgb(0x151E2C), rgb(0x22304A), rgb(0x2C3B55), rgb(0xE8EDF5),
                               rgb(0x93A1B8), rgb(0xF2B75C), rgb(0x7FD6A0), rgb(0xFF8A7A)};
    static const palette day{rgb(0xF3F5F9), rgb(0xFFFFFF), rgb(0xE2E8F1), rgb(0xC3CCDA), rgb(0x17202E),
                             rgb(0x5B687C), rgb(0xB06F00), rgb(0x19794A), rgb(0xB3261E)};
    return dark ? night : day;
}

void begin_bar(const char* name, float x, float y, float width, float height) {
    ImGui::SetNextWindowPos({x, y});
    ImGui::SetNextWindowSize({width, height});
    ImGui::Begin(name, nullptr, fixed | ImGuiWindowFlags_NoScrollbar | ImGuiWindowFlags_NoScrollWithMouse);
}

// A button that is one of several, the chosen one in the accent's colour.
bool choice(const char* label, bool chosen, bool dark) {
    const palette& all = colors(dark);
    ImGui::PushStyleColor(ImGuiCol_Button, chosen ? all.accent : all.field);
    ImGui::PushStyleColor(ImGuiCol_ButtonHovered, chosen ? all.accent : all.line);
    ImGui::PushStyleColor(ImGuiCol_Text, chosen ? (dark ? all.ground : all.raised) : all.text);
    const bool pressed = ImGui::Button(label);
    ImGui::PopStyleColor(3);
    return pressed;
}

// Lines that are as wide as the panel.
void words(const std::string& text, const ImVec4& color) {
    ImGui::PushStyleColor(ImGuiCol_Text, color);
    ImGui::PushTextWrapPos(0);
    ImGui::TextUnformatted(text.data(), text.data() + text.size());
    ImGui::PopTextWrapPos();
    ImGui::PopStyleColor();
}

void heading(const char* text) {
    ImGui::Spacing();
    ImGui::TextDisabled("%s", text);
    ImGui::Separator();
}

// A line of an explanation: `  name   value   what it comes from`, the last below the value.
void worked_line(const std::string& line, const palette& all) {
    if (line.empty()) {
        return;
    }
    if (line[0] != ' ') {
        heading(line.c_str());
        return;
    }
    std::array<std::string, 3> parts;
    std::size_t at = line.find_first_not_of(' ');
    for (std::size_t i = 0; i < parts.size() && at != std::string::npos; ++i) {
        const std::size_t gap = i + 1 < parts.size() ? line.find("  ", at) : std::string::npos;
        parts[i] = line.substr(at, gap == std::string::npos ? gap : gap - at);
        at = gap == std::string::npos ? gap : line.find_first_not_of(' ', gap);
    }
    ImGui::TextColored(all.faint, "%s", parts[0].c_str());
    ImGui::SameLine(84);
    ImGui::BeginGroup();
    words(parts[1], all.text);
    if (!parts[2].empty()) {
        words(parts[2], all.faint);
    }
    ImGui::EndGroup();
}

std::string light_place(std::size_t i) { return "lights[" + std::to_string(i) + "]."; }

double degrees_of(double angle) { return angle * 180 / pi; }

} // namespace

window::window(live::workspace& on, panel first, bool dark) : on_(on), panel_(first), dark_(dark) {}

std::array<int, 2> window::picture_size(int width, int height) {
    return {std::max(64, width - static_cast<int>(panel_width)),
            std::max(64, height - static_cast<int>(bar_height + status_height))};
}

void window::set_up(float scale) {
    ImGuiIO& io = ImGui::GetIO();
    io.IniFilename = nullptr; // nothing is written behind the user's back
    const std::string_view font = report::text_font();
    ImFontConfig config;
    config.FontDataOwnedByAtlas = false;
    static const ImWchar letters[] = {0x20,   0xFF,  0x2010, 0x2027, 0x2190, 0x21FF, 0x2200,
                                      0x22FF, 0x3B8, 0x3C0,  0x3A3,  0x3A3,  0};
    // ImGui takes bytes that it may change, and does not.
    io.Fonts->AddFontFromMemoryTTF(const_cast<char*>(font.data()), static_cast<int>(font.size()), // NOLINT
                                   16.5F * scale, &config, letters);
    ImGuiStyle& style = ImGui::GetStyle();
    style.WindowRounding = 0;
    style.FrameRounding = 5;
    style.GrabRounding = 5;
    style.TabRounding = 5;
    style.PopupRounding = 6;
    style.WindowBorderSize = 0;
    style.WindowPadding = {14, 9};
    style.FramePadding = {9, 5};
    style.ItemSpacing = {8, 7};
    style.ScaleAllSizes(scale);
}

void window::step_of_item() {
    if (ImGui::IsItemActivated()) {
        on_.edited().begin_step();
    }
    if (ImGui::IsItemDeactivated()) {
        on_.edited().end_step();
    }
}

void window::number(const char* label, const std::string& place, double is, double low, double high,
                    bool curved) {
    auto value = static_cast<float>(is);
    ImGui::SetNextItemWidth(-120);
    if (ImGui::SliderFloat(label, &value, static_cast<float>(low), static_cast<float>(high), "%.3g",
                           curved ? ImGuiSliderFlags_Logarithmic : ImGuiSliderFlags_None)) {
        on_.edited().apply(live::set_number(place, std::stod(fmt::format("{:.4g}", value))));
    }
    step_of_item();
}

void window::color(const char* label, const std::string& place, const yurvo::rgb<double>& is) {
    std::array<float, 3> value{static_cast<float>(is.r), static_cast<float>(is.g), static_cast<float>(is.b)};
    ImGui::SetNextItemWidth(-120);
    if (ImGui::ColorEdit3(label, value.data(), ImGuiColorEditFlags_Float | ImGuiColorEditFlags_HDR)) {
        const auto kept = [](float x) { return std::stod(fmt::format("{:.4g}", std::max(0.0F, x))); };
        on_.edited().apply(live::set_numbers(place, {kept(value[0]), kept(value[1]), kept(value[2])}));
    }
    step_of_item();
}

void window::triple(const char* label, const std::string& place, const vec3<double>& is, float speed) {
    std::array<float, 3> value{static_cast<float>(is.x), static_cast<float>(is.y), static_cast<float>(is.z)};
    ImGui::SetNextItemWidth(-120);
    if (ImGui::DragFloat3(label, value.data(), speed, 0, 0, "%.2f")) {
        const auto kept = [](float x) { return std::stod(fmt::format("{:.4f}", x)); };
        on_.edited().apply(live::set_numbers(place, {kept(value[0]), kept(value[1]), kept(value[2])}));
    }
    step_of_item();
}

void window::save() {
    try {
        if (on_.edited().file().empty()) {
            const std::string name = save_name_.empty() ? on_.edited().name() + "-mine.toml" : save_name_;
            on_.edited().save_as(name);
            said_ = "saved as " + name;
        } else {
            on_.edited().save();
            said_ = "saved: " + on_.edited().file();
        }
    } catch (const error& wrong) {
        said_ = wrong.what();
    }
}

void window::key(int code, bool ctrl, bool shift) {
    if (ctrl) {
        if (code == SDL_SCANCODE_Z && !shift) {
            on_.edited().undo();
        } else if (code == SDL_SCANCODE_Y || code == SDL_SCANCODE_Z) {
            on_.edited().redo();
        } else if (code == SDL_SCANCODE_S) {
            save();
        } else if (code == SDL_SCANCODE_Q) {
            ends_ = true;
        }
        return;
    }
    if (ImGui::GetIO().WantTextInput) {
        return;
    }
    static constexpr std::array rates{"face", "vertex", "fragment"};
    if (code >= SDL_SCANCODE_1 && code <= SDL_SCANCODE_3) {
        on_.edited().apply(
            live::set_text("shading.rate", rates[static_cast<std::size_t>(code - SDL_SCANCODE_1)]));
    } else if (code == SDL_SCANCODE_F) {
        on_.fit();
    } else if (code == SDL_SCANCODE_T) {
        dark_ = !dark_;
    } else if (code == SDL_SCANCODE_SLASH && shift) {
        help_ = !help_;
    } else if (code == SDL_SCANCODE_ESCAPE) {
        help_ = false;
        on_.set_beside(live::beside_kind::nothing);
    } else if (code == SDL_SCANCODE_TAB) {
        panel_ = static_cast<panel>((static_cast<std::size_t>(panel_) + 1) % panel_names.size());
        switch_panel_ = true;
    }
}

void window::top_bar(float width, float height) {
    begin_bar("bar", 0, 0, width, height);
    ImGui::AlignTextToFramePadding();
    const live::document& edited = on_.edited();
    ImGui::TextUnformatted((edited.name() + (edited.changed() ? " *" : "")).c_str());
    ImGui::SameLine(0, 24);
    static constexpr std::array rates{"face", "vertex", "fragment"};
    const scene& shown = edited.shown();
    for (const char* each : rates) {
        if (choice(each, name_of(shown.shading.rate) == each, dark_)) {
            on_.edited().apply(live::set_text("shading.rate", each));
        }
        ImGui::SameLine(0, 4);
    }
    ImGui::SameLine(0, 20);
    ImGui::SetNextItemWidth(130);
    const std::string model(name_of(on_.edited().shown().shading.model));
    if (ImGui::BeginCombo("##model", model.c_str())) {
        for (const std::string_view name : all_names<model_kind>()) {
            if (name != "cel" && ImGui::Selectable(std::string(name).c_str(), name == model)) {
                on_.edited().apply(live::set_text("shading.model", std::string(name)));
            }
        }
        ImGui::EndCombo();
    }
    term_choice terms = on_.terms();
    for (const term_descriptor& each : term_list) {
        ImGui::SameLine(0, each.kind == term::ambient ? 20.0F : 8.0F);
        ImGui::Checkbox(std::string(each.name).c_str(), &(terms.*each.chosen));
    }
    on_.set_terms(terms);
    const float buttons = 232;
    ImGui::SameLine(std::max(ImGui::GetCursorPosX() + 12, width - buttons));
    ImGui::BeginDisabled(!edited.can_undo());
    if (ImGui::Button("undo")) {
        on_.edited().undo();
    }
    ImGui::EndDisabled();
    ImGui::SameLine(0, 4);
    ImGui::BeginDisabled(!edited.can_redo());
    if (ImGui::Button("redo")) {
        on_.edited().redo();
    }
    ImGui::EndDisabled();
    ImGui::SameLine(0, 4);
    if (choice("save", edited.changed(), dark_)) {
        save();
    }
    ImGui::SameLine(0, 4);
    if (ImGui::Button(" ? ")) {
        help_ = !help_;
    }
    ImGui::End();
}

void window::status_bar(float width, float top, float height) {
    begin_bar("status", 0, top, width, height);
    const live::screen_picture& shown = on_.picture();
    const palette& all = colors(dark_);
    std::string left = fmt::format("{}x{}   drawn in {:.1f} ms, encoded in {:.1f} ms", shown.width,
                                   shown.height, shown.draw_milliseconds, shown.encode_milliseconds);
    ImGui::SetCursorPosY(4);
    if (on_.edited().fault()) {
        ImGui::TextColored(all.bad, "%s", on_.edited().fault()->c_str());
    } else {
        ImGui::TextColored(all.faint, "%s", left.c_str());
        if (!said_.empty()) {
            ImGui::SameLine(0, 24);
            ImGui::TextColored(all.good, "%s", said_.c_str());
        }
    }
    ImGui::End();
}

void window::mouse_on_picture() {
    const ImGuiIO& io = ImGui::GetIO();
    const float x = io.MousePos.x - area_[0];
    const float y = io.MousePos.y - area_[1];
    const bool over = ImGui::IsItemHovered();
    const bool beside = on_.beside() != live::beside_kind::nothing;
    if (over && ImGui::IsMouseClicked(ImGuiMouseButton_Left)) {
        pressed_ = true;
        moved_ = false;
        wiping_ = beside && std::abs(x - wipe_ * area_[2]) < 10;
        if (!wiping_) {
            dragged_ = on_.light_at(x, y);
            if (dragged_ && on_.hold_light(*dragged_, x, y)) {
                chosen_ = dragged_;
            }
            on_.edited().begin_step();
        }
    }
    if (over &&
        (ImGui::IsMouseClicked(ImGuiMouseButton_Right) || ImGui::IsMouseClicked(ImGuiMouseButton_Middle))) {
        on_.edited().begin_step();
    }
    if (pressed_ && ImGui::IsMouseDown(ImGuiMouseButton_Left)) {
        const bool moving = io.MouseDelta.x != 0 || io.MouseDelta.y != 0;
        moved_ = moved_ || ImGui::IsMouseDragging(ImGuiMouseButton_Left, 3);
        if (wiping_) {
            wipe_ = std::clamp(x / area_[2], 0.0F, 1.0F);
        } else if (moving && moved_ && dragged_) {
            on_.drag_held(x, y,
                          io.KeyShift  ? live::drag_along::height
                          : io.KeyCtrl ? live::drag_along::view
                                       : live::drag_along::ground);
        } else if (moving && moved_) {
            on_.orbit(-0.006 * io.MouseDelta.x, 0.006 * io.MouseDelta.y);
        }
    }
    if (pressed_ && ImGui::IsMouseReleased(ImGuiMouseButton_Left)) {
        if (!moved_ && !wiping_ && !dragged_) {
            pin(static_cast<int>(x), static_cast<int>(y));
            panel_ = panel::pixel;
            switch_panel_ = true;
        }
        pressed_ = wiping_ = false;
        dragged_.reset();
        on_.edited().end_step();
    }
    const bool panning = ImGui::IsMouseDragging(ImGuiMouseButton_Right, 0) ||
                         ImGui::IsMouseDragging(ImGuiMouseButton_Middle, 0);
    if (over && panning && (io.MouseDelta.x != 0 || io.MouseDelta.y != 0)) {
        on_.pan(io.MouseDelta.x, io.MouseDelta.y);
    }
    if (ImGui::IsMouseReleased(ImGuiMouseButton_Right) || ImGui::IsMouseReleased(ImGuiMouseButton_Middle)) {
        on_.edited().end_step();
    }
    if (over && io.MouseWheel != 0) {
        on_.zoom(std::pow(0.9, io.MouseWheel));
    }
}

void window::pin(int x, int y) {
    pinned_ = {x, y};
    pinned_revision_ = 0;
}

void window::wipe_line(float x) {
    ImDrawList* draw = ImGui::GetWindowDrawList();
    const float top = area_[1];
    const float bottom = area_[1] + area_[3];
    const ImU32 color = ImGui::GetColorU32(colors(dark_).accent);
    draw->AddLine({x, top}, {x, bottom}, color, 2);
    const float middle = (top + bottom) / 2;
    draw->AddCircleFilled({x, middle}, 11, color);
    draw->AddTriangleFilled({x - 3, middle - 4}, {x - 3, middle + 4}, {x - 8, middle},
                            ImGui::GetColorU32(rgb(0x10151F)));
    draw->AddTriangleFilled({x + 3, middle - 4}, {x + 3, middle + 4}, {x + 8, middle},
                            ImGui::GetColorU32(rgb(0x10151F)));
}

// What a side of the wipe line shows, at its top.
void window::side_label(const std::string& name, float at, bool left) const {
    const ImVec2 size = ImGui::CalcTextSize(name.c_str());
    const float from = left ? at - size.x - 16 : at;
    const float top = area_[1] + 12;
    ImDrawList* draw = ImGui::GetWindowDrawList();
    draw->AddRectFilled({from, top}, {from + size.x + 16, top + size.y + 10}, IM_COL32(8, 12, 20, 190), 5);
    draw->AddText({from + 8, top + 5}, IM_COL32(240, 244, 250, 255), name.c_str());
}

void window::picture_area(shown_texture main, shown_texture beside) {
    ImGui::PushStyleVar(ImGuiStyleVar_WindowPadding, {0, 0});
    begin_bar("picture", area_[0], area_[1], area_[2], area_[3]);
    ImGui::PopStyleVar();
    ImGui::SetCursorPos({0, 0});
    ImGui::InvisibleButton("picture", {area_[2], area_[3]},
                           ImGuiButtonFlags_MouseButtonLeft | ImGuiButtonFlags_MouseButtonRight |
                               ImGuiButtonFlags_MouseButtonMiddle);
    mouse_on_picture();
    ImDrawList* draw = ImGui::GetWindowDrawList();
    const ImVec2 low{area_[0], area_[1]};
    const ImVec2 high{area_[0] + area_[2], area_[1] + area_[3]};
    draw->AddImage(main, low, high);
    if (on_.beside() != live::beside_kind::nothing) {
        const float at = area_[0] + wipe_ * area_[2];
        if (beside != nullptr) {
            draw->AddImage(beside, {at, low.y}, high, {wipe_, 0}, {1, 1});
        } else {
            draw->AddRectFilled({at, low.y}, high, ImGui::GetColorU32(colors(dark_).ground));
            draw->AddText(nullptr, 0, {at + 24, low.y + 24}, ImGui::GetColorU32(colors(dark_).faint),
                          on_.beside_fault().c_str(), nullptr, std::max(120.0F, high.x - at - 48));
        }
        wipe_line(at);
        using enum live::beside_kind;
        const std::string name = on_.beside() == subject
                                     ? (on_.verified().program.empty() ? "the picture" : "the shader")
                                 : on_.beside() == mistake ? on_.mistake_beside()
                                 : on_.beside() == face    ? "face"
                                 : on_.beside() == vertex  ? "vertex"
                                                           : "fragment";
        side_label("right", at - 12, true);
        side_label(name, at + 12, false);
    }
    for (const live::light_marker& each : on_.markers()) {
        if (!each.in_front) {
            continue;
        }
        const ImVec2 at{low.x + static_cast<float>(each.x), low.y + static_cast<float>(each.y)};
        const bool chosen = chosen_ == each.light;
        const named_light& lamp = on_.edited().shown().lights[each.light];
        const auto shade = [](double x) { return static_cast<float>(std::clamp(x, 0.15, 1.0)); };
        draw->AddCircleFilled(at, chosen ? 8.0F : 6.0F,
                              ImGui::GetColorU32({shade(lamp.light.color.r), shade(lamp.light.color.g),
                                                  shade(lamp.light.color.b), 1}));
        draw->AddCircle(at, chosen ? 11.0F : 7.0F, IM_COL32(8, 12, 20, 220), 0, 2);
        if (chosen) {
            draw->AddCircle(at, 13, ImGui::GetColorU32(colors(true).accent), 0, 2);
        }
        const std::string label = label_of(lamp, each.light);
        const float wide = ImGui::CalcTextSize(label.c_str()).x;
        const float left = at.x + 14 + wide > high.x ? at.x - 16 - wide : at.x + 14;
        draw->AddText({left + 1, at.y - 9}, IM_COL32(8, 12, 20, 200), label.c_str());
        draw->AddText({left, at.y - 10}, IM_COL32(240, 244, 250, 255), label.c_str());
    }
    if (pinned_[0] >= 0 && panel_ == panel::pixel) {
        const ImVec2 at{low.x + static_cast<float>(pinned_[0]) + 0.5F,
                        low.y + static_cast<float>(pinned_[1]) + 0.5F};
        const ImU32 accent = ImGui::GetColorU32(colors(true).accent);
        draw->AddLine({at.x - 12, at.y}, {at.x - 4, at.y}, accent, 2);
        draw->AddLine({at.x + 4, at.y}, {at.x + 12, at.y}, accent, 2);
        draw->AddLine({at.x, at.y - 12}, {at.x, at.y - 4}, accent, 2);
        draw->AddLine({at.x, at.y + 4}, {at.x, at.y + 12}, accent, 2);
    }
    if (!on_.edited().can_undo() && !help_) { // nothing has been done yet
        const char* hint =
            "Drag a lamp along the ground; with Shift up and down.\n"
            "Drag elsewhere to walk around, wheel to come nearer, click a pixel to work it by hand.";
        const ImVec2 size = ImGui::CalcTextSize(hint);
        const ImVec2 from{low.x + 16, high.y - size.y - 30};
        draw->AddRectFilled(from, {from.x + size.x + 24, from.y + size.y + 16}, IM_COL32(8, 12, 20, 170), 6);
        draw->AddText({from.x + 12, from.y + 8}, IM_COL32(240, 244, 250, 255), hint);
    }
    ImGui::End();
}

void window::one_light(std::size_t i) {
    const named_light lamp = on_.edited().shown().lights[i];
    const std::string at = light_place(i);
    ImGui::PushID(static_cast<int>(i));
    const bool directional = lamp.light.kind == light_kind::directional;
    if (!directional) {
        triple("position", at + "position", lamp.light.position, 0.01F);
    }
    if (lamp.light.kind != light_kind::point) {
        triple("shines", at + "shines", lamp.light.shines, 0.01F);
    }
    color("color", at + "color", lamp.light.color);
    number("intensity", at + "intensity", lamp.light.intensity, 0,
           std::max(2.0, 4 * std::ceil(lamp.light.intensity)));
    if (!directional) {
        const std::string law(name_of(lamp.light.falloff));
        ImGui::SetNextItemWidth(-120);
        if (ImGui::BeginCombo("falloff", law.c_str())) {
            for (const std::string_view name : all_names<falloff_kind>()) {
                if (ImGui::Selectable(std::string(name).c_str(), name == law)) {
                    std::vector<live::edit> edits{live::set_text(at + "falloff", std::string(name))};
                    edits.push_back(name == "linear" || name == "windowed"
                                        ? live::set_number(at + "range", std::max(lamp.light.range, 5.0))
                                        : live::edit{at + "range", ""});
                    edits.push_back(name == "polynomial"
                                        ? live::set_numbers(at + "coefficients", {1, 0.1, 0.2})
                                        : live::edit{at + "coefficients", ""});
                    on_.edited().apply_all(edits);
                }
            }
            ImGui::EndCombo();
        }
        if (law == "linear" || law == "windowed") {
            number("range", at + "range", lamp.light.range, 0.1, 30);
        }
        if (law == "polynomial") {
            const std::array<double, 3>& k = lamp.light.coefficients;
            triple("coefficients", at + "coefficients", {k[0], k[1], k[2]}, 0.005F);
        }
    }
    if (lamp.light.kind == light_kind::spot) {
        const bool has_inner =
            lamp.light.penumbra != penumbra_kind::hard && lamp.light.penumbra != penumbra_kind::power;
        if (has_inner) {
            number("inner", at + "inner", degrees_of(lamp.light.inner), 0, degrees_of(lamp.light.outer));
        }
        number("outer", at + "outer", degrees_of(lamp.light.outer),
               has_inner ? std::max(1.0, degrees_of(lamp.light.inner)) : 1.0, 90);
    }
    if (ImGui::TreeNode("parts")) {
        color("ambient", at + "ambient", lamp.light.ambient);
        color("diffuse", at + "diffuse", lamp.light.diffuse);
        color("specular", at + "specular", lamp.light.specular);
        ImGui::TreePop();
    }
    if (ImGui::Button("remove")) {
        on_.edited().apply({"lights[" + std::to_string(i) + "]", ""});
        chosen_.reset();
    }
    ImGui::PopID();
}

void window::lights_panel() {
    for (std::size_t i = 0; i < on_.edited().shown().lights.size(); ++i) {
        const named_light& lamp = on_.edited().shown().lights[i];
        const std::string label =
            label_of(lamp, i) + "   " + std::string(name_of(lamp.light.kind)) + "##" + std::to_string(i);
        const bool open = chosen_ == i;
        if (ImGui::Selectable(label.c_str(), open)) {
            chosen_ = open ? std::nullopt : std::optional<std::size_t>(i);
        }
        if (open) {
            ImGui::Indent(10);
            one_light(i);
            ImGui::Unindent(10);
            ImGui::Separator();
        }
    }
    ImGui::Spacing();
    const view of = on_.edited().shown().view;
    const std::size_t next = on_.edited().shown().lights.size();
    const auto add = [&](const std::string& body) {
        if (on_.edited().apply({"lights[]", body})) {
            chosen_ = next;
        }
    };
    const std::string place = toml_numbers({of.target.x, of.target.y + 1.5, of.target.z + 0.5});
    if (ImGui::Button("+ lamp")) {
        add("kind = \"point\"\nposition = " + place + "\ncolor = [1.0, 0.8, 0.55]\nintensity = 3.0\n");
    }
    ImGui::SameLine();
    if (ImGui::Button("+ spot")) {
        add("kind = \"spot\"\nposition = " + toml_numbers({of.target.x, of.target.y + 4, of.target.z + 2}) +
            "\nshines = [0.0, -2.0, -1.0]\ninner = 12.0\nouter = 20.0\nintensity = 20.0\n");
    }
    ImGui::SameLine();
    if (ImGui::Button("+ moon")) {
        add("kind = \"directional\"\nshines = [-0.4, -1.0, -0.5]\ncolor = [0.6, 0.7, 1.0]\nintensity = "
            "0.5\n");
    }
}

void window::scene_panel() {
    heading("ambient light");
    color("color", "ambient.color", on_.edited().shown().ambient_color);
    number("strength", "ambient.strength", on_.edited().shown().ambient_strength, 0, 1);
    heading("view");
    triple("eye", "view.eye", on_.edited().shown().view.eye, 0.02F);
    triple("target", "view.target", on_.edited().shown().view.target, 0.02F);
    number("fov", "view.fov", degrees_of(on_.edited().shown().view.fov), 10, 100);
    color("background", "view.background", on_.edited().shown().view.background);
    heading("beside the picture");
    using enum live::beside_kind;
    const auto one = [&](const char* label, live::beside_kind kind) {
        if (choice(label, on_.beside() == kind, dark_)) {
            on_.set_beside(on_.beside() == kind ? nothing : kind);
        }
    };
    one("face", face);
    ImGui::SameLine();
    one("vertex", vertex);
    ImGui::SameLine();
    one("fragment", fragment);
    if (!on_.verified().program.empty() || !on_.verified().picture.empty()) {
        ImGui::SameLine();
        one(on_.verified().program.empty() ? "the picture" : "the shader", live::beside_kind::subject);
    }
    ImGui::SetNextItemWidth(-1);
    const std::string label =
        on_.beside() == mistake ? "mistake: " + on_.mistake_beside() : std::string("a mistake ...");
    if (ImGui::BeginCombo("##mistake", label.c_str(), ImGuiComboFlags_HeightLarge)) {
        for (const verify::mistake_entry& each : verify::all_mistakes()) {
            if (verify::applies(each.which, on_.edited().shown()) && !verify::is_of_codes(each.which) &&
                ImGui::Selectable(std::string(each.id).c_str(), on_.mistake_beside() == each.id)) {
                on_.set_beside(mistake, std::string(each.id));
            }
        }
        ImGui::EndCombo();
    }
    if (on_.beside() != nothing) {
        if (const live::screen_picture* other = on_.picture_beside()) {
            words(fmt::format("The picture took {:.1f} ms, what stands beside it {:.1f} ms.",
                              on_.picture().draw_milliseconds, other->draw_milliseconds),
                  colors(dark_).faint);
        }
    }
}

void window::materials_panel() {
    for (std::size_t i = 0; i < on_.edited().shown().materials.size(); ++i) {
        const named_material entry = on_.edited().shown().materials[i];
        if (entry.from_mesh ||
            !ImGui::TreeNodeEx(entry.name.c_str(), i == 0 ? ImGuiTreeNodeFlags_DefaultOpen : 0)) {
            continue;
        }
        const bool bare = entry.name.find_first_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
                                                       "0123456789_-") == std::string::npos;
        const std::string at = "materials." + (bare ? entry.name : "\"" + entry.name + "\"") + ".";
        color("base", at + "base", entry.look.base);
        color("ambient", at + "ambient", entry.look.ambient);
        color("diffuse", at + "diffuse", entry.look.diffuse);
        color("specular", at + "specular", entry.look.specular);
        number("shininess", at + "shininess", entry.look.shininess, 1, 512, true);
        color("emission", at + "emission", entry.look.emission);
        ImGui::TreePop();
    }
}

void window::formulas_panel() {
    const scene shown = on_.edited().shown();
    words("An expression in the place of a part of the model. What does not parse is told below and changes "
          "nothing; an empty line is the model's own.",
          colors(dark_).faint);
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        const std::string name(each.name);
        std::array<char, 1024> text{};
        const std::string& now = shown.formulas[each.which];
        std::memcpy(text.data(), now.data(), std::min(now.size(), text.size() - 1));
        ImGui::SetNextItemWidth(-80);
        if (ImGui::InputText(name.c_str(), text.data(), text.size())) {
            const std::string typed = text.data();
            on_.edited().apply(typed.empty() ? live::edit{"formulas." + name, ""}
                                             : live::set_text("formulas." + name, typed));
        }
        step_of_item();
    }
    if (!shown.numbers.empty()) {
        heading("numbers");
        for (const formulas::named_number& each : shown.numbers) {
            const std::string place = "numbers." + each.name;
            if (each.values.size() == 1) {
                number(each.name.c_str(), place, each.values[0], 0, std::max(1.0, 2 * each.values[0]));
            } else if (each.values.size() == 3) {
                color(each.name.c_str(), place, {each.values[0], each.values[1], each.values[2]});
            }
        }
    }
}

void window::pixel_panel() {
    if (pinned_[0] < 0) {
        words("Click a pixel: its colour is worked here by hand, from the normal to the encoded bytes.",
              colors(dark_).faint);
        return;
    }
    if (pinned_revision_ != on_.edited().revision()) {
        pinned_text_ = on_.explanation_text(pinned_[0], pinned_[1]);
        pinned_revision_ = on_.edited().revision();
    }
    if (pinned_text_.empty()) {
        words("Outside of the picture.", colors(dark_).faint);
        return;
    }
    for (std::size_t at = 0; at < pinned_text_.size();) {
        const std::size_t end = std::min(pinned_text_.find('\n', at), pinned_text_.size());
        worked_line(pinned_text_.substr(at, end - at), colors(dark_));
        at = end + 1;
    }
}

void window::verdict_panel() {
    const palette& all = colors(dark_);
    const live::subject& of = on_.verified();
    if (of.program.empty() && of.picture.empty()) {
        words("Nothing is verified. `yurvo view SCENE --program FILE` holds a shader of yours to this scene, "
              "`--picture FILE` a picture, and tells which mistake it holds at every save.",
              all.faint);
        return;
    }
    words(of.program.empty() ? of.picture : of.program, all.faint);
    const live::verdict* found = on_.judged();
    if (found == nullptr) {
        words("looking ...", all.faint);
        return;
    }
    using enum live::finding;
    words(found->line, found->what == right ? all.good : found->what == mistake ? all.bad : all.accent);
    if (on_.judging()) {
        words("looking again ...", all.faint);
    }
    if (found->what == right && found->used > 0) {
        words(fmt::format("At most {:.0f} % of the tolerance is used.", 100 * found->used), all.text);
    }
    for (const std::string& id : found->ids) {
        if (const verify::mistake_entry* entry = verify::find_mistake(id)) {
            heading(id.c_str());
            words(std::string(entry->what), all.text);
            words("Cause: " + std::string(entry->cause), all.faint);
            words("Fix: " + std::string(entry->fix), all.accent);
        }
    }
    if (found->what == mistake || found->what == unknown) {
        words(
            fmt::format("{} of {} compared pixels are off.", found->diagnosis.off, found->diagnosis.compared),
            all.text);
    }
    if (!found->diagnosis.makeup.empty()) {
        heading("make-up: 1 in a right picture");
        for (const verify::makeup_part& part : found->diagnosis.makeup) {
            const std::string label = (part.light.empty() ? "" : part.light + ", ") + part.term;
            ImGui::Text("%6.2f", part.factor);
            ImGui::SameLine(62);
            const ImVec2 from = ImGui::GetCursorScreenPos();
            const float high = ImGui::GetTextLineHeight();
            const float whole = 90; // twice what is right
            const auto share = static_cast<float>(std::clamp(part.factor / 2, 0.0, 1.0));
            ImDrawList* draw = ImGui::GetWindowDrawList();
            const bool as_it_should = std::abs(part.factor - 1) < 0.02;
            draw->AddRectFilled(from, {from.x + whole, from.y + high}, ImGui::GetColorU32(all.field), 3);
            draw->AddRectFilled(from, {from.x + share * whole, from.y + high},
                                ImGui::GetColorU32(as_it_should ? all.good : all.accent), 3);
            draw->AddLine({from.x + whole / 2, from.y - 2}, {from.x + whole / 2, from.y + high + 2},
                          ImGui::GetColorU32(all.text));
            ImGui::Dummy({whole, high});
            ImGui::SameLine(164);
            ImGui::TextUnformatted(label.c_str());
        }
    }
    if (!found->fits.empty() && ImGui::TreeNode("fitted to what it claims")) {
        for (const std::string& each : found->fits) {
            words(each, all.faint);
        }
        ImGui::TreePop();
    }
}

void window::keys_panel() {
    ImGui::SetNextWindowPos({area_[0] + area_[2] / 2, area_[1] + area_[3] / 2}, ImGuiCond_Always,
                            {0.5F, 0.5F});
    ImGui::Begin("keys", &help_,
                 ImGuiWindowFlags_AlwaysAutoResize | ImGuiWindowFlags_NoSavedSettings |
                     ImGuiWindowFlags_NoCollapse);
    static constexpr std::array<std::array<const char*, 2>, 14> all{
        {{"drag a lamp", "along the ground; Shift: up and down; Ctrl: across the view"},
         {"drag elsewhere", "walk around the target"},
         {"right button", "move across the view"},
         {"wheel", "nearer, farther"},
         {"click", "a pixel, worked by hand"},
         {"1  2  3", "per face, per vertex, per fragment"},
         {"F", "everything in view"},
         {"Tab", "the next panel"},
         {"T", "dark, light"},
         {"Ctrl Z, Ctrl Y", "one step back, forth"},
         {"Ctrl S", "save"},
         {"Esc", "nothing beside the picture"},
         {"?", "these keys"},
         {"Ctrl Q", "end"}}};
    if (ImGui::BeginTable("keys", 2)) {
        for (const auto& [key, means] : all) {
            ImGui::TableNextColumn();
            ImGui::TextColored(colors(dark_).accent, "%s", key);
            ImGui::TableNextColumn();
            ImGui::TextUnformatted(means);
        }
        ImGui::EndTable();
    }
    ImGui::End();
}

void window::frame(shown_texture main, shown_texture beside) {
    const palette& all = colors(dark_);
    dark_ ? ImGui::StyleColorsDark() : ImGui::StyleColorsLight();
    ImGuiStyle& style = ImGui::GetStyle();
    const std::array<std::pair<ImGuiCol_, ImVec4>, 19> chosen{{{ImGuiCol_Text, all.text},
                                                               {ImGuiCol_TextDisabled, all.faint},
                                                               {ImGuiCol_WindowBg, all.raised},
                                                               {ImGuiCol_PopupBg, all.raised},
                                                               {ImGuiCol_FrameBg, all.field},
                                                               {ImGuiCol_FrameBgHovered, all.line},
                                                               {ImGuiCol_FrameBgActive, all.line},
                                                               {ImGuiCol_Button, all.field},
                                                               {ImGuiCol_ButtonHovered, all.line},
                                                               {ImGuiCol_ButtonActive, all.accent},
                                                               {ImGuiCol_SliderGrab, all.accent},
                                                               {ImGuiCol_SliderGrabActive, all.accent},
                                                               {ImGuiCol_CheckMark, all.accent},
                                                               {ImGuiCol_Header, all.field},
                                                               {ImGuiCol_HeaderHovered, all.line},
                                                               {ImGuiCol_Separator, all.line},
                                                               {ImGuiCol_Tab, all.raised},
                                                               {ImGuiCol_TabActive, all.field},
                                                               {ImGuiCol_PlotHistogram, all.accent}}};
    for (const auto& [which, color] : chosen) {
        style.Colors[which] = color;
    }
    style.Colors[ImGuiCol_TabHovered] = all.line;
    style.Colors[ImGuiCol_TitleBgActive] = all.field;
    const ImVec2 size = ImGui::GetIO().DisplaySize;
    const auto [width, height] = picture_size(static_cast<int>(size.x), static_cast<int>(size.y));
    area_ = {0, bar_height, static_cast<float>(width), static_cast<float>(height)};
    top_bar(size.x, bar_height);
    picture_area(main, beside);
    begin_bar("panel", area_[2], bar_height, size.x - area_[2], area_[3]);
    ImGui::PushStyleVar(ImGuiStyleVar_FramePadding, {7, 5});
    ImGui::PushStyleVar(ImGuiStyleVar_ItemInnerSpacing, {1, 4});
    const bool tabs = ImGui::BeginTabBar("panels", ImGuiTabBarFlags_FittingPolicyScroll);
    ImGui::PopStyleVar(2);
    if (tabs) {
        static constexpr std::array shown{&window::lights_panel,    &window::scene_panel,
                                          &window::materials_panel, &window::formulas_panel,
                                          &window::pixel_panel,     &window::verdict_panel};
        const panel wanted = panel_;
        for (std::size_t i = 0; i < panel_names.size(); ++i) {
            const bool set = switch_panel_ && wanted == static_cast<panel>(i);
            ImGui::PushStyleVar(ImGuiStyleVar_FramePadding, {7, 5});
            const bool open =
                ImGui::BeginTabItem(panel_names[i], nullptr, set ? ImGuiTabItemFlags_SetSelected : 0);
            ImGui::PopStyleVar();
            if (open) {
                if (!switch_panel_) {
                    panel_ = static_cast<panel>(i);
                }
                ImGui::BeginChild("content");
                (this->*shown[i])();
                ImGui::EndChild();
                ImGui::EndTabItem();
            }
        }
        switch_panel_ = false;
        ImGui::EndTabBar();
    }
    ImGui::End();
    status_bar(size.x, bar_height + area_[3], status_height);
    if (help_) {
        keys_panel();
    }
}

} // namespace yurvo::app
