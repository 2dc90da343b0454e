#include "yurvo/verify/diagnose.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <limits>

#include "pipeline/parallel.hpp"
#include "verify/makeup.hpp"
#include "verify/point_by_point.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"

namespace yurvo::verify {

namespace {

// Codes, 0 to 255, not rounded: red, green, blue, alpha.
using codes = std::array<double, 4>;

struct pixel_place {
    int x = 0, y = 0;
};

// How far apart what is right may be, in codes: half for rounding to whole ones and as much again for two
// programs that round differently; between pictures of floats a fiftieth, which is a hundred roundings of a
// colour of 1 where the curve is steepest (12.92 · 255 · 2⁻²⁴ each).
constexpr double tolerance_of_codes = 1.0;
constexpr double tolerance_of_floats = 0.02;
// A driver evaluates up to 1/256 pixel beside the centre: a quarter of a code where a highlight climbs 32
// codes from one pixel to the next, doubled.
constexpr double tolerance_of_programs = 0.25;
// Half floats have 11 bits: an eighth of a code each rounding near white, a dozen of them and more in a
// highlight.
constexpr double tolerance_of_half_floats = 3.0;
// Beyond this a pixel is simply off; how far does not matter.
constexpr double most_off = 32;
// At most so many pixels are compared for a verdict, and so many to find suspects.
constexpr std::size_t most_compared = 300'000;
constexpr std::size_t samples_of_suspects = 4'000;
constexpr std::size_t samples_of_pairs = 700;
constexpr std::size_t verified_suspects = 10;
// Before all pixels are compared with a suspect's, so many have to agree; and so many tell whether two
// suspects give one picture.
constexpr std::size_t first_compared = 12'000;
// A make-up that comes near to fewer of the samples says little.
constexpr double least_fit = 0.8;
constexpr std::size_t compared_for_ties = 60'000;
// Rounding at borders that are no edges of objects (a cone's, a band's) may put so many pixels on the other
// side: one in 350.
constexpr double share_at_borders = 1.0 / 350;
// An explanation leaves at most so much of what is off unexplained ...
constexpr double unexplained = 0.15;
// ... and explains at least so many pixels: a scattered few would fit anything.
constexpr std::size_t least_explained = 24;

bool is_float(pixel_format held) { return held == pixel_format::floats || held == pixel_format::srgb_floats; }

double fine_code(double linear, const mistake_set& wrong, pixel_format held) {
    const encoding how = held == pixel_format::linear_codes ? encoding::linear : encoding::srgb;
    if (wrong.has(mistake::output_wraps) && !is_float(held)) {
        return code_with(linear, wrong, how); // modulo needs whole codes
    }
    double value = linear;
    if (!is_float(held)) {
        value = std::clamp(value, 0.0, 1.0);
        int times = how == encoding::srgb ? 1 : 0;
        times = wrong.has(mistake::encode_missing) ? 0 : wrong.has(mistake::encode_twice) ? 2 * times : times;
        for (int i = 0; i < times; ++i) {
            value = srgb_encoded(value);
        }
        return 255 * value;
    }
    if (held == pixel_format::srgb_floats) { // was clamped and decoded
        value = std::clamp(value, 0.0, 1.0);
    }
    // Floats are compared on the curve too, which goes on beyond 1 and, straight, below 0.
    if (wrong.has(mistake::encode_twice)) {
        value = srgb_encoded(std::clamp(value, 0.0, 1.0));
    } else if (wrong.has(mistake::encode_missing)) {
        value = srgb_decoded(std::clamp(value, 0.0, 1.0));
    }
    return 255 * srgb_encoded(value);
}

codes fine_codes(const lit_pixel& pixel, const mistake_set& wrong, pixel_format held, double exposure = 1) {
    return {fine_code(pixel.color.r * exposure, wrong, held),
            fine_code(pixel.color.g * exposure, wrong, held),
            fine_code(pixel.color.b * exposure, wrong, held), 255 * pixel.alpha};
}

// A picture held against hypotheses.
class investigation {
    scene of_;
    const picture& found_;
    pixel_format held_;
    tolerance_model allowed_;
    const renderer& right_renderer_;
    std::shared_ptr<const seen_scene> seen_;
    picture right_;
    bool with_alpha_ = true;
    std::vector<unsigned char> edge_; // pixels where an object's edge is near: they are not compared
    std::vector<pixel_place> compared_;
    std::vector<pixel_place> samples_;
    double tolerance_ = tolerance_of_codes;
    double noise_ = 0;

