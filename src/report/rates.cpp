#include "yurvo/report/rates.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

std::string place(int x, int y) { return fmt::format("{}, {}", x, y); }

} // namespace

std::string rates_text(const study::named_scene& named, const study::rates& found) {
    std::string text = fmt::format("{}, {}, {}x{}, linear values\n\n{:<10}{:>13}   {:<14}{}\n", named.name,
                                   found.model, named.scene.view.width, named.scene.view.height, "rate",
                                   "evaluations", "brightest at", "its colour");
    for (const study::drawn_rate* drawn : {&found.face, &found.vertex, &found.fragment}) {
        text += fmt::format("{:<10}{:>13}   {:<14}{}\n", name_of(drawn->at),
                            grouped(drawn->statistics.evaluations), place(drawn->x, drawn->y),
                            triple(drawn->brightest, 3));
    }
    text += fmt::format("\n{:<22}{:>10}   {:<14}{:>10}{:>14}\n", "against per fragment", "largest", "at",
                        "mean", "mean, signed");
    const auto line = [&](rate at, const difference& off) {
        text += fmt::format("{:<22}{:>10}   {:<14}{:>10}{:>14}\n", "per " + std::string(name_of(at)),
                            digits(off.largest), place(off.largest_x, off.largest_y), digits(off.mean),
                            digits(off.mean_signed));
    };
    line(rate::face, found.face_off);
    line(rate::vertex, found.vertex_off);
    return text + "\n";
}

picture rates_sheet(const study::named_scene& named, const study::rates& found) {
    sheet result;
    result.title = named.title();
    result.subtitle =
        fmt::format("{}: {} evaluated per face, per vertex and per fragment, {}x{}, linear values",
                    named.name, found.model, named.scene.view.width, named.scene.view.height);
    for (const study::drawn_rate* drawn : {&found.face, &found.vertex, &found.fragment}) {
        const std::uint64_t evaluations = drawn->statistics.evaluations;
        result.panels.push_back(picture_panel(
            "per " + std::string(name_of(drawn->at)),
            grouped(evaluations) + (evaluations == 1 ? " evaluation" : " evaluations"), drawn->drawn));
    }
    const picture& exact = found.fragment.drawn;
    const double scale =
        std::max(luminance_range(exact, found.face.drawn), luminance_range(exact, found.vertex.drawn));
    panel figures;
    figures.title = "against per fragment";
    const auto add = [&](const study::drawn_rate& drawn, const difference& off) {
        const std::string name = "per " + std::string(name_of(drawn.at));
        result.panels.push_back(difference_panel(name + " − per fragment", exact, drawn.drawn, scale));
        figures.table.emplace_back(name + ": largest", digits(off.largest));
        figures.table.emplace_back("at pixel", place(off.largest_x, off.largest_y));
        figures.table.emplace_back("mean", digits(off.mean));
        figures.table.emplace_back("mean, signed", digits(off.mean_signed));
    };
    add(found.face, found.face_off);
    add(found.vertex, found.vertex_off);
    figures.note = "The largest of red, green and blue; the colours show luminance.";
    result.panels.push_back(figures);
    return render(result);
}

std::string rate_claim_text(const study::named_scene& named, const study::rate_claim& found,
                            const std::string& program) {
    std::string text =
        fmt::format("{} on {}\n\n{:<12}{:>12}{:>12}\n", program, named.name, "right per", "largest", "mean");
    for (const study::rate_distance& distance : found.rates) {
        text += fmt::format("{:<12}{:>12}{:>12}\n", name_of(distance.at), digits(distance.off.largest),
                            digits(distance.off.mean));
    }
    return text +
           (found.nearest == found.claimed
                ? fmt::format("\nIt works per {}, as it claims.\n\n", name_of(found.nearest))
                : fmt::format("\nIt claims {}, and its picture is nearest to the right one per {}.\n\n",
                              name_of(found.claimed), name_of(found.nearest)));
}

picture rate_claim_sheet(const study::named_scene& named, const study::rate_claim& found,
                         const std::string& program) {
    sheet result;
    result.title = program;
    result.subtitle =
        fmt::format("{}: which rate is the program's? It claims {}", named.name, name_of(found.claimed));
    result.columns = 2;
    result.panels.push_back(picture_panel(program, "drawn by " + found.drawn_by, found.drawn));
    for (const study::rate_distance& distance : found.rates) {
        result.panels.push_back(picture_panel("right, per " + std::string(name_of(distance.at)),
                                              "off by " + digits(distance.off.mean) + " in the mean",
                                              distance.right));
    }
    return render(result);
}

} // namespace yurvo::inline v0_1::report
