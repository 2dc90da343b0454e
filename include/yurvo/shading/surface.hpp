// What a model is given and what it gives back: the point being lit, what arrives there, what is reflected.
#pragma once

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

template <class Scalar> struct ready_light; ///< ready_light.hpp

/// One lit point. Directions are unit vectors in world space.
template <class Real> struct surface {
    vec3<Real> position; ///< metres, measured from the eye along the world's axes, so that no digits are lost
    vec3<Real> normal;   ///< unit, or zero where the mesh has none to give
    vec3<Real> to_eye;   ///< v: unit, towards the eye
    rgb<Real> base{Real(1), Real(1), Real(1)};    ///< base colour × texture × vertex colour
    rgb<Real> ambient{Real(1), Real(1), Real(1)}; ///< factors of the ambient term
    rgb<Real> diffuse{Real(1), Real(1), Real(1)}; ///< factors of base
    rgb<Real> specular{};                         ///< linear
    Real shininess{Real(32)};                     ///< > 0
    rgb<Real> emission{};                         ///< linear
    /// For models that ask for them (`static constexpr bool asks_for_place = true`): the view's eye, metres,
    /// to which `position` is added for the point in the world; the view's axis, unit, towards the viewer; 1
    /// where the triangle faces the eye, else 0.
    ///@{
    vec3<Real> eye{}, axis{};
    ///@}
    Real front{Real(1)}; ///< 1 where the triangle faces the eye, else 0
};

/// What one light brings to the point.
template <class Real> struct arrival {
    rgb<Real> light;     ///< E = color · intensity · falloff · penumbra
    vec3<Real> to_light; ///< l: unit, towards the light; zero where the light is at the point itself
    Real brightness{};   ///< E without the colour: intensity · falloff · penumbra
    Real distance{};     ///< metres; infinity for a directional light
    const ready_light<scalar_t<Real>>* lamp = nullptr; ///< the light itself, with all its numbers
};

/// What one light, or the sum of several, makes the surface reflect: before base and the material's factors,
/// which are applied once, at the end.
template <class Real> struct reflected {
    rgb<Real> diffuse;   ///< to be multiplied by the material's diffuse and base
    rgb<Real> specular;  ///< to be multiplied by the material's specular
    rgb<Real> ambient{}; ///< of the sum: the lights' ambient parts, which a model does not set

    /// Of two lights.
    friend constexpr reflected operator+(const reflected& a, const reflected& b) {
        return {a.diffuse + b.diffuse, a.specular + b.specular, a.ambient + b.ambient};
    }
};

/// The lit colour in the two parts it has: what the base colour tints, and what it does not. A texture
/// sampled later (at rates vertex and face) multiplies the first.
template <class Real> struct outgoing {
    rgb<Real> tinted;   ///< to be multiplied by a texture
    rgb<Real> untinted; ///< the rest
};

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
