#include "yurvo/verify/relations.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <tuple>

#include "pipeline/parallel.hpp"
#include "verify/cast.hpp"
#include "verify/range.hpp"
#include "verify/relation_scenes.hpp"
#include "verify/scene_changes.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// Borders are a line every few pixels at most, and a change of place moves a pixel across one now and then.
constexpr std::size_t most_at_borders = static_cast<std::size_t>(relation_width) * relation_height / 50;

struct expected_pixel {
    rgb<double> color;
    rgb<double> tolerance;
};

// What of a pixel's tolerance is used most by one of its colours.
struct used_share {
    double used = 0, tolerance = 0;
};
used_share share_of(const rgb<double>& is, const expected_pixel& must) {
    used_share most;
    for (const auto& [a, b, allowed] : {std::tuple{is.r, must.color.r, must.tolerance.r},
                                        {is.g, must.color.g, must.tolerance.g},
                                        {is.b, must.color.b, must.tolerance.b}}) {
        const double share = a == b ? 0 : std::abs(a - b) / std::max(allowed, 1e-300);
        if (!(share <= most.used)) {
            most = {std::isnan(share) ? std::numeric_limits<double>::infinity() : share, allowed};
        }
    }
    return most;
}

// Holds a picture, pixel by pixel, against what another one says it must be: by expected(x, y, tolerance),
// where the tolerance is that of one picture there. At a border either side may be seen: such pixels are
// counted, and capped.
template <class Expected>
check_result hold_each(const drawn_once& first, const picture& found, Expected&& expected) {
    check_result result;
    result.kind = "relation";
    if (found.width != first.found.width || found.height != first.found.height) {
        result.used = std::numeric_limits<double>::infinity();
        result.remark = "the second picture has another size";
        return result;
    }
    result.used = -1;
    std::size_t borders = 0;
    for (int y = 0; y < found.height; ++y) {
        for (int x = 0; x < found.width; ++x) {
            const rgb<double> is(found.color(x, y));
            expected_pixel must = expected(x, y, first.least_tolerance(x, y));
            used_share share = share_of(is, must);
            if (share.used <= std::min(result.used, 1.0)) {
                continue; // no more than another pixel uses, however large the whole tolerance is
            }
            must = expected(x, y, first.tolerance(x, y));
            share = share_of(is, must);
            // Once there are too many the picture is wrong whatever they show; no border explains what is no
            // number.
            if (share.used > 1 && std::isfinite(share.used) && borders <= most_at_borders &&
                first.at_border(x, y)) {
                ++borders;
                continue;
            }
            if (share.used > result.used) {
                result.used = share.used;
                result.tolerance = share.tolerance;
                result.x = x;
                result.y = y;
                result.measured = {is.r, is.g, is.b};
                result.expected = {must.color.r, must.color.g, must.color.b};
            }
        }
    }
    result.passed = result.used <= 1 && borders <= most_at_borders;
    result.remark = std::to_string(borders) + " pixels at borders";
    return result;
}

std::size_t place(const drawn_once& first, int x, int y) {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(first.found.width) +
           static_cast<std::size_t>(x);
}

// The first picture itself; both may be off by what rounding explains, and each such bound has been doubled
// already.
expected_pixel same(const drawn_once& first, int x, int y, const rgb<double>& tolerance) {
    return {rgb<double>(first.found.color(x, y)), tolerance};
}

bool always(const scene&) { return true; }

named_light light_without_name(const light& lamp) {
    named_light result;
    result.light = lamp;
    return result;
}

relation simple(const std::string& name, const std::string& says, std::function<bool(const scene&)> applies,
                std::function<scene(const scene&)> change) {
    return {name, says, std::move(applies),
            [change = std::move(change)](const drawn_once& first, const renderer& by) {
                return hold_each(
                    first, by.draw(change(first.scene)),
                    [&](int x, int y, const rgb<double>& tolerance) { return same(first, x, y, tolerance); });
            }};
}

check_result hold_superposition(const drawn_once& first, const renderer& by) {
    scene alone = first.scene;
    alone.lights.clear();
    picture sum = by.draw(alone);
    std::vector<double> total(sum.values.begin(), sum.values.end());
    // Of the others only what the light adds: without ambient light, emission and background.
    alone.ambient_strength = 0;
    alone.view.background = {};
    alone.formulas[formulas::slot::more].clear();
    for (named_material& entry : alone.materials) {
        entry.look.emission = {};
    }
    for (const named_light& lamp : first.scene.lights) {
        alone.lights = {lamp};
        const picture part = by.draw(alone);
        for (std::size_t i = 0; i < total.size(); ++i) {
            total[i] += static_cast<double>(part.values[i]); // alpha too, which nobody asks for
        }
    }
    const double additions = 2.0 + static_cast<double>(first.scene.lights.size());
    return hold_each(first, first.found, [&](int x, int y, const rgb<double>& tolerance) {
        const std::size_t i = 4 * place(first, x, y);
        const rgb<double> color{total[i], total[i + 1], total[i + 2]};
        return expected_pixel{color, tolerance + color * (2 * additions * u)};
    });
}

