#include <doctest/doctest.h>

#include <string>

#include "yurvo/scene/error.hpp"
#include "yurvo/scene/visible_text.hpp"

using namespace yurvo;

TEST_CASE("what acts on a terminal is written out, all else stays") {
    CHECK(visible_text("a quay\tat night\n") == "a quay\tat night\n");
    CHECK(visible_text("Hafen bei Nacht: Kähne, 港, ⚓, \U0001F6A2") ==
          "Hafen bei Nacht: Kähne, 港, ⚓, \U0001F6A2");
    CHECK(visible_text("\x1b[31mred\x1b]0;title\x07") == "\\u001b[31mred\\u001b]0;title\\u0007");
    CHECK(visible_text("over\rwritten\b\x7f") == "over\\u000dwritten\\u0008\\u007f");
    CHECK(visible_text("\xc2\x9b"
                       "31m") == "\\u009b31m"); // CSI in one character
    CHECK(visible_text("lamp\xe2\x80\xae"
                       "gnp.exe") == "lamp\\u202egnp.exe"); // right to left
    CHECK(visible_text("\xe2\x81\xa6\xe2\x81\xa9\xd8\x9c") == "\\u2066\\u2069\\u061c");
    CHECK(visible_text(std::string(1, '\0')) == "\\u0000");
}

TEST_CASE("bytes that are not UTF-8 are written out byte by byte") {
    CHECK(visible_text("K\xe4hne") == "K\\xe4hne");                    // Latin-1
    CHECK(visible_text("\xc0\xaf") == "\\xc0\\xaf");                   // `/` in two bytes: not the shortest
    CHECK(visible_text("\xe0\x9b\xbf") == "\\xe0\\x9b\\xbf");          // nor this
    CHECK(visible_text("\xed\xa0\x80") == "\\xed\\xa0\\x80");          // half of a surrogate pair
    CHECK(visible_text("\xf4\x90\x80\x80") == "\\xf4\\x90\\x80\\x80"); // beyond U+10FFFF
    CHECK(visible_text("\xe2\x80") == "\\xe2\\x80");                   // cut off
    CHECK(visible_text("\x9b"
                       "31m") == "\\x9b31m"); // C1 as terminals without UTF-8 have it
}

TEST_CASE("an error is one line, whatever names hold") {
    const error broken({"quay\n\x1b[2J.toml", 3, 7}, "no\tlamp", "one\r\n");
    CHECK(std::string(broken.what()) == "quay\\n\\u001b[2J.toml:3:7: no\\tlamp; one\\u000d\\n");
}
