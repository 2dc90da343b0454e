#include "yurvo/live/watcher.hpp"

#include <algorithm>
#include <filesystem>
#include <optional>
#include <utility>
#include <variant>

#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_library.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/live/document.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/study/check_run.hpp"

namespace yurvo::inline v0_1::live {

namespace {

// Thrown by what reports progress, to end a check that nobody waits for any more.
struct verdict_not_wanted {};

} // namespace

watcher::watcher(subject of, std::vector<std::string> scenes, const models* own)
    : of_(std::move(of)), scenes_(std::move(scenes)), own_(own), program_(of_.program, own) {
    look_anew();
}

void watcher::look_anew() {
    std::vector<std::string> all;
    if (of_.program.empty()) {
        all.push_back(of_.picture);
    } else {
        all = program_.files();
    }
    for (const std::string& name : scenes_) {
        std::error_code ignored;
        if (!std::filesystem::exists(name, ignored)) {
            continue; // it comes with the tool, or is to come
        }
        all.push_back(name);
        try {
            for (const std::string& file : document(open_scene(name), own_).files()) {
                all.push_back(file);
            }
        } catch (const error&) { // what it names is known once it can be read
        }
    }
    files_.watch(all);
}

bool watcher::saved() { return !files_.changed().empty(); }

study::run_verdict watcher::verdict_now(const std::atomic<bool>& cancelled,
                                        const std::function<void(const std::string&)>& tell) {
    study::run_verdict made;
    const auto broken = [&](const error& wrong, int status) {
        made = {};
        made.what = finding::broken;
        made.line = wrong.what();
        made.status = status;
    };
    try {
        const auto step = [&](const std::string& what) {
            if (cancelled) {
                throw verdict_not_wanted();
            }
            tell(what);
        };
        std::shared_ptr<const program_renderer> program;
        if (!of_.program.empty()) {
            step("reading " + of_.program);
            program = program_.now();
        }
        const renderer& by = program ? static_cast<const renderer&>(*program) : built_in_renderer();
        study::check_request request;
        request.tell = step;
        std::vector<std::string> lines;
        std::optional<verify::coverage> covered;
        if (scenes_.empty()) {
            request.units = study::all_units(by, lines);
            step("which mistakes such a program could hold");
            covered = study::cover(request.units, by, lines);
        }
        for (const std::string& name : scenes_) {
            const study::named_scene named{name, find_scene(name, nullptr, own_)};
            for (verify::check_unit& unit : study::units_of_scene(by, named, lines)) {
                request.units.push_back(std::move(unit));
            }
        }
        picture finished;
        if (program == nullptr) {
            const scene own = find_scene(scenes_.front(), nullptr, own_);
            finished = read_picture(of_.picture, of_.held == pixel_format::linear_codes ? encoding::linear
                                                                                        : encoding::srgb);
            if (finished.width != own.view.width || finished.height != own.view.height) {
                throw error({of_.picture, 0, 0},
                            "the picture is " + std::to_string(finished.width) + "x" +
                                std::to_string(finished.height) + ", the scene's view " +
                                std::to_string(own.view.width) + "x" + std::to_string(own.view.height),
                            "a picture of the view's size");
            }
            std::erase_if(request.units, [&](const verify::check_unit& unit) {
                return unit.asked.shading.rate != own.shading.rate ||
                       unit.asked.shading.model != own.shading.model;
            });
            request.finished = &finished;
            request.finished_format = of_.picture.ends_with(".png") ? of_.held : pixel_format::floats;
        }
        study::check_run run = study::run_checks(request, by);
        if (program) {
            study::hold_precision(*program, run);
        }
        if (run.results.empty()) {
            throw error({subject_file(), 0, 0},
                        "no scene suits what the program claims: " + (lines.empty() ? "" : lines.front()),
                        "`kinds`, `lights` and the laws that it takes");
        }
        made = study::verdict_of(run, covered ? &*covered : nullptr);
    } catch (const verdict_not_wanted&) {
    } catch (const missing_error& wrong) {
        broken(wrong, 3);
    } catch (const error& wrong) {
        broken(wrong, 2);
    }
    return made;
}

} // namespace yurvo::inline v0_1::live
