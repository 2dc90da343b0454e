#include "yurvo/report/curves.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "yurvo/report/plot.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

constexpr std::size_t most_curves = 8; // as many as there are colours

std::string heading_of(const study::law_curve& curve) {
    std::string names = curve.lights.front();
    if (curve.lights.size() == 2) {
        names += " and " + curve.lights[1];
    } else if (curve.lights.size() > 2) {
        names += fmt::format(" and {} others", curve.lights.size() - 1);
    }
    return names + " · " + curve.law;
}

void add_curves(plot& to, const std::vector<study::law_curve>& laws) {
    for (const study::law_curve& curve : laws) {
        if (to.curves.size() < most_curves) {
            to.curves.push_back({heading_of(curve), curve.points});
        }
    }
}

} // namespace

std::string curves_text(const study::curves& found) {
    std::string text;
    for (const study::light_laws& laws : found.lights) {
        text += fmt::format("{}: {}\n", laws.name, laws.laws);
    }
    return text;
}

picture curves_sheet(const study::named_scene& named, const study::curves& found) {
    plot falloff{"Falloff over distance", "distance d, metres", "factor", found.farthest, 1.25, {},
                 "no light with a place"};
    plot penumbra{"Penumbra over angle", "angle θ from the axis, degrees", "factor", found.widest, 1.25, {},
                  "no spot light"};
    add_curves(falloff, found.falloffs);
    add_curves(penumbra, found.penumbras);
    std::vector<std::string> directional;
    for (const study::light_laws& entry : found.lights) {
        if (entry.kind == light_kind::directional) {
            directional.push_back(entry.name);
        }
    }
    std::vector<std::string> notes;
    if (!directional.empty()) {
        notes.push_back(
            fmt::format("{}{}: directional, with neither falloff nor penumbra.", directional.front(),
                        directional.size() > 1 ? fmt::format(" and {} more", directional.size() - 1) : ""));
    }
    if (std::max(found.falloffs.size(), found.penumbras.size()) > most_curves) {
        notes.push_back(fmt::format("More than {} laws: the others are in --json.", most_curves));
    }
    notes.emplace_back("Factors of a light's colour × intensity; falloff is cut where it is above the top.");
    return render(named.title(),
                  fmt::format("{}: what distance and angle do to each of {} lights", named.name,
                              named.scene.lights.size()),
                  {falloff, penumbra}, notes);
}

} // namespace yurvo::inline v0_1::report
