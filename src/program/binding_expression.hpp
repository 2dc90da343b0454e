// binding_expression: what a uniform means where it is worked out of quantities: `= 1.0 / lights[*].range`.
#pragma once

#include <string>
#include <vector>

#include "program/quantities.hpp"

namespace yurvo::inline v0_1::program {

// An expression in the syntax of formulas with quantities for names, each of which stands as q0, q1, ... in
// `text`. Matrices only in products, on the left of what they multiply.
struct binding_expression {
    std::string written; // after the `=`
    std::string text;
    std::vector<quantity> quantities;
};

// Throws yurvo::error at `where`: an unknown quantity, what is no expression.
binding_expression parse_binding_expression(const std::string& written, const source_location& where);

// One to four numbers, or a matrix. For a light that is not there or has no such property what is not finite
// is 0. Throws yurvo::error at `where`.
value_of_quantity evaluate(const binding_expression& wanted, int each, const quantity_context& in,
                           const source_location& where);

} // namespace yurvo::inline v0_1::program
