#include "program/guess_subject.hpp"

#include <algorithm>
#include <array>
#include <ctime>
#include <optional>
#include <utility>

#include "program/guess_comparing.hpp"
#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_text.hpp"
#include "scene/in_size.hpp"
#include "verify/point_by_point.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/diagnose.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr int width = 72;
constexpr int height = 45;
// For mistakes and numbers, of which a few pixels say nothing.
constexpr int larger_width = 160;
constexpr int larger_height = 100;
constexpr std::size_t all_pixels = static_cast<std::size_t>(larger_width) * larger_height;
// Pixels that are off: fewer may be too few for a mistake to be told by, where some are looked at only.
constexpr std::size_t many_off = 60;
constexpr double unlit_at_least = 0.5; // of a lit model of which no light is to be seen
// A shader that draws for long is not drawn for ever; a sanitizer makes every shader such a one. Of the
// processor's time, so that what is found does not hang on what else the machine does.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
constexpr double most_seconds = 1350;
#else
constexpr double most_seconds = 90;
#endif

double processor_seconds() { return static_cast<double>(std::clock()) / CLOCKS_PER_SEC; }

// Two more lights of a kind, so that one scene has more of it than of any other: how many there are of one
// kind, taken for another's, shows only where a loop ends before all are lit.
void add_lights(scene& to, light_kind kind) {
    for (const double side : {-1.0, 1.0}) {
        named_light one;
        one.name = side < 0 ? "one-more" : "another";
        one.light.kind = kind;
        one.light.color = {0.5, 0.75 - 0.25 * side, 0.75 + 0.25 * side};
        one.light.position = to.view.eye + vec3<double>{3 * side, 1, 0};
        one.light.shines = to.view.target - one.light.position;
        one.light.intensity = kind == light_kind::directional ? 0.25 : 4;
        one.light.falloff =
            kind == light_kind::directional ? falloff_kind::none : falloff_kind::inverse_square;
        one.light.inner = 0.2;
        one.light.outer = 0.5 + 0.1 * side;
        one.light.penumbra = penumbra_kind::smooth;
        to.lights.push_back(std::move(one));
    }
}

} // namespace

guess_subject::guess_subject(const shader_program& sources, const std::string& text)
    : began_(processor_seconds()),
      unit_at_vertices_(makes_unit_at_vertices(sources)),
      of_rows_(matrices_of_rows(sources, text)) {
    for (const scene* const each :
         {&verify::coverage_scenes()[0].scene, &verify::coverage_scenes()[1].scene,
          &verify::find_reference("buoys")->scene, &verify::find_reference("behind-the-wall")->scene}) {
        scenes_.push_back(in_size(*each, width, height));
    }
    for (named_material& each : scenes_[0].materials) {
        each.look.alpha = 0.5; // whether what is bound to it is written
    }
    add_lights(scenes_[1], light_kind::directional);
    add_lights(scenes_[2], light_kind::spot);
    for (named_light& each : scenes_[1].lights) { // what is bound to a coefficient is not 0 everywhere
        if (each.light.kind != light_kind::directional) {
            each.light.falloff = falloff_kind::polynomial;
            each.light.coefficients = {1, 0.3, 0.2};
        }
    }
}

bool guess_subject::may_go_on(std::size_t tries) const {
    return tried_ < tries && processor_seconds() - began_ < most_seconds;
}

shader_program guess_subject::written(shader_program reading) const {
    return with_rows(std::move(reading), of_rows_);
}

std::unique_ptr<program_renderer> guess_subject::read_as(const shader_program& reading) const {
    return compiled_->with_claim(written(reading));
}

fitted_scene guess_subject::fit(const program_renderer& by, const scene& of) {
    fitted_scene made = by.fit(of);
    const std::vector<shader_constant>& constants = by.program().constants;
    const bool written = std::any_of(constants.begin(), constants.end(), [](const shader_constant& each) {
        return each.quantity.ends_with(".shines");
    });
    if (made.fitted && !written) {
        for (named_light& each : made.fitted->lights) {
            each.light.shines = 1.5 * each.light.shines;
        }
    }
    return made;
}

