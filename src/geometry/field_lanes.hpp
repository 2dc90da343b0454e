// field_lanes: many rays at an implicit surface at once, each a lane of loops that a compiler turns into
// batches. A lane's digits are the same whatever the others hold, and however wide the batches are.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <limits>

#include "geometry/simple_fields.hpp"

namespace yurvo::inline v0_1::field_lanes {

inline constexpr std::size_t most = 64; // rays at once
using lane = std::array<double, most>;
// Loops go over whole batches of the widest kind: what lies beyond the last ray is of no use.
constexpr std::size_t whole_batches(std::size_t count) {
    constexpr std::size_t batch = 8;
    return (count + batch - 1) / batch * batch;
}
struct alignas(64) vectors {
    lane x, y, z;
};

// What the rays are cast at: plain data, as it goes to code for every instruction set.
struct surface {
    const field_part* parts = nullptr;
    std::size_t count = 0; // at least one
    double blend = 0;

    explicit surface(const field& of) : parts(of.parts.data()), count(of.parts.size()), blend(of.blend) {}
};

// The distances at places, and how they change.
struct alignas(64) values {
    lane distance;
    vectors gradient;
};

inline void find_distances(const surface& of, const vectors& at, std::size_t count, lane& into) {
    for (std::size_t p = 0; p < of.count; ++p) {
        const field_part part = of.parts[p]; // a copy, which nothing that is written can change
        const double blend = of.blend;
        with_simple_field(part.kind, [&](auto kind) {
            const auto distance_at = [&](std::size_t l) {
                return kind.distance(part, vec3<double>{at.x[l], at.y[l], at.z[l]} - part.position);
            };
            if (p == 0) {
                for (std::size_t l = 0; l < count; ++l) {
                    into[l] = distance_at(l);
                }
            } else {
                for (std::size_t l = 0; l < count; ++l) {
                    into[l] = blended(into[l], distance_at(l), blend);
                }
            }
        });
    }
}

inline void find_values(const surface& of, const vectors& at, std::size_t count, values& into) {
    for (std::size_t p = 0; p < of.count; ++p) {
        const field_part part = of.parts[p]; // as above
        const double blend = of.blend;
        with_simple_field(part.kind, [&](auto kind) {
            const auto value_at = [&](std::size_t l) {
                const vec3<double> from_middle = vec3<double>{at.x[l], at.y[l], at.z[l]} - part.position;
                return field_value{kind.distance(part, from_middle), kind.gradient(part, from_middle)};
            };
            const auto put = [&](std::size_t l, const field_value& value) {
                into.distance[l] = value.distance;
                into.gradient.x[l] = value.gradient.x;
                into.gradient.y[l] = value.gradient.y;
                into.gradient.z[l] = value.gradient.z;
            };
            if (p == 0) {
                for (std::size_t l = 0; l < count; ++l) {
                    put(l, value_at(l));
                }
            } else {
                for (std::size_t l = 0; l < count; ++l) {
                    const field_value before{into.distance[l],
                                             {into.gradient.x[l], into.gradient.y[l], into.gradient.z[l]}};
                    put(l, blended(before, value_at(l), blend));
                }
            }
        });
    }
}

// from + t · along.
inline void find_places(const vec3<double>& from, const vectors& along, const lane& t, std::size_t count,
                        vectors& into) {
    const vec3<double> start = from;
    for (std::size_t l = 0; l < count; ++l) {
        into.x[l] = start.x + along.x[l] * t[l];
        into.y[l] = start.y + along.y[l] * t[l];
        into.z[l] = start.z + along.z[l] * t[l];
    }
}

// Places near the surface moved onto it, along the rays, by Newton's method.
inline void polish(const surface& of, const vec3<double>& from, const vectors& along, std::size_t count,
                   lane& t) {
    vectors at;                      // NOLINT: written before it is read, as all lanes are here
    values here;                     // NOLINT
    alignas(64) lane shortest_slope; // NOLINT
    alignas(64) lane moving;         // NOLINT
    for (std::size_t l = 0; l < count; ++l) {
        // Where the ray only grazes, the slope says nothing.
        shortest_slope[l] = 1e-6 * length(vec3<double>{along.x[l], along.y[l], along.z[l]});
        moving[l] = 1;
    }
    for (int step = 0; step < 4; ++step) {
        find_places(from, along, t, count, at);
        find_values(of, at, count, here);
        for (std::size_t l = 0; l < count; ++l) {
            const double slope = here.gradient.x[l] * along.x[l] + here.gradient.y[l] * along.y[l] +
                                 here.gradient.z[l] * along.z[l];
            const bool ends = here.distance[l] == 0 || std::abs(slope) < shortest_slope[l];
            moving[l] = ends ? 0 : moving[l];
            const double moved = t[l] - here.distance[l] / slope;
            t[l] = moving[l] > 0 ? moved : t[l];
        }
    }
}

// Rays from one place.
struct alignas(64) bundle {
    std::size_t count = 0; // at most `most`
    vec3<double> from;
    double farthest = 0;
    vectors along; // of any length but zero
    lane nearest;  // from there on
    lane met;      // where each first meets the surface; infinity where it does not
};

// Lanes beyond the last, up to a whole batch, are the first once more.
inline void fill_up(lane& of, std::size_t count) {
    for (std::size_t l = count; l < whole_batches(count); ++l) {
        of[l] = of[0];
    }
}
inline void fill_up(vectors& of, std::size_t count) {
    fill_up(of.x, count);
    fill_up(of.y, count);
    fill_up(of.z, count);
}

inline constexpr double unmet = std::numeric_limits<double>::infinity();

// Marches a bundle. Those that are still on their way lie side by side; what comes near the surface waits
// until nothing else is, and is polished together.
class marching {
    // What is known of each ray that is on its way, or waits.
    struct alignas(64) rays {
        std::size_t count = 0;
        vectors along;
        lane t, last, before, unit;
        lane asked;  // 1: has been polished where it is, and does not meet anything there
        lane steps;  // so far
        lane across; // of those that wait: 1 where the surface was crossed, 0 where it is close
        std::array<std::uint16_t, most> number;

