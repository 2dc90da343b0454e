// starter_lighting: the lighting of starters, written out for one language: the laws, the lights, the
// formulas in the places of parts of a model, and the stages' marks that they take the place of.
#pragma once

#include <string>
#include <string_view>

#include "yurvo/formula/print.hpp"
#include "yurvo/program/starters.hpp"

namespace yurvo::inline v0_1::program {

// A file that starters are made of, with the numbers of the laws. Throws yurvo::error where it is not there.
std::string starter(std::string_view name);
// Every `mark` in the text becomes `with`.
void replace(std::string& text, const std::string& mark, const std::string& with);
// `@both:A|D@`: ambient and diffuse, put together by the ambient rule.
void put_together(std::string& text, const shading_choice& shading);

// What the lighting's code calls things in one language.
struct names {
    std::string eye, axis, count, lamps, shininess, ambient, diffuse, specular, emission, base, before_number;
    formulas::written_in language = formulas::written_in::glsl;
};

// The formulas of a choice, written out for one language.
class formula_code {
    const names& called_;
    formulas::formula_set set_;
    bool v_of_light_ = false;

    [[nodiscard]] std::string name_of_input(std::uint32_t index) const {
        using formulas::input;
        if (index >= formulas::input_count) {
            return called_.before_number + set_.numbers[index - formulas::input_count].name;
        }
        switch (static_cast<input>(index)) {
        case input::eye:
            return called_.eye;
        case input::axis:
            return called_.axis;
        case input::base:
            return called_.base;
        case input::light_color:
            return "(lamp.color * lamp.intensity)";
        case input::coefficients:
        case input::range:
        case input::cos_inner:
        case input::cos_outer:
        case input::inner:
        case input::outer:
        case input::exponent:
            return "lamp." + std::string(formulas::input_list[index].name);
        case input::material_ambient:
            return called_.ambient;
        case input::material_diffuse:
            return called_.diffuse;
        case input::material_specular:
            return called_.specular;
        case input::emission:
            return called_.emission;
        case input::shininess:
            return called_.shininess;
        case input::pi:
            return "3.14159265";
        default:
            return std::string(formulas::input_list[index].name);
        }
    }

  public:
    formula_code(const starter_choice& chosen, const names& called)
        : called_(called), set_(parse_all(chosen.formulas, chosen.numbers)) {
        using formulas::input;
        if (set_.has(formulas::slot::v)) {
            for (const formulas::input_descriptor& each : formulas::input_list) {
                const bool of_light = each.how == formulas::varies::by_light ||
                                      each.how == formulas::varies::by_point_and_light;
                v_of_light_ =
                    v_of_light_ || (of_light && set_[formulas::slot::v]->uses(index_of(each.which)));
            }
        }
        if (uses(input::front) && chosen.rate != rate::fragment) {
            throw error({"front", 0, 0}, "a vertex stage does not know which way a triangle faces",
                        "rate = \"fragment\", or a formula without `front`");
        }
    }

    [[nodiscard]] bool has(formulas::slot which) const { return set_.has(which); }
    [[nodiscard]] bool uses(formulas::input which) const { return set_.uses(which); }
    [[nodiscard]] bool any(std::initializer_list<formulas::slot> of, formulas::input which) const {
        return std::any_of(of.begin(), of.end(), [&](formulas::slot each) {
            return set_.has(each) && set_[each]->uses(index_of(which));
        });
    }
    [[nodiscard]] std::string text(formulas::slot which) const {
        return printed(*set_[which], called_.language, [&](std::uint32_t i) { return name_of_input(i); });
    }
    // The statement `NAME = formula;` at an indentation.
    [[nodiscard]] std::string set(const std::string& indent, const std::string& name,
                                  formulas::slot which) const {
        return indent + name + " = " + text(which) + ";\n";
    }
    [[nodiscard]] bool v_of_light() const { return v_of_light_; }
    [[nodiscard]] const std::vector<formulas::named_number>& numbers() const { return set_.numbers; }
    [[nodiscard]] bool needs(formulas::slot direction, formulas::input which) const {
        return has(direction) || uses(which);
    }
};

// The code is written in GLSL's words; formulas come in their own language already.
std::string in_language(std::string text, formulas::written_in language);
// The functions that light a point.
std::string lighting(const starter_choice& chosen, const names& called, const formula_code& code);
// What a stage that lights puts around the lighting: what it gives, what is asked once, the curve.
void put_formulas(std::string& text, const names& called, const formula_code& code);
// Which side of a triangle is seen: as the driver says.
void put_facing(std::string& text, const formula_code& code, const std::string& facing,
                const std::string& input = "");
// Numbers of one's own as members or uniforms, each on a line.
std::string number_lines(const formula_code& code, const std::string& before, const std::string& name,
                         formulas::written_in language);

} // namespace yurvo::inline v0_1::program
