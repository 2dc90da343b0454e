#include "verify/pixel_tolerances.hpp"

#include <utility>

#include "pipeline/parallel.hpp"

namespace yurvo::inline v0_1::verify {

pixel_tolerances::pixel_tolerances(scene in_its_size, const tolerance_model& allowed)
    : scene_(std::move(in_its_size)), casts_(scene_, allowed) {
    whole_.resize(static_cast<std::size_t>(scene_.view.width) * static_cast<std::size_t>(scene_.view.height));
    casts_.find_all_centres();
}

const rgb<double>& pixel_tolerances::least(int x, int y) const {
    const known_pixel& pixel = whole_[place(x, y)];
    if (pixel.known) {
        return pixel.color.tolerance;
    }
    if (least_.empty()) {
        least_.resize(whole_.size());
        pipeline::for_each_of(scene_.view.height, [&](int row) {
            for (int column = 0; column < scene_.view.width; ++column) {
                least_[place(column, row)] = casts_.at_without_snap(column + 0.5, row + 0.5).tolerance;
            }
        });
    }
    return least_[place(x, y)];
}

const cast_color& pixel_tolerances::at(int x, int y) const {
    known_pixel& pixel = whole_[place(x, y)];
    if (!pixel.known) {
        pixel = {casts_.at(x + 0.5, y + 0.5), true};
    }
    return pixel.color;
}

void pixel_tolerances::find_all() {
    pipeline::for_each_of(scene_.view.height, [&](int y) {
        for (int x = 0; x < scene_.view.width; ++x) {
            (void)at(x, y);
        }
    });
}

} // namespace yurvo::inline v0_1::verify
