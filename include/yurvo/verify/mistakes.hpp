// mistakes: the known ways to get lighting wrong, each a real variant of the computation.
//
// A mistake comes in one of three ways: the scene is rewritten into another one, a step is handed other data,
// or a formula is replaced. None of them leaves a trace in the pipeline: mistaken pictures are drawn point by
// point, in double, by code of their own (point_by_point.hpp).
#pragma once

#include <bitset>
#include <cstdint>
#include <initializer_list>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "yurvo/picture/encoding.hpp"
#include "yurvo/picture/picture.hpp"
#include "yurvo/scene/renderer.hpp"
#include "yurvo/shading/point_model.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

/// The mistakes, in the order of all_mistakes().
enum class mistake : std::uint8_t {
    normal_not_renormalized,
    normal_as_point,
    normal_without_inverse_transpose,
    normal_in_object_space,
    normal_in_view_space,
    normal_shared_corners,
    normal_flipped,
    light_direction_flipped,
    to_light_not_normalized,
    to_light_normalized_per_vertex,
    shines_not_normalized,
    half_not_normalized,
    eye_vector_flipped,
    specular_eye_at_origin,
    position_in_object_space,
    matrix_transposed,
    falloff_missing,
    falloff_after_normalize,
    falloff_not_squared,
    falloff_on_directional,
    cone_angle_in_degrees,
    cone_full_angle,
    cone_inner_outer_swapped,
    cone_axis_flipped,
    cosine_not_clamped,
    specular_on_unlit_side,
    specular_reflect_flipped,
    specular_half_for_reflect,
    specular_tinted_by_base,
    specular_without_falloff,
    specular_times_cosine,
    factor_pi,
    ambient_missing,
    ambient_per_light,
    ambient_without_falloff,
    parts_ignored,
    viewer_at_infinity,
    clamp_per_light,
    light_color_ignored,
    light_intensity_ignored,
    single_light_only,
    rate_vertex_for_fragment,
    rate_face_for_fragment,
    interpolation_affine,
    light_moves_with_object,
    light_moves_with_eye,
    encode_missing,
    encode_twice,
    texture_not_decoded,
    output_wraps,
    alpha_lit,
    channels_swapped,
    picture_upside_down,
    depth_test_missing,
    depth_test_reversed,
    block_padding_missed,
};
/// How many there are.
inline constexpr std::size_t mistake_count = 56;

/// Mistakes that are made at once.
class mistake_set {
    std::bitset<mistake_count> bits_;

  public:
    mistake_set() = default;
    /// Of those.
    mistake_set(std::initializer_list<mistake> mistakes_given) {
        for (const mistake which : mistakes_given) {
            add(which);
        }
    }
    /// Adds one.
    void add(mistake which) { bits_.set(static_cast<std::size_t>(which)); }
    /// Whether it is one of them.
    [[nodiscard]] bool has(mistake which) const { return bits_.test(static_cast<std::size_t>(which)); }
    /// Whether there is none.
    [[nodiscard]] bool empty() const { return bits_.none(); }
    /// The first in the order of the enum; nothing of an empty set.
    [[nodiscard]] std::optional<mistake> first() const {
        for (std::size_t i = 0; i < mistake_count; ++i) {
            if (bits_.test(i)) {
                return static_cast<mistake>(i);
            }
        }
        return std::nullopt;
    }
    friend bool operator==(const mistake_set&, const mistake_set&) = default;
};

struct scene_facts;

/// One mistake: all that is said of it.
struct mistake_entry {
    mistake which{};             ///< which
    std::string_view id;         ///< by which people search for it
    std::string_view what;       ///< the computation that is wrong
    std::string_view symptom;    ///< how it looks
    std::string_view cause;      ///< why it happens
    std::string_view fix;        ///< a line of formula
    std::string_view applies_to; ///< which scenes
    bool (*applies)(const scene_facts& facts) =
        nullptr;                          ///< whether it changes anything in a scene with these facts
    std::vector<std::string_view> scenes; ///< reference scenes that reveal it: see revealed_by()
};

/// In the order of the enum.
const std::vector<mistake_entry>& all_mistakes();
/// Of that mistake.
const mistake_entry& entry_of(mistake which);
/// Null where there is none of that id.
const mistake_entry* find_mistake(std::string_view id);

/// Whether a scene has the step that the mistake gets wrong. Its picture may still be the right one: a
/// missing falloff shows nothing where the falloff is 1 everywhere.
///
/// Of a model of one's own only what it is given can be wrong: normals, directions, distances, lights, what
/// becomes of its terms and of its output.
enum class lit_by : std::uint8_t { scene_model, own_model };
/// See lit_by.
bool applies(mistake which, const scene& to, lit_by model = lit_by::scene_model);

/// Mistakes of what becomes of a finished picture: they need no other drawing.
bool is_of_output(mistake which);

/// Of those, the ones that are made when codes are written: a picture of floats cannot hold them.
bool is_of_codes(mistake which);

/// The reference scenes that reveal a mistake, by their names: its picture there, at 160x100, is beyond the
/// tolerance at least fourfold on at least 64 pixels. A test draws them all and holds this table.
const std::vector<std::string_view>& revealed_by(mistake which);
/// The other way round: the ids of the mistakes that a reference scene reveals.
std::vector<std::string_view> mistakes_revealed_in(std::string_view scene);

/// A valid scene with these mistakes in it, at the scene's own size: linear, unclamped. Mistakes that concern
/// codes alone (encode-missing, encode-twice, output-wraps) are made by codes_with().
/// `own` lights in the place of the scene's model, or is null.
picture draw_with_mistakes(const scene& the_scene, const mistake_set& wrong, const term_choice& terms = {},
                           const point_model* own = nullptr);

/// Draws with mistakes in it, point by point: slow. `right` says with which model, and outlives this.
class mistaken_renderer final : public renderer {
    mistake_set wrong_;
    const renderer& right_;

  public:
    /// Draws what `right` would draw, with the mistakes; both outlive it.
    mistaken_renderer(const mistake_set& wrong, const renderer& right) : wrong_(wrong), right_(right) {}

    [[nodiscard]] picture draw(const scene& the_scene, const draw_settings& settings = {},
                               draw_statistics* statistics = nullptr) const override;
};

/// A linear picture as 8-bit codes, four a pixel, as codes_of() does it, but for the mistakes that concern
/// codes.
std::vector<std::uint8_t> codes_with(const picture& linear, const mistake_set& wrong,
                                     encoding how = encoding::srgb);
/// One component.
std::uint8_t code_with(double linear, const mistake_set& wrong, encoding how = encoding::srgb);

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
