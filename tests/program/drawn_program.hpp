// A program that draws a plank which fills the picture: what its fragment stage writes is what it was given.
#pragma once

#include <string>

#include "support/facing_eye.hpp"
#include "support/replaced.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/program_renderer.hpp"

namespace yurvo::testing {

struct drawn_program {
    std::string language, vertex, fragment, uniforms, attributes = "place = \"position\"\n";
};

// A plank that fills the picture, as a program draws it.
inline picture drawn_with(const drawn_program& of, const scene& what) {
    const temporary_folder folder;
    const bool hlsl = of.language == "hlsl";
    write_whole(folder / "a.vert", of.vertex);
    write_whole(folder / "a.frag", of.fragment);
    write_whole(
        folder / "a.toml",
        "format = 1\nlanguage = \"" + of.language +
            "\"\nvertex = " + (hlsl ? R"({ file = "a.frag", entry = "vertex_main" })" : "\"a.vert\"") +
            "\nfragment = " + (hlsl ? R"({ file = "a.frag", entry = "fragment_main" })" : "\"a.frag\"") +
            "\nmodel = \"unlit\"\nrate = \"fragment\"\n[attributes]\n" +
            (hlsl ? replaced(of.attributes, "place", "PLACE") : of.attributes) + "[uniforms]\n" +
            of.uniforms + "\n");
    return program_renderer(yurvo::read_program(folder / "a.toml")).draw(what);
}

inline scene filled() {
    scene made = facing_eye(model_kind::unlit);
    made.objects = {facing_plank(40, 40)};
    return made;
}

} // namespace yurvo::testing
