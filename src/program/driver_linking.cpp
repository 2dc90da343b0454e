// Compiling, linking, and what a linked program asks for.
#include "program/driver_calls.hpp"

#if defined(YURVO_WITH_DRIVER)

#include <algorithm>
#include <array>

#include <epoxy/gl.h>

namespace yurvo::inline v0_1::program {

namespace {

std::string log_of_shader(unsigned shader) {
    std::array<char, 8000> log{};
    glGetShaderInfoLog(shader, log.size(), nullptr, log.data());
    return log.data();
}

unsigned compile_as_it_is(unsigned kind, const std::string& source, std::string& failure) {
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

// GLSL 4.60 is 4.50 with a few built-ins more: a driver that has no more than that is given it so, and knows
// none of those.
unsigned compile(unsigned kind, const std::string& source, linked_program& result) {
    const unsigned shader = compile_as_it_is(kind, source, result.failure);
    const std::size_t version = source.find("#version 460");
    if (result.failure.find("4.60 is not supported") == std::string::npos || version == std::string::npos) {
        return shader;
    }
    std::string older = source;
    older.replace(version, std::string_view("#version 460").size(), "#version 450");
    result.failure.clear();
    result.older_version = 1;
    return compile_as_it_is(kind, older, result.failure);
}

} // namespace

unsigned link(const std::string& vertex, const std::string& fragment, linked_program& result) {
    const unsigned a = compile(GL_VERTEX_SHADER, vertex, result);
    if (!result.failure.empty()) {
        result.failed_stage = 1;
        return 0;
    }
    const unsigned b = compile(GL_FRAGMENT_SHADER, fragment, result);
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

void tell_block_arrays_apart(linked_program& result) {
    std::vector<active_uniform> more;
    for (active_uniform& each : result.uniforms) {
        if (each.block < 0) {
            continue;
        }
        const std::string& first = result.blocks[static_cast<std::size_t>(each.block)].name;
        const std::string base = first.substr(0, first.find('['));
        if (!first.ends_with("[0]") || !each.name.starts_with(base + ".")) {
            continue;
        }
        const std::string rest = each.name.substr(base.size());
        for (std::size_t other = 0; other < result.blocks.size(); ++other) {
            const std::string& name = result.blocks[other].name;
            if (name != first && name.starts_with(base + "[")) {
                more.push_back(each);
                more.back().name = name + rest;
                more.back().block = static_cast<std::int32_t>(other);
            }
        }
        each.name = first + rest;
    }
    result.uniforms.insert(result.uniforms.end(), more.begin(), more.end());
}

namespace {

std::vector<active_attribute> resources_of(unsigned program, unsigned interface) {
    int count = 0;
    glGetProgramInterfaceiv(program, interface, GL_ACTIVE_RESOURCES, &count);
    std::vector<active_attribute> result;
    for (unsigned i = 0; i < static_cast<unsigned>(count); ++i) {
        constexpr std::array<unsigned, 2> asked{GL_TYPE, GL_LOCATION};
        std::array<int, 2> got{0, -1};
        glGetProgramResourceiv(program, interface, i, static_cast<int>(asked.size()), asked.data(),
                               static_cast<int>(got.size()), nullptr, got.data());
        std::array<char, 512> name{};
        glGetProgramResourceName(program, interface, i, name.size(), nullptr, name.data());
        result.push_back({name.data(), static_cast<std::uint32_t>(got[0]), got[1]});
    }
    return result;
}

// A stage alone, so that what it reads and writes is listed; 0 where the driver does not make it so.
unsigned made_alone(unsigned kind, const std::string& source) {
    const char* const text = source.c_str();
    const unsigned program = glCreateShaderProgramv(kind, 1, &text);
    int good = 0;
    glGetProgramiv(program, GL_LINK_STATUS, &good);
    if (good == 0) {
        glDeleteProgram(program);
        return 0;
    }
    return program;
}

} // namespace

void list_interfaces(unsigned program, const std::string& vertex, const std::string& fragment,
                     linked_program& result) {
    result.outputs = resources_of(program, GL_PROGRAM_OUTPUT);
    const unsigned first = made_alone(GL_VERTEX_SHADER, vertex);
    const unsigned second = made_alone(GL_FRAGMENT_SHADER, fragment);
    if (first != 0 && second != 0) {
        const std::vector<active_attribute> written = resources_of(first, GL_PROGRAM_OUTPUT);
        for (const active_attribute& read : resources_of(second, GL_PROGRAM_INPUT)) {
            const bool known = std::any_of(written.begin(), written.end(), [&](const active_attribute& each) {
                return each.name == read.name || (each.location == read.location && read.location >= 0 &&
                                                  fragment.find("location") != std::string::npos);
            });
            if (!known && !read.name.starts_with("gl_")) {
                result.inputs_unwritten.push_back(read.name);
            }
        }
    }
    glDeleteProgram(first);
    glDeleteProgram(second);
    (void)glGetError();
}

// One variable of a storage block: of an array of structures the driver lists the first alone.
void add_buffer_variable(unsigned program, unsigned index, int first_block, int unsized,
                         linked_program& result) {
    constexpr std::array<unsigned, 8> asked{GL_TYPE,         GL_ARRAY_SIZE,          GL_OFFSET,
                                            GL_BLOCK_INDEX,  GL_ARRAY_STRIDE,        GL_MATRIX_STRIDE,
                                            GL_IS_ROW_MAJOR, GL_TOP_LEVEL_ARRAY_SIZE};
    std::array<int, 8> got{};
    glGetProgramResourceiv(program, GL_BUFFER_VARIABLE, index, static_cast<int>(asked.size()), asked.data(),
                           static_cast<int>(got.size()), nullptr, got.data());
    const unsigned stride_of_all = GL_TOP_LEVEL_ARRAY_STRIDE;
    int top_stride = 0;
    glGetProgramResourceiv(program, GL_BUFFER_VARIABLE, index, 1, &stride_of_all, 1, nullptr, &top_stride);
    std::array<char, 512> text{};
    glGetProgramResourceName(program, GL_BUFFER_VARIABLE, index, text.size(), nullptr, text.data());
    active_uniform each;
    each.type = static_cast<std::uint32_t>(got[0]);
    each.block = first_block + got[3];
    each.matrix_stride = got[5];
    each.array_stride = got[4];
    each.row_major = got[6] != 0 ? 1 : 0;
    const std::string whole = text.data();
    const bool structures = got[7] != 1 && top_stride > 0;
    const int elements = structures ? (got[7] == 0 ? unsized : got[7]) : 1;
    active_block& block = result.blocks[static_cast<std::size_t>(each.block)];
    for (int k = 0; k < elements; ++k) {
        std::string name = whole;
        if (structures) {
            name.replace(name.find("[0]"), 3, "[" + std::to_string(k) + "]");
        }
        const bool array = name.ends_with("[0]") && (!structures || name.find('.') != std::string::npos);
        const int size = !array ? 1 : got[1] == 0 ? unsized : got[1];
        for (int i = 0; i < size; ++i) {
            active_uniform element = each;
            element.name = array ? name.substr(0, name.size() - 3) + "[" + std::to_string(i) + "]" : name;
            element.offset = got[2] + k * top_stride + i * each.array_stride;
            element.beyond_first = (got[7] == 0 && k > 0) || (got[1] == 0 && i > 0) ? 1 : 0;
            // The largest, a matrix of doubles in columns, has 128 bytes.
            block.size =
                std::max(block.size, element.offset + std::max({64, 4 * each.matrix_stride, top_stride}));
            result.uniforms.push_back(element);
        }
    }
}

void list_storage(unsigned program, int unsized, linked_program& result) {
    const auto count_of = [&](unsigned interface) {
        int count = 0;
        glGetProgramInterfaceiv(program, interface, GL_ACTIVE_RESOURCES, &count);
        return static_cast<unsigned>(count);
    };
    const auto first = static_cast<int>(result.blocks.size());
    for (unsigned i = 0; i < count_of(GL_SHADER_STORAGE_BLOCK); ++i) {
        std::array<char, 512> name{};
        glGetProgramResourceName(program, GL_SHADER_STORAGE_BLOCK, i, name.size(), nullptr, name.data());
        active_block block;
        block.name = name.data();
        block.storage = 1;
        const unsigned asked = GL_BUFFER_DATA_SIZE;
        glGetProgramResourceiv(program, GL_SHADER_STORAGE_BLOCK, i, 1, &asked, 1, nullptr, &block.size);
        glShaderStorageBlockBinding(program, i, static_cast<unsigned>(result.blocks.size()));
        result.blocks.push_back(block);
    }
    for (unsigned i = 0; i < count_of(GL_BUFFER_VARIABLE); ++i) {
        add_buffer_variable(program, i, first, unsized, result);
    }
}

} // namespace yurvo::inline v0_1::program

#endif
