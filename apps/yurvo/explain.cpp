#include "session.hpp"

#include <cmath>
#include <memory>

#include "yurvo/verify/explain.hpp"

namespace yurvo::app {

namespace {

struct explain_options {
    scene_options from;
    std::string pixel, picture, as, json_file;
};

// What a subject shows at the pixel.
struct found_pixel {
    rgb<double> linear;
    std::array<std::uint8_t, 3> encoded{};
    std::vector<verify::needed_change> changes;
};

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

json data_of(const verify::explained_light& one) {
    return {{"name", one.name},
            {"kind", name_of(one.kind)},
            {"to_light", json_of(one.to_light)},
            {"distance", number_or_null(one.distance)},
            {"cosine", one.cosine},
            {"falloff", one.falloff},
            {"penumbra", one.penumbra},
            {"cone_cosine", one.kind == light_kind::spot ? json(one.cone_cosine) : json(nullptr)},
            {"arriving", json_of(one.arriving)},
            {"half", json_of(one.half)},
            {"reflected", json_of(one.reflected)},
            {"highlight_cosine", one.highlight_cosine},
            {"highlight", one.highlight},
            {"diffuse", json_of(one.diffuse)},
            {"specular", json_of(one.specular)}};
}

json data_of(const verify::explained_point& at) {
    json lights = json::array();
    for (const verify::explained_light& one : at.lights) {
        lights.push_back(data_of(one));
    }
    return {{"position", json_of(at.position)},  {"normal", json_of(at.normal)},
            {"normal_length", at.normal_length}, {"to_eye", json_of(at.to_eye)},
            {"base", json_of(at.base)},          {"ambient", json_of(at.ambient)},
            {"emission", json_of(at.emission)},  {"lights", lights}};
}

json data_of(const verify::explanation& told, int x, int y) {
    json data{{"pixel", {x, y}}, {"object", nullptr}, {"material", nullptr}, {"rate", name_of(told.rate)}};
    if (told.object) {
        data["object"] = told.object_name;
        data["material"] = told.material_name;
        data["triangle"] = told.triangle;
        data["front"] = told.front;
        data.update(data_of(told.point));
        if (told.rate == rate::vertex) {
            data["vertices"] = json::array();
            for (const verify::explained_vertex& vertex : told.vertices) {
                json one{{"weight", vertex.weight}, {"color", json_of(vertex.at.color)}};
                one.update(data_of(vertex.at));
                data["vertices"].push_back(one);
            }
        }
    }
    data["linear"] = json_of(told.linear);
    data["alpha"] = told.alpha;
    data["encoded"] = told.encoded;
    data["clamped"] = told.clamped[0] || told.clamped[1] || told.clamped[2];
    data["clamped_components"] = told.clamped;
    return data;
}

// The law of a light's falloff with its numbers put in.
std::string falloff_text(const light& of, const verify::explained_light& told) {
    const std::string d = number(told.distance);
    switch (of.falloff) {
    case falloff_kind::inverse_square:
        return "1 / " + d + "²";
    case falloff_kind::polynomial:
        return fmt::format("1 / ({} + {}·{} + {}·{}²)", number(of.coefficients[0]),
                           number(of.coefficients[1]), d, number(of.coefficients[2]), d);
    case falloff_kind::linear:
        return fmt::format("max(0, 1 − {} / {})", d, number(of.range));
    case falloff_kind::windowed:
        return fmt::format("clamp(1 − ({} / {})⁴, 0, 1) / {}²", d, number(of.range), d);
    case falloff_kind::none:
        break;
    }
    return "none";
}

std::string penumbra_text(const light& of, const verify::explained_light& told) {
    const std::string cosine = number(told.cone_cosine);
    const std::string inner = number(std::cos(of.inner));
    const std::string outer = number(std::cos(of.outer));
    const std::string t = fmt::format("t = clamp(({} − {}) / ({} − {}), 0, 1)", cosine, outer, inner, outer);
    switch (told.penumbra_law) {
    case penumbra_kind::hard:
        return fmt::format("hard: cos θ = {} against cos outer = {}", cosine, outer);
    case penumbra_kind::ramp:
        return t;
    case penumbra_kind::squared:
        return t + ", t²";
    case penumbra_kind::smooth:
        return t + ", t²(3 − 2t)";
    case penumbra_kind::power:
        break;
    }
    return fmt::format("{}^{} where cos θ ≥ {}", cosine, number(of.exponent), outer);
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
};

std::string light_text(const told_scene& in, std::size_t index, const verify::explained_light& told) {
    const light& given = in.of.lights[index].light;
    const model_kind model = in.of.shading.model;
    const bool directional = told.kind == light_kind::directional;
    std::string text = fmt::format("\n{} ({})\n", told.name, name_of(told.kind));
    if (directional) {
        text += line("l", text_of(told.to_light), "−shines, made unit");
    } else {
        text += line("to light", text_of(told.whole), "m, from the point to the light");
        text += line("d", number(told.distance), "its length, m");
        text += line("l", text_of(told.to_light), "to light / d");
        text += line("falloff", number(told.falloff), falloff_text(given, told));
    }
    if (told.kind == light_kind::spot) {
        text += line("penumbra", number(told.penumbra), penumbra_text(given, told));
    }
    text += line("n·l", number(told.cosine), told.cosine > 0 ? "" : "not above 0: it adds nothing");
    text += line("E", text_of(told.arriving),
                 fmt::format("{} · {} · {} · {}", text_of(given.color), number(given.intensity),
                             number(told.falloff), number(told.penumbra)));
    if (model == model_kind::cel) {
        return text + line("gradient", number(told.gradient), "max(n·l, 0) · intensity · falloff · penumbra");
    }
    text +=
        line("diffuse", text_of(told.diffuse),
             fmt::format("E · {} · {} · base", number(std::max(told.cosine, 0.0)), text_of(in.look.diffuse)));
    if (model == model_kind::lambert || in.look.specular == rgb<double>{}) {
        return text;
    }
    const bool by_half = model == model_kind::blinn_phong;
    text += by_half ? line("h", text_of(told.half), "l + v, made unit")
                    : line("r", text_of(told.reflected), "2(n·l)n − l");
    text += line(by_half ? "n·h" : "r·v", number(told.highlight_cosine));
    text += line("highlight", number(told.highlight),
                 fmt::format("max({}, 0)^{}{}", number(told.highlight_cosine), number(in.look.shininess),
                             told.cosine > 0 ? "" : ", but n·l is not above 0"));
    text += line("specular", text_of(told.specular),
                 fmt::format("E · {} · {}", text_of(in.look.specular), number(told.highlight)));
    return text;
}

std::string point_text(const told_scene& in, const verify::explained_point& at) {
    const bool terms = in.of.shading.model != model_kind::unlit && in.of.shading.model != model_kind::cel;
    std::string text = line("position", text_of(at.position), "m, world");
    text += line("n", text_of(at.normal),
                 fmt::format("of length {} before it was normalised", number(at.normal_length)));
    text += line("v", text_of(at.to_eye), fmt::format("to the eye, {} m away", number(at.eye_distance)));
    text += line("base", text_of(at.base));
    if (terms) {
        text += line("ambient", text_of(at.ambient),
                     fmt::format("{} · {} · {} · base", text_of(in.of.ambient_color),
                                 number(in.of.ambient_strength), text_of(in.look.ambient)));
    }
    if (in.of.shading.model != model_kind::unlit) {
        for (std::size_t i = 0; i < at.lights.size(); ++i) {
            // Of many lights those that do nothing are only counted.
            const verify::explained_light& one = at.lights[i];
            const bool dark = one.arriving == rgb<double>{};
            if (dark && at.lights.size() > 8) {
                continue;
            }
            text += light_text(in, i, one);
        }
    }
    return text;
}

std::string sum_text(const scene& of, const verify::explanation& told) {
    const verify::explained_point& at = told.point;
    const bool terms = of.shading.model != model_kind::unlit && of.shading.model != model_kind::cel;
    std::string text = "\nall together\n";
    if (of.shading.model == model_kind::cel) {
        text += line("gradient", number(at.gradient), "the lights' shares, clamped to 0 … 1");
        text += at.band < 0
                    ? line("outline", "", fmt::format("n·v is below {}", number(of.shading.cel.outline)))
                    : line("band", fmt::format("{}", at.band),
                           fmt::format("of {}, counted from 0", of.shading.cel.bands.size()));
    }
    if (terms) {
        rgb<double> diffuse;
        rgb<double> specular;
        for (const verify::explained_light& one : at.lights) {
            diffuse = diffuse + one.diffuse;
            specular = specular + one.specular;
        }
        if (told.rate == rate::vertex) {
            text += line("", "what the vertices have, blended by their weights" +
                                 std::string(told.textured ? ", times the texel" : ""));
        }
        text += line("ambient", text_of(at.ambient),
                     of.shading.ambient_rule == ambient_rule::max ? "the greater of this and diffuse counts"
                                                                  : "");
        text += line("diffuse", text_of(diffuse), "of all lights");
        if (of.shading.model != model_kind::lambert) {
            text += line("specular", text_of(specular), "of all lights");
        }
        text += line("emission", text_of(at.emission));
    }
    text += line("linear", text_of(told.linear));
    std::string clamped;
    const std::array<const char*, 3> names{"red", "green", "blue"};
    for (std::size_t c = 0; c < 3; ++c) {
        clamped += told.clamped[c] ? std::string(clamped.empty() ? "" : ", ") + names[c] : "";
    }
    text += line("encoded", text_of(told.encoded),
                 clamped.empty() ? "round(255 · sRGB(linear))" : "clamped: " + clamped);
    if (told.alpha != 1) {
        text += line("alpha", number(told.alpha));
    }
    return text;
}

std::string text_of(const drawable& drawn, const std::string& name, const verify::explanation& told, int x,
                    int y) {
    const scene& of = drawn.scene;
    std::string text =
        fmt::format("{}, pixel ({}, {}), {} per {}\n\n", name, x, y, drawn.model, name_of(of.shading.rate));
    if (!told.object) {
        return text + "Nothing is seen here: the background.\n" + line("linear", text_of(told.linear)) +
               line("encoded", text_of(told.encoded));
    }
    const told_scene in{of, of.materials[told.material].look};
    text +=
        line("object", told.object_name,
             fmt::format("material {}, seen from {}{}", told.material_name,
                         told.front ? "the front" : "behind", told.turned ? ": its normals are turned" : ""));
    if (told.textured) {
        text += line("texel", text_of(told.texel), "decoded, part of base");
    }
    if (told.rate == rate::face) {
        text += line("", "the model is evaluated at the triangle's middle, with its own normal");
    }
    if (told.rate == rate::vertex) {
        text += line("", "the model is evaluated at three vertices, and their colours are blended");
        for (std::size_t k = 0; k < told.vertices.size(); ++k) {
            const verify::explained_vertex& vertex = told.vertices[k];
            text += fmt::format("\nVERTEX {}, weight {}\n", k + 1, number(vertex.weight));
            text += point_text(in, vertex.at);
            text += "\n" + line("colour", text_of(vertex.at.color), "all its terms");
        }
    } else {
        text += point_text(in, told.point);
    }
    return text + sum_text(of, told);
}

std::array<int, 2> pixel_from(const std::string& text, const view& in) {
    const std::size_t comma = text.find(',');
    int x = -1;
    int y = -1;
    try {
        std::size_t used = 0;
        x = std::stoi(text.substr(0, comma), &used);
        const bool whole = used == comma;
        const std::string rest = comma == std::string::npos ? "" : text.substr(comma + 1);
        y = std::stoi(rest, &used);
        x = whole && used == rest.size() ? x : -1;
    } catch (const std::exception&) {
        x = -1;
    }
    if (comma == std::string::npos || x < 0 || y < 0 || x >= in.width || y >= in.height) {
        throw error({"--pixel", 0, 0}, "`" + text + "` is no pixel of the picture",
                    fmt::format("X,Y with X from 0 to {} and Y from 0 to {}", in.width - 1, in.height - 1));
    }
    return {x, y};
}

std::string found_text(const verify::explanation& told, const found_pixel& found, const std::string& file) {
    std::string text = fmt::format("\n{}\n", file);
    text += line("linear", text_of(found.linear), "right is " + text_of(told.linear));
    text += line("encoded", text_of(found.encoded), "right is " + text_of(told.encoded));
    int most = 0;
    for (std::size_t c = 0; c < 3; ++c) {
        most =
            std::max(most, std::abs(static_cast<int>(found.encoded[c]) - static_cast<int>(told.encoded[c])));
    }
    if (found.changes.empty()) {
        return text +
               (most <= 1 ? "  They agree.\n"
                          : "  No single number, changed alone, would give it: more than one differs, or the "
                            "point itself.\n");
    }
    text += "  It would be so if, and nothing else were changed,\n";
    for (const verify::needed_change& one : found.changes) {
        text += fmt::format("    {} were {} times what it is", one.what, short_number(one.factor, 4));
        if (!one.number.empty()) {
            text += fmt::format(" ({} {} instead of {})", one.number, short_number(one.would_be, 4),
                                short_number(one.is, 4));
        }
        text += "\n";
    }
    return text;
}

int run(session& on, const explain_options& options) {
    drawable drawn = options.from.load(on);
    if (drawn.own != nullptr) {
        throw error({"--model", 0, 0},
                    "`" + drawn.model + "` is a model of your own: its terms are not known here",
                    "unlit, lambert, phong, blinn-phong or cel");
    }
    picture given;
    verify::precision held = verify::precision::floats;
    if (!options.picture.empty()) {
        held = precision_of(options.picture, options.as);
        given = read_found(options.picture, held);
        view& seen = drawn.scene.view;
        if (given.width != seen.width || given.height != seen.height) {
            on.remark(fmt::format("{} is {}x{}: the scene is looked at in that size", options.picture,
                                  given.width, given.height));
            seen.width = given.width;
            seen.height = given.height;
        }
    }
    if (drawn.program) {
        if (!options.picture.empty()) {
            throw error({"yurvo explain", 0, 0}, "there are a picture and a program", "one of the two");
        }
        given = drawn.program->draw(drawn.scene);
        held = drawn.program->held();
    }
    const std::string beside = drawn.program ? options.from.program : options.picture;
    const auto [x, y] = pixel_from(options.pixel, drawn.scene.view);
    const verify::explanation told = verify::explain(drawn.scene, x, y);
    json data = data_of(told, x, y);
    data["scene"] = options.from.scene;
    data["model"] = drawn.model;
    std::string text = text_of(drawn, options.from.scene, told, x, y);
    if (!beside.empty()) {
        found_pixel found;
        found.linear = rgb<double>(given.color(x, y));
        const std::array<float, 3> linear{given.color(x, y).r, given.color(x, y).g, given.color(x, y).b};
        for (std::size_t c = 0; c < 3; ++c) {
            found.encoded[c] = code_of(linear[c]);
        }
        found.changes = verify::changes_needed(told, found.linear, held);
        text += found_text(told, found, beside);
        json changes = json::array();
        for (const verify::needed_change& one : found.changes) {
            changes.push_back({{"what", one.what},
                               {"factor", one.factor},
                               {"number", one.number},
                               {"is", one.is},
                               {"would_be", one.would_be}});
        }
        data["found"] = {{"picture", beside},
                         {"linear", json_of(found.linear)},
                         {"encoded", found.encoded},
                         {"would_need", changes}};
    }
    if (speaks(options.json_file)) {
        on.print("{}", text);
    }
    write_json(on, options.json_file, data);
    return all_held;
}

} // namespace

void add_explain(CLI::App& to, session& on) {
    CLI::App* command = to.add_subcommand(
        "explain", "Why a pixel has its colour: every number from the normal to the encoded byte.");
    auto options = std::make_shared<explain_options>();
    options->from.add_to(*command, true);
    options->from.add_program_to(*command);
    command->add_option("--pixel", options->pixel, "which one, counted from the top left")
        ->required()
        ->type_name("X,Y");
    command
        ->add_option("--picture", options->picture,
                     "this picture's value beside the right one, and what would have to differ to give it")
        ->type_name("FILE");
    command->add_option("--as", options->as, "what a PNG's codes are: srgb (where left out) or linear");
    command->add_option("--json", options->json_file, "the numbers, as JSON; - for standard output")
        ->type_name("FILE");
    command->callback([&on, options] { on.run = [&on, options] { return run(on, *options); }; });
}

} // namespace yurvo::app
