#include "session.hpp"

#include <memory>

#include "yurvo/picture/comparison.hpp"
#include "yurvo/report/sheet.hpp"

namespace yurvo::app {

namespace {

struct compare_options {
    std::string first, second, output, as, json_file, program;
};

// In codes, as both would be written into a PNG.
struct code_difference {
    int largest = 0; // signed: of the second picture against the first
    int x = 0, y = 0;
    double mean = 0;
    std::size_t pixels = 0; // that differ
};

code_difference compare_codes(const picture& a, const picture& b) {
    const std::vector<std::uint8_t> of_a = codes_of(a);
    const std::vector<std::uint8_t> of_b = codes_of(b);
    code_difference found;
    std::uint64_t sum = 0;
    for (std::size_t i = 0; i < of_a.size(); i += 4) {
        bool differs = false;
        for (std::size_t c = 0; c < 3; ++c) {
            const int off = static_cast<int>(of_b[i + c]) - static_cast<int>(of_a[i + c]);
            sum += static_cast<std::uint64_t>(std::abs(off));
            differs = differs || off != 0;
            if (std::abs(off) > std::abs(found.largest)) {
                const std::size_t pixel = i / 4;
                found.largest = off;
                found.x = static_cast<int>(pixel % static_cast<std::size_t>(a.width));
                found.y = static_cast<int>(pixel / static_cast<std::size_t>(a.width));
            }
        }
        found.pixels += differs ? 1U : 0U;
    }
    found.mean = static_cast<double>(sum) / (3.0 * static_cast<double>(a.pixels()));
    return found;
}

int run(session& on, compare_options options) {
    if (!options.output.empty()) {
        require_picture_name(options.output);
    }
    const auto read = [&](const std::string& file) {
        return read_found(
            file, precision_of(file, options.as == "srgb" && !file.ends_with(".png") ? "" : options.as));
    };
    if (options.program.empty() && options.second.empty()) {
        throw error({"yurvo compare", 0, 0}, "there is one picture", "two, or a scene with --program FILE");
    }
    picture a;
    picture b;
    if (options.program.empty()) {
        a = read(options.first);
        b = read(options.second);
    } else { // the right picture of a scene, and the program's
        if (!options.second.empty()) {
            throw error({"yurvo compare", 0, 0}, "there are a second picture and a program",
                        "one of the two");
        }
        scene_options from;
        from.scene = options.first;
        from.program = options.program;
        const drawable drawn = from.load(on);
        a = yurvo::draw(drawn.scene);
        b = drawn.draw();
        options.second = options.program;
    }
    if (a.width != b.width || a.height != b.height) {
        throw error({options.second, 0, 0},
                    fmt::format("the picture is {}x{}, {} is {}x{}", b.width, b.height, options.first,
                                a.width, a.height),
                    "two pictures of one size");
    }
    const difference linear = compare(a, b);
    const code_difference codes = compare_codes(a, b);
    const rgb<float> at_a = a.color(linear.largest_x, linear.largest_y);
    const rgb<float> at_b = b.color(linear.largest_x, linear.largest_y);
    const bool same = linear.largest == 0 && linear.largest_alpha == 0;
    if (speaks(options.json_file)) {
        if (same) {
            on.print("{} and {} are the same, {}x{}\n", options.first, options.second, a.width, a.height);
        } else {
            const auto triple_of = [](const rgb<float>& c) { return triple({c.r, c.g, c.b}, 5); };
            on.print("{} against {}, {}x{}\n\n", options.second, options.first, a.width, a.height);
            on.print("{:<16}{:>14}{:>14}{:>16}{:>12}   {}\n", "", "largest", "mean", "mean, signed", "pixels",
                     "largest at");
            on.print("{:<16}{:>14}{:>14}{:>16}{:>12}   {}, {}\n", "linear", digits(linear.largest),
                     digits(linear.mean), digits(linear.mean_signed), grouped(linear.pixels_that_differ),
                     linear.largest_x, linear.largest_y);
            on.print("{:<16}{:>14}{:>14}{:>16}{:>12}   {}, {}\n", "codes", fmt::format("{:+}", codes.largest),
                     digits(codes.mean), "", grouped(codes.pixels), codes.x, codes.y);
            on.print("{:<16}{:>14}\n\n", "alpha", digits(linear.largest_alpha));
            on.print("at ({}, {}) {} holds {}, {} {}\n", linear.largest_x, linear.largest_y, options.first,
                     triple_of(at_a), options.second, triple_of(at_b));
        }
    }
    if (!options.output.empty()) {
        report::sheet sheet;
        sheet.title = same ? "The two pictures are the same"
                           : fmt::format("{} is {} on the whole", options.second,
                                         linear.mean_signed > 0 ? "brighter" : "darker");
        sheet.subtitle = fmt::format("{} and {}, {}x{}", options.first, options.second, a.width, a.height);
        sheet.columns = 2;
        sheet.panels.push_back({options.first, "", a, std::nullopt, {}});
        sheet.panels.push_back({options.second, "", b, std::nullopt, {}});
        const double scale = std::max(1e-6, report::luminance_range(a, b));
        sheet.panels.push_back(
            {options.second + " − " + options.first, "", report::difference_colors(a, b, scale), scale, {}});
        report::panel figures;
        figures.title = "how much";
        figures.table = {{"largest, linear", digits(linear.largest)},
                         {"at pixel", fmt::format("{}, {}", linear.largest_x, linear.largest_y)},
                         {"mean", digits(linear.mean)},
                         {"mean, signed", digits(linear.mean_signed)},
                         {"largest, codes", fmt::format("{:+}", codes.largest)},
                         {"pixels whose codes differ", grouped(codes.pixels)},
                         {"largest in alpha", digits(linear.largest_alpha)}};
        figures.note = "The largest of red, green and blue; the colours show luminance.";
        sheet.panels.push_back(figures);
        write_picture(options.output, report::render(sheet));
        if (speaks(options.json_file)) {
            on.print("{}: the sheet\n", options.output);
        }
    }
    write_json(on, options.json_file,
               {{"a", options.first},
                {"b", options.second},
                {"size", {a.width, a.height}},
                {"same", same},
                {"linear",
                 {{"largest", linear.largest},
                  {"largest_at", {linear.largest_x, linear.largest_y}},
                  {"a", json_of(at_a)},
                  {"b", json_of(at_b)},
                  {"mean", linear.mean},
                  {"mean_signed", linear.mean_signed},
                  {"root_mean_square", linear.root_mean_square},
                  {"pixels", linear.pixels_that_differ}}},
                {"codes",
                 {{"largest", codes.largest},
                  {"largest_at", {codes.x, codes.y}},
                  {"mean", codes.mean},
                  {"pixels", codes.pixels}}},
                {"largest_alpha", linear.largest_alpha}});
    return all_held;
}

} // namespace

void add_compare(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "compare", "Two pictures: by how much the second differs from the first, and where.");
    auto options = std::make_shared<compare_options>();
    command->add_option("a", options->first, "a picture: .png, .exr or .pfm")->required()->type_name("A");
    command->add_option("b", options->second, "another one of the same size")->type_name("B");
    command
        ->add_option("--program", options->program,
                     "with a scene as A: its right picture against this shader program's")
        ->type_name("FILE");
    command->add_option("-o,--output", options->output, "a sheet with both and their difference")
        ->type_name("FILE");
    command->add_option("--as", options->as, "what a PNG's codes are: srgb (where left out) or linear");
    command->add_option("--json", options->json_file, "the figures, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
