// Values changed where they stand in a TOML text: all else stays, byte by byte.
#include <doctest/doctest.h>

#include <random>
#include <string>

#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/files/toml_edit.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;

namespace {

const std::string quay_text = R"(format = 1      # the first
title = "Quay · night"

# Where the eye is.
[view]
eye = [1, 2,
       3]   # over the water
target = [0, 0, 0]

[materials.deck]
base = [0.1, 0.2, 0.3] # wet

# The lantern.
[[lights]]
name = "lantern"
kind = "point"
position = [4, 1, 1]

# The moon, low.
[[lights]]
name = "møon"  # æ
kind = "directional"
shines = [0, -1, 0]
)";

std::string set(const std::string& place, const std::string& value) {
    return with_value(quay_text, "quay.toml", place, value);
}

// The text with one piece replaced, for what is expected.
std::string with(const std::string& before, const std::string& after) {
    const std::size_t at = quay_text.find(before);
    REQUIRE(at != std::string::npos);
    return quay_text.substr(0, at) + after + quay_text.substr(at + before.size());
}

} // namespace

TEST_CASE("a value is written where it stands, and nothing else moves") {
    CHECK(set("format", "2") == with("format = 1 ", "format = 2 "));
    CHECK(set("view.eye", "[9.0, 8.0, 7.0]") == with("[1, 2,\n       3]", "[9.0, 8.0, 7.0]"));
    CHECK(set("view.eye[1]", "5.5") == with("[1, 2,", "[1, 5.5,"));
    CHECK(set("lights[0].position[2]", "-1.0") == with("[4, 1, 1]", "[4, 1, -1.0]"));
    CHECK(set("lights[1].name", "\"moon\"") == with("\"møon\"", "\"moon\"")); // columns are characters
    CHECK(set("materials.deck.base", "[1.0, 1.0, 1.0]") == with("[0.1, 0.2, 0.3]", "[1.0, 1.0, 1.0]"));
}

TEST_CASE("a key that is not there is added behind the last of its section, a section behind all") {
    CHECK(set("view.fov", "30.0") == with("target = [0, 0, 0]\n", "target = [0, 0, 0]\nfov = 30.0\n"));
    CHECK(set("lights[0].intensity", "2.0") ==
          with("position = [4, 1, 1]\n", "position = [4, 1, 1]\nintensity = 2.0\n"));
    CHECK(set("lights[1].color", "[1.0, 0.5, 0.2]") == quay_text + "color = [1.0, 0.5, 0.2]\n");
    CHECK(set("ambient.strength", "0.1") == quay_text + "\n[ambient]\nstrength = 0.1\n");
    CHECK(set("materials.hull.base", "[1.0, 0.0, 0.0]") ==
          quay_text + "\n[materials.hull]\nbase = [1.0, 0.0, 0.0]\n");
    CHECK(with_value("a = 1", "x", "b", "2") == "a = 1\nb = 2\n");
    CHECK(with_value("", "x", "b", "2") == "b = 2\n");
    CHECK(with_value("view = { fov = 3 }\n", "x", "view.near", "1.0") == "view = { fov = 3 , near = 1.0 }\n");
}

TEST_CASE("a light is taken out with the comment above it, and another is put behind the last") {
    CHECK(without_value(quay_text, "x", "lights[0]") ==
          with("# The lantern.\n[[lights]]\nname = \"lantern\"\nkind = \"point\"\nposition = [4, 1, 1]\n\n",
               ""));
    CHECK(without_value(quay_text, "x", "lights[1]") == quay_text.substr(0, quay_text.find("# The moon")));
    CHECK(without_value(quay_text, "x", "lights[2]") == quay_text);
    CHECK(without_value(quay_text, "x", "view.eye") ==
          with("eye = [1, 2,\n       3]   # over the water\n", ""));
    CHECK(with_section(quay_text, "x", "lights", "kind = \"point\"\n") ==
          quay_text + "\n[[lights]]\nkind = \"point\"\n");
    CHECK(with_section("format = 1\n", "x", "lights", "kind = \"point\"\n") ==
          "format = 1\n\n[[lights]]\nkind = \"point\"\n");
    const std::string before = "[[lights]]\na = 1\n\n\n[view]\nfov = 3\n";
    CHECK(with_section(before, "x", "lights", "b = 2\n") ==
          "[[lights]]\na = 1\n\n[[lights]]\nb = 2\n\n\n[view]\nfov = 3\n");
}

