#include "yurvo/program/model_header.hpp"

#include <fmt/format.h>

#include "pipeline/formula_program.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1 {

namespace {

using formulas::input;
using formulas::slot;
using pipeline::formula_program;
using pipeline::lane_instruction;
using pipeline::lane_operation;

// What stands around the formulas: functions as GLSL defines them, for every Real.
const char* const helpers = R"(namespace scene_model_functions {

template <class Real> Real number(double value) { return Real(static_cast<yurvo::scalar_t<Real>>(value)); }
template <class Real, class Mask> Real truth(const Mask& mask) { return select(mask, Real(1), Real(0)); }
template <class Real> auto is(const Real& truth) { return truth != Real(0); }
template <class Real> Real lesser(const Real& x, const Real& y) { return select(y < x, y, x); }
template <class Real> Real greater(const Real& x, const Real& y) { return select(x < y, y, x); }
template <class Real> Real power(const Real& x, const Real& y) {
    const auto positive = x > Real(0);
    const Real inside = exp(y * log(select(positive, x, Real(1))));
    const Real none = Real(0) / Real(0);
    const Real outside = select(x == Real(0), select(y > Real(0), Real(0), Real(1) / Real(0)), none);
    return select(y == Real(0), Real(1), select(positive, inside, outside));
}
template <class Real> Real sign_of(const Real& x) {
    return select(x > Real(0), Real(1), select(x < Real(0), Real(-1), Real(0)));
}
template <class Real> Real smooth(const Real& low, const Real& high, const Real& x) {
    const Real t = lesser(greater((x - low) / (high - low), Real(0)), Real(1));
    return select(low == high, select(x < low, Real(0), Real(1)), t * t * (Real(3) - Real(2) * t));
}
template <class Real>
Real highlight(const yurvo::vec3<Real>& a, const yurvo::vec3<Real>& b, const Real& exponent) {
    const Real power = yurvo::cosine_power(yurvo::versine(a, b), exponent);
    return select(dot(a, a) * dot(b, b) > Real(0), power, Real(0));
}

} // namespace scene_model_functions
)";

class header_writer {
    const scene& of_;
    formula_program program_;
    std::string text_;

    static std::string lane(pipeline::lane_number number) { return fmt::format("t{}", number); }
    void line(const std::string& written) { text_ += "        " + written + "\n"; }

