#include "yurvo/scene/validate.hpp"

#include <algorithm>
#include <cmath>
#include <set>
#include <string>
#include <string_view>
#include <type_traits>

#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/shape_list.hpp"

namespace yurvo::inline v0_1 {

namespace {

// Numbers in messages: as short as they can be told.
std::string number(double value) { return short_number(value, 6); }

// Walks a scene, remembering where it is, and keeps the first fault.
class checker {
    std::optional<fault> found_;
    std::string prefix_;

    // Given as it is, or by a function that puts it together: nearly always nobody asks for it.
    template <class Text> static std::string text_of(const Text& text) {
        if constexpr (std::is_invocable_v<Text>) {
            return text();
        } else {
            return std::string(text);
        }
    }

  public:
    [[nodiscard]] const std::optional<fault>& found() const { return found_; }
    void enter(std::string prefix) { prefix_ = std::move(prefix); }

    template <class Wrong, class Right>
    void require(bool held, std::string_view key, const Wrong& wrong, const Right& right) {
        if (!held && !found_) {
            found_ = fault{prefix_ + std::string(key), text_of(wrong), text_of(right)};
        }
    }
    template <class Right>
    void require_number(bool held, std::string_view key, double value, const Right& right) {
        require(
            held && std::isfinite(value), key,
            [&] { return "`" + std::string(key) + "` is " + number(value); }, right);
    }
    void finite(std::string_view key, double value) { require_number(true, key, value, "a finite number"); }
    void positive(std::string_view key, double value) {
        require_number(value > 0, key, value, "a finite number above 0");
    }
    void not_negative(std::string_view key, double value) {
        require_number(value >= 0, key, value, "a finite number, 0 or more");
    }
    void share(std::string_view key, double value) {
        require_number(value >= 0 && value <= 1, key, value, "a number from 0 to 1");
    }
    void finite(std::string_view key, const vec3<double>& v) {
        require(
            std::isfinite(v.x) && std::isfinite(v.y) && std::isfinite(v.z), key,
            [&] { return "`" + std::string(key) + "` has a component that is not finite"; },
            "three finite numbers");
    }
    void not_negative(std::string_view key, const rgb<double>& color) {
        for (const double component : {color.r, color.g, color.b}) {
            require_number(component >= 0, key, component, "finite components, 0 or more");
        }
    }
    void sizes(any_shape shape) {
        const shape_descriptor& known = descriptor_of(shape);
        for (const shape_size& size : known.sizes) {
            for (const double* number : size.of(shape)) {
                positive(size.key, *number);
            }
        }
        for (std::size_t i = 0; known.cells.of != nullptr && i < 2; ++i) {
            const std::uint32_t cells = known.cells.of(shape)[i];
            require(
                cells >= known.cells.least[i], "cells",
                [&] { return "`cells` has " + std::to_string(cells); },
                [&] { return "at least " + std::to_string(known.cells.least[i]) + " there"; });
        }
    }
};

void check_part(checker& check, const field_part& part, const std::string& prefix) {
    check.finite(prefix + "position", part.position);
    const double least = std::min({part.size.x, part.size.y, part.size.z});
    for (const field_size& size : sizes_of(part.kind)) {
        if (size.numbers != nullptr) {
            check.require(std::isfinite(part.size.x + part.size.y + part.size.z) && least > 0,
                          prefix + std::string(size.key),
                          "`size` has a side that is not above 0, or not finite",
                          "three finite numbers above 0");
        } else if (size.number == &field_part::rounding) {
            check.require_number(part.rounding > 0 && part.rounding <= least / 2, prefix + "rounding",
                                 part.rounding, "above 0 and at most half the smallest side");
        } else {
            check.positive(prefix + std::string(size.key), part.*size.number);
        }
    }
}

void check_field(checker& check, const field& field) {
    check.require(!field.parts.empty(), "parts", "`parts` is empty", "at least one part");
    check.positive("blend", field.blend);
    for (std::size_t i = 0; i < field.parts.size(); ++i) {
        const bool several = field.kind == field_kind::smooth_union;
        check_part(check, field.parts[i], several ? "parts[" + std::to_string(i) + "]." : "");
    }
}

void check_shape(checker& check, const any_shape& shape) {
    check.sizes(shape);
    if (const auto* implicit = std::get_if<field_shape>(&shape)) {
        check_field(check, implicit->field);
    } else if (const auto* from_file = std::get_if<mesh_shape>(&shape); from_file != nullptr) {
        check.require(from_file->data != nullptr, "file", "the mesh has not been read", "a mesh");
        if (from_file->data == nullptr) {
            return;
        }
    }
    const std::uint64_t triangles = triangle_count(shape);
    check.require(
        triangles <= most_triangles, "cells",
        [&] { return "`cells` makes " + std::to_string(triangles) + " triangles"; },
        [] { return "at most " + std::to_string(most_triangles) + " for one object"; });
}

void check_view(checker& check, const view& view) {
    check.enter("view.");
    check.finite("eye", view.eye);
    check.finite("target", view.target);
    check.finite("up", view.up);
    check.require(length(view.eye - view.target) > 0, "target", "`target` is where `eye` is",
                  "two different points");
    const vec3<double> side = cross(normalize(view.up), normalize(view.target - view.eye));
    // Below this the axes would be mostly rounding error.
    check.require(length(side) > 1e-9, "up", "`up` is along the view, or zero", "a direction that is not");
    check.require_number(view.fov > 0 && view.fov < pi, "fov", degrees(view.fov),
                         "degrees between 0 and 180, both excluded");
    check.positive("near", view.near);
    check.positive("far", view.far);
    check.require(
        view.near < view.far, "far",
        [&] { return "`far` is " + number(view.far) + ", `near` " + number(view.near); },
        "a `far` that is farther than `near`");
    for (const int side_length : {view.width, view.height}) {
        check.require(
            side_length >= 1 && side_length <= 16384, "size",
            [&] { return "`size` has " + std::to_string(side_length); },
            "whole numbers of pixels from 1 to 16384");
    }
    check.not_negative("background", view.background);
    check.share("background_alpha", view.background_alpha);
}

void check_shading(checker& check, const shading_choice& shading) {
    check.enter("shading.");
    if (!shading.own.name.empty() || shading.own.model != nullptr) {
        check.require(shading.own.model != nullptr, "model",
                      "the model `" + shading.own.name + "` is not in this program",
                      "a built-in model, or one that the program was built with");
        check.require(!shading.own.name.empty(), "model", "a model of one's own has no name", "a name");
        check.require(shading.model != model_kind::cel, "model",
                      "a model of one's own in the place of `cel`, whose keys would be read",
                      "another built-in model beside it");
        return;
    }
    if (shading.model != model_kind::cel) {
        return;
    }
    check.require(shading.rate == rate::fragment, "rate",
                  "the model `cel` at rate `" + std::string(name_of(shading.rate)) + "`",
                  "`cel` is evaluated per fragment only: rate = \"fragment\"");
    const cel_settings& cel = shading.cel;
    for (std::size_t i = 0; i < cel.thresholds.size(); ++i) {
        check.finite("thresholds", cel.thresholds[i]);
        check.require(i == 0 || cel.thresholds[i - 1] < cel.thresholds[i], "thresholds",
                      "`thresholds` do not ascend", "each greater than the one before");
    }
    check.require(cel.bands.size() == cel.thresholds.size() + 1, "bands",
                  "`bands` has " + std::to_string(cel.bands.size()) + " for " +
                      std::to_string(cel.thresholds.size()) + " thresholds",
                  "one band more than thresholds");
    for (const rgb<double>& band : cel.bands) {
        check.not_negative("bands", band);
    }
    check.finite("outline", cel.outline);
    check.not_negative("outline_color", cel.outline_color);
}

void check_numbers(checker& check, const std::vector<formulas::named_number>& numbers) {
    check.enter("numbers.");
    std::set<std::string> names;
    for (const formulas::named_number& number : numbers) {
        const std::string wrong = formulas::fault_in_number_name(number.name);
        check.require(wrong.empty(), number.name, "`" + number.name + "`: " + wrong, "another name");
        check.require(names.insert(number.name).second, number.name,
                      "the number `" + number.name + "` is there twice", "each once");
        check.require(!number.values.empty() && number.values.size() <= 4, number.name,
                      "`" + number.name + "` has " + std::to_string(number.values.size()) + " components",
                      "one to four");
        for (const double value : number.values) {
            check.finite(number.name, value);
        }
    }
}

void check_formulas(checker& check, const scene& the_scene) {
    check.enter("formulas");
    if (!the_scene.formulas.any()) {
        return;
    }
    const std::string& own = the_scene.shading.own.name;
    check.require(own.empty(), "", "the model `" + own + "` takes no formulas: it is written in C++",
                  "a built-in model, or no [formulas]");
    const model_descriptor& model = descriptor_of(the_scene.shading.model);
    check.require(model.sums_terms, "", "the model `" + std::string(model.name) + "` takes no formulas",
                  "lambert, phong or blinn-phong, whose terms formulas can replace");
    try {
        parse_all(the_scene.formulas, the_scene.numbers);
    } catch (const formulas::fault_in_formula& fault) {
        const std::string_view name = descriptor_of(fault.where).name;
        check.require(false, "." + std::string(name),
                      "in the formula `" + std::string(name) + "`, character " +
                          std::to_string(fault.offset + 1) + ": " + fault.wrong,
                      fault.right);
    }
    const bool textured = std::any_of(the_scene.materials.begin(), the_scene.materials.end(),
                                      [](const named_material& each) { return each.image != nullptr; });
    check.require(!the_scene.formulas.has(formulas::slot::color) ||
                      the_scene.shading.rate == rate::fragment || !textured,
                  ".color",
                  "a formula for `color` with a texture at rate `" +
                      std::string(name_of(the_scene.shading.rate)) + "`",
                  "rate = \"fragment\": a texture is sampled after a coarser rate has evaluated `color`");
}

void check_material(checker& check, const material& look) {
    check.not_negative("base", look.base);
    check.share("alpha", look.alpha);
    check.not_negative("ambient", look.ambient);
    check.not_negative("diffuse", look.diffuse);
    check.not_negative("specular", look.specular);
    check.positive("shininess", look.shininess);
    check.not_negative("emission", look.emission);
}

// `formulas` may stand for the penumbra, and then no law needs its numbers.
void check_spot(checker& check, const light& light, const formulas::formula_texts& formulas) {
    const penumbra_descriptor& penumbra = descriptor_of(light.penumbra);
    const bool own = formulas.has(formulas::slot::penumbra);
    const double most = own ? 180 : penumbra.most_outer;
    check.require_number(light.outer > 0 && light.outer <= radians(most), "outer", degrees(light.outer),
                         [&] { return "a half-angle above 0 and up to " + number(most) + " degrees"; });
    if (penumbra.ramped || own) {
        check.require_number(light.inner >= 0 && light.inner <= light.outer, "inner", degrees(light.inner),
                             "a half-angle from 0 to `outer`");
    }
    if (penumbra.exponent && !own) {
        check.positive("exponent", light.exponent);
    }
    check.not_negative("exponent", light.exponent);
}

void check_light(checker& check, const light& light, const formulas::formula_texts& formulas) {
    check.not_negative("color", light.color);
    check.not_negative("intensity", light.intensity);
    check.not_negative("ambient", light.ambient);
    check.not_negative("diffuse", light.diffuse);
    check.not_negative("specular", light.specular);
    if (light.kind != light_kind::point) {
        check.finite("shines", light.shines);
        check.require(length(light.shines) > 0, "shines", "`shines` is zero", "a direction");
    }
    if (light.kind == light_kind::directional) {
        return;
    }
    check.finite("position", light.position);
    const bool own = formulas.has(formulas::slot::falloff);
    double sum = 0;
    for (const double coefficient : light.coefficients) {
        check.not_negative("coefficients", coefficient);
        sum += coefficient;
    }
    check.require(sum > 0 || own || !descriptor_of(light.falloff).coefficients, "coefficients",
                  "`coefficients` are all 0", "at least one above 0");
    if (descriptor_of(light.falloff).range && !own) {
        check.positive("range", light.range);
    }
    check.not_negative("range", light.range);
    if (light.kind == light_kind::spot) {
        check_spot(check, light, formulas);
    }
}

void check_object(checker& check, const object& object, const scene& the_scene) {
    check.require(object.material < the_scene.materials.size(), "material", "there is no such material",
                  "the index of one of the scene's");
    check_shape(check, object.shape);
    const bool per_fragment = the_scene.shading.rate == rate::fragment;
    check.require(
        per_fragment || !std::holds_alternative<field_shape>(object.shape), "shape",
        [&] { return "the shape `field` at rate `" + std::string(name_of(the_scene.shading.rate)) + "`"; },
        "a field is drawn per fragment only: rate = \"fragment\"");
    check.finite("position", object.placed.position);
    check.finite("rotation", object.placed.rotation);
    const vec3<double>& scale = object.placed.scale;
    check.finite("scale", scale);
    check.require(scale.x != 0 && scale.y != 0 && scale.z != 0, "scale", "`scale` has a 0",
                  "no component 0: such an object has no thickness and no normals");
}

void check_expected(checker& check, const expected_value& expected, const scene& the_scene) {
    const view& view = the_scene.view;
    const bool by_point = expected.pixel == std::array<int, 2>{-1, -1};
    check.require(by_point || (expected.pixel[0] >= 0 && expected.pixel[1] >= 0 &&
                               expected.pixel[0] < view.width && expected.pixel[1] < view.height),
                  "pixel", "the pixel lies outside the picture", [&] {
                      return "from [0, 0] to [" + std::to_string(view.width - 1) + ", " +
                             std::to_string(view.height - 1) + "]";
                  });
    check.require(!by_point || expected.object < the_scene.objects.size(), "object",
                  "there is no such object", "the name of one of the scene's");
    check.finite("point", expected.point);
    check.not_negative(expected.ratio_to.empty() ? "color" : "ratio", expected.color);
    check.not_negative("tolerance", expected.tolerance);
}

} // namespace

std::optional<fault> find_fault(const scene& the_scene) {
    checker check;
    check_view(check, the_scene.view);
    check_shading(check, the_scene.shading);
    check_numbers(check, the_scene.numbers);
    check_formulas(check, the_scene);
    check.enter("ambient.");
    check.not_negative("color", the_scene.ambient_color);
    check.not_negative("strength", the_scene.ambient_strength);
    for (const named_material& material : the_scene.materials) {
        check.enter("materials." + material.name + ".");
        check_material(check, material.look);
    }
    std::set<std::string> names;
    const auto unique = [&](const std::string& name) {
        check.require(
            name.empty() || names.insert(name).second, "name",
            [&] { return "the name `" + name + "` is taken"; }, "a name of its own, or none");
    };
    for (std::size_t i = 0; i < the_scene.objects.size(); ++i) {
        check.enter("objects[" + std::to_string(i) + "].");
        unique(the_scene.objects[i].name);
        check_object(check, the_scene.objects[i], the_scene);
    }
    names.clear();
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        check.enter("lights[" + std::to_string(i) + "].");
        unique(the_scene.lights[i].name);
        check_light(check, the_scene.lights[i].light, the_scene.formulas);
    }
    names.clear();
    for (std::size_t i = 0; i < the_scene.expects.size(); ++i) {
        const expected_value& expected = the_scene.expects[i];
        check.enter("expect[" + std::to_string(i) + "].");
        check.require(!expected.name.empty(), "name", "an expectation has no name",
                      "a name, by which it is reported");
        check.require(
            expected.ratio_to.empty() || names.count(expected.ratio_to) > 0, "to",
            [&] { return "there is no expectation `" + expected.ratio_to + "` before this one"; },
            "the name of an earlier one");
        unique(expected.name);
        check_expected(check, expected, the_scene);
    }
    return check.found();
}

void require_valid(const scene& the_scene) {
    if (const std::optional<fault> found = find_fault(the_scene)) {
        throw error({found->path, 0, 0}, found->wrong, found->right);
    }
}

} // namespace yurvo::inline v0_1
