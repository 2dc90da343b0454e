// A scene's formulas run over a block, operation by operation, each over all points before the next.
#include "pipeline/wide/formulas.hpp"

#include "pipeline/wide/lane_operations.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

namespace {

using formulas::input;
using formulas::slot;

// One block under one request.
class formula_run {
    const formula_request& request_;
    const formula_program& program_;
    block<float>& points_;
    float** lanes_;
    std::array<lane<float>, 4>& arriving_;
    std::array<std::uint8_t, block_room> bad_{}; // which slot gave no number, from 1; else 0
    bool any_bad_ = false;
    bool suspicious_ = false; // some sum is no finite number: the block is looked at with care

    bool careful_ = false;

    // What arrives before any formula: all that the law says, 0 where the light is at the point itself; its
    // falloff and its penumbra alone, where a light has an ambient part; 1 where it is apart, where faults
    // are looked for.
    static constexpr std::size_t factor_lane = 0;
    static constexpr std::size_t falloff_lane = 1;
    static constexpr std::size_t penumbra_lane = 2;
    static constexpr std::size_t apart_lane = 3;

    [[nodiscard]] float* lane_of(input which, std::size_t component = 0) const {
        const lane_number lane = program_.inputs[static_cast<std::size_t>(which)][component];
        return lane == formula_program::none ? nullptr : lanes_[lane];
    }
    void point_at(input which, lane3<float>& there) {
        const std::array<float*, 3> components{there.x.data(), there.y.data(), there.z.data()};
        for (std::size_t i = 0; i < 3; ++i) {
            const lane_number lane = program_.inputs[static_cast<std::size_t>(which)][i];
            if (lane != formula_program::none) {
                lanes_[lane] = components[i];
            }
        }
    }
    void set_one(input which, float number, std::size_t component = 0) {
        if (float* const to = lane_of(which, component)) {
            store_lanes(to, real(number));
        }
    }
    void set_one(input which, const vec3<float>& numbers) {
        set_one(which, numbers.x, 0);
        set_one(which, numbers.y, 1);
        set_one(which, numbers.z, 2);
    }
    void set_one(input which, const rgb<float>& numbers) {
        set_one(which, vec3<float>{numbers.r, numbers.g, numbers.b});
    }
    void fill(float* to, float number) const {
        for (std::size_t i = 0; i < points_.count; i += step_of) {
            store_lanes(to + i, real(number));
        }
    }

    // A slot's result, component by component.
    class output {
        std::array<source, 3> from_;

      public:
        output(const lane_result& of, float* const* lanes)
            : from_{source(lanes[of.lanes[of.at(0)]], of.uniform[of.at(0)]),
                    source(lanes[of.lanes[of.at(1)]], of.uniform[of.at(1)]),
                    source(lanes[of.lanes[of.at(2)]], of.uniform[of.at(2)])} {}
        [[nodiscard]] real one(std::size_t i) const { return from_[0].at(i); }
        [[nodiscard]] rgb<real> color(std::size_t i) const {
            return {from_[0].at(i), from_[1].at(i), from_[2].at(i)};
        }
    };
    [[nodiscard]] output result(slot which) const { return {program_[which], lanes_}; }
    [[nodiscard]] bool has(slot which) const { return program_[which].present; }

    [[nodiscard]] bool all_finite(slot which) const {
        if (!has(which)) {
            return true;
        }
        const output values = result(which);
        const real nothing(0); // times what is not finite: NaN
        real sum(0);
        for (std::size_t i = 0; i < points_.count; i += step_of) {
            const rgb<real> value = values.color(i);
            sum = sum + nothing * value.r + nothing * value.g + nothing * value.b;
        }
        return all(sum == real(0));
    }

