// show: what lighting is made of, instead of the light.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <string_view>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/renderer.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// What is shown in the place of the lit colour.
enum class shown_part : std::uint8_t { normals, cosine, depth, overflow };

/// A picture of something other than the lit colour.
struct shown {
    shown_part what{};                ///< what it shows
    picture drawn;                    ///< linear
    encoding how = encoding::srgb;    ///< how it is to be written: the codes of normals are the numbers
    draw_statistics statistics;       ///< of its frame
    std::string light;                ///< of the cosine
    bool for_the_eye = false;         ///< depths are greys, not metres
    double nearest = 0, farthest = 0; ///< metres, where depths are greys
    std::size_t overflowing = 0;      ///< pixels with a component above 1
};

/// What is to be shown.
struct show_settings {
    shown_part what{};        ///< which
    std::string light;        ///< of the cosine: the light's name; the first where it is empty
    term_choice terms;        ///< of the overflow
    bool for_the_eye = false; ///< depths as greys: the nearest white
};

/// All but the overflow is what a model is given, whatever it makes of it; the overflow is the renderer's.
/// Throws yurvo::error where there is no such light.
shown show(const scene& the_scene, const renderer& by, const show_settings& settings);

} // namespace yurvo::inline v0_1::study

/// As commands name them.
template <> struct yurvo::names_of<yurvo::study::shown_part> {
    static constexpr std::array<std::string_view, 4> list{"normals", "cosine", "depth",
                                                          "overflow"}; ///< in its order
};
#pragma GCC visibility pop
