#include "yurvo/report/explanation.hpp"

#include <array>
#include <cmath>

#include <fmt/format.h>

#include "yurvo/scene/law_text.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

std::string number(double value) { return short_number(std::abs(value) < 1e-12 ? 0 : value, 6); }
std::string text_of(const vec3<double>& v) {
    return "(" + number(v.x) + ", " + number(v.y) + ", " + number(v.z) + ")";
}
std::string text_of(const rgb<double>& c) {
    return "(" + number(c.r) + ", " + number(c.g) + ", " + number(c.b) + ")";
}
std::string text_of(const std::array<std::uint8_t, 3>& codes) {
    return fmt::format("({}, {}, {})", codes[0], codes[1], codes[2]);
}

// A line of a calculation: its name, its value, and how it comes about.
std::string line(const std::string& name, const std::string& value, const std::string& how = "") {
    const auto wide = [](const std::string& text, std::size_t width) {
        std::size_t seen = 0;
        for (const char c : text) {
            seen += (static_cast<unsigned char>(c) & 0xC0U) != 0x80U ? 1U : 0U;
        }
        return text + std::string(seen < width ? width - seen : 1, ' ');
    };
    return "  " + wide(name, 12) + (how.empty() ? value : wide(value, 42) + how) + "\n";
}

struct told_scene {
    const scene& of;
    const material& look;
    const model_descriptor& model;
    bool own_model;

    [[nodiscard]] bool is(model_kind kind) const { return !own_model && model.kind == kind; }
    [[nodiscard]] bool replaced(formulas::slot which) const { return !own_model && of.formulas.has(which); }
};

std::string text_of(const std::vector<double>& values) {
    std::string text;
    for (const double value : values) {
        text += (text.empty() ? "" : ", ") + number(value);
    }
    return values.size() == 1 ? text : "(" + text + ")";
}

// The formulas that were asked for one light, or once: each with its value and what it was given.
std::string formulas_text(const verify::explained_point& at, const std::string& light) {
    std::string text;
    for (const verify::explained_formula& asked : at.formulas) {
        if (asked.light != light) {
            continue;
        }
        text += line("[" + asked.name + "]", text_of(asked.value), "= " + asked.text);
        std::string inputs;
        for (const verify::explained_formula::input& each : asked.inputs) {
            inputs += (inputs.empty() ? "" : ", ") + each.name + " = " + text_of(each.value);
        }
        if (!inputs.empty()) {
            text += line("", "with " + inputs);
        }
    }
    return text;
}

// A model of one's own says what it reflects, and not how it came to it.
std::string own_light_text(const verify::explained_light& lit) {
    return line("diffuse", text_of(lit.diffuse), "E by the model's own formula, times factor and base") +
           (lit.specular == rgb<double>{}
                ? ""
                : line("specular", text_of(lit.specular), "E by the model's own formula, times factor"));
}

// `E`, or `E · part` of a light whose part is not 1.
std::string arriving_text(const rgb<double>& part) {
    return part == rgb<double>(1.0) ? "E" : "E · " + text_of(part);
}

std::string ambient_part_text(const told_scene& in, const light& lamp, const verify::explained_light& lit) {
    const char* follows = lamp.kind == light_kind::directional        ? "nothing to fall off with"
                          : lamp.follows == ambient_follows::nothing  ? "follows nothing"
                          : lamp.follows == ambient_follows::distance ? "the falloff"
                          : lamp.kind == light_kind::spot             ? "falloff · penumbra"
                                                                      : "the falloff";
    return line("ambient", text_of(lit.ambient),
                fmt::format("{} · {} · {} · {} ({}) · {} · base", text_of(lamp.color), number(lamp.intensity),
                            text_of(lamp.ambient), number(lit.ambient_factor), follows,
                            text_of(in.look.ambient)));
}

std::string highlight_text(const told_scene& in, const light& lamp, const verify::explained_light& lit) {
    const bool by_half = in.is(model_kind::blinn_phong);
    std::string text = by_half ? line("h", text_of(lit.half), "l + v, made unit")
                               : line("r", text_of(lit.reflected), "2(n·l)n − l");
    text += line(by_half ? "n·h" : "r·v", number(lit.highlight_cosine));
    text += line("highlight", number(lit.highlight),
                 fmt::format("max({}, 0)^{}{}", number(lit.highlight_cosine), number(in.look.shininess),
                             lit.cosine > 0 ? "" : ", but n·l is not above 0"));
    return text + line("specular", text_of(lit.specular),
                       fmt::format("{} · {} · {}", arriving_text(lamp.specular), text_of(in.look.specular),
                                   number(lit.highlight)));
}

