#include "yurvo/live/workspace.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <utility>

#include "live/on_screen.hpp"
#include "yurvo/live/walk.hpp"
#include "yurvo/report/explanation.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::live {

namespace {

// Thrown by what reports progress, to end measuring that nobody waits for any more.
struct not_wanted {};

// Edits that came of something; false where there are none.
bool change(document& to, const std::vector<edit>& edits) { return !edits.empty() && to.apply_all(edits); }

} // namespace

workspace::workspace(scene_source source, subject of, const models* own)
    : document_(std::move(source), own), own_(own), subject_(std::move(of)) {
    if (!subject_.program.empty()) {
        prepare_driver_processes();
        program_.emplace(subject_.program, own);
    }
    judge_again();
}

// What the judge reads is told by its verdict: while it works, its own list is its own.
void workspace::watch_files() {
    std::vector<std::string> files = document_.files();
    for (const std::string& file : {subject_.program, subject_.picture}) {
        if (!file.empty()) {
            files.push_back(file);
        }
    }
    if (const verdict* last = judged()) {
        files.insert(files.end(), last->files.begin(), last->files.end());
    }
    files_.watch(files);
}

void workspace::judge_again() {
    watch_files();
    if (subject_.program.empty() && subject_.picture.empty()) {
        return;
    }
    judged_ = document_.revision();
    work_.start([this, shown = document_.shown(), name = document_.name(), revision = judged_,
                 all = all_scenes_ && program_.has_value(), size = std::array{width_, height_}](
                    const std::atomic<bool>& cancelled, const std::function<void(judged_now)>& so_far) {
        judged_now made;
        made.revision = revision;
        made.about = judge(subject_, program_ ? &*program_ : nullptr, name, shown, cancelled, size);
        made.all = round_.state();
        if (!all || made.about.what == finding::broken) {
            return made;
        }
        so_far(made);
        try {
            const std::shared_ptr<const program_renderer> now = program_->now();
            do {
                round_.step(now);
                made.all = round_.state();
                so_far(made);
            } while (!cancelled && !made.all.ended);
        } catch (const error&) { // a save in between: the next look tells it
        } catch (const cannot_draw&) {
        }
        return made;
    });
}

bool workspace::look() {
    bool something = false;
    const std::vector<std::string> saved = files_.changed();
    if (!saved.empty()) {
        const bool others = std::any_of(saved.begin(), saved.end(),
                                        [&](const std::string& each) { return each != document_.file(); });
        document_.reread(others);
        judge_again();
        something = true;
    } else if (judged_ != 0 && judged_ != document_.revision()) {
        judge_again();
    }
    if (std::optional<judged_now> now = work_.take()) {
        const bool another = !judged_now_ || judged_now_->about.shown != now->about.shown;
        judged_now_ = std::move(now);
        watch_files(); // what it includes is known now
        drawn_beside_ = beside_ == beside_kind::subject && another ? 0 : drawn_beside_;
        something = true;
    }
    if (std::optional<beside_picture> now = beside_work_.take()) {
        beside_fault_ = now->fault;
        difference_scale_ = now->scale;
        if (now->fault.empty()) {
            other_ = on_screen(now->drawn, std::move(other_), now->milliseconds);
        }
        something = true;
    }
    if (std::optional<measured_costs> now = cost_work_.take()) {
        costs_ = std::move(now);
        something = true;
    }
    look_at_costs();
    return something;
}

// What drawing costs is measured while nothing else is done: after a change one waits until it has been so
// for a moment, and what is measured already is of no use.
void workspace::look_at_costs() {
    constexpr std::chrono::milliseconds quiet(400);
    const auto now = std::chrono::steady_clock::now();
    if (state() != looked_at_) {
        looked_at_ = state();
        same_since_ = now;
        cost_work_.cancel();
    }
    if (!costs_wanted_ || costs_of_ == state() || now - same_since_ < quiet || cost_work_.busy()) {
        return;
    }
    costs_of_ = state();
    cost_work_.start([of = sized()](const std::atomic<bool>& cancelled, const auto& /*so_far*/) {
        measured_costs made;
        try {
            study::cost_settings settings;
            settings.repeat = 5;
            settings.tell = [&](const std::string& /*what*/) {
                if (cancelled) {
                    throw not_wanted();
                }
            };
            made.cost = study::measure_cost(of, built_in_renderer(), settings);
        } catch (const not_wanted&) {
        } catch (const error& wrong) {
            made.fault = wrong.what();
        }
        return made;
    });
}

