// What live work says of what it cannot do.
#include <doctest/doctest.h>

#include "yurvo/files/scene_library.hpp"
#include "yurvo/live/workspace.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;

TEST_CASE("a scene that comes with the tool is saved under another name only") {
    live::document shown(open_scene("buoys"));
    CHECK_THROWS_WITH_AS(
        shown.save(), "buoys: it comes with the tool and has no file of its own; another name to save it as",
        error);
}

TEST_CASE("a mistake that changes nothing here is not shown beside the picture, and says so") {
    live::workspace shown(open_scene("moon-crates"), {"", "", pixel_format::srgb_codes});
    shown.set_size(64, 40);
    shown.set_beside(live::beside_kind::mistake, "cone-full-angle"); // there is no cone
    static_cast<void>(shown.picture());
    for (int i = 0; i < 100 && shown.beside_fault().empty(); ++i) {
        shown.wait();
        shown.look();
        shown.picture_beside();
    }
    CHECK(shown.picture_beside() == nullptr);
    CHECK(shown.beside_fault() == "cone-full-angle: it changes nothing in this scene; another one");
}
