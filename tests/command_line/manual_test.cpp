// What the tool writes of itself: a manual page, completions, the document of its commands.
#include <doctest/doctest.h>

#include <filesystem>
#include <string>

#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/tool.hpp"

using namespace yurvo;
using namespace yurvo::testing;

TEST_CASE("the pages of reference are what the tool writes; scripts/reference writes them anew") {
    const temporary_folder folder;
    REQUIRE(run(tool + " manual -o " + folder.path()).status == 0);
    int pages = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder.path())) {
        if (entry.path().extension() == ".md") {
            CAPTURE(entry.path().filename().string());
            CHECK(read_whole(entry.path().string()) ==
                  read_whole(std::string(YURVO_TESTS) + "/../docs/reference/" +
                             entry.path().filename().string()));
            ++pages;
        }
    }
    CHECK(pages == 5);
}

TEST_CASE("the manual page names every command, and nothing in it acts on what shows it") {
    const temporary_folder folder;
    REQUIRE(run(tool + " manual -o " + folder.path()).status == 0);
    const std::string page = read_whole(folder / "yurvo.1");
    CHECK(page.starts_with(".TH YURVO 1"));
    const std::string help = run(tool + " --help").out;
    for (const char* const command :
         {"demo",  "scenes",  "draw",    "layers",   "rates",  "turn",  "curves", "cost",
          "check", "explain", "compare", "diagnose", "report", "view",  "watch",  "mistakes",
          "quiz",  "new",     "pack",    "export",   "doctor", "manual"}) {
        CAPTURE(std::string(command));
        CHECK(has(page, ".SS yurvo " + std::string(command)));
        CHECK(has(help, "  " + std::string(command) + " "));
    }
    CHECK(has(page, "\\fB\\-\\-pixel\\fR \\fIX,Y\\fR"));
}

TEST_CASE("bash completes commands, options, scenes, mistakes, models and files") {
    const temporary_folder folder;
    REQUIRE(run(tool + " manual -o " + folder.path()).status == 0);
    const auto completed = [&](const std::string& words, int at) {
        return run("bash -c 'cd " + folder.path() + "; source ./yurvo.bash; COMP_WORDS=(" + words +
                   "); COMP_CWORD=" + std::to_string(at) + "; _yurvo; printf \"%s \" \"${COMPREPLY[@]}\"'")
            .out;
    };
    CHECK(completed("yurvo dia", 1) == "diagnose ");
    CHECK(completed("yurvo draw moon", 2) == "moon-crates ");
    CHECK(completed("yurvo draw buoys --sam", 3) == "--samples ");
    CHECK(completed("yurvo draw buoys --mistake cone-f", 4) == "cone-full-angle ");
    CHECK(completed("yurvo draw buoys --model bl", 4) == "blinn-phong ");
    CHECK(completed("yurvo draw buoys --rate v", 4) == "vertex ");
    CHECK(completed("yurvo check --program yurvo.f", 3) == "yurvo.fish ");
    CHECK(completed("yurvo nonsense x", 2) == " ");
}

TEST_CASE("the example of each command does what it says") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && ";
    REQUIRE(run(in + tool + " new program lantern").status == 0);
    REQUIRE(
        run(in + tool + " draw buoys -o mine.png --mistake normal-flipped && cp mine.png right.png").status ==
        0);
    const std::string document = read_whole(std::string(YURVO_TESTS) + "/../docs/reference/commands.md");
    std::size_t examples = 0;
    const std::string before = "```sh\nyurvo ";
    for (std::size_t at = document.find(before); at != std::string::npos;
         at = document.find(before, at + 1)) {
        const std::size_t begin = at + before.size();
        const std::string words = document.substr(begin, document.find('\n', begin) - begin);
        CAPTURE(words);
        ++examples;
        const std::string command = words.substr(0, words.find(' '));
        // The tour and the figures take long, and have tests of their own; `view` needs a display; `watch`
        // never ends.
        if (command == "demo" || command == "cost" || command == "new" ||
            (!testing::whole && command == "report") || (!testing::patient && command == "check")) {
            continue;
        }
        const std::string more = command == "view"    ? " --still still.png"
                                 : command == "watch" ? " buoys --once"
                                                      : "";
        const outcome said = run(in + tool + " " + words + more);
        CAPTURE(said.out);
        CAPTURE(said.err);
        CHECK(said.status == (command == "diagnose" ? 1 : 0));
    }
    CHECK(examples == 22);
}

TEST_CASE(
    "--quiet leaves results and errors, --version says how it was built, help stands in the order of work") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && ";
    REQUIRE(run(in + tool + " draw buoys -o mine.png").status == 0);
    const std::string command = in + tool + " check buoys --picture mine.png";
    const outcome said = run(command);
    const outcome quiet = run(command + " --quiet");
    CHECK(said.status == 0);
    CHECK(has(said.err, "yurvo: mine.png is one picture"));
    CHECK(quiet.status == said.status);
    CHECK(quiet.err == "");
    CHECK(quiet.out == said.out);
    CHECK(run(in + tool + " --quiet draw none.toml -o a.png").err ==
          "none.toml: there is no such scene, nor a file of that name; a path, or a name that `yurvo scenes` "
          "lists\n");
    const std::string version = run(tool + " --version").out;
    CHECK(version.starts_with("yurvo 0.1.0\nbuilt by "));
    const std::string help = run(tool + " --help").out;
    std::size_t before = 0;
    for (const char* const group : {"\nTo look:\n", "\nTo understand:\n", "\nTo verify:\n", "\nTo learn:\n",
                                    "\nTo carry over:\n", "\nAbout this tool:\n"}) {
        const std::size_t at = help.find(group);
        CAPTURE(std::string(group));
        REQUIRE(at != std::string::npos);
        CHECK(at > before);
        before = at;
    }
}

TEST_CASE("zsh and fish take their completions, where they are here") {
    const temporary_folder folder;
    REQUIRE(run(tool + " manual -o " + folder.path()).status == 0);
    if (run("command -v zsh").status == 0) {
        CHECK(run("zsh -n " + folder.path() + "/_yurvo").status == 0);
    }
    if (run("command -v fish").status == 0) {
        const auto completed = [&](const std::string& words) {
            return run("HOME=" + folder.path() + " fish -c 'source " + folder.path() +
                       "/yurvo.fish; complete -C \"" + words + "\"'")
                .out;
        };
        CHECK(completed("yurvo dia").starts_with("diagnose"));
        CHECK(completed("yurvo draw buoys --mistake cone-f").starts_with("cone-full-angle"));
        CHECK(completed("yurvo draw moon").starts_with("moon-crates"));
    }
}
