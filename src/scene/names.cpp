#include "yurvo/scene/names.hpp"

#include <algorithm>
#include <array>
#include <charconv>
#include <iterator>
#include <limits>
#include <utility>

#include "yurvo/scene/shape_list.hpp"

namespace yurvo::inline v0_1 {

std::vector<std::string_view> shape_names() {
    std::vector<std::string_view> names;
    for (const shape_descriptor& shape : shape_list()) {
        names.push_back(shape.name);
    }
    return names;
}

std::string_view shape_name(const any_shape& shape) { return descriptor_of(shape).name; }

std::string short_number(double value, int digits) {
    char text[64];
    const auto written =
        std::to_chars(std::begin(text), std::end(text), value, std::chars_format::general, digits);
    return {std::begin(text), written.ptr};
}

std::string listed(const std::vector<std::string_view>& names) {
    std::string text;
    for (std::size_t i = 0; i < names.size(); ++i) {
        if (i > 0) {
            text += i + 1 == names.size() ? " or " : ", ";
        }
        text += names[i];
    }
    return text;
}

namespace {

// Damerau 1964: letters to insert, drop, change, or swap with their neighbour.
std::size_t edit_distance(std::string_view a, std::string_view b) {
    std::vector<std::size_t> before(b.size() + 1);
    std::vector<std::size_t> previous(b.size() + 1);
    std::vector<std::size_t> current(b.size() + 1);
    for (std::size_t j = 0; j <= b.size(); ++j) {
        previous[j] = j;
    }
    for (std::size_t i = 1; i <= a.size(); ++i) {
        current[0] = i;
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const std::size_t change = a[i - 1] == b[j - 1] ? 0 : 1;
            current[j] = std::min({previous[j] + 1, current[j - 1] + 1, previous[j - 1] + change});
            if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1]) {
                current[j] = std::min(current[j], before[j - 2] + 1);
            }
        }
        std::swap(before, previous);
        std::swap(previous, current);
    }
    return previous[b.size()];
}

// Words that files, options and JSON had before, and what they are called now.
constexpr std::array<std::pair<std::string_view, std::string_view>, 7> renamed_words{{
    {"rim", "penumbra"},
    {"frame", "space"},
    {"rims", "penumbras"},
    {"rim-angle-in-degrees", "cone-angle-in-degrees"},
    {"rim-full-angle", "cone-full-angle"},
    {"rim-inner-outer-swapped", "cone-inner-outer-swapped"},
    {"rim-axis-flipped", "cone-axis-flipped"},
}};

} // namespace

std::string_view renamed(std::string_view word, const std::vector<std::string_view>& known) {
    for (const auto& [before, now] : renamed_words) {
        if (before == word && std::find(known.begin(), known.end(), now) != known.end()) {
            return now;
        }
    }
    return {};
}

std::string instead_of(std::string_view word, const std::vector<std::string_view>& known,
                       const std::string& otherwise) {
    if (const std::string_view now = renamed(word, known); !now.empty()) {
        return "it is called `" + std::string(now) + "` now";
    }
    const std::string_view meant = nearest(word, known);
    return meant.empty() ? otherwise : "the nearest is `" + std::string(meant) + "`";
}

std::string_view nearest(std::string_view word, const std::vector<std::string_view>& known) {
    std::string_view best;
    std::size_t least = std::numeric_limits<std::size_t>::max();
    if (word.size() > 200) { // nothing known is that long
        return best;
    }
    for (const std::string_view candidate : known) {
        const std::size_t distance = edit_distance(word, candidate);
        if (distance < least) {
            least = distance;
            best = candidate;
        }
    }
    // More than half its letters changed is another word.
    return 2 * least <= std::max(word.size(), best.size()) ? best : std::string_view{};
}

} // namespace yurvo::inline v0_1
