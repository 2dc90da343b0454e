// show: the window on a screen, or in a file.
#pragma once

#include <string>

#include "window/window.hpp"

namespace yurvo::app {

// Until the window is closed. Throws missing_error where there is no display, or no driver for it.
void show_window(live::workspace& on, panel first, bool dark, int width, int height);

// One still, with the verdict come; a PNG's codes. No display is asked for.
void write_still(live::workspace& on, panel first, bool dark, int width, int height, const std::string& file);

} // namespace yurvo::app
