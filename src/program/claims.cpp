#include "program/claims.hpp"

#include <algorithm>

namespace yurvo::program {

namespace {

// Which kinds of light the bound properties can carry.
std::vector<light_kind> carried_kinds(const claims& claimed, const std::set<light_kind>& sets_by_kind) {
    const auto has = [&](std::initializer_list<const char*> any) {
        return std::any_of(any.begin(), any.end(),
                           [&](const char* letter) { return claimed.light_bound.count(letter) > 0; });
    };
    if (!sets_by_kind.empty()) {
        return {sets_by_kind.begin(), sets_by_kind.end()};
    }
    const bool place = has({"place", "place_view"});
    const bool placed = place || has({"position", "position_view"});
    const bool directed = has({"shines", "shines_view"});
    const bool cone = directed && has({"outer", "outer_degrees", "cos_outer"});
    const bool report = place || has({"kind"});
    std::vector<light_kind> result;
    if (place || (directed && (report || !placed)) || has({"to_light", "to_light_view"})) {
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

// The laws that a program's bindings can carry, the likeliest first.
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

// One scene on its way to another: every change is told once.
// Reads off the bindings what a program can be given.
class collection {
    const shader_program& the_program;
    std::set<light_kind> sets_by_kind_;
    int most_general_ = 0;
    int fewest_general_ = 0; // lights[1] alone, without a count, wants two: nothing says that there is none
    bool counted_ = false;

    void look_at(const quantity& wanted, int each) {
        if (wanted.of != "lights") {
            result.bound.insert(wanted.of + "." + wanted.property);
            return;
        }
        if (wanted.property == "count") {
            counted_ = true;
            return;
        }
        result.light_bound.insert(wanted.property);
        if (!wanted.each && !wanted.only) {
            result.by_index.insert(wanted.property);
        }
        if (!wanted.name.empty()) {
            result.names.insert(wanted.name);
            return;
        }
        const int needs = (wanted.each ? each : *wanted.index) + 1;
        if (wanted.only) {
            sets_by_kind_.insert(*wanted.only);
            int& fewest = result.fewest_of_kind[*wanted.only];
            fewest = std::max(fewest, wanted.each ? 0 : needs);
            result.most_of_kind[*wanted.only] = std::max(result.most_of_kind[*wanted.only], needs);
        } else {
            most_general_ = std::max(most_general_, needs);
            fewest_general_ = std::max(fewest_general_, wanted.each ? 0 : needs);
        }
    }

  public:
    claims result;

    explicit collection(const shader_program& to_read) : the_program(to_read) {
        result.model = the_program.model;
        result.own = the_program.own;
        result.rate = the_program.rate;
        result.rule = the_program.ambient_rule;
        result.formulas = the_program.formulas;
        result.numbers = the_program.numbers;
        result.in_order = the_program.in_order;
        result.scale = the_program.scale;
        result.follows = the_program.follows;
    }

    void read_uniforms(const bindings& bound) {
        for (const bound_uniform& uniform : bound.uniforms) {
            for (const auto& means : uniform.means) {
                if (const quantity* wanted = std::get_if<quantity>(&means)) {
                    look_at(*wanted, uniform.each);
                }
            }
        }
        // What the driver has found to be unused is claimed all the same, of one light at least.
        for (const shader_binding& binding : the_program.uniforms) {
            const std::string array = binding.name.substr(0, binding.name.find("[*]"));
            const std::size_t dot = array.find_last_of('.');
            const int size =
                array.size() == binding.name.size()
                    ? 0
                    : declared_size(the_program, dot == std::string::npos ? array : array.substr(dot + 1));
            for (const auto& means : binding.means) {
                if (const std::string* text = std::get_if<std::string>(&means)) {
                    look_at(parse_quantity(*text, binding.where), std::max(0, size - 1));
                }
            }
        }
    }

    void read_attributes(const bindings& bound) {
        for (const shader_binding& binding : the_program.attributes) {
            const std::string& means = std::get<std::string>(binding.means.front());
            result.texcoords = result.texcoords || means == "texcoord";
            result.colors = result.colors || means == "color";
        }
        for (const bound_attribute& attribute : bound.attributes) {
            result.texcoords = result.texcoords || attribute.means == "texcoord";
            result.colors = result.colors || attribute.means == "color";
        }
    }

    void conclude_kinds() {
        result.kinds = the_program.kinds.value_or(carried_kinds(result, sets_by_kind_));
        if (!the_program.kinds) {
            std::erase_if(result.kinds, [&](light_kind kind) {
                return std::any_of(result.by_index.begin(), result.by_index.end(),
                                   [&](const std::string& property) { return !kind_has(kind, property); });
            });
        }
        result.falloffs = the_program.falloffs.value_or(carried_falloffs(result));
        result.penumbras = the_program.penumbras.value_or(carried_penumbras(result));
    }

    void conclude_counts() {
        int most = most_general_ + static_cast<int>(result.names.size());
        for (const auto& [kind, count] : result.most_of_kind) {
            most += count;
        }
        result.most = most;
        if (the_program.lights) {
            result.fewest = (*the_program.lights)[0];
            result.most = (*the_program.lights)[1];
        } else if (!counted_) {
            // A shader written for one lamp is given one; one that reads lights[0] and lights[1], two.
            result.fewest = most == 1 ? 1 : fewest_general_;
        }
        if (the_program.lights || counted_) {
            result.fewest_of_kind.clear();
        }
    }
};

} // namespace

claims claims_of(const shader_program& the_program, const bindings& bound) {
    collection all(the_program);
    all.read_uniforms(bound);
    all.read_attributes(bound);
    all.conclude_kinds();
    all.conclude_counts();
    return all.result;
}

} // namespace yurvo::program
