#include "yurvo/live/document.hpp"

#include <algorithm>
#include <filesystem>
#include <utility>
#include <variant>

#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/toml_edit.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1::live {

namespace {

constexpr std::size_t most_steps = 1'000; // back; the oldest are forgotten

} // namespace

document::document(scene_source source, const models* own)
    : source_(std::move(source)),
      own_(own),
      text_(source_.text),
      saved_(source_.text),
      on_disk_(source_.text),
      shown_(parse_scene(source_.text, source_.name, source_.files, nullptr, own)) {}

bool document::take(const std::string& text) {
    try {
        shown_ = parse_scene(text, source_.name, source_.files, nullptr, own_);
    } catch (const error& wrong) {
        fault_ = wrong.what();
        return false;
    }
    text_ = text;
    fault_.reset();
    ++revision_;
    return true;
}

document::text_change document::change_between(const std::string& before, const std::string& after) {
    const auto [old_at, new_at] = std::mismatch(before.begin(), before.end(), after.begin(), after.end());
    const auto at = static_cast<std::size_t>(old_at - before.begin());
    std::size_t same = 0; // at the end
    while (same < before.size() - at && same < after.size() - at &&
           before[before.size() - 1 - same] == after[after.size() - 1 - same]) {
        ++same;
    }
    return {at, before.substr(at, before.size() - at - same), after.substr(at, after.size() - at - same)};
}

void document::remember(const std::string& before) {
    undone_.clear();
    if (in_step_ && step_begun_) {
        done_.back() = change_between(step_base_, text_);
        return;
    }
    step_begun_ = true;
    step_base_ = in_step_ ? before : std::string();
    done_.push_back(change_between(before, text_));
    if (done_.size() > most_steps) {
        done_.erase(done_.begin());
    }
}

bool document::apply_all(const std::vector<edit>& edits) {
    std::string text = text_;
    try {
        for (const edit& each : edits) {
            text = each.place.ends_with("[]")
                       ? with_section(text, source_.name, each.place.substr(0, each.place.size() - 2),
                                      each.value)
                   : each.value.empty() ? without_value(text, source_.name, each.place)
                                        : with_value(text, source_.name, each.place, each.value);
        }
    } catch (const error& wrong) {
        fault_ = wrong.what();
        return false;
    }
    if (text == text_) {
        fault_.reset();
        return true;
    }
    const std::string before = text_;
    if (!take(text)) {
        return false;
    }
    remember(before);
    return true;
}

void document::begin_step() {
    in_step_ = true;
    step_begun_ = false;
}
void document::end_step() {
    in_step_ = false;
    step_begun_ = false;
}

bool document::undo() {
    if (done_.empty()) {
        return false;
    }
    const text_change& last = done_.back();
    std::string text = text_;
    if (!take(text.replace(last.at, last.after.size(), last.before))) { // a texture that is gone, say
        return false;
    }
    undone_.push_back(std::move(done_.back()));
    done_.pop_back();
    step_begun_ = false; // what is being dragged begins another step
    return true;
}

bool document::redo() {
    if (undone_.empty()) {
        return false;
    }
    const text_change& last = undone_.back();
    std::string text = text_;
    if (!take(text.replace(last.at, last.before.size(), last.after))) {
        return false;
    }
    done_.push_back(std::move(undone_.back()));
    undone_.pop_back();
    step_begun_ = false;
    return true;
}

void document::save() {
    if (source_.file.empty()) {
        throw error({source_.name, 0, 0}, "it comes with the tool and has no file of its own",
                    "another name to save it as");
    }
    write_whole(source_.file, text_);
    saved_ = text_;
    on_disk_ = text_;
}

void document::save_as(const std::string& path) {
    for (const named_material& each : shown_.materials) {
        if (!each.texture_file.empty() && !std::filesystem::path(each.texture_file).is_absolute() &&
            !each.from_mesh) {
            const std::string to = beside(path, each.texture_file);
            if (!std::filesystem::exists(to)) {
                write_whole(to, source_.files(each.texture_file));
            }
        }
    }
    write_whole(path, text_);
    source_.file = path;
    source_.name = path;
    source_.files = [path](const std::string& file) { return read_whole(beside(path, file)); };
    saved_ = text_;
    on_disk_ = text_;
}

bool document::reread(bool others) {
    if (source_.file.empty()) {
        return false;
    }
    std::string text;
    try {
        text = read_whole(source_.file, largest_scene_file);
    } catch (const error& wrong) {
        fault_ = wrong.what();
        on_disk_.clear();
        return false;
    }
    if (text == on_disk_) {
        return others && take(text_);
    }
    on_disk_ = text;
    if (text == text_) { // what was edited here has been written there
        saved_ = text;
        fault_.reset();
        return others && take(text_);
    }
    const std::string before = text_;
    if (!take(text)) {
        return false;
    }
    saved_ = text;
    undone_.clear();
    done_.push_back(change_between(before, text_));
    end_step(); // what is being dragged goes on from there
    return true;
}

std::vector<std::string> document::files() const {
    std::vector<std::string> all;
    if (source_.file.empty()) {
        return all;
    }
    all.push_back(source_.file);
    const auto add = [&](const std::string& name) {
        const std::string path = beside(source_.file, name);
        if (!name.empty() && std::find(all.begin(), all.end(), path) == all.end()) {
            all.push_back(path);
        }
    };
    for (const named_material& each : shown_.materials) {
        add(each.texture_file);
    }
    for (const object& each : shown_.objects) {
        if (const mesh_shape* shape = std::get_if<mesh_shape>(&each.shape)) {
            add(shape->file);
        }
    }
    return all;
}

} // namespace yurvo::inline v0_1::live
