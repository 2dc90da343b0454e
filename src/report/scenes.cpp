#include "yurvo/report/scenes.hpp"

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::inline v0_1::report {

namespace {

panel known_panel(const std::string& name, const verify::reference_scene& reference) {
    panel known;
    known.title = "known in closed form";
    constexpr std::size_t most = 11;
    for (const verify::expectation& expected : reference.expectations) {
        if (known.table.size() < most) {
            known.table.emplace_back(std::string(name_of(expected.rate)) + ", " + expected.name,
                                     triple(expected.color, 4));
        }
    }
    const std::size_t all = reference.expectations.size();
    known.note = all > most ? fmt::format("and {} more: yurvo scenes {}", all - most, name) : "";
    return known;
}

} // namespace

std::string reference_text(const verify::reference_scene& reference, bool whole) {
    std::string text = fmt::format("{}\n    {}\n", reference.name, wrapped(reference.shows, 4));
    for (const std::string& line : reference.known) {
        text += fmt::format("    · {}\n", wrapped(line, 6));
    }
    const std::vector<std::string_view> ids = verify::mistakes_revealed_in(reference.name);
    if (!whole) {
        return text + fmt::format("    Reveals {} mistakes.\n\n", ids.size());
    }
    std::string listed_ids;
    for (const std::string_view id : ids) {
        listed_ids += (listed_ids.empty() ? "" : ", ") + std::string(id);
    }
    text +=
        fmt::format("    {}\n\n", wrapped(fmt::format("Reveals {} mistakes: {}", ids.size(), listed_ids), 4));
    for (const verify::expectation& expected : reference.expectations) {
        text += fmt::format("    per {}, {}: pixel ({}, {}) is {}\n        {}\n", name_of(expected.rate),
                            expected.name, expected.x, expected.y, triple(expected.color, 6), expected.says);
    }
    return text;
}

picture scene_sheet(const study::named_scene& named, const verify::reference_scene* reference) {
    sheet result;
    result.title = named.title();
    result.subtitle = named.name + (reference != nullptr ? ": " + reference->shows : "");
    result.columns = 2;
    for (const rate at : reference != nullptr ? reference->rates : std::vector{named.scene.shading.rate}) {
        scene drawn = named.scene;
        drawn.shading.rate = at;
        result.panels.push_back(picture_panel("per " + std::string(name_of(at)), "", draw(drawn)));
    }
    if (reference != nullptr) {
        result.panels.push_back(known_panel(named.name, *reference));
    }
    return render(result);
}

} // namespace yurvo::inline v0_1::report
