// plain_lighting's part about formulas of one's own: the same point lit with what they say.
#include <algorithm>
#include <atomic>
#include <cmath>

#include "verify/plain_lighting.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

using formulas::slot;

// What formulas may ask for.
namespace name {
const plain_name axis("axis"), base("base"), c("c"), coefficients("coefficients"), cos_inner("cos_inner"),
    cos_outer("cos_outer"), cos_theta("cos_theta"), d("d"), emission("emission"), exponent("exponent"),
    eye("eye"), front("front"), h("h"), inner("inner"), l("l"), light("light"), light_color("light_color"),
    material_ambient("material_ambient"), material_diffuse("material_diffuse"),
    material_specular("material_specular"), n("n"), outer("outer"), pi("pi"), position("position"), r("r"),
    range("range"), shininess("shininess"), v("v");
} // namespace name

// A number as float has it: rounded once.
range as_float(double number) {
    const auto rounded = static_cast<double>(static_cast<float>(number));
    return {std::min(number, rounded), number, std::max(number, rounded)};
}
plain_value as_float(const rgb<double>& c) { return range3(as_float(c.r), as_float(c.g), as_float(c.b)); }
plain_value as_float(const vec3<double>& v) { return range3(as_float(v.x), as_float(v.y), as_float(v.z)); }

// A vector each component of which may be off by so much.
plain_value known_to(const vec3<double>& v, double error) {
    const auto around = [&](double at) { return range(at - error, at, at + error); };
    return range3(around(v.x), around(v.y), around(v.z));
}

range3 color_of(const plain_value& value) { return {value.at(0), value.at(1), value.at(2)}; }

vec3<double> middle_of(const plain_value& v) {
    return {v.components[0].value, v.components[1].value, v.components[2].value};
}
double error_of(const plain_value& v) {
    double most = 0;
    for (std::size_t i = 0; i < 3; ++i) {
        most = std::max(most, v.components[i].tolerance());
    }
    return most;
}

range3 rounded_color(const range3& color, double operations) {
    return {color.r.widened(operations * u), color.g.widened(operations * u),
            color.b.widened(operations * u)};
}

// Partial sums may be larger than the whole: `magnitude` is what was added up, signs left out.
range with_room(const range& sum, double room) { return {sum.low - room, sum.value, sum.high + room}; }

} // namespace

// One point on its way.
struct plain_lighting::formula_point {
    const plain_point& surface;
    const material& look;
    vec3<double> to_eye;
    bool has_normal = true;
    plain_names& once; // what is known without a light, and of the light that is added
    range3 ambient, diffuse, specular;
    rgb<double> magnitude; // of what was added to diffuse and specular
    bool fails = false, doubtful = false;
};

void plain_lighting::read_formulas() {
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        if (scene_.formulas.has(each.which)) {
            const plain_formula& read =
                formulas_[static_cast<std::size_t>(each.which)].emplace(scene_.formulas[each.which]);
            by_formulas_ = true;
            for (const plain_name name : read.names()) {
                asked_for_.resize(std::max(asked_for_.size(), name.number() + 1), 0);
                asked_for_[name.number()] = 1;
            }
        }
    }
    for (const formulas::named_number& each : scene_.numbers) {
        plain_value value;
        value.width = each.values.size();
        for (std::size_t i = 0; i < each.values.size(); ++i) {
            value.components[i] = as_float(each.values[i]);
        }
        constants_[plain_name(each.name)] = value;
    }
    constants_[name::pi] = as_float(3.14159265358979323846);
    constants_[name::eye] = as_float(scene_.view.eye);
    constants_[name::axis] = known_to(direction_of(scene_.view.eye - scene_.view.target), 2 * u);
    plain_names once = constants_;
    for (const plain_name& each :
         {name::n, name::v, name::position, name::base, name::material_ambient, name::material_diffuse,
          name::material_specular, name::emission, name::shininess, name::front}) {
        once[each] = plain_value();
    }
    v_of_the_eye_ = has(slot::v) && of(slot::v)->asks_only(once);
    static std::atomic<std::uint64_t> numbered = 0;
    number_ = ++numbered;
}

