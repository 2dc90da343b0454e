#include "verify/makeup.hpp"

#include <cmath>

#include <Eigen/Cholesky>
#include <Eigen/Core>

#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// A layer weaker than this, in errors of a sample summed in squares over all samples, is left out: its factor
// would be known to no better than one part in this.
constexpr double least_seen = 30;
// How near a factor must be to a number to be called that.
constexpr double near_enough = 0.02;

// A factor of 1 may come out off by `room`: nothing is said of it then.
std::string suggestion(const std::string& term, double factor, double room, std::size_t lights) {
    const auto is = [&](double value) {
        return std::abs(factor - value) <= near_enough * std::max(1.0, value);
    };
    if (is(1) || std::abs(factor - 1) <= room) {
        return "";
    }
    if (is(0)) {
        return "it is missing";
    }
    if (is(1 / pi)) {
        return "it is divided by π";
    }
    if (is(pi)) {
        return "it is multiplied by π";
    }
    if (term == "ambient" && lights > 1 && is(static_cast<double>(lights))) {
        return "it is added once for each of " + std::to_string(lights) + " lights";
    }
    if (is(-1)) {
        return "it is subtracted";
    }
    if (factor < 0) {
        return "it takes light away: the picture has another shape than this term";
    }
    for (const double whole : {2.0, 3.0, 4.0}) {
        if (is(whole)) {
            return "it is counted " + short_number(whole, 1) + " times";
        }
        if (is(1 / whole)) {
            return "it is divided by " + short_number(whole, 1);
        }
    }
    return factor < 1 ? "it is too dim" : "it is too bright";
}

struct layer_of_light {
    std::string light, term;
};

} // namespace

bool has_makeup(const scene& the_scene, const point_model* own) {
    const bool terms = own != nullptr ? !own->has_own_finish() : yurvo::model_of(the_scene).sums_terms;
    const bool curved = own == nullptr && the_scene.formulas.has(formulas::slot::color);
    return terms && !curved && the_scene.shading.ambient_rule == ambient_rule::add;
}

makeup makeup_of(const point_painter& painter, const scene& the_scene,
                 const std::vector<makeup_sample>& samples) {
    std::vector<layer_of_light> layers{{"", "ambient"}, {"", "emission"}};
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        layers.push_back({label_of(the_scene.lights[i], i), "diffuse"});
        layers.push_back({label_of(the_scene.lights[i], i), "specular"});
        layers.push_back({label_of(the_scene.lights[i], i), "ambient"});
    }
    if (the_scene.formulas.has(formulas::slot::more)) {
        layers.push_back({"", "more"});
    }
    const auto unknowns = static_cast<Eigen::Index>(layers.size());
    const auto equations = static_cast<Eigen::Index>(3 * samples.size());
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(equations, unknowns);
    Eigen::VectorXd b = Eigen::VectorXd::Zero(equations);
    for (std::size_t s = 0; s < samples.size(); ++s) {
        const explanation report = painter.explain(samples[s].x, samples[s].y);
        const auto put = [&](Eigen::Index column, const rgb<double>& value) {
            const auto row = static_cast<Eigen::Index>(3 * s);
            a(row, column) = value.r * samples[s].weight.r;
            a(row + 1, column) = value.g * samples[s].weight.g;
            a(row + 2, column) = value.b * samples[s].weight.b;
        };
        put(0, report.point.ambient);
        put(1, report.point.emission);
        for (std::size_t i = 0; i < report.point.lights.size(); ++i) {
            put(static_cast<Eigen::Index>(2 + 3 * i), report.point.lights[i].diffuse);
            put(static_cast<Eigen::Index>(3 + 3 * i), report.point.lights[i].specular);
            put(static_cast<Eigen::Index>(4 + 3 * i), report.point.lights[i].ambient);
        }
        if (the_scene.formulas.has(formulas::slot::more)) {
            put(unknowns - 1, report.point.more);
        }
        const auto row = static_cast<Eigen::Index>(3 * s);
        b(row) = samples[s].linear.r * samples[s].weight.r;
        b(row + 1) = samples[s].linear.g * samples[s].weight.g;
        b(row + 2) = samples[s].linear.b * samples[s].weight.b;
    }
    // What is left of the picture when every factor is 1, explained by changes of the factors. A touch of
    // ridge keeps those at 0 that the picture does not decide.
    const Eigen::VectorXd left = b - a * Eigen::VectorXd::Ones(unknowns);
    Eigen::VectorXd trust = Eigen::VectorXd::Ones(equations);
    Eigen::VectorXd change = Eigen::VectorXd::Zero(unknowns);
    for (int round = 0; round < 4; ++round) {
        const Eigen::MatrixXd weighted = a.transpose() * trust.asDiagonal();
        Eigen::MatrixXd normal = weighted * a;
        const double ridge = 1e-7 * normal.trace() / static_cast<double>(unknowns) + 1e-30;
        normal.diagonal().array() += ridge;
        change = normal.ldlt().solve(weighted * left);
        // Huber's weights: beyond twice its error a sample counts less.
        const Eigen::VectorXd off = (left - a * change).cwiseAbs();
        trust = off.unaryExpr([](double value) { return value <= 2 ? 1 : 2 / value; });
    }
    makeup result;
    const Eigen::VectorXd off = (left - a * change).cwiseAbs();
    result.fits = static_cast<double>((off.array() <= 3).count()) / static_cast<double>(equations);
    for (Eigen::Index i = 0; i < unknowns; ++i) {
        if (a.col(i).norm() < least_seen) {
            continue;
        }
        makeup_part part;
        part.light = layers[static_cast<std::size_t>(i)].light;
        part.term = layers[static_cast<std::size_t>(i)].term;
        part.factor = 1 + change(i);
        // Codes round alike wherever a colour is: if every sample is off by its whole error, the factor of a
        // layer alone is off by the sum of its values over the sum of their squares. What is missing is told
        // all the same.
        const double room = std::min(0.5, a.col(i).lpNorm<1>() / a.col(i).squaredNorm());
        part.suggests = suggestion(part.term, part.factor, room, the_scene.lights.size());
        result.parts.push_back(std::move(part));
    }
    return result;
}

} // namespace yurvo::inline v0_1::verify
