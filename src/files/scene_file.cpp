#include "yurvo/files/scene_file.hpp"

#include <algorithm>
#include <set>

#include "toml_section.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo {

using files::keys;
using files::section;
using files::value_places;

namespace {

constexpr std::size_t largest_scene_file = std::size_t{64} << 20U;

keys together(const keys& a, const keys& b) {
    keys all = a;
    all.insert(all.end(), b.begin(), b.end());
    return all;
}

class scene_reader {
    const toml::table& root_;
    value_places& places_;
    const file_source& files_;
    std::vector<std::string>* remarks_;
    scene made_;
    std::vector<std::string> material_names_;

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
        from.read_enum("model", shading.model);
        from.read_enum("rate", shading.rate);
        from.read_enum("ambient_rule", shading.ambient_rule);
        if (shading.model != model_kind::cel) {
            from.unused(common, "the model `" + std::string(name_of(shading.model)) + "`");
            return;
        }
        from.read("thresholds", shading.cel.thresholds);
        from.read_bands("bands", shading.cel.bands);
        from.read("outline", shading.cel.outline);
        from.read("outline_color", shading.cel.outline_color);
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
            material_names_.emplace_back(name.str());
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

    std::size_t material_index(section& from) {
        std::string name;
        from.read("material", name);
        for (std::size_t i = 0; i < material_names_.size(); ++i) {
            if (material_names_[i] == name) {
                return i;
            }
        }
        const keys known(material_names_.begin(), material_names_.end());
        if (known.empty()) {
            from.fail("material", "there is no material `" + name + "`",
                      "a section [materials." + name + "]");
        }
        from.fail_word("material", name, known);
    }

    static keys keys_of_shape(std::string_view shape) {
        if (shape == "plane") {
            return {"size", "cells"};
        }
        if (shape == "box") {
            return {"size"};
        }
        if (shape == "sphere") {
            return {"radius", "cells"};
        }
        if (shape == "torus") {
            return {"radius", "tube", "cells"};
        }
        if (shape == "mesh") {
            return {"file"};
        }
        if (shape == "field") {
            return {"field", "radius", "size", "rounding", "tube", "height", "parts", "blend"};
        }
        return {"radius", "height", "cells"}; // cylinder, cone
    }

    static void read_plane(section& from, plane_shape& plane) {
        if (const toml::node* node = from.find("size")) {
            const std::vector<double> size =
                from.numbers("size", *node, 2, "two numbers, [along x, along z]");
            plane.size[0] = size[0];
            plane.size[1] = size[1];
        }
        from.read_wholes("cells", plane.cells);
    }

    template <class Shape> static Shape read_round(section& from) {
        Shape shape;
        from.read("radius", shape.radius);
        from.read_wholes("cells", shape.cells);
        if constexpr (requires { shape.height; }) {
            from.read("height", shape.height);
        }
        if constexpr (requires { shape.tube; }) {
            from.read("tube", shape.tube);
        }
        return shape;
    }

    static any_shape read_shape(section& from, std::string_view name) {
        for (const std::string_view key : keys_of_shape(name)) {
            if (key != "cells" && !(name == "plane" && key == "size")) {
                from.require(key, "for the shape `" + std::string(name) + "`", "metres, above 0");
            }
        }
        if (name == "plane") {
            plane_shape plane;
            read_plane(from, plane);
            return plane;
        }
        if (name == "box") {
            box_shape box;
            from.read("size", box.size);
            return box;
        }
        if (name == "sphere") {
            return read_round<sphere_shape>(from);
        }
        if (name == "cylinder") {
            return read_round<cylinder_shape>(from);
        }
        if (name == "cone") {
            return read_round<cone_shape>(from);
        }
        return read_round<torus_shape>(from);
    }

    // A mesh's own materials become materials of the scene: one that the scene has by that name, or the
    // object's, changed as the file says.
    mesh_shape load_mesh(section& from, std::size_t material) {
        std::string file;
        from.read("file", file);
        const mesh_file read = read_mesh(file, files_);
        mesh_shape shape{file, std::make_shared<const mesh>(read.shape), {}};
        for (const file_material& given : read.materials) {
            const auto known = std::find(material_names_.begin(), material_names_.end(), given.name);
            if (known != material_names_.end()) {
                shape.materials.push_back(static_cast<std::size_t>(known - material_names_.begin()));
                continue;
            }
            named_material own = made_.materials[material];
            own.name = file + ":" + given.name;
            own.from_mesh = true;
            own.look.base = given.base.value_or(own.look.base);
            own.look.specular = given.specular.value_or(own.look.specular);
            own.look.emission = given.emission.value_or(own.look.emission);
            own.look.shininess = given.shininess.value_or(own.look.shininess);
            own.look.alpha = given.alpha.value_or(own.look.alpha);
            own.look.two_sided = given.two_sided.value_or(own.look.two_sided);
            if (given.image) {
                own.texture_file = given.texture_file;
                own.image = given.image;
            }
            shape.materials.push_back(made_.materials.size());
            made_.materials.push_back(own);
        }
        if (remarks_ != nullptr) {
            for (const std::string& remark : read.remarks) {
                remarks_->push_back(file + ": " + remark);
            }
        }
        return shape;
    }

