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
         "plates", "rims", "searchlight"},
        // normal-in-view-space
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "line-up", "many-lanterns", "moon-crates",
         "painted-hull"},
        // normal-shared-corners
        {"bollard", "buoys", "buoys-phong", "line-up", "moon-crates"},
        // normal-flipped
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "painted-hull", "plates", "rims", "searchlight"},
        // light-direction-flipped
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "painted-hull", "plates", "rims", "searchlight"},
        // to-light-not-normalized
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "rims", "searchlight"},
        // to-light-normalized-per-vertex
        {"buoys-phong", "lantern-quay", "lantern-quay-inverse-square", "many-lanterns", "rims",
         "searchlight"},
        // shines-not-normalized
        {"buoys", "buoys-phong", "line-up", "moon-crates", "painted-hull", "rims", "searchlight"},
        // half-not-normalized
        {"bollard", "buoys", "line-up"},
        // eye-vector-flipped
        {"bollard", "buoys", "buoys-phong", "line-up", "painted-hull"},
        // specular-eye-at-origin
        {"bollard", "buoys", "buoys-phong", "line-up", "painted-hull"},
        // position-in-object-space
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "painted-hull", "rims",
         "searchlight"},
        // matrix-transposed
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "moon-crates", "painted-hull",
         "plates", "rims", "searchlight"},
        // falloff-missing
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "rims", "searchlight"},
        // falloff-after-normalize
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "rims", "searchlight"},
        // falloff-not-squared
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "rims", "searchlight"},
        // falloff-on-directional
        {"buoys", "buoys-phong", "line-up", "moon-crates", "painted-hull", "plates"},
        // rim-angle-in-degrees
        {"rims", "searchlight"},
        // rim-full-angle
        {"rims", "searchlight"},
        // rim-inner-outer-swapped
        {"rims", "searchlight"},
        // rim-axis-flipped
        {"rims", "searchlight"},
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
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates", "plates",
         "rims", "searchlight"},
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
        {"bollard", "buoys", "buoys-phong", "line-up", "many-lanterns", "rims"},
        // rate-vertex-for-fragment
        {"bollard", "buoys", "buoys-phong", "lantern-quay", "lantern-quay-inverse-square", "line-up",
         "many-lanterns", "rims", "searchlight"},
        // rate-face-for-fragment
        {"bollard", "buoys", "buoys-phong", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "line-up", "many-lanterns", "rims", "searchlight"},
        // interpolation-affine
        {"buoys", "buoys-phong", "lantern-quay-inverse-square", "many-lanterns"},
        // light-moves-with-object
        {"buoys", "buoys-phong", "float-field", "lantern-row", "line-up", "moon-crates", "painted-hull",
         "plates", "rims", "searchlight"},
        // light-moves-with-eye
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "painted-hull", "rims", "searchlight"},
        // encode-missing
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "plates", "rims", "searchlight"},
        // encode-twice
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "plates", "rims", "searchlight"},
        // texture-not-decoded
        {"lantern-quay"},
        // output-wraps
        {"bollard", "buoys", "buoys-phong"},
        // alpha-lit
        {"behind-the-wall", "bollard", "buoys", "buoys-phong", "float-field", "lantern-quay",
         "lantern-quay-cells", "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns",
         "moon-crates", "plates", "rims", "searchlight"},
        // channels-swapped
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "plates", "rims"},
        // picture-upside-down
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates",
         "painted-hull", "plates", "rims"},
        // depth-test-missing
        {"bollard", "buoys", "buoys-phong", "float-field", "line-up", "moon-crates", "painted-hull",
         "plates"},
        // depth-test-reversed
        {"bollard", "buoys", "buoys-phong", "float-field", "line-up", "moon-crates", "painted-hull"},
        // block-padding-missed
        {"bollard", "buoys", "buoys-phong", "float-field", "lantern-quay", "lantern-quay-cells",
         "lantern-quay-inverse-square", "lantern-row", "line-up", "many-lanterns", "moon-crates", "plates",
         "rims", "searchlight"},
    };
    return table[static_cast<std::size_t>(which)];
}

} // namespace yurvo::verify
