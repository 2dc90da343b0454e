#include "program/translate.hpp"

#include "program/source_text.hpp"
#include "program/through_spirv.hpp"
#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// What helps against what compilers say most often.
std::string remedy_for(const std::string& said) {
    const auto has = [&](const char* part) { return said.find(part) != std::string::npos; };
    if (has("not supported") && (has("ersion") || has("GLSL"))) {
        return "a #version that the driver has: 120 to 460, 100 es or 300 es to 320 es, or another "
               "`language`";
    }
    if (has("undeclared") || has("undefined")) {
        return "a declaration before it, or the #version that has it; `language` says which dialect is meant";
    }
    if (has("syntax error") || has("unexpected")) {
        return "what the #version and the `language` of the program file have at this place";
    }
    if (has("No precision") || has("no precision")) {
        return "precision highp float; (or mediump) before it, as GLSL ES asks of a fragment stage";
    }
    if (has("reserved") || has("illegal") || has("not allowed")) {
        return "another word, or the #version that allows it";
    }
    if (has("no matching") || has("overload") || has("operands") || has("cannot convert") || has("type")) {
        return "values of the types that it takes, converted where they differ: float(i), vec3(x)";
    }
    return source_remedy;
}

} // namespace

std::string first_line(const std::string& text) {
    const std::string line = text.substr(0, text.find('\n'));
    return line.empty() ? "it says no more" : line;
}

// `0:12(5): error: what` (the driver's) or `ERROR: 0:12: what` (glslang's).
// `given` is the source as the compiler had it.
error complaint(const shader_stage& stage, const std::string& given, const std::string& log) {
    static const text_pattern drivers(
        R"((\d{1,9}):(\d{1,9})\((\d{1,9})\): (?:preprocessor )?error: ([^\n]*))");
    static const text_pattern compilers(R"(ERROR: [^:\n]*:(\d{1,9}): ([^\n]*))");
    if (const auto found = drivers.find(log)) {
        return {
            place_of(stage, line_as_written(given, std::stoul(found->text(2))), std::stoul(found->text(3))),
            found->text(4), remedy_for(found->text(4))};
    }
    if (const auto found = compilers.find(log)) {
        return {place_of(stage, line_as_written(given, std::stoul(found->text(1))), 1), found->text(2),
                remedy_for(found->text(2))};
    }
    return {{stage.file, 0, 0}, first_line(log), source_remedy};
}

translated_program translate(const shader_program& the_program, bool as_declared) {
    translated_program result;
    if (the_program.language == shading_language::glsl || the_program.language == shading_language::glsl_es) {
        result.sources = prepared(the_program);
        return result;
    }
#if defined(YURVO_WITH_TRANSLATION)
    return through_spirv(the_program, as_declared);
#else
    throw missing_error({the_program.file, 0, 0},
                        "this build cannot translate " + std::string(name_of(the_program.language)),
                        "a build with Debian's glslang-dev and libspirv-cross-c-shared-dev");
#endif
}

error complaint_of(const shader_program& the_program, const linked_program& linked) {
    const bool as_written =
        the_program.language == shading_language::glsl || the_program.language == shading_language::glsl_es;
    if (linked.failed_stage == 3 || !as_written) {
        static const text_pattern plain(R"((?:error: )?([^\n]+))");
        const auto found = plain.find(linked.failure);
        const std::string what = found ? found->text(1) : first_line(linked.failure);
        return {{the_program.file, 0, 0}, "the stages do not link: " + what, "outputs and inputs that agree"};
    }
    const driver_sources given = prepared(the_program);
    const bool written = linked.failed_as_written != 0;
    return linked.failed_stage == 1
               ? complaint(the_program.vertex, written ? given.vertex_as_written : given.vertex,
                           linked.failure)
               : complaint(the_program.fragment, written ? given.fragment_as_written : given.fragment,
                           linked.failure);
}

} // namespace yurvo::inline v0_1::program
