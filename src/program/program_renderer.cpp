#include "yurvo/program/program_renderer.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>
#include <utility>

#include "program/advice.hpp"
#include "program/bindings.hpp"
#include "program/constants.hpp"
#include "program/disturbance.hpp"
#include "program/driver_process.hpp"
#include "program/fit.hpp"
#include "program/interfaces.hpp"
#include "program/not_looked_at.hpp"
#include "program/object_data.hpp"
#include "program/translate.hpp"
#include "program/unit_normals.hpp"
#include "program/written_colors.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::inline v0_1 {

namespace {

using namespace program;

// Roundings between the numbers that a scene has and a shader's colour, against the one that the second
// method counts for a position: the object's matrix and the view's (seven each: four products and three
// sums), as many for the normal, the plane by which the driver interpolates (three products and two sums, and
// the division by depth).
constexpr double roundings_of_a_shader = 7 + 7 + 7 + 6;

// How coarse a driver's functions may be, in roundings of 2^-24: tolerances then still stay below half a code
// of 255, 1/510, relative. Behind more a mistake that people see could hide.
constexpr double coarsest_driver = 0x1p24 / 510 / roundings_of_a_shader;

// And its angles, in radians: a quarter of what a pixel of the pictures that are checked spans at the eye (45
// degrees in 200 rows).
constexpr double coarsest_angle = pi / 4 / 200 / 4;

// How many pictures are drawn both ways before a driver is taken to ignore the source's precisions.
constexpr int pictures_both_ways = 3;

// The scene without the terms that are not asked for.
scene with_terms(const scene& the_scene, const term_choice& terms) {
    scene result = the_scene;
    if (!terms.ambient) {
        result.ambient_strength = 0;
    }
    for (named_material& entry : result.materials) {
        entry.look.diffuse = terms.diffuse ? entry.look.diffuse : rgb<double>();
        entry.look.specular = terms.specular ? entry.look.specular : rgb<double>();
        entry.look.emission = terms.emission ? entry.look.emission : rgb<double>();
    }
    return result;
}

} // namespace

struct program_renderer::parts {
    shader_program source;
    std::shared_ptr<const translated_program> compiled;
    std::shared_ptr<driver_process> process;
    const translated_program& translated;
    driver_process& driver;
    bindings bound;
    claims claimed;
    mutable std::optional<bool> unit_at_vertices;
    int both_ways = 0;                            // pictures that were drawn in both precisions
    const disturbed_numbers* disturbed = nullptr; // are given other values
    disturbed_way disturbed_where{};
    bool stopped = false;                                  // it was, while it drew
    std::optional<std::vector<std::string>> not_looked_at; // once somebody has asked
    int codes_off = 0; // by which the source's precisions change a picture, at the most

    // An array without a size holds as many lights as are claimed.
    static translated_program translated_with_room(const shader_program& program) {
        translated_program result = translate(program);
        result.sources.unsized = std::max(result.sources.unsized, program.lights ? (*program.lights)[1] : 0);
        return result;
    }

    explicit parts(shader_program program) : parts(std::move(program), nullptr, nullptr) {}

    // With what another program of the same sources has compiled; null: compiled here.
    parts(shader_program program, std::shared_ptr<const translated_program> as_compiled,
          std::shared_ptr<driver_process> in_process)
        : source(std::move(program)),
          compiled(as_compiled ? std::move(as_compiled)
                               : std::make_shared<const translated_program>(translated_with_room(source))),
          process(in_process ? std::move(in_process)
                             : std::make_shared<driver_process>(compiled->sources, source.limit)),
          translated(*compiled),
          driver(*process) {
        const linked_program& linked = driver.linked();
        if (linked.failed_stage != 0) {
            throw complaint_of(source, linked);
        }
        require_fine_arithmetic(linked);
        require_interfaces(linked, source.fragment.file);
        bound = bind(source, translated, linked);
        claimed = claims_of(source, bound);
        if (std::none_of(bound.attributes.begin(), bound.attributes.end(),
                         [](const bound_attribute& each) { return each.means == "position"; })) {
            throw error({source.vertex.file, 0, 0}, "the vertex stage reads no position",
                        "an attribute that [attributes] calls \"position\"");
        }
        require_settable();
    }

    static void require_fine_arithmetic(const linked_program& linked) {
        if (linked.precision > coarsest_driver) {
            throw missing_error({"the system's OpenGL driver", 0, 0},
                                "its functions are up to " + std::to_string(std::lround(linked.precision)) +
                                    " roundings off, behind which a mistake could hide",
                                "another driver, a software one, say");
        }
        if (!(static_cast<double>(linked.angle) <= coarsest_angle)) {
            throw missing_error({"the system's OpenGL driver", 0, 0},
                                "its angles are up to " + short_number(static_cast<double>(linked.angle), 3) +
                                    " radians off, behind which a mistake could hide",
                                "another driver, a software one, say");
        }
    }

    // Constants that cannot be set, or contradict one another, are told at once.
    void require_settable() const {
        const scene& of = verify::find_reference("buoys")->scene;
        const fitted_scene fitted = fit_to(claimed, of);
        if (!fitted.fitted) {
            return;
        }
        if (const claimed_constant* other = contradiction(claimed, *fitted.fitted)) {
            throw error(other->where, "the constant `" + other->what.text + "` contradicts another",
                        "constants that agree");
        }
    }