  public:
    diagnosis result;

    investigation(const scene& of, const picture& found, pixel_format held, const tolerance_model& allowed,
                  const renderer& right)
        : of_(of), found_(found), held_(held), allowed_(allowed), right_renderer_(right) {
        fit_size();
        seen_ = see(of_);
        right_ = allowed_.unit_at_vertices ? right.draw(of_) : painter({}).whole();
        look_at_alpha();
        mark_edges();
        choose_compared();
        measure_noise();
    }

    // How a hypothesis fits: the pixels that are off, and the residual.
    struct fit {
        std::size_t off = 0;
        double residual = 0; // root mean square in codes, each pixel's cut at most_off
    };

    void run() {
        const fit as_right = fit_of_right(1);
        result.residual = as_right.residual;
        result.compared = compared_.size();
        result.off = as_right.off;
        result.tolerance = tolerance_;
        if (as_right.off <= 4 && as_right.off <= compared_.size() / 500) {
            conclude_right();
            return;
        }
        choose_samples();
        const std::vector<mistake> candidates = applicable();
        std::vector<suspect> singles;
        singles.reserve(candidates.size());
        for (const mistake one : candidates) {
            singles.push_back({{one}, 0, 1});
        }
        rank(singles, samples_);
        if (accept(singles, as_right)) {
            conclude_mistake(singles);
            return;
        }
        if (as_right.off <= scattered()) { // nothing explains the few: they are the borders' own
            conclude_right();
            return;
        }
        if (const std::optional<double> exposure = exposure_of(suspect{})) {
            const fit exposed = fit_of_right(*exposure);
            if (exposed.off <= scattered()) {
                result.exposure = *exposure;
                result.remarks.push_back("all light is " + factor_text(*exposure) +
                                         " times what it should be: an exposure, uniform over the picture");
                conclude_right();
                return;
            }
        }
        std::vector<suspect> pairs = likely_pairs(singles, candidates);
        if (accept(pairs, as_right)) {
            conclude_mistake(pairs);
            return;
        }
        std::vector<suspect> exposed = exposed_suspects(singles);
        if (accept(exposed, as_right)) {
            conclude_mistake(exposed);
            return;
        }
        result.verdict = verdict_kind::unknown;
        singles.insert(singles.end(), pairs.begin(), pairs.end());
        std::stable_sort(singles.begin(), singles.end(),
                         [](const suspect& a, const suspect& b) { return a.residual < b.residual; });
        singles.resize(std::min<std::size_t>(singles.size(), 3));
        result.mistakes = singles;
        make_up({});
    }

  private:
    [[nodiscard]] point_painter painter(const mistake_set& wrong) const {
        return {of_, wrong, seen_, {{}, allowed_.unit_at_vertices, right_renderer_.own_model()}};
    }

    static std::string factor_text(double factor) {
        std::string text = std::to_string(std::round(factor * 1000) / 1000);
        return text.substr(0, text.find('.') + 4);
    }

    // So many pixels may be off for no reason but rounding.
    [[nodiscard]] std::size_t scattered() const {
        const double share = noise_ > 0 ? 4 * share_at_borders : share_at_borders;
        return std::max<std::size_t>(4,
                                     static_cast<std::size_t>(share * static_cast<double>(compared_.size())));
    }

    void fit_size() {
        view& seen = of_.view;
        of_.expects.clear();
        if (seen.width != found_.width || seen.height != found_.height) {
            result.remarks.push_back("the picture is " + std::to_string(found_.width) + "x" +
                                     std::to_string(found_.height) + ", the scene's view " +
                                     std::to_string(seen.width) + "x" + std::to_string(seen.height) +
                                     ": the scene is drawn in the picture's size");
            seen.width = found_.width;
            seen.height = found_.height;
        }
        result.drawn = of_;
    }

