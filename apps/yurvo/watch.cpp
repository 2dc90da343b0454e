#include <unistd.h>

#include <array>
#include <atomic>
#include <chrono>
#include <csignal>
#include <ctime>
#include <thread>

#include "session.hpp"
#include "yurvo/live/background.hpp"
#include "yurvo/live/watcher.hpp"

namespace yurvo::app {

namespace {

struct watch_options {
    std::vector<std::string> scenes;
    std::string program;
    picture_options given;
    bool once = false;
};

std::atomic<bool> interrupted{false};

// Ctrl-C ends the watching, not the tool in the middle of a line; as it was before once that is over.
class interrupt_guard {
    struct sigaction before_ {};

  public:
    interrupt_guard() {
        interrupted = false;
        struct sigaction taken {};
        taken.sa_handler = [](int) { interrupted = true; };
        ::sigaction(SIGINT, &taken, &before_);
    }
    interrupt_guard(const interrupt_guard&) = delete;
    interrupt_guard& operator=(const interrupt_guard&) = delete;
    interrupt_guard(interrupt_guard&&) = delete;
    interrupt_guard& operator=(interrupt_guard&&) = delete;
    ~interrupt_guard() { ::sigaction(SIGINT, &before_, nullptr); }
};

std::string time_now() {
    const std::time_t now = std::time(nullptr);
    std::tm parts{};
    ::localtime_r(&now, &parts);
    return fmt::format("{:02}:{:02}:{:02}", parts.tm_hour, parts.tm_min, parts.tm_sec);
}

// What it was before, where that was another thing.
std::string change(const study::run_verdict& now, const study::run_verdict* before) {
    if (before == nullptr ||
        (before->what == now.what && before->ids == now.ids && before->failed == now.failed)) {
        return "";
    }
    return "  (was " + before->line.substr(0, before->line.find(':')) + ")";
}

// False where nobody reads any more.
bool say(session& on, const study::run_verdict& now, const study::run_verdict* before) {
    const std::size_t colon = now.what == live::finding::broken ? now.line.size() : now.line.find(':');
    constexpr std::array<int, 4> colors{32, 31, 33, 35}; // right, mistake, unknown, broken
    on.print("{}  ", time_now());
    on.print_in_color(colors.at(static_cast<std::size_t>(now.what)), on_one_line(now.line.substr(0, colon)));
    on.print("{}{}\n", on_one_line(now.line.substr(std::min(colon, now.line.size()))), change(now, before));
    if (!now.advice.empty()) {
        on.print("          {}\n", on_one_line(now.advice));
    }
    return on.flush();
}

int run(session& on, const watch_options& options) {
    if (options.program.empty() == options.given.file.empty()) {
        throw error({"yurvo watch", 0, 0}, "there is no one thing to watch",
                    "--program FILE, or --picture FILE with its scene");
    }
    if (!options.given.file.empty() && options.scenes.size() != 1) {
        throw error({"yurvo watch", 0, 0},
                    "--picture was given with " + std::to_string(options.scenes.size()) + " scenes",
                    "the one scene that the picture shows");
    }
    for (const std::string& scene : options.scenes) {
        named_scene(on, scene); // a name that is none is told at once
    }
    live::subject of{options.program, options.given.file,
                     options.given.file.empty() ? pixel_format::srgb_codes : options.given.format()};
    live::watcher watched(std::move(of), options.scenes, &on.with().models);
    const interrupt_guard guard;
    if (options.once) {
        const study::run_verdict now =
            watched.verdict_now(interrupted, [&](const std::string& what) { on.progress(what); });
        on.progress("");
        if (interrupted) {
            return 130;
        }
        if (now.status >= bad_input) {
            on.remark(now.line);
            return now.status;
        }
        say(on, now, nullptr);
        return now.status;
    }
    constexpr std::chrono::milliseconds pause{20};
    std::optional<study::run_verdict> before;
    live::background<study::run_verdict> work;
    const auto begin = [&] {
        work.start([&](const std::atomic<bool>& cancelled, const auto& /*so_far*/) {
            return watched.verdict_now(cancelled, [&](const std::string& what) { on.progress(what); });
        });
    };
    begin();
    while (!interrupted) {
        std::this_thread::sleep_for(pause);
        if (watched.saved()) {
            begin();
        }
        if (std::optional<study::run_verdict> now = work.take()) {
            watched.look_anew();
            on.progress("");
            if (!before || before->line != now->line || before->what != now->what ||
                now->status < bad_input) {
                if (!say(on, *now, before ? &*before : nullptr)) {
                    return all_held;
                }
            }
            before = std::move(now);
        }
    }
    on.progress("");
    return all_held;
}

} // namespace

void add_watch(option_list& to, session& on) {
    auto options = std::make_shared<watch_options>();
    to.texts("scenes", options->scenes,
             "reference scenes by name, or scene files of your own; all reference scenes where none is named",
             {.type = "SCENE"});
    to.text("--program", options->program, "the shader program that is watched", {.type = "FILE"});
    options->given.add_to(to, "the picture that is watched: .png, .exr or .pfm");
    to.flag("--once", options->once, "one verdict, and the status of `check`");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
