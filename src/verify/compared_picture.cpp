#include "verify/compared_picture.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "pipeline/parallel.hpp"
#include "verify/cast.hpp"
#include "verify/judge.hpp"
#include "verify/looked_at.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// How far apart what is right may be, in codes: half for rounding to whole ones and as much again for two
// programs that round differently; between pictures of floats a fiftieth, which is a hundred roundings of a
// colour of 1 where the curve is steepest (12.92 · 255 · 2⁻²⁴ each).
constexpr double tolerance_of_codes = 1.0;
constexpr double tolerance_of_floats = 0.02;
// At most so many pixels are compared for a verdict, and so many to find suspects.
constexpr std::size_t most_compared = looked_at(300'000);
constexpr std::size_t samples_of_suspects = looked_at(4'000);
// Rounding at borders that are no edges of objects (a cone's, a band's) may put so many pixels on the other
// side: one in 350.
constexpr double share_at_borders = 1.0 / 350;

// The sRGB curve's slope near black: applied twice it makes as much of what the first has rounded.
constexpr double steepest_curve = 12.92;

bool far_apart(const rgb<float>& a, const rgb<float>& b) {
    const auto off = [](float p, float q) {
        return std::abs(fine_code(static_cast<double>(p), {}, pixel_format::srgb_codes) -
                        fine_code(static_cast<double>(q), {}, pixel_format::srgb_codes)) > 6;
    };
    return off(a.r, b.r) || off(a.g, b.g) || off(a.b, b.b);
}

// Within one object, one part before another.
bool folded(float a, float b) { return std::abs(a - b) > 0.1F * std::max(a, b); }

} // namespace

std::string factor_text(double factor) {
    std::string text = std::to_string(std::round(factor * 1000) / 1000);
    return text.substr(0, text.find('.') + 4);
}

// The step is a fraction, so that they do not stand in
// columns.
std::vector<pixel_place> some_of(const std::vector<pixel_place>& from, std::size_t most) {
    std::vector<pixel_place> built;
    const double step = std::max(1.0, static_cast<double>(from.size()) / static_cast<double>(most));
    const auto count = static_cast<std::size_t>(std::ceil(static_cast<double>(from.size()) / step));
    for (std::size_t i = 0; i < count; ++i) {
        built.push_back(
            from[std::min(from.size() - 1, static_cast<std::size_t>(static_cast<double>(i) * step))]);
    }
    return built;
}

compared_picture::compared_picture(const scene& drawn, const picture& to_compare, pixel_format format,
                                   const tolerance_model& tolerances, const renderer& right_one,
                                   std::size_t by_driver_at_most)
    : the_scene(drawn),
      found(to_compare),
      held(format),
      allowed(tolerances),
      right_renderer(right_one),
      most_by_driver(looked_at(by_driver_at_most)) {
    fit_size();
    seen = see(the_scene);
    right = allowed.unit_at_vertices ? right_renderer.draw(the_scene) : painter({}).whole();
    look_at_alpha();
    mark_edges();
    choose_compared();
    measure_noise();
    if (by_driver()) {
        allow_as_check_does();
    }
}

bool compared_picture::by_driver() const { return is_float(held) && !(allowed == tolerance_model{}); }

// Check and diagnosis go by one tolerance: the second method's at each place.
void compared_picture::allow_as_check_does() {
    const caster casts(the_scene, allowed);
    allowed_codes.assign(right.pixels(), {-1, -1, -1});
    std::vector<pixel_place> places = compared;
    const std::vector<pixel_place> at_edges = some_of(edges(), most_by_driver / 4);
    places.insert(places.end(), at_edges.begin(), at_edges.end());
    std::vector<float> middle(places.size());
    pipeline::for_each_of(places.size(), [&](std::size_t i) {
        const pixel_place& at = places[i];
        const cast_color cast = casts.at(at.x + 0.5, at.y + 0.5);
        const auto in_codes = [&](double linear, double off) {
            const double here = fine_code(linear, {}, held);
            // The curve's own power costs a few dozen roundings of 255.
            return static_cast<float>(
                0.02 * (holds_encoded_floats(held) ? 1 : 0.01) +
                std::max(fine_code(linear + off, {}, held) - here, here - fine_code(linear - off, {}, held)));
        };
        std::array<float, 3>& to = allowed_codes[seen->visible.index(at.x, at.y)];
        to = {in_codes(cast.color.r, cast.tolerance.r), in_codes(cast.color.g, cast.tolerance.g),
              in_codes(cast.color.b, cast.tolerance.b)};
        middle[i] = std::max({to[0], to[1], to[2]});
    });
    if (!middle.empty()) {
        std::nth_element(middle.begin(), middle.begin() + static_cast<std::ptrdiff_t>(middle.size() / 2),
                         middle.end());
        tolerance = static_cast<double>(middle[middle.size() / 2]);
    }
}

namespace {

constexpr double share_of_what_is_off = 0.02;

} // namespace

bool compared_picture::is_off(const pixel_place& at, const codes& a, const codes& b, double times,
                              bool suspected) const {
    if (allowed_codes.empty()) {
        return off_by(a, b) > tolerance;
    }
    const std::array<float, 3>& room = allowed_codes[seen->visible.index(at.x, at.y)];
    const codes as_right = suspected ? fine_codes(right_at(at), {}, held) : codes{};
    for (std::size_t c = 0; c < 3; ++c) {
        // The tolerance is that of the right picture. Where a wrong one is steeper (a highlight of a normal
        // that is too long, say), what rounding makes of it is a share of what it is off.
        const double of_suspects =
            suspected ? std::max(room_of_suspects, share_of_what_is_off * std::abs(a[c] - as_right[c])) : 0.0;
        const double here =
            std::max(times * (room[c] < 0 ? tolerance : static_cast<double>(room[c])), of_suspects);
        if (!(std::abs(a[c] - b[c]) <= here)) {
            return true;
        }
    }
    return with_alpha && !(std::abs(a[3] - b[3]) <= 0.001);
}

point_painter compared_picture::painter(const mistake_set& wrong) const {
    return {the_scene,
            wrong,
            seen,
            {{}, allowed.unit_at_vertices, own_model_of(the_scene, right_renderer), cosines_end_at_one}};
}

std::size_t compared_picture::scattered() const {
    if (by_driver()) { // whose borders the second method allows for
        return std::max<std::size_t>(4, compared.size() / 5000);
    }
    const double share = noise > 0 ? 4 * share_at_borders : share_at_borders;
    return std::max<std::size_t>(4, static_cast<std::size_t>(share * static_cast<double>(compared.size())));
}

void compared_picture::fit_size() {
    view& view = the_scene.view;
    the_scene.expects.clear();
    if (view.width != found.width || view.height != found.height) {
        remarks.push_back("the picture is " + std::to_string(found.width) + "x" +
                          std::to_string(found.height) + ", the scene's view " + std::to_string(view.width) +
                          "x" + std::to_string(view.height) + ": the scene is drawn in the picture's size");
        view.width = found.width;
        view.height = found.height;
    }
}

void compared_picture::look_at_alpha() {
    const bool right_has = has_transparency(right);
    const bool found_has = has_transparency(found);
    if (right_has && !found_has) {
        with_alpha = false;
        remarks.emplace_back("the picture holds no alpha, the scene does: alpha is not compared");
    }
}

std::uint32_t compared_picture::object_at(std::uint32_t triangle) const {
    return triangle == pipeline::visibility::nothing
               ? triangle
               : static_cast<std::uint32_t>(place_of(seen->staged, triangle).object);
}

// Near the border of an object a pixel may show either side; so may it where triangles meet whose light
// differs.
void compared_picture::mark_edges() {
    const pipeline::visibility& visible = seen->visible;
    const int width = visible.width;
    const int height = visible.height;
    edge.assign(right.pixels(), 0);
    pipeline::for_each_of(height, [&](int y) {
        for (int x = 0; x < width; ++x) {
            const std::size_t here = visible.index(x, y);
            const std::uint32_t id = visible.triangles[here];
            const rgb<float> color = right.color(x, y);
            bool near_edge = false;
            for (int j = std::max(0, y - 1); j <= std::min(height - 1, y + 1) && !near_edge; ++j) {
                for (int i = std::max(0, x - 1); i <= std::min(width - 1, x + 1) && !near_edge; ++i) {
                    const std::uint32_t other = visible.triangles[visible.index(i, j)];
                    if (other == id) {
                        continue;
                    }
                    near_edge =
                        object_at(other) != object_at(id) || far_apart(color, right.color(i, j)) ||
                        folded(visible.inverse_depth[here], visible.inverse_depth[visible.index(i, j)]);
                }
            }
            edge[here] = near_edge ? 1 : 0;
        }
    });
}

void compared_picture::choose_compared() {
    const std::size_t all = right.pixels();
    const auto step = static_cast<int>(std::ceil(std::sqrt(
        static_cast<double>(all) / static_cast<double>(by_driver() ? most_by_driver : most_compared))));
    for (int y = step / 2; y < right.height; y += std::max(1, step)) {
        for (int x = step / 2; x < right.width; x += std::max(1, step)) {
            if (edge[seen->visible.index(x, y)] == 0) {
                compared.push_back({x, y});
            }
        }
    }
}

std::vector<pixel_place> compared_picture::edges() const {
    std::vector<pixel_place> places;
    for (int y = 0; y < right.height; ++y) {
        for (int x = 0; x < right.width; ++x) {
            if (edge[seen->visible.index(x, y)] != 0) {
                places.push_back({x, y});
            }
        }
    }
    return places;
}

codes compared_picture::found_at(const pixel_place& at) const {
    const rgb<double> color(found.color(at.x, at.y));
    // What was read from codes becomes the same codes again.
    codes built{fine_code(color.r, {}, held), fine_code(color.g, {}, held), fine_code(color.b, {}, held),
                255 * static_cast<double>(found.alpha(at.x, at.y))};
    if (!is_float(held)) {
        for (double& number_here : built) {
            number_here = std::round(number_here);
        }
    }
    return built;
}

lit_pixel compared_picture::right_at(const pixel_place& at) const {
    return {rgb<double>(right.color(at.x, at.y)), static_cast<double>(right.alpha(at.x, at.y))};
}

// Compression leaves noise: how much is seen where the right picture is smooth, from how the second
// differences along a row scatter (√6 times the noise of one pixel), beyond what rounding makes.
void compared_picture::measure_noise() {
    tolerance = is_float(held) ? tolerance_of_floats : tolerance_of_codes;
    if (is_float(held)) {
        return;
    }
    std::vector<double> bends;
    const std::size_t step = std::max<std::size_t>(1, compared.size() / 20'000);
    for (std::size_t i = 0; i < compared.size(); i += step) {
        const pixel_place& at = compared[i];
        if (at.x < 1 || at.x + 1 >= found.width) {
            continue;
        }
        const auto bend = [&](auto&& code) { return code(at.x - 1) - 2 * code(at.x) + code(at.x + 1); };
        const double of_right =
            bend([&](int x) { return fine_code(static_cast<double>(right.color(x, at.y).g), {}, held); });
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
        noise = of_pixel;
        tolerance += 4 * noise;
        remarks.push_back("the picture is noisy, as compression leaves it: about " + factor_text(noise) +
                          " codes; what is finer is not told apart");
    }
}

double compared_picture::off_by(const codes& a, const codes& b) const {
    double most = 0;
    for (std::size_t c = 0; c < (with_alpha ? 4U : 3U); ++c) {
        const double apart = std::abs(a[c] - b[c]);
        if (std::isnan(apart)) {                        // which std::max() would pass over
            if (std::isnan(a[c]) && std::isnan(b[c])) { // a mistake may give just that
                continue;
            }
            return std::numeric_limits<double>::infinity();
        }
        most = std::max(most, apart);
    }
    return most;
}

template <class Hypothesis>
fit compared_picture::measure(const std::vector<pixel_place>& places, Hypothesis&& hypothesis,
                              bool in_parallel, double times, bool suspected) const {
    constexpr std::size_t piece = 1024;
    const std::size_t pieces = (places.size() + piece - 1) / piece;
    std::vector<fit> parts(pieces);
    const auto one_piece = [&](std::size_t p) {
        const std::size_t end = std::min(places.size(), (p + 1) * piece);
        for (std::size_t i = p * piece; i < end; ++i) {
            const codes here = hypothesis(places[i]);
            const codes there = found_at(places[i]);
            const double off = off_by(there, here);
            parts[p].off += is_off(places[i], there, here, times, suspected) ? 1U : 0U;
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

std::size_t compared_picture::off_beyond_borders(std::size_t off) const {
    constexpr std::size_t few = 64; // more is no matter of borders
    if (off == 0 || off > few) {
        return off;
    }
    const caster casts(the_scene, allowed);
    std::size_t left = 0;
    for (const pixel_place& at : compared) {
        if (!is_off(at, found_at(at), fine_codes(right_at(at), {}, held))) {
            continue;
        }
        const std::vector<cast_color> near = casts.around(at.x + 0.5, at.y + 0.5, 1.0 / 256);
        const rgb<double> color(found.color(at.x, at.y));
        left += std::none_of(near.begin(), near.end(),
                             [&](const cast_color& each) {
                                 return judge_as(held, color, each.color, each.tolerance).used <= 1;
                             })
                    ? 1U
                    : 0U;
    }
    return left;
}

fit compared_picture::fit_of_right(double exposure) const {
    return measure(
        compared, [&](const pixel_place& at) { return fine_codes(right_at(at), {}, held, exposure); }, true);
}

fit compared_picture::fit_of(const suspect& candidate, const std::vector<pixel_place>& places,
                             bool in_parallel) const {
    const mistake_set wrong = candidate.set();
    const point_painter hypothesis = painter(wrong);
    return measure(
        places,
        [&](const pixel_place& at) {
            // No shader writes the background.
            const bool written = !by_driver() || seen->visible.triangles[seen->visible.index(at.x, at.y)] !=
                                                     pipeline::visibility::nothing;
            return fine_codes(hypothesis.at(at.x, at.y), written ? wrong : mistake_set{}, held,
                              candidate.exposure);
        },
        in_parallel, wrong.has(mistake::encode_twice) ? steepest_curve : 1, !candidate.which.empty());
}

// Places that tell hypotheses apart: half of them where the right picture is off, the rest anywhere.
void compared_picture::choose_samples() {
    std::vector<pixel_place> off;
    std::vector<pixel_place> well;
    for (const pixel_place& at : compared) {
        (is_off(at, found_at(at), fine_codes(right_at(at), {}, held)) ? off : well).push_back(at);
    }
    const std::size_t most = std::clamp<std::size_t>(samples_of_suspects * 8 / (the_scene.lights.size() + 4),
                                                     looked_at(800), samples_of_suspects);
    samples = some_of(off, most / 2);
    const std::vector<pixel_place> rest = some_of(well, most / 2);
    samples.insert(samples.end(), rest.begin(), rest.end());
}

} // namespace yurvo::inline v0_1::verify
