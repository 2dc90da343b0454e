#include "yurvo/report/turn.hpp"

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::report {

std::string turn_text(const study::turn& found) {
    std::string text = fmt::format("{:>7}{:>14}{:>18}{}\n", "turned", "mean", "differs at most",
                                   found.point ? "   at the point in the middle: diffuse, specular" : "");
    for (const study::turn_step& one : found.steps) {
        text += fmt::format("{:>6.4g}°{:>14}{:>18}", degrees(one.angle), digits(one.mean),
                            digits(one.largest_difference));
        if (one.diffuse && one.specular) {
            text += fmt::format("   {}, {}", triple(*one.diffuse, 4), triple(*one.specular, 4));
        }
        text += "\n";
    }
    return text + "\n";
}

picture turn_sheet(const study::named_scene& of, const study::turn& found) {
    sheet made;
    const std::size_t steps = found.steps.size();
    made.title = of.title();
    made.subtitle =
        fmt::format("{}: {} per {}, the {} turned about the vertical in {} steps", of.name, found.model,
                    name_of(of.scene.shading.rate),
                    found.name.empty() ? std::string(name_of(found.what)) : "`" + found.name + "`", steps);
    made.columns = steps <= 4 ? 2 : steps <= 9 ? 3 : 4;
    for (const study::turn_step& one : found.steps) {
        made.panels.push_back(
            picture_panel(fmt::format("{:.4g}°", degrees(one.angle)),
                          &one == &found.steps.front()
                              ? "as it is"
                              : fmt::format("differs by {} at most", digits(one.largest_difference)),
                          one.drawn));
    }
    return render(made);
}

} // namespace yurvo::report
