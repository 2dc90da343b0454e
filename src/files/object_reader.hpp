// object_reader: the objects of a scene file, with their shapes, meshes and fields.
#pragma once

#include <string>
#include <vector>

#include "files/toml_section.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/scene/scene.hpp"

namespace yurvo::inline v0_1::files {

class object_reader {
    value_places& places_;
    const file_source& files_;
    scene& made_; // its materials are read; objects are added, and the materials that come with meshes
    std::vector<std::string>* remarks_;
    std::vector<std::string> material_names_; // of the scene's own

    std::size_t material_index(section& from) const;
    mesh_shape load_mesh(section& from, std::size_t material);
    field_shape read_field(section& from, const keys& common) const;

  public:
    object_reader(value_places& places, const file_source& files, scene& result,
                  std::vector<std::string>* remarks);

    void read(section& from);
};

} // namespace yurvo::inline v0_1::files
