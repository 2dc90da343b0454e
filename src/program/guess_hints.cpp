#include "program/guess_hints.hpp"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <optional>
#include <vector>

#include "program/guess_ambient.hpp"
#include "program/guess_constants.hpp"
#include "program/guess_moves.hpp"
#include "program/shader_words.hpp"
#include "program/source_text.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

using formulas::slot;

namespace {

// `0.5 * pow(...)`: the specular factor, written before the highlight, or beside a name that was given one.
std::optional<double> written_specular_factor(const std::string& text) {
    static const std::string number = R"(([0-9]*\.[0-9]+)f?)";
    static const std::string times = R"(\s*\*\s*)";
    static const text_pattern before_power("\\b" + number + times +
                                           R"(pow\s*\(\s*(?:max|clamp|saturate|dot)\s*\()");
    static const text_pattern named_power(
        R"(\b(\w+)\s*=\s*[^;]*\bpow\s*\(\s*(?:(?:max|clamp|saturate)\s*\(\s*(?:0?\.0*f?\s*,\s*)?)?dot\s*\()");
    const auto factor_in = [&](const text_pattern& product) -> std::optional<double> {
        for (const text_pattern::match& found : product.all(text)) {
            const double factor = std::atof(found.text(1).c_str());
            if (factor <= 1) { // a display's curve has 1.055 there
                return factor;
            }
        }
        return std::nullopt;
    };
    std::optional<double> factor = factor_in(before_power);
    for (const text_pattern::match& named : named_power.all(text)) {
        for (const std::string& product :
             {"\\b" + number + times + named.text(1) + "\\b", "\\b" + named.text(1) + times + number}) {
            factor = factor ? factor : factor_in(text_pattern(product));
        }
    }
    return factor;
}

// Light from above and below in the place of ambient light: two colours, mixed by how far a normal looks up.
void take_sky_and_ground(shader_program& of, const std::string& text) {
    static const text_pattern mixed(R"(\b(mix|lerp)\s*\()");
    static const text_pattern half(R"(\b0?\.5\b)");
    if (!mixed.is_in(text) || !half.is_in(text)) {
        return;
    }
    const auto named = [&](std::initializer_list<const char*> words) -> shader_binding* {
        const auto found =
            std::find_if(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
                std::string name = each.name;
                std::transform(name.begin(), name.end(), name.begin(),
                               [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
                return std::any_of(words.begin(), words.end(),
                                   [&](const char* word) { return name.find(word) != std::string::npos; });
            });
        return found == of.uniforms.end() ? nullptr : &*found;
    };
    shader_binding* sky = named({"sky", "zenith"});
    shader_binding* ground = named({"ground", "water", "earth", "floor", "sea"});
    if (sky == nullptr || ground == nullptr) {
        return;
    }
    sky->means = {"numbers.sky"};
    ground->means = {"numbers.ground"};
    if (shader_binding* up = named({"_up", "up_", "updir", "upvec"})) {
        up->means = {0.0, 1.0, 0.0};
    }
    of.numbers.push_back({"sky", {0.1, 0.13, 0.22}});
    of.numbers.push_back({"ground", {0.02, 0.05, 0.04}});
    of.formulas[slot::ambient] = "mix(ground, sky, 0.5 + 0.5 * n.y)";
    of.constants.push_back({"ambient.light", {1, 1, 1}, {of.file, 0, 0}});
}

// A cone with one angle that fades from its axis on: what is more than the angle's cosine is divided by what
// 1 is, or smoothed up to 1.
void take_cone_from_axis(shader_program& of, const std::string& text) {
    static const text_pattern ramp(R"(/\s*\(\s*1(?:\.0?)?f?\s*-\s*([\w.\[\]]+)\s*\))");
    static const text_pattern smooth(R"(\bsmoothstep\s*\(\s*([\w.\[\]]+)\s*,\s*1(?:\.0?)?f?\s*,)");
    const auto is_edge = [&](const std::string& name) {
        return std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
            return last_name(each.name) == last_name(name) &&
                   text_of(each).find("outer") != std::string::npos;
        });
    };
    for (const auto& [pattern, kind] :
         {std::pair(&ramp, penumbra_kind::ramp), std::pair(&smooth, penumbra_kind::smooth)}) {
        for (const text_pattern::match& found : pattern->all(text)) {
            if (is_edge(found.text(1))) {
                fade_cones(of, kind);
                return;
            }
        }
    }
}