plain_value plain_lighting::asked(slot place, const plain_names& known, formula_point& at) const {
    plain_value result = of(place)->evaluate(known);
    at.fails = at.fails || result.fails();
    at.doubtful = at.doubtful || result.doubtful;
    return result;
}

// l, v, h and r, each given anew where there is a formula for it; where there is for none, those that are
// asked for.
void plain_lighting::give_directions(plain_names& known, const vec3<double>& to_light, double to_light_error,
                                     formula_point& at) const {
    const bool anew = gives_directions_anew();
    const bool half_asked = anew || asks_for(name::h);
    const bool mirrored_asked = anew || asks_for(name::r);
    if (!half_asked && !mirrored_asked && !asks_for(name::l) && !asks_for(name::v)) {
        return;
    }
    known[name::l] = known_to(to_light, to_light_error + u);
    if (has(slot::l)) {
        known[name::l] = asked(slot::l, known, at);
    }
    known[name::v] = known_to(at.to_eye, 4 * u);
    if (has(slot::v)) {
        known[name::v] = asked(slot::v, known, at);
    }
    const vec3<double> l = middle_of(known[name::l]);
    if (half_asked) {
        const vec3<double> sum = l + middle_of(known[name::v]);
        const double size = std::hypot(sum.x, sum.y, sum.z);
        known[name::h] =
            known_to(direction_of(sum),
                     size > 0 ? (error_of(known[name::l]) + error_of(known[name::v])) * 2 / size + 4 * u : 1);
        if (has(slot::h)) {
            known[name::h] = asked(slot::h, known, at);
        }
    }
    if (mirrored_asked) {
        const vec3<double>& n = at.surface.normal;
        const vec3<double> r = 2 * dot(n, l) * n - l;
        const double length = std::hypot(l.x, l.y, l.z);
        known[name::r] = known_to(r, 4 * length * (at.surface.normal_error + u) +
                                         3 * error_of(known[name::l]) + 8 * u * length);
        if (has(slot::r)) {
            known[name::r] = asked(slot::r, known, at);
        }
    }
}

// The model's own highlight where a vector was given anew, and may have any length: cosines as they are.
plain_value plain_lighting::default_specular(const plain_names& known, formula_point& at) const {
    static const plain_formula phong("dot(n, l) > 0.0 ? pow(max(dot(r, v), 0.0), shininess) : 0.0");
    static const plain_formula blinn("dot(n, l) > 0.0 ? pow(max(dot(n, h), 0.0), shininess) : 0.0");
    const plain_value result = (scene_.shading.model == model_kind::phong ? phong : blinn).evaluate(known);
    at.fails = at.fails || result.fails();
    at.doubtful = at.doubtful || result.doubtful;
    return result;
}

// What formulas ask about a light.
void plain_lighting::give_numbers_of(const plain_light& light, const plain_arrival& in,
                                     plain_names& known) const {
    const bool placed = light.given.kind != light_kind::directional;
    const bool spot = light.given.kind == light_kind::spot;
    const auto give = [&](plain_name name, auto&& value) {
        if (asks_for(name)) {
            known[name] = value();
        }
    };
    const auto of_spot = [&](double number, double otherwise) {
        return [=] { return as_float(spot ? number : otherwise); };
    };
    give(name::coefficients, [&] {
        const bool given = light.given.coefficients != std::array<double, 3>{};
        vec3<double> k{1, 0, 0};
        if (placed && (given || light.given.falloff == falloff_kind::polynomial)) {
            k = {light.given.coefficients[0], light.given.coefficients[1], light.given.coefficients[2]};
        } else if (placed && light.given.falloff == falloff_kind::inverse_square) {
            k = {0, 0, 1};
        }
        return as_float(k);
    });
    give(name::light_color, [&] { return range3(light.given.color * light.given.intensity, 3 * u); });
    give(name::d, [&] { return in.distance; });
    give(name::range, [&] { return as_float(placed ? light.given.range : 0); });
    give(name::inner, of_spot(light.given.inner, 0));
    give(name::outer, of_spot(light.given.outer, 0));
    give(name::cos_inner, [&] { return as_float(spot ? std::cos(light.given.inner) : 1); });
    give(name::cos_outer, [&] { return as_float(spot ? std::cos(light.given.outer) : 1); });
    give(name::exponent, of_spot(light.given.exponent, 0));
    give(name::cos_theta, [&] { return in.cos_theta; });
}

