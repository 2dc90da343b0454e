#include "program/guess_trying.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <limits>
#include <memory>
#include <optional>

#include "program/guess_hints.hpp"
#include "program/guess_moves.hpp"
#include "program/source_text.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/verify/coverage.hpp"
#include "yurvo/verify/one_number.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::program {

namespace {

using clock = std::chrono::steady_clock;

constexpr double most_seconds = 10;
constexpr int width = 72;
constexpr int height = 45;
constexpr double never = 1e9;          // of a candidate that cannot be drawn
constexpr double unlit_at_least = 0.5; // of a lit model of which no light is to be seen

class trying {
    std::vector<scene> scenes_;
    std::unique_ptr<program_renderer> compiled_;
    clock::time_point began_ = clock::now();
    const std::function<void(const std::string&)>& tell_;
    std::size_t tried_ = 0;

    [[nodiscard]] bool in_time() const {
        return std::chrono::duration<double>(clock::now() - began_).count() < most_seconds;
    }

    static scene small(const scene& of) {
        scene made = of;
        made.view.width = width;
        made.view.height = height;
        made.expects.clear();
        return made;
    }

  public:
    settled_guess result;

    trying(const shader_program& first, const std::function<void(const std::string&)>& tell) : tell_(tell) {
        scenes_.push_back(small(verify::coverage_scenes()[0].scene));
        scenes_.push_back(small(verify::coverage_scenes()[1].scene));
        scenes_.push_back(small(verify::find_reference("buoys")->scene));
        scenes_.push_back(small(verify::find_reference("behind-the-wall")->scene));
        result.program = first;
    }

    // How far the pictures are from right ones: 0 where all codes agree.
    double off_of(const shader_program& candidate) {
        ++tried_;
        try {
            std::unique_ptr<program_renderer> by;
            if (compiled_) {
                by = compiled_->with_claim(candidate);
            } else {
                compiled_ = std::make_unique<program_renderer>(candidate);
            }
            const program_renderer& subject = by ? *by : *compiled_;
            double sum = 0;
            std::size_t counted = 0;
            std::size_t reached = 0; // scenes in which lights are to be seen
            for (const scene& each : scenes_) {
                const fitted_scene fitted = subject.fit(each);
                if (!fitted.fitted) {
                    return never;
                }
                const rgb<double>& behind = fitted.fitted->view.background;
                const picture right = draw(*fitted.fitted);
                const std::optional<double> off = apart(subject.draw(*fitted.fitted), right, behind);
                sum += off.value_or(0);
                counted += off ? 1U : 0U;
                scene dark = *fitted.fitted;
                dark.lights.clear();
                reached += apart(draw(dark), right, behind).value_or(0) > 0 ? 1U : 0U;
            }
            // Where nearly nothing is to be seen anywhere, nothing is told; nor by a claim that leaves the
            // lights out of a lit model, whatever else fits.
            if (counted < 2) {
                return never;
            }
            const double mean = sum / static_cast<double>(counted);
            return reached > 1 || candidate.model == model_kind::unlit ? mean
                                                                       : std::max(mean, unlit_at_least);
        } catch (const program_stopped&) {
            throw;
        } catch (const missing_error&) {
            throw;
        } catch (const error&) {
            if (!compiled_) {
                throw;
            }
            return never;
        } catch (const cannot_draw&) {
            return never;
        }
    }

    // What is off, as a share of the light that either picture holds: a darker claim is no better one. A
    // handful of pixels at edges is nothing.
    static std::optional<double> apart(const picture& found, const picture& right,
                                       const rgb<double>& background) {
        double off = 0;
        double light = 0;
        std::size_t beyond = 0;
        std::size_t lit = 0;
        const auto code = [](double linear) { return 255 * srgb_encoded(std::clamp(linear, 0.0, 1.0)); };
        const std::array<double, 3> behind{code(background.r), code(background.g), code(background.b)};
        for (std::size_t i = 0; i + 3 < found.values.size(); i += 4) {
            double most = 0;
            double held = 0;
            for (std::size_t c = 0; c < 3; ++c) {
                const double a = code(static_cast<double>(found.values[i + c]));
                const double b = code(static_cast<double>(right.values[i + c]));
                most = std::max(most, std::isfinite(a) && std::isfinite(b) ? std::abs(a - b) : 255.0);
                held = std::max({held, std::abs(a - behind[c]), std::abs(b - behind[c])});
            }
            beyond += most > 0.6 ? 1U : 0U;
            lit += held > 1 ? 1U : 0U;
            off += std::min(most, 64.0);
            light += std::isfinite(held) ? std::min(held, 64.0) : 64.0;
        }
        if (lit < found.pixels() / 50) {
            return std::nullopt; // nothing is to be seen
        }
        const double share = static_cast<double>(beyond) / static_cast<double>(lit);
        return share < 0.006 ? 0 : 0.3 * share + 0.7 * off / std::max(light, 1.0);
    }

    // Of all these moves the one that helps most, if any does by a noticeable part. True where one was made.
    bool improve(const std::vector<move>& moves, double least_gain = 0.02) {
        const move* best = nullptr;
        double least = result.off;
        for (const move& each : moves) {
            if (!in_time() || least == 0) {
                break;
            }
            shader_program changed = result.program;
            each.make(changed);
            const double off = off_of(changed);
            if (off < least && off < result.off * (1 - std::max(least_gain, each.least_gain))) {
                least = off;
                best = &each;
            }
        }
        if (best == nullptr) {
            return false;
        }
        best->make(result.program);
        result.off = least;
        result.how[best->about] = best->says;
        if (!best->omits.empty()) {
            result.omitted.push_back(best->omits);
        }
        tell_("trying what the names mean: " + std::to_string(tried_) + " pictures");
        return true;
    }