    // An instruction as a statement.
    void write(const lane_instruction& each) {
        const auto from = [&](std::size_t i) { return lane(each.from[i]); };
        const auto vector = [&](std::size_t first) {
            return fmt::format("yurvo::vec3<Real>{{{}, {}, {}}}", from(first), from(first + 1),
                               from(first + 2));
        };
        const auto three = [&](const std::string& what) {
            line(fmt::format("{{ const yurvo::vec3<Real> result = {}; {} = result.x; {} = result.y; {} = "
                             "result.z; }}",
                             what, lane(each.to[0]), lane(each.to[1]), lane(each.to[2])));
        };
        const auto one = [&](const std::string& what) { line(lane(each.to[0]) + " = " + what + ";"); };
        const auto sign = [&](const char* with) { one(from(0) + with + from(1)); };
        const auto compared = [&](const char* with) { one("truth<Real>(" + from(0) + with + from(1) + ")"); };
        const auto called = [&](const char* name, std::size_t count) {
            std::string arguments;
            for (std::size_t i = 0; i < count; ++i) {
                arguments += (i == 0 ? "" : ", ") + from(i);
            }
            one(std::string(name) + "(" + arguments + ")");
        };
        switch (each.what) {
        case lane_operation::negate:
            return one("-" + from(0));
        case lane_operation::add:
            return sign(" + ");
        case lane_operation::subtract:
            return sign(" - ");
        case lane_operation::multiply:
            return sign(" * ");
        case lane_operation::divide:
            return sign(" / ");
        case lane_operation::less:
            return compared(" < ");
        case lane_operation::less_or_equal:
            return compared(" <= ");
        case lane_operation::equal:
            return compared(" == ");
        case lane_operation::negation:
            return one("truth<Real>(" + from(0) + " == Real(0))");
        case lane_operation::conjunction:
            return one(from(0) + " * " + from(1));
        case lane_operation::disjunction:
            return one("greater(" + from(0) + ", " + from(1) + ")");
        case lane_operation::choice:
            return one("select(is(" + from(0) + "), " + from(1) + ", " + from(2) + ")");
        case lane_operation::radians:
            return one(from(0) + " * number<Real>(yurvo::pi / 180)");
        case lane_operation::degrees:
            return one(from(0) + " * number<Real>(180 / yurvo::pi)");
        case lane_operation::sin:
            return called("sin", 1);
        case lane_operation::cos:
            return called("cos", 1);
        case lane_operation::tan:
            return called("tan", 1);
        case lane_operation::asin:
            return called("asin", 1);
        case lane_operation::acos:
            return called("acos", 1);
        case lane_operation::atan:
            return called("atan", 1);
        case lane_operation::atan_of_two:
            return called("atan2", 2);
        case lane_operation::pow:
            return called("power", 2);
        case lane_operation::exp:
            return called("exp", 1);
        case lane_operation::log:
            return called("log", 1);
        case lane_operation::exp2:
            return called("exp2", 1);
        case lane_operation::log2:
            return called("log2", 1);
        case lane_operation::sqrt:
            return called("sqrt", 1);
        case lane_operation::inverse_sqrt:
            return one("Real(1) / sqrt(" + from(0) + ")");
        case lane_operation::abs:
            return called("abs", 1);
        case lane_operation::sign:
            return called("sign_of", 1);
        case lane_operation::floor:
            return called("floor", 1);
        case lane_operation::ceil:
            return called("ceil", 1);
        case lane_operation::fract:
            return one(from(0) + " - floor(" + from(0) + ")");
        case lane_operation::mod:
            return one(fmt::format("{0} - {1} * floor({0} / {1})", from(0), from(1)));
        case lane_operation::min:
            return called("lesser", 2);
        case lane_operation::max:
            return called("greater", 2);
        case lane_operation::clamp:
            return one(fmt::format("lesser(greater({}, {}), {})", from(0), from(1), from(2)));
        case lane_operation::mix:
            return one(fmt::format("{0} * (Real(1) - {2}) + {1} * {2}", from(0), from(1), from(2)));
        case lane_operation::step:
            return one(fmt::format("select({} < {}, Real(0), Real(1))", from(1), from(0)));
        case lane_operation::smoothstep:
            return called("smooth", 3);
        case lane_operation::dot3:
            return one("dot(" + vector(0) + ", " + vector(3) + ")");
        case lane_operation::normalize3:
            return one_over_length(each, vector(0));
        case lane_operation::half_vector:
            return three("normalize(" + vector(0) + " + " + vector(3) + ")");
        case lane_operation::mirrored:
            return three("yurvo::formula::reflect(" + vector(0) + ", " + vector(3) + ")");
        case lane_operation::highlight:
            return one("highlight(" + vector(0) + ", " + vector(3) + ", " + from(6) + ")");
        }
    }
    void one_over_length(const lane_instruction& each, const std::string& of) {
        line(fmt::format("{{ const yurvo::vec3<Real> whole = {}; const Real by = Real(1) / sqrt(dot(whole, "
                         "whole)); {} = whole.x * by; {} = whole.y * by; {} = whole.z * by; }}",
                         of, lane(each.to[0]), lane(each.to[1]), lane(each.to[2])));
    }
    void write(const std::vector<lane_instruction>& list) {
        for (const lane_instruction& each : list) {
            write(each);
        }
    }

