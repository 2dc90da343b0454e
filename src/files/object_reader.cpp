#include "files/object_reader.hpp"

#include <algorithm>
#include <array>
#include <memory>

#include "yurvo/scene/shape_list.hpp"

namespace yurvo::inline v0_1::files {

namespace {

keys keys_of_shape(const shape_descriptor& shape) {
    keys known = shape.other_keys;
    for (const shape_size& size : shape.sizes) {
        known.push_back(size.key);
    }
    if (shape.cells.of != nullptr) {
        known.emplace_back("cells");
    }
    return known;
}

void read_size(section& from, const shape_size& size, any_shape& shape) {
    constexpr std::array<const char*, 4> right{"", "a number", "two numbers, [along x, along z]",
                                               "three numbers, [x, y, z]"};
    const size_numbers numbers = size.of(shape);
    if (numbers.count == 1) {
        from.read(std::string(size.key), *numbers.at[0]);
    } else if (const toml::node* node = from.find(size.key)) {
        const std::vector<double> read = from.numbers(size.key, *node, numbers.count, right[numbers.count]);
        for (std::size_t i = 0; i < numbers.count; ++i) {
            *numbers.at[i] = read[i];
        }
    }
}

any_shape read_shape(section& from, const shape_descriptor& known) {
    any_shape shape = known.make();
    for (const shape_size& size : known.sizes) {
        if (!size.has_default) {
            from.require(size.key, "for the shape `" + std::string(known.name) + "`", "metres, above 0");
        }
    }
    for (const shape_size& size : known.sizes) {
        read_size(from, size, shape);
    }
    if (known.cells.of != nullptr) {
        std::uint32_t* cells = known.cells.of(shape);
        from.read_wholes("cells", cells);
    }
    return shape;
}

keys keys_of_field(field_kind kind) {
    if (kind == field_kind::smooth_union) {
        return {"parts", "blend"};
    }
    keys known;
    for (const field_size& size : sizes_of(kind)) {
        known.push_back(size.key);
    }
    return known;
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

object_reader::object_reader(value_places& places, const file_source& files, scene& result,
                             std::vector<std::string>* remarks)
    : places_(places), files_(files), made_(result), remarks_(remarks) {
    for (const named_material& material : result.materials) {
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
    const mesh_file read = [&] {
        try {
            return read_mesh(file, files_);
        } catch (const error& failed) { // with the place in the scene that names it
            throw error(from.place("file"), "the mesh " + failed.where().text() + ": " + failed.wrong(),
                        failed.right());
        }
    }();
    mesh_shape shape{file, std::make_shared<const mesh>(read.shape), {}};
    for (const file_material& material_read : read.materials) {
        const auto known = std::find(material_names_.begin(), material_names_.end(), material_read.name);
        if (known != material_names_.end()) {
            shape.materials.push_back(static_cast<std::size_t>(known - material_names_.begin()));
            continue;
        }
        named_material own = made_.materials[material];
        own.name = file + ":" + material_read.name;
        own.from_mesh = true;
        own.look.base = material_read.base.value_or(own.look.base);
        own.look.specular = material_read.specular.value_or(own.look.specular);
        own.look.emission = material_read.emission.value_or(own.look.emission);
        own.look.shininess = material_read.shininess.value_or(own.look.shininess);
        own.look.alpha = material_read.alpha.value_or(own.look.alpha);
        own.look.two_sided = material_read.two_sided.value_or(own.look.two_sided);
        if (material_read.image) {
            own.texture_file = material_read.texture_file;
            own.image = material_read.image;
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
    field& result = shape.field;
    result.parts.clear();
    from.require("field", "for the shape `field`", quoted_list(all_names<field_kind>()));
    from.read_enum("field", result.kind);
    keys used = together(common, keys_of_field(result.kind));
    used.emplace_back("field");
    from.unused(used, "the field `" + std::string(name_of(result.kind)) + "`");
    if (result.kind != field_kind::smooth_union) {
        field_part part;
        part.kind = result.kind;
        read_field_sizes(from, part);
        result.parts.push_back(part);
        return shape;
    }
    const std::string right =
        "a list of tables, such as [{ field = \"sphere\", radius = 0.5, position = [0, 1, 0] }]";
    from.require("parts", "for the field `smooth-union`", right);
    from.read("blend", result.blend);
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
        section each(*entry, from.path() + ".parts[" + std::to_string(i) + "]", places_);
        each.only({"field", "position", "radius", "size", "rounding", "tube", "height"});
        const keys simple{"sphere", "rounded-box", "torus", "capsule"};
        each.require("field", "in `" + each.path() + "`", quoted_list(simple));
        field_part part;
        each.read_enum("field", part.kind);
        if (part.kind == field_kind::smooth_union) {
            each.fail("field", "a smooth union within a smooth union", quoted_list(simple));
        }
        each.unused(together({"field", "position"}, keys_of_field(part.kind)),
                    "the field `" + std::string(name_of(part.kind)) + "`");
        each.read("position", part.position);
        read_field_sizes(each, part);
        result.parts.push_back(part);
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
    const shape_descriptor& descriptor =
        *std::find_if(shape_list().begin(), shape_list().end(),
                      [&](const shape_descriptor& each) { return each.name == shape; });
    from.unused(together(common, keys_of_shape(descriptor)), "the shape `" + shape + "`");
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
        object.shape = read_shape(from, descriptor);
    }
    from.read("position", object.placed.position);
    from.read_angles("rotation", object.placed.rotation);
    from.read_scale("scale", object.placed.scale);
    from.read_enum("normals", object.normals);
    made_.objects.push_back(std::move(object));
}

} // namespace yurvo::inline v0_1::files
