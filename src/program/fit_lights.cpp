#include "program/fit_lights.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <vector>

#include "yurvo/geometry/transform.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// What a placed light lets arrive at a distance, at the least a little.
double falloff_by_law(const light& lamp, double d) {
    const ready_light<double> ready = make_ready<double>(lamp);
    return std::max(0.05, falloff_at(ready, d, ready.law(), formula{}));
}

class light_choice {
    const claims& claimed_;
    scene& made_;
    const std::function<void(const std::string&)>& change;

    [[nodiscard]] vec3<double> target() const { return made_.view.target; }

    // The same light, the scene's `number`-th, as one of another kind: at the same place, or 4 m from the
    // view's target against `shines`; its cone around the target.
    void convert(named_light& named, light_kind to, std::size_t number) const {
        constexpr double away = 4;
        const law_numbers given = law_numbers_of(number);
        named.light = light_in_world(named, make_camera(made_.view));
        named.space = light_space::world;
        light& lamp = named.light;
        const light_kind from = lamp.kind;
        const vec3<double> to_target = target() - lamp.position;
        const double d = std::max(length(to_target), 0.5);
        if (to == light_kind::directional) {
            lamp.shines = length(to_target) > 0 ? to_target : vec3<double>{0, -1, 0};
            lamp.intensity *= falloff_by_law(lamp, d);
        } else if (from == light_kind::directional) {
            lamp.position = target() - away * normalize(lamp.shines);
            lamp.falloff =
                claimed_.falloffs.empty() ? falloff_kind::inverse_square : claimed_.falloffs.front();
            lamp.coefficients = {0, 0, 0};
            if (descriptor_of(lamp.falloff).coefficients) {
                lamp.coefficients = given.coefficients;
            }
            lamp.range = descriptor_of(lamp.falloff).range ? given.range : 0;
            const bool own = claimed_.formulas.has(formulas::slot::falloff);
            lamp.intensity /= own ? 1.0 / (1 + away * away / 2) : falloff_by_law(lamp, away);
        }
        if (to == light_kind::spot) {
            const vec3<double> aimed = target() - lamp.position;
            lamp.shines = length(aimed) > 0 ? normalize(aimed) : vec3<double>{0, -1, 0};
            lamp.penumbra = penumbra_kind::smooth;
            lamp.inner = given.inner;
            lamp.outer = given.outer;
            lamp.exponent = 0;
        } else if (from == light_kind::spot) {
            const light usual;
            lamp.penumbra = usual.penumbra;
            lamp.inner = usual.inner;
            lamp.outer = usual.outer;
            lamp.exponent = usual.exponent;
            lamp.shines = to == light_kind::directional ? lamp.shines : usual.shines;
        }
        lamp.kind = to;
    }

    // The kind that a light of that kind becomes, of those allowed.
    static light_kind nearest_kind(light_kind from, const std::vector<light_kind>& allowed) {
        using enum light_kind;
        const std::array<light_kind, 3> order = from == directional ? std::array{directional, spot, point}
                                                : from == point     ? std::array{point, spot, directional}
                                                                    : std::array{spot, point, directional};
        for (const light_kind kind : order) {
            if (contains(allowed, kind)) {
                return kind;
            }
        }
        return from;
    }

    // One more light, where a scene has too few: from another side each.
    [[nodiscard]] named_light another(std::size_t number, light_kind kind) const {
        named_light result;
        const double angle = 0.8 + 2.4 * static_cast<double>(number);
        result.light.kind = light_kind::directional;
        result.light.shines = {std::cos(angle), -1.1, std::sin(angle)};
        result.light.color = number % 3 == 0   ? rgb<double>{1.0, 0.82, 0.55}
                             : number % 3 == 1 ? rgb<double>{0.55, 0.75, 1.0}
                                               : rgb<double>{0.8, 1.0, 0.6};
        result.light.intensity = 0.6;
        if (kind != light_kind::directional) {
            convert(result, kind, number);
        }
        return result;
    }

    void change_kind(named_light& lamp, light_kind to, std::size_t number) {
        if (lamp.light.kind != to) {
            change("a " + std::string(name_of(lamp.light.kind)) + " light made " + std::string(name_of(to)));
            convert(lamp, to, number);
        }
    }

    // Light i is of kinds[i]: the first of that kind that is left, or another one made so.
    void put_in_order() {
        std::vector<named_light> left = std::move(made_.lights);
        std::vector<named_light> ordered;
        const auto wanted =
            std::min(claimed_.kinds.size(), static_cast<std::size_t>(std::max(claimed_.most, 0)));
        for (std::size_t i = 0; i < wanted; ++i) {
            const bool needed = static_cast<int>(i) < std::max(claimed_.fewest, 1);
            auto found = std::find_if(left.begin(), left.end(), [&](const named_light& lamp) {
                return lamp.light.kind == claimed_.kinds[i];
            });
            found = found == left.end() ? left.begin() : found;
            if (found == left.end()) {
                if (!needed) {
                    break;
                }
                ordered.push_back(another(i, claimed_.kinds[i]));
                change("lights added");
                continue;
            }
            ordered.push_back(*found);
            left.erase(found);
            change_kind(ordered.back(), claimed_.kinds[i], i);
        }
        if (!left.empty()) {
            change("of its lights the first " + std::to_string(wanted));
        }
        made_.lights = std::move(ordered);
    }