    // Every lane as a variable; what never changes has its value.
    void declare() {
        std::vector<std::string> values(program_.lanes, "Real(0)");
        for (const auto& [number, value] : program_.constants) {
            values[number] = fmt::format("number<Real>({})", value);
        }
        for (std::size_t i = 0; i < values.size(); ++i) {
            line(fmt::format("[[maybe_unused]] Real t{} = {};", i, values[i]));
        }
    }
    void give(input which, const std::string& of) {
        const auto& lanes = program_.inputs[static_cast<std::size_t>(which)];
        const std::uint8_t width = formulas::descriptor_of(which).type.width;
        const bool color = of.ends_with("base") || of == "light" || of == "c" || of.starts_with("color ");
        for (std::size_t i = 0; i < width && lanes[0] != formula_program::none; ++i) {
            const std::string member = width == 1 ? "" : std::string(".") + (color ? "rgb" : "xyz")[i];
            line(lane(lanes[i]) + " = " + of + member + ";");
        }
    }
    void give_color(input which, const std::string& of) {
        const auto& lanes = program_.inputs[static_cast<std::size_t>(which)];
        for (std::size_t i = 0; i < 3 && lanes[0] != formula_program::none; ++i) {
            line(lane(lanes[i]) + " = " + of + "." + "rgb"[i] + ";");
        }
    }
    // What is known of a point.
    void give_point() {
        give(input::n, "s.normal");
        give(input::v, "s.to_eye");
        if (program_.asks_for(input::position)) {
            line("const yurvo::vec3<Real> position = s.position + s.eye;");
            give(input::position, "position");
        }
        give(input::eye, "s.eye");
        give(input::axis, "s.axis");
        give_color(input::base, "s.base");
        give_color(input::material_ambient, "s.ambient");
        give_color(input::material_diffuse, "s.diffuse");
        give_color(input::material_specular, "s.specular");
        give_color(input::emission, "s.emission");
        give(input::shininess, "s.shininess");
        give(input::front, "s.front");
        write(program_.once);
    }
    // And of a light: gives `falloff` and `penumbra`.
    void give_light() {
        line("const yurvo::ready_light<yurvo::scalar_t<Real>>& lamp = *in.lamp;");
        line("const bool placed = lamp.kind != yurvo::light_kind::directional;");
        line("const bool spot = lamp.kind == yurvo::light_kind::spot;");
        line("[[maybe_unused]] const Real d = placed ? in.distance : Real(0);");
        give(input::l, "in.to_light");
        give(input::d, "d");
        if (program_.asks_for(input::light_color)) {
            line("const yurvo::rgb<Real> light_color(lamp.color * lamp.intensity);");
            give_color(input::light_color, "light_color");
        }
        if (program_.asks_for(input::coefficients)) {
            line("const yurvo::vec3<Real> coefficients(lamp.coefficients);");
            give(input::coefficients, "coefficients");
        }
        give(input::range, "Real(lamp.seen_range)");
        give(input::inner, "Real(lamp.inner)");
        give(input::outer, "Real(lamp.outer)");
        give(input::cos_inner, "Real(lamp.cos_inner)");
        give(input::cos_outer, "Real(lamp.cos_outer)");
        give(input::exponent, "Real(lamp.seen_exponent)");
        line("const yurvo::vec3<Real> lamp_axis(lamp.axis);");
        give(input::cos_theta,
             "spot ? Real(1) - yurvo::formula::penumbra_versine(in.to_light, lamp_axis) : Real(1)");
        write(program_.each_light);
        const auto law = [&](slot which, const char* where, const char* otherwise) {
            const std::string name(formulas::descriptor_of(which).name);
            line("Real " + name + "(1);");
            line(std::string("if (") + where + ") { " + name + " = " +
                 (program_[which].present ? lane(program_[which].lanes[0]) : std::string(otherwise)) + "; }");
        };
        law(slot::falloff, "placed", "yurvo::falloff_at<yurvo::formula>(lamp, in.distance, lamp.law())");
        law(slot::penumbra, "spot", "yurvo::penumbra_at<yurvo::formula>(lamp, in.to_light, lamp.law())");
    }
    [[nodiscard]] std::string result(slot which) const {
        const pipeline::lane_result& of = program_[which];
        return fmt::format("yurvo::rgb<Real>{{{}, {}, {}}}", lane(of.lanes[of.at(0)]),
                           lane(of.lanes[of.at(1)]), lane(of.lanes[of.at(2)]));
    }

