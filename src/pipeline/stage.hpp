// stage: a scene made ready to be drawn, every input of every stage a piece of data of its own.
//
// What is the same in a right picture (the matrix that places an object and the one by which its lit points
// are found, say) is kept apart, so that a wrong picture can be drawn by handing a stage other data.
#pragma once

#include <memory>
#include <vector>

#include "geometry/clusters.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

struct staged_object {
    std::shared_ptr<const mesh> shape;             // empty where there is a field
    std::shared_ptr<const mesh_clusters> clusters; // of the shape, or null where it is small
    std::shared_ptr<const yurvo::field> field;     // or null
    std::size_t source = 0;                        // which of the scene's objects it comes from
    matrix4 to_world;                              // places the picture's geometry
    matrix4 to_world_of_light;                     // places the points that are lit
    matrix3 normal_to_world;
    bool mirrored = false; // the determinant of to_world is negative
    std::size_t material = 0;
    std::size_t lights = 0; // which of the stage's sets of lights shines on it
};

struct stage {
    yurvo::view view;
    camera seen_from;
    vec3<double> lit_eye; // the eye to which v points
    std::vector<staged_object> objects;
    std::vector<named_material> materials;
    std::vector<std::vector<light>> lights; // in world space
    rgb<double> ambient_light;
    yurvo::ambient_rule rule = ambient_rule::add;
    term_choice terms;
    yurvo::rate rate = rate::fragment;
};

// The scene must be valid.
stage make_stage(const scene& from);

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
