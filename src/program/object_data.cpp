#include "program/object_data.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <initializer_list>

#include "program/sampler_types.hpp"
#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::program {

void write_into(std::vector<std::uint8_t>& block, const active_uniform& at, const type_shape& shape,
                const std::vector<float>& numbers) {
    const auto bytes = static_cast<std::size_t>(shape.bytes);
    const auto put = [&](std::size_t offset, float value) {
        if (offset + bytes > block.size()) {
            return;
        }
        if (shape.whole) {
            const auto whole = static_cast<std::int32_t>(std::lround(value));
            std::memcpy(&block[offset], &whole, sizeof whole);
        } else if (bytes == sizeof(double)) {
            const double real = value;
            std::memcpy(&block[offset], &real, sizeof real);
        } else {
            std::memcpy(&block[offset], &value, sizeof value);
        }
    };
    const auto begin = static_cast<std::size_t>(at.offset);
    if (shape.columns == 0) {
        for (std::size_t i = 0; i < numbers.size(); ++i) {
            put(begin + bytes * i, numbers[i]);
        }
        return;
    }
    const auto columns = static_cast<std::size_t>(shape.columns);
    const auto rows = static_cast<std::size_t>(shape.rows);
    const auto stride = static_cast<std::size_t>(at.matrix_stride);
    for (std::size_t column = 0; column < columns; ++column) {
        for (std::size_t row = 0; row < rows; ++row) {
            const std::size_t place =
                at.row_major != 0 ? row * stride + bytes * column : column * stride + bytes * row;
            put(begin + place, numbers[rows * column + row]);
        }
    }
}

namespace {

// White for null; decoded, or as codes / 255.
texture_values texture_of_image(const texture* image, bool as_codes) {
    texture_values result;
    if (image == nullptr) {
        result.values = {1, 1, 1};
        return result;
    }
    result.width = image->width;
    result.height = image->height;
    const auto value = [&](float texel) {
        const auto number = static_cast<double>(texel);
        return as_codes == image->of_codes
                   ? texel
                   : static_cast<float>(as_codes ? srgb_encoded(number) : srgb_decoded(number));
    };
    for (int y = image->height - 1; y >= 0; --y) { // the lowest row first
        for (int x = 0; x < image->width; ++x) {
            const rgb<float>& texel =
                image->texels[static_cast<std::size_t>(y) * static_cast<std::size_t>(image->width) +
                              static_cast<std::size_t>(x)];
            result.values.insert(result.values.end(), {value(texel.r), value(texel.g), value(texel.b)});
        }
    }
    return result;
}

} // namespace

texture_values texture_for(const bound_uniform& uniform, const texture* image, const quantity_context& in) {
    const sampler_type& sampler = *find_sampler_type(uniform.active.type);
    const quantity* const means =
        uniform.means.size() == 1 ? std::get_if<quantity>(&uniform.means.front()) : nullptr;
    const auto is = [&](const char* of, std::initializer_list<const char*> properties) {
        return means != nullptr && means->of == of &&
               std::find(properties.begin(), properties.end(), means->property) != properties.end();
    };
    texture_values result;
    if (sampler.takes_image() && is("material", {"texture", "texture_codes"})) {
        result = texture_of_image(image, means->property == "texture_codes");
        result.sampler = sampler.number;
        return result;
    }
    const bool numbers = uniform.means.size() != 2 && uniform.means.size() <= 4 &&
                         std::all_of(uniform.means.begin(), uniform.means.end(), [](const meaning& each) {
                             return std::holds_alternative<double>(each);
                         });
    // What people keep in a map of its own.
    const bool factor =
        sampler.holds == texel_kind::reals &&
        (is("material", {"specular", "emission", "ambient", "diffuse"}) || is("ambient", {"light", "color"}));
    if (!numbers && !factor) {
        const std::string any = "a number, three, or four";
        throw error(
            uniform.where, "`" + uniform.active.name + "` is a texture, a " + std::string(sampler.name),
            sampler.holds != texel_kind::reals
                ? any
                : std::string(sampler.takes_image() ? "material.texture, material.texture_codes, " : "") +
                      "a factor (material.specular, .emission, .ambient, .diffuse, ambient.light), " + any);
    }
    bound_uniform as_color = uniform;
    as_color.active.type = uniform.means.size() == 4 ? type_of_color_and_alpha : type_of_color;
    result.values = numbers_for(as_color, in, false);
    result.sampler = sampler.number;
    return result;
}

