#include "program/driver_child.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <exception>
#include <string>
#include <vector>

#include <dlfcn.h>
#include <fcntl.h>
#include <unistd.h>

#include "program/messages.hpp"

#if defined(YURVO_WITH_DRIVER)
#include <epoxy/egl.h>
#include <epoxy/gl.h>
#endif

namespace yurvo::program {

namespace {

#if defined(YURVO_WITH_DRIVER)

// A context without a window, in the newest OpenGL that the driver has, core; GLSL ES is compiled in it too.
std::string make_context() {
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
                                       EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT,
                                       EGL_NONE};
    EGLContext context = eglCreateContext(display, EGL_NO_CONFIG_KHR, EGL_NO_CONTEXT, wanted.data());
    if (context == EGL_NO_CONTEXT ||
        eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context) == EGL_FALSE) {
        return "it has no OpenGL 4.5";
    }
    return "";
}

std::string log_of_shader(unsigned shader) {
    std::array<char, 8000> log{};
    glGetShaderInfoLog(shader, log.size(), nullptr, log.data());
    return log.data();
}

unsigned compile(unsigned kind, const std::string& source, std::string& failure) {
    const unsigned shader = glCreateShader(kind);
    const char* const text = source.c_str();
    glShaderSource(shader, 1, &text, nullptr);
    glCompileShader(shader);
    int good = 0;
    glGetShaderiv(shader, GL_COMPILE_STATUS, &good);
    if (good == 0) {
        failure = log_of_shader(shader);
        failure = failure.empty() ? "it does not compile" : failure;
    }
    return shader;
}

unsigned link(const std::string& vertex, const std::string& fragment, linked_program& result) {
    const unsigned a = compile(GL_VERTEX_SHADER, vertex, result.failure);
    if (!result.failure.empty()) {
        result.failed_stage = 1;
        return 0;
    }
    const unsigned b = compile(GL_FRAGMENT_SHADER, fragment, result.failure);
    if (!result.failure.empty()) {
        result.failed_stage = 2;
        return 0;
    }
    const unsigned program = glCreateProgram();
    glAttachShader(program, a);
    glAttachShader(program, b);
    glLinkProgram(program);
    int good = 0;
    glGetProgramiv(program, GL_LINK_STATUS, &good);
    if (good == 0) {
        std::array<char, 8000> log{};
        glGetProgramInfoLog(program, log.size(), nullptr, log.data());
        result.failure = log[0] == '\0' ? "the stages do not link" : log.data();
        result.failed_stage = 3;
        return 0;
    }
    return program;
}

void list_attributes(unsigned program, linked_program& result) {
    int count = 0;
    glGetProgramiv(program, GL_ACTIVE_ATTRIBUTES, &count);
    for (unsigned i = 0; i < static_cast<unsigned>(count); ++i) {
        std::array<char, 512> name{};
        int size = 0;
        active_attribute one;
        glGetActiveAttrib(program, i, name.size(), nullptr, &size, &one.type, name.data());
        one.name = name.data();
        one.location = glGetAttribLocation(program, name.data());
        if (!one.name.starts_with("gl_")) {
            result.attributes.push_back(one);
        }
    }
}

// Every element of every uniform by its own name.
void list_uniforms(unsigned program, linked_program& result) {
    int count = 0;
    glGetProgramiv(program, GL_ACTIVE_UNIFORMS, &count);
    for (unsigned i = 0; i < static_cast<unsigned>(count); ++i) {
        std::array<char, 512> text{};
        int size = 0;
        active_uniform one;
        glGetActiveUniform(program, i, text.size(), nullptr, &size, &one.type, text.data());
        const auto ask = [&](unsigned what) {
            int value = 0;
            glGetActiveUniformsiv(program, 1, &i, what, &value);
            return value;
        };
        one.block = ask(GL_UNIFORM_BLOCK_INDEX);
        one.offset = ask(GL_UNIFORM_OFFSET);
        one.matrix_stride = ask(GL_UNIFORM_MATRIX_STRIDE);
        one.array_stride = ask(GL_UNIFORM_ARRAY_STRIDE);
        one.row_major = ask(GL_UNIFORM_IS_ROW_MAJOR) != 0 ? 1 : 0;
        std::string name = text.data();
        if (name.starts_with("gl_")) {
            continue;
        }
        const bool array = name.ends_with("[0]");
        const std::string base = array ? name.substr(0, name.size() - 3) : name;
        for (int k = 0; k < size; ++k) {
            active_uniform element = one;
            element.name = array ? base + "[" + std::to_string(k) + "]" : name;
            element.offset = one.offset + k * one.array_stride;
            element.location = one.block < 0 ? glGetUniformLocation(program, element.name.c_str()) : -1;
            result.uniforms.push_back(element);
        }
    }
}