    // Step by step the one move that helps most; where none does, a number that is written into the source.
    void run(const guessed_bindings& guessed) {
        try {
            result.off = off_of(result.program);
        } catch (const error&) { // what is bound so far makes no kind of light, perhaps
            if (compiled_ || result.program.kinds) {
                throw;
            }
            result.program.kinds = std::vector{light_kind::point};
            result.off = off_of(result.program);
        }
        const std::vector<move> moves = all_moves(guessed);
        for (int step = 0; step < 10 && result.off > 0 && in_time(); ++step) {
            if (!improve(moves) && !fit_numbers()) {
                break;
            }
        }
    }

    // Whether some name brings the quantity, or what it is a factor of.
    [[nodiscard]] bool is_bound(const std::string& quantity) const {
        const std::string property = quantity.substr(quantity.find_last_of('.') + 1);
        const bool of_light = quantity.starts_with("lights");
        for (const shader_binding& each : result.program.uniforms) {
            for (const auto& means : each.means) {
                const std::string* text = std::get_if<std::string>(&means);
                if (text == nullptr) {
                    continue;
                }
                const bool same = text->find(of_light ? "." + property : quantity) != std::string::npos;
                const bool product =
                    (quantity == "lights[*].intensity" && text->find("lights") != std::string::npos &&
                     text->ends_with("light") && !text->ends_with("to_light")) ||
                    (quantity.starts_with("ambient") && text->find("ambient.") == 0);
                if (same || product) {
                    return true;
                }
            }
        }
        return false;
    }

    // A number that is written into the source, found by fitting.
    bool fit_numbers() {
        std::vector<verify::wrong_picture> wrong;
        std::unique_ptr<program_renderer> by = compiled_->with_claim(result.program);
        for (const scene& each : scenes_) {
            const fitted_scene fitted = by->fit(each);
            if (fitted.fitted) {
                scene larger = *fitted.fitted;
                larger.view.width = 160;
                larger.view.height = 100;
                wrong.push_back({larger, by->draw(larger)});
            }
        }
        const std::vector<verify::needed_number> found =
            verify::nearest_numbers(wrong, by->format(), by->tolerance());
        std::vector<move> moves;
        for (const verify::needed_number& each : found) {
            if (is_bound(each.quantity)) {
                continue;
            }
            moves.push_back({"[constants] " + each.quantity, "tried: the number that fits best",
                             [each](shader_program& of) {
                                 std::erase_if(of.constants, [&](const shader_constant& other) {
                                     return other.quantity == each.quantity;
                                 });
                                 of.constants.push_back({each.quantity, {each.value}, {of.file, 0, 0}});
                             },
                             ""});
        }
        return improve(moves, 0.01);
    }
};

} // namespace

settled_guess settle(const shader_program& sources, const guessed_bindings& guessed,
                     const std::function<void(const std::string&)>& tell) {
    shader_program first = sources;
    first.rate = likely_rate(sources, guessed);
    const auto add = [&](std::vector<shader_binding>& to, const guessed_name& name,
                         const std::string& means) {
        shader_binding binding;
        binding.name = name.name;
        if (means.empty()) {
            binding.means = {1.0};
        } else {
            binding.means = {means};
        }
        binding.where = {first.file, 0, 0};
        to.push_back(std::move(binding));
    };
    for (const guessed_name& each : guessed.attributes) {
        add(first.attributes, each, each.means.empty() ? "position" : each.means);
    }
    std::map<std::string, std::string> how;
    for (const guessed_name& each : guessed.uniforms) {
        std::string means = each.means;
        if (means.empty()) {
            const std::vector<std::string> options = meanings_of(each);
            means = options.empty() ? "" : options.front();
            how[each.name] = "open: its name says nothing, and trying has not settled it";
        } else {
            how[each.name] = "by its name and type";
        }
        add(first.uniforms, each, means);
    }
    // A specular term that nobody feeds is none.
    const auto means_any = [&](std::initializer_list<const char*> parts) {
        return std::any_of(guessed.uniforms.begin(), guessed.uniforms.end(), [&](const guessed_name& each) {
            return std::any_of(parts.begin(), parts.end(),
                               [&](const char* part) { return each.means.find(part) != std::string::npos; });
        });
    };
    const std::string text =
        without_comments(sources.fragment.source) + without_comments(sources.vertex.source);
    if (text.find("pow") == std::string::npos && !means_any({"specular", "shininess"})) {
        first.model = means_any({"lights"}) || text.find("dot") != std::string::npos ? model_kind::lambert
                                                                                     : model_kind::unlit;
    } else if (text.find("reflect") != std::string::npos) {
        first.model = model_kind::phong;
    }
    // Without a base colour the other factors hold it.
    const bool base =
        std::any_of(first.uniforms.begin(), first.uniforms.end(), [](const shader_binding& each) {
            return text_of(each).starts_with("material.base") || text_of(each) == "material.texture";
        });
    for (shader_binding& each : first.uniforms) {
        if (!base && (text_of(each) == "material.diffuse" || text_of(each) == "material.ambient")) {
            each.means = {"= material.base * " + text_of(each)};
        }
    }
    take_hints(first, text);
    trying all(first, tell);
    all.result.how = std::move(how);
    all.run(guessed);
    return std::move(all.result);
}

} // namespace yurvo::program
