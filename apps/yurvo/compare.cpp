#include <optional>

#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/comparison.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/study/comparison.hpp"
#include "yurvo/verify/check.hpp"

namespace yurvo::app {

namespace {

struct compare_options {
    std::string first, second, output, program;
    picture_options pictures; // --as, of both
    json_option data;
};

// What is compared, and what each is called.
struct pair_of_pictures {
    std::string second_name;
    picture first, second;
    std::optional<verify::check_result> held; // a program's, by check's own tolerance
    bool other_unit_normals = false;          // the program makes normals unit where Yurvo does not
};

picture read_one(const compare_options& options, const std::string& file) {
    picture_options input{file, options.pictures.as};
    if (input.as == "srgb" && !file.ends_with(".png")) { // it is said of the other one
        input.as.clear();
    }
    return input.read();
}

pair_of_pictures load(const session& on, const compare_options& options) {
    if (options.program.empty()) {
        if (options.second.empty()) {
            throw error({"yurvo compare", 0, 0}, "there is one picture",
                        "two, or a scene with --program FILE");
        }
        return {
            options.second, read_one(options, options.first), read_one(options, options.second), {}, false};
    }
    if (!options.second.empty()) {
        throw error({"yurvo compare", 0, 0}, "there are a second picture and a program", "one of the two");
    }
    scene_options from;
    from.scene = options.first;
    from.program = options.program;
    const loaded_scene loaded = from.load(on);
    picture right = draw(loaded.of.scene);
    picture found = loaded.by->draw(loaded.of.scene);
    verify::check_result held = verify::hold_against_second_method(
        loaded.of.scene, found, loaded.by->format(), loaded.by->tolerance());
    if (std::optional<verify::check_result> beyond = study::beyond_precision(*loaded.program)) {
        held = std::move(*beyond);
    }
    return {options.program, std::move(right), std::move(found), std::move(held),
            !loaded.by->tolerance().unit_at_vertices};
}

int run(session& on, const compare_options& options) {
    if (!options.output.empty()) {
        require_picture_name(options.output);
    }
    const pair_of_pictures both = load(on, options);
    const picture& a = both.first;
    const picture& b = both.second;
    if (a.width != b.width || a.height != b.height) {
        throw error({both.second_name, 0, 0},
                    fmt::format("the picture is {}x{}, {} is {}x{}", b.width, b.height, options.first,
                                a.width, a.height),
                    "two pictures of one size");
    }
    const study::comparison found = study::compare_pictures(a, b);
    const report::compared_pictures named{options.first, both.second_name, a, b};
    if (options.data.speaks()) {
        on.print("{}", report::comparison_text(named, found));
    }
    if (both.held && options.data.speaks()) {
        on.print("{}", report::held_text(*both.held));
        if (both.other_unit_normals) {
            on.print("the program makes normals unit at each fragment only, which is right too: the figures "
                     "above are "
                     "against Yurvo's way, the last line against its own\n");
        }
    }
    if (!options.output.empty()) {
        write_picture(options.output, report::comparison_sheet(named, found));
        if (options.data.speaks()) {
            on.print("{}: the sheet\n", options.output);
        }
    }
    report::data data;
    data.set("a", options.first).set("b", both.second_name).add(report::data_of(a, b, found));
    if (both.held) {
        data.set("passed", both.held->passed).set("used", both.held->used);
    }
    options.data.write(on, data);
    return both.held && !both.held->passed ? not_held : all_held;
}

} // namespace

void add_compare(option_list& to, session& on) {
    auto options = std::make_shared<compare_options>();
    to.text("a", options->first, "a picture: .png, .exr or .pfm", {.type = "A", .required = true});
    to.text("b", options->second, "another one of the same size", {.type = "B"});
    to.text("--program", options->program,
            "with a scene as A: its right picture against this shader program's", {.type = "FILE"});
    to.text("-o,--output", options->output, "a sheet with both and their difference",
            {.type = "FILE", .written = true});
    options->pictures.add_as_to(to);
    options->data.add_to(to, "the figures");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
