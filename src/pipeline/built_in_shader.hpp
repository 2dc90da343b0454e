// built_in_shader: the built-in models, compiled once for each instruction set, as the pipeline takes them.
#pragma once

#include <memory>

#include "yurvo/pipeline/shading_block.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::pipeline {

struct owned_shader {
    std::shared_ptr<const void> model; // what `shade` points to, where that is nobody else's
    shader<float> shade;
};

// Of the scene's own model. The scene must outlive it: `cel` reads its settings there.
owned_shader built_in_shader(const scene& the_scene);

} // namespace yurvo::inline v0_1::pipeline
