#include "yurvo/command_line/command_line.hpp"
#include "yurvo/version.hpp"

#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <new>

#include <CLI/CLI.hpp>

#include "session.hpp"

namespace yurvo::inline v0_1 {

namespace {

using app::session;

const char* const overview = "Yurvo draws scenes with lighting models, shows what each term and rate does, "
                             "and says whether a picture is "
                             "right.";

const char* const order_of_work =
    "To begin with:\n"
    "  yurvo demo                             the whole tour, into the folder demo\n"
    "  yurvo scenes                           the scenes that come with the tool, and what is known of them\n"
    "  yurvo draw lantern-quay -o quay.png    a picture\n"
    "  yurvo rates lantern-quay -o rates.png  per face, per vertex, per fragment: where they differ, and by "
    "how much\n"
    "  yurvo check                            whether what is drawn is what is known to be right\n"
    "  yurvo diagnose SCENE --picture FILE    which mistake explains a picture that is wrong\n"
    "`yurvo COMMAND --help` says more of each.\n"
    "Exit status: 0 done and all held, 1 a check did not hold or a mistake was found, 2 bad input or usage, "
    "3 something is missing "
    "here.";

std::string one_line(std::string text) {
    for (char& c : text) {
        c = c == '\n' || c == '\r' ? ' ' : c;
    }
    while (!text.empty() && (text.back() == ' ' || text.back() == '.')) {
        text.pop_back();
    }
    return text;
}

void require_known_command(const CLI::App& root, int argc, const char* const* argv) {
    if (argc < 2) {
        throw error({"yurvo", 0, 0}, "no command was given", "yurvo COMMAND; `yurvo --help` lists them");
    }
    const std::string first = argv[1];
    std::vector<std::string_view> known;
    for (const CLI::App* command : root.get_subcommands({})) {
        known.emplace_back(command->get_name());
    }
    if (first.starts_with('-') || std::find(known.begin(), known.end(), first) != known.end()) {
        return;
    }
    throw error({"yurvo", 0, 0}, "there is no command `" + first + "`",
                instead_of(first, known, "`yurvo --help` lists them"));
}

// What a report of a fault should say.
std::string version_text() {
    std::string text = "yurvo " YURVO_VERSION "\nbuilt by ";
#if defined(__clang__)
    text += "Clang " + std::to_string(__clang_major__) + "." + std::to_string(__clang_minor__);
#else
    text += "GCC " + std::to_string(__GNUC__) + "." + std::to_string(__GNUC_MINOR__);
#endif
#if defined(NDEBUG)
    text += ", optimised";
#else
    text += ", with assertions";
#endif
#if defined(YURVO_WITH_WINDOW)
    text += ", with a window";
#else
    text += ", without a window";
#endif
    return text + "; `yurvo doctor` says what it finds on this machine";
}

int parse_and_run(int argc, const char* const* argv, session& on) {
    CLI::App root(overview, "yurvo");
    root.set_version_flag("--version", version_text(), "this version, and how it was built");
    root.add_flag("--quiet", on.quiet, "no progress and no remarks: results and errors alone");
    root.require_subcommand(1);
    root.get_formatter()->column_width(34);
    for (const app::command_entry& entry : app::commands()) {
        CLI::App& command = *root.add_subcommand(std::string(entry.name), std::string(entry.text));
        command.group(app::purpose_names.at(static_cast<std::size_t>(entry.why)));
        command.footer("Example: " + std::string(entry.example));
        command.fallthrough(); // --quiet may stand behind it
        app::option_list options(command);
        entry.add(options, on);
    }
    on.commands = [&root] { return app::words_of(root); };
    const auto narrow =
        std::make_shared<CLI::Formatter>(); // the commands' own help needs more room on the left
    narrow->column_width(14);
    narrow->label("SUBCOMMAND", "COMMAND");
    root.formatter(narrow);
    root.footer(order_of_work); // after the commands, which would take it over
    require_known_command(root, argc, argv);
    try {
        root.parse(argc, argv);
    } catch (const CLI::Success& help_wanted) { // --help, --version
        std::ostringstream text;
        root.exit(help_wanted, text, text);
        on.print("{}", text.str());
        on.flush();
        return app::all_held;
    } catch (const CLI::ParseError& failed) {
        const std::vector<CLI::App*> commands = root.get_subcommands();
        const std::string name = commands.empty() ? "yurvo" : "yurvo " + commands.front()->get_name();
        throw error({name, 0, 0}, one_line(failed.what()), "`" + name + " --help` says what it takes");
    }
    const int status = on.run();
    on.flush();
    return status;
}

int complain(const session& on, const char* line, int status) {
    on.progress("");
    session::say(one_line(line) + "\n");
    return status;
}

} // namespace

int command_line(int argc, const char* const* argv, const tool& with) {
    try {
        session on(with);
        try {
            return parse_and_run(argc, argv, on);
        } catch (const missing_error& failed) {
            return complain(on, failed.what(), app::missing);
        } catch (const program_stopped& failed) {
            return complain(on, failed.what(), app::not_held);
        } catch (const error& failed) {
            return complain(on, failed.what(), app::bad_input);
        } catch (const std::bad_alloc&) {
            throw;
        } catch (const std::exception& failed) {
            const std::string line =
                std::string("yurvo: ") + failed.what() + "; this is a defect of the tool";
            return complain(on, line.c_str(), app::bad_input);
        }
    } catch (const std::bad_alloc&) { // said without asking for any
        std::fputs(::isatty(STDERR_FILENO) == 1 ? "\r\x1b[K" : "", stderr);
        std::fputs("yurvo: there is not enough memory for this; a smaller size or fewer cells\n", stderr);
        return app::bad_input;
    }
}

} // namespace yurvo::inline v0_1
