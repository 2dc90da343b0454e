// scene: a view, objects, materials and lights as plain data.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "yurvo/formula/formula_set.hpp"
#include "yurvo/geometry/field.hpp"
#include "yurvo/geometry/mesh.hpp"
#include "yurvo/geometry/placement.hpp"
#include "yurvo/picture/texture.hpp"
#include "yurvo/shading/choices.hpp"
#include "yurvo/shading/light.hpp"
#include "yurvo/shading/material.hpp"
#include "yurvo/shading/point_model.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

struct camera; ///< geometry/transform.hpp

/// Where the model is evaluated.
enum class rate : std::uint8_t { face, vertex, fragment };

/// Which normals a mesh has.
enum class normals_kind : std::uint8_t { smooth, flat, shared };

/// Where the scene is seen from, and how large its picture is.
struct view {
    vec3<double> eye{0, 3, 6};       ///< metres
    vec3<double> target{0, 0, 0};    ///< apart from eye
    vec3<double> up{0, 1, 0};        ///< not along the view
    double fov = radians(45);        ///< vertical, radians, 0 to π
    double near = 0.1, far = 100;    ///< metres along the view, 0 < near < far, both inclusive
    int width = 1280, height = 800;  ///< pixels, 1 to 16384
    rgb<double> background{0, 0, 0}; ///< linear
    double background_alpha = 1;     ///< 0 to 1

    friend bool operator==(const view&, const view&) = default;
};

/// Sizes in metres, > 0; cells ≥ 1, ≥ 3 around; at most 16 million triangles.
struct plane_shape {
    double size[2] = {6, 6};         ///< along x, z
    std::uint32_t cells[2] = {1, 1}; ///< along x, z
    friend bool operator==(const plane_shape&, const plane_shape&) = default;
};
/// A box around the origin.
struct box_shape {
    vec3<double> size{1, 1, 1}; ///< along x, y, z
    friend bool operator==(const box_shape&, const box_shape&) = default;
};
/// A sphere around the origin.
struct sphere_shape {
    double radius = 1;                 ///< metres
    std::uint32_t cells[2] = {32, 16}; ///< around, pole to pole
    friend bool operator==(const sphere_shape&, const sphere_shape&) = default;
};
/// A cylinder around the y axis, its middle at the origin, with both ends.
struct cylinder_shape {
    double radius = 1, height = 1;    ///< metres
    std::uint32_t cells[2] = {32, 1}; ///< around, along
    friend bool operator==(const cylinder_shape&, const cylinder_shape&) = default;
};
/// A cone around the y axis, its middle at the origin, its tip up, with its base.
struct cone_shape {
    double radius = 1, height = 1;    ///< metres
    std::uint32_t cells[2] = {32, 1}; ///< around, along
    friend bool operator==(const cone_shape&, const cone_shape&) = default;
};
/// A torus around the y axis.
struct torus_shape {
    double radius = 1, tube = 0.25;    ///< of the ring and of its tube, metres
    std::uint32_t cells[2] = {32, 16}; ///< around the ring, around the tube
    friend bool operator==(const torus_shape&, const torus_shape&) = default;
};
/// A mesh from a file.
struct mesh_shape {
    std::string file;                   ///< as written in the scene file
    std::shared_ptr<const mesh> data;   ///< not null in a valid scene
    std::vector<std::size_t> materials; ///< the scene's index for each of the mesh's own materials

    /// By content, wherever it lies.
    friend bool operator==(const mesh_shape& a, const mesh_shape& b) {
        const bool same = a.data == b.data || (a.data && b.data && *a.data == *b.data);
        return a.file == b.file && same && a.materials == b.materials;
    }
};
/// An implicit surface, met by each pixel's ray; per fragment only.
struct field_shape {
    yurvo::field field{field_kind::sphere, {field_part{}}, 0.25}; ///< in the object's own space
    friend bool operator==(const field_shape&, const field_shape&) = default;
};
/// One of the shapes.
using any_shape = std::variant<plane_shape, box_shape, sphere_shape, cylinder_shape, cone_shape, torus_shape,
                               mesh_shape, field_shape>;

/// A shape, placed, of a material.
struct object {
    std::string name;                            ///< may be empty; unique otherwise
    std::size_t material = 0;                    ///< index in the scene's materials
    any_shape shape;                             ///< in its own space
    placement placed;                            ///< in the world
    normals_kind normals = normals_kind::smooth; ///< of its mesh

