// edit: one change of a scene, as a value.
#pragma once

#include <string>
#include <vector>

#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// What is written where. An empty `value` takes the place out; a place that ends with `[]` gets another
/// section, whose lines `value` is.
struct edit {
    std::string place; ///< `lights[0].position`, as in messages
    std::string value; ///< TOML

    friend bool operator==(const edit&, const edit&) = default;
};
/// Writes a number.
edit set_number(const std::string& place, double value);
/// Writes a list of numbers.
edit set_numbers(const std::string& place, const std::vector<double>& values);
/// Writes a text, in quotes.
edit set_text(const std::string& place, const std::string& value);
/// Three numbers to a tenth of a thousandth: what a hand can mean.
edit set_by_hand(const std::string& place, const vec3<double>& value);

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