const study::cost* workspace::costs() const { return costs_ && costs_->cost ? &*costs_->cost : nullptr; }

void workspace::want_all_scenes(bool wanted) {
    if (wanted != all_scenes_) {
        all_scenes_ = wanted;
        judge_again();
    }
}

void workspace::wait() {
    do { // what has come may ask for more
        work_.wait();
        look();
        picture_beside();
        beside_work_.wait();
        look();
        if (costs_wanted_ && costs_of_ != state()) {
            same_since_ = {}; // nobody is going to change anything
            look();
        }
        cost_work_.wait();
        look();
    } while (work_.busy() || beside_work_.busy() || cost_work_.busy());
}

void workspace::set_size(int width, int height) {
    if (width != width_ || height != height_) {
        width_ = width;
        height_ = height;
        ++look_;
        if (judged_ != 0) { // what the subject shows is wanted in that size
            judge_again();
        }
    }
}

std::array<int, 2> workspace::fitting(int width, int height) const {
    if (subject_.picture.empty() || !judged_now_ || !judged_now_->about.found) {
        return {width, height};
    }
    const yurvo::picture& of = *judged_now_->about.found;
    const double scale =
        std::min(static_cast<double>(width) / of.width, static_cast<double>(height) / of.height);
    return {std::clamp(static_cast<int>(std::lround(of.width * scale)), 1, width),
            std::clamp(static_cast<int>(std::lround(of.height * scale)), 1, height)};
}

void workspace::set_terms(const term_choice& terms) {
    if (!(terms == terms_)) {
        terms_ = terms;
        ++look_;
    }
}

void workspace::set_part(std::optional<study::shown_part> part) {
    if (part != part_) {
        part_ = part;
        ++look_;
    }
}

void workspace::choose_light(std::optional<std::size_t> light) {
    if (light != light_) {
        light_ = light;
        look_ += part_ == study::shown_part::cosine ? 1U : 0U; // the chosen light's
    }
}

void workspace::set_beside(beside_kind kind, const std::string& mistake) {
    if (kind != beside_ || (!mistake.empty() && mistake != mistake_)) {
        beside_ = kind;
        mistake_ = mistake.empty() ? mistake_ : mistake;
        drawn_beside_ = 0;
    }
}

void workspace::set_difference(bool wanted) {
    if (wanted != difference_) {
        difference_ = wanted;
        drawn_beside_ = 0;
    }
}

scene workspace::sized() const {
    scene made = document_.shown();
    made.expects.clear(); // of pixels of another size
    if (width_ > 0) {
        made.view.width = width_;
        made.view.height = height_;
    }
    return made;
}

std::vector<handle> workspace::handles() const { return handles_of(sized(), light_, object_); }

std::vector<std::array<double, 2>> workspace::circle(const handle& of) const {
    return circle_of(sized(), of);
}

bool workspace::hold(const handle& taken, double x, double y) {
    held_.reset();
    if (taken.in_front) {
        held_.emplace(sized(), taken, x, y);
    }
    return held_.has_value();
}

bool workspace::drag_held(double x, double y, drag_along along) {
    return held_ && change(document_, held_->moved_to(sized(), x, y, along));
}

bool workspace::orbit(double around, double up) {
    return change(document_, orbited(document_.shown().view, around, up));
}
bool workspace::zoom(double factor) { return change(document_, zoomed(document_.shown().view, factor)); }
bool workspace::pan(double dx, double dy) { return change(document_, panned(sized().view, dx, dy)); }
bool workspace::fit() { return change(document_, fitted(document_.shown())); }

study::curves workspace::curves_of(std::size_t light) const {
    scene alone = document_.shown();
    if (light >= alone.lights.size()) {
        return {};
    }
    alone.lights = {alone.lights[light]};
    return study::curves_of(alone);
}

std::optional<verify::explanation> workspace::explain(int x, int y) const {
    const scene of = sized();
    if (x < 0 || y < 0 || x >= of.view.width || y >= of.view.height) {
        return std::nullopt;
    }
    return verify::explain(of, x, y, built_in_renderer());
}

std::string workspace::explanation_text(int x, int y) const {
    const std::optional<verify::explanation> explained = explain(x, y);
    return explained
               ? report::explanation_text({document_.name(), sized()},
                                          built_in_renderer().name_for(document_.shown()), *explained, x, y)
               : "";
}

} // namespace yurvo::inline v0_1::live
