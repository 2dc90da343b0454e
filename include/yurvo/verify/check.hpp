// check: whether a renderer draws the reference scenes right.
#pragma once

#include <cstddef>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/any_model.hpp"
#include "yurvo/scene/renderer.hpp"
#include "yurvo/verify/reference.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// What came of one check.
struct check_result {
    std::string name;             ///< `fragment, at the foot of the lantern`
    std::string scene;            ///< the reference scene's name
    std::string kind;             ///< `expectation`, `second-method`, `relation`, `formula`, `model`
    int x = -1, y = -1;           ///< the pixel that decided
    std::vector<double> measured; ///< there: red, green, blue, and alpha for the second method
    std::vector<double> expected; ///< numbers as they should be
    double tolerance = 0;         ///< in the component that decided
    double used = 0;       ///< the share of the tolerance that was used; above 1 the check does not hold
    bool passed = false;   ///< it held
    bool by_alpha = false; ///< of a whole picture that does not hold: its colours are right, alpha is not
    double largest =
        0; ///< of a whole picture: the largest difference in any component, away from edges; 1 is white
    std::string remark;  ///< what else is to be said
    std::string because; ///< how the tolerance is derived, with the numbers put in
};

/// What a whole picture is, held against the second method: the pixel that uses most of its tolerance.
///
/// At a border a pixel may be on either side, since corners are snapped to 1/256 pixel: where the centre does
/// not agree, the places 1/256 pixel around it are asked. Such pixels are counted, and at most one in 500 may
/// be so: even with a border every four pixels, only 2 / 256 / 4 of all centres lie that near to one.
check_result hold_against_second_method(const scene& drawn, const picture& found,
                                        pixel_format held = pixel_format::floats,
                                        const tolerance_model& allowed = {});

/// The picture by the second method: what hold_against_second_method expects.
picture cast_picture(const scene& drawn);

/// What a scene's own [[expect]] say of its picture.
std::vector<check_result> hold_expectations(const scene& drawn, const picture& found,
                                            pixel_format held = pixel_format::floats);

/// What is to be checked of one scene at one rate with one model. A scene of a user's own has no name among
/// the references.
struct check_unit {
    std::string scene_name, variant;            ///< of the scene; of its variant, empty for the scene itself
    scene asked;                                ///< what is drawn
    const reference_scene* reference = nullptr; ///< whose expectations hold; null for a scene of one's own
};
/// What is checked of a reference scene: it at each of its rates, and its variants.
std::vector<check_unit> units_of(const reference_scene& reference);
/// What is checked of a scene of one's own.
check_unit unit_of(const std::string& name, const scene& the_scene);

/// The same, fitted to what a renderer can draw, each fitted scene once; what is known in closed form holds
/// where nothing had to be fitted. `told` gets a line for each scene that was fitted or left out.
std::vector<check_unit> units_for(const renderer& by, const reference_scene& reference,
                                  std::vector<std::string>& lines);
/// What is checked of a renderer's picture of a scene; `lines` gets what is to be said of it.
std::vector<check_unit> units_for(const renderer& by, const std::string& name, const scene& the_scene,
                                  std::vector<std::string>& lines);

/// Expectations, the second method and the relations, by drawing; the scene of a unit without reference is
/// drawn at its own size for its expectations, all are drawn at 320x200 for the second method and at 160x100
/// for relations, which only a renderer that gives floats is held to. One that does not claim the scene's
/// model is held to the relations and to the scene's own expectations alone.
std::vector<check_result> check_by_drawing(const check_unit& unit, const renderer& by);
/// Expectations and the second method, of one finished picture of the unit's size.
std::vector<check_result> check_finished(const check_unit& unit, const picture& found, pixel_format held);

/// All units of a reference scene.
std::vector<check_result> check_reference(const reference_scene& reference, const renderer& by);

} // namespace yurvo::inline v0_1::verify

namespace yurvo::inline v0_1 {

/// What was checked of a renderer.
struct check_report {
    std::vector<verify::check_result> checks; ///< in order

    /// How many did not hold.
    [[nodiscard]] std::size_t failed() const {
        std::size_t count = 0;
        for (const verify::check_result& result : checks) {
            count += result.passed ? 0U : 1U;
        }
        return count;
    }
    /// How many held.
    [[nodiscard]] std::size_t passed() const { return checks.size() - failed(); }
    /// What did not hold, a line each; empty where all did.
    [[nodiscard]] std::string failures() const;
};

/// A scene drawn by a renderer, held to the values of the scene's own model where it claims to have them, to
/// the relations, and to the scene's own expectations. Throws yurvo::error where the scene is not valid.
check_report check(const scene& drawn, const renderer& by);

/// A scene drawn with a model of your own. A model that claims to equal a built-in one,
///     static constexpr auto equals = yurvo::model_kind::lambert;
/// is held to that one's values; any other is held to the relations, and to the scene's own expectations.
check_report check(const scene& drawn, const any_model& model);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
