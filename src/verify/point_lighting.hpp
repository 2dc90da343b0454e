// point_lighting: one point lit in double by the pipeline's own formulas and models, every input of every
// step open to being another one: the home of mistakes and of explanations.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "pipeline/stage.hpp"
#include "verify/mistaken_scene.hpp"
#include "verify/point_formulas.hpp"
#include "yurvo/shading/point_model.hpp"
#include "yurvo/shading/ready_light.hpp"
#include "yurvo/verify/explain.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::verify {

using corner_weights = std::array<double, 3>;

// Where the corners of the triangle are, for what is interpolated from them.
struct corner_places {
    std::array<vec3<double>, 3> position;
    corner_weights share{};
};

// What the model is given at one point.
struct point_input {
    vec3<double> position; // of the lighting, world
    vec3<double> normal;   // of any length
    bool between_vertices = false;
    rgb<double> base{1, 1, 1};
    const corner_places* corners = nullptr; // at rate fragment, on a mesh
    bool front = true;                      // the triangle faces the eye
};

struct point_result {
    outgoing<double> lit;
    double lightness = 1; // luminance of the ambient and diffuse factors
};

struct mistaken_formula;

class point_lighting {
    // A light as one object's lighting is handed it.
    struct handed_light {
        light given;
        ready_light<double> ready;
        ready_light<double> seen; // measured from the eye, as a model of one's own is given it
    };

    const scene& of_;
    const point_model* own_;
    mistake_set wrong_;
    std::unique_ptr<mistaken_formula> equations_;
    vec3<double> view_eye_; // from which surfaces are measured
    vec3<double> backward_; // the view's axis, towards the viewer
    vec3<double> eye_;      // to which v points
    bool vertex_rays_;      // l is interpolated from the vertices
    finish_settings<double> settings_;
    std::vector<std::vector<handed_light>> lights_; // of each object
    std::optional<point_formulas> formulas_;

    [[nodiscard]] handed_light hand(const light& lamp) const;
    [[nodiscard]] vec3<double> to_light_as_used(const handed_light& from, const point_input& at,
                                                const vec3<double>& right) const;
    template <class Model>
    [[nodiscard]] reflected<double> reflect(const Model& model, const handed_light& from,
                                            const point_input& at, const surface<double>& s,
                                            explained_light* lit) const;
    template <class Model>
    point_result light_with(Model& model, std::size_t object, const surface<double>& s, const point_input& at,
                            explained_point* point) const;
    // With formulas of one's own, in point_lighting_by_formulas.cpp.
    struct formula_point;
    void give_directions(formula_point& on, const vec3<double>& l) const;
    [[nodiscard]] reflected<double> reflect_by_formulas(formula_point& on, const handed_light& from,
                                                        const point_input& at, const std::string& label,
                                                        explained_light* lit) const;
    [[nodiscard]] double model_highlight(const formula_point& on, explained_light* lit) const;
    [[nodiscard]] point_result light_by_formulas(std::size_t object, const surface<double>& s,
                                                 const point_input& at, explained_point* point) const;
    void tell_light(explained_light& lit, const handed_light& from, const point_input& at,
                    const arrival<double>& in, const vec3<double>& right) const;
    [[nodiscard]] bool sums_terms() const;
    [[nodiscard]] double lightness_of(const surface<double>& s, const reflected<double>& sum) const;

  public:
    // `of` is a scene that mistakes have rewritten, `staged` made from it, `data` what each object's lighting
    // is handed. `own` is the model that lights it in the place of the scene's, or null. All outlive this.
    point_lighting(const scene& the_scene, const pipeline::stage& staged,
                   const std::vector<lighting_data>& data, const mistake_set& wrong, const term_choice& terms,
                   const point_model* own, bool cosines_end_at_one = false);
    ~point_lighting();
    point_lighting(point_lighting&&) noexcept;
    point_lighting& operator=(point_lighting&&) = delete;
    point_lighting(const point_lighting&) = delete;
    point_lighting& operator=(const point_lighting&) = delete;

    // `told` gets the numbers, or is null.
    point_result evaluate(std::size_t object, const material& look, const point_input& at,
                          explained_point* point) const;
};

} // namespace yurvo::inline v0_1::verify
#pragma GCC visibility pop
