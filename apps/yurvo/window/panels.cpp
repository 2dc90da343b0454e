// The panels at the window's side in which a scene is changed: lights, objects and materials, the scene,
// formulas.
#include <algorithm>
#include <cmath>
#include <cstring>

#include <fmt/format.h>
#include <imgui.h>

#include "window/painting.hpp"
#include "window/window.hpp"
#include "yurvo/files/toml_edit.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::app {

namespace {

std::string light_place(std::size_t i) { return "lights[" + std::to_string(i) + "]."; }

std::string object_place(std::size_t i) { return "objects[" + std::to_string(i) + "]."; }

} // namespace

void window::step_of_item() {
    if (ImGui::IsItemActivated()) {
        on_.edited().begin_step();
    }
    if (ImGui::IsItemDeactivated()) {
        on_.edited().end_step();
    }
}

void window::number(const char* label, const std::string& place, double is, double low, double high,
                    bool curved) {
    auto value = static_cast<float>(is);
    ImGui::SetNextItemWidth(-px(120));
    if (ImGui::SliderFloat(label, &value, static_cast<float>(low), static_cast<float>(high), "%.3g",
                           curved ? ImGuiSliderFlags_Logarithmic : ImGuiSliderFlags_None)) {
        on_.edited().apply(live::set_number(place, std::stod(fmt::format("{:.4g}", value))));
    }
    step_of_item();
}

void window::color(const char* label, const std::string& place, const yurvo::rgb<double>& is) {
    std::array<float, 3> value{static_cast<float>(is.r), static_cast<float>(is.g), static_cast<float>(is.b)};
    ImGui::SetNextItemWidth(-px(120));
    if (ImGui::ColorEdit3(label, value.data(), ImGuiColorEditFlags_Float | ImGuiColorEditFlags_HDR)) {
        const auto kept = [](float x) { return std::stod(fmt::format("{:.4g}", std::max(0.0F, x))); };
        on_.edited().apply(live::set_numbers(place, {kept(value[0]), kept(value[1]), kept(value[2])}));
    }
    step_of_item();
}

void window::triple(const char* label, const std::string& place, const vec3<double>& is, float speed) {
    std::array<float, 3> value{static_cast<float>(is.x), static_cast<float>(is.y), static_cast<float>(is.z)};
    ImGui::SetNextItemWidth(-px(120));
    if (ImGui::DragFloat3(label, value.data(), speed, 0, 0, "%.2f")) {
        const auto kept = [](float x) { return std::stod(fmt::format("{:.4f}", x)); };
        on_.edited().apply(live::set_numbers(place, {kept(value[0]), kept(value[1]), kept(value[2])}));
    }
    step_of_item();
}

void window::one_light(std::size_t i) {
    const named_light lamp = on_.edited().shown().lights[i];
    const std::string at = light_place(i);
    ImGui::PushID(static_cast<int>(i));
    const bool directional = lamp.light.kind == light_kind::directional;
    if (!directional) {
        triple("position", at + "position", lamp.light.position, 0.01F);
    }
    if (lamp.light.kind != light_kind::point) {
        triple("shines", at + "shines", lamp.light.shines, 0.01F);
    }
    color("color", at + "color", lamp.light.color);
    number("intensity", at + "intensity", lamp.light.intensity, 0,
           std::max(2.0, 4 * std::ceil(lamp.light.intensity)));
    if (!directional) {
        const std::string law(name_of(lamp.light.falloff));
        ImGui::SetNextItemWidth(-px(120));
        if (ImGui::BeginCombo("falloff", law.c_str())) {
            for (const std::string_view name : all_names<falloff_kind>()) {
                if (ImGui::Selectable(std::string(name).c_str(), name == law)) {
                    std::vector<live::edit> edits{live::set_text(at + "falloff", std::string(name))};
                    edits.push_back(name == "linear" || name == "windowed"
                                        ? live::set_number(at + "range", std::max(lamp.light.range, 5.0))
                                        : live::edit{at + "range", ""});
                    edits.push_back(name == "polynomial"
                                        ? live::set_numbers(at + "coefficients", {1, 0.1, 0.2})
                                        : live::edit{at + "coefficients", ""});
                    on_.edited().apply_all(edits);
                }
            }
            ImGui::EndCombo();
        }
        if (law == "linear" || law == "windowed") {
            number("range", at + "range", lamp.light.range, 0.1, 30);
        }
        if (law == "polynomial") {
            const std::array<double, 3>& k = lamp.light.coefficients;
            triple("coefficients", at + "coefficients", {k[0], k[1], k[2]}, 0.005F);
        }
    }
    if (lamp.light.kind == light_kind::spot) {
        const bool has_inner =
            lamp.light.penumbra != penumbra_kind::hard && lamp.light.penumbra != penumbra_kind::power;
        if (has_inner) {
            number("inner", at + "inner", degrees(lamp.light.inner), 0, degrees(lamp.light.outer));
        }
        number("outer", at + "outer", degrees(lamp.light.outer),
               has_inner ? std::max(1.0, degrees(lamp.light.inner)) : 1.0, 90);
    }
    if (ImGui::TreeNode("parts")) {
        color("ambient", at + "ambient", lamp.light.ambient);
        color("diffuse", at + "diffuse", lamp.light.diffuse);
        color("specular", at + "specular", lamp.light.specular);
        ImGui::TreePop();
    }
    curves_of(i);
    if (ImGui::Button("remove")) {
        on_.edited().apply({"lights[" + std::to_string(i) + "]", ""});
        on_.choose_light(std::nullopt);
    }
    ImGui::PopID();
}

