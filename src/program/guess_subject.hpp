// guess_subject: a shader's sources drawn under one reading of them after another, on small scenes.
#pragma once

#include <map>
#include <memory>
#include <set>
#include <string>
#include <vector>

#include "program/guess_comparing.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/scene/shader_program.hpp"
#include "yurvo/verify/one_number.hpp"

namespace yurvo::inline v0_1::program {

class guess_subject {
    std::vector<scene> scenes_;
    std::unique_ptr<program_renderer> compiled_;
    double began_; // in seconds of the processor's time
    std::size_t tried_ = 0;
    bool unit_at_vertices_;
    std::set<std::string> of_rows_; // matrices that are multiplied from the left
    struct known_off {
        double off;
        double worth; // what was asked for then: beyond it nothing is known
    };
    std::map<std::string, known_off> known_; // by what a program file would say
    std::map<std::string, bool> explained_;  // likewise: whether by one mistake

    beyond_one alpha_ = beyond_one::passed_over;

    double drawn_off(const shader_program& candidate, double worth);
    [[nodiscard]] bool diagnosed_as_one_mistake(const shader_program& reading) const;

    // No light's direction is of length 1: who does not make it so is told from who does.
    static fitted_scene fit(const program_renderer& by, const scene& of);
    // Normals that the vertex stage leaves at whatever length they have are made unit at each fragment, which
    // is right too, and another picture where an object is scaled unevenly.
    [[nodiscard]] picture right_picture(const scene& of) const;
    // Drawn under another reading: compiled once.
    [[nodiscard]] std::unique_ptr<program_renderer> read_as(const shader_program& reading) const;

  public:
    static constexpr double never = 1e9; // off, of what cannot be drawn
    // At the least, of a claim under which something that is bound is not looked at.
    static constexpr double hiding_is_off = 1e-5;

    // `text` is that of the sources, without comments.
    guess_subject(const shader_program& sources, const std::string& text);

    // How many readings were drawn, and whether more may be: at most so many.
    [[nodiscard]] std::size_t tried() const { return tried_; }
    [[nodiscard]] bool may_go_on(std::size_t tries) const;

    // The reading as the program file says it.
    [[nodiscard]] shader_program written(shader_program reading) const;

    // How far the pictures are from right ones: 0 where all codes agree. What cannot be below `worth` is not
    // looked at further, and what was drawn before is not drawn again. Throws yurvo::error where the sources
    // cannot be drawn under any reading.
    double off_of(const shader_program& reading, double worth = never);
    // Under the first kind of light, or pair of kinds, under which the bindings can be taken at all.
    double off_with_some_kind(shader_program& reading);
    // Whether somewhere in its pictures alpha is above 1.
    [[nodiscard]] bool alpha_beyond(const shader_program& reading) const;
    // Names of which no value changes its pictures.
    [[nodiscard]] std::vector<std::string> names_without_effect(const shader_program& reading) const;
    // Whether that counts from now on; at first it is passed over.
    void judge_alpha(beyond_one how);
    // Whether one mistake of the catalogue, the same in all scenes, explains what is off under a reading that
    // can be drawn. False after so many tries.
    bool one_mistake_explains(const shader_program& reading, std::size_t tries);
    // Numbers of which one would bring the pictures nearer to right ones.
    [[nodiscard]] std::vector<verify::needed_number> nearest_numbers(const shader_program& reading) const;
};

} // namespace yurvo::inline v0_1::program
