#include "yurvo/report/light_block.hpp"

#include <algorithm>

#include <fmt/format.h>

namespace yurvo::inline v0_1::report {

std::string light_block_text(const std::vector<packed_lights>& all) {
    std::string text = fmt::format("{:<16}{:<8}", "member", "type");
    for (const packed_lights& packed : all) {
        text += fmt::format("{:>22}",
                            packed.layout == block_layout::packed ? "plain C++" : name_of(packed.layout));
    }
    text += fmt::format("\n{:<24}", "");
    for (std::size_t i = 0; i < all.size(); ++i) {
        text += fmt::format("{:>10}{:>5}{:>7}", "offset", "size", "empty");
    }
    text += "\n";
    for (std::size_t m = 0; m < all.front().members.size(); ++m) {
        const packed_member& member = all.front().members[m];
        text += fmt::format("{:<16}{:<8}", member.name, member.type);
        for (const packed_lights& packed : all) {
            const packed_member& here = packed.members[m];
            text += fmt::format("{:>10}{:>5}{:>7}", here.offset, here.size,
                                here.padding > 0 ? std::to_string(here.padding) : "");
        }
        text += "\n";
    }
    const auto line = [&](const char* name, auto&& value) {
        text += fmt::format("{:<24}", name);
        for (const packed_lights& packed : all) {
            text += fmt::format("{:>10}{:>12}", value(packed), "");
        }
        text += "\n";
    };
    line("from light to light", [](const packed_lights& packed) { return packed.stride; });
    line("the number of lights", [](const packed_lights& packed) { return packed.count_offset; });
    line("all of it", [](const packed_lights& packed) { return packed.size; });
    return text;
}

std::string bytes_text(const std::vector<std::uint8_t>& bytes, std::size_t most) {
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

std::string block_members_text(const std::vector<block_member>& members, const std::string& file) {
    if (members.empty()) {
        return file + " reads no uniform block: nothing can be off\n";
    }
    std::string text;
    std::string block;
    bool agrees = true;
    for (const block_member& member : members) {
        if (member.block != block) {
            block = member.block;
            text += fmt::format("{}\n  {:<32}{:<8}{:>12}{:>12}\n", block, "member", "type", "driver",
                                "plain C++");
        }
        const int off = member.offset - member.plain_offset;
        agrees = agrees && off == 0;
        // Of a long array the first two elements tell all.
        const std::size_t open = member.name.find('[');
        if (open != std::string::npos && std::stoi(member.name.substr(open + 1)) >= 2) {
            continue;
        }
        const int alignment = member.offset % 16 == 0 ? 16 : member.offset % 8 == 0 ? 8 : 4;
        text += fmt::format(
            "  {:<32}{:<8}{:>12}{:>12}{}\n", member.name, member.type, member.offset, member.plain_offset,
            off == 0 ? "" : fmt::format("   {} bytes on: alignas({}) before it", off, alignment));
    }
    return text + (agrees
                       ? "\nA plain structure has the same offsets.\n"
                       : "\nA plain structure is read wrongly from the first such line on; `yurvo pack SCENE "
                         "--header FILE` writes one that is not.\n");
}

} // namespace yurvo::inline v0_1::report
