// Draws the measured scenes with the pipeline and with the system's OpenGL driver, in turn, off screen into
// 32-bit floats; checks that both pictures agree; prints medians and ratios from this one run.
#include <cmath>
#include <cstdio>
#include <stdexcept>
#include <string>
#include <vector>

#include <epoxy/egl.h>
#include <epoxy/gl.h>

#include "measuring.hpp"
#include "pipeline/frame.hpp"
#include "pipeline/stage.hpp"
#include "scenes.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/draw.hpp"

using namespace yurvo;

namespace {

constexpr int frames = 15;
constexpr int most_lights = 16;

// The same equations as shading/, by their definitions in section 4 of the design: cosines, not versines. Lit
// in one of the two stages; `tinted` is what a texture multiplies.
const char* const lighting_source = R"(
struct lamp { vec4 place; vec4 shines; vec4 light; vec4 cone; }; // place.w: kind; light.w: range; cone: cosines
layout(std140, binding = 0) uniform lamps { lamp all[16]; };
layout(location = 1) uniform int count;
layout(location = 2) uniform vec3 eye;
layout(location = 4) uniform vec3 ambient;
layout(location = 5) uniform vec4 specular; // w: shininess
void light_point(vec3 p, vec3 n, out vec3 tinted, out vec3 untinted) {
    vec3 unit = normalize(n);
    vec3 v = normalize(eye - p);
    vec3 d = vec3(0.0);
    vec3 s = vec3(0.0);
    for (int i = 0; i < count; ++i) {
        lamp one = all[i];
        int kind = int(one.place.w);
        vec3 l = -one.shines.xyz;
        float factor = 1.0;
        if (kind != 1) {
            vec3 whole = one.place.xyz - p;
            float squared = dot(whole, whole);
            float far = sqrt(squared);
            l = whole / far;
            factor = 1.0 / squared;
            if (kind == 3) {
                float q = far / one.light.w;
                factor *= clamp(1.0 - q * q * q * q, 0.0, 1.0);
            }
            if (kind == 2) {
                float t = clamp((dot(-l, one.shines.xyz) - one.cone.y) / (one.cone.x - one.cone.y), 0.0, 1.0);
                factor *= t * t * (3.0 - 2.0 * t);
            }
        }
        float facing = dot(unit, l);
        vec3 light = one.light.rgb * factor;
        d += light * max(facing, 0.0);
        if (facing > 0.0) {
            s += light * pow(max(dot(unit, normalize(l + v)), 0.0), specular.w);
        }
    }
    tinted = ambient + d;
    untinted = s * specular.rgb;
}
)";

const char* const vertex_inputs = R"(
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
#ifdef TEXTURED
layout(location = 2) in vec2 texcoord;
out vec2 uv;
#endif
layout(location = 0) uniform mat4 world_to_clip;
layout(location = 3) uniform vec3 base;
)";
const char* const fragment_inputs = R"(
#ifdef TEXTURED
layout(binding = 0) uniform sampler2D planks; // decoded
in vec2 uv;
#endif
layout(location = 3) uniform vec3 base;
out vec4 color;
)";

const char* const vertex_of_fragment_rate = R"(
out vec3 p;
out vec3 n;
void main() {
    p = position;
    n = normal;
#ifdef TEXTURED
    uv = texcoord;
#endif
    gl_Position = world_to_clip * vec4(position, 1.0);
}
)";
const char* const fragment_of_fragment_rate = R"(
in vec3 p;
in vec3 n;
void main() {
    vec3 tinted, untinted;
    light_point(p, n, tinted, untinted);
    vec3 surface = base;
#ifdef TEXTURED
    surface *= texture(planks, uv).rgb;
#endif
    color = vec4(tinted * surface + untinted, 1.0);
}
)";
const char* const vertex_of_vertex_rate = R"(
out vec3 lit;
#ifdef TEXTURED
out vec3 highlight;
#endif
void main() {
    vec3 tinted, untinted;
    light_point(position, normal, tinted, untinted);
#ifdef TEXTURED
    uv = texcoord;
    lit = tinted * base;
    highlight = untinted;
#else
    lit = tinted * base + untinted;
#endif
    gl_Position = world_to_clip * vec4(position, 1.0);
}
)";
const char* const fragment_of_vertex_rate = R"(
in vec3 lit;
#ifdef TEXTURED
in vec3 highlight;
#endif
void main() {
#ifdef TEXTURED
    color = vec4(lit * texture(planks, uv).rgb + highlight, 1.0);
#else
    color = vec4(lit, 1.0);
#endif
}
)";

