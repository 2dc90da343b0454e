#include "session.hpp"

#include <algorithm>
#include <map>
#include <memory>
#include <sstream>

#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/guess.hpp"
#include "yurvo/program/light_block.hpp"

namespace yurvo::app {

namespace {

struct pack_options {
    std::string scene, layout = "std140", members, header, output, program, json_file;
    std::size_t room = 0;
};

std::vector<std::string> words_of(const std::string& list) {
    std::vector<std::string> made;
    std::istringstream words(list);
    for (std::string word; std::getline(words, word, ',');) {
        made.push_back(word);
    }
    return made;
}

std::string table_of(const std::vector<packed_lights>& all) {
    std::string text = fmt::format("{:<16}{:<8}", "member", "type");
    for (const packed_lights& one : all) {
        text += fmt::format("{:>22}", one.layout == block_layout::packed ? "plain C++" : name_of(one.layout));
    }
    text += fmt::format("\n{:<24}", "");
    for (std::size_t i = 0; i < all.size(); ++i) {
        text += fmt::format("{:>10}{:>5}{:>7}", "offset", "size", "empty");
    }
    text += "\n";
    for (std::size_t m = 0; m < all.front().members.size(); ++m) {
        const packed_member& member = all.front().members[m];
        text += fmt::format("{:<16}{:<8}", member.name, member.type);
        for (const packed_lights& one : all) {
            const packed_member& here = one.members[m];
            text += fmt::format("{:>10}{:>5}{:>7}", here.offset, here.size,
                                here.padding > 0 ? std::to_string(here.padding) : "");
        }
        text += "\n";
    }
    const auto line = [&](const char* name, auto&& value) {
        text += fmt::format("{:<24}", name);
        for (const packed_lights& one : all) {
            text += fmt::format("{:>10}{:>12}", value(one), "");
        }
        text += "\n";
    };
    line("from light to light", [](const packed_lights& one) { return one.stride; });
    line("the number of lights", [](const packed_lights& one) { return one.count_offset; });
    line("all of it", [](const packed_lights& one) { return one.size; });
    return text;
}

std::string hex_of(const std::vector<std::uint8_t>& bytes, std::size_t most) {
    std::string text;
    for (std::size_t at = 0; at < std::min(bytes.size(), most); at += 16) {
        text += fmt::format("  {:>6} ", at);
        for (std::size_t i = at; i < std::min(at + 16, bytes.size()); ++i) {
            text += fmt::format("{}{:02x}", i % 4 == 0 ? " " : "", bytes[i]);
        }
        text += "\n";
    }
    if (bytes.size() > most) {
        text += fmt::format("  and {} bytes more; -o FILE writes them all\n", bytes.size() - most);
    }
    return text;
}

// What the driver reads where, against the same members one after another in memory.
bool compare_with_program(session& on, const std::string& file, json& data, bool speaking) {
    const std::vector<block_member> members = block_members(read_program(file));
    std::string text;
    bool agrees = true;
    std::string block;
    int begin = 0; // where the plain structure would put the next member
    data["blocks"] = json::array();
    for (const block_member& one : members) {
        if (one.block != block) {
            block = one.block;
            begin = 0;
            text += fmt::format("{}\n  {:<32}{:<8}{:>12}{:>12}\n", block, "member", "type", "driver",
                                "plain C++");
        }
        const bool off = one.offset != begin;
        agrees = agrees && !off;
        const std::string fix = !off
                                    ? ""
                                    : fmt::format("   {} bytes on: alignas({}) before it", one.offset - begin,
                                                  one.offset % 16 == 0  ? 16
                                                  : one.offset % 8 == 0 ? 8
                                                                        : 4);
        // Of a long array the first two elements tell all.
        const std::size_t open = one.name.find('[');
        const bool told = open == std::string::npos || std::stoi(one.name.substr(open + 1)) < 2;
        if (told) {
            text += fmt::format("  {:<32}{:<8}{:>12}{:>12}{}\n", one.name, one.type, one.offset, begin, fix);
        }
        data["blocks"].push_back({{"block", one.block},
                                  {"member", one.name},
                                  {"type", one.type},
                                  {"offset", one.offset},
                                  {"plain_offset", begin}});
        const int size = one.matrix > 0 ? one.matrix * one.matrix * 4 : one.components * 4;
        begin = one.offset + size; // each member is judged by itself: from where the one before it ends
        if (one.matrix > 0) {
            begin = one.offset + one.matrix * one.matrix_stride;
        }
    }
    if (members.empty()) {
        text = file + " reads no uniform block: nothing can be off\n";
    } else {
        text += agrees ? "\nA plain structure has the same offsets.\n"
                       : "\nA plain structure is read wrongly from the first such line on; `yurvo pack SCENE "
                         "--header FILE` "
                         "writes one that is not.\n";
    }
    if (speaking) {
        on.print("{}", text);
    }
    return agrees;
}

int run(session& on, const pack_options& options) {
    const std::optional<block_layout> layout =
        options.layout == "packed" ? block_layout::packed : from_name<block_layout>(options.layout);
    if (!layout) {
        throw error({"--layout", 0, 0}, "`" + options.layout + "` is not known", "std140, std430 or packed");
    }
    json data;
    const scene of = find_scene(on, options.scene);
    if (of.lights.empty()) {
        throw error({options.scene, 0, 0}, "the scene has no light", "a scene with lights");
    }
    if (options.room > 65536) {
        throw error({"--room", 0, 0}, "there are " + std::to_string(options.room),
                    "room for up to 65536 lights");
    }
    const std::vector<std::string> members =
        options.members.empty() ? usual_light_members() : words_of(options.members);
    std::vector<packed_lights> all;
    for (const block_layout one : {block_layout::std140, block_layout::std430, block_layout::packed}) {
        all.push_back(pack_lights(of, members, one, options.room));
    }
    const packed_lights& chosen = all[static_cast<std::size_t>(*layout)];
    data["scene"] = options.scene;
    data["layouts"] = json::array();
    for (const packed_lights& one : all) {
        json list = json::array();
        for (const packed_member& member : one.members) {
            list.push_back({{"name", member.name},
                            {"type", member.type},
                            {"offset", member.offset},
                            {"size", member.size},
                            {"padding", member.padding}});
        }
        data["layouts"].push_back({{"layout", name_of(one.layout)},
                                   {"members", list},
                                   {"stride", one.stride},
                                   {"count_offset", one.count_offset},
                                   {"size", one.size}});
    }
    data["layout"] = name_of(chosen.layout);
    data["bytes"] = chosen.bytes;
    const bool speaking = speaks(options.json_file);
    if (speaking) {
        on.print("{}: {} lights\n\n{}\nThe bytes in {}:\n{}", options.scene, of.lights.size(), table_of(all),
                 chosen.layout == block_layout::packed ? "plain C++" : name_of(chosen.layout),
                 hex_of(chosen.bytes, 256));
    }
    if (!options.header.empty()) {
        write_whole(options.header, header_of(chosen));
        if (speaking) {
            on.print("\n{}: a structure that asserts its offsets\n", options.header);
        }
    }
    if (!options.output.empty()) {
        write_whole(options.output, std::string(chosen.bytes.begin(), chosen.bytes.end()));
        if (speaking) {
            on.print("{}: {} bytes\n", options.output, chosen.bytes.size());
        }
    }
    bool agrees = true;
    if (!options.program.empty()) {
        if (speaking) {
            on.print("\nWhat the driver reads of {}:\n", options.program);
        }
        agrees = compare_with_program(on, options.program, data, speaking);
        data["agrees"] = agrees;
    }
    write_json(on, options.json_file, data);
    return agrees ? all_held : not_held;
}

} // namespace

void add_pack(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "pack",
        "A scene's lights as a uniform block: offsets, sizes, empty bytes, and the bytes themselves.");
    auto options = std::make_shared<pack_options>();
    command->add_option("scene", options->scene, "a scene's name or the path of a scene file")
        ->required()
        ->type_name("SCENE");
    command->add_option("--layout", options->layout, "whose bytes: std140, std430 or packed (plain C++)")
        ->capture_default_str();
    command
        ->add_option("--members", options->members,
                     "the structure's members: properties of lights in order, with commas between")
        ->type_name("LIST");
    command
        ->add_option("--room", options->room,
                     "room for so many lights; as many as the scene has where left out")
        ->type_name("N");
    command->add_option("--header", options->header, "a C++ header with a structure that asserts its offsets")
        ->type_name("FILE");
    command->add_option("-o,--output", options->output, "the bytes")->type_name("FILE");
    command
        ->add_option("--program", options->program,
                     "what the driver reads of this program's blocks, against plain C++")
        ->type_name("FILE");
    command->add_option("--json", options->json_file, "all of it, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
