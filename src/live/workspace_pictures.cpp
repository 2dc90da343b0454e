// The workspace's part about pictures: the one that is looked at and the one beside it, as a window shows
// them.
#include <algorithm>
#include <chrono>
#include <utility>

#include "live/on_screen.hpp"
#include "pipeline/parallel.hpp"
#include "yurvo/picture/screen_codes.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/report/sheet.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/validate.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::inline v0_1::live {

namespace {

double milliseconds_since(std::chrono::steady_clock::time_point begin) {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
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

} // namespace

void encode_for_screen(const yurvo::picture& from, std::vector<std::uint8_t>& bytes) {
    bytes.resize(from.values.size());
    pipeline::in_bands(from.height, 16, [&](const pipeline::band& rows) {
        screen_codes(from, rows.top, rows.bottom, bytes.data());
    });
}

screen_picture on_screen(const yurvo::picture& drawn, screen_picture before, double draw_milliseconds,
                         encoding how) {
    const auto begin = std::chrono::steady_clock::now();
    if (how == encoding::srgb) {
        encode_for_screen(drawn, before.bytes);
    } else {
        before.bytes = codes_of(drawn, how);
        for (std::size_t i = 3; i < before.bytes.size(); i += 4) {
            before.bytes[i] = 255;
        }
    }
    before.width = drawn.width;
    before.height = drawn.height;
    before.draw_milliseconds = draw_milliseconds;
    before.encode_milliseconds = milliseconds_since(begin);
    ++before.number;
    return before;
}

const screen_picture& workspace::picture() {
    if (state() == drawn_) {
        return main_;
    }
    drawn_ = state();
    part_fault_.clear();
    const auto begin = std::chrono::steady_clock::now();
    if (part_) {
        try {
            study::show_settings asked;
            asked.what = *part_;
            asked.terms = terms_;
            asked.for_the_eye = true;
            scene of = sized();
            if (*part_ == study::shown_part::cosine && light_ && *light_ < of.lights.size()) {
                of.lights = {of.lights[*light_]};
            }
            const study::shown seen = study::show(of, built_in_renderer(), asked);
            main_ = on_screen(seen.drawn, std::move(main_), milliseconds_since(begin), seen.how);
            return main_;
        } catch (const error& wrong) { // a cosine where no light is
            part_fault_ = wrong.what();
        }
    }
    const yurvo::picture drawn = draw(sized(), {.terms = terms_});
    main_ = on_screen(drawn, std::move(main_), milliseconds_since(begin));
    return main_;
}

const screen_picture* workspace::picture_beside() {
    if (beside_ == beside_kind::nothing) {
        return nullptr;
    }
    if (state() != drawn_beside_) {
        drawn_beside_ = state();
        draw_beside();
    }
    return beside_fault_.empty() && other_.width > 0 ? &other_ : nullptr;
}

void workspace::draw_beside() {
    std::shared_ptr<const yurvo::picture> subjects;
    pixel_format held = pixel_format::floats;
    std::string why = "it is not drawn yet";
    if (const verdict* last = judged()) {
        subjects = last->shown;
        held = beside_ == beside_kind::subject ? last->held : held;
        why = last->line;
    }
    beside_work_.start([of = sized(), kind = beside_, id = mistake_, terms = terms_, subjects, why, held,
                        difference = difference_, name = document_.name()](
                           const std::atomic<bool>& /*cancelled*/, const auto& /*so_far*/) {
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
        if (difference && made.fault.empty()) {
            const yurvo::picture main = report::as_held(draw(of, {.terms = terms}), held);
            made.scale = report::luminance_range(main, made.drawn, 0.99);
            made.drawn = report::difference_colors(main, made.drawn, made.scale);
        }
        return made;
    });
}

} // namespace yurvo::inline v0_1::live
