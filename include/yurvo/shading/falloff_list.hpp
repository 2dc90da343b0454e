// falloff_list: the falloffs, one descriptor each. The reader, the writer, ranges, messages, curves, starters
// and what shader programs are fitted to follow from it; the equations are in falloff.hpp.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// In the order of falloff_list, which is that of their numbers in shader programs.
enum class falloff_kind : std::uint8_t { none, inverse_square, polynomial, linear, windowed };

/// A falloff: its name, its parameters and its equation in words.
struct falloff_descriptor {
    falloff_kind kind{};   ///< which
    std::string_view name; ///< in files and messages
    /// In words, of the distance {d}: {k0}, {k1}, {k2} and {range} stand for the light's numbers.
    std::string_view law;
    std::string_view shader;   ///< a float of `lamp` and `d`, in the shading languages
    bool coefficients = false; ///< it uses `coefficients`
    bool range = false;        ///< it uses `range`
    bool ends = false;         ///< it is 0 from `range` on
    /// A polynomial of the distance, in coefficients that a shader can be given: k0, k1, k2.
    bool as_coefficients = false;
    std::array<double, 3> fixed_coefficients{1, 0, 0}; ///< those, where the light has none of its own
};

/// The falloffs, in the order of the enum.
inline constexpr std::array falloff_list{
    falloff_descriptor{
        .kind = falloff_kind::none, .name = "none", .law = "1", .shader = "1.0", .as_coefficients = true},
    falloff_descriptor{.kind = falloff_kind::inverse_square,
                       .name = "inverse-square",
                       .law = "1 / {d}²",
                       .shader = "1.0 / (d * d)",
                       .as_coefficients = true,
                       .fixed_coefficients = {0, 0, 1}},
    falloff_descriptor{
        .kind = falloff_kind::polynomial,
        .name = "polynomial",
        .law = "1 / ({k0} + {k1}·{d} + {k2}·{d}²)",
        .shader = "1.0 / (lamp.coefficients.x + lamp.coefficients.y * d + lamp.coefficients.z * d * d)",
        .coefficients = true,
        .as_coefficients = true},
    falloff_descriptor{.kind = falloff_kind::linear,
                       .name = "linear",
                       .law = "max(0, 1 − {d} / {range})",
                       .shader = "max(0.0, 1.0 - d / lamp.range)",
                       .range = true,
                       .ends = true},
    falloff_descriptor{.kind = falloff_kind::windowed,
                       .name = "windowed",
                       .law = "clamp(1 − ({d} / {range})⁴, 0, 1) / {d}²",
                       .shader = "clamp(1.0 - (d / lamp.range) * (d / lamp.range) * (d / lamp.range) * (d / "
                                 "lamp.range), 0.0, 1.0) / (d * d)",
                       .range = true,
                       .ends = true},
};
/// How many there are.
inline constexpr std::size_t falloff_count = falloff_list.size();

/// Of that falloff.
constexpr const falloff_descriptor& descriptor_of(falloff_kind kind) {
    return falloff_list[static_cast<std::size_t>(kind)];
}

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
