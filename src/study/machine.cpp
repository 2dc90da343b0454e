#include "yurvo/study/machine.hpp"

#include <thread>

#include <fmt/format.h>

#include "yurvo/pipeline/instruction_set.hpp"
#include "yurvo/program/driver_facts.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::study {

namespace {

machine_part instruction_set_part() {
    using namespace pipeline;
    machine_part part{"instruction set", true, "", "", ""};
    try {
        const instruction_set chosen = chosen_instruction_set();
        part.what = instruction_set_names[static_cast<std::size_t>(chosen)];
        std::string others;
        for (std::size_t i = 0; i < instruction_set_names.size(); ++i) {
            if (static_cast<instruction_set>(i) != chosen && runs(static_cast<instruction_set>(i))) {
                others += (others.empty() ? "" : ", ") + std::string(instruction_set_names[i]);
            }
        }
        part.what += others.empty() ? "" : " (YURVO_ISA may name " + others + " instead)";
    } catch (const error& failed) { // YURVO_ISA names one that does not run
        part = {part.name, false, failed.wrong(), "anything that is drawn", ""};
    }
    return part;
}

machine_part threads_part() {
    const unsigned threads = std::thread::hardware_concurrency();
    return {"threads", true, threads == 0 ? "not known; one is used" : std::to_string(threads), "", ""};
}

machine_part driver_part(const driver_facts& facts) {
    if (facts.missing.empty()) {
        return {"driver", true, facts.name, "", ""};
    }
    return {"driver", false, facts.missing, "--program: shaders of your own are neither drawn nor verified",
            facts.built_in ? "libegl1 and libgl1-mesa-dri" : "libepoxy-dev and libegl-dev, then build anew"};
}

machine_part confinement_part(const driver_facts& facts) {
    std::string held;
    std::string open;
    const auto add = [&](bool holds, const char* what) {
        std::string& list = holds ? held : open;
        list += (list.empty() ? "" : ", ") + std::string(what);
    };
    add(facts.limits, "memory");
    add(facts.files, "files");
    add(facts.network, "network");
    add(facts.calls, "the kernel's calls");
    if (open.empty()) {
        return {"confinement", true, "a shader's process is limited in " + held, "", ""};
    }
    return {"confinement", false,
            "a shader's process is not limited in " + open + (held.empty() ? "" : ", but in " + held),
            "a shader that breaks into the driver is held back by less",
            facts.calls ? "" : "libseccomp-dev, then build anew"};
}

machine_part translators_part(const driver_facts& facts) {
    if (facts.translators) {
        return {"translators", true, "HLSL, GLSL for Vulkan and SPIR-V", "", ""};
    }
    return {"translators", false, "this build has none", "programs in hlsl, glsl-vulkan and spirv",
            "glslang-dev and libspirv-cross-c-shared-dev, then build anew"};
}

machine_part window_part(const window_facts& facts) {
    const std::string lost = "`yurvo view` but with --still";
    if (!facts.built_in) {
        return {"window", false, "this build has none", "`yurvo view`",
                "libsdl2-dev and libimgui-dev, then build anew"};
    }
    if (!facts.missing.empty()) {
        return {"window", false, "the library " + facts.missing + " is not there", lost, "libsdl2-2.0-0"};
    }
    if (facts.display.empty()) {
        return {"window", false, "there is no display: neither DISPLAY nor WAYLAND_DISPLAY is set", lost, ""};
    }
    return {"window", true, "on the display " + facts.display, "", ""};
}

} // namespace

std::vector<machine_part> machine_parts(const window_facts& window) {
    const driver_facts driver = find_driver_facts();
    std::vector<machine_part> parts{instruction_set_part(), threads_part(), driver_part(driver)};
    if (driver.missing.empty()) {
        parts.push_back(confinement_part(driver));
    }
    parts.push_back(translators_part(driver));
    parts.push_back(window_part(window));
    // Sheets, plots, the page and the window are lettered with Inter, which is part of the program.
    parts.push_back({"fonts", true, "Inter, in this program", "", ""});
    return parts;
}

} // namespace yurvo::inline v0_1::study
