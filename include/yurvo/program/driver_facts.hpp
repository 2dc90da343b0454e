// driver_facts: what this build and this machine have for users' shaders.
#pragma once

#include <string>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// What is known of the system's OpenGL driver.
struct driver_facts {
    bool built_in = false;    ///< this build can talk to a driver at all
    bool translators = false; ///< ... and translate HLSL, GLSL for Vulkan and SPIR-V
    std::string name;         ///< the driver's own name; empty where there is none
    std::string missing;      ///< why there is none
    /// What holds of the process in which shaders run, as far as the kernel offers it.
    bool limits = false;  ///< of memory, and no file of any size
    bool files = false;   ///< it reads below the system's folders only
    bool network = false; ///< it has a network of its own, in which there is nothing
    bool calls = false;   ///< it may ask the kernel for nothing but what drawing needs
};

/// Starts the driver with a shader of our own, for at most `limit` seconds. Never throws for what is missing.
driver_facts find_driver_facts(double limit = 20);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