void window::lights_panel() {
    for (std::size_t i = 0; i < on_.edited().shown().lights.size(); ++i) {
        const named_light& lamp = on_.edited().shown().lights[i];
        const std::string label =
            label_of(lamp, i) + "   " + std::string(name_of(lamp.light.kind)) + "##" + std::to_string(i);
        const bool open = on_.chosen_light() == i;
        if (ImGui::Selectable(label.c_str(), open)) {
            on_.choose_light(open ? std::nullopt : std::optional<std::size_t>(i));
        }
        if (open) {
            ImGui::Indent(px(10));
            one_light(i);
            ImGui::Unindent(px(10));
            ImGui::Separator();
        }
    }
    ImGui::Spacing();
    const view of = on_.edited().shown().view;
    const std::size_t next = on_.edited().shown().lights.size();
    const auto add = [&](const std::string& body) {
        if (on_.edited().apply({"lights[]", body})) {
            on_.choose_light(next);
        }
    };
    const std::string place = toml_numbers({of.target.x, of.target.y + 1.5, of.target.z + 0.5});
    if (ImGui::Button("+ lamp")) {
        add("kind = \"point\"\nposition = " + place + "\ncolor = [1.0, 0.8, 0.55]\nintensity = 3.0\n");
    }
    ImGui::SameLine();
    if (ImGui::Button("+ spot")) {
        add("kind = \"spot\"\nposition = " + toml_numbers({of.target.x, of.target.y + 4, of.target.z + 2}) +
            "\nshines = [0.0, -2.0, -1.0]\ninner = 12.0\nouter = 20.0\nintensity = 20.0\n");
    }
    ImGui::SameLine();
    if (ImGui::Button("+ moon")) {
        add("kind = \"directional\"\nshines = [-0.4, -1.0, -0.5]\ncolor = [0.6, 0.7, 1.0]\nintensity = "
            "0.5\n");
    }
}

void window::scene_panel() {
    heading("ambient light");
    color("color", "ambient.color", on_.edited().shown().ambient_color);
    number("strength", "ambient.strength", on_.edited().shown().ambient_strength, 0, 1);
    heading("view");
    triple("eye", "view.eye", on_.edited().shown().view.eye, 0.02F);
    triple("target", "view.target", on_.edited().shown().view.target, 0.02F);
    number("fov", "view.fov", degrees(on_.edited().shown().view.fov), 10, 100);
    color("background", "view.background", on_.edited().shown().view.background);
    heading("what is shown");
    if (choice("light", !on_.part(), dark_)) {
        on_.set_part(std::nullopt);
    }
    for (const std::string_view name : all_names<study::shown_part>()) {
        ImGui::SameLine(0, px(4));
        const bool is = on_.part() && name_of(*on_.part()) == name;
        if (choice(std::string(name).c_str(), is, dark_)) {
            on_.set_part(from_name<study::shown_part>(name));
        }
    }
    heading("beside the picture");
    beside_choice();
    heading("what a frame costs");
    costs();
}

void window::beside_choice() {
    using enum live::beside_kind;
    const auto one = [&](const char* label, live::beside_kind kind) {
        if (choice(label, on_.beside() == kind, dark_)) {
            on_.set_beside(on_.beside() == kind ? nothing : kind);
        }
    };
    one("face", face);
    ImGui::SameLine(0, px(4));
    one("vertex", vertex);
    ImGui::SameLine(0, px(4));
    one("fragment", fragment);
    if (!on_.verified().program.empty() || !on_.verified().picture.empty()) {
        ImGui::SameLine(0, px(4));
        one(on_.verified().program.empty() ? "the picture" : "the shader", live::beside_kind::subject);
    }
    ImGui::SetNextItemWidth(-px(120));
    const std::string label =
        on_.beside() == mistake ? "mistake: " + on_.mistake_beside() : std::string("a mistake ...");
    if (ImGui::BeginCombo("##mistake", label.c_str(), ImGuiComboFlags_HeightLarge)) {
        for (const verify::mistake_entry& each : verify::all_mistakes()) {
            if (verify::applies(each.which, on_.edited().shown()) && !verify::is_of_codes(each.which) &&
                ImGui::Selectable(std::string(each.id).c_str(), on_.mistake_beside() == each.id)) {
                on_.set_beside(mistake, std::string(each.id));
            }
        }
        ImGui::EndCombo();
    }
    ImGui::SameLine();
    bool difference = on_.difference();
    if (ImGui::Checkbox("difference", &difference)) {
        on_.set_difference(difference);
    }
}

