#include "program/written_cones.hpp"

#include <algorithm>
#include <cmath>
#include <cstddef>

#include "yurvo/formula/evaluate.hpp"
#include "yurvo/shading/arrive.hpp"

namespace yurvo::inline v0_1::program {

namespace {

constexpr double inner = 0.45;
constexpr double outer = 0.8;
constexpr double exponent = 3;
constexpr double beside = 0.02; // of an edge, radians
constexpr double alike = 1e-9;
constexpr int steps = 60;

double angle_of(int step) { return pi * step / steps; }

double given_at(const formulas::expression& penumbra, const std::vector<formulas::named_number>& numbers,
                double theta) {
    std::vector<formulas::components> all(formulas::input_count, formulas::components{0.5, 0.5, 0.5, 0.5});
    const auto set = [&](formulas::input which, double to) { all[formulas::index_of(which)][0] = to; };
    set(formulas::input::cos_theta, std::cos(theta));
    set(formulas::input::cos_inner, std::cos(inner));
    set(formulas::input::cos_outer, std::cos(outer));
    set(formulas::input::inner, inner);
    set(formulas::input::outer, outer);
    set(formulas::input::exponent, exponent);
    set(formulas::input::pi, pi);
    for (const formulas::named_number& each : numbers) {
        formulas::components values{};
        std::copy_n(each.values.begin(), std::min(each.values.size(), values.size()), values.begin());
        all.push_back(values);
    }
    return formulas::evaluate(penumbra, all)[0];
}

bool is_one_of_the_laws(const std::vector<double>& given) {
    return std::any_of(penumbra_list.begin(), penumbra_list.end(), [&](const auto& law) {
        light lamp;
        lamp.kind = light_kind::spot;
        lamp.shines = {0, 0, -1};
        lamp.penumbra = law.kind;
        lamp.inner = inner;
        lamp.outer = outer;
        lamp.exponent = exponent;
        const ready_light<double> ready = make_ready<double>(lamp);
        for (int step = 0; step <= steps; ++step) {
            const double theta = angle_of(step);
            const vec3<double> to_light{std::sin(theta), 0, std::cos(theta)};
            const double expected = penumbra_at<formula, double>(ready, to_light, ready.law());
            if (!(std::abs(given[static_cast<std::size_t>(step)] - expected) < alike)) {
                return false;
            }
        }
        return true;
    });
}

} // namespace

bool is_a_cone_of_its_own(const formulas::expression& penumbra,
                          const std::vector<formulas::named_number>& numbers) {
    std::vector<double> given;
    for (int step = 0; step <= steps; ++step) {
        given.push_back(given_at(penumbra, numbers, angle_of(step)));
    }
    const bool falls = std::adjacent_find(given.begin(), given.end(), [](double nearer, double further) {
                           return !(further <= nearer + alike); // no number does not fall
                       }) == given.end();
    const auto at = [&](double theta) { return given_at(penumbra, numbers, theta); };
    const bool whole_within = at(inner - beside) > 1 - alike && at(inner + beside) < 1 - alike;
    const bool ends = at(outer - beside) > alike && at(outer + beside) < alike;
    const auto asks_for = [&](formulas::input which) { return penumbra.uses(formulas::index_of(which)); };
    const bool by_inner = asks_for(formulas::input::inner) || asks_for(formulas::input::cos_inner);
    const bool by_outer = asks_for(formulas::input::outer) || asks_for(formulas::input::cos_outer);
    return falls && given.back() > -alike && std::abs(given.front() - 1) < alike && (by_inner || by_outer) &&
           (!by_inner || whole_within) && (!by_outer || ends) && !is_one_of_the_laws(given);
}

} // namespace yurvo::inline v0_1::program