    void look_at_alpha() {
        const bool right_has = has_transparency(right_);
        const bool found_has = has_transparency(found_);
        if (right_has && !found_has) {
            with_alpha_ = false;
            result.remarks.emplace_back("the picture holds no alpha, the scene does: alpha is not compared");
        }
    }

    [[nodiscard]] std::uint32_t object_at(std::uint32_t triangle) const {
        return triangle == pipeline::visibility::nothing
                   ? triangle
                   : static_cast<std::uint32_t>(place_of(seen_->staged, triangle).object);
    }

    // Near the border of an object a pixel may show either side; so may it where triangles meet whose light
    // differs.
    void mark_edges() {
        const pipeline::visibility& visible = seen_->visible;
        const int width = visible.width;
        const int height = visible.height;
        edge_.assign(right_.pixels(), 0);
        pipeline::for_each_of(height, [&](int y) {
            for (int x = 0; x < width; ++x) {
                const std::size_t here = visible.index(x, y);
                const std::uint32_t id = visible.triangles[here];
                const rgb<float> color = right_.color(x, y);
                bool edge = false;
                for (int j = std::max(0, y - 1); j <= std::min(height - 1, y + 1) && !edge; ++j) {
                    for (int i = std::max(0, x - 1); i <= std::min(width - 1, x + 1) && !edge; ++i) {
                        const std::uint32_t other = visible.triangles[visible.index(i, j)];
                        if (other == id) {
                            continue;
                        }
                        edge =
                            object_at(other) != object_at(id) || far_apart(color, right_.color(i, j)) ||
                            folded(visible.inverse_depth[here], visible.inverse_depth[visible.index(i, j)]);
                    }
                }
                edge_[here] = edge ? 1 : 0;
            }
        });
    }
    static bool far_apart(const rgb<float>& a, const rgb<float>& b) {
        const auto off = [](float p, float q) {
            return std::abs(fine_code(static_cast<double>(p), {}, pixel_format::srgb_codes) -
                            fine_code(static_cast<double>(q), {}, pixel_format::srgb_codes)) > 6;
        };
        return off(a.r, b.r) || off(a.g, b.g) || off(a.b, b.b);
    }
    // Within one object, one part before another.
    static bool folded(float a, float b) { return std::abs(a - b) > 0.1F * std::max(a, b); }

    void choose_compared() {
        const std::size_t all = right_.pixels();
        const auto step = static_cast<int>(
            std::ceil(std::sqrt(static_cast<double>(all) / static_cast<double>(most_compared))));
        for (int y = step / 2; y < right_.height; y += std::max(1, step)) {
            for (int x = step / 2; x < right_.width; x += std::max(1, step)) {
                if (edge_[seen_->visible.index(x, y)] == 0) {
                    compared_.push_back({x, y});
                }
            }
        }
    }

    [[nodiscard]] codes found_at(const pixel_place& at) const {
        const rgb<double> color(found_.color(at.x, at.y));
        // What was read from codes becomes the same codes again.
        codes made{fine_code(color.r, {}, held_), fine_code(color.g, {}, held_),
                   fine_code(color.b, {}, held_), 255 * static_cast<double>(found_.alpha(at.x, at.y))};
        if (!is_float(held_)) {
            for (double& one : made) {
                one = std::round(one);
            }
        }
        return made;
    }
    [[nodiscard]] lit_pixel right_at(const pixel_place& at) const {
        return {rgb<double>(right_.color(at.x, at.y)), static_cast<double>(right_.alpha(at.x, at.y))};
    }

