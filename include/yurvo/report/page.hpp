// page: all that is known of a subject in one HTML file that needs nothing else.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "yurvo/program/program_renderer.hpp"
#include "yurvo/study/evidence.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// What a page says of how it was made.
struct page_facts {
    std::string title;   ///< what the page is about, in a few words
    std::string about;   ///< a line below
    std::string version; ///< of the tool
    std::string command; ///< that makes the page again
};

/// The page. `program` may be null: the page is about a picture, or the scenes themselves.
std::string page(const study::evidence& of, const page_facts& facts, const program_renderer* program);

/// What the page's script adds up: 16-bit floats whose lowest `page_shift` bits are left out, in the order
/// background, layers; each of three planes (red, green − red, blue − red), less what is expected of the
/// pixels left and above, the upper bytes apart from the lower, and that deflated.
inline constexpr int page_shift = 2;
/// The pictures of each light's each term, as the page's script reads them.
std::string packed_layers(const study::relight& parts);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
