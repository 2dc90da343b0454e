// session: what every command has at hand.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "yurvo/command_line/command_line.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/program/subject.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/scene.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::app {

using json = nlohmann::ordered_json;

enum exit_status { all_held = 0, not_held = 1, bad_input = 2, missing = 3 };

class session {
    const tool& with_;
    std::string
        output_; // for standard output, written at once so that a command that fails prints no half of it

  public:
    std::function<int()> run; // the command that was asked for

    explicit session(const tool& with) : with_(with) {}

    template <class... Arguments>
    void print(fmt::format_string<Arguments...> text, Arguments&&... arguments) {
        output_ += fmt::format(text, std::forward<Arguments>(arguments)...);
    }
    // For standard error, and only where a person watches.
    void progress(const std::string& text) const;
    // For standard error, always.
    void remark(const std::string& text) const;

    // Writes what was printed. Throws yurvo::error where it cannot; a pipe that nobody reads any more is no
    // error.
    void flush();

    [[nodiscard]] const tool& with() const { return with_; }
};

// A scene and what draws it: the built-in pipeline, or a model of the user's.
struct drawable {
    yurvo::scene scene;
    std::string model; // its name
    const any_model* own = nullptr;
    std::shared_ptr<const program_subject> program; // a shader of the user's, or null

    [[nodiscard]] picture draw(const draw_settings& settings = {}, work_done* done = nullptr) const {
        return draw_scene(scene, settings, done);
    }
    // Another scene with the same model.
    [[nodiscard]] picture draw_scene(const yurvo::scene& of, const draw_settings& settings = {},
                                     work_done* done = nullptr) const {
        if (program) {
            return draw_program(of, settings);
        }
        return own != nullptr ? own->draw(of, of.shading.rate, settings, done)
                              : yurvo::draw(of, settings, done);
    }

  private:
    [[nodiscard]] picture draw_program(const yurvo::scene& of, const draw_settings& settings) const;
};

// The options by which commands change a scene before they draw it.
struct scene_options {
    std::string scene;
    std::string size, rate, model, program;

    void add_to(CLI::App& command, bool with_rate);
    void add_program_to(CLI::App& command); // --program, for the commands that take one
    // The scene by its name or path, changed. Throws yurvo::error.
    [[nodiscard]] drawable load(const session& on) const;
};

// A reference scene, a demo scene, or a file.
// What its files lack is remarked.
scene find_scene(const session& on, const std::string& name);

// A program file, compiled and bound; what is unused in it is remarked.
std::shared_ptr<const program_subject> open_program(const session& on, const std::string& file);

// The names of the scenes that come with the tool besides the reference scenes, and what each shows.
struct demo_scene {
    std::string name, title;
};
std::vector<demo_scene> demo_scenes();

// Data to a file, or to standard output for `-`. Nothing where the name is empty.
void write_json(session& on, const std::string& file, const json& data);

// The mistakes of a list of ids with commas between. Throws yurvo::error, with the nearest id.
verify::mistake_set mistakes_from(const std::string& list);
// How a PNG's codes are taken, by --as; a picture of floats holds floats. Throws yurvo::error.
verify::precision precision_of(const std::string& picture, const std::string& as);
// A picture from elsewhere, read as it holds its colours.
picture read_found(const std::string& file, verify::precision held);

// With JSON on standard output nothing else is printed there.
inline bool speaks(const std::string& json_file) { return json_file != "-"; }

json json_of(const std::vector<double>& values);
json json_of(const rgb<double>& color);
json json_of(const vec3<double>& vector);
// JSON has no infinity: what is not a finite number is null there.
json number_or_null(double value);
json json_of(const rgb<float>& color);

// Broken between words into lines of at most 110 columns; those after the first begin with `indent` spaces.
std::string wrapped(const std::string& text, std::size_t indent);
// `523,776`
std::string grouped(std::uint64_t number);
// Three significant digits, as a person would write them.
std::string digits(double value);
// `(0.56, 0.38, 0.18)`
std::string triple(const std::vector<double>& values, int precision);

void add_draw(CLI::App& to, session& on);
void add_rates(CLI::App& to, session& on);
void add_check(CLI::App& to, session& on);
void add_scenes(CLI::App& to, session& on);
void add_demo(CLI::App& to, session& on);
void add_export(CLI::App& to, session& on);
void add_layers(CLI::App& to, session& on);
void add_turn(CLI::App& to, session& on);
void add_curves(CLI::App& to, session& on);
void add_cost(CLI::App& to, session& on);
void add_mistakes(CLI::App& to, session& on);
void add_explain(CLI::App& to, session& on);
void add_compare(CLI::App& to, session& on);
void add_diagnose(CLI::App& to, session& on);
void add_quiz(CLI::App& to, session& on);
void add_new(CLI::App& to, session& on);
void add_pack(CLI::App& to, session& on);

// What `layers` makes, for `demo` as well.
struct layers_result {
    json data;
    std::string text;
    picture sheet;
};
layers_result show_layers(const drawable& of, const std::string& name, const std::string& panels_folder);
picture show_turn(const drawable& of, const std::string& name, const std::string& what, int steps,
                  const std::string& which, json& data, std::string& text);
picture show_curves(const scene& of, const std::string& name, json& data);
// A built-in scene as it is.
drawable drawable_of(const scene& of);

// What `rates` makes, for `demo` as well.
struct rates_result {
    json data;
    std::string text;
    picture sheet;
};
rates_result compare_rates(const drawable& of, const std::string& name);

// What `check` finds, for `demo` as well.
struct check_outcome {
    json data;
    std::string text;
    std::size_t passed = 0, failed = 0;
};
check_outcome run_checks(session& on, const std::vector<std::string>& scenes);

} // namespace yurvo::app
