#include <filesystem>

#include "session.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/guess.hpp"
#include "yurvo/program/starters.hpp"

namespace yurvo::app {

namespace {

struct new_options {
    std::string what, folder, language, version, rate = "both", model = "blinn-phong";
    std::vector<std::string> from, entries;
};

// A file as one beside the folder's own names it.
std::string named_from(const std::string& folder, const std::string& file) {
    namespace fs = std::filesystem;
    const fs::path relative =
        fs::absolute(file).lexically_normal().lexically_relative(fs::absolute(folder).lexically_normal());
    return relative.empty() ? file : relative.string();
}

// As it is said, or as the sources look.
shading_language language_of(const new_options& options) {
    if (!options.language.empty()) {
        return word_of<shading_language>(options.language, "--language");
    }
    const std::string extension = std::filesystem::path(options.from.front()).extension().string();
    if (extension == ".spv") {
        return shading_language::spirv;
    }
    if (options.from.size() == 1 && options.entries.empty()) { // one file is enough in one language only
        return extension == ".hlsl" ? shading_language::hlsl : shading_language::glsl;
    }
    const auto text = [](const std::string& file) { return read_stage(file, shading_language::glsl).source; };
    return likely_language(text(options.from.front()), text(options.from.back()));
}

// A program file for sources that have none.
int guess_file(session& on, const new_options& options) {
    shader_program the_program;
    the_program.language = language_of(options);
    the_program.model = word_of<model_kind>(options.model, "--model");
    the_program.rate = options.rate == "both" ? rate::fragment : word_of<rate>(options.rate, "--rate");
    the_program.file = options.folder + "/program.toml";
    const bool entries = the_program.language == shading_language::hlsl;
    if (!entries && options.from.size() != 2) {
        throw error({"--from", 0, 0}, "there is one source", "--from VERT FRAG");
    }
    if (entries && options.from.size() == 1 && options.entries.size() != 2) {
        throw error({"--from", 0, 0}, "one file of HLSL needs the names of its entry points",
                    "--from FILE --entries VERTEX FRAGMENT");
    }
    the_program.vertex = read_stage(options.from.front(), the_program.language);
    the_program.fragment = read_stage(options.from.back(), the_program.language);
    if (entries) {
        the_program.vertex.entry = options.entries.size() == 2 ? options.entries[0] : "vertex_main";
        the_program.fragment.entry = options.entries.size() == 2 ? options.entries[1] : "fragment_main";
    }
    const std::string& fragment_file = options.from[options.from.size() - 1];
    const guessed_program guessed = guess_program(
        the_program, {named_from(options.folder, options.from[0]), named_from(options.folder, fragment_file)},
        [&](const std::string& what) { on.progress(what); });
    on.progress("");
    write_new_files(options.folder, {{"program.toml", guessed.text}});
    on.print("{}: a guess at what {} mean{}\n", the_program.file,
             options.from.size() == 2 ? options.from[0] + " and " + options.from[1] + "" : options.from[0],
             guessed.unsure == 0
                 ? ""
                 : fmt::format("; {} names are left to you, each a line that says so", guessed.unsure));
    on.print("{}",
             guessed.right && !guessed.by_its_text.empty()
                 ? fmt::format("It is right on small scenes, held to what its own text has for `{}`: see "
                               "that it is what is "
                               "meant.\n",
                               fmt::join(guessed.by_its_text, "` and `"))
             : guessed.right ? "It is right on small scenes.\n"
             : guessed.alpha_beyond
                 ? "Its colours are right on small scenes. Its alpha is above 1 in places, and has to be the "
                   "material's, 1 where none is set.\n"
                 : "It is not right yet: something in it is not what it "
                   "is taken for, or the shader is wrong.\n");
    for (const std::string& mistake : guessed.claimed) {
        on.print("One line claims what would otherwise be the mistake {}: keep it only if it is meant.\n",
                 mistake);
    }
    on.print("Next: look through it, then `yurvo check --program {}`.\n", the_program.file);
    return all_held;
}

int run(session& on, const new_options& options) {
    if (options.what != "program") {
        throw error({"yurvo new", 0, 0}, "`" + options.what + "` cannot be made", "yurvo new program DIR");
    }
    if (!options.from.empty()) {
        return guess_file(on, options);
    }
    starter_choice chosen;
    chosen.language = options.language.empty() ? shading_language::glsl
                                               : word_of<shading_language>(options.language, "--language");
    chosen.version = options.version;
    chosen.shading.model = word_of<model_kind>(options.model, "--model");
    const bool per_fragment_only =
        chosen.shading.model == model_kind::cel || chosen.shading.model == model_kind::unlit;
    std::vector<std::pair<std::string, std::string>> files;
    std::string first;
    for (const rate at : {rate::fragment, rate::vertex}) {
        const bool wanted = options.rate == "both" ? at == rate::fragment || !per_fragment_only
                                                   : word_of<rate>(options.rate, "--rate") == at;
        if (!wanted) {
            continue;
        }
        chosen.rate = at;
        const std::string name = at == rate::fragment ? "per-fragment" : "per-vertex";
        for (const starter_file& file : starter_files(chosen, name)) {
            files.emplace_back(file.name, file.text);
        }
        first = first.empty() ? options.folder + "/" + name + ".toml" : first;
    }
    if (files.empty()) {
        throw error({"--rate", 0, 0}, "a shader has no rate `" + options.rate + "`",
                    "vertex, fragment or both");
    }
    write_new_files(options.folder, files);
    for (const auto& [name, text] : files) {
        on.print("{}/{}\n", options.folder, name);
    }
    on.print(
        "\nNext: `yurvo check --program {}` holds it to the reference scenes; change a line, and see what it "
        "says.\n",
        first);
    return all_held;
}

} // namespace

void add_new(option_list& to, session& on) {
    auto options = std::make_shared<new_options>();
    to.text("what", options->what, "program", {.type = "program", .required = true});
    to.text("folder", options->folder, "the folder, made where it is missing",
            {.type = "DIR", .required = true});
    to.text("--language", options->language,
            "glsl, glsl-es, glsl-vulkan or hlsl; where left out as the sources look, or glsl");
    to.text("--glsl-version", options->version, "of glsl: 330 to 450; of glsl-es: 100 or 300");
    to.text("--rate", options->rate, "vertex, fragment or both", {.show_default = true});
    to.text("--model", options->model, "lambert, phong or blinn-phong; of glsl also unlit and cel",
            {.show_default = true});
    to.texts("--from", options->from,
             "a program file for these sources of yours, guessed by their names and by drawing",
             {.type = "VERT FRAG"});
    to.texts("--entries", options->entries, "of one file of HLSL: its vertex and its fragment entry point",
             {.type = "VERTEX FRAGMENT", .count = 2});
    run_with(to, on, options, run);
}

} // namespace yurvo::app
