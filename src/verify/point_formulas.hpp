// point_formulas: formulas of one's own at one point, in double, given whatever a mistake makes of their
// inputs.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "yurvo/formula/evaluate.hpp"
#include "yurvo/formula/formula_set.hpp"
#include "yurvo/scene/scene.hpp"
#include "yurvo/shading/ready_light.hpp"
#include "yurvo/shading/surface.hpp"
#include "yurvo/verify/explain.hpp"

namespace yurvo::inline v0_1::verify {

class point_formulas {
    formulas::formula_set set_;

  public:
    explicit point_formulas(const scene& the_scene);

    [[nodiscard]] bool has(formulas::slot which) const { return set_.has(which); }
    [[nodiscard]] bool has_new_direction() const;

    // The inputs of one point; asking for a formula's value notes where it is no finite number of a float.
    class asking {
        const point_formulas& of_;
        std::vector<formulas::components> inputs_;
        std::vector<explained_formula>* told_; // or null
        std::string light_;
        bool failed_ = false;

        void put(formulas::input which, double number) { inputs_[index_of(which)][0] = number; }

      public:
        asking(const point_formulas& of, std::vector<explained_formula>* told);

        void set(formulas::input which, double number) { put(which, number); }
        void set(formulas::input which, const vec3<double>& v) {
            inputs_[index_of(which)] = {v.x, v.y, v.z, 0};
        }
        void set(formulas::input which, const rgb<double>& c) {
            inputs_[index_of(which)] = {c.r, c.g, c.b, 0};
        }
        void set_light(const light& lamp, const ready_light<double>& ready, std::string label);

        [[nodiscard]] double number(formulas::slot which);
        [[nodiscard]] rgb<double> color(formulas::slot which); // of one number, three alike
        [[nodiscard]] vec3<double> vector(formulas::slot which);
        [[nodiscard]] bool failed() const { return failed_; }
    };
};

} // namespace yurvo::inline v0_1::verify
