#include "yurvo/files/scene_file.hpp"

#include <algorithm>
#include <array>
#include <set>

#include "files/formula_reader.hpp"
#include "files/model_reader.hpp"
#include "files/object_reader.hpp"
#include "files/toml_section.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo::inline v0_1 {

using files::keys;
using files::object_reader;
using files::section;
using files::together;
using files::value_places;

namespace {

// What every light may have, whatever its kind.
const keys light_common{"name",    "kind",    "color",    "intensity",      "space",
                        "ambient", "diffuse", "specular", "ambient_follows"};

class scene_reader {
    const toml::table& root_;
    value_places& places_;
    const file_source& files_;
    std::vector<std::string>* remarks_;
    const models* own_;
    std::string own_name_; // of the C++ model that lights it; empty under a built-in one
    scene made_;

    // A table under the root, or none.
    const toml::table* table(const char* key) {
        const toml::node* node = root_.get(key);
        if (node == nullptr) {
            return nullptr;
        }
        if (const toml::table* found = node->as_table()) {
            return found;
        }
        throw error(places_.at(node->source()), "`" + std::string(key) + "` is not a table",
                    "a section that begins with [" + std::string(key) + "]");
    }

    // Calls use(section, index) for each table of a list of tables.
    template <class Use> void each(const char* key, Use&& use) {
        const toml::node* node = root_.get(key);
        if (node == nullptr) {
            return;
        }
        const std::string right = "sections that begin with [[" + std::string(key) + "]]";
        const toml::array* list = node->as_array();
        if (list == nullptr) {
            throw error(places_.at(node->source()), "`" + std::string(key) + "` is not a list of tables",
                        right);
        }
        std::size_t index = 0;
        for (const toml::node& item : *list) {
            const toml::table* entry = item.as_table();
            if (entry == nullptr) {
                throw error(places_.at(item.source()), "`" + std::string(key) + "` is not a list of tables",
                            right);
            }
            section from(*entry, std::string(key) + "[" + std::to_string(index) + "]", places_);
            use(from, index);
            ++index;
        }
    }

    void read_view() {
        const toml::table* found = table("view");
        if (found == nullptr) {
            throw error(places_.find(""), "[view] is missing", "a [view] with `eye` and `target`");
        }
        section from(*found, "view", places_);
        from.only({"eye", "target", "up", "fov", "near", "far", "size", "background", "background_alpha"});
        from.require("eye", "in [view]", "the point the view looks from, such as eye = [0, 3, 6]");
        from.require("target", "in [view]", "the point the view looks to, such as target = [0, 0, 0]");
        view& view = made_.view;
        from.read("eye", view.eye);
        from.read("target", view.target);
        from.read("up", view.up);
        from.read_angle("fov", view.fov);
        from.read("near", view.near);
        from.read("far", view.far);
        int size[2] = {view.width, view.height};
        from.read_wholes("size", size);
        view.width = size[0];
        view.height = size[1];
        from.read("background", view.background);
        from.read("background_alpha", view.background_alpha);
    }

    void read_shading() {
        const toml::table* found = table("shading");
        if (found == nullptr) {
            return;
        }
        section from(*found, "shading", places_);
        const keys common{"model", "rate", "ambient_rule"};
        const keys of_cel{"thresholds", "bands", "outline", "outline_color"};
        from.only(together(common, of_cel));
        shading_choice& shading = made_.shading;
        own_name_ = files::read_model(from, own_, shading.model);
        from.read_enum("rate", shading.rate);
        from.read_enum("ambient_rule", shading.ambient_rule);
        if (shading.model != model_kind::cel) {
            const std::string name = own_name_.empty() ? std::string(name_of(shading.model)) : own_name_;
            from.unused(common, "the model `" + name + "`");
            return;
        }
        from.read("thresholds", shading.cel.thresholds);
        from.read_bands("bands", shading.cel.bands);
        from.read("outline", shading.cel.outline);
        from.read("outline_color", shading.cel.outline_color);
    }

    void read_formulas() {
        files::read_formulas found = files::read_formula_sections(root_, places_);
        made_.formulas = std::move(found.texts);
        made_.numbers = std::move(found.numbers);
        made_.shading.own = files::own_model_with(own_name_, own_, made_.numbers, places_);
        if (const toml::node* node = root_.get("formulas")) {
            places_.remember("formulas", node->source());
        }
    }

    void read_ambient() {
        if (const toml::table* found = table("ambient")) {
            section from(*found, "ambient", places_);
            from.only({"color", "strength"});
            from.read("color", made_.ambient_color);
            from.read("strength", made_.ambient_strength);
        }
    }