// Whether a number says how strong a lamp is: its own, or one of lamps that it may be among. An ambient part
// of a lamp's light says so of nothing else.
bool has_strength(const shader_program& of, const std::string& lamp) {
    static const std::string strength = ".intensity";
    const bool of_a_kind = !lamp.starts_with("lights[");
    return std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
        return std::any_of(each.means.begin(), each.means.end(), [&](const auto& one) {
            const std::string* const means = std::get_if<std::string>(&one);
            if (means == nullptr || means->find(strength) == std::string::npos ||
                (means->starts_with("= lights") && means->ends_with(".ambient.x"))) {
                return false;
            }
            return means->find(lamp + strength) != std::string::npos || !of_a_kind ||
                   means->find("lights[") != std::string::npos;
        });
    });
}

// The colour of a lamp of which nothing says how strong it is, is all of its light.
void take_colors_as_light(shader_program& of) {
    for (shader_binding& each : of.uniforms) {
        for (auto& one : each.means) {
            std::string* const means = std::get_if<std::string>(&one);
            const std::size_t dot = means != nullptr ? means->rfind('.') : std::string::npos;
            if (dot != std::string::npos && means->starts_with("lights") &&
                means->compare(dot, std::string::npos, ".color") == 0 &&
                !has_strength(of, means->substr(0, dot))) {
                means->replace(dot, std::string::npos, ".light");
            }
        }
    }
}

} // namespace

rate likely_rate(const shader_program& sources, const guessed_bindings& guessed) {
    const bool in_one_file = sources.language == shading_language::hlsl; // both stages, as a rule
    const std::string whole = without_comments(sources.fragment.source);
    const std::string fragment = in_one_file ? text_reached_from(whole, sources.fragment.entry) : whole;
    for (const guessed_name& each : guessed.uniforms) {
        if (!each.means.starts_with("lights")) {
            continue;
        }
        const std::string first = each.name.substr(0, each.name.find_first_of("[."));
        const std::string name = in_one_file ? last_name(each.name) : first; // blocks are not named there
        if (text_pattern::word(name).is_in(fragment) || sources.language == shading_language::spirv) {
            return rate::fragment;
        }
    }
    static const text_pattern lights(R"(\bnormalize\s*\(|\bdot\s*\(|\breflect\s*\()");
    return lights.is_in(fragment) ? rate::fragment : rate::vertex;
}

std::string attribute_by_use(const shader_program& sources, const guessed_bindings& guessed,
                             const guessed_name& name) {
    if (name.type == "vec2") {
        return "texcoord";
    }
    const auto taken = [&](const char* what) {
        return std::any_of(guessed.attributes.begin(), guessed.attributes.end(),
                           [&](const guessed_name& each) { return each.means == what; });
    };
    const std::string text = without_comments(sources.vertex.source);
    const auto widened = [&](const guessed_name& each) { // by 1, as a place is
        return text_pattern("\\b" + each.name + R"(\s*,\s*1(\.0?)?f?\s*\))").is_in(text);
    };
    const bool any_widened = std::any_of(guessed.attributes.begin(), guessed.attributes.end(), widened);
    const auto place = [&](const guessed_name& each) {
        return any_widened ? widened(each) : text_pattern(R"(\*\s*)" + each.name + "\\s*;").is_in(text);
    };
    if (!taken("position") && place(name)) {
        return "position";
    }
    const bool other =
        std::any_of(guessed.attributes.begin(), guessed.attributes.end(), [&](const guessed_name& each) {
            return each.means == "position" || (each.name != name.name && each.means.empty() && place(each));
        });
    return !other ? "position" : taken("normal") ? "color" : "normal";
}

