#include "yurvo/report/plot.hpp"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "report/canvas.hpp"

namespace yurvo::inline v0_1::report {

namespace {

// Told apart by people who see colours differently (after Okabe and Ito 2008), brightened for a dark ground.
constexpr tone colors[] = {{1.00, 0.72, 0.25}, {0.40, 0.76, 0.97}, {0.20, 0.80, 0.58}, {0.98, 0.52, 0.36},
                           {0.90, 0.60, 0.80}, {0.95, 0.90, 0.35}, {0.45, 0.60, 1.00}, {0.85, 0.87, 0.90}};

// Steps of 1, 2 or 5 times a power of ten, about five of them.
double step_for(double most) {
    const double rough = most / 5;
    const double power = std::pow(10, std::floor(std::log10(rough)));
    const double share = rough / power;
    return power * (share < 1.5 ? 1 : share < 3.5 ? 2 : share < 7.5 ? 5 : 10);
}

constexpr double legend_row = 24;

void draw_plot(canvas& on, const plot& the_plot, double x, double y, double width, double height) {
    on.text(x, y + 16, the_plot.title, 16, weight::semibold, bright, width);
    const double left = x + 58;
    const double right = x + width - 10;
    const double top = y + 34;
    const double bottom = y + height - 44;
    on.box(left, top, right - left, bottom - top, card);
    const auto at_x = [&](double value) { return left + value / the_plot.across_most * (right - left); };
    const auto at_y = [&](double value) { return bottom - value / the_plot.up_most * (bottom - top); };
    const double across_step = step_for(the_plot.across_most);
    for (int i = 0; i * across_step <= the_plot.across_most * 1.0001; ++i) {
        const double place = at_x(i * across_step);
        on.line({{place, top}, {place, bottom}}, 1, edge);
        on.text_centred(place, bottom + 18, fmt::format("{:.4g}", i * across_step), 12.5, weight::regular,
                        quiet);
    }
    const double up_step = step_for(the_plot.up_most);
    for (int i = 0; i * up_step <= the_plot.up_most * 1.0001; ++i) {
        const double place = at_y(i * up_step);
        on.line({{left, place}, {right, place}}, 1, edge);
        on.text(left - 8, place + 4, fmt::format("{:.4g}", i * up_step), 12.5, weight::regular, quiet, 48,
                true);
    }
    on.text_centred((left + right) / 2, bottom + 38, the_plot.across, 13, weight::regular, quiet);
    on.text_upwards(x + 13, (top + bottom) / 2, the_plot.up, 13, weight::regular, quiet);
    if (the_plot.curves.empty()) {
        on.text_centred((left + right) / 2, (top + bottom) / 2, the_plot.nothing, 14, weight::regular, quiet);
        return;
    }
    on.clip(left, top, right - left, bottom - top);
    for (std::size_t i = 0; i < the_plot.curves.size(); ++i) {
        std::vector<std::pair<double, double>> points;
        for (const auto& [across, up] : the_plot.curves[i].points) {
            points.emplace_back(at_x(across), at_y(std::min(up, 10 * the_plot.up_most)));
        }
        // Later curves are dashed, so that one that lies on another can be seen.
        on.line(points, 2.5, colors[i % std::size(colors)],
                i == 0 ? 0 : 5.0 + 3.0 * static_cast<double>(i % 4));
    }
    on.lift_clip();
}

void draw_names(canvas& on, const plot& the_plot, double x, double y, double width) {
    for (std::size_t i = 0; i < the_plot.curves.size(); ++i) {
        const double row = y + legend_row * static_cast<double>(i);
        on.line({{x + 58, row - 4}, {x + 86, row - 4}}, 3, colors[i % std::size(colors)],
                i == 0 ? 0 : 5.0 + static_cast<double>(i % 4));
        on.text(x + 96, row, the_plot.curves[i].name, 13, weight::regular, bright, width - 106);
    }
}

} // namespace

picture render(const std::string& title, const std::string& subtitle, const std::vector<plot>& plots,
               const std::vector<std::string>& notes) {
    constexpr int width = 1280;
    constexpr double margin = 32;
    constexpr double gap = 36;
    std::size_t most_names = 0;
    for (const plot& each_plot : plots) {
        most_names = std::max(most_names, each_plot.curves.size());
    }
    constexpr double heading = 100;
    constexpr double plot_height = 430;
    const double names_height = legend_row * static_cast<double>(most_names);
    const double notes_height = 22 * static_cast<double>(notes.size());
    const int height =
        std::max(800, static_cast<int>(heading + plot_height + 40 + names_height + notes_height + margin));
    canvas on(width, height);
    on.box(0, 0, width, height, night);
    on.box(margin, 30, 4, 42, amber, 2);
    on.text(margin + 18, 49, title, 24, weight::semibold, bright, width - 2 * margin - 18);
    on.text(margin + 18, 71, subtitle, 14, weight::regular, quiet, width - 2 * margin - 18);
    const auto count = static_cast<double>(plots.size());
    const double each = (width - 2 * margin - gap * (count - 1)) / count;
    // Room that the names do not need goes to the plots.
    const double tall = height - heading - 40 - names_height - notes_height - margin;
    for (std::size_t i = 0; i < plots.size(); ++i) {
        const double x = margin + static_cast<double>(i) * (each + gap);
        draw_plot(on, plots[i], x, heading, each, tall);
        draw_names(on, plots[i], x, heading + tall + 26, each);
    }
    double y = height - margin - notes_height + 14;
    for (const std::string& note : notes) {
        on.text(margin, y, note, 13, weight::regular, quiet, width - 2 * margin);
        y += 22;
    }
    return on.finished();
}

} // namespace yurvo::inline v0_1::report
