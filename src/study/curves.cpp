#include "yurvo/study/curves.hpp"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "yurvo/formula/evaluate.hpp"
#include "yurvo/scene/law_text.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::inline v0_1::study {

namespace {

constexpr int samples = 400;

// A formula of one's own in the place of a law, asked for a light at a distance and an angle: what it asks
// for besides is as on a surface that faces the light, its material the scene's first.
class asked_formula {
    const formulas::expression& formula_;
    std::vector<formulas::components> known_;

    void set(formulas::input which, const vec3<double>& v) { known_[index_of(which)] = {v.x, v.y, v.z, 0}; }
    void set(formulas::input which, double value) { known_[index_of(which)] = {value, 0, 0, 0}; }

  public:
    asked_formula(const scene& the_scene, const formulas::formula_set& set_of, formulas::slot which,
                  const light& lamp)
        : formula_(*set_of[which]), known_(formulas::input_count + set_of.numbers.size()) {
        using formulas::input;
        const ready_light<double> ready = make_ready<double>(lamp);
        const vec3<double> up{0, 1, 0};
        for (const input each : {input::n, input::l, input::v, input::h, input::r}) {
            set(each, up);
        }
        set(input::eye, the_scene.view.eye);
        set(input::axis, normalize(the_scene.view.eye - the_scene.view.target));
        const auto color = [&](input each, const rgb<double>& c) { set(each, vec3<double>{c.r, c.g, c.b}); };
        color(input::light_color, lamp.color * lamp.intensity);
        set(input::coefficients, ready.coefficients);
        if (!the_scene.materials.empty()) {
            const material& look = the_scene.materials.front().look;
            color(input::base, look.base);
            color(input::material_ambient, look.ambient);
            color(input::material_diffuse, look.diffuse);
            color(input::material_specular, look.specular);
            color(input::emission, look.emission);
            set(input::shininess, look.shininess);
        }
        set(input::range, ready.seen_range);
        set(input::cos_inner, ready.cos_inner);
        set(input::cos_outer, ready.cos_outer);
        set(input::inner, ready.inner);
        set(input::outer, ready.outer);
        set(input::exponent, ready.seen_exponent);
        set(input::cos_theta, 1);
        set(input::pi, pi);
        set(input::front, 1);
        for (std::size_t i = 0; i < set_of.numbers.size(); ++i) {
            const std::vector<double>& values = set_of.numbers[i].values;
            std::copy(values.begin(), values.end(), known_[formulas::input_count + i].begin());
        }
    }
    double at(formulas::input which, double value) {
        set(which, value);
        return evaluate(formula_, known_)[0];
    }
};

// How a law is written on the sheet.
std::string words_of_falloff(const light& lamp) {
    return std::string(name_of(lamp.falloff)) + ": " + falloff_law_text(lamp, "d", 4);
}

std::string words_of_penumbra(const light& lamp) {
    const penumbra_descriptor& penumbra = descriptor_of(lamp.penumbra);
    const double outer = degrees(lamp.outer);
    if (penumbra.exponent) {
        return fmt::format("{}: cos θ to the {:.4g} within {:.4g}°", penumbra.name, lamp.exponent, outer);
    }
    return penumbra.ramped
               ? fmt::format("{} from {:.4g}° to {:.4g}°", penumbra.name, degrees(lamp.inner), outer)
               : fmt::format("{} within {:.4g}°", penumbra.name, outer);
}

struct law {
    std::string words;
    light of;
    std::vector<std::string> lights;
};

void add_law(std::vector<law>& laws, const std::string& words, const light& lamp, const std::string& name) {
    for (law& known : laws) {
        if (known.words == words) {
            known.lights.push_back(name);
            return;
        }
    }
    laws.push_back({words, lamp, {name}});
}

template <class Value> law_curve curve_of(const law& the_law, double most, Value&& value) {
    law_curve result{the_law.words, the_law.lights, {}};
    for (int i = 0; i <= samples; ++i) {
        const double at = most * i / samples;
        result.points.emplace_back(at, value(at));
    }
    return result;
}

law_curve falloff_curve(const law& the_law, double farthest) {
    const ready_light<double> ready = make_ready<double>(the_law.of);
    return curve_of(the_law, farthest, [&](double d) {
        return falloff_at<formula, double>(ready, std::max(d, 1e-9), ready.law());
    });
}

law_curve penumbra_curve(const law& the_law, double widest) {
    light at_origin = the_law.of;
    at_origin.shines = {0, 0, -1};
    const ready_light<double> ready = make_ready<double>(at_origin);
    return curve_of(the_law, widest, [&](double angle) {
        const double theta = radians(angle);
        return penumbra_at<formula, double>(ready, {std::sin(theta), 0, std::cos(theta)}, ready.law());
    });
}

// The numbers of a light that a formula asks for, so that lights with other numbers are other curves.
std::string numbers_of(const light& lamp, const formulas::formula_set& own, formulas::slot which) {
    using formulas::input;
    std::string text;
    const auto add = [&](input asked, const std::string& value) {
        if (own[which]->uses(index_of(asked))) {
            text += (text.empty() ? "; " : ", ") + std::string(descriptor_of(asked).name) + " = " + value;
        }
    };
    const std::array<double, 3> k = coefficients_of(lamp);
    add(input::coefficients, fmt::format("[{:.4g}, {:.4g}, {:.4g}]", k[0], k[1], k[2]));
    add(input::range, fmt::format("{:.4g}", lamp.range));
    if (lamp.kind == light_kind::spot) {
        add(input::cos_inner, fmt::format("{:.4g}", std::cos(lamp.inner)));
        add(input::cos_outer, fmt::format("{:.4g}", std::cos(lamp.outer)));
        add(input::inner, fmt::format("{:.4g}", lamp.inner));
        add(input::outer, fmt::format("{:.4g}", lamp.outer));
        add(input::exponent, fmt::format("{:.4g}", lamp.exponent));
    }
    return text;
}

} // namespace

