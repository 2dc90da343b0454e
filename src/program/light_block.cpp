#include "yurvo/program/light_block.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "program/quantities.hpp"

namespace yurvo::inline v0_1 {

namespace {

using namespace program;

bool is_whole(const std::string& member) {
    return member == "kind" || member == "falloff" || member == "penumbra";
}

int round_up(int value, int to) { return (value + to - 1) / to * to; }

// Base alignments in bytes: a vec3 is aligned as a vec4 in both layouts; in memory it is three floats.
int alignment_of(int components, block_layout layout) {
    if (layout == block_layout::packed || components == 1) {
        return 4;
    }
    return components == 2 ? 8 : 16;
}

} // namespace

const std::vector<std::string>& usual_light_members() {
    static const std::vector<std::string> all{"position",     "color", "shines",    "intensity",
                                              "coefficients", "range", "cos_inner", "cos_outer",
                                              "exponent",     "kind",  "falloff",   "penumbra"};
    return all;
}

packed_lights pack_lights(const scene& the_scene, const std::vector<std::string>& members,
                          block_layout layout, std::size_t room) {
    const pipeline::stage staged = pipeline::make_stage(the_scene);
    static const pipeline::staged_object none;
    const law_numbers numbered;
    const quantity_context in{the_scene, staged, staged.objects.empty() ? none : staged.objects.front(),
                              numbered};
    packed_lights result;
    result.layout = layout;
    std::vector<quantity> wanted;
    int at = 0;
    int most = 4;
    for (const std::string& member : members) {
        const source_location where{"--members", 0, 0};
        wanted.push_back(parse_quantity("lights[*]." + member, where));
        // Its size is that of a light that is not there: zeros.
        const value_of_quantity value = evaluate(wanted.back(), 1'000'000, in, where);
        packed_member each;
        each.name = member;
        each.components = static_cast<int>(value.numbers.size());
        each.type = each.components > 1 ? "vec" + std::to_string(each.components)
                    : is_whole(member)  ? "int"
                                        : "float";
        const int alignment = alignment_of(each.components, layout);
        const int offset = round_up(at, alignment);
        if (!result.members.empty()) {
            result.members.back().padding = offset - at;
        }
        each.offset = offset;
        each.size = 4 * each.components;
        at = offset + each.size;
        most = std::max(most, alignment);
        result.members.push_back(each);
    }
    const int structure = layout == block_layout::std140 ? std::max(16, most) : most;
    result.stride = round_up(at, structure);
    if (!result.members.empty()) {
        result.members.back().padding = result.stride - at;
    }
    const std::size_t count = std::max(room, the_scene.lights.size());
    result.count_offset = result.stride * static_cast<int>(count);
    result.size = round_up(result.count_offset + 4, structure);
    result.bytes.assign(static_cast<std::size_t>(result.size), 0);
    const auto put = [&](std::size_t offset, double value, bool whole) {
        const auto integer = static_cast<std::int32_t>(std::lround(value));
        const auto real = static_cast<float>(value);
        std::memcpy(&result.bytes[offset], whole ? static_cast<const void*>(&integer) : &real, 4);
    };
    for (std::size_t i = 0; i < the_scene.lights.size(); ++i) {
        for (std::size_t m = 0; m < wanted.size(); ++m) {
            const value_of_quantity value = evaluate(wanted[m], static_cast<int>(i), in, {"--members", 0, 0});
            for (std::size_t c = 0; c < value.numbers.size(); ++c) {
                put(i * static_cast<std::size_t>(result.stride) +
                        static_cast<std::size_t>(result.members[m].offset) + 4 * c,
                    value.numbers[c], is_whole(result.members[m].name));
            }
        }
    }
    put(static_cast<std::size_t>(result.count_offset), static_cast<double>(the_scene.lights.size()), true);
    return result;
}

std::string header_of(const packed_lights& packed) {
    const std::string layout(name_of(packed.layout));
    const int count = packed.stride > 0 ? packed.count_offset / packed.stride : 0;
    std::string text =
        "// Lights as a uniform block has them in " + layout +
        ". Every offset is asserted: a change that moves one does not compile.\n#pragma once\n\n"
        "#include <cstddef>\n#include <cstdint>\n\nstruct packed_light {\n";
    int gap = 0;
    const auto padding = [&](int bytes) {
        if (bytes > 0) {
            text += "    float unused_" + std::to_string(gap++) + "[" + std::to_string(bytes / 4) + "];\n";
        }
    };
    for (const packed_member& member : packed.members) {
        const std::string type = member.type == "int" ? "std::int32_t" : "float";
        text += "    " + type + " " + member.name +
                (member.components > 1 ? "[" + std::to_string(member.components) + "]" : std::string()) +
                ";\n";
        padding(member.padding);
    }
    text += "};\n";
    for (const packed_member& member : packed.members) {
        text += "static_assert(offsetof(packed_light, " + member.name +
                ") == " + std::to_string(member.offset) + ");\n";
    }
    text += "static_assert(sizeof(packed_light) == " + std::to_string(packed.stride) +
            ");\n\nstruct packed_lights {\n";
    text += "    packed_light lights[" + std::to_string(count) + "];\n    std::int32_t count;\n";
    gap = 0;
    padding(packed.size - packed.count_offset - 4);
    text += "};\nstatic_assert(offsetof(packed_lights, count) == " + std::to_string(packed.count_offset) +
            ");\nstatic_assert(sizeof(packed_lights) == " + std::to_string(packed.size) + ");\n";
    return text;
}

} // namespace yurvo::inline v0_1
