#include "session.hpp"

#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <sstream>

#include "yurvo/files/whole_file.hpp"

namespace yurvo::app {

// Where standard error cannot be written there is nobody to tell.
void session::say(const std::string& text) { std::fwrite(text.data(), 1, text.size(), stderr); }

void session::progress(const std::string& text) const {
    if (!quiet && ::isatty(STDERR_FILENO) == 1) {
        say("\r\x1b[K" + on_one_line(text));
        std::fflush(stderr);
    }
}

void session::remark(const std::string& text) const {
    if (!quiet) {
        say("yurvo: " + visible_text(text) + "\n");
    }
}

void session::print_in_color(int number, const std::string& text) {
    const char* const no_color = std::getenv("NO_COLOR"); // NOLINT(concurrency-mt-unsafe): nobody sets it
    const bool plain = ::isatty(STDOUT_FILENO) != 1 || (no_color != nullptr && *no_color != '\0');
    output_ += plain ? visible_text(text) : fmt::format("\x1b[{}m{}\x1b[0m", number, visible_text(text));
}

namespace {

// A table's last column is filled up to its width.
void drop_spaces_at_line_ends(std::string& text) {
    std::size_t kept = 0;
    for (const char each : text) {
        if (each == '\n') {
            while (kept > 0 && text[kept - 1] == ' ') {
                --kept;
            }
        }
        text[kept++] = each;
    }
    text.resize(kept);
}

} // namespace

bool session::flush() {
    drop_spaces_at_line_ends(output_);
    const bool written = std::fwrite(output_.data(), 1, output_.size(), stdout) == output_.size();
    const bool flushed = std::fflush(stdout) == 0;
    output_.clear();
    if ((!written || !flushed) && errno != EPIPE) {
        throw error({"standard output", 0, 0}, std::string("cannot be written: ") + std::strerror(errno),
                    "a place with room");
    }
    return written && flushed;
}

void json_option::add_to(option_list& to, const std::string& what) {
    to.text("--json", file, what + ", as JSON; - for standard output", {.type = "FILE", .written = true});
}

void json_option::write(session& on, const report::data& data) const {
    if (file.empty()) {
        return;
    }
    const std::string text = data.text();
    if (file == "-") {
        on.print("{}", text);
    } else {
        write_whole(file, text);
    }
}

void require_written(const std::vector<const std::string*>& files) {
    for (const std::string* const file : files) {
        if (!file->empty() && *file != "-") {
            require_writable(*file);
        }
    }
}

std::vector<std::string> words_of(const std::string& list) {
    std::vector<std::string> result;
    std::istringstream words(list);
    for (std::string word; std::getline(words, word, ',');) {
        result.push_back(word);
    }
    return result;
}

verify::mistake_set mistakes_from(const std::string& list) {
    verify::mistake_set result;
    for (const std::string& word : words_of(list)) {
        const verify::mistake_entry* found = verify::find_mistake(word);
        if (found == nullptr) {
            std::vector<std::string_view> known;
            for (const verify::mistake_entry& entry : verify::all_mistakes()) {
                known.push_back(entry.id);
            }
            throw error({"mistake", 0, 0}, "there is no mistake `" + word + "`",
                        instead_of(word, known, "an id that `yurvo mistakes` lists"));
        }
        result.add(found->which);
    }
    return result;
}

void write_new_files(const std::string& folder,
                     const std::vector<std::pair<std::string, std::string>>& files) {
    make_folder(folder);
    for (const auto& [name, text] : files) {
        if (std::filesystem::exists(folder + "/" + name)) {
            throw error({folder + "/" + name, 0, 0}, "is there already, and is not overwritten",
                        "another folder");
        }
    }
    for (const auto& [name, text] : files) {
        write_whole(folder + "/" + name, text);
    }
}

} // namespace yurvo::app
