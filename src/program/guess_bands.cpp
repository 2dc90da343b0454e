// Bands of light that are written into a shader: a ladder of comparisons with numbers, or a cosine cut into
// levels.
#include <algorithm>
#include <cstdlib>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

struct written_bands {
    std::vector<double> thresholds; // rising
    std::vector<double> bands;      // one more; a number each, or three
};

double number_of(const std::string& text) { return std::atof(text.c_str()); }

// What a band is: `0.6`, `vec3(0.6)`, `vec4(0.6, 0.3, 0.2, 1.0)`, `paint * 0.6`; empty where it is none of
// these.
std::vector<double> band_in(const std::string& text) {
    static const text_pattern grey(R"(^\s*(?:[\w.]+\s*\*\s*)?([0-9]*\.?[0-9]+)f?(?:\s*\*\s*[\w.]+)?\s*$)");
    static const text_pattern one(R"(^\s*(?:vec|float)[34]\s*\(\s*([0-9]*\.?[0-9]+)f?\s*\)\s*$)");
    static const text_pattern three(
        R"(^\s*(?:vec|float)[34]\s*\(\s*([0-9]*\.?[0-9]+)f?\s*,\s*([0-9]*\.?[0-9]+)f?\s*,\s*([0-9]*\.?[0-9]+)f?)");
    for (const text_pattern* const each : {&grey, &one}) {
        if (const auto found = each->find(text)) {
            return {number_of(found->text(1))};
        }
    }
    if (const auto found = three.find(text)) {
        return {number_of(found->text(1)), number_of(found->text(2)), number_of(found->text(3))};
    }
    return {};
}

// `if (x > 0.9) f = 1.0; else if (x > 0.5) f = 0.6; else f = 0.2;`, from above or from below, with or without
// `else`.
std::optional<written_bands> ladder_in(const std::string& text) {
    static const text_pattern rung(
        R"(\bif\s*\(\s*(\w+)\s*([<>])=?\s*([0-9]*\.?[0-9]+)f?\s*\)\s*\{?\s*(?:return\b|([\w.]+)\s*\*?=)\s*([^;]+);)");
    static const text_pattern last(R"(\belse\s*\{?\s*(?:return\b|[\w.]+\s*\*?=)\s*([^;]+);)");
    struct step {
        double threshold;
        std::vector<double> band;
    };
    std::vector<step> steps;
    std::string compared;
    std::string sign;
    std::string written;
    std::size_t begin = 0;
    std::size_t end = 0;
    for (const text_pattern::match& each : rung.all(text)) {
        if (!steps.empty() && (each.text(1) != compared || each.text(2) != sign)) {
            continue;
        }
        begin = steps.empty() ? each.at : begin;
        compared = each.text(1);
        sign = each.text(2);
        written = each.text(4);
        end = each.at + each.parts[0].size();
        steps.push_back({number_of(each.text(3)), band_in(each.text(5))});
    }
    if (steps.size() < 2) {
        return std::nullopt;
    }
    std::optional<text_pattern::match> rest = last.find(text, end);
    if (!rest && !written.empty()) { // what it is before any comparison
        rest = text_pattern(R"(\b)" + written + R"(\s*=\s*([^;]+);)")
                   .find(std::string_view(text).substr(0, begin));
    }
    if (!rest) {
        return std::nullopt;
    }
    const bool from_above = sign == ">";
    steps.push_back({0, band_in(rest->text(1))});
    std::stable_sort(steps.begin(), steps.end() - 1,
                     [](const step& a, const step& b) { return a.threshold < b.threshold; });
    if (from_above) { // the rest is the darkest
        std::rotate(steps.begin(), steps.end() - 1, steps.end());
    }
    written_bands made;
    const std::size_t size = steps.front().band.size();
    for (std::size_t i = 0; i < steps.size(); ++i) {
        if (steps[i].band.empty() || steps[i].band.size() != size) {
            return std::nullopt;
        }
        made.bands.insert(made.bands.end(), steps[i].band.begin(), steps[i].band.end());
        if (from_above ? i > 0 : i + 1 < steps.size()) {
            made.thresholds.push_back(steps[i].threshold);
        }
    }
    return made;
}

// `floor(cosine * 4.0) / 4.0`; the number may have a name.
std::optional<written_bands> levels_in(const std::string& text) {
    static const text_pattern cut(
        R"(\bfloor\s*\(\s*\w+\s*\*\s*(?:float\s*\(\s*)?(\w+(?:\.\d*)?)\s*\)?\s*\))");
    const auto found = cut.find(text);
    if (!found) {
        return std::nullopt;
    }
    std::string number = found->text(1);
    if (const auto named =
            text_pattern(R"((?:#define\s+|const\s+(?:int|float)\s+))" + number + R"(\s*=?\s*(\d+))")
                .find(text)) {
        number = named->text(1);
    }
    const double levels = number_of(number);
    if (!(levels >= 2 && levels <= 16)) {
        return std::nullopt;
    }
    written_bands made{{}, {0}};
    for (int i = 1; i <= static_cast<int>(levels); ++i) {
        made.thresholds.push_back(i / levels);
        made.bands.push_back(i / levels);
    }
    return made;
}

} // namespace

void take_bands(shader_program& of, const std::string& text) {
    std::optional<written_bands> found = ladder_in(text);
    found = found ? found : levels_in(text);
    if (!found) {
        return;
    }
    of.model = model_kind::cel;
    const auto constant = [&](const char* quantity, std::vector<double> numbers) {
        of.constants.push_back({quantity, std::move(numbers), {of.file, 0, 0}});
    };
    constant("shading.thresholds", std::move(found->thresholds));
    constant("shading.bands", std::move(found->bands));
    const bool outlined = std::any_of(of.uniforms.begin(), of.uniforms.end(), [](const shader_binding& each) {
        return text_of(each) == "shading.outline";
    });
    if (!outlined) {
        constant("shading.outline", {-1}); // nowhere
    }
}

} // namespace yurvo::inline v0_1::program