    [[nodiscard]] int room_of(light_kind kind) const {
        const auto found = claimed_.most_of_kind.find(kind);
        const bool only_by_kind = !claimed_.most_of_kind.empty() && !claimed_.in_any_order;
        return only_by_kind ? (found == claimed_.most_of_kind.end() ? 0 : found->second) : claimed_.most;
    }

    // Every light as one that the program takes, as many as it takes.
    void take_lights() {
        std::vector<named_light> kept;
        std::map<light_kind, int> of_kind;
        // Those that it calls by name are never left out.
        std::stable_partition(made_.lights.begin(), made_.lights.end(), [&](const named_light& lamp) {
            return claimed_.names.empty() || claimed_.names.count(lamp.name) > 0;
        });
        for (named_light& lamp : made_.lights) {
            if (static_cast<int>(kept.size()) >= claimed_.most) {
                break;
            }
            std::vector<light_kind> roomy;
            for (const light_kind kind : claimed_.kinds) {
                if (of_kind[kind] < room_of(kind)) {
                    roomy.push_back(kind);
                }
            }
            if (roomy.empty()) {
                break;
            }
            change_kind(lamp, nearest_kind(lamp.light.kind, roomy), kept.size());
            ++of_kind[lamp.light.kind];
            kept.push_back(lamp);
        }
        if (kept.size() < made_.lights.size()) {
            change("of its lights the first " + std::to_string(kept.size()));
        }
        made_.lights = std::move(kept);
        const auto add = [&](light_kind kind) {
            made_.lights.push_back(another(made_.lights.size(), kind));
            ++of_kind[kind];
            change("lights added");
        };
        for (const auto& [kind, fewest] : claimed_.fewest_of_kind) {
            while (of_kind[kind] < fewest) {
                add(kind);
            }
        }
        while (static_cast<int>(made_.lights.size()) < claimed_.fewest && !claimed_.kinds.empty()) {
            light_kind kind = claimed_.kinds[made_.lights.size() % claimed_.kinds.size()];
            for (const light_kind other : claimed_.kinds) {
                kind = of_kind[kind] < room_of(kind) ? kind : other;
            }
            add(kind);
        }
    }

    // A program that calls its lights by name has lights of those names.
    void name_lights() {
        for (const std::string& name : claimed_.names) {
            const auto called = [&](const named_light& lamp) { return lamp.name == name; };
            if (std::any_of(made_.lights.begin(), made_.lights.end(), called)) {
                continue;
            }
            auto free = std::find_if(made_.lights.begin(), made_.lights.end(), [&](const named_light& lamp) {
                return claimed_.names.count(lamp.name) == 0;
            });
            if (free == made_.lights.end()) {
                made_.lights.push_back(another(made_.lights.size(), claimed_.kinds.empty()
                                                                        ? light_kind::point
                                                                        : claimed_.kinds.front()));
                free = made_.lights.end() - 1;
            }
            free->name = name;
            change("a light called `" + name + "`");
        }
        for (std::size_t i = 0; i < made_.lights.size(); ++i) {
            const auto kind = claimed_.kind_of_name.find(made_.lights[i].name);
            if (kind != claimed_.kind_of_name.end()) {
                change_kind(made_.lights[i], kind->second, i);
            }
        }
    }

  public:
    light_choice(const claims& claimed, scene& of, const std::function<void(const std::string&)>& changed)
        : claimed_(claimed), made_(of), change(changed) {}

    void run() {
        if (claimed_.in_order) {
            put_in_order();
        } else {
            take_lights();
        }
        name_lights();
    }
};

} // namespace

law_numbers law_numbers_of(std::size_t number) {
    // From 0 towards 1, and the same for no two: no light is far from the first.
    const double apart = 1 - std::pow(0.57, static_cast<double>(number));
    law_numbers result;
    result.range = 10 - 5 * apart;
    result.coefficients = {1 + 0.4 * apart, 0.1 + 0.1 * apart, 0.2 - 0.1 * apart};
    result.inner = radians(14 + 5 * apart);
    result.outer = radians(32 + 9 * apart);
    result.exponent = 8 + 10 * apart;
    return result;
}

void take_lights(const claims& claimed, scene& of, const std::function<void(const std::string&)>& changed) {
    light_choice(claimed, of, changed).run();
}

} // namespace yurvo::inline v0_1::program
