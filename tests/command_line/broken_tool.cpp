// The tool with one formula broken on purpose: its first argument says which.
#include <string>

#include "yurvo/model.hpp"
#include "yurvo/yurvo.hpp"

using namespace yurvo;

namespace {

struct falloff_missing : formula {
    template <class Real> static Real falloff_inverse_square(const Real&) { return Real(1); }
};
struct cosine_missing : formula {
    template <class Real> static Real diffuse_cosine(const vec3<Real>&, const vec3<Real>&) { return Real(1); }
};
struct falloff_not_squared : formula {
    template <class Real> static Real falloff_inverse_square(const Real& d) { return Real(1) / d; }
};
// Wrong by one part in ten thousand: still far beyond rounding.
struct slightly_bright : formula {
    template <class Real> static Real diffuse_cosine(const vec3<Real>& n, const vec3<Real>& l) {
        return formula::diffuse_cosine(n, l) * Real(1.0001);
    }
};

template <class Formula> std::shared_ptr<const renderer> drawn_with() {
    return std::make_shared<const formula_renderer<Formula>>();
}

} // namespace

int main(int argc, char** argv) {
    const std::string breakage = argc > 1 ? argv[1] : "";
    tool with;
    if (breakage == "falloff-missing") {
        with.checked = drawn_with<falloff_missing>();
    } else if (breakage == "cosine-missing") {
        with.checked = drawn_with<cosine_missing>();
    } else if (breakage == "falloff-not-squared") {
        with.checked = drawn_with<falloff_not_squared>();
    } else if (breakage == "slightly-bright") {
        with.checked = drawn_with<slightly_bright>();
    } else if (breakage == "wrong-size") {
        with.checked = std::make_shared<const function_renderer>([](const scene&) { return picture(2, 2); });
    } else if (breakage == "not-a-number") {
        with.checked = std::make_shared<const function_renderer>([](const scene& drawn) {
            return picture(drawn.view.width, drawn.view.height,
                           rgb<float>(0.0F / (drawn.view.width == 0 ? 1.0F : 0.0F)));
        });
    }
    return command_line(argc - 1, argv + 1, with);
}
