// driver_calls: what the child process asks of OpenGL. Needs a context, and a build with a driver.
#pragma once

#include <string>
#include <vector>

#include "program/driver_child.hpp"
#include "program/messages.hpp"

namespace yurvo::inline v0_1::program {

// The program's name in the driver; 0 where it does not compile or link, which `result` then tells.
unsigned link(const std::string& vertex, const std::string& fragment, linked_program& result);

void list_attributes(unsigned program, linked_program& result);
// Every element of every uniform by its own name.
void list_uniforms(unsigned program, linked_program& result);
// What the fragment stage writes, and what it reads that the vertex stage does not write.
void list_interfaces(unsigned program, const std::string& vertex, const std::string& fragment,
                     linked_program& result);
// Each block is bound to its own index.
void list_blocks(unsigned program, linked_program& result);
// Storage blocks after them, with `unsized` elements of an array that has no size.
void list_storage(unsigned program, int unsized, linked_program& result);
// Of an array of blocks the driver names the members of the first alone: here each has its own,
// `Lamp[1].place`.
void tell_block_arrays_apart(linked_program& result);

// A picture to draw into: 32-bit floats, with depth.
class target {
    unsigned frame_ = 0, color_ = 0, depth_ = 0;
    int width_ = 0, height_ = 0;

  public:
    void resize(int width, int height);
    // The rows from the first that was drawn, four values each pixel.
    [[nodiscard]] std::vector<float> pixels() const;
};

// How coarse the driver's functions are: the greatest relative error of a power, over its exponent, of an
// inverse square root and of a quotient, in units of roundoff, at 2,048 places. A rounding or two is 1.
float measure_precision(target& into);

// By how much its acos, asin and atan are off at the most, in radians, at 2,048 places.
float measure_angles(target& into);

// `blocks` as list_blocks() has listed them.
draw_answer draw(const draw_request& request, unsigned program, const std::vector<active_block>& blocks,
                 target& into);

} // namespace yurvo::inline v0_1::program
