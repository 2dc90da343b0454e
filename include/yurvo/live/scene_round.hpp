// scene_round: a shader program held to all reference scenes, one after another, so that each can be told.
#pragma once

#include <cstddef>
#include <memory>
#include <string>
#include <vector>

#include "yurvo/program/program_renderer.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/study/verdict.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::live {

/// One scene's result in a round.
struct round_line {
    std::string scene;            ///< its name
    bool passed = false;          ///< every check held
    double used = 0;              ///< the share of the tolerance, the most of its checks
    std::vector<std::string> ids; ///< of the mistakes that explain it
};

/// What is known so far.
struct round_state {
    std::vector<round_line> scenes;  ///< in the order in which they were asked
    std::size_t all = 0;             ///< how many there are to ask
    std::size_t shown = 0;           ///< mistakes that such a program could hold, and that would show
    std::vector<std::string> unseen; ///< ids of those that could hide, which leaves the verdict open
    bool ended = false;              ///< all scenes are done
    study::run_verdict verdict;      ///< once it has ended
};

/// A shader checked on one scene after the other beside the window, and broken off when it changes.
class scene_round {
    std::shared_ptr<const program_renderer> of_;
    std::vector<verify::check_unit> units_;
    std::size_t next_ = 0, stopped_ = 0;
    bool covered_ = false;
    verify::coverage coverage_;
    study::check_run run_;
    round_state state_;

    void ask_next();

  public:
    /// One more scene, of that program as it is now; begins anew where it is another one than before. Throws
    /// what drawing throws.
    void step(const std::shared_ptr<const program_renderer>& now);
    /// What is known so far.
    [[nodiscard]] const round_state& state() const { return state_; }
};

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