curves curves_of(const scene& the_scene) {
    curves result;
    const formulas::formula_set own = parse_all(the_scene.formulas, the_scene.numbers);
    const bool own_falloff = own.has(formulas::slot::falloff);
    const bool own_penumbra = own.has(formulas::slot::penumbra);
    std::vector<law> falloffs;
    std::vector<law> penumbras;
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        const light& lamp = the_scene.lights[i].light;
        light_laws laws{label_of(the_scene.lights[i], i), lamp.kind, "neither falloff nor penumbra"};
        if (lamp.kind != light_kind::directional) {
            laws.laws = own_falloff ? "falloff = " + the_scene.formulas[formulas::slot::falloff] +
                                          numbers_of(lamp, own, formulas::slot::falloff)
                                    : words_of_falloff(lamp);
            add_law(falloffs, laws.laws, lamp, laws.name);
            const bool ranged = own_falloff ? lamp.range > 0 : descriptor_of(lamp.falloff).range;
            result.farthest = std::max(result.farthest, ranged ? 1.2 * lamp.range : 0);
        }
        if (lamp.kind == light_kind::spot) {
            const std::string words = own_penumbra
                                          ? "penumbra = " + the_scene.formulas[formulas::slot::penumbra] +
                                                numbers_of(lamp, own, formulas::slot::penumbra)
                                          : words_of_penumbra(lamp);
            add_law(penumbras, words, lamp, laws.name);
            laws.laws += "; " + words;
            result.widest = std::max(result.widest, std::min(180.0, 1.25 * degrees(lamp.outer)));
        }
        result.lights.push_back(std::move(laws));
    }
    for (const law& the_law : falloffs) {
        if (own_falloff) {
            asked_formula formula(the_scene, own, formulas::slot::falloff, the_law.of);
            result.falloffs.push_back(curve_of(the_law, result.farthest, [&](double d) {
                return formula.at(formulas::input::d, std::max(d, 1e-9));
            }));
            continue;
        }
        result.falloffs.push_back(falloff_curve(the_law, result.farthest));
    }
    for (const law& the_law : penumbras) {
        if (own_penumbra) {
            asked_formula formula(the_scene, own, formulas::slot::penumbra, the_law.of);
            result.penumbras.push_back(curve_of(the_law, result.widest, [&](double angle) {
                return formula.at(formulas::input::cos_theta, std::cos(radians(angle)));
            }));
            continue;
        }
        result.penumbras.push_back(penumbra_curve(the_law, result.widest));
    }
    return result;
}

} // namespace yurvo::inline v0_1::study