check_result hold_brightness(const drawn_once& first, const renderer& by) {
    return hold_each(first, by.draw(brightened(first.scene, 2)),
                     [&](int x, int y, const rgb<double>& tolerance) {
                         const expected_pixel expected = same(first, x, y, tolerance);
                         return expected_pixel{expected.color * 2, expected.tolerance * 2};
                     });
}

check_result hold_permutation(const drawn_once& first, const renderer& by) {
    return hold_each(first, by.draw(permuted(first.scene)), [&](int x, int y, const rgb<double>& tolerance) {
        const expected_pixel expected = same(first, x, y, tolerance);
        return expected_pixel{permuted(expected.color), permuted(expected.tolerance)};
    });
}

check_result hold_mirror(const drawn_once& first, const renderer& by) {
    const picture found = by.draw(mirrored(first.scene));
    picture back = found;
    for (int y = 0; y < found.height; ++y) {
        for (int x = 0; x < found.width; ++x) {
            back.set(x, y, found.color(found.width - 1 - x, y), found.alpha(found.width - 1 - x, y));
        }
    }
    return hold_each(first, back, [&](int x, int y, const rgb<double>& tolerance) {
        return same(first, x, y, tolerance);
    });
}

// A light that adds exactly nothing: every pixel is the same number.
check_result hold_nothing_added(const drawn_once& first, const renderer& by, const light& added) {
    scene more = first.scene;
    more.lights.push_back(light_without_name(added));
    return hold_each(first, by.draw(more), [&](int x, int y, const rgb<double>& /*tolerance*/) {
        return expected_pixel{rgb<double>(first.found.color(x, y)), {}};
    });
}

check_result hold_far_light(const drawn_once& first, const renderer& by) {
    // 2^20 m away the direction differs by at most the scene's extent over that, in radians; the eye and the
    // lit points are within some 20 m.
    constexpr double distance = 0x1p20;
    constexpr double turned = 20 / distance;
    // The steepest term: the cosine changes by 1 a radian, a highlight by no more than its exponent.
    rgb<double> steepest;
    for (const named_light& lamp : first.scene.lights) {
        if (lamp.light.kind != light_kind::directional) {
            continue;
        }
        for (const named_material& material : first.scene.materials) {
            const yurvo::material& look = material.look;
            steepest = max(steepest, lamp.light.color * lamp.light.intensity *
                                         (look.base * look.diffuse + look.specular * look.shininess));
        }
    }
    return hold_each(first, by.draw(with_far_lights(first.scene, distance)),
                     [&](int x, int y, const rgb<double>& tolerance) {
                         const expected_pixel expected = same(first, x, y, tolerance);
                         return expected_pixel{expected.color, expected.tolerance + steepest * turned};
                     });
}

// The diffuse colour of the point in the middle, with the eye in other places around it.
check_result hold_eye_moved(const drawn_once& first, const renderer& by) {
    check_result result;
    result.kind = "relation";
    scene flat = first.scene;
    flat.shading.model = model_kind::lambert;
    flat.view.width = 41; // odd: the middle of the picture is a pixel's centre
    flat.view.height = 27;
    const caster casts(flat);
    const std::optional<vec3<double>> middle = casts.place(20.5, 13.5);
    if (!middle) {
        return {}; // there is no point to look at
    }
    flat.view.target = *middle;
    const cast_color expected = caster(flat).at(20.5, 13.5);
    const picture before = by.draw(flat);
    result.expected = {before.color(20, 13).r, before.color(20, 13).g, before.color(20, 13).b};
    result.used = -1;
    for (const double angle : {-0.1, 0.05, 0.1}) {
        scene turned = flat;
        const vec3<double> from = flat.view.eye - *middle;
        turned.view.eye = *middle + vec3<double>{from.x * std::cos(angle) + from.z * std::sin(angle), from.y,
                                                 from.z * std::cos(angle) - from.x * std::sin(angle)};
        const rgb<double> found(by.draw(turned).color(20, 13));
        // Something else may have come between.
        const cast_color there = caster(turned).at(20.5, 13.5);
        const bool hidden =
            std::abs(there.color.g - expected.color.g) > expected.tolerance.g + there.tolerance.g;
        if (hidden) {
            continue;
        }
        const double off = std::abs(found.g - static_cast<double>(before.color(20, 13).g));
        const double tolerance = expected.tolerance.g + there.tolerance.g;
        const double used = off == 0 ? 0 : off / std::max(tolerance, 1e-300);
        if (!(used <= result.used)) {
            result.used = used;
            result.tolerance = tolerance;
            result.measured = {found.r, found.g, found.b};
            result.x = 20;
            result.y = 13;
        }
    }
    result.used = std::max(result.used, 0.0);
    result.passed = result.used <= 1;
    return result;
}