void plain_lighting::add_light(const plain_light& light, formula_point& at) const {
    const bool placed = light.given.kind != light_kind::directional;
    const bool spot = light.given.kind == light_kind::spot;
    const bool own_falloff = placed && has(slot::falloff);
    const bool own_penumbra = spot && has(slot::penumbra);
    plain_arrival in = arrive_at(light, at.surface.position, scene_.view.eye, own_falloff, own_penumbra);
    if (!in.there) {
        return;
    }
    plain_names& known = at.once; // what is of a light is that of the next one then; nothing once asks for it
    give_numbers_of(light, in, known);
    give_directions(known, in.to_light, in.to_light_error, at);
    range falloff = in.falloff;
    range penumbra = in.penumbra;
    if (own_falloff) {
        falloff = asked(slot::falloff, known, at).at(0);
    }
    if (own_penumbra) {
        penumbra = asked(slot::penumbra, known, at).at(0);
    }
    if (own_falloff || own_penumbra) {
        in.brightness = (range(light.given.intensity) * falloff * penumbra).widened(3 * u);
        in.ambient = !placed || light.given.follows == ambient_follows::nothing ? range(1)
                     : light.given.follows == ambient_follows::cone             ? falloff * penumbra
                                                                                : falloff;
    }
    if (has_ambient(light.given)) {
        at.ambient = at.ambient + range3(light.given.color * light.given.ambient, 3 * u) *
                                      range(light.given.intensity) * in.ambient;
    }
    if (!at.has_normal) {
        return;
    }
    const range3 arriving = rounded_color(range3(light.given.color) * in.brightness, 2);
    known[name::light] = arriving;
    const bool anew = gives_directions_anew();
    const point_errors errors{at.surface.normal_error, in.to_light_error};
    const double angle = angle_between(at.surface.normal, in.to_light);
    const double error = errors.normal + errors.to_light + 3 * u;
    const double right_angle = std::acos(0.0);
    plain_value diffuse;
    if (has(slot::diffuse)) {
        diffuse = asked(slot::diffuse, known, at);
    } else if (has(slot::l)) {
        static const plain_formula cosine("max(dot(n, l), 0.0)");
        diffuse = cosine.evaluate(known);
    } else {
        diffuse = larger(cosine_over(angle, error), range(0));
    }
    plain_value specular(range(0));
    const bool phong = scene_.shading.model == model_kind::phong;
    if (has(slot::specular)) {
        specular = asked(slot::specular, known, at);
    } else if (phong || scene_.shading.model == model_kind::blinn_phong) {
        if (anew) {
            specular = default_specular(known, at);
        } else {
            const range in_front =
                over([&](double to) { return to < right_angle ? 1.0 : 0.0; }, angle, error);
            specular = (phong ? phong_highlight : half_highlight)(at.surface, in.to_light, at.to_eye, errors,
                                                                  at.look.shininess, in_front);
        }
    }
    const range3 lit = rounded_color(arriving * range3(light.given.diffuse) * color_of(diffuse), 3);
    const range3 shining = rounded_color(arriving * range3(light.given.specular) * color_of(specular), 3);
    at.diffuse = at.diffuse + lit;
    at.specular = at.specular + shining;
    at.magnitude = at.magnitude + rgb<double>(lit.r.magnitude() + shining.r.magnitude(),
                                              lit.g.magnitude() + shining.g.magnitude(),
                                              lit.b.magnitude() + shining.b.magnitude());
}

