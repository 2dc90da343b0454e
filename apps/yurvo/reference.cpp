// The pages of docs/reference that are made from the lists: what a list holds is written nowhere twice.
#include "reference.hpp"

#include <fmt/format.h>

#include "yurvo/formula/formula_set.hpp"
#include "yurvo/formula/function_list.hpp"
#include "yurvo/program/quantity_names.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/shape_list.hpp"
#include "yurvo/shading/choices.hpp"
#include "yurvo/shading/falloff_list.hpp"
#include "yurvo/shading/penumbra_list.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::app {

namespace {

const char* const written = "Written by `yurvo manual` from the lists of the tool itself.\n";

// In a cell of a table a stroke would end it.
std::string in_cell(std::string_view text) {
    std::string result;
    for (const char each : text) {
        result += each == '|' ? "\\|" : std::string(1, each);
    }
    return result;
}

// A law's places, {d} and the like, as people write them.
std::string as_written(std::string law) {
    for (const auto& [place, words] : {std::pair{"{cosine}", "(cos θ)"}, std::pair{"{outer}", "cos outer"}}) {
        const std::size_t at = law.find(place);
        law = at == std::string::npos ? law : law.replace(at, std::string_view(place).size(), words);
    }
    std::string result;
    for (const char each : law) {
        if (each != '{' && each != '}') {
            result += each;
        }
    }
    return in_cell(result);
}

std::string keys_of(const falloff_descriptor& law) {
    return law.coefficients ? "`coefficients`" : law.range ? "`range`" : "";
}

std::string keys_of(const penumbra_descriptor& law) {
    return std::string("`outer`") + (law.ramped ? ", `inner`" : "") + (law.exponent ? ", `exponent`" : "");
}

std::string number_text(double number) { return fmt::format("{}", number); }

std::string values_page() {
    std::string page = "# What a scene file may name\n\n" + std::string(written) +
                       "Every key with its range and default: [the scene file](../scene-file.md).\n\n"
                       "## Models\n\n| `model` | terms that are summed | looks at the eye | rates |\n| --- | "
                       "--- | --- | --- |\n";
    for (const model_descriptor& model : model_list) {
        page += fmt::format("| `{}` | {} | {} | {} |\n", model.name,
                            !model.sums_terms ? "none"
                            : model.specular  ? "ambient, diffuse, specular"
                                              : "ambient, diffuse",
                            model.looks_at_eye ? "yes" : "no",
                            model.fragment_only ? "fragment" : "face, vertex, fragment");
    }
    page +=
        "\n## Falloffs\n\nOver the distance d in metres.\n\n| `falloff` | | keys |\n| --- | --- | --- |\n";
    for (const falloff_descriptor& law : falloff_list) {
        page += fmt::format("| `{}` | {} | {} |\n", law.name, as_written(std::string(law.law)), keys_of(law));
    }
    page += "\n## Penumbras\n\nOver the angle θ to a spot's axis, with t = clamp((cos θ − cos outer) / (cos "
            "inner − cos "
            "outer), 0, 1).\n\n| `penumbra` | | keys | largest `outer`, degrees |\n| --- | --- | --- | --- "
            "|\n";
    for (const penumbra_descriptor& law : penumbra_list) {
        page += fmt::format("| `{}` | {} | {} | {} |\n", law.name,
                            law.kind == penumbra_kind::hard ? "1 where cos θ ≥ cos outer, else 0"
                                                            : as_written(std::string(law.law)),
                            keys_of(law), number_text(law.most_outer));
    }
    page += "\n## Shapes\n\n| `shape` | sizes, metres | `cells`, by default |\n| --- | --- | --- |\n";
    for (const shape_descriptor& shape : shape_list()) {
        std::string sizes;
        for (const shape_size& size : shape.sizes) {
            any_shape made = shape.make();
            const size_numbers numbers = size.of(made);
            std::string all;
            for (const double* const number : numbers) {
                all += (all.empty() ? "" : ", ") + number_text(*number);
            }
            sizes += fmt::format("{}`{}`{}", sizes.empty() ? "" : ", ", size.key,
                                 size.has_default ? " (" + all + ")" : "");
        }
        for (const std::string_view key : shape.other_keys) {
            sizes += fmt::format("{}`{}`", sizes.empty() ? "" : ", ", key);
        }
        std::string cells;
        if (shape.cells.of != nullptr) {
            any_shape made = shape.make();
            const std::uint32_t* const two = shape.cells.of(made);
            cells = fmt::format("{}, {}", two[0], two[1]);
        }
        page += fmt::format("| `{}` | {} | {} |\n", shape.name, sizes, cells);
    }
    page += "\nA number in brackets is the default; a size without one is required.\n";
    return page;
}

const char* type_text(const formulas::value_type& type) {
    return type.truth ? "bool" : type.width == 3 ? "vec3" : "float";
}

std::string takes_text(const formulas::function_descriptor& known) {
    std::string text;
    for (std::size_t i = 0; i < known.takes.size(); ++i) {
        const char* const one = known.takes[i] == '3' ? "vec3" : known.takes[i] == 's' ? "T or float" : "T";
        text += fmt::format("{}{}{}", i == 0 ? "" : ", ", one,
                            known.fewest != 0 && i >= known.fewest ? " (may be left out)" : "");
    }
    return text;
}

std::string formulas_page() {
    std::string page = "# Formulas: places, names, functions\n\n" + std::string(written) +
                       "How they are used: [formulas of your own](../formulas.md).\n\n## Places\n\n| key | "
                       "gives | asked | in "
                       "the place of |\n| --- | --- | --- | --- |\n";
    for (const formulas::slot_descriptor& place : formulas::slot_list) {
        page += fmt::format("| `{}` | {} | {} | {} |\n", place.name,
                            place.may_be_number && place.may_be_vector ? "float or vec3"
                            : place.may_be_number                      ? "float"
                                                                       : "vec3",
                            place.of_light ? "for each light" : "once", in_cell(place.replaces));
    }
    page +=
        "\n## Names\n\nAll vectors are in world space. A scene's own `[numbers]` are known everywhere.\n\n| "
        "name | | |\n| --- | --- | --- |\n";
    for (const formulas::input_descriptor& known : formulas::input_list) {
        page += fmt::format("| `{}` | {} | {} |\n", known.name, type_text(known.type), in_cell(known.means));
    }
    page += "\n## Functions\n\nAs GLSL has them. T is float, vec2, vec3 or vec4, the same throughout.\n\n| "
            "function | takes | gives |\n| --- | --- | --- |\n";
    for (const formulas::function_descriptor& known : formulas::function_list) {
        page += fmt::format("| `{}` | {} | {} |\n", known.name, takes_text(known),
                            known.gives_number           ? "float"
                            : known.takes.front() == '3' ? "vec3"
                                                         : "T");
    }
    return page;
}

std::string quantities_page() {
    std::string page =
        "# What a shader's names may mean\n\n" + std::string(written) +
        "How a program file uses them: [your shader](../programs.md).\n\n## Of the object, the view and the "
        "material\n\n";
    for (const std::string_view name : scene_quantity_names()) {
        page += fmt::format("- `{}`\n", name);
    }
    page += "\n## Of lights\n\nAfter `lights[i].`, `lights[*].`, `lights.NAME.` or a set such as "
            "`lights.spot[*].`\n\n| | "
            "numbers | directional | point | spot |\n| --- | --- | --- | --- | --- |\n";
    for (const light_quantity_name& known : light_quantity_names()) {
        page += fmt::format("| `{}` | {}", known.name, known.numbers);
        for (const bool has : known.kinds) {
            page += has ? " | yes" : " | ";
        }
        page += " |\n";
    }
    return page;
}

std::string mistakes_page() {
    std::string page = "# Mistakes\n\n" + std::string(written) +
                       "Each with its pair of pictures: [all mistakes](../mistakes.md).\n";
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        page +=
            fmt::format("\n## {}\n\n- the computation: {}\n- how it looks: {}\n- why: {}\n- the fix: `{}`\n- "
                        "where: {}\n- revealed by:",
                        entry.id, in_cell(entry.what), in_cell(entry.symptom), in_cell(entry.cause),
                        entry.fix, in_cell(entry.applies_to));
        for (const std::string_view scene : entry.scenes) {
            page += fmt::format(" `{}`", scene);
        }
        page += "\n";
    }
    return page;
}

} // namespace

std::vector<std::pair<std::string, std::string>> reference_pages() {
    return {{"values.md", values_page()},
            {"formulas.md", formulas_page()},
            {"quantities.md", quantities_page()},
            {"mistakes.md", mistakes_page()}};
}

} // namespace yurvo::app
