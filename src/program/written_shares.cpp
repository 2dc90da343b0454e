// What one light is multiplied by, of a statement that adds its share to a sum.
#include <utility>
#include <vector>

#include "program/written_vectors.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

struct factor {
    std::string text;
    bool below = false; // what is divided by
};

// Where a product's next factor begins: behind ` * ` or ` / ` outside of brackets. Nothing of a sum or a
// choice.
std::optional<std::vector<factor>> factors_of(const std::string& text) {
    static const std::string operators = "+-*/?:<>=&|";
    std::vector<factor> all{{}};
    int depth = 0;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const bool between = depth == 0 && text[i] == ' ' && i + 2 < text.size() &&
                             operators.find(text[i + 1]) != std::string::npos;
        if (!between) {
            depth += text[i] == '(' ? 1 : text[i] == ')' ? -1 : 0;
            all.back().text += text[i];
            continue;
        }
        if (text[i + 2] != ' ' || (text[i + 1] != '*' && text[i + 1] != '/')) {
            return std::nullopt;
        }
        all.push_back({"", text[i + 1] == '/'});
        i += 2;
    }
    return all;
}

bool is_in_brackets(const std::string& text) { return text.starts_with('(') && is_one(text); }

// Products within a product too.
std::vector<factor> all_factors(const std::string& text, bool below) {
    const std::string inner = is_in_brackets(text) ? text.substr(1, text.size() - 2) : text;
    const auto parts = factors_of(inner);
    if (!parts || (parts->size() == 1 && !is_in_brackets(inner))) {
        return {{parts ? inner : text, below}};
    }
    std::vector<factor> all;
    for (const factor& each : *parts) {
        for (factor& part : all_factors(each.text, below != each.below)) {
            all.push_back(std::move(part));
        }
    }
    return all;
}

} // namespace

std::optional<std::string> share_of_light(const std::string& added) {
    static const text_pattern light(R"(^\?\w+(?:\.(?:rgb|xyz))?$)");
    static const text_pattern unknown(R"(\?\w)");
    static const text_pattern one(R"(^1\.?0*$)");
    std::string above;
    std::string below;
    bool lit = false;
    for (const factor& each : all_factors(added, false)) {
        if (!each.below && light.is_in(each.text)) {
            lit = true;
            continue;
        }
        if (!has_word(each.text, "n|v|h|r|base|position|eye") && has_word(each.text, "d")) {
            continue; // what arrives
        }
        if (one.is_in(each.text)) {
            continue;
        }
        if (unknown.is_in(each.text) || each.text.find(lamp_place) != std::string::npos) {
            return std::nullopt;
        }
        std::string& to = each.below ? below : above;
        to += (to.empty() ? "" : " * ") + in_brackets(each.text);
    }
    if (!lit || above.empty()) {
        return std::nullopt;
    }
    return below.empty() ? above : above + " / (" + below + ")";
}

} // namespace yurvo::inline v0_1::program
