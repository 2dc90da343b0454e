#include "yurvo/verify/explain.hpp"

#include <algorithm>
#include <cmath>

#include "verify/point_by_point.hpp"
#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

using triple = std::array<double, 3>;

triple triple_of(const rgb<double>& color) { return {color.r, color.g, color.b}; }

struct interval {
    double low = 0, high = 0;
};

// The linear values that may have been found: all that round to one code, or to one float after a thousand
// operations.
interval may_be(double linear, pixel_format held) {
    if (holds_floats(held)) {
        const double off = 1000 * 0x1p-24 * std::max(std::abs(linear), 1e-3);
        return {linear - off, linear + off};
    }
    const bool curve = held == pixel_format::srgb_codes;
    const double code = std::round(255 * (curve ? srgb_encoded(linear) : linear));
    const auto back = [&](double at) {
        const double share = std::clamp(at / 255, 0.0, 1.0);
        return curve ? srgb_decoded(share) : share;
    };
    // What is clamped may have been anything beyond.
    return {code <= 0 ? -1e9 : back(code - 0.5), code >= 255 ? 1e9 : back(code + 0.5)};
}

// The factors on `part`, the rest staying as it is, that give what was found in every component.
std::optional<double> factor_for(const triple& part, const triple& whole,
                                 const std::array<interval, 3>& found) {
    interval factor{-1e9, 1e9};
    bool any = false;
    for (std::size_t c = 0; c < 3; ++c) {
        const double rest = whole[c] - part[c];
        if (std::abs(part[c]) < 1e-9) { // it cannot help here: the rest has to do
            if (rest < found[c].low || rest > found[c].high) {
                return std::nullopt;
            }
            continue;
        }
        any = true;
        const double a = (found[c].low - rest) / part[c];
        const double b = (found[c].high - rest) / part[c];
        factor.low = std::max(factor.low, std::min(a, b));
        factor.high = std::min(factor.high, std::max(a, b));
    }
    if (!any || factor.low > factor.high) {
        return std::nullopt;
    }
    if (factor.low <= -1e8 || factor.high >= 1e8) { // clamped: the least change
        return factor.low <= -1e8 ? factor.high : factor.low;
    }
    const double zero_or_one = factor.low <= 0 && factor.high >= 0 ? 0 : 1;
    return factor.low <= zero_or_one && factor.high >= zero_or_one ? zero_or_one
                                                                   : (factor.low + factor.high) / 2;
}

} // namespace

explanation explain(const scene& the_scene, int x, int y, const renderer& by) {
    YURVO_ASSERT(x >= 0 && x < the_scene.view.width && y >= 0 && y < the_scene.view.height);
    painting how;
    how.own = own_model_of(the_scene, by);
    return point_painter(the_scene, {}, see(the_scene), how).explain(x, y);
}

std::vector<needed_change> changes_needed(const explanation& explained, const rgb<double>& found,
                                          pixel_format held) {
    const triple whole = triple_of(explained.linear);
    const triple got = triple_of(found);
    std::array<interval, 3> wanted;
    bool agrees = true;
    for (std::size_t c = 0; c < 3; ++c) {
        wanted[c] = may_be(got[c], held);
        const double here = held == pixel_format::floats ? whole[c] : std::clamp(whole[c], 0.0, 1.0);
        agrees = agrees && here >= wanted[c].low && here <= wanted[c].high;
    }
    std::vector<needed_change> result;
    if (agrees || !explained.object) {
        return result;
    }
    const auto add = [&](const rgb<double>& part, const std::string& what, const std::string& number,
                         double is) {
        if (const std::optional<double> factor = factor_for(triple_of(part), whole, wanted)) {
            result.push_back({what, *factor, number, is, is * *factor});
        }
    };
    const explained_point& point = explained.point;
    for (const explained_light& light : point.lights) {
        const std::string whose = light.name + "'s ";
        if (light.ambient != rgb<double>{}) {
            add(light.ambient, whose + "ambient part", "", 0);
        }
        add(light.diffuse, whose + "diffuse", explained.rate == rate::vertex ? "" : "n·l", light.cosine);
        add(light.specular, whose + "specular", explained.rate == rate::vertex ? "" : "the highlight",
            light.highlight);
        const bool falls = light.kind != light_kind::directional && explained.rate != rate::vertex;
        if (light.specular != rgb<double>{} && light.diffuse != rgb<double>{}) {
            add(light.diffuse + light.specular, "all light of " + light.name, falls ? "falloff" : "",
                light.falloff);
        }
    }
    add(point.ambient, "ambient", "", 0);
    add(point.emission, "emission", "", 0);
    if (point.lights.size() > 1) {
        rgb<double> diffuse;
        rgb<double> specular;
        for (const explained_light& light : point.lights) {
            diffuse = diffuse + light.diffuse;
            specular = specular + light.specular;
        }
        add(diffuse, "diffuse of all lights", "", 0);
        add(specular, "specular of all lights", "", 0);
    }
    add(explained.linear, "the whole colour", "", 0);
    return result;
}

} // namespace yurvo::inline v0_1::verify
