#include <algorithm>
#include <chrono>
#include <memory>

#include "session.hpp"
#include "yurvo/picture/comparison.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/parallel.hpp"
#include "yurvo/report/plot.hpp"

namespace yurvo::app {

namespace {

struct cost_options {
    scene_options from;
    std::string output, json_file;
    int repeat = 15;
    int threads = 0;
};

constexpr double thousand = 1000;

double since(std::chrono::steady_clock::time_point begin) {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count() * thousand;
}

// The value with that share of the others below it.
double quantile(std::vector<double> of, double share) {
    std::sort(of.begin(), of.end());
    return of[static_cast<std::size_t>(share * static_cast<double>(of.size() - 1) + 0.5)];
}

struct measured {
    rate at = rate::fragment;
    double median = 0, lower = 0, upper = 0; // milliseconds; the quartiles
    double vertices = 0, visibility = 0, shading = 0, encoding = 0;
    work_done done;
    picture made;
};

// A scene drawn again and again into one frame, as someone does who turns it.
class repeated {
    const drawable& of_;
    pipeline::stage staged_;
    pipeline::frame frame_;
    int threads_;

  public:
    repeated(const drawable& of, const scene& changed, int threads)
        : of_(of), staged_(pipeline::make_stage(changed)), threads_(threads) {}

    const picture& draw() {
        const picture* made = nullptr;
        pipeline::with_threads(threads_, [&] {
            if (of_.own != nullptr) {
                made = &of_.own->draw_into(frame_, staged_);
            } else {
                made = pipeline::with_model<formula>(of_.scene.shading, [&](const auto& model) {
                    return &frame_.draw(staged_, pipeline::make_shader<formula, float>(model));
                });
            }
        });
        return *made;
    }

    [[nodiscard]] const pipeline::frame& frame() const { return frame_; }

