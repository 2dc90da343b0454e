#include "session.hpp"

#include <algorithm>
#include <cmath>
#include <memory>

#include "yurvo/report/plot.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::app {

namespace {

struct curves_options {
    std::string scene, output, json_file;
};

constexpr int samples = 400;

// How a law is written on the sheet.
std::string words_of_falloff(const light& of) {
    switch (of.falloff) {
    case falloff_kind::none:
        return "none: 1";
    case falloff_kind::inverse_square:
        return "inverse-square: 1 / d²";
    case falloff_kind::polynomial:
        return fmt::format("polynomial: 1 / ({:.4g} + {:.4g}·d + {:.4g}·d²)", of.coefficients[0],
                           of.coefficients[1], of.coefficients[2]);
    case falloff_kind::linear:
        return fmt::format("linear: 1 − d / {:.4g}", of.range);
    case falloff_kind::windowed:
        break;
    }
    return fmt::format("windowed: (1 − (d / {:.4g})⁴) / d²", of.range);
}

std::string words_of_penumbra(const light& of) {
    const std::string name(name_of(of.penumbra));
    const double outer = degrees(of.outer);
    if (of.penumbra == penumbra_kind::hard) {
        return fmt::format("{} within {:.4g}°", name, outer);
    }
    if (of.penumbra == penumbra_kind::power) {
        return fmt::format("{}: cos θ to the {:.4g} within {:.4g}°", name, of.exponent, outer);
    }
    return fmt::format("{} from {:.4g}° to {:.4g}°", name, degrees(of.inner), outer);
}

// One curve for all lights that follow the same law.
struct law {
    std::string words;
    light of;
    std::vector<std::string> lights;
};

void add_law(std::vector<law>& laws, const std::string& words, const light& of, const std::string& name) {
    for (law& known : laws) {
        if (known.words == words) {
            known.lights.push_back(name);
            return;
        }
    }
    laws.push_back({words, of, {name}});
}

std::string heading_of(const law& one) {
    std::string names = one.lights.front();
    if (one.lights.size() == 2) {
        names += " and " + one.lights[1];
    } else if (one.lights.size() > 2) {
        names += fmt::format(" and {} others", one.lights.size() - 1);
    }
    return names + " · " + one.words;
}

int run(session& on, const curves_options& options) {
    require_picture_name(options.output);
    json data;
    const picture sheet = show_curves(find_scene(on, options.scene), options.scene, data);
    write_picture(options.output, sheet);
    if (speaks(options.json_file)) {
        for (const json& light : data["lights"]) {
            on.print("{}: {}\n", light["name"].get<std::string>(), light["says"].get<std::string>());
        }
        on.print("{}: the curves\n", options.output);
    }
    write_json(on, options.json_file, data);
    return all_held;
}

} // namespace

picture show_curves(const scene& of, const std::string& name, json& data) {
    data = {{"scene", name}, {"lights", json::array()}};
    std::vector<law> falloffs;
    std::vector<law> penumbras;
    std::vector<std::string> directional;
    double farthest = 4;
    double widest = 5;
    for (std::size_t i = 0; i < of.lights.size(); ++i) {
        const light& light = of.lights[i].light;
        const std::string label = label_of(of.lights[i], i);
        if (light.kind == light_kind::directional) {
            directional.push_back(label);
            data["lights"].push_back(
                {{"name", label}, {"kind", "directional"}, {"says", "neither falloff nor penumbra"}});
            continue;
        }
        add_law(falloffs, words_of_falloff(light), light, label);
        std::string says = words_of_falloff(light);
        const bool ranged = light.falloff == falloff_kind::linear || light.falloff == falloff_kind::windowed;
        farthest = std::max(farthest, ranged ? 1.2 * light.range : 0);
        if (light.kind == light_kind::spot) {
            add_law(penumbras, words_of_penumbra(light), light, label);
            says += "; " + words_of_penumbra(light);
            widest = std::max(widest, std::min(180.0, 1.25 * degrees(light.outer)));
        }
        data["lights"].push_back({{"name", label}, {"kind", name_of(light.kind)}, {"says", says}});
    }
    const auto sampled = [](double most, auto&& value) {
        std::vector<std::pair<double, double>> points;
        for (int i = 0; i <= samples; ++i) {
            const double at = most * i / samples;
            points.emplace_back(at, value(at));
        }
        return points;
    };
    const auto as_json = [](const std::vector<std::pair<double, double>>& points) {
        json list = json::array();
        for (const auto& [across, up] : points) {
            list.push_back({across, std::isfinite(up) ? json(up) : json(nullptr)});
        }
        return list;
    };
    report::plot falloff{"Falloff over distance", "distance d, metres", "factor", farthest, 1.25, {},
                         "no light with a place"};
    data["falloffs"] = json::array();
    constexpr std::size_t most_curves = 8; // as many as there are colours
    for (const law& one : falloffs) {
        const ready_light<double> ready = make_ready<double>(one.of);
        const auto points = sampled(farthest, [&](double d) {
            return falloff_at<formula, double>(ready, std::max(d, 1e-9), ready.law());
        });
        data["falloffs"].push_back({{"lights", one.lights}, {"law", one.words}, {"points", as_json(points)}});
        if (falloff.curves.size() < most_curves) {
            falloff.curves.push_back({heading_of(one), points});
        }
    }
    report::plot penumbra{"Penumbra over angle", "angle θ from the axis, degrees", "factor", widest, 1.25, {},
                          "no spot light"};
    data["penumbras"] = json::array();
    for (const law& one : penumbras) {
        light at_origin = one.of;
        at_origin.shines = {0, 0, -1};
        const ready_light<double> ready = make_ready<double>(at_origin);
        const auto points = sampled(widest, [&](double angle) {
            const double theta = radians(angle);
            return penumbra_at<formula, double>(ready, {std::sin(theta), 0, std::cos(theta)}, ready.law());
        });
        data["penumbras"].push_back(
            {{"lights", one.lights}, {"law", one.words}, {"points", as_json(points)}});
        if (penumbra.curves.size() < most_curves) {
            penumbra.curves.push_back({heading_of(one), points});
        }
    }
    std::vector<std::string> notes;
    if (!directional.empty()) {
        notes.push_back(
            fmt::format("{}{}: directional, with neither falloff nor penumbra.", directional.front(),
                        directional.size() > 1 ? fmt::format(" and {} more", directional.size() - 1) : ""));
    }
    if (falloffs.size() > most_curves || penumbras.size() > most_curves) {
        notes.push_back(fmt::format("More than {} laws: the others are in --json.", most_curves));
    }
    notes.emplace_back("Factors of a light's colour × intensity; falloff is cut where it is above the top.");
    return report::render(
        of.title.empty() ? name : of.title,
        fmt::format("{}: what distance and angle do to each of {} lights", name, of.lights.size()),
        {falloff, penumbra}, notes);
}

void add_curves(CLI::App& to, session& on) {
    CLI::App* command =
        to.add_subcommand("curves", "Plot each light's falloff over distance and its penumbra over angle.");
    auto options = std::make_shared<curves_options>();
    command
        ->add_option("scene", options->scene,
                     "a scene's name (see `yurvo scenes`) or the path of a scene file")
        ->required()
        ->type_name("SCENE");
    command->add_option("-o,--output", options->output, "the plot: .png, .exr or .pfm")
        ->required()
        ->type_name("FILE");
    command->add_option("--json", options->json_file, "the curves' points, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
