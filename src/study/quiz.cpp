#include "yurvo/study/quiz.hpp"

#include <algorithm>
#include <cstdlib>
#include <random>

#include "scene/in_size.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::study {

namespace {

constexpr std::size_t choices = 4;
// A mistake is asked for only where it can be seen: this many codes on this share of the picture.
constexpr int visible_codes = 10;
constexpr double visible_share = 0.01;

using code_list = std::vector<std::uint8_t>;

int off_at(const code_list& a, const code_list& b, std::size_t pixel) {
    int most = 0;
    for (std::size_t c = 0; c < 4; ++c) {
        most =
            std::max(most, std::abs(static_cast<int>(a[4 * pixel + c]) - static_cast<int>(b[4 * pixel + c])));
    }
    return most;
}

bool visibly_apart(const code_list& a, const code_list& b) {
    std::size_t off = 0;
    const std::size_t pixels = a.size() / 4;
    for (std::size_t i = 0; i < pixels; ++i) {
        off += off_at(a, b, i) >= visible_codes ? 1U : 0U;
    }
    return static_cast<double>(off) >= visible_share * static_cast<double>(pixels);
}

void draw_both(question& result) {
    scene& the_scene = result.of.scene;
    the_scene.expects.clear();
    result.right_picture = draw(the_scene);
    result.right_codes = codes_of(result.right_picture);
    const verify::mistake wrong = result.mistake();
    result.mistaken_codes = verify::codes_with(verify::draw_with_mistakes(the_scene, {wrong}), {wrong});
    result.mistaken_picture = picture_of(the_scene.view.width, the_scene.view.height, result.mistaken_codes);
}

} // namespace

std::size_t question::answered(const std::string& answer) const {
    for (std::size_t i = 0; i < offered.size(); ++i) {
        const char letter = static_cast<char>('a' + i);
        if (answer == verify::entry_of(offered[i]).id ||
            (answer.size() == 1 && (answer[0] | 0x20) == letter)) {
            return i;
        }
    }
    return offered.size();
}

std::array<int, 2> question::farthest() const {
    std::size_t most = 0;
    for (std::size_t i = 0; i < right_codes.size() / 4; ++i) {
        if (off_at(right_codes, mistaken_codes, i) > off_at(right_codes, mistaken_codes, most)) {
            most = i;
        }
    }
    const auto width = static_cast<std::size_t>(of.scene.view.width);
    return {static_cast<int>(most % width), static_cast<int>(most / width)};
}

// Which scene, which mistake and which wrong answers: all by the seed, the same each time.
question ask(const std::string& scene_name, std::uint64_t seed) {
    std::mt19937_64 random(seed);
    const auto below = [&](std::size_t most) { return static_cast<std::size_t>(random() % most); };
    question result;
    result.seed = seed;
    std::string& name = result.of.name;
    name = scene_name;
    if (name.empty()) {
        const auto& entries = verify::all_mistakes();
        const auto& scenes = verify::revealed_by(entries[below(entries.size())].which);
        name = scenes[below(scenes.size())];
    }
    result.of.scene = find_scene(name);
    const view& its_own = result.of.scene.view;
    const scene small = in_size(result.of.scene, 160, std::max(1, 160 * its_own.height / its_own.width));
    const code_list right = codes_of(draw(small));
    std::vector<verify::mistake> candidates;
    for (const verify::mistake_entry& entry : verify::all_mistakes()) {
        if (verify::applies(entry.which, small)) {
            candidates.push_back(entry.which);
        }
    }
    for (std::size_t i = candidates.size(); i > 1; --i) { // shuffled, in a way that is the same everywhere
        std::swap(candidates[i - 1], candidates[below(i)]);
    }
    std::vector<code_list> shown;
    for (const verify::mistake entry : candidates) {
        code_list codes = verify::codes_with(verify::draw_with_mistakes(small, {entry}), {entry});
        const bool told_apart = visibly_apart(right, codes) &&
                                std::all_of(shown.begin(), shown.end(), [&](const code_list& other) {
                                    return visibly_apart(other, codes);
                                });
        if (told_apart) {
            result.offered.push_back(entry);
            shown.push_back(std::move(codes));
        }
        if (result.offered.size() == choices) {
            break;
        }
    }
    if (result.offered.size() < 2) {
        throw error({name, 0, 0}, "too few mistakes can be seen in this scene", "another scene");
    }
    result.right = below(result.offered.size());
    draw_both(result);
    return result;
}

} // namespace yurvo::inline v0_1::study