    friend bool operator==(const object&, const object&) = default;
};

/// A material with its name and its texture.
struct named_material {
    std::string name;                     ///< not empty; unique
    yurvo::material look;                 ///< its factors
    std::string texture_file;             ///< as written in the scene file; empty without one
    std::shared_ptr<const texture> image; ///< decoded; null without one
    bool from_mesh = false;               ///< came with a mesh's file, not with the scene's

    /// By content, wherever it lies.
    friend bool operator==(const named_material& a, const named_material& b) {
        const bool same_image = a.image == b.image || (a.image && b.image && *a.image == *b.image);
        return a.name == b.name && a.look == b.look && a.texture_file == b.texture_file && same_image;
    }
};

/// The space in which a light's position and direction are given.
enum class light_space : std::uint8_t { world, view };

/// A light with its name and its space.
struct named_light {
    std::string name;                       ///< may be empty; unique otherwise
    yurvo::light light;                     ///< as it was given
    light_space space = light_space::world; ///< the space of position and shines

    friend bool operator==(const named_light&, const named_light&) = default;
};

/// What the scene's author expects at one place of the picture: a colour, or a ratio to another
/// expectation's.
struct expected_value {
    std::string name;                 ///< not empty; unique
    std::array<int, 2> pixel{-1, -1}; ///< from the top left; or, where it is −1, −1:
    std::size_t object = 0;           ///< index in the scene's objects
    vec3<double> point;               ///< of that object, in its own space, metres; it must be seen
    rgb<double> color;                ///< linear; of a ratio, component by component
    std::string ratio_to;             ///< the name of an expectation before this one; empty for a colour
    rgb<double> tolerance{1e-5, 1e-5, 1e-5}; ///< ≥ 0, in the same numbers

    friend bool operator==(const expected_value&, const expected_value&) = default;
};

/// A C++ model that the program was built with, as a scene names it.
struct own_model {
    std::string name;                         ///< empty where the built-in model lights
    std::shared_ptr<const point_model> model; ///< of an any_model; not null in a valid scene with a name

    friend bool operator==(const own_model&, const own_model&) = default;
};

/// How a scene is lit.
struct shading_choice {
    model_kind model = model_kind::blinn_phong;                  ///< not cel where there is an own one
    own_model own;                                               ///< in the place of `model`
    yurvo::rate rate = yurvo::rate::fragment;                    ///< where the model is evaluated
    yurvo::ambient_rule ambient_rule = yurvo::ambient_rule::add; ///< how the ambient term joins the rest
    cel_settings cel;                                            ///< used by the model cel alone

    friend bool operator==(const shading_choice&, const shading_choice&) = default;
};

/// A scene: all that is drawn, and what its author expects of the picture.
struct scene {
    std::string title;      ///< for people; may be empty
    yurvo::view view;       ///< from where
    shading_choice shading; ///< how it is lit
    /// What stands in the places of parts of the model; none with `unlit` and `cel`.
    yurvo::formulas::formula_texts formulas;
    std::vector<yurvo::formulas::named_number> numbers; ///< for formulas, and for shaders to bind
    rgb<double> ambient_color{1, 1, 1};                 ///< linear
    double ambient_strength = 0.05;                     ///< ≥ 0
    std::vector<named_material> materials;              ///< each object names one
    std::vector<object> objects;                        ///< drawn in this order
    std::vector<named_light> lights;                    ///< in this order
    std::vector<expected_value> expects;                ///< held by `check`, at the scene's own size

    friend bool operator==(const scene&, const scene&) = default;
};

/// The number of triangles of a shape, without building it.
std::uint64_t triangle_count(const any_shape& shape);

/// The object's mesh in its own space, with the normals it asks for; empty for a field.
mesh build_mesh(const object& from);

/// What is known of the model that lights a scene, with its formulas; of a C++ one, whether it is lit and a
/// sum of terms.
model_descriptor model_of(const scene& the_scene);

/// The camera of a view.
camera make_camera(const view& from);

/// The light in world space, whatever space it was given in.
light light_in_world(const named_light& lamp, const camera& seen_from);

/// What a name is for people to read: the name, or `objects[2]` where there is none.
std::string label_of(const object& item, std::size_t index);
/// What a name is for people to read: the name, or `lights[2]` where there is none.
std::string label_of(const named_light& lamp, std::size_t index);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