// Interpolating linearly misses by the square of a cell's side: half the side, a quarter of the error.
check_result hold_second_order(const drawn_once& first, const renderer& by) {
    check_result result;
    result.kind = "relation";
    scene coarse = first.scene;
    coarse.view.width = 320; // several pixels a cell, or where they fall would show
    coarse.view.height = 200;
    for (object& item : coarse.objects) {
        auto& plane = std::get<plane_shape>(item.shape);
        plane.cells[0] = plane.cells[1] = 1;
    }
    scene exact = coarse;
    exact.shading.rate = rate::fragment;
    coarse.shading.rate = rate::vertex;
    const picture target = by.draw(exact);
    const auto mean_error = [&](std::uint32_t cells) {
        const picture found = by.draw(subdivided(coarse, cells));
        double sum = 0;
        for (std::size_t i = 0; i < found.values.size(); i += 4) {
            sum += std::abs(static_cast<double>(found.values[i]) - target.values[i]);
        }
        return sum;
    };
    const double ratio = mean_error(24) / mean_error(48);
    result.measured = {ratio};
    result.expected = {4};
    result.tolerance = 0.5;
    result.used = std::abs(ratio - 4) / 0.5;
    result.passed = result.used <= 1;
    result.remark = "the mean error with 24 cells a side over that with 48";
    return result;
}

light dark_light() {
    light result;
    result.position = {0.3, 0.8, 0.4};
    result.intensity = 0;
    return result;
}

light light_from_below() {
    light result;
    result.kind = light_kind::directional;
    result.shines = {0.1, 1, -0.2};
    result.intensity = 3;
    return result;
}

} // namespace

const std::vector<relation>& relations() {
    static const std::vector<relation> all{
        simple(
            "bake", "an object's transform moved into its mesh changes nothing",
            [](const scene& the_scene) { return !has_fields(the_scene); }, baked),
        simple("move everything", "objects, lights and eye turned and moved together: nothing changes",
               always,
               [](const scene& the_scene) {
                   return moved(the_scene, 0.7, {1.5, -0.25, 2});
               }),
        {"superposition", "the picture is the sum of what each light makes alone", sums_lights,
         hold_superposition},
        {"doubled intensity", "every light, ambient light and emission doubled: twice the picture",
         sums_lights, hold_brightness},
        simple("doubled lengths",
               "everything twice as far and as big, lights as much brighter: nothing changes",
               lengths_can_double, doubled_lengths),
        {"a dark light", "a light of intensity 0 adds exactly nothing", always,
         [](const drawn_once& first, const renderer& by) {
             return hold_nothing_added(first, by, dark_light());
         }},
        {"a light below", "a light from below a level surface adds exactly nothing", level_planes,
         [](const drawn_once& first, const renderer& by) {
             return hold_nothing_added(first, by, light_from_below());
         }},
        simple(
            "swapped lights", "the order of the lights makes no difference",
            [](const scene& the_scene) { return the_scene.lights.size() > 1; },
            [](const scene& the_scene) {
                scene result = the_scene;
                std::reverse(result.lights.begin(), result.lights.end());
                return result;
            }),
        {"permuted channels", "red, green and blue exchanged everywhere: so they are in the picture",
         channels_are_alike, hold_permutation},
        simple(
            "subdivided plane", "a plane of more cells has the same picture per fragment",
            [](const scene& the_scene) {
                return only_planes(the_scene) && the_scene.shading.rate == rate::fragment;
            },
            [](const scene& the_scene) { return subdivided(the_scene, 3); }),
        {"mirror", "left and right exchanged: so they are in the picture", always, hold_mirror},
        {"a far light", "a point light far away is a directional one", has_directional, hold_far_light},
        {"eye moved", "at a fixed point diffuse light stays, wherever the eye goes",
         [](const scene& the_scene) {
             return sums_lights(the_scene) && the_scene.shading.rate != rate::face;
         },
         hold_eye_moved},
        {"finer cells", "per vertex tends to per fragment by the square of the cells' side",
         smoothly_lit_planes, hold_second_order}};
    return all;
}

} // namespace yurvo::inline v0_1::verify
