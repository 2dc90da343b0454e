// data_json: what a study's data is made of, by the JSON library.
#pragma once

#include <cmath>
#include <vector>

#include <nlohmann/json.hpp>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/report/data.hpp"

namespace yurvo::inline v0_1::report {

using json = nlohmann::ordered_json;

struct data::parts {
    json value = json::object();
};

struct data_access {
    static data make(json value);
};

// JSON has no infinity: what is not a finite number is null there.
inline json json_of(double value) { return std::isfinite(value) ? json(value) : json(nullptr); }
inline json json_of(const rgb<float>& color) { return {color.r, color.g, color.b}; }
inline json json_of(const rgb<double>& color) {
    return {json_of(color.r), json_of(color.g), json_of(color.b)};
}
inline json json_of(const vec3<double>& vector) {
    return {json_of(vector.x), json_of(vector.y), json_of(vector.z)};
}

inline json json_of(const std::vector<double>& values) {
    json list = json::array();
    for (const double value : values) {
        list.push_back(json_of(value));
    }
    return list;
}

} // namespace yurvo::inline v0_1::report
