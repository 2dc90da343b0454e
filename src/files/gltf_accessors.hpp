// gltf_accessors: numbers out of a glTF file's buffers, checked against what holds them.
#pragma once

#include <cstdint>
#include <string>

// The library only parses; pictures are decoded here.
#define TINYGLTF_NO_STB_IMAGE_WRITE
#define TINYGLTF_NO_STB_IMAGE
#define TINYGLTF_NO_INCLUDE_STB_IMAGE
#define TINYGLTF_NO_INCLUDE_STB_IMAGE_WRITE
#include <tiny_gltf.h>

#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::files {

class gltf_accessors {
  protected:
    const std::string& name_;
    const tinygltf::Model& model_;

    gltf_accessors(const std::string& name, const tinygltf::Model& model) : name_(name), model_(model) {}

    [[noreturn]] void broken(const std::string& why, const std::string& right) const;

    template <class List>
    const typename List::value_type& at(const List& list, int index, const char* what) const {
        if (index < 0 || static_cast<std::size_t>(index) >= list.size()) {
            broken(std::string("it names ") + what + " " + std::to_string(index) + " of " +
                       std::to_string(list.size()),
                   "indices of what is in the file");
        }
        return list[static_cast<std::size_t>(index)];
    }

    // An accessor's elements, checked against what holds them.
    struct elements {
        const unsigned char* first = nullptr;
        std::size_t count = 0, stride = 0;
        int components = 0, type = 0;
        bool normalized = false;
    };

    elements find(int index, const char* what) const;
    [[nodiscard]] double number(const elements& from, std::size_t i, int component, const char* what) const;
    [[nodiscard]] std::uint32_t index(const elements& from, std::size_t i) const;
    [[nodiscard]] int at_attribute(int index, const char* what) const;
    void require_components(const elements& from, int least, int most, const char* what) const;
    void require_same_count(const elements& from, std::size_t count, int least, int most,
                            const char* what) const;
};

} // namespace yurvo::inline v0_1::files
