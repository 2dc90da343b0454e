// The list of shapes: what it says of each is what the scene, its faults and its meshes hold to.
#include <doctest/doctest.h>

#include <cmath>
#include <limits>
#include <random>

#include "yurvo/scene/names.hpp"
#include "yurvo/scene/shape_list.hpp"
#include "yurvo/scene/validate.hpp"

using namespace yurvo;

namespace {

// One object of that shape on the quay.
scene with_shape(const any_shape& shape) {
    scene made;
    made.materials.emplace_back();
    object crate;
    crate.shape = shape;
    made.objects.push_back(crate);
    return made;
}

std::string path_of_fault(const any_shape& shape) {
    const std::optional<fault> found = find_fault(with_shape(shape));
    return found ? found->path : "";
}

// Fields and meshes from files have no numbers of their own in the list.
bool is_measured(const shape_descriptor& shape) { return !shape.sizes.empty(); }

struct extent {
    vec3<double> low{1e300, 1e300, 1e300}, high{-1e300, -1e300, -1e300};
};
extent extent_of(const mesh& built) {
    extent all;
    for (const vec3<double>& p : built.positions) {
        all.low = {std::min(all.low.x, p.x), std::min(all.low.y, p.y), std::min(all.low.z, p.z)};
        all.high = {std::max(all.high.x, p.x), std::max(all.high.y, p.y), std::max(all.high.z, p.z)};
    }
    return all;
}

// How far each shape reaches from its middle along x, y and z, written out for cells in multiples of 4, so
// that vertices lie on the axes.
vec3<double> reach_of(const any_shape& shape) {
    if (const auto* plane = std::get_if<plane_shape>(&shape)) {
        return {plane->size[0] / 2, 0, plane->size[1] / 2};
    }
    if (const auto* box = std::get_if<box_shape>(&shape)) {
        return box->size / 2.0;
    }
    if (const auto* sphere = std::get_if<sphere_shape>(&shape)) {
        return {sphere->radius, sphere->radius, sphere->radius};
    }
    if (const auto* cylinder = std::get_if<cylinder_shape>(&shape)) {
        return {cylinder->radius, cylinder->height / 2, cylinder->radius};
    }
    if (const auto* cone = std::get_if<cone_shape>(&shape)) {
        return {cone->radius, cone->height / 2, cone->radius};
    }
    const auto& torus = std::get<torus_shape>(shape);
    return {torus.radius + torus.tube, torus.tube, torus.radius + torus.tube};
}

} // namespace

TEST_CASE("shapes: the list stands in the order of the variant, each shape valid as it is made") {
    const std::vector<shape_descriptor>& list = shape_list();
    REQUIRE(list.size() == std::variant_size_v<any_shape>);
    for (std::size_t i = 0; i < list.size(); ++i) {
        CAPTURE(list[i].name);
        const any_shape made = list[i].make();
        CHECK(made.index() == i);
        CHECK(shape_name(made) == list[i].name);
        CHECK(shape_names()[i] == list[i].name);
        CHECK(path_of_fault(made) == (std::holds_alternative<mesh_shape>(made) ? "objects[0].file" : ""));
    }
}

TEST_CASE("shapes: every size has to be a finite number above 0, and the fault names its key") {
    const double infinite = std::numeric_limits<double>::infinity();
    for (const shape_descriptor& known : shape_list()) {
        for (const shape_size& size : known.sizes) {
            any_shape right = known.make();
            for (std::size_t i = 0; i < size.of(right).count; ++i) {
                for (const double wrong : {0.0, -1.0, infinite, std::nan("")}) {
                    CAPTURE(known.name);
                    CAPTURE(size.key);
                    CAPTURE(wrong);
                    any_shape shape = known.make();
                    *size.of(shape).at[i] = wrong;
                    CHECK(path_of_fault(shape) == "objects[0]." + std::string(size.key));
                }
            }
        }
    }
}

