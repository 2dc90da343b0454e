#include "scene/in_size.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/verify/diagnose.hpp"

namespace yurvo::inline v0_1::verify {

mistake_set suspect::set() const {
    mistake_set result;
    for (const mistake each : which) {
        result.add(each);
    }
    return result;
}

std::string suspect::id() const {
    std::string result;
    for (const mistake each : which) {
        result += (result.empty() ? "" : " + ") + std::string(entry_of(each).id);
    }
    return result;
}

picture picture_of_suspect(const scene& the_scene, const suspect& with, const renderer& right) {
    picture result = draw_with_mistakes(the_scene, with.set(), {}, own_model_of(the_scene, right));
    for (std::size_t i = 0; i < result.values.size(); ++i) {
        if (i % 4 != 3) {
            result.values[i] *= static_cast<float>(with.exposure);
        }
    }
    return picture_of(result.width, result.height, codes_with(result, with.set()));
}

std::string scene_that_separates(const std::vector<mistake>& apart) {
    constexpr int codes_apart = 4;
    constexpr std::size_t pixels_apart = 64;
    for (const reference_scene& reference : reference_scenes()) {
        for (const check_unit& unit : units_of(reference)) {
            const scene small = in_size(unit.asked, 160, 100);
            std::vector<std::vector<std::uint8_t>> pictures;
            bool any = false;
            for (const mistake each : apart) {
                any = any || applies(each, small);
            }
            if (!any) {
                continue;
            }
            pictures.reserve(apart.size());
            for (const mistake each : apart) {
                pictures.push_back(codes_with(draw_with_mistakes(small, {each}), {each}));
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

} // namespace yurvo::inline v0_1::verify
