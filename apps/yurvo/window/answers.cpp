// What the panels at the window's side answer: a pixel worked by hand, the verdict, a light's curves, costs.
#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <imgui.h>

#include "window/painting.hpp"
#include "window/window.hpp"
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
    if (parts[1].empty()) { // what belongs to the line above
        ImGui::Indent(px(84));
        words(parts[0], all.faint);
        ImGui::Unindent(px(84));
        return;
    }
    ImGui::TextColored(all.faint, "%s", parts[0].c_str());
    ImGui::SameLine(px(84));
    ImGui::BeginGroup();
    words(parts[1], all.text);
    if (!parts[2].empty()) {
        words(parts[2], all.faint);
    }
    ImGui::EndGroup();
}

} // namespace

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
    words(found->scene_name + ": " + found->line, found->what == right     ? all.good
                                                  : found->what == mistake ? all.bad
                                                                           : all.accent);
    if (on_.judging()) {
        words("looking again ...", all.faint);
    }
    if (found->what == right && found->used > 0) {
        words(fmt::format("At most {:.0f} % of the tolerance is used.", 100 * found->used), all.text);
    }
    mistakes_of(*found);
    makeup_of(*found);
    if (!found->fits.empty() && ImGui::TreeNode("fitted to what it claims")) {
        for (const std::string& each : found->fits) {
            words(each, all.faint);
        }
        ImGui::TreePop();
    }
    all_scenes();
}

// Their cause and their fix, and how much is off.
void window::mistakes_of(const live::verdict& found) {
    const palette& all = colors(dark_);
    for (const std::string& id : found.ids) {
        if (const verify::mistake_entry* entry = verify::find_mistake(id)) {
            heading(id.c_str());
            words(std::string(entry->what), all.text);
            words("Cause: " + std::string(entry->cause), all.faint);
            words("Fix: " + std::string(entry->fix), all.accent);
        }
    }
    if (found.what == live::finding::mistake || found.what == live::finding::unknown) {
        words(fmt::format("{} of {} compared pixels are off.", found.diagnosis.off, found.diagnosis.compared),
              all.text);
    }
}

void window::makeup_of(const live::verdict& found) {
    if (found.diagnosis.makeup.empty()) {
        return;
    }
    const palette& all = colors(dark_);
    heading("make-up: 1 in a right picture");
    for (const verify::makeup_part& part : found.diagnosis.makeup) {
        const std::string label = (part.light.empty() ? "" : part.light + ", ") + part.term;
        ImGui::Text("%6.2f", part.factor);
        ImGui::SameLine(px(62));
        const ImVec2 from = ImGui::GetCursorScreenPos();
        const float high = ImGui::GetTextLineHeight();
        const float whole = px(90); // twice what is right
        const auto share = static_cast<float>(std::clamp(part.factor / 2, 0.0, 1.0));
        ImDrawList* draw = ImGui::GetWindowDrawList();
        const bool as_it_should = std::abs(part.factor - 1) < 0.02;
        draw->AddRectFilled(from, {from.x + whole, from.y + high}, ImGui::GetColorU32(all.field), px(3));
        draw->AddRectFilled(from, {from.x + share * whole, from.y + high},
                            ImGui::GetColorU32(as_it_should ? all.good : all.accent), px(3));
        draw->AddLine({from.x + whole / 2, from.y - px(2)}, {from.x + whole / 2, from.y + high + px(2)},
                      ImGui::GetColorU32(all.text));
        ImGui::Dummy({whole, high});
        ImGui::SameLine(px(164));
        ImGui::TextUnformatted(label.c_str());
    }
}

// What the other scenes say of a program, as they come.
void window::all_scenes() {
    const palette& all = colors(dark_);
    const live::round_state* round = on_.all_scenes();
    if (round == nullptr) {
        return;
    }
    heading("all reference scenes");
    if (round->ended) {
        words(round->verdict.line, round->verdict.what == live::finding::right     ? all.good
                                   : round->verdict.what == live::finding::mistake ? all.bad
                                                                                   : all.accent);
        words(fmt::format("{} mistakes that such a program could hold would have shown.", round->shown),
              all.faint);
    } else {
        const float done = static_cast<float>(round->scenes.size()) / static_cast<float>(round->all);
        ImGui::ProgressBar(done, {-1, px(18)},
                           fmt::format("{} of {}", round->scenes.size(), round->all).c_str());
    }
    if (!round->unseen.empty()) {
        words(fmt::format("No scene that it can draw would show {}.", fmt::join(round->unseen, ", ")),
              all.accent);
    }
    const auto lines = [&](bool passed) {
        for (const live::round_line& each : round->scenes) {
            if (each.passed != passed) {
                continue;
            }
            ImGui::TextColored(passed ? all.good : all.bad, "%s", passed ? "right" : "wrong");
            ImGui::SameLine(px(62));
            const std::string said = passed ? fmt::format("{:.0f} %", 100 * each.used)
                                            : fmt::format("{}", fmt::join(each.ids, " or "));
            words(each.scene + "   " + said, passed ? all.faint : all.text);
        }
    };
    lines(false); // the worst first
    lines(true);
}

