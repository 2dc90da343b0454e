#include "session.hpp"

#include <memory>

namespace yurvo::app {

namespace {

struct mistakes_options {
    std::string id, json_file;
};

json data_of(const verify::mistake_entry& one) {
    json scenes = json::array();
    for (const std::string_view scene : verify::revealed_by(one.which)) {
        scenes.push_back(scene);
    }
    return {{"id", one.id},       {"what", one.what}, {"symptom", one.symptom},
            {"cause", one.cause}, {"fix", one.fix},   {"applies_to", one.applies_to},
            {"scenes", scenes}};
}

std::string entry_text(const verify::mistake_entry& one) {
    const auto line = [](const char* name, std::string_view text) {
        return fmt::format("{:<13}{}\n", name, wrapped(std::string(text), 13));
    };
    std::string scenes;
    for (const std::string_view scene : verify::revealed_by(one.which)) {
        scenes += (scenes.empty() ? "" : ", ") + std::string(scene);
    }
    return fmt::format("{}\n\n", one.id) + line("what it is", one.what) + line("symptom", one.symptom) +
           line("cause", one.cause) + line("fix", one.fix) + line("applies to", one.applies_to) +
           line("revealed by", scenes);
}

int run(session& on, const mistakes_options& options) {
    json data{{"mistakes", json::array()}};
    std::string text;
    if (!options.id.empty()) {
        const verify::mistake_set asked = mistakes_from(options.id);
        for (const verify::mistake_entry& one : verify::all_mistakes()) {
            if (asked.has(one.which)) {
                data["mistakes"].push_back(data_of(one));
                text += (text.empty() ? "" : "\n") + entry_text(one);
            }
        }
        const std::string_view scene = verify::revealed_by(*asked.first()).front();
        text += fmt::format("\nTo see it: yurvo draw {} --mistake {} -o wrong.png\n", scene, options.id);
    } else {
        for (const verify::mistake_entry& one : verify::all_mistakes()) {
            data["mistakes"].push_back(data_of(one));
            text += fmt::format("{:<34}{}\n", one.id, wrapped(std::string(one.what), 34));
        }
        text +=
            fmt::format("\n{} mistakes; `yurvo mistakes ID` says how one looks, why it happens and how it is "
                        "fixed.\n",
                        verify::all_mistakes().size());
    }
    if (speaks(options.json_file)) {
        on.print("{}", text);
    }
    write_json(on, options.json_file, data);
    return all_held;
}

} // namespace

void add_mistakes(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "mistakes", "The catalogue: what each mistake is, how it looks, why it happens and how it is fixed.");
    auto options = std::make_shared<mistakes_options>();
    command->add_option("id", options->id, "one of them, or several with commas between")->type_name("ID");
    command->add_option("--json", options->json_file, "the catalogue, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
