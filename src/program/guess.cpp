#include "yurvo/program/guess.hpp"

#include <algorithm>

#include <fmt/format.h>

#include "program/bindings.hpp"
#include "program/driver_process.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/guess_trying.hpp"
#include "program/source_text.hpp"
#include "program/translate.hpp"

namespace yurvo::inline v0_1 {

namespace {

using namespace program;

linked_program link(const shader_program& the_program, translated_program& translated,
                    bool as_declared = false) {
    translated = translate(the_program, as_declared);
    const driver_process driver(translated.sources, the_program.limit);
    if (driver.linked().failed_stage != 0) {
        throw complaint_of(the_program, driver.linked());
    }
    return driver.linked();
}

std::string toml_key(const std::string& name) {
    const bool plain =
        name.find_first_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-") ==
        std::string::npos;
    return plain ? name : "\"" + name + "\"";
}

} // namespace

guessed_bindings guess_bindings(const shader_program& the_program) {
    translated_program translated;
    const linked_program linked = link(the_program, translated);
    guessed_bindings result;
    const std::string text = the_program.language == shading_language::spirv
                                 ? ""
                                 : without_comments(the_program.vertex.source) + "\n" +
                                       without_comments(the_program.fragment.source);
    for (const active_attribute& attribute : linked.attributes) {
        const auto semantic = translated.attribute_names.find(attribute.name);
        const std::string name =
            semantic == translated.attribute_names.end() ? attribute.name : semantic->second;
        result.attributes.push_back({name, shape_of(attribute.type).name, likely_attribute(name), ""});
    }
    for (const active_uniform& uniform : linked.uniforms) {
        if (uniform.block >= 0 && !reads(translated.sources, uniform.name)) {
            continue; // it may stay unbound
        }
        std::string name = uniform.name;
        const std::size_t open = name.find('[');
        if (open != std::string::npos) {
            const std::size_t close = name.find(']', open);
            name = name.substr(0, open) + "[*]" + name.substr(close + 1);
        }
        const bool known = std::any_of(result.uniforms.begin(), result.uniforms.end(),
                                       [&](const guessed_name& other) { return other.name == name; });
        if (!known) {
            const type_shape shape = shape_of(uniform.type);
            guessed_name guessed{name, shape.name, likely_uniform(name, shape), ""};
            if (shape.components > 1 && shape.matrix == 0 && !shape.whole) {
                guessed.alone = components_alone(text, name);
                guessed.means = guessed.alone.empty() || !says_only_numbers(name) ? guessed.means : "";
            }
            guessed.means = means_by_use(text, guessed);
            result.uniforms.push_back(std::move(guessed));
        }
    }
    tell_lights_apart(result.uniforms);
    return result;
}

std::vector<block_member> block_members(const shader_program& the_program) {
    translated_program translated;
    const linked_program linked = link(the_program, translated, true);
    std::vector<block_member> result;
    for (const active_uniform& uniform : linked.uniforms) {
        if (uniform.block < 0) {
            continue;
        }
        const type_shape shape = shape_of(uniform.type);
        const std::string& block = linked.blocks[static_cast<std::size_t>(uniform.block)].name;
        std::string name = uniform.name;
        if (name.starts_with(block + ".")) {
            name = name.substr(block.size() + 1);
        }
        result.push_back({block, name, shape.name, uniform.offset, 0, shape.components, shape.matrix,
                          uniform.matrix_stride});
    }
    std::stable_sort(result.begin(), result.end(), [](const block_member& a, const block_member& b) {
        return a.block != b.block ? a.block < b.block : a.offset < b.offset;
    });
    // Each member is judged by itself: from where the one before it ends.
    const block_member* before = nullptr;
    for (block_member& each : result) {
        if (before != nullptr && before->block == each.block) {
            each.plain_offset = before->offset + (before->matrix > 0 ? before->matrix * before->matrix_stride
                                                                     : before->components * 4);
        }
        before = &each;
    }
    return result;
}

namespace {

std::string written(const shader_binding& binding) {
    const auto one = [](const std::variant<double, std::string>& means) {
        const double* number = std::get_if<double>(&means);
        return number != nullptr ? fmt::format("{:.9g}", *number)
                                 : "\"" + std::get<std::string>(means) + "\"";
    };
    if (binding.means.size() == 1) {
        return one(binding.means.front());
    }
    std::string list;
    for (const auto& means : binding.means) {
        list += (list.empty() ? "" : ", ") + one(means);
    }
    return "[" + list + "]";
}

template <class Enum> std::string word_list(const std::vector<Enum>& words) {
    std::string list;
    for (const Enum each : words) {
        list += (list.empty() ? "\"" : ", \"") + std::string(name_of(each)) + "\"";
    }
    return "[" + list + "]";
}

class guess_writer {
    const settled_guess& settled_;
    std::string text_;

    [[nodiscard]] std::string comment_of(const std::string& key) const {
        const auto found = settled_.how.find(key);
        return found == settled_.how.end() || found->second.empty() ? "" : " # " + found->second;
    }
    void line(const std::string& key, const std::string& value) {
        text_ += key + " = " + value + comment_of(key) + "\n";
    }
    template <class Enum> void word(const std::string& key, Enum value) {
        line(key, "\"" + std::string(name_of(value)) + "\"");
    }

