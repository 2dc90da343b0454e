// shade_stage: every visible pixel shaded once, gathered by object into blocks; at rates vertex and face the
// vertices or triangles first, and their lit colours spread over the pixels.
#pragma once

#include <memory>
#include <vector>

#include "yurvo/geometry/normals.hpp"
#include "yurvo/pipeline/block.hpp"
#include "yurvo/pipeline/interpolation.hpp"
#include "yurvo/pipeline/visibility.hpp"

namespace yurvo::pipeline {

// How often the model was run, and for how many pixels.
struct work_done {
    std::uint64_t evaluations = 0;
    std::uint64_t pixels = 0;
};

template <class Formula, class Scalar, class Model> class shade_stage {
    const stage& from_;
    const projected& vertices_;
    const visibility& visible_;
    const Model& model_;
    picture& into_;
    work_done& done_;

    // Lit colours of one object's vertices or triangles, seen from the front and (two-sided) from the back.
    struct lit_colors {
        std::vector<outgoing<Scalar>> front, back;
    };

    std::unique_ptr<block<Scalar>> points_ = std::make_unique<block<Scalar>>();
    finish_settings<Scalar> settings_;
    vec3<Scalar> eye_;
    std::vector<std::vector<ready_light<Scalar>>> lights_;

    // What of one object every pixel needs.
    struct prepared_object {
        const staged_object& staged;
        const mesh& shape;
        const named_material& material;
        matrix4 from_eye_of_light;
        surface<Scalar> factors;

        prepared_object(const stage& from, const staged_object& object)
            : staged(object),
              shape(*object.shape),
              material(from.materials[object.material]),
              from_eye_of_light(object.to_world_of_light) {
            from_eye_of_light(0, 3) -= from.seen_from.eye.x;
            from_eye_of_light(1, 3) -= from.seen_from.eye.y;
            from_eye_of_light(2, 3) -= from.seen_from.eye.z;
            const yurvo::material& look = material.look;
            factors.base = rgb<Scalar>(look.base);
            factors.ambient = rgb<Scalar>(look.ambient);
            factors.diffuse = rgb<Scalar>(look.diffuse);
            factors.specular = rgb<Scalar>(look.specular);
            factors.shininess = static_cast<Scalar>(look.shininess);
            factors.emission = rgb<Scalar>(look.emission);
        }

        [[nodiscard]] vec3<double> lit_position(std::uint32_t vertex) const {
            return transform_point(from_eye_of_light, shape.positions[vertex]);
        }
        [[nodiscard]] vec3<double> normal(std::uint32_t vertex) const {
            return normalize(transform_direction(staged.normal_to_world, shape.normals[vertex]));
        }
        [[nodiscard]] rgb<double> color(std::uint32_t vertex) const {
            return shape.colors.empty() ? rgb<double>(1.0) : shape.colors[vertex];
        }
        // The geometric normal; a mirror's turn is mended.
        [[nodiscard]] vec3<double> face_normal(const triangle& corners) const {
            const auto at = [&](std::size_t i) {
                return transform_point(staged.to_world, shape.positions[corners[i]]);
            };
            const vec3<double> normal = triangle_normal(at(0), at(1), at(2));
            return staged.mirrored ? -normal : normal;
        }
    };

    void shade(const prepared_object& object) {
        shade_block<Formula>(*points_, model_, object.factors, lights_[object.staged.lights], settings_,
                             eye_);
        done_.evaluations += points_->count;
    }

    // Shades `count` points that `point(i)` puts into the block, and appends what they give to `lit`.
    template <class Point>
    void shade_points(const prepared_object& object, std::size_t count, std::vector<outgoing<Scalar>>& lit,
                      Point&& point) {
        lit.reserve(count);
        for (std::size_t begin = 0; begin < count; begin += block_size) {
            points_->count = std::min(block_size, count - begin);
            for (std::size_t i = 0; i < points_->count; ++i) {
                point(i, begin + i);
            }
            shade(object);
            for (std::size_t i = 0; i < points_->count; ++i) {
                lit.push_back({points_->tinted.color(i), points_->untinted.color(i)});
            }
        }
    }

    void put_point(std::size_t i, const prepared_object& object, const vec3<double>& position,
                   const vec3<double>& normal, const rgb<double>& color) {
        points_->position.put(i, vec3<Scalar>(position));
        points_->normal.put(i, vec3<Scalar>(normal));
        points_->base.put(i, object.factors.base * rgb<Scalar>(color));
    }

    lit_colors shade_vertices(const prepared_object& object) {
        lit_colors lit;
        const auto side = [&](std::vector<outgoing<Scalar>>& colors, double sign) {
            shade_points(object, object.shape.positions.size(), colors, [&](std::size_t i, std::size_t v) {
                const auto vertex = static_cast<std::uint32_t>(v);
                put_point(i, object, object.lit_position(vertex), object.normal(vertex) * sign,
                          object.color(vertex));
            });
        };
        side(lit.front, 1);
        if (object.material.look.two_sided) {
            side(lit.back, -1);
        }
        return lit;
    }

    lit_colors shade_faces(const prepared_object& object, std::size_t o) {
        lit_colors lit;
        shade_points(object, object.shape.triangles.size(), lit.front, [&](std::size_t i, std::size_t t) {
            const triangle& corners = object.shape.triangles[t];
            const auto mean = [&](const auto& a, const auto& b, const auto& c) {
                return (a + b + c) * (1.0 / 3);
            };
            vec3<double> normal = object.face_normal(corners);
            if (object.material.look.two_sided && !faces_eye(o, weights_of(o, t))) {
                normal = -normal;
            }
            put_point(i, object,
                      mean(object.lit_position(corners[0]), object.lit_position(corners[1]),
                           object.lit_position(corners[2])),
                      normal,
                      mean(object.color(corners[0]), object.color(corners[1]), object.color(corners[2])));
        });
        return lit;
    }

    [[nodiscard]] triangle_weights weights_of(std::size_t o, std::size_t t) const {
        const triangle& corners = from_.objects[o].shape->triangles[t];
        const std::vector<homogeneous>& seen = vertices_.corners[o];
        return {seen[corners[0]], seen[corners[1]], seen[corners[2]]};
    }

    [[nodiscard]] bool faces_eye(std::size_t o, const triangle_weights& weights) const {
        return (weights.determinant() < 0) != from_.objects[o].mirrored;
    }

    // One triangle's corners, fetched once for a run of pixels that show it.
    struct corners_at_hand {
        std::uint32_t triangle = visibility::nothing;
        bool front = true;
        triangle_weights weights;
        std::array<vec3<double>, 3> positions;
        std::array<vec3<Scalar>, 3> normals;
        std::array<rgb<Scalar>, 3> colors;
        std::array<texcoord, 3> texcoords;
    };

    void fetch(corners_at_hand& hand, const prepared_object& object, std::size_t o, std::uint32_t t) const {
        hand.triangle = t;
        hand.weights = weights_of(o, t);
        hand.front = faces_eye(o, hand.weights);
        const triangle& corners = object.shape.triangles[t];
        const bool turned = object.material.look.two_sided && !hand.front;
        for (std::size_t k = 0; k < 3; ++k) {
            if (from_.rate == rate::fragment) {
                hand.positions[k] = object.lit_position(corners[k]);
                const vec3<double> normal = object.normal(corners[k]);
                hand.normals[k] = vec3<Scalar>(turned ? -normal : normal);
                hand.colors[k] = rgb<Scalar>(object.color(corners[k]));
            }
            if (object.material.image) {
                hand.texcoords[k] = object.shape.texcoords.empty()
                                        ? texcoord{}
                                        : object.shape.texcoords[object.shape.texcoord_corners(t)[k]];
            }
        }
    }

    template <class Value>
    static Value blend(const std::array<double, 3>& weights, const std::array<Value, 3>& values) {
        return static_cast<Scalar>(weights[0]) * values[0] + static_cast<Scalar>(weights[1]) * values[1] +
               static_cast<Scalar>(weights[2]) * values[2];
    }

    static rgb<Scalar> texture_at(const texture& image, const std::array<double, 3>& weights,
                                  const std::array<texcoord, 3>& at) {
        return rgb<Scalar>(image.sample(weights[0] * at[0].u + weights[1] * at[1].u + weights[2] * at[2].u,
                                        weights[0] * at[0].v + weights[1] * at[1].v + weights[2] * at[2].v));
    }

    struct place_in_picture {
        int x, y;
    };

    [[nodiscard]] std::uint32_t seen_at(const place_in_picture& p) const {
        return visible_.triangles[static_cast<std::size_t>(p.y) * static_cast<std::size_t>(visible_.width) +
                                  static_cast<std::size_t>(p.x)];
    }

    // Infinities may meet zeros on the way when lights are beyond all measure; a picture holds no NaN.
    static float kept(Scalar value) { return value == value ? static_cast<float>(value) : 0.0F; }

    void write(const place_in_picture& p, const prepared_object& object, const rgb<Scalar>& color) {
        into_.set(p.x, p.y, {kept(color.r), kept(color.g), kept(color.b)},
                  static_cast<float>(object.material.look.alpha));
        ++done_.pixels;
    }

    // Shades what `put(i, place)` puts into the block, for all places, and writes it.
    template <class Put>
    void shade_places(const prepared_object& object, const std::vector<place_in_picture>& places, Put&& put) {
        for (std::size_t begin = 0; begin < places.size(); begin += block_size) {
            points_->count = std::min(block_size, places.size() - begin);
            for (std::size_t i = 0; i < points_->count; ++i) {
                put(i, places[begin + i]);
            }
            shade(object);
            for (std::size_t i = 0; i < points_->count; ++i) {
                write(places[begin + i], object, points_->tinted.color(i) + points_->untinted.color(i));
            }
        }
    }

    void fragments(const prepared_object& object, std::size_t o,
                   const std::vector<place_in_picture>& places) {
        corners_at_hand hand;
        shade_places(object, places, [&](std::size_t i, const place_in_picture& p) {
            const std::uint32_t t = seen_at(p) - vertices_.first_triangle[o];
            if (t != hand.triangle) {
                fetch(hand, object, o, t);
            }
            const std::array<double, 3> weights = hand.weights.at(p.x + 0.5, p.y + 0.5);
            points_->position.put(i, vec3<Scalar>(weights[0] * hand.positions[0] +
                                                  weights[1] * hand.positions[1] +
                                                  weights[2] * hand.positions[2]));
            points_->normal.put(i, Formula::interpolated_normal(blend(weights, hand.normals)));
            rgb<Scalar> base = object.factors.base;
            if (!object.shape.colors.empty()) {
                base = base * blend(weights, hand.colors);
            }
            if (object.material.image) {
                base = base * texture_at(*object.material.image, weights, hand.texcoords);
            }
            points_->base.put(i, base);
        });
    }

    // The ray is met again from the depth that was kept, so that the point has all its digits.
    void field_fragments(const prepared_object& object, const std::vector<place_in_picture>& places) {
        const field_rays rays(object.staged, from_.seen_from);
        shade_places(object, places, [&](std::size_t i, const place_in_picture& p) {
            const vec3<double> along = rays.along(p.x + 0.5, p.y + 0.5);
            const std::size_t at = static_cast<std::size_t>(p.y) * static_cast<std::size_t>(visible_.width) +
                                   static_cast<std::size_t>(p.x);
            const double depth =
                polish(rays.of, rays.from, along, 1 / static_cast<double>(visible_.nearness[at]));
            const vec3<double> met = rays.from + along * depth;
            const vec3<double> gradient = evaluate(rays.of, met).gradient;
            vec3<double> normal = normalize(transform_direction(object.staged.normal_to_world, gradient));
            if (object.material.look.two_sided && dot(gradient, along) > 0) {
                normal = -normal;
            }
            put_point(i, object, transform_point(object.from_eye_of_light, met), normal, rgb<double>(1.0));
        });
    }

    void spread(const prepared_object& object, std::size_t o, const std::vector<place_in_picture>& places,
                const lit_colors& lit) {
        corners_at_hand hand;
        for (const place_in_picture& p : places) {
            const std::uint32_t t = seen_at(p) - vertices_.first_triangle[o];
            if (t != hand.triangle) {
                fetch(hand, object, o, t);
            }
            const std::array<double, 3> weights = hand.weights.at(p.x + 0.5, p.y + 0.5);
            outgoing<Scalar> color;
            if (from_.rate == rate::face) {
                color = lit.front[t];
            } else {
                const auto& side = hand.front || lit.back.empty() ? lit.front : lit.back;
                const triangle& corners = object.shape.triangles[t];
                const auto corner = [&](std::size_t k) { return side[corners[k]]; };
                color.tinted =
                    blend<rgb<Scalar>>(weights, {corner(0).tinted, corner(1).tinted, corner(2).tinted});
                color.untinted =
                    blend<rgb<Scalar>>(weights, {corner(0).untinted, corner(1).untinted, corner(2).untinted});
            }
            if (object.material.image) {
                color.tinted = color.tinted * texture_at(*object.material.image, weights, hand.texcoords);
            }
            write(p, object, color.tinted + color.untinted);
        }
    }

    // The visible pixels of every object, in reading order.
    [[nodiscard]] std::vector<std::vector<place_in_picture>> gather() const {
        std::vector<std::vector<place_in_picture>> places(from_.objects.size());
        std::size_t o = 0;
        for (int y = 0; y < visible_.height; ++y) {
            for (int x = 0; x < visible_.width; ++x) {
                const std::uint32_t seen = seen_at({x, y});
                if (seen == visibility::nothing) {
                    continue;
                }
                if (seen < vertices_.first_triangle[o] || seen >= vertices_.first_triangle[o + 1]) {
                    const auto after = std::upper_bound(vertices_.first_triangle.begin(),
                                                        vertices_.first_triangle.end(), seen);
                    o = static_cast<std::size_t>(after - vertices_.first_triangle.begin()) - 1;
                }
                places[o].push_back({x, y});
            }
        }
        return places;
    }

  public:
    shade_stage(const stage& from, const projected& vertices, const visibility& visible, const Model& model,
                picture& into, work_done& done)
        : from_(from), vertices_(vertices), visible_(visible), model_(model), into_(into), done_(done) {
        settings_.ambient_light = rgb<Scalar>(from.ambient_light);
        settings_.rule = from.rule;
        settings_.terms = from.terms;
        eye_ = vec3<Scalar>(from.lit_eye - from.seen_from.eye);
        for (const std::vector<light>& set : from.lights) {
            auto& ready = lights_.emplace_back();
            for (const light& light : set) {
                ready.push_back(make_ready<Scalar, Formula>(light, from.seen_from.eye));
            }
        }
    }

    void run() {
        const auto places = gather();
        for (std::size_t o = 0; o < from_.objects.size(); ++o) {
            if (places[o].empty() && from_.rate != rate::vertex) {
                continue;
            }
            const prepared_object object(from_, from_.objects[o]);
            if (object.staged.field) {
                field_fragments(object, places[o]);
            } else if (from_.rate == rate::fragment) {
                fragments(object, o, places[o]);
            } else {
                spread(object, o, places[o],
                       from_.rate == rate::vertex ? shade_vertices(object) : shade_faces(object, o));
            }
        }
    }
};

} // namespace yurvo::pipeline
