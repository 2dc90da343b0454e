// Studies as JSON.
#include "report/data_json.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

using report::json_of; // not hidden by those below

json json_of(const std::vector<std::pair<double, double>>& points) {
    json list = json::array();
    for (const auto& [across, up] : points) {
        list.push_back({across, json_of(up)});
    }
    return list;
}

json json_of(const std::vector<study::law_curve>& curves) {
    json list = json::array();
    for (const study::law_curve& curve : curves) {
        list.push_back({{"lights", curve.lights}, {"law", curve.law}, {"points", json_of(curve.points)}});
    }
    return list;
}

json size_of(const scene& the_scene) { return {the_scene.view.width, the_scene.view.height}; }

json json_of(const study::named_scene& named, const study::rates& found) {
    json data{{"scene", named.name},
              {"model", found.model},
              {"size", size_of(named.scene)},
              {"rates", json::array()},
              {"differences", json::array()}};
    for (const study::drawn_rate* drawn : {&found.face, &found.vertex, &found.fragment}) {
        data["rates"].push_back({{"rate", name_of(drawn->at)},
                                 {"evaluations", drawn->statistics.evaluations},
                                 {"pixels", drawn->statistics.pixels},
                                 {"brightest", json_of(drawn->brightest)},
                                 {"brightest_at", {drawn->x, drawn->y}}});
    }
    const auto add = [&](rate at, const difference& off) {
        data["differences"].push_back({{"rate", name_of(at)},
                                       {"against", "fragment"},
                                       {"largest", off.largest},
                                       {"largest_at", {off.largest_x, off.largest_y}},
                                       {"mean", off.mean},
                                       {"mean_signed", off.mean_signed},
                                       {"root_mean_square", off.root_mean_square},
                                       {"pixels", off.pixels_that_differ}});
    };
    add(rate::face, found.face_off);
    add(rate::vertex, found.vertex_off);
    return data;
}

json json_of(const study::named_scene& named, const study::rate_claim& found, const std::string& program) {
    json data{{"scene", named.name},
              {"program", program},
              {"claims", name_of(found.claimed)},
              {"rates", json::array()},
              {"nearest", name_of(found.nearest)}};
    for (const study::rate_distance& distance : found.rates) {
        data["rates"].push_back(
            {{"rate", name_of(distance.at)}, {"largest", distance.off.largest}, {"mean", distance.off.mean}});
    }
    return data;
}

json json_of(const study::named_scene& named, const study::layers& found) {
    json data{{"scene", named.name}, {"model", found.model}, {"layers", json::array()}};
    for (const study::layer& each_layer : found.list) {
        json entry{{"name", each_layer.name}, {"mean", each_layer.mean}};
        if (each_layer.adds) {
            entry["adds"] = {{"largest", each_layer.adds->largest},
                             {"largest_at", {each_layer.adds->largest_x, each_layer.adds->largest_y}},
                             {"mean", each_layer.adds->mean_signed}};
        }
        data["layers"].push_back(entry);
    }
    return data;
}

json json_of(const study::named_scene& named, const study::turn& found) {
    json data{{"scene", named.name}, {"what", name_of(found.what)}, {"steps", json::array()}};
    if (found.point) {
        data["point"] = {{"object", found.point->object}, {"position", json_of(found.point->position)}};
    }
    for (const study::turn_step& step : found.steps) {
        json entry{{"degrees", degrees(step.angle)},
                   {"mean", step.mean},
                   {"largest_difference", step.largest_difference}};
        if (step.diffuse && step.specular) {
            entry["diffuse"] = json_of(*step.diffuse);
            entry["specular"] = json_of(*step.specular);
        }
        data["steps"].push_back(entry);
    }
    return data;
}

json json_of(const study::named_scene& named, const study::curves& found) {
    json data{{"scene", named.name}, {"lights", json::array()}};
    for (const study::light_laws& laws : found.lights) {
        data["lights"].push_back({{"name", laws.name}, {"kind", name_of(laws.kind)}, {"says", laws.laws}});
    }
    data["falloffs"] = json_of(found.falloffs);
    data["penumbras"] = json_of(found.penumbras);
    return data;
}

json json_of(const study::named_scene& named, const study::cost& found, int repeat) {
    json data{{"scene", named.name},
              {"model", found.model},
              {"size", size_of(named.scene)},
              {"repeat", repeat},
              {"instruction_set", found.instruction_set},
              {"rates", json::array()},
              {"says", found.advice}};
    const bool driver = !found.drawn_by.empty();
    if (driver) {
        data["driver"] = found.drawn_by;
    }
    for (const study::rate_cost& cost : found.rates) {
        json entry{{"rate", name_of(cost.at)},
                   {"milliseconds", cost.median},
                   {"quartiles", {cost.lower, cost.upper}},
                   {"evaluations", driver ? json(nullptr) : json(cost.statistics.evaluations)},
                   {"pixels", driver ? json(static_cast<std::uint64_t>(named.scene.view.width) *
                                            static_cast<std::uint64_t>(named.scene.view.height))
                                     : json(cost.statistics.pixels)}};
        if (!driver) {
            entry["vertices"] = cost.vertices;
            entry["visibility"] = cost.visibility;
            entry["shading"] = cost.shading;
            entry["encoding"] = cost.encoding;
        }
        data["rates"].push_back(entry);
    }
    return data;
}

json json_of(const picture& a, const picture& b, const study::comparison& found) {
    const difference& linear = found.linear;
    return {{"size", {a.width, a.height}},
            {"same", found.same()},
            {"linear",
             {{"largest", linear.largest},
              {"largest_at", {linear.largest_x, linear.largest_y}},
              {"a", json_of(a.color(linear.largest_x, linear.largest_y))},
              {"b", json_of(b.color(linear.largest_x, linear.largest_y))},
              {"mean", linear.mean},
              {"mean_signed", linear.mean_signed},
              {"root_mean_square", linear.root_mean_square},
              {"pixels", linear.pixels_that_differ}}},
            {"codes",
             {{"largest", found.codes.largest},
              {"largest_at", {found.codes.x, found.codes.y}},
              {"mean", found.codes.mean},
              {"pixels", found.codes.pixels}}},
            {"largest_alpha", linear.largest_alpha}};
}

} // namespace

data data_of(const study::named_scene& named, const study::rates& found) {
    return data_access::make(json_of(named, found));
}
data data_of(const study::named_scene& named, const study::rate_claim& found, const std::string& program) {
    return data_access::make(json_of(named, found, program));
}
data data_of(const study::named_scene& named, const study::layers& found) {
    return data_access::make(json_of(named, found));
}
data data_of(const study::named_scene& named, const study::turn& found) {
    return data_access::make(json_of(named, found));
}
data data_of(const study::named_scene& named, const study::curves& found) {
    return data_access::make(json_of(named, found));
}
data data_of(const study::named_scene& named, const study::cost& found, int repeat) {
    return data_access::make(json_of(named, found, repeat));
}
data data_of(const picture& a, const picture& b, const study::comparison& found) {
    return data_access::make(json_of(a, b, found));
}

} // namespace yurvo::inline v0_1::report
