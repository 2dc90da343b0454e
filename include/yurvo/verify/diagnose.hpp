// diagnose: from one picture, whether it is right, and if not, which mistake explains it.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/mistakes.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// What a picture was found to be.
enum class verdict_kind : std::uint8_t { right, mistake, unknown };

/// One explanation: a mistake, or two that go together.
struct suspect {
    std::vector<mistake> which; ///< more than one where they combine
    double residual = 0;        ///< root mean square over the compared pixels, in codes (255 is white)
    double exposure = 1;        ///< the factor on all light that goes with it

    /// As a set.
    [[nodiscard]] mistake_set set() const;
    [[nodiscard]] std::string id() const; ///< `falloff-missing`, or `falloff-missing + encode-twice`
};

/// How much of one light's one term a picture holds: 1 in a right one.
struct makeup_part {
    std::string light;    ///< empty for ambient and emission
    std::string term;     ///< ambient, diffuse, specular, emission
    double factor = 1;    ///< of brightness, against the right picture
    std::string suggests; ///< what that factor points at; empty where it is 1
};

/// What explains a picture.
struct diagnosis {
    verdict_kind verdict = verdict_kind::unknown; ///< right, a mistake or unknown
    std::vector<suspect> mistakes;    ///< best first; the nearest ones where the verdict is `unknown`
    std::vector<mistake> ties;        ///< with the first: single mistakes that give this very picture here
    std::string separated_by;         ///< a reference scene that tells them apart; may be empty
    double residual = 0;              ///< against the right picture, as above
    double exposure = 1;              ///< of a right picture that is uniformly too bright or too dark
    std::vector<makeup_part> makeup;  ///< empty where a picture is no sum of terms
    std::vector<std::string> remarks; ///< what was seen through: another size, flipped rows and the like
    std::size_t compared = 0;         ///< pixels
    std::size_t off = 0;      ///< of those, beyond what rounding and noise explain, against the right picture
    std::size_t off_with = 0; ///< ... against the first suspect's
    double tolerance = 0;     ///< in codes
    int x = -1, y = -1; ///< the pixel that decides: off against the right picture, well with the suspect's
    scene drawn;        ///< the scene at the picture's size, for pictures as evidence
};

/// The picture may have another size than the scene's view: the scene is then drawn in the picture's.
/// `right` says what is right: the scene's own model, or one of yours. A renderer whose arithmetic is not a
/// float's, and which drew what was found, is allowed what `allowed` says.
/// Of a driver's floats `most_compared` pixels are looked at, of which each costs several rays.
/// Two mistakes that go together are looked for where `most_mistakes` is 2, and with a driver's floats
/// vectors that are too long under cosines that end at 1.
diagnosis diagnose(const scene& the_scene, const picture& found, pixel_format held,
                   const tolerance_model& allowed = {}, const renderer& right = built_in_renderer(),
                   std::size_t most_compared = 64'000, std::size_t most_mistakes = 2);

/// The picture that a suspect gives, as it would be written and read again.
picture picture_of_suspect(const scene& the_scene, const suspect& with,
                           const renderer& right = built_in_renderer());

/// The reference scenes that tell two mistakes apart: one whose pictures differ by 4 codes or more at 64
/// pixels or more of 160x100. Empty where there is none.
std::string scene_that_separates(const std::vector<mistake>& apart);

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
