// named_scene: a scene and what it is called: what a study is asked of.
#pragma once

#include <string>

#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// A scene with the name by which it is asked for.
struct named_scene {
    std::string name;   ///< a reference scene's, a demo scene's, or a path: for people
    yurvo::scene scene; ///< its data

    /// The scene's own title, or its name where it has none.
    [[nodiscard]] const std::string& title() const { return scene.title.empty() ? name : scene.title; }
};

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
