// shade_stage: every visible pixel shaded once, gathered by object into blocks; at rates vertex and face the
// vertices or triangles first, and their lit colours spread over the pixels.
#pragma once

#include <atomic>
#include <memory>
#include <vector>

#include <oneapi/tbb/enumerable_thread_specific.h>

#include "yurvo/geometry/normals.hpp"
#include "yurvo/pipeline/block.hpp"
#include "yurvo/pipeline/interpolation.hpp"
#include "yurvo/pipeline/parallel.hpp"
#include "yurvo/pipeline/visibility.hpp"

namespace yurvo::pipeline {

// How often the model was run, and for how many pixels.
struct work_done {
    std::uint64_t evaluations = 0;
    std::uint64_t pixels = 0;
};

template <class Formula, class Scalar, class Model> class shade_stage {
    // Lit colours of one object's vertices or triangles, seen from the front and (two-sided) from the back.
    struct lit_colors {
        std::vector<outgoing<Scalar>> front, back;
    };

    const stage& from_;
    const projected& vertices_;
    const visibility& visible_;
    const Model& model_;
    picture& into_;
    std::atomic<std::uint64_t> evaluations_ = 0;
    std::atomic<std::uint64_t> pixels_ = 0;

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

    void shade(block<Scalar>& points, const prepared_object& object) {
        shade_block<Formula>(points, model_, object.factors, lights_[object.staged.lights], settings_, eye_);
        evaluations_ += points.count;
    }

    // Shades `count` points that `put(block, place in it, point)` puts into blocks, on all threads.
    template <class Put>
    std::vector<outgoing<Scalar>> shade_points(const prepared_object& object, std::size_t count, Put&& put) {
        std::vector<outgoing<Scalar>> lit(count);
        in_pieces(count, 4 * block_size, [&](std::size_t first, std::size_t last) {
            const auto points = std::make_unique<block<Scalar>>();
            for (std::size_t begin = first; begin < last; begin += block_size) {
                points->count = std::min(block_size, last - begin);
                for (std::size_t i = 0; i < points->count; ++i) {
                    put(*points, i, begin + i);
                }
                shade(*points, object);
                for (std::size_t i = 0; i < points->count; ++i) {
                    lit[begin + i] = {points->tinted.color(i), points->untinted.color(i)};
                }
            }
        });
        return lit;
    }

    static void put_point(block<Scalar>& points, std::size_t i, const prepared_object& object,
                          const vec3<double>& position, const vec3<double>& normal,
                          const rgb<double>& color) {
        points.position.put(i, vec3<Scalar>(position));
        points.normal.put(i, vec3<Scalar>(normal));
        points.base.put(i, object.factors.base * rgb<Scalar>(color));
    }

    lit_colors shade_vertices(const prepared_object& object) {
        const auto side = [&](double sign) {
            return shade_points(object, object.shape.positions.size(),
                                [&](block<Scalar>& points, std::size_t i, std::size_t v) {
                                    const auto vertex = static_cast<std::uint32_t>(v);
                                    put_point(points, i, object, object.lit_position(vertex),
                                              object.normal(vertex) * sign, object.color(vertex));
                                });
        };
        lit_colors lit;
        lit.front = side(1);
        if (object.material.look.two_sided) {
            lit.back = side(-1);
        }
        return lit;
    }

    lit_colors shade_faces(const prepared_object& object, std::size_t o) {
        lit_colors lit;
        lit.front = shade_points(
            object, object.shape.triangles.size(), [&](block<Scalar>& points, std::size_t i, std::size_t t) {
                const triangle& corners = object.shape.triangles[t];
                const auto mean = [&](const auto& a, const auto& b, const auto& c) {
                    return (a + b + c) * (1.0 / 3);
                };
                vec3<double> normal = object.face_normal(corners);
                if (object.material.look.two_sided && !faces_eye(o, weights_of(o, t))) {
                    normal = -normal;
                }
                put_point(points, i, object,
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
    static float kept(Scalar value) { return std::isnan(value) ? 0.0F : static_cast<float>(value); }

    void write(const place_in_picture& p, const prepared_object& object, const rgb<Scalar>& color) {
        into_.set(p.x, p.y, {kept(color.r), kept(color.g), kept(color.b)},
                  static_cast<float>(object.material.look.alpha));
    }

    // Shades what `put(i, place)` puts into the block, for all places, and writes it.
    template <class Put>
    void shade_places(block<Scalar>& points, const prepared_object& object,
                      const std::vector<place_in_picture>& places, Put&& put) {
        for (std::size_t begin = 0; begin < places.size(); begin += block_size) {
            points.count = std::min(block_size, places.size() - begin);
            for (std::size_t i = 0; i < points.count; ++i) {
                put(i, places[begin + i]);
            }
            shade(points, object);
            for (std::size_t i = 0; i < points.count; ++i) {
                write(places[begin + i], object, points.tinted.color(i) + points.untinted.color(i));
            }
        }
    }

    void fragments(block<Scalar>& points, const prepared_object& object, std::size_t o,
                   const std::vector<place_in_picture>& places) {
        corners_at_hand hand;
        shade_places(points, object, places, [&](std::size_t i, const place_in_picture& p) {
            const std::uint32_t t = seen_at(p) - vertices_.first_triangle[o];
            if (t != hand.triangle) {
                fetch(hand, object, o, t);
            }
            const std::array<double, 3> weights = hand.weights.at(p.x + 0.5, p.y + 0.5);
            points.position.put(i,
                                vec3<Scalar>(weights[0] * hand.positions[0] + weights[1] * hand.positions[1] +
                                             weights[2] * hand.positions[2]));
            points.normal.put(i, Formula::interpolated_normal(blend(weights, hand.normals)));
            rgb<Scalar> base = object.factors.base;
            if (!object.shape.colors.empty()) {
                base = base * blend(weights, hand.colors);
            }
            if (object.material.image) {
                base = base * texture_at(*object.material.image, weights, hand.texcoords);
            }
            points.base.put(i, base);
        });
    }

    // The ray is met again from the depth that was kept, so that the point has all its digits.
    void field_fragments(block<Scalar>& points, const prepared_object& object,
                         const std::vector<place_in_picture>& places) {
        const field_rays rays(object.staged, from_.seen_from);
        shade_places(points, object, places, [&](std::size_t i, const place_in_picture& p) {
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
            put_point(points, i, object, transform_point(object.from_eye_of_light, met), normal,
                      rgb<double>(1.0));
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

    // The visible pixels of every object in a band, in reading order; the lists are used again from band to
    // band.
    void gather(const band& rows, std::vector<std::vector<place_in_picture>>& places) {
        for (std::vector<place_in_picture>& list : places) {
            list.clear();
        }
        std::size_t o = 0;
        std::uint64_t count = 0;
        for (int y = rows.top; y < rows.bottom; ++y) {
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
                ++count;
            }
        }
        pixels_ += count;
    }

    // What a thread uses again from band to band.
    struct scratch {
        std::unique_ptr<block<Scalar>> points = std::make_unique<block<Scalar>>();
        std::vector<std::vector<place_in_picture>> places;
    };

  public:
    shade_stage(const stage& from, const projected& vertices, const visibility& visible, const Model& model,
                picture& into)
        : from_(from), vertices_(vertices), visible_(visible), model_(model), into_(into) {
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

    work_done run() {
        std::vector<prepared_object> objects;
        std::vector<lit_colors> lit(from_.objects.size());
        objects.reserve(from_.objects.size());
        for (std::size_t o = 0; o < from_.objects.size(); ++o) {
            objects.emplace_back(from_, from_.objects[o]);
            if (from_.rate == rate::vertex) {
                lit[o] = shade_vertices(objects[o]);
            } else if (from_.rate == rate::face) {
                lit[o] = shade_faces(objects[o], o);
            }
        }
        oneapi::tbb::enumerable_thread_specific<scratch> of_thread;
        constexpr int rows_at_once = 16;
        in_bands(visible_.height, rows_at_once, [&](const band& rows) {
            scratch& mine = of_thread.local();
            mine.places.resize(objects.size());
            gather(rows, mine.places);
            for (std::size_t o = 0; o < objects.size(); ++o) {
                if (mine.places[o].empty()) {
                    continue;
                }
                if (objects[o].staged.field) {
                    field_fragments(*mine.points, objects[o], mine.places[o]);
                } else if (from_.rate == rate::fragment) {
                    fragments(*mine.points, objects[o], o, mine.places[o]);
                } else {
                    spread(objects[o], o, mine.places[o], lit[o]);
                }
            }
        });
        return {evaluations_, pixels_};
    }
};

} // namespace yurvo::pipeline
