// Which scenes join those of a claim, so that no mistake could hide behind a verdict.
#include <algorithm>
#include <cstddef>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/study/check_run.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::study {

namespace {

// What no reference scene, fitted, would show of a program at all another scene may: a part that lights of
// one kind alone have, say.
void add_what_others_could(verify::coverage& result, const verify::reference_scene& other, const renderer& by,
                           std::vector<std::string>& lines, std::vector<verify::check_unit>& units) {
    std::vector<verify::mistake> left;
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        if (std::find(result.could.begin(), result.could.end(), entry.which) == result.could.end()) {
            left.push_back(entry.which);
        }
    }
    std::vector<std::string> told;
    for (verify::check_unit& unit : verify::units_for(by, other, told)) {
        if (left.empty()) {
            return;
        }
        const verify::coverage here = verify::coverage_of({unit}, by.format(), by.tolerance(), left);
        for (const verify::mistake each : here.could) {
            std::erase(left, each);
        }
        const auto append = [](auto& to, const auto& from) { to.insert(to.end(), from.begin(), from.end()); };
        append(result.could, here.could);
        append(result.shown, here.shown);
        append(result.where, here.where);
        append(result.unseen, here.unseen);
        if (!here.shown.empty()) {
            append(lines, told);
            told.clear();
            units.push_back(std::move(unit));
        }
    }
}

using lights_by_kind = std::map<light_kind, std::size_t>;

lights_by_kind count_by_kind(const scene& of) {
    lights_by_kind counts;
    for (const named_light& each : of.lights) {
        ++counts[each.light.kind];
    }
    return counts;
}

// Where a subject takes several lights of a kind, and no scene has more than one of that, one that has: a
// loop over them may read the first one's numbers each time.
void add_several_of_a_kind(const renderer& by, std::vector<std::string>& lines,
                           std::vector<verify::check_unit>& units) {
    const auto has_several = [&](light_kind kind) {
        return std::any_of(units.begin(), units.end(), [&](const verify::check_unit& unit) {
            return count_by_kind(unit.asked)[kind] > 1;
        });
    };
    std::vector<std::string> told;
    for (verify::check_unit& unit : verify::units_for(by, verify::scene_of_many_lights(), told)) {
        const lights_by_kind counts = count_by_kind(unit.asked);
        if (std::any_of(counts.begin(), counts.end(),
                        [&](const auto& each) { return each.second > 1 && !has_several(each.first); })) {
            lines.insert(lines.end(), told.begin(), told.end());
            told.clear();
            units.push_back(std::move(unit));
        }
    }
}

} // namespace

verify::coverage cover(std::vector<verify::check_unit>& units, const renderer& by,
                       std::vector<std::string>& lines) {
    const pixel_format held = by.format();
    const tolerance_model allowed = by.tolerance();
    verify::coverage result = verify::coverage_of(units, held, allowed);
    const std::vector<verify::reference_scene>& others = verify::coverage_scenes();
    add_what_others_could(result, others.front(), by, lines, units);
    add_several_of_a_kind(by, lines, units);
    if (result.unseen.empty()) {
        return result;
    }
    const auto look_at = [&](const verify::reference_scene& other) {
        std::vector<std::string> told;
        for (verify::check_unit& unit : verify::units_for(by, other, told)) {
            const verify::coverage here = verify::coverage_of({unit}, held, allowed, result.unseen);
            bool helps = false;
            for (std::size_t i = 0; i < here.shown.size(); ++i) {
                const auto found = std::find(result.unseen.begin(), result.unseen.end(), here.shown[i]);
                if (found != result.unseen.end()) {
                    result.unseen.erase(found);
                    result.shown.push_back(here.shown[i]);
                    result.where.push_back(here.where[i]);
                    helps = true;
                }
            }
            if (helps) {
                lines.insert(lines.end(), told.begin(), told.end());
                told.clear();
                units.push_back(std::move(unit));
            }
        }
        return result.unseen.empty();
    };
    if (std::any_of(others.begin(), others.end(), look_at)) {
        return result;
    }
    // Lights that are written into the claim shine from where they shine, whichever way those scenes look.
    if (const std::optional<scene> lit = by.fit(others.front().scene).fitted) {
        const std::vector<verify::reference_scene> against = verify::scenes_against_lights(lit->lights);
        (void)std::any_of(against.begin(), against.end(), look_at);
    }
    return result;
}

} // namespace yurvo::inline v0_1::study
