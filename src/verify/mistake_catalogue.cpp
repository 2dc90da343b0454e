#include <algorithm>

#include "verify/mistake_list.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

using enum mistake;

std::vector<mistake_entry> whole_catalogue() {
    std::vector<mistake_entry> all = mistakes_of_vectors();
    for (std::vector<mistake_entry>& part : std::vector{mistakes_of_lights(), mistakes_of_pictures()}) {
        all.insert(all.end(), part.begin(), part.end());
    }
    return all;
}

bool is_field(const object& item) { return std::holds_alternative<field_shape>(item.shape); }

} // namespace

scene_facts::scene_facts(const scene& scene, lit_by model)
    : of(scene),
      own(model == lit_by::own_model || scene.shading.own.model != nullptr),
      lit((own || descriptor_of(scene.shading.model).lit) && !scene.lights.empty()),
      terms(own || descriptor_of(scene.shading.model).sums_terms),
      specular((own || descriptor_of(scene.shading.model).specular ||
                scene.formulas.has(yurvo::formulas::slot::specular)) &&
               !scene.lights.empty()),
      looks_at_eye(own),
      fragment(scene.shading.rate == rate::fragment),
      meshes(!std::all_of(scene.objects.begin(), scene.objects.end(), is_field)),
      fields(std::any_of(scene.objects.begin(), scene.objects.end(), is_field)) {
    using yurvo::formulas::input;
    if (own) {
        return;
    }
    formulas = parse_all(scene.formulas, scene.numbers);
    const bool by_terms = highlight_of(model_kind::phong) || highlight_of(model_kind::blinn_phong);
    looks_at_eye = by_terms || cel() || asks(input::v) || asks(input::h) || asks(input::r);
}

bool scene_facts::any_rate() const {
    return !replaced(yurvo::formulas::slot::color) ||
           !any_material([](const named_material& each) { return each.image != nullptr; });
}

const std::vector<mistake_entry>& all_mistakes() {
    static const std::vector<mistake_entry> all = whole_catalogue();
    return all;
}

const mistake_entry& entry_of(mistake which) { return all_mistakes()[static_cast<std::size_t>(which)]; }

const mistake_entry* find_mistake(std::string_view id) {
    const auto found = std::find_if(all_mistakes().begin(), all_mistakes().end(),
                                    [&](const mistake_entry& entry) { return entry.id == id; });
    return found == all_mistakes().end() ? nullptr : &*found;
}

const std::vector<std::string_view>& revealed_by(mistake which) { return entry_of(which).scenes; }

std::vector<std::string_view> mistakes_revealed_in(std::string_view scene) {
    std::vector<std::string_view> ids;
    for (const mistake_entry& entry : all_mistakes()) {
        if (std::find(entry.scenes.begin(), entry.scenes.end(), scene) != entry.scenes.end()) {
            ids.push_back(entry.id);
        }
    }
    return ids;
}

bool is_of_output(mistake which) {
    return is_of_codes(which) || which == channels_swapped || which == picture_upside_down;
}

bool is_of_codes(mistake which) {
    return which == encode_missing || which == encode_twice || which == output_wraps;
}

bool applies(mistake which, const scene& to, lit_by model) {
    return entry_of(which).applies(scene_facts(to, model));
}

} // namespace yurvo::inline v0_1::verify
