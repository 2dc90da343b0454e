#include "report/text.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/show.hpp"
#include "yurvo/report/markers.hpp"

namespace yurvo {

namespace app {

// How a PNG is written, and what is shown instead of light, as options say it.
enum class encode_word : std::uint8_t { srgb, linear };
enum class show_word : std::uint8_t { normals, cosine, depth, overflow };

} // namespace app

template <> struct names_of<app::encode_word> {
    static constexpr std::array<std::string_view, 2> list{"srgb", "linear"};
};
template <> struct names_of<app::show_word> {
    static constexpr std::array<std::string_view, 4> list{"normals", "cosine", "depth", "overflow"};
};

} // namespace yurvo

namespace yurvo::app {

namespace {

struct draw_options {
    scene_options from;
    std::string output, terms, encode = "srgb", show, light, mistake;
    json_option data;
    bool markers = false;
    int threads = 0;
};

// What was drawn, and what is to be said of it.
struct drawn_picture {
    picture shown;
    encoding how = encoding::srgb;
    draw_statistics statistics;
    std::string says;
};

term_choice terms_from(const std::string& list) {
    if (list.empty()) {
        return {};
    }
    term_choice chosen{false, false, false, false};
    for (const std::string& word : words_of(list)) {
        const std::optional<term> known = from_name<term>(word);
        if (!known) {
            throw error({"--terms", 0, 0}, "`" + word + "` is no term",
                        listed(all_names<term>()) + ", with commas between");
        }
        chosen.*term_list[static_cast<std::size_t>(*known)].chosen = true;
    }
    return chosen;
}

// The scene with one light left, by its name; the first where none is named.
scene with_one_light(const scene& of, const std::string& name) {
    scene made = of;
    made.lights.clear();
    std::vector<std::string_view> known;
    for (const named_light& light : of.lights) {
        known.emplace_back(light.name);
        if (made.lights.empty() && (name.empty() || light.name == name)) {
            made.lights.push_back(light);
        }
    }
    if (made.lights.empty()) {
        throw error({"--light", 0, 0},
                    name.empty() ? "the scene has no light" : "there is no light `" + name + "`",
                    instead_of(name, known, "a scene's light by its name"));
    }
    return made;
}

drawn_picture show(const loaded_scene& loaded, const draw_options& options) {
    const auto what = word_of<show_word>(options.show, "--show");
    scene of = loaded.of.scene;
    // These pictures show what the model is given, whatever it makes of it. The background stays black.
    of.view.background = {};
    drawn_picture made;
    switch (what) {
    case show_word::normals:
        made.shown = show_normals(of, &made.statistics);
        made.how = encoding::linear; // normals are no colours: their codes are the numbers
        made.says = "normals: red, green, blue are x, y, z from −1 to 1";
        break;
    case show_word::cosine: {
        const scene lit = with_one_light(of, options.light);
        made.shown = show_cosine(lit, &made.statistics);
        made.says = fmt::format("n·l of {}: white is 1, black 0, blue below 0", label_of(lit.lights[0], 0));
        break;
    }
    case show_word::depth: {
        made.shown = show_depth(of, &made.statistics);
        made.says = "depth: metres along the view, 0 where there is nothing";
        if (options.output.ends_with(".png")) {
            double least = 0;
            double most = 0;
            made.shown = depth_to_look_at(made.shown, least, most);
            made.says = made.statistics.pixels == 0
                            ? "depth: there is nothing"
                            : fmt::format("depth: {} m is white, {} m the darkest grey",
                                          report::digits(least), report::digits(most));
        }
        break;
    }
    case show_word::overflow: {
        std::size_t pixels = 0;
        made.shown = show_overflow(
            loaded.by->draw(loaded.of.scene, {terms_from(options.terms)}, &made.statistics), pixels);
        made.says =
            fmt::format("overflow: {} pixels have a component above 1, in red", report::grouped(pixels));
        break;
    }
    }
    return made;
}

// `a, b and c`
std::string joined(const std::vector<std::string>& names) {
    std::string text;
    for (std::size_t i = 0; i < names.size(); ++i) {
        text += (i == 0 ? "" : i + 1 == names.size() ? " and " : ", ") + names[i];
    }
    return text;
}

// The picture with mistakes in it, as the file is to hold it.
drawn_picture draw_mistaken(const session& on, const loaded_scene& loaded, const draw_options& options,
                            encoding how) {
    const verify::mistake_set wrong = mistakes_from(options.mistake);
    if (loaded.program) {
        throw error({"--mistake", 0, 0}, "a program has its own mistakes",
                    "--mistake or --program, not both");
    }
    if (!options.show.empty()) {
        throw error({"--mistake", 0, 0}, "--show draws no light, so nothing of it can be wrong",
                    "one of the two");
    }
    const bool codes = options.output.ends_with(".png") || options.output.ends_with(".PNG");
    const verify::lit_by model =
        loaded.by->own_model() != nullptr ? verify::lit_by::own_model : verify::lit_by::scene_model;
    for (const verify::mistake_entry& one : verify::all_mistakes()) {
        if (!wrong.has(one.which)) {
            continue;
        }
        if (!verify::applies(one.which, loaded.of.scene, model)) {
            on.remark(fmt::format(
                "`{}` has nothing to get wrong in this scene, and leaves the picture as it is; it "
                "applies to: {}",
                one.id, one.applies_to));
        } else if (!codes && verify::is_of_codes(one.which)) {
            on.remark(
                fmt::format("`{}` is made when codes are written; {} holds floats", one.id, options.output));
        }
    }
    drawn_picture made;
    made.how = how;
    made.shown =
        verify::mistaken_renderer(wrong, *loaded.by).draw(loaded.of.scene, {terms_from(options.terms)});
    if (codes) {
        made.shown =
            picture_of(made.shown.width, made.shown.height, verify::codes_with(made.shown, wrong, how), how);
    }
    return made;
}

void add_markers(const session& on, const loaded_scene& loaded, picture& to) {
    const report::marked marked = report::draw_markers(loaded.of.scene, to);
    to = marked.drawn;
    if (!marked.out_of_view.empty()) {
        on.remark(joined(marked.out_of_view) + (marked.out_of_view.size() == 1 ? " lies" : " lie") +
                  " outside the picture");
    }
    if (!marked.hidden.empty()) {
        on.remark(joined(marked.hidden) + (marked.hidden.size() == 1 ? " is" : " are") +
                  " hidden behind something nearer");
    }
}

void require_sense(const draw_options& options) {
    require_picture_name(options.output);
    if (!options.light.empty() && options.show != "cosine") {
        throw error({"--light", 0, 0}, "it goes with --show cosine", "--show cosine, or no --light");
    }
    if (options.threads < 0 || options.threads > 1024) {
        throw error({"--threads", 0, 0}, "there are " + std::to_string(options.threads),
                    "a whole number up to 1024; 0 is as many as the machine has");
    }
    if (!options.from.program.empty() && !options.show.empty()) {
        throw error({"--show", 0, 0}, "it shows what the built-in pipeline gives a model",
                    "--show or --program, not both");
    }
}

void tell(session& on, const draw_options& options, const loaded_scene& loaded, const drawn_picture& made) {
    on.print("{}: {}x{}, {} per {}", options.output, made.shown.width, made.shown.height, loaded.model(),
             loaded.rate());
    if (!options.mistake.empty()) {
        on.print(", with the mistake {}\n", options.mistake);
    } else if (loaded.program) {
        on.print(", drawn by {}\n", loaded.by->drawn_by());
    } else {
        on.print("; {} pixels drawn, the model run {} times\n", report::grouped(made.statistics.pixels),
                 report::grouped(made.statistics.evaluations));
    }
    if (!made.says.empty()) {
        on.print("{}\n", made.says);
    }
}

int run(session& on, const draw_options& options) {
    require_sense(options);
    const encoding how = word_of<encode_word>(options.encode, "--encode") == encode_word::linear
                             ? encoding::linear
                             : encoding::srgb;
    const loaded_scene loaded = options.from.load(on);
    drawn_picture made;
    if (!options.mistake.empty()) {
        made = draw_mistaken(on, loaded, options, how);
    } else if (!options.show.empty()) {
        made = show(loaded, options);
        made.how = options.show == "normals" ? made.how : how;
    } else {
        made.how = how;
        made.shown =
            loaded.by->draw(loaded.of.scene, {terms_from(options.terms), options.threads}, &made.statistics);
    }
    if (options.markers) {
        add_markers(on, loaded, made.shown);
    }
    write_picture(options.output, made.shown, made.how);
    if (options.data.speaks()) {
        tell(on, options, loaded, made);
    }
    report::data data;
    data.set("scene", options.from.scene)
        .set("file", options.output)
        .set("size", std::vector<int>{made.shown.width, made.shown.height})
        .set("model", loaded.model())
        .set("rate", loaded.rate())
        .set("mistake", options.mistake)
        .set("pixels", made.statistics.pixels)
        .set("evaluations", made.statistics.evaluations);
    options.data.write(on, data);
    return all_held;
}

} // namespace

void add_draw(option_list& to, session& on) {
    auto options = std::make_shared<draw_options>();
    options->from.add_to(to, true);
    options->from.add_program_to(to);
    to.text("-o,--output", options->output,
            "the picture: .png (8 bits, sRGB), .exr or .pfm (linear floats, unclamped)",
            {.type = "FILE", .required = true});
    to.text("--terms", options->terms,
            "only these terms: ambient, diffuse, specular, emission, with commas between", {.type = "LIST"});
    to.text("--show", options->show,
            "instead of the light: normals, cosine (n·l of one light), depth, overflow (what is above 1)",
            {.type = "WHAT"});
    to.text("--light", options->light, "with --show cosine: which light; the first where none is named",
            {.type = "NAME"});
    to.flag("--markers", options->markers, "draw where the lights are: points, arrows and cones, named");
    to.text("--encode", options->encode, "how a PNG is written: srgb (as displays expect) or linear",
            {.type = "CURVE"});
    to.text("--mistake", options->mistake,
            "with this mistake in it (see `yurvo mistakes`), or several with commas between", {.type = "ID"});
    to.whole("--threads", options->threads, "at most so many threads; the picture is the same",
             {.type = "N"});
    options->data.add_to(to, "what was drawn");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
