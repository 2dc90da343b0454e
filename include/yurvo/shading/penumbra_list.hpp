// penumbra_list: the penumbras, one descriptor each. The reader, the writer, ranges, messages, curves,
// starters and what shader programs are fitted to follow from it; the equations are in penumbra.hpp.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// In the order of penumbra_list, which is that of their numbers in shader programs.
enum class penumbra_kind : std::uint8_t { hard, ramp, squared, smooth, power };

/// A penumbra: its name, its parameters and its equation in words.
struct penumbra_descriptor {
    penumbra_kind kind{};  ///< which
    std::string_view name; ///< in files and messages
    /// In words, of the angle: {cosine}, {inner}, {outer} are cosines, {exponent} the light's number, and t
    /// the place between inner and outer, where the penumbra is ramped.
    std::string_view law;
    std::string_view shader; ///< a float of `t`, or of `c` = cos θ and `lamp`, in the shading languages
    bool ramped = false;     ///< it runs from `inner` to `outer`; without room between them it is hard
    bool exponent = false;   ///< it uses `exponent`
    double most_outer = 180; ///< degrees
};

/// The penumbras, in the order of the enum.
inline constexpr std::array penumbra_list{
    penumbra_descriptor{.kind = penumbra_kind::hard,
                        .name = "hard",
                        .law = "hard: cos θ = {cosine} against cos outer = {outer}",
                        .shader = "c >= lamp.cos_outer ? 1.0 : 0.0"},
    penumbra_descriptor{
        .kind = penumbra_kind::ramp, .name = "ramp", .law = "t", .shader = "t", .ramped = true},
    penumbra_descriptor{
        .kind = penumbra_kind::squared, .name = "squared", .law = "t²", .shader = "t * t", .ramped = true},
    penumbra_descriptor{.kind = penumbra_kind::smooth,
                        .name = "smooth",
                        .law = "t²(3 − 2t)",
                        .shader = "t * t * (3.0 - 2.0 * t)",
                        .ramped = true},
    penumbra_descriptor{.kind = penumbra_kind::power,
                        .name = "power",
                        .law = "{cosine}^{exponent} where cos θ ≥ {outer}",
                        .shader = "c >= lamp.cos_outer ? pow(max(c, 0.0), lamp.exponent) : 0.0",
                        .exponent = true,
                        .most_outer = 90},
};
/// How many there are.
inline constexpr std::size_t penumbra_count = penumbra_list.size();

/// Of that penumbra.
constexpr const penumbra_descriptor& descriptor_of(penumbra_kind kind) {
    return penumbra_list[static_cast<std::size_t>(kind)];
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
