#include "yurvo/program/program_renderer.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <regex>

#include "program/bindings.hpp"
#include "program/driver_process.hpp"
#include "program/fit.hpp"
#include "program/translate.hpp"
#include "verify/cast.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo {

namespace {

using namespace program;

// Roundings between the numbers that a scene has and a shader's colour, against the one that the second
// method counts for a position: the object's matrix and the view's (seven each: four products and three
// sums), as many for the normal, the plane by which the driver interpolates (three products and two sums, and
// the division by depth).
constexpr double roundings_of_a_shader = 7 + 7 + 7 + 6;

constexpr double unit_roundoff = 0x1p-24;
constexpr double half_roundoff = 0x1p-11; // of a float of 16 bits, which a driver may take for mediump

bool declares_precision(const shader_program& given, const std::string& precision, const std::string& type) {
    const std::regex said("\\b" + precision + "\\s+" + type + "\\b");
    return std::regex_search(given.fragment.source, said);
}

// Fragments are lit in mediump or lowp, as their source says.
bool coarse_floats(const shader_program& given) {
    return declares_precision(given, "(mediump|lowp)", "(float|vec[234]|mat[234])");
}

// How a value lies in a uniform block: column by column at the driver's stride, or row by row.
void write_into(std::vector<std::uint8_t>& block, const active_uniform& at, const type_shape& shape,
                const std::vector<float>& numbers) {
    const auto put = [&](std::size_t offset, float value) {
        if (offset + 4 > block.size()) {
            return;
        }
        if (shape.whole) {
            const auto whole = static_cast<std::int32_t>(std::lround(value));
            std::memcpy(&block[offset], &whole, 4);
        } else {
            std::memcpy(&block[offset], &value, 4);
        }
    };
    const auto begin = static_cast<std::size_t>(at.offset);
    if (shape.matrix == 0) {
        for (std::size_t i = 0; i < numbers.size(); ++i) {
            put(begin + 4 * i, numbers[i]);
        }
        return;
    }
    const auto size = static_cast<std::size_t>(shape.matrix);
    const auto stride = static_cast<std::size_t>(at.matrix_stride);
    for (std::size_t column = 0; column < size; ++column) {
        for (std::size_t row = 0; row < size; ++row) {
            const std::size_t place =
                at.row_major != 0 ? row * stride + 4 * column : column * stride + 4 * row;
            put(begin + place, numbers[size * column + row]);
        }
    }
}

texture_values texture_for(const texture* image, bool as_codes) {
    texture_values made;
    if (image == nullptr) {
        made.values = {1, 1, 1};
        return made;
    }
    made.width = image->width;
    made.height = image->height;
    const auto value = [&](float linear) {
        return as_codes ? static_cast<float>(srgb_encoded(static_cast<double>(linear))) : linear;
    };
    for (int y = image->height - 1; y >= 0; --y) { // the lowest row first
        for (int x = 0; x < image->width; ++x) {
            const rgb<float>& texel =
                image->texels[static_cast<std::size_t>(y) * static_cast<std::size_t>(image->width) +
                              static_cast<std::size_t>(x)];
            made.values.insert(made.values.end(), {value(texel.r), value(texel.g), value(texel.b)});
        }
    }
    return made;
}

// The scene without the terms that are not asked for.
scene with_terms(const scene& of, const term_choice& terms) {
    scene made = of;
    if (!terms.ambient) {
        made.ambient_strength = 0;
    }
    for (named_material& one : made.materials) {
        one.look.diffuse = terms.diffuse ? one.look.diffuse : rgb<double>();
        one.look.specular = terms.specular ? one.look.specular : rgb<double>();
        one.look.emission = terms.emission ? one.look.emission : rgb<double>();
    }
    return made;
}

std::vector<float> attribute_of(const mesh& shape, const std::string& what, int components) {
    std::vector<float> made;
    const auto put = [&](std::initializer_list<double> values) {
        int count = 0;
        for (const double value : values) {
            if (count++ < components) {
                made.push_back(static_cast<float>(value));
            }
        }
        while (count < components) { // a vector fills a wider one
            made.push_back(count == 3 && what != "normal" ? 1.0F : 0.0F);
            ++count;
        }
    };
    for (std::size_t t = 0; t < shape.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t v = shape.triangles[t][k];
            if (what == "position") {
                put({shape.positions[v].x, shape.positions[v].y, shape.positions[v].z});
            } else if (what == "normal") {
                put({shape.normals[v].x, shape.normals[v].y, shape.normals[v].z});
            } else if (what == "color") {
                const rgb<double> color = shape.colors.empty() ? rgb<double>(1.0) : shape.colors[v];
                put({color.r, color.g, color.b});
            } else {
                const texcoord at =
                    shape.texcoords.empty() ? texcoord{} : shape.texcoords[shape.texcoord_corners(t)[k]];
                put({at.u, at.v});
            }
        }
    }
    return made;
}

} // namespace