void list_blocks(unsigned program, linked_program& result) {
    int count = 0;
    glGetProgramiv(program, GL_ACTIVE_UNIFORM_BLOCKS, &count);
    for (unsigned i = 0; i < static_cast<unsigned>(count); ++i) {
        std::array<char, 512> name{};
        active_block one;
        glGetActiveUniformBlockName(program, i, name.size(), nullptr, name.data());
        glGetActiveUniformBlockiv(program, i, GL_UNIFORM_BLOCK_DATA_SIZE, &one.size);
        one.name = name.data();
        result.blocks.push_back(one);
        glUniformBlockBinding(program, i, i);
    }
}

// A picture to draw into: 32-bit floats, with depth.
class target {
    unsigned frame_ = 0, color_ = 0, depth_ = 0;
    int width_ = 0, height_ = 0;

  public:
    void resize(int width, int height) {
        if (width == width_ && height == height_) {
            return;
        }
        if (frame_ == 0) {
            glGenFramebuffers(1, &frame_);
            glGenRenderbuffers(1, &color_);
            glGenRenderbuffers(1, &depth_);
        }
        width_ = width;
        height_ = height;
        glBindRenderbuffer(GL_RENDERBUFFER, color_);
        glRenderbufferStorage(GL_RENDERBUFFER, GL_RGBA32F, width, height);
        glBindRenderbuffer(GL_RENDERBUFFER, depth_);
        glRenderbufferStorage(GL_RENDERBUFFER, GL_DEPTH_COMPONENT32F, width, height);
        glBindFramebuffer(GL_FRAMEBUFFER, frame_);
        glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, color_);
        glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_RENDERBUFFER, depth_);
        glViewport(0, 0, width, height);
    }
    [[nodiscard]] std::vector<float> pixels() const {
        std::vector<float> made(4 * static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_));
        glReadPixels(0, 0, width_, height_, GL_RGBA, GL_FLOAT, made.data());
        return made;
    }
};

// How coarse the driver's functions are: the greatest relative error of a power, over its exponent, of an
// inverse square root and of a quotient, in units of roundoff, at 2,048 places. A rounding or two is 1.
float measure_precision(target& into) {
    static const char* const vertex = R"(#version 450
void main() { gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0); }
)";
    static const char* const fragment = R"(#version 450
layout(location = 0) out vec4 c;
void main() {
    float x = gl_FragCoord.x / 256.0;
    float s = exp2(floor(gl_FragCoord.y));
    c = vec4(pow(x, s), inversesqrt(x * 8.0), 1.0 / (x * 4.0 + s), pow(x, 1.0 / 2.4));
}
)";
    linked_program ignored;
    const unsigned program = link(vertex, fragment, ignored);
    if (program == 0) {
        return 1;
    }
    into.resize(256, 8);
    glUseProgram(program);
    glDisable(GL_DEPTH_TEST);
    glDrawArrays(GL_TRIANGLES, 0, 3);
    const std::vector<float> found = into.pixels();
    constexpr double unit_roundoff = 0x1p-24;
    double most = 1;
    for (int j = 0; j < 8; ++j) {
        for (int i = 0; i < 256; ++i) {
            const double x = (i + 0.5) / 256;
            const double s = std::exp2(j);
            const auto* const at = &found[4 * static_cast<std::size_t>(256 * j + i)];
            const auto add = [&](float got, double right, double roundings) {
                if (right > 1e-30) {
                    most = std::max(most, std::abs(static_cast<double>(got) - right) / right /
                                              (roundings * unit_roundoff));
                }
            };
            // A power of x rounds its logarithm, which the exponent multiplies, and itself.
            add(at[0], std::pow(x, s), s * std::max(1.0, -std::log(x)) + 2);
            add(at[1], 1 / std::sqrt(x * 8), 2);
            add(at[2], 1 / (x * 4 + s), 2);
            add(at[3], std::pow(x, 1 / 2.4), std::max(1.0, -std::log(x)) + 2);
        }
    }
    glDeleteProgram(program);
    return static_cast<float>(most);
}

