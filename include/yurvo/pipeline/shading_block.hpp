// shading_block: many points of one material, attribute by attribute, and the kernel that lights them: what
// the pipeline and the kernels share. No formula is in it.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>
#include <typeinfo>

#include "yurvo/pipeline/instruction_set.hpp"
#include "yurvo/shading/choices.hpp"
#include "yurvo/shading/ready_light.hpp"
#include "yurvo/shading/surface.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::pipeline {

/// Small enough to stay in the first two caches.
inline constexpr std::size_t block_size = 256;
/// What is filled in whole runs may go beyond the last point.
inline constexpr std::size_t block_room = block_size + 32;

template <class Scalar> struct alignas(64) lane : std::array<Scalar, block_room> {};
/// Three numbers of each point, apart.
template <class Scalar> struct lane3 {
    lane<Scalar> x, y, z; ///< one number of each point

    /// Gives point i a vector.
    void put(std::size_t i, const vec3<Scalar>& v) {
        x[i] = v.x;
        y[i] = v.y;
        z[i] = v.z;
    }
    /// Gives point i a colour.
    void put(std::size_t i, const rgb<Scalar>& c) {
        x[i] = c.r;
        y[i] = c.g;
        z[i] = c.b;
    }
    /// Of point i.
    [[nodiscard]] vec3<Scalar> vector(std::size_t i) const { return {x[i], y[i], z[i]}; }
    /// Of point i.
    [[nodiscard]] rgb<Scalar> color(std::size_t i) const { return {x[i], y[i], z[i]}; }
};

/// The points to be lit, and their lit colours, whole or in their two parts.
template <class Scalar> struct block {
    std::size_t count = 0;                ///< how many points there are
    bool own_base = false;                ///< the points have base colours of their own, else the material's
    bool between_vertices = false;        ///< the normals are interpolated ones, of any length
    bool in_parts = false;                ///< a texture is yet to come between the parts
    lane3<Scalar> position, normal, base; ///< of each point; base where own_base
    lane3<Scalar> lit; ///< on the way, the sum of diffuse light: the less there is, the nearer it stays
    lane3<Scalar> tinted, untinted; ///< the part that a texture tints, and the rest; where in_parts
    lane3<Scalar> to_eye, specular; ///< the kernel's own, on the way
    lane3<Scalar> ambient;          ///< the lights' ambient parts, where there are any
    lane<Scalar> front; ///< 1 where a point's triangle faces the eye, else 0; where it is asked for
    /// At how many points a formula gave no finite number, by its slot; they are black.
    std::array<std::uint32_t, 11> not_finite{};
};

/// A block and all that its points share. Positions, eye and lights are measured from the same origin.
template <class Scalar> struct shade_request {
    block<Scalar>& points;                              ///< what is lit
    const surface<Scalar>& material;                    ///< the factors
    std::span<const ready_light<Scalar>* const> lights; ///< those that may reach the block
    const finish_settings<Scalar>& settings;            ///< how light becomes a colour
    vec3<Scalar> eye;                                   ///< from the points' origin, metres
    const void* model; ///< the model's own numbers; of the type that the kernel knows
    std::span<const ready_light<Scalar>* const> with_ambient{}; ///< all lights that have an ambient part
    vec3<Scalar> world_eye{}, axis{};                           ///< for models that ask for their place
};

/// Lights all points of a block.
template <class Scalar> using shade_kernel = void (*)(const shade_request<Scalar>&);

/// A model made ready for the pipeline: the kernel that runs it.
template <class Scalar> struct shader {
    shade_kernel<Scalar> shade = nullptr; ///< never null
    /// Makes a light ready, measured from an origin; never null where the model is lit.
    ready_light<Scalar> (*prepare)(const light& lamp, const vec3<double>& origin) = nullptr;
    const void* model = nullptr; ///< handed to the kernel
    bool lit = true;             ///< the model looks at lights at all
    /// A light of brightness zero adds exactly nothing, so one that cannot reach a block may be left out.
    bool dark_adds_nothing = false;
    bool behind_adds_nothing = false; ///< nor does one behind the surface, n·l ≤ 0
    bool asks_for_front = false;      ///< the block's `front` has to be filled
    bool may_fail = false;            ///< the block's `not_finite` may count
};

/// Kernels of one model, one for each instruction set; null where it was not compiled for it.
using kernel_row = std::array<shade_kernel<float>, instruction_set_names.size()>;

/// Makes the kernels of a model of one's own known. Files written by the CMake function
/// yurvo_compile_model() call this before main().
bool register_kernels(const std::type_info& model, const kernel_row& kernels);

/// The widest registered kernel that may run here, or null.
shade_kernel<float> registered_kernel(const std::type_info& model);

} // namespace yurvo::inline v0_1::pipeline
#pragma GCC visibility pop
