#include "yurvo/report/comparison.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "report/text.hpp"

namespace yurvo::inline v0_1::report {

std::string comparison_text(const compared_pictures& compared, const study::comparison& found) {
    const picture& a = compared.first;
    if (found.same()) {
        return fmt::format("{} and {} are the same, {}x{}\n", compared.first_name, compared.second_name,
                           a.width, a.height);
    }
    const difference& linear = found.linear;
    const int x = linear.largest_x;
    const int y = linear.largest_y;
    std::string text =
        fmt::format("{} against {}, {}x{}\n\n", compared.second_name, compared.first_name, a.width, a.height);
    text += fmt::format("{:<16}{:>14}{:>14}{:>16}{:>12}   {}\n", "", "largest", "mean", "mean, signed",
                        "pixels", "largest at");
    text += fmt::format("{:<16}{:>14}{:>14}{:>16}{:>12}   {}, {}\n", "linear", digits(linear.largest),
                        digits(linear.mean), digits(linear.mean_signed), grouped(linear.pixels_that_differ),
                        x, y);
    text += fmt::format("{:<16}{:>14}{:>14}{:>16}{:>12}   {}, {}\n", "codes",
                        fmt::format("{:+}", found.codes.largest), digits(found.codes.mean), "",
                        grouped(found.codes.pixels), found.codes.x, found.codes.y);
    text += fmt::format("{:<16}{:>14}\n\n", "alpha", digits(linear.largest_alpha));
    return text + fmt::format("at ({}, {}) {} holds {}, {} {}\n", x, y, compared.first_name,
                              triple(a.color(x, y), 5), compared.second_name,
                              triple(compared.second.color(x, y), 5));
}

std::string held_text(const verify::check_result& held) {
    const std::string share =
        held.used < 10 ? fmt::format("{:.0f} %", 100 * held.used) : fmt::format("{:.3g} times", held.used);
    return held.passed ? fmt::format("within the tolerance of `check`: at most {} of it is used ({})\n",
                                     share, held.remark)
                       : fmt::format("beyond the tolerance of `check`: {} of it at ({}, {}) ({})\n", share,
                                     held.x, held.y, held.remark);
}

picture comparison_sheet(const compared_pictures& compared, const study::comparison& found) {
    const difference& linear = found.linear;
    sheet result;
    result.title = found.same() ? "The two pictures are the same"
                                : fmt::format("{} is {} on the whole", compared.second_name,
                                              linear.mean_signed > 0 ? "brighter" : "darker");
    result.subtitle = fmt::format("{} and {}, {}x{}", compared.first_name, compared.second_name,
                                  compared.first.width, compared.first.height);
    result.columns = 2;
    result.panels.push_back(picture_panel(compared.first_name, "", compared.first));
    result.panels.push_back(picture_panel(compared.second_name, "", compared.second));
    const double scale = std::max(1e-6, luminance_range(compared.first, compared.second));
    result.panels.push_back(difference_panel(compared.second_name + " − " + compared.first_name,
                                             compared.first, compared.second, scale));
    panel figures;
    figures.title = "how much";
    figures.table = {{"largest, linear", digits(linear.largest)},
                     {"at pixel", fmt::format("{}, {}", linear.largest_x, linear.largest_y)},
                     {"mean", digits(linear.mean)},
                     {"mean, signed", digits(linear.mean_signed)},
                     {"largest, codes", fmt::format("{:+}", found.codes.largest)},
                     {"pixels whose codes differ", grouped(found.codes.pixels)},
                     {"largest in alpha", digits(linear.largest_alpha)}};
    figures.note = "The largest of red, green and blue; the colours show luminance.";
    result.panels.push_back(figures);
    return render(result);
}

} // namespace yurvo::inline v0_1::report
