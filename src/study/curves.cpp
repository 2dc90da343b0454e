#include "yurvo/study/curves.hpp"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "yurvo/scene/law_text.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::study {

namespace {

constexpr int samples = 400;

// How a law is written on the sheet.
std::string words_of_falloff(const light& of) {
    return std::string(name_of(of.falloff)) + ": " + falloff_law_text(of, "d", 4);
}

std::string words_of_penumbra(const light& of) {
    const penumbra_descriptor& penumbra = descriptor_of(of.penumbra);
    const double outer = degrees(of.outer);
    if (penumbra.exponent) {
        return fmt::format("{}: cos θ to the {:.4g} within {:.4g}°", penumbra.name, of.exponent, outer);
    }
    return penumbra.ramped
               ? fmt::format("{} from {:.4g}° to {:.4g}°", penumbra.name, degrees(of.inner), outer)
               : fmt::format("{} within {:.4g}°", penumbra.name, outer);
}

struct law {
    std::string words;
    light of;
    std::vector<std::string> lights;
};

void add_law(std::vector<law>& laws, const std::string& words, const light& of, const std::string& name) {
    for (law& known : laws) {
        if (known.words == words) {
            known.lights.push_back(name);
            return;
        }
    }
    laws.push_back({words, of, {name}});
}

template <class Value> law_curve curve_of(const law& of, double most, Value&& value) {
    law_curve made{of.words, of.lights, {}};
    for (int i = 0; i <= samples; ++i) {
        const double at = most * i / samples;
        made.points.emplace_back(at, value(at));
    }
    return made;
}

law_curve falloff_curve(const law& of, double farthest) {
    const ready_light<double> ready = make_ready<double>(of.of);
    return curve_of(of, farthest, [&](double d) {
        return falloff_at<formula, double>(ready, std::max(d, 1e-9), ready.law());
    });
}

law_curve penumbra_curve(const law& of, double widest) {
    light at_origin = of.of;
    at_origin.shines = {0, 0, -1};
    const ready_light<double> ready = make_ready<double>(at_origin);
    return curve_of(of, widest, [&](double angle) {
        const double theta = radians(angle);
        return penumbra_at<formula, double>(ready, {std::sin(theta), 0, std::cos(theta)}, ready.law());
    });
}

} // namespace

curves curves_of(const scene& of) {
    curves result;
    std::vector<law> falloffs;
    std::vector<law> penumbras;
    for (std::size_t i = 0; i < of.lights.size(); ++i) {
        const light& one = of.lights[i].light;
        light_laws told{label_of(of.lights[i], i), one.kind, "neither falloff nor penumbra"};
        if (one.kind != light_kind::directional) {
            told.laws = words_of_falloff(one);
            add_law(falloffs, told.laws, one, told.name);
            const bool ranged = descriptor_of(one.falloff).range;
            result.farthest = std::max(result.farthest, ranged ? 1.2 * one.range : 0);
        }
        if (one.kind == light_kind::spot) {
            add_law(penumbras, words_of_penumbra(one), one, told.name);
            told.laws += "; " + words_of_penumbra(one);
            result.widest = std::max(result.widest, std::min(180.0, 1.25 * degrees(one.outer)));
        }
        result.lights.push_back(std::move(told));
    }
    for (const law& one : falloffs) {
        result.falloffs.push_back(falloff_curve(one, result.farthest));
    }
    for (const law& one : penumbras) {
        result.penumbras.push_back(penumbra_curve(one, result.widest));
    }
    return result;
}

} // namespace yurvo::study
