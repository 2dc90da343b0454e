#include "page_writing.hpp"
#include "session.hpp"
#include "yurvo/report/tour.hpp"

namespace yurvo::app {

namespace {

struct demo_options {
    std::string folder = "demo";
};

int run(session& on, const demo_options& options) {
    const report::tour_result tour =
        report::take_tour(options.folder, [&](const std::string& what) { on.progress(what); });
    const std::string page = options.folder + "/report.html";
    const page_made made = write_page(on, {{"harbour"}, "", {}, page});
    on.print("{}{}: the harbour on one page: change its lights in a browser; {}\n", tour.text, page,
             made.line);
    on.print("\nNext: `yurvo scenes` lists what is known of each reference scene, `yurvo draw SCENE -o "
             "FILE` draws "
             "one, and\n`yurvo scenes harbour -o harbour.toml` writes a scene file to change.\n");
    return tour.failed == 0 && made.right ? all_held : not_held;
}

} // namespace

void add_demo(option_list& to, session& on) {
    auto options = std::make_shared<demo_options>();
    to.text("-o,--output", options->folder, "the folder for the pictures",
            {.type = "DIR", .show_default = true});
    run_with(to, on, options, run);
}

} // namespace yurvo::app
