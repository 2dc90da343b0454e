// The stages apart and the whole frame, by Google Benchmark.
#include <benchmark/benchmark.h>

#include <array>
#include <memory>
#include <random>

#include "pipeline/frame.hpp"
#include "pipeline/parallel.hpp"
#include "pipeline/stage.hpp"
#include "scenes.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/model.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"

namespace {

using namespace yurvo;

constexpr double pixels = 978'360;

// The shading arithmetic alone: blocks of points in cache, as many in all as a full picture has.
void shading_alone(benchmark::State& state) {
    const scene made = bench::buoy(32, 33, static_cast<int>(state.range(0)));
    const camera seen = make_camera(made.view);
    std::vector<ready_light<float>> lights;
    for (const named_light& named : made.lights) {
        lights.push_back(make_ready<float>(light_in_world(named, seen), made.view.eye));
    }
    std::vector<const ready_light<float>*> pointers;
    for (const ready_light<float>& light : lights) {
        pointers.push_back(&light);
    }
    const blinn_phong<> model;
    const auto shader = pipeline::make_shader<formula, float>(model);
    surface<float> factors;
    factors.base = rgb<float>(made.materials[0].look.base);
    factors.specular = rgb<float>(made.materials[0].look.specular);
    factors.shininess = 48;
    const finish_settings<float> settings{rgb<float>(0.05F), ambient_rule::add, {}};
    const auto blocks = static_cast<std::size_t>(pixels / pipeline::block_size);
    std::mt19937 seeded(7); // NOLINT: the same points every time
    std::uniform_real_distribution<float> anywhere(-1, 1);
    for (auto _ : state) {
        pipeline::in_pieces(blocks, blocks / 2, [&](std::size_t begin, std::size_t end) {
            const auto points = std::make_unique<pipeline::block<float>>();
            points->count = pipeline::block_size;
            for (std::size_t i = 0; i < pipeline::block_room; ++i) {
                const float x = 0.4F * static_cast<float>(i % 16) / 16;
                const float y = 0.4F * static_cast<float>(i) / 256;
                points->normal.put(i, normalize(vec3<float>{x, y, 1}));
                points->position.put(i, normalize(vec3<float>{x, y, 1}) * 2.0F - vec3<float>{0, 0, 3.05F});
            }
            for (std::size_t b = begin; b < end; ++b) {
                shader.shade({*points, factors, pointers, settings, {}, shader.model});
            }
            benchmark::DoNotOptimize(points->lit.x[0]);
        });
    }
    state.counters["pixels/s"] = benchmark::Counter(pixels, benchmark::Counter::kIsIterationInvariantRate);
}
BENCHMARK(shading_alone)->Arg(1)->Arg(4)->Arg(16)->UseRealTime()->Unit(benchmark::kMillisecond);

// The whole frame, with its stages' share of the threads' time.
void whole_frame(benchmark::State& state) {
    const auto around = static_cast<std::uint32_t>(state.range(0));
    const scene made =
        bench::buoy(around, around + 1, static_cast<int>(state.range(1)), static_cast<rate>(state.range(2)));
    const pipeline::stage staged = pipeline::make_stage(made);
    const blinn_phong<> model;
    const auto shader = pipeline::make_shader<formula, float>(model);
    pipeline::frame frame;
    draw_statistics spent;
    for (auto _ : state) {
        frame.draw(staged, shader);
        spent.vertex_seconds += frame.statistics().vertex_seconds;
        spent.visibility_seconds += frame.statistics().visibility_seconds;
        spent.shading_seconds += frame.statistics().shading_seconds;
    }
    const auto each = [&](double seconds) {
        return benchmark::Counter(1e3 * seconds, benchmark::Counter::kAvgIterations);
    };
    state.counters["vertices_ms"] = each(spent.vertex_seconds);
    state.counters["visibility_ms"] = each(spent.visibility_seconds);
    state.counters["shading_ms"] = each(spent.shading_seconds);
}
constexpr int fragment = static_cast<int>(rate::fragment);
BENCHMARK(whole_frame)
    ->Args({256, 1, fragment})
    ->Args({256, 4, fragment})
    ->Args({256, 16, fragment})
    ->Args({1000, 1, fragment})
    ->Args({32, 1, fragment})
    ->Args({32, 16, fragment})
    ->Args({256, 4, static_cast<int>(rate::vertex)})
    ->Args({256, 4, static_cast<int>(rate::face)})
    ->UseRealTime()
    ->Unit(benchmark::kMillisecond);

// The built-in model beside the same model written out as formulas: all lights are points that fall off by
// the inverse square.
void built_in_or_formulas(benchmark::State& state) {
    scene made = bench::buoy(32, 33, static_cast<int>(state.range(1)), static_cast<rate>(state.range(2)));
    for (named_light& each : made.lights) {
        each.light.kind = light_kind::point;
        each.light.falloff = falloff_kind::inverse_square;
    }
    if (state.range(0) != 0) {
        made.formulas[formulas::slot::falloff] = "1.0 / (d * d)";
        made.formulas[formulas::slot::diffuse] = "max(dot(n, l), 0.0)";
        made.formulas[formulas::slot::specular] =
            "dot(n, l) > 0.0 ? pow(max(dot(n, h), 0.0), shininess) : 0.0";
    }
    const auto drawing = built_in_renderer().repeat(made, {});
    for (auto _ : state) {
        benchmark::DoNotOptimize(drawing->draw().values.data());
    }
}
BENCHMARK(built_in_or_formulas)
    ->ArgsProduct({{0, 1}, {1, 16}, {fragment, static_cast<int>(rate::vertex), static_cast<int>(rate::face)}})
    ->UseRealTime()
    ->Unit(benchmark::kMillisecond);

void encoding_a_picture(benchmark::State& state) {
    const picture made = draw(bench::buoy(32, 33, 1));
    for (auto _ : state) {
        benchmark::DoNotOptimize(codes_of(made, encoding::srgb));
    }
}
BENCHMARK(encoding_a_picture)->UseRealTime()->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
