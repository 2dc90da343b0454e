#include "program/interfaces.hpp"

#include <algorithm>
#include <vector>

#include "program/bindings.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::program {

bool writes_alpha(const linked_program& linked) {
    const std::vector<active_attribute>& outputs = linked.outputs;
    return std::none_of(outputs.begin(), outputs.end(), [](const active_attribute& each) {
        return each.location == 0 && shape_of(each.type).components == 3;
    });
}

void require_interfaces(const linked_program& linked, const std::string& file) {
    if (!linked.inputs_unwritten.empty()) {
        throw error({file, 0, 0},
                    "the fragment stage reads `" + linked.inputs_unwritten.front() +
                        "`, which the vertex stage does not write",
                    "an output of that name and type in the vertex stage");
    }
    std::string others;
    for (const active_attribute& each : linked.outputs) {
        const bool built_in = each.name.starts_with("gl_Frag") && each.name != "gl_FragDepth";
        if (each.location == 0 || built_in) {
            const type_shape shape = shape_of(each.type);
            if (!built_in &&
                (shape.components < 3 || shape.components > 4 || shape.whole || shape.columns != 0)) {
                throw error({file, 0, 0},
                            "the fragment stage writes `" + each.name + "` as a " +
                                (shape.name.empty() ? "type that is no colour" : shape.name),
                            "a vec4, a colour and its alpha, or a vec3");
            }
            return;
        }
        if (each.name != "gl_FragDepth") {
            others +=
                (others.empty() ? "`" : ", `") + each.name + "` at location " + std::to_string(each.location);
        }
    }
    throw error({file, 0, 0},
                others.empty() ? "the fragment stage writes no colour"
                               : "the fragment stage writes only " + others,
                "a vec4 at location 0");
}

} // namespace yurvo::inline v0_1::program
