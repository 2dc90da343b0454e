#include "window/painting.hpp"

#include "window/window.hpp"

namespace yurvo::app {

ImVec4 hex_color(unsigned hex, float alpha) {
    return {static_cast<float>((hex >> 16U) & 0xFFU) / 255, static_cast<float>((hex >> 8U) & 0xFFU) / 255,
            static_cast<float>(hex & 0xFFU) / 255, alpha};
}

const palette& colors(bool dark) {
    static const palette night{hex_color(0x0D131D), hex_color(0x151E2C), hex_color(0x22304A),
                               hex_color(0x2C3B55), hex_color(0xE8EDF5), hex_color(0x93A1B8),
                               hex_color(0xF2B75C), hex_color(0x7FD6A0), hex_color(0xFF8A7A)};
    static const palette day{hex_color(0xF3F5F9), hex_color(0xFFFFFF), hex_color(0xE2E8F1),
                             hex_color(0xC3CCDA), hex_color(0x17202E), hex_color(0x5B687C),
                             hex_color(0xB06F00), hex_color(0x19794A), hex_color(0xB3261E)};
    return dark ? night : day;
}

bool choice(const char* label, bool chosen, bool dark) {
    const palette& all = colors(dark);
    ImGui::PushStyleColor(ImGuiCol_Button, chosen ? all.accent : all.field);
    ImGui::PushStyleColor(ImGuiCol_ButtonHovered, chosen ? all.accent : all.line);
    ImGui::PushStyleColor(ImGuiCol_Text, chosen ? (dark ? all.ground : all.raised) : all.text);
    const bool pressed = ImGui::Button(label);
    ImGui::PopStyleColor(3);
    return pressed;
}

void begin_bar(const char* name, const box& in) {
    ImGui::SetNextWindowPos({in.left, in.top});
    ImGui::SetNextWindowSize({in.width, in.height});
    ImGui::Begin(name, nullptr,
                 ImGuiWindowFlags_NoTitleBar | ImGuiWindowFlags_NoResize | ImGuiWindowFlags_NoMove |
                     ImGuiWindowFlags_NoCollapse | ImGuiWindowFlags_NoSavedSettings |
                     ImGuiWindowFlags_NoBringToFrontOnFocus | ImGuiWindowFlags_NoScrollbar |
                     ImGuiWindowFlags_NoScrollWithMouse);
}

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

} // namespace yurvo::app
