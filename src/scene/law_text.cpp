#include "yurvo/scene/law_text.hpp"

#include <array>
#include <cmath>
#include <string_view>
#include <utility>

#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1 {

namespace {

using words = std::pair<std::string_view, std::string>; // `{d}`, and what stands there

template <std::size_t Count> std::string filled(std::string_view text, const std::array<words, Count>& with) {
    std::string result(text);
    for (const auto& [mark, word] : with) {
        for (std::size_t at = result.find(mark); at != std::string::npos;
             at = result.find(mark, at + word.size())) {
            result.replace(at, mark.size(), word);
        }
    }
    return result;
}

} // namespace

std::string falloff_law_text(const light& lamp, const std::string& distance, int digits) {
    const auto number = [&](double value) { return short_number(value, digits); };
    return filled(descriptor_of(lamp.falloff).law,
                  std::array{words{"{d}", distance}, words{"{k0}", number(lamp.coefficients[0])},
                             words{"{k1}", number(lamp.coefficients[1])},
                             words{"{k2}", number(lamp.coefficients[2])},
                             words{"{range}", number(lamp.range)}});
}

std::string penumbra_law_text(const light& lamp, penumbra_kind law, const std::string& cosine, int digits) {
    const penumbra_descriptor& penumbra = descriptor_of(law);
    const std::string inner = short_number(std::cos(lamp.inner), digits);
    const std::string outer = short_number(std::cos(lamp.outer), digits);
    std::string text = filled(
        penumbra.law, std::array{words{"{cosine}", cosine}, words{"{inner}", inner}, words{"{outer}", outer},
                                 words{"{exponent}", short_number(lamp.exponent, digits)}});
    if (!penumbra.ramped) {
        return text;
    }
    const std::string t =
        "t = clamp((" + cosine + " − " + outer + ") / (" + inner + " − " + outer + "), 0, 1)";
    return text == "t" ? t : t + ", " + text;
}

} // namespace yurvo::inline v0_1
