#include "diagnosis.hpp"

#include <algorithm>
#include <cmath>
#include <iostream>
#include <memory>
#include <random>

#include "yurvo/report/sheet.hpp"
#include "yurvo/verify/explain.hpp"

namespace yurvo::app {

namespace {

struct quiz_options {
    std::string scene, output = "quiz.png", answer;
    std::uint64_t seed = 0;
    bool seeded = false;
};

constexpr std::size_t choices = 4;
// A mistake is asked for only where it can be seen: this many codes on this share of the picture.
constexpr int visible_codes = 10;
constexpr double visible_share = 0.01;

using code_list = std::vector<std::uint8_t>;

int off_at(const code_list& a, const code_list& b, std::size_t pixel) {
    int most = 0;
    for (std::size_t c = 0; c < 4; ++c) {
        most =
            std::max(most, std::abs(static_cast<int>(a[4 * pixel + c]) - static_cast<int>(b[4 * pixel + c])));
    }
    return most;
}

bool visibly_apart(const code_list& a, const code_list& b) {
    std::size_t off = 0;
    for (std::size_t i = 0; i < a.size() / 4; ++i) {
        off += off_at(a, b, i) >= visible_codes ? 1U : 0U;
    }
    return static_cast<double>(off) >= visible_share * static_cast<double>(a.size() / 4);
}

struct question {
    scene of;
    std::string name;
    std::vector<verify::mistake> offered; // one of them is in the picture
    std::size_t right = 0;
    code_list right_codes, wrong_codes;
};

// Which scene, which mistake and which wrong answers: all by the seed, the same each time.
question ask(const session& on, const quiz_options& options) {
    std::mt19937_64 random(options.seed);
    const auto below = [&](std::size_t most) { return static_cast<std::size_t>(random() % most); };
    question made;
    made.name = options.scene;
    if (made.name.empty()) {
        const auto& entries = verify::all_mistakes();
        const auto& scenes = verify::revealed_by(entries[below(entries.size())].which);
        made.name = scenes[below(scenes.size())];
    }
    made.of = find_scene(on, made.name);
    scene small = made.of;
    small.expects.clear();
    small.view.width = 160;
    small.view.height = std::max(1, 160 * made.of.view.height / made.of.view.width);
    const code_list right = codes_of(draw(small));
    std::vector<verify::mistake> candidates;
    for (const verify::mistake_entry& one : verify::all_mistakes()) {
        if (verify::applies(one.which, small)) {
            candidates.push_back(one.which);
        }
    }
    for (std::size_t i = candidates.size(); i > 1; --i) { // shuffled, in a way that is the same everywhere
        std::swap(candidates[i - 1], candidates[below(i)]);
    }
    std::vector<code_list> shown;
    for (const verify::mistake one : candidates) {
        code_list codes = verify::codes_with(verify::draw_with_mistakes(small, {one}), {one});
        const bool told_apart = visibly_apart(right, codes) &&
                                std::all_of(shown.begin(), shown.end(), [&](const code_list& other) {
                                    return visibly_apart(other, codes);
                                });
        if (told_apart) {
            made.offered.push_back(one);
            shown.push_back(std::move(codes));
        }
        if (made.offered.size() == choices) {
            break;
        }
    }
    if (made.offered.size() < 2) {
        throw error({made.name, 0, 0}, "too few mistakes can be seen in this scene", "another scene");
    }
    made.right = below(made.offered.size());
    return made;
}

// What gave it away: the pixel where the wrong picture is farthest off, in numbers.
std::string what_gave_it_away(const question& asked) {
    std::size_t most = 0;
    for (std::size_t i = 0; i < asked.right_codes.size() / 4; ++i) {
        if (off_at(asked.right_codes, asked.wrong_codes, i) >
            off_at(asked.right_codes, asked.wrong_codes, most)) {
            most = i;
        }
    }
    const auto width = static_cast<std::size_t>(asked.of.view.width);
    const auto codes = [&](const code_list& of) {
        return fmt::format("({}, {}, {})", of[4 * most], of[4 * most + 1], of[4 * most + 2]);
    };
    return fmt::format(
        "Look at pixel ({}, {}): it should be {} and is {}. `yurvo explain {} --pixel {},{}` works it "
        "by hand.",
        most % width, most / width, codes(asked.right_codes), codes(asked.wrong_codes), asked.name,
        most % width, most / width);
}

// The one that was meant: by its letter or its id. The number of offered ones where none was.
std::size_t answered(const question& asked, const std::string& answer) {
    for (std::size_t i = 0; i < asked.offered.size(); ++i) {
        const char letter = static_cast<char>('a' + i);
        if (answer == verify::entry_of(asked.offered[i]).id ||
            (answer.size() == 1 && (answer[0] | 0x20) == letter)) {
            return i;
        }
    }
    return asked.offered.size();
}

// Both pictures, side by side.
picture draw_question(question& asked, std::uint64_t seed) {
    asked.of.expects.clear();
    const verify::mistake wrong = asked.offered[asked.right];
    const picture right = draw(asked.of);
    asked.right_codes = codes_of(right);
    asked.wrong_codes = verify::codes_with(verify::draw_with_mistakes(asked.of, {wrong}), {wrong});
    report::sheet sheet;
    sheet.title = "What went wrong?";
    sheet.subtitle = fmt::format("{}, {} per {}; question {}", asked.name, name_of(asked.of.shading.model),
                                 name_of(asked.of.shading.rate), seed);
    sheet.columns = 2;
    sheet.panels.push_back({"right", "", right, std::nullopt, {}});
    sheet.panels.push_back(
        {"with a mistake", "", picture_of(right.width, right.height, asked.wrong_codes), std::nullopt, {}});
    return report::render(sheet);
}

int run(session& on, quiz_options options) {
    require_picture_name(options.output);
    if (!options.seeded) {
        options.seed = std::random_device()() % 1'000'000;
    }
    question asked = ask(on, options);
    write_picture(options.output, draw_question(asked, options.seed));
    const verify::mistake wrong = asked.offered[asked.right];

    on.print("{}: {} as it should be, and with a mistake. Question {}. Which is it?\n\n", options.output,
             asked.name, options.seed);
    for (std::size_t i = 0; i < asked.offered.size(); ++i) {
        const verify::mistake_entry& one = verify::entry_of(asked.offered[i]);
        on.print("  {}  {:<34}{}\n", static_cast<char>('a' + i), one.id, wrapped(std::string(one.what), 39));
    }
    if (options.answer.empty()) {
        on.print("\nYour answer: ");
        on.flush();
        std::getline(std::cin, options.answer);
        while (!options.answer.empty() && (options.answer.back() == ' ' || options.answer.back() == '\r')) {
            options.answer.pop_back();
        }
        if (options.answer.empty()) {
            on.print("\nNo answer. `yurvo quiz {}--seed {} --answer ID` takes one later.\n",
                     options.scene.empty() ? "" : options.scene + " ", options.seed);
            return all_held;
        }
    }
    const std::size_t chosen = answered(asked, options.answer);
    if (chosen == asked.offered.size()) {
        throw error({"--answer", 0, 0}, "`" + options.answer + "` is not among the answers",
                    fmt::format("a letter from a to {}, or an id",
                                static_cast<char>('a' + asked.offered.size() - 1)));
    }
    const verify::mistake_entry& entry = verify::entry_of(wrong);
    const auto line = [](const char* name, std::string_view text) {
        return fmt::format("  {:<14}{}\n", name, wrapped(std::string(text), 16));
    };
    on.print("\n{}\n", chosen == asked.right ? fmt::format("Yes: {}.", entry.id)
                                             : fmt::format("No: it is {}.", entry.id));
    on.print("{}{}{}{}{}", line("what it is", entry.what), line("symptom", entry.symptom),
             line("cause", entry.cause), line("fix", entry.fix),
             line("gave it away", what_gave_it_away(asked)));
    if (chosen != asked.right) {
        on.print("{}", line("yours", std::string(verify::entry_of(asked.offered[chosen]).id) + " looks so: " +
                                         std::string(verify::entry_of(asked.offered[chosen]).symptom)));
    }
    return chosen == asked.right ? all_held : not_held;
}

} // namespace

picture quiz_sheet(const session& on, const std::string& scene, std::uint64_t seed) {
    quiz_options options;
    options.scene = scene;
    options.seed = seed;
    question asked = ask(on, options);
    return draw_question(asked, seed);
}

void add_quiz(CLI::App& to, session& on) {
    CLI::App* command =
        to.add_subcommand("quiz", "A scene with an unnamed mistake: find out which, and what gives it away.");
    auto options = std::make_shared<quiz_options>();
    command->add_option("scene", options->scene, "a scene's name or path; any reference scene where left out")
        ->type_name("SCENE");
    CLI::Option* seed =
        command->add_option("--seed", options->seed, "the same question again")->type_name("N");
    command->add_option("-o,--output", options->output, "the sheet with both pictures")
        ->type_name("FILE")
        ->capture_default_str();
    command->add_option("--answer", options->answer, "instead of being asked: a letter or an id")
        ->type_name("ID");
    command->callback([&on, options, seed] {
        options->seeded = seed->count() > 0;
        on.run = [&on, options] { return run(on, *options); };
    });
}

} // namespace yurvo::app