        void take(const rays& other, std::size_t from) {
            const std::size_t to = count++;
            along.x[to] = other.along.x[from];
            along.y[to] = other.along.y[from];
            along.z[to] = other.along.z[from];
            t[to] = other.t[from];
            last[to] = other.last[from];
            before[to] = other.before[from];
            unit[to] = other.unit[from];
            asked[to] = other.asked[from];
            steps[to] = other.steps[from];
            across[to] = other.across[from];
            number[to] = other.number[from];
        }
        void leave_out(std::size_t at) {
            const std::size_t last_one = --count;
            if (at != last_one) {
                count = at;
                take(*this, last_one);
                count = last_one;
            }
        }
    };

    const surface of_;
    bundle& all_;
    rays going_, waiting_;
    vectors at_;
    alignas(64) lane now_;
    alignas(64) std::array<std::int64_t, most> what_; // becomes of those on their way
    double size_;                                     // of the surface's box, across
    double close_; // near enough for Newton's method to go on from; a ray that grazes comes so near too

    static constexpr double most_steps = 2000;
    static constexpr std::int64_t goes_on = 0, ends = 1, waits = 2;

    void start(const bounds& box) {
        const vec3<double> from = all_.from;
        const double room = 1e-6 * size_;
        const std::array<double, 3> starts{from.x, from.y, from.z};
        const std::array<double, 3> lows{box.low.x - room, box.low.y - room, box.low.z - room};
        const std::array<double, 3> highs{box.high.x + room, box.high.y + room, box.high.z + room};
        fill_up(all_.along, all_.count);
        fill_up(all_.nearest, all_.count);
        const std::size_t count = whole_batches(all_.count);
        for (std::size_t l = 0; l < count; ++l) {
            going_.t[l] = all_.nearest[l];
            going_.last[l] = all_.farthest;
            going_.unit[l] = length(vec3<double>{all_.along.x[l], all_.along.y[l], all_.along.z[l]});
            all_.met[l] = unmet;
        }
        const std::array<const lane*, 3> directions{&all_.along.x, &all_.along.y, &all_.along.z};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double low = lows[axis] - starts[axis];
            const double high = highs[axis] - starts[axis];
            const double beside = low > 0 || high < 0 ? -unmet : unmet; // of rays that run along the box
            const lane& direction = *directions[axis];
            for (std::size_t l = 0; l < count; ++l) {
                const bool none = direction[l] == 0;
                const double a = low / direction[l];
                const double b = high / direction[l];
                const double enters = none ? -unmet : min(a, b);
                const double leaves = none ? beside : max(a, b);
                going_.t[l] = max(going_.t[l], enters);
                going_.last[l] = min(going_.last[l], leaves);
            }
        }
        for (std::size_t l = 0; l < count; ++l) {
            going_.asked[l] = 0;
            going_.steps[l] = 0;
            going_.before[l] = 0;
        }
        going_.along = all_.along;
        for (std::size_t l = 0; l < all_.count; ++l) {
            going_.number[l] = static_cast<std::uint16_t>(l);
            what_[l] = going_.t[l] <= going_.last[l] ? goes_on : ends;
        }
        going_.count = all_.count;
        sort_out(0);
        const std::size_t left = whole_batches(going_.count);
        find_places(all_.from, going_.along, going_.t, left, at_);
        find_distances(of_, at_, left, going_.before);
    }

