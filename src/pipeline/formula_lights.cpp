#include "pipeline/formula_lights.hpp"

#include <algorithm>
#include <vector>

#include "pipeline/light_reach.hpp"
#include "yurvo/formula/bounds.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

using formulas::bounds;
using formulas::component_bounds;
using formulas::exactly;
using formulas::input;
using formulas::slot;

constexpr double a_little_more = 1 + 1e-4; // than 1, as floats have it
constexpr bounds unit_component{-a_little_more, a_little_more};
constexpr double most = 1e9; // of what a scene gives and no formula has to know

bounds shininess_in(const scene& the_scene) {
    bounds result{1, 1};
    for (const named_material& each : the_scene.materials) {
        const bounds its = exactly(each.look.shininess);
        result = {std::min(result.low, its.low), std::max(result.high, its.high)};
    }
    return result;
}

// What formulas know of one light, and how it arrives.
class light_proof {
    const formulas::formula_set& set_;
    light_kind kind_;
    std::vector<component_bounds> inputs_;
    formulas::known_directions directions_;

    component_bounds& at(input which) { return inputs_[index_of(which)]; }
    void put(input which, const bounds& each) { at(which).fill(each); }
    void put(input which, const vec3<float>& numbers) {
        at(which) = {exactly(numbers.x), exactly(numbers.y), exactly(numbers.z), bounds{}};
    }

    [[nodiscard]] component_bounds of(slot which) const {
        return bounds_of(*set_[which], inputs_, directions_);
    }
    [[nodiscard]] bool all(slot which, bool (bounds::*holds)() const) const {
        const component_bounds value = of(which);
        const std::size_t width = set_[which]->type().width;
        return std::all_of(value.begin(), value.begin() + static_cast<std::ptrdiff_t>(width),
                           [&](const bounds& each) { return (each.*holds)(); });
    }
    // A formula for a direction is what others see in its place.
    bool direction(slot which, input as) {
        if (!set_.has(which)) {
            return true;
        }
        const bool finite = all(which, &bounds::finite);
        at(as) = of(which);
        std::erase(directions_.unit, index_of(as));
        return finite;
    }

  public:
    light_proof(const scene& the_scene, const formulas::formula_set& set, const ready_light<float>& lamp)
        : set_(set), kind_(lamp.kind) {
        inputs_.resize(formulas::input_count + set.numbers.size());
        for (const input each : {input::n, input::l, input::v, input::h, input::r, input::axis}) {
            put(each, unit_component);
            directions_.unit.push_back(index_of(each));
        }
        for (const input each : {input::position, input::eye, input::base, input::material_ambient,
                                 input::material_diffuse, input::material_specular, input::emission}) {
            put(each, {-most, most});
        }
        put(input::cos_theta, unit_component);
        put(input::shininess, shininess_in(the_scene));
        put(input::pi, exactly(pi));
        put(input::front, {0, 1});
        put(input::light_color, {0, most});
        put(input::coefficients, lamp.coefficients);
        put(input::range, exactly(lamp.seen_range));
        put(input::cos_inner, exactly(lamp.cos_inner));
        put(input::cos_outer, exactly(lamp.cos_outer));
        put(input::inner, exactly(lamp.inner));
        put(input::outer, exactly(lamp.outer));
        put(input::exponent, exactly(lamp.seen_exponent));
        for (std::size_t i = 0; i < set.numbers.size(); ++i) {
            const std::vector<double>& values = set.numbers[i].values;
            for (std::size_t k = 0; k < values.size(); ++k) {
                inputs_[formulas::input_count + i][k] = exactly(values[k]);
            }
        }
    }

    // Of points from `nearest` to `farthest` away from it.
    void put_distance(double nearest, double farthest) {
        put(input::d, kind_ == light_kind::directional ? exactly(0) : bounds{nearest, farthest});
    }
    void put_behind() { directions_.n_dot_l = bounds{-a_little_more, 0}; }

    // All that is asked before a light arrives gives numbers there.
    bool arrives() {
        return direction(slot::v, input::v) && direction(slot::h, input::h) && direction(slot::r, input::r) &&
               (kind_ == light_kind::directional || !set_.has(slot::falloff) ||
                all(slot::falloff, &bounds::finite)) &&
               (kind_ != light_kind::spot || !set_.has(slot::penumbra) ||
                all(slot::penumbra, &bounds::finite));
    }
    void put_arriving(const bounds& light) { put(input::light, light); }

    // Shares that are `holds`: of the model's own ones, which are gated by n·l, nothing has to be known.
    bool shares(bool (bounds::*holds)() const) const {
        return (!set_.has(slot::diffuse) || all(slot::diffuse, holds)) &&
               (!set_.has(slot::specular) || all(slot::specular, holds));
    }
};

} // namespace

adds_nothing proved_for(const scene& the_scene, const formulas::formula_set& set) {
    adds_nothing result{!set.has(slot::falloff) && !set.has(slot::penumbra), true};
    if (set.has(slot::l)) { // then l is not where the light is
        return {};
    }
    for (const named_light& named : the_scene.lights) {
        const light& each = named.light;
        if (has_ambient(each)) { // which arrives from behind, too
            return {};
        }
        const ready_light<float> lamp = make_ready<float, formula>(each, {});
        light_proof dark(the_scene, set, lamp);
        dark.put_distance(0, most);
        dark.put_arriving({0, 0});
        result.dark = result.dark && dark.arrives() && dark.shares(&bounds::finite);
        light_proof behind(the_scene, set, lamp);
        behind.put_distance(nearest_behind, farthest_behind);
        behind.put_behind();
        behind.put_arriving({0, most});
        result.behind = result.behind && behind.arrives() && behind.shares(&bounds::zero);
    }
    return result;
}

} // namespace yurvo::inline v0_1::pipeline
