#include <cctype>

#include "report/text.hpp"
#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/check_run.hpp"
#include "yurvo/report/curves.hpp"
#include "yurvo/report/diagnosis.hpp"
#include "yurvo/report/layers.hpp"
#include "yurvo/report/quiz.hpp"
#include "yurvo/report/rates.hpp"
#include "yurvo/report/sheet.hpp"
#include "yurvo/report/turn.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/study/quiz.hpp"
#include "yurvo/verify/diagnose.hpp"

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
        scene the_scene = bollard;
        the_scene.shading.model = model;
        the_scene.shading.rate = at;
        the_scene.shading.cel = {
            {0.25, 0.7}, {rgb<double>(0.25), rgb<double>(0.6), rgb<double>(1.0)}, 0.25, {0.01, 0.01, 0.02}};
        const bool per_fragment = at == rate::fragment;
        sheet.panels.push_back(report::picture_panel(
            std::string(name_of(model)) + (per_fragment ? "" : ", per " + std::string(name_of(at))), note,
            draw(the_scene)));
    };
    add(model_kind::unlit, rate::fragment, "the base colours: no shape to be seen");
    add(model_kind::lambert, rate::fragment, "ambient + diffuse: shape, but no shine");
    add(model_kind::blinn_phong, rate::vertex, "highlights follow the mesh, not the shape");
    add(model_kind::phong, rate::fragment, "highlights by the reflected light");
    add(model_kind::blinn_phong, rate::fragment, "highlights by the half vector: wider at one exponent");
    add(model_kind::cel, rate::fragment, "bands of the base colour, and an outline");
    return report::render(sheet);
}

// Draws into one folder, and remembers what it said of each picture.
class tour {
    session& on_;
    std::string folder_, told_;

  public:
    tour(session& on, std::string folder) : on_(on), folder_(std::move(folder)) { make_folder(folder_); }

    [[nodiscard]] std::string path(const std::string& name) const { return folder_ + "/" + name; }
    [[nodiscard]] const std::string& told() const { return told_; }
    void keep(const std::string& name, const picture& drawn, const std::string& says) {
        write_picture(path(name), drawn);
        told_ += fmt::format("{}: {}\n", path(name), says);
    }

    void draw_scenes() {
        on_.progress("drawing the harbour");
        const scene harbour = named_scene(on_, "harbour").scene;
        keep("harbour.png", draw(harbour),
             fmt::format("a harbour at night, {} objects under {} lights", harbour.objects.size(),
                         harbour.lights.size()));
        for (const char* name : {"wet-planks", "searchlight-on-hull", "quay-lanterns"}) {
            on_.progress(std::string("drawing ") + name);
            const scene drawn = named_scene(on_, name).scene;
            std::string says = drawn.title;
            says[0] = static_cast<char>(std::tolower(says[0]));
            keep(std::string(name) + ".png", draw(drawn), says);
        }
    }

    void look_around() {
        on_.progress("building up the wet planks");
        const study::named_scene planks = named_scene(on_, "wet-planks");
        keep("layers.png", report::layers_sheet(planks, study::build_up(planks.scene)),
             "the same planks term by term");
        on_.progress("walking around the bollard");
        const study::named_scene bollard = named_scene(on_, "bollard-with-rope");
        keep("turn.png",
             report::turn_sheet(
                 bollard, study::turn_around(bollard.scene, turned_part::eye, 6, "", built_in_renderer())),
             "the eye walked around a bollard: diffuse stays put, the highlights follow");
        keep("line-up.png", line_up(bollard.scene), "the bollard under each model");
        const study::named_scene hull = named_scene(on_, "searchlight-on-hull");
        keep("curves.png", report::curves_sheet(hull, study::curves_of(hull.scene)),
             "what distance and angle do to the searchlight's scene");
    }

    void compare_rates() {
        study::named_scene quay = named_scene(on_, "lantern-quay-inverse-square");
        quay.scene.shading.rate = rate::vertex;
        keep("quay-vertex.png", draw(quay.scene),
             "the model run at the quay's four corners; the lantern's light is lost between them");
        quay.scene.shading.rate = rate::fragment;
        keep("quay-fragment.png", draw(quay.scene),
             "the model run at every pixel; the pool of light is there");
        on_.progress("comparing the rates");
        const study::rates rates = study::compare_rates(quay, built_in_renderer());
        keep("rates.png", report::rates_sheet(quay, rates),
             fmt::format("the rates side by side; per vertex misses up to {} of the light, below the lantern",
                         report::digits(rates.vertex_off.largest)));
    }

    void find_a_mistake() {
        on_.progress("making a mistake, and finding it");
        const scene buoys = named_scene(on_, "buoys").scene;
        const verify::suspect wrong{{verify::mistake::half_not_normalized}, 0, 1};
        const picture mistaken = verify::picture_of_suspect(buoys, wrong);
        write_picture(path("mistaken.png"), mistaken);
        const verify::diagnosis found = verify::diagnose(buoys, mistaken, pixel_format::srgb_codes);
        keep("diagnose.png", report::diagnosis_sheet(found, mistaken, "mistaken.png"),
             "mistaken.png by `diagnose`: " +
                 (found.mistakes.empty() ? "right" : found.mistakes.front().id()));
        keep("quiz.png", report::quiz_sheet(study::ask("buoys", 4)),
             "a question of `quiz buoys --seed 4`: what went wrong there?");
    }

    // The status of the tour.
    int check_everything() {
        std::vector<std::string> fitted;
        study::check_request request;
        request.units = study::all_units(built_in_renderer(), fitted);
        request.tell = [&](const std::string& what) { on_.progress(what); };
        const study::check_run checked = study::run_checks(request, built_in_renderer());
        write_whole(path("check.json"), report::data_of(checked).text());
        told_ +=
            fmt::format("{}: {} checks held, {} did not; expected values in closed form and by cast rays\n",
                        path("check.json"), checked.passed(), checked.failed());
        return checked.failed() == 0 ? all_held : not_held;
    }
};

int run(session& on, const demo_options& options) {
    tour all(on, options.folder);
    all.draw_scenes();
    all.look_around();
    all.compare_rates();
    all.find_a_mistake();
    const int status = all.check_everything();
    on.print("{}\nNext: `yurvo scenes` lists what is known of each reference scene, `yurvo draw SCENE -o "
             "FILE` draws "
             "one, and\n`yurvo scenes harbour -o harbour.toml` writes a scene file to change.\n",
             all.told());
    return status;
}

} // namespace

void add_demo(option_list& to, session& on) {
    auto options = std::make_shared<demo_options>();
    to.text("-o,--output", options->folder, "the folder for the pictures",
            {.type = "DIR", .show_default = true});
    run_with(to, on, options, run);
}

} // namespace yurvo::app
