#include "yurvo/live/judge.hpp"

#include <algorithm>
#include <optional>
#include <utility>

#include "scene/in_size.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/verify/check.hpp"

namespace yurvo::inline v0_1::live {

namespace {

// As `check` draws for the second method.
constexpr int width = 320;
constexpr int height = 200;
constexpr std::size_t few_compared = 5'000; // at first: a mistake mostly shows among them

verdict broken(const std::string& scene_name, const error& wrong) {
    verdict made;
    made.what = finding::broken;
    made.scene_name = scene_name;
    made.line = wrong.what();
    return made;
}

std::vector<std::string> ids_of(const verify::diagnosis& found) {
    std::vector<std::string> ids;
    if (found.verdict == verify::verdict_kind::mistake && !found.mistakes.empty()) {
        ids.push_back(found.mistakes.front().id());
        for (const verify::mistake tie : found.ties) {
            ids.emplace_back(verify::entry_of(tie).id);
        }
    }
    return ids;
}

void conclude(verdict& made, verify::diagnosis found) {
    made.ids = ids_of(found);
    switch (found.verdict) {
    case verify::verdict_kind::right:
        made.what = finding::right;
        made.line = "right";
        break;
    case verify::verdict_kind::mistake:
        made.what = finding::mistake;
        for (const std::string& id : made.ids) {
            made.line += (made.line.empty() ? "" : " or ") + id;
        }
        break;
    case verify::verdict_kind::unknown:
        made.what = finding::unknown;
        made.line = "not right, and no known mistake explains it";
        break;
    }
    made.diagnosis = std::move(found);
}

verdict judge_program(kept_program& program, const std::string& scene_name, const scene& the_scene,
                      const std::atomic<bool>& cancelled, std::array<int, 2> shown) {
    verdict made;
    made.scene_name = scene_name;
    const std::shared_ptr<const program_renderer> by = program.now();
    made.held = by->format();
    fitted_scene fitted = by->fit(in_size(the_scene, width, height));
    made.fits = fitted.changes;
    if (!fitted.fitted) {
        made.line = "the scene does not suit what the program claims: " + fitted.skipped;
        return made;
    }
    made.drawn = std::move(*fitted.fitted);
    made.right = std::make_shared<picture>(draw(made.drawn));
    made.found = std::make_shared<picture>(by->draw(made.drawn));
    if (cancelled) {
        return made;
    }
    if (shown[0] > 0) {
        made.shown = std::make_shared<picture>(by->draw(in_size(made.drawn, shown[0], shown[1])));
    }
    const verify::check_result held =
        verify::hold_against_second_method(made.drawn, *made.found, by->format(), by->tolerance());
    if (const std::optional<verify::check_result> beyond = study::beyond_precision(*by)) {
        made.line = "no verdict: " + beyond->remark;
        return made;
    }
    if (held.passed) {
        made.what = finding::right;
        made.line = "right";
        made.used = held.used;
        return made;
    }
    if (cancelled) {
        return made;
    }
    verify::diagnosis found = verify::diagnose(made.drawn, *made.found, by->format(), by->tolerance(),
                                               built_in_renderer(), few_compared);
    if (found.verdict != verify::verdict_kind::mistake && !cancelled) {
        found = verify::diagnose(made.drawn, *made.found, by->format(), by->tolerance());
    }
    if (found.verdict == verify::verdict_kind::right) { // what check finds off is off
        found.verdict = verify::verdict_kind::unknown;
    }
    conclude(made, std::move(found));
    return made;
}

verdict judge_picture(const subject& of, const std::string& scene_name, const scene& the_scene) {
    verdict made;
    made.scene_name = scene_name;
    const encoding how = of.held == pixel_format::linear_codes ? encoding::linear : encoding::srgb;
    made.found = std::make_shared<picture>(read_picture(of.picture, how));
    made.shown = made.found;
    made.drawn = in_size(the_scene, made.found->width, made.found->height);
    made.right = std::make_shared<picture>(draw(made.drawn));
    made.held = of.picture.ends_with(".png") ? of.held : pixel_format::floats;
    conclude(made, verify::diagnose(made.drawn, *made.found, made.held));
    return made;
}

} // namespace

kept_program::kept_program(std::string file, const models* own)
    : file_(std::move(file)), own_(own), files_{file_} {}

std::shared_ptr<const program_renderer> kept_program::now() {
    shader_program read = read_program(file_, own_);
    std::vector<std::string> files{file_};
    for (const shader_stage* stage : {&read.vertex, &read.fragment}) {
        files.push_back(stage->file);
        files.insert(files.end(), stage->files.begin(), stage->files.end());
    }
    std::sort(files.begin(), files.end());
    files.erase(std::unique(files.begin(), files.end()), files.end());
    files_ = std::move(files);
    const std::string texts = read_whole(file_) + '\0' + read.vertex.source + '\0' + read.fragment.source;
    if (!made_ || texts != read_from_) {
        made_.reset();
        made_ = std::make_shared<program_renderer>(std::move(read));
        read_from_ = texts;
    }
    return made_;
}

verdict judge(const subject& of, kept_program* program, const std::string& scene_name, const scene& the_scene,
              const std::atomic<bool>& cancelled, std::array<int, 2> shown) {
    verdict made;
    try {
        made = program != nullptr ? judge_program(*program, scene_name, the_scene, cancelled, shown)
                                  : judge_picture(of, scene_name, the_scene);
    } catch (const error& wrong) {
        made = broken(scene_name, wrong);
    } catch (const cannot_draw& wrong) {
        made = broken(scene_name, error({scene_name, 0, 0}, wrong.what(), "another scene"));
    }
    if (program != nullptr) {
        made.files = program->files();
    }
    return made;
}

} // namespace yurvo::inline v0_1::live
