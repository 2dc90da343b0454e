// The picture in the window: what the mouse does in it, what can be taken, and what stands beside it.
#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <imgui.h>

#include "window/painting.hpp"
#include "window/window.hpp"

namespace yurvo::app {

namespace {

constexpr ImU32 shade = IM_COL32(8, 12, 20, 190);
constexpr ImU32 white = IM_COL32(240, 244, 250, 255);
constexpr double near_enough = 14; // points, from a handle

ImU32 accent() { return ImGui::GetColorU32(colors(true).accent); } // on a picture, whatever the theme

// Text that can be read on any picture.
void label_on_picture(ImDrawList& draw, const ImVec2& at, const std::string& text) {
    draw.AddText({at.x + 1, at.y + 1}, shade, text.c_str());
    draw.AddText(at, white, text.c_str());
}

void arrow(ImDrawList& draw, const ImVec2& from, const ImVec2& to, ImU32 color) {
    const float dx = to.x - from.x;
    const float dy = to.y - from.y;
    const float far = std::hypot(dx, dy);
    draw.AddLine(from, to, shade, px(4));
    draw.AddLine(from, to, color, px(2));
    if (far > px(12)) {
        const ImVec2 along{dx / far * px(9), dy / far * px(9)};
        const ImVec2 across{-along.y * 0.5F, along.x * 0.5F};
        draw.AddTriangleFilled(to, {to.x - along.x + across.x, to.y - along.y + across.y},
                               {to.x - along.x - across.x, to.y - along.y - across.y}, color);
    }
}

} // namespace

std::array<double, 2> window::pixel_at(float x, float y) const {
    const live::screen_picture& shown = on_.picture();
    return {static_cast<double>((x - area_.left) / area_.width) * shown.width,
            static_cast<double>((y - area_.top) / area_.height) * shown.height};
}

std::array<float, 2> window::point_at(double x, double y) const {
    const live::screen_picture& shown = on_.picture();
    return {area_.left + static_cast<float>(x / shown.width) * area_.width,
            area_.top + static_cast<float>(y / shown.height) * area_.height};
}

void window::mouse_on_picture() {
    const ImGuiIO& io = ImGui::GetIO();
    const auto [x, y] = pixel_at(io.MousePos.x, io.MousePos.y);
    const bool over = ImGui::IsItemHovered();
    const bool beside = on_.beside() != live::beside_kind::nothing;
    if (over && ImGui::IsMouseClicked(ImGuiMouseButton_Left)) {
        pressed_ = true;
        moved_ = false;
        wiping_ = beside && std::abs(io.MousePos.x - area_.left - wipe_ * area_.width) < px(10);
        if (!wiping_) {
            dragged_ = live::handle_at(on_.handles(), x, y, near_enough * scale_ * density_);
            if (dragged_ && on_.hold(*dragged_, x, y) && dragged_->kind <= live::handle_kind::cone_border) {
                on_.choose_light(dragged_->index);
            }
            on_.edited().begin_step();
        }
    }
    if (over &&
        (ImGui::IsMouseClicked(ImGuiMouseButton_Right) || ImGui::IsMouseClicked(ImGuiMouseButton_Middle))) {
        on_.edited().begin_step();
    }
    if (pressed_ && ImGui::IsMouseDown(ImGuiMouseButton_Left)) {
        const bool moving = io.MouseDelta.x != 0 || io.MouseDelta.y != 0;
        moved_ = moved_ || ImGui::IsMouseDragging(ImGuiMouseButton_Left, 3);
        if (wiping_) {
            wipe_ = std::clamp((io.MousePos.x - area_.left) / area_.width, 0.0F, 1.0F);
        } else if (moving && moved_ && dragged_) {
            on_.drag_held(x, y,
                          io.KeyShift  ? live::drag_along::height
                          : io.KeyCtrl ? live::drag_along::view
                                       : live::drag_along::ground);
        } else if (moving && moved_) {
            on_.orbit(-0.006 * io.MouseDelta.x / scale_, 0.006 * io.MouseDelta.y / scale_);
        }
    }
    if (pressed_ && ImGui::IsMouseReleased(ImGuiMouseButton_Left)) {
        if (!moved_ && !wiping_ && !dragged_) {
            pin(static_cast<int>(x), static_cast<int>(y));
            if (panel_ == panel::objects) {
                const std::optional<verify::explanation> there = on_.explain(pinned_[0], pinned_[1]);
                on_.choose_object(there ? there->object : std::nullopt);
            } else {
                panel_ = panel::pixel;
                switch_panel_ = true;
            }
        }
        pressed_ = wiping_ = false;
        dragged_.reset();
        on_.edited().end_step();
    }
    const bool panning = ImGui::IsMouseDragging(ImGuiMouseButton_Right, 0) ||
                         ImGui::IsMouseDragging(ImGuiMouseButton_Middle, 0);
    if (over && panning && (io.MouseDelta.x != 0 || io.MouseDelta.y != 0)) {
        on_.pan(static_cast<double>(io.MouseDelta.x * density_),
                static_cast<double>(io.MouseDelta.y * density_));
    }
    if (ImGui::IsMouseReleased(ImGuiMouseButton_Right) || ImGui::IsMouseReleased(ImGuiMouseButton_Middle)) {
        on_.edited().end_step();
    }
    if (over && io.MouseWheel != 0) {
        on_.zoom(std::pow(0.9, io.MouseWheel));
    }
}

void window::pin(int x, int y) {
    pinned_ = {x, y};
    pinned_revision_ = 0;
}

void window::wipe_line(float x) {
    ImDrawList* draw = ImGui::GetWindowDrawList();
    const ImU32 ink = ImGui::GetColorU32(hex_color(0x10151F));
    draw->AddLine({x, area_.top}, {x, area_.bottom()}, accent(), px(2));
    const float middle = area_.top + area_.height / 2;
    draw->AddCircleFilled({x, middle}, px(11), accent());
    for (const float side : {-1.0F, 1.0F}) {
        draw->AddTriangleFilled({x + side * px(3), middle - px(4)}, {x + side * px(3), middle + px(4)},
                                {x + side * px(8), middle}, ink);
    }
}

// What a side of the wipe line shows, at its top.
void window::side_label(const std::string& name, float at, bool left) const {
    const ImVec2 size = ImGui::CalcTextSize(name.c_str());
    const float from = left ? at - size.x - px(16) : at;
    const float top = area_.top + px(12);
    ImDrawList* draw = ImGui::GetWindowDrawList();
    draw->AddRectFilled({from, top}, {from + size.x + px(16), top + size.y + px(10)}, shade, px(5));
    draw->AddText({from + px(8), top + px(5)}, white, name.c_str());
}

void window::one_handle(const live::handle& each) {
    using enum live::handle_kind;
    ImDrawList* draw = ImGui::GetWindowDrawList();
    const auto [x, y] = point_at(each.x, each.y);
    const auto [from_x, from_y] = point_at(each.from_x, each.from_y);
    const ImVec2 at{x, y};
    const ImVec2 from{from_x, from_y};
    const scene& shown = on_.edited().shown();
    const auto color_of_light = [&] {
        const auto kept = [](double part) { return static_cast<float>(std::clamp(part, 0.15, 1.0)); };
        const rgb<double>& color = shown.lights[each.index].light.color;
        return ImGui::GetColorU32({kept(color.r), kept(color.g), kept(color.b), 1});
    };
    const auto circle = [&] { // through the handle
        std::vector<ImVec2> line;
        for (const auto& [circle_x, circle_y] : on_.circle(each)) {
            const auto [a, b] = point_at(circle_x, circle_y);
            line.emplace_back(a, b);
        }
        draw->AddPolyline(line.data(), static_cast<int>(line.size()), shade, 0, px(3));
        draw->AddPolyline(line.data(), static_cast<int>(line.size()), accent(), 0, px(1.5F));
    };
    const auto knob = [&] {
        draw->AddCircleFilled(at, px(6), shade);
        draw->AddCircleFilled(at, px(4.5F), accent());
    };
    std::string label;
    bool chosen = false;
    switch (each.kind) {
    case light_place:
        chosen = on_.chosen_light() == each.index;
        label = label_of(shown.lights[each.index], each.index);
        draw->AddCircleFilled(at, px(chosen ? 8 : 6), color_of_light());
        draw->AddCircle(at, px(chosen ? 11 : 7), shade, 0, px(2));
        break;
    case light_direction:
        if (shown.lights[each.index].light.kind == light_kind::spot) {
            arrow(*draw, from, at, accent());
            knob();
            return;
        }
        chosen = on_.chosen_light() == each.index;
        label = label_of(shown.lights[each.index], each.index);
        arrow(*draw, at, from, color_of_light());
        draw->AddCircleFilled(at, px(8), shade);
        draw->AddCircleFilled(at, px(6), color_of_light());
        for (int i = 0; i < 8; ++i) { // it is far away, and shines from there
            const float angle = static_cast<float>(pi) * static_cast<float>(i) / 4;
            const ImVec2 out{std::cos(angle), std::sin(angle)};
            draw->AddLine({at.x + out.x * px(9), at.y + out.y * px(9)},
                          {at.x + out.x * px(13), at.y + out.y * px(13)}, color_of_light(), px(1.5F));
        }
        break;
    case cone_border:
    case object_turn:
        circle();
        knob();
        return;
    case object_place:
        label = label_of(shown.objects[each.index], each.index);
        draw->AddRectFilled({at.x - px(7), at.y - px(7)}, {at.x + px(7), at.y + px(7)}, shade, px(2));
        draw->AddRectFilled({at.x - px(5), at.y - px(5)}, {at.x + px(5), at.y + px(5)}, accent(), px(2));
        break;
    }
    if (chosen) {
        draw->AddCircle(at, px(15), accent(), 0, px(2));
    }
    const float wide = ImGui::CalcTextSize(label.c_str()).x;
    const float gap = px(chosen || each.kind == light_direction ? 19 : 14);
    const bool right = at.x + gap + wide <= area_.right();
    const bool arrow_beside = chosen && shown.lights[each.index].light.kind == light_kind::spot;
    label_on_picture(*draw, {right ? at.x + gap : at.x - gap - wide, at.y - px(arrow_beside ? 32 : 10)},
                     label);
}

void window::handles() {
    for (const live::handle& each : on_.handles()) {
        if (each.in_front) {
            one_handle(each);
        }
    }
}

void window::hint() const {
    const char* text =
        "Drag a lamp along the ground; with Shift up and down.\n"
        "Drag elsewhere to walk around, wheel to come nearer, click a pixel to work it by hand.";
    const float most = area_.width - px(56);
    const ImVec2 size = ImGui::CalcTextSize(text, nullptr, false, most);
    const ImVec2 from{area_.left + px(16), area_.bottom() - size.y - px(30)};
    ImDrawList* draw = ImGui::GetWindowDrawList();
    draw->AddRectFilled(from, {from.x + size.x + px(24), from.y + size.y + px(16)}, shade, px(6));
    draw->AddText(nullptr, 0, {from.x + px(12), from.y + px(8)}, white, text, nullptr, most);
}

void window::picture_area(const box& in, shown_texture main, shown_texture beside) {
    ImGui::PushStyleVar(ImGuiStyleVar_WindowPadding, {0, 0});
    begin_bar("picture", in);
    ImGui::PopStyleVar();
    ImGui::SetCursorPos({area_.left - in.left, area_.top - in.top});
    ImGui::InvisibleButton("picture", {area_.width, area_.height},
                           ImGuiButtonFlags_MouseButtonLeft | ImGuiButtonFlags_MouseButtonRight |
                               ImGuiButtonFlags_MouseButtonMiddle);
    mouse_on_picture();
    ImDrawList* draw = ImGui::GetWindowDrawList();
    const ImVec2 low{area_.left, area_.top};
    const ImVec2 high{area_.right(), area_.bottom()};
    draw->AddImage(main, low, high);
    if (on_.beside() != live::beside_kind::nothing) {
        const float at = area_.left + wipe_ * area_.width;
        if (beside != nullptr) {
            draw->AddImage(beside, {at, low.y}, high, {wipe_, 0}, {1, 1});
        } else {
            draw->AddRectFilled({at, low.y}, high, ImGui::GetColorU32(colors(dark_).ground));
            draw->AddText(nullptr, 0, {at + px(24), low.y + px(60)}, ImGui::GetColorU32(colors(dark_).faint),
                          on_.beside_fault().c_str(), nullptr, std::max(px(120), high.x - at - px(48)));
        }
        wipe_line(at);
        using enum live::beside_kind;
        const std::string name = on_.beside() == subject
                                     ? (on_.verified().program.empty() ? "the picture" : "the shader")
                                 : on_.beside() == mistake ? on_.mistake_beside()
                                 : on_.beside() == face    ? "face"
                                 : on_.beside() == vertex  ? "vertex"
                                                           : "fragment";
        side_label(on_.part() ? std::string(name_of(*on_.part())) : "right", at - px(12), true);
        side_label(on_.difference()
                       ? fmt::format("{} - right, in full from {:.2g} on", name, on_.difference_scale())
                       : name,
                   at + px(12), false);
    }
    handles();
    if (pinned_[0] >= 0 && panel_ == panel::pixel) {
        const auto [x, y] = point_at(pinned_[0] + 0.5, pinned_[1] + 0.5);
        for (const float side : {-1.0F, 1.0F}) {
            draw->AddLine({x + side * px(12), y}, {x + side * px(4), y}, accent(), px(2));
            draw->AddLine({x, y + side * px(12)}, {x, y + side * px(4)}, accent(), px(2));
        }
    }
    if (!on_.edited().can_undo() && !help_) { // nothing has been done yet
        hint();
    }
    ImGui::End();
}

} // namespace yurvo::app
