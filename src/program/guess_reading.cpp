#include "program/guess_reading.hpp"

#include <algorithm>
#include <cmath>

#include "program/guess_first.hpp"

namespace yurvo::inline v0_1::program {

void reading::say(const std::string& about, const std::string& says, const std::string& omits) {
    how[about] = says;
    std::erase_if(omitted, [&](const auto& each) { return about != "without" && each.first == about; });
    if (!omits.empty()) {
        omitted.emplace_back(about, omits);
    }
}

void keep(std::vector<reading>& best, reading made) {
    const auto same = [&](const reading& each) { return std::abs(each.off - made.off) < 1e-9; };
    if (std::any_of(best.begin(), best.end(), same)) {
        return;
    }
    const auto place =
        std::find_if(best.begin(), best.end(), [&](const reading& each) { return made.off < each.off; });
    best.insert(place, std::move(made));
    if (best.size() > kept_readings) {
        best.pop_back();
    }
}

reading for_more_kinds(const reading& of, const guessed_bindings& guessed) {
    reading wider = of;
    for (const guessed_name& name : guessed.uniforms) {
        const shader_binding* const now = find_binding(wider.program.uniforms, name.name);
        for (const move& each : moves_to_more_kinds(name, now == nullptr ? "" : text_of(*now))) {
            each.make(wider.program);
            wider.how[each.about] = each.says;
        }
    }
    return wider;
}

reading taken_back(const reading& from, const reading& first, const guessed_bindings& guessed, bool names) {
    reading made = from;
    made.program.model = first.program.model;
    made.program.constants = first.program.constants;
    made.how.erase("model");
    if (names) {
        made.program.penumbras = first.program.penumbras;
        made.how.erase("penumbra");
        for (const guessed_name& each : guessed.uniforms) {
            if (!each.means.empty()) {
                take_as(made.program.uniforms, each.name, each.means);
                made.say(each.name, by_name, "");
            }
        }
    }
    return made;
}

std::vector<reading> without_each_formula(const reading& right) {
    std::vector<reading> fewer;
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        const auto how = right.how.find(std::string(each.name));
        if (how != right.how.end() && how->second == as_the_text_has_it) {
            reading made = right;
            made.program.formulas[each.which].clear();
            made.how.erase(std::string(each.name));
            made.off = 1; // not drawn
            fewer.push_back(std::move(made));
        }
    }
    return fewer;
}

} // namespace yurvo::inline v0_1::program