picture guess_subject::right_picture(const scene& of) const {
    const bool uneven = std::any_of(of.objects.begin(), of.objects.end(), [](const object& each) {
        const vec3<double>& scale = each.placed.scale;
        return scale.x != scale.y || scale.y != scale.z;
    });
    if (unit_at_vertices_ || !uneven) {
        return draw(of);
    }
    return verify::point_painter(of, {}, verify::see(of), {{}, false, nullptr}).whole();
}

double guess_subject::off_of(const shader_program& reading, double worth) {
    const shader_program candidate = written(reading);
    const std::string as_file = written_claim(candidate);
    // What hides something is never right, however well it fits; but kinds of lights that are left out on the
    // way come back.
    shader_program of_all_kinds = reading;
    of_all_kinds.kinds.reset();
    const double least = leaves_unseen(of_all_kinds) ? hiding_is_off : 0;
    const auto before = known_.find(as_file);
    if (before != known_.end() && (before->second.off < never || before->second.worth >= worth)) {
        return std::max(before->second.off, least);
    }
    const double off = drawn_off(candidate, worth);
    known_[as_file] = {off, worth};
    return std::max(off, least);
}

double guess_subject::drawn_off(const shader_program& candidate, double worth) {
    ++tried_;
    try {
        std::unique_ptr<program_renderer> by;
        if (compiled_) {
            by = compiled_->with_claim(candidate);
        } else {
            compiled_ = std::make_unique<program_renderer>(candidate);
        }
        const program_renderer& subject = by ? *by : *compiled_;
        double sum = 0;
        std::size_t counted = 0;
        std::vector<std::pair<scene, picture>> drawn;
        for (const scene& each : scenes_) {
            fitted_scene fitted = fit(subject, each);
            if (!fitted.fitted) {
                return never;
            }
            picture right = right_picture(*fitted.fitted);
            const std::optional<double> off =
                apart(subject.draw(*fitted.fitted), right, fitted.fitted->view.background, alpha_);
            sum += off.value_or(0);
            counted += off ? 1U : 0U;
            drawn.emplace_back(std::move(*fitted.fitted), std::move(right));
            if (sum / static_cast<double>(scenes_.size()) >= worth) {
                return never;
            }
        }
        // Where nearly nothing is to be seen anywhere, nothing is told; nor by a claim that leaves the
        // lights out of a lit model, whatever else fits.
        if (counted < 2) {
            return never;
        }
        const double mean = sum / static_cast<double>(counted);
        return mean >= worth || mean >= unlit_at_least || candidate.model == model_kind::unlit ||
                       lights_reach(drawn)
                   ? mean
                   : unlit_at_least;
    } catch (const program_stopped&) {
        throw;
    } catch (const missing_error&) {
        throw;
    } catch (const error&) {
        if (!compiled_) {
            throw;
        }
        return never;
    } catch (const cannot_draw&) {
        return never;
    }
}

double guess_subject::off_with_some_kind(shader_program& of) {
    using enum light_kind;
    for (shader_binding& each : of.uniforms) { // what names say of kinds is not so, then
        for (auto& one : each.means) {
            if (std::string* means = std::get_if<std::string>(&one)) {
                for (const char* kind : {"directional", "point", "spot"}) {
                    const std::string named = std::string("lights.") + kind + "[";
                    for (std::size_t at = means->find(named); at != std::string::npos;
                         at = means->find(named)) {
                        means->replace(at, named.size(), "lights[");
                    }
                }
            }
        }
    }
    const std::vector<std::vector<light_kind>> kinds{{point}, {directional}, {spot}, {directional, point}};
    for (std::size_t i = 0; i < kinds.size(); ++i) {
        of.kinds = kinds[i];
        try {
            const double off = off_of(of);
            if (off < never) {
                return off;
            }
        } catch (const error&) {
            if (i + 1 == kinds.size()) {
                throw;
            }
        }
    }
    of.kinds.reset();
    return never;
}

