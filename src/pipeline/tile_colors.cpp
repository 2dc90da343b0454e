// tile_shading's part about colours: of whole triangles, of textures and vertices, and which side is seen.
#include <algorithm>
#include <array>

#include "pipeline/tile_shading.hpp"

namespace yurvo::inline v0_1::pipeline {

// Room for places in an object's texture.
template <class Scalar>
wide::texel_places scene_shading<Scalar>::texels_of(shading_scratch<Scalar>& mine,
                                                    const prepared_object& object) const {
    if (!object.material.image) {
        return {};
    }
    if (mine.texels == nullptr) {
        mine.texels = std::make_unique<block_texels>();
    }
    block_texels& texels = *mine.texels;
    return {texels.column.data(),         texels.row.data(),
            texels.across.data(),         texels.up.data(),
            object.material.image->width, object.material.image->height};
}

// The colours of triangles that are new in the block.
template <class Scalar>
void scene_shading<Scalar>::set_flat(shading_scratch<Scalar>& mine, std::size_t o) const {
    mine.flat.resize(plane_slots::count);
    for (const std::uint16_t slot : mine.to_set) {
        const outgoing<Scalar>& from = lit(mine, o, true, mine.triangles[slot]);
        const rgb<float> sum(from.tinted + from.untinted);
        mine.flat[slot] = {sum.r, sum.g, sum.b};
    }
}

template <class Scalar> void scene_shading<Scalar>::put_flat(shading_scratch<Scalar>& mine) const {
    lane3<Scalar>& into = mine.points.lit;
    std::size_t at = 0;
    for (const wide::pixel_run& run : mine.waiting) {
        const std::array<float, 3>& color = mine.flat[run.slot];
        const auto first = static_cast<std::ptrdiff_t>(at);
        std::fill_n(into.x.begin() + first, run.count, color[0]);
        std::fill_n(into.y.begin() + first, run.count, color[1]);
        std::fill_n(into.z.begin() + first, run.count, color[2]);
        at += static_cast<std::size_t>(run.count);
    }
}

// What has its texture's colour, or one between its vertices: base colours at rate fragment, lit ones else.
template <class Scalar>
void scene_shading<Scalar>::tint(shading_scratch<Scalar>& mine, const prepared_object& object) const {
    block<Scalar>& points = mine.points;
    const wide::attribute_layout layout = layout_of(object);
    const rgb<Scalar>& base = object.factors.base;
    using component = lane<Scalar> lane3<Scalar>::*;
    const std::array<component, 3> components{&lane3<Scalar>::x, &lane3<Scalar>::y, &lane3<Scalar>::z};
    const std::array<Scalar, 3> factors{base.r, base.g, base.b};
    if (!layout.textured) {
        for (std::size_t k = 0; layout.more && layout.normals && k < components.size(); ++k) {
            lane<Scalar>& into = points.base.*components[k];
            for (std::size_t i = 0; i < points.count; ++i) {
                into[i] *= factors[k];
            }
        }
        return;
    }
    wide::sample_request request;
    request.texels = object.material.image->texels.data();
    request.at = texels_of(mine, object);
    request.count = points.count;
    const bool of_codes = object.material.image->of_codes;
    if constexpr (std::is_same_v<Scalar, float>) {
        for (std::size_t k = 0; !of_codes && k < components.size(); ++k) {
            if (layout.normals) {
                request.factor[k] = factors[k];
                request.into[k] = (points.base.*components[k]).data();
                request.times[k] = layout.more ? request.into[k] : nullptr;
            } else {
                request.into[k] = (points.lit.*components[k]).data();
                request.times[k] = (points.tinted.*components[k]).data();
                request.plus[k] = (points.untinted.*components[k]).data();
            }
        }
        if (!of_codes) {
            kernels_.attributes.sample(request);
            return;
        }
    }
    lane3<float>& color = mine.texels->color;
    request.into = {color.x.data(), color.y.data(), color.z.data()};
    kernels_.attributes.sample(request);
    for (std::size_t i = 0; of_codes && i < points.count; ++i) {
        color.put(i, texture::decoded(color.color(i)));
    }
    for (std::size_t k = 0; k < components.size(); ++k) {
        for (std::size_t i = 0; i < points.count; ++i) {
            const Scalar sampled = request.into[k][i];
            if (layout.normals) {
                Scalar& into = (points.base.*components[k])[i];
                into = (layout.more ? factors[k] * into : factors[k]) * sampled;
            } else {
                (points.lit.*components[k])[i] =
                    (points.tinted.*components[k])[i] * sampled + (points.untinted.*components[k])[i];
            }
        }
    }
}

// Which points' triangles face the eye.
template <class Scalar> void scene_shading<Scalar>::put_front(shading_scratch<Scalar>& mine) {
    std::size_t at = 0;
    for (const wide::pixel_run& run : mine.waiting) {
        const auto facing = static_cast<Scalar>(mine.planes[run.slot].front ? 1 : 0);
        for (std::size_t i = 0; i < static_cast<std::size_t>(run.count); ++i) {
            mine.points.front[at++] = facing;
        }
    }
}

// The same, cell by cell.
template <class Scalar> void scene_shading<Scalar>::put_front_of_square(shading_scratch<Scalar>& mine) {
    for (std::size_t t = 0; t < mine.shown_count; ++t) {
        const wide::shown_triangle& triangle = mine.shown_triangles[t];
        const auto facing = static_cast<Scalar>(mine.planes[triangle.slot].front ? 1 : 0);
        for (std::size_t p = triangle.first; p != wide::no_piece; p = mine.shown_pieces[p].next) {
            const wide::shown_piece& piece = mine.shown_pieces[p];
            for (std::size_t c = piece.cell; c <= static_cast<std::size_t>(piece.cell + piece.more); ++c) {
                for (std::size_t l = 0; l < wide::cell_pixels; ++l) {
                    Scalar& front = mine.points.front[c * wide::cell_pixels + l];
                    front = (piece.pixels >> l & 1U) != 0 ? facing : front;
                }
            }
        }
    }
}

template wide::texel_places scene_shading<float>::texels_of(shading_scratch<float>&,
                                                            const prepared_object&) const;
template void scene_shading<float>::set_flat(shading_scratch<float>&, std::size_t) const;
template void scene_shading<float>::put_flat(shading_scratch<float>&) const;
template void scene_shading<float>::tint(shading_scratch<float>&, const prepared_object&) const;
template void scene_shading<float>::put_front(shading_scratch<float>&);
template void scene_shading<float>::put_front_of_square(shading_scratch<float>&);
template wide::texel_places scene_shading<double>::texels_of(shading_scratch<double>&,
                                                             const prepared_object&) const;
template void scene_shading<double>::set_flat(shading_scratch<double>&, std::size_t) const;
template void scene_shading<double>::put_flat(shading_scratch<double>&) const;
template void scene_shading<double>::tint(shading_scratch<double>&, const prepared_object&) const;
template void scene_shading<double>::put_front(shading_scratch<double>&);
template void scene_shading<double>::put_front_of_square(shading_scratch<double>&);

} // namespace yurvo::inline v0_1::pipeline
