#include "yurvo/report/machine.hpp"

#include <algorithm>

#include <fmt/format.h>

namespace yurvo::inline v0_1::report {

std::string machine_text(const std::vector<study::machine_part>& parts) {
    std::size_t width = 0;
    for (const study::machine_part& part : parts) {
        width = std::max(width, part.name.size());
    }
    std::string text;
    std::size_t missing = 0;
    for (const study::machine_part& part : parts) {
        text +=
            fmt::format("{:<{}}  {}  {}\n", part.name, width, part.here ? "here   " : "missing", part.what);
        if (!part.here) {
            ++missing;
            const std::string indent(width + 11, ' ');
            text += part.lost.empty() ? "" : fmt::format("{}without it: {}\n", indent, part.lost);
            text += part.package.empty() ? "" : fmt::format("{}Debian's {}\n", indent, part.package);
        }
    }
    text += missing == 0 ? "\nAll is here.\n" : fmt::format("\n{} of {} missing.\n", missing, parts.size());
    return text;
}

data data_of(const std::vector<study::machine_part>& parts, const std::string& version) {
    std::vector<data> list;
    for (const study::machine_part& part : parts) {
        data one;
        one.set("name", part.name).set("here", part.here).set("what", part.what);
        one.set("lost", part.lost).set("package", part.package);
        list.push_back(one);
    }
    data made;
    made.set("version", version).set("parts", list);
    return made;
}

} // namespace yurvo::inline v0_1::report