bool makes_unit_at_vertices(const shader_program& sources) {
    std::string text = without_comments(sources.vertex.source);
    if (sources.language == shading_language::spirv) {
        return true;
    }
    if (sources.language == shading_language::hlsl) { // the other stage stands beside it
        text = text_reached_from(text, sources.vertex.entry);
    }
    return text.find("normalize") != std::string::npos;
}

namespace {

// What turns OpenGL's clip space into another: y to the other side, by itself or with all four numbers; depth
// from 0 on.
void take_clip_space(shader_program& of, const std::string& text) {
    static const text_pattern named(R"(\bgl_Position\s*=\s*(\w+)\s*;|\b(\w+)\s*:\s*SV_Position\b)");
    std::string position = "(?:gl_Position";
    for (const text_pattern::match& found : named.all(text)) {
        position += "|" + (found.text(1).empty() ? found.text(2) : found.text(1));
    }
    position += ")";
    const auto has = [&](const std::string& pattern) {
        return text_pattern("\\b" + position + pattern).is_in(text);
    };
    if (has(R"(\.y\s*(?:\*=\s*-|=\s*-))") || has(R"(\s*=\s*(?:vec4|float4)\s*\(\s*\w+\.x\s*,\s*-)")) {
        of.clip = clip_space::vulkan;
    } else if (has(R"(\.z\s*=)")) {
        of.clip = clip_space::d3d;
    }
}

} // namespace

void take_output(shader_program& of, const std::string& text) {
    static const text_pattern srgb(R"(0?\.0031308|1\.055)");
    static const text_pattern gamma(R"(1\.0\s*/\s*2\.2|0?\.4545)");
    if (srgb.is_in(text)) {
        of.output = output_kind::srgb;
    } else if (gamma.is_in(text)) {
        of.output = output_kind::gamma;
    }
}

