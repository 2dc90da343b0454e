#include "pipeline/formula_shader.hpp"

#include <memory>
#include <vector>

#include "pipeline/formula_lights.hpp"
#include "pipeline/wide/formulas.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::inline v0_1::pipeline {

namespace {

wide::formula_kernel kernel_for(instruction_set wanted) {
    switch (wanted) {
#if defined(YURVO_WIDE_KERNELS)
    case instruction_set::avx512:
        return wide::avx512_formulas();
    case instruction_set::avx2:
        return wide::avx2_formulas();
#endif
    default:
        return wide::baseline_formulas();
    }
}

// What a thread writes on the way, used again from block to block.
class scratch_lanes {
    std::unique_ptr<lane<float>[]> memory_; // NOLINT: aligned, and its length is known at run time only
    std::vector<float*> lanes_, placed_;
    std::unique_ptr<std::array<lane<float>, 4>> arriving_ = std::make_unique<std::array<lane<float>, 4>>();

  public:
    wide::formula_room room_for(std::size_t lanes) {
        if (lanes_.size() < lanes) {
            memory_ = std::make_unique<lane<float>[]>(lanes); // NOLINT: as above
            lanes_.resize(lanes);
            placed_.resize(lanes);
            for (std::size_t i = 0; i < lanes; ++i) {
                lanes_[i] = memory_[i].data();
            }
        }
        return {lanes_.data(), placed_.data(), arriving_.get()};
    }
};

struct formula_model {
    formula_program program;
    vec3<float> origin, eye, axis;
    wide::formula_kernel run = kernel_for(chosen_instruction_set());
};

void shade_formulas(const shade_request<float>& request) {
    static thread_local scratch_lanes scratch;
    const auto& model = *static_cast<const formula_model*>(request.model);
    model.run({request, model.program, model.origin, model.eye, model.axis},
              scratch.room_for(model.program.lanes));
}

} // namespace

owned_shader formula_shader(const scene& the_scene) {
    auto made = std::make_shared<formula_model>();
    const formulas::formula_set set = parse_all(the_scene.formulas, the_scene.numbers);
    made->program = make_program(set, the_scene.shading.model);
    const camera seen_from = make_camera(the_scene.view);
    made->origin = vec3<float>(seen_from.eye);
    made->eye = made->origin;
    made->axis = vec3<float>(seen_from.axes.backward);
    shader<float> with;
    with.shade = shade_formulas;
    with.prepare = [](const light& lamp, const vec3<double>& origin) {
        return make_ready<float, formula>(lamp, origin);
    };
    with.model = made.get();
    with.asks_for_front = made->program.asks_for(formulas::input::front);
    const adds_nothing proved = proved_for(the_scene, set);
    with.dark_adds_nothing = proved.dark;
    with.behind_adds_nothing = proved.behind;
    with.may_fail = true;
    return {made, with};
}

} // namespace yurvo::inline v0_1::pipeline
