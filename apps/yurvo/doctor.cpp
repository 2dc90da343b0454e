#include <cstdlib>

#include "session.hpp"
#include "yurvo/report/machine.hpp"
#include "yurvo/study/machine.hpp"
#include "yurvo/version.hpp"
#ifdef YURVO_WITH_WINDOW
#include "window/sdl.hpp"
#endif

namespace yurvo::app {

namespace {

struct doctor_options {
    json_option data;
};

study::window_facts find_window_facts() {
    study::window_facts facts;
#ifdef YURVO_WITH_WINDOW
    facts.built_in = true;
    facts.missing = load_sdl() ? "" : sdl_library;
#endif
    for (const char* const name : {"DISPLAY", "WAYLAND_DISPLAY"}) {
        const char* const value = std::getenv(name); // NOLINT(concurrency-mt-unsafe): nobody sets it
        facts.display = facts.display.empty() && value != nullptr ? value : facts.display;
    }
    return facts;
}

int run(session& on, const doctor_options& options) {
    on.progress("asking the driver");
    const std::vector<study::machine_part> parts = study::machine_parts(find_window_facts());
    on.progress("");
    if (options.data.speaks()) {
        on.print("yurvo {}\n{}", YURVO_VERSION, report::machine_text(parts));
    }
    options.data.write(on, report::data_of(parts, YURVO_VERSION));
    return all_held; // what a command needs and lacks, it says itself, with status 3
}

} // namespace

void add_doctor(option_list& to, session& on) {
    auto options = std::make_shared<doctor_options>();
    options->data.add_to(to, "all of it");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
