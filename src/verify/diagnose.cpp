#include "yurvo/verify/diagnose.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>

#include "pipeline/parallel.hpp"
#include "verify/candidates.hpp"
#include "verify/compared_picture.hpp"
#include "verify/looked_at.hpp"
#include "verify/makeup.hpp"
#include "verify/makeup_samples.hpp"
#include "verify/no_number.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// Before all pixels are compared with a suspect's, so many have to agree; and so many tell whether two
// suspects give one picture.
constexpr std::size_t first_compared = looked_at(12'000);
// Most suspects are off at so many of the first few of those that the rest need not be asked.
constexpr std::size_t glanced_at = 800;
// A make-up that comes near to fewer of the samples says little.
constexpr double least_fit = 0.8;
constexpr std::size_t compared_for_ties = 60'000;
// An explanation leaves at most so much of what is off unexplained ...
constexpr double unexplained = 0.15;
// ... and explains at least so many pixels: a scattered few would fit anything.
constexpr std::size_t least_explained = 24;
constexpr std::size_t few_explained = 4; // ... of a driver's floats, where not one is left

// In codes, and of the residual against the right picture: what a driver's picture may be off a suspect's.
constexpr double most_room_of_suspects = 0.25;
constexpr double share_of_suspects = 0.05;

// Pixels that hold NaN or infinity.
struct pixels_not_finite {
    std::size_t count = 0;
    int x = -1, y = -1; // the first
};

pixels_not_finite look_for_not_finite(const picture& found) {
    pixels_not_finite result;
    for (int y = 0; y < found.height; ++y) {
        for (int x = 0; x < found.width; ++x) {
            const rgb<float> color = found.color(x, y);
            const bool finite = std::isfinite(color.r) && std::isfinite(color.g) && std::isfinite(color.b) &&
                                std::isfinite(found.alpha(x, y));
            if (!finite && ++result.count == 1) {
                result.x = x;
                result.y = y;
            }
        }
    }
    return result;
}

// A picture held against hypotheses.
class investigation {
    compared_picture on_;
    std::vector<pixel_place> telling_; // where mistakes are told apart; empty: wherever it is compared
    const pixels_not_finite not_finite_;

  public:
    diagnosis result;

    investigation(const scene& the_scene, const picture& found, pixel_format held,
                  const tolerance_model& allowed, const renderer& right, std::size_t most_compared,
                  bool cosines_end_at_one = false)
        : on_(the_scene, found, held, allowed, right, most_compared),
          not_finite_(look_for_not_finite(found)) {
        on_.cosines_end_at_one = cosines_end_at_one;
        result.remarks = on_.remarks;
        result.drawn = on_.the_scene;
    }

    void run(std::size_t most_mistakes) {
        fit as_right = on_.fit_of_right(1);
        if (on_.by_driver()) {
            as_right.off = on_.off_beyond_borders(as_right.off);
        }
        result.residual = as_right.residual;
        result.compared = on_.compared.size();
        result.off = as_right.off;
        result.tolerance = on_.tolerance;
        // What a wrong picture rounds is not what the right one does: a suspect is allowed a share of what is
        // off.
        on_.room_of_suspects = std::min(most_room_of_suspects, share_of_suspects * as_right.residual);
        const std::vector<mistake> candidates = applicable(on_);
        const std::size_t stray = on_.by_driver() ? 0 : 4; // as check, which lets none be off
        if (as_right.off <= stray && as_right.off <= on_.compared.size() / 500) {
            conclude_by_edges(candidates);
            return;
        }
        on_.choose_samples();
        std::vector<suspect> singles;
        singles.reserve(candidates.size());
        for (const mistake which : candidates) {
            singles.push_back({{which}, 0, 1});
        }
        rank(on_, singles, on_.samples);
        if (accept(singles, as_right)) {
            conclude_mistake(singles);
            return;
        }
        if (as_right.off <= on_.scattered() &&
            !on_.by_driver()) { // nothing explains the few: they are the borders' own
            conclude_by_edges(candidates);
            return;
        }
        if (const std::optional<double> exposure = exposure_of(on_, suspect{})) {
            const fit exposed = on_.fit_of_right(*exposure);
            if (exposed.off <= on_.scattered()) {
                result.exposure = *exposure;
                result.remarks.push_back("all light is " + factor_text(*exposure) +
                                         " times what it should be: an exposure, uniform over the picture");
                conclude_right();
                return;
            }
        }
        std::vector<suspect> pairs;
        if (most_mistakes > 1) {
            pairs = likely_pairs(on_, singles, candidates);
        }
        if (accept(pairs, as_right)) {
            conclude_mistake(pairs);
            return;
        }
        std::vector<suspect> exposed = exposed_suspects(on_, singles);
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
    // Where all that is compared agrees, the pixels at edges may still tell: a mistake that shows nowhere
    // else, such as an outline out of place, leaves them off. A renderer that draws its edges elsewhere is
    // off there with every mistake as well.
    void conclude_by_edges(const std::vector<mistake>& candidates) {
        const std::vector<pixel_place> edges = some_of(on_.edges(), first_compared);
        const std::vector<pixel_place> glanced = some_of(edges, glanced_at);
        const fit as_right = on_.fit_of(suspect{}, edges, true);
        std::vector<suspect> explained;
        for (std::size_t i = 0; i < candidates.size() && as_right.off >= least_explained; ++i) {
            suspect candidate{{candidates[i]}, 0, 1};
            const double most = unexplained * static_cast<double>(as_right.off);
            if (static_cast<double>(on_.fit_of(candidate, glanced, true).off) > most) {
                continue;
            }
            const fit at_edges = on_.fit_of(candidate, edges, true);
            if (static_cast<double>(at_edges.off) <= most &&
                on_.fit_of(candidate, on_.compared, true).off <= std::max<std::size_t>(result.off, 4)) {
                candidate.residual = at_edges.residual;
                explained.push_back(candidate);
            }
        }
        if (explained.empty()) {
            conclude_right();
            return;
        }
        std::stable_sort(explained.begin(), explained.end(),
                         [](const suspect& a, const suspect& b) { return a.residual < b.residual; });
        result.remarks.push_back("it shows at the edges of objects only: " + std::to_string(as_right.off) +
                                 " of " + std::to_string(edges.size()) + " pixels there are off");
        on_.samples = edges;
        telling_ = edges;
        conclude_mistake(explained);
    }

    // Holds the best of the ranked ones against all compared pixels. True where some explain the picture:
    // they come first then, best first, with the residual over all pixels.
    bool accept(std::vector<suspect>& ranked, const fit& as_right) {
        struct verified {
            suspect one;
            fit how;
        };
        std::vector<verified> tried;
        const std::vector<pixel_place> first = some_of(on_.compared, first_compared);
        const std::vector<pixel_place> glanced = some_of(first, glanced_at);
        const std::size_t most_at_first = 8 + 2 * on_.scattered() * first.size() / on_.compared.size();
        for (std::size_t i = 0; i < ranked.size(); ++i) {
            // Those that are as good as the best at the samples are always tried.
            if (i >= verified_suspects && ranked[i].residual > ranked.front().residual + 0.1) {
                break;
            }
            fit at_first = on_.fit_of(ranked[i], glanced, true);
            if (at_first.off <= most_at_first) {
                at_first = on_.fit_of(ranked[i], first, true);
            }
            if (at_first.off > most_at_first) {
                ranked[i].residual = at_first.residual;
                continue;
            }
            const fit how = on_.fit_of(ranked[i], on_.compared, true);
            ranked[i].residual = how.residual;
            const double most = std::max(4.0, unexplained * static_cast<double>(as_right.off));
            const bool exact = on_.by_driver();
            const bool near = !on_.by_driver() || how.residual <= unexplained * as_right.residual;
            const bool explains =
                near && static_cast<double>(how.off) <= most && how.off <= on_.scattered() &&
                as_right.off >= how.off + (exact && how.off == 0 ? few_explained : least_explained);
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
        // A pair of which one mistake alone explains as much is that one: the other changes nothing here.
        if (const suspect pair = tried.front().one; pair.which.size() == 2) {
            for (const mistake one : pair.which) {
                suspect alone{{one}, 0, pair.exposure};
                const fit how = on_.fit_of(alone, on_.compared, true);
                alone.residual = how.residual;
                if (how.off <= tried.front().how.off) {
                    tried.insert(tried.begin(), {alone, how});
                    break;
                }
            }
        }
        result.off_with = tried.front().how.off;
        ranked.clear();
        for (const verified& each : tried) {
            ranked.push_back(each.one);
        }
        return true;
    }

    // What is no number is never a border's, or noise: one pixel of it is wrong.
    void conclude_right() {
        result.verdict = not_finite_.count > 0 ? verdict_kind::unknown : verdict_kind::right;
        result.off = std::max(result.off, not_finite_.count);
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
        const point_painter painter = on_.painter(wrong);
        const std::vector<pixel_place> places =
            telling_.empty() ? some_of(on_.compared, compared_for_ties) : telling_;
        std::vector<codes> of_best(places.size());
        const auto each_place = [&](auto&& use) { pipeline::for_each_of(places.size(), use); };
        each_place([&](std::size_t p) {
            of_best[p] = fine_codes(painter.at(places[p].x, places[p].y), wrong, on_.held);
        });
        std::vector<mistake> same{best.which.front()};
        for (std::size_t i = 1; i < explained.size(); ++i) {
            if (explained[i].which.size() != 1 || explained[i].exposure != best.exposure) {
                continue;
            }
            const mistake_set other = explained[i].set();
            const point_painter of_other = on_.painter(other);
            std::atomic<std::size_t> apart = 0;
            each_place([&](std::size_t p) {
                const codes here = fine_codes(of_other.at(places[p].x, places[p].y), other, on_.held);
                apart += on_.is_off(places[p], of_best[p], here) ? 1U : 0U;
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
        const point_painter painter = on_.painter(wrong);
        double most = -1;
        const std::vector<pixel_place>& places = on_.samples;
        for (const pixel_place& at : places) {
            const codes here = on_.found_at(at);
            const double of_right = on_.off_by(here, fine_codes(on_.right_at(at), {}, on_.held));
            const codes with = fine_codes(painter.at(at.x, at.y), wrong, on_.held, best.exposure);
            if (!on_.is_off(at, here, with) && of_right > most) {
                most = of_right;
                result.x = at.x;
                result.y = at.y;
            }
        }
    }

    // What each light and term contributes, by the samples.
    void make_up(const suspect& best) {
        if (not_finite_.count > 0) {
            const bool one = not_finite_.count == 1;
            result.remarks.push_back(
                std::to_string(not_finite_.count) + (one ? " pixel holds" : " pixels hold") +
                " NaN or infinity, " + (one ? "" : "the first ") + "at (" + std::to_string(not_finite_.x) +
                ", " + std::to_string(not_finite_.y) + "): " + why_no_number + "; no make-up");
            return;
        }
        if (!has_makeup(on_.the_scene, own_model_of(on_.the_scene, on_.right_renderer))) {
            result.remarks.emplace_back("no make-up: in this scene the picture is no sum of terms");
            return;
        }
        const mistake_set wrong = best.set();
        if (wrong.has(mistake::output_wraps)) {
            result.remarks.emplace_back("no make-up: codes that have wrapped cannot be told back");
            return;
        }
        const std::vector<makeup_sample> samples = makeup_samples(on_, wrong);
        if (samples.size() >= 20) {
            makeup built = makeup_of(on_.painter({}), on_.the_scene, samples);
            if (built.fits < least_fit) {
                result.remarks.emplace_back(
                    "the picture is no sum of the right terms, so that its make-up is only "
                    "the nearest one");
                for (makeup_part& part : built.parts) {
                    part.suggests.clear();
                }
            }
            result.makeup = std::move(built.parts);
        }
    }
};

} // namespace

diagnosis diagnose(const scene& the_scene, const picture& found, pixel_format held,
                   const tolerance_model& allowed, const renderer& right, std::size_t most_compared,
                   std::size_t most_mistakes) {
    investigation result(the_scene, found, held, allowed, right, most_compared);
    result.run(most_mistakes);
    const bool by_driver = is_float(held) && !(allowed == tolerance_model{});
    if (result.result.verdict == verdict_kind::unknown && by_driver) {
        // Where a shader makes its normals unit, and whether it ends cosines at 1, is told from no wrong
        // picture: the other ways.
        for (const auto& [other_place, ends_at_one] : {std::pair{true, false}, {false, true}, {true, true}}) {
            if (ends_at_one && most_mistakes < 2) {
                break;
            }
            tolerance_model other = allowed;
            other.unit_at_vertices = allowed.unit_at_vertices != other_place;
            investigation again(the_scene, found, held, other, right, most_compared, ends_at_one);
            again.run(ends_at_one ? 1 : most_mistakes); // a pair takes long, and is seldom told by this
            if (again.result.verdict == verdict_kind::mistake) {
                return again.result;
            }
        }
    }
    return result.result;
}

} // namespace yurvo::inline v0_1::verify