    void read_materials() {
        const toml::table* found = table("materials");
        if (found == nullptr) {
            return;
        }
        for (const auto& [name, node] : *found) {
            const std::string path = "materials." + std::string(name.str());
            if (!node.is_table()) {
                throw error(places_.at(name.source()), "`" + path + "` is not a table",
                            "a section that begins with [" + path + "]");
            }
            section from(*node.as_table(), path, places_);
            from.only({"base", "texture", "alpha", "ambient", "diffuse", "specular", "shininess", "emission",
                       "two_sided"});
            named_material& material = made_.materials.emplace_back();
            material.name = name.str();
            from.read("base", material.look.base);
            from.read("alpha", material.look.alpha);
            from.read_factor("ambient", material.look.ambient);
            from.read_factor("diffuse", material.look.diffuse);
            from.read_factor("specular", material.look.specular);
            from.read("shininess", material.look.shininess);
            from.read("emission", material.look.emission);
            from.read("two_sided", material.look.two_sided);
            from.read("texture", material.texture_file);
            if (from.has("texture")) {
                material.image = load_texture(from, material.texture_file);
            }
        }
    }

    std::shared_ptr<const texture> load_texture(const section& from, const std::string& name) const {
        try {
            return std::make_shared<const texture>(read_texture(files_(name), name));
        } catch (const error& failed) {
            from.fail("texture", "the texture `" + name + "`: " + failed.wrong(),
                      "a PNG file, named relative to the scene file");
        }
    }

    // The keys that a light uses, which its kind, its falloff and its penumbra decide, and what does not use
    // the others, in words.
    struct light_keys {
        keys used;
        std::string unused_by;
    };
    light_keys keys_of_light(section& from, light& light) const {
        const bool own_falloff = made_.formulas.has(formulas::slot::falloff);
        const bool own_penumbra = made_.formulas.has(formulas::slot::penumbra);
        light_keys known{light_common, "a light of kind `" + std::string(name_of(light.kind)) + "`"};
        if (light.kind != light_kind::point) {
            known.used.push_back("shines");
        }
        if (light.kind != light_kind::directional) {
            known.used.insert(known.used.end(), {"position", "falloff"});
            from.read_enum("falloff", light.falloff);
            if (descriptor_of(light.falloff).coefficients || own_falloff) {
                known.used.push_back("coefficients");
            }
            if (descriptor_of(light.falloff).range || own_falloff) {
                known.used.push_back("range");
            }
            known.unused_by += " with falloff `" + std::string(name_of(light.falloff)) + "`";
        }
        if (light.kind == light_kind::spot) {
            known.used.insert(known.used.end(), {"outer", "penumbra"});
            from.read_enum("penumbra", light.penumbra);
            if (descriptor_of(light.penumbra).exponent || own_penumbra) {
                known.used.push_back("exponent");
            }
            if (descriptor_of(light.penumbra).ramped || own_penumbra) {
                known.used.push_back("inner");
            }
            known.unused_by += " and penumbra `" + std::string(name_of(light.penumbra)) + "`";
        }
        return known;
    }

    // Of those that are used, the ones without which there is no light.
    void require_light_keys(section& from, const light& light, const keys& used) const {
        const auto law_needs = [&](std::string_view key) {
            if (key == "coefficients" || key == "range") {
                return !made_.formulas.has(formulas::slot::falloff);
            }
            return (key != "inner" && key != "exponent") || !made_.formulas.has(formulas::slot::penumbra);
        };
        const std::string why = "for a light of kind `" + std::string(name_of(light.kind)) + "`";
        const std::string by_falloff = "for the falloff `" + std::string(name_of(light.falloff)) + "`";
        const std::string by_penumbra = "for the penumbra `" + std::string(name_of(light.penumbra)) + "`";
        const std::array<std::array<std::string, 3>, 7> required{{
            {"position", why, "its place, [x, y, z] in metres"},
            {"shines", why, "the direction in which its light travels, [x, y, z]"},
            {"coefficients", by_falloff, "three numbers, [k0, k1, k2]"},
            {"range", by_falloff, "metres, above 0"},
            {"inner", why, "a half-angle in degrees"},
            {"outer", why, "a half-angle in degrees"},
            {"exponent", by_penumbra, "a number above 0"},
        }};
        for (const std::string_view key : used) {
            for (const auto& [name, reason, right] : required) {
                if (key == name && law_needs(key)) {
                    from.require(key, reason, right);
                }
            }
        }
    }

