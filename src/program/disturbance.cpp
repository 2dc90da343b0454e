#include "program/disturbance.hpp"

#include <algorithm>
#include <cctype>

#include "program/interfaces.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// How many lights there are is none: beyond its arrays no shader may read.
bool is_of_scene(const meaning& means) {
    const std::vector<const quantity*> all = quantities_of(means);
    return !all.empty() && std::none_of(all.begin(), all.end(),
                                        [](const quantity* each) { return each->property == "count"; });
}

} // namespace

std::vector<disturbed_numbers> numbers_to_disturb(const bindings& bound) {
    std::vector<disturbed_numbers> all;
    const auto add = [&](const std::string& name, std::size_t first, std::size_t last, std::size_t width) {
        const bool known = std::any_of(all.begin(), all.end(), [&](const disturbed_numbers& each) {
            return each.name == name && each.first == first && each.last == last;
        });
        if (!known) {
            const std::string letters = "xyzw";
            all.push_back({name, first, last,
                           first == 0 && last == width ? "" : "." + letters.substr(first, last - first)});
        }
    };
    for (const bound_uniform& uniform : bound.uniforms) {
        const type_shape shape = shape_of(uniform.active.type);
        if (shape.texture || shape.whole || shape.columns > 0) {
            continue;
        }
        const std::string name = of_all_elements(uniform.active.name);
        const auto width = static_cast<std::size_t>(std::max(1, shape.components));
        const std::size_t meanings = uniform.means.size();
        if (meanings == width && width > 1) { // one by one
            for (std::size_t i = 0; i < width; ++i) {
                if (is_of_scene(uniform.means[i])) {
                    add(name, i, i + 1, width);
                }
            }
        } else if (meanings == 2 && width > 2) { // three and one, mostly
            if (is_of_scene(uniform.means[0])) {
                add(name, 0, width - 1, width);
            }
            if (is_of_scene(uniform.means[1])) {
                add(name, width - 1, width, width);
            }
        } else if (std::any_of(uniform.means.begin(), uniform.means.end(), is_of_scene)) {
            add(name, 0, width, width);
        }
    }
    for (const bound_attribute& attribute : bound.attributes) {
        if (attribute.means == "tangent" || attribute.means == "bitangent") {
            const auto width =
                static_cast<std::size_t>(std::max(1, shape_of(attribute.active.type).components));
            add(attribute.active.name, 0, width, width);
        }
    }
    return all;
}

namespace {

// Another one, whatever it is; by more than a whole number's rounding, as kinds may come as floats.
float another_value(float number, disturbed_way way) {
    return way == disturbed_way::up ? number * 1.37F + 0.21F : number * 0.27F - 1.13F;
}

} // namespace

void disturb(const disturbed_numbers& which, disturbed_way way, const bound_uniform& uniform,
             std::vector<float>& numbers) {
    if (of_all_elements(uniform.active.name) != which.name) {
        return;
    }
    for (std::size_t i = which.first; i < std::min(which.last, numbers.size()); ++i) {
        numbers[i] = another_value(numbers[i], way);
    }
}

void disturb(const disturbed_numbers& which, disturbed_way way, const std::string& attribute,
             std::size_t width, std::vector<float>& numbers) {
    for (std::size_t i = 0; attribute == which.name && i < numbers.size(); ++i) {
        if (i % width >= which.first && i % width < which.last) {
            numbers[i] = another_value(numbers[i], way);
        }
    }
}

} // namespace yurvo::inline v0_1::program
