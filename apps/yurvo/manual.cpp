#include "manual.hpp"

#include <algorithm>

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include "reference.hpp"
#include "session.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/version.hpp"

namespace yurvo::app {

namespace {

// The long name of an option, or its only one.
std::string long_name(const option_words& option) {
    const std::size_t comma = option.names.find(',');
    return comma == std::string::npos ? option.names : option.names.substr(comma + 1);
}

bool stands_alone(const option_words& option) { return !option.names.starts_with('-'); }

// What can be completed for an option besides files.
enum class completed { nothing, scenes, mistakes, models, rates, files };

completed completed_for(const option_words& option) {
    const std::string name = long_name(option);
    return option.takes.starts_with("SCENE") || name == "scene" || name == "scenes" ? completed::scenes
           : name == "--mistake" || name == "--mistakes"                            ? completed::mistakes
           : name == "--model"                                                      ? completed::models
           : name == "--rate"                                                       ? completed::rates
           : option.takes == "FILE" || option.takes == "DIR"                        ? completed::files
                                                                                    : completed::nothing;
}

template <class List> std::string joined(const List& list, const char* between) {
    std::string text;
    for (const auto& each : list) {
        text += (text.empty() ? "" : between) + std::string(each);
    }
    return text;
}

std::vector<std::string> words_for(completed what) {
    std::vector<std::string> words;
    if (what == completed::scenes) {
        for (const std::string_view name : scene_names()) {
            words.emplace_back(name);
        }
    } else if (what == completed::mistakes) {
        for (const verify::mistake_entry& entry : verify::all_mistakes()) {
            words.emplace_back(entry.id);
        }
    } else if (what == completed::models) {
        for (const std::string_view name : all_names<model_kind>()) {
            words.emplace_back(name);
        }
    } else if (what == completed::rates) {
        for (const std::string_view name : all_names<rate>()) {
            words.emplace_back(name);
        }
    }
    return words;
}

// roff takes a backslash, and a point or an apostrophe in front, for its own.
std::string in_roff(const std::string& text) {
    std::string result;
    for (const char each : text) {
        result += each == '\\' ? "\\e" : each == '-' ? "\\-" : std::string(1, each);
    }
    return result.starts_with('.') || result.starts_with('\'') ? "\\&" + result : result;
}

std::string manual_page(const std::vector<command_words>& commands) {
    std::string page = fmt::format(
        ".TH YURVO 1 \"\" \"yurvo {}\" \"User Commands\"\n.SH NAME\nyurvo \\- lighting models and shaders, "
        "proved right "
        "on reference scenes\n.SH SYNOPSIS\n.B yurvo\n.I COMMAND\n[\\fIoptions\\fR]\n.SH DESCRIPTION\n"
        "Draws scenes with lighting models, shows what each term and rate does, and says whether a picture "
        "or a\nshader "
        "is right, and which mistake it holds where it is not.\n.SH COMMANDS\n",
        YURVO_VERSION);
    for (const command_words& command : commands) {
        page += fmt::format(".SS yurvo {}", in_roff(command.name));
        for (const option_words& option : command.options) {
            if (stands_alone(option)) {
                const std::string shown = in_roff(option.takes) + (option.list ? "..." : "");
                page += option.required ? " " + shown : " [" + shown + "]";
            }
        }
        page += fmt::format("\n{}\n.PP\n\\fB{}\\fR\n", in_roff(command.text), in_roff(command.example));
        for (const option_words& option : command.options) {
            page += fmt::format(
                ".TP\n\\fB{}\\fR{}\n{}\n", in_roff(option.names),
                option.takes.empty() || stands_alone(option) ? "" : " \\fI" + in_roff(option.takes) + "\\fR",
                in_roff(option.says));
        }
    }
    return page +
           ".SH EXIT STATUS\n"
           "0 done and all held, 1 a check did not hold or a mistake was found, 2 bad input or usage,\n"
           "3 something is missing on this machine.\n"
           ".SH ENVIRONMENT\n.TP\n\\fBYURVO_ISA\\fR\nbaseline, avx2 or avx512: the instruction set to run "
           "on.\n"
           ".TP\n\\fBNO_COLOR\\fR\nno colour, whatever the terminal.\n";
}

std::string bash_completion(const std::vector<command_words>& commands) {
    std::string text = "# Completion of yurvo for bash.\n_yurvo() {\n"
                       "    local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]} "
                       "command=${COMP_WORDS[1]}\n"
                       "    COMPREPLY=()\n    if [ \"$COMP_CWORD\" -eq 1 ]; then\n"
                       "        mapfile -t COMPREPLY < <(compgen -W \"";
    for (const command_words& command : commands) {
        text += command.name + " ";
    }
    text += "--help --version\" -- \"$word\")\n        return\n    fi\n    case $before in\n";
    for (const auto& [names, what] :
         {std::pair{"--mistake", completed::mistakes}, std::pair{"--model", completed::models},
          std::pair{"--rate", completed::rates}}) {
        text += fmt::format("    {}) mapfile -t COMPREPLY < <(compgen -W \"{}\" -- \"$word\"); return ;;\n",
                            names, joined(words_for(what), " "));
    }
    text += "    esac\n    local options=\"\" scenes=\"\"\n    case $command in\n";
    for (const command_words& command : commands) {
        std::string options;
        bool scenes = false;
        for (const option_words& option : command.options) {
            scenes = scenes || (stands_alone(option) && completed_for(option) == completed::scenes);
            options += stands_alone(option) ? "" : long_name(option) + " ";
        }
        text += fmt::format("    {}) options=\"{}--help\"{} ;;\n", command.name, options,
                            scenes ? " scenes=yes" : "");
    }
    text += fmt::format(
        "    esac\n    if [[ $word == -* ]]; then\n"
        "        mapfile -t COMPREPLY < <(compgen -W \"$options\" -- \"$word\")\n        return\n    fi\n"
        "    if [ -n \"$scenes\" ] && [[ $before != -* ]]; then\n"
        "        mapfile -t COMPREPLY < <(compgen -W \"{}\" -- \"$word\")\n    fi\n"
        "    mapfile -t -O \"${{#COMPREPLY[@]}}\" COMPREPLY < <(compgen -f -- \"$word\")\n}}\n"
        "complete -o filenames -F _yurvo yurvo\n",
        joined(words_for(completed::scenes), " "));
    return text;
}

// For zsh: in single quotes, where brackets and colons have a meaning.
std::string in_zsh(const std::string& text) {
    std::string result;
    for (const char each : text) {
        result += each == '\''                                                ? "'\\''"
                  : each == '[' || each == ']' || each == ':' || each == '\\' ? "\\" + std::string(1, each)
                                                                              : std::string(1, each);
    }
    return result;
}

std::string zsh_action(const option_words& option) {
    const completed what = completed_for(option);
    return what == completed::files    ? "_files"
           : what == completed::scenes ? "_alternative \"scenes\\:scene\\:(" + joined(words_for(what), " ") +
                                             ")\" \"files\\:file\\:_files\""
           : what == completed::nothing ? " "
                                        : "(" + joined(words_for(what), " ") + ")";
}

std::string zsh_completion(const std::vector<command_words>& commands) {
    std::string text =
        "#compdef yurvo\n# Completion of yurvo for zsh.\n_yurvo() {\n    local -a commands\n    commands=(\n";
    for (const command_words& command : commands) {
        text += fmt::format("        '{}:{}'\n", command.name, in_zsh(command.text));
    }
    text += "    )\n    if (( CURRENT == 2 )); then\n        _describe 'command' commands\n        return\n  "
            "  fi\n"
            "    local command=$words[2]\n    shift words\n    (( CURRENT-- ))\n    case $command in\n";
    for (const command_words& command : commands) {
        text += fmt::format("        {})\n            _arguments", command.name);
        for (const option_words& option : command.options) {
            if (stands_alone(option)) {
                text += fmt::format(" \\\n                '{}:{}:{}'", option.list ? "*" : "", option.names,
                                    zsh_action(option));
            } else {
                text += fmt::format(
                    " \\\n                '{}[{}]{}'", long_name(option), in_zsh(option.says),
                    option.takes.empty() ? "" : ":" + in_zsh(option.takes) + ":" + zsh_action(option));
            }
        }
        text += "\n            ;;\n";
    }
    return text + "    esac\n}\n_yurvo \"$@\"\n";
}

std::string in_fish(const std::string& text) {
    std::string result;
    for (const char each : text) {
        result += each == '\'' || each == '\\' ? "\\" + std::string(1, each) : std::string(1, each);
    }
    return "'" + result + "'";
}

std::string fish_completion(const std::vector<command_words>& commands) {
    std::string text = "# Completion of yurvo for fish.\n";
    for (const command_words& command : commands) {
        text += fmt::format("complete -c yurvo -n __fish_use_subcommand -f -a {} -d {}\n", command.name,
                            in_fish(command.text));
    }
    for (const command_words& command : commands) {
        const std::string within =
            fmt::format("complete -c yurvo -n '__fish_seen_subcommand_from {}'", command.name);
        for (const option_words& option : command.options) {
            const std::vector<std::string> words = words_for(completed_for(option));
            const std::string list = words.empty() ? "" : " -a '" + joined(words, " ") + "'";
            if (stands_alone(option)) {
                text += list.empty() ? "" : within + list + "\n";
            } else {
                const bool of_files = completed_for(option) == completed::files;
                text += fmt::format("{} -l {}{}{}{} -d {}\n", within, long_name(option).substr(2),
                                    option.takes.empty() ? "" : " -r",
                                    of_files               ? " -F"
                                    : option.takes.empty() ? ""
                                                           : " -f",
                                    list, in_fish(option.says));
            }
        }
    }
    return text;
}

std::string in_markdown(const std::string& text) {
    std::string result;
    for (const char each : text) {
        result += each == '|' || each == '<' || each == '*' || each == '_' ? "\\" + std::string(1, each)
                                                                           : std::string(1, each);
    }
    return result;
}

std::string commands_page(const std::vector<command_words>& commands) {
    std::string page = "# Commands\n\n`yurvo COMMAND [SCENE] [options]`. Written by `yurvo manual` from the "
                       "options themselves; "
                       "`yurvo COMMAND --help` says the same.\nExit status: 0 done and all held, 1 a check "
                       "did not hold or a "
                       "mistake was found, 2 bad input or usage (one line on\nstandard error), 3 something "
                       "is missing on this "
                       "machine.\n";
    for (const command_words& command : commands) {
        page += fmt::format("\n## {}\n\n{}\n\n```sh\n{}\n```\n\n| option | takes | |\n| --- | --- | --- |\n",
                            command.name, in_markdown(command.text), command.example);
        for (const option_words& option : command.options) {
            page += fmt::format("| `{}` | {} | {}{} |\n", option.names,
                                option.takes.empty() ? "" : "`" + option.takes + "`",
                                option.required ? "required: " : "", in_markdown(option.says));
        }
    }
    return page;
}

} // namespace

std::vector<command_words> words_of(const CLI::App& root) {
    std::vector<command_words> commands;
    for (const CLI::App* const each : root.get_subcommands({})) {
        command_words command{each->get_name(), each->get_description(), each->get_footer(), {}};
        command.example.erase(0, std::string_view("Example: ").size());
        for (const CLI::Option* const option : each->get_options()) {
            if (option->get_name() == "--help" || option->get_name() == "-h,--help") {
                continue;
            }
            const bool flag = option->get_expected_max() == 0;
            option_words words;
            words.names = option->get_positional() ? option->get_name(true) : option->get_name(false, true);
            words.takes = flag ? "" : option->get_type_name();
            words.takes = words.takes.substr(0, words.takes.find(':'));
            words.takes = words.takes == "TEXT"                           ? "WORD"
                          : words.takes == "INT" || words.takes == "UINT" ? "N"
                                                                          : words.takes;
            words.says = option->get_description();
            if (const std::string left_out = option->get_default_str(); !flag && !left_out.empty()) {
                words.says += "; " + left_out + " where it is left out";
            }
            words.required = option->get_required();
            words.list = option->get_expected_max() > 1;
            command.options.push_back(words);
        }
        std::stable_partition(command.options.begin(), command.options.end(), stands_alone);
        commands.push_back(std::move(command));
    }
    return commands;
}

std::vector<std::pair<std::string, std::string>> manual_files(const std::vector<command_words>& commands) {
    return {{"yurvo.1", manual_page(commands)},
            {"yurvo.bash", bash_completion(commands)},
            {"_yurvo", zsh_completion(commands)},
            {"yurvo.fish", fish_completion(commands)},
            {"commands.md", commands_page(commands)}};
}

namespace {

struct manual_options {
    std::string folder;
};

int run(session& on, const manual_options& options) {
    make_folder(options.folder);
    std::vector<std::pair<std::string, std::string>> files = manual_files(on.commands());
    for (std::pair<std::string, std::string>& page : reference_pages()) {
        files.push_back(std::move(page));
    }
    for (const auto& [name, text] : files) {
        write_whole(options.folder + "/" + name, text);
        on.print("{}/{}\n", options.folder, name);
    }
    return all_held;
}

} // namespace

void add_manual(option_list& to, session& on) {
    auto options = std::make_shared<manual_options>();
    to.text("-o,--output", options->folder,
            "the folder: yurvo.1, yurvo.bash, _yurvo (zsh), yurvo.fish, and pages of docs/reference",
            {.type = "DIR", .required = true});
    run_with(to, on, options, run);
}

} // namespace yurvo::app