    object_request request_for(const pipeline::stage& staged, const scene& the_scene,
                               const pipeline::staged_object& object, draw_request& whole) {
        const quantity_context in{the_scene, staged, object, source.numbered};
        const linked_program& linked = driver.linked();
        object_request result;
        result.corners = static_cast<std::int32_t>(3 * object.shape->triangles.size());
        result.mirrored = object.mirrored ? 1 : 0;
        for (const bound_attribute& attribute : bound.attributes) {
            const int components = std::max(1, shape_of(attribute.active.type).components);
            attribute_values& values = result.attributes.emplace_back();
            values.location = attribute.active.location;
            values.components = components;
            values.values = attribute_of(*object.shape, attribute.means, components);
            if (disturbed != nullptr) {
                disturb(*disturbed, disturbed_where, attribute.active.name,
                        static_cast<std::size_t>(components), values.values);
            }
        }
        for (const active_block& block : linked.blocks) {
            result.blocks.emplace_back(static_cast<std::size_t>(std::max(0, block.size)));
        }
        for (const bound_uniform& uniform : bound.uniforms) {
            const type_shape shape = shape_of(uniform.active.type);
            if (shape.texture) {
                result.samplers.push_back(uniform.active.location);
                result.textures.push_back(static_cast<std::int32_t>(whole.textures.size()));
                whole.textures.push_back(
                    texture_for(uniform, staged.materials[object.material].image.get(), in));
                continue;
            }
            std::vector<float> numbers = numbers_for(uniform, in, translated.transposed_matrices);
            if (disturbed != nullptr) {
                disturb(*disturbed, disturbed_where, uniform, numbers);
            }
            if (uniform.attribute) {
                put_same_everywhere(uniform.active.location, shape, numbers, result.attributes);
            } else if (uniform.active.block >= 0) {
                write_into(result.blocks[static_cast<std::size_t>(uniform.active.block)], uniform.active,
                           shape, numbers);
            } else {
                result.uniforms.push_back({uniform.active.location, uniform.active.type, std::move(numbers)});
            }
        }
        return result;
    }

    picture draw(const scene& the_scene) {
        const pipeline::stage staged = pipeline::make_stage(the_scene);
        draw_request request;
        request.width = the_scene.view.width;
        request.height = the_scene.view.height;
        request.background[0] = static_cast<float>(as_written(source, the_scene.view.background.r));
        request.background[1] = static_cast<float>(as_written(source, the_scene.view.background.g));
        request.background[2] = static_cast<float>(as_written(source, the_scene.view.background.b));
        request.background[3] = static_cast<float>(the_scene.view.background_alpha);
        const bool above = source.language == shading_language::glsl_vulkan ||
                           source.language == shading_language::hlsl ||
                           (source.language == shading_language::spirv && translated.origin_above);
        request.origin_below = above ? 0 : 1;
        request.y_down = source.clip == clip_space::vulkan ? 1 : 0;
        request.zero_to_one = source.clip == clip_space::gl ? 0 : 1;
        for (const pipeline::staged_object& object : staged.objects) {
            request.objects.push_back(request_for(staged, the_scene, object, request));
        }
        picture result = drawn_by_driver(request);
        if (disturbed == nullptr && driver.linked().other_precisions != 0 &&
            (both_ways < pictures_both_ways || codes_off > 0)) {
            ++both_ways;
            request.as_written = 1;
            codes_off =
                std::max(codes_off, program::codes_off_by_precision(result, drawn_by_driver(request)));
        }
        return result;
    }

    picture drawn_by_driver(const draw_request& request) {
        draw_answer answer = driver.draw(request);
        if (!answer.failure.empty()) {
            stopped = true;
            throw program_stopped({source.file, 0, 0}, answer.failure,
                                  "a smaller picture, or less in the shader");
        }
        picture result;
        result.width = request.width;
        result.height = request.height;
        result.values.assign(answer.values.begin(), answer.values.end());
        if (!writes_alpha(driver.linked())) {
            for (std::size_t i = 3; i < result.values.size(); i += 4) {
                result.values[i] = 1;
            }
        }
        make_linear(source, result);
        return result;
    }

    picture drawn_disturbed(const disturbed_numbers& numbers, disturbed_way way, const scene& the_scene) {
        struct meanwhile {
            parts& of;
            ~meanwhile() { of.disturbed = nullptr; }
        } const ends{*this};
        disturbed = &numbers;
        disturbed_where = way;
        return draw(the_scene);
    }

    // Whether other values of some numbers change a picture of one of the scenes. `drawn`: what they are
    // drawn as with their own, empty where that is not known yet.
    bool changes_any(const disturbed_numbers& numbers, const std::vector<scene>& scenes,
                     std::vector<picture>& drawn) {
        for (std::size_t i = 0; i < scenes.size(); ++i) {
            if (drawn[i].values.empty()) {
                drawn[i] = draw(scenes[i]);
            }
            for (const disturbed_way way : {disturbed_way::up, disturbed_way::down}) {
                const picture other = drawn_disturbed(numbers, way, scenes[i]);
                // As bytes: what is no number in both is the same.
                if (std::memcmp(other.values.data(), drawn[i].values.data(),
                                other.values.size() * sizeof(float)) != 0) {
                    return true;
                }
            }
        }
        return false;
    }

