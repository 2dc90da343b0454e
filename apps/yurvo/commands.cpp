#include "session.hpp"
#include "yurvo/study/study_list.hpp"

namespace yurvo::app {

namespace {

// A study's command, under its own name.
command_entry command_of(study::study_kind kind, purpose why, std::string_view example,
                         void (*add)(option_list& to, session& on)) {
    const study::study_descriptor& known = study::descriptor_of(kind);
    return {why, known.name, known.text, example, add};
}

} // namespace

const std::vector<command_entry>& commands() {
    using study::study_kind;
    using enum purpose;
    static const std::vector<command_entry> all{
        {look, "demo", "The whole tour on the demo scenes: pictures, rates, checks.", "yurvo demo", add_demo},
        {look, "scenes",
         "List the scenes that come with the tool; say what is known of one, or write its file.",
         "yurvo scenes harbour -o mine.toml", add_scenes},
        {look, "draw", "Draw a scene into a picture file.", "yurvo draw harbour -o harbour.png", add_draw},
        {look, "view", "A window: change a value and see at once.",
         "yurvo view buoys --program lantern/per-fragment.toml", add_view},
        command_of(study_kind::layers, understand, "yurvo layers wet-planks -o layers.png", add_layers),
        command_of(study_kind::rates, understand, "yurvo rates lantern-quay -o rates.png", add_rates),
        command_of(study_kind::turn, understand, "yurvo turn bollard-with-rope --what light -o turn.png",
                   add_turn),
        command_of(study_kind::curves, understand, "yurvo curves searchlight-on-hull -o curves.png",
                   add_curves),
        command_of(study_kind::cost, understand, "yurvo cost harbour", add_cost),
        command_of(study_kind::explain, understand, "yurvo explain buoys --pixel 640,400", add_explain),
        command_of(study_kind::check, verify, "yurvo check --program lantern/per-fragment.toml", add_check),
        command_of(study_kind::compare, verify, "yurvo compare right.png mine.png -o difference.png",
                   add_compare),
        command_of(study_kind::diagnose, verify, "yurvo diagnose buoys --picture mine.png", add_diagnose),
        {verify, "watch", "One verdict on a shader or a picture at every save, in the terminal.",
         "yurvo watch --program lantern/per-fragment.toml", add_watch},
        {verify, "report",
         "One page of all that is known of a shader, a picture or the scenes: a file to hand in.",
         "yurvo report --program lantern/per-fragment.toml -o report.html", add_report},
        {learn, "mistakes", "The catalogue: what each mistake is, its symptom, its cause and its fix.",
         "yurvo mistakes cone-full-angle", add_mistakes},
        command_of(study_kind::quiz, learn, "yurvo quiz buoys", add_quiz),
        {carry, "new", "A right shader program with its program file, to start from: new program DIR.",
         "yurvo new program lantern", add_new},
        {carry, "pack",
         "A scene's lights as a uniform block: offsets, empty bytes, and the bytes themselves.",
         "yurvo pack buoys --header lights.hpp", add_pack},
        {carry, "export",
         "Write a scene for other programs: .obj, .gltf, .glb; or its model as a shader or C++.",
         "yurvo export wet-planks -o planks.glb", add_export},
        {purpose::tool, "doctor", "What this machine has, what is missing, and the package that brings it.",
         "yurvo doctor", add_doctor},
        {purpose::tool, "manual",
         "A manual page, completions for shells, and the pages of reference, into a folder.",
         "yurvo manual -o manual", add_manual},
    };
    return all;
}

} // namespace yurvo::app
