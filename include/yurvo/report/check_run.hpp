// check_run: checks in words, and pictures of what did not hold.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/study/check_run.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// What was exceeded and by how much.
std::string failure_text(const verify::check_result& result);
/// What did not hold first, the worst of it first; then a line for each scene.
std::string check_text(const study::check_run& run);
/// What explains the scenes that did not hold; empty where all did.
std::string explanations_text(const study::check_run& run);
/// How the tolerances of the checks come about whose name contains `part`, or of the scene `part`; empty
/// where there is none.
std::string derivations_text(const study::check_run& run, const std::string& part);
/// What would make it right, a line each: that of alpha, where alpha alone is wrong, and of each number:
/// `right with material.shininess = 64: if it is written into the shader, say so in [constants]`.
std::vector<std::string> number_lines(const study::check_run& run);

/// What a program was held to and how near it came; `fitted` is what units_for() told. `covered` may be null.
std::string program_text(const program_renderer& program, const std::vector<std::string>& fitted,
                         const verify::coverage* covered, const study::check_run& run);

/// What a unit shows, what it should show, and the difference.
picture failure_sheet(const verify::check_unit& unit, const picture& found, const picture& expected);

/// Writes what a unit that did not hold looks like, what it should look like by the second method, and the
/// difference as a sheet: three PNGs in a folder, which is made where there is none. Throws yurvo::error.
void keep_pictures(const std::string& folder, const verify::check_unit& unit, const picture& found);

/// The results as JUnit's XML, a test case each. Throws yurvo::error where the file cannot be written.
void write_test_report(const std::string& file, const study::check_run& run);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
