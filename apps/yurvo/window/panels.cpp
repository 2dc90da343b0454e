// The panels at the window's side: what can be seen and changed of lights, scene, materials, formulas; a
// pixel; the verdict.
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

// A line of an explanation: `  name   value   what it comes from`, the last below the value.
void worked_line(const std::string& line, const palette& all) {
    if (line.empty()) {
        return;
    }
    if (line[0] != ' ') {
        heading(line.c_str());
        return;
    }
    std::array<std::string, 3> parts;
    std::size_t at = line.find_first_not_of(' ');
    for (std::size_t i = 0; i < parts.size() && at != std::string::npos; ++i) {
        const std::size_t gap = i + 1 < parts.size() ? line.find("  ", at) : std::string::npos;
        parts[i] = line.substr(at, gap == std::string::npos ? gap : gap - at);
        at = gap == std::string::npos ? gap : line.find_first_not_of(' ', gap);
    }
    ImGui::TextColored(all.faint, "%s", parts[0].c_str());
    ImGui::SameLine(84);
    ImGui::BeginGroup();
    words(parts[1], all.text);
    if (!parts[2].empty()) {
        words(parts[2], all.faint);
    }
    ImGui::EndGroup();
}

std::string light_place(std::size_t i) { return "lights[" + std::to_string(i) + "]."; }

double degrees_of(double angle) { return angle * 180 / pi; }

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
    ImGui::SetNextItemWidth(-120);
    if (ImGui::SliderFloat(label, &value, static_cast<float>(low), static_cast<float>(high), "%.3g",
                           curved ? ImGuiSliderFlags_Logarithmic : ImGuiSliderFlags_None)) {
        on_.edited().apply(live::set_number(place, std::stod(fmt::format("{:.4g}", value))));
    }
    step_of_item();
}

void window::color(const char* label, const std::string& place, const yurvo::rgb<double>& is) {
    std::array<float, 3> value{static_cast<float>(is.r), static_cast<float>(is.g), static_cast<float>(is.b)};
    ImGui::SetNextItemWidth(-120);
    if (ImGui::ColorEdit3(label, value.data(), ImGuiColorEditFlags_Float | ImGuiColorEditFlags_HDR)) {
        const auto kept = [](float x) { return std::stod(fmt::format("{:.4g}", std::max(0.0F, x))); };
        on_.edited().apply(live::set_numbers(place, {kept(value[0]), kept(value[1]), kept(value[2])}));
    }
    step_of_item();
}

void window::triple(const char* label, const std::string& place, const vec3<double>& is, float speed) {
    std::array<float, 3> value{static_cast<float>(is.x), static_cast<float>(is.y), static_cast<float>(is.z)};
    ImGui::SetNextItemWidth(-120);
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
        ImGui::SetNextItemWidth(-120);
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
            number("inner", at + "inner", degrees_of(lamp.light.inner), 0, degrees_of(lamp.light.outer));
        }
        number("outer", at + "outer", degrees_of(lamp.light.outer),
               has_inner ? std::max(1.0, degrees_of(lamp.light.inner)) : 1.0, 90);
    }
    if (ImGui::TreeNode("parts")) {
        color("ambient", at + "ambient", lamp.light.ambient);
        color("diffuse", at + "diffuse", lamp.light.diffuse);
        color("specular", at + "specular", lamp.light.specular);
        ImGui::TreePop();
    }
    if (ImGui::Button("remove")) {
        on_.edited().apply({"lights[" + std::to_string(i) + "]", ""});
        chosen_.reset();
    }
    ImGui::PopID();
}

