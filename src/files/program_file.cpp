#include "yurvo/files/program_file.hpp"

#include "files/formula_reader.hpp"
#include "files/model_reader.hpp"
#include "files/toml_section.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/whole_file.hpp"

namespace yurvo {

using files::section;
using files::value_places;

namespace {

constexpr std::size_t largest_program_file = std::size_t{1} << 20U;
constexpr std::size_t largest_source = std::size_t{4} << 20U;

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
        try {
            const std::string path = beside(path_, into.file);
            into.source = read_whole(path, largest_source);
            into.file = path;
        } catch (const error& failed) {
            from.fail(key, "`" + into.file + "` " + failed.wrong(), "a source beside this file");
        }
    }

    void read_claims(section& from) {
        made_.model = model_kind::blinn_phong;
        own_name_ = files::read_model(from, own_, made_.model);
        from.read_enum("rate", made_.rate);
        from.read_enum("ambient_rule", made_.ambient_rule);
        from.read_enum("scale", made_.scale);
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
            from.read_wholes("lights", few_and_many);
            if (few_and_many[0] < 0 || few_and_many[0] > few_and_many[1]) {
                from.fail("lights", "the fewest are more than the most",
                          "lights = [FEWEST, MOST], such as [1, 8]");
            }
            made_.lights = few_and_many;
        }
        if (made_.in_order && !made_.kinds) {
            from.fail("in_order", "`in_order` has no order of kinds to keep", "kinds = [...] as well");
        }
        if (made_.model == model_kind::cel && made_.rate != rate::fragment) {
            from.fail("rate", "the model `cel` is evaluated per fragment only", "rate = \"fragment\"");
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
        root.only({"format",   "title",    "language",   "vertex",   "fragment",     "output",
                   "clip",     "limit",    "model",      "rate",     "ambient_rule", "kinds",
                   "lights",   "in_order", "falloff",    "penumbra", "scale",        "ambient_follows",
                   "formulas", "numbers",  "attributes", "uniforms"});
        for (const auto& [key, right] :
             {std::pair{"format", "format = 1, the version of this file's format"},
              {"language", "language = \"glsl\", \"glsl-es\", \"glsl-vulkan\" or \"hlsl\""},
              {"vertex", "the vertex stage's source beside this file"},
              {"fragment", "the fragment stage's source beside this file"},
              {"model", "the model that it is to equal, such as model = \"blinn-phong\""},
              {"rate", "the rate that it works at: \"face\", \"vertex\" or \"fragment\""}}) {
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
        static const std::vector<std::string_view> attributes{"position", "normal", "texcoord", "color"};
        for (const shader_binding& binding : made_.attributes) {
            const std::string* word =
                binding.means.size() == 1 ? std::get_if<std::string>(&binding.means.front()) : nullptr;
            if (word == nullptr ||
                std::find(attributes.begin(), attributes.end(), *word) == attributes.end()) {
                throw error(binding.where, "`" + binding.name + "` means no attribute", listed(attributes));
            }
        }
        return made_;
    }
};

} // namespace

shader_program read_program(const std::string& path, const models* own) {
    const std::string text = read_whole(path, largest_program_file);
    value_places places(path);
    return program_reader(places, path, own).read(files::parse_toml(text, path, places));
}

} // namespace yurvo
