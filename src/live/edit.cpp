#include "yurvo/live/edit.hpp"

#include <cmath>

#include "yurvo/files/toml_edit.hpp"

namespace yurvo::inline v0_1::live {

edit set_number(const std::string& place, double value) { return {place, toml_number(value)}; }
edit set_numbers(const std::string& place, const std::vector<double>& values) {
    return {place, toml_numbers(values)};
}
edit set_text(const std::string& place, const std::string& value) { return {place, toml_text(value)}; }
edit set_by_hand(const std::string& place, const vec3<double>& value) {
    const auto round = [](double x) { return std::round(x * 1e4) / 1e4 + 0.0; };
    return set_numbers(place, {round(value.x), round(value.y), round(value.z)});
}

} // namespace yurvo::inline v0_1::live
