// Every entry of the lists is in the documents, by the name that files and messages use.
#include <fstream>
#include <set>
#include <sstream>
#include <string>

#include "yurvo/shading/choices.hpp"
#include "yurvo/shading/falloff_list.hpp"
#include "yurvo/shading/penumbra_list.hpp"
#include "yurvo/verify/mistakes.hpp"
#include <doctest/doctest.h>

using namespace yurvo;

namespace {

std::string document(const std::string& name) {
    std::ifstream file(std::string(YURVO_ROOT) + "/docs/" + name);
    std::stringstream text;
    text << file.rdbuf();
    return text.str();
}

// Each entry has a name of its own, stands at its kind's place, and the document names it.
template <class List> void check_named(const List& list, const std::string& text) {
    REQUIRE(text.size() > 100);
    std::set<std::string> seen;
    for (const auto& entry : list) {
        const std::string name(entry.name);
        CAPTURE(name);
        CHECK_FALSE(name.empty());
        CHECK(seen.insert(name).second);
        CHECK((text.find("`" + name + "`") != std::string::npos ||
               text.find("\"" + name + "\"") != std::string::npos));
    }
}

} // namespace

TEST_CASE("lists: every falloff, penumbra and model is in the scene file's document") {
    const std::string text = document("scene-file.md");
    check_named(falloff_list, text);
    check_named(penumbra_list, text);
    check_named(model_list, text);
    for (std::size_t i = 0; i < falloff_list.size(); ++i) {
        CHECK(static_cast<std::size_t>(falloff_list[i].kind) == i);
    }
    for (std::size_t i = 0; i < penumbra_list.size(); ++i) {
        CHECK(static_cast<std::size_t>(penumbra_list[i].kind) == i);
    }
}

TEST_CASE("lists: every mistake is in its document") {
    const std::string text = document("mistakes.md");
    REQUIRE(text.size() > 100);
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        CAPTURE(entry.id);
        CHECK(text.find(std::string(entry.id)) != std::string::npos);
    }
}