struct program_renderer::parts {
    shader_program given;
    translated_program translated;
    driver_process driver;
    bindings bound;
    claims claimed;
    mutable std::optional<bool> unit_at_vertices;

    explicit parts(shader_program program)
        : given(std::move(program)), translated(translate(given)), driver(translated.sources, given.limit) {
        const linked_program& linked = driver.linked();
        if (linked.failed_stage != 0) {
            throw complaint_of(given, linked);
        }
        bound = bind(given, translated, linked);
        claimed = claims_of(given, bound);
    }

    object_request request_for(const pipeline::stage& staged, const scene& of,
                               const pipeline::staged_object& object, draw_request& whole) {
        const quantity_context in{of, staged, object, given.clip};
        const linked_program& linked = driver.linked();
        object_request made;
        made.corners = static_cast<std::int32_t>(3 * object.shape->triangles.size());
        made.mirrored = object.mirrored ? 1 : 0;
        for (const bound_attribute& one : bound.attributes) {
            const int components = std::max(1, shape_of(one.active.type).components);
            made.attributes.push_back(
                {one.active.location, components, attribute_of(*object.shape, one.means, components)});
        }
        for (const active_block& block : linked.blocks) {
            made.blocks.emplace_back(static_cast<std::size_t>(std::max(0, block.size)));
        }
        for (const bound_uniform& one : bound.uniforms) {
            const type_shape shape = shape_of(one.active.type);
            if (shape.texture) {
                const quantity* means = std::get_if<quantity>(&one.means.front());
                const bool known =
                    means != nullptr && (means->property == "texture" || means->property == "texture_codes");
                if (!known) {
                    throw error(one.where, "`" + one.active.name + "` is a texture",
                                "material.texture or material.texture_codes");
                }
                const texture* image = staged.materials[object.material].image.get();
                made.samplers.push_back(one.active.location);
                made.textures.push_back(static_cast<std::int32_t>(whole.textures.size()));
                whole.textures.push_back(texture_for(image, means->property == "texture_codes"));
                continue;
            }
            std::vector<float> numbers = numbers_for(one, in, translated.transposed_matrices);
            if (one.active.block >= 0) {
                write_into(made.blocks[static_cast<std::size_t>(one.active.block)], one.active, shape,
                           numbers);
            } else {
                made.uniforms.push_back({one.active.location, one.active.type, std::move(numbers)});
            }
        }
        return made;
    }

    picture draw(const scene& of) {
        const pipeline::stage staged = pipeline::make_stage(of);
        draw_request request;
        request.width = of.view.width;
        request.height = of.view.height;
        const auto background = [&](double value) {
            return static_cast<float>(
                given.output == output_kind::srgb ? srgb_encoded(std::clamp(value, 0.0, 1.0)) : value);
        };
        request.background[0] = background(of.view.background.r);
        request.background[1] = background(of.view.background.g);
        request.background[2] = background(of.view.background.b);
        request.background[3] = static_cast<float>(of.view.background_alpha);
        request.vulkan_clip = given.clip == clip_space::vulkan ? 1 : 0;
        for (const pipeline::staged_object& object : staged.objects) {
            request.objects.push_back(request_for(staged, of, object, request));
        }
        draw_answer answer = driver.draw(request);
        if (!answer.failure.empty()) {
            throw program_stopped({given.file, 0, 0}, answer.failure,
                                  "a smaller picture, or less in the shader");
        }
        picture made;
        made.width = of.view.width;
        made.height = of.view.height;
        made.values.assign(answer.values.begin(), answer.values.end());
        if (given.output == output_kind::srgb) {
            for (std::size_t i = 0; i < made.values.size(); ++i) {
                if (i % 4 != 3) {
                    const double kept = std::clamp(static_cast<double>(made.values[i]), 0.0, 1.0);
                    made.values[i] = static_cast<float>(srgb_decoded(std::isnan(made.values[i]) ? 0 : kept));
                }
            }
        }
        return made;
    }

