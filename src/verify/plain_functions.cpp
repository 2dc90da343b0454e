// What formulas call: functions and operators on numbers with the intervals in which float would leave them.
#include "verify/plain_functions.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <limits>

namespace yurvo::inline v0_1::verify {

namespace {

constexpr double u = unit_roundoff;
constexpr double half_turn = 3.14159265358979323846;
constexpr double largest_float = 3.4028234663852886e38;
// Smaller numbers are flushed to 0.
constexpr double least_float = 1.1754943508222875e-38;
// What the elementary functions of a batch may be off by, in units of roundoff; a test holds them to it.
constexpr double of_function = 4;

const range unit_span(-1, 0, 1);
const range everything(-largest_float, 0, largest_float);

// As float rounds what comes out of one operation.
range rounded(const range& exact, double operations = 1) {
    const auto room = [&](double end) {
        return std::abs(end) * operations * u + (end == 0 ? 0 : least_float);
    };
    return {exact.low - room(exact.low), exact.value, exact.high + room(exact.high)};
}

bool crosses(const range& x, double border) { return x.low <= border && x.high >= border; }
range hull(const range& a, const range& b, double value) {
    return {std::min(a.low, b.low), value, std::max(a.high, b.high)};
}
range truth(bool can_be_false, bool value, bool can_be_true) {
    return {can_be_false ? 0.0 : 1.0, value ? 1.0 : 0.0, can_be_true ? 1.0 : 0.0};
}
bool may_hold(const range& x) { return x.high != 0; }
bool may_not_hold(const range& x) { return x.low == 0; }

// One number out of one, two or three; sets `doubtful` where float may find none.
using function_of_ranges = range (*)(const std::array<range, 3>& x, bool& doubtful);

// A function that rises all the way.
template <class Function> range rising(Function&& function, const range& x) {
    return {function(x.low), function(x.value), function(x.high)};
}

range square_root(const range& x, bool& doubtful) {
    doubtful = doubtful || x.low < 0;
    return rounded({std::sqrt(std::max(x.low, 0.0)), std::sqrt(x.value), std::sqrt(std::max(x.high, 0.0))});
}

range divided(const range& a, const range& b, bool& doubtful) {
    if (crosses(b, 0)) {
        doubtful = true;
        range result = everything;
        result.value = a.value / b.value;
        return result;
    }
    const auto [least, most] = std::minmax({a.low / b.low, a.low / b.high, a.high / b.low, a.high / b.high});
    return rounded({least, a.value / b.value, most});
}

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
        range result = everything;
        result.value = std::tan(x.value);
        return result;
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

range arc_of_two(const range& y, const range& x) {
    const double value = std::atan2(y.value, x.value);
    if (crosses(y, 0) && x.low <= 0) { // the cut, or the middle
        return {-half_turn * (1 + 4 * u), value, half_turn * (1 + 4 * u)};
    }
    const auto [least, most] = std::minmax({std::atan2(y.low, x.low), std::atan2(y.low, x.high),
                                            std::atan2(y.high, x.low), std::atan2(y.high, x.high)});
    return rounded({least, value, most}, of_function + 2);
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

range absolute(const range& x) {
    if (crosses(x, 0)) {
        return {0, std::abs(x.value), x.magnitude()};
    }
    return x.low > 0 ? x : -x;
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

range itself(const std::array<range, 3>& x, bool& /*doubtful*/) { return x[0]; }

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

// Beside the index of a function of components: what is called otherwise.
constexpr std::size_t a_vector = 100;   // vec2, vec3, vec4
constexpr std::size_t an_arc = 101;     // atan, of one number or two
constexpr std::size_t of_vectors = 102; // the first of functions_of_vectors

enum class of_whole : std::size_t { dot, length, distance, normalize, cross, reflect, faceforward };
constexpr std::array<std::string_view, 7> functions_of_vectors{"dot",   "length",  "distance",   "normalize",
                                                               "cross", "reflect", "faceforward"};

} // namespace

std::size_t function_called(std::string_view name) {
    if (name.size() == 4 && name.substr(0, 3) == "vec") {
        return a_vector;
    }
    if (name == "atan") {
        return an_arc;
    }
    const auto of_components =
        std::find_if(functions.begin(), functions.end(), [&](const auto& each) { return each.name == name; });
    if (of_components != functions.end()) {
        return static_cast<std::size_t>(of_components - functions.begin());
    }
    const auto* const of_whole = std::find(functions_of_vectors.begin(), functions_of_vectors.end(), name);
    return of_vectors + static_cast<std::size_t>(of_whole - functions_of_vectors.begin());
}

namespace {

range product_sum(const plain_value& a, const plain_value& b) {
    range sum(0);
    for (std::size_t i = 0; i < a.width; ++i) {
        sum = sum + rounded(a.at(i) * b.at(i));
        sum = i > 0 ? rounded(sum) : sum;
    }
    // Partial sums may be larger than the whole.
    double largest = 0;
    for (std::size_t i = 0; i < a.width; ++i) {
        largest += (a.at(i) * b.at(i)).magnitude();
    }
    return {sum.low - 2 * u * largest, sum.value, sum.high + 2 * u * largest};
}
range length_of(const plain_value& a, bool& doubtful) {
    range sum(0);
    for (std::size_t i = 0; i < a.width; ++i) {
        const range size = absolute(a.at(i));
        sum = rounded(sum + rounded(size * size));
    }
    return square_root(sum, doubtful);
}
template <class Function>
void each_of(Function&& function, const plain_value& a, const plain_value& b, plain_value& result) {
    result.width = std::max(a.width, b.width);
    result.doubtful = a.doubtful || b.doubtful;
    for (std::size_t i = 0; i < result.width; ++i) {
        result.components[i] = rounded(function(a.at(i), b.at(i)));
    }
}

void call_of_whole(of_whole name, plain_operands x, plain_value& result) {
    result.width = 1;
    result.doubtful = x.doubtful();
    if (name == of_whole::dot) {
        result.components[0] = product_sum(x[0], x[1]);
    } else if (name == of_whole::length) {
        result.components[0] = x[0].width == 1 ? absolute(x[0].at(0)) : length_of(x[0], result.doubtful);
    } else if (name == of_whole::distance) {
        plain_value between;
        each_of(std::minus<>(), x[0], x[1], between);
        result.components[0] = length_of(between, result.doubtful);
    } else if (name == of_whole::normalize) {
        const range length = length_of(x[0], result.doubtful);
        result.width = x[0].width;
        for (std::size_t i = 0; i < result.width; ++i) {
            result.components[i] = rounded(divided(x[0].at(i), length, result.doubtful), 2);
        }
    } else if (name == of_whole::cross) {
        result.width = 3;
        for (std::size_t i = 0; i < 3; ++i) {
            const range first = rounded(x[0].at((i + 1) % 3) * x[1].at((i + 2) % 3));
            const range second = rounded(x[0].at((i + 2) % 3) * x[1].at((i + 1) % 3));
            result.components[i] = rounded(first - second);
        }
    } else if (name == of_whole::reflect) {
        result.width = x[0].width;
        const range twice = rounded(range(2) * product_sum(x[1], x[0]));
        for (std::size_t i = 0; i < result.width; ++i) {
            result.components[i] = rounded(x[0].at(i) - rounded(twice * x[1].at(i)));
        }
    } else { // faceforward
        result.width = x[0].width;
        const range facing = product_sum(x[2], x[1]);
        for (std::size_t i = 0; i < result.width; ++i) {
            const range kept = x[0].at(i);
            const range turned = -kept;
            result.components[i] = facing.high < 0 ? kept
                                   : facing.low >= 0
                                       ? turned
                                       : hull(kept, turned, (facing.value < 0 ? kept : turned).value);
        }
    }
}

} // namespace

void call(std::size_t which, std::size_t width, plain_operands x, plain_value& result) {
    if (which >= of_vectors) {
        call_of_whole(static_cast<of_whole>(which - of_vectors), x, result);
        return;
    }
    result.doubtful = x.doubtful();
    if (which == a_vector) {
        result.width = width;
        std::size_t filled = 0;
        for (std::size_t k = 0; k < x.size(); ++k) {
            for (std::size_t i = 0; i < x[k].width && filled < width; ++i) {
                result.components[filled++] = x[k].components[i];
            }
        }
        while (filled < width) {
            result.components[filled++] = x[0].components[0];
        }
        return;
    }
    result.width = 1;
    for (std::size_t k = 0; k < x.size(); ++k) {
        result.width = std::max(result.width, x[k].width);
    }
    for (std::size_t i = 0; i < result.width; ++i) {
        std::array<range, 3> of;
        for (std::size_t k = 0; k < x.size(); ++k) {
            of[k] = x[k].at(i);
        }
        if (which == an_arc) {
            result.components[i] =
                x.size() == 2 ? arc_of_two(of[0], of[1])
                              : rounded(rising([](double at) { return std::atan(at); }, of[0]), of_function);
            continue;
        }
        result.components[i] = functions[which].of(of, result.doubtful);
    }
}

namespace {

void choose(const plain_value& which, const plain_value& a, const plain_value& b, plain_value& result) {
    const range& held = which.components[0];
    if (!may_not_hold(held)) {
        result = a;
        return;
    }
    if (!may_hold(held)) {
        result = b;
        return;
    }
    result = held.value != 0 ? a : b;
    result.doubtful = a.doubtful || b.doubtful || which.doubtful || a.fails() || b.fails();
    for (std::size_t i = 0; i < result.width; ++i) {
        result.components[i] = hull(a.at(i), b.at(i), result.at(i).value);
    }
}

enum class operation : std::size_t {
    choice,
    negative,
    negated,
    both,
    either,
    sum,
    difference,
    product,
    quotient,
    less,
    at_most,
    greater,
    at_least,
    equal,
    unequal
};
constexpr std::array<std::string_view, 15> operations{"?", "negative", "!",  "&&", "||", "+",  "-", "*",
                                                      "/", "<",        "<=", ">",  ">=", "==", "!="};

// true and false as numbers, each with what it may be instead.
void compare(operation which, const plain_value& a, const plain_value& b, plain_value& result) {
    const range& x = a.components[0];
    const range& y = b.components[0];
    result.width = 1;
    result.doubtful = a.doubtful || b.doubtful;
    if (which == operation::less) {
        result.components[0] = truth(x.high >= y.low, x.value < y.value, x.low < y.high);
    } else if (which == operation::at_most) {
        result.components[0] = truth(x.high > y.low, x.value <= y.value, x.low <= y.high);
    } else if (which == operation::greater) {
        result.components[0] = truth(x.low <= y.high, x.value > y.value, x.high > y.low);
    } else if (which == operation::at_least) {
        result.components[0] = truth(x.low < y.high, x.value >= y.value, x.high >= y.low);
    } else { // == and !=
        bool same = true;
        bool can_differ = false;
        bool can_agree = true;
        for (std::size_t i = 0; i < a.width; ++i) {
            const range& left = a.at(i);
            const range& right = b.at(i);
            same = same && left.value == right.value;
            can_agree = can_agree && left.low <= right.high && right.low <= left.high;
            can_differ =
                can_differ || left.low != left.high || right.low != right.high || left.value != right.value;
        }
        result.components[0] = which == operation::equal ? truth(can_differ, same, can_agree)
                                                         : truth(can_agree, !same, can_differ);
    }
}

} // namespace

std::size_t operation_of(std::string_view sign) {
    const auto* const found = std::find(operations.begin(), operations.end(), sign);
    return static_cast<std::size_t>(found - operations.begin());
}

void operate(std::size_t number, plain_operands x, plain_value& result) {
    const auto which = static_cast<operation>(number);
    const auto give = [&](const range& held) {
        result.width = 1;
        result.doubtful = x.doubtful();
        result.components[0] = held;
    };
    const range& a = x[0].components[0];
    switch (which) {
    case operation::choice:
        return choose(x[0], x[1], x[2], result);
    case operation::negative:
        result = x[0];
        for (range& each : result.components) {
            each = -each;
        }
        return;
    case operation::negated:
        return give({1 - a.high, 1 - a.value, 1 - a.low});
    case operation::both: {
        const range& b = x[1].components[0];
        return give({std::min(a.low, b.low), std::min(a.value, b.value), std::min(a.high, b.high)});
    }
    case operation::either:
        return give(larger(a, x[1].components[0]));
    case operation::sum:
        return each_of(std::plus<>(), x[0], x[1], result);
    case operation::difference:
        return each_of(std::minus<>(), x[0], x[1], result);
    case operation::product:
        return each_of(std::multiplies<>(), x[0], x[1], result);
    case operation::quotient:
        result.width = std::max(x[0].width, x[1].width);
        result.doubtful = x.doubtful();
        for (std::size_t i = 0; i < result.width; ++i) {
            result.components[i] = divided(x[0].at(i), x[1].at(i), result.doubtful);
        }
        return;
    case operation::less:
    case operation::at_most:
    case operation::greater:
    case operation::at_least:
    case operation::equal:
    case operation::unequal:
        return compare(which, x[0], x[1], result);
    }
}

} // namespace yurvo::inline v0_1::verify
