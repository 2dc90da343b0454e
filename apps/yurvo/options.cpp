// What several commands take: a scene and what draws it, a picture from elsewhere.
#include <charconv>

#include "session.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/validate.hpp"

namespace yurvo::app {

namespace {

int whole_number(std::string_view text) {
    int value = 0;
    const auto [end, failed] = std::from_chars(text.data(), text.data() + text.size(), value);
    return failed == std::errc{} && end == text.data() + text.size() ? value : 0;
}

void set_size(view& eye_view, const std::string& size) {
    const std::size_t cross_at = size.find('x');
    eye_view.width = cross_at == std::string::npos ? 0 : whole_number(size.substr(0, cross_at));
    eye_view.height = cross_at == std::string::npos ? 0 : whole_number(size.substr(cross_at + 1));
    const auto fits = [](int side) { return side >= 1 && side <= 16384; };
    if (!fits(eye_view.width) || !fits(eye_view.height)) {
        throw error({"--size", 0, 0}, "`" + size + "` is no size",
                    "WIDTHxHEIGHT, such as 1280x800, each from 1 to 16384");
    }
}

// A renderer that lives as long as the program.
std::shared_ptr<const renderer> kept(const renderer& by) { return {std::shared_ptr<void>(), &by}; }

// What --model names: a model of one's own, or the built-in pipeline with the scene's model changed.
std::shared_ptr<const renderer> renderer_for(const session& on, const std::string& model, scene& the_scene) {
    if (const any_model* own = on.with().models.find(model)) {
        the_scene.shading.model =
            model_kind::lambert; // whose keys are always valid; one's own model is what runs
        the_scene.shading.own = {};
        return std::make_shared<const model_renderer>(model, own->with(the_scene.numbers));
    }
    if (!model.empty()) {
        const std::optional<model_kind> known = from_name<model_kind>(model);
        if (!known) {
            std::vector<std::string_view> names = all_names<model_kind>();
            const std::vector<std::string_view> mine = on.with().models.names();
            names.insert(names.end(), mine.begin(), mine.end());
            throw error({"--model", 0, 0}, "`" + model + "` is not known", listed(names));
        }
        the_scene.shading.model = *known;
        the_scene.shading.own = {};
    }
    return kept(built_in_renderer());
}

// What a file could not say: a model that takes no formulas, a texture under `color` at a coarser rate.
void leave_out_what_does_not_go(const session& on, const renderer& by, scene& changed) {
    const bool own = own_model_of(changed, by) != nullptr;
    if (changed.formulas.any() && (own || !descriptor_of(changed.shading.model).sums_terms)) {
        changed.formulas = {};
        on.remark("the formulas are left out: the model has none");
    }
    if (!changed.formulas.has(formulas::slot::color) || changed.shading.rate == rate::fragment) {
        return;
    }
    for (named_material& material : changed.materials) {
        if (material.image) {
            material.image = nullptr;
            material.texture_file.clear();
            on.remark("the texture of `" + material.name + "` is left out: at rate `" +
                      std::string(name_of(changed.shading.rate)) +
                      "` it would be sampled after the formula `color`");
        }
    }
}

} // namespace

void scene_options::add_to(option_list& to, bool with_rate) {
    add_scene_name(to, scene);
    to.text("--size", size, "pixels, instead of the scene's own", {.type = "WIDTHxHEIGHT"});
    to.text("--model", model, "instead of the scene's: " + listed(all_names<model_kind>()),
            {.type = "MODEL"});
    if (with_rate) {
        to.text("--rate", rate, "instead of the scene's: " + listed(all_names<yurvo::rate>()),
                {.type = "RATE"});
    }
}

void scene_options::add_program_to(option_list& to) {
    to.text("--program", program,
            "a shader program of yours, by its program file, drawn by the system's OpenGL driver",
            {.type = "FILE"});
}

loaded_scene scene_options::load(const session& on) const {
    loaded_scene result;
    result.of = named_scene(on, scene);
    yurvo::scene& changed = result.of.scene;
    if (!size.empty()) {
        set_size(changed.view, size);
    }
    result.by = renderer_for(on, model, changed);
    if (!rate.empty()) {
        changed.shading.rate = word_of<yurvo::rate>(rate, "--rate");
    }
    leave_out_what_does_not_go(on, *result.by, changed);
    if (const std::optional<fault> found = find_fault(changed)) {
        throw error({scene, 0, 0}, found->wrong, found->right);
    }
    if (program.empty()) {
        return result;
    }
    if (!model.empty() || !rate.empty()) {
        throw error({"--program", 0, 0}, "the program file claims a model and a rate itself",
                    "--program without --model and --rate");
    }
    result.program = open_program(on, program);
    result.by = result.program;
    const fitted_scene fitted = result.program->fit(changed);
    if (!fitted.fitted) {
        throw error({scene, 0, 0}, fitted.skipped,
                    "another scene, or `kinds` and `lights` in the program file");
    }
    for (const std::string& change : fitted.changes) {
        on.remark(scene + " is fitted to the program: " + change);
    }
    changed = *fitted.fitted;
    return result;
}

study::named_scene named_scene(const session& on, const std::string& name) {
    std::vector<std::string> remarks;
    study::named_scene result{name, find_scene(name, &remarks, &on.with().models)};
    for (const std::string& remark : remarks) {
        on.remark(remark);
    }
    return result;
}

void add_scene_name(option_list& to, std::string& name) {
    to.text("scene", name, "a scene's name (see `yurvo scenes`) or the path of a scene file",
            {.type = "SCENE", .required = true});
}

std::shared_ptr<const program_renderer> open_program(const session& on, const std::string& file) {
    on.progress("compiling " + file);
    auto result = std::make_shared<const program_renderer>(read_program(file, &on.with().models));
    on.progress("");
    for (const std::string& remark : result->remarks()) {
        on.remark(file + ": " + remark);
    }
    return result;
}

void picture_options::add_to(option_list& to, const std::string& what) {
    to.text("--picture", file, what, {.type = "FILE"});
    add_as_to(to);
}

void picture_options::add_as_to(option_list& to) {
    to.text("--as", as, "what a PNG's codes are: srgb (where left out) or linear");
}

pixel_format picture_options::format() const {
    const bool codes = file.ends_with(".png") || file.ends_with(".PNG");
    if (as.empty()) {
        return codes ? pixel_format::srgb_codes : pixel_format::floats;
    }
    if (as != "linear" && as != "srgb") {
        throw error({"--as", 0, 0}, "`" + as + "` is no way to hold colours", "linear or srgb");
    }
    if (!codes && as == "srgb") {
        throw error({"--as", 0, 0}, file + " holds floats, which are linear", "a PNG, or --as linear");
    }
    return !codes           ? pixel_format::floats
           : as == "linear" ? pixel_format::linear_codes
                            : pixel_format::srgb_codes;
}

picture picture_options::read() const {
    return read_picture(file, format() == pixel_format::linear_codes ? encoding::linear : encoding::srgb);
}

} // namespace yurvo::app
