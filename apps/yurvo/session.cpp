#include "session.hpp"

#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <sstream>

#include "embedded_scenes.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::app {

void session::progress(const std::string& text) const {
    if (::isatty(STDERR_FILENO) == 1) {
        fmt::print(stderr, "\r\x1b[K{}", text);
        std::fflush(stderr);
    }
}

void session::remark(const std::string& text) const { fmt::print(stderr, "yurvo: {}\n", text); }

void session::flush() {
    const bool written = std::fwrite(output_.data(), 1, output_.size(), stdout) == output_.size();
    const bool flushed = std::fflush(stdout) == 0;
    output_.clear();
    if ((!written || !flushed) && errno != EPIPE) {
        throw error({"standard output", 0, 0}, std::string("cannot be written: ") + std::strerror(errno),
                    "a place with room");
    }
}

namespace {

std::string_view stem(std::string_view file) { return file.substr(0, file.find_last_of('.')); }

const embedded_file* find_embedded(std::string_view name) {
    for (const embedded_file& file : embedded_scenes()) {
        if (file.name == name) {
            return &file;
        }
    }
    return nullptr;
}

std::vector<std::string_view> scene_names() {
    std::vector<std::string_view> names;
    for (const verify::reference_scene& reference : verify::reference_scenes()) {
        names.emplace_back(reference.name);
    }
    for (const embedded_file& file : embedded_scenes()) {
        if (file.name.ends_with(".toml")) {
            names.push_back(stem(file.name));
        }
    }
    return names;
}

scene parse_embedded(const embedded_file& file) {
    return parse_scene(std::string(file.bytes), std::string(file.name), [](const std::string& name) {
        const embedded_file* found = find_embedded(name);
        if (found == nullptr) {
            throw error({name, 0, 0}, "cannot be read: it does not come with the tool", "one that does");
        }
        return std::string(found->bytes);
    });
}

int whole_number(std::string_view text) {
    int value = 0;
    const auto [end, failed] = std::from_chars(text.data(), text.data() + text.size(), value);
    return failed == std::errc{} && end == text.data() + text.size() ? value : 0;
}

template <class Enum> void change(Enum& value, const std::string& word, const std::string& option) {
    if (word.empty()) {
        return;
    }
    const std::optional<Enum> known = from_name<Enum>(word);
    if (!known) {
        throw error({option, 0, 0}, "`" + word + "` is not known", listed(all_names<Enum>()));
    }
    value = *known;
}

} // namespace

scene find_scene(const session& on, const std::string& name) {
    if (const verify::reference_scene* reference = verify::find_reference(name)) {
        return reference->scene;
    }
    if (const embedded_file* file = find_embedded(name + ".toml")) {
        return parse_embedded(*file);
    }
    std::error_code ignored;
    if (!std::filesystem::exists(name, ignored)) {
        throw error({name, 0, 0}, "there is no such scene, nor a file of that name",
                    instead_of(name, scene_names(), "a path, or a name that `yurvo scenes` lists"));
    }
    std::vector<std::string> remarks;
    scene read = read_scene(name, &remarks);
    for (const std::string& remark : remarks) {
        on.remark(remark);
    }
    return read;
}

std::vector<demo_scene> demo_scenes() {
    std::vector<demo_scene> scenes;
    for (const embedded_file& file : embedded_scenes()) {
        if (file.name.ends_with(".toml")) {
            scenes.push_back({std::string(stem(file.name)), parse_embedded(file).title});
        }
    }
    return scenes;
}

void scene_options::add_to(CLI::App& command, bool with_rate) {
    command.add_option("scene", scene, "a scene's name (see `yurvo scenes`) or the path of a scene file")
        ->required()
        ->type_name("SCENE");
    command.add_option("--size", size, "pixels, instead of the scene's own")->type_name("WIDTHxHEIGHT");
    command.add_option("--model", model, "instead of the scene's: " + listed(all_names<model_kind>()))
        ->type_name("MODEL");
    if (with_rate) {
        command.add_option("--rate", rate, "instead of the scene's: " + listed(all_names<yurvo::rate>()))
            ->type_name("RATE");
    }
}

