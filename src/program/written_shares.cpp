// What a statement adds to a sum, and what one light is multiplied by in it.
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
std::optional<std::vector<factor>> factors_in(const std::string& text) {
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
    const auto parts = factors_in(inner);
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

struct quotient {
    std::string above, below;
    [[nodiscard]] std::string text() const {
        return below.empty() ? above : (above.empty() ? "1.0" : above) + " / " + in_brackets(below);
    }
    void take(const factor& each) {
        std::string& to = each.below ? below : above;
        to += (to.empty() ? "" : " * ") + in_brackets(each.text);
    }
};

} // namespace

std::vector<std::string> summands_of(const std::string& text) {
    if (is_in_brackets(text)) {
        return summands_of(text.substr(1, text.size() - 2));
    }
    std::vector<std::string> all{""};
    int depth = 0;
    for (std::size_t i = 0; i < text.size(); ++i) {
        depth += text[i] == '(' ? 1 : text[i] == ')' ? -1 : 0;
        if (depth == 0 && text.compare(i, 3, " ? ") == 0) {
            return {text}; // a choice of sums
        }
        if (depth == 0 && text.compare(i, 3, " + ") == 0) {
            all.emplace_back();
            i += 2;
        } else {
            all.back() += text[i];
        }
    }
    if (all.size() == 1) {
        return all;
    }
    std::vector<std::string> within;
    for (const std::string& each : all) {
        const std::vector<std::string> parts = summands_of(each);
        within.insert(within.end(), parts.begin(), parts.end());
    }
    return within;
}

std::optional<std::pair<std::string, std::string>> distance_and_angle(const std::string& text) {
    if (!has_word(text, "d") || !has_word(text, "cos_theta")) {
        return std::nullopt;
    }
    quotient distance;
    quotient angle;
    for (const factor& each : all_factors(text, false)) {
        const bool of_distance = has_word(each.text, "d");
        const bool of_angle = has_word(each.text, "cos_theta");
        if (of_distance && of_angle) {
            return std::nullopt;
        }
        (of_angle ? angle : distance).take(each); // a plain number is the falloff's
    }
    return std::pair(distance.text(), angle.text());
}

std::optional<std::string> distances_in(const std::string& product) {
    static const text_pattern unknown(R"(\?\w)");
    quotient found;
    std::size_t factors = 0;
    for (const factor& each : all_factors(product, false)) {
        if (has_word(each.text, "d") && !unknown.is_in(each.text) &&
            !has_word(each.text, "cos_theta|n|l|v|h|r|base") &&
            each.text.find(lamp_place) == std::string::npos) {
            found.take(each);
            ++factors;
        }
    }
    return factors < 2 ? std::nullopt : std::optional(found.text());
}

bool is_of_the_eye_alone(const std::string& text) {
    static const text_pattern unknown(R"(\?\w)");
    return text.find("dot(n, v)") != std::string::npos && !unknown.is_in(text) &&
           text.find(lamp_place) == std::string::npos && !has_word(text, "d") && !holds_other_vectors(text) &&
           text.find("dot(n, l)") == std::string::npos && text.find("dot(n, h)") == std::string::npos &&
           text.find("dot(r, v)") == std::string::npos;
}

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
        if (!has_word(each.text, "n|v|h|r|base|position|eye") && has_word(each.text, "d|cos_theta")) {
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
