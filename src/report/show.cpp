#include "yurvo/report/show.hpp"

#include <fmt/format.h>

#include "report/text.hpp"

namespace yurvo::inline v0_1::report {

std::string show_text(const study::shown& found) {
    switch (found.what) {
    case study::shown_part::normals:
        return "normals: red, green, blue are x, y, z from −1 to 1";
    case study::shown_part::cosine:
        return fmt::format("n·l of {}: white is 1, black 0, blue below 0", found.light);
    case study::shown_part::depth:
        return !found.for_the_eye             ? "depth: metres along the view, 0 where there is nothing"
               : found.statistics.pixels == 0 ? "depth: there is nothing"
                                              : fmt::format("depth: {} m is white, {} m the darkest grey",
                                                            digits(found.nearest), digits(found.farthest));
    case study::shown_part::overflow:
        break;
    }
    return fmt::format("overflow: {} pixels have a component above 1, in red", grouped(found.overflowing));
}

} // namespace yurvo::inline v0_1::report
