#include "session.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/guess.hpp"
#include "yurvo/program/light_block.hpp"
#include "yurvo/report/light_block.hpp"

namespace yurvo::app {

namespace {

struct pack_options {
    std::string scene, layout = "std140", members, header, output, program;
    json_option data;
    std::size_t room = 0;
};

// What the driver reads of a program's blocks; true where a plain structure has the same offsets.
bool compare_with_program(session& on, const pack_options& options, report::data& data) {
    const std::vector<block_member> members = block_members(read_program(options.program));
    bool agrees = true;
    std::vector<report::data> blocks;
    for (const block_member& member : members) {
        agrees = agrees && member.offset == member.plain_offset;
        blocks.push_back(report::data_of(member));
    }
    data.set("blocks", blocks).set("agrees", agrees);
    if (options.data.speaks()) {
        on.print("\nWhat the driver reads of {}:\n{}", options.program,
                 report::block_members_text(members, options.program));
    }
    return agrees;
}

int run(session& on, const pack_options& options) {
    const auto layout = word_of<block_layout>(options.layout, "--layout");
    const study::named_scene named = named_scene(on, options.scene);
    if (named.scene.lights.empty()) {
        throw error({options.scene, 0, 0}, "the scene has no light", "a scene with lights");
    }
    if (options.room > 65536) {
        throw error({"--room", 0, 0}, "there are " + std::to_string(options.room),
                    "room for up to 65536 lights");
    }
    const std::vector<std::string> members =
        options.members.empty() ? usual_light_members() : words_of(options.members);
    std::vector<packed_lights> all;
    std::vector<report::data> layouts;
    for (const block_layout layout_here :
         {block_layout::std140, block_layout::std430, block_layout::packed}) {
        all.push_back(pack_lights(named.scene, members, layout_here, options.room));
        layouts.push_back(report::data_of(all.back()));
    }
    const packed_lights& chosen = all[static_cast<std::size_t>(layout)];
    report::data data;
    data.set("scene", options.scene)
        .set("layouts", layouts)
        .set("layout", name_of(chosen.layout))
        .set("bytes", chosen.bytes);
    const bool speaks = options.data.speaks();
    if (speaks) {
        on.print("{}: {} lights\n\n{}\nThe bytes in {}:\n{}", options.scene, named.scene.lights.size(),
                 report::light_block_text(all),
                 chosen.layout == block_layout::packed ? "plain C++" : name_of(chosen.layout),
                 report::bytes_text(chosen.bytes, 256));
    }
    if (!options.header.empty()) {
        write_whole(options.header, header_of(chosen));
        if (speaks) {
            on.print("\n{}: a structure that asserts its offsets\n", options.header);
        }
    }
    if (!options.output.empty()) {
        write_whole(options.output, std::string(chosen.bytes.begin(), chosen.bytes.end()));
        if (speaks) {
            on.print("{}: {} bytes\n", options.output, chosen.bytes.size());
        }
    }
    const bool agrees = options.program.empty() || compare_with_program(on, options, data);
    options.data.write(on, data);
    return agrees ? all_held : not_held;
}

} // namespace

void add_pack(option_list& to, session& on) {
    auto options = std::make_shared<pack_options>();
    add_scene_name(to, options->scene);
    to.text("--layout", options->layout, "whose bytes: std140, std430 or packed (plain C++)",
            {.show_default = true});
    to.text("--members", options->members,
            "the structure's members: properties of lights in order, with commas between", {.type = "LIST"});
    to.whole("--room", options->room, "room for so many lights; as many as the scene has where left out",
             {.type = "N"});
    to.text("--header", options->header, "a C++ header with a structure that asserts its offsets",
            {.type = "FILE"});
    to.text("-o,--output", options->output, "the bytes", {.type = "FILE"});
    to.text("--program", options->program,
            "what the driver reads of this program's blocks, against plain C++", {.type = "FILE"});
    options->data.add_to(to, "all of it");
    run_with(to, on, options, run);
}

} // namespace yurvo::app
