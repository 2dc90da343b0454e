#include "yurvo/files/program_file.hpp"

#include <algorithm>
#include <cmath>

#include "files/formula_reader.hpp"
#include "files/model_reader.hpp"
#include "files/toml_section.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo::inline v0_1 {

using files::section;
using files::value_places;

namespace {

constexpr std::size_t largest_program_file = std::size_t{1} << 20U;

template <class Enum> std::vector<Enum> words_of(section& from, std::string_view key) {
    std::vector<Enum> result;
    const toml::node* node = from.find(key);
    const toml::array* list = node->as_array();
    if (list == nullptr || list->empty()) {
        from.fail(key, "`" + std::string(key) + "` is not a list of words", listed(all_names<Enum>()));
    }
    for (const toml::node& item : *list) {
        const std::optional<std::string> word = item.value<std::string>();
        const std::optional<Enum> known = word ? from_name<Enum>(*word) : std::nullopt;
        if (!known) {
            from.fail(key, "`" + word.value_or("?") + "` is not known", listed(all_names<Enum>()));
        }
        result.push_back(*known);
    }
    return result;
}

class program_reader {
    value_places& places_;
    std::string path_;
    const models* own_;
    std::string own_name_; // of the C++ model that is claimed; empty where a built-in one is
    shader_program made_;

    void read_stage(section& from, const char* key, shader_stage& into) {
        const toml::node* node = from.find(key);
        if (const toml::table* table = node->as_table()) {
            section own(*table, key, places_);
            own.only({"file", "entry"});
            own.require("file", "for a stage",
                        "the source beside this file, such as file = \"lantern.hlsl\"");
            own.read("file", into.file);
            own.read("entry", into.entry);
        } else {
            from.read(key, into.file);
        }
        const std::string path = beside(path_, into.file);
        try {
            const std::string entry = into.entry;
            into = yurvo::read_stage(path, made_.language);
            into.entry = entry;
        } catch (const error& failed) {
            if (failed.where().file != path || failed.where().line > 0) {
                throw; // of what it includes
            }
            from.fail(key, "`" + into.file + "` " + failed.wrong(), "a source beside this file");
        }
    }

    void read_claims(section& from) {
        made_.model = model_kind::blinn_phong;
        own_name_ = files::read_model(from, own_, made_.model);
        from.read_enum("rate", made_.rate);
        from.read_enum("ambient_rule", made_.ambient_rule);
        from.read_enum("scale", made_.scale);
        from.read_enum("normals", made_.normals);
        from.read_enum("ambient_follows", made_.follows);
        from.read("in_order", made_.in_order);
        if (from.has("kinds")) {
            made_.kinds = words_of<light_kind>(from, "kinds");
        }
        if (from.has("falloff")) {
            made_.falloffs = words_of<falloff_kind>(from, "falloff");
        }
        if (from.has("penumbra")) {
            made_.penumbras = words_of<penumbra_kind>(from, "penumbra");
        }
        if (from.has("lights")) {
            std::array<int, 2> few_and_many{};
            from.read_wholes("lights", few_and_many, 0);
            if (few_and_many[0] < 0 || few_and_many[0] > few_and_many[1]) {
                from.fail("lights", "the fewest are more than the most",
                          "lights = [FEWEST, MOST], such as [1, 8]");
            }
            made_.lights = few_and_many;
        }
        if (made_.in_order && !made_.kinds) {
            from.fail("in_order", "`in_order` has no order of kinds to keep", "kinds = [...] as well");
        }
        if (made_.rate == rate::face) {
            from.fail(
                "rate", "a shader has no rate `face`",
                "rate = \"fragment\" with normals = \"face\", for normals worked out from the triangle");
        }
        if (made_.model == model_kind::cel && made_.rate != rate::fragment) {
            from.fail("rate", "the model `cel` is evaluated per fragment only", "rate = \"fragment\"");
        }
    }

    // Its own numbers for the words of one of our lists.
    template <class Enum, std::size_t Count>
    void read_word_numbers(section& root, const char* key, std::array<int, Count>& into) {
        const toml::node* node = root.find(key);
        if (node == nullptr) {
            return;
        }
        const toml::table* table = node->as_table();
        if (table == nullptr) {
            root.fail(key, "it is not a table",
                      std::string(key) + " = { " + std::string(all_names<Enum>().front()) + " = 1, ... }");
        }
        section own(*table, key, places_);
        own.only(all_names<Enum>());
        for (const std::string_view name : all_names<Enum>()) {
            int& number = into[static_cast<std::size_t>(*from_name<Enum>(name))];
            int read[1] = {number};
            if (own.has(name)) {
                const std::optional<std::int64_t> whole =
                    own.find(name)->template value_exact<std::int64_t>();
                if (!whole || *whole < -1'000'000 || *whole > 1'000'000) {
                    own.fail(name, "`" + std::string(name) + "` is no whole number", "such as 1");
                }
                read[0] = static_cast<int>(*whole);
            }
            number = read[0];
        }
    }