    // Whether normals are made unit at the vertices or only at each fragment: what fits the unevenly scaled
    // buoys better. Both are right.
    bool normals_unit_at_vertices() {
        if (unit_at_vertices) {
            return *unit_at_vertices;
        }
        unit_at_vertices = true;
        if (given.rate != rate::fragment || given.scale != scale_claim::any) {
            return true;
        }
        scene buoys = verify::find_reference("buoys")->scene;
        buoys.view.width = 96;
        buoys.view.height = 60;
        // Diffuse light alone, of one light, and its brightness left open: whatever else may be wrong with
        // the program should not decide this.
        buoys.ambient_strength = 0;
        for (named_material& one : buoys.materials) {
            one.look.specular = {};
        }
        if (std::find(claimed.kinds.begin(), claimed.kinds.end(), light_kind::directional) !=
                claimed.kinds.end() &&
            !claimed.in_order) {
            std::erase_if(buoys.lights,
                          [](const named_light& one) { return one.light.kind != light_kind::directional; });
        }
        const fitted_scene fitted = fit_to(claimed, buoys);
        if (!fitted.fitted) {
            return true;
        }
        picture drawn;
        try {
            drawn = draw(*fitted.fitted);
        } catch (const program_stopped&) { // it will be told by what is to be drawn
            return true;
        }
        const auto off = [&](bool at_vertices) {
            const verify::caster casts(*fitted.fitted, {.unit_at_vertices = at_vertices});
            double products = 0; // of found and expected, and so on: for the factor that fits best
            double expected_squares = 0;
            double found_squares = 0;
            for (int y = 0; y < drawn.height; ++y) {
                for (int x = 0; x < drawn.width; ++x) {
                    const double expected = casts.at(x + 0.5, y + 0.5).color.r;
                    const double found = drawn.color(x, y).r;
                    products += expected * found;
                    expected_squares += expected * expected;
                    found_squares += found * found;
                }
            }
            const double sum =
                expected_squares > 0 ? found_squares - products * products / expected_squares : 0;
            return sum;
        };
        unit_at_vertices = off(true) <= off(false) || std::isnan(off(true));
        return *unit_at_vertices;
    }

    tolerance_model allowed() {
        const linked_program& linked = driver.linked();
        tolerance_model made;
        made.precision = roundings_of_a_shader * std::max(1.0, static_cast<double>(linked.precision));
        if (given.language == shading_language::glsl_es) {
            made.precision *= coarse_floats(given) ? half_roundoff / unit_roundoff : 1;
            // A sampler is lowp where nothing is said of it, and the driver rounds to half floats then, the
            // texel and what it makes of it.
            made.texel = declares_precision(given, "highp", "sampler2D") ? 0 : 2 * half_roundoff;
        }
        made.snap = std::exp2(-std::clamp(linked.subpixel_bits, 1, 16));
        made.unit_at_vertices = normals_unit_at_vertices();
        return made;
    }
};

program_renderer::program_renderer(shader_program given)
    : parts_(std::make_unique<parts>(std::move(given))) {}
program_renderer::~program_renderer() = default;

const shader_program& program_renderer::program() const { return parts_->given; }
const std::vector<std::string>& program_renderer::remarks() const { return parts_->bound.remarks; }
std::string program_renderer::drawn_by() const { return parts_->driver.linked().driver; }
fitted_scene program_renderer::fit(const scene& of) const { return fit_to(parts_->claimed, of); }
tolerance_model program_renderer::tolerance() const { return parts_->allowed(); }

picture program_renderer::draw(const scene& of, const draw_settings& settings,
                               draw_statistics* /*statistics*/) const {
    const fitted_scene suits = fit(of);
    if (!suits.fitted || !suits.changes.empty()) {
        throw cannot_draw();
    }
    if (settings.terms == term_choice{}) {
        return parts_->draw(of);
    }
    const scene changed = with_terms(of, settings.terms);
    const fitted_scene without = fit(changed);
    if (!without.fitted || !without.changes.empty()) {
        throw error({parts_->given.file, 0, 0}, "the program cannot draw this without some of its terms",
                    "material.diffuse, material.specular and ambient.strength bound in [uniforms]");
    }
    return parts_->draw(changed);
}

std::string program_renderer::name_for(const scene& /*of*/) const {
    return std::string(name_of(parts_->given.model)) + " by " + parts_->given.file;
}

std::vector<rate> program_renderer::rates_for(const scene& /*of*/) const { return {parts_->given.rate}; }

pixel_format program_renderer::format() const {
    return parts_->given.output == output_kind::srgb ? pixel_format::srgb_floats : pixel_format::floats;
}

} // namespace yurvo
