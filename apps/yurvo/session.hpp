// session: what every command has at hand: where it prints, and the scene and renderer that its options name.
#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "manual.hpp"
#include "option_list.hpp"
#include "yurvo/command_line/command_line.hpp"
#include "yurvo/picture/pixel_format.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/report/data.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/study/named_scene.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::app {

enum exit_status { all_held = 0, not_held = 1, bad_input = 2, missing = 3 };

class session {
    const tool& with_;
    std::string
        output_; // for standard output, written at once so that a command that fails prints no half of it

  public:
    bool quiet = false;                                   // no progress and no remarks
    std::function<int()> run;                             // the command that was asked for
    std::function<std::vector<command_words>()> commands; // all of them, as they are declared

    explicit session(const tool& with) : with_(with) {}

    // What comes from files does not act on a terminal, see visible_text().
    template <class... Arguments>
    void print(fmt::format_string<Arguments...> text, Arguments&&... arguments) {
        output_ += visible_text(fmt::format(text, std::forward<Arguments>(arguments)...));
    }
    // In one of a terminal's colours, by its SGR number (ECMA-48), where a person looks at one and has not
    // asked for none.
    void print_in_color(int number, const std::string& text);
    // On standard error, as it is.
    static void say(const std::string& text);
    // For standard error, and only where a person watches.
    void progress(const std::string& text) const;
    // For standard error, unless nothing but the result is wanted.
    void remark(const std::string& text) const;

    // Writes what was printed. Throws yurvo::error where it cannot; a pipe that nobody reads any more is no
    // error.
    /// False where nobody reads any more.
    bool flush();

    [[nodiscard]] const tool& with() const { return with_; }
};

// Where a command's data goes besides what it prints.
struct json_option {
    std::string file;

    void add_to(option_list& to, const std::string& what);
    // With JSON on standard output nothing else is printed there.
    [[nodiscard]] bool speaks() const { return file != "-"; }
    // To the file, or to standard output for `-`. Nothing where none was asked for.
    void write(session& on, const report::data& data) const;
};

// A scene and what draws it: the built-in pipeline, a model of the user's, or a shader of the user's.
struct loaded_scene {
    study::named_scene of;
    std::shared_ptr<const renderer> by;
    std::shared_ptr<const program_renderer> program; // the same, where it is one; or null

    [[nodiscard]] std::string model() const { return by->name_for(of.scene); }
    [[nodiscard]] std::string_view rate() const { return name_of(of.scene.shading.rate); }
};

// The options by which commands change a scene before they draw it.
struct scene_options {
    std::string scene;
    std::string size, rate, model, program;

    void add_to(option_list& to, bool with_rate);
    void add_program_to(option_list& to); // --program, for the commands that take one
    // The scene by its name or path, changed. Throws yurvo::error.
    [[nodiscard]] loaded_scene load(const session& on) const;
};

// The scene by its name or path; what its files lack is remarked.
study::named_scene named_scene(const session& on, const std::string& name);
void add_scene_name(option_list& to, std::string& name);

// A program file, compiled and bound; what is unused in it is remarked.
std::shared_ptr<const program_renderer> open_program(const session& on, const std::string& file);

// A picture from elsewhere.
struct picture_options {
    std::string file, as;

    void add_to(option_list& to, const std::string& what);
    void add_as_to(option_list& to); // --as alone
    // How a PNG's codes are taken, by --as; a picture of floats holds floats. Throws yurvo::error.
    [[nodiscard]] pixel_format format() const;
    [[nodiscard]] picture read() const;
};

// The mistakes of a list of ids with commas between. Throws yurvo::error, with the nearest id.
verify::mistake_set mistakes_from(const std::string& list);

// The words of a list with commas between.
std::vector<std::string> words_of(const std::string& list);

// A word as one of an enumeration's. Throws yurvo::error with what the option takes.
template <class Enum> Enum word_of(const std::string& word, const std::string& option) {
    const std::optional<Enum> known = from_name<Enum>(word);
    if (!known) {
        throw error({option, 0, 0}, "`" + word + "` is not known", listed(all_names<Enum>()));
    }
    return *known;
}

// Each option's file is not written over: a folder of files that are new.
void write_new_files(const std::string& folder,
                     const std::vector<std::pair<std::string, std::string>>& files);

// What people do with commands, in the order of work.
enum class purpose : std::uint8_t { look, understand, verify, learn, carry, tool };
inline constexpr std::array<const char*, 6> purpose_names{"To look",  "To understand", "To verify",
                                                          "To learn", "To carry over", "About this tool"};

// A command: what it is called, what it does in a sentence, an example, and what adds its options and runs
// it.
struct command_entry {
    purpose why{};
    std::string_view name, text, example;
    void (*add)(option_list& to, session& on);
};
// In the order of work.
const std::vector<command_entry>& commands();

void add_check(option_list& to, session& on);
void add_compare(option_list& to, session& on);
void add_cost(option_list& to, session& on);
void add_curves(option_list& to, session& on);
void add_demo(option_list& to, session& on);
void add_diagnose(option_list& to, session& on);
void add_doctor(option_list& to, session& on);
void add_draw(option_list& to, session& on);
void add_explain(option_list& to, session& on);
void add_export(option_list& to, session& on);
void add_layers(option_list& to, session& on);
void add_manual(option_list& to, session& on);
void add_mistakes(option_list& to, session& on);
void add_new(option_list& to, session& on);
void add_pack(option_list& to, session& on);
void add_quiz(option_list& to, session& on);
void add_rates(option_list& to, session& on);
void add_report(option_list& to, session& on);
void add_scenes(option_list& to, session& on);
void add_turn(option_list& to, session& on);
void add_view(option_list& to, session& on);
void add_watch(option_list& to, session& on);

// Throws yurvo::error where a file that will be written cannot be: what takes long is not done in vain.
void require_written(const std::vector<const std::string*>& files);

// Has `run(on, options)` called when the command is.
template <class Options>
void run_with(option_list& to, session& on, std::shared_ptr<Options> options,
              int (*run)(session&, const Options&)) {
    to.when_asked([&on, options, run, written = to.written()] {
        on.run = [&on, options, run, written] {
            require_written(written);
            return run(on, *options);
        };
    });
}

} // namespace yurvo::app
