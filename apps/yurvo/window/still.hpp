// still: what ImGui has put together, painted into a picture without any display or driver.
#pragma once

#include <cstdint>
#include <vector>

struct ImDrawData;

namespace yurvo::app {

// A texture as the painter knows it; ImGui's ImTextureID points to one.
struct still_texture {
    int width = 0, height = 0;
    std::vector<std::uint8_t> bytes; // red, green, blue, alpha; codes
};

// Codes, four a pixel, over `ground`; alpha is 255.
std::vector<std::uint8_t> paint_still(const ImDrawData& from, int width, int height);

} // namespace yurvo::app