[[noreturn]] void fail(const std::string& what) { throw std::runtime_error(what); }

unsigned compile(unsigned kind, const std::string& source) {
    const unsigned shader = glCreateShader(kind);
    const char* const text = source.c_str();
    glShaderSource(shader, 1, &text, nullptr);
    glCompileShader(shader);
    int good = 0;
    glGetShaderiv(shader, GL_COMPILE_STATUS, &good);
    if (good == 0) {
        std::array<char, 2000> log{};
        glGetShaderInfoLog(shader, log.size(), nullptr, log.data());
        fail(log.data());
    }
    return shader;
}

unsigned link(rate at, bool textured) {
    const std::string head = std::string("#version 450\n") + (textured ? "#define TEXTURED\n" : "");
    const bool vertex = at == rate::vertex;
    const unsigned program = glCreateProgram();
    glAttachShader(program,
                   compile(GL_VERTEX_SHADER, head + vertex_inputs + (vertex ? lighting_source : "") +
                                                 (vertex ? vertex_of_vertex_rate : vertex_of_fragment_rate)));
    glAttachShader(program, compile(GL_FRAGMENT_SHADER,
                                    head + fragment_inputs + (vertex ? "" : lighting_source) +
                                        (vertex ? fragment_of_vertex_rate : fragment_of_fragment_rate)));
    glLinkProgram(program);
    int good = 0;
    glGetProgramiv(program, GL_LINK_STATUS, &good);
    if (good == 0) {
        fail("a program does not link");
    }
    return program;
}

// The driver, without a window, with a float picture to draw into.
class driver {
    unsigned frame_ = 0;
    int width_, height_;

