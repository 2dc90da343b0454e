#include "program/unit_normals.hpp"

#include <algorithm>
#include <cmath>

#include "program/fit.hpp"
#include "verify/cast.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// A colour that ends at 1 is a few roundings below that, once a shader has encoded it: half of the last code.
constexpr double as_good_as_white = 1 - 0.5 / 255;

} // namespace

bool fits_unit_at_vertices(const shader_program& source, const claims& claimed,
                           const std::function<picture(const scene&)>& draw) {
    if (source.rate != rate::fragment || source.scale != scale_claim::any) {
        return true;
    }
    scene buoys = verify::find_reference("buoys")->scene;
    buoys.view.width = 96;
    buoys.view.height = 60;
    // Diffuse light alone, of one light, and its brightness left open: whatever else may be wrong with
    // the program should not decide this.
    buoys.ambient_strength = 0;
    for (named_material& entry : buoys.materials) {
        entry.look.specular = {};
    }
    if (std::find(claimed.kinds.begin(), claimed.kinds.end(), light_kind::directional) !=
            claimed.kinds.end() &&
        !claimed.in_order) {
        std::erase_if(buoys.lights,
                      [](const named_light& lamp) { return lamp.light.kind != light_kind::directional; });
    }
    const fitted_scene fitted = fit_to(claimed, buoys);
    if (!fitted.fitted) {
        return true;
    }
    picture drawn;
    try {
        drawn = draw(*fitted.fitted);
    } catch (const program_stopped&) { // it will be told by what is to be drawn
        return true;
    }
    const auto off = [&](bool at_vertices) {
        const verify::caster casts(*fitted.fitted, {.unit_at_vertices = at_vertices});
        double products = 0; // of found and expected, and so on: for the factor that fits best
        double expected_squares = 0;
        double found_squares = 0;
        for (int y = 0; y < drawn.height; ++y) {
            for (int x = 0; x < drawn.width; ++x) {
                const double expected = casts.at(x + 0.5, y + 0.5).color.r;
                const double found = drawn.color(x, y).r;
                if (source.output != output_kind::linear && found > as_good_as_white) {
                    continue; // clamped: how much brighter it would be is not there
                }
                products += expected * found;
                expected_squares += expected * expected;
                found_squares += found * found;
            }
        }
        const double sum = expected_squares > 0 ? found_squares - products * products / expected_squares : 0;
        return sum;
    };
    return off(true) <= off(false) || std::isnan(off(true));
}

} // namespace yurvo::inline v0_1::program