    static keys keys_of_field(field_kind kind) {
        switch (kind) {
        case field_kind::sphere:
            return {"radius"};
        case field_kind::rounded_box:
            return {"size", "rounding"};
        case field_kind::torus:
            return {"radius", "tube"};
        case field_kind::capsule:
            return {"radius", "height"};
        case field_kind::smooth_union:
            break;
        }
        return {"parts", "blend"};
    }

    // Requires and reads the sizes of a simple field.
    static void read_field_sizes(section& from, field_part& part) {
        for (const std::string_view key : keys_of_field(part.kind)) {
            from.require(key, "for the field `" + std::string(name_of(part.kind)) + "`", "metres, above 0");
        }
        from.read("radius", part.radius);
        from.read("size", part.size);
        from.read("rounding", part.rounding);
        from.read("tube", part.tube);
        from.read("height", part.height);
    }

    field_shape read_field(section& from, const keys& common) {
        field_shape shape;
        field& made = shape.field;
        made.parts.clear();
        from.require("field", "for the shape `field`", quoted(all_names<field_kind>()));
        from.read_enum("field", made.kind);
        keys used = together(common, keys_of_field(made.kind));
        used.emplace_back("field");
        from.unused(used, "the field `" + std::string(name_of(made.kind)) + "`");
        if (made.kind != field_kind::smooth_union) {
            field_part part;
            part.kind = made.kind;
            read_field_sizes(from, part);
            made.parts.push_back(part);
            return shape;
        }
        const std::string right =
            "a list of tables, such as [{ field = \"sphere\", radius = 0.5, position = [0, 1, 0] }]";
        from.require("parts", "for the field `smooth-union`", right);
        from.read("blend", made.blend);
        const toml::node* node = from.find("parts");
        const toml::array* list = node->as_array();
        if (list == nullptr) {
            from.fail("parts", "`parts` is not a list of tables", right);
        }
        for (std::size_t i = 0; i < list->size(); ++i) {
            const toml::table* entry = list->get(i)->as_table();
            if (entry == nullptr) {
                from.fail("parts", "`parts` is not a list of tables", right);
            }
            section one(*entry, from.path() + ".parts[" + std::to_string(i) + "]", places_);
            one.only({"field", "position", "radius", "size", "rounding", "tube", "height"});
            const keys simple{"sphere", "rounded-box", "torus", "capsule"};
            one.require("field", "in `" + one.path() + "`", quoted(simple));
            field_part part;
            one.read_enum("field", part.kind);
            if (part.kind == field_kind::smooth_union) {
                one.fail("field", "a smooth union within a smooth union", quoted(simple));
            }
            one.unused(together({"field", "position"}, keys_of_field(part.kind)),
                       "the field `" + std::string(name_of(part.kind)) + "`");
            one.read("position", part.position);
            read_field_sizes(one, part);
            made.parts.push_back(part);
        }
        return shape;
    }

    void read_object(section& from) {
        const keys common{"name", "material", "shape", "position", "rotation", "scale", "normals"};
        from.only(together(common, {"size", "cells", "radius", "height", "tube", "file", "field", "rounding",
                                    "parts", "blend"}));
        from.require("shape", "in `" + from.path() + "`", quoted(shape_names()));
        from.require("material", "in `" + from.path() + "`", "the name of a material");
        std::string shape;
        from.read("shape", shape);
        const keys known = shape_names();
        if (std::find(known.begin(), known.end(), shape) == known.end()) {
            from.fail_word("shape", shape, known);
        }
        from.unused(together(common, keys_of_shape(shape)), "the shape `" + shape + "`");
        object object;
        from.read("name", object.name);
        object.material = material_index(from);
        if (shape == "mesh") {
            from.require("file", "for the shape `mesh`",
                         "an OBJ, glTF or GLB file, named relative to the scene file");
            object.shape = load_mesh(from, object.material);
        } else if (shape == "field") {
            object.shape = read_field(from, common);
        } else {
            object.shape = read_shape(from, shape);
        }
        from.read("position", object.placed.position);
        from.read_angles("rotation", object.placed.rotation);
        from.read_scale("scale", object.placed.scale);
        from.read_enum("normals", object.normals);
        made_.objects.push_back(std::move(object));
    }

