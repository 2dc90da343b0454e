// Every relation that applies, held for a renderer.
#include <cmath>
#include <limits>
#include <optional>

#include "pipeline/parallel.hpp"
#include "scene/in_size.hpp"
#include "verify/cast.hpp"
#include "verify/check_relations.hpp"
#include "verify/range.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// What a relation asks of the first picture.
class first_picture {
    const pixel_tolerances& of_;
    const picture& found_;
    known_model known_;
    std::function<rgb<double>(int, int)> tolerance_ = [this](int x, int y) {
        return of_.at(x, y).tolerance + unknown(x, y);
    };
    std::function<rgb<double>(int, int)> least_ = [this](int x, int y) {
        return of_.least(x, y) + unknown(x, y);
    };
    std::function<bool(int, int)> at_border_ = [this](int x, int y) {
        return of_.casts().near_border(x + 0.5, y + 0.5, 1.0 / 128);
    };

    // Where the model is not known: by the light that is seen, as if a thousand operations had rounded it.
    [[nodiscard]] rgb<double> unknown(int x, int y) const {
        if (known_ == known_model::yes) {
            return {};
        }
        const bool there = found_.width == relation_width && found_.height == relation_height;
        return max(rgb<double>(there ? found_.color(x, y) : rgb<float>()), rgb<double>(1e-3)) * (1000 * u);
    }

  public:
    first_picture(const pixel_tolerances& of, const picture& found, known_model known)
        : of_(of), found_(found), known_(known) {}
    first_picture(const first_picture&) = delete;
    first_picture(first_picture&&) = delete;
    first_picture& operator=(const first_picture&) = delete;
    first_picture& operator=(first_picture&&) = delete;
    ~first_picture() = default;

    [[nodiscard]] drawn_once drawn() const { return {of_.of(), found_, tolerance_, least_, at_border_}; }
};

// What a formula or a C++ model says need not keep every relation: a light from the sky above turns with
// nothing, a tone curve adds up to no sum. Whether this scene's do is asked of the second method, in a small
// picture. No mistake of the subject's can hide there: the subject is not asked.
class model_keeps {
    tolerance_model allowed_;
    pixel_tolerances of_;
    function_renderer by_rays_;
    picture found_;
    first_picture first_;

  public:
    model_keeps(scene in_its_size, const tolerance_model& allowed)
        : allowed_(allowed),
          of_(std::move(in_its_size), allowed),
          by_rays_([this](const scene& scene_here) {
              const caster casts(scene_here, allowed_);
              picture drawn(scene_here.view.width, scene_here.view.height);
              pipeline::for_each_of(scene_here.view.height, [&](int y) {
                  for (int x = 0; x < scene_here.view.width; ++x) {
                      const cast_color cast = casts.at_without_snap(x + 0.5, y + 0.5);
                      drawn.set(x, y, rgb<float>(cast.color), static_cast<float>(cast.alpha));
                  }
              });
              return drawn;
          }),
          found_(by_rays_.draw(of_.of())),
          first_(of_, found_, known_model::yes) {}

    [[nodiscard]] bool holds(const relation& entry, double most_used) const {
        const check_result result = entry.hold(first_.drawn(), by_rays_);
        return !result.kind.empty() && result.passed && result.used <= most_used;
    }
};

std::string because(const relation& entry, const check_result& result) {
    return entry.name == "finer cells" ? "The ratio is 4 in the limit; with finite cells the "
                                         "next term of the error, of fourth order, "
                                         "is left: from 3.5 to 4.5 is accepted.\n"
                                       : "Two pictures of one renderer, each within what rounding "
                                         "explains: at the pixel that decides " +
                                             std::to_string(result.tolerance) +
                                             ", which is the second method's bound there, "
                                             "doubled (see `whole picture by cast rays`). "
                                             "A light that adds nothing has no tolerance.\n";
}

} // namespace

std::vector<check_result> check_relations(const scene& drawn, const renderer& by, known_model known,
                                          const tolerance_model& allowed) {
    return check_relations(pixel_tolerances(in_size(drawn, relation_width, relation_height), allowed), by,
                           known, allowed);
}

std::vector<check_result> check_relations(const pixel_tolerances& of, const renderer& by, known_model known,
                                          const tolerance_model& allowed) {
    const scene& the_scene = of.of();
    // A picture of another size holds nothing that could be compared: no number at all.
    const function_renderer sized([&](const scene& scene_here) {
        picture built = by.draw(scene_here);
        if (built.width != scene_here.view.width || built.height != scene_here.view.height) {
            constexpr float nothing = std::numeric_limits<float>::quiet_NaN();
            return picture(scene_here.view.width, scene_here.view.height, rgb<float>(nothing), nothing);
        }
        return built;
    });
    const picture found = sized.draw(the_scene);
    std::vector<check_result> results;
    const first_picture first_seen(of, found, known);
    const drawn_once first = first_seen.drawn();
    std::optional<model_keeps> model; // asked where relations depend on what formulas and C++ models say
    if (known == known_model::yes && (the_scene.formulas.any() || the_scene.shading.own.model != nullptr)) {
        model.emplace(in_size(the_scene, 48, 30), allowed);
    }
    for (const relation& entry : relations()) {
        if (!entry.applies(the_scene)) {
            continue;
        }
        // Baking makes normals unit: it changes what a renderer draws that makes them so at fragments only.
        if (!allowed.unit_at_vertices && entry.name == "bake") {
            continue;
        }
        // Floats leave less than a tenth of a tolerance; what uses more is a difference that formulas make.
        constexpr double of_rounding = 0.2;
        if (model && !model->holds(entry, of_rounding)) {
            continue;
        }
        // These change `more`, which is fixed in a shader and in a model of one's own.
        const bool fixed = own_model_of(the_scene, by) != nullptr || !by.drawn_by().empty();
        if (fixed && the_scene.formulas.has(formulas::slot::more) &&
            (entry.name == "superposition" || entry.name == "doubled intensity")) {
            continue;
        }
        check_result result;
        try {
            result = entry.hold(first, sized);
        } catch (const cannot_draw&) {
            continue;
        }
        if (result.kind.empty()) {
            continue; // nothing in this scene can show it
        }
        // A formula may keep the relation at the few points that were asked, and not at all points.
        if (model && !result.passed && !model_keeps(the_scene, allowed).holds(entry, 1)) {
            continue;
        }
        result.name = entry.name;
        result.because = because(entry, result);
        result.remark = entry.says + (result.remark.empty() ? "" : " (" + result.remark + ")");
        results.push_back(std::move(result));
    }
    return results;
}

} // namespace yurvo::inline v0_1::verify
