// What a matrix's name says that it does.
#include <string_view>

#include "program/guess_names.hpp"
#include "program/guess_words.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// Numbers that leave everything where it is, column by column.
std::string identity_of(const type_shape& shape) {
    std::string numbers;
    for (int column = 0; column < shape.columns; ++column) {
        for (int row = 0; row < shape.rows; ++row) {
            numbers += (numbers.empty() ? "" : ", ") + std::string(column == row ? "1" : "0");
        }
    }
    return numbers;
}

} // namespace

std::string likely_matrix(const std::string& as_written, const type_shape& shape) {
    const bool of_texture =
        as_written.starts_with("uv") || as_written.starts_with("tex") || as_written.ends_with("uv");
    if (names_a_skeleton(as_written) || of_texture) {
        return identity_of(shape);
    }
    const bool small = shape.components == 9;
    std::string name = as_written;
    for (const char* word : {"matrix", "mat"}) { // says nothing more than its type does
        const std::size_t at = name.find(word);
        if (at != std::string::npos && name.size() > std::string_view(word).size()) {
            name.erase(at, std::string_view(word).size());
            break;
        }
    }
    // What a shadow is looked up by: a place that lies in the picture lies in that one, too.
    if (!first_of({{{"shadow", "lightspace", "lightview", "lightproj", "lightmat", "lightvp", "depthmvp",
                     "depthbias"},
                    "x"}},
                  name)
             .empty()) {
        return "view.world_to_clip";
    }
    if (name.find("norm") != std::string::npos || name.find("inversetranspose") != std::string::npos ||
        name.find("invtrans") != std::string::npos || name.find("transposeinv") != std::string::npos ||
        name.find("invt") != std::string::npos || name == "nm" || small || // `modelIT`, `mvit`
        (name.size() > 2 && name.ends_with("it"))) {
        return name.find("view") != std::string::npos || name.starts_with("mv") ? "object.normal_to_view"
                                                                                : "object.normal_to_world";
    }
    std::string letter = one_of(name, {{"m", "object.to_world"},
                                       {"v", "view.world_to_view"},
                                       {"p", "view.view_to_clip"},
                                       {"n", "object.normal_to_world"},
                                       {"vm", "object.to_view"},
                                       {"pv", "view.world_to_clip"}});
    if (!letter.empty()) {
        return letter;
    }
    return first_of(
        {{{"cliptoworld", "invviewproj", "inverseviewproj", "viewprojinv", "invvp"}, "view.clip_to_world"},
         {{"viewtoworld", "cameratoworld", "invview", "inverseview", "viewinv"}, "view.view_to_world"},
         {{"worldtoobject", "invmodel", "inversemodel", "invworld", "modelinv"}, "object.from_world"},
         {{"worldtoview", "worldtocamera"}, "view.world_to_view"},
         {{"objecttoview", "modeltoview", "toview"}, "object.to_view"},
         {{"mvp", "modelviewproj", "worldviewproj", "wvp", "objecttoclip", "pvm", "pmv", "projviewmodel",
           "projectionviewmodel", "projmodelview", "projectionmodelview"},
          "object.to_clip"},
         {{"viewproj", "worldtoclip", "projview", "projectionview"}, "view.world_to_clip"},
         {{"viewtoclip"}, "view.view_to_clip"},
         {{"toclip"}, "object.to_clip"},
         {{"objecttoworld"}, "object.to_world"},
         {{"vp"}, "view.world_to_clip"},
         {{"modelview", "worldview", "viewmodel", "mv"}, "object.to_view"},
         {{"proj"}, "view.view_to_clip"},
         {{"model", "object", "toworld", "world"}, "object.to_world"},
         {{"view", "camera"}, "view.world_to_view"}},
        name);
}

} // namespace yurvo::inline v0_1::program
