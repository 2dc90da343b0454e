// formula_nodes: what the formulas of a scene work out, each thing once: operations, inputs and constants,
// and the lanes in which their numbers lie.
#pragma once

#include <array>
#include <cstdint>
#include <initializer_list>
#include <map>
#include <optional>
#include <span>
#include <utility>
#include <vector>

#include "pipeline/formula_program.hpp"

namespace yurvo::inline v0_1::pipeline {

// When a number is known: with the block, with a light, once its light has arrived, with the sum.
enum class phase : std::uint8_t { once, each_light, arrived, finishing };

using node_number = std::int32_t;
constexpr node_number no_node = -1;

// One operation; its results have the numbers from its own on.
struct node {
    std::optional<lane_operation> what; // none: an input's component, or a constant
    std::array<node_number, 7> from{no_node, no_node, no_node, no_node, no_node, no_node, no_node};
    std::size_t taken = 0;
    std::uint8_t results = 1;
    phase when{};
    bool uniform = false;
    bool fixed = false; // its lane is kept throughout
    lane_number lane = formula_program::none;
};

// What a value is: a node for each component.
struct node_value {
    std::array<node_number, 4> components{no_node, no_node, no_node, no_node};
    std::uint8_t width = 1;

    node_value() = default;
    explicit node_value(node_number only) : components{only, no_node, no_node, no_node} {}

    // The three results of an operation.
    static node_value three(node_number first) {
        node_value result;
        result.components = {first, first + 1, first + 2, no_node};
        result.width = 3;
        return result;
    }

    // Of a component; one number serves for all of them.
    [[nodiscard]] node_number at(std::size_t i) const { return components[width == 1 ? 0 : i]; }
};

class formula_nodes {
  public:
    // The node that does this, made where there is none yet.
    node_number operation(lane_operation what, std::initializer_list<node_number> from,
                          std::uint8_t results = 1);
    node_number constant(double number);
    // As the pipeline gives it.
    node_number given(formulas::input which, std::uint8_t component);
    node_value given(formulas::input which);

    [[nodiscard]] const node& of(node_number number) const {
        return nodes_[static_cast<std::size_t>(number)];
    }
    [[nodiscard]] bool is_constant(node_number number, double value) const;
    // Three nodes, from `first` on in a list, that have length 1 whatever a scene holds.
    [[nodiscard]] bool is_unit(const std::array<node_number, 7>& from, std::size_t first) const;
    // Above 0 whatever a scene holds: a constant, or the shininess.
    [[nodiscard]] bool is_positive(node_number number) const;

    // Gives every node a lane, and writes down operations, inputs and constants. The lanes of what is `kept`
    // are used for nothing else.
    void place_lanes(std::span<const std::optional<node_value>> kept, formula_program& result);

  private:
    std::vector<node> nodes_;
    std::map<std::pair<lane_operation, std::array<node_number, 7>>, node_number> known_;
    std::map<double, node_number> constants_;
    std::map<std::pair<std::uint32_t, std::uint8_t>, node_number> inputs_;

    node_number add_node(const node& made);
    [[nodiscard]] std::vector<std::size_t> in_order() const;
    [[nodiscard]] std::vector<std::size_t> last_uses(const std::vector<std::size_t>& order,
                                                     std::span<const std::optional<node_value>> kept) const;
};

} // namespace yurvo::inline v0_1::pipeline
