#include "window/show.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <cstring>

#include <SDL.h>
#include <backends/imgui_impl_opengl3.h>
#include <backends/imgui_impl_sdl.h>
#include <epoxy/gl.h>
#include <imgui.h>

#include "window/sdl.hpp"
#include "window/still.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::app {

namespace {

// ImGui's state, for as long as there is a window.
struct imgui_state {
    imgui_state() {
        IMGUI_CHECKVERSION();
        ImGui::CreateContext();
    }
    imgui_state(const imgui_state&) = delete;
    imgui_state& operator=(const imgui_state&) = delete;
    imgui_state(imgui_state&&) = delete;
    imgui_state& operator=(imgui_state&&) = delete;
    ~imgui_state() { ImGui::DestroyContext(); }
};

missing_error no_window(const std::string& why) {
    return {{"yurvo view", 0, 0},
            "no window can be opened: " + why,
            "a display with OpenGL 3, or --still FILE, which needs none"};
}

// The screen's own: SDL's window with its driver.
struct screen {
    SDL_Window* shown = nullptr;
    SDL_GLContext driver = nullptr;

    screen(int width, int height) {
        if (!load_sdl()) {
            throw no_window(std::string("the library ") + sdl_library +
                            " is not there, Debian's package libsdl2-2.0-0");
        }
        SDL_SetHint(SDL_HINT_NO_SIGNAL_HANDLERS, "1");
        const auto set = [](const char* name) {
            const char* const value = std::getenv(name);
            return value != nullptr && *value != '\0';
        };
        if (!set("DISPLAY") && !set("WAYLAND_DISPLAY")) { // SDL would show a window to nobody
            throw no_window("there is no display");
        }
        if (SDL_Init(SDL_INIT_VIDEO) != 0) {
            throw no_window(SDL_GetError());
        }
        SDL_GL_SetAttribute(SDL_GL_CONTEXT_PROFILE_MASK, SDL_GL_CONTEXT_PROFILE_CORE);
        SDL_GL_SetAttribute(SDL_GL_CONTEXT_MAJOR_VERSION, 3);
        SDL_GL_SetAttribute(SDL_GL_CONTEXT_MINOR_VERSION, 3);
        SDL_GL_SetAttribute(SDL_GL_DOUBLEBUFFER, 1);
        shown = SDL_CreateWindow("Yurvo", SDL_WINDOWPOS_CENTERED, SDL_WINDOWPOS_CENTERED, width, height,
                                 SDL_WINDOW_OPENGL | SDL_WINDOW_RESIZABLE | SDL_WINDOW_ALLOW_HIGHDPI);
        driver = shown == nullptr ? nullptr : SDL_GL_CreateContext(shown);
        if (driver == nullptr) {
            const std::string why = SDL_GetError();
            close();
            throw no_window(why);
        }
        SDL_GL_MakeCurrent(shown, driver);
        SDL_GL_SetSwapInterval(1);
    }
    screen(const screen&) = delete;
    screen& operator=(const screen&) = delete;
    screen(screen&&) = delete;
    screen& operator=(screen&&) = delete;
    ~screen() { close(); }

  private:
    void close() {
        if (driver != nullptr) {
            SDL_GL_DeleteContext(driver);
        }
        if (shown != nullptr) {
            SDL_DestroyWindow(shown);
        }
        SDL_Quit();
    }
};

// A picture in the driver, handed over when it is another one.
class driver_texture {
    GLuint name_ = 0;
    std::uint64_t number_ = 0;

  public:
    shown_texture show(const live::screen_picture* from) {
        if (from == nullptr) {
            return nullptr;
        }
        if (name_ == 0) {
            glGenTextures(1, &name_);
        }
        if (from->number != number_) {
            number_ = from->number;
            glBindTexture(GL_TEXTURE_2D, name_);
            glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
            glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
            glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, from->width, from->height, 0, GL_RGBA, GL_UNSIGNED_BYTE,
                         from->bytes.data());
        }
        return reinterpret_cast<shown_texture>(static_cast<std::uintptr_t>(name_)); // NOLINT: ImGui's way
    }
};

} // namespace

namespace {

// How large all is to be on a display: as large as at 96 dots an inch, in quarters, never smaller. Where
// points are no pixels, the display's own settings have seen to it.
float scale_of(const screen& on, float density) {
    float dots = 0;
    if (density > 1 || SDL_GetDisplayDPI(SDL_GetWindowDisplayIndex(on.shown), nullptr, &dots, nullptr) != 0) {
        return 1;
    }
    return std::clamp(std::round(dots / 96 * 4) / 4, 1.0F, 3.0F);
}

float density_of(const screen& on) {
    int points = 0;
    int pixels = 0;
    SDL_GetWindowSize(on.shown, &points, nullptr);
    SDL_GL_GetDrawableSize(on.shown, &pixels, nullptr);
    return points > 0 && pixels > points ? static_cast<float>(pixels) / static_cast<float>(points) : 1.0F;
}

} // namespace

