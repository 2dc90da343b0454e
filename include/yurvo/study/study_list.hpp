// study_list: the studies, one descriptor each. The tool's commands, its help and the documents follow from
// it.
#pragma once

#include <array>
#include <cstdint>
#include <string_view>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// The studies, in the order of study_list.
enum class study_kind : std::uint8_t {
    layers,
    rates,
    turn,
    curves,
    cost,
    check,
    explain,
    compare,
    diagnose,
    quiz
};

/// A study: its name, its words, what it takes.
struct study_descriptor {
    study_kind kind{};            ///< which
    std::string_view name;        ///< of the command
    std::string_view text;        ///< what it does, a sentence
    bool takes_renderers = false; ///< any renderer can be asked: a model of yours, a program
};

/// The studies, in the order of the enum.
inline constexpr std::array study_list{
    study_descriptor{study_kind::layers, "layers",
                     "Build a picture up, side by side: base colours, ambient, + diffuse, + specular, ...",
                     true},
    study_descriptor{study_kind::rates, "rates",
                     "Draw a scene per face, per vertex and per fragment, and show how they differ.", true},
    study_descriptor{study_kind::turn, "turn",
                     "A sheet of views with the objects turned, the eye walked around, or the lights moved.",
                     true},
    study_descriptor{study_kind::curves, "curves",
                     "Plot each light's falloff over distance and its penumbra over angle."},
    study_descriptor{study_kind::cost, "cost",
                     "Measure each rate: milliseconds a frame, evaluations, where the time goes.", true},
    study_descriptor{study_kind::check, "check",
                     "Hold what is drawn against closed forms and against rays cast in double precision.",
                     true},
    study_descriptor{study_kind::explain, "explain",
                     "Why a pixel has its colour: every number from the normal to the encoded byte.", true},
    study_descriptor{study_kind::compare, "compare",
                     "Two pictures: by how much the second differs from the first, and where."},
    study_descriptor{study_kind::diagnose, "diagnose",
                     "Which mistake, if any, explains a picture of a scene, and what it is made up of.",
                     true},
    study_descriptor{study_kind::quiz, "quiz",
                     "A scene with an unnamed mistake: find out which, and what gives it away."},
};

/// Of that study.
constexpr const study_descriptor& descriptor_of(study_kind kind) {
    return study_list[static_cast<std::size_t>(kind)];
}

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
