#include "window/window.hpp"

#include <algorithm>
#include <cmath>
#include <filesystem>

#include <SDL_scancode.h>
#include <fmt/format.h>
#include <imgui.h>

#include "window/painting.hpp"
#include "yurvo/live/walk.hpp"
#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/report/fonts.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::app {

namespace {

constexpr float bar_height = 46; // in pixels at the font's own size
constexpr float status_height = 28;
constexpr float panel_width = 404;

} // namespace

window::window(live::workspace& on, panel first, bool dark) : on_(on), panel_(first), dark_(dark) {}

box window::room() const {
    const ImVec2 size = ImGui::GetIO().DisplaySize;
    const float top = bar_height * scale_;
    return {0, top, std::max(64.0F, size.x - panel_width * scale_),
            std::max(64.0F, size.y - top - status_height * scale_)};
}

std::array<int, 2> window::picture_pixels() const {
    const box in = room();
    return on_.fitting(static_cast<int>(in.width * density_), static_cast<int>(in.height * density_));
}

void window::set_up(float scale, float density) {
    scale_ = scale;
    density_ = density;
    ImGuiIO& io = ImGui::GetIO();
    io.IniFilename = nullptr; // nothing is written behind the user's back
    const std::string_view font = report::text_font();
    ImFontConfig config;
    config.FontDataOwnedByAtlas = false;
    static const ImWchar letters[] = {0x20,   0xFF,   0x2070, 0x209F, 0x2010, 0x2027, 0x2190, 0x21FF,
                                      0x2200, 0x22FF, 0x3B8,  0x3C0,  0x3A3,  0x3A3,  0};
    // ImGui takes bytes that it may change, and does not.
    io.Fonts->AddFontFromMemoryTTF(const_cast<char*>(font.data()), static_cast<int>(font.size()), // NOLINT
                                   font_size * scale * density, &config, letters);
    io.FontGlobalScale = 1 / density;
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
    if (on_.edited().file().empty()) { // it came with the tool
        save_as();
        return;
    }
    try {
        on_.edited().save();
        said_ = "saved: " + on_.edited().file();
    } catch (const error& wrong) {
        said_ = wrong.what();
    }
}

void window::save_as() {
    asks_name_ = true;
    name_is_taken_ = false;
    const live::document& edited = on_.edited();
    const std::string name = edited.file().empty() ? edited.name() + "-mine.toml" : edited.file();
    name_ = {};
    name.copy(name_.data(), name_.size() - 1);
}

void window::name_panel() {
    if (asks_name_ && !ImGui::IsPopupOpen("save as")) {
        ImGui::OpenPopup("save as");
    }
    const ImVec2 size = ImGui::GetIO().DisplaySize;
    ImGui::SetNextWindowPos({size.x / 2, size.y / 2}, ImGuiCond_Always, {0.5F, 0.5F});
    if (!ImGui::BeginPopupModal("save as", nullptr,
                                ImGuiWindowFlags_AlwaysAutoResize | ImGuiWindowFlags_NoSavedSettings)) {
        return;
    }
    words("The file that the scene is written to, with its textures beside it:", colors(dark_).text);
    if (ImGui::IsWindowAppearing()) {
        ImGui::SetKeyboardFocusHere();
    }
    ImGui::SetNextItemWidth(px(420));
    bool given = ImGui::InputText("##name", name_.data(), name_.size(), ImGuiInputTextFlags_EnterReturnsTrue);
    if (ImGui::IsItemEdited()) {
        name_is_taken_ = false;
    }
    if (name_is_taken_) {
        words("There is such a file. Once more writes over it.", colors(dark_).bad);
    }
    given = choice(name_is_taken_ ? "write over it" : "save", true, dark_) || given;
    ImGui::SameLine();
    const bool leaves = ImGui::Button("leave it") || ImGui::IsKeyPressed(ImGui::GetKeyIndex(ImGuiKey_Escape));
    const std::string name = name_.data();
    if (given && !name.empty()) {
        std::error_code ignored;
        if (name != on_.edited().file() && !name_is_taken_ && std::filesystem::exists(name, ignored)) {
            name_is_taken_ = true;
        } else {
            try {
                on_.edited().save_as(name);
                said_ = "saved as " + name;
            } catch (const error& wrong) {
                said_ = wrong.what();
            }
            asks_name_ = false;
        }
    }
    if (leaves || !asks_name_) {
        asks_name_ = false;
        ImGui::CloseCurrentPopup();
    }
    ImGui::EndPopup();
}

