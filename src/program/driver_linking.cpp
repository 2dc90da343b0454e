// Compiling, linking, and what a linked program asks for.
#include "program/driver_calls.hpp"

#if defined(YURVO_WITH_DRIVER)

#include <array>

#include <epoxy/gl.h>

namespace yurvo::program {

namespace {

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

} // namespace

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
        active_attribute attribute;
        glGetActiveAttrib(program, i, name.size(), nullptr, &size, &attribute.type, name.data());
        attribute.name = name.data();
        attribute.location = glGetAttribLocation(program, name.data());
        if (!attribute.name.starts_with("gl_")) {
            result.attributes.push_back(attribute);
        }
    }
}

void list_uniforms(unsigned program, linked_program& result) {
    int count = 0;
    glGetProgramiv(program, GL_ACTIVE_UNIFORMS, &count);
    for (unsigned i = 0; i < static_cast<unsigned>(count); ++i) {
        std::array<char, 512> text{};
        int size = 0;
        active_uniform each;
        glGetActiveUniform(program, i, text.size(), nullptr, &size, &each.type, text.data());
        const auto ask = [&](unsigned what) {
            int value = 0;
            glGetActiveUniformsiv(program, 1, &i, what, &value);
            return value;
        };
        each.block = ask(GL_UNIFORM_BLOCK_INDEX);
        each.offset = ask(GL_UNIFORM_OFFSET);
        each.matrix_stride = ask(GL_UNIFORM_MATRIX_STRIDE);
        each.array_stride = ask(GL_UNIFORM_ARRAY_STRIDE);
        each.row_major = ask(GL_UNIFORM_IS_ROW_MAJOR) != 0 ? 1 : 0;
        std::string name = text.data();
        if (name.starts_with("gl_")) {
            continue;
        }
        const bool array = name.ends_with("[0]");
        const std::string base = array ? name.substr(0, name.size() - 3) : name;
        for (int k = 0; k < size; ++k) {
            active_uniform element = each;
            element.name = array ? base + "[" + std::to_string(k) + "]" : name;
            element.offset = each.offset + k * each.array_stride;
            element.location = each.block < 0 ? glGetUniformLocation(program, element.name.c_str()) : -1;
            result.uniforms.push_back(element);
        }
    }
}

void list_blocks(unsigned program, linked_program& result) {
    int count = 0;
    glGetProgramiv(program, GL_ACTIVE_UNIFORM_BLOCKS, &count);
    for (unsigned i = 0; i < static_cast<unsigned>(count); ++i) {
        std::array<char, 512> name{};
        active_block uniform_block;
        glGetActiveUniformBlockName(program, i, name.size(), nullptr, name.data());
        glGetActiveUniformBlockiv(program, i, GL_UNIFORM_BLOCK_DATA_SIZE, &uniform_block.size);
        uniform_block.name = name.data();
        result.blocks.push_back(uniform_block);
        glUniformBlockBinding(program, i, i);
    }
}

} // namespace yurvo::program

#endif
