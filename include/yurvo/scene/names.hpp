// The words by which files, options and messages call the kinds of things. One table for each, in the order
// of its enum.
#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

template <class Enum> struct names_of;

namespace detail {

/// The names of a list of descriptors.
template <class Descriptor, std::size_t Count>
constexpr std::array<std::string_view, Count> names_in(const std::array<Descriptor, Count>& list) {
    std::array<std::string_view, Count> names;
    for (std::size_t i = 0; i < Count; ++i) {
        names[i] = list[i].name;
    }
    return names;
}

} // namespace detail

template <> struct names_of<light_kind> {
    static constexpr std::array<std::string_view, 3> list{"directional", "point", "spot"};
};
template <> struct names_of<ambient_follows> {
    static constexpr std::array<std::string_view, 3> list{"cone", "distance", "nothing"};
};
template <> struct names_of<falloff_kind> { static constexpr auto list = detail::names_in(falloff_list); };
template <> struct names_of<penumbra_kind> { static constexpr auto list = detail::names_in(penumbra_list); };
template <> struct names_of<model_kind> { static constexpr auto list = detail::names_in(model_list); };
template <> struct names_of<term> { static constexpr auto list = detail::names_in(term_list); };
template <> struct names_of<ambient_rule> {
    static constexpr std::array<std::string_view, 2> list{"add", "max"};
};
template <> struct names_of<rate> {
    static constexpr std::array<std::string_view, 3> list{"face", "vertex", "fragment"};
};
template <> struct names_of<normals_kind> {
    static constexpr std::array<std::string_view, 3> list{"smooth", "flat", "shared"};
};
template <> struct names_of<light_space> {
    static constexpr std::array<std::string_view, 2> list{"world", "view"};
};

template <> struct names_of<field_kind> {
    static constexpr std::array<std::string_view, 5> list{"sphere", "rounded-box", "torus", "capsule",
                                                          "smooth-union"};
};

/// As files and messages call it.
template <class Enum> constexpr std::string_view name_of(Enum value) {
    return names_of<Enum>::list[static_cast<std::size_t>(value)];
}

/// What files and messages call so; nothing where there is none.
template <class Enum> constexpr std::optional<Enum> from_name(std::string_view name) {
    for (std::size_t i = 0; i < names_of<Enum>::list.size(); ++i) {
        if (names_of<Enum>::list[i] == name) {
            return static_cast<Enum>(i);
        }
    }
    return std::nullopt;
}

/// All of them, in the order of the enumeration.
template <class Enum> std::vector<std::string_view> all_names() {
    return {names_of<Enum>::list.begin(), names_of<Enum>::list.end()};
}

/// The shapes, in the order of any_shape.
std::vector<std::string_view> shape_names();
/// As files and messages call it.
std::string_view shape_name(const any_shape& shape);

/// A number with so many significant digits, as short as it can be told.
std::string short_number(double value, int digits);

/// `a, b or c`, for messages.
std::string listed(const std::vector<std::string_view>& names);

/// The one of `known` that `word` was most likely meant to be: fewest letters to change, swap, add or drop.
/// Empty when nothing is near.
std::string_view nearest(std::string_view word, const std::vector<std::string_view>& known);

/// What a word of an earlier version is called now, if that is among `known`; else empty.
std::string_view renamed(std::string_view word, const std::vector<std::string_view>& known);

/// What would be right in the place of an unknown word, for messages: its new name, the nearest known word,
/// or `otherwise`.
std::string instead_of(std::string_view word, const std::vector<std::string_view>& known,
                       const std::string& otherwise);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