plain_lit plain_lighting::light_by_formulas(const plain_point& point, const material& look) const {
    // Kept from one point to the next: what is of a point, or of a light, is given anew before it is asked
    // for.
    static thread_local plain_names known_here;
    static thread_local std::uint64_t known_of = 0;
    if (known_of != number_) {
        known_here = constants_;
        known_of = number_;
    }
    formula_point at{point, look, direction_of(scene_.view.eye - point.position), true, known_here, {}, {},
                     {},    {}};
    const vec3<double> from_eye = point.position - scene_.view.eye;
    const double distance = std::hypot(from_eye.x, from_eye.y, from_eye.z);
    const double away = std::hypot(point.position.x, point.position.y, point.position.z);
    at.has_normal = dot(point.normal, point.normal) > 0;
    const auto give = [&](plain_name name, const plain_value& value) {
        if (asks_for(name)) {
            at.once[name] = value;
        }
    };
    at.once[name::n] = known_to(point.normal, point.normal_error + u);
    at.once[name::v] = known_to(at.to_eye, 4 * u);
    at.once[name::shininess] = as_float(look.shininess);
    give(name::position, known_to(point.position, u * (2 * distance + 2 * away)));
    give(name::base, point.base);
    give(name::material_ambient, as_float(look.ambient));
    give(name::material_diffuse, as_float(look.diffuse));
    give(name::material_specular, as_float(look.specular));
    give(name::emission, as_float(look.emission));
    give(name::front, range(point.front ? 1 : 0));
    at.ambient = range3(scene_.ambient_color) * range(scene_.ambient_strength);
    for (const plain_light& light : lights_) {
        add_light(light, at);
    }
    plain_names& known = at.once;
    known[name::v] = known_to(at.to_eye, 4 * u);
    if (v_of_the_eye_) { // known to what is asked once
        known[name::v] = of(slot::v)->evaluate(known);
    }
    range3 ambient = at.ambient * range3(look.ambient);
    if (has(slot::ambient)) {
        ambient = rounded_color(ambient * color_of(asked(slot::ambient, known, at)), 2);
    }
    const double operations = 6 + static_cast<double>(lights_.size());
    const rgb<double> room = at.magnitude * (operations * u);
    const auto summed = [&](const range3& sum) {
        return range3(with_room(sum.r, room.r), with_room(sum.g, room.g), with_room(sum.b, room.b));
    };
    const range3 lit = summed(at.diffuse) * range3(look.diffuse);
    const range3 both =
        scene_.shading.ambient_rule == ambient_rule::max ? larger(ambient, lit) : ambient + lit;
    range3 tinted = rounded_color(rounded_color(both, operations) * rounded_color(point.base, 1), 1);
    range3 untinted =
        rounded_color(summed(at.specular) * range3(look.specular) + range3(look.emission), operations);
    if (has(slot::more) && at.has_normal) {
        untinted = rounded_color(untinted + color_of(asked(slot::more, known, at)), 2);
    }
    if (has(slot::color)) {
        known[name::c] = rounded_color(tinted + untinted, 1);
        untinted = color_of(asked(slot::color, known, at));
        tinted = {};
    }
    if (at.fails) {
        return {};
    }
    if (at.doubtful) { // black where float finds no number
        const auto or_black = [](const range& x) {
            const double most = std::max(std::abs(x.value), 1e-30);
            return range(std::min(std::max(x.low, -2 * most), 0.0), x.value,
                         std::max(std::min(x.high, 2 * most), 0.0));
        };
        tinted = {or_black(tinted.r), or_black(tinted.g), or_black(tinted.b)};
        untinted = {or_black(untinted.r), or_black(untinted.g), or_black(untinted.b)};
    }
    return {tinted, untinted};
}

} // namespace yurvo::inline v0_1::verify