  public:
    explicit guess_writer(const settled_guess& settled) : settled_(settled) {}

    std::string text(const std::array<std::string, 2>& stages) {
        const shader_program& of = settled_.program;
        text_ = settled_.off == 0
                    ? "# A guess, settled by drawing: it is right on small scenes. Look through every line.\n"
                    : "# A guess, settled by drawing as far as it goes: it is not right yet. Look through "
                      "every line.\n";
        for (const std::string& id : settled_.omitted) {
            if (!id.empty()) {
                text_ += "# One line claims what else would be the mistake " + id +
                         ": keep it only if it is meant.\n";
            }
        }
        text_ += "format = 1\n";
        word("language", of.language);
        text_ += "vertex = " + stages[0] + "\nfragment = " + stages[1] + "\n";
        if (of.output != output_kind::linear) {
            word("output", of.output);
        }
        if (of.clip != clip_space::gl) {
            word("clip", of.clip);
        }
        text_ += "\n# What it is to equal.\n";
        word("model", of.model);
        word("rate", of.rate);
        const shader_program usual;
        if (of.ambient_rule != usual.ambient_rule) {
            word("ambient_rule", of.ambient_rule);
        }
        if (of.kinds) {
            line("kinds", word_list(*of.kinds));
        }
        if (of.falloffs) {
            line("falloff", word_list(*of.falloffs));
        }
        if (of.penumbras) {
            line("penumbra", word_list(*of.penumbras));
        }
        if (of.lights) {
            text_ += fmt::format("lights = [{}, {}]\n", (*of.lights)[0], (*of.lights)[1]);
        }
        if (of.scale != usual.scale) {
            word("scale", of.scale);
        }
        if (of.normals != usual.normals) {
            word("normals", of.normals);
        }
        if (of.follows != usual.follows) {
            word("ambient_follows", of.follows);
        }
        if (!of.without.empty()) {
            std::string list;
            for (const std::string& each : of.without) {
                list += (list.empty() ? "\"" : ", \"") + each + "\"";
            }
            text_ += "without = [" + list + "] # is that meant?\n";
        }
        write_formulas(of);
        write_numbers(of);
        write_constants(of);
        text_ += "\n[attributes]\n";
        for (const shader_binding& each : of.attributes) {
            text_ += toml_key(each.name) + " = " + written(each) + "\n";
        }
        text_ += "\n[uniforms]\n";
        for (const shader_binding& each : of.uniforms) {
            text_ += toml_key(each.name) + " = " + written(each) + comment_of(each.name) + "\n";
        }
        return text_;
    }

  private:
    void write_formulas(const shader_program& of) {
        if (!of.formulas.any()) {
            return;
        }
        text_ += "\n[formulas]\n";
        for (const formulas::slot_descriptor& each : formulas::slot_list) {
            if (of.formulas.has(each.which)) {
                text_ += std::string(each.name) + " = \"" + of.formulas[each.which] + "\"" +
                         comment_of(std::string(each.name)) + "\n";
            }
        }
    }
    void write_numbers(const shader_program& of) {
        text_ += of.numbers.empty() ? "" : "\n[numbers]\n";
        for (const formulas::named_number& each : of.numbers) {
            std::string list;
            for (const double number : each.values) {
                list += fmt::format("{}{:.9g}", list.empty() ? "" : ", ", number);
            }
            text_ += each.name + " = " + (each.values.size() == 1 ? list : "[" + list + "]") + "\n";
        }
    }
    void write_constants(const shader_program& of) {
        if (of.constants.empty()) {
            return;
        }
        text_ += "\n[constants]\n";
        for (const shader_constant& each : of.constants) {
            std::string numbers;
            for (const double number : each.numbers) {
                numbers += fmt::format("{}{:.9g}", numbers.empty() ? "" : ", ", number);
            }
            text_ += fmt::format("\"{}\" = {}{}\n", each.quantity,
                                 each.numbers.size() == 1 ? numbers : "[" + numbers + "]",
                                 comment_of("[constants] " + each.quantity));
        }
    }
};

} // namespace

guessed_program guess_program(const shader_program& the_program, const std::array<std::string, 2>& beside,
                              const std::function<void(const std::string&)>& tell) {
    const auto stage = [&](const shader_stage& stage_here, const std::string& file) {
        return the_program.language == shading_language::hlsl ||
                       the_program.language == shading_language::spirv
                   ? "{ file = \"" + file + "\", entry = \"" + stage_here.entry + "\" }"
                   : "\"" + file + "\"";
    };
    const settled_guess settled = settle(the_program, guess_bindings(the_program), tell);
    guessed_program result;
    result.text = guess_writer(settled).text(
        {stage(the_program.vertex, beside[0]), stage(the_program.fragment, beside[1])});
    result.right = settled.off == 0;
    for (const auto& [name, how] : settled.how) {
        result.unsure += how.starts_with("open") ? 1U : 0U;
    }
    return result;
}

} // namespace yurvo::inline v0_1
