// The numbers that an active name is given.
#include <algorithm>
#include <string>
#include <variant>
#include <vector>

#include "program/bindings.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// What a uniform's meanings come to, one after the other.
struct meant_numbers {
    std::vector<double> all;
    quantity_kind kind = quantity_kind::number; // the last one's
    int matrix_rows = 0;                        // the last one's; 0 where it is no matrix
    std::string what;                           // it, in words
};

meant_numbers meant_by(const bound_uniform& uniform, const quantity_context& in) {
    meant_numbers result;
    for (const auto& means : uniform.means) {
        if (const double* number = std::get_if<double>(&means)) {
            result.all.push_back(*number);
            result.what = "the literal";
            continue;
        }
        const quantity* request = std::get_if<quantity>(&means);
        const value_of_quantity value =
            request != nullptr
                ? evaluate(*request, uniform.each, in, uniform.where)
                : evaluate(std::get<binding_expression>(means), uniform.each, in, uniform.where);
        result.kind = value.kind;
        result.matrix_rows = value.kind == quantity_kind::matrix ? value.rows : 0;
        result.what =
            "`" + (request != nullptr ? request->text : "= " + std::get<binding_expression>(means).written) +
            "`";
        result.all.insert(result.all.end(), value.numbers.begin(), value.numbers.end());
    }
    return result;
}

error mismatch(const bound_uniform& uniform, const meant_numbers& meant) {
    return {uniform.where,
            "`" + uniform.active.name + "` is a " + shape_of(uniform.active.type).name + ", and " +
                meant.what + " has " + std::to_string(meant.all.size()) +
                (meant.all.size() == 1 ? " number" : " numbers"),
            "a quantity of that size"};
}

// A smaller matrix stands in the upper left of a larger one. One that is not square, as for points that keep
// w = 1, leaves out what is no more than the identity's: the last row of `object.to_world`, the last column
// of its transpose.
std::vector<float> matrix_for(const bound_uniform& uniform, const meant_numbers& meant, bool transposed) {
    const type_shape shape = shape_of(uniform.active.type);
    const auto wanted = static_cast<std::size_t>(shape.components);
    const bool written_out = meant.matrix_rows == 0 && meant.all.size() == wanted;
    if (shape.columns == 0 || (meant.matrix_rows == 0 && !written_out) ||
        meant.matrix_rows > std::max(shape.columns, shape.rows)) {
        throw mismatch(uniform, meant);
    }
    const auto columns = static_cast<std::size_t>(shape.columns);
    const auto rows = static_cast<std::size_t>(shape.rows);
    // What is written out stands column by column.
    const std::size_t height = !written_out ? static_cast<std::size_t>(meant.matrix_rows)
                               : transposed ? columns
                                            : rows;
    const std::size_t width = meant.all.size() / height;
    const auto value_at = [&](std::size_t column, std::size_t row) {
        return column < width && row < height ? meant.all[height * column + row] : column == row ? 1.0 : 0.0;
    };
    std::vector<float> result(wanted, 0.0F);
    const std::size_t most = std::max({columns, rows, width, height});
    for (std::size_t column = 0; column < most; ++column) {
        for (std::size_t row = 0; row < most; ++row) {
            const double value = transposed ? value_at(row, column) : value_at(column, row);
            if (column < columns && row < rows) {
                result[rows * column + row] = static_cast<float>(value);
            } else if (value != (column == row ? 1.0 : 0.0)) {
                throw error(uniform.where,
                            "`" + uniform.active.name + "` is a " + shape.name + ", and " + meant.what +
                                " has more in its last row or column than the identity",
                            "a matrix of four columns and rows, or `.transposed` of this one");
            }
        }
    }
    return result;
}

} // namespace

std::vector<float> numbers_for(const bound_uniform& uniform, const quantity_context& in, bool transposed) {
    const type_shape shape = shape_of(uniform.active.type);
    meant_numbers meant = meant_by(uniform, in);
    if (meant.matrix_rows > 0 || shape.columns > 0) {
        return matrix_for(uniform, meant, transposed);
    }
    const auto wanted = static_cast<std::size_t>(shape.components);
    std::vector<double>& numbers = meant.all;
    // An element of an array of plain numbers takes its own of a list: thresholds, bands.
    const bool list = uniform.means.size() == 1 && std::holds_alternative<quantity>(uniform.means.front()) &&
                      std::get<quantity>(uniform.means.front()).of == "shading" && numbers.size() > wanted;
    if (list) {
        // A band is a colour, of which a number takes the first component.
        const bool colors = std::get<quantity>(uniform.means.front()).property == "bands";
        const std::size_t stride = colors ? 3 : wanted;
        const std::size_t taken = colors ? std::min<std::size_t>(wanted, 3) : wanted;
        const std::size_t first = stride * static_cast<std::size_t>(uniform.each);
        numbers = first + taken <= numbers.size()
                      ? std::vector<double>(numbers.begin() + static_cast<std::ptrdiff_t>(first),
                                            numbers.begin() + static_cast<std::ptrdiff_t>(first + taken))
                      : std::vector<double>(taken, 0.0);
    }
    if (numbers.size() == 1) {
        numbers.resize(wanted, numbers.front());
    } else if (numbers.size() == 3 && wanted == 4) {
        numbers.push_back(meant.kind == quantity_kind::direction ? 0.0 : 1.0);
    }
    if (numbers.size() != wanted) {
        throw mismatch(uniform, meant);
    }
    return {numbers.begin(), numbers.end()};
}

} // namespace yurvo::inline v0_1::program