namespace {

struct surface_frame {
    vec3<double> tangent, bitangent;
    double handedness = 1;
};

// At a corner of triangle t: towards growing u, made square to the normal. Where the texture says nothing, or
// only along the normal, some direction that is square to it.
surface_frame frame_at(const mesh& shape, std::size_t t, std::size_t k) {
    const triangle& corners = shape.triangles[t];
    const vec3<double> a = shape.positions[corners[0]];
    const vec3<double> to_b = shape.positions[corners[1]] - a;
    const vec3<double> to_c = shape.positions[corners[2]] - a;
    vec3<double> along_u{};
    vec3<double> along_v{};
    if (!shape.texcoords.empty()) {
        const triangle& places = shape.texcoord_corners(t);
        const texcoord from = shape.texcoords[places[0]];
        const texcoord b = shape.texcoords[places[1]];
        const texcoord c = shape.texcoords[places[2]];
        // to_b = along_u (b.u - from.u) + along_v (b.v - from.v), to_c likewise; of either only the direction
        // counts.
        const double area = (b.u - from.u) * (c.v - from.v) - (c.u - from.u) * (b.v - from.v);
        const double sign = area < 0 ? -1 : 1;
        along_u = (to_b * (c.v - from.v) - to_c * (b.v - from.v)) * sign;
        along_v = (to_c * (b.u - from.u) - to_b * (c.u - from.u)) * sign;
    }
    const vec3<double> n = normalize(shape.normals[corners[k]]);
    const auto square_to_normal = [&](const vec3<double>& v) { return v - n * dot(v, n); };
    vec3<double> tangent = square_to_normal(along_u);
    if (!(dot(tangent, tangent) > 1e-12 * dot(along_u, along_u))) {
        tangent = square_to_normal(std::abs(n.x) < 0.6 ? vec3<double>{1, 0, 0} : vec3<double>{0, 1, 0});
    }
    surface_frame result;
    result.tangent = normalize(tangent);
    const vec3<double> across = cross(n, result.tangent);
    result.handedness = dot(across, along_v) < 0 ? -1 : 1;
    result.bitangent = across * result.handedness;
    return result;
}

} // namespace

void put_same_everywhere(int location, const type_shape& shape, const std::vector<float>& numbers,
                         std::vector<attribute_values>& into) {
    const int columns = std::max(1, shape.columns);
    const auto rows = static_cast<std::ptrdiff_t>(numbers.size()) / columns;
    const number_kind kind = !shape.whole                  ? number_kind::real
                             : shape.name.starts_with('u') ? number_kind::natural
                                                           : number_kind::whole;
    for (int column = 0; column < columns; ++column) {
        const auto begin = numbers.begin() + column * rows;
        into.push_back({location + column, static_cast<std::int32_t>(rows), kind, {begin, begin + rows}});
    }
}

std::vector<float> attribute_of(const mesh& shape, const std::string& what, int components) {
    std::vector<float> result;
    const auto put = [&](std::initializer_list<double> values) {
        int count = 0;
        for (const double value : values) {
            if (count++ < components) {
                result.push_back(static_cast<float>(value));
            }
        }
        while (count < components) { // a vector fills a wider one
            result.push_back(count == 3 && what != "normal" && what != "bitangent" ? 1.0F : 0.0F);
            ++count;
        }
    };
    for (std::size_t t = 0; t < shape.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t v = shape.triangles[t][k];
            if (what == "position") {
                put({shape.positions[v].x, shape.positions[v].y, shape.positions[v].z});
            } else if (what == "normal") {
                put({shape.normals[v].x, shape.normals[v].y, shape.normals[v].z});
            } else if (what == "color") {
                const rgb<double> color = shape.colors.empty() ? rgb<double>(1.0) : shape.colors[v];
                put({color.r, color.g, color.b});
            } else if (what == "tangent") {
                const surface_frame at = frame_at(shape, t, k);
                put({at.tangent.x, at.tangent.y, at.tangent.z, at.handedness});
            } else if (what == "bitangent") {
                const surface_frame at = frame_at(shape, t, k);
                put({at.bitangent.x, at.bitangent.y, at.bitangent.z});
            } else {
                const texcoord at =
                    shape.texcoords.empty() ? texcoord{} : shape.texcoords[shape.texcoord_corners(t)[k]];
                put({at.u, at.v});
            }
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1::program
