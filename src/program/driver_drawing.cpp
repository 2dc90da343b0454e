// Drawing with a linked program.
#include "program/driver_calls.hpp"
#include "program/driver_textures.hpp"

#if defined(YURVO_WITH_DRIVER)

#include <algorithm>
#include <array>
#include <cmath>

#include <epoxy/gl.h>

namespace yurvo::inline v0_1::program {

void target::resize(int width, int height) {
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

std::vector<float> target::pixels() const {
    std::vector<float> result(4 * static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_));
    glReadPixels(0, 0, width_, height_, GL_RGBA, GL_FLOAT, result.data());
    return result;
}

namespace {

// What a fragment stage writes at 2,048 places, 256 in each of eight rows; nothing where it cannot be drawn.
std::vector<float> values_of(const char* fragment, target& into) {
    static const char* const vertex = R"(#version 450
void main() { gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0); }
)";
    linked_program ignored;
    const unsigned program = link(vertex, fragment, ignored);
    if (program == 0) {
        return {};
    }
    into.resize(256, 8);
    glUseProgram(program);
    glDisable(GL_DEPTH_TEST);
    glDrawArrays(GL_TRIANGLES, 0, 3);
    std::vector<float> found = into.pixels();
    glDeleteProgram(program);
    return found;
}

} // namespace

float measure_angles(target& into) {
    static const char* const fragment = R"(#version 450
layout(location = 0) out vec4 c;
void main() {
    float x = (gl_FragCoord.x + 256.0 * floor(gl_FragCoord.y)) / 1024.0 - 1.0;
    c = vec4(acos(x), asin(x), atan(4.0 * x), 1.0);
}
)";
    const std::vector<float> found = values_of(fragment, into);
    double most = 0;
    for (std::size_t i = 0; 4 * i < found.size(); ++i) {
        const double x = (static_cast<double>(i) + 0.5) / 1024 - 1; // exact in a float
        const std::array<double, 3> right{std::acos(x), std::asin(x), std::atan(4 * x)};
        for (std::size_t k = 0; k < right.size(); ++k) {
            most = std::max(most, std::abs(static_cast<double>(found[4 * i + k]) - right[k]));
        }
    }
    return static_cast<float>(most);
}

float measure_precision(target& into) {
    static const char* const fragment = R"(#version 450
layout(location = 0) out vec4 c;
void main() {
    float x = gl_FragCoord.x / 256.0;
    float s = exp2(floor(gl_FragCoord.y));
    c = vec4(pow(x, s), inversesqrt(x * 8.0), 1.0 / (x * 4.0 + s), pow(x, 1.0 / 2.4));
}
)";
    const std::vector<float> found = values_of(fragment, into);
    if (found.empty()) {
        return 1;
    }
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
    return static_cast<float>(most);
}

