// guess: a program file for sources that have none, by the types and names of what they read.
#pragma once

#include <array>
#include <cstddef>
#include <functional>
#include <string>
#include <vector>

#include "yurvo/scene/shader_program.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// A name that the linked program reads, with its type and what it would most likely mean; empty where
/// nothing is likely.
struct guessed_name {
    std::string name, type, means; ///< the shader's name, its type in the shader's words, and the quantity it
                                   ///< is taken for; empty where there is no guess
    std::string alone; ///< of x, y, z, w those that the source reads one by one, of a vector that it reads no
                       ///< other way; else empty
    std::string kind;  ///< `point`: of an array of lights that is of one kind, as names say; else empty
    std::string structure; ///< of a member: what the text calls the structure that it is in; else empty
    std::string instance;  ///< likewise the name up to there: `left` of `left.position`
};
/// What a shader's names are taken for.
struct guessed_bindings {
    std::vector<guessed_name> attributes, uniforms; ///< an array of structures once, with [*]
};

/// Which language two stages are written in, by what only it has: `#version 300 es`, `cbuffer`,
/// `push_constant`; GLSL where they have nothing of the kind.
shading_language likely_language(const std::string& vertex, const std::string& fragment);

/// Compiles and links. Throws as program_renderer does.
guessed_bindings guess_bindings(const shader_program& the_program);

/// A program file for sources that have none, and how many names it leaves open. `beside` are the vertex and
/// the fragment stage's files as the program file is to name them.
struct guessed_program {
    std::string text;                     ///< the program file's text
    std::size_t unsure = 0;               ///< how many names are not certain
    bool right = false;                   ///< on the small scenes on which candidates were drawn
    std::vector<std::string> by_its_text; ///< places of formulas (`falloff`, ...) that its own text has
    std::vector<std::string> claimed;     ///< mistakes of the catalogue that a line takes for meant
    bool alpha_beyond = false; ///< its colours are right there; its alpha, above 1 in places, is not
};
/// Names and types first; what they leave open is settled by drawing candidates. Takes some seconds; `tell`
/// gets progress.
guessed_program guess_program(
    const shader_program& the_program, const std::array<std::string, 2>& beside,
    const std::function<void(const std::string&)>& tell = [](const std::string&) {});

/// Where the driver puts the members of a program's uniform blocks, in order.
struct block_member {
    std::string block, name, type; ///< the block, the member's name and its type
    int offset = 0;                ///< bytes, where the driver reads it
    int plain_offset = 0;          ///< where a plain C++ structure would have it, after the member before
    int components = 1;            ///< numbers in it
    int matrix = 0;                ///< columns of a matrix, rows where it lies in rows; 0 where it is none
    int matrix_stride = 0;         ///< bytes between them
};
/// As the system's driver links the program. Throws yurvo::error where it does not.
std::vector<block_member> block_members(const shader_program& the_program);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
