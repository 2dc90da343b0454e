// pixel_tolerances: by how much rounding may change each pixel of a scene's picture, by the second method.
#pragma once

#include <vector>

#include "verify/cast.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::verify {

// Asked by one thread at a time.
class pixel_tolerances {
    scene scene_;
    caster casts_;
    mutable std::vector<rgb<double>> least_; // empty until one is asked for
    struct known_pixel {
        cast_color color;
        bool known = false;
    };
    mutable std::vector<known_pixel> whole_;

    [[nodiscard]] std::size_t place(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(scene_.view.width) +
               static_cast<std::size_t>(x);
    }

  public:
    pixel_tolerances(scene in_its_size, const tolerance_model& allowed);
    ~pixel_tolerances() = default;
    pixel_tolerances(const pixel_tolerances&) = delete; // rays are cast at the scene that is in it
    pixel_tolerances(pixel_tolerances&&) = delete;
    pixel_tolerances& operator=(const pixel_tolerances&) = delete;
    pixel_tolerances& operator=(pixel_tolerances&&) = delete;

    [[nodiscard]] const scene& of() const { return scene_; }
    [[nodiscard]] const caster& casts() const { return casts_; }

    // What is seen at the pixel's centre: its colour and its tolerance.
    [[nodiscard]] const cast_color& at(int x, int y) const;
    // The tolerance without what a subject's snapping allows: never more, and all are found at once.
    [[nodiscard]] const rgb<double>& least(int x, int y) const;
    // Finds all of them, on all threads, for whoever will ask for most.
    void find_all();
};

} // namespace yurvo::inline v0_1::verify
