#include "yurvo/report/rates.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/study/rates.hpp"

namespace yurvo::app {

namespace {

struct rates_options {
    scene_options from;
    std::string output;
    json_option data;
};

struct told_rates {
    std::string text;
    picture sheet;
    report::data data;
};

told_rates rates_of(const loaded_scene& loaded, const std::string& program) {
    if (loaded.program) {
        const study::rate_claim found = study::find_rate(loaded.of, *loaded.by);
        return {report::rate_claim_text(loaded.of, found, program),
                report::rate_claim_sheet(loaded.of, found, program),
                report::data_of(loaded.of, found, program)};
    }
    const study::rates found = study::compare_rates(loaded.of, *loaded.by);
    return {report::rates_text(loaded.of, found), report::rates_sheet(loaded.of, found),
            report::data_of(loaded.of, found)};
}

int run(session& on, const rates_options& options) {
    require_picture_name(options.output);
    const told_rates report = rates_of(options.from.load(on), options.from.program);
    write_picture(options.output, report.sheet);
    if (options.data.speaks()) {
        on.print("{}{}: the sheet\n", report.text, options.output);
    }
    options.data.write(on, report.data);
    return all_held;
}

} // namespace

void add_rates(option_list& to, session& on) {
    auto options = std::make_shared<rates_options>();
    options->from.add_to(to, false);
    options->from.add_program_to(to);
    to.text("-o,--output", options->output, "the sheet: .png, .exr or .pfm",
            {.type = "FILE", .required = true, .written = true});
    options->data.add_to(to, "the figures");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
