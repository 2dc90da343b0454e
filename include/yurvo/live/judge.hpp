// judge: what is to be said of a shader program or a picture as it is right now.
#pragma once

#include <array>
#include <atomic>
#include <cstdint>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "yurvo/picture/picture.hpp"
#include "yurvo/picture/pixel_format.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/scene/scene.hpp"
#include "yurvo/study/verdict.hpp"
#include "yurvo/verify/diagnose.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {
class models;
}

namespace yurvo::inline v0_1::live {

/// What is being verified: a program file, or a picture of one scene. One of them is empty.
struct subject {
    std::string program;                          ///< a program file, or empty
    std::string picture;                          ///< a picture file, or empty
    pixel_format held = pixel_format::srgb_codes; ///< how the picture holds its colours
};

using study::finding;

/// Of one scene.
struct verdict {
    finding what = finding::unknown; ///< the verdict in one word
    std::string scene_name;          ///< of the scene it was drawn in
    std::string line;                ///< one line: `right`, `falloff-missing`, or what is wrong with a file
    std::vector<std::string> ids;    ///< the mistakes that give this very picture
    std::vector<std::string> files;  ///< that a program was read from, as far as they could be read
    std::vector<std::string> fits;   ///< what was fitted, of a program
    std::shared_ptr<const picture> shown;     ///< what is found, in the size that was asked for; may be null
    pixel_format held = pixel_format::floats; ///< how the subject holds its colours
    std::shared_ptr<const picture> found, right; ///< as drawn and as it should be; null where it is broken
    yurvo::scene drawn;                          ///< the fitted scene, of the pictures' size
    verify::diagnosis diagnosis;                 ///< where it is not right
    double used = 0;                             ///< the share of the tolerance, where it is right
};

/// Reads a program when its files have changed and keeps it compiled as long as they are the same.
class kept_program {
    std::string file_;
    const models* own_;
    std::string read_from_; // the texts that it was made of
    std::shared_ptr<const program_renderer> made_;
    std::vector<std::string> files_;

  public:
    /// Reads nothing yet.
    explicit kept_program(std::string file, const models* own = nullptr);
    /// As the files are now. Throws yurvo::error, missing_error, program_stopped.
    std::shared_ptr<const program_renderer> now();
    /// The program file, its stages, what they include: as far as they could be read.
    [[nodiscard]] const std::vector<std::string>& files() const { return files_; }
};

/// Draws what the subject gives of one scene and says what it is; of a program also in the size of `shown`,
/// where that is not 0. `cancelled` is asked between steps, and
/// ends it early (the verdict is then of no use). What is wrong with a file is a verdict too.
verdict judge(const subject& of, kept_program* program, const std::string& scene_name, const scene& the_scene,
              const std::atomic<bool>& cancelled, std::array<int, 2> shown = {0, 0});

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
