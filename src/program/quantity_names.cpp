#include "yurvo/program/quantity_names.hpp"

#include <string>

#include "program/quantities.hpp"
#include "program/quantity_list.hpp"

namespace yurvo::inline v0_1 {

std::vector<std::string_view> scene_quantity_names() {
    std::vector<std::string_view> names;
    for (const program::scene_quantity& known : program::scene_quantity_list()) {
        names.push_back(known.name);
    }
    return names;
}

std::vector<light_quantity_name> light_quantity_names() {
    std::vector<light_quantity_name> names;
    for (const program::light_quantity& known : program::light_quantity_list()) {
        light_quantity_name named{known.name, known.size, {}};
        for (const light_kind kind : {light_kind::directional, light_kind::point, light_kind::spot}) {
            named.kinds[static_cast<std::size_t>(kind)] = program::kind_has(kind, std::string(known.name));
        }
        names.push_back(named);
    }
    return names;
}

} // namespace yurvo::inline v0_1