    void begin(const std::string& head) {
        text_ += "\n    template <class Real>\n    " + head + " {\n";
        line("using namespace scene_model_functions;");
        line("using std::abs;");
        declare();
        give_point();
    }
    void write_operator() {
        begin("yurvo::reflected<Real> operator()(const yurvo::surface<Real>& s, const yurvo::arrival<Real>& "
              "in) "
              "const");
        give_light();
        line("const Real brightness = select(in.distance > Real(0), Real(lamp.intensity) * falloff * "
             "penumbra, "
             "Real(0));");
        line("const yurvo::rgb<Real> light = yurvo::rgb<Real>(lamp.color) * brightness;");
        give_color(input::light, "light");
        write(program_.arrived);
        line("// A surface without a normal has neither of the two.");
        line("const auto lit = (dot(s.normal, s.normal) > Real(0)) & (in.distance > Real(0));");
        line("const yurvo::rgb<Real> none{Real(0), Real(0), Real(0)};");
        line("return {select(lit, light * " + result(slot::diffuse) + ", none), " +
             (program_[slot::specular].present ? "select(lit, light * " + result(slot::specular) + ", none)"
                                               : std::string("none")) +
             "};");
        text_ += "    }\n";
    }
    void write_follows() {
        text_ += "\n    // What a light's ambient part falls off with.";
        begin("Real follows(const yurvo::surface<Real>& s, const yurvo::arrival<Real>& in) const");
        give_light();
        line("if (!placed || lamp.follows == yurvo::ambient_follows::nothing) { return Real(1); }");
        line("return lamp.follows == yurvo::ambient_follows::cone ? Real(falloff * penumbra) : falloff;");
        text_ += "    }\n";
    }
    void write_finish() {
        begin(
            "yurvo::outgoing<Real> finish(const yurvo::surface<Real>& s, const yurvo::reflected<Real>& sum, "
            "const yurvo::finish_settings<yurvo::scalar_t<Real>>& settings) const");
        line("yurvo::surface<Real> seen = s;");
        if (program_[slot::ambient].present) {
            line("seen.ambient = seen.ambient * " + result(slot::ambient) + ";");
        }
        line("yurvo::outgoing<Real> lit = yurvo::finish_terms(seen, sum, settings);");
        if (program_[slot::more].present) {
            line("const auto with_normal = dot(s.normal, s.normal) > Real(0);");
            line("const yurvo::rgb<Real> none{Real(0), Real(0), Real(0)};");
            line("if (settings.terms.specular) { lit.untinted = lit.untinted + select(with_normal, " +
                 result(slot::more) + ", none); }");
        }
        if (program_[slot::color].present) {
            line("const yurvo::rgb<Real> c = lit.tinted + lit.untinted;");
            give_color(input::c, "c");
            write(program_.finishing);
            line("lit.tinted = yurvo::rgb<Real>{Real(0), Real(0), Real(0)};");
            line("lit.untinted = " + result(slot::color) + ";");
        }
        line("return lit;");
        text_ += "    }\n";
    }

  public:
    explicit header_writer(const scene& of)
        : of_(of), program_(pipeline::make_program(parse_all(of.formulas, of.numbers), of.shading.model)) {}

    std::string text() {
        text_ = "// The lighting model of the scene `" + of_.title +
                "`: " + std::string(name_of(of_.shading.model)) +
                (of_.formulas.any() ? " with these formulas:\n" : ".\n");
        for (const formulas::slot_descriptor& each : formulas::slot_list) {
            if (of_.formulas.has(each.which)) {
                text_ +=
                    "//   " + std::string(each.name) + " = " + on_one_line(of_.formulas[each.which]) + "\n";
            }
        }
        text_ +=
            "// Draw with it, or hold it to the scene: yurvo::check(scene, scene_model{}).\n#pragma once\n\n"
            "#include <cmath>\n\n#include <yurvo/model.hpp>\n\n";
        text_ += helpers;
        text_ +=
            "\nstruct scene_model {\n    static constexpr bool equals_scene = true;    // it claims to be "
            "the scene's own model\n    static constexpr bool asks_for_place = true; // eye, axis and "
            "facing\n";
        write_operator();
        write_follows();
        write_finish();
        return text_ + "};\n";
    }
};

} // namespace

std::string model_header(const scene& of) {
    if (!of.shading.own.name.empty()) {
        throw error({"--language", 0, 0}, "the model `" + of.shading.own.name + "` is C++ already",
                    "a scene with a built-in model or [formulas]");
    }
    if (!descriptor_of(of.shading.model).sums_terms) {
        throw error({"--language", 0, 0},
                    "the model `" + std::string(name_of(of.shading.model)) + "` has no terms to write",
                    "a scene with lambert, phong or blinn-phong");
    }
    return header_writer(of).text();
}

} // namespace yurvo::inline v0_1
