#include "session.hpp"
#include "yurvo/files/picture_file.hpp"

#ifdef YURVO_WITH_WINDOW
#include "window/show.hpp"
#endif

namespace yurvo::app {

namespace {

struct view_options {
    std::string scene = "harbour";
    std::string program, still, size = "1280x800", panel_name = "lights", theme = "dark", beside;
    int percent = 0; // of the usual size; 0: as the display has it
    picture_options given;
};

#ifdef YURVO_WITH_WINDOW

std::array<int, 2> size_from(const std::string& text) {
    int width = 0;
    int height = 0;
    char after = 0;
    if (std::sscanf(text.c_str(), "%dx%d%c", &width, &height, &after) != 2 || width < 640 || height < 400 ||
        width > 7680 || height > 4320) {
        throw error({"--size", 0, 0}, "`" + text + "` is no size of a window", "WxH, 640x400 to 7680x4320");
    }
    return {width, height};
}

panel panel_from(const std::string& name) {
    for (std::size_t i = 0; i < panel_names.size(); ++i) {
        if (name == panel_names[i]) {
            return static_cast<panel>(i);
        }
    }
    throw error({"--panel", 0, 0}, "there is no panel `" + name + "`",
                "lights, objects, scene, formulas, pixel or verdict");
}

void set_beside(live::workspace& on, const std::string& asked) {
    using enum live::beside_kind;
    const std::string difference = "difference:";
    on.set_difference(asked.starts_with(difference));
    const std::string beside = on.difference() ? asked.substr(difference.size()) : asked;
    if (beside.empty()) {
        return;
    }
    if (beside == "face" || beside == "vertex" || beside == "fragment") {
        on.set_beside(beside == "face" ? face : beside == "vertex" ? vertex : fragment);
    } else if (beside == "subject") {
        on.set_beside(subject);
    } else {
        mistakes_from(beside); // an id that is none is told with the nearest
        on.set_beside(mistake, beside);
    }
}

int run(session& on, const view_options& options) {
    if (!options.program.empty() && !options.given.file.empty()) {
        throw error({"yurvo view", 0, 0}, "there are a picture and a program", "one of the two");
    }
    if (!options.still.empty()) {
        require_picture_name(options.still);
    }
    if (options.theme != "dark" && options.theme != "light") {
        throw error({"--theme", 0, 0}, "`" + options.theme + "` is not known", "dark or light");
    }
    const auto [width, height] = size_from(options.size);
    const window_look look{panel_from(options.panel_name), options.theme == "dark", width, height,
                           static_cast<float>(options.percent) / 100};
    live::subject of{options.program, options.given.file,
                     options.given.file.empty() ? pixel_format::srgb_codes : options.given.format()};
    live::workspace shown(open_scene(options.scene), std::move(of), &on.with().models);
    set_beside(shown, options.beside);
    if (options.still.empty()) {
        show_window(shown, look);
        return all_held;
    }
    write_still(shown, look, options.still);
    on.print("{}: {}x{}, the panel {}\n", options.still, width, height, options.panel_name);
    return all_held;
}

#else

int run(session& /*on*/, const view_options& /*options*/) {
    throw missing_error({"yurvo view", 0, 0}, "this build has no window",
                        "a build with libsdl2-dev and libimgui-dev");
}

#endif

} // namespace

void add_view(option_list& to, session& on) {
    auto options = std::make_shared<view_options>();
    to.text("scene", options->scene, "a scene's name or file; the harbour where it is left out",
            {.type = "SCENE"});
    to.text("--program", options->program, "a shader program that is verified at every save",
            {.type = "FILE"});
    options->given.add_to(to, "a picture that is verified at every save");
    to.text("--still", options->still, "write the window into this PNG instead; no display is needed",
            {.type = "FILE", .written = true});
    to.text("--size", options->size, "of the window", {.type = "WxH", .show_default = true});
    to.text("--panel", options->panel_name, "lights, objects, scene, formulas, pixel or verdict",
            {.type = "NAME", .show_default = true});
    to.text("--beside", options->beside,
            "what stands beside the picture: face, vertex, fragment, subject, or a mistake's id; with "
            "`difference:` before it, how that differs",
            {.type = "WHAT"});
    to.whole_within("--scale", options->percent, 50, 400,
                    "how large text and controls are, in percent; as the display has it where it is left out",
                    {.type = "PERCENT"});
    to.text("--theme", options->theme, "dark or light", {.show_default = true});
    run_with(to, on, options, run);
}

} // namespace yurvo::app