void scene_options::add_program_to(CLI::App& command) {
    command
        .add_option("--program", program,
                    "a shader program of yours, by its program file, drawn by the system's OpenGL driver")
        ->type_name("FILE");
}

std::shared_ptr<const program_subject> open_program(const session& on, const std::string& file) {
    on.progress("compiling " + file);
    auto made = std::make_shared<const program_subject>(read_program(file));
    on.progress("");
    for (const std::string& remark : made->remarks()) {
        on.remark(file + ": " + remark);
    }
    return made;
}

picture drawable::draw_program(const yurvo::scene& of, const draw_settings& settings) const {
    yurvo::scene changed = of; // a program draws all terms: what is not asked for is taken out of the scene
    if (!settings.terms.ambient) {
        changed.ambient_strength = 0;
    }
    for (named_material& one : changed.materials) {
        one.look.diffuse = settings.terms.diffuse ? one.look.diffuse : rgb<double>();
        one.look.specular = settings.terms.specular ? one.look.specular : rgb<double>();
        one.look.emission = settings.terms.emission ? one.look.emission : rgb<double>();
    }
    try {
        return program->draw(changed);
    } catch (const verify::cannot_draw&) {
        throw error({program->program().file, 0, 0}, "the program cannot draw this without some of its terms",
                    "material.diffuse, material.specular and ambient.strength bound in [uniforms]");
    }
}

drawable drawable_of(const scene& of) {
    return {of, std::string(name_of(of.shading.model)), nullptr, nullptr};
}

drawable scene_options::load(const session& on) const {
    yurvo::scene loaded = find_scene(on, scene);
    if (!size.empty()) {
        const std::size_t cross_at = size.find('x');
        loaded.view.width = cross_at == std::string::npos ? 0 : whole_number(size.substr(0, cross_at));
        loaded.view.height = cross_at == std::string::npos ? 0 : whole_number(size.substr(cross_at + 1));
        const auto fits = [](int side) { return side >= 1 && side <= 16384; };
        if (!fits(loaded.view.width) || !fits(loaded.view.height)) {
            throw error({"--size", 0, 0}, "`" + size + "` is no size",
                        "WIDTHxHEIGHT, such as 1280x800, each from 1 to 16384");
        }
    }
    const any_model* own = on.with().models.find(model);
    if (own != nullptr) {
        loaded.shading.model =
            model_kind::lambert; // whose keys are always valid; the model of one's own is what runs
    } else if (!model.empty()) {
        const std::optional<model_kind> known = from_name<model_kind>(model);
        if (!known) {
            std::vector<std::string_view> names = all_names<model_kind>();
            const std::vector<std::string_view> mine = on.with().models.names();
            names.insert(names.end(), mine.begin(), mine.end());
            throw error({"--model", 0, 0}, "`" + model + "` is not known", listed(names));
        }
        loaded.shading.model = *known;
    }
    change(loaded.shading.rate, rate, "--rate");
    if (const std::optional<fault> found = find_fault(loaded)) {
        throw error({scene, 0, 0}, found->wrong, found->right);
    }
    drawable made = drawable_of(loaded);
    if (!program.empty()) {
        if (!model.empty() || !rate.empty()) {
            throw error({"--program", 0, 0}, "the program file claims a model and a rate itself",
                        "--program without --model and --rate");
        }
        made.program = open_program(on, program);
        const fitted_scene fitted = made.program->fit(loaded);
        if (!fitted.made) {
            throw error({scene, 0, 0}, fitted.skipped,
                        "another scene, or `kinds` and `lights` in the program file");
        }
        for (const std::string& change : fitted.changes) {
            on.remark(scene + " is fitted to the program: " + change);
        }
        made.scene = *fitted.made;
        made.model = std::string(name_of(made.scene.shading.model)) + " by " + program;
    }
    if (own != nullptr) {
        made.own = own;
        made.model = model;
    }
    return made;
}