void set_uniform(const uniform_value& one) {
    const float* const f = one.values.data();
    std::array<int, 4> ints{};
    for (std::size_t i = 0; i < 4 && i < one.values.size(); ++i) {
        ints[i] = static_cast<int>(std::lround(f[i]));
    }
    const auto* const u = reinterpret_cast<const unsigned*>(ints.data());
    switch (one.type) {
    case GL_FLOAT:
        glUniform1fv(one.location, 1, f);
        break;
    case GL_FLOAT_VEC2:
        glUniform2fv(one.location, 1, f);
        break;
    case GL_FLOAT_VEC3:
        glUniform3fv(one.location, 1, f);
        break;
    case GL_FLOAT_VEC4:
        glUniform4fv(one.location, 1, f);
        break;
    case GL_FLOAT_MAT2:
        glUniformMatrix2fv(one.location, 1, GL_FALSE, f);
        break;
    case GL_FLOAT_MAT3:
        glUniformMatrix3fv(one.location, 1, GL_FALSE, f);
        break;
    case GL_FLOAT_MAT4:
        glUniformMatrix4fv(one.location, 1, GL_FALSE, f);
        break;
    case GL_INT:
    case GL_BOOL:
        glUniform1iv(one.location, 1, ints.data());
        break;
    case GL_INT_VEC2:
    case GL_BOOL_VEC2:
        glUniform2iv(one.location, 1, ints.data());
        break;
    case GL_INT_VEC3:
    case GL_BOOL_VEC3:
        glUniform3iv(one.location, 1, ints.data());
        break;
    case GL_INT_VEC4:
    case GL_BOOL_VEC4:
        glUniform4iv(one.location, 1, ints.data());
        break;
    case GL_UNSIGNED_INT:
        glUniform1uiv(one.location, 1, u);
        break;
    case GL_UNSIGNED_INT_VEC2:
        glUniform2uiv(one.location, 1, u);
        break;
    case GL_UNSIGNED_INT_VEC3:
        glUniform3uiv(one.location, 1, u);
        break;
    case GL_UNSIGNED_INT_VEC4:
        glUniform4uiv(one.location, 1, u);
        break;
    default:
        break;
    }
}

std::vector<unsigned> make_textures(const std::vector<texture_values>& given) {
    std::vector<unsigned> made(given.size());
    glGenTextures(static_cast<int>(made.size()), made.data());
    for (std::size_t i = 0; i < given.size(); ++i) {
        glBindTexture(GL_TEXTURE_2D, made[i]);
        glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
        glTexImage2D(GL_TEXTURE_2D, 0, GL_RGB32F, given[i].width, given[i].height, 0, GL_RGB, GL_FLOAT,
                     given[i].values.data());
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_LINEAR);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_S, GL_REPEAT);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_T, GL_REPEAT);
    }
    return made;
}

void draw_object(const object_request& one, const std::vector<unsigned>& textures, bool vulkan) {
    // Facing: counter-clockwise in the world, whichever way the clip space turns y and the matrix mirrors.
    glFrontFace((one.mirrored != 0) != vulkan ? GL_CW : GL_CCW);
    std::vector<unsigned> buffers(one.attributes.size());
    glGenBuffers(static_cast<int>(buffers.size()), buffers.data());
    for (std::size_t i = 0; i < buffers.size(); ++i) {
        const attribute_values& values = one.attributes[i];
        glBindBuffer(GL_ARRAY_BUFFER, buffers[i]);
        glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(values.values.size() * sizeof(float)),
                     values.values.data(), GL_STREAM_DRAW);
        const auto location = static_cast<unsigned>(values.location);
        glVertexAttribPointer(location, values.components, GL_FLOAT, GL_FALSE, 0, nullptr);
        glEnableVertexAttribArray(location);
    }
    for (const uniform_value& value : one.uniforms) {
        set_uniform(value);
    }
    std::vector<unsigned> blocks(one.blocks.size());
    glGenBuffers(static_cast<int>(blocks.size()), blocks.data());
    for (std::size_t i = 0; i < blocks.size(); ++i) {
        glBindBuffer(GL_UNIFORM_BUFFER, blocks[i]);
        glBufferData(GL_UNIFORM_BUFFER, static_cast<GLsizeiptr>(one.blocks[i].size()), one.blocks[i].data(),
                     GL_STREAM_DRAW);
        glBindBufferBase(GL_UNIFORM_BUFFER, static_cast<unsigned>(i), blocks[i]);
    }
    for (std::size_t i = 0; i < one.samplers.size(); ++i) {
        glActiveTexture(static_cast<unsigned>(GL_TEXTURE0 + i));
        glBindTexture(GL_TEXTURE_2D, textures[static_cast<std::size_t>(one.textures[i])]);
        glUniform1i(one.samplers[i], static_cast<int>(i));
    }
    glDrawArrays(GL_TRIANGLES, 0, one.corners);
    for (const attribute_values& values : one.attributes) {
        glDisableVertexAttribArray(static_cast<unsigned>(values.location));
    }
    glDeleteBuffers(static_cast<int>(buffers.size()), buffers.data());
    glDeleteBuffers(static_cast<int>(blocks.size()), blocks.data());
}