    // Takes those out whose lanes of what_ say so.
    void sort_out(double across) {
        std::int64_t any = 0;
        for (std::size_t l = 0; l < going_.count; ++l) {
            any |= what_[l];
        }
        if (any == goes_on) {
            return;
        }
        for (std::size_t l = going_.count; l-- > 0;) {
            if (what_[l] != goes_on) {
                if (what_[l] == waits) {
                    going_.across[l] = across;
                    waiting_.take(going_, l);
                }
                going_.leave_out(l);
            }
        }
    }

    void go() {
        const double size = size_; // a copy, which nothing that is written can change
        const double close = close_;
        while (going_.count > 0) {
            const std::size_t count = whole_batches(going_.count);
            for (std::size_t l = 0; l < count; ++l) {
                const bool near = std::abs(going_.before[l]) <= close && going_.asked[l] == 0;
                const bool over = going_.t[l] > going_.last[l] || going_.steps[l] >= most_steps;
                what_[l] = over ? ends : near ? waits : goes_on;
            }
            sort_out(0);
            const std::size_t left = whole_batches(going_.count);
            for (std::size_t l = 0; l < left; ++l) {
                // Never less than a little: past what is grazed, and past what is cut off by `nearest`.
                going_.t[l] += max(std::abs(going_.before[l]), close) / going_.unit[l];
                going_.asked[l] = 0;
                going_.steps[l] += 1;
            }
            find_places(all_.from, going_.along, going_.t, left, at_);
            find_distances(of_, at_, left, now_);
            for (std::size_t l = 0; l < left; ++l) {
                const double lower = min(now_[l], going_.before[l]);
                const double upper = max(now_[l], going_.before[l]);
                const double past_end = going_.t[l] - going_.last[l];
                what_[l] = lower < 0 && upper >= 0 && past_end <= size ? waits : goes_on;
                going_.before[l] = now_[l];
            }
            sort_out(1);
        }
    }

    // Those that wait: met, or on their way again.
    void ask() {
        alignas(64) lane met = waiting_.t; // NOLINT: as many lanes of it as are written
        fill_up(waiting_.along, waiting_.count);
        fill_up(met, waiting_.count);
        const std::size_t count = whole_batches(waiting_.count);
        polish(of_, all_.from, waiting_.along, count, met);
        find_places(all_.from, waiting_.along, met, count, at_);
        find_distances(of_, at_, count, now_);
        for (std::size_t l = 0; l < waiting_.count; ++l) {
            const double unit = waiting_.unit[l];
            const bool on_surface = std::abs(now_[l]) <= 1e-12 * (size_ + unit * met[l]) &&
                                    std::abs(met[l] - waiting_.t[l]) * unit <= 1e-2 * size_;
            const std::uint16_t number = waiting_.number[l];
            if ((waiting_.across[l] > 0 || on_surface) && met[l] >= all_.nearest[number] &&
                met[l] <= all_.farthest) {
                all_.met[number] = met[l];
            } else {
                waiting_.asked[l] = waiting_.across[l] > 0 ? 0 : 1;
                going_.take(waiting_, l);
            }
        }
        waiting_.count = 0;
    }

  public:
    // All lanes are written before they are read.
    marching(const surface& of, const bounds& box, bundle& all) // NOLINT
        : of_(of), all_(all), size_(length(box.high - box.low)), close_(1e-7 * size_) {
        start(box);
        go();
        while (waiting_.count > 0) {
            ask();
            go();
        }
    }
};

} // namespace yurvo::inline v0_1::field_lanes
