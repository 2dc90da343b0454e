#include "session.hpp"
#include "yurvo/study/study_list.hpp"

namespace yurvo::app {

namespace {

// A study's command, under its own name.
command_entry command_of(study::study_kind kind, void (*add)(option_list& to, session& on)) {
    const study::study_descriptor& known = study::descriptor_of(kind);
    return {known.name, known.text, add};
}

} // namespace

const std::vector<command_entry>& commands() {
    using study::study_kind;
    static const std::vector<command_entry> all{
        {"demo", "The whole tour on the demo scenes: pictures, rates, checks.", add_demo},
        {"scenes", "List the scenes that come with the tool, or say what is known of one and write its file.",
         add_scenes},
        {"draw", "Draw a scene into a picture file.", add_draw},
        command_of(study_kind::layers, add_layers),
        command_of(study_kind::rates, add_rates),
        command_of(study_kind::turn, add_turn),
        command_of(study_kind::curves, add_curves),
        command_of(study_kind::cost, add_cost),
        command_of(study_kind::check, add_check),
        command_of(study_kind::explain, add_explain),
        command_of(study_kind::compare, add_compare),
        command_of(study_kind::diagnose, add_diagnose),
        {"report", "One page of all that is known of a shader, a picture or the scenes: a file to hand in.",
         add_report},
        {"view", "A window: change a value and see at once.", add_view},
        {"watch", "One verdict on a shader or a picture at every save, in the terminal.", add_watch},
        {"mistakes", "The catalogue: what each mistake is, its symptom, its cause and its fix.",
         add_mistakes},
        command_of(study_kind::quiz, add_quiz),
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
