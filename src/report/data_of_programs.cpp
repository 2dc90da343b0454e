// Programs and their light blocks as JSON.
#include <algorithm>

#include "report/data_json.hpp"
#include "yurvo/report/check_run.hpp"

namespace yurvo::inline v0_1::report {

namespace {

using report::json_of; // not hidden by those below

json json_of(const packed_lights& packed) {
    json list = json::array();
    for (const packed_member& member : packed.members) {
        list.push_back({{"name", member.name},
                        {"type", member.type},
                        {"offset", member.offset},
                        {"size", member.size},
                        {"padding", member.padding}});
    }
    return {{"layout", name_of(packed.layout)},
            {"members", list},
            {"stride", packed.stride},
            {"count_offset", packed.count_offset},
            {"size", packed.size}};
}

json json_of(const block_member& member) {
    return {{"block", member.block},
            {"member", member.name},
            {"type", member.type},
            {"offset", member.offset},
            {"plain_offset", member.plain_offset}};
}

json json_of(const program_renderer& program, const std::vector<std::string>& fitted,
             const study::check_run& run) {
    const tolerance_model allowed = program.tolerance();
    double largest = 0;
    for (const verify::check_result& result : run.results) {
        largest = result.kind == "second-method" ? std::max(largest, result.largest) : largest;
    }
    std::vector<std::string> advice = program.advice();
    for (std::string& line : number_lines(run)) {
        advice.push_back(std::move(line));
    }
    return {{"driver", program.drawn_by()},
            {"allowed", {{"precision", allowed.precision}, {"snap", allowed.snap}, {"angle", allowed.angle}}},
            {"normals_unit_at_vertices", allowed.unit_at_vertices},
            {"largest_difference", largest},
            {"codes_off_by_precision", program.codes_off_by_precision()},
            {"advice", advice},
            {"fitted", fitted}};
}

json json_of(const verify::coverage& covered) {
    const auto ids = [](const std::vector<verify::mistake>& list) {
        json result = json::array();
        for (const verify::mistake each : list) {
            result.push_back(verify::entry_of(each).id);
        }
        return result;
    };
    return {
        {"coverage",
         {{"could", ids(covered.could)}, {"shown", ids(covered.shown)}, {"unseen", ids(covered.unseen)}}}};
}

} // namespace

data data_of(const verify::coverage& covered) { return data_access::make(json_of(covered)); }
data data_of(const packed_lights& packed) { return data_access::make(json_of(packed)); }
data data_of(const block_member& member) { return data_access::make(json_of(member)); }
data data_of(const program_renderer& program, const std::vector<std::string>& fitted,
             const study::check_run& run) {
    return data_access::make(json_of(program, fitted, run));
}

} // namespace yurvo::inline v0_1::report
