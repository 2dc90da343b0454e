// A scene's picture under settings that must not change it.
#pragma once

#include <array>
#include <cstdint>

#include "pipeline/built_in_shader.hpp"
#include "pipeline/frame.hpp"
#include "pipeline/parallel.hpp"
#include "pipeline/stage.hpp"
#include "yurvo/pipeline/draw.hpp"

namespace yurvo::testing {

/// With its statistics, where there is room for them.
inline picture drawn_as(const scene& made, const pipeline::frame_settings& settings, int threads,
                        draw_statistics* statistics = nullptr) {
    const pipeline::stage staged = pipeline::make_stage(made);
    pipeline::frame frame(settings);
    pipeline::with_threads(threads, [&] {
        const pipeline::owned_shader own = pipeline::built_in_shader(made);
        frame.draw(staged, own.shade);
    });
    if (statistics != nullptr) {
        *statistics = frame.statistics();
    }
    return frame.take();
}

} // namespace yurvo::testing
