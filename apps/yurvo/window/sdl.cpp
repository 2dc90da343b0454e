// SDL brings 37 libraries with it, for sound and two kinds of displays, and loading them takes as long as
// all else that happens before a command begins. So the tool is not linked with it: these are the functions
// that the window and imgui call, each of which calls the library's own.
#include "window/sdl.hpp"

#include <SDL.h>
#include <dlfcn.h>

namespace yurvo::app {

const char* const sdl_library = "libSDL2-2.0.so.0";

namespace {

void* library() {
    static void* const loaded = dlopen(sdl_library, RTLD_NOW | RTLD_LOCAL);
    return loaded;
}

// The library's function of that name and type.
template <class Function> Function* own(Function& /*of_the_type*/, const char* name) {
    return reinterpret_cast<Function*>(dlsym(library(), name));
}

} // namespace

bool load_sdl() { return library() != nullptr; }

} // namespace yurvo::app

#define YURVO_PASS_ON(result, name, parameters, ...)                                                         \
    extern "C" result name parameters { return yurvo::app::own(name, #name)(__VA_ARGS__); }

YURVO_PASS_ON(int, SDL_CaptureMouse, (SDL_bool enabled), enabled)
YURVO_PASS_ON(SDL_Cursor*, SDL_CreateSystemCursor, (SDL_SystemCursor id), id)
YURVO_PASS_ON(SDL_Window*, SDL_CreateWindow,
              (const char* title, int x, int y, int width, int height, Uint32 flags), title, x, y, width,
              height, flags)
YURVO_PASS_ON(void, SDL_DestroyWindow, (SDL_Window * window), window)
YURVO_PASS_ON(void, SDL_FreeCursor, (SDL_Cursor * cursor), cursor)
YURVO_PASS_ON(SDL_GLContext, SDL_GL_CreateContext, (SDL_Window * window), window)
YURVO_PASS_ON(void, SDL_GL_DeleteContext, (SDL_GLContext context), context)
YURVO_PASS_ON(void, SDL_GL_GetDrawableSize, (SDL_Window * window, int* width, int* height), window, width,
              height)
YURVO_PASS_ON(int, SDL_GL_MakeCurrent, (SDL_Window * window, SDL_GLContext context), window, context)
YURVO_PASS_ON(int, SDL_GL_SetAttribute, (SDL_GLattr attribute, int value), attribute, value)
YURVO_PASS_ON(int, SDL_GL_SetSwapInterval, (int interval), interval)
YURVO_PASS_ON(void, SDL_GL_SwapWindow, (SDL_Window * window), window)
YURVO_PASS_ON(Sint16, SDL_GameControllerGetAxis,
              (SDL_GameController * controller, SDL_GameControllerAxis axis), controller, axis)
YURVO_PASS_ON(Uint8, SDL_GameControllerGetButton,
              (SDL_GameController * controller, SDL_GameControllerButton button), controller, button)
YURVO_PASS_ON(SDL_GameController*, SDL_GameControllerOpen, (int joystick), joystick)
YURVO_PASS_ON(char*, SDL_GetClipboardText, ())
YURVO_PASS_ON(const char*, SDL_GetCurrentVideoDriver, ())
YURVO_PASS_ON(int, SDL_GetDisplayDPI, (int display, float* diagonal, float* horizontal, float* vertical),
              display, diagonal, horizontal, vertical)
YURVO_PASS_ON(const char*, SDL_GetError, ())
YURVO_PASS_ON(Uint32, SDL_GetGlobalMouseState, (int* x, int* y), x, y)
YURVO_PASS_ON(SDL_Window*, SDL_GetKeyboardFocus, ())
YURVO_PASS_ON(SDL_Keymod, SDL_GetModState, ())
YURVO_PASS_ON(SDL_Window*, SDL_GetMouseFocus, ())
YURVO_PASS_ON(Uint32, SDL_GetMouseState, (int* x, int* y), x, y)
YURVO_PASS_ON(Uint64, SDL_GetPerformanceCounter, ())
YURVO_PASS_ON(Uint64, SDL_GetPerformanceFrequency, ())
YURVO_PASS_ON(int, SDL_GetWindowDisplayIndex, (SDL_Window * window), window)
YURVO_PASS_ON(Uint32, SDL_GetWindowFlags, (SDL_Window * window), window)
YURVO_PASS_ON(void, SDL_GetWindowPosition, (SDL_Window * window, int* x, int* y), window, x, y)
YURVO_PASS_ON(void, SDL_GetWindowSize, (SDL_Window * window, int* width, int* height), window, width, height)
YURVO_PASS_ON(int, SDL_Init, (Uint32 flags), flags)
YURVO_PASS_ON(int, SDL_PollEvent, (SDL_Event * event), event)
YURVO_PASS_ON(void, SDL_Quit, ())
YURVO_PASS_ON(int, SDL_SetClipboardText, (const char* text), text)
YURVO_PASS_ON(void, SDL_SetCursor, (SDL_Cursor * cursor), cursor)
YURVO_PASS_ON(SDL_bool, SDL_SetHint, (const char* name, const char* value), name, value)
YURVO_PASS_ON(void, SDL_SetWindowTitle, (SDL_Window * window, const char* title), window, title)
YURVO_PASS_ON(int, SDL_ShowCursor, (int toggle), toggle)
YURVO_PASS_ON(int, SDL_WaitEventTimeout, (SDL_Event * event, int timeout), event, timeout)
YURVO_PASS_ON(void, SDL_WarpMouseInWindow, (SDL_Window * window, int x, int y), window, x, y)
YURVO_PASS_ON(void, SDL_free, (void* memory), memory)

#undef YURVO_PASS_ON
