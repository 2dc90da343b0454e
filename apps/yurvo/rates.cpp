#include "session.hpp"

#include <limits>
#include <memory>

#include "yurvo/picture/comparison.hpp"
#include "yurvo/report/sheet.hpp"

namespace yurvo::app {

namespace {

struct rates_options {
    scene_options from;
    std::string output, json_file;
};

struct drawn_rate {
    rate at = rate::fragment;
    picture made;
    work_done done;
    rgb<float> brightest;
    int x = 0, y = 0; // where it is
};

float luminance(const rgb<float>& c) { return 0.2126F * c.r + 0.7152F * c.g + 0.0722F * c.b; }

drawn_rate draw_at(const drawable& of, rate at) {
    scene changed = of.scene;
    changed.shading.rate = at;
    drawn_rate drawn;
    drawn.at = at;
    drawn.made = of.draw_scene(changed, {}, &drawn.done);
    for (int y = 0; y < drawn.made.height; ++y) {
        for (int x = 0; x < drawn.made.width; ++x) {
            const rgb<float> color = drawn.made.color(x, y);
            if (luminance(color) > luminance(drawn.brightest)) {
                drawn.brightest = color;
                drawn.x = x;
                drawn.y = y;
            }
        }
    }
    return drawn;
}

std::string triple_of(const rgb<float>& color) { return triple({color.r, color.g, color.b}, 3); }

// At which rate a program works: its picture against the right one at each.
rates_result rate_of_program(const drawable& drawn, const scene_options& from) {
    rates_result result;
    report::sheet sheet;
    sheet.title = from.program;
    sheet.subtitle = fmt::format("{}: which rate is the program's? It claims {}", from.scene,
                                 name_of(drawn.scene.shading.rate));
    const picture mine = drawn.draw();
    sheet.panels.push_back({from.program, "drawn by " + drawn.program->driver(), mine, std::nullopt, {}});
    result.data = {{"scene", from.scene},
                   {"program", from.program},
                   {"claims", name_of(drawn.scene.shading.rate)},
                   {"rates", json::array()}};
    result.text = fmt::format("{} on {}\n\n{:<12}{:>12}{:>12}\n", from.program, from.scene, "right per",
                              "largest", "mean");
    rate nearest_rate = rate::fragment;
    double least = std::numeric_limits<double>::infinity();
    const bool fragment_only = drawn.scene.shading.model == model_kind::cel;
    for (const rate at : {rate::face, rate::vertex, rate::fragment}) {
        if (fragment_only && at != rate::fragment) {
            continue;
        }
        scene right = drawn.scene;
        right.shading.rate = at;
        const picture of_rate = draw(right);
        const difference found = compare(of_rate, mine);
        const std::string name(name_of(at));
        result.data["rates"].push_back({{"rate", name}, {"largest", found.largest}, {"mean", found.mean}});
        result.text += fmt::format("{:<12}{:>12}{:>12}\n", name, digits(found.largest), digits(found.mean));
        sheet.panels.push_back({"right, per " + name,
                                "off by " + digits(found.mean) + " in the mean",
                                of_rate,
                                std::nullopt,
                                {}});
        if (found.mean < least) {
            least = found.mean;
            nearest_rate = at;
        }
    }
    sheet.columns = 2;
    result.data["nearest"] = name_of(nearest_rate);
    result.text +=
        nearest_rate == drawn.scene.shading.rate
            ? fmt::format("\nIt works per {}, as it claims.\n\n", name_of(nearest_rate))
            : fmt::format("\nIt claims {}, and its picture is nearest to the right one per {}.\n\n",
                          name_of(drawn.scene.shading.rate), name_of(nearest_rate));
    result.sheet = report::render(sheet);
    return result;
}

int run(session& on, const rates_options& options) {
    require_picture_name(options.output);
    const drawable drawn = options.from.load(on);
    const rates_result result =
        drawn.program ? rate_of_program(drawn, options.from) : compare_rates(drawn, options.from.scene);
    write_picture(options.output, result.sheet);
    if (speaks(options.json_file)) {
        on.print("{}{}: the sheet\n", result.text, options.output);
    }
    write_json(on, options.json_file, result.data);
    return all_held;
}

} // namespace

rates_result compare_rates(const drawable& drawn_with, const std::string& name) {
    const scene& of = drawn_with.scene;
    for (std::size_t i = 0; i < of.objects.size(); ++i) {
        if (std::holds_alternative<field_shape>(of.objects[i].shape)) {
            throw error({name, 0, 0},
                        "`" + label_of(of.objects[i], i) + "` is a field, drawn per fragment only",
                        "a scene without fields");
        }
    }
    if (of.shading.model == model_kind::cel) {
        throw error({name, 0, 0}, "the model `cel` is evaluated per fragment only",
                    "a scene with another model, or --model lambert");
    }
    const drawn_rate face = draw_at(drawn_with, rate::face);
    const drawn_rate vertex = draw_at(drawn_with, rate::vertex);
    const drawn_rate fragment = draw_at(drawn_with, rate::fragment);

    rates_result result;
    result.data = {{"scene", name},
                   {"model", drawn_with.model},
                   {"size", {of.view.width, of.view.height}},
                   {"rates", json::array()},
                   {"differences", json::array()}};
    report::sheet sheet;
    sheet.title = of.title.empty() ? name : of.title;
    sheet.subtitle =
        fmt::format("{}: {} evaluated per face, per vertex and per fragment, {}x{}, linear values", name,
                    drawn_with.model, of.view.width, of.view.height);
    result.text =
        fmt::format("{}, {}, {}x{}, linear values\n\n{:<10}{:>13}   {:<14}{}\n", name, drawn_with.model,
                    of.view.width, of.view.height, "rate", "evaluations", "brightest at", "its colour");
    for (const drawn_rate* drawn : {&face, &vertex, &fragment}) {
        const std::string rate_name(name_of(drawn->at));
        result.data["rates"].push_back({{"rate", rate_name},
                                        {"evaluations", drawn->done.evaluations},
                                        {"pixels", drawn->done.pixels},
                                        {"brightest", json_of(drawn->brightest)},
                                        {"brightest_at", {drawn->x, drawn->y}}});
        const std::string at = fmt::format("{}, {}", drawn->x, drawn->y);
        result.text += fmt::format("{:<10}{:>13}   {:<14}{}\n", rate_name, grouped(drawn->done.evaluations),
                                   at, triple_of(drawn->brightest));
        sheet.panels.push_back({"per " + rate_name,
                                grouped(drawn->done.evaluations) +
                                    (drawn->done.evaluations == 1 ? " evaluation" : " evaluations"),
                                drawn->made,
                                std::nullopt,
                                {}});
    }

    result.text += fmt::format("\n{:<22}{:>10}   {:<14}{:>10}{:>14}\n", "against per fragment", "largest",
                               "at", "mean", "mean, signed");
    const double scale = std::max(report::luminance_range(fragment.made, face.made),
                                  report::luminance_range(fragment.made, vertex.made));
    report::panel figures;
    figures.title = "against per fragment";
    for (const drawn_rate* drawn : {&face, &vertex}) {
        const difference found = compare(fragment.made, drawn->made);
        const std::string rate_name = "per " + std::string(name_of(drawn->at));
        result.data["differences"].push_back({{"rate", name_of(drawn->at)},
                                              {"against", "fragment"},
                                              {"largest", found.largest},
                                              {"largest_at", {found.largest_x, found.largest_y}},
                                              {"mean", found.mean},
                                              {"mean_signed", found.mean_signed},
                                              {"root_mean_square", found.root_mean_square},
                                              {"pixels", found.pixels_that_differ}});
        const std::string at = fmt::format("{}, {}", found.largest_x, found.largest_y);
        result.text += fmt::format("{:<22}{:>10}   {:<14}{:>10}{:>14}\n", rate_name, digits(found.largest),
                                   at, digits(found.mean), digits(found.mean_signed));
        sheet.panels.push_back({rate_name + " − per fragment",
                                "",
                                report::difference_colors(fragment.made, drawn->made, scale),
                                scale,
                                {}});
        figures.table.emplace_back(rate_name + ": largest", digits(found.largest));
        figures.table.emplace_back("at pixel", at);
        figures.table.emplace_back("mean", digits(found.mean));
        figures.table.emplace_back("mean, signed", digits(found.mean_signed));
    }
    result.text += "\n";
    figures.note = "The largest of red, green and blue; the colours show luminance.";
    sheet.panels.push_back(figures);
    result.sheet = report::render(sheet);
    return result;
}

void add_rates(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "rates",
        "Draw a scene per face, per vertex and per fragment, and show where they differ and by how much.");
    auto options = std::make_shared<rates_options>();
    options->from.add_to(*command, false);
    options->from.add_program_to(*command);
    command->add_option("-o,--output", options->output, "the sheet: .png, .exr or .pfm")
        ->required()
        ->type_name("FILE");
    command->add_option("--json", options->json_file, "the figures, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
