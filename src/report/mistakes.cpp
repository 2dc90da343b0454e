#include "yurvo/report/mistakes.hpp"

#include <fmt/format.h>

#include "report/text.hpp"

namespace yurvo::inline v0_1::report {

std::string mistake_text(const verify::mistake_entry& entry) {
    const auto line = [](const char* name, std::string_view text) {
        return fmt::format("{:<13}{}\n", name, wrapped(text, 13));
    };
    std::string scenes;
    for (const std::string_view scene : entry.scenes) {
        scenes += (scenes.empty() ? "" : ", ") + std::string(scene);
    }
    return fmt::format("{}\n\n", entry.id) + line("what it is", entry.what) + line("symptom", entry.symptom) +
           line("cause", entry.cause) + line("fix", entry.fix) + line("applies to", entry.applies_to) +
           line("revealed by", scenes);
}

std::string explanation_text(const std::string& id) {
    const verify::mistake_entry* entry = verify::find_mistake(id);
    if (entry == nullptr) { // a pair
        return id + "\n";
    }
    return id + "\n" + labelled("what it is", entry->what) + labelled("cause", entry->cause) +
           labelled("fix", entry->fix);
}

std::string catalogue_text() {
    std::string text;
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        text += fmt::format("{:<34}{}\n", entry.id, wrapped(entry.what, 34));
    }
    return text +
           fmt::format(
               "\n{} mistakes; `yurvo mistakes ID` says more of one: its symptom, its cause, its fix.\n",
               verify::all_mistakes().size());
}

} // namespace yurvo::inline v0_1::report
