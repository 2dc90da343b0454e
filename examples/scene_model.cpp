// A scene's own model, formulas and all, as C++: foggy_quay.hpp is what
// `yurvo export foggy-quay --language c++ -o foggy_quay.hpp` wrote. It is held to the scene.
#include <cstdio>

#include "foggy_quay.hpp"
#include <yurvo/yurvo.hpp>

int main() {
    const yurvo::scene quay = yurvo::read_scene("scenes/reference/foggy-quay.toml");
    const yurvo::check_report report = yurvo::check(quay, scene_model{});
    std::printf("%zu checks held, %zu did not\n", report.passed(), report.failed());
    std::fputs(report.failures().c_str(), stdout);
    return report.failed() == 0 ? 0 : 1;
}
