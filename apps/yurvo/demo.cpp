#include "diagnosis.hpp"

#include <cctype>
#include <memory>

#include "yurvo/files/whole_file.hpp"
#include "yurvo/report/sheet.hpp"

namespace yurvo::app {

namespace {

struct demo_options {
    std::string folder = "demo";
};

// One bollard under each model, and at each rate that the model allows.
picture line_up(const scene& bollard) {
    report::sheet sheet;
    sheet.title = "One bollard under each model";
    sheet.subtitle =
        "bollard-with-rope: unlit, lambert, phong, blinn-phong and cel per fragment; blinn-phong per vertex";
    const auto add = [&](model_kind model, rate at, const std::string& note) {
        scene one = bollard;
        one.shading.model = model;
        one.shading.rate = at;
        one.shading.cel = {
            {0.25, 0.7}, {rgb<double>(0.25), rgb<double>(0.6), rgb<double>(1.0)}, 0.25, {0.01, 0.01, 0.02}};
        const bool per_fragment = at == rate::fragment;
        sheet.panels.push_back(
            {std::string(name_of(model)) + (per_fragment ? "" : ", per " + std::string(name_of(at))),
             note,
             draw(one),
             std::nullopt,
             {}});
    };
    add(model_kind::unlit, rate::fragment, "the base colours: no shape to be seen");
    add(model_kind::lambert, rate::fragment, "ambient + diffuse: shape, but no shine");
    add(model_kind::blinn_phong, rate::vertex, "highlights follow the mesh, not the shape");
    add(model_kind::phong, rate::fragment, "highlights by the reflected light");
    add(model_kind::blinn_phong, rate::fragment, "highlights by the half vector: wider at one exponent");
    add(model_kind::cel, rate::fragment, "bands of the base colour, and an outline");
    return report::render(sheet);
}

int run(session& on, const demo_options& options) {
    make_folder(options.folder);
    const auto path = [&](const std::string& name) { return options.folder + "/" + name; };
    std::string made;
    const auto keep = [&](const std::string& name, const picture& drawn, const std::string& says) {
        write_picture(path(name), drawn);
        made += fmt::format("{}: {}\n", path(name), says);
    };

    on.progress("drawing the harbour");
    const scene harbour = find_scene(on, "harbour");
    keep("harbour.png", draw(harbour),
         fmt::format("a harbour at night, {} objects under {} lights", harbour.objects.size(),
                     harbour.lights.size()));
    for (const char* name : {"wet-planks", "searchlight-on-hull", "quay-lanterns"}) {
        on.progress(std::string("drawing ") + name);
        const scene drawn = find_scene(on, name);
        std::string says = drawn.title;
        says[0] = static_cast<char>(std::tolower(says[0]));
        keep(std::string(name) + ".png", draw(drawn), says);
    }
    on.progress("building up the wet planks");
    keep("layers.png", show_layers(drawable_of(find_scene(on, "wet-planks")), "wet-planks", "").sheet,
         "the same planks term by term");
    on.progress("walking around the bollard");
    json turn_data;
    std::string turn_text;
    const scene bollard = find_scene(on, "bollard-with-rope");
    keep("turn.png", show_turn(drawable_of(bollard), "bollard-with-rope", "eye", 6, "", turn_data, turn_text),
         "the eye walked around a bollard: diffuse stays put, the highlights follow");
    keep("line-up.png", line_up(bollard), "the bollard under each model");
    json curves_data;
    keep("curves.png", show_curves(find_scene(on, "searchlight-on-hull"), "searchlight-on-hull", curves_data),
         "what distance and angle do to the searchlight's scene");

    scene quay = find_scene(on, "lantern-quay-inverse-square");
    quay.shading.rate = rate::vertex;
    keep("quay-vertex.png", draw(quay),
         "the model run at the quay's four corners; the lantern's light is lost between them");
    quay.shading.rate = rate::fragment;
    keep("quay-fragment.png", draw(quay), "the model run at every pixel; the pool of light is there");
    on.progress("comparing the rates");
    const rates_result rates = compare_rates(drawable_of(quay), "lantern-quay-inverse-square");
    keep("rates.png", rates.sheet,
         fmt::format("the rates side by side; per vertex misses up to {} of the light, below the lantern",
                     digits(rates.data["differences"][1]["largest"].get<double>())));
    on.progress("making a mistake, and finding it");
    const scene buoys = find_scene(on, "buoys");
    const verify::suspect wrong{{verify::mistake::half_not_normalized}, 0, 1};
    const picture mistaken = verify::picture_of_suspect(buoys, wrong);
    write_picture(path("mistaken.png"), mistaken);
    const verify::diagnosis found = verify::diagnose(buoys, mistaken, verify::precision::srgb_codes);
    keep("diagnose.png", diagnosis_sheet(found, mistaken, "mistaken.png"),
         "mistaken.png by `diagnose`: " + (found.mistakes.empty() ? "right" : found.mistakes.front().id()));
    keep("quiz.png", quiz_sheet(on, "buoys", 4),
         "a question of `quiz buoys --seed 4`: what went wrong there?");
    const check_outcome checked = run_checks(on, {});
    write_whole(path("check.json"), checked.data.dump(2) + "\n");
    on.print("{}{}: {} checks held, {} did not; expected values in closed form and by cast rays\n", made,
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
