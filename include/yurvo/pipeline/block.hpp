// block: many points of one material shaded together, attribute by attribute, light by light.
#pragma once

#include <array>
#include <cstddef>
#include <span>

#include "yurvo/numeric/batch.hpp"
#include "yurvo/shading/arrive.hpp"
#include "yurvo/shading/models.hpp"

// Under a sanitizer one loop that reads the law serves, and formulas stay calls: every law's own loop with
// all its checks inlined keeps the compiler busy for a quarter of an hour a file.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
#define YURVO_FLATTENED
#else
#define YURVO_FLATTENED [[gnu::flatten]]
#endif

namespace yurvo::pipeline {

#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr bool loop_for_each_law = false;
#else
inline constexpr bool loop_for_each_law = true;
#endif

// Small enough to stay in the first two caches.
inline constexpr std::size_t block_size = 256;
// What is filled in whole runs may go beyond the last point.
inline constexpr std::size_t block_room = block_size + 32;

template <class Scalar> struct alignas(64) lane : std::array<Scalar, block_room> {};
template <class Scalar> struct lane3 {
    lane<Scalar> x, y, z;

    void put(std::size_t i, const vec3<Scalar>& v) {
        x[i] = v.x;
        y[i] = v.y;
        z[i] = v.z;
    }
    void put(std::size_t i, const rgb<Scalar>& c) {
        x[i] = c.r;
        y[i] = c.g;
        z[i] = c.b;
    }
    [[nodiscard]] vec3<Scalar> vector(std::size_t i) const { return {x[i], y[i], z[i]}; }
    [[nodiscard]] rgb<Scalar> color(std::size_t i) const { return {x[i], y[i], z[i]}; }

    template <class Real> [[nodiscard]] vec3<Real> load(std::size_t i) const {
        return {load_lanes<Real>(&x[i]), load_lanes<Real>(&y[i]), load_lanes<Real>(&z[i])};
    }
    template <class Real> [[nodiscard]] rgb<Real> load_color(std::size_t i) const {
        const vec3<Real> v = load<Real>(i);
        return {v.x, v.y, v.z};
    }
    template <class Real> void store(std::size_t i, const vec3<Real>& v) {
        store_lanes(&x[i], v.x);
        store_lanes(&y[i], v.y);
        store_lanes(&z[i], v.z);
    }
    template <class Real> void store(std::size_t i, const rgb<Real>& c) {
        store(i, vec3<Real>{c.r, c.g, c.b});
    }
};

// The points to be lit, and the two parts of their lit colours.
template <class Scalar> struct block {
    std::size_t count = 0;
    bool own_base = false;         // the points have base colours of their own, else the material's
    bool between_vertices = false; // the normals are interpolated ones, of any length
    lane3<Scalar> position, normal, base;
    lane3<Scalar> tinted, untinted;
    lane3<Scalar> to_eye, diffuse, specular; // the kernel's own, on the way
};

// A block and all that its points share. Positions, eye and lights are measured from the same origin.
template <class Scalar> struct shade_request {
    block<Scalar>& points;
    const surface<Scalar>& material; // the factors
    std::span<const ready_light<Scalar>* const> lights;
    const finish_settings<Scalar>& settings;
    vec3<Scalar> eye;
    const void* model;
};

template <class Scalar> using shade_kernel = void (*)(const shade_request<Scalar>&);

// Shades a block in steps of as many points as a Real has lanes. With Fixed there is one loop for each law
// of lights, so that nothing is decided per point; without, one loop reads the law: smaller, slower.
template <class Formula, class Real, bool Fixed, class Model>
void shade_block(const shade_request<scalar_t<Real>>& asked, const Model& model) {
    constexpr std::size_t step = lanes_of<Real>;
    block<scalar_t<Real>>& points = asked.points;
    // Copies: what is stored must not be taken for what is read, point after point.
    const surface<scalar_t<Real>> material = asked.material;
    const finish_settings<scalar_t<Real>> settings = asked.settings;
    const vec3<Real> eye(asked.eye);
    const auto point = [&](std::size_t i) {
        return surface<Real>{.position = points.position.template load<Real>(i),
                             .normal = points.normal.template load<Real>(i),
                             .to_eye = points.to_eye.template load<Real>(i),
                             .base = points.own_base ? points.base.template load_color<Real>(i)
                                                     : rgb<Real>(material.base),
                             .ambient = rgb<Real>(material.ambient),
                             .diffuse = rgb<Real>(material.diffuse),
                             .specular = rgb<Real>(material.specular),
                             .shininess = Real(material.shininess),
                             .emission = rgb<Real>(material.emission)};
    };
    for (std::size_t i = 0; i < points.count; i += step) {
        points.to_eye.store(i, Formula::to_eye(points.position.template load<Real>(i), eye));
        if (points.between_vertices) {
            points.normal.store(i, Formula::interpolated_normal(points.normal.template load<Real>(i)));
        }
        points.diffuse.store(i, rgb<Real>(Real(0)));
        points.specular.store(i, rgb<Real>(Real(0)));
    }
    if constexpr (needs_lights<Model>) {
        const auto add = [&](const ready_light<scalar_t<Real>>& light, const auto& law) {
            // Two at a time: each is one long chain of operations, which leaves room for another.
            for (std::size_t i = 0; i < points.count; i += 2 * step) {
                const surface<Real> s = point(i);
                const surface<Real> t = point(i + step);
                const reflected<Real> one = model(s, arrive<Formula>(light, s.position, law));
                const reflected<Real> two = model(t, arrive<Formula>(light, t.position, law));
                const rgb<Real> d1 = points.diffuse.template load_color<Real>(i) + one.diffuse;
                const rgb<Real> s1 = points.specular.template load_color<Real>(i) + one.specular;
                const rgb<Real> d2 = points.diffuse.template load_color<Real>(i + step) + two.diffuse;
                const rgb<Real> s2 = points.specular.template load_color<Real>(i + step) + two.specular;
                points.diffuse.store(i, d1);
                points.specular.store(i, s1);
                points.diffuse.store(i + step, d2);
                points.specular.store(i + step, s2);
            }
        };
        for (const ready_light<scalar_t<Real>>* light : asked.lights) {
            if constexpr (Fixed) {
                with_fixed_law(light->law(), [&](const auto& law) { add(*light, law); });
            } else {
                add(*light, light->law());
            }
        }
    }
    for (std::size_t i = 0; i < points.count; i += step) {
        const reflected<Real> sum{points.diffuse.template load_color<Real>(i),
                                  points.specular.template load_color<Real>(i)};
        const outgoing<Real> lit = finish(model, point(i), sum, settings);
        points.tinted.store(i, lit.tinted);
        points.untinted.store(i, lit.untinted);
    }
}

// The kernel of a model, for where only its address is known. Flattened: a formula that stayed a call would
// send its batches through memory.
template <class Formula, class Real, bool Fixed, class Model>
YURVO_FLATTENED void shade_with(const shade_request<scalar_t<Real>>& asked) {
    shade_block<Formula, Real, Fixed>(asked, *static_cast<const Model*>(asked.model));
}

} // namespace yurvo::pipeline
