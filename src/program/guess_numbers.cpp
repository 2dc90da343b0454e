#include "program/guess_numbers.hpp"

#include <algorithm>
#include <cmath>
#include <iterator>

namespace yurvo::inline v0_1::program {

namespace {

// Whether the text names that property of a light, a cone's angle by its cosine perhaps.
bool of_same_property(const std::string& text, const std::string& property) {
    const std::string angle = property.substr(0, property.find("_degrees"));
    return text.find("." + angle) != std::string::npos ||
           (angle != property && text.find(".cos_" + angle) != std::string::npos);
}

// Whether some name brings the quantity, or what it is a factor of.
bool is_bound(const shader_program& in, const std::string& quantity) {
    const std::string property = quantity.substr(quantity.find_last_of('.') + 1);
    const bool of_light = quantity.starts_with("lights");
    for (const shader_binding& each : in.uniforms) {
        for (const auto& means : each.means) {
            const std::string* text = std::get_if<std::string>(&means);
            if (text == nullptr) {
                continue;
            }
            const bool same =
                of_light ? of_same_property(*text, property) : text->find(quantity) != std::string::npos;
            const bool product =
                (quantity == "lights[*].intensity" && text->find("lights") != std::string::npos &&
                 text->ends_with("light") && !text->ends_with("to_light")) ||
                (quantity.starts_with("ambient") && text->find("ambient.") == 0);
            if (same || product) {
                return true;
            }
        }
    }
    return false;
}

} // namespace

std::string about_constant(const std::string& quantity) { return "[constants] " + quantity; }

std::set<double> written_near(double value, const std::vector<double>& literals) {
    std::set<double> near;
    std::copy_if(literals.begin(), literals.end(), std::inserter(near, near.end()),
                 [&](double written) { return std::abs(written - value) <= 0.1 * std::abs(value); });
    return near;
}

std::vector<move> moves_of_numbers(const std::vector<verify::needed_number>& found, const shader_program& in,
                                   const std::vector<std::string>& said,
                                   const std::vector<double>& literals) {
    std::vector<move> moves;
    for (const verify::needed_number& each : found) {
        // Nobody writes a factor of a term, or a light's part, as a number among the others.
        const bool factor = each.quantity == "material.ambient" || each.quantity == "material.diffuse" ||
                            each.quantity == "lights[*].ambient" || each.quantity == "lights[*].diffuse" ||
                            each.quantity == "lights[*].specular";
        // What a name says is no number in the source, whatever the name is taken for at the moment.
        const std::string property = each.quantity.substr(each.quantity.find_last_of('.') + 1);
        const bool named = std::any_of(said.begin(), said.end(), [&](const std::string& means) {
            return each.quantity.starts_with("lights")
                       ? means.starts_with("lights") && of_same_property(means, property)
                       : means.find(each.quantity) != std::string::npos;
        });
        if (factor || named || is_bound(in, each.quantity)) {
            continue;
        }
        const auto try_number = [&](double value) {
            moves.push_back({about_constant(each.quantity), "tried: the number that fits best",
                             [quantity = each.quantity, value](shader_program& of) {
                                 std::erase_if(of.constants, [&](const shader_constant& other) {
                                     return other.quantity == quantity;
                                 });
                                 of.constants.push_back({quantity, {value}, {of.file, 0, 0}});
                             },
                             ""});
        };
        // What is found where something else is off still is only near: the text may have it.
        const std::set<double> near = written_near(each.value, literals);
        std::for_each(near.begin(), near.end(), try_number);
        try_number(each.value);
    }
    return moves;
}

} // namespace yurvo::inline v0_1::program