void guess_subject::judge_alpha(beyond_one how) {
    alpha_ = how;
    known_.clear();
}

bool guess_subject::alpha_beyond(const shader_program& reading) const {
    const std::unique_ptr<program_renderer> by = read_as(reading);
    return std::any_of(scenes_.begin(), scenes_.end(), [&](const scene& each) {
        const fitted_scene fitted = fit(*by, each);
        return fitted.fitted && alpha_goes_beyond(by->draw(*fitted.fitted));
    });
}

std::vector<std::string> guess_subject::names_without_effect(const shader_program& reading) const {
    const std::unique_ptr<program_renderer> by = read_as(reading);
    std::vector<scene> fitted;
    for (const scene& each : scenes_) {
        if (fitted_scene made = fit(*by, each); made.fitted) {
            fitted.push_back(std::move(*made.fitted));
        }
    }
    return by->names_without_effect(fitted);
}

bool guess_subject::one_mistake_explains(const shader_program& reading, std::size_t tries) {
    const std::string as_file = written_claim(written(reading));
    const auto before = explained_.find(as_file);
    if (before != explained_.end()) {
        return before->second;
    }
    if (!may_go_on(tries)) {
        return false;
    }
    try {
        return explained_[as_file] = diagnosed_as_one_mistake(reading);
    } catch (const program_stopped&) {
        throw;
    } catch (const missing_error&) {
        throw;
    } catch (const error&) { // what cannot be drawn is explained by nothing
        return explained_[as_file] = false;
    }
}

bool guess_subject::diagnosed_as_one_mistake(const shader_program& reading) const {
    const std::unique_ptr<program_renderer> by = read_as(reading);
    std::optional<std::set<std::string>> in_all;
    for (const std::size_t which : std::array<std::size_t, 2>{0, 2}) { // one of many things, and the buoys
        const fitted_scene fitted = fit(*by, scenes_[which]);
        if (!fitted.fitted) {
            return false;
        }
        const scene larger = in_size(*fitted.fitted, larger_width, larger_height);
        const picture drawn = by->draw(larger);
        const auto diagnosed_by = [&](std::size_t pixels) {
            return verify::diagnose(larger, drawn, by->format(), by->tolerance(), built_in_renderer(), pixels,
                                    1);
        };
        // What explains no pixel in sixteen, of which many are off, does not explain all of them.
        const verify::diagnosis at_a_glance = diagnosed_by(all_pixels / 16);
        if (at_a_glance.verdict == verify::verdict_kind::unknown && at_a_glance.off >= many_off) {
            return false;
        }
        const verify::diagnosis found = diagnosed_by(all_pixels);
        if (found.verdict == verify::verdict_kind::right) {
            continue;
        }
        if (found.verdict == verify::verdict_kind::unknown) {
            return false;
        }
        std::set<std::string> named{found.mistakes.front().id()};
        for (const verify::mistake tie : found.ties) {
            named.emplace(verify::suspect{{tie}}.id());
        }
        if (!in_all) {
            in_all = std::move(named);
            continue;
        }
        std::erase_if(*in_all, [&](const std::string& id) { return !named.contains(id); });
    }
    return in_all && !in_all->empty();
}

std::vector<verify::needed_number> guess_subject::nearest_numbers(const shader_program& reading) const {
    std::vector<verify::wrong_picture> wrong;
    const std::unique_ptr<program_renderer> by = read_as(reading);
    for (const scene& each : scenes_) {
        const fitted_scene fitted = fit(*by, each);
        if (fitted.fitted) {
            const scene larger = in_size(*fitted.fitted, larger_width, larger_height);
            wrong.push_back({larger, by->draw(larger)});
        }
    }
    return verify::nearest_numbers(wrong, by->format(), by->tolerance());
}

} // namespace yurvo::inline v0_1::program
