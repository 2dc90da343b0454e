#include "program/constants.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

#include "pipeline/stage.hpp"
#include "program/quantity_list.hpp"

namespace yurvo::inline v0_1::program {

namespace {

class setting {
    scene& of_;
    const claimed_constant& constant_;

    [[noreturn]] void wrong_count(const std::string& right) const {
        throw error(constant_.where,
                    "the constant `" + constant_.what.text + "` has " +
                        std::to_string(constant_.numbers.size()) +
                        (constant_.numbers.size() == 1 ? " number" : " numbers"),
                    right);
    }
    [[nodiscard]] double number() const {
        if (constant_.numbers.size() != 1) {
            wrong_count("one");
        }
        return constant_.numbers.front();
    }
    // With `[i]` one component of what is there.
    [[nodiscard]] std::array<double, 3> three(const std::array<double, 3>& is, bool one_for_all) const {
        if (constant_.what.component) {
            std::array<double, 3> result = is;
            result[static_cast<std::size_t>(*constant_.what.component)] = number();
            return result;
        }
        if (constant_.numbers.size() == 1 && one_for_all) {
            return {constant_.numbers[0], constant_.numbers[0], constant_.numbers[0]};
        }
        if (constant_.numbers.size() != 3) {
            wrong_count(one_for_all ? "three, or one for all" : "three");
        }
        return {constant_.numbers[0], constant_.numbers[1], constant_.numbers[2]};
    }
    void set(rgb<double>& color) const {
        const auto [r, g, b] = three({color.r, color.g, color.b}, true);
        color = {r, g, b};
    }
    void set(vec3<double>& v) const {
        const auto [x, y, z] = three({v.x, v.y, v.z}, false);
        v = {x, y, z};
    }

    void set_of_material(material& look) const {
        const std::string& what = constant_.what.property;
        const std::map<std::string, rgb<double>*> colors{{"base", &look.base},
                                                         {"ambient", &look.ambient},
                                                         {"diffuse", &look.diffuse},
                                                         {"specular", &look.specular},
                                                         {"emission", &look.emission}};
        if (const auto found = colors.find(what); found != colors.end()) {
            set(*found->second);
        } else if (what == "shininess") {
            look.shininess = number();
        } else if (what == "alpha") {
            look.alpha = number();
        } else if (what == "two_sided") {
            look.two_sided = number() != 0;
        } else if (what == "base_alpha" && constant_.numbers.size() == 4) {
            look.base = {constant_.numbers[0], constant_.numbers[1], constant_.numbers[2]};
            look.alpha = constant_.numbers[3];
        } else if (what == "base_alpha") {
            wrong_count("four: a colour and its alpha");
        } else {
            unsettable();
        }
    }

    void set_of_shading() const {
        cel_settings& cel = of_.shading.cel;
        const std::string& what = constant_.what.property;
        if (what == "thresholds") {
            cel.thresholds = constant_.numbers;
        } else if (what == "outline") {
            cel.outline = number();
        } else if (what == "outline_color") {
            set(cel.outline_color);
        } else if (what == "bands") {
            cel.bands.clear();
            const bool colors = constant_.numbers.size() % 3 == 0 &&
                                (of_.shading.cel.thresholds.size() + 1) * 3 == constant_.numbers.size();
            for (std::size_t i = 0; i < constant_.numbers.size(); i += colors ? 3 : 1) {
                cel.bands.push_back(colors ? rgb<double>{constant_.numbers[i], constant_.numbers[i + 1],
                                                         constant_.numbers[i + 2]}
                                           : rgb<double>(constant_.numbers[i]));
            }
        } else {
            unsettable();
        }
    }

    // Kinds and laws by their numbers.
    void set_direction(light& lamp, bool towards) const {
        vec3<double> v = towards ? -lamp.shines : lamp.shines;
        set(v);
        lamp.shines = normalize(towards ? -v : v);
    }

