#include "program/source_text.hpp"

#include <algorithm>
#include <iterator>
#include <optional>
#include <sstream>
#include <vector>

#include "scene/text_pattern.hpp"

namespace yurvo::inline v0_1::program {

// Comments become spaces, lines stay lines.
std::string without_comments(const std::string& source) {
    std::string result = source;
    enum class in { code, line, block } state = in::code;
    for (std::size_t i = 0; i < result.size(); ++i) {
        const bool two = i + 1 < result.size();
        if (state == in::code && two && result[i] == '/' && (result[i + 1] == '/' || result[i + 1] == '*')) {
            state = result[i + 1] == '/' ? in::line : in::block;
        }
        if (state == in::line && result[i] == '\n') {
            state = in::code;
        }
        if (state == in::block && two && result[i] == '*' && result[i + 1] == '/') {
            result[i] = result[i + 1] = ' ';
            state = in::code;
            continue;
        }
        if (state != in::code && result[i] != '\n') {
            result[i] = ' ';
        }
    }
    return result;
}

namespace {

constexpr const char* word_characters = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_";

// At the end of each line that is ours and not the user's.
const char* const ours = " // added by yurvo";

std::vector<std::string> lines_of(const std::string& text) {
    std::vector<std::string> result;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) {
        result.push_back(line);
    }
    return result;
}

std::string trimmed(const std::string& line) {
    const std::size_t first = line.find_first_not_of(" \t\r");
    return first == std::string::npos ? "" : line.substr(first);
}

// What follows `#` on a line, with single spaces: `version 300 es`; empty where it is no directive.
std::string directive(const std::string& line) {
    const std::string text = trimmed(line);
    if (!text.starts_with('#')) {
        return "";
    }
    std::istringstream words(text.substr(1));
    std::string result;
    for (std::string word; words >> word;) {
        result += (result.empty() ? "" : " ") + word;
    }
    return result;
}

struct version_of_source {
    std::optional<std::size_t> line; // its index
    int number = 0;
    std::string profile; // core, compatibility, es
};

version_of_source find_version(const std::vector<std::string>& lines) {
    version_of_source result;
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const std::string said = directive(lines[i]);
        if (said.starts_with("version ")) {
            std::istringstream words(said.substr(8));
            words >> result.number >> result.profile;
            result.line = i;
            return result;
        }
    }
    return result;
}

// The first line of code that stands in no #if.
std::size_t first_code(const std::vector<std::string>& lines) {
    int depth = 0;
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const std::string said = directive(lines[i]);
        if (said.starts_with("if")) {
            ++depth;
        } else if (said.starts_with("endif")) {
            --depth;
        } else if (depth == 0 && said.empty() && !trimmed(lines[i]).empty()) {
            return i;
        }
    }
    return lines.size();
}

std::string joined(const std::vector<std::string>& lines) {
    std::string result;
    for (const std::string& line : lines) {
        result += line + "\n";
    }
    return result;
}

struct both_precisions {
    std::string high, as_written;
};

both_precisions in_high_precision(const std::string& source, bool es) {
    std::vector<std::string> lines = lines_of(source);
    std::vector<std::string> code = lines_of(without_comments(source));
    code.resize(lines.size());
    version_of_source version = find_version(code);
    if (es && !version.line) {
        lines.insert(lines.begin(), std::string("#version 100") + ours);
        code.insert(code.begin(), "#version 100");
        version.line = 0;
    }
    // The includes are in already; the driver does not know the extension that names them.
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const std::string said = directive(code[i]);
        if (said.starts_with("extension GL_GOOGLE_include_directive") ||
            said.starts_with("extension GL_GOOGLE_cpp_style_line_directive") ||
            said.starts_with("extension GL_ARB_shading_language_include")) {
            lines[i] = "";
        }
    }
    both_precisions result{joined(lines), ""};
    static const text_pattern coarser("\\b(mediump|lowp)\\b");
    static const text_pattern samples("\\bsampler");
    const std::string whole = joined(code);
    if (!coarser.is_in(whole) && !(es && samples.is_in(whole))) {
        return result;
    }
    result.as_written = result.high;
    if (es) {
        const std::string defaults = "precision highp float; precision highp int; precision highp sampler2D;";
        const std::size_t at = first_code(code);
        lines.insert(lines.begin() + static_cast<std::ptrdiff_t>(at), defaults + ours);
    }
    const auto after = lines.begin() + (version.line ? static_cast<std::ptrdiff_t>(*version.line) + 1 : 0);
    const std::string medium = std::string("#define mediump highp") + ours;
    const std::string low = std::string("#define lowp highp") + ours;
    lines.insert(after, {medium, low});
    result.high = joined(lines);
    return result;
}

