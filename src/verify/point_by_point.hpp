// point_by_point: a scene lit one pixel at a time in double, every step open to being done otherwise. Slow
// next to the pipeline, and the home of explanations and mistakes.
#pragma once

#include <memory>
#include <vector>

#include "pipeline/stage.hpp"
#include "pipeline/visibility.hpp"
#include "yurvo/verify/explain.hpp"
#include "yurvo/verify/mistakes.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

struct lit_pixel {
    rgb<double> color;
    double alpha = 1;
};

// The geometry of a scene, which most of its mistaken pictures share.
struct seen_scene {
    pipeline::stage staged;
    pipeline::visibility visible;
};
std::shared_ptr<const seen_scene> see(const scene& the_scene);

// How a scene is painted besides its mistakes.
struct painting {
    term_choice terms = {};
    bool unit_at_vertices = true; // normals are made unit there; or only at each fragment, which is right too
    const point_model* own = nullptr; // lights in the place of the scene's model; outlives the painter
    bool cosines_end_at_one = false;  // those of vectors that are too long
};

class point_painter {
    struct parts;
    std::unique_ptr<const parts> parts_;

  public:
    // The scene must be valid. `seen` is of the same scene, without mistakes.
    point_painter(const scene& the_scene, const mistake_set& wrong, std::shared_ptr<const seen_scene> seen,
                  const painting& how = {});
    ~point_painter();
    point_painter(point_painter&&) noexcept;
    point_painter& operator=(point_painter&&) noexcept;

    [[nodiscard]] lit_pixel at(int x, int y) const;
    [[nodiscard]] explanation explain(int x, int y) const;
    [[nodiscard]] picture whole() const;
};

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
