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

} // namespace

curves curves_of(const scene& the_scene) {
    curves result;
    std::vector<law> falloffs;
    std::vector<law> penumbras;
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        const light& lamp = the_scene.lights[i].light;
        light_laws laws{label_of(the_scene.lights[i], i), lamp.kind, "neither falloff nor penumbra"};
        if (lamp.kind != light_kind::directional) {
            laws.laws = words_of_falloff(lamp);
            add_law(falloffs, laws.laws, lamp, laws.name);
            const bool ranged = descriptor_of(lamp.falloff).range;
            result.farthest = std::max(result.farthest, ranged ? 1.2 * lamp.range : 0);
        }
        if (lamp.kind == light_kind::spot) {
            add_law(penumbras, words_of_penumbra(lamp), lamp, laws.name);
            laws.laws += "; " + words_of_penumbra(lamp);
            result.widest = std::max(result.widest, std::min(180.0, 1.25 * degrees(lamp.outer)));
        }
        result.lights.push_back(std::move(laws));
    }
    for (const law& the_law : falloffs) {
        result.falloffs.push_back(falloff_curve(the_law, result.farthest));
    }
    for (const law& the_law : penumbras) {
        result.penumbras.push_back(penumbra_curve(the_law, result.widest));
    }
    return result;
}

} // namespace yurvo::study