draw_answer draw(const draw_request& asked, unsigned program, target& into) {
    draw_answer answer;
    into.resize(asked.width, asked.height);
    if (glCheckFramebufferStatus(GL_FRAMEBUFFER) != GL_FRAMEBUFFER_COMPLETE) {
        answer.failure = "the driver has no picture of floats of that size";
        return answer;
    }
    // The top row comes first either way: Vulkan's clip space has y downwards already.
    glClipControl(asked.vulkan_clip != 0 ? GL_LOWER_LEFT : GL_UPPER_LEFT,
                  asked.vulkan_clip != 0 ? GL_ZERO_TO_ONE : GL_NEGATIVE_ONE_TO_ONE);
    glDisable(GL_BLEND);
    glDisable(GL_DITHER);
    glDisable(GL_CULL_FACE);
    glDisable(GL_FRAMEBUFFER_SRGB);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LESS);
    glDepthMask(GL_TRUE);
    glClearColor(asked.background[0], asked.background[1], asked.background[2], asked.background[3]);
    glClearDepth(1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    glUseProgram(program);
    const std::vector<unsigned> textures = make_textures(asked.textures);
    for (const object_request& one : asked.objects) {
        draw_object(one, textures, asked.vulkan_clip != 0);
    }
    glDeleteTextures(static_cast<int>(textures.size()), textures.data());
    answer.values = into.pixels();
    if (const unsigned wrong = glGetError(); wrong != GL_NO_ERROR) {
        answer.failure = wrong == GL_OUT_OF_MEMORY
                             ? "the driver ran out of memory"
                             : "the driver refused to draw (its error " + std::to_string(wrong) + ")";
    }
    return answer;
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
#if defined(YURVO_WITH_DRIVER)
    unsigned program = 0;
    target into;
    result.failure = make_context();
    if (!result.failure.empty()) {
        result.failed_stage = 4;
    } else {
        unsigned arrays = 0;
        glGenVertexArrays(1, &arrays);
        glBindVertexArray(arrays);
        result.driver = std::string(reinterpret_cast<const char*>(glGetString(GL_RENDERER)));
        glGetIntegerv(GL_SUBPIXEL_BITS, &result.subpixel_bits);
        program = link(vertex, fragment, result);
        if (program != 0) {
            list_attributes(program, result);
            list_uniforms(program, result);
            list_blocks(program, result);
            result.precision = measure_precision(into);
        }
    }
    writer linked;
    linked.put(result);
    answer(socket, linked);
    while (true) {
        const std::vector<std::uint8_t> bytes = next_request(socket);
        reader request(bytes);
        draw_request asked;
        request.get(asked);
        writer drawn;
        drawn.put(draw(asked, program, into));
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
    // A driver may print; the tool's output is the tool's.
    const int nothing = ::open("/dev/null", O_RDWR | O_CLOEXEC);
    if (nothing >= 0) {
        ::dup2(nothing, STDIN_FILENO);
        ::dup2(nothing, STDOUT_FILENO);
        ::dup2(nothing, STDERR_FILENO);
    }
    try {
        serve(socket);
    } catch (const std::exception&) {
        ::_exit(3);
    }
    ::_exit(0);
}

} // namespace yurvo::program