    void set_of_light(named_light& named) const {
        light& lamp = named.light;
        const std::string whole = constant_.what.property;
        const std::string what = without_space(whole);
        if (whole.ends_with("_object")) {
            unsettable();
        }
        const bool directed = what == "shines" || what == "axis" || what == "to_light";
        const bool placed = what == "position" || what == "place";
        if (directed || placed) {
            const light_space wanted = whole.ends_with("_view") ? light_space::view : light_space::world;
            if (named.space != wanted) { // the other of place and direction goes with it
                const camera seen = make_camera(of_.view);
                lamp = light_in_world(named, seen);
                if (wanted == light_space::view) {
                    const auto turned = [&](const vec3<double>& v) {
                        return vec3<double>{dot(seen.axes.right, v), dot(seen.axes.up, v),
                                            dot(seen.axes.backward, v)};
                    };
                    lamp.position = turned(lamp.position - seen.eye);
                    lamp.shines = turned(lamp.shines);
                }
                named.space = wanted;
            }
        }
        const std::map<std::string, rgb<double>*> colors{{"color", &lamp.color},
                                                         {"ambient", &lamp.ambient},
                                                         {"diffuse", &lamp.diffuse},
                                                         {"specular", &lamp.specular}};
        const std::map<std::string, double*> numbers{
            {"intensity", &lamp.intensity}, {"range", &lamp.range}, {"exponent", &lamp.exponent}};
        if (directed) {
            set_direction(lamp, what == "to_light");
        } else if (what == "position") {
            set(lamp.position);
        } else if (what == "place") {
            if (constant_.numbers.size() != 4) {
                wrong_count("four: w = 1 for a place, 0 for a direction");
            }
            vec3<double> v{constant_.numbers[0], constant_.numbers[1], constant_.numbers[2]};
            if (constant_.numbers[3] == 0) {
                lamp.shines = normalize(-v);
            } else {
                lamp.position = v;
            }
        } else if (const auto color = colors.find(what); color != colors.end()) {
            set(*color->second);
        } else if (const auto one = numbers.find(what); one != numbers.end()) {
            *one->second = number();
        } else if (what == "light") {
            lamp.color = lamp.color * lamp.intensity;
            lamp.intensity = 1;
            set(lamp.color);
        } else if (what == "coefficients") {
            const auto [k0, k1, k2] = three(lamp.coefficients, false);
            lamp.coefficients = {k0, k1, k2};
        } else if (what == "inner" || what == "outer") {
            (what == "inner" ? lamp.inner : lamp.outer) = number();
        } else if (what == "inner_degrees" || what == "outer_degrees") {
            (what == "inner_degrees" ? lamp.inner : lamp.outer) = radians(number());
        } else if (what == "cos_inner" || what == "cos_outer") {
            (what == "cos_inner" ? lamp.inner : lamp.outer) = std::acos(std::clamp(number(), -1.0, 1.0));
        } else {
            unsettable();
        }
    }

    // The lights' own shares of a product, after everything else: what colour and intensity do not say.
    void set_product(light& lamp, bool color_is_set) const {
        const std::string part = constant_.what.property.substr(0, constant_.what.property.find('_'));
        rgb<double>& share = part == "ambient"   ? lamp.ambient
                             : part == "diffuse" ? lamp.diffuse
                                                 : lamp.specular;
        if (!color_is_set) {
            lamp.color = rgb<double>(1.0);
            lamp.intensity = 1;
        }
        rgb<double> wanted = lamp.color * lamp.intensity * share;
        set(wanted);
        const rgb<double> arriving = lamp.color * lamp.intensity;
        const auto over = [](double a, double b) { return b == 0 ? 0 : a / b; };
        share = {over(wanted.r, arriving.r), over(wanted.g, arriving.g), over(wanted.b, arriving.b)};
    }

    [[nodiscard]] bool names(std::size_t i) const {
        const quantity& what = constant_.what;
        const named_light& lamp = of_.lights[i];
        if (!what.name.empty()) {
            return lamp.name == what.name;
        }
        if (what.only && lamp.light.kind != *what.only) {
            return false;
        }
        if (what.each) {
            return true;
        }
        int before = 0;
        for (std::size_t k = 0; k < i; ++k) {
            before += !what.only || of_.lights[k].light.kind == *what.only ? 1 : 0;
        }
        return before == *what.index;
    }

  public:
    setting(scene& of, const claimed_constant& constant) : of_(of), constant_(constant) {}

    [[noreturn]] void unsettable() const {
        throw error(constant_.where, "`" + constant_.what.text + "` cannot be set in a scene",
                    "a quantity that determines values of the scene: lights[0].position, material.shininess");
    }

    [[nodiscard]] bool is_product() const {
        return constant_.what.of == "lights" && constant_.what.property.ends_with("_light") &&
               constant_.what.property != "to_light";
    }