namespace {

struct uniform_kind {
    unsigned type;
    enum { reals, doubles, wholes, naturals, matrix, matrix_of_doubles } of;
    int components; // of a matrix its columns
    int rows = 1;
};
constexpr std::array uniform_kinds{
    uniform_kind{GL_FLOAT, uniform_kind::reals, 1},
    uniform_kind{GL_FLOAT_VEC2, uniform_kind::reals, 2},
    uniform_kind{GL_FLOAT_VEC3, uniform_kind::reals, 3},
    uniform_kind{GL_FLOAT_VEC4, uniform_kind::reals, 4},
    uniform_kind{GL_FLOAT_MAT2, uniform_kind::matrix, 2, 2},
    uniform_kind{GL_FLOAT_MAT3, uniform_kind::matrix, 3, 3},
    uniform_kind{GL_FLOAT_MAT4, uniform_kind::matrix, 4, 4},
    uniform_kind{GL_FLOAT_MAT2x3, uniform_kind::matrix, 2, 3},
    uniform_kind{GL_FLOAT_MAT2x4, uniform_kind::matrix, 2, 4},
    uniform_kind{GL_FLOAT_MAT3x2, uniform_kind::matrix, 3, 2},
    uniform_kind{GL_FLOAT_MAT3x4, uniform_kind::matrix, 3, 4},
    uniform_kind{GL_FLOAT_MAT4x2, uniform_kind::matrix, 4, 2},
    uniform_kind{GL_FLOAT_MAT4x3, uniform_kind::matrix, 4, 3},
    uniform_kind{GL_DOUBLE, uniform_kind::doubles, 1},
    uniform_kind{GL_DOUBLE_VEC2, uniform_kind::doubles, 2},
    uniform_kind{GL_DOUBLE_VEC3, uniform_kind::doubles, 3},
    uniform_kind{GL_DOUBLE_VEC4, uniform_kind::doubles, 4},
    uniform_kind{GL_DOUBLE_MAT2, uniform_kind::matrix_of_doubles, 2, 2},
    uniform_kind{GL_DOUBLE_MAT3, uniform_kind::matrix_of_doubles, 3, 3},
    uniform_kind{GL_DOUBLE_MAT4, uniform_kind::matrix_of_doubles, 4, 4},
    uniform_kind{GL_DOUBLE_MAT2x3, uniform_kind::matrix_of_doubles, 2, 3},
    uniform_kind{GL_DOUBLE_MAT2x4, uniform_kind::matrix_of_doubles, 2, 4},
    uniform_kind{GL_DOUBLE_MAT3x2, uniform_kind::matrix_of_doubles, 3, 2},
    uniform_kind{GL_DOUBLE_MAT3x4, uniform_kind::matrix_of_doubles, 3, 4},
    uniform_kind{GL_DOUBLE_MAT4x2, uniform_kind::matrix_of_doubles, 4, 2},
    uniform_kind{GL_DOUBLE_MAT4x3, uniform_kind::matrix_of_doubles, 4, 3},
    uniform_kind{GL_INT, uniform_kind::wholes, 1},
    uniform_kind{GL_INT_VEC2, uniform_kind::wholes, 2},
    uniform_kind{GL_INT_VEC3, uniform_kind::wholes, 3},
    uniform_kind{GL_INT_VEC4, uniform_kind::wholes, 4},
    uniform_kind{GL_BOOL, uniform_kind::wholes, 1},
    uniform_kind{GL_BOOL_VEC2, uniform_kind::wholes, 2},
    uniform_kind{GL_BOOL_VEC3, uniform_kind::wholes, 3},
    uniform_kind{GL_BOOL_VEC4, uniform_kind::wholes, 4},
    uniform_kind{GL_UNSIGNED_INT, uniform_kind::naturals, 1},
    uniform_kind{GL_UNSIGNED_INT_VEC2, uniform_kind::naturals, 2},
    uniform_kind{GL_UNSIGNED_INT_VEC3, uniform_kind::naturals, 3},
    uniform_kind{GL_UNSIGNED_INT_VEC4, uniform_kind::naturals, 4},
};

// By the number of components, one to four.
void set_reals(int location, int components, const float* values) {
    constexpr std::array setters{&glUniform1fv, &glUniform2fv, &glUniform3fv, &glUniform4fv};
    (*setters[static_cast<std::size_t>(components - 1)])(location, 1, values);
}
void set_doubles(int location, int components, const double* values) {
    constexpr std::array setters{&glUniform1dv, &glUniform2dv, &glUniform3dv, &glUniform4dv};
    (*setters[static_cast<std::size_t>(components - 1)])(location, 1, values);
}
void set_wholes(int location, int components, const int* values) {
    constexpr std::array setters{&glUniform1iv, &glUniform2iv, &glUniform3iv, &glUniform4iv};
    (*setters[static_cast<std::size_t>(components - 1)])(location, 1, values);
}
void set_naturals(int location, int components, const unsigned* values) {
    constexpr std::array setters{&glUniform1uiv, &glUniform2uiv, &glUniform3uiv, &glUniform4uiv};
    (*setters[static_cast<std::size_t>(components - 1)])(location, 1, values);
}

// By the number of columns and of rows, two to four each.
void set_matrix(int location, int columns, int rows, const float* values) {
    constexpr std::array setters{&glUniformMatrix2fv,   &glUniformMatrix2x3fv, &glUniformMatrix2x4fv,
                                 &glUniformMatrix3x2fv, &glUniformMatrix3fv,   &glUniformMatrix3x4fv,
                                 &glUniformMatrix4x2fv, &glUniformMatrix4x3fv, &glUniformMatrix4fv};
    (*setters[static_cast<std::size_t>(3 * (columns - 2) + rows - 2)])(location, 1, GL_FALSE, values);
}

void set_matrix(int location, int columns, int rows, const double* values) {
    constexpr std::array setters{&glUniformMatrix2dv,   &glUniformMatrix2x3dv, &glUniformMatrix2x4dv,
                                 &glUniformMatrix3x2dv, &glUniformMatrix3dv,   &glUniformMatrix3x4dv,
                                 &glUniformMatrix4x2dv, &glUniformMatrix4x3dv, &glUniformMatrix4dv};
    (*setters[static_cast<std::size_t>(3 * (columns - 2) + rows - 2)])(location, 1, GL_FALSE, values);
}

void set_uniform(const uniform_value& uniform) {
    const std::vector<double> doubles(uniform.values.begin(), uniform.values.end());
    std::array<int, 4> wholes{};
    std::array<unsigned, 4> naturals{};
    for (std::size_t i = 0; i < 4 && i < uniform.values.size(); ++i) {
        wholes[i] = static_cast<int>(std::lround(uniform.values[i]));
        naturals[i] = static_cast<unsigned>(wholes[i]);
    }
    for (const uniform_kind& kind : uniform_kinds) {
        if (kind.type != uniform.type) {
            continue;
        }
        switch (kind.of) {
        case uniform_kind::reals:
            set_reals(uniform.location, kind.components, uniform.values.data());
            break;
        case uniform_kind::doubles:
            set_doubles(uniform.location, kind.components, doubles.data());
            break;
        case uniform_kind::wholes:
            set_wholes(uniform.location, kind.components, wholes.data());
            break;
        case uniform_kind::naturals:
            set_naturals(uniform.location, kind.components, naturals.data());
            break;
        case uniform_kind::matrix:
            set_matrix(uniform.location, kind.components, kind.rows, uniform.values.data());
            break;
        case uniform_kind::matrix_of_doubles:
            set_matrix(uniform.location, kind.components, kind.rows, doubles.data());
            break;
        }
    }
}

// One value for all vertices.
void set_same_everywhere(const attribute_values& values) {
    const auto location = static_cast<unsigned>(values.location);
    std::array<float, 4> four{0, 0, 0, 1};
    std::copy(values.values.begin(), values.values.end(), four.begin());
    if (values.kind == number_kind::real) {
        glVertexAttrib4fv(location, four.data());
        return;
    }
    std::array<int, 4> wholes{};
    std::transform(four.begin(), four.end(), wholes.begin(),
                   [](float value) { return static_cast<int>(std::lround(value)); });
    if (values.kind == number_kind::whole) {
        glVertexAttribI4iv(location, wholes.data());
    } else {
        std::array<unsigned, 4> naturals{};
        std::copy(wholes.begin(), wholes.end(), naturals.begin());
        glVertexAttribI4uiv(location, naturals.data());
    }
}

void draw_object(const object_request& request, const std::vector<active_block>& kinds,
                 const textures_in_driver& textures, bool y_down) {
    // Facing: counter-clockwise in the world, whichever way the clip space turns y and the matrix mirrors.
    glFrontFace((request.mirrored != 0) != y_down ? GL_CW : GL_CCW);
    std::vector<unsigned> buffers(request.attributes.size());
    glGenBuffers(static_cast<int>(buffers.size()), buffers.data());
    for (std::size_t i = 0; i < buffers.size(); ++i) {
        const attribute_values& values = request.attributes[i];
        if (values.values.size() == static_cast<std::size_t>(values.components)) {
            set_same_everywhere(values);
            continue;
        }
        glBindBuffer(GL_ARRAY_BUFFER, buffers[i]);
        glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(values.values.size() * sizeof(float)),
                     values.values.data(), GL_STREAM_DRAW);
        const auto location = static_cast<unsigned>(values.location);
        glVertexAttribPointer(location, values.components, GL_FLOAT, GL_FALSE, 0, nullptr);
        glEnableVertexAttribArray(location);
    }
    for (const uniform_value& value : request.uniforms) {
        set_uniform(value);
    }
    std::vector<unsigned> blocks(request.blocks.size());
    glGenBuffers(static_cast<int>(blocks.size()), blocks.data());
    for (std::size_t i = 0; i < blocks.size(); ++i) {
        const unsigned kind = kinds[i].storage != 0 ? GL_SHADER_STORAGE_BUFFER : GL_UNIFORM_BUFFER;
        glBindBuffer(kind, blocks[i]);
        glBufferData(kind, static_cast<GLsizeiptr>(request.blocks[i].size()), request.blocks[i].data(),
                     GL_STREAM_DRAW);
        glBindBufferBase(kind, static_cast<unsigned>(i), blocks[i]);
    }
    for (std::size_t i = 0; i < request.samplers.size(); ++i) {
        textures.bind(static_cast<std::size_t>(request.textures[i]), i);
        glUniform1i(request.samplers[i], static_cast<int>(i));
    }
    glDrawArrays(GL_TRIANGLES, 0, request.corners);
    for (const attribute_values& values : request.attributes) {
        glDisableVertexAttribArray(static_cast<unsigned>(values.location));
    }
    glDeleteBuffers(static_cast<int>(buffers.size()), buffers.data());
    glDeleteBuffers(static_cast<int>(blocks.size()), blocks.data());
}

} // namespace

