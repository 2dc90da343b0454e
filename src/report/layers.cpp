#include "yurvo/report/layers.hpp"

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

std::string place(const difference& off) { return fmt::format("{}, {}", off.largest_x, off.largest_y); }

std::string note_of(const study::layers& found, std::size_t i) {
    const study::layer& each_layer = found.list[i];
    if (each_layer.adds) {
        return fmt::format("adds {} on average, {} at most, at {}", digits(each_layer.adds->mean_signed),
                           digits(each_layer.adds->largest), place(*each_layer.adds));
    }
    return i == 0 ? "the base colours, without light"
                  : fmt::format("{} on average, linear", digits(each_layer.mean));
}

} // namespace

std::string layers_text(const study::layers& found) {
    std::string text = fmt::format("{:<18}{:>12}{:>16}   {}\n", "layer", "mean", "adds at most", "at");
    for (const study::layer& each_layer : found.list) {
        text += fmt::format("{:<18}{:>12}{:>16}   {}\n", each_layer.name, digits(each_layer.mean),
                            each_layer.adds ? digits(each_layer.adds->largest) : "-",
                            each_layer.adds ? place(*each_layer.adds) : "");
    }
    return text + "\n";
}

picture layers_sheet(const study::named_scene& named, const study::layers& found) {
    sheet result;
    result.title = named.title();
    result.subtitle = fmt::format("{}: {} per {}, built up term by term; the last panel is the whole picture",
                                  named.name, found.model, name_of(named.scene.shading.rate));
    const std::size_t count = found.list.size();
    result.columns = count <= 2 || count == 4 ? 2 : 3;
    for (std::size_t i = 0; i < count; ++i) {
        result.panels.push_back(picture_panel(found.list[i].name, note_of(found, i), found.list[i].drawn));
    }
    return render(result);
}

} // namespace yurvo::inline v0_1::report
