#include "program/written_names.hpp"

#include <algorithm>

#include "program/guess_moves.hpp"
#include "program/guess_words.hpp"
#include "program/written_vectors.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// Into how many steps something is cut.
bool names_steps(const shader_binding& bound) {
    static const text_pattern words("(?i:levels|steps)$");
    return words.is_in(last_name(bound.name));
}

// Whether a text declares a name as one of some types, alone or among others: `vec3 a, b[4], name`.
bool is_declared(const std::string& text, const std::string& types, const std::string& name) {
    return text_pattern(types + R"(\s+(?:\w+\s*(?:\[[^\]]*\]\s*)?,\s*)*)" + name + R"(\b)").is_in(text);
}

// `= 1.0 / lights[*].range` as a formula has it: `(1.0 / range)`. Nothing where it asks for more than numbers
// that formulas know.
std::optional<std::string> of_numbers_of_lights(const std::string& means) {
    if (!means.starts_with("= ")) {
        return std::nullopt;
    }
    static const text_pattern number(
        R"(\blights(?:\.\w+)?\[[^\]]*\]\.(range|cos_inner|cos_outer|inner|outer|exponent)\b)");
    static const text_pattern word(R"([A-Za-z_])");
    std::string made;
    std::string rest;
    std::size_t from = 2;
    for (const text_pattern::match& each : number.all(means)) {
        rest += means.substr(from, each.at - from);
        made += means.substr(from, each.at - from) + each.text(1);
        from = each.at + each.parts[0].size();
    }
    rest += means.substr(from);
    made += means.substr(from);
    return word.is_in(rest) ? std::nullopt : std::optional("(" + made + ")");
}

// Of what a light has; empty where formulas do not know it.
std::string value_of_light(const std::string& means) {
    const auto ends = [&](const char* with) { return means.ends_with(with); };
    if (!means.starts_with("lights")) {
        return "";
    }
    if (ends(".position") || ends(".position_view") || ends(".place") || ends(".place_view")) {
        return lamp_place;
    }
    if (ends(".to_light") || ends(".to_light_view")) {
        return "l";
    }
    if (ends(".shines") || ends(".axis") || ends(".shines_view") || ends(".axis_view")) {
        return light_axis;
    }
    if (ends("].range")) {
        return "range";
    }
    if (ends("].coefficients")) {
        return "coefficients";
    }
    for (const char* const known : {"cos_inner", "cos_outer", "inner", "outer", "exponent"}) {
        if (ends((std::string("].") + known).c_str())) {
            return known;
        }
    }
    for (const char* const index : {"0", "1", "2"}) {
        if (ends((std::string("coefficients[") + index + "]").c_str())) {
            return std::string("coefficients.") + "xyz"[index[0] - '0'];
        }
    }
    return "";
}

} // namespace

bool names_a_number(const shader_binding& bound) {
    // Not `tint`, and not `primary`: those are a material's colours more often. A roughness that is an
    // exponent says so behind that.
    static const text_pattern words(
        "(?i:fog|haze|mist|densit|sigma$|wrap|exposure|decay|rough(?:ness)?$|metal(?:"
        "lic|ness)?$|(?:^|_|u_?)(?:near|far)$|(?:fall_?off|fade|atten(?:uation)?)_?(?:start|begin|near|"
        "min)$)|(?:^|_)(?:rim|fresnel)|Rim|Fresnel");
    const bool of_cel = text_of(bound).starts_with("shading.");
    return words.is_in(last_name(bound.name)) || (!of_cel && names_steps(bound));
}

std::string name_meanings::of(const std::string& name) {
    if (std::string part = part_of_uniform(name); !part.empty()) {
        return part;
    }
    const shader_binding* const given = attribute(name);
    const shader_binding* const bound = uniform(name);
    // A member of a structure may be called as an attribute is, `position`.
    if (bound != nullptr && (given == nullptr || bound->name == name || given->name != name)) {
        return value_of_uniform(*bound);
    }
    if (given != nullptr) {
        const std::string means = text_of(*given);
        return means == "position" ? means : means == "normal" ? "n" : "?" + name;
    }
    if (const auto passed = passed_.find(last_name(name)); passed != passed_.end()) {
        return passed->second;
    }
    if (is_varying(name)) {
        return of_varying(name);
    }
    return constant(name).value_or("?" + name);
}

// By its whole name, or by a member's where it is one of a structure that a function is given.
const shader_binding* name_meanings::uniform(const std::string& name) const {
    const std::string member = last_name(name);
    const shader_binding* by_member = nullptr;
    for (const shader_binding& each : of_.uniforms) {
        if (each.name == name || each.name.ends_with("." + name)) {
            return &each;
        }
        if (name.find('.') != std::string::npos && last_name(each.name) == member) {
            by_member = &each;
        }
    }
    return by_member;
}

