#include "yurvo/pipeline/show.hpp"

#include <algorithm>
#include <limits>

#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/numeric/assert.hpp"

namespace yurvo::inline v0_1 {

namespace {

// World-space normals: each component from −1 to 1 as 0 to 1.
struct normals_model {
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
struct cosine_model {
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
struct depth_model {
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

} // namespace

picture show_normals(const scene& the_scene, draw_statistics* statistics) {
    return draw(the_scene, normals_model{}, the_scene.shading.rate, {}, statistics);
}

picture show_cosine(const scene& the_scene, draw_statistics* statistics) {
    YURVO_ASSERT(the_scene.lights.size() == 1);
    return draw(the_scene, cosine_model{}, the_scene.shading.rate, {}, statistics);
}

picture show_depth(const scene& the_scene, draw_statistics* statistics) {
    const vec3<double> ahead = -make_camera(the_scene.view).axes.backward;
    return draw(the_scene, depth_model{ahead}, the_scene.shading.rate, {}, statistics);
}

picture depth_to_look_at(const picture& metres, double& least, double& most) {
    least = std::numeric_limits<double>::infinity();
    most = 0;
    for (std::size_t i = 0; i < metres.values.size(); i += 4) {
        const double depth = metres.values[i];
        if (depth > 0) {
            least = std::min(least, depth);
            most = std::max(most, depth);
        }
    }
    picture result(metres.width, metres.height);
    for (std::size_t i = 0; i < metres.values.size(); i += 4) {
        const double depth = metres.values[i];
        // Linear in inverse_depth, as perspective is; the farthest stays apart from the background.
        const double share = most > least ? (1 / depth - 1 / most) / (1 / least - 1 / most) : 1;
        const auto grey = static_cast<float>(depth > 0 ? 0.12 + 0.88 * share : 0);
        std::fill_n(result.values.begin() + static_cast<std::ptrdiff_t>(i), 3, grey);
    }
    return result;
}

picture show_overflow(const picture& image, std::size_t& pixels) {
    picture result(image.width, image.height);
    pixels = 0;
    for (std::size_t i = 0; i < image.values.size(); i += 4) {
        const float greatest = std::max({image.values[i], image.values[i + 1], image.values[i + 2]});
        const float grey = 0.6F * std::min(1.0F, 0.2126F * image.values[i] + 0.7152F * image.values[i + 1] +
                                                     0.0722F * image.values[i + 2]);
        const bool above = greatest > 1;
        pixels += above ? 1U : 0U;
        result.values[i] = above ? 1.0F : grey;
        result.values[i + 1] = above ? 0.05F : grey;
        result.values[i + 2] = above ? 0.08F : grey;
    }
    return result;
}

} // namespace yurvo::inline v0_1
