#include "yurvo/live/workspace.hpp"

#include <algorithm>
#include <bit>
#include <chrono>
#include <cmath>
#include <utility>

#include "pipeline/parallel.hpp"
#include "yurvo/geometry/transform.hpp"
#include "yurvo/picture/screen_codes.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/explanation.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::live {

namespace {

double milliseconds_since(std::chrono::steady_clock::time_point begin) {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
}

screen_picture on_screen(const yurvo::picture& drawn, screen_picture before, double draw_milliseconds) {
    const auto begin = std::chrono::steady_clock::now();
    encode_for_screen(drawn, before.bytes);
    before.width = drawn.width;
    before.height = drawn.height;
    before.draw_milliseconds = draw_milliseconds;
    before.encode_milliseconds = milliseconds_since(begin);
    ++before.number;
    return before;
}

yurvo::picture in_size(const yurvo::picture& from, int width, int height) {
    yurvo::picture made(width, height);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            const int from_x = std::min(from.width - 1, x * from.width / width);
            const int from_y = std::min(from.height - 1, y * from.height / height);
            made.set(x, y, from.color(from_x, from_y), 1);
        }
    }
    return made;
}

std::string place_of_light(std::size_t light) { return "lights[" + std::to_string(light) + "]"; }

std::vector<double> numbers_of(const vec3<double>& v) { return {v.x, v.y, v.z}; }

constexpr double least_slope = 0.15; // of a ray, by which a level plane is met where a hand can mean it

// To a tenth of a millimetre: what a hand can mean.
vec3<double> rounded(const vec3<double>& v) {
    const auto round = [](double x) { return std::round(x * 1e4) / 1e4 + 0.0; };
    return {round(v.x), round(v.y), round(v.z)};
}

} // namespace

void encode_for_screen(const yurvo::picture& from, std::vector<std::uint8_t>& bytes) {
    bytes.resize(from.values.size());
    pipeline::in_bands(from.height, 32, [&](const pipeline::band& rows) {
        screen_codes(from, rows.top, rows.bottom, bytes.data());
    });
}

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
    if (verdict_) {
        files.insert(files.end(), verdict_->files.begin(), verdict_->files.end());
    }
    files_.watch(files);
}

