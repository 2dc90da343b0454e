#include "program/object_data.hpp"

#include <cmath>
#include <cstring>
#include <initializer_list>

#include "yurvo/picture/encoding.hpp"

namespace yurvo::inline v0_1::program {

void write_into(std::vector<std::uint8_t>& block, const active_uniform& at, const type_shape& shape,
                const std::vector<float>& numbers) {
    const auto put = [&](std::size_t offset, float value) {
        if (offset + 4 > block.size()) {
            return;
        }
        if (shape.whole) {
            const auto whole = static_cast<std::int32_t>(std::lround(value));
            std::memcpy(&block[offset], &whole, 4);
        } else {
            std::memcpy(&block[offset], &value, 4);
        }
    };
    const auto begin = static_cast<std::size_t>(at.offset);
    if (shape.columns == 0) {
        for (std::size_t i = 0; i < numbers.size(); ++i) {
            put(begin + 4 * i, numbers[i]);
        }
        return;
    }
    const auto columns = static_cast<std::size_t>(shape.columns);
    const auto rows = static_cast<std::size_t>(shape.rows);
    const auto stride = static_cast<std::size_t>(at.matrix_stride);
    for (std::size_t column = 0; column < columns; ++column) {
        for (std::size_t row = 0; row < rows; ++row) {
            const std::size_t place =
                at.row_major != 0 ? row * stride + 4 * column : column * stride + 4 * row;
            put(begin + place, numbers[rows * column + row]);
        }
    }
}

texture_values texture_for(const texture* image, bool as_codes) {
    texture_values result;
    if (image == nullptr) {
        result.values = {1, 1, 1};
        return result;
    }
    result.width = image->width;
    result.height = image->height;
    const auto value = [&](float linear) {
        return as_codes ? static_cast<float>(srgb_encoded(static_cast<double>(linear))) : linear;
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
            result.push_back(count == 3 && what != "normal" ? 1.0F : 0.0F);
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