    void read_without(section& root) {
        const toml::node* node = root.find("without");
        if (node == nullptr) {
            return;
        }
        static const std::vector<std::string_view> essentials{"ambient", "light.color", "light.intensity",
                                                              "material.base", "material.specular"};
        const toml::array* list = node->as_array();
        if (list == nullptr) {
            root.fail("without", "it is not a list of essentials", listed(essentials));
        }
        for (const toml::node& item : *list) {
            const std::optional<std::string> word = item.value_exact<std::string>();
            if (!word || std::find(essentials.begin(), essentials.end(), *word) == essentials.end()) {
                throw error(places_.at(item.source()),
                            word ? "`" + *word + "` is no essential" : "it is no text", listed(essentials));
            }
            made_.without.push_back(*word);
        }
    }

    // Constants by quantity; dotted keys mean the same with and without quotes.
    void read_constants(const toml::table& table, const std::string& before) {
        for (const auto& [key, node] : table) {
            const std::string name = before + std::string(key.str());
            if (const toml::table* deeper = node.as_table()) {
                read_constants(*deeper, name + ".");
                continue;
            }
            shader_constant constant{name, {}, places_.at(node.source())};
            const auto add = [&](const toml::node& item) {
                if (const std::optional<bool> truth = item.value_exact<bool>()) {
                    constant.numbers.push_back(*truth ? 1 : 0);
                    return;
                }
                const std::optional<double> number = item.is_number() ? item.value<double>() : std::nullopt;
                if (!number || !std::isfinite(*number)) {
                    throw error(places_.at(item.source()), "`" + name + "` is no finite number",
                                "a number, or a list of them");
                }
                constant.numbers.push_back(*number);
            };
            if (const toml::array* list = node.as_array()) {
                for (const toml::node& item : *list) {
                    if (const toml::array* inner = item.as_array()) { // bands are colours
                        for (const toml::node& component : *inner) {
                            add(component);
                        }
                    } else {
                        add(item);
                    }
                }
            } else {
                add(node);
            }
            if (constant.numbers.empty()) {
                throw error(constant.where, "`" + name + "` has no numbers", "a number, or a list of them");
            }
            made_.constants.push_back(std::move(constant));
        }
    }

    void add_bindings(const toml::table& table, const std::string& section_name, const std::string& before,
                      std::vector<shader_binding>& into) {
        for (const auto& [key, node] : table) {
            const std::string name = before + std::string(key.str());
            // Dotted keys mean the same with and without quotes.
            if (const toml::table* deeper = node.as_table()) {
                add_bindings(*deeper, section_name, name + ".", into);
                continue;
            }
            shader_binding binding{name, {}, places_.at(node.source())};
            const auto add = [&](const toml::node& item) {
                if (const std::optional<std::string> word = item.value_exact<std::string>()) {
                    binding.means.emplace_back(*word);
                } else if (const std::optional<bool> truth = item.value_exact<bool>()) {
                    binding.means.emplace_back(*truth ? 1.0 : 0.0);
                } else if (const std::optional<double> number = item.value<double>()) {
                    binding.means.emplace_back(*number);
                } else {
                    throw error(binding.where, "`" + name + "` means no quantity and no number",
                                "a quantity in quotes, a number, or a list of them");
                }
            };
            if (const toml::array* list = node.as_array()) {
                for (const toml::node& item : *list) {
                    add(item);
                }
            } else {
                add(node);
            }
            if (binding.means.empty()) {
                throw error(binding.where, "`" + name + "` means nothing",
                            "a quantity, a number, or a list of them");
            }
            into.push_back(std::move(binding));
        }
    }

  public:
    program_reader(value_places& places, std::string path, const models* own)
        : places_(places), path_(std::move(path)), own_(own) {}

