// light_block: lights as bytes in a uniform block: where alignment puts what.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "yurvo/scene/names.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// std140 and std430 as OpenGL 4.6, section 7.6.2.2, has them; packed is a C++ structure of floats and ints.
enum class block_layout : std::uint8_t { std140, std430, packed };

template <> struct names_of<block_layout> {
    static constexpr std::array<std::string_view, 3> list{"std140", "std430", "packed"};
};

/// A member of the structure of one light.
struct packed_member {
    std::string name;   ///< a property of a light, `position`
    std::string type;   ///< vec3, float, int
    int components = 1; ///< numbers in it
    int offset = 0;     ///< bytes, in the structure
    int size = 0;       ///< bytes
    int padding = 0;    ///< bytes left empty after it
};

/// Lights as they lie in a buffer.
struct packed_lights {
    block_layout layout = block_layout::std140; ///< the rules of alignment
    std::vector<packed_member> members;         ///< in order
    int stride = 0;                             ///< from one light to the next
    int count_offset = 0;                       ///< of the number of lights, an int after the array
    int size = 0;                               ///< of the whole block
    std::vector<std::uint8_t> bytes;            ///< the buffer
};

/// The properties that a light's structure holds where nothing else is asked for.
const std::vector<std::string>& usual_light_members();

/// The lights of a scene, in world space, `room` of them at least, then their number. Throws yurvo::error for
/// a member that is no property of a light.
packed_lights pack_lights(const scene& the_scene, const std::vector<std::string>& members,
                          block_layout layout, std::size_t room);

/// A C++ header with a structure that has these members at these offsets, and asserts that it does.
std::string header_of(const packed_lights& packed);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