std::string light_text(const told_scene& in, const verify::explained_point& at, std::size_t index,
                       const verify::explained_light& lit) {
    const light& lamp = in.of.lights[index].light;
    const bool directional = lit.kind == light_kind::directional;
    std::string text = fmt::format("\n{} ({})\n", lit.name, name_of(lit.kind));
    if (directional) {
        text += line("l", text_of(lit.to_light), "−shines, made unit");
    } else {
        text += line("to light", text_of(lit.whole), "m, from the point to the light");
        text += line("d", number(lit.distance), "its length, m");
        text += line("l", text_of(lit.to_light), "to light / d");
        text +=
            line("falloff", number(lit.falloff),
                 in.replaced(formulas::slot::falloff)    ? "by its formula"
                 : lit.falloff_law == falloff_kind::none ? "none"
                                                         : falloff_law_text(lamp, number(lit.distance), 6));
    }
    if (lit.kind == light_kind::spot) {
        text += line("penumbra", number(lit.penumbra),
                     in.replaced(formulas::slot::penumbra)
                         ? "by its formula"
                         : penumbra_law_text(lamp, lit.penumbra_law, number(lit.cone_cosine), 6));
    }
    const bool own_terms = in.replaced(formulas::slot::diffuse) || in.replaced(formulas::slot::specular);
    text +=
        line("n·l", number(lit.cosine), lit.cosine > 0 || own_terms ? "" : "not above 0: it adds nothing");
    text += line("E", text_of(lit.arriving),
                 fmt::format("{} · {} · {} · {}", text_of(lamp.color), number(lamp.intensity),
                             number(lit.falloff), number(lit.penumbra)));
    if (in.is(model_kind::cel)) {
        return text + line("gradient", number(lit.gradient), "max(n·l, 0) · intensity · falloff · penumbra");
    }
    if (!in.model.sums_terms) {
        return text;
    }
    if (has_ambient(lamp)) {
        text += ambient_part_text(in, lamp, lit);
    }
    if (in.own_model) {
        return text + own_light_text(lit);
    }
    text += formulas_text(at, lit.name);
    text += line(
        "diffuse", text_of(lit.diffuse),
        fmt::format("{} · {} · {} · base", arriving_text(lamp.diffuse),
                    in.replaced(formulas::slot::diffuse) ? "[diffuse]" : number(std::max(lit.cosine, 0.0)),
                    text_of(in.look.diffuse)));
    if (in.replaced(formulas::slot::specular)) {
        return text + line("specular", text_of(lit.specular),
                           fmt::format("{} · {} · [specular]", arriving_text(lamp.specular),
                                       text_of(in.look.specular)));
    }
    return descriptor_of(in.of.shading.model).specular && in.look.specular != rgb<double>{}
               ? text + highlight_text(in, lamp, lit)
               : text;
}

std::string point_text(const told_scene& in, const verify::explained_point& at) {
    std::string text = line("position", text_of(at.position), "m, world");
    text += line("n", text_of(at.normal),
                 fmt::format("of length {} before it was normalised", number(at.normal_length)));
    text += line("v", text_of(at.to_eye), fmt::format("to the eye, {} m away", number(at.eye_distance)));
    text += line("base", text_of(at.base));
    if (in.model.sums_terms) {
        text += line("ambient", text_of(at.ambient),
                     fmt::format("{} · {} · {}{} · base", text_of(in.of.ambient_color),
                                 number(in.of.ambient_strength), text_of(in.look.ambient),
                                 in.replaced(formulas::slot::ambient) ? " · [ambient]" : ""));
    }
    if (in.model.lit) {
        for (std::size_t i = 0; i < at.lights.size(); ++i) {
            // Of many lights those that do nothing are only counted.
            const verify::explained_light& lit = at.lights[i];
            const bool dark = lit.arriving == rgb<double>{} && lit.ambient == rgb<double>{};
            if (dark && at.lights.size() > 8) {
                continue;
            }
            text += light_text(in, at, i, lit);
        }
    }
    if (std::string once = formulas_text(at, ""); !once.empty()) {
        text += "\nasked once\n" + once;
    }
    return at.failed ? text + line("", "a formula gives NaN or infinity: it is black") : text;
}

