#include "window/painting.hpp"

#include <algorithm>

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

// Lines end between words alone: ImGui's own way ends them in the middle of a number, too.
void words(const std::string& text, const ImVec4& color) {
    const float wide = ImGui::GetContentRegionAvail().x;
    std::string lines;
    std::size_t line = 0; // where the last one begins
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find(' ', at + 1), text.size());
        const std::string more = text.substr(at, end - at);
        const std::string longer = lines.substr(line) + more;
        if (lines.size() > line && ImGui::CalcTextSize(longer.c_str()).x > wide) {
            lines += '\n';
            line = lines.size();
            lines += more.substr(more[0] == ' ' ? 1 : 0);
        } else {
            lines += more;
        }
        at = end;
    }
    ImGui::PushStyleColor(ImGuiCol_Text, color);
    ImGui::PushTextWrapPos(0); // one word that is too long
    ImGui::TextUnformatted(lines.data(), lines.data() + lines.size());
    ImGui::PopTextWrapPos();
    ImGui::PopStyleColor();
}

void heading(const char* text) {
    ImGui::Spacing();
    words(text, ImGui::GetStyleColorVec4(ImGuiCol_TextDisabled));
    ImGui::Separator();
}

} // namespace yurvo::app
