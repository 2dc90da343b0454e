// show: pictures of what lighting is made of, instead of the light.
#pragma once

#include <cstddef>
#include <limits>

#include "yurvo/pipeline/draw.hpp"

namespace yurvo {

// World-space normals: each component from −1 to 1 as 0 to 1.
struct show_normals {
    static constexpr bool needs_lights = false;
    template <class Real> reflected<Real> operator()(const surface<Real>&, const arrival<Real>&) const {
        return {};
    }
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>&,
                          const finish_settings<scalar_t<Real>>&) const {
        const auto half = [](const Real& c) { return (c + Real(1)) * Real(0.5); };
        return {{}, {half(s.normal.x), half(s.normal.y), half(s.normal.z)}};
    }
};

// n·l of the only light: from grey through white where it is lit, blue where it is below zero.
struct show_cosine {
    template <class Real> reflected<Real> operator()(const surface<Real>& s, const arrival<Real>& in) const {
        return {rgb<Real>(dot(s.normal, in.to_light)), {}};
    }
    template <class Real>
    outgoing<Real> finish(const surface<Real>&, const reflected<Real>& sum,
                          const finish_settings<scalar_t<Real>>&) const {
        const Real lit = max(sum.diffuse.r, Real(0));
        const Real behind = max(-sum.diffuse.r, Real(0));
        return {{}, {lit, lit, max(lit, behind)}};
    }
};

// Metres from the eye along the view.
struct show_depth {
    static constexpr bool needs_lights = false;
    vec3<double> ahead; // the view's direction, unit
    template <class Real> reflected<Real> operator()(const surface<Real>&, const arrival<Real>&) const {
        return {};
    }
    template <class Real>
    outgoing<Real> finish(const surface<Real>& s, const reflected<Real>&,
                          const finish_settings<scalar_t<Real>>&) const {
        return {{}, rgb<Real>(dot(s.position, vec3<Real>(vec3<scalar_t<Real>>(ahead))))};
    }
};

// Depths for the eye: the nearest bright, the farthest dark; the background stays black. `least` and `most`
// get the range.
picture depth_to_look_at(const picture& metres, double& least, double& most);

// The picture in grey, and in red what a display cuts off because some component is above 1; `pixels` is how
// many.
picture show_overflow(const picture& of, std::size_t& pixels);

} // namespace yurvo
