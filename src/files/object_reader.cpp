#include "files/object_reader.hpp"

#include <algorithm>
#include <memory>

namespace yurvo::files {

namespace {

keys keys_of_shape(std::string_view shape) {
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

void read_plane(section& from, plane_shape& plane) {
    if (const toml::node* node = from.find("size")) {
        const std::vector<double> size = from.numbers("size", *node, 2, "two numbers, [along x, along z]");
        plane.size[0] = size[0];
        plane.size[1] = size[1];
    }
    from.read_wholes("cells", plane.cells);
}

template <class Shape> Shape read_round(section& from) {
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

any_shape read_shape(section& from, std::string_view name) {
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

keys keys_of_field(field_kind kind) {
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
void read_field_sizes(section& from, field_part& part) {
    for (const std::string_view key : keys_of_field(part.kind)) {
        from.require(key, "for the field `" + std::string(name_of(part.kind)) + "`", "metres, above 0");
    }
    from.read("radius", part.radius);
    from.read("size", part.size);
    from.read("rounding", part.rounding);
    from.read("tube", part.tube);
    from.read("height", part.height);
}

} // namespace

object_reader::object_reader(value_places& places, const file_source& files, scene& made,
                             std::vector<std::string>* remarks)
    : places_(places), files_(files), made_(made), remarks_(remarks) {
    for (const named_material& material : made.materials) {
        material_names_.push_back(material.name);
    }
}

std::size_t object_reader::material_index(section& from) const {
    std::string name;
    from.read("material", name);
    for (std::size_t i = 0; i < material_names_.size(); ++i) {
        if (material_names_[i] == name) {
            return i;
        }
    }
    const keys known(material_names_.begin(), material_names_.end());
    if (known.empty()) {
        from.fail("material", "there is no material `" + name + "`", "a section [materials." + name + "]");
    }
    from.fail_word("material", name, known);
}

// A mesh's own materials become materials of the scene: one that the scene has by that name, or the
// object's, changed as the file says.
mesh_shape object_reader::load_mesh(section& from, std::size_t material) {
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

field_shape object_reader::read_field(section& from, const keys& common) const {
    field_shape shape;
    field& made = shape.field;
    made.parts.clear();
    from.require("field", "for the shape `field`", quoted_list(all_names<field_kind>()));
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
        one.require("field", "in `" + one.path() + "`", quoted_list(simple));
        field_part part;
        one.read_enum("field", part.kind);
        if (part.kind == field_kind::smooth_union) {
            one.fail("field", "a smooth union within a smooth union", quoted_list(simple));
        }
        one.unused(together({"field", "position"}, keys_of_field(part.kind)),
                   "the field `" + std::string(name_of(part.kind)) + "`");
        one.read("position", part.position);
        read_field_sizes(one, part);
        made.parts.push_back(part);
    }
    return shape;
}

void object_reader::read(section& from) {
    const keys common{"name", "material", "shape", "position", "rotation", "scale", "normals"};
    from.only(together(common, {"size", "cells", "radius", "height", "tube", "file", "field", "rounding",
                                "parts", "blend"}));
    from.require("shape", "in `" + from.path() + "`", quoted_list(shape_names()));
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

} // namespace yurvo::files
