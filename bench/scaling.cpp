// How the cost of a frame grows: with pixels, triangles, lights, threads, and with lights that reach only a
// part of the picture. Prints one table for each, medians of frames drawn in turn.
#include <cmath>
#include <cstdio>

#include "measuring.hpp"
#include "pipeline/frame.hpp"
#include "pipeline/parallel.hpp"
#include "pipeline/stage.hpp"
#include "scenes.hpp"
#include "yurvo/model.hpp"
#include "yurvo/pipeline/draw.hpp"

using namespace yurvo;

namespace {

constexpr int frames = 15;

struct drawn {
    scene made;
    pipeline::stage staged;
    blinn_phong<> model;
    pipeline::shader<float> shader;
    pipeline::frame frame;
    int threads = 0;

    explicit drawn(const scene& given, int threads_ = 0, const pipeline::frame_settings& settings = {})
        : made(given),
          staged(pipeline::make_stage(given)),
          shader(pipeline::make_shader<formula, float>(model)),
          frame(settings),
          threads(threads_) {}

    void draw() {
        pipeline::with_threads(threads, [&] { frame.draw(staged, shader); });
    }
};

std::vector<double> medians(const std::vector<std::unique_ptr<drawn>>& scenes) {
    std::vector<std::function<void()>> works;
    for (const auto& one : scenes) {
        works.emplace_back([&one] { one->draw(); });
    }
    return bench::medians_in_turn(works, frames);
}

void by_pixels() {
    std::printf("\npixels (2,048 triangles, 4 lights)\n%12s %10s %14s\n", "pixels", "ms", "ns per pixel");
    std::vector<std::unique_ptr<drawn>> scenes;
    for (const int width : {320, 640, 1280, 2560, 6554}) {
        scene made = bench::buoy(32, 33, 4);
        made.view.width = width;
        made.view.height = width * 5 / 8;
        scenes.push_back(std::make_unique<drawn>(made));
    }
    const std::vector<double> taken = medians(scenes);
    for (std::size_t i = 0; i < scenes.size(); ++i) {
        const double pixels = 1.0 * scenes[i]->made.view.width * scenes[i]->made.view.height;
        std::printf("%12.0f %10.2f %14.2f\n", pixels, taken[i], 1e6 * taken[i] / pixels);
    }
}

void by_triangles() {
    std::printf("\ntriangles (1280x800, 1 light)\n%12s %10s\n", "triangles", "ms");
    std::vector<std::unique_ptr<drawn>> scenes;
    for (const std::uint32_t around : {5U, 16U, 50U, 158U, 500U, 1000U}) {
        scenes.push_back(std::make_unique<drawn>(bench::buoy(around, around == 5 ? 2 : around + 1, 1)));
    }
    const std::vector<double> taken = medians(scenes);
    for (std::size_t i = 0; i < scenes.size(); ++i) {
        std::printf("%12zu %10.2f\n", scenes[i]->staged.objects[0].shape->triangles.size(), taken[i]);
    }
}

void by_lights() {
    std::printf("\nlights (2,048 triangles, 1280x800; none left out)\n%12s %10s %16s\n", "lights", "ms",
                "ms per light");
    std::vector<std::unique_ptr<drawn>> scenes;
    const std::vector<int> counts{0, 1, 4, 16, 64};
    for (const int lights : counts) {
        scenes.push_back(
            std::make_unique<drawn>(bench::buoy(32, 33, lights), 0, pipeline::frame_settings{64, false}));
    }
    const std::vector<double> taken = medians(scenes);
    for (std::size_t i = 0; i < scenes.size(); ++i) {
        std::printf("%12d %10.2f %16.2f\n", counts[i], taken[i],
                    counts[i] == 0 ? 0 : (taken[i] - taken[0]) / counts[i]);
    }
}

void by_threads() {
    std::printf("\nthreads\n%24s %10s %10s %8s\n", "scene", "1 thread", "2 threads", "ratio");
    const auto pair = [](const char* name, const scene& made) {
        std::vector<std::unique_ptr<drawn>> scenes;
        scenes.push_back(std::make_unique<drawn>(made, 1));
        scenes.push_back(std::make_unique<drawn>(made, 2));
        const std::vector<double> taken = medians(scenes);
        std::printf("%24s %10.2f %10.2f %8.2f\n", name, taken[0], taken[1], taken[0] / taken[1]);
    };
    pair("2,048 triangles, 1", bench::buoy(32, 33, 1));
    pair("2,048 triangles, 16", bench::buoy(32, 33, 16));
    pair("131,072 triangles, 4", bench::buoy(256, 257, 4));
    pair("2,000,000 triangles, 1", bench::buoy(1000, 1001, 1));
}

// As many triangles in all, spread over objects of four kinds of paint each in a place of its own.
void by_objects() {
    std::printf("\nobjects (131,072 triangles in all, 1 light)\n%12s %10s %10s\n", "objects", "fragment",
                "vertex");
    std::vector<std::unique_ptr<drawn>> scenes;
    const std::vector<int> across{1, 4, 16, 64};
    for (const int count : across) {
        for (const rate at : {rate::fragment, rate::vertex}) {
            scene made = bench::buoy(256, 257, 1, at);
            for (int i = 1; i < 4; ++i) {
                made.materials.push_back(made.materials[0]);
                made.materials.back().name += std::to_string(i);
                made.materials.back().look.base = {0.2 * i, 0.5, 0.3};
            }
            const auto cells = static_cast<std::uint32_t>(256 / count);
            made.objects.clear();
            for (int i = 0; i < count * count; ++i) {
                object buoy;
                buoy.name = "buoy " + std::to_string(i);
                buoy.material = static_cast<std::size_t>(i % 4);
                buoy.shape = sphere_shape{2.2 / count, {std::max(4U, cells), std::max(3U, cells + 1)}};
                buoy.placed.position = {(i % count + 0.5) * 4.6 / count - 2.3,
                                        (i / count + 0.5) * 2.9 / count - 1.45, 0}; // NOLINT
                made.objects.push_back(buoy);
            }
            scenes.push_back(std::make_unique<drawn>(made));
        }
    }
    const std::vector<double> taken = medians(scenes);
    for (std::size_t i = 0; i < across.size(); ++i) {
        std::printf("%12d %10.2f %10.2f\n", across[i] * across[i], taken[2 * i], taken[2 * i + 1]);
    }
}

// Planks one behind the other over the whole picture: the last drawn first in sight, or the first.
void by_layers() {
    std::printf("\nlayers (2 triangles each over the whole picture, 1 light)\n%12s %14s %14s\n", "layers",
                "nearest first", "nearest last");
    std::vector<std::unique_ptr<drawn>> scenes;
    const std::vector<int> counts{1, 4, 16, 64};
    for (const int count : counts) {
        for (const bool nearest_first : {true, false}) {
            scene made = bench::buoy(3, 2, 1);
            made.objects.clear();
            for (int i = 0; i < count; ++i) {
                object plank;
                plank.name = "plank " + std::to_string(i);
                plank.shape = plane_shape{{9, 9}, {1, 1}};
                plank.placed.rotation = {radians(90), 0, 0};
                plank.placed.position.z = (nearest_first ? -0.02 : 0.02) * i;
                made.objects.push_back(plank);
            }
            scenes.push_back(std::make_unique<drawn>(made));
        }
    }
    const std::vector<double> taken = medians(scenes);
    for (std::size_t i = 0; i < counts.size(); ++i) {
        std::printf("%12d %14.2f %14.2f\n", counts[i], taken[2 * i], taken[2 * i + 1]);
    }
}

// A quay seen from above with 1,024 lanterns, each of which lights a small part.
scene harbour(int lights) {
    scene made = bench::buoy(3, 2, 0);
    made.view.eye = {0, 30, 30};
    made.view.fov = radians(60);
    object quay;
    quay.name = "quay";
    quay.shape = plane_shape{{80, 80}, {64, 64}};
    made.objects = {quay};
    const int across = static_cast<int>(std::sqrt(lights));
    for (int i = 0; i < across * across; ++i) {
        named_light lantern;
        lantern.light.position = {-38 + 76.0 * (i % across) / (across - 1), 0.8,
                                  -38 + 76.0 * (i / across) / (across - 1)}; // NOLINT
        lantern.light.color = {1, 0.8, 0.5};
        lantern.light.falloff = falloff_kind::windowed;
        lantern.light.range = 3;
        made.lights.push_back(lantern);
    }
    return made;
}

bool by_reach() {
    const scene made = harbour(1024);
    std::vector<std::unique_ptr<drawn>> scenes;
    scenes.push_back(std::make_unique<drawn>(made, 0, pipeline::frame_settings{64, false}));
    scenes.push_back(std::make_unique<drawn>(made, 0, pipeline::frame_settings{64, true}));
    const std::vector<double> taken = medians(scenes);
    const bool same = scenes[0]->frame.draw(scenes[0]->staged, scenes[0]->shader) ==
                      scenes[1]->frame.draw(scenes[1]->staged, scenes[1]->shader);
    std::printf("\n1,024 lanterns of 3 m\n%24s %10.2f ms\n%24s %10.2f ms, %.1f times as fast, %s picture\n",
                "every light evaluated", taken[0], "as it is", taken[1], taken[0] / taken[1],
                same ? "the same" : "ANOTHER");
    return same;
}

} // namespace

int main() {
    by_pixels();
    by_triangles();
    by_lights();
    by_threads();
    by_objects();
    by_layers();
    return by_reach() ? 0 : 1;
}