    bool normals_unit_at_vertices() {
        if (!unit_at_vertices) {
            unit_at_vertices =
                fits_unit_at_vertices(source, claimed, [&](const scene& of) { return draw(of); });
        }
        return *unit_at_vertices;
    }

    tolerance_model allowed() {
        const linked_program& linked = driver.linked();
        tolerance_model result;
        result.precision = roundings_of_a_shader * std::max(1.0, static_cast<double>(linked.precision));
        // OpenGL asks for 4 bits at the least; one that says less is not allowed more.
        result.snap = std::exp2(-std::clamp(linked.subpixel_bits, 4, 16));
        result.angle = static_cast<double>(linked.angle);
        result.unit_at_vertices = normals_unit_at_vertices();
        result.normals_by_derivatives = source.normals == normals_claim::face;
        return result;
    }
};

program_renderer::program_renderer(shader_program the_program)
    : parts_(std::make_unique<parts>(std::move(the_program))) {}
program_renderer::program_renderer(std::unique_ptr<parts> made) : parts_(std::move(made)) {}
program_renderer::~program_renderer() = default;

std::unique_ptr<program_renderer> program_renderer::with_claim(shader_program changed) const {
    return std::unique_ptr<program_renderer>(
        new program_renderer(std::make_unique<parts>(std::move(changed), parts_->compiled, parts_->process)));
}

const shader_program& program_renderer::program() const { return parts_->source; }
const std::vector<std::string>& program_renderer::remarks() const { return parts_->bound.remarks; }
int program_renderer::codes_off_by_precision() const { return parts_->codes_off; }

std::vector<std::string> program_renderer::advice() const {
    std::vector<std::string> lines = program::advice_on(parts_->claimed, parts_->source);
    if (parts_->stopped) {
        return lines; // it would be again
    }
    if (!parts_->not_looked_at) {
        parts_->not_looked_at = program::not_looked_at(*this);
    }
    for (const std::string& name : *parts_->not_looked_at) {
        lines.push_back("no value of `" + name +
                        "` changes a picture: what the shader does with it is not looked at");
    }
    return lines;
}

std::vector<std::string> program_renderer::names_without_effect(const std::vector<scene>& scenes) const {
    std::vector<picture> drawn(scenes.size());
    std::vector<std::string> names;
    for (const disturbed_numbers& each : numbers_to_disturb(parts_->bound)) {
        if (!parts_->changes_any(each, scenes, drawn)) {
            names.push_back(each.name + each.letters);
        }
    }
    return names;
}

std::string program_renderer::drawn_by() const { return parts_->driver.linked().driver; }

fitted_scene program_renderer::fit(const scene& the_scene) const {
    fitted_scene result = fit_to_the_end(parts_->claimed, the_scene);
    if (!writes_alpha(parts_->driver.linked()) && result.fitted) {
        bool changed = std::exchange(result.fitted->view.background_alpha, 1.0) != 1;
        for (named_material& each : result.fitted->materials) {
            changed = std::exchange(each.look.alpha, 1.0) != 1 || changed;
        }
        if (changed) {
            result.changes.emplace_back("alpha 1 everywhere, as it writes none");
        }
    }
    return result;
}
tolerance_model program_renderer::tolerance() const { return parts_->allowed(); }

picture program_renderer::draw(const scene& the_scene, const draw_settings& settings,
                               draw_statistics* /*statistics*/) const {
    const fitted_scene suits = fit(the_scene);
    if (!suits.fitted || !suits.changes.empty()) {
        throw cannot_draw();
    }
    if (settings.terms == term_choice{}) {
        return parts_->draw(the_scene);
    }
    const scene changed = with_terms(the_scene, settings.terms);
    const fitted_scene without = fit(changed);
    if (!without.fitted || !without.changes.empty()) {
        throw error({parts_->source.file, 0, 0}, "the program cannot draw this without some of its terms",
                    "material.diffuse, material.specular and ambient.strength bound in [uniforms]");
    }
    return parts_->draw(changed);
}

std::string program_renderer::name_for(const scene& /*of*/) const {
    const std::string& own = parts_->source.own.name;
    return (own.empty() ? std::string(name_of(parts_->source.model)) : own) + " by " + parts_->source.file;
}

std::vector<rate> program_renderer::rates_for(const scene& /*of*/) const { return {parts_->source.rate}; }

pixel_format program_renderer::format() const {
    // A gamma's curve is as steep as sRGB's near black, and is judged as that.
    if (parts_->source.output == output_kind::linear) {
        return pixel_format::floats;
    }
    return parts_->source.output == output_kind::gamma && parts_->source.gamma == usual_gamma
               ? pixel_format::gamma_floats
               : pixel_format::srgb_floats;
}

} // namespace yurvo::inline v0_1