    // Compression leaves noise: how much is seen where the right picture is smooth, from how the second
    // differences along a row scatter (√6 times the noise of one pixel), beyond what rounding makes.
    void measure_noise() {
        tolerance_ = !is_float(held_)                ? tolerance_of_codes
                     : allowed_.precision > 1e4      ? tolerance_of_half_floats
                     : allowed_.texel > 0            ? 2 * tolerance_of_codes
                     : allowed_ == tolerance_model{} ? tolerance_of_floats
                                                     : tolerance_of_programs;
        if (is_float(held_)) {
            return;
        }
        std::vector<double> bends;
        const std::size_t step = std::max<std::size_t>(1, compared_.size() / 20'000);
        for (std::size_t i = 0; i < compared_.size(); i += step) {
            const pixel_place& at = compared_[i];
            if (at.x < 1 || at.x + 1 >= found_.width) {
                continue;
            }
            const auto bend = [&](auto&& code) { return code(at.x - 1) - 2 * code(at.x) + code(at.x + 1); };
            const double of_right = bend(
                [&](int x) { return fine_code(static_cast<double>(right_.color(x, at.y).g), {}, held_); });
            const double of_found = bend([&](int x) { return found_at({x, at.y})[1]; });
            if (std::abs(of_right) < 0.5 && found_at(at)[1] > 4 && found_at(at)[1] < 250) {
                bends.push_back(std::abs(of_found));
            }
        }
        if (bends.size() < 100) {
            return;
        }
        std::nth_element(bends.begin(), bends.begin() + static_cast<std::ptrdiff_t>(bends.size() / 2),
                         bends.end());
        const double of_pixel = 1.4826 * bends[bends.size() / 2] / std::sqrt(6.0);
        if (of_pixel > 0.7) { // rounding alone: a median of 1 is 0.61
            noise_ = of_pixel;
            tolerance_ += 4 * noise_;
            result.remarks.push_back("the picture is noisy, as compression leaves it: about " +
                                     factor_text(noise_) + " codes; what is finer is not told apart");
        }
    }

    [[nodiscard]] double off_by(const codes& a, const codes& b) const {
        double most = 0;
        for (std::size_t c = 0; c < (with_alpha_ ? 4U : 3U); ++c) {
            most = std::max(most, std::abs(a[c] - b[c]));
        }
        return std::isnan(most) ? most_off : most;
    }

    template <class Hypothesis>
    fit measure(const std::vector<pixel_place>& places, Hypothesis&& hypothesis, bool in_parallel) const {
        constexpr std::size_t piece = 1024;
        const std::size_t pieces = (places.size() + piece - 1) / piece;
        std::vector<fit> parts(pieces);
        const auto one_piece = [&](std::size_t p) {
            const std::size_t end = std::min(places.size(), (p + 1) * piece);
            for (std::size_t i = p * piece; i < end; ++i) {
                const double off = off_by(found_at(places[i]), hypothesis(places[i]));
                parts[p].off += off > tolerance_ ? 1U : 0U;
                parts[p].residual += std::min(off, most_off) * std::min(off, most_off);
            }
        };
        if (in_parallel) {
            pipeline::for_each_of(pieces, one_piece);
        } else {
            for (std::size_t p = 0; p < pieces; ++p) {
                one_piece(p);
            }
        }
        fit sum;
        for (const fit& part : parts) {
            sum.off += part.off;
            sum.residual += part.residual;
        }
        sum.residual = std::sqrt(sum.residual / static_cast<double>(std::max<std::size_t>(1, places.size())));
        return sum;
    }

    [[nodiscard]] fit fit_of_right(double exposure) const {
        return measure(
            compared_, [&](const pixel_place& at) { return fine_codes(right_at(at), {}, held_, exposure); },
            true);
    }
    [[nodiscard]] fit fit_of(const suspect& one, const std::vector<pixel_place>& places,
                             bool in_parallel) const {
        const mistake_set wrong = one.set();
        const point_painter painter = this->painter(wrong);
        return measure(
            places,
            [&](const pixel_place& at) {
                return fine_codes(painter.at(at.x, at.y), wrong, held_, one.exposure);
            },
            in_parallel);
    }

    // At most so many of the places, evenly from all. The step is a fraction, so that they do not stand in
    // columns.
    static std::vector<pixel_place> some_of(const std::vector<pixel_place>& from, std::size_t most) {
        std::vector<pixel_place> made;
        const double step = std::max(1.0, static_cast<double>(from.size()) / static_cast<double>(most));
        const auto count = static_cast<std::size_t>(std::ceil(static_cast<double>(from.size()) / step));
        for (std::size_t i = 0; i < count; ++i) {
            made.push_back(
                from[std::min(from.size() - 1, static_cast<std::size_t>(static_cast<double>(i) * step))]);
        }
        return made;
    }

    // Places that tell hypotheses apart: half of them where the right picture is off, the rest anywhere.
    void choose_samples() {
        std::vector<pixel_place> off;
        std::vector<pixel_place> well;
        for (const pixel_place& at : compared_) {
            const bool is_off = off_by(found_at(at), fine_codes(right_at(at), {}, held_)) > tolerance_;
            (is_off ? off : well).push_back(at);
        }
        const std::size_t most = std::clamp<std::size_t>(samples_of_suspects * 8 / (of_.lights.size() + 4),
                                                         800, samples_of_suspects);
        samples_ = some_of(off, most / 2);
        const std::vector<pixel_place> rest = some_of(well, most / 2);
        samples_.insert(samples_.end(), rest.begin(), rest.end());
    }

    [[nodiscard]] std::vector<mistake> applicable() const {
        std::vector<mistake> made;
        for (const mistake_entry& one : all_mistakes()) {
            const bool of_codes = one.which == mistake::output_wraps;
            if (applies(one.which, of_,
                        right_renderer_.own_model() != nullptr ? lit_by::own_model : lit_by::scene_model) &&
                !(of_codes && is_float(held_))) {
                made.push_back(one.which);
            }
        }
        return made;
    }

    // By the residual at the samples, best first.
    void rank(std::vector<suspect>& all, const std::vector<pixel_place>& places) const {
        pipeline::for_each_of(
            all.size(), [&](std::size_t i) { all[i].residual = fit_of(all[i], places, false).residual; });
        std::stable_sort(all.begin(), all.end(),
                         [](const suspect& a, const suspect& b) { return a.residual < b.residual; });
    }

    // Holds the best of the ranked ones against all compared pixels. True where some explain the picture:
    // they come first then, best first, with the residual over all pixels.
    bool accept(std::vector<suspect>& ranked, const fit& as_right) {
        struct verified {
            suspect one;
            fit how;
        };
        std::vector<verified> tried;
        for (std::size_t i = 0; i < ranked.size(); ++i) {
            // Those that are as good as the best at the samples are always tried.
            if (i >= verified_suspects && ranked[i].residual > ranked.front().residual + 0.1) {
                break;
            }
            const std::vector<pixel_place> first = some_of(compared_, first_compared);
            const fit at_first = fit_of(ranked[i], first, true);
            if (at_first.off > 8 + 2 * scattered() * first.size() / compared_.size()) {
                ranked[i].residual = at_first.residual;
                continue;
            }
            const fit how = fit_of(ranked[i], compared_, true);
            ranked[i].residual = how.residual;
            const double most = std::max(4.0, unexplained * static_cast<double>(as_right.off));
            const bool explains = static_cast<double>(how.off) <= most && how.off <= scattered() &&
                                  as_right.off >= how.off + least_explained;
            if (explains) {
                tried.push_back({ranked[i], how});
            }
        }
        if (tried.empty()) {
            return false;
        }
        std::stable_sort(tried.begin(), tried.end(), [](const verified& a, const verified& b) {
            return a.how.off != b.how.off ? a.how.off < b.how.off : a.how.residual < b.how.residual;
        });
        result.off_with = tried.front().how.off;
        ranked.clear();
        for (const verified& one : tried) {
            ranked.push_back(one.one);
        }
        return true;
    }

    // The uniform factor between a suspect's light and the picture's, where there is one; nothing where it is
    // 1 or differs from place to place.
    [[nodiscard]] std::optional<double> exposure_of(const suspect& one) const {
        const mistake_set wrong = one.set();
        const point_painter painter = this->painter(wrong);
        std::vector<double> ratios;
        const std::vector<pixel_place>& places = samples_.empty() ? compared_ : samples_;
        for (const pixel_place& at : places) {
            const codes code = found_at(at);
            const rgb<double> given(found_.color(at.x, at.y));
            const lit_pixel expected = painter.at(at.x, at.y);
            const auto add = [&](double got, double want, double as_code) {
                if (want > 1e-3 && as_code > 24 && (is_float(held_) || as_code < 250)) {
                    ratios.push_back(got / want);
                }
            };
            add(given.r, expected.color.r, code[0]);
            add(given.g, expected.color.g, code[1]);
            add(given.b, expected.color.b, code[2]);
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
        return best_exposure(painter, wrong, middle, some_of(places, samples_of_pairs));
    }

    // The factor near a guess that fits best: golden section.
    [[nodiscard]] double best_exposure(const point_painter& painter, const mistake_set& wrong, double guess,
                                       const std::vector<pixel_place>& places) const {
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
                const double by = off_by(found_at(places[i]), fine_codes(drawn[i], wrong, held_, exposure));
                const double off = std::min(most_off, std::max(0.0, by - tolerance_ / 2));
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

    [[nodiscard]] std::vector<suspect> exposed_suspects(const std::vector<suspect>& singles) const {
        std::vector<std::optional<double>> exposures(singles.size());
        pipeline::for_each_of(singles.size(), [&](std::size_t i) { exposures[i] = exposure_of(singles[i]); });
        std::vector<suspect> made;
        for (std::size_t i = 0; i < singles.size(); ++i) {
            if (exposures[i]) {
                made.push_back({singles[i].which, 0, *exposures[i]});
            }
        }
        rank(made, samples_);
        made.resize(std::min(made.size(), verified_suspects));
        return made;
    }

    // Pairs: what becomes of the picture with every other mistake, and the nearest single ones with all.
    [[nodiscard]] std::vector<suspect> likely_pairs(const std::vector<suspect>& singles,
                                                    const std::vector<mistake>& candidates) const {
        std::vector<suspect> pairs;
        const auto add = [&](mistake a, mistake b) {
            suspect made{{std::min(a, b), std::max(a, b)}, 0, 1};
            const bool known = a == b || std::any_of(pairs.begin(), pairs.end(), [&](const suspect& one) {
                                   return one.which == made.which;
                               });
            if (!known) {
                pairs.push_back(std::move(made));
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
        for (const suspect& one : singles) {
            if (one.which.size() == 1 && !is_of_output(one.which.front()) && taken++ < nearest_singles) {
                for (const mistake b : candidates) {
                    add(one.which.front(), b);
                }
            }
        }
        const std::vector<pixel_place> few =
            some_of(samples_, std::max<std::size_t>(200, samples_of_pairs * 8 / (of_.lights.size() + 6)));
        rank(pairs, few);
        pairs.resize(std::min<std::size_t>(pairs.size(), 24));
        rank(pairs, samples_);
        pairs.resize(std::min<std::size_t>(pairs.size(), verified_suspects / 2));
        return pairs;
    }

    void conclude_right() {
        result.verdict = verdict_kind::right;
        result.off_with = result.off;
        make_up({});
    }

    void conclude_mistake(std::vector<suspect>& explained) {
        result.verdict = verdict_kind::mistake;
        const suspect& best = explained.front();
        find_ties(explained);
        decide_place(best);
        if (best.exposure != 1) {
            result.remarks.push_back("all light is " + factor_text(best.exposure) +
                                     " times what the mistake alone gives");
        }
        make_up(best);
        result.mistakes = explained;
    }

    // Single mistakes whose pictures are the best one's, to within what the picture can show.
    void find_ties(const std::vector<suspect>& explained) {
        const suspect& best = explained.front();
        if (best.which.size() != 1) {
            return;
        }
        const mistake_set wrong = best.set();
        const point_painter painter = this->painter(wrong);
        const std::vector<pixel_place> places = some_of(compared_, compared_for_ties);
        std::vector<codes> of_best(places.size());
        const auto each_place = [&](auto&& use) { pipeline::for_each_of(places.size(), use); };
        each_place([&](std::size_t p) {
            of_best[p] = fine_codes(painter.at(places[p].x, places[p].y), wrong, held_);
        });
        std::vector<mistake> same{best.which.front()};
        for (std::size_t i = 1; i < explained.size(); ++i) {
            if (explained[i].which.size() != 1 || explained[i].exposure != best.exposure) {
                continue;
            }
            const mistake_set other = explained[i].set();
            const point_painter of_other = this->painter(other);
            std::atomic<std::size_t> apart = 0;
            each_place([&](std::size_t p) {
                const codes here = fine_codes(of_other.at(places[p].x, places[p].y), other, held_);
                apart += off_by(of_best[p], here) > tolerance_ ? 1U : 0U;
            });
            if (apart <= 4 + places.size() / 20'000) {
                same.push_back(explained[i].which.front());
            }
        }
        if (same.size() > 1) {
            result.ties = same;
            result.separated_by = scene_that_separates(same);
        }
    }

    // Where the right picture is farthest off and the suspect's is not.
    void decide_place(const suspect& best) {
        const mistake_set wrong = best.set();
        const point_painter painter = this->painter(wrong);
        double most = -1;
        const std::vector<pixel_place>& places = samples_;
        for (const pixel_place& at : places) {
            const codes here = found_at(at);
            const double of_right = off_by(here, fine_codes(right_at(at), {}, held_));
            const double with = off_by(here, fine_codes(painter.at(at.x, at.y), wrong, held_, best.exposure));
            if (with <= tolerance_ && of_right > most) {
                most = of_right;
                result.x = at.x;
                result.y = at.y;
            }
        }
    }

    // The picture's light with what happened to the output undone.
    void make_up(const suspect& best) {
        if (!has_makeup(of_, right_renderer_.own_model())) {
            result.remarks.emplace_back("no make-up: in this scene the picture is no sum of terms");
            return;
        }
        const mistake_set wrong = best.set();
        if (wrong.has(mistake::output_wraps)) {
            result.remarks.emplace_back("no make-up: codes that have wrapped cannot be told back");
            return;
        }
        const bool upside_down = wrong.has(mistake::picture_upside_down);
        const bool swapped = wrong.has(mistake::channels_swapped);
        const auto linear_of = [&](double code) {
            double value = code / 255;
            int times = held_ == pixel_format::linear_codes ? 0 : 1;
            times = wrong.has(mistake::encode_missing) ? 0 : wrong.has(mistake::encode_twice) ? 2 : times;
            for (int i = 0; i < times; ++i) {
                value = srgb_decoded(value);
            }
            return value;
        };
        std::vector<makeup_sample> samples;
        const std::size_t most = std::max<std::size_t>(400, 12'000 / (2 + of_.lights.size()));
        for (const pixel_place& at : some_of(compared_, most)) {
            makeup_sample one;
            one.x = at.x;
            one.y = upside_down ? found_.height - 1 - at.y : at.y;
            if (seen_->visible.triangles[seen_->visible.index(one.x, one.y)] ==
                pipeline::visibility::nothing) {
                continue;
            }
            codes code = found_at(at);
            rgb<double> linear(found_.color(at.x, at.y));
            const auto weigh = [&](double c, double& value) {
                if (is_float(held_)) {
                    return 1 / (1e-4 + 1e-3 * std::abs(value));
                }
                value = linear_of(c);
                const double error =
                    (linear_of(std::min(255.0, c + 0.5)) - linear_of(std::max(0.0, c - 0.5))) *
                    (0.5 + noise_);
                return c < 1 || c > 254 ? 0 : 1 / error; // cut off: what is known is a bound
            };
            one.weight = {weigh(code[0], linear.r), weigh(code[1], linear.g), weigh(code[2], linear.b)};
            one.linear = linear;
            if (swapped) {
                std::swap(one.linear.r, one.linear.b);
                std::swap(one.weight.r, one.weight.b);
            }
            samples.push_back(one);
        }
        if (samples.size() >= 20) {
            makeup made = makeup_of(painter({}), of_, samples);
            if (made.fits < least_fit) {
                result.remarks.emplace_back(
                    "the picture is no sum of the right terms, so that its make-up is only "
                    "the nearest one");
                for (makeup_part& part : made.parts) {
                    part.suggests.clear();
                }
            }
            result.makeup = std::move(made.parts);
        }
    }
};

} // namespace

diagnosis diagnose(const scene& of, const picture& found, pixel_format held, const tolerance_model& allowed,
                   const renderer& right) {
    investigation made(of, found, held, allowed, right);
    made.run();
    return made.result;
}

} // namespace yurvo::verify
