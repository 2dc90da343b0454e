// The whole: pictures against the second method, edits, and what is written for other programs.
#include <cstdint>
#include <cstring>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "finding.hpp"
#include "support/random_formulas.hpp"
#include "support/random_scene.hpp"
#include "targets.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/live/document.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/data.hpp"
#include "yurvo/verify/check.hpp"

namespace yurvo::fuzzing {

void json(std::string_view bytes) {
    report::data made;
    made.set("title", bytes);
    made.set("lamps", std::vector<std::string>{std::string(bytes), "moon"});
    const auto read = nlohmann::json::parse(made.text(), nullptr, false);
    promise(!read.is_discarded(), "JSON that is none", made.text());
    // What is UTF-8 comes back as it was.
    const auto same =
        nlohmann::json(std::string(bytes)).dump(-1, ' ', false, nlohmann::json::error_handler_t::ignore);
    const bool whole = nlohmann::json::parse(same).get<std::string>() == bytes;
    promise(!whole || read["title"].get<std::string>() == bytes, "a text that comes back as another");
}

void drawing(std::string_view bytes) {
    std::uint64_t seed = 0;
    std::memcpy(&seed, bytes.data(), std::min(bytes.size(), sizeof seed));
    const bool textures = (seed & 1U) != 0;
    scene made = testing::random_scenes(seed, textures).next(96, 60);
    if ((seed & 2U) != 0) {
        testing::random_formulas(seed).give(made);
    }
    const verify::check_result held = verify::hold_against_second_method(made, draw(made, {.threads = 1}));
    promise(held.passed, "a picture differs from the second method's",
            "seed " + std::to_string(seed) + ": " + held.because + "; used " + std::to_string(held.used) +
                " at " + std::to_string(held.x) + ", " + std::to_string(held.y) + "; " + held.remark);
}

void live(std::string_view bytes) {
    static const std::string first_text = scene_text(testing::random_scenes(5).next(16, 10));
    static const std::vector<std::string> places{"view.eye",
                                                 "view.fov",
                                                 "view.width",
                                                 "lights[0].color",
                                                 "lights[0].position",
                                                 "lights[1].kind",
                                                 "lights[]",
                                                 "lights[0]",
                                                 "objects[0].material",
                                                 "objects[0].position",
                                                 "objects[]",
                                                 "objects[1]",
                                                 "materials[0].base",
                                                 "materials[0].shininess",
                                                 "materials[]",
                                                 "ambient.strength",
                                                 "shading.model",
                                                 "shading.rate",
                                                 "shading.cel.outline",
                                                 "formulas.diffuse",
                                                 "background",
                                                 "title",
                                                 "expect[]",
                                                 ""};
    static const std::vector<std::string> values{
        "1.0",
        "[1.0, 2.0, 3.0]",
        "\"lambert\"",
        "\"paint-0\"",
        "",
        "-1",
        "nan",
        "1e400",
        "true",
        "[]",
        "\"",
        "kind = \"point\"\nposition = [1.0, 2.0, 3.0]\nfalloff = \"constant\"",
        "[[[",
        "{a = 1}",
        "1 # 2",
        "\"fragment\"",
        "64",
        "'''\nquay'''"};
    scene_source source;
    source.name = "quay";
    source.text = first_text;
    source.files = [](const std::string& name) -> std::string {
        throw error({name, 0, 0}, "is not here", "a file that is");
    };
    yurvo::live::document edited(source);
    const auto consistent = [&] {
        const std::string shown = scene_text(edited.shown());
        const std::string read = scene_text(parse_scene(edited.text(), "quay.toml", source.files));
        promise(shown == read, "the text says another scene than is shown", edited.text());
    };
    std::size_t at = 0;
    const auto next = [&] { return at < bytes.size() ? static_cast<unsigned char>(bytes[at++]) : 0U; };
    const auto text = [&](const std::vector<std::string>& list) {
        const unsigned which = next();
        if (which < 0xF0) {
            return list[which % list.size()];
        }
        const std::size_t length = std::min<std::size_t>(next() % 32, bytes.size() - at);
        at += length;
        return std::string(bytes.substr(at - length, length));
    };
    for (int steps = 0; at < bytes.size() && steps < 40; ++steps) {
        switch (next() % 8) {
        case 0:
            edited.undo();
            break;
        case 1:
            edited.redo();
            break;
        case 2:
            edited.begin_step();
            break;
        case 3:
            edited.end_step();
            break;
        default: {
            const std::string place = text(places);
            const std::string value = text(values);
            const std::string before = edited.text();
            if (!edited.apply({place, value})) {
                promise(edited.fault().has_value() && edited.text() == before,
                        "a refused edit changed the text");
            }
        }
        }
        consistent();
    }
    edited.end_step();
    while (edited.undo()) {
    }
    promise(edited.text() == first_text, "undoing all does not bring back the first text", edited.text());
}

} // namespace yurvo::fuzzing
