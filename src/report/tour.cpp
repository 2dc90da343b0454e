#include "yurvo/report/tour.hpp"

#include <cctype>

#include <fmt/format.h>

#include "report/text.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/curves.hpp"
#include "yurvo/report/data.hpp"
#include "yurvo/report/diagnosis.hpp"
#include "yurvo/report/layers.hpp"
#include "yurvo/report/quiz.hpp"
#include "yurvo/report/rates.hpp"
#include "yurvo/report/sheet.hpp"
#include "yurvo/report/turn.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/study/quiz.hpp"
#include "yurvo/study/sampled.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::inline v0_1::report {

namespace {

// One bollard under each model, and at each rate that the model allows.
picture line_up(const scene& bollard) {
    sheet panels;
    panels.title = "One bollard under each model";
    panels.subtitle =
        "bollard-with-rope: unlit, lambert, phong, blinn-phong and cel per fragment; blinn-phong per vertex";
    const auto add = [&](model_kind model, rate at, const std::string& note) {
        scene the_scene = bollard;
        the_scene.shading.model = model;
        the_scene.shading.rate = at;
        the_scene.shading.cel = {
            {0.25, 0.7}, {rgb<double>(0.25), rgb<double>(0.6), rgb<double>(1.0)}, 0.25, {0.01, 0.01, 0.02}};
        const bool per_fragment = at == rate::fragment;
        panels.panels.push_back(picture_panel(std::string(name_of(model)) +
                                                  (per_fragment ? "" : ", per " + std::string(name_of(at))),
                                              note, draw(the_scene)));
    };
    add(model_kind::unlit, rate::fragment, "the base colours: no shape to be seen");
    add(model_kind::lambert, rate::fragment, "ambient + diffuse: shape, but no shine");
    add(model_kind::blinn_phong, rate::vertex, "highlights follow the mesh, not the shape");
    add(model_kind::phong, rate::fragment, "highlights by the reflected light");
    add(model_kind::blinn_phong, rate::fragment, "highlights by the half vector: wider at one exponent");
    add(model_kind::cel, rate::fragment, "bands of the base colour, and an outline");
    return render(panels);
}

constexpr int smooth = 3; // samples across a pixel, of pictures that are only shown

// Draws into one folder, and remembers what it said of each picture.
class guide {
    std::string folder_;
    const std::function<void(const std::string&)>& tell_;

    void progress(const std::string& what) const {
        if (tell_) {
            tell_(what);
        }
    }
    static study::named_scene scene_called(const std::string& name) { return {name, find_scene(name)}; }

  public:
    tour_result result;

    guide(const std::string& folder, const std::function<void(const std::string&)>& tell)
        : folder_(folder), tell_(tell) {
        make_folder(folder_);
    }

    [[nodiscard]] std::string path(const std::string& name) const { return folder_ + "/" + name; }
    void keep(const std::string& name, const picture& drawn, const std::string& says) {
        write_picture(path(name), drawn);
        result.text += fmt::format("{}: {}\n", path(name), says);
    }

    void draw_scenes() {
        progress("drawing the harbour");
        const scene harbour = scene_called("harbour").scene;
        keep("harbour.png", study::draw_sampled(harbour, built_in_renderer(), smooth),
             fmt::format("a harbour at night, {} objects under {} lights", harbour.objects.size(),
                         harbour.lights.size()));
        for (const char* name : {"wet-planks", "searchlight-on-hull", "quay-lanterns", "foggy-harbour"}) {
            progress(std::string("drawing ") + name);
            const scene drawn = scene_called(name).scene;
            std::string says = drawn.title;
            says[0] = static_cast<char>(std::tolower(says[0]));
            keep(std::string(name) + ".png", study::draw_sampled(drawn, built_in_renderer(), smooth), says);
        }
    }

    void look_around() {
        progress("building up the wet planks");
        const study::named_scene planks = scene_called("wet-planks");
        keep("layers.png", layers_sheet(planks, study::build_up(planks.scene)),
             "the same planks term by term");
        progress("walking around the bollard");
        const study::named_scene bollard = scene_called("bollard-with-rope");
        keep("turn.png",
             turn_sheet(bollard,
                        study::turn_around(bollard.scene, turned_part::eye, 6, "", built_in_renderer())),
             "the eye walked around a bollard: diffuse stays put, the highlights follow");
        keep("line-up.png", line_up(bollard.scene), "the bollard under each model");
        const study::named_scene hull = scene_called("searchlight-on-hull");
        keep("curves.png", curves_sheet(hull, study::curves_of(hull.scene)),
             "what distance and angle do to the searchlight's scene");
    }

    void compare_rates() {
        study::named_scene quay = scene_called("lantern-quay-inverse-square");
        quay.scene.shading.rate = rate::vertex;
        keep("quay-vertex.png", draw(quay.scene),
             "the model run at the quay's four corners; the lantern's light is lost between them");
        quay.scene.shading.rate = rate::fragment;
        keep("quay-fragment.png", draw(quay.scene),
             "the model run at every pixel; the pool of light is there");
        progress("comparing the rates");
        const study::rates rates = study::compare_rates(quay, built_in_renderer());
        keep("rates.png", rates_sheet(quay, rates),
             fmt::format("the rates side by side; per vertex misses up to {} of the light, below the lantern",
                         digits(rates.vertex_off.largest)));
    }

    void find_a_mistake() {
        progress("making a mistake, and finding it");
        const scene buoys = scene_called("buoys").scene;
        const verify::suspect wrong{{verify::mistake::half_not_normalized}, 0, 1};
        const picture mistaken = verify::picture_of_suspect(buoys, wrong);
        write_picture(path("mistaken.png"), mistaken);
        const verify::diagnosis found = verify::diagnose(buoys, mistaken, pixel_format::srgb_codes);
        keep("diagnose.png", diagnosis_sheet(found, mistaken, "mistaken.png"),
             "mistaken.png by `diagnose`: " +
                 (found.mistakes.empty() ? "right" : found.mistakes.front().id()));
        keep("quiz.png", quiz_sheet(study::ask("buoys", 4)),
             "a question of `quiz buoys --seed 4`: what went wrong there?");
    }

    void check_everything() {
        std::vector<std::string> fitted;
        study::check_request request;
        request.units = study::all_units(built_in_renderer(), fitted);
        request.tell = [&](const std::string& what) { progress(what); };
        const study::check_run checked = study::run_checks(request, built_in_renderer());
        write_whole(path("check.json"), data_of(checked).text());
        result.text +=
            fmt::format("{}: {} checks held, {} did not; expected values in closed form and by cast rays\n",
                        path("check.json"), checked.passed(), checked.failed());
        result.failed = checked.failed();
    }
};

} // namespace

tour_result take_tour(const std::string& folder, const std::function<void(const std::string&)>& tell) {
    guide all(folder, tell);
    all.draw_scenes();
    all.look_around();
    all.compare_rates();
    all.find_a_mistake();
    all.check_everything();
    return all.result;
}

} // namespace yurvo::inline v0_1::report
