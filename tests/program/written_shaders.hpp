// Right shaders as people write them, each in another style, and what a guess at them has to hold.
#pragma once

#include <string>
#include <vector>

namespace yurvo::testing {

struct pair_of_stages {
    const char* name;
    const char* language; // empty: as the sources look
    const char* vertex;
    std::string fragment;             // empty: one file with the entries quay_vertex and quay_fragment
    std::vector<std::string> settled; // lines that the guess has to hold
};

const std::vector<pair_of_stages>& written_shaders();
const std::vector<pair_of_stages>& shaders_with_buffers(); // and other ways to lay numbers out
const std::vector<pair_of_stages>&
shaders_with_formulas();                                // the claim has formulas, or lights that hold others
const std::vector<pair_of_stages>& shaders_with_maps(); // and what is done with a colour at the end
const std::vector<pair_of_stages>&
shaders_with_attributes(); // tangents, bones, what many objects share; lamps that are written down whole
const std::vector<pair_of_stages>&
shaders_with_named_lights(); // several lights, told apart by names and structures alone

} // namespace yurvo::testing
