#include "yurvo/picture/encoding.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::verify {

mistake_set suspect::set() const {
    mistake_set made;
    for (const mistake one : which) {
        made.add(one);
    }
    return made;
}

std::string suspect::id() const {
    std::string made;
    for (const mistake one : which) {
        made += (made.empty() ? "" : " + ") + std::string(entry_of(one).id);
    }
    return made;
}

picture picture_of_suspect(const scene& of, const suspect& with, const renderer& right) {
    picture made = draw_with_mistakes(of, with.set(), {}, right.own_model());
    for (std::size_t i = 0; i < made.values.size(); ++i) {
        if (i % 4 != 3) {
            made.values[i] *= static_cast<float>(with.exposure);
        }
    }
    return picture_of(made.width, made.height, codes_with(made, with.set()));
}

std::string scene_that_separates(const std::vector<mistake>& apart) {
    constexpr int codes_apart = 4;
    constexpr std::size_t pixels_apart = 64;
    for (const reference_scene& reference : reference_scenes()) {
        for (const check_unit& unit : units_of(reference)) {
            scene small = unit.asked;
            small.view.width = 160;
            small.view.height = 100;
            small.expects.clear();
            std::vector<std::vector<std::uint8_t>> pictures;
            bool any = false;
            for (const mistake one : apart) {
                any = any || applies(one, small);
            }
            if (!any) {
                continue;
            }
            pictures.reserve(apart.size());
            for (const mistake one : apart) {
                pictures.push_back(codes_with(draw_with_mistakes(small, {one}), {one}));
            }
            bool separated = true;
            for (std::size_t a = 0; a < pictures.size(); ++a) {
                for (std::size_t b = a + 1; b < pictures.size(); ++b) {
                    std::size_t off = 0;
                    for (std::size_t i = 0; i < pictures[a].size(); i += 4) {
                        bool differs = false;
                        for (std::size_t c = 0; c < 4; ++c) {
                            differs =
                                differs || std::abs(static_cast<int>(pictures[a][i + c]) -
                                                    static_cast<int>(pictures[b][i + c])) >= codes_apart;
                        }
                        off += differs ? 1U : 0U;
                    }
                    separated = separated && off >= pixels_apart;
                }
            }
            if (separated) {
                return reference.name;
            }
        }
    }
    return "";
}

} // namespace yurvo::verify