TEST_CASE("what cannot be is an error with its place, and what is no TOML too") {
    CHECK_THROWS_AS(set("lights[5].color", "1"), error);
    CHECK_THROWS_AS(set("lights[5]", "1"), error);
    CHECK_THROWS_AS(set("title.x", "1"), error);
    CHECK_THROWS_AS(set("view", "1"), error);
    CHECK_THROWS_AS(set("", "1"), error);
    CHECK_THROWS_AS(set("lights[", "1"), error);
    CHECK_THROWS_AS(set("lights[x]", "1"), error);
    CHECK_THROWS_AS(with_value("= 1", "x", "a", "1"), error);
    CHECK_THROWS_AS(without_value("lights = [{ a = 1 }, { a = 2 }]", "x", "lights[0]"), error);
    CHECK_THROWS_AS(with_section("lights = 3", "x", "lights", ""), error);
}

TEST_CASE("numbers are written with the fewest digits that read back as the same; texts in quotes") {
    CHECK(toml_number(1) == "1.0");
    CHECK(toml_number(0.1) == "0.1");
    CHECK(toml_number(-2.5) == "-2.5");
    CHECK(toml_number(1e21) == "1e+21");
    CHECK(toml_numbers({1, 0.25, -3}) == "[1.0, 0.25, -3.0]");
    CHECK(toml_text("a \"b\" \\ \n") == "\"a \\\"b\\\" \\\\ \\u000A\"");
    std::mt19937_64 engine(7);
    MESSAGE("seed 7");
    std::uniform_real_distribution<double> any(-1000, 1000);
    for (int i = 0; i < 1000; ++i) {
        const double value = any(engine);
        CHECK(std::stod(toml_number(value)) == value);
    }
}

TEST_CASE("every scene that comes with the tool reads back as the same but for the value that was changed") {
    for (const std::string_view name : scene_names()) {
        CAPTURE(name);
        const scene_source from = open_scene(std::string(name));
        const scene before = find_scene(std::string(name));
        CHECK(parse_scene(from.text, from.name, from.files) == before);
        const std::string changed = with_value(from.text, from.name, "view.eye", "[1.25, 2.5, 9.75]");
        scene after = parse_scene(changed, from.name, from.files);
        CHECK(after.view.eye.y == 2.5);
        after.view.eye = before.view.eye;
        CHECK(after == before);
        // Written twice it is the same.
        CHECK(with_value(changed, from.name, "view.eye", "[1.25, 2.5, 9.75]") == changed);
    }
}

TEST_CASE("edits of what is no TOML or no place say so, and give no text") {
    const std::string text = "[view]\neye = [1.0, 2.0]\n[[lights]]\nkind = \"point\"\n";
    const std::string file = "quay.toml";
    CHECK_THROWS_WITH_AS(
        with_value("a = = 1\n", file, "a", "2"),
        "quay.toml:1:5: this is no TOML: Error while parsing value: could not determine value type; TOML 1.0",
        error);
    CHECK_THROWS_WITH_AS(with_value(text, file, "lights[3].kind", "2"),
                         "quay.toml: there is no `lights[3].kind` in it; an element that is there", error);
    CHECK_THROWS_WITH_AS(with_value(text, file, "view.eye.x", "2"),
                         "quay.toml: there is no `view.eye.x` in it; a key of a section", error);
    CHECK_THROWS_WITH_AS(with_value(text, file, "view", "2"),
                         "quay.toml:1:1: `view` is a section; the place of a value", error);
    CHECK_THROWS_WITH_AS(with_value(text, file, "ropes[0].length", "2"),
                         "quay.toml: there is no `ropes[0].length` in it; an element that is there", error);
    for (const char* const place : {"", "[0]", "lights[", "lights[]", "lights[x]", "\"view"}) {
        CAPTURE(std::string(place));
        CHECK_THROWS_WITH_AS(with_value(text, file, place, "2"),
                             ("quay.toml: `" + std::string(place) +
                              "` is no place in it; keys with points between, `lights[0].color`")
                                 .c_str(),
                             error);
    }
    CHECK_THROWS_WITH_AS(without_value("lights = [{kind = 1}]\n", file, "lights[0]"),
                         "quay.toml:1:11: `lights[0]` stands in one value with others; sections of their own",
                         error);
    CHECK_THROWS_WITH_AS(
        with_section("lights = []\n", file, "lights", "kind = 1\n"),
        "quay.toml:1:10: `lights` is written in one value; sections that begin with [[lights]]", error);
}
