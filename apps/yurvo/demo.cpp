#include "session.hpp"

#include <memory>

#include "yurvo/files/whole_file.hpp"

namespace yurvo::app {

namespace {

struct demo_options {
    std::string folder = "demo";
};

int run(session& on, const demo_options& options) {
    make_folder(options.folder);
    const auto path = [&](const std::string& name) { return options.folder + "/" + name; };

    on.progress("drawing the harbour");
    const scene harbour = find_scene(on, "harbour");
    write_picture(path("harbour.png"), draw(harbour));

    scene quay = find_scene(on, "lantern-quay");
    for (const rate at : {rate::vertex, rate::fragment}) {
        on.progress("drawing the quay");
        quay.shading.rate = at;
        write_picture(path("quay-" + std::string(name_of(at)) + ".png"), draw(quay));
    }
    on.progress("comparing the rates");
    const rates_result rates = compare_rates(drawable_of(find_scene(on, "lantern-quay")), "lantern-quay");
    write_picture(path("rates.png"), rates.sheet);
    const check_outcome checked = run_checks(on, {});
    write_whole(path("check.json"), checked.data.dump(2) + "\n");

    const json& vertex = rates.data["differences"][1];
    on.print("{}: a harbour at night, {} objects under {} lights\n", path("harbour.png"),
             harbour.objects.size(), harbour.lights.size());
    on.print("{}: the model run at the quay's four corners; the lantern's light is lost between them\n",
             path("quay-vertex.png"));
    on.print("{}: the model run at every pixel; the pool of light is there\n", path("quay-fragment.png"));
    on.print("{}: the rates side by side; per vertex misses up to {} of the light, below the lantern\n",
             path("rates.png"), digits(vertex["largest"].get<double>()));
    on.print("{}: {} checks held, {} did not; expected values in closed form and by cast rays\n",
             path("check.json"), checked.passed, checked.failed);
    on.print("\nNext: `yurvo scenes` lists what is known of each reference scene, `yurvo draw SCENE -o FILE` "
             "draws "
             "one, and\n`yurvo scenes harbour -o harbour.toml` writes a scene file to change.\n");
    return checked.failed == 0 ? all_held : not_held;
}

} // namespace

void add_demo(CLI::App& to, session& on) {
    CLI::App* command =
        to.add_subcommand("demo", "The whole tour on the demo scenes: pictures, rates, checks.");
    auto options = std::make_shared<demo_options>();
    command->add_option("-o,--output", options->folder, "the folder for the pictures")
        ->type_name("DIR")
        ->capture_default_str();
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
