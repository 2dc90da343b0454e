#include "window/still.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

#include <imgui.h>

namespace yurvo::app {

namespace {

struct clip_box {
    int left, top, right, bottom;
};

// 1/256 pixel, so that triangles that share an edge share it exactly.
struct snapped {
    std::int64_t x, y;
};
snapped snap(const ImVec2& at) {
    return {std::llround(static_cast<double>(at.x) * 256), std::llround(static_cast<double>(at.y) * 256)};
}

std::array<float, 4> parts_of(ImU32 color) {
    return {static_cast<float>((color >> IM_COL32_R_SHIFT) & 0xFFU),
            static_cast<float>((color >> IM_COL32_G_SHIFT) & 0xFFU),
            static_cast<float>((color >> IM_COL32_B_SHIFT) & 0xFFU),
            static_cast<float>((color >> IM_COL32_A_SHIFT) & 0xFFU)};
}

class painter {
    std::vector<std::uint8_t>& into_;
    int width_;

    // Between the four nearest texels, as a sampler does.
    static std::array<float, 4> sample(const still_texture& from, float u, float v) {
        const float x = u * static_cast<float>(from.width) - 0.5F;
        const float y = v * static_cast<float>(from.height) - 0.5F;
        const float left = std::floor(x);
        const float top = std::floor(y);
        const float right_share = x - left;
        const float low_share = y - top;
        std::array<float, 4> result{};
        for (int dy = 0; dy < 2; ++dy) {
            for (int dx = 0; dx < 2; ++dx) {
                const int at_x = std::clamp(static_cast<int>(left) + dx, 0, from.width - 1);
                const int at_y = std::clamp(static_cast<int>(top) + dy, 0, from.height - 1);
                const float share =
                    (dx == 1 ? right_share : 1 - right_share) * (dy == 1 ? low_share : 1 - low_share);
                const std::size_t at =
                    (static_cast<std::size_t>(at_y) * static_cast<std::size_t>(from.width) +
                     static_cast<std::size_t>(at_x)) *
                    4;
                for (std::size_t c = 0; c < 4; ++c) {
                    result[c] += share * static_cast<float>(from.bytes[at + c]);
                }
            }
        }
        return result;
    }

    void blend(int x, int y, const std::array<float, 4>& color) {
        std::uint8_t* to = &into_[(static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) +
                                   static_cast<std::size_t>(x)) *
                                  4];
        const float share = color[3] / 255;
        for (std::size_t c = 0; c < 3; ++c) {
            const float mixed = color[c] * share + static_cast<float>(to[c]) * (1 - share);
            to[c] = static_cast<std::uint8_t>(std::clamp(mixed + 0.5F, 0.0F, 255.0F));
        }
    }

  public:
    painter(std::vector<std::uint8_t>& into, int width) : into_(into), width_(width) {}

    void triangle(std::array<ImDrawVert, 3> corners, const clip_box& clip, const still_texture& texture) {
        std::array<snapped, 3> at{snap(corners[0].pos), snap(corners[1].pos), snap(corners[2].pos)};
        const auto edge = [](const snapped& a, const snapped& b, std::int64_t x, std::int64_t y) {
            return (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x);
        };
        std::int64_t area = edge(at[0], at[1], at[2].x, at[2].y);
        if (area == 0) {
            return;
        }
        if (area < 0) {
            std::swap(at[1], at[2]);
            std::swap(corners[1], corners[2]);
            area = -area;
        }
        // A pixel on an edge belongs to the triangle whose top or left edge it is.
        const auto least = [](const snapped& a, const snapped& b) -> std::int64_t {
            const bool top_left = (a.y == b.y && b.x > a.x) || b.y < a.y;
            return top_left ? 0 : 1;
        };
        const auto [low_x, high_x] = std::minmax({at[0].x, at[1].x, at[2].x});
        const auto [low_y, high_y] = std::minmax({at[0].y, at[1].y, at[2].y});
        const int left = std::max(clip.left, static_cast<int>((low_x - 128) >> 8));
        const int right = std::min(clip.right, static_cast<int>((high_x + 128) >> 8) + 1);
        const int top = std::max(clip.top, static_cast<int>((low_y - 128) >> 8));
        const int bottom = std::min(clip.bottom, static_cast<int>((high_y + 128) >> 8) + 1);
        std::array<std::array<float, 4>, 3> colors{parts_of(corners[0].col), parts_of(corners[1].col),
                                                   parts_of(corners[2].col)};
        for (int y = top; y < bottom; ++y) {
            for (int x = left; x < right; ++x) {
                const std::int64_t px = (static_cast<std::int64_t>(x) << 8) + 128;
                const std::int64_t py = (static_cast<std::int64_t>(y) << 8) + 128;
                const std::int64_t e0 = edge(at[1], at[2], px, py);
                const std::int64_t e1 = edge(at[2], at[0], px, py);
                const std::int64_t e2 = edge(at[0], at[1], px, py);
                if (e0 < least(at[1], at[2]) || e1 < least(at[2], at[0]) || e2 < least(at[0], at[1])) {
                    continue;
                }
                const float w0 = static_cast<float>(e0) / static_cast<float>(area);
                const float w1 = static_cast<float>(e1) / static_cast<float>(area);
                const float w2 = 1 - w0 - w1;
                const float u = w0 * corners[0].uv.x + w1 * corners[1].uv.x + w2 * corners[2].uv.x;
                const float v = w0 * corners[0].uv.y + w1 * corners[1].uv.y + w2 * corners[2].uv.y;
                std::array<float, 4> color = sample(texture, u, v);
                for (std::size_t c = 0; c < 4; ++c) {
                    color[c] *= (w0 * colors[0][c] + w1 * colors[1][c] + w2 * colors[2][c]) / 255;
                }
                if (color[3] > 0) {
                    blend(x, y, color);
                }
            }
        }
    }
};

} // namespace

std::vector<std::uint8_t> paint_still(const ImDrawData& from, int width, int height) {
    std::vector<std::uint8_t> into(static_cast<std::size_t>(width) * static_cast<std::size_t>(height) * 4, 0);
    for (std::size_t i = 3; i < into.size(); i += 4) {
        into[i] = 255;
    }
    painter onto(into, width);
    for (int i = 0; i < from.CmdListsCount; ++i) {
        const ImDrawList& list = *from.CmdLists[i];
        for (const ImDrawCmd& command : list.CmdBuffer) {
            if (command.UserCallback != nullptr || command.TextureId == nullptr) {
                continue;
            }
            const auto bound = [](float at, int most) {
                return std::clamp(static_cast<int>(std::lround(at)), 0, most);
            };
            const clip_box clip{bound(command.ClipRect.x, width), bound(command.ClipRect.y, height),
                                bound(command.ClipRect.z, width), bound(command.ClipRect.w, height)};
            const auto& texture = *static_cast<const still_texture*>(command.TextureId);
            for (unsigned at = 0; at + 2 < command.ElemCount; at += 3) {
                const auto corner = [&](unsigned k) {
                    const unsigned index = list.IdxBuffer[static_cast<int>(command.IdxOffset + at + k)];
                    return list.VtxBuffer[static_cast<int>(command.VtxOffset + index)];
                };
                onto.triangle({corner(0), corner(1), corner(2)}, clip, texture);
            }
        }
    }
    return into;
}

} // namespace yurvo::app
