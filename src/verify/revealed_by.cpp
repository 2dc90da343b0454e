#include "yurvo/verify/mistakes.hpp"

namespace yurvo::verify {

// Held, and printed anew, by the test "the separation matrix".
const std::vector<std::string_view>& revealed_by(mistake which) {
    static const std::vector<std::vector<std::string_view>> table{
        // normal-not-renormalized
        {"buoys", "buoys-phong", "line-up"},
        // normal-as-point
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "moon-crates", "painted-hull",
         "plates", "searchlight"},
        // normal-without-inverse-transpose
        {"buoys", "buoys-phong", "painted-hull"},
        // normal-in-object-space
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "moon-crates", "painted-hull",
         "penumbras", "plates", "searchlight"},
        // normal-in-view-space
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "line-up", "many-lanterns", "moon-crates",
         "painted-hull"},
        // normal-shared-corners
        {"bollard", "buoys", "buoys-phong", "line-up", "moon-crates"},
        // normal-flipped
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "painted-hull", "penumbras", "plates", "searchlight"},
        // light-direction-flipped
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "painted-hull", "penumbras", "plates", "searchlight"},
        // to-light-not-normalized
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "penumbras",
         "searchlight"},
        // to-light-normalized-per-vertex
        {"buoys-phong", "lantern-quay", "lantern-quay-inverse-square", "many-lanterns", "penumbras",
         "searchlight"},
        // shines-not-normalized
        {"buoys", "buoys-phong", "line-up", "moon-crates", "painted-hull", "penumbras", "searchlight"},
        // half-not-normalized
        {"bollard", "buoys", "line-up"},
        // eye-vector-flipped
        {"bollard", "buoys", "buoys-phong", "line-up", "painted-hull"},
        // specular-eye-at-origin
        {"bollard", "buoys", "buoys-phong", "line-up", "painted-hull"},
        // position-in-object-space
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "painted-hull", "penumbras",
         "searchlight"},
        // matrix-transposed
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "moon-crates", "painted-hull",
         "penumbras", "plates", "searchlight"},
        // falloff-missing
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "penumbras",
         "searchlight"},
        // falloff-after-normalize
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "penumbras",
         "searchlight"},
        // falloff-not-squared
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "penumbras",
         "searchlight"},
        // falloff-on-directional
        {"buoys", "buoys-phong", "line-up", "moon-crates", "painted-hull", "plates"},
        // cone-angle-in-degrees
        {"penumbras", "searchlight"},
        // cone-full-angle
        {"penumbras", "searchlight"},
        // cone-inner-outer-swapped
        {"penumbras", "searchlight"},
        // cone-axis-flipped
        {"penumbras", "searchlight"},
        // cosine-not-clamped
        {"bollard", "buoys", "buoys-phong", "float-field", "line-up", "plates"},
        // specular-on-unlit-side
        {"behind-the-wall", "bollard"},
        // specular-reflect-flipped
        {"buoys-phong", "line-up"},
        // specular-half-for-reflect
        {"buoys-phong", "line-up"},
        // specular-tinted-by-base
        {"bollard", "buoys", "buoys-phong", "line-up"},
        // specular-without-falloff
        {"bollard", "buoys", "buoys-phong", "line-up"},
        // specular-times-cosine
        {"bollard", "buoys", "buoys-phong", "line-up"},
        // factor-pi
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates", "penumbras",
         "plates", "searchlight"},
        // ambient-missing
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "line-up", "many-lanterns", "moon-crates", "plates"},
        // ambient-per-light
        {"bollard", "buoys", "buoys-phong", "line-up", "many-lanterns"},
        // clamp-per-light
        {"bollard", "buoys", "buoys-phong", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "many-lanterns"},
        // light-color-ignored
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "searchlight"},
        // single-light-only
        {"bollard", "buoys", "buoys-phong", "line-up", "many-lanterns", "penumbras"},
        // rate-vertex-for-fragment
        {"bollard", "buoys", "buoys-phong", "lantern-quay", "lantern-quay-inverse-square", "line-up",
         "many-lanterns", "penumbras", "searchlight"},
        // rate-face-for-fragment
        {"bollard", "buoys", "buoys-phong", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "line-up", "many-lanterns", "penumbras", "searchlight"},
        // interpolation-affine
        {"buoys", "buoys-phong", "lantern-quay-inverse-square", "many-lanterns"},
        // light-moves-with-object
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "moon-crates", "painted-hull",
         "penumbras", "plates", "searchlight"},
        // light-moves-with-eye
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "painted-hull", "penumbras", "searchlight"},
        // encode-missing
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "penumbras", "plates", "searchlight"},
        // encode-twice
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "penumbras", "plates", "searchlight"},
        // texture-not-decoded
        {"lantern-quay"},
        // output-wraps
        {"bollard", "buoys", "buoys-phong"},
        // alpha-lit
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "penumbras", "plates", "searchlight"},
        // channels-swapped
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "penumbras", "plates"},
        // picture-upside-down
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "penumbras", "plates"},
        // depth-test-missing
        {"bollard", "buoys", "buoys-phong", "float-field", "line-up", "moon-crates", "painted-hull",
         "plates"},
        // depth-test-reversed
        {"bollard", "buoys", "buoys-phong", "float-field", "line-up", "moon-crates", "painted-hull"},
        // block-padding-missed
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates", "penumbras",
         "plates", "searchlight"},
    };
    return table[static_cast<std::size_t>(which)];
}

} // namespace yurvo::verify
