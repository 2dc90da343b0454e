// Several samples for each pixel: what the average is, of a picture that is known.
#include <doctest/doctest.h>

#include "yurvo/scene/renderer.hpp"
#include "yurvo/study/comparison.hpp"
#include "yurvo/study/sampled.hpp"

using namespace yurvo;

namespace {

scene of_size(int width, int height) {
    scene made;
    made.view.width = width;
    made.view.height = height;
    return made;
}

// A picture whose every number says where it is; the left half of each pair of columns is see-through.
const function_renderer by([](const scene& of) {
    picture made(of.view.width, of.view.height);
    for (int y = 0; y < made.height; ++y) {
        for (int x = 0; x < made.width; ++x) {
            made.set(x, y, {static_cast<float>(x), static_cast<float>(y), 1}, x % 2 == 0 ? 0.25F : 0.75F);
        }
    }
    return made;
});

} // namespace

TEST_CASE("sampled: one sample is the picture itself") {
    const scene of = of_size(6, 4);
    CHECK(study::compare_pictures(study::draw_sampled(of, by, 1), by.draw(of)).same());
}

TEST_CASE("sampled: the average of the pixel's own samples, colours by their alpha") {
    const picture found = study::draw_sampled(of_size(3, 2), by, 2);
    REQUIRE(found.width == 3);
    REQUIRE(found.height == 2);
    for (int y = 0; y < 2; ++y) {
        for (int x = 0; x < 3; ++x) {
            // Columns 2x and 2x + 1 with weights 1/4 and 3/4; rows 2y and 2y + 1 alike. All exact in binary.
            CHECK(found.color(x, y).r == static_cast<float>(2 * x) + 0.75F);
            CHECK(found.color(x, y).g == static_cast<float>(2 * y) + 0.5F);
            CHECK(found.color(x, y).b == 1);
            CHECK(found.alpha(x, y) == 0.5F);
        }
    }
}

TEST_CASE("sampled: where nothing covers, there is no colour") {
    const function_renderer clear([](const scene& of) {
        picture made(of.view.width, of.view.height);
        for (int i = 0; i < made.width * made.height; ++i) {
            made.set(i % made.width, i / made.width, {7, 7, 7}, 0);
        }
        return made;
    });
    const picture found = study::draw_sampled(of_size(2, 2), clear, 3);
    CHECK(found.color(1, 1) == rgb<float>(0, 0, 0));
    CHECK(found.alpha(1, 1) == 0);
}

TEST_CASE("sampled: as many as a view has room for; what is expected of pixels is of another picture") {
    view of;
    of.width = 1280;
    of.height = 800;
    CHECK(study::most_samples(of) == 12);
    of.width = 16384;
    CHECK(study::most_samples(of) == 1);
    of.width = of.height = 1;
    CHECK(study::most_samples(of) == 16384);
    scene expecting = of_size(2, 2);
    expecting.expects.push_back({.name = "here", .pixel = {1, 1}});
    const function_renderer looks([](const scene& asked) {
        CHECK(asked.expects.empty());
        CHECK(asked.view.width == 8);
        return picture(asked.view.width, asked.view.height);
    });
    study::draw_sampled(expecting, looks, 4);
}
