#include "program/guess_trying.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <limits>
#include <memory>
#include <optional>
#include <regex>

#include "program/quantity_list.hpp"
#include "program/source_text.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/one_number.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::program {

namespace {

using clock = std::chrono::steady_clock;
using formulas::slot;

constexpr double most_seconds = 10;
constexpr int width = 72;
constexpr int height = 45;
constexpr double never = 1e9; // of a candidate that cannot be drawn

// One way to change a guess: what it is about, what it says, and how it is done.
struct move {
    std::string about; // a uniform's name, or `model`, `falloff`, ...
    std::string says;
    std::function<void(shader_program&)> make;
    std::string omits;        // a catalogued mistake that the claim then takes out; empty for none
    double least_gain = 0.02; // of what is off: what makes the scenes simpler has to help much
};

shader_binding* find_binding(shader_program& of, const std::string& name) {
    const auto found = std::find_if(of.uniforms.begin(), of.uniforms.end(),
                                    [&](const shader_binding& each) { return each.name == name; });
    return found == of.uniforms.end() ? nullptr : &*found;
}

std::string text_of(const shader_binding& binding) {
    const std::string* text =
        binding.means.size() == 1 ? std::get_if<std::string>(&binding.means.front()) : nullptr;
    return text == nullptr ? "" : *text;
}

// The same quantity in another space; as it is where it has none there.
std::string in_space(const std::string& quantity, const std::string& space) {
    const std::size_t dot = quantity.find_last_of('.');
    if (dot == std::string::npos || !quantity.starts_with("lights")) {
        if (quantity == "object.normal_to_world" || quantity == "object.normal_to_view") {
            return space == "_view" ? "object.normal_to_view" : "object.normal_to_world";
        }
        return quantity;
    }
    std::string property = quantity.substr(dot + 1);
    for (const char* each : {"_view", "_object"}) {
        if (property.ends_with(each)) {
            property.resize(property.size() - std::string_view(each).size());
        }
    }
    return find_light_quantity(property + space) != nullptr ? quantity.substr(0, dot + 1) + property + space
                                                            : quantity;
}

// What a name of that type may mean, besides what its name says.
std::vector<std::string> meanings_for(const std::string& type, bool each_light, bool of_light) {
    const std::string lamp = each_light ? "lights[*]." : "lights[0].";
    const auto of_lamp = [&](std::initializer_list<const char*> properties) {
        std::vector<std::string> all;
        for (const char* property : properties) {
            all.push_back(lamp + property);
        }
        return all;
    };
    std::vector<std::string> result;
    const auto add = [&](const std::vector<std::string>& more) {
        result.insert(result.end(), more.begin(), more.end());
    };
    if (type == "mat4") {
        return {"object.to_world",   "object.to_view",     "object.to_clip",    "view.world_to_view",
                "view.view_to_clip", "view.world_to_clip", "object.from_world", "object.normal_to_world"};
    }
    if (type == "mat3") {
        return {"object.normal_to_world", "object.normal_to_view", "object.to_world", "object.to_view"};
    }
    if (type == "sampler2D") {
        return {"material.texture", "material.texture_codes"};
    }
    if (type == "int" || type == "uint" || type == "bool") {
        if (each_light) {
            return of_lamp({"kind", "falloff", "penumbra"});
        }
        return {"lights.count",      "lights.point.count", "lights.directional.count",
                "lights.spot.count", "material.two_sided", "material.shininess"};
    }
    if (type == "vec3") {
        const std::vector<std::string> light = of_lamp(
            {"position", "to_light", "shines", "axis", "light", "color", "diffuse_light", "specular_light",
             "ambient_light", "coefficients", "diffuse", "specular", "ambient", "half"});
        const std::vector<std::string> other{"material.base",
                                             "ambient.light",
                                             "view.eye",
                                             "material.specular",
                                             "material.ambient",
                                             "material.diffuse",
                                             "material.emission",
                                             "ambient.color",
                                             "= material.base * material.diffuse",
                                             "= material.base * material.ambient",
                                             "object.eye",
                                             "view.axis"};
        add(of_light || each_light ? light : other);
        if (!each_light) {
            add(of_light ? other : light);
        }
        return result;
    }
    if (type == "vec4") {
        add({"material.base_alpha", "material.base", "ambient.light", "view.eye", "material.specular"});
        add(of_lamp({"place", "position", "shines", "light", "color", "to_light"}));
        return result;
    }
    if (type == "float") {
        const std::vector<std::string> light =
            of_lamp({"intensity", "range", "cos_inner", "cos_outer", "inner", "outer", "inner_degrees",
                     "outer_degrees", "exponent", "coefficients[0]", "coefficients[1]", "coefficients[2]"});
        const std::vector<std::string> other{
            "material.shininess",  "material.specular[0]", "ambient.strength", "material.ambient[0]",
            "material.diffuse[0]", "material.alpha",       "ambient.light[0]"};
        add(of_light || each_light ? light : other);
        if (!each_light) {
            add(of_light ? other : light);
        }
    }
    return result;
}

class trying {
    std::vector<scene> scenes_;
    std::unique_ptr<program_renderer> compiled_;
    clock::time_point began_ = clock::now();
    const std::function<void(const std::string&)>& tell_;
    std::size_t tried_ = 0;
    std::map<std::string, std::vector<std::string>> options_; // for each uniform

