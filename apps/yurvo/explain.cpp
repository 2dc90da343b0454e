#include "yurvo/verify/explain.hpp"
#include "session.hpp"
#include "yurvo/report/explanation.hpp"
#include "yurvo/study/pixel.hpp"

namespace yurvo::app {

namespace {

struct explain_options {
    scene_options from;
    picture_options given;
    std::string pixel;
    json_option data;
};

std::array<int, 2> pixel_from(const std::string& text, const view& in) {
    const std::size_t comma = text.find(',');
    int x = -1;
    int y = -1;
    try {
        std::size_t used = 0;
        x = std::stoi(text.substr(0, comma), &used);
        const bool whole = used == comma;
        const std::string rest = comma == std::string::npos ? "" : text.substr(comma + 1);
        y = std::stoi(rest, &used);
        x = whole && used == rest.size() ? x : -1;
    } catch (const std::exception&) {
        x = -1;
    }
    if (comma == std::string::npos || x < 0 || y < 0 || x >= in.width || y >= in.height) {
        throw error({"--pixel", 0, 0}, "`" + text + "` is no pixel of the picture",
                    fmt::format("X,Y with X from 0 to {} and Y from 0 to {}", in.width - 1, in.height - 1));
    }
    return {x, y};
}

// What is shown beside the right pixel.
struct beside {
    std::string name;
    picture shown;
    pixel_format format = pixel_format::floats;
};

std::optional<beside> load_beside(const session& on, const explain_options& options, loaded_scene& loaded) {
    if (loaded.program) {
        if (!options.given.file.empty()) {
            throw error({"yurvo explain", 0, 0}, "there are a picture and a program", "one of the two");
        }
        return beside{options.from.program, loaded.by->draw(loaded.of.scene), loaded.by->format()};
    }
    if (options.given.file.empty()) {
        return std::nullopt;
    }
    beside result{options.given.file, options.given.read(), options.given.format()};
    view& seen = loaded.of.scene.view;
    if (result.shown.width != seen.width || result.shown.height != seen.height) {
        on.remark(fmt::format("{} is {}x{}: the scene is looked at in that size", result.name,
                              result.shown.width, result.shown.height));
        seen.width = result.shown.width;
        seen.height = result.shown.height;
    }
    return result;
}

int run(session& on, const explain_options& options) {
    loaded_scene loaded = options.from.load(on);
    const std::optional<beside> other = load_beside(on, options, loaded);
    const auto [x, y] = pixel_from(options.pixel, loaded.of.scene.view);
    const verify::explanation explained = verify::explain(loaded.of.scene, x, y, *loaded.by);
    report::data data = report::data_of(explained, x, y);
    data.set("scene", options.from.scene).set("model", loaded.model());
    std::string text = report::explanation_text(loaded.of, loaded.model(), explained, x, y);
    if (other) {
        const study::found_pixel found = study::find_pixel(explained, other->shown, x, y, other->format);
        text += report::found_pixel_text(explained, found, other->name);
        data.set("found", report::data_of(found, other->name));
    }
    if (options.data.speaks()) {
        on.print("{}", text);
    }
    options.data.write(on, data);
    return all_held;
}

} // namespace

void add_explain(option_list& to, session& on) {
    auto options = std::make_shared<explain_options>();
    options->from.add_to(to, true);
    options->from.add_program_to(to);
    to.text("--pixel", options->pixel, "which one, counted from the top left",
            {.type = "X,Y", .required = true});
    options->given.add_to(
        to, "this picture's value beside the right one, and what would have to differ to give it");
    options->data.add_to(to, "the numbers");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