// Falloff over distance and penumbra over angle, as `curves` plots them.
void window::curves_of(std::size_t light) {
    if (curves_revision_ != on_.edited().revision() || curves_light_ != light) {
        curves_ = on_.curves_of(light);
        curves_revision_ = on_.edited().revision();
        curves_light_ = light;
    }
    const auto plot = [&](const std::vector<study::law_curve>& laws, double widest, const char* unit) {
        if (laws.empty() || laws.front().points.empty()) {
            return;
        }
        const palette& all = colors(dark_);
        words(laws.front().law, all.faint);
        const ImVec2 low = ImGui::GetCursorScreenPos();
        const ImVec2 size{ImGui::GetContentRegionAvail().x, px(84)};
        ImGui::Dummy(size);
        ImDrawList* draw = ImGui::GetWindowDrawList();
        draw->AddRectFilled(low, {low.x + size.x, low.y + size.y}, ImGui::GetColorU32(all.field), px(4));
        constexpr double most = 1.25; // a factor that is drawn; what is brighter leaves at the top
        const auto at = [&](double x, double factor) {
            return ImVec2{low.x + static_cast<float>(x / widest) * size.x,
                          low.y + size.y * static_cast<float>(1 - std::clamp(factor, 0.0, most) / most)};
        };
        draw->AddLine(at(0, 1), at(widest, 1), ImGui::GetColorU32(all.line), 1);
        std::vector<ImVec2> line;
        for (const auto& [x, factor] : laws.front().points) {
            if (x <= widest) {
                line.push_back(at(x, factor));
            }
        }
        draw->AddPolyline(line.data(), static_cast<int>(line.size()), ImGui::GetColorU32(all.accent), 0,
                          px(2));
        const std::string end = fmt::format("{:.3g} {}", widest, unit);
        const ImVec2 text = ImGui::CalcTextSize(end.c_str());
        draw->AddText({low.x + size.x - text.x - px(6), low.y + size.y - text.y - px(3)},
                      ImGui::GetColorU32(all.faint), end.c_str());
        draw->AddText({low.x + px(4), at(0, 1).y + px(1)}, ImGui::GetColorU32(all.faint), "1");
    };
    plot(curves_.falloffs, curves_.farthest, "m");
    plot(curves_.penumbras, curves_.widest, "degrees");
}

// Of each rate, in the size of the picture; measured again when something has changed.
void window::costs() {
    const palette& all = colors(dark_);
    if (!on_.costs_fault().empty()) {
        words(on_.costs_fault(), all.faint);
        return;
    }
    const study::cost* cost = on_.costs();
    if (cost == nullptr) {
        words("It is measured once nothing changes for a moment.", all.faint);
        return;
    }
    double most = 0;
    for (const study::rate_cost& each : cost->rates) {
        most = std::max(most, each.median);
    }
    for (const study::rate_cost& each : cost->rates) {
        ImGui::TextUnformatted(std::string(name_of(each.at)).c_str());
        ImGui::SameLine(px(84));
        const ImVec2 from = ImGui::GetCursorScreenPos();
        const float high = ImGui::GetTextLineHeight();
        const float wide = px(170) * static_cast<float>(each.median / most);
        ImDrawList* draw = ImGui::GetWindowDrawList();
        draw->AddRectFilled({from.x, from.y + px(2)}, {from.x + wide, from.y + high - px(2)},
                            ImGui::GetColorU32(all.accent), px(3));
        ImGui::Dummy({px(170), high});
        ImGui::SameLine();
        ImGui::Text("%.1f ms", each.median);
    }
    for (const std::string& each : cost->advice) {
        words(each, all.faint);
    }
}

} // namespace yurvo::app
