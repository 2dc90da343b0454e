// From the mouse's move to the codes for the screen: a lamp of the harbour dragged a thousand times; each
// step by itself, with the memory before and after. First the picture of a window of 1280x800, then one of
// that size itself, then the first again while a shader is judged on all scenes without a pause.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <string>
#include <vector>

#include "yurvo/live/workspace.hpp"
#include "yurvo/program/starters.hpp"

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

void drag_a_lamp(workspace& on, const char* what, int width, int height) {
    on.set_size(width, height);
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
        on.look();
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
    std::printf("%s, %dx%d, %d changes; milliseconds\n", what, width, height, changes);
    std::printf("%-28s %8s %8s\n", "", "median", "most");
    const auto line = [](const char* name, const std::vector<double>& all) {
        std::printf("%-28s %8.2f %8.2f\n", name, median(all), *std::max_element(all.begin(), all.end()));
    };
    line("the edit, and the scene read", edits);
    line("drawn", draws);
    line("encoded", encodes);
    line("from the move to the codes", wholes);
    std::printf("memory: %.1f MB after 100 changes, %.1f MB after all\n\n", before, resident());
}

} // namespace

int main() {
    {
        workspace on(open_scene("harbour"), {});
        drag_a_lamp(on, "harbour in a window of 1280x800", 876, 726);
        drag_a_lamp(on, "harbour", 1280, 800);
    }
    const std::filesystem::path folder = std::filesystem::temp_directory_path() / "yurvo-bench-live";
    std::filesystem::create_directories(folder);
    for (const starter_file& each : starter_files({}, "judged")) {
        std::ofstream(folder / each.name) << each.text;
    }
    {
        workspace on(open_scene("harbour"), {(folder / "judged.toml").string(), "", {}});
        on.want_all_scenes(true);
        drag_a_lamp(on, "the same while a shader is judged", 876, 726);
    }
    std::filesystem::remove_all(folder);
}
