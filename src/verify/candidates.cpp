#include "verify/candidates.hpp"

#include <algorithm>
#include <cmath>

#include "pipeline/parallel.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// To find the likeliest of many pairs, or a factor, so few pixels do.
constexpr std::size_t samples_of_pairs = 700;

// The factor near a guess that fits best: golden section.
double best_exposure(const compared_picture& on, const point_painter& painter, const mistake_set& wrong,
                     double guess, const std::vector<pixel_place>& places) {
    std::vector<lit_pixel> drawn;
    drawn.reserve(places.size());
    for (const pixel_place& at : places) {
        drawn.push_back(painter.at(at.x, at.y));
    }
    const auto residual = [&](double exposure) {
        double sum = 0;
        for (std::size_t i = 0; i < places.size(); ++i) {
            // What rounding to codes explains does not count: a wide background would pull the factor its
            // way.
            const double by =
                on.off_by(on.found_at(places[i]), fine_codes(drawn[i], wrong, on.held, exposure));
            const double off = std::min(most_off, std::max(0.0, by - on.tolerance / 2));
            sum += off * off;
        }
        return sum;
    };
    constexpr double golden = 0.6180339887498949;
    double low = guess * 0.94;
    double high = guess * 1.06;
    for (int i = 0; i < 24; ++i) {
        const double a = high - golden * (high - low);
        const double b = low + golden * (high - low);
        const bool lower = residual(a) < residual(b);
        (lower ? high : low) = lower ? b : a;
    }
    return (low + high) / 2;
}

} // namespace

std::vector<mistake> applicable(const compared_picture& on) {
    std::vector<mistake> built;
    for (const mistake_entry& entry : all_mistakes()) {
        const bool of_codes = entry.which == mistake::output_wraps;
        if (applies(entry.which, on.the_scene,
                    own_model_of(on.the_scene, on.right_renderer) != nullptr ? lit_by::own_model
                                                                             : lit_by::scene_model) &&
            !(of_codes && is_float(on.held))) {
            built.push_back(entry.which);
        }
    }
    return built;
}

void rank(const compared_picture& on, std::vector<suspect>& all, const std::vector<pixel_place>& places) {
    pipeline::for_each_of(
        all.size(), [&](std::size_t i) { all[i].residual = on.fit_of(all[i], places, false).residual; });
    std::stable_sort(all.begin(), all.end(),
                     [](const suspect& a, const suspect& b) { return a.residual < b.residual; });
}

std::optional<double> exposure_of(const compared_picture& on, const suspect& candidate) {
    const mistake_set wrong = candidate.set();
    const point_painter painter = on.painter(wrong);
    std::vector<double> ratios;
    const std::vector<pixel_place>& places = on.samples.empty() ? on.compared : on.samples;
    for (const pixel_place& at : places) {
        const codes code = on.found_at(at);
        const rgb<double> color(on.found.color(at.x, at.y));
        const lit_pixel expected = painter.at(at.x, at.y);
        const auto add = [&](double got, double want, double as_code) {
            if (want > 1e-3 && as_code > 24 && (is_float(on.held) || as_code < 250)) {
                ratios.push_back(got / want);
            }
        };
        add(color.r, expected.color.r, code[0]);
        add(color.g, expected.color.g, code[1]);
        add(color.b, expected.color.b, code[2]);
    }
    if (ratios.size() < 50) {
        return std::nullopt;
    }
    std::sort(ratios.begin(), ratios.end());
    const double low = ratios[ratios.size() / 4];
    const double middle = ratios[ratios.size() / 2];
    const double high = ratios[ratios.size() * 3 / 4];
    const bool uniform = high - low < 0.12 * middle; // rounding to codes scatters the dark ones
    if (!uniform || std::abs(middle - 1) < 0.01 || !(middle > 0)) {
        return std::nullopt;
    }
    return best_exposure(on, painter, wrong, middle, some_of(places, samples_of_pairs));
}

std::vector<suspect> exposed_suspects(const compared_picture& on, const std::vector<suspect>& singles) {
    std::vector<std::optional<double>> exposures(singles.size());
    pipeline::for_each_of(singles.size(), [&](std::size_t i) { exposures[i] = exposure_of(on, singles[i]); });
    std::vector<suspect> built;
    for (std::size_t i = 0; i < singles.size(); ++i) {
        if (exposures[i]) {
            built.push_back({singles[i].which, 0, *exposures[i]});
        }
    }
    rank(on, built, on.samples);
    built.resize(std::min(built.size(), verified_suspects));
    return built;
}

std::vector<suspect> likely_pairs(const compared_picture& on, const std::vector<suspect>& singles,
                                  const std::vector<mistake>& candidates) {
    std::vector<suspect> pairs;
    const auto add = [&](mistake a, mistake b) {
        suspect built{{std::min(a, b), std::max(a, b)}, 0, 1};
        const bool known = a == b || std::any_of(pairs.begin(), pairs.end(), [&](const suspect& candidate) {
                               return candidate.which == built.which;
                           });
        if (!known) {
            pairs.push_back(std::move(built));
        }
    };
    for (const mistake a : candidates) {
        if (is_of_output(a)) {
            for (const mistake b : candidates) {
                add(a, b);
            }
        }
    }
    constexpr std::size_t nearest_singles = 10;
    std::size_t taken = 0;
    for (const suspect& candidate : singles) {
        if (candidate.which.size() == 1 && !is_of_output(candidate.which.front()) &&
            taken++ < nearest_singles) {
            for (const mistake b : candidates) {
                add(candidate.which.front(), b);
            }
        }
    }
    const std::vector<pixel_place> few = some_of(
        on.samples, std::max<std::size_t>(200, samples_of_pairs * 8 / (on.the_scene.lights.size() + 6)));
    // A hundred pixels leave out most: the pair that explains the picture is off at none.
    rank(on, pairs, some_of(few, 100));
    pairs.resize(std::min<std::size_t>(pairs.size(), 150));
    rank(on, pairs, few);
    pairs.resize(std::min<std::size_t>(pairs.size(), 24));
    rank(on, pairs, on.samples);
    pairs.resize(std::min<std::size_t>(pairs.size(), verified_suspects / 2));
    return pairs;
}

} // namespace yurvo::inline v0_1::verify
