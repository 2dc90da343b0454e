#include "yurvo/report/comparison.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "report/text.hpp"

namespace yurvo::report {

std::string comparison_text(const compared_pictures& of, const study::comparison& found) {
    const picture& a = of.first;
    if (found.same()) {
        return fmt::format("{} and {} are the same, {}x{}\n", of.first_name, of.second_name, a.width,
                           a.height);
    }
    const difference& linear = found.linear;
    const int x = linear.largest_x;
    const int y = linear.largest_y;
    std::string text =
        fmt::format("{} against {}, {}x{}\n\n", of.second_name, of.first_name, a.width, a.height);
    text += fmt::format("{:<16}{:>14}{:>14}{:>16}{:>12}   {}\n", "", "largest", "mean", "mean, signed",
                        "pixels", "largest at");
    text += fmt::format("{:<16}{:>14}{:>14}{:>16}{:>12}   {}, {}\n", "linear", digits(linear.largest),
                        digits(linear.mean), digits(linear.mean_signed), grouped(linear.pixels_that_differ),
                        x, y);
    text += fmt::format("{:<16}{:>14}{:>14}{:>16}{:>12}   {}, {}\n", "codes",
                        fmt::format("{:+}", found.codes.largest), digits(found.codes.mean), "",
                        grouped(found.codes.pixels), found.codes.x, found.codes.y);
    text += fmt::format("{:<16}{:>14}\n\n", "alpha", digits(linear.largest_alpha));
    return text + fmt::format("at ({}, {}) {} holds {}, {} {}\n", x, y, of.first_name,
                              triple(a.color(x, y), 5), of.second_name, triple(of.second.color(x, y), 5));
}

picture comparison_sheet(const compared_pictures& of, const study::comparison& found) {
    const difference& linear = found.linear;
    sheet made;
    made.title = found.same() ? "The two pictures are the same"
                              : fmt::format("{} is {} on the whole", of.second_name,
                                            linear.mean_signed > 0 ? "brighter" : "darker");
    made.subtitle =
        fmt::format("{} and {}, {}x{}", of.first_name, of.second_name, of.first.width, of.first.height);
    made.columns = 2;
    made.panels.push_back(picture_panel(of.first_name, "", of.first));
    made.panels.push_back(picture_panel(of.second_name, "", of.second));
    const double scale = std::max(1e-6, luminance_range(of.first, of.second));
    made.panels.push_back(
        difference_panel(of.second_name + " − " + of.first_name, of.first, of.second, scale));
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
    made.panels.push_back(figures);
    return render(made);
}

} // namespace yurvo::report
