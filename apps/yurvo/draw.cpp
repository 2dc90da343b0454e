#include "pipeline/parallel.hpp"
#include "report/text.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/report/markers.hpp"
#include "yurvo/report/show.hpp"
#include "yurvo/study/sampled.hpp"

namespace yurvo::app {

// How a PNG is written, as options say it.
enum class encode_word : std::uint8_t { srgb, linear };

} // namespace yurvo::app

template <> struct yurvo::names_of<yurvo::app::encode_word> {
    static constexpr std::array<std::string_view, 2> list{"srgb", "linear"};
};

namespace yurvo::app {

namespace {

struct draw_options {
    scene_options from;
    std::string output, terms, encode = "srgb", show, light, mistake;
    json_option data;
    bool markers = false;
    int threads = 0, samples = 1;
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

drawn_picture show(const loaded_scene& loaded, const draw_options& options) {
    const study::shown found = study::show(loaded.of.scene, *loaded.by,
                                           {word_of<study::shown_part>(options.show, "--show"), options.light,
                                            terms_from(options.terms), options.output.ends_with(".png")});
    return {found.drawn, found.how, found.statistics, report::show_text(found)};
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
    const verify::lit_by model = own_model_of(loaded.of.scene, *loaded.by) != nullptr
                                     ? verify::lit_by::own_model
                                     : verify::lit_by::scene_model;
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        if (!wrong.has(entry.which)) {
            continue;
        }
        if (!verify::applies(entry.which, loaded.of.scene, model)) {
            on.remark(fmt::format(
                "`{}` has nothing to get wrong in this scene, and leaves the picture as it is; it "
                "applies to: {}",
                entry.id, entry.applies_to));
        } else if (!codes && verify::is_of_codes(entry.which)) {
            on.remark(fmt::format("`{}` is made when codes are written; {} holds floats", entry.id,
                                  options.output));
        }
    }
    drawn_picture result;
    result.how = how;
    result.shown =
        verify::mistaken_renderer(wrong, *loaded.by).draw(loaded.of.scene, {terms_from(options.terms)});
    if (codes) {
        result.shown = picture_of(result.shown.width, result.shown.height,
                                  verify::codes_with(result.shown, wrong, how), how);
    }
    return result;
}

// Where formulas gave no numbers.
void tell_faults(const session& on, const loaded_scene& loaded, const draw_statistics& statistics) {
    const char* const evaluated = loaded.of.scene.shading.rate == rate::fragment ? "pixels"
                                  : loaded.of.scene.shading.rate == rate::vertex ? "vertices"
                                                                                 : "faces";
    for (std::size_t i = 0; i < statistics.not_finite.size(); ++i) {
        if (statistics.not_finite[i] > 0) {
            on.remark(fmt::format("the formula `{}` gives NaN or infinity at {} {}, which are black",
                                  formulas::slot_list[i].name, report::grouped(statistics.not_finite[i]),
                                  evaluated));
        }
    }
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

// The samples across a pixel, as many as fit.
int samples_for(const view& of, int asked) {
    const int most = std::min(16, study::most_samples(of));
    if (asked < 1 || asked > most) {
        throw error({"--samples", 0, 0}, "there are " + std::to_string(asked),
                    "a whole number from 1 to " + std::to_string(most) + " for a picture of this size");
    }
    return asked;
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
    if (options.samples > 1 && (!options.show.empty() || !options.mistake.empty())) {
        throw error({"--samples", 0, 0},
                    "what is looked at or held against another is drawn at pixels' centres",
                    "--samples without --show and --mistake");
    }
    if (!options.from.program.empty() && !options.show.empty()) {
        throw error({"--show", 0, 0}, "it shows what the built-in pipeline gives a model",
                    "--show or --program, not both");
    }
}

void tell(session& on, const draw_options& options, const loaded_scene& loaded, const drawn_picture& result) {
    on.print("{}: {}x{}, {} per {}", options.output, result.shown.width, result.shown.height, loaded.model(),
             loaded.rate());
    if (!options.mistake.empty()) {
        on.print(", with the mistake {}\n", options.mistake);
    } else if (loaded.program) {
        on.print(", drawn by {}\n", loaded.by->drawn_by());
    } else {
        on.print("; {} pixels drawn, the model run {} times\n", report::grouped(result.statistics.pixels),
                 report::grouped(result.statistics.evaluations));
    }
    if (!result.says.empty()) {
        on.print("{}\n", result.says);
    }
}

int run(session& on, const draw_options& options) {
    require_sense(options);
    const encoding how = word_of<encode_word>(options.encode, "--encode") == encode_word::linear
                             ? encoding::linear
                             : encoding::srgb;
    const loaded_scene loaded = options.from.load(on);
    drawn_picture result;
    if (!options.mistake.empty()) {
        result = draw_mistaken(on, loaded, options, how);
    } else if (!options.show.empty()) {
        result = show(loaded, options);
        result.how = options.show == "normals" ? result.how : how;
    } else {
        result.how = how;
        result.shown = study::draw_sampled(loaded.of.scene, *loaded.by,
                                           samples_for(loaded.of.scene.view, options.samples),
                                           {terms_from(options.terms), options.threads}, &result.statistics);
    }
    tell_faults(on, loaded, result.statistics);
    if (options.markers) {
        add_markers(on, loaded, result.shown);
    }
    pipeline::with_threads(options.threads, [&] { write_picture(options.output, result.shown, result.how); });
    if (options.data.speaks()) {
        tell(on, options, loaded, result);
    }
    report::data data;
    data.set("scene", options.from.scene)
        .set("file", options.output)
        .set("size", std::vector<int>{result.shown.width, result.shown.height})
        .set("model", loaded.model())
        .set("rate", loaded.rate())
        .set("mistake", options.mistake)
        .set("pixels", result.statistics.pixels)
        .set("evaluations", result.statistics.evaluations);
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
            {.type = "FILE", .required = true, .written = true});
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
    to.whole("--samples", options->samples,
             "N by N samples for each pixel, averaged in linear light: for pictures to show", {.type = "N"});
    to.whole("--threads", options->threads, "at most so many threads; the picture is the same",
             {.type = "N"});
    options->data.add_to(to, "what was drawn");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
