#include "yurvo/program/guess.hpp"

#include <algorithm>
#include <iterator>
#include <map>

#include "program/bindings.hpp"
#include "program/driver_process.hpp"
#include "program/guess_moves.hpp"
#include "program/guess_names.hpp"
#include "program/guess_structures.hpp"
#include "program/guess_text.hpp"
#include "program/guess_trying.hpp"
#include "program/source_text.hpp"
#include "program/translate.hpp"

namespace yurvo::inline v0_1 {

namespace {

using namespace program;

linked_program link(const shader_program& the_program, translated_program& translated,
                    bool as_declared = false) {
    translated = translate(the_program, as_declared);
    const driver_process driver(translated.sources, the_program.limit);
    if (driver.linked().failed_stage != 0) {
        throw complaint_of(the_program, driver.linked());
    }
    return driver.linked();
}

} // namespace

guessed_bindings guess_bindings(const shader_program& the_program) {
    translated_program translated;
    const linked_program linked = link(the_program, translated);
    guessed_bindings result;
    const std::string text = the_program.language == shading_language::spirv
                                 ? ""
                                 : without_comments(the_program.vertex.source) + "\n" +
                                       without_comments(the_program.fragment.source);
    for (const active_attribute& attribute : linked.attributes) {
        const auto semantic = translated.attribute_names.find(attribute.name);
        const std::string name =
            semantic == translated.attribute_names.end() ? attribute.name : semantic->second;
        guessed_name& guessed = result.attributes.emplace_back();
        guessed.name = name;
        guessed.type = shape_of(attribute.type).name;
        guessed.means = likely_attribute(name, shape_of(attribute.type));
        if (guessed.means.starts_with("material.")) {
            guessed.means = means_by_use(text, guessed);
        }
    }
    const std::map<std::string, std::string> structures = structures_in(text);
    for (const active_uniform& uniform : linked.uniforms) {
        if (uniform.block >= 0 && (!reads(translated.sources, uniform.name) ||
                                   (!text.empty() && is_only_declared(text, uniform.name)))) {
            continue; // it may stay unbound
        }
        std::string name = uniform.name;
        const std::size_t open = name.find('[');
        // Matrices in an array are different ones, told by their places.
        const bool matrices = shape_of(uniform.type).columns > 0 && !names_a_skeleton(name) &&
                              name.ends_with(']') && open == name.rfind('[');
        if (open != std::string::npos && !matrices) {
            const std::size_t close = name.find(']', open);
            name = name.substr(0, open) + "[*]" + name.substr(close + 1);
        }
        const bool known = std::any_of(result.uniforms.begin(), result.uniforms.end(),
                                       [&](const guessed_name& other) { return other.name == name; });
        if (!known) {
            const type_shape shape = shape_of(uniform.type);
            guessed_name guessed;
            guessed.name = name;
            guessed.type = shape.name;
            find_structure(guessed, structures);
            guessed.means = likely_uniform(telling_name(guessed), shape);
            if (shape.components > 1 && shape.columns == 0 && !shape.whole) {
                guessed.alone = components_alone(text, name);
                guessed.means = guessed.alone.empty() || !says_only_numbers(name) ? guessed.means : "";
            }
            guessed.means = means_by_use(text, guessed);
            result.uniforms.push_back(std::move(guessed));
        }
    }
    tell_lights_apart(result.uniforms);
    for (guessed_name& each : result.uniforms) { // of what only all names together have told
        each.means = means_by_use(text, each);
    }
    return result;
}

std::vector<block_member> block_members(const shader_program& the_program) {
    translated_program translated;
    const linked_program linked = link(the_program, translated, true);
    std::vector<block_member> result;
    for (const active_uniform& uniform : linked.uniforms) {
        if (uniform.block < 0) {
            continue;
        }
        const type_shape shape = shape_of(uniform.type);
        const std::string& block = linked.blocks[static_cast<std::size_t>(uniform.block)].name;
        std::string name = uniform.name;
        if (name.starts_with(block + ".")) {
            name = name.substr(block.size() + 1);
        }
        result.push_back({block, name, shape.name, uniform.offset, 0, shape.components,
                          uniform.row_major != 0 ? shape.rows : shape.columns, uniform.matrix_stride});
    }
    std::stable_sort(result.begin(), result.end(), [](const block_member& a, const block_member& b) {
        return a.block != b.block ? a.block < b.block : a.offset < b.offset;
    });
    // Each member is judged by itself: from where the one before it ends.
    const block_member* before = nullptr;
    for (block_member& each : result) {
        if (before != nullptr && before->block == each.block) {
            each.plain_offset = before->offset + (before->matrix > 0 ? before->matrix * before->matrix_stride
                                                                     : before->components * 4);
        }
        before = &each;
    }
    return result;
}

guessed_program guess_program(const shader_program& the_program, const std::array<std::string, 2>& beside,
                              const std::function<void(const std::string&)>& tell) {
    const auto stage = [&](const shader_stage& stage_here, const std::string& file) {
        return the_program.language == shading_language::hlsl ||
                       the_program.language == shading_language::spirv
                   ? "{ file = \"" + file + "\", entry = \"" + stage_here.entry + "\" }"
                   : "\"" + file + "\"";
    };
    const settled_guess settled = settle(the_program, guess_bindings(the_program), tell);
    guessed_program result;
    result.text = written_guess(
        settled, {stage(the_program.vertex, beside[0]), stage(the_program.fragment, beside[1])});
    result.right = settled.off == 0 && !settled.alpha_beyond;
    result.alpha_beyond = settled.alpha_beyond;
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        const auto how = settled.how.find(std::string(each.name));
        if (settled.program.formulas.has(each.which) && how != settled.how.end() &&
            how->second == as_the_text_has_it) {
            result.by_its_text.emplace_back(each.name);
        }
    }
    std::copy_if(settled.omitted.begin(), settled.omitted.end(), std::back_inserter(result.claimed),
                 [](const std::string& mistake) { return !mistake.empty(); });
    for (const auto& [name, how] : settled.how) {
        result.unsure += how.starts_with("open") ? 1U : 0U;
    }
    return result;
}

} // namespace yurvo::inline v0_1