    // Milliseconds of one frame.
    double time() {
        const auto begin = std::chrono::steady_clock::now();
        draw();
        return since(begin);
    }
};

measured measure(const drawable& of, rate at, int repeat, int threads) {
    scene changed = of.scene;
    changed.shading.rate = at;
    repeated again(of, changed, threads);
    measured result;
    result.at = at;
    result.made = again.draw(); // to warm up
    std::vector<double> times;
    std::vector<double> vertices;
    std::vector<double> visibility;
    std::vector<double> shading;
    std::vector<double> encodings;
    for (int i = 0; i < repeat; ++i) {
        times.push_back(again.time());
        // What the stages took of the threads' time, as parts of the frame's.
        const pipeline::time_spent& spent = again.frame().spent();
        const double all = spent.vertices + spent.visibility + spent.shading;
        const double scale = all > 0 ? times.back() / all : 0;
        vertices.push_back(spent.vertices * scale);
        visibility.push_back(spent.visibility * scale);
        shading.push_back(spent.shading * scale);
        const auto begin = std::chrono::steady_clock::now();
        const std::vector<std::uint8_t> codes = codes_of(result.made);
        encodings.push_back(since(begin));
    }
    result.median = quantile(times, 0.5);
    result.lower = quantile(times, 0.25);
    result.upper = quantile(times, 0.75);
    result.vertices = quantile(vertices, 0.5);
    result.visibility = quantile(visibility, 0.5);
    result.shading = quantile(shading, 0.5);
    result.encoding = quantile(encodings, 0.5);
    result.done = again.frame().done();
    return result;
}

bool has_fields(const scene& of) {
    return std::any_of(of.objects.begin(), of.objects.end(),
                       [](const object& one) { return std::holds_alternative<field_shape>(one.shape); });
}

std::vector<rate> rates_of(const scene& of) {
    return of.shading.model == model_kind::cel || has_fields(of)
               ? std::vector<rate>{rate::fragment}
               : std::vector<rate>{rate::face, rate::vertex, rate::fragment};
}

int largest_code_difference(const picture& a, const picture& b) {
    const std::vector<std::uint8_t> left = codes_of(a);
    const std::vector<std::uint8_t> right = codes_of(b);
    int most = 0;
    for (std::size_t i = 0; i < left.size(); ++i) {
        most = std::max(most, std::abs(static_cast<int>(left[i]) - static_cast<int>(right[i])));
    }
    return most;
}

// What the figures mean for a choice.
std::vector<std::string> advice(const std::vector<measured>& all, bool fields) {
    std::vector<std::string> says;
    const measured& fragment = all.back();
    for (const measured& one : all) {
        if (one.at == rate::fragment) {
            continue;
        }
        const double ratio = fragment.median / one.median;
        const int codes = largest_code_difference(one.made, fragment.made);
        const std::string name = "per " + std::string(name_of(one.at));
        const std::string speed = ratio > 1.1 ? fmt::format("{:.1f} times as fast as per fragment", ratio)
                                  : ratio < 0.9
                                      ? fmt::format("{:.1f} times as slow as per fragment", 1 / ratio)
                                      : std::string("no faster than per fragment");
        const std::string price = codes <= 1 ? std::string("and looks the same")
                                             : fmt::format("and up to {} of 255 codes away from it", codes);
        const std::string why = one.done.evaluations > fragment.done.evaluations
                                    ? ": it runs the model more often than there are pixels to see"
                                    : "";
        says.push_back(fmt::format("{} is {}{}, {}.", name, speed, why, price));
    }
    const double pixels = fragment.shading / std::max(1e-9, fragment.median);
    const double found = fragment.visibility / std::max(1e-9, fragment.median);
    const std::string of_time =
        fmt::format("Per fragment, {:.0f} % of the time goes into ", 100 * std::max(pixels, found));
    if (pixels >= found) {
        says.push_back(
            of_time +
            "pixels, lit and written: a smaller picture or fewer lights help, fewer triangles hardly.");
    } else if (fields) {
        says.push_back(
            of_time +
            "meeting the implicit surfaces ray by ray: a smaller picture helps, or meshes instead.");
    } else {
        says.push_back(
            of_time +
            "finding what is seen: a smaller picture or fewer triangles help, fewer lights hardly.");
    }
    return says;
}

// Every shape's cells times a factor, at least the fewest it may have.
scene tessellated(const scene& of, double factor) {
    scene made = of;
    const auto finer = [&](auto& cells, std::uint32_t least_around) {
        const std::array<std::uint32_t, 2> least{least_around, 1};
        for (std::size_t i = 0; i < 2; ++i) {
            cells[i] = std::clamp(static_cast<std::uint32_t>(cells[i] * factor + 0.5), least[i], 1024U);
        }
    };
    for (object& one : made.objects) {
        if (auto* plane = std::get_if<plane_shape>(&one.shape)) {
            finer(plane->cells, 1);
        } else if (auto* sphere = std::get_if<sphere_shape>(&one.shape)) {
            finer(sphere->cells, 3);
            sphere->cells[1] = std::max(2U, sphere->cells[1]);
        } else if (auto* cylinder = std::get_if<cylinder_shape>(&one.shape)) {
            finer(cylinder->cells, 3);
        } else if (auto* cone = std::get_if<cone_shape>(&one.shape)) {
            finer(cone->cells, 3);
        } else if (auto* torus = std::get_if<torus_shape>(&one.shape)) {
            finer(torus->cells, 3);
            torus->cells[1] = std::max(3U, torus->cells[1]);
        }
    }
    return made;
}

std::size_t triangles_of(const scene& of) {
    std::size_t count = 0;
    for (const object& one : of.objects) {
        count += build_mesh(one).triangles.size();
    }
    return count;
}

// The scene's lights again and again, as many as asked for.
scene with_lights(const scene& of, std::size_t count) {
    scene made = of;
    made.lights.clear();
    for (std::size_t i = 0; i < count; ++i) {
        named_light one = of.lights[i % of.lights.size()];
        one.name.clear();
        made.lights.push_back(one);
    }
    return made;
}

picture plot_cost(const drawable& of, const std::string& name, const std::vector<measured>& measured_rates,
                  int repeat, int threads) {
    const auto median_of = [&](const scene& changed) {
        repeated again(of, changed, threads);
        again.draw();
        std::vector<double> times;
        for (int i = 0; i < std::max(3, repeat / 3); ++i) {
            times.push_back(again.time());
        }
        return quantile(times, 0.5);
    };
    report::plot cells{
        "Cost against tessellation", "triangles, thousands", "milliseconds a frame", 0, 0, {}, ""};
    report::plot lights{"Cost against lights", "lights", "milliseconds a frame", 0, 0, {}, "no light to add"};
    for (const measured& one : measured_rates) {
        report::curve by_cells{"per " + std::string(name_of(one.at)), {}};
        report::curve by_lights = by_cells;
        for (const double factor : {0.25, 1.0, 4.0, 8.0, 16.0}) {
            scene changed = tessellated(of.scene, factor);
            changed.shading.rate = one.at;
            const double thousands = static_cast<double>(triangles_of(changed)) / thousand;
            if (by_cells.points.empty() || thousands > by_cells.points.back().first) {
                by_cells.points.emplace_back(thousands, median_of(changed));
            }
        }
        for (const std::size_t count : {1U, 4U, 8U, 16U, 32U}) {
            if (of.scene.lights.empty()) {
                break;
            }
            scene changed = with_lights(of.scene, count);
            changed.shading.rate = one.at;
            by_lights.points.emplace_back(static_cast<double>(count), median_of(changed));
        }
        cells.curves.push_back(by_cells);
        if (!by_lights.points.empty()) {
            lights.curves.push_back(by_lights);
        }
    }
    for (report::plot* plot : {&cells, &lights}) {
        for (const report::curve& one : plot->curves) {
            for (const auto& [across, up] : one.points) {
                plot->across_most = std::max(plot->across_most, across);
                plot->up_most = std::max(plot->up_most, 1.15 * up);
            }
        }
        plot->across_most = plot->across_most <= 0 ? 1 : plot->across_most;
        plot->up_most = plot->up_most <= 0 ? 1 : plot->up_most;
    }
    return report::render(
        of.scene.title.empty() ? name : of.scene.title,
        fmt::format("{}: {} drawn again and again, {}x{}; medians", name, of.model, of.scene.view.width,
                    of.scene.view.height),
        {cells, lights},
        {"From the loaded scene to the finished linear picture. Shapes get finer cells; the scene's "
         "lights are repeated."});
}

// A program has one rate, and the driver does not say where its time goes.
int run_program(session& on, const drawable& of, const cost_options& options) {
    std::vector<double> times;
    picture made = of.draw(); // to warm up
    for (int i = 0; i < options.repeat; ++i) {
        const auto begin = std::chrono::steady_clock::now();
        made = of.draw();
        times.push_back(since(begin));
    }
    const std::string name(name_of(of.scene.shading.rate));
    const double pixels = 1.0 * of.scene.view.width * of.scene.view.height;
    if (speaks(options.json_file)) {
        on.print("{}, {}, {}x{}: {:.2f} ms, half of {} frames within {:.2f} to {:.2f}, by {}; with what it "
                 "takes to hand "
                 "the driver its scene and to read the picture back\n",
                 options.from.scene, of.model, of.scene.view.width, of.scene.view.height,
                 quantile(times, 0.5), options.repeat, quantile(times, 0.25), quantile(times, 0.75),
                 of.program->driver());
    }
    write_json(on, options.json_file,
               {{"scene", options.from.scene},
                {"model", of.model},
                {"driver", of.program->driver()},
                {"rates",
                 {{{"rate", name},
                   {"milliseconds", quantile(times, 0.5)},
                   {"quartiles", {quantile(times, 0.25), quantile(times, 0.75)}},
                   {"evaluations", nullptr},
                   {"pixels", static_cast<std::uint64_t>(pixels)}}}}});
    return all_held;
}

int run(session& on, const cost_options& options) {
    if (!options.output.empty()) {
        require_picture_name(options.output);
    }
    const drawable of = options.from.load(on);
    if (of.program) {
        return run_program(on, of, options);
    }
    std::vector<measured> all;
    for (const rate at : rates_of(of.scene)) {
        on.progress(fmt::format("measuring per {}", name_of(at)));
        all.push_back(measure(of, at, options.repeat, options.threads));
    }
    on.progress("");
    json data{{"scene", options.from.scene},
              {"model", of.model},
              {"size", {of.scene.view.width, of.scene.view.height}},
              {"repeat", options.repeat},
              {"instruction_set",
               pipeline::instruction_set_names[static_cast<std::size_t>(pipeline::chosen_instruction_set())]},
              {"rates", json::array()}};
    std::string text = fmt::format(
        "{}, {}, {}x{}: medians of {} frames, from the loaded scene to the picture in memory ({})\n\n"
        "{:<10}{:>9}{:>18}{:>14}{:>12}   {}\n",
        options.from.scene, of.model, of.scene.view.width, of.scene.view.height, options.repeat,
        data["instruction_set"].get<std::string>(), "rate", "ms", "half within", "evaluations", "pixels",
        "vertices + visibility + shading, encoding");
    for (const measured& one : all) {
        data["rates"].push_back({{"rate", name_of(one.at)},
                                 {"milliseconds", one.median},
                                 {"quartiles", {one.lower, one.upper}},
                                 {"evaluations", one.done.evaluations},
                                 {"pixels", one.done.pixels},
                                 {"vertices", one.vertices},
                                 {"visibility", one.visibility},
                                 {"shading", one.shading},
                                 {"encoding", one.encoding}});
        text += fmt::format(
            "{:<10}{:>9.2f}{:>18}{:>14}{:>12}   {:.2f} + {:.2f} + {:.2f}, {:.2f}\n", name_of(one.at),
            one.median, fmt::format("{:.2f} to {:.2f}", one.lower, one.upper), grouped(one.done.evaluations),
            grouped(one.done.pixels), one.vertices, one.visibility, one.shading, one.encoding);
    }
    data["says"] = advice(all, has_fields(of.scene));
    text += "\n";
    for (const std::string& line : data["says"].get<std::vector<std::string>>()) {
        text += line + "\n";
    }
    if (!options.output.empty()) {
        on.progress("measuring more cells and lights");
        write_picture(options.output,
                      plot_cost(of, options.from.scene, all, options.repeat, options.threads));
        on.progress("");
        text += options.output + ": the plot\n";
    }
    if (speaks(options.json_file)) {
        on.print("{}", text);
    }
    write_json(on, options.json_file, data);
    return all_held;
}

} // namespace

void add_cost(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand("cost", "Measure a scene at each rate: milliseconds a frame, how "
                                                  "often the model is run, where the time goes.");
    auto options = std::make_shared<cost_options>();
    options->from.add_to(*command, false);
    options->from.add_program_to(*command);
    command->add_option("--repeat", options->repeat, "frames to take the median of")
        ->check(CLI::Range(1, 10000))
        ->capture_default_str();
    command->add_option("--threads", options->threads, "at most so many; 0 is as many as the machine has")
        ->check(CLI::Range(0, 1024));
    command
        ->add_option("-o,--output", options->output,
                     "a plot against tessellation and lights: .png, .exr or .pfm")
        ->type_name("FILE");
    command->add_option("--json", options->json_file, "the figures, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
