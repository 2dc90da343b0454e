#include "files/gltf_accessors.hpp"

#include <cmath>
#include <cstring>

#include "files/mesh_reading.hpp"

namespace yurvo::inline v0_1::files {

namespace {

template <class Number> Number read(const unsigned char* from) {
    Number value;
    std::memcpy(&value, from, sizeof value);
    return value;
}

} // namespace

void gltf_accessors::broken(const std::string& why, const std::string& right) const {
    broken_mesh(name_, 0, "not a whole glTF file: " + why, right);
}

gltf_accessors::elements gltf_accessors::find(int index, const char* what) const {
    const tinygltf::Accessor& accessor = at(model_.accessors, index, "accessor");
    if (accessor.sparse.isSparse) {
        broken(std::string("its ") + what + " are sparse", "accessors written out");
    }
    const tinygltf::BufferView& view = at(model_.bufferViews, accessor.bufferView, "buffer view");
    const tinygltf::Buffer& buffer = at(model_.buffers, view.buffer, "buffer");
    elements found;
    found.components = tinygltf::GetNumComponentsInType(static_cast<std::uint32_t>(accessor.type));
    const int size = tinygltf::GetComponentSizeInBytes(static_cast<std::uint32_t>(accessor.componentType));
    if (found.components <= 0 || size <= 0) {
        broken(std::string("its ") + what + " are of no known type", "a type of the standard");
    }
    found.type = accessor.componentType;
    found.normalized = accessor.normalized;
    found.count = accessor.count;
    const std::size_t element = static_cast<std::size_t>(found.components) * static_cast<std::size_t>(size);
    found.stride = view.byteStride > 0 ? view.byteStride : element;
    const std::size_t limit = buffer.data.size();
    const bool view_fits = view.byteOffset <= limit && view.byteLength <= limit - view.byteOffset;
    // Divided rather than multiplied: a huge count must not wrap around.
    const bool fits = view_fits && found.stride >= element && found.count >= 1 &&
                      accessor.byteOffset <= view.byteLength &&
                      element <= view.byteLength - accessor.byteOffset &&
                      (found.count - 1) <= (view.byteLength - accessor.byteOffset - element) / found.stride;
    if (!fits) {
        broken(std::string("its ") + what + " do not fit in their buffer", "counts and offsets within it");
    }
    found.first = buffer.data.data() + view.byteOffset + accessor.byteOffset;
    return found;
}

double gltf_accessors::number(const elements& from, std::size_t i, int component, const char* what) const {
    const unsigned char* element = from.first + i * from.stride;
    const auto c = static_cast<std::size_t>(component);
    switch (from.type) {
    case TINYGLTF_COMPONENT_TYPE_FLOAT: {
        const auto value = static_cast<double>(read<float>(element + 4 * c));
        if (!std::isfinite(value)) {
            broken(std::string("one of its ") + what + " is not finite", "finite numbers");
        }
        return value;
    }
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE:
        return from.normalized ? element[c] / 255.0 : element[c];
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT:
        return from.normalized ? read<std::uint16_t>(element + 2 * c) / 65535.0
                               : read<std::uint16_t>(element + 2 * c);
    default:
        broken(std::string("its ") + what + " are of a type they may not have", "floats");
    }
}

std::uint32_t gltf_accessors::index(const elements& from, std::size_t i) const {
    const unsigned char* element = from.first + i * from.stride;
    switch (from.type) {
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE:
        return element[0];
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT:
        return read<std::uint16_t>(element);
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT:
        return read<std::uint32_t>(element);
    default:
        broken("its indices are of a type they may not have", "unsigned bytes, shorts or ints");
    }
}

int gltf_accessors::at_attribute(int index, const char* what) const {
    if (index < 0) {
        broken(std::string("a primitive has no ") + what, "primitives with positions");
    }
    return index;
}

void gltf_accessors::require_components(const elements& from, int least, int most, const char* what) const {
    if (from.components < least || from.components > most) {
        broken(std::string("its ") + what + " have " + std::to_string(from.components) + " components",
               std::to_string(least) + (least == most ? "" : " or " + std::to_string(most)));
    }
}

void gltf_accessors::require_same_count(const elements& from, std::size_t count, int least, int most,
                                        const char* what) const {
    if (from.count == 0) {
        return;
    }
    require_components(from, least, most, what);
    if (from.count != count) {
        broken(std::string("it has ") + std::to_string(from.count) + " " + what + " for " +
                   std::to_string(count) + " positions",
               "as many of each");
    }
}

} // namespace yurvo::inline v0_1::files
