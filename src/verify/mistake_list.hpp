// mistake_list: the catalogue, in parts, and what its descriptors ask of a scene.
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

#include "yurvo/verify/mistakes.hpp"

namespace yurvo::inline v0_1::verify {

// What a mistake may need to be there.
struct scene_facts {
    const scene& of;
    bool own;          // lit by a model of one's own
    bool lit;          // by lights
    bool terms;        // ambient and diffuse are terms of it
    bool specular;     // so is specular
    bool looks_at_eye; // v plays a role
    bool fragment;     // rate
    bool meshes, fields;
    yurvo::formulas::formula_set formulas; // of the scene; none with a model of one's own

    scene_facts(const scene& scene, lit_by model);

    [[nodiscard]] bool is(model_kind kind) const { return !own && of.shading.model == kind; }
    // A formula stands for that part.
    [[nodiscard]] bool replaced(yurvo::formulas::slot which) const { return formulas.has(which); }
    [[nodiscard]] bool asks(yurvo::formulas::input which) const { return formulas.uses(which); }
    // The model's own highlight is there.
    [[nodiscard]] bool highlight_of(model_kind kind) const {
        return specular && is(kind) && !replaced(yurvo::formulas::slot::specular);
    }
    // v is the model's own, and plays a role.
    [[nodiscard]] bool own_eye() const { return looks_at_eye && !replaced(yurvo::formulas::slot::v); }
    [[nodiscard]] bool has_falloff(const named_light& lamp) const {
        return lamp.light.kind != light_kind::directional &&
               (lamp.light.falloff != falloff_kind::none || replaced(yurvo::formulas::slot::falloff));
    }
    // A coarser rate can draw it: a texture comes after it, and cannot come before `color`.
    [[nodiscard]] bool any_rate() const;
    [[nodiscard]] bool cel() const { return is(model_kind::cel); }
    [[nodiscard]] bool per_face() const { return of.shading.rate == rate::face; }
    template <class Is> [[nodiscard]] bool any_light(Is&& is_one) const {
        return std::any_of(of.lights.begin(), of.lights.end(), is_one);
    }
    template <class Is> [[nodiscard]] bool any_material(Is&& is_one) const {
        return std::any_of(of.materials.begin(), of.materials.end(), is_one);
    }
};

inline bool placed(const named_light& lamp) { return lamp.light.kind != light_kind::directional; }
inline bool with_ambient(const named_light& lamp) { return has_ambient(lamp.light); }
inline bool spot(const named_light& lamp) { return lamp.light.kind == light_kind::spot; }
inline bool directional(const named_light& lamp) { return lamp.light.kind == light_kind::directional; }

// In the order of the enum, one part after the other.
std::vector<mistake_entry> mistakes_of_vectors();
std::vector<mistake_entry> mistakes_of_lights();
std::vector<mistake_entry> mistakes_of_pictures();

} // namespace yurvo::inline v0_1::verify