draw_answer draw(const draw_request& request, unsigned program, const std::vector<active_block>& blocks,
                 target& into) {
    draw_answer answer;
    into.resize(request.width, request.height);
    if (glCheckFramebufferStatus(GL_FRAMEBUFFER) != GL_FRAMEBUFFER_COMPLETE) {
        answer.failure = "the driver has no picture of floats of that size";
        return answer;
    }
    // Whether y = 1 in clip space lands in the window's last row or its first: with y upwards and the origin
    // below, the last.
    glClipControl((request.origin_below != 0) != (request.y_down != 0) ? GL_LOWER_LEFT : GL_UPPER_LEFT,
                  request.zero_to_one != 0 ? GL_ZERO_TO_ONE : GL_NEGATIVE_ONE_TO_ONE);
    glDisable(GL_BLEND);
    glDisable(GL_DITHER);
    glDisable(GL_CULL_FACE);
    glDisable(GL_FRAMEBUFFER_SRGB);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LESS);
    glDepthMask(GL_TRUE);
    glClearColor(request.background[0], request.background[1], request.background[2], request.background[3]);
    glClearDepth(1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    glUseProgram(program);
    const textures_in_driver textures(request.textures);
    for (const object_request& each : request.objects) {
        draw_object(each, blocks, textures, request.y_down != 0);
    }
    answer.values = into.pixels();
    if (request.origin_below != 0) { // the top row first
        const auto row = 4 * static_cast<std::ptrdiff_t>(request.width);
        for (std::ptrdiff_t y = 0; y < request.height / 2; ++y) {
            std::swap_ranges(answer.values.begin() + y * row, answer.values.begin() + (y + 1) * row,
                             answer.values.end() - (y + 1) * row);
        }
    }
    if (const unsigned wrong = glGetError(); wrong != GL_NO_ERROR) {
        answer.failure = wrong == GL_OUT_OF_MEMORY
                             ? "the driver ran out of memory"
                             : "the driver refused to draw (its error " + std::to_string(wrong) + ")";
    }
    return answer;
}

} // namespace yurvo::inline v0_1::program

#endif
