#include "yurvo/report/diagnosis.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "report/text.hpp"

namespace yurvo::inline v0_1::report {

namespace {

std::string makeup_text(const std::vector<verify::makeup_part>& makeup) {
    if (makeup.empty()) {
        return "";
    }
    std::string text = "\nIts make-up: how much of each term the picture holds, 1 in a right one\n";
    for (const verify::makeup_part& part : makeup) {
        const std::string whose = part.light.empty() ? part.term : part.light + "'s " + part.term;
        text += fmt::format("  {:<36}{:>8.3f}   {}\n", whose, part.factor, part.suggests);
    }
    return text;
}

} // namespace

picture diagnosis_sheet(const verify::diagnosis& found, const picture& image, const std::string& what,
                        const renderer& right_renderer) {
    sheet result;
    result.columns = 2;
    const picture right = right_renderer.draw(found.drawn);
    const double scale = std::max(1e-6, luminance_range(right, image));
    result.panels.push_back(picture_panel(what, "the picture that was given", image));
    result.panels.push_back(picture_panel("right", "as it should be", right));
    switch (found.verdict) {
    case verify::verdict_kind::right:
        result.title = "The picture is right";
        break;
    case verify::verdict_kind::mistake:
        result.title = found.mistakes.front().id();
        result.panels.push_back(
            picture_panel(found.mistakes.front().id(), "the right scene with this mistake in it",
                          verify::picture_of_suspect(found.drawn, found.mistakes.front(), right_renderer)));
        break;
    case verify::verdict_kind::unknown:
        result.title = "The picture is wrong, and no known mistake explains it";
        break;
    }
    result.subtitle =
        fmt::format("{} of {} compared pixels are off", grouped(found.off), grouped(found.compared));
    if (found.verdict == verify::verdict_kind::mistake) {
        result.subtitle += fmt::format("; with the mistake, {}", grouped(found.off_with));
    }
    const auto mark = found.x >= 0 ? std::optional(std::array<int, 2>{found.x, found.y}) : std::nullopt;
    for (panel& each_panel : result.panels) {
        each_panel.mark = mark;
    }
    result.panels.push_back(difference_panel("given − right", right, image, scale));
    return render(result);
}

std::string diagnosis_text(const verify::diagnosis& found, const std::string& what,
                           const std::string& scene) {
    std::string text;
    const auto line = [](std::string_view name, std::string_view says) { return labelled(name, says, 15); };
    if (found.verdict == verify::verdict_kind::right) {
        text = found.exposure == 1
                   ? fmt::format("{} is right: {}\n", what, scene)
                   : fmt::format("{} is right but for its exposure, {:.3g} times what it should be: {}\n",
                                 what, found.exposure, scene);
        text +=
            line("evidence",
                 fmt::format("{} of {} compared pixels are off by more than {:.3g} codes; the "
                             "residual is {:.3g} codes",
                             grouped(found.off), grouped(found.compared), found.tolerance, found.residual));
    } else if (found.verdict == verify::verdict_kind::mistake) {
        const verify::suspect& best = found.mistakes.front();
        text = fmt::format("{}: {}\n", what, best.id());
        for (const verify::mistake which : best.which) {
            const verify::mistake_entry& entry = verify::entry_of(which);
            text += "\n" + (best.which.size() > 1 ? line("mistake", entry.id) : std::string());
            text += line("what it is", entry.what) + line("cause", entry.cause) + line("fix", entry.fix);
        }
        text += "\n" +
                line("evidence",
                     fmt::format(
                         "{} of {} compared pixels are off against the right picture, {} against this one; "
                         "the residual falls from {:.3g} to {:.3g} codes",
                         grouped(found.off), grouped(found.compared), grouped(found.off_with), found.residual,
                         best.residual));
        if (found.x >= 0) {
            text +=
                line("look at", fmt::format("pixel ({}, {}), where the two differ most; `yurvo explain {} "
                                            "--pixel {},{}` works it by hand",
                                            found.x, found.y, scene, found.x, found.y));
        }
        if (!found.ties.empty()) {
            std::string ids;
            for (const verify::mistake each : found.ties) {
                ids += (ids.empty() ? "" : ", ") + std::string(verify::entry_of(each).id);
            }
            text += line("the same here", ids);
            text += line("told apart by",
                         found.separated_by.empty() ? "no single reference scene" : found.separated_by);
        }
    } else {
        text = fmt::format("{} is wrong, and no known mistake explains it: {}\n", what, scene);
        text +=
            line("evidence",
                 fmt::format("{} of {} compared pixels are off by more than {:.3g} codes; the "
                             "residual is {:.3g} codes",
                             grouped(found.off), grouped(found.compared), found.tolerance, found.residual));
        for (const verify::suspect& candidate : found.mistakes) {
            text += line("nearest",
                         fmt::format("{}, which leaves {:.3g} codes", candidate.id(), candidate.residual));
        }
    }
    for (const std::string& remark : found.remarks) {
        text += line("remark", remark);
    }
    return text + makeup_text(found.makeup);
}

} // namespace yurvo::inline v0_1::report
