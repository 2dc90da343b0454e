// A point lit by a C++ model that the program was built with. The second method knows nothing of what is in
// it, only what it answers: it is asked in double, with inputs that this method worked out, and again with
// each input moved by what float may have made of it. What the answers move by, added up, is the interval.
#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <limits>
#include <optional>
#include <type_traits>
#include <utility>
#include <vector>

#include "verify/plain_lighting.hpp"
#include "yurvo/shading/ready_light.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// Each input is moved by twice its error, and by what a few operations inside the model round it by: a model
// whose own rounding is no worse than a change of its inputs by that much stays within. Twice, because a step
// (a gate, a band) is crossed by all inputs together, and they are moved one by one.
double moved_by(double error) { return 2 * (error + 4 * u); }

rgb<double> distance_of(const rgb<double>& a, const rgb<double>& b) {
    return {std::abs(a.r - b.r), std::abs(a.g - b.g), std::abs(a.b - b.b)};
}

range around(double value, double error) { return {value - error, value, value + error}; }
range3 around(const rgb<double>& value, const rgb<double>& error) {
    return {around(value.r, error.r), around(value.g, error.g), around(value.b, error.b)};
}

// The light with all its numbers, as a model may ask for them; positions are measured from the eye.
ready_light<double> told(const plain_light& light, const vec3<double>& eye) {
    const yurvo::light& given = light.given;
    ready_light<double> lamp;
    lamp.kind = given.kind;
    lamp.falloff = given.falloff;
    lamp.penumbra = given.penumbra;
    lamp.position = light.position - eye;
    lamp.axis = light.shines;
    lamp.to_light = {-light.shines.x, -light.shines.y, -light.shines.z};
    lamp.color = given.color;
    lamp.intensity = given.intensity;
    lamp.k0 = given.coefficients[0];
    lamp.k1 = given.coefficients[1];
    lamp.k2 = given.coefficients[2];
    lamp.range = given.range;
    lamp.exponent = given.exponent;
    lamp.inner_versine = 1 - std::cos(given.inner);
    lamp.outer_versine = 1 - std::cos(given.outer);
    lamp.ambient = given.color * given.intensity * given.ambient;
    lamp.diffuse = given.diffuse;
    lamp.specular = given.specular;
    lamp.whole = !has_parts(given);
    lamp.follows = given.follows;
    const std::array<double, 3> coefficients = coefficients_of(given);
    lamp.coefficients = {coefficients[0], coefficients[1], coefficients[2]};
    if (given.kind != light_kind::directional) {
        lamp.seen_range = given.range;
    }
    if (given.kind == light_kind::spot) {
        lamp.inner = given.inner;
        lamp.outer = given.outer;
        lamp.cos_inner = std::cos(given.inner);
        lamp.cos_outer = std::cos(given.outer);
        lamp.seen_exponent = given.exponent;
    }
    return lamp;
}

// Two directions across a unit one.
std::array<vec3<double>, 2> across(const vec3<double>& v) {
    const vec3<double> other = std::abs(v.x) < 0.6 ? vec3<double>{1, 0, 0} : vec3<double>{0, 1, 0};
    const vec3<double> first = direction_of(cross(v, other));
    return {first, cross(v, first)};
}

// Calls use(moved) with one of v's neighbours after another: turned, and of another length, since a dot
// product's rounding is that of a factor's length.
template <class Use> void neighbours(const vec3<double>& v, double angle, const Use& use) {
    for (const vec3<double>& to : across(v)) {
        for (const double by : {-angle, angle}) {
            use(direction_of(v + by * to));
        }
    }
    for (const double by : {-moved_by(0), moved_by(0)}) {
        use((1 + by) * v);
    }
}

