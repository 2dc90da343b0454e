#include "yurvo/report/quiz.hpp"

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

std::string what_gave_it_away(const study::question& the_question) {
    const auto [x, y] = the_question.farthest();
    const std::size_t at =
        4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(the_question.of.scene.view.width) +
             static_cast<std::size_t>(x));
    const auto codes = [&](const std::vector<std::uint8_t>& bytes) {
        return fmt::format("({}, {}, {})", bytes[at], bytes[at + 1], bytes[at + 2]);
    };
    return fmt::format(
        "Look at pixel ({}, {}): it should be {} and is {}. `yurvo explain {} --pixel {},{}` works it "
        "by hand.",
        x, y, codes(the_question.right_codes), codes(the_question.mistaken_codes), the_question.of.name, x,
        y);
}

} // namespace

picture quiz_sheet(const study::question& the_question) {
    sheet result;
    result.title = "What went wrong?";
    result.subtitle = fmt::format("{}, {} per {}; question {}", the_question.of.name,
                                  name_of(the_question.of.scene.shading.model),
                                  name_of(the_question.of.scene.shading.rate), the_question.seed);
    result.columns = 2;
    result.panels.push_back(picture_panel("right", "", the_question.right_picture));
    result.panels.push_back(picture_panel("with a mistake", "", the_question.mistaken_picture));
    return render(result);
}

std::string choices_text(const study::question& the_question) {
    std::string text;
    for (std::size_t i = 0; i < the_question.offered.size(); ++i) {
        const verify::mistake_entry& entry = verify::entry_of(the_question.offered[i]);
        text +=
            fmt::format("  {}  {:<34}{}\n", static_cast<char>('a' + i), entry.id, wrapped(entry.what, 39));
    }
    return text;
}

std::string answer_text(const study::question& the_question, std::size_t chosen) {
    const verify::mistake_entry& entry = verify::entry_of(the_question.mistake());
    const auto line = [](std::string_view name, std::string_view text) { return labelled(name, text, 14); };
    std::string text =
        fmt::format("\n{} {}.\n", chosen == the_question.right ? "Yes:" : "No: it is", entry.id);
    text += line("what it is", entry.what) + line("symptom", entry.symptom) + line("cause", entry.cause) +
            line("fix", entry.fix) + line("gave it away", what_gave_it_away(the_question));
    if (chosen != the_question.right) {
        const verify::mistake_entry& yours = verify::entry_of(the_question.offered[chosen]);
        text += line("yours", std::string(yours.id) + " looks so: " + std::string(yours.symptom));
    }
    return text;
}

} // namespace yurvo::inline v0_1::report
