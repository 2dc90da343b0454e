// frame: what drawing needs besides the scene, kept from one picture to the next: nothing is allocated
// again while scenes of the same size are drawn.
#pragma once

#include <memory>

#include "pipeline/stage.hpp"
#include "pipeline/visibility.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/pipeline/shading_block.hpp"
#include "yurvo/scene/renderer.hpp"

namespace yurvo::inline v0_1::pipeline {

// None of it changes the picture.
struct frame_settings {
    int tile = 0;                 // pixels across and down: 16, 32, 64, 128 or 256; 0: by the picture's size
    bool skip_unreachable = true; // leave a light out where it cannot reach
};

class frame {
    struct parts;
    std::unique_ptr<parts> parts_;

  public:
    explicit frame(const frame_settings& settings = {});
    ~frame();
    frame(frame&&) noexcept;
    frame& operator=(frame&&) noexcept;

    // Draws over what was there. The picture is the frame's own until the next call.
    picture& draw(const stage& from, const shader<float>& with);
    picture& draw(const stage& from, const shader<double>& with);

    // The last picture, handed over: the next one is drawn into a new one.
    picture take();

    // Only what is seen, in a picture of its own.
    visibility see(const stage& from);

    // Of the last picture.
    [[nodiscard]] const draw_statistics& statistics() const;
};

} // namespace yurvo::inline v0_1::pipeline
