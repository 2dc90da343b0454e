#include "yurvo/program/driver_facts.hpp"

#include "program/driver_prison.hpp"
#include "program/driver_process.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1 {

driver_facts find_driver_facts(double limit) {
    using namespace program;
    driver_facts facts;
#if defined(YURVO_WITH_DRIVER)
    facts.built_in = true;
#endif
#if defined(YURVO_WITH_TRANSLATION)
    facts.translators = true;
#endif
    driver_sources plain;
    plain.vertex = "#version 330 core\nin vec3 place;\nvoid main() { gl_Position = vec4(place, 1.0); }\n";
    plain.fragment = "#version 330 core\nout vec4 color;\nvoid main() { color = vec4(1.0); }\n";
    try {
        const driver_process process(plain, limit);
        const linked_program& linked = process.linked();
        facts.name = linked.driver;
        const auto held = [&](confinement which) {
            return (linked.confined & static_cast<std::uint8_t>(which)) != 0;
        };
        facts.limits = held(confinement::limits);
        facts.files = held(confinement::files);
        facts.network = held(confinement::network);
        facts.calls = held(confinement::calls);
        if (linked.failed_stage != 0) {
            facts.missing = "it does not compile a plain shader: " + linked.failure;
        }
    } catch (const error& failed) {
        facts.missing = failed.wrong();
    }
    return facts;
}

} // namespace yurvo::inline v0_1
