#include "session.hpp"

#include <cmath>
#include <memory>

#include "yurvo/picture/comparison.hpp"
#include "yurvo/pipeline/probe.hpp"
#include "yurvo/report/sheet.hpp"
#include "yurvo/scene/turn.hpp"

namespace yurvo::app {

namespace {

struct turn_options {
    scene_options from;
    std::string output, what = "object", name, json_file;
    int steps = 8;
};

struct followed_point {
    pipeline::stage staged;
    std::optional<pipeline::seen_point> point;
};

followed_point point_in_the_middle(const scene& of) {
    followed_point found{pipeline::make_stage(of), std::nullopt};
    found.point = pipeline::probe(found.staged, pipeline::find_visible(found.staged), of.view.width / 2,
                                  of.view.height / 2);
    return found;
}

json triple_of(const rgb<double>& c) { return {c.r, c.g, c.b}; }

void require_name(const scene& of, turned_part what, const std::string& name) {
    std::vector<std::string_view> known;
    if (what == turned_part::object) {
        for (const object& one : of.objects) {
            known.emplace_back(one.name);
        }
    } else if (what == turned_part::light) {
        for (const named_light& one : of.lights) {
            known.emplace_back(one.name);
        }
    } else {
        throw error({"--name", 0, 0}, "there is only one eye", "--what object or light, or no --name");
    }
    if (std::find(known.begin(), known.end(), name) == known.end()) {
        throw error({"--name", 0, 0}, "there is no `" + name + "`",
                    instead_of(name, known, "the name of one of the scene's"));
    }
}

int run(session& on, const turn_options& options) {
    require_picture_name(options.output);
    json data;
    std::string text;
    const picture sheet = show_turn(options.from.load(on), options.from.scene, options.what, options.steps,
                                    options.name, data, text);
    write_picture(options.output, sheet);
    if (speaks(options.json_file)) {
        on.print("{}{}: the sheet\n", text, options.output);
    }
    write_json(on, options.json_file, data);
    return all_held;
}

} // namespace

picture show_turn(const drawable& of, const std::string& name, const std::string& what_word, int steps,
                  const std::string& which, json& data, std::string& text) {
    if (what_word != "object" && what_word != "eye" && what_word != "light") {
        throw error({"--what", 0, 0}, "`" + what_word + "` is not known", "object, eye or light");
    }
    if (steps < 1 || steps > 64) {
        throw error({"--steps", 0, 0}, "there are " + std::to_string(steps), "a whole number from 1 to 64");
    }
    const turned_part what = what_word == "object" ? turned_part::object
                             : what_word == "eye"  ? turned_part::eye
                                                   : turned_part::light;
    if (!which.empty()) {
        require_name(of.scene, what, which);
    }
    const followed_point middle = point_in_the_middle(of.scene);
    data = {{"scene", name}, {"what", what_word}, {"steps", json::array()}};
    report::sheet sheet;
    sheet.title = of.scene.title.empty() ? name : of.scene.title;
    sheet.subtitle =
        fmt::format("{}: {} per {}, the {} turned about the vertical in {} steps", name, of.model,
                    name_of(of.scene.shading.rate), which.empty() ? what_word : "`" + which + "`", steps);
    sheet.columns = steps <= 4 ? 2 : steps <= 9 ? 3 : 4;
    text = fmt::format("{:>7}{:>14}{:>18}", "turned", "mean", "differs at most");
    if (middle.point) {
        text += "   at the point in the middle: diffuse, specular";
        data["point"] = {
            {"object", label_of(of.scene.objects[middle.point->object], middle.point->object)},
            {"position", {middle.point->position.x, middle.point->position.y, middle.point->position.z}}};
    }
    text += "\n";
    picture first;
    for (int step = 0; step < steps; ++step) {
        const double angle = 2 * pi * step / steps;
        const scene turned_scene = turned(of.scene, what, angle, which);
        const picture made = of.draw_scene(turned_scene);
        if (step == 0) {
            first = made;
        }
        const difference off = compare(first, made);
        const difference whole = compare(picture(made.width, made.height), made);
        json entry{
            {"degrees", degrees(angle)}, {"mean", whole.mean_signed}, {"largest_difference", off.largest}};
        text += fmt::format("{:>6.4g}°{:>14}{:>18}", degrees(angle), digits(whole.mean_signed),
                            digits(off.largest));
        std::string note = step == 0 ? "as it is" : fmt::format("differs by {} at most", digits(off.largest));
        // A point that stays where it is: under the turned eye or lights, or, where objects turn, whatever is
        // there.
        if (middle.point && of.own == nullptr) {
            const followed_point now = what == turned_part::object
                                           ? point_in_the_middle(turned_scene)
                                           : followed_point{pipeline::make_stage(turned_scene), middle.point};
            if (now.point) {
                const rgb<double> diffuse =
                    color_at(now.staged, turned_scene.shading, *now.point, {false, true, false, false});
                const rgb<double> specular =
                    color_at(now.staged, turned_scene.shading, *now.point, {false, false, true, false});
                entry["diffuse"] = triple_of(diffuse);
                entry["specular"] = triple_of(specular);
                text += fmt::format("   {}, {}", triple({diffuse.r, diffuse.g, diffuse.b}, 4),
                                    triple({specular.r, specular.g, specular.b}, 4));
            }
        }
        text += "\n";
        data["steps"].push_back(entry);
        sheet.panels.push_back({fmt::format("{:.4g}°", degrees(angle)), note, made, std::nullopt, {}});
    }
    text += "\n";
    return report::render(sheet);
}

void add_turn(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "turn", "A sheet of views with the objects turned, the eye walked around, or the lights moved.");
    auto options = std::make_shared<turn_options>();
    options->from.add_to(*command, true);
    command->add_option("-o,--output", options->output, "the sheet: .png, .exr or .pfm")
        ->required()
        ->type_name("FILE");
    command
        ->add_option(
            "--what", options->what,
            "object (each in place), eye or light (around the view's target); all about the vertical")
        ->type_name("WHAT")
        ->capture_default_str();
    command->add_option("--name", options->name, "only the object or light of this name")->type_name("NAME");
    command->add_option("--steps", options->steps, "how many views of a whole turn")
        ->type_name("N")
        ->capture_default_str();
    command->add_option("--json", options->json_file, "the figures, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