void show_window(live::workspace& on, const window_look& look) {
    const imgui_state state;
    const screen on_screen(look.width, look.height);
    window painted(on, look.first, look.dark);
    const float density = density_of(on_screen);
    painted.set_up(look.scale > 0 ? look.scale : scale_of(on_screen, density), density);
    on.want_all_scenes(true);
    ImGui_ImplSDL2_InitForOpenGL(on_screen.shown, on_screen.driver);
    ImGui_ImplOpenGL3_Init("#version 330");
    driver_texture main;
    driver_texture beside;
    constexpr int pause = 25;      // milliseconds between two looks at files and verdicts
    constexpr int more_frames = 3; // after the last event: what reacts to it may need another one
    int due = more_frames;
    bool ends = false;
    std::string shown_title;
    while (!ends) {
        SDL_Event event;
        bool any = SDL_WaitEventTimeout(&event, due > 0 ? 1 : pause) != 0;
        while (any) {
            ImGui_ImplSDL2_ProcessEvent(&event);
            ends = ends || event.type == SDL_QUIT;
            if (event.type == SDL_KEYDOWN && event.key.repeat == 0) {
                painted.key(event.key.keysym.scancode, (event.key.keysym.mod & KMOD_CTRL) != 0,
                            (event.key.keysym.mod & KMOD_SHIFT) != 0);
            }
            due = more_frames;
            any = SDL_PollEvent(&event) != 0;
        }
        due = on.look() ? more_frames : due;
        const live::verdict* const found = on.judged();
        std::string title = "Yurvo - " + on.edited().name() + (on.edited().changed() ? " *" : "") +
                            (found == nullptr ? "" : " - " + found->line);
        if (title != shown_title) {
            shown_title = std::move(title);
            SDL_SetWindowTitle(on_screen.shown, shown_title.c_str());
        }
        if (due == 0) {
            continue;
        }
        --due;
        ImGui_ImplOpenGL3_NewFrame();
        ImGui_ImplSDL2_NewFrame();
        if (SDL_GetMouseFocus() == on_screen.shown) {
            // As the events have told. Where the mouse is on the whole screen, which ImGui's part asks for,
            // SDL keeps from the last button where a server is silent of moves outside of windows.
            std::array<int, 2> mouse{};
            SDL_GetMouseState(&mouse[0], &mouse[1]);
            ImGui::GetIO().MousePos = {static_cast<float>(mouse[0]), static_cast<float>(mouse[1])};
        }
        ImGui::NewFrame();
        const ImVec2 size = ImGui::GetIO().DisplaySize;
        const auto [picture_width, picture_height] = painted.picture_pixels();
        on.set_size(picture_width, picture_height);
        painted.frame(main.show(&on.picture()), beside.show(on.picture_beside()));
        ends = ends || painted.ends();
        ImGui::Render();
        const ImVec2 scale = ImGui::GetIO().DisplayFramebufferScale;
        glViewport(0, 0, static_cast<GLsizei>(size.x * scale.x), static_cast<GLsizei>(size.y * scale.y));
        glClearColor(0, 0, 0, 1);
        glClear(GL_COLOR_BUFFER_BIT);
        ImGui_ImplOpenGL3_RenderDrawData(ImGui::GetDrawData());
        SDL_GL_SwapWindow(on_screen.shown);
    }
    ImGui_ImplOpenGL3_Shutdown();
    ImGui_ImplSDL2_Shutdown();
}

void write_still(live::workspace& on, const window_look& look, const std::string& file) {
    const imgui_state state;
    window painted(on, look.first, look.dark);
    painted.set_up(look.scale > 0 ? look.scale : 1);
    ImGuiIO& io = ImGui::GetIO();
    io.DisplaySize = {static_cast<float>(look.width), static_cast<float>(look.height)};
    io.DeltaTime = 1.0F / 60;
    on.want_all_scenes(look.first == panel::verdict);
    on.want_costs(look.first == panel::scene);
    on.wait(); // the shape of a picture is known then
    const auto [picture_width, picture_height] = painted.picture_pixels();
    on.set_size(picture_width + 1,
                picture_height); // once before, so that the times shown are not of a beginning
    on.picture();
    on.set_size(picture_width, picture_height);
    if (look.first == panel::pixel) { // something to be worked by hand
        painted.pin(picture_width / 2, picture_height / 2);
    }
    if (look.first == panel::lights) { // a spot, or the first lamp that is seen
        std::optional<live::handle> best;
        for (const live::handle& each : on.handles()) {
            const bool seen = each.in_front && each.x > 0 && each.y > 0 && each.x < picture_width &&
                              each.y < picture_height && each.kind == live::handle_kind::light_place;
            const auto is_spot = [&](const live::handle& of) {
                return on.edited().shown().lights[of.index].light.kind == light_kind::spot;
            };
            if (seen && (!best || (is_spot(each) && !is_spot(*best)))) {
                best = each;
            }
        }
        on.choose_light(best ? std::optional(best->index) : std::nullopt);
    }
    if (look.first == panel::objects) {
        const std::optional<verify::explanation> middle = on.explain(picture_width / 2, picture_height / 2);
        on.choose_object(middle ? middle->object : std::nullopt);
    }
    still_texture font;
    unsigned char* bytes = nullptr;
    io.Fonts->GetTexDataAsRGBA32(&bytes, &font.width, &font.height);
    font.bytes.assign(bytes, bytes + static_cast<std::size_t>(font.width) *
                                         static_cast<std::size_t>(font.height) * 4);
    io.Fonts->SetTexID(&font);
    on.wait();
    still_texture main;
    still_texture beside;
    const auto shown = [](const live::screen_picture* from, still_texture& to) -> shown_texture {
        if (from == nullptr) {
            return nullptr;
        }
        to = {from->width, from->height, from->bytes};
        return &to;
    };
    for (int i = 0; i < 3; ++i) { // sizes settle
        ImGui::NewFrame();
        painted.frame(shown(&on.picture(), main), shown(on.picture_beside(), beside));
        ImGui::Render();
    }
    const std::vector<std::uint8_t> codes = paint_still(*ImGui::GetDrawData(), look.width, look.height);
    write_picture(file, picture_of(look.width, look.height, codes));
}

} // namespace yurvo::app