    // Notes where a formula's value is no finite number. `counts`: a lane of 1 where the point counts at all.
    void look_for_faults(slot which, const float* counts) {
        const lane_result& of = program_[which];
        for (std::size_t k = 0; of.present && k < of.width; ++k) {
            const float* const lane = lanes_[of.lanes[k]];
            for (std::size_t i = 0; i < points_.count; ++i) {
                const float value = of.uniform[k] ? lane[0] : lane[i];
                if (!(value - value == 0) && bad_[i] == 0 && (counts == nullptr || counts[i] != 0)) {
                    bad_[i] = static_cast<std::uint8_t>(static_cast<std::size_t>(which) + 1);
                    any_bad_ = true;
                }
            }
        }
    }

    void begin() {
        for (const auto& [lane, number] : program_.constants) {
            store_lanes(lanes_[lane], real(number));
        }
        point_at(input::n, points_.normal);
        point_at(input::v, points_.to_eye);
        const surface<float>& material = request_.shade.material;
        if (program_.asks_for(input::base)) {
            if (!points_.own_base) {
                fill(points_.base.x.data(), material.base.r);
                fill(points_.base.y.data(), material.base.g);
                fill(points_.base.z.data(), material.base.b);
            }
            point_at(input::base, points_.base);
        }
        if (float* const x = lane_of(input::position)) {
            float* const y = lane_of(input::position, 1);
            float* const z = lane_of(input::position, 2);
            for (std::size_t i = 0; i < points_.count; i += step_of) {
                const vec3<real> place = load_vector<real>(points_.position, i) + vec3<real>(request_.origin);
                store_lanes(x + i, place.x);
                store_lanes(y + i, place.y);
                store_lanes(z + i, place.z);
            }
        }
        if (program_.asks_for(input::front)) {
            lanes_[program_.inputs[static_cast<std::size_t>(input::front)][0]] = points_.front.data();
        }
        set_one(input::eye, request_.eye);
        set_one(input::axis, request_.axis);
        set_one(input::material_ambient, material.ambient);
        set_one(input::material_diffuse, material.diffuse);
        set_one(input::material_specular, material.specular);
        set_one(input::emission, material.emission);
        set_one(input::shininess, material.shininess);
        run(program_.once, lanes_, points_.count);
    }

    void set_light(const ready_light<float>& light) {
        set_one(input::light_color, light.color * light.intensity);
        set_one(input::coefficients, light.coefficients);
        set_one(input::range, light.seen_range);
        set_one(input::inner, light.inner);
        set_one(input::outer, light.outer);
        set_one(input::cos_inner, light.cos_inner);
        set_one(input::cos_outer, light.cos_outer);
        set_one(input::exponent, light.seen_exponent);
    }

    static bool has_part(const ready_light<float>& light) {
        return light.ambient.r > 0 || light.ambient.g > 0 || light.ambient.b > 0;
    }

    // l, d and cos θ, and what the law says of falloff and penumbra where no formula stands for them.
    YURVO_FLATTENED void let_arrive(const ready_light<float>& lamp) {
        const ready_light<float> light = lamp;
        const std::array<float*, 3> l{lane_of(input::l, 0), lane_of(input::l, 1), lane_of(input::l, 2)};
        float* const d_lane = lane_of(input::d);
        float* const angle = lane_of(input::cos_theta);
        const bool own_falloff = has(slot::falloff);
        const bool own_penumbra = has(slot::penumbra);
        const bool apart_from_each_other = has_part(light) || careful_;
        const read_law law = light.law();
        for (std::size_t i = 0; i < points_.count; i += step_of) {
            vec3<real> to_light(light.to_light);
            real d(0);
            real factor(1);
            real by_angle(1);
            real cosine(1);
            real apart(1);
            if (law.kind != light_kind::directional) {
                const vec3<real> whole = vec3<real>(light.position) - load_vector<real>(points_.position, i);
                const real squared = dot(whole, whole);
                const real inverse = inverse_sqrt_or_zero(squared);
                d = squared * inverse;
                to_light = whole * inverse;
                apart = select(squared > real(0), real(1), real(0));
                if (!own_falloff) {
                    factor = falloff_at<formula>(light, d, inverse, law);
                }
            }
            if (law.kind == light_kind::spot) {
                const real versine = formula::penumbra_versine(to_light, vec3<real>(light.axis));
                cosine = real(1) - versine;
                if (!own_penumbra) {
                    by_angle = penumbra_at<formula>(light, to_light, law);
                }
            }
            if (l[0] != nullptr) {
                store_lanes(l[0] + i, to_light.x);
                store_lanes(l[1] + i, to_light.y);
                store_lanes(l[2] + i, to_light.z);
            }
            if (d_lane != nullptr) {
                store_lanes(d_lane + i, d);
            }
            if (angle != nullptr) {
                store_lanes(angle + i, cosine);
            }
            if (apart_from_each_other) {
                store_lanes(&arriving_[falloff_lane][i], factor);
                store_lanes(&arriving_[penumbra_lane][i], by_angle);
                store_lanes(&arriving_[apart_lane][i], apart);
            }
            store_lanes(&arriving_[factor_lane][i],
                        select(apart > real(0), real(light.intensity) * factor * by_angle, real(0)));
        }
    }

