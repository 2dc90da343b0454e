#include "program/not_looked_at.hpp"

#include <algorithm>
#include <optional>
#include <utility>

#include "scene/in_size.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::program {

std::vector<std::string> not_looked_at(const program_renderer& by) {
    std::optional<std::vector<std::string>> names; // nothing has been drawn yet
    const auto look = [&](const auto& begin, const auto& end) {
        constexpr int width = 72;
        constexpr int height = 45;
        std::vector<scene> scenes;
        std::for_each(begin, end, [&](const verify::reference_scene& each) {
            if (fitted_scene made = by.fit(in_size(each.scene, width, height)); made.fitted) {
                scenes.push_back(std::move(*made.fitted));
            }
        });
        if (scenes.empty()) {
            return;
        }
        const std::vector<std::string> here = by.names_without_effect(scenes);
        if (!names) {
            names = here;
        }
        std::erase_if(*names, [&](const std::string& name) {
            return std::find(here.begin(), here.end(), name) == here.end();
        });
    };
    try {
        // Under lights of every kind most names show at once; the others are asked of all scenes.
        const auto lit = verify::coverage_scenes().begin();
        look(lit, lit + 1);
        if (!names || !names->empty()) {
            look(verify::reference_scenes().begin(), verify::reference_scenes().end());
        }
    } catch (const program_stopped&) {
        return {};
    }
    return names.value_or(std::vector<std::string>());
}

} // namespace yurvo::inline v0_1::program
