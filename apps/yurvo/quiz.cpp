#include <iostream>
#include <random>

#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/report/quiz.hpp"
#include "yurvo/study/quiz.hpp"

namespace yurvo::app {

namespace {

struct quiz_options {
    std::string scene, output = "quiz.png", answer;
    std::optional<std::uint64_t> seed;
};

std::string read_answer() {
    std::string answer;
    std::getline(std::cin, answer);
    while (!answer.empty() && (answer.back() == ' ' || answer.back() == '\r')) {
        answer.pop_back();
    }
    return answer;
}

int run(session& on, const quiz_options& options) {
    require_picture_name(options.output);
    const std::uint64_t seed = options.seed.value_or(std::random_device()() % 1'000'000);
    const study::question the_question = study::ask(options.scene, seed);
    write_picture(options.output, report::quiz_sheet(the_question));
    on.print("{}: {} as it should be, and with a mistake. Question {}. Which is it?\n\n{}", options.output,
             the_question.of.name, seed, report::choices_text(the_question));
    std::string answer = options.answer;
    if (answer.empty()) {
        on.print("\nYour answer: ");
        on.flush();
        answer = read_answer();
    }
    if (answer.empty()) {
        on.print("\nNo answer. `yurvo quiz {}--seed {} --answer ID` takes one later.\n",
                 options.scene.empty() ? "" : options.scene + " ", seed);
        return all_held;
    }
    const std::size_t chosen = the_question.answered(answer);
    if (chosen == the_question.offered.size()) {
        throw error({"--answer", 0, 0}, "`" + answer + "` is not among the answers",
                    fmt::format("a letter from a to {}, or an id",
                                static_cast<char>('a' + the_question.offered.size() - 1)));
    }
    on.print("{}", report::answer_text(the_question, chosen));
    return chosen == the_question.right ? all_held : not_held;
}

} // namespace

void add_quiz(option_list& to, session& on) {
    auto options = std::make_shared<quiz_options>();
    to.text("scene", options->scene, "a scene's name or path; any reference scene where left out",
            {.type = "SCENE"});
    to.whole("--seed", options->seed, "a number: the same one asks the same question again", {.type = "N"});
    to.text("-o,--output", options->output, "the sheet with both pictures",
            {.type = "FILE", .show_default = true, .written = true});
    to.text("--answer", options->answer, "instead of being asked: a letter or an id", {.type = "ID"});
    run_with(to, on, options, run);
}

} // namespace yurvo::app
