// Your own model: one formula for float, double and batches, at any rate. It says what one light does at one
// point; ambient, base, the material's factors and emission are added for it.
#pragma once

#include <yurvo/model.hpp>

// Diffuse light that reaches around the edge of shadow, as it does in rope and sailcloth.
struct wrapped_diffuse {
    float wrap = 0.3F;
    // What a scene's [numbers] may set.
    void list_numbers(yurvo::model_numbers& of) { of("wrap", wrap); }
    template <class Real>
    yurvo::reflected<Real> operator()(const yurvo::surface<Real>& s, const yurvo::arrival<Real>& in) const {
        const Real cosine = (dot(s.normal, in.to_light) + wrap) / (1 + wrap);
        return {.diffuse = in.light * max(cosine, Real(0)), .specular = {}};
    }
};
