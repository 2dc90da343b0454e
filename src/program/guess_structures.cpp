#include "program/guess_structures.hpp"

#include <algorithm>
#include <cstddef>

#include "program/guess_names.hpp"
#include "program/guess_words.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr std::size_t most_structures = 200; // each is looked for in the whole text

}

std::map<std::string, std::string> structures_in(const std::string& text) {
    static const text_pattern structure(R"(\bstruct\s+([A-Za-z_]\w*))");
    static const text_pattern instance(R"([A-Za-z_]\w*)");
    constexpr const char* names = R"(([A-Za-z_][\w\s,]*(?:\[[^\]]*\][\w\s,]*)*);)";
    std::map<std::string, std::string> found;
    std::size_t looked_for = 0;
    for (const text_pattern::match& each : structure.all(text)) {
        if (++looked_for > most_structures) {
            break;
        }
        const std::string name = each.text(1);
        // Where it is used, or where it is written down. A parameter is none: what it is called is no
        // uniform's name.
        for (const std::string& before : {name + R"(\s+)", name + R"(\s*\{[^{}]*\}\s*)"}) {
            for (const text_pattern::match& list : text_pattern("\\b" + before + names).all(text)) {
                for (const text_pattern::match& one : instance.all(list.parts[1])) {
                    found.emplace(one.text(0), name);
                }
            }
        }
    }
    return found;
}

void find_structure(guessed_name& of, const std::map<std::string, std::string>& structures) {
    for (std::size_t from = 0, dot = of.name.find('.'); dot != std::string::npos;
         from = dot + 1, dot = of.name.find('.', from)) {
        std::string part = of.name.substr(from, dot - from);
        part.resize(std::min(part.find('['), part.size()));
        const auto found = structures.find(part);
        if (found != structures.end()) {
            of.structure = found->second;
            of.instance = of.name.substr(0, dot);
            return;
        }
    }
}

std::string telling_name(const guessed_name& of) {
    if (of.structure.empty() || names_a_light(lowered(of.instance)) ||
        !names_a_light(lowered(of.structure)) || of.instance.find('[') != std::string::npos) {
        return of.name;
    }
    return "lamp" + of.name.substr(of.instance.size());
}

} // namespace yurvo::inline v0_1::program