void window::one_object(std::size_t i) {
    const object one = on_.edited().shown().objects[i];
    const std::string at = object_place(i);
    ImGui::PushID(static_cast<int>(i));
    triple("position", at + "position", one.placed.position, 0.01F);
    const vec3<double>& turned = one.placed.rotation;
    triple("rotation", at + "rotation", {degrees(turned.x), degrees(turned.y), degrees(turned.z)}, 0.5F);
    triple("scale", at + "scale", one.placed.scale, 0.01F);
    const auto combo = [&](const char* key, const std::string& now, const std::vector<std::string>& names) {
        ImGui::SetNextItemWidth(-px(120));
        if (ImGui::BeginCombo(key, now.c_str())) {
            for (const std::string& name : names) {
                if (ImGui::Selectable(name.c_str(), name == now)) {
                    on_.edited().apply(live::set_text(at + key, name));
                }
            }
            ImGui::EndCombo();
        }
    };
    std::vector<std::string> materials;
    for (const named_material& each : on_.edited().shown().materials) {
        if (!each.from_mesh) {
            materials.push_back(each.name);
        }
    }
    combo("material", on_.edited().shown().materials[one.material].name, materials);
    const auto kinds = all_names<normals_kind>();
    combo("normals", std::string(name_of(one.normals)), {kinds.begin(), kinds.end()});
    ImGui::PopID();
}

void window::objects_panel() {
    words("Click an object in the picture, or here. It is dragged by its square as lamps are, and turned by "
          "its "
          "ring.",
          colors(dark_).faint);
    for (std::size_t i = 0; i < on_.edited().shown().objects.size(); ++i) {
        const std::string label = label_of(on_.edited().shown().objects[i], i) + "##" + std::to_string(i);
        const bool open = on_.chosen_object() == i;
        if (ImGui::Selectable(label.c_str(), open)) {
            on_.choose_object(open ? std::nullopt : std::optional<std::size_t>(i));
        }
        if (open) {
            ImGui::Indent(px(10));
            one_object(i);
            ImGui::Unindent(px(10));
            ImGui::Separator();
        }
    }
    heading("materials");
    materials();
}

void window::materials() {
    for (std::size_t i = 0; i < on_.edited().shown().materials.size(); ++i) {
        const named_material entry = on_.edited().shown().materials[i];
        if (entry.from_mesh || !ImGui::TreeNode(entry.name.c_str())) {
            continue;
        }
        const bool bare = entry.name.find_first_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
                                                       "0123456789_-") == std::string::npos;
        const std::string at = "materials." + (bare ? entry.name : "\"" + entry.name + "\"") + ".";
        color("base", at + "base", entry.look.base);
        color("ambient", at + "ambient", entry.look.ambient);
        color("diffuse", at + "diffuse", entry.look.diffuse);
        color("specular", at + "specular", entry.look.specular);
        number("shininess", at + "shininess", entry.look.shininess, 1, 512, true);
        color("emission", at + "emission", entry.look.emission);
        ImGui::TreePop();
    }
}

void window::formulas_panel() {
    const scene shown = on_.edited().shown();
    words("An expression in the place of a part of the model. What does not parse is told below and changes "
          "nothing; an empty line is the model's own.",
          colors(dark_).faint);
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        const std::string name(each.name);
        std::array<char, 1024> text{};
        const std::string& now = shown.formulas[each.which];
        std::memcpy(text.data(), now.data(), std::min(now.size(), text.size() - 1));
        ImGui::SetNextItemWidth(-px(80));
        if (ImGui::InputText(name.c_str(), text.data(), text.size())) {
            const std::string typed = text.data();
            on_.edited().apply(typed.empty() ? live::edit{"formulas." + name, ""}
                                             : live::set_text("formulas." + name, typed));
        }
        step_of_item();
    }
    if (!shown.numbers.empty()) {
        heading("numbers");
        for (const formulas::named_number& each : shown.numbers) {
            const std::string place = "numbers." + each.name;
            if (each.values.size() == 1) {
                number(each.name.c_str(), place, each.values[0], 0, std::max(1.0, 2 * each.values[0]));
            } else if (each.values.size() == 3) {
                color(each.name.c_str(), place, {each.values[0], each.values[1], each.values[2]});
            }
        }
    }
}

} // namespace yurvo::app
