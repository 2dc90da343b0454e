#include "program/driver_child.hpp"

#include <array>
#include <cstdlib>
#include <exception>
#include <string>
#include <vector>

#include <dlfcn.h>
#include <unistd.h>

#include "program/driver_calls.hpp"
#include "program/driver_prison.hpp"
#include "program/driver_transfer.hpp"
#include "program/messages.hpp"
#include "program/source_text.hpp"

#if defined(YURVO_WITH_DRIVER)
#include <epoxy/egl.h>
#include <epoxy/gl.h>
#endif

namespace yurvo::inline v0_1::program {

namespace {

#if defined(YURVO_WITH_DRIVER)

// A context without a window, in the newest OpenGL that the driver has, core unless the dialect is older than
// that; GLSL ES is compiled in it too.
std::string make_context(bool old_dialect) {
    // Asked by hand at first: where there is no EGL or no driver behind it, the loader would end the process.
    void* const library = ::dlopen("libEGL.so.1", RTLD_NOW);
    if (library == nullptr) {
        return "EGL is not installed";
    }
    using get_display = EGLDisplay (*)(EGLenum, void*, const EGLAttrib*);
    const auto get = reinterpret_cast<get_display>(::dlsym(library, "eglGetPlatformDisplay"));
    EGLDisplay display =
        get == nullptr ? EGL_NO_DISPLAY : get(EGL_PLATFORM_SURFACELESS_MESA, EGL_DEFAULT_DISPLAY, nullptr);
    if (display == EGL_NO_DISPLAY || eglInitialize(display, nullptr, nullptr) == EGL_FALSE) {
        return "there is no EGL display without a window";
    }
    eglBindAPI(EGL_OPENGL_API);
    const std::array<EGLint, 7> wanted{EGL_CONTEXT_MAJOR_VERSION,
                                       4,
                                       EGL_CONTEXT_MINOR_VERSION,
                                       5,
                                       EGL_CONTEXT_OPENGL_PROFILE_MASK,
                                       old_dialect ? EGL_CONTEXT_OPENGL_COMPATIBILITY_PROFILE_BIT
                                                   : EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT,
                                       EGL_NONE};
    EGLContext context = eglCreateContext(display, EGL_NO_CONFIG_KHR, EGL_NO_CONTEXT, wanted.data());
    if (context == EGL_NO_CONTEXT ||
        eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context) == EGL_FALSE) {
        return "it has no OpenGL 4.5";
    }
    return "";
}

#endif

void answer(int socket, const writer& from) {
    const std::uint64_t size = from.bytes.size();
    if (!send_message(socket, &size, sizeof size) || !send_message(socket, from.bytes.data(), size)) {
        ::_exit(0);
    }
}

std::vector<std::uint8_t> next_request(int socket) {
    std::uint64_t size = 0;
    if (!receive_message(socket, &size, sizeof size)) {
        ::_exit(0);
    }
    std::vector<std::uint8_t> bytes(static_cast<std::size_t>(size));
    if (!receive_message(socket, bytes.data(), bytes.size())) {
        ::_exit(0);
    }
    return bytes;
}

void serve(int socket) {
    linked_program result;
    const std::vector<std::uint8_t> first = next_request(socket);
    reader from(first);
    std::string vertex;
    std::string fragment;
    from.get(vertex);
    from.get(fragment);
    std::string vertex_as_written;
    std::string fragment_as_written;
    bool old_dialect = false;
    from.get(vertex_as_written);
    from.get(fragment_as_written);
    from.get(old_dialect);
    int unsized = 0;
    from.get(unsized);
#if defined(YURVO_WITH_DRIVER)
    unsigned program = 0;
    target into;
    unsigned as_written = 0;
    result.confined = confine_before_driver();
    result.failure = make_context(old_dialect);
    if (!result.failure.empty()) {
        result.failed_stage = 4;
    } else {
        unsigned arrays = 0;
        glGenVertexArrays(1, &arrays);
        glBindVertexArray(arrays);
        result.driver = std::string(reinterpret_cast<const char*>(glGetString(GL_RENDERER)));
        glGetIntegerv(GL_SUBPIXEL_BITS, &result.subpixel_bits);
        // A picture of our own first: the driver then has loaded all that it needs.
        result.precision = measure_precision(into);
        if (asks_for_angles(vertex) || asks_for_angles(fragment)) {
            result.angle = measure_angles(into);
        }
        result.confined |= confine_before_shader();
        program = link(vertex, fragment, result);
        if (program != 0) {
            list_attributes(program, result);
            list_uniforms(program, result);
            list_blocks(program, result);
            list_storage(program, unsized, result);
            tell_block_arrays_apart(result);
            list_interfaces(program, vertex, fragment, result);
            if (!vertex_as_written.empty()) {
                linked_program other;
                as_written = link(vertex_as_written, fragment_as_written, other);
                result.other_precisions = as_written != 0 ? 1 : 0;
                if (as_written == 0) { // what making it precise has added may not mend it
                    result.failure = other.failure;
                    result.failed_stage = other.failed_stage;
                    result.failed_as_written = 1;
                }
            }
        }
    }
    writer linked;
    linked.put(result);
    answer(socket, linked);
    while (true) {
        const std::vector<std::uint8_t> bytes = next_request(socket);
        reader request(bytes);
        draw_request wanted;
        request.get(wanted);
        writer drawn;
        drawn.put(draw(wanted, wanted.as_written != 0 && as_written != 0 ? as_written : program,
                       result.blocks, into));
        answer(socket, drawn);
    }
#else
    result.failure = "this build was made without EGL";
    result.failed_stage = 4;
    writer linked;
    linked.put(result);
    answer(socket, linked);
#endif
}

} // namespace

void serve_driver(int socket) {
    try {
        serve(socket);
    } catch (const std::exception&) {
        ::_exit(3);
    }
    ::_exit(0);
}

} // namespace yurvo::inline v0_1::program
