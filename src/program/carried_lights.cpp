#include "program/carried_lights.hpp"

#include <algorithm>
#include <initializer_list>
#include <utility>

namespace yurvo::inline v0_1::program {

std::string number_of_law(const std::string& property) {
    std::string name = property.starts_with("cos_") ? property.substr(4) : property;
    constexpr std::string_view degrees = "_degrees";
    name = name.ends_with(degrees) ? name.substr(0, name.size() - degrees.size()) : name;
    const bool known =
        std::find(numbers_of_laws.begin(), numbers_of_laws.end(), name) != numbers_of_laws.end();
    return known ? name : "";
}

std::vector<light_kind> carried_kinds(const claims& claimed, const std::set<light_kind>& sets_by_kind) {
    const auto has = [&](std::initializer_list<const char*> any) {
        return std::any_of(any.begin(), any.end(),
                           [&](const char* letter) { return claimed.light_bound.count(letter) > 0; });
    };
    if (!sets_by_kind.empty()) {
        return {sets_by_kind.begin(), sets_by_kind.end()};
    }
    const bool place = has({"place"});
    const bool placed = place || has({"position"});
    const bool directed = has({"shines", "axis"});
    const bool cone = directed && has({"outer", "outer_degrees", "cos_outer"});
    const bool report = place || has({"kind"});
    std::vector<light_kind> result;
    if (place || (directed && (report || !placed)) || has({"to_light", "half"})) {
        result.push_back(light_kind::directional);
    }
    if (placed && (report || !cone)) {
        result.push_back(light_kind::point);
    }
    if (placed && cone && (claimed.light_bound.count("kind") > 0 || !report)) {
        result.push_back(light_kind::spot);
    }
    return result;
}

std::vector<falloff_kind> carried_falloffs(const claims& claimed) {
    const auto has = [&](const char* letter) { return claimed.light_bound.count(letter) > 0; };
    std::vector<falloff_kind> result;
    for (const falloff_descriptor& descriptor : falloff_list) {
        const bool numbers =
            (!descriptor.coefficients || has("coefficients")) && (!descriptor.range || has("range"));
        if (numbers && (has("falloff") || (has("coefficients") && descriptor.as_coefficients))) {
            result.push_back(descriptor.kind);
        }
    }
    if (result.empty()) {
        return {has("range") ? falloff_kind::windowed : falloff_kind::inverse_square};
    }
    std::swap(result[0], *std::find(result.begin(), result.end(), falloff_kind::inverse_square));
    return result;
}

std::vector<penumbra_kind> carried_penumbras(const claims& claimed) {
    const auto has = [&](const char* letter) { return claimed.light_bound.count(letter) > 0; };
    if (!has("penumbra")) {
        return {has("exponent")                                            ? penumbra_kind::power
                : has("inner") || has("inner_degrees") || has("cos_inner") ? penumbra_kind::smooth
                                                                           : penumbra_kind::hard};
    }
    std::vector<penumbra_kind> result{penumbra_kind::smooth};
    for (const penumbra_descriptor& descriptor : penumbra_list) {
        if (descriptor.kind != penumbra_kind::smooth && (!descriptor.exponent || has("exponent"))) {
            result.push_back(descriptor.kind);
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::program
