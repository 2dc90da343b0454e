#include "pipeline/formula_nodes.hpp"

#include <algorithm>

namespace yurvo::inline v0_1::pipeline {

using formulas::input;

namespace {

// Hands out lanes: a lane is free again once the last that reads it is done.
class lane_owner {
    std::vector<lane_number> free_;
    lane_number next_ = 0;

  public:
    lane_number take() {
        if (free_.empty()) {
            return next_++;
        }
        const lane_number lane = free_.back();
        free_.pop_back();
        return lane;
    }
    void give_back(lane_number lane) { free_.push_back(lane); }
    [[nodiscard]] lane_number count() const { return next_; }
};

} // namespace

node_number formula_nodes::add_node(const node& made) {
    const auto at = static_cast<node_number>(nodes_.size());
    nodes_.push_back(made);
    for (std::uint8_t i = 1; i < made.results; ++i) { // the other results follow
        node other = made;
        other.what.reset();
        other.results = 0;
        nodes_.push_back(other);
    }
    return at;
}

node_number formula_nodes::operation(lane_operation what, std::initializer_list<node_number> from,
                                     std::uint8_t results) {
    node made;
    made.what = what;
    made.results = results;
    made.uniform = true;
    for (const node_number each : from) {
        made.from[made.taken++] = each;
        const node& used = nodes_[static_cast<std::size_t>(each)];
        made.when = std::max(made.when, used.when);
        made.uniform = made.uniform && used.uniform;
    }
    const auto [found, fresh] = known_.try_emplace({what, made.from}, 0);
    if (fresh) {
        found->second = add_node(made);
    }
    return found->second;
}

node_number formula_nodes::constant(double number) {
    const auto [found, fresh] = constants_.try_emplace(number, 0);
    if (fresh) {
        node made;
        made.uniform = true;
        made.fixed = true;
        found->second = add_node(made);
    }
    return found->second;
}

node_number formula_nodes::given(input which, std::uint8_t component) {
    const auto [found, fresh] = inputs_.try_emplace({index_of(which), component}, 0);
    if (fresh) {
        using formulas::varies;
        node made;
        made.fixed = true;
        const varies how = descriptor_of(which).how;
        made.uniform = how == varies::never || how == varies::by_material || how == varies::by_light;
        made.when = which == input::light                                          ? phase::arrived
                    : which == input::c                                            ? phase::finishing
                    : how == varies::by_light || how == varies::by_point_and_light ? phase::each_light
                                                                                   : phase::once;
        found->second = add_node(made);
    }
    return found->second;
}
node_value formula_nodes::given(input which) {
    node_value result;
    result.width = descriptor_of(which).type.width;
    for (std::uint8_t i = 0; i < result.width; ++i) {
        result.components[i] = given(which, i);
    }
    return result;
}

bool formula_nodes::is_constant(node_number number, double value) const {
    const auto found = constants_.find(value);
    return found != constants_.end() && found->second == number;
}

bool formula_nodes::is_unit(const std::array<node_number, 7>& from, std::size_t first) const {
    const auto is = [&](node_number base) {
        return from[first] == base && from[first + 1] == base + 1 && from[first + 2] == base + 2;
    };
    for (const input each : {input::n, input::l, input::v}) {
        const auto found = inputs_.find({index_of(each), 0});
        if (found != inputs_.end() && is(found->second)) {
            return true;
        }
    }
    const node_number base = from[first];
    if (!is(base) || !of(base).what) {
        return false;
    }
    const node& made = of(base);
    return (*made.what == lane_operation::half_vector || *made.what == lane_operation::mirrored) &&
           is_unit(made.from, 0) && is_unit(made.from, 3);
}

bool formula_nodes::is_positive(node_number number) const {
    const auto shininess = inputs_.find({index_of(input::shininess), 0});
    return (shininess != inputs_.end() && number == shininess->second) ||
           std::any_of(constants_.begin(), constants_.end(),
                       [&](const auto& each) { return each.second == number && each.first > 0; });
}

std::vector<std::size_t> formula_nodes::in_order() const {
    std::vector<std::size_t> order;
    for (const phase when : {phase::once, phase::each_light, phase::arrived, phase::finishing}) {
        for (std::size_t i = 0; i < nodes_.size(); ++i) {
            if (nodes_[i].what && nodes_[i].when == when) {
                order.push_back(i);
            }
        }
    }
    return order;
}

// The place in the order after which each node's lane is free.
std::vector<std::size_t> formula_nodes::last_uses(const std::vector<std::size_t>& order,
                                                  std::span<const std::optional<node_value>> kept) const {
    std::vector<std::size_t> last(nodes_.size(), 0);
    const std::size_t end = order.size();
    std::size_t lights_end = 0;
    for (std::size_t at = 0; at < order.size(); ++at) {
        lights_end = nodes_[order[at]].when <= phase::arrived ? at : lights_end;
    }
    for (std::size_t at = 0; at < order.size(); ++at) {
        const node& reader = nodes_[order[at]];
        for (std::size_t i = 0; i < reader.taken; ++i) {
            const auto used = static_cast<std::size_t>(reader.from[i]);
            const bool again = nodes_[used].when == phase::once && reader.when != phase::once &&
                               reader.when != phase::finishing;
            last[used] = std::max(last[used], again ? lights_end : at);
        }
    }
    for (const std::optional<node_value>& made : kept) {
        for (std::size_t i = 0; made && i < made->width; ++i) {
            last[static_cast<std::size_t>(made->components[i])] = end;
        }
    }
    return last;
}

void formula_nodes::place_lanes(std::span<const std::optional<node_value>> kept, formula_program& result) {
    lane_owner owner;
    for (node& each : nodes_) {
        if (each.fixed) {
            each.lane = owner.take();
        }
    }
    const std::vector<std::size_t> order = in_order();
    const std::vector<std::size_t> last = last_uses(order, kept);
    std::multimap<std::size_t, lane_number> ending;
    for (std::size_t at = 0; at < order.size(); ++at) {
        const std::size_t first = order[at];
        lane_instruction made;
        made.what = *nodes_[first].what;
        made.uniform = nodes_[first].uniform;
        for (std::size_t i = 0; i < nodes_[first].taken; ++i) {
            const node& used = of(nodes_[first].from[i]);
            made.from[i] = used.lane;
            made.uniforms = static_cast<std::uint8_t>(made.uniforms | (used.uniform ? 1U << i : 0U));
        }
        for (std::size_t i = 0; i < nodes_[first].results; ++i) {
            nodes_[first + i].lane = owner.take();
            made.to[i] = nodes_[first + i].lane;
            ending.emplace(std::max(last[first + i], at), made.to[i]);
        }
        for (auto done = ending.begin(); done != ending.end() && done->first <= at;) {
            owner.give_back(done->second);
            done = ending.erase(done);
        }
        const phase when = nodes_[first].when;
        (when == phase::once         ? result.once
         : when == phase::each_light ? result.each_light
         : when == phase::arrived    ? result.arrived
                                     : result.finishing)
            .push_back(made);
    }
    result.lanes = owner.count();
    for (auto& lanes : result.inputs) {
        lanes.fill(formula_program::none);
    }
    for (const auto& [key, number] : inputs_) {
        result.inputs[key.first][key.second] = of(number).lane;
    }
    for (const auto& [number, its] : constants_) {
        result.constants.emplace_back(of(its).lane, static_cast<float>(number));
    }
}

} // namespace yurvo::inline v0_1::pipeline
