// From the mouse's move to the codes for the screen: a lamp of the harbour dragged across 1280x800, a
// thousand times; each step by itself, with the memory before and after.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <string>
#include <vector>

#include "yurvo/live/workspace.hpp"

using namespace yurvo;
using namespace yurvo::live;

namespace {

double median(std::vector<double> all) {
    std::nth_element(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(all.size() / 2), all.end());
    return all[all.size() / 2];
}

// Megabytes that are in memory.
double resident() {
    std::ifstream statm("/proc/self/statm");
    long whole = 0;
    long pages = 0;
    statm >> whole >> pages;
    return static_cast<double>(pages) * 4096 / 1e6;
}

} // namespace

int main() {
    workspace on(open_scene("harbour"), {});
    on.set_size(1280, 800);
    on.picture();
    handle start;
    for (const handle& each : on.handles()) {
        start = each.kind == handle_kind::light_place && each.in_front ? each : start;
    }
    on.hold(start, start.x, start.y);
    std::vector<double> edits, draws, encodes, wholes;
    double before = 0;
    constexpr int changes = 1000;
    for (int i = 0; i < changes; ++i) {
        if (i == 100) {
            before = resident();
        }
        on.edited().begin_step();
        const auto begin = std::chrono::steady_clock::now();
        on.drag_held(start.x + 150 * std::sin(0.05 * i), start.y + 40 * std::cos(0.07 * i), drag_along::view);
        const auto edited = std::chrono::steady_clock::now();
        const screen_picture& shown = on.picture();
        const auto end = std::chrono::steady_clock::now();
        on.edited().end_step();
        edits.push_back(std::chrono::duration<double, std::milli>(edited - begin).count());
        draws.push_back(shown.draw_milliseconds);
        encodes.push_back(shown.encode_milliseconds);
        wholes.push_back(std::chrono::duration<double, std::milli>(end - begin).count());
    }
    std::printf("harbour, 1280x800, %d changes; milliseconds\n", changes);
    std::printf("%-28s %8s %8s\n", "", "median", "most");
    const auto line = [](const char* name, const std::vector<double>& all) {
        std::printf("%-28s %8.2f %8.2f\n", name, median(all), *std::max_element(all.begin(), all.end()));
    };
    line("the edit, and the scene read", edits);
    line("drawn", draws);
    line("encoded", encodes);
    line("from the move to the codes", wholes);
    std::printf("memory: %.1f MB after 100 changes, %.1f MB after all\n", before, resident());
}
