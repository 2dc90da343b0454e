// check_run: scenes held to what is known of them, and what explains those that do not hold.
#pragma once

#include <cstddef>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/study/named_scene.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/diagnose.hpp"
#include "yurvo/verify/one_number.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {
class program_renderer;
}

namespace yurvo::inline v0_1::study {

/// `2/5`: the second of five parts.
struct shard {
    std::size_t part = 1, of = 1; ///< 1 ≤ part ≤ of
    /// Whether the part has the unit of that index.
    [[nodiscard]] bool holds(std::size_t index) const { return index % of == part - 1; }
};

/// What is to be checked.
struct check_request {
    std::vector<verify::check_unit> units; ///< what is checked, in order
    shard only_part;                       ///< of it
    std::string only;                      ///< only checks whose scene, name or kind contains this
    /// One finished picture of the units' scene in the place of drawing, and how it holds its colours.
    const picture* finished = nullptr;
    pixel_format finished_format = pixel_format::floats; ///< of pictures that are kept
    bool diagnose = true;                                ///< what explains the scenes that do not hold
    std::function<void(const std::string&)> tell;        ///< progress; may be empty
    /// Called with each unit that does not hold and its picture; may be empty.
    std::function<void(const verify::check_unit&, const picture&)> failed;
};

/// A scene in which something failed, and what explains it.
struct failure_diagnosis {
    std::string scene;       ///< its name
    verify::diagnosis found; ///< the explanation

    /// The ids of all that gives the picture; empty where nothing known does.
    [[nodiscard]] std::vector<std::string> explanations() const;
};

/// A run of `check`.
struct check_run {
    std::vector<verify::check_result> results; ///< in order
    std::vector<failure_diagnosis> diagnoses;  ///< of at most five scenes that did not hold
    std::size_t dark = 0;                      ///< checks in scenes that no light reaches, which say little
    /// Numbers of which one alone would make those right, where no one mistake explains them.
    std::vector<verify::needed_number> numbers;

    /// How many did not hold.
    [[nodiscard]] std::size_t failed() const;
    /// How many held.
    [[nodiscard]] std::size_t passed() const { return results.size() - failed(); }
    /// The ids that explain every scene that was diagnosed.
    [[nodiscard]] std::vector<std::string> common_explanations() const;
    /// Whether all that did not hold are whole pictures of which alpha alone is not right.
    [[nodiscard]] bool fails_by_alpha() const;
};

/// A renderer that stops in three scenes (a shader that takes too long, say) is not asked for more; each is a
/// check that did not hold.
check_run run_checks(const check_request& request, const renderer& by);

/// What the precisions that a program's source declares leave unsaid, of the pictures that it has drawn: a
/// check that did not hold, where they change one by more codes than a right shader may be off. Nothing else.
std::optional<verify::check_result> beyond_precision(const program_renderer& program);
/// The same among the results of a run, where there is one.
void hold_precision(const program_renderer& program, check_run& run);

/// The coverage of units that are fitted to a renderer, and what is missing made up for: units of other
/// scenes join them where they show mistakes that these do not. `lines` gets what was fitted.
verify::coverage cover(std::vector<verify::check_unit>& units, const renderer& by,
                       std::vector<std::string>& lines);

/// The units of all reference scenes, fitted to a renderer; `told` gets what was fitted.
std::vector<verify::check_unit> all_units(const renderer& by, std::vector<std::string>& lines);
/// Of a reference scene by its name, or of a scene of one's own.
std::vector<verify::check_unit> units_of_scene(const renderer& by, const named_scene& named,
                                               std::vector<std::string>& lines);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
