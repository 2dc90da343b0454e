// painting: colours, and the few things that every part of the window is made of.
#pragma once

#include <string>

#include <imgui.h>

namespace yurvo::app {

// A colour as 0xRRGGBB.
ImVec4 hex_color(unsigned hex, float alpha = 1);

struct palette {
    ImVec4 ground, raised, field, line, text, faint, accent, good, bad;
};
const palette& colors(bool dark);

// What is so many pixels at the font's own size, at the size that it has.
inline constexpr float font_size = 17; // whole, so that the lines of a paragraph are all as sharp
inline float px(float pixels) { return pixels * ImGui::GetFontSize() / font_size; }

// A button that is one of several, the chosen one in the accent's colour.
bool choice(const char* label, bool chosen, bool dark);
// A part of the window that stays where it is; ImGui::End() ends it.
struct box;
void begin_bar(const char* name, const box& in);
// Lines that are as wide as the panel.
void words(const std::string& text, const ImVec4& color);
void heading(const char* text);

} // namespace yurvo::app
