// shader: a model made ready for the pipeline: the kernel that runs it over blocks of points.
#pragma once

#include <array>
#include <typeindex>

#include "yurvo/pipeline/block.hpp"
#include "yurvo/pipeline/instruction_set.hpp"

namespace yurvo::pipeline {

template <class Scalar> struct shader {
    shade_kernel<Scalar> shade = nullptr;
    ready_light<Scalar> (*prepare)(const light& given, const vec3<double>& origin) = nullptr;
    const void* model = nullptr;
    bool lit = true; // the model looks at lights at all
    // A light of brightness zero adds exactly nothing, so one that cannot reach a block may be left out.
    bool dark_adds_nothing = false;
    bool behind_adds_nothing = false; // nor does one behind the surface, n·l ≤ 0
};

// Kernels of one model, one for each instruction set; null where it was not compiled for it.
using kernel_row = std::array<shade_kernel<float>, instruction_set_names.size()>;

// Makes the kernels of a model of one's own known. Files written by the CMake function
// yurvo_compile_model() call this before main().
bool register_kernels(const std::type_info& model, const kernel_row& kernels);

// The widest registered kernel that may run here, or null.
shade_kernel<float> registered_kernel(const std::type_info& model);

// What a model says of itself with `static constexpr bool NAME = true`: see lit_from_the_front for the first
// two.
template <class Model>
concept dark_adds_nothing = requires {
    requires Model::dark_adds_nothing;
};
template <class Model>
concept behind_adds_nothing = requires {
    requires Model::behind_adds_nothing;
};
// It cannot take batches (it branches on its numbers, say), and is run point by point.
template <class Model>
concept one_at_a_time = requires {
    requires Model::one_at_a_time;
};

// The batches of the instruction set that the including file is compiled for; a plain number where there is
// none.
#if defined(XSIMD_NO_SUPPORTED_ARCHITECTURE)
using own_batch = float;
#else
using own_batch = four<xsimd::batch<float>>;
#endif

// A shader for any model and formulas; the model must outlive it. Formulas that replace the built-in ones
// are for looking at mistakes: they are run point by point, in one loop.
template <class Formula, class Scalar, class Model> shader<Scalar> make_shader(const Model& model) {
    constexpr bool plain = std::is_same_v<Formula, formula>;
    static_assert(one_at_a_time<Model> || has_finish<Model, float> == has_finish<Model, own_batch>,
                  "This model's finish() takes plain numbers but no batches: its settings are a "
                  "finish_settings<scalar_t<Real>>, of one number for all lanes of a Real.");
    shader<Scalar> made;
    made.prepare = [](const light& given, const vec3<double>& origin) {
        return make_ready<Scalar, Formula>(given, origin);
    };
    made.model = &model;
    made.lit = needs_lights<Model>;
    made.dark_adds_nothing = plain && dark_adds_nothing<Model>;
    made.behind_adds_nothing = plain && behind_adds_nothing<Model>;
    if constexpr (plain && std::is_same_v<Scalar, float> && !one_at_a_time<Model>) {
        made.shade = registered_kernel(typeid(Model));
        if (made.shade == nullptr) {
            made.shade = shade_with<Formula, own_batch, loop_for_each_law, Model>;
        }
    } else {
        made.shade = shade_with<Formula, Scalar, false, Model>;
    }
    return made;
}

} // namespace yurvo::pipeline