  public:
    driver(int width, int height) : width_(width), height_(height) {
        const EGLDisplay display =
            eglGetPlatformDisplayEXT(EGL_PLATFORM_SURFACELESS_MESA, EGL_DEFAULT_DISPLAY, nullptr);
        if (display == EGL_NO_DISPLAY || eglInitialize(display, nullptr, nullptr) == EGL_FALSE) {
            fail("no EGL display");
        }
        eglBindAPI(EGL_OPENGL_API);
        const std::array<EGLint, 7> wanted{EGL_CONTEXT_MAJOR_VERSION,
                                           4,
                                           EGL_CONTEXT_MINOR_VERSION,
                                           5,
                                           EGL_CONTEXT_OPENGL_PROFILE_MASK,
                                           EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT,
                                           EGL_NONE};
        const EGLContext context =
            eglCreateContext(display, EGL_NO_CONFIG_KHR, EGL_NO_CONTEXT, wanted.data());
        if (context == EGL_NO_CONTEXT ||
            eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context) == EGL_FALSE) {
            fail("no OpenGL 4.5 context");
        }
        unsigned color = 0;
        unsigned depth = 0;
        glGenRenderbuffers(1, &color);
        glBindRenderbuffer(GL_RENDERBUFFER, color);
        glRenderbufferStorage(GL_RENDERBUFFER, GL_RGBA32F, width, height);
        glGenRenderbuffers(1, &depth);
        glBindRenderbuffer(GL_RENDERBUFFER, depth);
        glRenderbufferStorage(GL_RENDERBUFFER, GL_DEPTH_COMPONENT32F, width, height);
        glGenFramebuffers(1, &frame_);
        glBindFramebuffer(GL_FRAMEBUFFER, frame_);
        glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, color);
        glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_RENDERBUFFER, depth);
        glViewport(0, 0, width, height);
        glClipControl(GL_UPPER_LEFT, GL_NEGATIVE_ONE_TO_ONE);
        glEnable(GL_DEPTH_TEST);
        // At its best: faces that cannot be seen are not drawn.
        glEnable(GL_CULL_FACE);
        glFrontFace(GL_CCW);
        std::printf("driver: %s\n", reinterpret_cast<const char*>(glGetString(GL_RENDERER))); // NOLINT
    }

    // Vertices and indices of one scene, kept by the driver.
    struct uploaded {
        unsigned vertices = 0;
        int indices = 0;
        std::array<unsigned, 2> buffers{};
    };
    static void forget(const uploaded& one) {
        glDeleteBuffers(2, one.buffers.data());
        glDeleteVertexArrays(1, &one.vertices);
    }

    static uploaded upload(const pipeline::stage& staged) {
        const mesh& shape = *staged.objects[0].shape;
        std::vector<float> data;
        data.reserve(8 * shape.positions.size());
        for (std::size_t i = 0; i < shape.positions.size(); ++i) {
            for (const vec3<double>& v : {shape.positions[i], shape.normals[i]}) {
                data.insert(data.end(),
                            {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)});
            }
            data.insert(data.end(),
                        {static_cast<float>(shape.texcoords[i].u), static_cast<float>(shape.texcoords[i].v)});
        }
        uploaded made;
        glGenVertexArrays(1, &made.vertices);
        glBindVertexArray(made.vertices);
        std::array<unsigned, 2>& buffers = made.buffers;
        glGenBuffers(2, buffers.data());
        glBindBuffer(GL_ARRAY_BUFFER, buffers[0]);
        glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(4 * data.size()), data.data(), GL_STATIC_DRAW);
        glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, buffers[1]);
        glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(12 * shape.triangles.size()),
                     shape.triangles.data(), GL_STATIC_DRAW);
        for (unsigned attribute = 0; attribute < 3; ++attribute) {
            glEnableVertexAttribArray(attribute);
            glVertexAttribPointer(attribute, attribute == 2 ? 2 : 3, GL_FLOAT, GL_FALSE, 32,
                                  reinterpret_cast<const void*>(std::size_t{12} * attribute)); // NOLINT
        }
        made.indices = static_cast<int>(3 * shape.triangles.size());
        return made;
    }

    static void set_texture(const texture& image) {
        unsigned name = 0;
        glGenTextures(1, &name);
        glBindTexture(GL_TEXTURE_2D, name);
        const auto width = static_cast<std::size_t>(image.width);
        // The bottom row first. As floats: an sRGB format of 8 bits took the driver longer, and it decoded
        // with errors of a thousandth.
        std::vector<float> texels;
        for (std::size_t i = 0; i < image.texels.size(); ++i) {
            const std::size_t row = static_cast<std::size_t>(image.height) - 1 - i / width;
            const rgb<float>& texel = image.texels[row * width + i % width];
            texels.insert(texels.end(), {texel.r, texel.g, texel.b, 1});
        }
        glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA32F, image.width, image.height, 0, GL_RGBA, GL_FLOAT,
                     texels.data());
        for (const int which : {GL_TEXTURE_MIN_FILTER, GL_TEXTURE_MAG_FILTER}) {
            glTexParameteri(GL_TEXTURE_2D, static_cast<unsigned>(which), GL_LINEAR);
        }
    }

    static void set(const scene& of, const pipeline::stage& staged) {
        std::vector<float> block;
        const auto put = [&](const vec3<double>& v, double w) {
            block.insert(block.end(), {static_cast<float>(v.x), static_cast<float>(v.y),
                                       static_cast<float>(v.z), static_cast<float>(w)});
        };
        for (const light& one : staged.lights[0]) {
            const int kind = one.kind == light_kind::directional     ? 1
                             : one.kind == light_kind::spot          ? 2
                             : one.falloff == falloff_kind::windowed ? 3
                                                                     : 0;
            put(one.position, kind);
            put(normalize(one.shines), 0);
            const rgb<double> light = one.color * one.intensity;
            put({light.r, light.g, light.b}, one.range);
            put({std::cos(one.inner), std::cos(one.outer), 0}, 0);
        }
        block.resize(16 * most_lights);
        unsigned buffer = 0;
        glGenBuffers(1, &buffer);
        glBindBufferBase(GL_UNIFORM_BUFFER, 0, buffer);
        glBufferData(GL_UNIFORM_BUFFER, static_cast<GLsizeiptr>(4 * block.size()), block.data(),
                     GL_STATIC_DRAW);
        glUniform1i(1, static_cast<int>(staged.lights[0].size()));
        const auto uniform = [](int at, const vec3<double>& v) {
            glUniform3f(at, static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z));
        };
        const material& look = of.materials[0].look;
        uniform(2, of.view.eye);
        uniform(3, {look.base.r, look.base.g, look.base.b});
        uniform(4, {staged.ambient_light.r, staged.ambient_light.g, staged.ambient_light.b});
        glUniform4f(5, static_cast<float>(look.specular.r), static_cast<float>(look.specular.g),
                    static_cast<float>(look.specular.b), static_cast<float>(look.shininess));
        // The camera's axes as rows; y runs down with the upper left origin, as the pictures' does.
        const camera& seen = staged.seen_from;
        const double focal = 1 / seen.tangent;
        const double aspect = static_cast<double>(seen.width) / seen.height;
        const auto row = [&](const vec3<double>& axis, double factor) {
            return std::array<double, 4>{axis.x * factor, axis.y * factor, axis.z * factor,
                                         -dot(axis, seen.eye) * factor};
        };
        const std::array<double, 4> right = row(seen.axes.right, focal / aspect);
        const std::array<double, 4> up = row(seen.axes.up, focal);
        std::array<double, 4> ahead = row(seen.axes.backward, -1);
        const double a = (seen.far + seen.near) / (seen.far - seen.near);
        const double b = -2 * seen.far * seen.near / (seen.far - seen.near);
        std::array<float, 16> matrix{};
        for (std::size_t column = 0; column < 4; ++column) {
            matrix[4 * column] = static_cast<float>(right[column]);
            matrix[4 * column + 1] = static_cast<float>(up[column]);
            matrix[4 * column + 2] = static_cast<float>(a * ahead[column] + (column == 3 ? b : 0));
            matrix[4 * column + 3] = static_cast<float>(ahead[column]);
        }
        glUniformMatrix4fv(0, 1, GL_FALSE, matrix.data());
    }

    static void draw(const uploaded& one) {
        glClear(static_cast<unsigned>(GL_COLOR_BUFFER_BIT) | static_cast<unsigned>(GL_DEPTH_BUFFER_BIT));
        glBindVertexArray(one.vertices);
        glDrawElements(GL_TRIANGLES, one.indices, GL_UNSIGNED_INT, nullptr);
        glFinish();
    }

    [[nodiscard]] std::vector<float> read() const {
        std::vector<float> values(4 * static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_));
        glReadPixels(0, 0, width_, height_, GL_RGBA, GL_FLOAT, values.data());
        return values;
    }
};