    // The light's ambient part, with falloff and penumbra as formulas have them.
    YURVO_FLATTENED void add_ambient_part(const ready_light<float>& light, bool first) {
        const bool own_falloff = light.kind != light_kind::directional && has(slot::falloff);
        const bool own_penumbra = light.kind == light_kind::spot && has(slot::penumbra);
        // What stands for nothing is read and not used.
        const output falloffs = result(own_falloff ? slot::falloff : slot::diffuse);
        const output penumbras = result(own_penumbra ? slot::penumbra : slot::diffuse);
        const rgb<real> ambient(light.ambient);
        for (std::size_t i = 0; i < points_.count; i += step_of) {
            const real falloff =
                own_falloff ? falloffs.one(i) : load_lanes<real>(&arriving_[falloff_lane][i]);
            const real penumbra =
                own_penumbra ? penumbras.one(i) : load_lanes<real>(&arriving_[penumbra_lane][i]);
            const auto apart = load_lanes<real>(&arriving_[apart_lane][i]) > real(0);
            real follows(1);
            if (light.follows != ambient_follows::nothing) {
                follows = light.follows == ambient_follows::cone ? falloff * penumbra : falloff;
            }
            const rgb<real> part = ambient * select(apart, follows, real(0));
            store<real>(points_.ambient, i, first ? part : load_color<real>(points_.ambient, i) + part);
        }
    }

    // What arrives without its colour, falloff and penumbra as formulas have them.
    YURVO_FLATTENED void let_fall(const ready_light<float>& light) {
        const bool own_falloff = light.kind != light_kind::directional && has(slot::falloff);
        const bool own_penumbra = light.kind == light_kind::spot && has(slot::penumbra);
        for (const auto& [own, which] :
             {std::pair{own_falloff, slot::falloff}, std::pair{own_penumbra, slot::penumbra}}) {
            if (!own) {
                continue;
            }
            const output factors = result(which);
            for (std::size_t i = 0; i < points_.count; i += step_of) {
                const real before = load_lanes<real>(&arriving_[factor_lane][i]);
                real factor = before * factors.one(i);
                if (careful_) { // where the light is at the point itself, whatever the formula gives
                    factor = select(load_lanes<real>(&arriving_[apart_lane][i]) > real(0), factor, real(0));
                }
                store_lanes(&arriving_[factor_lane][i], factor);
            }
        }
        if (float* const red = lane_of(input::light)) {
            float* const green = lane_of(input::light, 1);
            float* const blue = lane_of(input::light, 2);
            for (std::size_t i = 0; i < points_.count; i += step_of) {
                const real brightness = load_lanes<real>(&arriving_[factor_lane][i]);
                store_lanes(red + i, brightness * real(light.color.r));
                store_lanes(green + i, brightness * real(light.color.g));
                store_lanes(blue + i, brightness * real(light.color.b));
            }
        }
    }