std::string sum_text(const scene& the_scene, const verify::explanation& explained) {
    const verify::explained_point& at = explained.point;
    std::string text = "\nall together\n";
    if (!explained.own_model && explained.model.kind == model_kind::cel) {
        text += line("gradient", number(at.gradient), "the lights' shares, clamped to 0 … 1");
        text += at.band < 0 ? line("outline", "",
                                   fmt::format("n·v is below {}", number(the_scene.shading.cel.outline)))
                            : line("band", fmt::format("{}", at.band),
                                   fmt::format("of {}, counted from 0", the_scene.shading.cel.bands.size()));
    }
    if (explained.model.sums_terms) {
        rgb<double> ambient = at.ambient;
        rgb<double> diffuse;
        rgb<double> specular;
        for (const verify::explained_light& lit : at.lights) {
            ambient = ambient + lit.ambient;
            diffuse = diffuse + lit.diffuse;
            specular = specular + lit.specular;
        }
        if (explained.rate == rate::vertex) {
            text += line("", "what the vertices have, blended by their weights" +
                                 std::string(explained.textured ? ", times the texel" : ""));
        }
        text += line("ambient", text_of(ambient),
                     the_scene.shading.ambient_rule == ambient_rule::max
                         ? "the greater of this and diffuse counts"
                         : "");
        text += line("diffuse", text_of(diffuse), "of all lights");
        if (explained.model.specular) {
            text += line("specular", text_of(specular), "of all lights");
        }
        text += line("emission", text_of(at.emission));
        if (the_scene.formulas.has(formulas::slot::more) && !explained.own_model) {
            text += line("more", text_of(at.more), "by its formula");
        }
        if (the_scene.formulas.has(formulas::slot::color) && !explained.own_model) {
            text += line("", "the formula `color` makes of their sum");
        }
    }
    text += line("linear", text_of(explained.linear));
    std::string clamped;
    const std::array<const char*, 3> names{"red", "green", "blue"};
    for (std::size_t c = 0; c < 3; ++c) {
        clamped += explained.clamped[c] ? std::string(clamped.empty() ? "" : ", ") + names[c] : "";
    }
    text += line("encoded", text_of(explained.encoded),
                 clamped.empty() ? "round(255 · sRGB(linear))" : "clamped: " + clamped);
    if (explained.alpha != 1) {
        text += line("alpha", number(explained.alpha));
    }
    return text;
}

} // namespace

std::string explanation_text(const study::named_scene& named, const std::string& model,
                             const verify::explanation& explained, int x, int y) {
    const scene& the_scene = named.scene;
    std::string text = fmt::format("{}, pixel ({}, {}), {} per {}\n\n", named.name, x, y, model,
                                   name_of(the_scene.shading.rate));
    if (!explained.object) {
        return text + "Nothing is seen here: the background.\n" + line("linear", text_of(explained.linear)) +
               line("encoded", text_of(explained.encoded));
    }
    const told_scene in{the_scene, the_scene.materials[explained.material].look, explained.model,
                        explained.own_model};
    text += line("object", explained.object_name,
                 fmt::format("material {}, seen from {}{}", explained.material_name,
                             explained.front ? "the front" : "behind",
                             explained.turned ? ": its normals are turned" : ""));
    if (explained.textured) {
        text += line("texel", text_of(explained.texel), "decoded, part of base");
    }
    if (explained.rate == rate::face) {
        text += line("", "the model is evaluated at the triangle's middle, with its own normal");
    }
    if (explained.rate == rate::vertex) {
        text += line("", "the model is evaluated at three vertices, and their colours are blended");
        for (std::size_t k = 0; k < explained.vertices.size(); ++k) {
            const verify::explained_vertex& vertex = explained.vertices[k];
            text += fmt::format("\nVERTEX {}, weight {}\n", k + 1, number(vertex.weight));
            text += point_text(in, vertex.at);
            text += "\n" + line("colour", text_of(vertex.at.color), "all its terms");
        }
    } else {
        text += point_text(in, explained.point);
    }
    return text + sum_text(the_scene, explained);
}

std::string found_pixel_text(const verify::explanation& explained, const study::found_pixel& found,
                             const std::string& file) {
    std::string text = fmt::format("\n{}\n", file);
    text += line("linear", text_of(found.linear), "right is " + text_of(explained.linear));
    text += line("encoded", text_of(found.encoded), "right is " + text_of(explained.encoded));
    int most = 0;
    for (std::size_t c = 0; c < 3; ++c) {
        most = std::max(
            most, std::abs(static_cast<int>(found.encoded[c]) - static_cast<int>(explained.encoded[c])));
    }
    if (found.changes.empty()) {
        return text +
               (most <= 1 ? "  They agree.\n"
                          : "  No single number, changed alone, would give it: more than one differs, or the "
                            "point itself.\n");
    }
    text += "  It would be so if, and nothing else were changed,\n";
    for (const verify::needed_change& change : found.changes) {
        text += fmt::format("    {} were {} times what it is", change.what, short_number(change.factor, 4));
        if (!change.number.empty()) {
            text += fmt::format(" ({} {} instead of {})", change.number, short_number(change.would_be, 4),
                                short_number(change.is, 4));
        }
        text += "\n";
    }
    return text;
}

} // namespace yurvo::inline v0_1::report
