#include "verify/plain_lighting.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

constexpr double right_angle = pi / 2;
constexpr double infinity = std::numeric_limits<double>::infinity();

double magnitude(const vec3<double>& v) { return std::sqrt(v.x * v.x + v.y * v.y + v.z * v.z); }

vec3<double> direction(const vec3<double>& v) { return direction_of(v); }

} // namespace

double angle_between(const vec3<double>& a, const vec3<double>& b) {
    const vec3<double> square{a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
    return std::atan2(magnitude(square), a.x * b.x + a.y * b.y + a.z * b.z);
}

vec3<double> direction_of(const vec3<double>& v) {
    const double size = magnitude(v);
    return size > 0 ? vec3<double>{v.x / size, v.y / size, v.z / size} : vec3<double>{};
}

range cosine_over(double angle, double error) {
    if (error > 1e-3) {
        return over([](double at) { return std::cos(at); }, angle, error);
    }
    // By the sum of angles; what its series leave out of sine and cosine is less than error⁵ / 120 and error⁶
    // / 720, nothing in a double.
    const double squared = error * error;
    const double cosine = std::cos(angle);
    const double turned = std::sin(angle) * error * (1 - squared / 6 * (1 - squared / 20));
    const double kept = cosine * (1 - squared / 2 * (1 - squared / 12));
    const auto [least, most] = std::minmax({kept - turned, cosine, kept + turned});
    return {least, cosine, most};
}

namespace {

double fourth_power(double x) { return x * x * x * x; }

} // namespace

double falloff_of(const light& light, double d) {
    switch (light.falloff) {
    case falloff_kind::none:
        return 1;
    case falloff_kind::inverse_square:
        return 1 / (d * d);
    case falloff_kind::polynomial:
        return 1 / (light.coefficients[0] + light.coefficients[1] * d + light.coefficients[2] * d * d);
    case falloff_kind::linear:
        return d < light.range ? 1 - d / light.range : 0;
    case falloff_kind::windowed:
        return d < light.range ? (1 - fourth_power(d / light.range)) / (d * d) : 0;
    }
    return 0;
}

namespace {

double penumbra_of(const light& light, double theta) {
    if (light.penumbra == penumbra_kind::hard ||
        (light.penumbra != penumbra_kind::power && light.inner == light.outer)) {
        return theta <= light.outer ? 1 : 0;
    }
    if (light.penumbra == penumbra_kind::power) {
        return theta <= light.outer && theta < right_angle ? std::pow(std::cos(theta), light.exponent) : 0;
    }
    if (theta >= light.outer) {
        return 0;
    }
    if (theta <= light.inner) {
        return 1;
    }
    // (cos θ − cos outer) / (cos inner − cos outer) with each difference as a product of sines, which keeps
    // digits that subtracting would lose.
    const auto less = [&](double a, double b) { return 2 * std::sin((a + b) / 2) * std::sin((b - a) / 2); };
    const double t = less(theta, light.outer) / less(light.inner, light.outer);
    if (light.penumbra == penumbra_kind::squared) {
        return t * t;
    }
    return light.penumbra == penumbra_kind::smooth ? t * t * (3 - 2 * t) : t;
}

} // namespace

bool plain_light::ends_before(const vec3<double>& place) const {
    const bool ends = given.falloff == falloff_kind::linear || given.falloff == falloff_kind::windowed;
    if (!ends || given.kind == light_kind::directional) {
        return false;
    }
    // As in arrive_at(): d is known to u times the way from the eye to either end, and four times itself; the
    // place is no farther from the eye than the light and d together.
    const double farthest = (given.range + 2 * u * from_eye) * (1 + 8 * u);
    const vec3<double> whole = position - place;
    return whole.x * whole.x + whole.y * whole.y + whole.z * whole.z > farthest * farthest;
}

plain_arrival arrive_at(const plain_light& light, const vec3<double>& position, const vec3<double>& eye,
                        bool own_falloff, bool own_penumbra) {
    plain_arrival in;
    const double intensity = light.given.intensity;
    if (light.given.kind == light_kind::directional) {
        in.to_light = {-light.shines.x, -light.shines.y, -light.shines.z};
        in.to_light_error = 2 * u;
        in.brightness = range(intensity);
        in.ambient = range(1);
        return in;
    }
    const vec3<double> whole = light.position - position;
    const double d = magnitude(whole);
    if (d == 0) {
        in.there = false;
        return in;
    }
    // Both ends are measured from the eye and rounded there, their difference once more.
    const double moved = u * (magnitude(position - eye) + magnitude(light.position - eye) + d);
    in.to_light = direction(whole);
    in.to_light_error = moved / d + 2 * u;
    // The distance is rounded in its square, its root and the sum of squares; the law's own operations are
    // fewer than eight.
    in.distance = range(d - moved - 3 * u * d, d, d + moved + 3 * u * d);
    range by_distance(1);
    if (!own_falloff) {
        by_distance = over([&](double at) { return falloff_of(light.given, std::max(at, 1e-300)); }, d,
                           moved + 3 * u * d)
                          .widened(8 * u);
    }
    in.falloff = by_distance;
    in.brightness = range(intensity) * by_distance;
    in.ambient = light.given.follows == ambient_follows::nothing ? range(1) : by_distance;
    if (light.given.kind == light_kind::spot) {
        const double theta = angle_between({-in.to_light.x, -in.to_light.y, -in.to_light.z}, light.shines);
        // l and the axis are rounded; so is the versine, relatively, which is half of that in the angle; and
        // so are the borders.
        const double error = in.to_light_error + 2 * u + 4 * u * theta + 2 * u * light.given.outer;
        const double exponent = light.given.penumbra == penumbra_kind::power ? light.given.exponent : 0;
        range by_angle(1);
        if (!own_penumbra) {
            const auto at = [&](double angle) { return penumbra_of(light.given, std::abs(angle)); };
            by_angle = theta - error > light.given.outer ? range(0)
                                                         : over(at, theta, error).widened((8 + exponent) * u);
            // Whoever takes the angle itself may find the border, where light stops at once, a little beside.
            const bool stops =
                light.given.penumbra == penumbra_kind::hard || light.given.penumbra == penumbra_kind::power;
            if (stops && std::abs(theta - light.given.outer) <= error + light.angle_off) {
                by_angle.low = 0;
                by_angle.high = std::max(by_angle.high, at(std::min(theta, light.given.outer)));
            }
        }
        in.penumbra = by_angle;
        in.cos_theta = cosine_over(theta, error) + range(-2 * u, 0, 2 * u); // 1 less the versine
        if (theta < error) {
            in.cos_theta.high = 1 + 2 * u;
        }
        in.brightness = in.brightness * by_angle;
        if (light.given.follows == ambient_follows::cone) {
            in.ambient = in.ambient * by_angle;
        }
    }
    return in;
}

namespace {

// cos^shininess of an angle, and only where the light is in front.
range highlight(double angle, double error, double shininess, const range& in_front) {
    if (in_front.high == 0) {
        return {};
    }
    const range cosine = cosine_over(angle, error);
    const auto logarithm = [](double of) { return of > 0 ? std::log(of) : -infinity; };
    const auto power = [&](double log_of) {
        return shininess == 0 && log_of == -infinity ? 0.0 : std::exp(shininess * log_of);
    };
    const double log_here = logarithm(cosine.value);
    // exp rounds its argument, shininess × log cos, relatively.
    const double argument = cosine.value > 0 ? -shininess * log_here : 0;
    range value = range(power(logarithm(cosine.low)), power(log_here), power(logarithm(cosine.high)))
                      .widened((6 + 3 * argument) * u);
    if (angle < error) {
        value.high = 1 + 6 * u; // the peak lies within the interval
    }
    return value * in_front;
}

range3 with_rounding(const range3& span, double operations) {
    return {span.r.widened(operations * u), span.g.widened(operations * u), span.b.widened(operations * u)};
}

} // namespace

plain_lighting::plain_lighting(const scene& the_scene, double angle_off) : scene_(the_scene) {
    // View space spelled out: the pipeline's camera is not asked.
    const vec3<double> backward = direction(the_scene.view.eye - the_scene.view.target);
    const vec3<double> right =
        direction({the_scene.view.up.y * backward.z - the_scene.view.up.z * backward.y,
                   the_scene.view.up.z * backward.x - the_scene.view.up.x * backward.z,
                   the_scene.view.up.x * backward.y - the_scene.view.up.y * backward.x});
    const vec3<double> above{backward.y * right.z - backward.z * right.y,
                             backward.z * right.x - backward.x * right.z,
                             backward.x * right.y - backward.y * right.x};
    const auto turned = [&](const vec3<double>& v) { return v.x * right + v.y * above + v.z * backward; };
    for (const named_light& named : the_scene.lights) {
        plain_light light{named.light, named.light.position, named.light.shines};
        if (named.space == light_space::view) {
            light.position = the_scene.view.eye + turned(light.position);
            light.shines = turned(light.shines);
        }
        light.shines = direction(light.shines);
        light.from_eye = magnitude(light.position - the_scene.view.eye);
        light.angle_off = angle_off;
        lights_.push_back(light);
    }
    read_formulas();
}

std::vector<std::string> plain_lighting::derivation(const vec3<double>& position) const {
    const auto text = [](double value) { return short_number(value, 3); };
    std::vector<std::string> lines;
    for (std::size_t i = 0; i < lights_.size() && i < 8; ++i) {
        const plain_light& light = lights_[i];
        const std::string label = label_of(scene_.lights[i], i);
        if (light.given.kind == light_kind::directional) {
            lines.push_back(label + ": its direction is rounded, 2u = " + text(2 * u) + " radians.");
            continue;
        }
        const plain_arrival in = arrive_at(light, position, scene_.view.eye);
        const double d = magnitude(light.position - position);
        lines.push_back(label + ", " + text(d) +
                        " m away: both ends are rounded, so to_light turns by up to " +
                        text(in.to_light_error) + " radians, and what arrives is " +
                        text(in.brightness.value) + " ± " + text(in.brightness.tolerance()) + ".");
    }
    if (lights_.size() > 8) {
        lines.push_back("... and " + std::to_string(lights_.size() - 8) + " lights more.");
    }
    return lines;
}

// The reflection lies as far behind the normal as the light is before it.
range phong_highlight(const plain_point& point, const vec3<double>& to_light, const vec3<double>& to_eye,
                      const point_errors& errors, double shininess, const range& in_front) {
    const double cos_angle = std::cos(angle_between(point.normal, to_light));
    const vec3<double> r = 2 * cos_angle * point.normal - to_light;
    const double off = angle_between(r, to_eye);
    const double off_error = 2 * errors.normal + errors.to_light + 8 * u + 2 * u * off;
    return highlight(off, off_error, shininess, in_front);
}

// None where light and eye lie in opposite directions, which leaves no direction between.
range half_highlight(const plain_point& point, const vec3<double>& to_light, const vec3<double>& to_eye,
                     const point_errors& errors, double shininess, const range& in_front) {
    const vec3<double> sum = to_light + to_eye;
    const double size = magnitude(sum);
    if (size == 0) {
        return {};
    }
    const double off = angle_between(point.normal, sum);
    const double off_error = errors.normal + (errors.to_light + 4 * u) / size + 4 * u + 2 * u * off;
    return highlight(off, off_error, shininess, in_front);
}

namespace {

// `gradient` is the sum of brightness times cosine; `facing` the cosine between normal and eye.
plain_lit cel_lit(const cel_settings& cel, const range& gradient, double facing, double facing_error,
                  const range3& base) {
    const auto band = [&](double at) {
        std::size_t i = 0;
        while (i < cel.thresholds.size() && cel.thresholds[i] <= std::min(at, 1.0)) {
            ++i;
        }
        return cel.bands[i];
    };
    const auto spread = [](double a, double b, double c) {
        return range(std::min({a, b, c}), b, std::max({a, b, c}));
    };
    // A threshold is rounded to float as well.
    const double step = u;
    const rgb<double> low = band(gradient.low - step);
    const rgb<double> mid = band(gradient.value);
    const rgb<double> high = band(gradient.high + step);
    const range3 color =
        range3(spread(low.r, mid.r, high.r), spread(low.g, mid.g, high.g), spread(low.b, mid.b, high.b)) *
        range(1);
    const range outlined =
        over([&](double at) { return at < cel.outline ? 1.0 : 0.0; }, facing, facing_error);
    const range inside(1 - outlined.high, 1 - outlined.value, 1 - outlined.low);
    return {with_rounding(color * base, 2) * inside, range3(cel.outline_color) * outlined};
}

} // namespace

plain_lighting::light_sums plain_lighting::sum_lights(const plain_point& point, const vec3<double>& to_eye,
                                                      double shininess) const {
    const model_kind model = scene_.shading.model;
    light_sums sums;
    for (const plain_light& light : lights_) {
        if (light.ends_before(point.position)) {
            continue;
        }
        const plain_arrival in = arrive_at(light, point.position, scene_.view.eye);
        if (in.brightness.high == 0) {
            continue;
        }
        const double angle = angle_between(point.normal, in.to_light);
        const double error = point.normal_error + in.to_light_error + 3 * u;
        if (angle - error >= right_angle) {
            continue;
        }
        const range cosine = larger(cosine_over(angle, error), range(0));
        sums.gradient = sums.gradient + in.brightness * cosine;
        const range3 arriving = range3(light.given.color) * in.brightness;
        sums.diffuse = sums.diffuse + arriving * range3(light.given.diffuse) * cosine;
        if (model != model_kind::phong && model != model_kind::blinn_phong) {
            continue;
        }
        const range in_front = over([](double at) { return at < right_angle ? 1.0 : 0.0; }, angle, error);
        const point_errors errors{point.normal_error, in.to_light_error};
        sums.specular = sums.specular +
                        arriving * range3(light.given.specular) *
                            (model == model_kind::phong
                                 ? phong_highlight(point, in.to_light, to_eye, errors, shininess, in_front)
                                 : half_highlight(point, in.to_light, to_eye, errors, shininess, in_front));
    }
    return sums;
}

plain_lit plain_lighting::light_point(const plain_point& point, const material& look) const {
    if (scene_.shading.own.model != nullptr) {
        return light_by_own_model(point, look);
    }
    if (by_formulas_) {
        return light_by_formulas(point, look);
    }
    const shading_choice& shading = scene_.shading;
    const range3 base = with_rounding(point.base, 1);
    if (shading.model == model_kind::unlit) {
        return {base, {}};
    }
    const vec3<double> to_eye = direction(scene_.view.eye - point.position);
    const bool has_normal = magnitude(point.normal) > 0;
    const light_sums sums = has_normal ? sum_lights(point, to_eye, look.shininess) : light_sums{};
    // Additions over the lights, and the products with the factors.
    const double operations = 6 + static_cast<double>(lights_.size());
    if (shading.model == model_kind::cel) {
        const double facing = has_normal ? std::cos(angle_between(point.normal, to_eye)) : 0;
        return cel_lit(shading.cel, sums.gradient.widened(operations * u), facing, point.normal_error + 6 * u,
                       base);
    }
    range3 ambient_light = range3(scene_.ambient_color) * range(scene_.ambient_strength);
    for (const plain_light& light : lights_) {
        const bool follows = light.given.follows != ambient_follows::nothing;
        if (has_ambient(light.given) && // of a surface that has no normal, too
            !(follows && light.ends_before(point.position))) {
            ambient_light = ambient_light + range3(light.given.color * light.given.ambient, 3 * u) *
                                                range(light.given.intensity) *
                                                arrive_at(light, point.position, scene_.view.eye).ambient;
        }
    }
    const range3 ambient = ambient_light * range3(look.ambient);
    const range3 lit = sums.diffuse * range3(look.diffuse);
    const range3 both = shading.ambient_rule == ambient_rule::max ? larger(ambient, lit) : ambient + lit;
    return {with_rounding(both, operations) * base,
            with_rounding(sums.specular * range3(look.specular) + range3(look.emission), operations)};
}

} // namespace yurvo::inline v0_1::verify