void window::key(int code, bool ctrl, bool shift) {
    if (ctrl) {
        if (code == SDL_SCANCODE_Z && !shift) {
            on_.edited().undo();
        } else if (code == SDL_SCANCODE_Y || code == SDL_SCANCODE_Z) {
            on_.edited().redo();
        } else if (code == SDL_SCANCODE_S) {
            shift ? save_as() : save();
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
    } else if (code == SDL_SCANCODE_D) {
        on_.set_difference(!on_.difference());
    } else if (code == SDL_SCANCODE_SLASH && shift) {
        help_ = !help_;
    } else if (code == SDL_SCANCODE_ESCAPE) {
        help_ = false;
        on_.set_part(std::nullopt);
        on_.set_beside(live::beside_kind::nothing);
    } else if (code == SDL_SCANCODE_TAB) {
        panel_ = static_cast<panel>((static_cast<std::size_t>(panel_) + 1) % panel_names.size());
        switch_panel_ = true;
    }
}

void window::model_choice() {
    const shading_choice& shading = on_.edited().shown().shading;
    const std::string now = shading.own.name.empty() ? std::string(name_of(shading.model)) : shading.own.name;
    if (!ImGui::BeginCombo("##model", now.c_str())) {
        return;
    }
    const auto one = [&](const std::string& name) {
        if (ImGui::Selectable(name.c_str(), name == now)) {
            on_.edited().apply_all(live::with_model(on_.edited().shown(), name));
        }
    };
    for (const std::string_view name : all_names<model_kind>()) {
        one(std::string(name));
    }
    if (on_.own_models() != nullptr) {
        for (const std::string_view name : on_.own_models()->names()) {
            one(std::string(name));
        }
    }
    ImGui::EndCombo();
}

// A tick for each term; behind a button where there is no room up to `end`.
void window::terms_choice(float end) {
    term_choice terms = on_.terms();
    const auto ticks = [&](bool in_a_row) {
        for (const term_descriptor& each : term_list) {
            if (in_a_row) {
                ImGui::SameLine(0, px(each.kind == term::ambient ? 20 : 8));
            }
            ImGui::Checkbox(std::string(each.name).c_str(), &(terms.*each.chosen));
        }
    };
    if (end - ImGui::GetItemRectMax().x > px(400)) {
        ticks(true);
    } else {
        ImGui::SameLine(0, px(20));
        if (ImGui::Button("terms")) {
            ImGui::OpenPopup("terms");
        }
        if (ImGui::BeginPopup("terms")) {
            ticks(false);
            ImGui::EndPopup();
        }
    }
    on_.set_terms(terms);
}

void window::top_bar(const box& in) {
    begin_bar("bar", in);
    ImGui::AlignTextToFramePadding();
    const live::document& edited = on_.edited();
    ImGui::TextUnformatted((edited.name() + (edited.changed() ? " *" : "")).c_str());
    ImGui::SameLine(0, px(24));
    static constexpr std::array rates{"face", "vertex", "fragment"};
    for (const char* each : rates) {
        if (choice(each, name_of(edited.shown().shading.rate) == each, dark_)) {
            on_.edited().apply(live::set_text("shading.rate", each));
        }
        ImGui::SameLine(0, px(4));
    }
    ImGui::SameLine(0, px(20));
    ImGui::SetNextItemWidth(px(130));
    model_choice();
    const float buttons = in.width - px(232);
    terms_choice(buttons);
    ImGui::SameLine(buttons);
    ImGui::BeginDisabled(!edited.can_undo());
    if (ImGui::Button("undo")) {
        on_.edited().undo();
    }
    ImGui::EndDisabled();
    ImGui::SameLine(0, px(4));
    ImGui::BeginDisabled(!edited.can_redo());
    if (ImGui::Button("redo")) {
        on_.edited().redo();
    }
    ImGui::EndDisabled();
    ImGui::SameLine(0, px(4));
    if (choice("save", edited.changed(), dark_)) {
        save();
    }
    ImGui::SameLine(0, px(4));
    if (ImGui::Button(" ? ")) {
        help_ = !help_;
    }
    ImGui::End();
}

void window::status_bar(const box& in) {
    begin_bar("status", in);
    const live::screen_picture& shown = on_.picture();
    const palette& all = colors(dark_);
    const std::string left = fmt::format("{}x{}   drawn in {:.1f} ms, encoded in {:.1f} ms", shown.width,
                                         shown.height, shown.draw_milliseconds, shown.encode_milliseconds);
    ImGui::SetCursorPosY(px(4));
    if (on_.edited().fault()) {
        ImGui::TextColored(all.bad, "%s", on_.edited().fault()->c_str());
    } else if (!on_.part_fault().empty()) {
        ImGui::TextColored(all.bad, "%s", on_.part_fault().c_str());
    } else {
        ImGui::TextColored(all.faint, "%s", left.c_str());
        if (!said_.empty()) {
            ImGui::SameLine(0, px(24));
            ImGui::TextColored(all.good, "%s", said_.c_str());
        }
    }
    ImGui::End();
}

void window::keys_panel() {
    ImGui::SetNextWindowPos({area_.left + area_.width / 2, area_.top + area_.height / 2}, ImGuiCond_Always,
                            {0.5F, 0.5F});
    ImGui::Begin("keys", &help_,
                 ImGuiWindowFlags_AlwaysAutoResize | ImGuiWindowFlags_NoSavedSettings |
                     ImGuiWindowFlags_NoCollapse);
    static constexpr std::array<std::array<const char*, 2>, 17> all{
        {{"drag a lamp", "along the ground; Shift: up and down; Ctrl: across the view"},
         {"drag a tip, a border", "turn a direction; open a cone"},
         {"drag elsewhere", "walk around the target"},
         {"right button", "move across the view"},
         {"wheel", "nearer, farther"},
         {"click", "a pixel, worked by hand; in `objects`, the object"},
         {"1  2  3", "per face, per vertex, per fragment"},
         {"F", "everything in view"},
         {"Tab", "the next panel"},
         {"T", "dark, light"},
         {"Ctrl Z, Ctrl Y", "one step back, forth"},
         {"Ctrl S", "save"},
         {"Ctrl Shift S", "save as another file"},
         {"D", "beside the picture: the difference"},
         {"Esc", "the picture alone"},
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
    const box in = room();
    const auto [width, height] = picture_pixels();
    area_.width = static_cast<float>(width) / density_;
    area_.height = static_cast<float>(height) / density_;
    area_.left = std::floor((in.width - area_.width) / 2);
    area_.top = in.top + std::floor((in.height - area_.height) / 2);
    top_bar({0, 0, size.x, in.top});
    picture_area(in, main, beside);
    begin_bar("panel", {in.right(), in.top, size.x - in.right(), in.height});
    ImGui::PushStyleVar(ImGuiStyleVar_FramePadding, {px(7), px(5)});
    ImGui::PushStyleVar(ImGuiStyleVar_ItemInnerSpacing, {px(1), px(4)});
    const bool tabs = ImGui::BeginTabBar("panels", ImGuiTabBarFlags_FittingPolicyScroll);
    ImGui::PopStyleVar(2);
    on_.want_costs(panel_ == panel::scene);
    if (tabs) {
        static constexpr std::array shown{&window::lights_panel, &window::objects_panel,
                                          &window::scene_panel,  &window::formulas_panel,
                                          &window::pixel_panel,  &window::verdict_panel};
        const panel wanted = panel_;
        for (std::size_t i = 0; i < panel_names.size(); ++i) {
            const bool set = switch_panel_ && wanted == static_cast<panel>(i);
            ImGui::PushStyleVar(ImGuiStyleVar_FramePadding, {px(7), px(5)});
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
    status_bar({0, in.bottom(), size.x, size.y - in.bottom()});
    if (help_) {
        keys_panel();
    }
    name_panel();
}

} // namespace yurvo::app