void require_no_fixed_function(const shader_stage& stage) {
    static const text_pattern fixed(
        "\\b(gl_(Vertex|Normal|Color|SecondaryColor|MultiTexCoord\\d|FogCoord|LightSource|LightModel|"
        "FrontMaterial|"
        "BackMaterial|FrontLightProduct|BackLightProduct|FrontLightModelProduct|ModelView\\w*Matrix\\w*|"
        "ProjectionMatrix\\w*|NormalMatrix|NormalScale|TextureMatrix\\w*|TexCoord|FrontColor|BackColor|"
        "ClipVertex|"
        "Fog|TextureEnvColor)|ftransform)\\b");
    const std::vector<std::string> lines = lines_of(without_comments(stage.source));
    for (std::size_t i = 0; i < lines.size(); ++i) {
        if (const auto found = fixed.find(lines[i])) {
            const std::string name = found->text(1);
            const auto is = [&](const char* part) { return name.find(part) != std::string::npos; };
            throw error(place_of(stage, i + 1, found->place(1) + 1),
                        "`" + name + "` belongs to the fixed function, which nothing feeds here",
                        is("Matrix") || is("ftransform")
                            ? "a uniform of your own, bound to `object.to_clip`, "
                              "`object.to_view` or `object.normal_to_view`"
                        : is("Light") || is("Material")
                            ? "uniforms of your own, bound to `lights[0].…` and `material.…`"
                        : is("Vertex") || is("Normal") ? "an attribute of your own, named in [attributes]"
                                                       : "an attribute, a varying or a uniform of your own");
        }
    }
}

} // namespace

driver_sources prepared(const shader_program& the_program) {
    const bool es = the_program.language == shading_language::glsl_es;
    require_no_fixed_function(the_program.vertex);
    require_no_fixed_function(the_program.fragment);
    const both_precisions vertex = in_high_precision(the_program.vertex.source, es);
    const both_precisions fragment = in_high_precision(the_program.fragment.source, es);
    driver_sources result;
    result.vertex = vertex.high;
    result.fragment = fragment.high;
    if (!vertex.as_written.empty() || !fragment.as_written.empty()) {
        result.vertex_as_written = vertex.as_written.empty() ? vertex.high : vertex.as_written;
        result.fragment_as_written = fragment.as_written.empty() ? fragment.high : fragment.as_written;
    }
    for (const shader_stage* stage : {&the_program.vertex, &the_program.fragment}) {
        const version_of_source version = find_version(lines_of(without_comments(stage->source)));
        const bool old = version.line ? version.number < 140 || version.profile == "compatibility" : true;
        result.old_dialect = result.old_dialect || (!es && old);
    }
    return result;
}

std::size_t line_as_written(const std::string& prepared_source, std::size_t line) {
    const std::vector<std::string> lines = lines_of(prepared_source);
    std::size_t added = 0;
    for (std::size_t i = 0; i < lines.size() && i < line; ++i) {
        added += lines[i].ends_with(ours) ? 1U : 0U;
    }
    return line - std::min(added, line - std::min<std::size_t>(line, 1));
}

yurvo::source_location place_of(const shader_stage& stage, std::size_t line, std::size_t column) {
    if (line == 0 || line > stage.lines.size()) {
        return {stage.file, line, column};
    }
    const source_line& at = stage.lines[line - 1];
    return {stage.files[at.file], at.line, column};
}

std::map<std::string, std::string> block_instances(const shader_program& the_program) {
    static const text_pattern block(
        R"(\b(?:uniform|buffer|cbuffer)\s+(\w+)\s*(?::[^{]*)?\{[^}]*\}\s*(\w+)?)");
    std::map<std::string, std::string> result;
    for (const shader_stage* stage : {&the_program.vertex, &the_program.fragment}) {
        const std::string text = without_comments(stage->source);
        for (const text_pattern::match& found : block.all(text)) {
            result[found.text(1)] = found.text(2);
        }
    }
    return result;
}

bool reads(const driver_sources& sources, const std::string& name) {
    std::string member =
        name.substr(name.find_last_of('.') == std::string::npos ? 0 : name.find_last_of('.') + 1);
    member = member.substr(0, member.find('['));
    if (member.find_first_not_of(word_characters) != std::string::npos) {
        return true; // no name that a source could have
    }
    const text_pattern word = text_pattern::word(member);
    const text_pattern declared("(\\w|>)\\s+" + member + "\\s*(\\[[^\\]]*\\]\\s*)?(,|;|:)|,\\s*" + member +
                                "\\s*(\\[[^\\]]*\\]\\s*)?(,|;)");
    for (const std::string* source : {&sources.vertex, &sources.fragment}) {
        const std::string text = without_comments(*source);
        if (word.all(text).size() > declared.all(text).size()) {
            return true;
        }
    }
    return false;
}

bool asks_for_angles(const std::string& source) {
    static const text_pattern call(R"(\ba(?:cos|sin|tan)\s*\()");
    return call.is_in(without_comments(source));
}

bool declares(const shader_program& the_program, const std::string& name) {
    if (the_program.language == shading_language::spirv) {
        return true; // what it declares and does not use may have been stripped
    }
    const std::string word = name.substr(0, name.find_first_of(".["));
    const std::string last =
        name.substr(name.find_last_of('.') == std::string::npos ? 0 : name.find_last_of('.') + 1);
    const std::string bare = last.substr(0, last.find('['));
    const auto found = [](const std::string& text, const std::string& what) {
        return text_pattern::word(what).is_in(text);
    };
    if (word.find_first_not_of(word_characters) != std::string::npos ||
        bare.find_first_not_of(word_characters) != std::string::npos) {
        return false;
    }
    std::string all;
    for (const shader_stage* stage : {&the_program.vertex, &the_program.fragment}) {
        all += without_comments(stage->source) + "\n";
    }
    return found(all, word) && found(all, bare);
}

} // namespace yurvo::inline v0_1::program
