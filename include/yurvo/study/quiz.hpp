// quiz: a scene with a mistake in it, and which mistake it could be.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/named_scene.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::study {

struct question {
    named_scene of;
    std::uint64_t seed = 0;
    std::vector<verify::mistake> offered; ///< two to four; one of them is in the picture
    std::size_t right = 0;                ///< which of them
    picture right_picture, mistaken_picture;
    std::vector<std::uint8_t> right_codes, mistaken_codes; ///< four a pixel

    [[nodiscard]] verify::mistake mistake() const { return offered[right]; }
    /// By its letter or its id; offered.size() where it is not among them.
    [[nodiscard]] std::size_t answered(const std::string& answer) const;
    /// The pixel where the two pictures are farthest apart, from the top left.
    [[nodiscard]] std::array<int, 2> farthest() const;
};

/// Which scene, which mistake and which wrong answers: all by the seed, the same each time. An empty name
/// asks for any reference scene. Throws yurvo::error where too few mistakes can be seen in the scene.
question ask(const std::string& scene_name, std::uint64_t seed);

} // namespace yurvo::study
