// coverage: which mistakes a subject could hold in the scenes that it is checked in, and which of them would
// show.
#pragma once

#include <string>
#include <vector>

#include "yurvo/picture/pixel_format.hpp"
#include "yurvo/scene/renderer.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// What a program can be checked for.
struct coverage {
    std::vector<mistake> could;     ///< they change a picture of some scene
    std::vector<mistake> shown;     ///< of those, the ones that some scene shows beyond its tolerance
    std::vector<std::string> where; ///< for each shown one, the first scene
    std::vector<mistake> unseen;    ///< the others
};

/// Draws every mistake in scenes that were fitted to a subject until one shows it: on 64 pixels of 160x100 by
/// four times what the subject is allowed there. `only` is of these mistakes; empty: of all.
coverage coverage_of(const std::vector<check_unit>& units, pixel_format held, const tolerance_model& allowed,
                     const std::vector<mistake>& only = {});

/// Scenes besides the reference scenes, for claims to which those, fitted, do not show all: spots over turned
/// and stretched things, several lamps of each kind, parts, a plank near a lamp and one across the view.
const std::vector<reference_scene>& coverage_scenes();

/// Three lights of each kind: for claims that take several of a kind of which no other scene, fitted, has
/// more than one. What reads the first one's numbers for all of a kind shows nowhere else.
const reference_scene& scene_of_many_lights();

/// Things seen against each of these lights, with the eye where it shines to: for claims with lights of their
/// own
/// (`[constants]`), to which the others do not show every mistake. A light given in view space has none.
std::vector<reference_scene> scenes_against_lights(const std::vector<named_light>& lights);

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
