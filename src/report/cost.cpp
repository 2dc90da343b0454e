#include "yurvo/report/cost.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/report/plot.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

// A driver does not say where its time goes.
std::string driver_text(const study::named_scene& named, const study::cost& found, int repeat) {
    const study::rate_cost& only = found.rates.front();
    return fmt::format(
        "{}, {}, {}x{}: {:.2f} ms, half of {} frames within {:.2f} to {:.2f}, by {}; with what it "
        "takes to hand the driver its scene and to read the picture back\n",
        named.name, found.model, named.scene.view.width, named.scene.view.height, only.median, repeat,
        only.lower, only.upper, found.drawn_by);
}

void add_curves(plot& to, const std::vector<study::cost_curve>& curves) {
    for (const study::cost_curve& curve : curves) {
        to.curves.push_back({"per " + std::string(name_of(curve.at)), curve.points});
        for (const auto& [across, up] : curve.points) {
            to.across_most = std::max(to.across_most, across);
            to.up_most = std::max(to.up_most, 1.15 * up);
        }
    }
    to.across_most = to.across_most <= 0 ? 1 : to.across_most;
    to.up_most = to.up_most <= 0 ? 1 : to.up_most;
}

} // namespace

std::string cost_text(const study::named_scene& named, const study::cost& found, int repeat) {
    if (!found.drawn_by.empty()) {
        return driver_text(named, found, repeat);
    }
    std::string text = fmt::format(
        "{}, {}, {}x{}: medians of {} frames, from the loaded scene to the picture in memory ({})\n\n"
        "{:<10}{:>9}{:>18}{:>14}{:>12}   {}\n",
        named.name, found.model, named.scene.view.width, named.scene.view.height, repeat,
        found.instruction_set, "rate", "ms", "half within", "evaluations", "pixels",
        "vertices + visibility + shading, encoding");
    for (const study::rate_cost& cost : found.rates) {
        text += fmt::format("{:<10}{:>9.2f}{:>18}{:>14}{:>12}   {:.2f} + {:.2f} + {:.2f}, {:.2f}\n",
                            name_of(cost.at), cost.median,
                            fmt::format("{:.2f} to {:.2f}", cost.lower, cost.upper),
                            grouped(cost.statistics.evaluations), grouped(cost.statistics.pixels),
                            cost.vertices, cost.visibility, cost.shading, cost.encoding);
    }
    text += "\n";
    for (const std::string& line : found.advice) {
        text += line + "\n";
    }
    return text;
}

picture growth_sheet(const study::named_scene& named, const std::string& model,
                     const study::cost_growth& found) {
    plot cells{"Cost against tessellation", "triangles, thousands", "milliseconds a frame", 0, 0, {}, ""};
    plot lights{"Cost against lights", "lights", "milliseconds a frame", 0, 0, {}, "no light to add"};
    add_curves(cells, found.by_triangles);
    add_curves(lights, found.by_lights);
    return render(
        named.title(),
        fmt::format("{}: {} drawn again and again, {}x{}; medians", named.name, model, named.scene.view.width,
                    named.scene.view.height),
        {cells, lights},
        {"From the loaded scene to the finished linear picture. Shapes get finer cells; the scene's "
         "lights are repeated."});
}

} // namespace yurvo::inline v0_1::report
