// error: what is wrong, where, and what would be right.
#pragma once

#include <cstddef>
#include <stdexcept>
#include <string>
#include <utility>

#include "yurvo/scene/visible_text.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// Where something is wrong: a file with a line and a column (from 1; 0 where not known), or any name.
struct source_location {
    std::string file;       ///< or the name of what was read; empty where there is none
    std::size_t line = 0;   ///< from 1; 0 where it is not known
    std::size_t column = 0; ///< from 1; 0 where it is not known

    /// As messages begin: file:line:column.
    [[nodiscard]] std::string text() const {
        std::string written = file;
        if (line > 0) {
            written += ":" + std::to_string(line) + ":" + std::to_string(column);
        }
        return written;
    }
};

/// Thrown at the edges, for bad input. what() is one line: `place: what is wrong; what would be right`.
class error : public std::runtime_error {
    source_location where_;
    std::string wrong_, right_;

  public:
    /// The place, what is wrong there, what would be right.
    error(source_location where, std::string wrong, std::string right)
        : std::runtime_error(on_one_line(where.text() + ": " + wrong + "; " + right)),
          where_(std::move(where)),
          wrong_(std::move(wrong)),
          right_(std::move(right)) {}

    /// The place.
    [[nodiscard]] const source_location& where() const { return where_; }
    /// What is wrong.
    [[nodiscard]] const std::string& wrong() const { return wrong_; }
    /// What would be right; may be empty.
    [[nodiscard]] const std::string& right() const { return right_; }
};

/// Something this machine lacks: exit status 3 on the command line.
class missing_error : public error {
  public:
    using error::error; ///< As an error.
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