    // Adds a slot's share to one of the sums.
    YURVO_FLATTENED void add_share(slot which, const rgb<float>& tint, lane3<float>& sums, bool first) {
        const output shares = result(which);
        const rgb<real> color(tint);
        const bool number = program_[which].width == 1;
        for (std::size_t i = 0; i < points_.count; i += step_of) {
            const real brightness = load_lanes<real>(&arriving_[factor_lane][i]);
            rgb<real> share =
                number ? color * (brightness * shares.one(i)) : color * brightness * shares.color(i);
            if (careful_) {
                const auto apart = load_lanes<real>(&arriving_[apart_lane][i]) > real(0);
                share = select(apart, share, rgb<real>(real(0)));
            }
            store<real>(sums, i, first ? share : load_color<real>(sums, i) + share);
        }
    }

    void add_light(const ready_light<float>& light, bool first, bool first_ambient) {
        set_light(light);
        let_arrive(light);
        run(program_.each_light, lanes_, points_.count);
        const float* const apart = arriving_[apart_lane].data();
        if (careful_) {
            for (const slot each : {slot::l, slot::v, slot::h, slot::r}) {
                look_for_faults(each, apart);
            }
            if (light.kind != light_kind::directional) {
                look_for_faults(slot::falloff, apart);
            }
            if (light.kind == light_kind::spot) {
                look_for_faults(slot::penumbra, apart);
            }
        } else {
            for (const slot each : {slot::l, slot::v, slot::h, slot::r}) {
                suspicious_ = suspicious_ || !all_finite(each);
            }
        }
        let_fall(light);
        if (has_part(light)) {
            add_ambient_part(light, first_ambient);
        }
        run(program_.arrived, lanes_, points_.count);
        add_share(slot::diffuse, light.color * light.diffuse, points_.lit, first);
        if (has(slot::specular)) {
            add_share(slot::specular, light.color * light.specular, points_.specular, first);
        }
        if (careful_) {
            look_for_faults(slot::diffuse, apart);
            look_for_faults(slot::specular, apart);
        }
    }

    // Points without a normal have no diffuse and no specular light, whatever a formula makes of it.
    void forgive_without_normal() {
        for (std::size_t i = 0; i < points_.count; ++i) {
            const vec3<float> n = points_.normal.vector(i);
            const auto which = static_cast<slot>(bad_[i] == 0 ? 0 : bad_[i] - 1);
            const bool of_normal = which == slot::diffuse || which == slot::specular || which == slot::h ||
                                   which == slot::r || which == slot::more;
            if (bad_[i] != 0 && dot(n, n) == 0 && of_normal) {
                bad_[i] = 0;
            }
        }
    }

    // The sum of the terms, in the two parts it has, into `tinted` and `untinted`.
    YURVO_FLATTENED void add_up(bool any_light, bool any_ambient) {
        const finish_settings<float> settings = request_.shade.settings;
        const surface<float> material = request_.shade.material;
        const bool own_base = points_.own_base;
        const rgb<real> none(real(0));
        // What stands for nothing is read and not used.
        const output factors = result(has(slot::ambient) ? slot::ambient : slot::diffuse);
        const output more = result(has(slot::more) ? slot::more : slot::diffuse);
        const real nothing(0);
        real watched(0); // stays 0 while all that is summed is finite
        const auto watch = [&](const rgb<real>& color) {
            watched = watched + nothing * color.r + nothing * color.g + nothing * color.b;
        };
        for (std::size_t i = 0; i < points_.count; i += step_of) {
            const surface<real> s = surface_at<real>(points_, i, own_base, material);
            const auto with_normal = dot(s.normal, s.normal) > real(0);
            reflected<real> sum;
            if (any_light) {
                watch(load_color<real>(points_.lit, i));
                sum.diffuse = select(with_normal, load_color<real>(points_.lit, i), none);
                if (has(slot::specular)) {
                    watch(load_color<real>(points_.specular, i));
                    sum.specular = select(with_normal, load_color<real>(points_.specular, i), none);
                }
            }
            surface<real> as_lit = s;
            if (has(slot::ambient)) {
                watch(factors.color(i));
                as_lit.ambient = as_lit.ambient * factors.color(i);
            }
            if (any_ambient) {
                sum.ambient = load_color<real>(points_.ambient, i);
                watch(sum.ambient);
            }
            outgoing<real> lit = finish_terms(as_lit, sum, settings);
            if (has(slot::more) && settings.terms.specular) {
                lit.untinted = lit.untinted + select(with_normal, more.color(i), none);
            }
            if (has(slot::more)) {
                watch(more.color(i));
            }
            store<real>(points_.tinted, i, lit.tinted);
            store<real>(points_.untinted, i, lit.untinted);
        }
        suspicious_ = suspicious_ || !all(watched == real(0));
    }

