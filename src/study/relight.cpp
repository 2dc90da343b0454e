#include "yurvo/study/relight.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::study {

namespace {

constexpr std::size_t most_lights = 8;

term_choice only(term what) {
    term_choice chosen{false, false, false, false};
    for (const term_descriptor& each : term_list) {
        chosen.*each.chosen = each.kind == what;
    }
    return chosen;
}

bool is_black(const picture& of) {
    for (int y = 0; y < of.height; ++y) {
        for (int x = 0; x < of.width; ++x) {
            const rgb<float> c = of.color(x, y);
            if (c.r != 0 || c.g != 0 || c.b != 0) {
                return false;
            }
        }
    }
    return true;
}

// By how much two pictures differ, of 1 or of the larger one's value there.
double largest_difference(const picture& a, const picture& b) {
    double most = 0;
    for (std::size_t i = 0; i < a.values.size(); ++i) {
        if (i % 4 == 3) {
            continue;
        }
        const double one = static_cast<double>(a.values[i]);
        const double other = static_cast<double>(b.values[i]);
        const double share = std::abs(one - other) / std::max({1.0, std::abs(one), std::abs(other)});
        if (std::isnan(share)) { // which std::max() would pass over
            return std::numeric_limits<double>::infinity();
        }
        most = std::max(most, share);
    }
    return most;
}

// The scene under other lights, and the factors that its layers then have: each colour turned round, each
// brightness another one.
scene under_other_lights(const scene& of, relight parts, std::vector<rgb<double>>& factors) {
    scene changed = of;
    const auto turned = [](const rgb<double>& c) { return rgb<double>(c.g, c.b, c.r); };
    for (std::size_t i = 0; i < parts.lights.size(); ++i) {
        relit_light& light = parts.lights[i];
        if (light.lights > 1) {
            continue;
        }
        const double brighter = 0.5 + 0.25 * static_cast<double>(i % 4);
        light.color = turned(light.color);
        light.intensity *= brighter;
        changed.lights[i].light.color = light.color;
        changed.lights[i].light.intensity = light.intensity;
    }
    parts.ambient_color = turned(parts.ambient_color);
    parts.ambient_strength *= 1.5;
    changed.ambient_color = parts.ambient_color;
    changed.ambient_strength = parts.ambient_strength;
    for (const linear_layer& layer : parts.layers) {
        factors.push_back(own_factor(parts, layer));
    }
    return changed;
}

} // namespace

rgb<double> own_factor(const relight& parts, const linear_layer& of) {
    if (of.light) {
        const relit_light& light = parts.lights[*of.light];
        return light.color * light.intensity;
    }
    return of.what == term::ambient ? parts.ambient_color * parts.ambient_strength : rgb<double>(1.0);
}

picture add_up(const relight& parts, const std::vector<rgb<double>>& factors) {
    picture sum = parts.background;
    for (std::size_t i = 0; i < parts.layers.size(); ++i) {
        const auto& from = parts.layers[i].drawn.values;
        const std::array<float, 3> factor{static_cast<float>(factors[i].r), static_cast<float>(factors[i].g),
                                          static_cast<float>(factors[i].b)};
        for (std::size_t k = 0; k < from.size(); ++k) {
            sum.values[k] += k % 4 == 3 ? 0 : from[k] * factor[k % 4];
        }
    }
    return sum;
}

relight take_apart(const scene& the_scene, const renderer& by) {
    relight parts;
    parts.ambient_color = the_scene.ambient_color;
    parts.ambient_strength = the_scene.ambient_strength;
    if (!model_of(the_scene).lit) {
        parts.why_not = "its model shows base colours, whatever the lights";
        return parts;
    }
    scene dark = the_scene; // nothing but what is seen
    dark.expects.clear();
    dark.lights.clear();
    dark.ambient_strength = 0;
    parts.background = by.draw(dark, {.terms = {false, false, false, false}});
    scene black = dark;
    black.view.background = {};
    const auto add = [&](const scene& of, term what, std::optional<std::size_t> light) {
        picture drawn = by.draw(of, {.terms = only(what)});
        if (!is_black(drawn)) {
            parts.layers.push_back({what, light, std::move(drawn)});
        }
    };
    scene one = black;
    one.ambient_color = rgb<double>(1.0);
    one.ambient_strength = 1;
    add(one, term::ambient, std::nullopt);
    add(black, term::emission, std::nullopt);
    const std::size_t own = std::min(the_scene.lights.size(), most_lights);
    const auto add_light = [&](const scene& of) {
        const std::size_t index = parts.lights.size() - 1;
        for (const term what : {term::ambient, term::diffuse, term::specular}) {
            add(of, what, index);
        }
    };
    for (std::size_t i = 0; i < own; ++i) {
        scene lit = black;
        lit.lights = {the_scene.lights[i]};
        lit.lights[0].light.color = rgb<double>(1.0);
        lit.lights[0].light.intensity = 1;
        const light& lamp = the_scene.lights[i].light;
        parts.lights.push_back({label_of(the_scene.lights[i], i), lamp.color, lamp.intensity, 1});
        add_light(lit);
    }
    if (the_scene.lights.size() > own) {
        scene lit = black;
        lit.lights.assign(the_scene.lights.begin() + static_cast<std::ptrdiff_t>(own),
                          the_scene.lights.end());
        parts.lights.push_back(
            {"the other " + std::to_string(lit.lights.size()), rgb<double>(1.0), 1, lit.lights.size()});
        add_light(lit);
    }
    // Sums of up to 26 floats, each within a few roundings of what it would be alone.
    constexpr double rounding = 1e-4;
    std::vector<rgb<double>> factors;
    for (const linear_layer& layer : parts.layers) {
        factors.push_back(own_factor(parts, layer));
    }
    scene whole = the_scene;
    whole.expects.clear();
    parts.largest_off = largest_difference(add_up(parts, factors), by.draw(whole));
    factors.clear();
    const scene other = under_other_lights(whole, parts, factors);
    parts.largest_off =
        std::max(parts.largest_off, largest_difference(add_up(parts, factors), by.draw(other)));
    if (!(parts.largest_off <= rounding)) {
        parts.why_not = "its light is no sum of what each light adds";
        parts.layers.clear();
        parts.lights.clear();
    }
    return parts;
}

} // namespace yurvo::inline v0_1::study
