#include "session.hpp"

#include <memory>
#include <sstream>

#include "yurvo/pipeline/show.hpp"
#include "yurvo/pipeline/visibility.hpp"
#include "yurvo/report/markers.hpp"

namespace yurvo::app {

namespace {

struct draw_options {
    scene_options from;
    std::string output, terms, encode = "srgb", json_file, show, light, mistake;
    bool markers = false;
    int threads = 0;
};

term_choice terms_from(const std::string& list) {
    if (list.empty()) {
        return {};
    }
    term_choice chosen{false, false, false, false};
    std::istringstream words(list);
    std::string word;
    while (std::getline(words, word, ',')) {
        if (word == "ambient") {
            chosen.ambient = true;
        } else if (word == "diffuse") {
            chosen.diffuse = true;
        } else if (word == "specular") {
            chosen.specular = true;
        } else if (word == "emission") {
            chosen.emission = true;
        } else {
            throw error({"--terms", 0, 0}, "`" + word + "` is no term",
                        "ambient, diffuse, specular or emission, with commas between");
        }
    }
    return chosen;
}

struct shown {
    picture made;
    std::string says; // what the picture means
};

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

shown show(const drawable& drawn, const draw_options& options, work_done& done) {
    scene of = drawn.scene;
    // These pictures show what the model is given, whatever it makes of it. The background stays black.
    of.view.background = {};
    if (options.show == "normals") {
        return {draw(of, show_normals{}, of.shading.rate, {}, &done),
                "normals: red, green, blue are x, y, z from −1 to 1"};
    }
    if (options.show == "cosine") {
        const scene lit = with_one_light(of, options.light);
        return {draw(lit, show_cosine{}, lit.shading.rate, {}, &done),
                fmt::format("n·l of {}: white is 1, black 0, blue below 0", label_of(lit.lights[0], 0))};
    }
    if (options.show == "depth") {
        const vec3<double> ahead = -make_camera(of.view).axes.backward;
        const picture metres = draw(of, show_depth{ahead}, of.shading.rate, {}, &done);
        if (!options.output.ends_with(".png")) {
            return {metres, "depth: metres along the view, 0 where there is nothing"};
        }
        double least = 0;
        double most = 0;
        picture made = depth_to_look_at(metres, least, most);
        return {std::move(made), done.pixels == 0 ? "depth: there is nothing"
                                                  : fmt::format("depth: {} m is white, {} m the darkest grey",
                                                                digits(least), digits(most))};
    }
    if (options.show == "overflow") {
        std::size_t pixels = 0;
        picture made = show_overflow(drawn.draw({terms_from(options.terms)}, &done), pixels);
        return {std::move(made),
                fmt::format("overflow: {} pixels have a component above 1, in red", grouped(pixels))};
    }
    throw error({"--show", 0, 0}, "`" + options.show + "` is not known",
                "normals, cosine, depth or overflow");
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
picture draw_mistaken(const session& on, const drawable& drawn, const draw_options& options,
                      const term_choice& terms, encoding how) {
    const verify::mistake_set wrong = mistakes_from(options.mistake);
    if (drawn.program) {
        throw error({"--mistake", 0, 0}, "a program has its own mistakes",
                    "--mistake or --program, not both");
    }
    if (drawn.own != nullptr || !options.show.empty()) {
        throw error({"--mistake", 0, 0},
                    drawn.own != nullptr ? "the mistakes are those of the built-in models"
                                         : "--show draws no light, so nothing of it can be wrong",
                    drawn.own != nullptr ? "--model lambert, phong, blinn-phong or cel" : "one of the two");
    }
    const bool codes = options.output.ends_with(".png") || options.output.ends_with(".PNG");
    for (const verify::mistake_entry& one : verify::all_mistakes()) {
        if (!wrong.has(one.which)) {
            continue;
        }
        if (!verify::applies(one.which, drawn.scene)) {
            on.remark(
                fmt::format("`{}` has nothing to get wrong in this scene, and leaves the picture as it is; "
                            "it applies to: {}",
                            one.id, one.applies_to));
        } else if (!codes && verify::is_of_codes(one.which)) {
            on.remark(
                fmt::format("`{}` is made when codes are written; {} holds floats", one.id, options.output));
        }
    }
    picture made = verify::draw_with_mistakes(drawn.scene, wrong, terms);
    return codes ? picture_of(made.width, made.height, verify::codes_with(made, wrong, how), how) : made;
}

int run(session& on, const draw_options& options) {
    require_picture_name(options.output);
    if (options.encode != "srgb" && options.encode != "linear") {
        throw error({"--encode", 0, 0}, "`" + options.encode + "` is not known", "srgb or linear");
    }
    if (!options.light.empty() && options.show != "cosine") {
        throw error({"--light", 0, 0}, "it goes with --show cosine", "--show cosine, or no --light");
    }
    if (options.threads < 0 || options.threads > 1024) {
        throw error({"--threads", 0, 0}, "there are " + std::to_string(options.threads),
                    "a whole number up to 1024; 0 is as many as the machine has");
    }
    const drawable drawn = options.from.load(on);
    const term_choice terms = terms_from(options.terms);
    work_done done;
    shown result;
    encoding how = options.encode == "linear" ? encoding::linear : encoding::srgb;
    if (drawn.program && !options.show.empty()) {
        throw error({"--show", 0, 0}, "it shows what the built-in pipeline gives a model",
                    "--show or --program, not both");
    }
    if (!options.mistake.empty()) {
        result.made = draw_mistaken(on, drawn, options, terms, how);
    } else if (options.show.empty()) {
        result.made = drawn.draw({terms, options.threads}, &done);
    } else {
        result = show(drawn, options, done);
        // Normals are no colours: their codes are the numbers.
        how = options.show == "normals" ? encoding::linear : how;
    }
    if (options.markers) {
        const pipeline::stage staged = pipeline::make_stage(drawn.scene);
        const pipeline::visibility visible = pipeline::find_visible(staged);
        const report::marked marked = report::draw_markers(drawn.scene, result.made, visible.nearness);
        result.made = marked.made;
        if (!marked.out_of_view.empty()) {
            on.remark(joined(marked.out_of_view) + (marked.out_of_view.size() == 1 ? " lies" : " lie") +
                      " outside the picture");
        }
        if (!marked.hidden.empty()) {
            on.remark(joined(marked.hidden) + (marked.hidden.size() == 1 ? " is" : " are") +
                      " hidden behind something nearer");
        }
    }
    write_picture(options.output, result.made, how);
    if (speaks(options.json_file) && !options.mistake.empty()) {
        on.print("{}: {}x{}, {} per {}, with the mistake {}\n", options.output, result.made.width,
                 result.made.height, drawn.model, name_of(drawn.scene.shading.rate), options.mistake);
    } else if (speaks(options.json_file) && drawn.program) {
        on.print("{}: {}x{}, {} per {}, drawn by {}\n", options.output, result.made.width, result.made.height,
                 drawn.model, name_of(drawn.scene.shading.rate), drawn.program->driver());
    } else if (speaks(options.json_file)) {
        on.print("{}: {}x{}, {} per {}; {} pixels drawn, the model run {} times\n", options.output,
                 result.made.width, result.made.height, drawn.model, name_of(drawn.scene.shading.rate),
                 grouped(done.pixels), grouped(done.evaluations));
        if (!result.says.empty()) {
            on.print("{}\n", result.says);
        }
    }
    write_json(on, options.json_file,
               {{"scene", options.from.scene},
                {"file", options.output},
                {"size", {result.made.width, result.made.height}},
                {"model", drawn.model},
                {"rate", name_of(drawn.scene.shading.rate)},
                {"mistake", options.mistake},
                {"pixels", done.pixels},
                {"evaluations", done.evaluations}});
    return all_held;
}

} // namespace

void add_draw(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand("draw", "Draw a scene into a picture file.");
    auto options = std::make_shared<draw_options>();
    options->from.add_to(*command, true);
    options->from.add_program_to(*command);
    command
        ->add_option("-o,--output", options->output,
                     "the picture: .png (8 bits, sRGB), .exr or .pfm (linear floats, unclamped)")
        ->required()
        ->type_name("FILE");
    command
        ->add_option("--terms", options->terms,
                     "only these terms: ambient, diffuse, specular, emission, with commas between")
        ->type_name("LIST");
    command
        ->add_option(
            "--show", options->show,
            "instead of the light: normals, cosine (n·l of one light), depth, overflow (what is above 1)")
        ->type_name("WHAT");
    command
        ->add_option("--light", options->light,
                     "with --show cosine: which light; the first where none is named")
        ->type_name("NAME");
    command->add_flag("--markers", options->markers,
                      "draw where the lights are: points, arrows and cones, named");
    command
        ->add_option("--encode", options->encode, "how a PNG is written: srgb (as displays expect) or linear")
        ->type_name("CURVE");
    command
        ->add_option("--mistake", options->mistake,
                     "with this mistake in it (see `yurvo mistakes`), or several with commas between")
        ->type_name("ID");
    command->add_option("--threads", options->threads, "at most so many threads; the picture is the same")
        ->type_name("N");
    command->add_option("--json", options->json_file, "what was drawn, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
