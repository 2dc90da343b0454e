#include "session.hpp"

#include <memory>
#include <sstream>

namespace yurvo::app {

namespace {

struct draw_options {
    scene_options from;
    std::string output, terms, encode = "srgb", json_file;
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

int run(session& on, const draw_options& options) {
    require_picture_name(options.output);
    if (options.encode != "srgb" && options.encode != "linear") {
        throw error({"--encode", 0, 0}, "`" + options.encode + "` is not known", "srgb or linear");
    }
    const scene drawn = options.from.load(on);
    work_done done;
    const picture made = draw(drawn, draw_settings{terms_from(options.terms)}, &done);
    write_picture(options.output, made, options.encode == "linear" ? encoding::linear : encoding::srgb);
    if (speaks(options.json_file)) {
        on.print("{}: {}x{}, {} per {}; {} pixels drawn, the model run {} times\n", options.output,
                 made.width, made.height, name_of(drawn.shading.model), name_of(drawn.shading.rate),
                 grouped(done.pixels), grouped(done.evaluations));
    }
    write_json(on, options.json_file,
               {{"scene", options.from.scene},
                {"file", options.output},
                {"size", {made.width, made.height}},
                {"model", name_of(drawn.shading.model)},
                {"rate", name_of(drawn.shading.rate)},
                {"pixels", done.pixels},
                {"evaluations", done.evaluations}});
    return all_held;
}

} // namespace

void add_draw(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand("draw", "Draw a scene into a picture file.");
    auto options = std::make_shared<draw_options>();
    options->from.add_to(*command, true);
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
        ->add_option("--encode", options->encode, "how a PNG is written: srgb (as displays expect) or linear")
        ->type_name("CURVE");
    command->add_option("--json", options->json_file, "what was drawn, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
