// Words for messages: the nearest that is known, what is called something else now, lists, short numbers.
#include <doctest/doctest.h>

#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "yurvo/scene/names.hpp"

using namespace yurvo;

namespace {

const std::vector<std::string_view> keys{"position", "rotation", "scale", "shines", "color", "penumbra"};

// Every name of an enumeration reads back as itself, and no two are the same.
template <class Enum> void reads_back() {
    const std::vector<std::string_view> names = all_names<Enum>();
    std::set<std::string_view> seen;
    for (std::size_t i = 0; i < names.size(); ++i) {
        CAPTURE(std::string(names[i]));
        CHECK(seen.insert(names[i]).second);
        const std::optional<Enum> found = from_name<Enum>(names[i]);
        REQUIRE(found);
        CHECK(static_cast<std::size_t>(*found) == i);
        CHECK(name_of(*found) == names[i]);
        CHECK(names[i].find_first_not_of("abcdefghijklmnopqrstuvwxyz-") == std::string_view::npos);
    }
    CHECK_FALSE(from_name<Enum>(""));
    CHECK_FALSE(from_name<Enum>("no such name"));
}

} // namespace

TEST_CASE("words: a slip of a letter is the word that was meant: left out, added, changed, swapped") {
    for (const char* const slip : {"positon", "positiion", "posirion", "positino", "Position"}) {
        CAPTURE(slip);
        CHECK(nearest(slip, keys) == "position");
    }
    CHECK(nearest("shine", keys) == "shines");
    CHECK(nearest("colour", keys) == "color");
    CHECK(nearest("scael", keys) == "scale"); // two letters swapped are one slip
}

TEST_CASE("words: of two as near, the first that is known; more than half changed is another word") {
    CHECK(nearest("rosition", {"rotition", "position"}) == "rotition");
    CHECK(nearest("ab", {"cd"}).empty());
    CHECK(nearest("ab", {"ad"}) == "ad"); // half of its letters
    CHECK(nearest("", keys).empty());
    CHECK(nearest("position", {}).empty());
    CHECK(nearest(std::string(201, 'p'), keys).empty());
}

TEST_CASE("words: what was called otherwise in an earlier version, where it is known") {
    CHECK(renamed("rim", keys) == "penumbra");
    CHECK(renamed("rim", {"color"}).empty());
    CHECK(renamed("penumbra", keys).empty());
    CHECK(instead_of("rim", keys, "a key") == "it is called `penumbra` now");
    CHECK(instead_of("positon", keys, "a key") == "the nearest is `position`");
    CHECK(instead_of("qzxw", keys, "a key") == "a key");
}

TEST_CASE("words: lists and short numbers") {
    CHECK(listed({}).empty());
    CHECK(listed({"face", "vertex"}) == "face or vertex");
    CHECK(listed({"face", "vertex", "fragment"}) == "face, vertex or fragment");
    CHECK(short_number(0.5, 6) == "0.5");
    CHECK(short_number(1.0 / 3, 3) == "0.333");
    CHECK(short_number(1234567, 3) == "1.23e+06");
    CHECK(short_number(-0.000012345, 4) == "-1.234e-05");
    CHECK(short_number(100, 6) == "100");
}

TEST_CASE("words: every name reads back, and is written in small letters with dashes") {
    reads_back<light_kind>();
    reads_back<falloff_kind>();
    reads_back<penumbra_kind>();
    reads_back<model_kind>();
    reads_back<term>();
    reads_back<rate>();
    reads_back<normals_kind>();
    reads_back<light_space>();
    reads_back<ambient_rule>();
    reads_back<ambient_follows>();
    reads_back<field_kind>();
}
