#include "yurvo/pipeline/shader.hpp"

#include <mutex>
#include <typeindex>
#include <unordered_map>

#include "wide/shading.hpp"

namespace yurvo::pipeline {

namespace {

struct registry {
    std::mutex held;
    std::unordered_map<std::type_index, kernel_row> rows;
};

registry& known_kernels() {
    static registry known;
    return known;
}

#if defined(YURVO_WIDE_KERNELS)
bool register_built_in() {
    const auto& avx2 = wide::avx2_shading();
    const auto& avx512 = wide::avx512_shading();
    const std::array<const std::type_info*, wide::built_in_models> models{
        &typeid(unlit), &typeid(lambert<>), &typeid(phong<>), &typeid(blinn_phong<>), &typeid(cel<>)};
    for (std::size_t i = 0; i < models.size(); ++i) {
        register_kernels(*models[i], {nullptr, avx2[i], avx512[i]});
    }
    return true;
}
#endif

} // namespace

bool register_kernels(const std::type_info& model, const kernel_row& kernels) {
    registry& known = known_kernels();
    const std::lock_guard lock(known.held);
    known.rows[std::type_index(model)] = kernels;
    return true;
}

shade_kernel<float> registered_kernel(const std::type_info& model) {
#if defined(YURVO_WIDE_KERNELS)
    [[maybe_unused]] static const bool once = register_built_in();
#endif
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

} // namespace yurvo::pipeline