    shader_program read(const toml::table& table) {
        section root(table, "", places_);
        for (const char* stage : {"geometry", "tessellation", "tess_control", "tess_evaluation", "compute"}) {
            if (table.contains(stage)) {
                root.find(stage);
                root.fail(stage,
                          "a program has a vertex and a fragment stage, and no " + std::string(stage) +
                              " stage",
                          "a vertex stage that hands the fragment stage what it needs");
            }
        }
        root.only({"format",       "title",        "language",        "vertex",          "fragment",
                   "output",       "clip",         "limit",           "model",           "rate",
                   "ambient_rule", "kinds",        "lights",          "in_order",        "falloff",
                   "penumbra",     "scale",        "ambient_follows", "formulas",        "numbers",
                   "attributes",   "uniforms",     "gamma",           "normals",         "without",
                   "constants",    "kind_numbers", "falloff_numbers", "penumbra_numbers"});
        for (const auto& [key, right] :
             {std::pair{"format", "format = 1, the version of this file's format"},
              {"language", "language = \"glsl\", \"glsl-es\", \"glsl-vulkan\", \"hlsl\" or \"spirv\""},
              {"vertex", "the vertex stage's source beside this file"},
              {"fragment", "the fragment stage's source beside this file"},
              {"model", "the model that it is to equal, such as model = \"blinn-phong\""},
              {"rate", "the rate that it works at: \"vertex\" or \"fragment\""}}) {
            root.require(key, "", right);
        }
        const toml::node* format = root.find("format");
        if (!format->is_integer() || format->as_integer()->get() != 1) {
            root.fail("format", "the format is not one that this version reads", "format = 1");
        }
        made_.file = path_;
        root.read("title", made_.title);
        root.read_enum("language", made_.language);
        read_stage(root, "vertex", made_.vertex);
        read_stage(root, "fragment", made_.fragment);
        root.read_enum("output", made_.output);
        root.read_enum("clip", made_.clip);
        if (made_.output == output_kind::gamma) {
            root.read("gamma", made_.gamma);
            if (!(made_.gamma > 0) || made_.gamma > 10) {
                root.fail("gamma", "`gamma` is out of range", "above 0 and up to 10, such as 2.2");
            }
        } else if (root.has("gamma")) {
            root.find("gamma");
            root.fail("gamma", "`gamma` goes with output = \"gamma\" alone", "output = \"gamma\" as well");
        }
        root.read("limit", made_.limit);
        if (!(made_.limit > 0) || made_.limit > 3600) {
            root.fail("limit", "`limit` is out of range", "seconds, above 0 and up to 3600");
        }
        read_claims(root);
        files::read_formulas own = files::read_formula_sections(table, places_);
        if (own.texts.any() && !descriptor_of(made_.model).sums_terms) {
            root.fail("model", "the model `" + std::string(name_of(made_.model)) + "` takes no formulas",
                      "lambert, phong or blinn-phong, whose terms formulas can replace");
        }
        if (own.texts.any() && !own_name_.empty()) {
            root.fail("model", "the model `" + own_name_ + "` takes no formulas: it is written in C++",
                      "a built-in model, or no [formulas]");
        }
        made_.own = files::own_model_with(own_name_, own_, own.numbers, places_);
        made_.formulas = std::move(own.texts);
        made_.numbers = std::move(own.numbers);
        read_without(root);
        read_word_numbers<light_kind>(root, "kind_numbers", made_.numbered.kinds);
        read_word_numbers<falloff_kind>(root, "falloff_numbers", made_.numbered.falloffs);
        read_word_numbers<penumbra_kind>(root, "penumbra_numbers", made_.numbered.penumbras);
        if (const toml::node* node = root.find("constants")) {
            if (node->as_table() == nullptr) {
                root.fail("constants", "it is not a table", "a section that begins with [constants]");
            }
            read_constants(*node->as_table(), "");
        }
        for (const auto& [key, into] :
             {std::pair{"attributes", &made_.attributes}, {"uniforms", &made_.uniforms}}) {
            if (const toml::node* node = root.find(key)) {
                const toml::table* found = node->as_table();
                if (found == nullptr) {
                    root.fail(key, "it is not a table",
                              "a section that begins with [" + std::string(key) + "]");
                }
                add_bindings(*found, key, "", *into);
            }
        }
        for (const shader_binding& binding : made_.attributes) {
            const std::string* word =
                binding.means.size() == 1 ? std::get_if<std::string>(&binding.means.front()) : nullptr;
            if (word != nullptr && word->find_first_of(".=") == std::string::npos &&
                std::find(vertex_attributes.begin(), vertex_attributes.end(), *word) ==
                    vertex_attributes.end()) {
                std::vector<std::string_view> known(vertex_attributes.begin(), vertex_attributes.end());
                known.emplace_back("what is the same at every vertex (a quantity, numbers)");
                throw error(binding.where, "`" + binding.name + "` means no attribute", listed(known));
            }
        }
        return made_;
    }
};

} // namespace

shader_program read_program(const std::string& path, const models* own) {
    const std::string text = read_whole(path, largest_program_file);
    value_places places(path);
    for (const char* mark : {"#version", "void main", "gl_Position", "SV_Position", "cbuffer "}) {
        if (text.find("format") == std::string::npos && text.find(mark) != std::string::npos) {
            throw error(
                {path, 1, 1}, "this is a shader's source, and no program file",
                "the program file that names it; `yurvo new program DIR --from VERTEX FRAGMENT` writes one");
        }
    }
    return program_reader(places, path, own).read(files::parse_toml(text, path, places));
}

} // namespace yurvo::inline v0_1
