#include "verify/plain_numbers.hpp"

#include <limits>

namespace yurvo::inline v0_1::verify {

namespace {

constexpr double half_turn = 3.14159265358979323846;
// What the elementary functions of a batch may be off by, in units of roundoff; a test holds them to it.
constexpr double of_function = 4;

// One number out of one, two or three; sets `doubtful` where float may find none.
using function_of_ranges = range (*)(const three_ranges& x, bool& doubtful);

// A wave that is 1 at the multiples of a whole turn from `crest` on.
range wave(const range& x, double crest, double value) {
    double low = std::min(std::cos(x.low - crest), std::cos(x.high - crest));
    double high = std::max(std::cos(x.low - crest), std::cos(x.high - crest));
    const auto holds = [&](double from) { // some x is `from` and whole turns
        const double turn = 2 * half_turn;
        return std::floor((x.high - from) / turn) > std::floor((x.low - from) / turn) ||
               std::remainder(x.low - from, turn) == 0;
    };
    high = holds(crest) ? 1 : high;
    low = holds(crest + half_turn) ? -1 : low;
    const double room = of_function * u + u * std::max(std::abs(x.low), std::abs(x.high));
    return {low - room, value, high + room};
}

range tangent(const range& x, bool& doubtful) {
    const double first = std::floor((x.low + half_turn / 2) / half_turn);
    const double last = std::floor((x.high + half_turn / 2) / half_turn);
    if (first != last) {
        doubtful = true;
        return {-largest_float, std::tan(x.value), largest_float};
    }
    const auto room = [&](double at) {
        return (1 + std::tan(at) * std::tan(at)) * (of_function * u + u * std::abs(at));
    };
    return {std::tan(x.low) - room(x.low), std::tan(x.value), std::tan(x.high) + room(x.high)};
}

template <class Function> range arc(Function&& function, const range& x, bool& doubtful, bool falls) {
    doubtful = doubtful || x.low < -1 || x.high > 1;
    const double a = function(std::clamp(x.low, -1.0, 1.0));
    const double b = function(std::clamp(x.high, -1.0, 1.0));
    const range result = falls ? range(b, function(x.value), a) : range(a, function(x.value), b);
    const double room = of_function * u + of_function * u * result.magnitude();
    return {result.low - room, result.value, result.high + room};
}

range power(const range& x, const range& y, bool& doubtful) {
    const double none = std::numeric_limits<double>::quiet_NaN();
    const double value = x.value < 0 && y.value != 0 ? none : std::pow(x.value, y.value);
    if (y.low == 0 && y.high == 0) {
        return {1, 1, 1};
    }
    doubtful = doubtful || x.low < 0 || (x.low <= 0 && y.low <= 0);
    const double low = std::max(x.low, 0.0);
    const double high = std::max(x.high, 0.0);
    const auto corner = [&](double base, double exponent) {
        return std::min(std::pow(base, exponent), largest_float);
    };
    double least = corner(low, y.low);
    double most = corner(high, y.low);
    if (least > most) {
        std::swap(least, most);
    }
    if (y.low != y.high) {
        const auto [least_too, most_too] = std::minmax({corner(low, y.high), corner(high, y.high)});
        least = std::min(least, least_too);
        most = std::max(most, most_too);
    }
    // exp rounds its argument, y · ln x, relatively; so does the logarithm.
    const auto room = [&](double of) {
        const double argument = of > 0 ? std::abs(std::log(of)) : 0;
        return of * (6 + 4 * argument) * u + least_float;
    };
    return {std::max(0.0, least - room(least)), value, most + room(most)};
}

range exponential(double (*function)(double), const range& x, double argument_scale) {
    const auto end = [&](double at) { return std::min(function(at), largest_float * 2); };
    const double room = (of_function + 2 * argument_scale * x.magnitude()) * u;
    return range(end(x.low), function(x.value), end(x.high)).widened(room);
}

range logarithm(double (*function)(double), const range& x, bool& doubtful) {
    doubtful = doubtful || x.low <= 0;
    const double low = x.low > 0 ? function(x.low) : -largest_float;
    const double high = x.high > 0 ? function(x.high) : -largest_float;
    return rounded({low, function(x.value), high}, of_function);
}

// What steps at whole numbers.
range stepped(double (*function)(double), const range& x) { return rising(function, x); }

range fraction(const range& x) {
    const double value = x.value - std::floor(x.value);
    if (std::floor(x.low) != std::floor(x.high)) {
        return {0, value, 1};
    }
    return rounded({x.low - std::floor(x.low), value, x.high - std::floor(x.high)});
}

range lesser(const range& x, const range& y) {
    return {std::min(x.low, y.low), y.value < x.value ? y.value : x.value, std::min(x.high, y.high)};
}
range greater(const range& x, const range& y) {
    return {std::max(x.low, y.low), x.value < y.value ? y.value : x.value, std::max(x.high, y.high)};
}

// x − y · floor(x / y): off by whole steps where the quotient is near a whole number.
range modulo(const range& x, const range& y, bool& doubtful) {
    const double value = x.value - y.value * std::floor(x.value / y.value);
    const range quotient = divided(x, y, doubtful);
    if (std::floor(quotient.low) != std::floor(quotient.high)) {
        return {std::min(0.0, y.low) - u * x.magnitude(), value, std::max(0.0, y.high) + u * x.magnitude()};
    }
    const double turns = std::floor(quotient.low);
    range result = rounded(x - rounded(y * range(turns)));
    result.value = value;
    return result;
}

range smooth_step(const range& low, const range& high, const range& x, bool& doubtful) {
    const double a = low.value;
    const double b = high.value;
    if (a == b && low.low == low.high && high.low == high.high) {
        return truth(x.low < a, x.value >= a, x.high >= a);
    }
    const range width = rounded(high - low);
    if (crosses(width, 0)) {
        const double t = a == b ? (x.value < a ? 0 : 1) : std::clamp((x.value - a) / (b - a), 0.0, 1.0);
        return {0, t * t * (3 - 2 * t), 1};
    }
    const range t = greater(range(0), lesser(range(1), divided(rounded(x - low), width, doubtful)));
    return rounded(rising([](double at) { return at * at * (3 - 2 * at); }, t), 5);
}

range itself(const three_ranges& x, bool& /*doubtful*/) { return x[0]; }

// Component by component.
struct named_function {
    std::string_view name;
    function_of_ranges of;
};
constexpr std::array<named_function, 27> functions{{
    {"radians", [](const auto& x, bool&) { return rounded(x[0] * range(half_turn / 180), 2); }},
    {"degrees", [](const auto& x, bool&) { return rounded(x[0] * range(180 / half_turn), 2); }},
    {"sin", [](const auto& x, bool&) { return wave(x[0], half_turn / 2, std::sin(x[0].value)); }},
    {"cos", [](const auto& x, bool&) { return wave(x[0], 0, std::cos(x[0].value)); }},
    {"tan", [](const auto& x, bool& d) { return tangent(x[0], d); }},
    {"asin",
     [](const auto& x, bool& d) { return arc([](double at) { return std::asin(at); }, x[0], d, false); }},
    {"acos",
     [](const auto& x, bool& d) { return arc([](double at) { return std::acos(at); }, x[0], d, true); }},
    {"pow", [](const auto& x, bool& d) { return power(x[0], x[1], d); }},
    {"exp", [](const auto& x, bool&) { return exponential(std::exp, x[0], 1); }},
    {"log", [](const auto& x, bool& d) { return logarithm(std::log, x[0], d); }},
    {"exp2", [](const auto& x, bool&) { return exponential(std::exp2, x[0], 0.7); }},
    {"log2", [](const auto& x, bool& d) { return logarithm(std::log2, x[0], d); }},
    {"sqrt", [](const auto& x, bool& d) { return square_root(x[0], d); }},
    {"inversesqrt", [](const auto& x, bool& d) { return divided(range(1), square_root(x[0], d), d); }},
    {"abs", [](const auto& x, bool&) { return absolute(x[0]); }},
    {"sign",
     [](const auto& x, bool&) {
         return rising([](double at) { return at > 0 ? 1.0 : at < 0 ? -1.0 : 0.0; }, x[0]);
     }},
    {"floor", [](const auto& x, bool&) { return stepped(std::floor, x[0]); }},
    {"ceil", [](const auto& x, bool&) { return stepped(std::ceil, x[0]); }},
    {"fract", [](const auto& x, bool&) { return fraction(x[0]); }},
    {"mod", [](const auto& x, bool& d) { return modulo(x[0], x[1], d); }},
    {"min", [](const auto& x, bool&) { return lesser(x[0], x[1]); }},
    {"max", [](const auto& x, bool&) { return greater(x[0], x[1]); }},
    {"clamp", [](const auto& x, bool&) { return lesser(greater(x[0], x[1]), x[2]); }},
    {"mix", [](const auto& x,
               bool&) { return rounded(rounded(x[0] * rounded(range(1) - x[2])) + rounded(x[1] * x[2])); }},
    {"step",
     [](const auto& x, bool&) {
         return truth(x[1].low < x[0].high, x[1].value >= x[0].value, x[1].high >= x[0].low);
     }},
    {"smoothstep", [](const auto& x, bool& d) { return smooth_step(x[0], x[1], x[2], d); }},
    {"float", itself},
}};

} // namespace

std::optional<std::size_t> number_function(std::string_view name) {
    const auto found =
        std::find_if(functions.begin(), functions.end(), [&](const auto& each) { return each.name == name; });
    return found == functions.end() ? std::nullopt
                                    : std::optional(static_cast<std::size_t>(found - functions.begin()));
}

range of_numbers(std::size_t which, const three_ranges& x, bool& doubtful) {
    return functions[which].of(x, doubtful);
}

range arc_of_tangent(const range& x) {
    return rounded(rising([](double at) { return std::atan(at); }, x), of_function);
}

range arc_of_two(const range& y, const range& x) {
    const double value = std::atan2(y.value, x.value);
    if (crosses(y, 0) && x.low <= 0) { // the cut, or the middle
        return {-half_turn * (1 + 4 * u), value, half_turn * (1 + 4 * u)};
    }
    const auto [least, most] = std::minmax({std::atan2(y.low, x.low), std::atan2(y.low, x.high),
                                            std::atan2(y.high, x.low), std::atan2(y.high, x.high)});
    return rounded({least, value, most}, of_function + 2);
}

} // namespace yurvo::inline v0_1::verify
