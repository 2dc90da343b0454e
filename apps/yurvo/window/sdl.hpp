// sdl: the library that opens windows, loaded when one is to be opened.
#pragma once

namespace yurvo::app {

// Whether it could be loaded. Before that, and where not, none of its functions may be called.
bool load_sdl();

// What it is called: `libSDL2-2.0.so.0`.
extern const char* const sdl_library;

} // namespace yurvo::app
