#include "session.hpp"

namespace yurvo::app {

const std::vector<command_entry>& commands() {
    static const std::vector<command_entry> all{
        {"demo", "The whole tour on the demo scenes: pictures, rates, checks.", add_demo},
        {"scenes", "List the scenes that come with the tool, or say what is known of one and write its file.",
         add_scenes},
        {"draw", "Draw a scene into a picture file.", add_draw},
        {"layers",
         "Build a picture up: base colours, ambient, + diffuse, + specular, + emission, side by side.",
         add_layers},
        {"rates",
         "Draw a scene per face, per vertex and per fragment, and show where they differ and by how much.",
         add_rates},
        {"turn", "A sheet of views with the objects turned, the eye walked around, or the lights moved.",
         add_turn},
        {"curves", "Plot each light's falloff over distance and its penumbra over angle.", add_curves},
        {"cost",
         "Measure a scene at each rate: milliseconds a frame, how often the model is run, where the time "
         "goes.",
         add_cost},
        {"check",
         "Hold what is drawn against what is known of the reference scenes in closed form, and against rays "
         "cast in "
         "double precision.",
         add_check},
        {"explain", "Why a pixel has its colour: every number from the normal to the encoded byte.",
         add_explain},
        {"compare", "Two pictures: by how much the second differs from the first, and where.", add_compare},
        {"diagnose",
         "Which mistake, if any, explains a picture of a scene, and what the picture is made up of.",
         add_diagnose},
        {"mistakes", "The catalogue: what each mistake is, its symptom, its cause and its fix.",
         add_mistakes},
        {"quiz", "A scene with an unnamed mistake: find out which, and what gives it away.", add_quiz},
        {"new", "new program DIR: a right shader program with its program file, to start from.", add_new},
        {"pack",
         "A scene's lights as a uniform block: offsets, sizes, empty bytes, and the bytes themselves.",
         add_pack},
        {"export",
         "Write a scene for other programs: .obj with its .mtl, or .gltf / .glb with KHR_lights_punctual.",
         add_export},
    };
    return all;
}

} // namespace yurvo::app
