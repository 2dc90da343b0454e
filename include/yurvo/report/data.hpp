// data: every study as JSON. The fields are listed in docs and held by tests: others rely on them.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/program/guess.hpp"
#include "yurvo/program/light_block.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/study/comparison.hpp"
#include "yurvo/study/cost.hpp"
#include "yurvo/study/curves.hpp"
#include "yurvo/study/layers.hpp"
#include "yurvo/study/pixel.hpp"
#include "yurvo/study/rates.hpp"
#include "yurvo/study/turn.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/diagnose.hpp"
#include "yurvo/verify/explain.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::report {

/// A JSON value: an object, unless a study says otherwise.
class data {
    struct parts;
    std::shared_ptr<parts> parts_;

    friend struct data_access;

  public:
    data(); ///< an empty object
    /// Sets a field, in the order in which fields are set first. What is not a finite number is null.
    data& set(std::string_view name, std::string_view text);
    /// Adds a text.
    data& set(std::string_view name, const char* text) { return set(name, std::string_view(text)); }
    /// Adds a number; one that is not finite becomes null.
    data& set(std::string_view name, double number);
    /// Adds a whole number.
    data& set(std::string_view name, std::uint64_t number);
    /// Adds a whole number.
    data& set(std::string_view name, int number);
    /// Adds true or false.
    data& set(std::string_view name, bool value);
    /// Adds a list of whole numbers.
    data& set(std::string_view name, const std::vector<int>& numbers);
    /// Adds a list of bytes, as whole numbers.
    data& set(std::string_view name, const std::vector<std::uint8_t>& bytes);
    /// Adds a list of texts.
    data& set(std::string_view name, const std::vector<std::string>& texts);
    /// Adds a list of objects.
    data& set(std::string_view name, const std::vector<data>& list);
    /// Adds an object.
    data& set(std::string_view name, const data& value);
    /// All fields of another object.
    data& add(const data& fields);
    /// Sets a field of the i-th element of a field that is a list.
    data& set_in(std::string_view list, std::size_t i, std::string_view name, std::string_view text);

    /// The text of a file: indented, ending in a newline. Bytes that are not UTF-8 are replaced.
    [[nodiscard]] std::string text() const;
};

/// As `yurvo rates` writes it.
data data_of(const study::named_scene& named, const study::rates& found);
/// As `yurvo rates --program` writes it.
data data_of(const study::named_scene& named, const study::rate_claim& found, const std::string& program);
/// As `yurvo layers` writes it.
data data_of(const study::named_scene& named, const study::layers& found);
/// As `yurvo turn` writes it.
data data_of(const study::named_scene& named, const study::turn& found);
/// As `yurvo curves` writes it.
data data_of(const study::named_scene& named, const study::curves& found);
/// As `yurvo cost` writes it.
data data_of(const study::named_scene& named, const study::cost& found, int repeat);
/// As `yurvo compare` writes it, without the names.
data data_of(const picture& a, const picture& b, const study::comparison& found);
/// As `yurvo check` writes it.
data data_of(const study::check_run& run);
/// As `yurvo diagnose` writes it, without what was judged.
data data_of(const verify::diagnosis& found);
/// As `yurvo explain` writes it, without the scene.
data data_of(const verify::explanation& explained, int x, int y);
/// What `yurvo explain --picture` adds.
data data_of(const study::found_pixel& found, const std::string& picture);
/// One of what `yurvo mistakes` writes.
data data_of(const verify::mistake_entry& entry);
/// One of what `yurvo scenes` writes.
data data_of(const verify::reference_scene& reference);
/// One layout of what `yurvo pack` writes.
data data_of(const packed_lights& packed);
/// One member of what `yurvo pack --program` writes.
data data_of(const block_member& member);
/// What `yurvo check --program` says of coverage.
data data_of(const verify::coverage& covered);
/// What a program was held to besides its checks; `fitted` is what units_for() told.
data data_of(const program_renderer& program, const std::vector<std::string>& fitted,
             const study::check_run& run);

} // namespace yurvo::inline v0_1::report
#pragma GCC visibility pop
