// document: a scene that is being changed: its text, what it says, and every step back.
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "yurvo/files/scene_library.hpp"
#include "yurvo/live/edit.hpp"
#include "yurvo/scene/scene.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {
class models;
}

namespace yurvo::inline v0_1::live {

/// The scene's text is the truth: an edit changes it where the value stands, so that comments and order stay,
/// and the scene is read from it. What cannot be read is never kept.
class document {
    scene_source source_;
    const models* own_;
    std::string text_;    // of the shown scene
    std::string saved_;   // as it stands in the file
    std::string on_disk_; // as it was last read there, right or wrong
    scene shown_;
    // What a step has changed: at a place of the text, these bytes for those.
    struct text_change {
        std::size_t at = 0;
        std::string before, after;
    };
    std::vector<text_change> undone_, done_;
    std::string step_base_; // the text before the step that is being made
    std::optional<std::string> fault_;
    std::uint64_t revision_ = 1;
    bool in_step_ = false, step_begun_ = false;

    bool take(const std::string& text);
    static text_change change_between(const std::string& before, const std::string& after);
    void remember(const std::string& before);

  public:
    /// Throws yurvo::error where the scene cannot be read.
    explicit document(scene_source source, const models* own = nullptr);

    /// The scene as it is now.
    [[nodiscard]] const scene& shown() const { return shown_; }
    /// The scene file's text as it is now.
    [[nodiscard]] const std::string& text() const { return text_; }
    /// The file, or the name of a scene that comes with the tool.
    [[nodiscard]] const std::string& name() const { return source_.name; }
    [[nodiscard]] const std::string& file() const { return source_.file; } ///< empty: it comes with the tool
    /// Grows with every change of what is shown.
    [[nodiscard]] std::uint64_t revision() const { return revision_; }
    /// Why the last edit, or the last text on disk, was not taken: a line with its place. Nothing after one
    /// that was.
    [[nodiscard]] const std::optional<std::string>& fault() const { return fault_; }

    /// All of these at once, one step back. False, with a fault, where the scene would not be one: nothing
    /// has changed then.
    bool apply_all(const std::vector<edit>& edits);
    /// Makes one edit; false, with nothing changed, where it cannot be made.
    bool apply(const edit& one) { return apply_all({one}); }
    /// Edits until end_step() are one step back: a slider, a drag.
    void begin_step();
    /// Ends the step that undo takes back at once.
    void end_step();

    /// Whether a step can be taken back.
    [[nodiscard]] bool can_undo() const { return !done_.empty(); }
    /// Whether a step that was taken back can be made again.
    [[nodiscard]] bool can_redo() const { return !undone_.empty(); }
    /// Takes the last step back; false where there is none.
    bool undo();
    /// Makes the step again that was taken back last; false where there is none.
    bool redo();

    /// Whether the file does not hold what is shown.
    [[nodiscard]] bool changed() const { return text_ != saved_; }
    /// Writes the text to its file. Throws yurvo::error where it cannot, or where it has none.
    void save();
    /// ... to another, which is its file from then on, with the textures that it names beside it.
    void save_as(const std::string& path);

    /// Reads the file again where its bytes are others than before, textures and meshes too where `others`
    /// says that one has changed. A broken text is a fault, and the last good scene stays; what was edited
    /// and not saved is one step back. True where what is shown has changed.
    bool reread(bool others = false);

    /// The files that the scene is read from: its own, textures, meshes.
    [[nodiscard]] std::vector<std::string> files() const;
};

} // namespace yurvo::inline v0_1::live
#pragma GCC visibility pop
