#include "pipeline/built_in_shader.hpp"

#include <mutex>
#include <typeindex>
#include <unordered_map>

#include "pipeline/formula_shader.hpp"
#include "pipeline/wide/shading.hpp"
#include "yurvo/model.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

#if defined(YURVO_WIDE_KERNELS)
#define YURVO_ADD(model)                                                                                     \
    rows[std::type_index(typeid(built_in::model))] = {                                                       \
        wide::baseline_shading_##model(), wide::avx2_shading_##model(), wide::avx512_shading_##model()}
#else
#define YURVO_ADD(model)                                                                                     \
    rows[std::type_index(typeid(built_in::model))] = {wide::baseline_shading_##model(), nullptr, nullptr}
#endif

struct registry {
    std::mutex held;
    std::unordered_map<std::type_index, kernel_row> rows;

    registry() {
        YURVO_ADD(unlit);
        YURVO_ADD(lambert);
        YURVO_ADD(phong);
        YURVO_ADD(blinn_phong);
        YURVO_ADD(cel);
    }
};

#undef YURVO_ADD

registry& known_kernels() {
    static registry known;
    return known;
}

} // namespace

bool register_kernels(const std::type_info& model, const kernel_row& kernels) {
    registry& known = known_kernels();
    const std::lock_guard lock(known.held);
    known.rows[std::type_index(model)] = kernels;
    return true;
}

shade_kernel<float> registered_kernel(const std::type_info& model) {
    registry& known = known_kernels();
    const std::lock_guard lock(known.held);
    const auto found = known.rows.find(std::type_index(model));
    if (found == known.rows.end()) {
        return nullptr;
    }
    for (auto i = static_cast<std::size_t>(chosen_instruction_set());; --i) {
        if (found->second[i] != nullptr || i == 0) {
            return found->second[i];
        }
    }
}

owned_shader built_in_shader(const scene& the_scene) {
    if (const std::shared_ptr<const point_model>& own = the_scene.shading.own.model) {
        const auto* known = dynamic_cast<const erased_model*>(own.get());
        if (known == nullptr) {
            throw error({"shading.model", 0, 0},
                        "`" + the_scene.shading.own.name + "` is known at points alone",
                        "the shared() of an any_model");
        }
        return {own, known->in_float()};
    }
    if (the_scene.formulas.any()) {
        return formula_shader(the_scene);
    }
    return with_model<formula>(the_scene.shading, [](const auto& model) {
        auto kept = std::make_shared<const std::remove_cvref_t<decltype(model)>>(model);
        return owned_shader{kept, make_shader<formula, float>(*kept)};
    });
}

} // namespace yurvo::inline v0_1::pipeline
