#include "diagnosis.hpp"

#include <memory>

#include "yurvo/report/sheet.hpp"

namespace yurvo::app {

namespace {

struct diagnose_options {
    scene_options from;
    std::string picture, as, output, json_file;
};

std::string_view word_of(verify::verdict_kind verdict) {
    switch (verdict) {
    case verify::verdict_kind::right:
        return "right";
    case verify::verdict_kind::mistake:
        return "mistake";
    case verify::verdict_kind::unknown:
        break;
    }
    return "unknown";
}

std::string makeup_text(const std::vector<verify::makeup_part>& makeup) {
    if (makeup.empty()) {
        return "";
    }
    std::string text = "\nIts make-up: how much of each term the picture holds, 1 in a right one\n";
    for (const verify::makeup_part& part : makeup) {
        const std::string whose = part.light.empty() ? part.term : part.light + "'s " + part.term;
        text += fmt::format("  {:<36}{:>8.3f}   {}\n", whose, part.factor, part.suggests);
    }
    return text;
}

int run(session& on, const diagnose_options& options) {
    if (!options.output.empty()) {
        require_picture_name(options.output);
    }
    const drawable drawn = options.from.load(on);
    if (drawn.own != nullptr) {
        throw error({"--model", 0, 0},
                    "`" + drawn.model + "` is a model of your own: its right picture is not known",
                    "unlit, lambert, phong, blinn-phong or cel");
    }
    if (options.picture.empty() == !drawn.program) {
        throw error({"yurvo diagnose", 0, 0}, "there is no one thing to look into",
                    "--picture FILE or --program FILE");
    }
    const std::string what = drawn.program ? options.from.program : options.picture;
    scene asked = drawn.scene;
    if (drawn.program && options.from.size.empty()) { // large enough for a verdict, and soon drawn
        asked.view.width = std::min(asked.view.width, 640);
        asked.view.height = std::min(asked.view.height, 400);
    }
    const verify::precision held =
        drawn.program ? drawn.program->held() : precision_of(options.picture, options.as);
    const picture subject = drawn.program ? drawn.program->draw(asked) : read_found(options.picture, held);
    on.progress("looking for what explains " + what);
    const verify::diagnosis found = verify::diagnose(
        asked, subject, held, drawn.program ? drawn.program->allowed() : verify::allowance{});
    on.progress("");
    if (speaks(options.json_file)) {
        on.print("{}", diagnosis_text(found, what, options.from.scene));
    }
    if (!options.output.empty()) {
        write_picture(options.output, diagnosis_sheet(found, subject, what));
        if (speaks(options.json_file)) {
            on.print("\n{}: the evidence\n", options.output);
        }
    }
    json data = diagnosis_data(found);
    data["scene"] = options.from.scene;
    data[drawn.program ? "program" : "picture"] = what;
    write_json(on, options.json_file, data);
    return found.verdict == verify::verdict_kind::right ? all_held : not_held;
}

} // namespace

picture diagnosis_sheet(const verify::diagnosis& found, const picture& subject, const std::string& file) {
    report::sheet sheet;
    sheet.columns = 2;
    const picture right = draw(found.drawn);
    const double scale = std::max(1e-6, report::luminance_range(right, subject));
    sheet.panels.push_back({file, "the picture that was given", subject, std::nullopt, {}});
    sheet.panels.push_back({"right", "as it should be", right, std::nullopt, {}});
    switch (found.verdict) {
    case verify::verdict_kind::right:
        sheet.title = "The picture is right";
        break;
    case verify::verdict_kind::mistake:
        sheet.title = found.mistakes.front().id();
        sheet.panels.push_back({found.mistakes.front().id(),
                                "the right scene with this mistake in it",
                                verify::picture_of_suspect(found.drawn, found.mistakes.front()),
                                std::nullopt,
                                {}});
        break;
    case verify::verdict_kind::unknown:
        sheet.title = "The picture is wrong, and no known mistake explains it";
        break;
    }
    sheet.subtitle =
        fmt::format("{} of {} compared pixels are off", grouped(found.off), grouped(found.compared));
    if (found.verdict == verify::verdict_kind::mistake) {
        sheet.subtitle += fmt::format("; with the mistake, {}", grouped(found.off_with));
    }
    const auto mark = found.x >= 0 ? std::optional(std::array<int, 2>{found.x, found.y}) : std::nullopt;
    for (report::panel& one : sheet.panels) {
        one.mark = mark;
    }
    sheet.panels.push_back(
        {"given − right", "", report::difference_colors(right, subject, scale), scale, {}});
    return report::render(sheet);
}

std::string diagnosis_text(const verify::diagnosis& found, const std::string& what,
                           const std::string& scene) {
    std::string text;
    const auto line = [](const std::string& name, std::string_view says) {
        return fmt::format("  {:<13}{}\n", name, wrapped(std::string(says), 15));
    };
    if (found.verdict == verify::verdict_kind::right) {
        text = found.exposure == 1
                   ? fmt::format("{} is right: {}\n", what, scene)
                   : fmt::format("{} is right but for its exposure, {:.3g} times what it should be: {}\n",
                                 what, found.exposure, scene);
        text +=
            line("evidence",
                 fmt::format("{} of {} compared pixels are off by more than {:.3g} codes; the "
                             "residual is {:.3g} codes",
                             grouped(found.off), grouped(found.compared), found.tolerance, found.residual));
    } else if (found.verdict == verify::verdict_kind::mistake) {
        const verify::suspect& best = found.mistakes.front();
        text = fmt::format("{}: {}\n", what, best.id());
        for (const verify::mistake which : best.which) {
            const verify::mistake_entry& entry = verify::entry_of(which);
            text += "\n" + (best.which.size() > 1 ? line("mistake", entry.id) : std::string());
            text += line("what it is", entry.what) + line("cause", entry.cause) + line("fix", entry.fix);
        }
        text += "\n" +
                line("evidence",
                     fmt::format(
                         "{} of {} compared pixels are off against the right picture, {} against this one; "
                         "the residual falls from {:.3g} to {:.3g} codes",
                         grouped(found.off), grouped(found.compared), grouped(found.off_with), found.residual,
                         best.residual));
        if (found.x >= 0) {
            text +=
                line("look at", fmt::format("pixel ({}, {}), where the two differ most; `yurvo explain {} "
                                            "--pixel {},{}` works it by hand",
                                            found.x, found.y, scene, found.x, found.y));
        }
        if (!found.ties.empty()) {
            std::string ids;
            for (const verify::mistake one : found.ties) {
                ids += (ids.empty() ? "" : ", ") + std::string(verify::entry_of(one).id);
            }
            text += line("the same here", ids);
            text += line("told apart by",
                         found.separated_by.empty() ? "no single reference scene" : found.separated_by);
        }
    } else {
        text = fmt::format("{} is wrong, and no known mistake explains it: {}\n", what, scene);
        text +=
            line("evidence",
                 fmt::format("{} of {} compared pixels are off by more than {:.3g} codes; the "
                             "residual is {:.3g} codes",
                             grouped(found.off), grouped(found.compared), found.tolerance, found.residual));
        for (const verify::suspect& one : found.mistakes) {
            text += line("nearest", fmt::format("{}, which leaves {:.3g} codes", one.id(), one.residual));
        }
    }
    for (const std::string& remark : found.remarks) {
        text += line("remark", remark);
    }
    return text + makeup_text(found.makeup);
}

json diagnosis_data(const verify::diagnosis& found) {
    json data{{"verdict", word_of(found.verdict)}, {"mistakes", json::array()}, {"ties", json::array()}};
    for (const verify::suspect& one : found.mistakes) {
        json ids = json::array();
        for (const verify::mistake which : one.which) {
            ids.push_back(verify::entry_of(which).id);
        }
        data["mistakes"].push_back(
            {{"id", one.id()}, {"residual", one.residual}, {"exposure", one.exposure}, {"ids", ids}});
    }
    for (const verify::mistake one : found.ties) {
        data["ties"].push_back(verify::entry_of(one).id);
    }
    data["separated_by"] = found.separated_by.empty() ? json(nullptr) : json(found.separated_by);
    data["residual"] = found.residual;
    data["exposure"] = found.exposure;
    data["compared"] = found.compared;
    data["off"] = found.off;
    data["off_with_mistake"] = found.off_with;
    data["tolerance"] = found.tolerance;
    data["pixel"] = found.x >= 0 ? json{found.x, found.y} : json(nullptr);
    data["makeup"] = json::array();
    for (const verify::makeup_part& part : found.makeup) {
        data["makeup"].push_back({{"light", part.light.empty() ? json(nullptr) : json(part.light)},
                                  {"term", part.term},
                                  {"factor", part.factor},
                                  {"suggests", part.suggests}});
    }
    data["remarks"] = found.remarks;
    return data;
}

void add_diagnose(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "diagnose",
        "Which mistake, if any, explains a picture of a scene, and what the picture is made up of.");
    auto options = std::make_shared<diagnose_options>();
    options->from.add_to(*command, true);
    options->from.add_program_to(*command);
    command->add_option("--picture", options->picture, "the picture: .png, .exr or .pfm")->type_name("FILE");
    command->add_option("--as", options->as, "what a PNG's codes are: srgb (where left out) or linear");
    command
        ->add_option("-o,--output", options->output, "a sheet: the picture, the right one, the mistaken one")
        ->type_name("FILE");
    command->add_option("--json", options->json_file, "the findings, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
