// driver_textures: what a program's samplers read, in the driver. Needs a context, and a build with a driver.
#pragma once

#include <cstddef>
#include <vector>

#include "program/messages.hpp"

namespace yurvo::inline v0_1::program {

class textures_in_driver {
    struct texture {
        unsigned name = 0, target = 0, buffer = 0;
    };
    std::vector<texture> all_;

  public:
    explicit textures_in_driver(const std::vector<texture_values>& values);
    ~textures_in_driver();
    textures_in_driver(const textures_in_driver&) = delete;
    textures_in_driver(textures_in_driver&&) = delete;
    textures_in_driver& operator=(const textures_in_driver&) = delete;
    textures_in_driver& operator=(textures_in_driver&&) = delete;

    void bind(std::size_t which, std::size_t unit) const;
};

} // namespace yurvo::inline v0_1::program