// The answers of one model, and by how much they move.
template <class Answer> struct spread {
    std::function<Answer(const surface<double>&)> ask;
    Answer value;
    Answer error{};

    spread(std::function<Answer(const surface<double>&)> how, const surface<double>& at)
        : ask(std::move(how)), value(ask(at)) {}

    // The larger of two movements, of one input both ways.
    static void grow(Answer& most, const Answer& moved, const Answer& from) {
        if constexpr (std::is_same_v<Answer, reflected<double>>) {
            most.diffuse = max(most.diffuse, distance_of(moved.diffuse, from.diffuse));
            most.specular = max(most.specular, distance_of(moved.specular, from.specular));
        } else {
            most.tinted = max(most.tinted, distance_of(moved.tinted, from.tinted));
            most.untinted = max(most.untinted, distance_of(moved.untinted, from.untinted));
        }
    }
    void add(const Answer& most) {
        if constexpr (std::is_same_v<Answer, reflected<double>>) {
            error.diffuse = error.diffuse + most.diffuse;
            error.specular = error.specular + most.specular;
        } else {
            error.tinted = error.tinted + most.tinted;
            error.untinted = error.untinted + most.untinted;
        }
    }
    void move(const std::vector<Answer>& moved) {
        Answer most{};
        for (const Answer& each : moved) {
            grow(most, each, value);
        }
        add(most);
    }
    // The point itself: its normal, its way to the eye, its place, its numbers.
    void move_surface(const surface<double>& at, const plain_point& point) {
        std::vector<Answer> moved;
        const auto with = [&](auto change) {
            surface<double> other = at;
            change(other);
            moved.push_back(ask(other));
        };
        const auto flush = [&] {
            move(moved);
            moved.clear();
        };
        if (dot(at.normal, at.normal) > 0) {
            neighbours(at.normal, moved_by(point.normal_error), [&](const vec3<double>& n) {
                with([&](surface<double>& other) { other.normal = n; });
            });
            flush();
        }
        neighbours(at.to_eye, moved_by(4 * u),
                   [&](const vec3<double>& v) { with([&](surface<double>& other) { other.to_eye = v; }); });
        flush();
        const double far = std::hypot(at.position.x, at.position.y, at.position.z);
        for (const vec3<double>& axis : {vec3<double>{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}) {
            for (const double by : {-moved_by(2 * u) * far, moved_by(2 * u) * far}) {
                with([&](surface<double>& other) { other.position = other.position + by * axis; });
            }
            flush();
        }
        const double of_base =
            std::max({relative(point.base.r), relative(point.base.g), relative(point.base.b)});
        for (const double sign : {-1.0, 1.0}) {
            with([&](surface<double>& other) { other.base = other.base * (1 + sign * moved_by(of_base)); });
        }
        flush();
        for (const double sign : {-1.0, 1.0}) {
            with([&](surface<double>& other) {
                other.shininess = other.shininess * (1 + sign * moved_by(0));
            });
        }
        flush();
    }
    static double relative(const range& x) { return x.value != 0 ? x.tolerance() / std::abs(x.value) : 0; }
};

// One point under one model: what its lights add up to, and by how much that may be off.
class modelled_point {
    const scene& scene_;
    const point_model& model_;
    const plain_point& point_;
    double operations_; // by which sums over the lights are rounded
    surface<double> at_;
    reflected<double> sum_, error_;

    void add(rgb<double> reflected<double>::*part, const rgb<double>& value, const rgb<double>& off) {
        sum_.*part = sum_.*part + value;
        error_.*part = error_.*part + off + magnitude(value) * (operations_ * u);
    }
    static rgb<double> magnitude(const rgb<double>& value) {
        return {std::abs(value.r), std::abs(value.g), std::abs(value.b)};
    }

    // What the light brings, moved one input at a time.
    void move_arrival(spread<reflected<double>>& answers, const arrival<double>& brings,
                      const plain_arrival& in, const rgb<double>& color) const {
        std::vector<reflected<double>> moved;
        const auto ask = [&](auto change) {
            arrival<double> other = brings;
            change(other);
            moved.push_back(model_.reflect(at_, other));
        };
        const auto done = [&] {
            answers.move(moved);
            moved.clear();
        };
        neighbours(in.to_light, moved_by(in.to_light_error),
                   [&](const vec3<double>& l) { ask([&](arrival<double>& other) { other.to_light = l; }); });
        done();
        for (const double bound : {in.brightness.low, in.brightness.high}) {
            const double off = bound - in.brightness.value;
            ask([&](arrival<double>& other) {
                other.brightness += 2 * off + std::copysign(8 * u * in.brightness.magnitude(), off);
                other.light = color * other.brightness;
            });
        }
        done();
        for (const double sign : {-1.0, 1.0}) {
            if (std::isfinite(brings.distance)) {
                ask([&](arrival<double>& other) {
                    other.distance += sign * (2 * in.distance.tolerance() + 8 * u * brings.distance);
                });
            }
        }
        done();
    }

  public:
    modelled_point(const scene& of, const plain_point& point, const material& look, std::size_t lights)
        : scene_(of),
          model_(*of.shading.own.model),
          point_(point),
          operations_(8 + static_cast<double>(lights)) {
        at_.position = point.position - of.view.eye;
        at_.normal = point.normal;
        at_.to_eye = direction_of(of.view.eye - point.position);
        at_.base = {point.base.r.value, point.base.g.value, point.base.b.value};
        at_.ambient = look.ambient;
        at_.diffuse = look.diffuse;
        at_.specular = look.specular;
        at_.shininess = look.shininess;
        at_.emission = look.emission;
        at_.eye = of.view.eye;
        at_.axis = direction_of(of.view.eye - of.view.target);
        at_.front = point.front ? 1 : 0;
    }

    void add_light(const plain_light& light) {
        const plain_arrival in = arrive_at(light, point_.position, scene_.view.eye);
        const ready_light<double> lamp = told(light, scene_.view.eye);
        arrival<double> brings;
        brings.brightness = in.there ? in.brightness.value : 0;
        brings.light = light.given.color * brings.brightness;
        brings.to_light = in.to_light;
        brings.distance = in.there ? in.distance.value : 0;
        if (light.given.kind == light_kind::directional) {
            brings.distance = std::numeric_limits<double>::infinity();
        }
        brings.lamp = &lamp;
        if (has_ambient(light.given) && in.there) {
            const std::optional<double> follows = model_.follows(at_, brings);
            const range factor = follows ? around(*follows, 16 * u * std::abs(*follows)) : in.ambient;
            const rgb<double> part = light.given.color * light.given.ambient * light.given.intensity;
            add(&reflected<double>::ambient, part * factor.value, part * factor.tolerance());
        }
        if (dot(point_.normal, point_.normal) == 0) {
            return;
        }
        spread<reflected<double>> answers([&](const surface<double>& s) { return model_.reflect(s, brings); },
                                          at_);
        answers.move_surface(at_, point_);
        if (in.there) {
            move_arrival(answers, brings, in, light.given.color);
        }
        add(&reflected<double>::diffuse, answers.value.diffuse * light.given.diffuse,
            answers.error.diffuse * light.given.diffuse);
        add(&reflected<double>::specular, answers.value.specular * light.given.specular,
            answers.error.specular * light.given.specular);
    }

    [[nodiscard]] plain_lit finish() const {
        const finish_settings<double> settings{
            scene_.ambient_color * scene_.ambient_strength, scene_.shading.ambient_rule, {}};
        spread<outgoing<double>> answers(
            [&](const surface<double>& s) { return model_.finish(s, sum_, settings); }, at_);
        answers.move_surface(at_, point_);
        for (const auto part :
             {&reflected<double>::diffuse, &reflected<double>::specular, &reflected<double>::ambient}) {
            std::vector<outgoing<double>> moved;
            for (const double sign : {-1.0, 1.0}) {
                reflected<double> other = sum_;
                other.*part = other.*part + error_.*part * sign;
                moved.push_back(model_.finish(at_, other, settings));
            }
            answers.move(moved);
        }
        const auto rounded = [&](const rgb<double>& value, const rgb<double>& off) {
            return around(value, off + magnitude(value) * (operations_ * u));
        };
        return {rounded(answers.value.tinted, answers.error.tinted),
                rounded(answers.value.untinted, answers.error.untinted)};
    }
};

} // namespace

plain_lit plain_lighting::light_by_own_model(const plain_point& point, const material& look) const {
    modelled_point lit(scene_, point, look, lights_.size());
    if (scene_.shading.own.model->needs_lights()) {
        for (const plain_light& light : lights_) {
            lit.add_light(light);
        }
    }
    return lit.finish();
}

} // namespace yurvo::inline v0_1::verify
