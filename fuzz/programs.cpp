// What a shader's author writes, and what a driver answers.
#include <array>
#include <cstdio>
#include <string>
#include <vector>

#include "finding.hpp"
#include "program/messages.hpp"
#include "program/source_text.hpp"
#include "support/temporary_folder.hpp"
#include "targets.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/formula/evaluate.hpp"
#include "yurvo/formula/formula_set.hpp"
#include "yurvo/formula/print.hpp"

namespace yurvo::fuzzing {

namespace {

constexpr std::string_view plain_vertex = "#version 330 core\nin vec3 a_place;\nuniform mat4 u_all;\n"
                                          "void main() { gl_Position = u_all * vec4(a_place, 1.0); }\n";
constexpr std::string_view plain_fragment =
    "#version 330 core\nout vec4 color;\nvoid main() { color = vec4(1.0); }\n";

} // namespace

void program_file(std::string_view bytes) {
    static const testing::temporary_folder folder;
    static const bool written = [] {
        put_file(folder / "lantern.vert", plain_vertex);
        put_file(folder / "lantern.frag", plain_fragment);
        return true;
    }();
    promise(written, "sources");
    put_file(folder / "program.toml", bytes);
    read_or_refused([&] { read_program(folder / "program.toml"); });
}

void shader_source(std::string_view bytes) {
    static const testing::temporary_folder folder;
    put_file(folder / "lantern.frag", bytes);
    read_or_refused([&] {
        shader_program made;
        made.fragment = read_stage(folder / "lantern.frag", shading_language::glsl);
        promise(made.fragment.lines.size() < (std::size_t{8} << 20U), "lines of a source");
        made.vertex.source = plain_vertex;
        made.vertex.files = {"lantern.vert"};
        for (std::uint32_t line = 1; line <= 4; ++line) {
            made.vertex.lines.push_back({0, line});
        }
        const std::string bare = program::without_comments(made.fragment.source);
        promise(std::count(bare.begin(), bare.end(), '\n') ==
                    std::count(made.fragment.source.begin(), made.fragment.source.end(), '\n'),
                "lines stay lines", made.fragment.source);
        program::block_instances(made);
        program::declared_size(made, "lamps");
        const program::driver_sources prepared = program::prepared(made);
        program::reads(prepared, "lamps");
        program::declares(made, "lamps");
    });
}

void formula(std::string_view bytes) {
    using namespace formulas;
    static const std::vector<known_name> known = [] {
        std::vector<known_name> names;
        for (const input_descriptor& each : input_list) {
            names.push_back({std::string(each.name), each.type});
        }
        return names;
    }();
    try {
        const expression parsed = parse(bytes, known);
        const std::vector<components> inputs(known.size(), components{0.6, 0.0, 0.8, 0.25});
        evaluate(parsed, inputs);
        const std::string printed_once =
            printed(parsed, written_in::glsl, [&](std::uint32_t i) { return known[i].name; });
        if (printed_once.size() > longest_text) {
            return; // what is shared stands in each place that uses it
        }
        // Constants are written as floats, as shading languages have them: what is written once stays so.
        // Signs of signs stand in parentheses then, which may be too deep to be read again.
        std::string printed_again = printed_once;
        try {
            printed_again = printed(parse(printed_once, known), written_in::glsl,
                                    [&](std::uint32_t i) { return known[i].name; });
        } catch (const fault_in_text& refused) {
            promise(std::string(refused.what()).find("nested too deep") != std::string::npos,
                    "a formula is written out as none", printed_once);
        }
        promise(printed_again == printed_once, "a formula prints as another",
                printed_once + "\n" + printed_again);
    } catch (const fault_in_text& refused) {
        promise(refused.offset <= bytes.size(), "a fault beyond the text", std::string(refused.what()));
    }
}

void driver_answer(std::string_view bytes) {
    const std::vector<std::uint8_t> message(bytes.begin(), bytes.end());
    const auto attempt = [&]<class Message>(Message into) {
        try {
            program::reader from(message);
            from.get(into);
            from.expect_end();
            program::writer back;
            back.put(into);
            promise(back.bytes == message, "a message writes as another");
        } catch (const std::runtime_error&) { // refused
        }
    };
    attempt(program::linked_program{});
    attempt(program::draw_answer{});
}

} // namespace yurvo::fuzzing
