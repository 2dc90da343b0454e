// rates: a study of rates in words and as a sheet.
#pragma once

#include <string>

#include "yurvo/picture/picture.hpp"
#include "yurvo/study/rates.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// The figures, in words.
std::string rates_text(const study::named_scene& named, const study::rates& found);
/// The three pictures, two differences and their figures.
picture rates_sheet(const study::named_scene& named, const study::rates& found);

/// `program` is what the renderer is called.
std::string rate_claim_text(const study::named_scene& named, const study::rate_claim& found,
                            const std::string& program);
/// The subject's picture beside the rates that it could be lit at.
picture rate_claim_sheet(const study::named_scene& named, const study::rate_claim& found,
                         const std::string& program);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