    [[nodiscard]] bool in_time() const {
        return std::chrono::duration<double>(clock::now() - began_).count() < most_seconds;
    }

    static scene small(const scene& of) {
        scene made = of;
        made.view.width = width;
        made.view.height = height;
        made.expects.clear();
        return made;
    }

  public:
    settled_guess result;

    trying(const shader_program& first, const std::function<void(const std::string&)>& tell) : tell_(tell) {
        scenes_.push_back(small(verify::coverage_scenes()[0].scene));
        scenes_.push_back(small(verify::coverage_scenes()[1].scene));
        scenes_.push_back(small(verify::find_reference("buoys")->scene));
        scenes_.push_back(small(verify::find_reference("behind-the-wall")->scene));
        result.program = first;
    }

    // How far the pictures are from right ones: 0 where all codes agree.
    double off_of(const shader_program& candidate) {
        ++tried_;
        try {
            std::unique_ptr<program_renderer> by;
            if (compiled_) {
                by = compiled_->with_claim(candidate);
            } else {
                compiled_ = std::make_unique<program_renderer>(candidate);
            }
            const program_renderer& subject = by ? *by : *compiled_;
            double sum = 0;
            std::size_t counted = 0;
            for (const scene& each : scenes_) {
                const fitted_scene fitted = subject.fit(each);
                if (!fitted.fitted) {
                    return never;
                }
                const std::optional<double> off =
                    apart(subject.draw(*fitted.fitted), draw(*fitted.fitted), fitted.fitted->view.background);
                sum += off.value_or(0);
                counted += off ? 1U : 0U;
            }
            // Where nearly nothing is to be seen anywhere, nothing is told.
            return counted < 2 ? never : sum / static_cast<double>(counted);
        } catch (const program_stopped&) {
            throw;
        } catch (const missing_error&) {
            throw;
        } catch (const error&) {
            if (!compiled_) {
                throw;
            }
            return never;
        } catch (const cannot_draw&) {
            return never;
        }
    }

    // What is off, as a share of the light that either picture holds: a darker claim is no better one. A
    // handful of pixels at edges is nothing.
    static std::optional<double> apart(const picture& found, const picture& right,
                                       const rgb<double>& background) {
        double off = 0;
        double light = 0;
        std::size_t beyond = 0;
        std::size_t lit = 0;
        const auto code = [](double linear) { return 255 * srgb_encoded(std::clamp(linear, 0.0, 1.0)); };
        const std::array<double, 3> behind{code(background.r), code(background.g), code(background.b)};
        for (std::size_t i = 0; i + 3 < found.values.size(); i += 4) {
            double most = 0;
            double held = 0;
            for (std::size_t c = 0; c < 3; ++c) {
                const double a = code(static_cast<double>(found.values[i + c]));
                const double b = code(static_cast<double>(right.values[i + c]));
                most = std::max(most, std::isfinite(a) && std::isfinite(b) ? std::abs(a - b) : 255.0);
                held = std::max({held, std::abs(a - behind[c]), std::abs(b - behind[c])});
            }
            beyond += most > 0.6 ? 1U : 0U;
            lit += held > 1 ? 1U : 0U;
            off += std::min(most, 64.0);
            light += std::isfinite(held) ? std::min(held, 64.0) : 64.0;
        }
        if (lit < found.pixels() / 50) {
            return std::nullopt; // nothing is to be seen
        }
        const double share = static_cast<double>(beyond) / static_cast<double>(lit);
        return share < 0.006 ? 0 : 0.3 * share + 0.7 * off / std::max(light, 1.0);
    }

