// machine: what this build and this machine have, part by part, and which package brings what is missing.
#pragma once

#include <string>
#include <vector>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// A part that this machine has, or not.
struct machine_part {
    std::string name;    ///< `driver`
    bool here = false;   ///< whether it is there
    std::string what;    ///< what is here, or why not: a line
    std::string lost;    ///< what cannot be done without; empty where it is here
    std::string package; ///< Debian's, that brings it; empty where it is here, or none does
};

/// Whether a window can be opened, which the tool knows: it was built with one, and there is a display.
struct window_facts {
    bool built_in = false; ///< of this program, and not of the machine
    std::string display;   ///< its name; empty where there is none
    std::string missing;   ///< the library that opens windows, where it cannot be loaded
};

/// In the order in which people come to need them. Takes a moment: the driver is started.
std::vector<machine_part> machine_parts(const window_facts& window);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