    void read_light(section& from) {
        from.only(together(light_common, {"position", "shines", "falloff", "coefficients", "range", "inner",
                                          "outer", "penumbra", "exponent"}));
        from.require("kind", "in `" + from.path() + "`", files::quoted_list(all_names<light_kind>()));
        named_light& named = made_.lights.emplace_back();
        light& light = named.light;
        from.read_enum("kind", light.kind);
        const light_keys known = keys_of_light(from, light);
        from.unused(known.used, known.unused_by);
        require_light_keys(from, light, known.used);
        from.read("name", named.name);
        from.read("color", light.color);
        from.read("intensity", light.intensity);
        from.read_factor("ambient", light.ambient);
        from.read_factor("diffuse", light.diffuse);
        from.read_factor("specular", light.specular);
        from.read_enum("ambient_follows", light.follows);
        from.read_enum("space", named.space);
        from.read("position", light.position);
        from.read("shines", light.shines);
        if (const toml::node* node = from.find("coefficients")) {
            const std::vector<double> k =
                from.numbers("coefficients", *node, 3, "three numbers, [k0, k1, k2]");
            light.coefficients = {k[0], k[1], k[2]};
        }
        from.read("range", light.range);
        from.read_angle("inner", light.inner);
        from.read_angle("outer", light.outer);
        from.read("exponent", light.exponent);
    }

    void read_expected(section& from) {
        from.only({"name", "pixel", "object", "point", "color", "ratio", "to", "tolerance"});
        expected_value& expected = made_.expects.emplace_back();
        from.require("name", "for an expectation", "a name, by which it is reported");
        from.read("name", expected.name);
        if (from.has("pixel") == from.has("object")) {
            from.fail(from.has("pixel") ? "object" : "name",
                      "an expectation has either a pixel or an object with a point",
                      "pixel = [x, y], or object = \"...\" with point = [x, y, z] in the object's own space");
        }
        from.read_wholes("pixel", expected.pixel, 0);
        if (from.has("object")) {
            from.require("point", "for an expectation on an object",
                         "[x, y, z] in the object's own space, in metres");
            std::string name;
            from.read("object", name);
            std::vector<std::string_view> known;
            for (const object& other : made_.objects) {
                known.emplace_back(other.name);
            }
            const auto found = std::find(known.begin(), known.end(), name);
            if (found == known.end()) {
                std::erase_if(known, [](std::string_view each) { return each.empty(); });
                if (known.empty()) {
                    from.fail("object", "`object` is `" + name + "`, and no object has a name",
                              "a `name` in its [[objects]], and that here");
                }
                from.fail_word("object", name, known);
            }
            expected.object = static_cast<std::size_t>(found - known.begin());
            from.read("point", expected.point);
        } else if (from.has("point")) {
            from.fail("point", "a point belongs to an object", "object = \"...\" beside it");
        }
        if (from.has("color") == from.has("ratio")) {
            from.fail(
                from.has("color") ? "ratio" : "name", "an expectation has either a color or a ratio",
                "color = [r, g, b] (linear), or ratio = a number or three, with to = the name of another");
        }
        from.read_factor("color", expected.color);
        from.read_factor("ratio", expected.color);
        if (from.has("ratio") != from.has("to")) {
            from.fail(from.has("to") ? "to" : "ratio", "`ratio` and `to` go together",
                      "ratio = a number or three, and to = the name of an earlier expectation");
        }
        from.read("to", expected.ratio_to);
        from.require("tolerance", "for an expectation", "a number or three, 0 or more, in the same numbers");
        from.read_factor("tolerance", expected.tolerance);
    }

  public:
    scene_reader(const toml::table& root, value_places& places, const file_source& files,
                 std::vector<std::string>* remarks, const models* own)
        : root_(root), places_(places), files_(files), remarks_(remarks), own_(own) {}

    scene read() {
        section root(root_, "", places_);
        root.only({"format", "title", "view", "shading", "formulas", "numbers", "ambient", "materials",
                   "objects", "lights", "expect"});
        root.require("format", "", "format = 1, the version of this file's format");
        const toml::node* format = root.find("format");
        if (!format->is_integer() || format->as_integer()->get() != 1) {
            root.fail("format", "the format is not one that this version reads", "format = 1");
        }
        root.read("title", made_.title);
        read_view();
        read_shading();
        read_formulas();
        read_ambient();
        read_materials();
        object_reader objects(places_, files_, made_, remarks_);
        each("objects", [&](section& from, std::size_t) { objects.read(from); });
        each("lights", [&](section& from, std::size_t) { read_light(from); });
        each("expect", [&](section& from, std::size_t) { read_expected(from); });
        if (const std::optional<fault> found = find_fault(made_)) {
            throw error(places_.find(found->path), found->wrong, found->right);
        }
        return made_;
    }
};

} // namespace

scene parse_scene(const std::string& text, const std::string& name, const file_source& files,
                  std::vector<std::string>* remarks, const models* own) {
    value_places places(name);
    const toml::table root = files::parse_toml(text, name, places);
    return scene_reader(root, places, files, remarks, own).read();
}

scene read_scene(const std::string& path, std::vector<std::string>* remarks, const models* own) {
    return parse_scene(
        read_whole(path, largest_scene_file), path,
        [&](const std::string& name) { return read_whole(beside(path, name)); }, remarks, own);
}

} // namespace yurvo::inline v0_1
