// exporting: what the writers of OBJ and glTF share.
#pragma once

#include <string>

#include "yurvo/files/export_file.hpp"

namespace yurvo::inline v0_1::files {

exported export_obj(const scene& from, const std::string& name);
exported export_gltf(const scene& from, const std::string& name);

// What neither format can hold.
void remark_common(const scene& from, exported& result);

// A texture as the bytes of a PNG.
std::string texture_bytes(const texture& image);

} // namespace yurvo::inline v0_1::files
