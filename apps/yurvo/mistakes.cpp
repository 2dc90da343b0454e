#include "yurvo/report/mistakes.hpp"
#include "session.hpp"

namespace yurvo::app {

namespace {

struct mistakes_options {
    std::string id;
    json_option data;
};

int run(session& on, const mistakes_options& options) {
    json data{{"mistakes", json::array()}};
    const verify::mistake_set asked = mistakes_from(options.id);
    std::string text;
    for (const verify::mistake_entry& one : verify::all_mistakes()) {
        if (options.id.empty() || asked.has(one.which)) {
            data["mistakes"].push_back(report::json_of(one));
            text += (text.empty() ? "" : "\n") + report::mistake_text(one);
        }
    }
    if (options.data.speaks() && options.id.empty()) {
        on.print("{}", report::catalogue_text());
    } else if (options.data.speaks()) {
        on.print("{}\nTo see it: yurvo draw {} --mistake {} -o wrong.png\n", text,
                 verify::revealed_by(*asked.first()).front(), options.id);
    }
    options.data.write(on, data);
    return all_held;
}

} // namespace

void add_mistakes(CLI::App& command, session& on) {
    auto options = std::make_shared<mistakes_options>();
    command.add_option("id", options->id, "one of them, or several with commas between")->type_name("ID");
    options->data.add_to(command, "the catalogue");
    run_with(command, on, options, run);
}

} // namespace yurvo::app
