#include "program/guess_text.hpp"

#include <fmt/format.h>

#include "program/guess_numbers.hpp"

namespace yurvo::inline v0_1::program {

namespace {

std::string toml_key(const std::string& name) {
    const bool plain =
        name.find_first_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-") ==
        std::string::npos;
    return plain ? name : "\"" + name + "\"";
}

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
    const shader_program& of_;
    const std::map<std::string, std::string>& how_;
    std::string text_;

    [[nodiscard]] std::string comment_of(const std::string& key) const {
        const auto found = how_.find(key);
        return found == how_.end() || found->second.empty() ? "" : " # " + found->second;
    }
    void line(const std::string& key, const std::string& value) {
        text_ += key + " = " + value + comment_of(key) + "\n";
    }
    template <class Enum> void word(const std::string& key, Enum value) {
        line(key, "\"" + std::string(name_of(value)) + "\"");
    }

  public:
    guess_writer(const shader_program& of, const std::map<std::string, std::string>& how)
        : of_(of), how_(how) {}

    // From `format` on.
    std::string text(const std::array<std::string, 2>& stages) {
        const shader_program& of = of_;
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
                                 comment_of(about_constant(each.quantity)));
        }
    }
};

} // namespace

std::string written_guess(const settled_guess& settled, const std::array<std::string, 2>& stages) {
    std::string text =
        settled.off == 0 && settled.alpha_beyond ? "# A guess, settled by drawing: its colours are right on "
                                                   "small scenes, its alpha, above 1 in places, is not.\n"
                                                   "# Look through every line.\n"
        : settled.off == 0
            ? "# A guess, settled by drawing: it is right on small scenes. Look through every line.\n"
            : "# A guess, settled by drawing as far as it goes: it is not right yet. Look through "
              "every line.\n";
    for (const std::string& id : settled.omitted) {
        if (!id.empty()) {
            text += "# One line claims what would otherwise be the mistake " + id +
                    ": keep it only if it is meant.\n";
        }
    }
    return text + guess_writer(settled.program, settled.how).text(stages);
}

std::string written_claim(const shader_program& of) { return guess_writer(of, {}).text({}); }

} // namespace yurvo::inline v0_1::program
