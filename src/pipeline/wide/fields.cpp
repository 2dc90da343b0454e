// See fields.hpp. Plain loops, which the compiler turns into whichever batches the instruction set has.
#include "pipeline/wide/fields.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

const field_kernels& YURVO_KERNELS();

namespace {

void march(const field_lanes::surface& of, const bounds& box, field_lanes::bundle& rays) {
    field_lanes::marching(of, box, rays);
}

void polish(const field_lanes::surface& of, field_lanes::bundle& rays, field_lanes::values& there) {
    field_lanes::fill_up(rays.along, rays.count);
    field_lanes::fill_up(rays.met, rays.count);
    const std::size_t count = field_lanes::whole_batches(rays.count);
    field_lanes::polish(of, rays.from, rays.along, count, rays.met);
    field_lanes::vectors at; // NOLINT: written before it is read
    field_lanes::find_places(rays.from, rays.along, rays.met, count, at);
    field_lanes::find_values(of, at, count, there);
}

} // namespace

const field_kernels& YURVO_KERNELS() {
    static constexpr field_kernels result{march, polish};
    return result;
}

} // namespace yurvo::inline v0_1::pipeline::wide