void write_json(session& on, const std::string& file, const json& data) {
    if (file.empty()) {
        return;
    }
    // A name may hold bytes that are not UTF-8; they are replaced rather than refused.
    const std::string text = data.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
    if (file == "-") {
        on.print("{}", text);
    } else {
        write_whole(file, text);
    }
}

json json_of(const std::vector<double>& values) { return values; }
json json_of(const rgb<float>& color) { return {color.r, color.g, color.b}; }
json json_of(const rgb<double>& color) {
    return {number_or_null(color.r), number_or_null(color.g), number_or_null(color.b)};
}
json json_of(const vec3<double>& vector) {
    return {number_or_null(vector.x), number_or_null(vector.y), number_or_null(vector.z)};
}
json number_or_null(double value) { return std::isfinite(value) ? json(value) : json(nullptr); }

verify::mistake_set mistakes_from(const std::string& list) {
    verify::mistake_set made;
    std::istringstream words(list);
    for (std::string word; std::getline(words, word, ',');) {
        const verify::mistake_entry* found = verify::find_mistake(word);
        if (found == nullptr) {
            std::vector<std::string_view> known;
            for (const verify::mistake_entry& one : verify::all_mistakes()) {
                known.push_back(one.id);
            }
            throw error({"mistake", 0, 0}, "there is no mistake `" + word + "`",
                        instead_of(word, known, "an id that `yurvo mistakes` lists"));
        }
        made.add(found->which);
    }
    return made;
}

verify::precision precision_of(const std::string& picture, const std::string& as) {
    const bool codes = picture.ends_with(".png") || picture.ends_with(".PNG");
    if (as.empty()) {
        return codes ? verify::precision::srgb_codes : verify::precision::floats;
    }
    if (as != "linear" && as != "srgb") {
        throw error({"--as", 0, 0}, "`" + as + "` is no way to hold colours", "linear or srgb");
    }
    if (!codes && as == "srgb") {
        throw error({"--as", 0, 0}, picture + " holds floats, which are linear", "a PNG, or --as linear");
    }
    return !codes           ? verify::precision::floats
           : as == "linear" ? verify::precision::linear_codes
                            : verify::precision::srgb_codes;
}

picture read_found(const std::string& file, verify::precision held) {
    return read_picture(file, held == verify::precision::linear_codes ? encoding::linear : encoding::srgb);
}

std::string wrapped(const std::string& text, std::size_t indent) {
    constexpr std::size_t columns = 110;
    const auto width = [](const std::string& word) { // a character of UTF-8 may be several bytes
        return static_cast<std::size_t>(std::count_if(word.begin(), word.end(), [](char c) {
            return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U;
        }));
    };
    std::istringstream words(text);
    std::string made;
    std::size_t at = indent;
    for (std::string word; words >> word;) {
        if (at > indent && at + 1 + width(word) > columns) {
            made += "\n" + std::string(indent, ' ');
            at = indent;
        } else if (at > indent) {
            made += ' ';
            ++at;
        }
        made += word;
        at += width(word);
    }
    return made;
}

std::string grouped(std::uint64_t number) {
    std::string text = std::to_string(number);
    for (auto at = static_cast<std::ptrdiff_t>(text.size()) - 3; at > 0; at -= 3) {
        text.insert(static_cast<std::size_t>(at), ",");
    }
    return text;
}

std::string digits(double value) { return fmt::format("{:.3g}", value); }

std::string triple(const std::vector<double>& values, int precision) {
    std::string text;
    for (const double value : values) {
        text += fmt::format("{}{:.{}g}", text.empty() ? "" : ", ", value, precision);
    }
    return "(" + text + ")";
}

} // namespace yurvo::app