    // Of all these moves the one that helps most, if any does by a noticeable part. True where one was made.
    bool improve(const std::vector<move>& moves, double least_gain = 0.02) {
        const move* best = nullptr;
        double least = result.off;
        for (const move& each : moves) {
            if (!in_time() || least == 0) {
                break;
            }
            shader_program changed = result.program;
            each.make(changed);
            const double off = off_of(changed);
            if (off < least && off < result.off * (1 - std::max(least_gain, each.least_gain))) {
                least = off;
                best = &each;
            }
        }
        if (best == nullptr) {
            return false;
        }
        best->make(result.program);
        result.off = least;
        result.how[best->about] = best->says;
        if (!best->omits.empty()) {
            result.omitted.push_back(best->omits);
        }
        tell_("trying what the names mean: " + std::to_string(tried_) + " pictures");
        return true;
    }

    void set_options(const guessed_bindings& guessed) {
        for (const guessed_name& each : guessed.uniforms) {
            const bool star = each.name.find("[*]") != std::string::npos;
            std::string lower = each.name;
            std::transform(lower.begin(), lower.end(), lower.begin(),
                           [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
            const bool of_light =
                lower.find("light") != std::string::npos || lower.find("lamp") != std::string::npos ||
                lower.find("sun") != std::string::npos || lower.find("moon") != std::string::npos;
            options_[each.name] = meanings_for(each.type, star, of_light);
        }
    }

    static void bind(shader_program& of, const std::string& name, const std::string& means) {
        if (shader_binding* binding = find_binding(of, name)) {
            binding->means = {means};
        }
    }

    [[nodiscard]] std::vector<move> moves_of_name(const std::string& name) const {
        std::vector<move> moves;
        for (const std::string& means : options_.at(name)) {
            for (const char* space : {"", "_view", "_object"}) {
                const std::string there = *space == '\0' ? means : in_space(means, space);
                if (*space != '\0' && there == means) {
                    continue;
                }
                moves.push_back({name, "tried: it fits best",
                                 [name, there](shader_program& of) { bind(of, name, there); }, ""});
            }
        }
        moves.push_back({name, "tried: as 1 it fits best",
                         [name](shader_program& of) {
                             if (shader_binding* binding = find_binding(of, name)) {
                                 binding->means = {1.0};
                             }
                         },
                         ""});
        return moves;
    }

    // All lights and normals in one space.
    static std::vector<move> moves_of_space() {
        std::vector<move> moves;
        for (const char* space : {"", "_view", "_object"}) {
            moves.push_back({"space", "",
                             [space](shader_program& of) {
                                 for (shader_binding& each : of.uniforms) {
                                     const std::string means = text_of(each);
                                     if (!means.empty() && !means.starts_with('=')) {
                                         each.means = {in_space(means, space)};
                                     }
                                     if (std::string(space) == "_object" && means == "view.eye") {
                                         each.means = {std::string("object.eye")};
                                     }
                                 }
                             },
                             ""});
        }
        return moves;
    }

    static std::vector<move> moves_of_model() {
        std::vector<move> moves;
        for (const model_kind kind : {model_kind::blinn_phong, model_kind::phong, model_kind::lambert}) {
            moves.push_back(
                {"model", "tried: it fits best", [kind](shader_program& of) { of.model = kind; }, ""});
        }
        return moves;
    }

    static std::vector<move> moves_of_laws() {
        std::vector<move> moves;
        for (const falloff_kind kind : {falloff_kind::inverse_square, falloff_kind::polynomial,
                                        falloff_kind::none, falloff_kind::linear, falloff_kind::windowed}) {
            moves.push_back({"falloff", "tried: it fits best",
                             [kind](shader_program& of) {
                                 of.falloffs = std::vector{kind};
                                 of.formulas[slot::falloff].clear();
                             },
                             ""});
        }
        for (const char* formula :
             {"1.0 / (1.0 + d * d)", "1.0 / d", "1.0 / (1.0 + d)", "pow(max(1.0 - d / range, 0.0), 2.0)",
              "pow(clamp(1.0 - pow(d / range, 4.0), 0.0, 1.0), 2.0) / (d * d)",
              "pow(clamp(1.0 - pow(d / range, 4.0), 0.0, 1.0), 2.0) / (d * d + 1.0)",
              "1.0 - smoothstep(0.0, range, d)", "exp(-d)"}) {
            moves.push_back({"falloff", "tried: the formula fits best",
                             [formula](shader_program& of) {
                                 of.formulas[slot::falloff] = formula;
                                 const bool ranged = std::string(formula).find("range") != std::string::npos;
                                 of.falloffs = std::vector{ranged ? falloff_kind::linear
                                                                  : falloff_kind::inverse_square};
                             },
                             ""});
        }
        return moves;
    }

    static std::vector<move> moves_of_cones() {
        std::vector<move> moves;
        for (const penumbra_kind kind : {penumbra_kind::smooth, penumbra_kind::ramp, penumbra_kind::hard,
                                         penumbra_kind::squared, penumbra_kind::power}) {
            moves.push_back({"penumbra", "tried: it fits best",
                             [kind](shader_program& of) { of.penumbras = std::vector{kind}; }, ""});
        }
        return moves;
    }

    static std::vector<move> moves_of_output() {
        std::vector<move> moves;
        for (const output_kind kind : {output_kind::linear, output_kind::srgb, output_kind::gamma}) {
            moves.push_back(
                {"output", "tried: it fits best", [kind](shader_program& of) { of.output = kind; }, ""});
        }
        return moves;
    }

    static std::vector<move> moves_of_claim() {
        const auto kinds = [](std::vector<light_kind> list) {
            return [list](shader_program& of) { of.kinds = list; };
        };
        using enum light_kind;
        return {
            {"kinds", "tried: it fits best", kinds({point}), ""},
            {"kinds", "tried: it fits best", kinds({directional}), ""},
            {"kinds", "tried: it fits best", kinds({spot}), ""},
            {"kinds", "tried: it fits best", kinds({directional, point}), ""},
            {"kinds", "tried: it fits best", kinds({directional, point, spot}), ""},
            {"rate", "tried: it fits best", [](shader_program& of) { of.rate = rate::vertex; }, ""},
            {"rate", "tried: it fits best", [](shader_program& of) { of.rate = rate::fragment; }, ""},
            {"scale", "tried: only there it fits",
             [](shader_program& of) { of.scale = scale_claim::uniform; }, "normal-without-inverse-transpose"},
            {"scale", "tried: only there it fits", [](shader_program& of) { of.scale = scale_claim::none; },
             "normal-without-inverse-transpose"},
            {"normals", "tried: it fits best", [](shader_program& of) { of.normals = normals_claim::face; },
             ""},
            {"ambient_rule", "tried: it fits best",
             [](shader_program& of) { of.ambient_rule = yurvo::ambient_rule::max; }, ""},
            {"ambient_follows", "tried: it fits best",
             [](shader_program& of) { of.follows = ambient_follows::nothing; }, "ambient-without-falloff"},
            {"ambient_follows", "tried: it fits best",
             [](shader_program& of) { of.follows = ambient_follows::distance; }, ""}};
    }

    // What only takes a catalogued mistake out of the claim comes last.
    static std::vector<move> moves_that_omit() {
        const auto formula = [](slot which, const char* text) {
            return [which, text](shader_program& of) { of.formulas[which] = text; };
        };
        const auto without = [](const char* what) {
            return [what](shader_program& of) {
                if (std::find(of.without.begin(), of.without.end(), what) == of.without.end()) {
                    of.without.emplace_back(what);
                }
            };
        };
        return {
            {"specular", "", formula(slot::specular, ""), ""},
            {"diffuse", "", formula(slot::diffuse, ""), ""},
            {"color", "", formula(slot::color, ""), ""},
            {"v", "", formula(slot::v, ""), ""},
            {"without", "", without("ambient"), "ambient-missing"},
            {"without", "", without("light.intensity"), "light-intensity-ignored"},
            {"without", "", without("light.color"), "light-color-ignored"},
            {"without", "", without("material.specular"), ""},
            {"without", "", without("material.base"), ""},
            {"specular", "no gate on n·l", formula(slot::specular, "pow(max(dot(n, h), 0.0), shininess)"),
             "specular-on-unlit-side"},
            {"specular", "no gate on n·l", formula(slot::specular, "pow(max(dot(r, v), 0.0), shininess)"),
             "specular-on-unlit-side"},
            {"specular", "",
             formula(slot::specular, "pow(max(dot(n, h), 0.0), shininess) * max(dot(n, l), 0.0)"),
             "specular-times-cosine"},
            {"specular", "",
             formula(slot::specular, "pow(max(dot(r, v), 0.0), shininess) * max(dot(n, l), 0.0)"),
             "specular-times-cosine"},
            {"specular", "",
             formula(slot::specular,
                     "dot(n, l) > 0.0 ? (shininess + 8.0) / (8.0 * pi) * pow(max(dot(n, h), 0.0), "
                     "shininess) : 0.0"),
             ""},
            {"specular", "",
             formula(slot::specular, "(shininess + 8.0) / (8.0 * pi) * pow(max(dot(n, h), 0.0), shininess) * "
                                     "max(dot(n, l), 0.0)"),
             ""},
            {"diffuse", "", formula(slot::diffuse, "dot(n, l) * 0.5 + 0.5"), ""},
            {"diffuse", "", formula(slot::diffuse, "pow(dot(n, l) * 0.5 + 0.5, 2.0)"), ""},
            {"diffuse", "", formula(slot::diffuse, "max(dot(n, l), 0.0) / pi"), "factor-pi"},
            {"diffuse", "", formula(slot::diffuse, "abs(dot(n, l))"), ""},
            {"color", "", formula(slot::color, "c / (c + 1.0)"), ""},
            {"color", "", formula(slot::color, "clamp(c, 0.0, 1.0)"), ""},
            {"color", "", formula(slot::color, "1.0 - exp(-c)"), ""},
            {"v", "", formula(slot::v, "axis"), "viewer-at-infinity"}};
    }

    // Every move at hand: what is asked of the whole program, of names that are open, and of names that could
    // be taken for one another.
    [[nodiscard]] std::vector<move> all_moves(const guessed_bindings& guessed) const {
        std::vector<move> moves;
        const auto add = [&](std::vector<move> more) {
            for (move& each : more) {
                for (const char* simpler :
                     {"scale", "kinds", "ambient_rule", "normals", "without", "ambient_follows"}) {
                    each.least_gain = each.about == simpler ? 0.3 : each.least_gain;
                }
            }
            moves.insert(moves.end(), std::make_move_iterator(more.begin()),
                         std::make_move_iterator(more.end()));
        };
        add(moves_of_space());
        add(moves_of_model());
        add(moves_of_output());
        add(moves_of_laws());
        add(moves_of_cones());
        add(moves_of_claim());
        for (const guessed_name& each : guessed.uniforms) {
            add(each.means.empty() ? moves_of_name(each.name) : moves_alike(each));
        }
        add(moves_that_omit());
        return moves;
    }

    // What is said of such a name about as often.
    [[nodiscard]] std::vector<move> moves_alike(const guessed_name& name) const {
        static const std::vector<std::vector<std::string>> groups{
            {"shines", "to_light", "axis", "place", "position"},
            {"color", "light", "diffuse_light", "diffuse"},
            {"specular", "specular_light", "light"},
            {"ambient", "ambient_light"},
            {"cos_inner", "inner", "inner_degrees"},
            {"cos_outer", "outer", "outer_degrees"},
            {"material.base", "material.diffuse", "= material.base * material.diffuse",
             "material.base_alpha"},
            {"material.ambient", "= material.base * material.ambient", "ambient.light", "material.base"},
            {"ambient.light", "ambient.color", "material.ambient"},
            {"material.specular", "material.specular[0]"},
            {"ambient.strength", "ambient.light[0]", "material.specular[0]", "material.ambient[0]"},
            {"view.eye", "object.eye", "view.axis"},
            {"object.to_world", "object.to_view", "object.to_clip"},
            {"object.normal_to_world", "object.normal_to_view", "object.to_world", "object.to_view"},
            {"view.world_to_clip", "view.view_to_clip", "object.to_clip"},
            {"lights.count", "lights.point.count", "lights.directional.count", "lights.spot.count"},
            {"material.texture", "material.texture_codes"}};
        const bool of_light = name.means.starts_with("lights") && name.means != "lights.count";
        const std::size_t dot = name.means.find_last_of('.');
        const std::string key = of_light ? name.means.substr(dot + 1) : name.means;
        const std::string before = of_light ? name.means.substr(0, dot + 1) : "";
        std::vector<move> moves;
        for (const std::vector<std::string>& group : groups) {
            if (std::find(group.begin(), group.end(), key) == group.end()) {
                continue;
            }
            for (const std::string& other : group) {
                if (other == key || (of_light && find_light_quantity(other) == nullptr) ||
                    (!of_light && other.find('.') == std::string::npos)) {
                    continue;
                }
                const std::string means = before + other;
                moves.push_back({name.name, "tried: it fits best",
                                 [name = name.name, means](shader_program& of) {
                                     const shader_binding* is = find_binding(of, name);
                                     const std::string now = is == nullptr ? "" : text_of(*is);
                                     bind(of, name,
                                          now.ends_with("_view") ? in_space(means, "_view") : means);
                                 },
                                 ""});
            }
        }
        return moves;
    }

    // Step by step the one move that helps most; where none does, a number that is written into the source.
    void run(const guessed_bindings& guessed) {
        set_options(guessed);
        try {
            result.off = off_of(result.program);
        } catch (const error&) { // what is bound so far makes no kind of light, perhaps
            if (compiled_ || result.program.kinds) {
                throw;
            }
            result.program.kinds = std::vector{light_kind::point};
            result.off = off_of(result.program);
        }
        const std::vector<move> moves = all_moves(guessed);
        for (int step = 0; step < 10 && result.off > 0 && in_time(); ++step) {
            if (!improve(moves) && !fit_numbers()) {
                break;
            }
        }
    }

    // Whether some name brings the quantity, or what it is a factor of.
    [[nodiscard]] bool is_bound(const std::string& quantity) const {
        const std::string property = quantity.substr(quantity.find_last_of('.') + 1);
        const bool of_light = quantity.starts_with("lights");
        for (const shader_binding& each : result.program.uniforms) {
            for (const auto& means : each.means) {
                const std::string* text = std::get_if<std::string>(&means);
                if (text == nullptr) {
                    continue;
                }
                const bool same = text->find(of_light ? "." + property : quantity) != std::string::npos;
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

    // A number that is written into the source, found by fitting.
    bool fit_numbers() {
        std::vector<verify::wrong_picture> wrong;
        std::unique_ptr<program_renderer> by = compiled_->with_claim(result.program);
        for (const scene& each : scenes_) {
            const fitted_scene fitted = by->fit(each);
            if (fitted.fitted) {
                scene larger = *fitted.fitted;
                larger.view.width = 160;
                larger.view.height = 100;
                wrong.push_back({larger, by->draw(larger)});
            }
        }
        const std::vector<verify::needed_number> found =
            verify::nearest_numbers(wrong, by->format(), by->tolerance());
        std::vector<move> moves;
        for (const verify::needed_number& each : found) {
            if (is_bound(each.quantity)) {
                continue;
            }
            moves.push_back({"[constants] " + each.quantity, "tried: the number that fits best",
                             [each](shader_program& of) {
                                 std::erase_if(of.constants, [&](const shader_constant& other) {
                                     return other.quantity == each.quantity;
                                 });
                                 of.constants.push_back({each.quantity, {each.value}, {of.file, 0, 0}});
                             },
                             ""});
        }
        return improve(moves, 0.01);
    }
};

// Where the lighting is worked out, as far as the text says: the stage that names a light or an eye's vector.
rate likely_rate(const shader_program& sources, const guessed_bindings& guessed) {
    const std::string fragment = without_comments(sources.fragment.source);
    for (const guessed_name& each : guessed.uniforms) {
        if (!each.means.starts_with("lights")) {
            continue;
        }
        const std::string first = each.name.substr(0, each.name.find_first_of("[."));
        if (std::regex_search(fragment, std::regex("\\b" + first + "\\b")) ||
            sources.language == shading_language::hlsl || sources.language == shading_language::spirv) {
            return rate::fragment;
        }
    }
    static const std::regex lights(R"(\bnormalize\s*\(|\bdot\s*\(|\breflect\s*\()");
    return std::regex_search(fragment, lights) ? rate::fragment : rate::vertex;
}

// A number or three as the source writes them: `const vec3 MOON = normalize(vec3(0.3, 0.8, 0.4));`.
struct written_constant {
    std::string name;
    std::vector<double> numbers;
};
std::vector<written_constant> constants_in(const std::string& text) {
    static const std::regex number(
        R"((?:const\s+(?:\w+\s+)?float|#\s*define)\s+(\w+)\s*=?\s*([0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?)f?\s*(?:;|\n))");
    static const std::regex triple(
        R"(const\s+(?:\w+\s+)?(?:vec3|float3)\s+(\w+)\s*=\s*(?:normalize\s*\(\s*)?(?:vec3|float3)\s*\(\s*([-+0-9.eE]+)\s*,\s*([-+0-9.eE]+)\s*,\s*([-+0-9.eE]+)\s*\))");
    std::vector<written_constant> result;
    for (std::sregex_iterator at(text.begin(), text.end(), triple), end; at != end; ++at) {
        result.push_back({(*at)[1],
                          {std::atof((*at)[2].str().c_str()), std::atof((*at)[3].str().c_str()),
                           std::atof((*at)[4].str().c_str())}});
    }
    for (std::sregex_iterator at(text.begin(), text.end(), number), end; at != end; ++at) {
        result.push_back({(*at)[1], {std::atof((*at)[2].str().c_str())}});
    }
    return result;
}

// What the source writes out is evidence: curves, where a stage turns its clip space, numbers with names.
void take_hints(shader_program& of, const std::string& text) {
    const auto has = [&](const char* pattern) { return std::regex_search(text, std::regex(pattern)); };
    const auto any_means = [&](const char* part) {
        return std::any_of(of.uniforms.begin(), of.uniforms.end(), [&](const shader_binding& each) {
            return text_of(each).find(part) != std::string::npos;
        });
    };
    if (has(R"(0?\.0031308|1\.055)")) {
        of.output = output_kind::srgb;
    } else if (has(R"(1\.0\s*/\s*2\.2|0?\.4545)")) {
        of.output = output_kind::gamma;
    }
    if (has(R"((\w+)\s*/\s*\(\s*\1\s*\+\s*(vec3\s*\(\s*|float3\s*\(\s*)?1)") ||
        has(R"((\w+)\s*/\s*\(\s*(vec3\s*\(\s*|float3\s*\(\s*)?1(\.0?)?\s*\)?\s*\+\s*\1)")) {
        of.formulas[slot::color] = "c / (c + 1.0)";
    }
    if (has(R"(gl_Position\.y\s*=\s*-|gl_Position\.y\s*\*=\s*-)")) {
        of.clip = clip_space::vulkan;
    } else if (has(R"(gl_Position\.z\s*=)")) {
        of.clip = clip_space::d3d;
    }
    const bool normals = std::any_of(of.attributes.begin(), of.attributes.end(),
                                     [](const shader_binding& each) { return text_of(each) == "normal"; });
    if (!normals && has(R"(\bdFdx\b|\bddx\b)")) {
        of.normals = normals_claim::face;
    }
    if (!any_means(".intensity")) { // a light's colour is all of its light then
        for (shader_binding& each : of.uniforms) {
            const std::string means = text_of(each);
            if (means.starts_with("lights") && means.ends_with(".color")) {
                each.means = {means.substr(0, means.size() - 5) + "light"};
            }
        }
    }
    const auto constant = [&](const char* quantity, std::vector<double> numbers) {
        of.constants.push_back({quantity, std::move(numbers), {of.file, 0, 0}});
    };
    for (const written_constant& each : constants_in(text)) {
        std::string name = each.name;
        std::transform(name.begin(), name.end(), name.begin(),
                       [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
        const auto names = [&](std::initializer_list<const char*> words) {
            return std::any_of(words.begin(), words.end(),
                               [&](const char* word) { return name.find(word) != std::string::npos; });
        };
        const bool three = each.numbers.size() == 3;
        if (names({"shin", "gloss", "tight", "power", "exponent"}) && !three && !any_means("shininess")) {
            constant("material.shininess", each.numbers);
        } else if (names({"ambient"}) && !any_means("ambient.")) {
            constant("ambient.light", each.numbers);
        } else if (names({"specular", "spec_", "ks"}) && !any_means("material.specular")) {
            constant("material.specular", each.numbers);
        } else if (three && !any_means("lights") &&
                   names({"dir", "to_", "tolight", "moon", "sun", "light", "lamp"})) {
            if (names({"color", "colour", "col", "rgb", "intens"})) {
                constant("lights[0].color", each.numbers);
                constant("lights[0].intensity", {1});
            } else if (names({"pos"})) {
                constant("lights[0].position", each.numbers);
                of.kinds = std::vector{light_kind::point};
            } else {
                constant("lights[0].to_light", each.numbers);
                of.kinds = std::vector{light_kind::directional};
            }
            of.lights = std::array<int, 2>{1, 1};
        }
    }
}

} // namespace

settled_guess settle(const shader_program& sources, const guessed_bindings& guessed,
                     const std::function<void(const std::string&)>& tell) {
    shader_program first = sources;
    first.rate = likely_rate(sources, guessed);
    const auto add = [&](std::vector<shader_binding>& to, const guessed_name& name,
                         const std::string& means) {
        shader_binding binding;
        binding.name = name.name;
        if (means.empty()) {
            binding.means = {1.0};
        } else {
            binding.means = {means};
        }
        binding.where = {first.file, 0, 0};
        to.push_back(std::move(binding));
    };
    for (const guessed_name& each : guessed.attributes) {
        add(first.attributes, each, each.means.empty() ? "position" : each.means);
    }
    std::map<std::string, std::string> how;
    for (const guessed_name& each : guessed.uniforms) {
        std::string means = each.means;
        if (means.empty()) {
            const std::vector<std::string> options =
                meanings_for(each.type, each.name.find("[*]") != std::string::npos, false);
            means = options.empty() ? "" : options.front();
            how[each.name] = "open: its name says nothing, and trying has not settled it";
        } else {
            how[each.name] = "by its name and type";
        }
        add(first.uniforms, each, means);
    }
    // A specular term that nobody feeds is none.
    const auto means_any = [&](std::initializer_list<const char*> parts) {
        return std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [&](const guessed_name& each) {
            return std::any_of(parts.begin(), parts.end(),
                               [&](const char* part) { return each.means.find(part) != std::string::npos; });
        });
    };
    const std::string text =
        without_comments(sources.fragment.source) + without_comments(sources.vertex.source);
    if (text.find("pow") == std::string::npos && !means_any({"specular", "shininess"})) {
        first.model = means_any({"lights"}) || text.find("dot") != std::string::npos ? model_kind::lambert
                                                                                     : model_kind::unlit;
    } else if (text.find("reflect") != std::string::npos) {
        first.model = model_kind::phong;
    }
    // Without a base colour the other factors hold it.
    const bool base =
        std::any_of(first.uniforms.begin(), first.uniforms.end(), [](const shader_binding& each) {
            return text_of(each).starts_with("material.base") || text_of(each) == "material.texture";
        });
    for (shader_binding& each : first.uniforms) {
        if (!base && (text_of(each) == "material.diffuse" || text_of(each) == "material.ambient")) {
            each.means = {"= material.base * " + text_of(each)};
        }
    }
    take_hints(first, text);
    trying all(first, tell);
    all.result.how = std::move(how);
    all.run(guessed);
    return std::move(all.result);
}

} // namespace yurvo::program
