// page_writing: the page of a subject, for the commands that end in one.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "session.hpp"
#include "yurvo/study/check_run.hpp"

namespace yurvo::app {

struct page_subject {
    std::vector<std::string> scenes;
    std::string program;
    picture_options given;
    std::string file;      // the page's
    bool any_size = false; // whether the picture may have another one than the scene's view
    // What was found already, and the units that did not hold; checked where it is not given.
    std::optional<study::check_run> run = std::nullopt;
    std::vector<verify::check_unit> failed = {};
};

struct page_made {
    std::string line; // the verdict
    bool right = false;
};

// Throws yurvo::error unless the name ends in .html.
void require_page_name(const std::string& file);
// Checks, draws and writes. Throws yurvo::error.
page_made write_page(session& on, const page_subject& about);

// The units of all reference scenes, or of those named.
std::vector<verify::check_unit> units_asked(const session& on, const std::vector<std::string>& names,
                                            const renderer& by, std::vector<std::string>& fitted);
// One picture in the place of drawing, of the one scene that was asked for: of its own rate and model.
picture read_finished(const session& on, const std::vector<std::string>& scenes, const picture_options& given,
                      const std::string& command, study::check_request& request);

} // namespace yurvo::app
