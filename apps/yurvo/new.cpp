#include "session.hpp"

#include <algorithm>
#include <filesystem>
#include <memory>

#include "starters.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/guess.hpp"

namespace yurvo::app {

namespace {

struct new_options {
    std::string what, folder, language = "glsl", version, rate = "both", model = "blinn-phong";
    std::vector<std::string> from;
};

template <class Enum> Enum word_of(const std::string& word, const std::string& option) {
    const std::optional<Enum> known = from_name<Enum>(word);
    if (!known) {
        throw error({option, 0, 0}, "`" + word + "` is not known", listed(all_names<Enum>()));
    }
    return *known;
}

std::string toml_key(const std::string& name) {
    const bool plain =
        name.find_first_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-") ==
        std::string::npos;
    return plain ? name : "\"" + name + "\"";
}

// A program file for sources that have none.
std::string guessed_file(const new_options& options, const std::string& folder, std::size_t& unsure) {
    shader_program given;
    given.language = word_of<shading_language>(options.language, "--language");
    given.file = folder + "/program.toml";
    given.vertex = {options.from[0], read_whole(options.from[0]), "main"};
    given.fragment = {options.from[1], read_whole(options.from[1]), "main"};
    const bool hlsl = given.language == shading_language::hlsl;
    if (hlsl) {
        given.vertex.entry = "vertex_main";
        given.fragment.entry = "fragment_main";
    }
    const guessed_bindings guessed = guess_bindings(given);
    const auto beside_file = [&](const std::string& source) {
        namespace fs = std::filesystem;
        const fs::path relative = fs::absolute(source).lexically_normal().lexically_relative(
            fs::absolute(folder).lexically_normal());
        return relative.empty() ? source : relative.string();
    };
    const auto stage = [&](const shader_stage& one) {
        return hlsl ? "{ file = \"" + beside_file(one.file) + "\", entry = \"" + one.entry + "\" }"
                    : "\"" + beside_file(one.file) + "\"";
    };
    std::string text =
        fmt::format("# A guess, by types and names: look through every line.\nformat = 1\nlanguage = \"{}\"\n"
                    "vertex = {}\nfragment = {}\n\n# What it is to equal.\nmodel = \"{}\"\nrate = \"{}\"\n",
                    options.language, stage(given.vertex), stage(given.fragment), options.model,
                    options.rate == "both" ? "fragment" : options.rate);
    const auto lines = [&](const char* heading, const std::vector<guessed_name>& all) {
        text += fmt::format("\n[{}]\n", heading);
        for (const guessed_name& one : all) {
            unsure += one.means.empty() ? 1U : 0U;
            text +=
                one.means.empty()
                    ? fmt::format("# {} = \"?\" # a {}: what does it mean?\n", toml_key(one.name), one.type)
                    : fmt::format("{} = \"{}\" # a {}\n", toml_key(one.name), one.means, one.type);
        }
    };
    lines("attributes", guessed.attributes);
    lines("uniforms", guessed.uniforms);
    return text;
}

int run(session& on, const new_options& options) {
    if (options.what != "program") {
        throw error({"yurvo new", 0, 0}, "`" + options.what + "` cannot be made", "yurvo new program DIR");
    }
    if (!options.from.empty()) {
        std::size_t unsure = 0;
        const std::string text = guessed_file(options, options.folder, unsure);
        make_folder(options.folder);
        const std::string file = options.folder + "/program.toml";
        if (std::filesystem::exists(file)) {
            throw error({file, 0, 0}, "is there already, and is not overwritten", "another folder");
        }
        write_whole(file, text);
        on.print("{}: a guess at what {} and {} mean{}\n", file, options.from[0], options.from[1],
                 unsure == 0 ? "" : fmt::format("; {} names are left to you, each a line with a ?", unsure));
        on.print("Next: look through it, then `yurvo check --program {}`.\n", file);
        return all_held;
    }
    starter_choice chosen;
    chosen.language = word_of<shading_language>(options.language, "--language");
    chosen.version = options.version;
    chosen.shading.model = word_of<model_kind>(options.model, "--model");
    std::vector<starter_file> files;
    std::vector<std::string> programs;
    for (const rate at : {rate::fragment, rate::vertex}) {
        const bool per_fragment_only =
            chosen.shading.model == model_kind::cel || chosen.shading.model == model_kind::unlit;
        const bool asked = options.rate == "both" ? at == rate::fragment || !per_fragment_only
                                                  : word_of<rate>(options.rate, "--rate") == at;
        if (asked) {
            chosen.rate = at;
            const std::string name = at == rate::fragment ? "per-fragment" : "per-vertex";
            for (starter_file& one : starter_files(chosen, name)) {
                files.push_back(std::move(one));
            }
            programs.push_back(options.folder + "/" + name + ".toml");
        }
    }
    if (files.empty()) {
        throw error({"--rate", 0, 0}, "a shader has no rate `" + options.rate + "`",
                    "vertex, fragment or both");
    }
    write_starter(options.folder, files);
    for (const starter_file& one : files) {
        on.print("{}/{}\n", options.folder, one.name);
    }
    on.print("\nNext: `yurvo check --program {}` holds it to the reference scenes; change a line, and see "
             "what it says.\n",
             programs.front());
    return all_held;
}

} // namespace

void add_new(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "new", "new program DIR: a right shader program with its program file, to start from.");
    auto options = std::make_shared<new_options>();
    command->add_option("what", options->what, "program")->required()->type_name("program");
    command->add_option("folder", options->folder, "the folder, made where it is missing")
        ->required()
        ->type_name("DIR");
    command->add_option("--language", options->language, "glsl, glsl-es, glsl-vulkan or hlsl")
        ->capture_default_str();
    command->add_option("--glsl-version", options->version, "of glsl: 330 to 450; of glsl-es: 100 or 300");
    command->add_option("--rate", options->rate, "vertex, fragment or both")->capture_default_str();
    command
        ->add_option("--model", options->model, "lambert, phong or blinn-phong; of glsl also unlit and cel")
        ->capture_default_str();
    command
        ->add_option("--from", options->from,
                     "a program file for these two sources of yours, guessed from their names")
        ->expected(2)
        ->type_name("VERT FRAG");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
