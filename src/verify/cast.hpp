// The second method: the picture again, by rays cast at shapes and triangles in double precision and plain
// scalar formulas written out with angles. It shares no code with shading or pipeline, and it is slow.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/scene/renderer.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

// What a ray finds, and how far a picture made in float may be from it.
//
// The tolerance is carried along: each input is taken at both ends of the interval that rounding leaves it
// (a position within unit roundoff × its distance from the eye, a direction within what that makes of its
// angle), each formula is evaluated there, and half the spread is added up over the terms, with unit roundoff
// × the operations left × the sum of the terms' magnitudes.
struct cast_color {
    rgb<double> color;
    rgb<double> tolerance;
    double alpha = 1;
    std::ptrdiff_t object = -1; // index in the scene; −1 where the ray meets nothing
};

class caster {
    struct parts;
    std::unique_ptr<const parts> parts_;

  public:
    // The scene must be valid; it is kept by reference.
    explicit caster(const scene& the_scene, const tolerance_model& allowed = {});
    ~caster();
    caster(caster&&) noexcept;
    caster& operator=(caster&&) noexcept;

    // Finds what is seen at the centres of all pixels, on all threads, for whoever will ask for most of them;
    // kept for other scenes that differ in nothing that is met.
    void find_all_centres() const;

    // At a place in the picture, in pixels from its top left corner: (x + 0.5, y + 0.5) is a pixel's centre.
    [[nodiscard]] cast_color at(double x, double y) const;
    // The same without what the subject's snapping allows, which takes four rays more: whoever is within half
    // of that needs no more.
    [[nodiscard]] cast_color at_without_snap(double x, double y) const;

    // Where the ray through a place in the picture meets something.
    [[nodiscard]] std::optional<vec3<double>> place(double x, double y) const;

    // A point of an object in world space, and a point of the world in the picture: pixels from the top left,
    // and depth. Nothing where it is behind the eye.
    [[nodiscard]] vec3<double> to_world(std::size_t object, const vec3<double>& point) const;
    [[nodiscard]] std::optional<vec3<double>> in_picture(const vec3<double>& point) const;

    // How the tolerance at a place comes about, for people: a line each, with the numbers put in.
    [[nodiscard]] std::vector<std::string> derivation(double x, double y) const;

    // True where rays within `step` pixels of a place meet different surfaces, or different sides of a
    // light's border: their colours differ by more than their tolerances and what lies between them explains.
    [[nodiscard]] bool near_border(double x, double y, double step) const;

    // What a pixel may show where a border passes within `step` pixels of a place: each surface seen from
    // there to `step` around it, or as near as another to within the rounding of its depth, carried on in its
    // own plane to the place itself.
    [[nodiscard]] std::vector<cast_color> around(double x, double y, double step) const;
};

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
