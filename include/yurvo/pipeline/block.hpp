// block: many points of one material shaded together, attribute by attribute, light by light.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "yurvo/shading/arrive.hpp"
#include "yurvo/shading/models.hpp"

namespace yurvo::pipeline {

// Small enough to stay in the first cache.
inline constexpr std::size_t block_size = 256;

template <class Scalar> using lane = std::array<Scalar, block_size>;
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
};

// The points to be lit, and the two parts of their lit colours.
template <class Scalar> struct block {
    std::size_t count = 0;
    lane3<Scalar> position, normal, base;
    lane3<Scalar> tinted, untinted;

  private:
    lane3<Scalar> to_eye_, diffuse_, specular_;
    template <class Formula, class S, class Model>
    friend void shade_block(block<S>&, const Model&, const surface<S>&, const std::vector<ready_light<S>>&,
                            const finish_settings<S>&, const vec3<S>&);
};

// `material` gives the factors that all points share. `eye` and the lights are measured from where the
// positions are.
template <class Formula, class Scalar, class Model>
void shade_block(block<Scalar>& points, const Model& model, const surface<Scalar>& material,
                 const std::vector<ready_light<Scalar>>& lights, const finish_settings<Scalar>& settings,
                 const vec3<Scalar>& eye) {
    const auto point = [&](std::size_t i) {
        surface<Scalar> s = material;
        s.position = points.position.vector(i);
        s.normal = points.normal.vector(i);
        s.to_eye = points.to_eye_.vector(i);
        s.base = points.base.color(i);
        return s;
    };
    for (std::size_t i = 0; i < points.count; ++i) {
        points.to_eye_.put(i, Formula::to_eye(points.position.vector(i), eye));
        points.diffuse_.put(i, rgb<Scalar>());
        points.specular_.put(i, rgb<Scalar>());
    }
    if constexpr (needs_lights<Model>) {
        for (const ready_light<Scalar>& light : lights) {
            for (std::size_t i = 0; i < points.count; ++i) {
                const surface<Scalar> s = point(i);
                const reflected<Scalar> one = model(s, arrive<Formula>(light, s.position));
                points.diffuse_.put(i, points.diffuse_.color(i) + one.diffuse);
                points.specular_.put(i, points.specular_.color(i) + one.specular);
            }
        }
    }
    for (std::size_t i = 0; i < points.count; ++i) {
        const reflected<Scalar> sum{points.diffuse_.color(i), points.specular_.color(i)};
        const outgoing<Scalar> lit = finish(model, point(i), sum, settings);
        points.tinted.put(i, lit.tinted);
        points.untinted.put(i, lit.untinted);
    }
}

} // namespace yurvo::pipeline
