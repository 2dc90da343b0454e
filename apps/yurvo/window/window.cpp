#include "window/window.hpp"

#include <algorithm>
#include <cmath>

#include <SDL_scancode.h>
#include <fmt/format.h>
#include <imgui.h>

#include "window/painting.hpp"
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

void begin_bar(const char* name, float x, float y, float width, float height) {
    ImGui::SetNextWindowPos({x, y});
    ImGui::SetNextWindowSize({width, height});
    ImGui::Begin(name, nullptr, fixed | ImGuiWindowFlags_NoScrollbar | ImGuiWindowFlags_NoScrollWithMouse);
}

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
                            ImGui::GetColorU32(hex_color(0x10151F)));
    draw->AddTriangleFilled({x + 3, middle - 4}, {x + 3, middle + 4}, {x + 8, middle},
                            ImGui::GetColorU32(hex_color(0x10151F)));
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
