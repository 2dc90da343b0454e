#include "yurvo/report/quiz.hpp"

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::report {

namespace {

std::string what_gave_it_away(const study::question& asked) {
    const auto [x, y] = asked.farthest();
    const std::size_t at =
        4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(asked.of.scene.view.width) +
             static_cast<std::size_t>(x));
    const auto codes = [&](const std::vector<std::uint8_t>& of) {
        return fmt::format("({}, {}, {})", of[at], of[at + 1], of[at + 2]);
    };
    return fmt::format(
        "Look at pixel ({}, {}): it should be {} and is {}. `yurvo explain {} --pixel {},{}` works it "
        "by hand.",
        x, y, codes(asked.right_codes), codes(asked.mistaken_codes), asked.of.name, x, y);
}

} // namespace

picture quiz_sheet(const study::question& asked) {
    sheet made;
    made.title = "What went wrong?";
    made.subtitle =
        fmt::format("{}, {} per {}; question {}", asked.of.name, name_of(asked.of.scene.shading.model),
                    name_of(asked.of.scene.shading.rate), asked.seed);
    made.columns = 2;
    made.panels.push_back(picture_panel("right", "", asked.right_picture));
    made.panels.push_back(picture_panel("with a mistake", "", asked.mistaken_picture));
    return render(made);
}

std::string choices_text(const study::question& asked) {
    std::string text;
    for (std::size_t i = 0; i < asked.offered.size(); ++i) {
        const verify::mistake_entry& one = verify::entry_of(asked.offered[i]);
        text += fmt::format("  {}  {:<34}{}\n", static_cast<char>('a' + i), one.id, wrapped(one.what, 39));
    }
    return text;
}

std::string answer_text(const study::question& asked, std::size_t chosen) {
    const verify::mistake_entry& entry = verify::entry_of(asked.mistake());
    const auto line = [](std::string_view name, std::string_view text) { return labelled(name, text, 14); };
    std::string text = fmt::format("\n{} {}.\n", chosen == asked.right ? "Yes:" : "No: it is", entry.id);
    text += line("what it is", entry.what) + line("symptom", entry.symptom) + line("cause", entry.cause) +
            line("fix", entry.fix) + line("gave it away", what_gave_it_away(asked));
    if (chosen != asked.right) {
        const verify::mistake_entry& yours = verify::entry_of(asked.offered[chosen]);
        text += line("yours", std::string(yours.id) + " looks so: " + std::string(yours.symptom));
    }
    return text;
}

} // namespace yurvo::report