TEST_CASE("shapes: cells go down to the least, and no further") {
    for (const shape_descriptor& known : shape_list()) {
        for (std::size_t i = 0; known.cells.of != nullptr && i < 2; ++i) {
            CAPTURE(known.name);
            any_shape shape = known.make();
            known.cells.of(shape)[i] = known.cells.least[i];
            CHECK(path_of_fault(shape) == "");
            known.cells.of(shape)[i] = known.cells.least[i] - 1;
            CHECK(path_of_fault(shape) == "objects[0].cells");
            known.cells.of(shape)[i] = 20'000'000;
            CHECK(path_of_fault(shape) == "objects[0].cells");
        }
    }
}

TEST_CASE("shapes: with the fewest cells that the list promises triangles for, there are some") {
    for (const shape_descriptor& known : shape_list()) {
        if (known.cells.of == nullptr) {
            continue;
        }
        CAPTURE(known.name);
        any_shape shape = known.make();
        for (std::size_t i = 0; i < 2; ++i) {
            known.cells.of(shape)[i] = known.cells.least_for_triangles[i];
        }
        CHECK(known.build(shape).triangles.size() > 0);
        CHECK(path_of_fault(shape) == "");
    }
}

TEST_CASE("shapes: meshes have the triangles that are counted, reach as far as the sizes say, and no normal "
          "is off by more than rounding from length 1") {
    for (std::uint32_t seed = 1; seed <= 20; ++seed) {
        std::mt19937 random(seed); // NOLINT: the same shapes every time
        for (const shape_descriptor& known : shape_list()) {
            if (!is_measured(known)) {
                continue;
            }
            CAPTURE(seed);
            CAPTURE(known.name);
            any_shape shape = known.make();
            for (const shape_size& size : known.sizes) {
                for (double* number : size.of(shape)) {
                    *number = std::uniform_real_distribution<double>(0.2, 3)(random);
                }
            }
            if (auto* torus = std::get_if<torus_shape>(&shape)) {
                torus->radius += torus->tube; // a ring, not a spindle
            }
            for (std::size_t i = 0; known.cells.of != nullptr && i < 2; ++i) {
                known.cells.of(shape)[i] = 4 * std::uniform_int_distribution<std::uint32_t>(1, 9)(random);
            }
            const mesh built = known.build(shape);
            CHECK(built.triangles.size() == known.triangles(shape));
            const extent all = extent_of(built);
            const vec3<double> reach = reach_of(shape);
            // Sines and products of numbers up to 6: a dozen roundings of 2^-53 each.
            const double rounding = 12 * 6 * 0x1p-53;
            CHECK(length(all.high - reach) <= rounding);
            CHECK(length(all.low + reach) <= rounding);
            for (const vec3<double>& normal : built.normals) {
                CHECK(std::abs(length(normal) - 1) <= 8 * 0x1p-53);
            }
        }
    }
}

TEST_CASE("fields: each simple field has the sizes whose faults it names; a union has none of its own") {
    CHECK(sizes_of(field_kind::smooth_union).empty());
    for (const field_kind kind :
         {field_kind::sphere, field_kind::rounded_box, field_kind::torus, field_kind::capsule}) {
        REQUIRE_FALSE(sizes_of(kind).empty());
        for (const field_size& size : sizes_of(kind)) {
            CAPTURE(name_of(kind));
            CAPTURE(size.key);
            field_part part;
            part.kind = kind;
            part.rounding = 0.1;
            CHECK(path_of_fault(field_shape{{kind, {part}, 0.25}}) == "");
            if (size.numbers != nullptr) {
                (part.*size.numbers).y = -1;
            } else {
                part.*size.number = 0;
            }
            CHECK(path_of_fault(field_shape{{kind, {part}, 0.25}}) == "objects[0]." + std::string(size.key));
        }
    }
    // A part of a union is named by its place; a rounding takes at most half the smallest side.
    field_part hull;
    hull.kind = field_kind::rounded_box;
    hull.size = {1, 0.4, 2};
    hull.rounding = 0.2;
    field_part buoy;
    field whole{field_kind::smooth_union, {buoy, hull}, 0.25};
    CHECK(path_of_fault(field_shape{whole}) == "");
    whole.parts[1].rounding = 0.2001;
    CHECK(path_of_fault(field_shape{whole}) == "objects[0].parts[1].rounding");
    whole.parts.clear();
    CHECK(path_of_fault(field_shape{whole}) == "objects[0].parts");
}
