// show: the window on a screen, or in a file.
#pragma once

#include <string>

#include "window/window.hpp"

namespace yurvo::app {

// What it looks like at first, in pixels; a scale of 0 is as the display has it.
struct window_look {
    panel first = panel::lights;
    bool dark = true;
    int width = 1280, height = 800;
    float scale = 0;
};

// Until the window is closed. Throws missing_error where there is no display, or no driver for it.
void show_window(live::workspace& on, const window_look& look);

// One still, with the verdict come; a PNG's codes. No display is asked for.
void write_still(live::workspace& on, const window_look& look, const std::string& file);

} // namespace yurvo::app
