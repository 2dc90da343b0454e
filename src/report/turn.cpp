#include "yurvo/report/turn.hpp"

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

std::string turn_text(const study::turn& found) {
    std::string text = fmt::format("{:>7}{:>14}{:>18}{}\n", "turned", "mean", "differs at most",
                                   found.point ? "   at the point in the middle: diffuse, specular" : "");
    for (const study::turn_step& step : found.steps) {
        text += fmt::format("{:>6.4g}°{:>14}{:>18}", degrees(step.angle), digits(step.mean),
                            digits(step.largest_difference));
        if (step.diffuse && step.specular) {
            text += fmt::format("   {}, {}", triple(*step.diffuse, 4), triple(*step.specular, 4));
        }
        text += "\n";
    }
    return text + "\n";
}

picture turn_sheet(const study::named_scene& named, const study::turn& found) {
    sheet result;
    const std::size_t steps = found.steps.size();
    result.title = named.title();
    result.subtitle =
        fmt::format("{}: {} per {}, the {} turned about the vertical in {} steps", named.name, found.model,
                    name_of(named.scene.shading.rate),
                    found.name.empty() ? std::string(name_of(found.what)) : "`" + found.name + "`", steps);
    result.columns = steps <= 4 ? 2 : steps <= 9 ? 3 : 4;
    for (const study::turn_step& step : found.steps) {
        result.panels.push_back(
            picture_panel(fmt::format("{:.4g}°", degrees(step.angle)),
                          &step == &found.steps.front()
                              ? "as it is"
                              : fmt::format("differs by {} at most", digits(step.largest_difference)),
                          step.drawn));
    }
    return render(result);
}

} // namespace yurvo::inline v0_1::report