// The share of pixels that differ by more than a thousandth of what they show: the driver interpolates in
// float and has its own pow.
double share_apart(const picture& ours, const std::vector<float>& theirs) {
    std::size_t apart = 0;
    for (std::size_t i = 0; i < theirs.size(); i += 4) {
        for (std::size_t k = 0; k < 3; ++k) {
            if (!(std::abs(ours.values[i + k] - theirs[i + k]) <=
                  1e-3F * std::max(1.0F, ours.values[i + k]))) {
                ++apart;
                break;
            }
        }
    }
    return static_cast<double>(apart) / static_cast<double>(ours.pixels());
}

int run() {
    driver gl(1280, 800);
    std::printf("%10s %9s %8s %7s %11s %11s %8s %13s\n", "triangles", "rate", "texture", "lights",
                "driver ms", "Yurvo ms", "ratio", "pixels apart");
    double logarithms = 0;
    double least = 1e9;
    int cases = 0;
    bool agree = true;
    for (const std::uint32_t around : {32U, 256U, 1000U}) {
        for (const rate at : {rate::fragment, rate::vertex}) {
            for (const bool textured : {false, true}) {
                glUseProgram(link(at, textured));
                for (const int lights : {1, 4, 16}) {
                    scene made = bench::buoy(around, around + 1, lights, at);
                    if (textured) {
                        bench::cover_with_planks(made);
                        driver::set_texture(*made.materials[0].image);
                    }
                    const pipeline::stage staged = pipeline::make_stage(made);
                    const blinn_phong<> model;
                    const auto shader = pipeline::make_shader<formula, float>(model);
                    pipeline::frame frame;
                    const driver::uploaded uploaded = driver::upload(staged);
                    driver::set(made, staged);
                    const std::vector<double> medians = bench::medians_in_turn(
                        {[&] { driver::draw(uploaded); }, [&] { frame.draw(staged, shader); }}, frames);
                    const double apart = share_apart(frame.draw(staged, shader), gl.read());
                    driver::forget(uploaded);
                    agree = agree && apart < 1e-3;
                    const double ratio = medians[0] / medians[1];
                    logarithms += std::log(ratio);
                    least = std::min(least, ratio);
                    ++cases;
                    std::printf("%10zu %9s %8s %7d %11.2f %11.2f %8.2f %12.4f%%\n",
                                staged.objects[0].shape->triangles.size(),
                                at == rate::vertex ? "vertex" : "fragment", textured ? "planks" : "-", lights,
                                medians[0], medians[1], ratio, 100 * apart);
                    std::fflush(stdout);
                }
            }
        }
    }
    std::printf("%d cases: geometric mean %.2f, least %.2f; medians of %d frames, in turn\n", cases,
                std::exp(logarithms / cases), least, frames);
    if (!agree) {
        std::printf("the pictures do not agree\n");
    }
    return agree ? 0 : 1;
}

} // namespace

int main() {
    try {
        return run();
    } catch (const std::exception& problem) {
        std::fprintf(stderr, "against_driver: %s\n", problem.what());
        return 3;
    }
}
