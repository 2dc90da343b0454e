// named_scene: a scene and what it is called: what a study is asked of.
#pragma once

#include <string>

#include "yurvo/scene/scene.hpp"

namespace yurvo::study {

struct named_scene {
    std::string name; ///< a reference scene's, a demo scene's, or a path: for people
    yurvo::scene scene;

    /// The scene's own title, or its name where it has none.
    [[nodiscard]] const std::string& title() const { return scene.title.empty() ? name : scene.title; }
};

} // namespace yurvo::study