void take_hints(shader_program& of, const std::string& text) {
    const auto has = [&](const char* pattern) { return text_pattern(pattern).is_in(text); };
    const auto any_means = [&](const char* part) { return reads_any(of, part); };
    take_output(of, text);
    // One name over itself and one.
    const auto has_twice = [&](const char* pattern) {
        const std::vector<text_pattern::match> found = text_pattern(pattern).all(text);
        return std::any_of(found.begin(), found.end(),
                           [](const text_pattern::match& each) { return each.parts[1] == each.parts[2]; });
    };
    if (of.formulas[slot::color].empty() &&
        (has_twice(R"(\b([A-Za-z_]\w*)\s*/\s*\(\s*(\w+)\s*\+\s*(?:vec3\s*\(\s*|float3\s*\(\s*)?1)") ||
         has_twice(
             R"(\b([A-Za-z_]\w*)\s*/\s*\(\s*(?:vec3\s*\(\s*|float3\s*\(\s*)?1(?:\.0?)?\s*\)?\s*\+\s*(\w+))"))) {
        of.formulas[slot::color] = "c / (c + 1.0)";
    }
    // `(ambient + diffuse + specular) * paint`: the highlight has the base colour.
    static const text_pattern tinted(R"(\+\s*\w*[sS]pec\w*\s*\)\s*\*\s*(\w+))");
    if (const auto found = tinted.find(text); found && of.model != model_kind::lambert) {
        const bool by_base =
            std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
                return each.name == found->text(1) && text_of(each).starts_with("material.base");
            });
        if (by_base) {
            of.formulas[slot::specular] = has(R"(\breflect\s*\()")
                                              ? "pow(max(dot(r, v), 0.0), shininess) * base"
                                              : "pow(max(dot(n, h), 0.0), shininess) * base";
        }
    }
    take_clip_space(of, text);
    take_sky_and_ground(of, text);
    const bool normals = std::any_of(of.attributes.begin(), of.attributes.end(),
                                     [](const shader_binding& each) { return text_of(each) == "normal"; });
    if (!normals && has(R"(\bdFdx\b|\bddx\b)")) {
        of.normals = normals_claim::face;
    }
    take_colors_as_light(of);
    // Of a polynomial whose first coefficient is written as 1: no other law is left to it.
    if ((any_means("coefficients[1]") || any_means("coefficients[2]")) && !any_means("coefficients[0]")) {
        of.falloffs = std::vector{falloff_kind::polynomial};
    }
    const bool coned = any_means("cos_inner") || any_means("].inner");
    if (coned && has(R"(\bsmoothstep\s*\()")) {
        of.penumbras = std::vector{penumbra_kind::smooth};
    }
    if (!coned) {
        take_cone_from_axis(of, text);
    }
    take_normalised(of, text);
    if (any_means("shading.")) { // an outline alone, perhaps
        of.model = model_kind::cel;
    }
    if (!any_means("shading.thresholds") && !any_means("shading.bands")) {
        take_bands(of, text);
        if (of.model == model_kind::cel && !any_means(".intensity") && !any_means("].light")) {
            of.without.emplace_back("light.intensity"); // bands of the cosine alone
        }
    }
    take_shares_of_whole_light(of, text);
    if (take_ambient_share(of, text)) {
        of.without.emplace_back("ambient");
    }
    static const text_pattern of_scene(R"((?:^|[^.\w])ambient\.)");
    const bool ambient_bound =
        std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
            return std::any_of(each.means.begin(), each.means.end(), [&](const auto& one) {
                const std::string* means = std::get_if<std::string>(&one);
                return means != nullptr && of_scene.is_in(*means);
            });
        });
    if ((any_means(".ambient_light") || any_means("].ambient.x") || any_means("].ambient[0]")) &&
        !ambient_bound) {
        of.without.emplace_back("ambient"); // its lights bring their own
    }
    const auto constant = [&](const char* quantity, std::vector<double> numbers) {
        of.constants.push_back({quantity, std::move(numbers), {of.file, 0, 0}});
    };
    static const text_pattern power(R"(\bpow\s*\([^;]*,\s*([0-9]+\.?[0-9]*)f?\s*\))");
    std::optional<double> exponent;
    for (const text_pattern::match& found : power.all(text)) {
        const double number = std::atof(found.text(1).c_str());
        if (!exponent && number > 2.5) { // a display's curve has less
            exponent = number;
        }
    }
    const bool of_text = !of.formulas[formulas::slot::specular].empty(); // where its exponents stand
    exponent = any_means("shininess") || of.model == model_kind::lambert || of_text ? std::nullopt : exponent;
    if (exponent) {
        constant("material.shininess", {*exponent});
    }
    // A normal that is turned wherever the back is seen: every material has two sides.
    static const text_pattern named_front(R"(\bbool\s+(\w+)\s*:\s*(?i:SV_IsFrontFace))");
    const auto semantic = named_front.find(text); // HLSL's
    const std::string front = semantic ? semantic->text(1) : "gl_FrontFacing";
    const text_pattern turned("!\\s*" + front + R"(\s*\)\s*\{?\s*\w+\s*(?:=\s*-|\*=\s*-\s*1)|\b)" + front +
                              R"(\s*\?\s*\w+\s*:\s*-)");
    const text_pattern either("\\b" + front + R"(\s*\?\s*\w+\s*:\s*\w)"); // both sides, lit at the vertices
    if ((turned.is_in(text) || (of.rate == rate::vertex && either.is_in(text))) && !any_means("two_sided")) {
        constant("material.two_sided", {1});
    }
    const std::optional<double> part =
        any_means(".ambient") || any_means("ambient.") ? std::nullopt : written_ambient_part(of, text);
    if (part) {
        constant("lights[0].ambient", {*part, *part, *part});
        of.without.emplace_back("ambient");
    }
    const std::optional<double> alone =
        part || any_means("ambient") ? std::nullopt : written_ambient_light(of, text);
    if (alone) {
        constant("ambient.light", {*alone});
    }
    const std::optional<double> factor = written_specular_factor(text);
    if (factor && !any_means("material.specular") && of.model != model_kind::lambert) {
        constant("material.specular", {*factor, *factor, *factor});
    }
    take_constants(of, text, any_means,
                   {part.has_value() || alone.has_value(), factor.has_value(), exponent.has_value()});
}

} // namespace yurvo::inline v0_1::program
