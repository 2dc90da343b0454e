// What formulas call: functions and operators on numbers with the intervals in which float would leave them.
#include "verify/plain_functions.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <optional>

#include "verify/plain_numbers.hpp"

namespace yurvo::inline v0_1::verify {

namespace {

// Beside the index of a function of numbers: what is called otherwise.
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
    if (const std::optional<std::size_t> of_components = number_function(name)) {
        return *of_components;
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
    return {sum.low - 2 * unit_roundoff * largest, sum.value, sum.high + 2 * unit_roundoff * largest};
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
        three_ranges of;
        for (std::size_t k = 0; k < x.size(); ++k) {
            of.set(k, x[k].at(i));
        }
        if (which == an_arc) {
            result.components[i] = x.size() == 2 ? arc_of_two(of[0], of[1]) : arc_of_tangent(of[0]);
            continue;
        }
        result.components[i] = of_numbers(which, of, result.doubtful);
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
