// Shaders that keep energy: a highlight with a factor of its exponent, a base colour over pi.
#include <cstdint>
#include <string>
#include <vector>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

namespace {

const char* const pi = R"((?:(?:k|k_|M_)?(?:PI|Pi|pi)\b|3\.14[0-9]*f?))";

enum class lobe : std::uint8_t { half_vector, reflected };
enum class gate : std::uint8_t { times_cosine, closed, none };

std::string highlight(const std::string& factor, lobe of, gate how) {
    std::string power =
        factor + " * pow(max(" + (of == lobe::reflected ? "dot(r, v)" : "dot(n, h)") + ", 0.0), shininess)";
    switch (how) {
    case gate::times_cosine:
        return power + " * max(dot(n, l), 0.0)";
    case gate::closed:
        return "dot(n, l) > 0.0 ? " + power + " : 0.0";
    default:
        return power;
    }
}

// The factor of what highlight() has written; empty for another formula.
std::string factor_of(const std::string& formula) {
    const std::size_t begin = formula.find("(shininess + ");
    const std::size_t end = formula.find(" * pow(");
    return begin == std::string::npos || end == std::string::npos || end < begin
               ? ""
               : formula.substr(begin, end - begin);
}

// `(s + 8.0) / (8.0 * PI)`, whatever the exponent is called there; empty where the text has none.
std::string factor_in(const std::string& text) {
    const std::string number = R"(([0-9]+(?:\.[0-9]*)?)f?)";
    const std::string sum = R"(\(\s*[\w.\[\]]+\s*\+\s*)" + number + R"(\s*\)\s*/\s*\(\s*)";
    const std::string times = R"(\s*\*\s*)";
    for (const std::string& product : {number + times + pi, pi + times + number}) {
        if (const auto found = text_pattern(sum + product).find(text)) {
            return "(shininess + " + found->text(1) + ") / (" + found->text(2) + " * pi)";
        }
    }
    return "";
}

} // namespace

void take_normalised(shader_program& of, const std::string& text) {
    const std::string factor = factor_in(text);
    const auto is_free = [&](slot where) { return of.formulas[where].empty(); };
    if (!factor.empty() && of.model != model_kind::lambert && is_free(slot::specular)) {
        static const text_pattern mirrored(R"(\breflect\s*\()");
        static const text_pattern gated(R"(\bif\s*\(\s*\w+\s*(?:>|<=)\s*0|\w\s*>\s*0(?:\.0?)?f?\s*\?)");
        of.formulas[slot::specular] =
            highlight(factor, mirrored.is_in(text) ? lobe::reflected : lobe::half_vector,
                      gated.is_in(text) ? gate::closed : gate::times_cosine);
    }
    static const text_pattern over_pi("/\\s*" + std::string(pi) +
                                      R"(|\*\s*(?i:inv_?pi|one_over_pi|pi_inv|inverse_?pi)\b|\*\s*0?\.318)");
    if (over_pi.is_in(text) && is_free(slot::diffuse)) {
        of.formulas[slot::diffuse] = "max(dot(n, l), 0.0) / pi";
    }
}

std::vector<move> moves_of_normalised() {
    std::vector<move> moves;
    // The two that are written most, for a text whose own is not seen.
    for (const char* const usual : {"(shininess + 8.0) / (8.0 * pi)", "(shininess + 2.0) / (2.0 * pi)"}) {
        for (const lobe of_light : {lobe::half_vector, lobe::reflected}) {
            for (const gate how : {gate::times_cosine, gate::closed, gate::none}) {
                moves.push_back({"specular", "",
                                 [=](shader_program& of) {
                                     std::string& formula = of.formulas[slot::specular];
                                     const std::string own = factor_of(formula);
                                     formula = highlight(own.empty() ? usual : own, of_light, how);
                                 },
                                 how == gate::none ? "specular-on-unlit-side" : ""});
            }
        }
    }
    return moves;
}

} // namespace yurvo::inline v0_1::program
