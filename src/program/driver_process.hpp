// driver_process: the system's OpenGL driver in a process of its own, with a limit on time and memory:
// whatever a shader does there, the tool lives on.
#pragma once

#include <memory>
#include <string>
#include <string_view>

#include "program/messages.hpp"

namespace yurvo::inline v0_1::program {

// What a block's name ends with in the fragment stage where the vertex stage has another of that name, which
// Vulkan and Direct3D allow and OpenGL does not. A linked program has no such names any more.
inline constexpr std::string_view of_fragment_stage = "_yurvo_of_fragment";
// And a texture's name where it goes with another sampler as well, once for each.
inline constexpr std::string_view combined_again = "_yurvo_again";

// GLSL, as the driver takes it.
struct driver_sources {
    std::string vertex, fragment;
    // The same in the precisions that the source declares, where `vertex` and `fragment` have made them high;
    // else empty.
    std::string vertex_as_written, fragment_as_written;
    int unsized = 64;         // elements of an array in a storage block that has no size
    bool old_dialect = false; // a GLSL from before 1.40, which a core context does not take
};

// How many times a limit is waited: a driver that the thread sanitizer watches takes longer, whatever the
// shader is.
#if defined(__SANITIZE_THREAD__)
inline constexpr double slowed_down = 6;
#else
inline constexpr double slowed_down = 1;
#endif

class driver_process {
    struct parts;
    std::unique_ptr<parts> parts_;

  public:
    // Starts the process, compiles and links. `limit` is in seconds, for this and for each picture. Throws
    // missing_error where there is no EGL or driver on this machine; program_stopped as draw() does.
    driver_process(const driver_sources& sources, double limit);
    ~driver_process();
    driver_process(driver_process&&) noexcept;
    driver_process& operator=(driver_process&&) noexcept;

    [[nodiscard]] const linked_program& linked() const;

    // Throws program_stopped where the process ended or took too long; the next call starts another one.
    draw_answer draw(const draw_request& request);
};

} // namespace yurvo::inline v0_1::program
