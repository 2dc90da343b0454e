#include "yurvo/study/cost.hpp"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <cstdlib>

#include <fmt/format.h>

#include "yurvo/numeric/assert.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/instruction_set.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/shape_list.hpp"
#include "yurvo/study/comparison.hpp"

namespace yurvo::inline v0_1::study {

namespace {

using clock = std::chrono::steady_clock;
constexpr double thousand = 1000;

double milliseconds_since(clock::time_point begin) {
    return std::chrono::duration<double>(clock::now() - begin).count() * thousand;
}

// The value with that share of the others below it.
double quantile(std::vector<double> values, double share) {
    std::sort(values.begin(), values.end());
    return values[static_cast<std::size_t>(std::lround(share * static_cast<double>(values.size() - 1)))];
}

double timed_draw(repeated_drawing& drawing) {
    const clock::time_point begin = clock::now();
    drawing.draw();
    return milliseconds_since(begin);
}

struct measured {
    rate_cost cost;
    picture drawn;
};

measured measure(const scene& the_scene, const renderer& by, rate at, const cost_settings& settings) {
    scene changed = the_scene;
    changed.shading.rate = at;
    draw_settings drawn_so;
    drawn_so.threads = settings.threads;
    const std::unique_ptr<repeated_drawing> drawing = by.repeat(changed, drawn_so);
    measured result;
    result.cost.at = at;
    result.drawn = drawing->draw(); // to warm up
    std::vector<double> times;
    std::vector<double> vertices;
    std::vector<double> visibility;
    std::vector<double> shading;
    std::vector<double> encodings;
    for (int i = 0; i < settings.repeat; ++i) {
        times.push_back(timed_draw(*drawing));
        // What the stages took of the threads' time, as parts of the frame's.
        const draw_statistics spent = drawing->statistics();
        const double all = spent.vertex_seconds + spent.visibility_seconds + spent.shading_seconds;
        const double scale = all > 0 ? times.back() / all : 0;
        vertices.push_back(spent.vertex_seconds * scale);
        visibility.push_back(spent.visibility_seconds * scale);
        shading.push_back(spent.shading_seconds * scale);
        const clock::time_point begin = clock::now();
        const std::vector<std::uint8_t> codes = codes_of(result.drawn);
        encodings.push_back(milliseconds_since(begin));
    }
    result.cost.median = quantile(times, 0.5);
    result.cost.lower = quantile(times, 0.25);
    result.cost.upper = quantile(times, 0.75);
    result.cost.vertices = quantile(vertices, 0.5);
    result.cost.visibility = quantile(visibility, 0.5);
    result.cost.shading = quantile(shading, 0.5);
    result.cost.encoding = quantile(encodings, 0.5);
    result.cost.statistics = drawing->statistics();
    return result;
}

// What the figures mean for a choice.
std::vector<std::string> advice_on(const std::vector<rate_cost>& all, bool fields) {
    std::vector<std::string> says;
    const rate_cost& fragment = all.back();
    for (const rate_cost& cost : all) {
        if (cost.at == rate::fragment) {
            continue;
        }
        const double ratio = fragment.median / cost.median;
        const int codes = cost.codes_off;
        const std::string name = "per " + std::string(name_of(cost.at));
        const std::string speed = ratio > 1.1 ? fmt::format("{:.1f} times as fast as per fragment", ratio)
                                  : ratio < 0.9
                                      ? fmt::format("{:.1f} times as slow as per fragment", 1 / ratio)
                                      : std::string("no faster than per fragment");
        const std::string price = codes <= 1 ? std::string("and looks the same")
                                             : fmt::format("and up to {} of 255 codes away from it", codes);
        const std::string why = cost.statistics.evaluations > fragment.statistics.evaluations
                                    ? ": it runs the model more often than there are pixels to see"
                                    : "";
        says.push_back(fmt::format("{} is {}{}, {}.", name, speed, why, price));
    }
    const double pixels = fragment.shading / std::max(1e-9, fragment.median);
    const double found = fragment.visibility / std::max(1e-9, fragment.median);
    const std::string of_time =
        fmt::format("Per fragment, {:.0f} % of the time goes into ", 100 * std::max(pixels, found));
    if (pixels >= found) {
        says.push_back(
            of_time +
            "pixels, lit and written: a smaller picture or fewer lights help, fewer triangles hardly.");
    } else if (fields) {
        says.push_back(
            of_time +
            "meeting the implicit surfaces ray by ray: a smaller picture helps, or meshes instead.");
    } else {
        says.push_back(
            of_time +
            "finding what is seen: a smaller picture or fewer triangles help, fewer lights hardly.");
    }
    return says;
}

// Every shape's cells times a factor, at least the fewest that it may have.
scene tessellated(const scene& the_scene, double factor) {
    scene result = the_scene;
    for (object& item : result.objects) {
        const shape_cells& known = descriptor_of(item.shape).cells;
        for (std::size_t i = 0; known.of != nullptr && i < 2; ++i) {
            std::uint32_t& cells = known.of(item.shape)[i];
            cells = std::clamp(static_cast<std::uint32_t>(std::lround(cells * factor)),
                               known.least_for_triangles[i], 1024U);
        }
    }
    return result;
}

std::size_t triangles_of(const scene& the_scene) {
    std::size_t count = 0;
    for (const object& item : the_scene.objects) {
        count += triangle_count(item.shape);
    }
    return count;
}

// The scene's lights again and again, as many as asked for.
scene with_lights(const scene& the_scene, std::size_t count) {
    scene result = the_scene;
    result.lights.clear();
    for (std::size_t i = 0; i < count; ++i) {
        named_light lamp = the_scene.lights[i % the_scene.lights.size()];
        lamp.name.clear();
        result.lights.push_back(lamp);
    }
    return result;
}

void say(const cost_settings& settings, const std::string& what) {
    if (settings.tell) {
        settings.tell(what);
    }
}

double median_of(const scene& the_scene, const renderer& by, rate at, const cost_settings& settings) {
    scene changed = the_scene;
    changed.shading.rate = at;
    draw_settings drawn_so;
    drawn_so.threads = settings.threads;
    const std::unique_ptr<repeated_drawing> drawing = by.repeat(changed, drawn_so);
    drawing->draw();
    // A frame that takes long is as long whenever it is drawn, and there are many points on a curve.
    constexpr double long_enough = 250; // milliseconds
    const int most = std::max(3, settings.repeat / 3);
    std::vector<double> times;
    double all = 0;
    while (times.empty() || (static_cast<int>(times.size()) < most && all < long_enough)) {
        times.push_back(timed_draw(*drawing));
        all += times.back();
    }
    return quantile(times, 0.5);
}

} // namespace

cost measure_cost(const scene& the_scene, const renderer& by, const cost_settings& settings) {
    YURVO_ASSERT(settings.repeat >= 1 && settings.threads >= 0);
    cost result;
    result.model = by.name_for(the_scene);
    result.drawn_by = by.drawn_by();
    result.instruction_set = std::string(
        pipeline::instruction_set_names[static_cast<std::size_t>(pipeline::chosen_instruction_set())]);
    std::vector<measured> all;
    for (const rate at : by.rates_for(the_scene)) {
        say(settings, fmt::format("measuring per {}", name_of(at)));
        all.push_back(measure(the_scene, by, at, settings));
    }
    for (measured& point : all) {
        point.cost.codes_off = std::abs(compare_pictures(all.back().drawn, point.drawn).codes.largest);
        result.rates.push_back(point.cost);
    }
    if (result.drawn_by.empty()) { // a driver does not say where its time goes
        const bool fields =
            std::any_of(the_scene.objects.begin(), the_scene.objects.end(),
                        [](const object& item) { return std::holds_alternative<field_shape>(item.shape); });
        result.advice = advice_on(result.rates, fields);
    }
    say(settings, "");
    return result;
}

cost_growth measure_growth(const scene& the_scene, const renderer& by, const cost_settings& settings) {
    YURVO_ASSERT(settings.repeat >= 1 && settings.threads >= 0);
    say(settings, "measuring more cells and lights");
    cost_growth result;
    for (const rate at : by.rates_for(the_scene)) {
        cost_curve& by_triangles = result.by_triangles.emplace_back(cost_curve{at, {}});
        for (const double factor : {0.25, 1.0, 4.0, 8.0, 16.0}) {
            const scene changed = tessellated(the_scene, factor);
            const double thousands = static_cast<double>(triangles_of(changed)) / thousand;
            if (by_triangles.points.empty() || thousands > by_triangles.points.back().first) {
                by_triangles.points.emplace_back(thousands, median_of(changed, by, at, settings));
            }
        }
        if (the_scene.lights.empty()) {
            continue;
        }
        cost_curve& by_lights = result.by_lights.emplace_back(cost_curve{at, {}});
        for (const std::size_t count : {1U, 4U, 8U, 16U, 32U}) {
            by_lights.points.emplace_back(static_cast<double>(count),
                                          median_of(with_lights(the_scene, count), by, at, settings));
        }
    }
    say(settings, "");
    return result;
}

} // namespace yurvo::inline v0_1::study