    static std::string quoted(const keys& names) { return files::quoted_list(names); }

    void read_light(section& from) {
        const keys common{"name", "kind", "color", "intensity", "frame"};
        from.only(together(common, {"position", "shines", "falloff", "coefficients", "range", "inner",
                                    "outer", "rim", "exponent"}));
        from.require("kind", "in `" + from.path() + "`", quoted(all_names<light_kind>()));
        named_light& named = made_.lights.emplace_back();
        light& light = named.light;
        from.read_enum("kind", light.kind);
        keys used = common;
        const std::string kind = "a light of kind `" + std::string(name_of(light.kind)) + "`";
        const std::string why = "for " + kind;
        std::string unused_by = kind;
        if (light.kind != light_kind::point) {
            used.push_back("shines");
        }
        if (light.kind != light_kind::directional) {
            used.insert(used.end(), {"position", "falloff"});
            from.read_enum("falloff", light.falloff);
            if (light.falloff == falloff_kind::polynomial) {
                used.push_back("coefficients");
            }
            if (light.falloff == falloff_kind::linear || light.falloff == falloff_kind::windowed) {
                used.push_back("range");
            }
            unused_by += " with falloff `" + std::string(name_of(light.falloff)) + "`";
        }
        if (light.kind == light_kind::spot) {
            used.insert(used.end(), {"outer", "rim"});
            from.read_enum("rim", light.rim);
            if (light.rim == rim_kind::power) {
                used.push_back("exponent");
            } else if (light.rim != rim_kind::hard) {
                used.push_back("inner");
            }
            unused_by += " and rim `" + std::string(name_of(light.rim)) + "`";
        }
        from.unused(used, unused_by);
        for (const std::string_view key : used) {
            if (key == "position") {
                from.require(key, why, "its place, [x, y, z] in metres");
            } else if (key == "shines") {
                from.require(key, why, "the direction in which its light travels, [x, y, z]");
            } else if (key == "coefficients") {
                from.require(key, "for the falloff `polynomial`", "three numbers, [k0, k1, k2]");
            } else if (key == "range") {
                from.require(key, "for the falloff `" + std::string(name_of(light.falloff)) + "`",
                             "metres, above 0");
            } else if (key == "inner" || key == "outer") {
                from.require(key, why, "a half-angle in degrees");
            } else if (key == "exponent") {
                from.require(key, "for the rim `power`", "a number above 0");
            }
        }
        from.read("name", named.name);
        from.read("color", light.color);
        from.read("intensity", light.intensity);
        from.read_enum("frame", named.frame);
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

  public:
    scene_reader(const toml::table& root, value_places& places, const file_source& files,
                 std::vector<std::string>* remarks)
        : root_(root), places_(places), files_(files), remarks_(remarks) {}

    scene read() {
        section root(root_, "", places_);
        root.only({"format", "title", "view", "shading", "ambient", "materials", "objects", "lights"});
        root.require("format", "", "format = 1, the version of this file's format");
        const toml::node* format = root.find("format");
        if (!format->is_integer() || format->as_integer()->get() != 1) {
            root.fail("format", "the format is not one that this version reads", "format = 1");
        }
        root.read("title", made_.title);
        read_view();
        read_shading();
        read_ambient();
        read_materials();
        each("objects", [&](section& from, std::size_t) { read_object(from); });
        each("lights", [&](section& from, std::size_t) { read_light(from); });
        if (const std::optional<fault> found = find_fault(made_)) {
            throw error(places_.find(found->path), found->wrong, found->right);
        }
        return made_;
    }
};

} // namespace

scene parse_scene(const std::string& text, const std::string& name, const file_source& files,
                  std::vector<std::string>* remarks) {
    value_places places(name);
    toml::table root;
    try {
        root = toml::parse(text, name);
    } catch (const toml::parse_error& failed) {
        std::string why(failed.description());
        for (char& c : why) {
            c = static_cast<unsigned char>(c) < 0x20 ? ' ' : c;
        }
        throw error(places.at(failed.source()), "this is not TOML: " + why, "valid TOML in UTF-8");
    }
    return scene_reader(root, places, files, remarks).read();
}

scene read_scene(const std::string& path, std::vector<std::string>* remarks) {
    return parse_scene(
        read_whole(path, largest_scene_file), path,
        [&](const std::string& name) { return read_whole(beside(path, name)); }, remarks);
}

} // namespace yurvo