std::string name_meanings::part_of_uniform(const std::string& name) const {
    static const text_pattern component(R"(^(.*)\.([xyzwrgba])$)");
    const auto one = component.find(name);
    const shader_binding* const bound = uniform(one ? one->text(1) : name);
    const std::size_t parts = bound != nullptr ? bound->means.size() : 0;
    if (parts < 2) {
        return "";
    }
    const std::size_t place = one ? places.find(as_place(one->text(2).front())) : 0;
    const std::size_t which = parts == 2 ? (place == 3 ? 1 : 0) : place;
    if (which >= parts || (parts == 2 && one && place < 3) || (parts > 2 && !one)) {
        return "";
    }
    const std::string* const means = std::get_if<std::string>(&bound->means[which]);
    return means != nullptr ? value_of_light(*means) : "";
}

std::string name_meanings::value_of_uniform(const shader_binding& bound) {
    const std::string means = text_of(bound);
    const auto ends = [&](const char* with) { return means.ends_with(with); };
    if (ends("to_world")) {
        return matrix_to_world;
    }
    if (ends("to_view")) {
        return matrix_to_view;
    }
    if (names_a_number(bound)) {
        return own_number(bound);
    }
    if (const std::optional<std::string> worked_out = of_numbers_of_lights(means)) {
        return *worked_out;
    }
    if (means.starts_with("lights")) {
        if (std::string value = value_of_light(means); !value.empty()) {
            return value;
        }
        if (!asks_for_number(bound)) {
            return "?" + last_name(bound.name);
        }
    }
    if (means == "view.eye") {
        return "eye";
    }
    if (means == "material.base" || means == "material.base_alpha") {
        return "base";
    }
    if (means == "material.shininess") {
        return "shininess";
    }
    if (means.starts_with("numbers.")) {
        return means.substr(8);
    }
    return asks_for_number(bound) ? own_number(bound) : "?" + last_name(bound.name);
}

// What else may be a number of the claim: single ones that are no light's strength and no material's.
bool name_meanings::asks_for_number(const shader_binding& bound) const {
    const std::string means = text_of(bound);
    const bool single = is_declared(text_, R"(\b(?:float|half))", last_name(bound.name));
    const bool factor = means.starts_with("lights") &&
                        (means.ends_with(".intensity") || means.ends_with(".ambient_intensity"));
    return single && !factor && !means.starts_with("material.") && !means.starts_with("ambient.");
}

std::string name_meanings::own_number(const shader_binding& bound) {
    for (const written_formula::number& each : numbers) {
        if (each.uniform == bound.name) {
            return each.name;
        }
    }
    static const text_pattern far("far|end|max|radius|size|reach|white");
    static const text_pattern near("near|start|begin|min");
    std::string name = last_name(bound.name);
    const std::string lower = lowered(name);
    name += formulas::fault_in_number_name(name).empty() ? "" : "_here";
    const bool three = is_declared(text_, R"(\b(?:vec|float|half)3)", last_name(bound.name));
    // Steps that no cosine of a plain scene (1, 1/2, 3/5, 4/5, their roots) lies on.
    const double value = far.is_in(lower)     ? 9.0
                         : near.is_in(lower)  ? 0.7
                         : names_steps(bound) ? 3.7
                                              : 0.3 + 0.15 * static_cast<double>(numbers.size());
    numbers.push_back({bound.name, name,
                       three ? std::vector<double>{0.11, 0.17, 0.23} : std::vector<double>{value},
                       names_a_number(bound)});
    return name;
}

// Where vertices are lit, their attributes are what is given.
const shader_binding* name_meanings::attribute(const std::string& name) const {
    if (of_.rate != rate::vertex) {
        return nullptr;
    }
    const auto found = std::find_if(of_.attributes.begin(), of_.attributes.end(),
                                    [&](const shader_binding& each) { return each.name == last_name(name); });
    return found == of_.attributes.end() ? nullptr : &*found;
}

bool name_meanings::is_varying(const std::string& name) const {
    return is_declared(
        text_, R"((?:\b(?:in|varying|attribute)\s+(?:(?:highp|mediump|lowp)\s+)?vec[34]|\bfloat[34]))",
        last_name(name));
}
std::string name_meanings::of_varying(const std::string& name) const {
    static const text_pattern normal("norm|facing|^n$|_n$|nrm|turned");
    static const text_pattern other("col|uv|tex|tan");
    const std::string lower = lowered(last_name(name));
    if (other.is_in(lower)) {
        return "?" + name;
    }
    const bool in_view =
        of_.rate != rate::vertex &&
        std::any_of(of_.uniforms.begin(), of_.uniforms.end(),
                    [](const shader_binding& each) { return text_of(each).ends_with("position_view"); });
    return normal.is_in(lower) ? "n" : in_view ? "(position - eye)" : "position";
}

// A number with a name.
std::optional<std::string> name_meanings::constant(const std::string& name) const {
    const std::string number = R"((-?[0-9]+\.?[0-9]*|-?\.[0-9]+))";
    for (const std::string& pattern :
         {R"(#\s*define\s+)" + name + R"(\s+\(?)" + number,
          R"(\bconst\s+float\s+)" + name + R"(\s*=\s*)" + number + R"(f?\s*;)"}) {
        if (const auto found = text_pattern(pattern).find(text_)) {
            return found->text(1);
        }
    }
    static const text_pattern pi("^(?:[kM]_?)?(?:PI|Pi|pi)$");
    return pi.is_in(name) ? std::optional<std::string>("pi") : std::nullopt;
}

} // namespace yurvo::inline v0_1::program
