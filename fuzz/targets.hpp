// targets: what is attacked with random bytes. Each either takes them or refuses them in one line; whatever
// else happens (a crash, a sanitizer's complaint, a promise that does not hold) is a finding.
#pragma once

#include <array>
#include <string_view>

namespace yurvo::fuzzing {

using attack = void (*)(std::string_view bytes);

void scene_file(std::string_view bytes);
void value_edit(std::string_view bytes);
void obj_file(std::string_view bytes);
void gltf_file(std::string_view bytes);
void glb_file(std::string_view bytes);
void png_file(std::string_view bytes);
void exr_file(std::string_view bytes);
void pfm_file(std::string_view bytes);
void program_file(std::string_view bytes);
void shader_source(std::string_view bytes);
void formula(std::string_view bytes);
void driver_answer(std::string_view bytes);
void json(std::string_view bytes);
void drawing(std::string_view bytes);
void live(std::string_view bytes);

struct target {
    std::string_view name;
    attack attacked;
    std::string_view promise; // what must hold, for people
};

inline constexpr std::array targets{
    target{"scene-file", scene_file,
           "a scene is read or refused in one line; read, it writes as the same scene"},
    target{"value-edit", value_edit,
           "an edited text has the new value there, or the edit is refused in one line"},
    target{"obj", obj_file, "OBJ and MTL are read or refused in one line; indices lie within the mesh"},
    target{"gltf", gltf_file, "so is glTF"},
    target{"glb", glb_file, "so is GLB"},
    target{"png", png_file, "a picture and a texture are read or refused in one line"},
    target{"exr", exr_file, "a picture is read or refused in one line"},
    target{"pfm", pfm_file, "a picture is read or refused in one line"},
    target{"program-file", program_file, "a program file is read or refused in one line"},
    target{"shader-source", shader_source,
           "a source and what it includes is prepared or refused in one line"},
    target{"formula", formula,
           "a formula is parsed or refused; parsed, it evaluates, and is written out as itself"},
    target{"driver-answer", driver_answer, "what a driver's process sends is read or refused"},
    target{"json", json, "whatever texts hold, the JSON is valid and holds them"},
    target{"drawing", drawing, "a random valid scene is drawn as the second method says"},
    target{"live", live,
           "after any edits the text says what is shown, and undoing all brings back the first"},
};

} // namespace yurvo::fuzzing