    void apply() const {
        if (constant_.what.of == "material") {
            for (named_material& each : of_.materials) {
                set_of_material(each.look);
            }
        } else if (constant_.what.of == "shading") {
            set_of_shading();
        } else if (constant_.what.of == "ambient") {
            if (constant_.what.property == "strength") {
                of_.ambient_strength = number();
            } else if (constant_.what.property == "light") {
                of_.ambient_color = of_.ambient_color * of_.ambient_strength;
                of_.ambient_strength = 1;
                set(of_.ambient_color);
            } else {
                set(of_.ambient_color);
            }
        } else {
            for (std::size_t i = 0; i < of_.lights.size(); ++i) {
                if (names(i)) {
                    set_of_light(of_.lights[i]);
                }
            }
        }
    }
    void apply_product(const std::function<bool(std::size_t)>& color_is_set) const {
        for (std::size_t i = 0; i < of_.lights.size(); ++i) {
            if (names(i)) {
                set_product(of_.lights[i].light, color_is_set(i));
            }
        }
    }
    [[nodiscard]] bool concerns(std::size_t light) const { return names(light); }
};

} // namespace

void set_constants(const claims& claimed, scene& of) {
    for (const claimed_constant& constant : claimed.constants) {
        const setting one(of, constant);
        if (!one.is_product()) {
            one.apply();
        }
    }
    // Products of one light set its colour, with intensity 1; several of them its parts as well. They count
    // where no colour is set by itself.
    const auto has_color = [&](std::size_t light) {
        return std::any_of(claimed.constants.begin(), claimed.constants.end(),
                           [&](const claimed_constant& each) {
                               return each.what.of == "lights" &&
                                      (each.what.property == "color" || each.what.property == "light" ||
                                       each.what.property == "intensity") &&
                                      setting(of, each).concerns(light);
                           });
    };
    for (std::size_t i = 0; i < of.lights.size(); ++i) {
        std::vector<const claimed_constant*> products;
        for (const claimed_constant& constant : claimed.constants) {
            if (setting(of, constant).is_product() && setting(of, constant).concerns(i)) {
                products.push_back(&constant);
            }
        }
        light& lamp = of.lights[i].light;
        if (products.size() == 1 && !has_color(i) &&
            !products.front()->what.property.starts_with("ambient")) {
            const bool diffuse = products.front()->what.property.starts_with("diffuse");
            (diffuse ? lamp.diffuse : lamp.specular) = rgb<double>(1.0);
            lamp.intensity = 1;
            const std::vector<double>& n = products.front()->numbers;
            if (n.size() == 1) {
                lamp.color = rgb<double>(n[0]);
                continue;
            }
            if (n.size() == 3) {
                lamp.color = {n[0], n[1], n[2]};
                continue;
            }
        }
        for (const claimed_constant* constant : products) {
            setting(of, *constant).apply_product([&](std::size_t at) { return at != i || has_color(i); });
        }
    }
}

const claimed_constant* contradiction(const claims& claimed, const scene& of) {
    if (of.objects.empty()) {
        return nullptr;
    }
    const pipeline::stage staged = pipeline::make_stage(of);
    const law_numbers numbered;
    const quantity_context in{of, staged, staged.objects.front(), numbered};
    for (const claimed_constant& constant : claimed.constants) {
        quantity what = constant.what;
        if (what.of == "lights" && what.each) {
            what.each = false;
            what.index = 0;
        }
        if (what.of == "shading" || !is_there(what, 0, in)) {
            continue;
        }
        std::vector<double> is = evaluate(what, 0, in, constant.where).numbers;
        std::vector<double> wanted = constant.numbers;
        wanted.resize(is.size(), wanted.front());
        const bool direction = without_space(what.property) == "to_light" ||
                               without_space(what.property) == "axis" ||
                               without_space(what.property) == "shines";
        if (direction && wanted.size() == 3) {
            const auto unit = [](std::vector<double>& v) {
                const double size = std::hypot(v[0], v[1], v[2]);
                for (double& x : v) {
                    x /= size;
                }
            };
            unit(wanted);
            unit(is);
        }
        for (std::size_t i = 0; i < is.size(); ++i) {
            if (std::abs(is[i] - wanted[i]) > 1e-9 * (1 + std::abs(wanted[i]))) {
                return &constant;
            }
        }
    }
    return nullptr;
}

} // namespace yurvo::inline v0_1::program
