// cost: what a scene costs at each rate: milliseconds a frame, how often the model is run, where the time
// goes.
#pragma once

#include <functional>
#include <string>
#include <utility>
#include <vector>

#include "yurvo/scene/renderer.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1::study {

/// Called with what is being done, for people who wait.
using progress = std::function<void(const std::string&)>;

/// What is measured, and how often.
struct cost_settings {
    int repeat = 15; ///< frames to take the median of, 1 or more
    int threads = 0; ///< at most so many; 0 is as many as the machine has
    progress tell;   ///< may be empty
};

/// Milliseconds, from the loaded scene to the finished linear picture in memory, without files.
struct rate_cost {
    rate at = rate::fragment;                ///< where it lights
    double median = 0, lower = 0, upper = 0; ///< the quartiles
    /// Medians of what the stages took, as parts of a frame; all 0 where the renderer does not tell.
    ///@{
    double vertices = 0, visibility = 0, shading = 0;
    ///@}
    double encoding = 0;        ///< the picture as codes
    draw_statistics statistics; ///< of one frame
    int codes_off = 0;          ///< the largest difference from per fragment, of 255
};

/// What each rate costs.
struct cost {
    std::string model;               ///< what drew
    std::string drawn_by;            ///< a driver's name, or empty
    std::string instruction_set;     ///< of the pipeline
    std::vector<rate_cost> rates;    ///< in the order of the rates
    std::vector<std::string> advice; ///< what the figures mean for a choice, a sentence each
};

/// The rates one after the other, each as often as asked.
cost measure_cost(const scene& the_scene, const renderer& by, const cost_settings& settings);

/// Milliseconds over a number, at one rate.
struct cost_curve {
    rate at = rate::fragment;                      ///< where it lights
    std::vector<std::pair<double, double>> points; ///< what grows, and milliseconds a frame
};

/// How the cost grows.
struct cost_growth {
    std::vector<cost_curve> by_triangles; ///< over thousands of triangles: shapes with finer cells
    std::vector<cost_curve> by_lights;    ///< over lights: the scene's repeated; empty where it has none
};

/// Against tessellation and against the number of lights.
cost_growth measure_growth(const scene& the_scene, const renderer& by, const cost_settings& settings);

} // namespace yurvo::inline v0_1::study
#pragma GCC visibility pop
