// evidence: what is known of a subject, or of the scenes themselves, gathered for a page.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/study/check_run.hpp"
#include "yurvo/study/cost.hpp"
#include "yurvo/study/curves.hpp"
#include "yurvo/study/layers.hpp"
#include "yurvo/study/named_scene.hpp"
#include "yurvo/study/pixel.hpp"
#include "yurvo/study/rates.hpp"
#include "yurvo/study/relight.hpp"
#include "yurvo/study/verdict.hpp"
#include "yurvo/verify/explain.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// A pixel worked by hand.
struct worked_pixel {
    int x = 0, y = 0;                 ///< the pixel
    verify::explanation right;        ///< how it should have got its colour
    std::optional<found_pixel> found; ///< what the subject shows there
};

/// What was drawn of a scene, and held.
struct scene_evidence {
    named_scene of;                             ///< fitted to the subject, in the page's size
    std::vector<verify::check_result> checks;   ///< what held and what did not
    double used = 0;                            ///< the most of a tolerance
    picture right;                              ///< as it should be
    std::optional<picture> found;               ///< what the subject gives
    std::optional<verify::diagnosis> diagnosis; ///< of the first few that did not hold
    std::optional<worked_pixel> pixel;          ///< that decides; of one that holds, in the middle
    relight parts;                              ///< of the right picture
    // Of up to three scenes, or of the first of many; growth of the first alone:
    std::optional<study::rates> rates;        ///< where they were asked for
    std::optional<study::layers> layers;      ///< where they were asked for
    std::optional<study::cost> cost;          ///< where they were asked for
    std::optional<study::cost_growth> growth; ///< where they were asked for
    std::optional<study::curves> curves;      ///< where they were asked for

    /// Whether every check held.
    [[nodiscard]] bool passed() const;
};

/// All that a page shows.
struct evidence {
    check_run run;                            ///< what was checked
    std::optional<verify::coverage> covered;  ///< of what was asked; nothing of one finished picture
    bool all = false;                         ///< whether all reference scenes were asked
    run_verdict verdict;                      ///< in one word, with figures
    std::vector<scene_evidence> scenes;       ///< those that did not hold first, the worst first
    std::vector<std::string> fitted;          ///< numbers that were fitted, in words
    int repeat = 0;                           ///< frames that costs are medians of
    pixel_format held = pixel_format::floats; ///< how the subject holds its colours
};

/// What a page is to be about.
struct evidence_request {
    check_request checks;            ///< its units and, of a finished picture, that
    std::vector<std::string> fitted; ///< numbers that were fitted, in words
    bool all = false;                ///< whether the units are those of all reference scenes
    std::optional<check_run> run;    ///< what was found already; the checks are run where it is not given
    std::vector<verify::check_unit> failed;       ///< ... and the units that did not hold
    std::function<void(const std::string&)> tell; ///< progress; may be empty
};

/// Runs the checks and draws what a page shows. One scene is shown in its own size and with every study, up
/// to three with rates, build-up and curves, many at 320x200.
evidence gather(evidence_request request, const renderer& by, const program_renderer* program);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