void window::lights_panel() {
    for (std::size_t i = 0; i < on_.edited().shown().lights.size(); ++i) {
        const named_light& lamp = on_.edited().shown().lights[i];
        const std::string label =
            label_of(lamp, i) + "   " + std::string(name_of(lamp.light.kind)) + "##" + std::to_string(i);
        const bool open = chosen_ == i;
        if (ImGui::Selectable(label.c_str(), open)) {
            chosen_ = open ? std::nullopt : std::optional<std::size_t>(i);
        }
        if (open) {
            ImGui::Indent(10);
            one_light(i);
            ImGui::Unindent(10);
            ImGui::Separator();
        }
    }
    ImGui::Spacing();
    const view of = on_.edited().shown().view;
    const std::size_t next = on_.edited().shown().lights.size();
    const auto add = [&](const std::string& body) {
        if (on_.edited().apply({"lights[]", body})) {
            chosen_ = next;
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
    number("fov", "view.fov", degrees_of(on_.edited().shown().view.fov), 10, 100);
    color("background", "view.background", on_.edited().shown().view.background);
    heading("beside the picture");
    using enum live::beside_kind;
    const auto one = [&](const char* label, live::beside_kind kind) {
        if (choice(label, on_.beside() == kind, dark_)) {
            on_.set_beside(on_.beside() == kind ? nothing : kind);
        }
    };
    one("face", face);
    ImGui::SameLine();
    one("vertex", vertex);
    ImGui::SameLine();
    one("fragment", fragment);
    if (!on_.verified().program.empty() || !on_.verified().picture.empty()) {
        ImGui::SameLine();
        one(on_.verified().program.empty() ? "the picture" : "the shader", live::beside_kind::subject);
    }
    ImGui::SetNextItemWidth(-1);
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
    if (on_.beside() != nothing) {
        if (const live::screen_picture* other = on_.picture_beside()) {
            words(fmt::format("The picture took {:.1f} ms, what stands beside it {:.1f} ms.",
                              on_.picture().draw_milliseconds, other->draw_milliseconds),
                  colors(dark_).faint);
        }
    }
}

void window::materials_panel() {
    for (std::size_t i = 0; i < on_.edited().shown().materials.size(); ++i) {
        const named_material entry = on_.edited().shown().materials[i];
        if (entry.from_mesh ||
            !ImGui::TreeNodeEx(entry.name.c_str(), i == 0 ? ImGuiTreeNodeFlags_DefaultOpen : 0)) {
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
        ImGui::SetNextItemWidth(-80);
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

void window::pixel_panel() {
    if (pinned_[0] < 0) {
        words("Click a pixel: its colour is worked here by hand, from the normal to the encoded bytes.",
              colors(dark_).faint);
        return;
    }
    if (pinned_revision_ != on_.edited().revision()) {
        pinned_text_ = on_.explanation_text(pinned_[0], pinned_[1]);
        pinned_revision_ = on_.edited().revision();
    }
    if (pinned_text_.empty()) {
        words("Outside of the picture.", colors(dark_).faint);
        return;
    }
    for (std::size_t at = 0; at < pinned_text_.size();) {
        const std::size_t end = std::min(pinned_text_.find('\n', at), pinned_text_.size());
        worked_line(pinned_text_.substr(at, end - at), colors(dark_));
        at = end + 1;
    }
}

void window::verdict_panel() {
    const palette& all = colors(dark_);
    const live::subject& of = on_.verified();
    if (of.program.empty() && of.picture.empty()) {
        words("Nothing is verified. `yurvo view SCENE --program FILE` holds a shader of yours to this scene, "
              "`--picture FILE` a picture, and tells which mistake it holds at every save.",
              all.faint);
        return;
    }
    words(of.program.empty() ? of.picture : of.program, all.faint);
    const live::verdict* found = on_.judged();
    if (found == nullptr) {
        words("looking ...", all.faint);
        return;
    }
    using enum live::finding;
    words(found->line, found->what == right ? all.good : found->what == mistake ? all.bad : all.accent);
    if (on_.judging()) {
        words("looking again ...", all.faint);
    }
    if (found->what == right && found->used > 0) {
        words(fmt::format("At most {:.0f} % of the tolerance is used.", 100 * found->used), all.text);
        words("On this scene, at this moment. `yurvo check --program FILE` asks all scenes.", all.faint);
    }
    for (const std::string& id : found->ids) {
        if (const verify::mistake_entry* entry = verify::find_mistake(id)) {
            heading(id.c_str());
            words(std::string(entry->what), all.text);
            words("Cause: " + std::string(entry->cause), all.faint);
            words("Fix: " + std::string(entry->fix), all.accent);
        }
    }
    if (found->what == mistake || found->what == unknown) {
        words(
            fmt::format("{} of {} compared pixels are off.", found->diagnosis.off, found->diagnosis.compared),
            all.text);
    }
    if (!found->diagnosis.makeup.empty()) {
        heading("make-up: 1 in a right picture");
        for (const verify::makeup_part& part : found->diagnosis.makeup) {
            const std::string label = (part.light.empty() ? "" : part.light + ", ") + part.term;
            ImGui::Text("%6.2f", part.factor);
            ImGui::SameLine(62);
            const ImVec2 from = ImGui::GetCursorScreenPos();
            const float high = ImGui::GetTextLineHeight();
            const float whole = 90; // twice what is right
            const auto share = static_cast<float>(std::clamp(part.factor / 2, 0.0, 1.0));
            ImDrawList* draw = ImGui::GetWindowDrawList();
            const bool as_it_should = std::abs(part.factor - 1) < 0.02;
            draw->AddRectFilled(from, {from.x + whole, from.y + high}, ImGui::GetColorU32(all.field), 3);
            draw->AddRectFilled(from, {from.x + share * whole, from.y + high},
                                ImGui::GetColorU32(as_it_should ? all.good : all.accent), 3);
            draw->AddLine({from.x + whole / 2, from.y - 2}, {from.x + whole / 2, from.y + high + 2},
                          ImGui::GetColorU32(all.text));
            ImGui::Dummy({whole, high});
            ImGui::SameLine(164);
            ImGui::TextUnformatted(label.c_str());
        }
    }
    if (!found->fits.empty() && ImGui::TreeNode("fitted to what it claims")) {
        for (const std::string& each : found->fits) {
            words(each, all.faint);
        }
        ImGui::TreePop();
    }
}

} // namespace yurvo::app