void workspace::judge_again() {
    watch_files();
    if (subject_.program.empty() && subject_.picture.empty()) {
        return;
    }
    judged_ = document_.revision();
    work_.start([this, shown = document_.shown(), name = document_.name(),
                 size = std::array{width_, height_}](const std::atomic<bool>& cancelled,
                                                     const std::function<void(verdict)>& /*so_far*/) {
        return judge(subject_, program_ ? &*program_ : nullptr, name, shown, cancelled, size);
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
    if (std::optional<verdict> now = work_.take()) {
        verdict_ = std::move(now);
        watch_files(); // what it includes is known now
        drawn_beside_ = beside_ == beside_kind::subject ? 0 : drawn_beside_;
        something = true;
    }
    if (std::optional<beside_picture> now = beside_work_.take()) {
        beside_fault_ = now->fault;
        if (now->fault.empty()) {
            other_ = on_screen(now->drawn, std::move(other_), now->milliseconds);
        }
        something = true;
    }
    return something;
}

void workspace::wait() {
    do { // what has come may ask for more
        work_.wait();
        look();
        picture_beside();
        beside_work_.wait();
        look();
    } while (work_.busy() || beside_work_.busy());
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

void workspace::set_terms(const term_choice& terms) {
    if (!(terms == terms_)) {
        terms_ = terms;
        ++look_;
    }
}

void workspace::set_beside(beside_kind kind, const std::string& mistake) {
    if (kind != beside_ || (!mistake.empty() && mistake != mistake_)) {
        beside_ = kind;
        mistake_ = mistake.empty() ? mistake_ : mistake;
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

const screen_picture& workspace::picture() {
    const std::uint64_t now = document_.revision() * 0x100000U + look_;
    if (now != drawn_) {
        const auto begin = std::chrono::steady_clock::now();
        const yurvo::picture drawn = draw(sized(), {.terms = terms_});
        main_ = on_screen(drawn, std::move(main_), milliseconds_since(begin));
        drawn_ = now;
    }
    return main_;
}

const screen_picture* workspace::picture_beside() {
    if (beside_ == beside_kind::nothing) {
        return nullptr;
    }
    const std::uint64_t now = document_.revision() * 0x100000U + look_;
    if (now != drawn_beside_) {
        drawn_beside_ = now;
        draw_beside();
    }
    return beside_fault_.empty() && other_.width > 0 ? &other_ : nullptr;
}

void workspace::draw_beside() {
    std::shared_ptr<const yurvo::picture> subjects;
    std::string why = "it is not drawn yet";
    if (verdict_) {
        subjects = verdict_->shown;
        why = verdict_->line;
    }
    beside_work_.start(
        [of = sized(), kind = beside_, id = mistake_, terms = terms_, subjects, why,
         name = document_.name()](const std::atomic<bool>& /*cancelled*/, const auto& /*so_far*/) {
            beside_picture made;
            const auto begin = std::chrono::steady_clock::now();
            try {
                scene changed = of;
                if (kind == beside_kind::subject) {
                    if (!subjects) {
                        throw error({name, 0, 0}, why, "a moment, or what this line says");
                    }
                    made.drawn = in_size(*subjects, of.view.width, of.view.height);
                } else if (kind == beside_kind::mistake) {
                    const verify::mistake_entry* entry = verify::find_mistake(id);
                    if (entry == nullptr || !verify::applies(entry->which, of)) {
                        throw error({id, 0, 0}, "it changes nothing in this scene", "another one");
                    }
                    made.drawn = verify::draw_with_mistakes(of, {entry->which});
                } else {
                    changed.shading.rate = kind == beside_kind::face     ? rate::face
                                           : kind == beside_kind::vertex ? rate::vertex
                                                                         : rate::fragment;
                    if (const std::optional<fault> wrong = find_fault(changed)) {
                        throw error({name, 0, 0}, wrong->wrong, wrong->right);
                    }
                    made.drawn = draw(changed, {.terms = terms});
                }
            } catch (const error& wrong) {
                made.fault = wrong.what();
            }
            made.milliseconds = milliseconds_since(begin);
            return made;
        });
}

std::vector<light_marker> workspace::markers() const {
    const scene of = sized();
    const camera seen = make_camera(of.view);
    std::vector<light_marker> result;
    for (std::size_t i = 0; i < of.lights.size(); ++i) {
        if (of.lights[i].light.kind == light_kind::directional) {
            continue;
        }
        const light lamp = light_in_world(of.lights[i], seen);
        const vec3<double> at = seen.to_pixels(lamp.position - seen.eye);
        result.push_back({i, at.z > 0 ? at.x / at.z : 0, at.z > 0 ? at.y / at.z : 0, at.z > seen.near});
    }
    return result;
}

std::optional<std::size_t> workspace::light_at(double x, double y, double within) const {
    std::optional<std::size_t> nearest;
    for (const light_marker& each : markers()) {
        const double away = std::hypot(each.x - x, each.y - y);
        if (each.in_front && away <= within) {
            within = away;
            nearest = each.light;
        }
    }
    return nearest;
}

bool workspace::hold_light(std::size_t light, double x, double y) {
    held_.reset();
    const scene of = sized();
    for (const light_marker& each : markers()) {
        if (each.light == light && each.in_front) {
            held_ = {light, light_in_world(of.lights[light], make_camera(of.view)).position, x, y, each.x,
                     each.y};
        }
    }
    return held_.has_value();
}

bool workspace::drag_held(double x, double y, drag_along along) {
    const scene of = sized();
    if (!held_ || held_->light >= of.lights.size()) {
        return false;
    }
    const camera seen = make_camera(of.view);
    const vec3<double>& start = held_->start;
    const double dx = x - held_->mouse_x;
    const double dy = y - held_->mouse_y;
    const vec3<double> ray = seen.ray(held_->marker_x + dx, held_->marker_y + dy);
    const double depth = dot(seen.eye - start, seen.axes.backward);
    vec3<double> to{};
    if (along == drag_along::view) {
        to = seen.eye + ray * depth;
    } else if (along == drag_along::ground) {
        const double t = (start.y - seen.eye.y) / ray.y;
        if (std::abs(ray.y) / length(ray) > least_slope && t > seen.near && t < 3 * depth) {
            to = seen.eye + ray * t;
        } else {
            const double a_pixel = 2 * seen.tangent * depth / seen.height;
            const vec3<double> towards =
                normalize(vec3<double>{seen.axes.backward.x, 0, seen.axes.backward.z});
            to = start + seen.axes.right * (dx * a_pixel) + towards * (dy * 3 * a_pixel);
        }
        to.y = start.y;
    } else { // the place on the vertical through it that the ray comes nearest to
        const double across = ray.x * ray.x + ray.z * ray.z;
        if (!(across > 1e-9)) {
            return false; // seen from right above
        }
        const double t = ((start.x - seen.eye.x) * ray.x + (start.z - seen.eye.z) * ray.z) / across;
        to = {start.x, seen.eye.y + t * ray.y, start.z};
    }
    if (of.lights[held_->light].space == light_space::view) {
        const vec3<double> from_eye = to - seen.eye;
        to = {dot(seen.axes.right, from_eye), dot(seen.axes.up, from_eye), dot(seen.axes.backward, from_eye)};
    }
    return document_.apply(set_numbers(place_of_light(held_->light) + ".position", numbers_of(rounded(to))));
}

bool workspace::orbit(double around, double up) {
    const view& of = document_.shown().view;
    const vec3<double> from = of.eye - of.target;
    const double far = length(from);
    const double level = std::hypot(from.x, from.z);
    const double turned = std::atan2(from.x, from.z) + around;
    constexpr double most = 1.5; // radians above or below: never over the top
    const double risen = std::clamp(std::atan2(from.y, level) + up, -most, most);
    const vec3<double> eye = of.target + vec3<double>{std::sin(turned) * std::cos(risen), std::sin(risen),
                                                      std::cos(turned) * std::cos(risen)} *
                                             far;
    return document_.apply(set_numbers("view.eye", numbers_of(rounded(eye))));
}

bool workspace::zoom(double factor) {
    const view& of = document_.shown().view;
    const vec3<double> eye = of.target + (of.eye - of.target) * factor;
    if (length(eye - of.target) < 2 * of.near) {
        return false;
    }
    return document_.apply(set_numbers("view.eye", numbers_of(rounded(eye))));
}

bool workspace::pan(double dx, double dy) {
    const scene of = sized();
    const camera seen = make_camera(of.view);
    const double a_pixel =
        2 * seen.tangent * length(of.view.eye - of.view.target) / static_cast<double>(seen.height);
    const vec3<double> by = (seen.axes.right * -dx + seen.axes.up * dy) * a_pixel;
    return document_.apply_all({set_numbers("view.eye", numbers_of(rounded(of.view.eye + by))),
                                set_numbers("view.target", numbers_of(rounded(of.view.target + by)))});
}

bool workspace::fit() {
    const scene& of = document_.shown();
    vec3<double> low{1e300, 1e300, 1e300};
    vec3<double> high{-1e300, -1e300, -1e300};
    for (const object& each : of.objects) {
        const matrix4 to_world = object_to_world(each.placed);
        for (const vec3<double>& corner : build_mesh(each).positions) {
            const vec3<double> at = transform_point(to_world, corner);
            low = {std::min(low.x, at.x), std::min(low.y, at.y), std::min(low.z, at.z)};
            high = {std::max(high.x, at.x), std::max(high.y, at.y), std::max(high.z, at.z)};
        }
    }
    if (low.x > high.x) {
        return false; // nothing has corners
    }
    const vec3<double> middle = (low + high) * 0.5;
    const double radius = std::max(length(high - low) / 2, 2 * of.view.near);
    const vec3<double> towards = normalize(of.view.eye - of.view.target);
    const vec3<double> eye = middle + towards * (radius / std::sin(of.view.fov / 2));
    std::vector<edit> edits{set_numbers("view.eye", numbers_of(rounded(eye))),
                            set_numbers("view.target", numbers_of(rounded(middle)))};
    const double far = length(eye - middle) + radius;
    if (far > of.view.far) {
        edits.push_back(set_number("view.far", std::ceil(far)));
    }
    return document_.apply_all(edits);
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

} // namespace yurvo::live
