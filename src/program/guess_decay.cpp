// A falloff whose exponent is a name of its own: `pow(1.0 - d / range, decay)`, `1.0 / pow(d, decay)`.
#include <algorithm>
#include <string>
#include <vector>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_words.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

namespace {

bool names_a_decay(const std::string& name) {
    static const text_pattern words("decay|fade|falloff|atten");
    static const text_pattern others("^(.*(start|begin|end|near|far|dist|range|radius).*)$");
    const std::string last = lowered(name.substr(name.find_last_of('.') + 1));
    return words.is_in(last) && !others.is_in(last);
}

// What has that exponent there; empty where no power has.
std::string base_of_decay(const std::string& text) {
    static const text_pattern power(
        R"(\bpow\s*\(((?:[^();,]|\((?:[^()]|\((?:[^()]|\([^()]*\))*\))*\))+),\s*([\w.\[\]]+)\s*\))");
    for (const text_pattern::match& found : power.all(text)) {
        if (names_a_decay(found.text(2))) {
            return found.text(1);
        }
    }
    return "";
}

} // namespace

void take_decay(shader_program& of, const std::string& text) {
    const std::string base = base_of_decay(text);
    const auto exponent = std::find_if(of.uniforms.begin(), of.uniforms.end(),
                                       [](const shader_binding& each) { return names_a_decay(each.name); });
    if (base.empty() || exponent == of.uniforms.end()) {
        return;
    }
    static const text_pattern product(R"(\b(\w+)\s*\*\s*(\w+)\b)");
    const auto squared = product.find(base);
    const bool by_range = base.find('/') != std::string::npos;
    of.formulas[slot::falloff] = !by_range ? "1.0 / pow(d, decay)"
                                 : squared && squared->text(1) == squared->text(2)
                                     ? "pow(max(1.0 - d * d / (range * range), 0.0), decay)"
                                     : "pow(max(1.0 - d / range, 0.0), decay)";
    of.falloffs = std::vector{by_range ? falloff_kind::linear : falloff_kind::inverse_square};
    exponent->means = {"numbers.decay"};
    of.numbers.push_back({"decay", {1.5}}); // no law's own
}

} // namespace yurvo::inline v0_1::program
