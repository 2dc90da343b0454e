#include "yurvo/report/mistakes.hpp"
#include "session.hpp"

namespace yurvo::app {

namespace {

struct mistakes_options {
    std::string id;
    json_option data;
};

int run(session& on, const mistakes_options& options) {
    std::vector<report::data> entries;
    const verify::mistake_set wanted = mistakes_from(options.id);
    std::string text;
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        if (options.id.empty() || wanted.has(entry.which)) {
            entries.push_back(report::data_of(entry));
            text += (text.empty() ? "" : "\n") + report::mistake_text(entry);
        }
    }
    if (options.data.speaks() && options.id.empty()) {
        on.print("{}", report::catalogue_text());
    } else if (options.data.speaks()) {
        on.print("{}\nTo see it: yurvo draw {} --mistake {} -o wrong.png\n", text,
                 verify::revealed_by(*wanted.first()).front(), options.id);
    }
    options.data.write(on, report::data().set("mistakes", entries));
    return all_held;
}

} // namespace

void add_mistakes(option_list& to, session& on) {
    auto options = std::make_shared<mistakes_options>();
    to.text("id", options->id, "one of them, or several with commas between", {.type = "ID"});
    options->data.add_to(to, "the catalogue");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
