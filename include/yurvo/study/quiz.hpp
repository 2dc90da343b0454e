// quiz: a scene with a mistake in it, and which mistake it could be.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/named_scene.hpp"
#include "yurvo/verify/mistakes.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// A picture with a mistake, and names to choose from.
struct question {
    named_scene of;                                        ///< what is drawn
    std::uint64_t seed = 0;                                ///< gives the same question again
    std::vector<verify::mistake> offered;                  ///< two to four; one of them is in the picture
    std::size_t right = 0;                                 ///< which of them
    picture right_picture, mistaken_picture;               ///< linear
    std::vector<std::uint8_t> right_codes, mistaken_codes; ///< four a pixel

    /// The right answer.
    [[nodiscard]] verify::mistake mistake() const { return offered[right]; }
    /// By its letter or its id; offered.size() where it is not among them.
    [[nodiscard]] std::size_t answered(const std::string& answer) const;
    /// The pixel where the two pictures are farthest apart, from the top left.
    [[nodiscard]] std::array<int, 2> farthest() const;
};

/// Which scene, which mistake and which wrong answers: all by the seed, the same each time. An empty name
/// asks for any reference scene. Throws yurvo::error where too few mistakes can be seen in the scene.
question ask(const std::string& scene_name, std::uint64_t seed);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
