#include "yurvo/report/layers.hpp"

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::report {

namespace {

std::string place(const difference& off) { return fmt::format("{}, {}", off.largest_x, off.largest_y); }

std::string note_of(const study::layers& found, std::size_t i) {
    const study::layer& one = found.list[i];
    if (one.adds) {
        return fmt::format("adds {} on average, {} at most, at {}", digits(one.adds->mean_signed),
                           digits(one.adds->largest), place(*one.adds));
    }
    return i == 0 ? "the base colours, without light"
                  : fmt::format("{} on average, linear", digits(one.mean));
}

} // namespace

std::string layers_text(const study::layers& found) {
    std::string text = fmt::format("{:<18}{:>12}{:>16}   {}\n", "layer", "mean", "adds at most", "at");
    for (const study::layer& one : found.list) {
        text += fmt::format("{:<18}{:>12}{:>16}   {}\n", one.name, digits(one.mean),
                            one.adds ? digits(one.adds->largest) : "-", one.adds ? place(*one.adds) : "");
    }
    return text + "\n";
}

picture layers_sheet(const study::named_scene& of, const study::layers& found) {
    sheet made;
    made.title = of.title();
    made.subtitle = fmt::format("{}: {} per {}, built up term by term; the last panel is the whole picture",
                                of.name, found.model, name_of(of.scene.shading.rate));
    const std::size_t count = found.list.size();
    made.columns = count <= 2 || count == 4 ? 2 : 3;
    for (std::size_t i = 0; i < count; ++i) {
        made.panels.push_back(picture_panel(found.list[i].name, note_of(found, i), found.list[i].drawn));
    }
    return render(made);
}

} // namespace yurvo::report