    void finish() {
        const std::size_t count = points_.count;
        if (has(slot::color)) {
            const std::array<float*, 3> c{lane_of(input::c, 0), lane_of(input::c, 1), lane_of(input::c, 2)};
            for (std::size_t i = 0; c[0] != nullptr && i < count; i += step_of) {
                const rgb<real> sum =
                    load_color<real>(points_.tinted, i) + load_color<real>(points_.untinted, i);
                store_lanes(c[0] + i, sum.r);
                store_lanes(c[1] + i, sum.g);
                store_lanes(c[2] + i, sum.b);
            }
            run(program_.finishing, lanes_, count);
            suspicious_ = suspicious_ || !all_finite(slot::color);
            if (careful_) {
                look_for_faults(slot::color, nullptr);
            }
            const output colors = result(slot::color);
            for (std::size_t i = 0; i < count; i += step_of) {
                store<real>(points_.tinted, i, rgb<real>(real(0)));
                store<real>(points_.untinted, i, colors.color(i));
            }
        }
    }

    void put_together() {
        if (!points_.in_parts) {
            for (std::size_t i = 0; i < points_.count; i += step_of) {
                store<real>(points_.lit, i,
                            load_color<real>(points_.tinted, i) + load_color<real>(points_.untinted, i));
            }
        }
    }

    void blacken() {
        for (std::size_t i = 0; i < points_.count; ++i) {
            if (bad_[i] != 0) {
                points_.tinted.put(i, rgb<float>());
                points_.untinted.put(i, rgb<float>());
                ++points_.not_finite[static_cast<std::size_t>(bad_[i] - 1)];
            }
        }
    }

  public:
    formula_run(const formula_request& request, const formula_room& room)
        : request_(request),
          program_(request.program),
          points_(request.shade.points),
          lanes_(room.placed),
          arriving_(*room.arriving) {
        for (std::size_t i = 0; i < program_.lanes; ++i) {
            lanes_[i] = room.lanes[i];
        }
    }

    void shade() {
        begin_points<formula>(points_, vec3<real>(request_.shade.eye));
        light();
        if (suspicious_) {
            careful_ = true;
            light();
        }
        if (any_bad_) {
            blacken();
        }
        put_together();
    }

  private:
    void light() {
        begin();
        bool first = true;
        bool first_ambient = true;
        for (const ready_light<float>* const lamp : request_.shade.lights) {
            add_light(*lamp, first, first_ambient);
            first = false;
            first_ambient = first_ambient && !has_part(*lamp);
        }
        if (careful_) {
            look_for_faults(slot::ambient, nullptr);
            look_for_faults(slot::more, nullptr);
            forgive_without_normal();
        }
        add_up(!first, !first_ambient);
        finish();
    }
};

} // namespace

formula_kernel YURVO_KERNELS() {
    return
        [](const formula_request& request, const formula_room& room) { formula_run(request, room).shade(); };
}

} // namespace yurvo::inline v0_1::pipeline::wide
