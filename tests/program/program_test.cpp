// Users' shaders in the system's driver: right ones in every language, wrong ones by name, hostile ones
// survived.
#include <sys/stat.h>

#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>

#include <nlohmann/json.hpp>

#include "program/driver_process.hpp"
#include "program/lambert_program.hpp"
#include "support/replaced.hpp"
#include "support/run.hpp"
#include "support/sampling.hpp"
#include "support/temporary_folder.hpp"
#include "support/tool.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/light_block.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/verify/diagnose.hpp"

using namespace yurvo;
using nlohmann::json;
using testing::has;
using testing::lambert_program;
using testing::outcome;
using testing::replaced;
using testing::run;
using testing::temporary_folder;
using testing::tool;
using testing::world_vertex;
using testing::written_program;

namespace {

// Starters in a folder, with the options given.
void make_starters(const std::string& folder, const std::string& options) {
    const outcome made = run(tool + " new program " + folder + " " + options);
    REQUIRE(made.status == 0);
}

struct held_program {
    std::size_t checks = 0, failed = 0;
    double largest = 0;
    std::string failures;
};

held_program hold(const program_renderer& subject, const std::vector<std::string>& names) {
    held_program result;
    for (const std::string& name : names) {
        std::vector<std::string> told;
        for (const verify::check_unit& unit :
             verify::units_for(subject, *verify::find_reference(name), told)) {
            for (const verify::check_result& one : verify::check_by_drawing(unit, subject)) {
                ++result.checks;
                if (!one.passed) {
                    ++result.failed;
                    result.failures += one.scene + ": " + one.name + "\n";
                }
                result.largest = std::max(result.largest, one.largest);
            }
        }
    }
    return result;
}

// A shader with names of its own, in view space, for one lamp.
const char* const view_space_vertex = R"(#version 330
in vec3 corner;
in vec3 facing;
uniform mat4 modelView;
uniform mat3 normalMatrix;
uniform mat4 projection;
out vec3 seen;
out vec3 turned;
void main() {
    vec4 p = modelView * vec4(corner, 1.0);
    seen = p.xyz;
    turned = normalMatrix * facing; // made unit at each fragment only
    gl_Position = projection * p;
}
)";
const char* const view_space_fragment = R"(#version 330
uniform vec4 lamp; // w: 1 a place, 0 a direction
uniform vec3 glow;
uniform vec3 k;
uniform vec3 sky;
uniform vec3 paint;
uniform float gloss;
uniform vec3 shine;
in vec3 seen;
in vec3 turned;
layout(location = 0) out vec4 result;
void main() {
    vec3 n = normalize(turned);
    vec3 l = lamp.xyz - seen * lamp.w;
    float d = length(l);
    l /= d;
    float a = lamp.w == 0.0 ? 1.0 : 1.0 / (k.x + k.y * d + k.z * d * d);
    vec3 r = reflect(-l, n);
    float c = max(dot(n, l), 0.0);
    float s = c > 0.0 ? pow(max(dot(r, normalize(-seen)), 0.0), gloss) : 0.0;
    result = vec4((sky + glow * a * c) * paint + glow * a * s * shine, 1.0);
}
)";
const char* const view_space_program = R"(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "phong"
rate = "fragment"
[attributes]
corner = "position"
facing = "normal"
[uniforms]
modelView = "object.to_view"
normalMatrix = "object.normal_to_view"
projection = "view.view_to_clip"
lamp = "lights[0].place_view"
glow = "lights[0].light"
k = "lights[0].coefficients"
sky = "ambient.light"
paint = "material.base"
gloss = "material.shininess"
shine = "material.specular"
)";

} // namespace

TEST_CASE("the starters of every language pass on the reference scenes, and agree with the second method" *
          doctest::test_suite("slow")) {
    testing::part_of_list part;
    double largest = 0;
    for (const std::string options :
         {"", "--glsl-version 450", "--language glsl-es", "--language glsl-es --glsl-version 100",
          "--language glsl-vulkan", "--language hlsl"}) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(options);
        const temporary_folder folder;
        make_starters(folder / "new", options);
        for (const char* rate : {"per-fragment", "per-vertex"}) {
            CAPTURE(rate);
            const program_renderer subject(read_program(folder / ("new/" + std::string(rate) + ".toml")));
            const held_program held =
                testing::whole
                    ? hold(subject, {"lantern-quay", "buoys", "penumbras", "bollard", "painted-hull"})
                    : hold(subject, {"lantern-quay", "penumbras"});
            CHECK(held.failures == "");
            CHECK(held.checks > (testing::whole ? 30 : 10));
            largest = std::max(largest, held.largest);
        }
    }
    std::printf("the largest difference over all: %.3g\n", largest);
    CHECK(largest < 1e-3);
}

TEST_CASE("one starter on every reference scene, as the tool runs it; each model of GLSL" *
          doctest::test_suite("slow")) {
    const temporary_folder folder;
    make_starters(folder / "new", "");
    const outcome got = run(tool + " check" + testing::scenes_asked + " --program " +
                            (folder / "new/per-fragment.toml") + " --json -");
    CHECK(got.status == 0);
    const json data = json::parse(got.out);
    CHECK(data["failed"] == 0);
    CHECK(data["passed"].get<int>() > (testing::whole ? 100 : 20));
    CHECK(data["largest_difference"].get<double>() < 1e-3);
    CHECK((data["fitted"].size() > 3 || !testing::whole));
    testing::part_of_list part;
    for (const std::string model : {"lambert", "phong", "unlit", "cel"}) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(model);
        make_starters(folder / model, "--rate fragment --model " + model);
        const outcome held = run(tool + " check line-up buoys moon-crates --program " + (folder / model) +
                                 "/per-fragment.toml");
        CHECK(held.status == 0);
        CHECK(has(held.out, "checks held"));
    }
    for (const std::string language : {"hlsl", "glsl-vulkan"}) {
        if (!part.asks_next()) {
            continue;
        }
        make_starters(folder / (language + "-phong"), "--rate fragment --model phong --language " + language);
        CHECK(run(tool + " check buoys-phong --program " + (folder / (language + "-phong/per-fragment.toml")))
                  .status == 0);
    }
}

TEST_CASE("a shader in view space, with its own names, for one lamp: scenes are fitted to it") {
    const written_program mine(view_space_vertex, view_space_fragment, view_space_program);
    const program_renderer subject(read_program(mine.file));
    CHECK_FALSE(subject.tolerance().unit_at_vertices); // right too, and told
    const held_program held =
        hold(subject, {"lantern-quay", "buoys", "buoys-phong", "moon-crates", "bollard"});
    CHECK(held.failures == "");
    CHECK(held.checks > 20);
    const fitted_scene fitted = subject.fit(verify::find_reference("buoys")->scene);
    REQUIRE(fitted.fitted.has_value());
    CHECK(fitted.fitted->lights.size() == 1);
    CHECK(fitted.fitted->shading.model == model_kind::phong);
    CHECK(std::find(fitted.changes.begin(), fitted.changes.end(), "of its lights the first 1") !=
          fitted.changes.end());
    // A spot becomes what it takes, at the same place.
    const scene& cone = verify::find_reference("searchlight")->scene;
    const fitted_scene no_cone = subject.fit(cone);
    REQUIRE(no_cone.fitted.has_value());
    REQUIRE(no_cone.fitted->lights.size() == 1);
    CHECK(no_cone.fitted->lights[0].light.kind != light_kind::spot);
    CHECK(no_cone.fitted->lights[0].light.position == cone.lights[0].light.position);
    // It passes as what it is, and a claim that is wrong is found out.
    const written_program wrong(view_space_vertex, view_space_fragment,
                                replaced(view_space_program, "\"phong\"", "\"blinn-phong\""));
    const program_renderer claims(read_program(wrong.file));
    CHECK(hold(claims, {"buoys"}).failed > 0);
}

TEST_CASE("each mistake that a shader can hold is named" * doctest::test_suite("slow")) {
    const temporary_folder folder;
    make_starters(folder / "blinn", "--rate fragment");
    make_starters(folder / "phong", "--rate fragment --model phong");
    struct edit {
        const char *id, *file, *what, *with;
    };
    const std::vector<edit> edits{
        {"normal-not-renormalized", "blinn/per-fragment.frag", "normalize(v_normal)", "v_normal"},
        {"normal-as-point", "blinn/per-fragment.vert", "u_normal_to_world * a_normal",
         "(u_object_to_world * vec4(a_normal, 1.0)).xyz + 0.0 * u_normal_to_world * a_normal"},
        {"normal-without-inverse-transpose", "blinn/per-fragment.vert", "u_normal_to_world * a_normal",
         "mat3(u_object_to_world) * a_normal + 0.0 * u_normal_to_world * a_normal"},
        {"normal-in-object-space", "blinn/per-fragment.vert", "u_normal_to_world * a_normal",
         "a_normal + 0.0 * u_normal_to_world * a_normal"},
        {"normal-flipped", "blinn/per-fragment.frag", "normalize(v_normal)", "-normalize(v_normal)"},
        {"light-direction-flipped", "blinn/per-fragment.frag", "float cosine =", "l = -l; float cosine ="},
        {"to-light-not-normalized", "blinn/per-fragment.frag", "l = to_light / d;", "l = to_light;"},
        {"shines-not-normalized", "blinn/per-fragment.frag", "l = -normalize(lamp.shines)",
         "l = -lamp.shines"},
        {"half-not-normalized", "blinn/per-fragment.frag", "normalize(l + v)", "(l + v) * 0.5"},
        {"eye-vector-flipped", "blinn/per-fragment.frag", "normalize(u_eye - position)",
         "normalize(position - u_eye)"},
        {"specular-eye-at-origin", "blinn/per-fragment.frag", "normalize(u_eye - position)",
         "normalize(0.0 * u_eye - position)"},
        {"position-in-object-space", "blinn/per-fragment.vert", "v_position = world.xyz",
         "v_position = a_position"},
        {"matrix-transposed", "blinn/per-fragment.vert",
         "v_position = world.xyz;\n    v_normal = normalize(u_normal_to_world * a_normal)",
         "v_position = transpose(mat3(u_object_to_world)) * a_position + u_object_to_world[3].xyz;\n"
         "    v_normal = normalize(transpose(mat3(u_object_to_world)) * a_normal + 0.0 * u_normal_to_world * "
         "a_normal)"},
        {"falloff-missing", "blinn/per-fragment.frag", "falloff = falloff_at(lamp, d);",
         "falloff = 1.0 + 0.0 * falloff_at(lamp, d);"},
        {"falloff-after-normalize", "blinn/per-fragment.frag", "falloff = falloff_at(lamp, d);",
         "falloff = falloff_at(lamp, length(l));"},
        {"falloff-not-squared", "blinn/per-fragment.frag", "return 1.0 / (d * d);", "return 1.0 / d;"},
        {"cone-full-angle", "blinn/per-fragment.toml", "", ""},
        {"cone-inner-outer-swapped", "blinn/per-fragment.frag",
         "(c - lamp.cos_outer) / (lamp.cos_inner - lamp.cos_outer)",
         "(c - lamp.cos_inner) / (lamp.cos_outer - lamp.cos_inner)"},
        {"cone-axis-flipped", "blinn/per-fragment.frag", "float c = -dot", "float c = dot"},
        {"cosine-not-clamped", "blinn/per-fragment.frag", "lamp.diffuse * max(cosine, 0.0)",
         "lamp.diffuse * cosine"},
        {"specular-on-unlit-side", "blinn/per-fragment.frag", "if (cosine > 0.0)", "if (true)"},
        {"specular-tinted-by-base", "blinn/per-fragment.frag", "specular * u_specular_factor",
         "specular * base * u_specular_factor"},
        {"specular-without-falloff", "blinn/per-fragment.frag", "specular += light *",
         "specular += lamp.color * lamp.intensity *"},
        {"specular-times-cosine", "blinn/per-fragment.frag", "specular += light *",
         "specular += light * cosine *"},
        {"factor-pi", "blinn/per-fragment.frag", "diffuse * u_diffuse_factor",
         "diffuse / 3.14159265 * u_diffuse_factor"},
        {"ambient-missing", "blinn/per-fragment.frag", "(u_ambient + ambient) *",
         "0.0 * (u_ambient + ambient) *"},
        {"ambient-per-light", "blinn/per-fragment.frag", "(u_ambient + ambient) *",
         "(float(u_lamp_count) * u_ambient + ambient) *"},
        {"clamp-per-light", "blinn/per-fragment.frag", "diffuse += light * lamp.diffuse * max(cosine, 0.0)",
         "diffuse += lamp.diffuse * min(light * max(cosine, 0.0), vec3(1.0))"},
        {"light-color-ignored", "blinn/per-fragment.frag", "Lamp lamp = u_lamps[i];",
         "Lamp lamp = u_lamps[i]; lamp.color = vec3(1.0) + 0.0 * lamp.color;"},
        {"light-intensity-ignored", "blinn/per-fragment.frag", "Lamp lamp = u_lamps[i];",
         "Lamp lamp = u_lamps[i]; lamp.intensity = 1.0 + 0.0 * lamp.intensity;"},
        {"single-light-only", "blinn/per-fragment.frag", "if (i >= u_lamp_count) break",
         "if (i >= min(1, u_lamp_count)) break"},
        {"encode-twice", "blinn/per-fragment.frag", "", ""},
        {"texture-not-decoded", "blinn/per-fragment.toml", "\"material.texture\"",
         "\"material.texture_codes\""},
        {"alpha-lit", "blinn/per-fragment.frag", "u_base.a)",
         "u_base.a * min(1.0, dot(vec3(0.2126, 0.7152, 0.0722), (u_ambient + ambient) * u_ambient_factor + "
         "diffuse * "
         "u_diffuse_factor)))"},
        {"channels-swapped", "blinn/per-fragment.frag",
         "vec4(lit + specular * u_specular_factor + u_emission",
         "vec4((lit + specular * u_specular_factor + u_emission).bgr"},
        {"light-moves-with-eye", "blinn/per-fragment.toml", "", ""},
        {"specular-reflect-flipped", "phong/per-fragment.frag", "2.0 * cosine * n - l",
         "l - 2.0 * cosine * n"},
        {"specular-half-for-reflect", "phong/per-fragment.frag", "max(dot(r, v), 0.0)",
         "max(dot(n, normalize(l + v)), 0.0)"},
        {"rate-vertex-for-fragment", "vertex", "", ""}};
    make_starters(folder / "vertex", "--rate vertex");
    testing::part_of_list part;
    std::size_t tried = 0;
    std::size_t named = 0;
    for (const edit& one : edits) {
        if (!part.asks_next()) {
            continue;
        }
        const std::string id = one.id;
        CAPTURE(id);
        const bool phong = std::string(one.file).starts_with("phong");
        const std::string base = folder / (phong                               ? "phong"
                                           : std::string(one.file) == "vertex" ? "vertex"
                                                                               : "blinn");
        const std::string stem = std::string(one.file) == "vertex" ? "per-vertex" : "per-fragment";
        std::map<std::string, std::string> files;
        for (const char* ending : {".vert", ".frag", ".toml"}) {
            files[ending] = read_whole(base + "/" + stem + ending);
        }
        const std::string ending =
            std::string(one.file).substr(std::max<std::size_t>(5, std::string(one.file).size()) - 5);
        if (*one.what != '\0') {
            files[ending] = replaced(files[ending], one.what, one.with);
        } else if (std::string(one.id) == "cone-full-angle") {
            files[".frag"] =
                replaced(files[".frag"], "clamp((c - lamp.cos_outer) / (lamp.cos_inner - lamp.cos_outer)",
                         "clamp((c - cos(acos(lamp.cos_outer) / 2.0)) / (cos(acos(lamp.cos_inner) / 2.0) - "
                         "cos(acos(lamp.cos_outer) / 2.0))");
            files[".frag"] = replaced(files[".frag"], "return c >= lamp.cos_outer ? 1.0",
                                      "return c >= cos(acos(lamp.cos_outer) / 2.0) ? 1.0");
            files[".frag"] = replaced(files[".frag"], "return c >= lamp.cos_outer ? pow",
                                      "return c >= cos(acos(lamp.cos_outer) / 2.0) ? pow");
        } else if (std::string(one.id) ==
                   "light-moves-with-eye") { // given in world space, taken as in view space
            files[".vert"] =
                replaced(files[".vert"], "v_position = world.xyz", "v_position = (u_view * world).xyz");
            files[".vert"] = replaced(files[".vert"], "normalize(u_normal_to_world * a_normal)",
                                      "mat3(u_view) * normalize(u_normal_to_world * a_normal)");
            files[".vert"] = replaced(files[".vert"], "uniform mat4 u_world_to_clip;",
                                      "uniform mat4 u_world_to_clip;\nuniform mat4 u_view;");
            files[".frag"] =
                replaced(files[".frag"], "normalize(u_eye - position)", "normalize(-position + 0.0 * u_eye)");
            files[".toml"] += "u_view = \"view.world_to_view\"\n";
        } else if (std::string(one.id) == "encode-twice") {
            files[".frag"] = replaced(files[".frag"], "    color = vec4(", "    vec3 c = (");
            files[".frag"] =
                replaced(files[".frag"], " + u_emission, u_base.a);\n",
                         " + u_emission);\n    c = clamp(c, 0.0, 1.0);\n    for (int i = 0; i < 2; ++i) c = "
                         "mix(1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, 12.92 * c, vec3(lessThanEqual(c, "
                         "vec3(0.0031308))));\n"
                         "    color = vec4(c, u_base.a);\n");
            files[".toml"] = replaced(files[".toml"], "language =", "output = \"srgb\"\nlanguage =");
        } else if (std::string(one.id) == "rate-vertex-for-fragment") {
            files[".toml"] = replaced(files[".toml"], "rate = \"vertex\"", "rate = \"fragment\"");
        }
        const temporary_folder mine;
        for (const auto& [end, text] : files) {
            write_whole(mine / (stem + end), text);
        }
        const program_renderer subject(read_program(mine / (stem + ".toml")));
        bool found = false;
        bool accused_another = false;
        std::string said;
        for (const std::string_view name : verify::revealed_by(verify::find_mistake(one.id)->which)) {
            scene small = verify::find_reference(name)->scene;
            small.view.width = 320;
            small.view.height = 200;
            const fitted_scene fitted = subject.fit(small);
            if (!fitted.fitted) {
                continue;
            }
            const verify::diagnosis told = verify::diagnose(*fitted.fitted, subject.draw(*fitted.fitted),
                                                            subject.format(), subject.tolerance());
            if (told.verdict != verify::verdict_kind::mistake) {
                continue;
            }
            bool here = told.mistakes.front().id() == one.id;
            for (const verify::mistake tied : told.ties) {
                here = here || verify::entry_of(tied).id == one.id;
            }
            found = found || here;
            accused_another = accused_another || !here;
            said += std::string(name) + ": " + told.mistakes.front().id() + "; ";
            if (found) {
                break;
            }
        }
        ++tried;
        named += found && !accused_another ? 1U : 0U;
        CAPTURE(said);
        CHECK(found);
    }
    std::printf("%zu of %zu wrong shaders: the mistake is first or among the ties\n", named, tried);
    CHECK(named * 100 >= tried * 95);
}

// `saturate` ends cosines at 1, which shows where a vector is too long.
TEST_CASE("vectors that are not unit are named where cosines end at 1 too") {
    const char* const fragment = R"t(#version 330
in vec3 p; in vec3 n; out vec4 c; uniform vec3 lamp, light, sky, paint;
void main() {
    vec3 u = normalize(n), l = lamp - p; float d = length(l); l = l / d;
    c = vec4((sky + light * clamp(dot(u, l), 0.0, 1.0) / (d * d)) * paint, 1.0);
})t";
    const std::string vertex = replaced(world_vertex, "normalize(k * b)", "k * b");
    const std::string program =
        lambert_program("", "lamp = \"lights[0].position\"\nlight = \"lights[0].light\"\n");
    struct edit {
        const char *id, *what, *with;
    };
    for (const edit& one : {edit{"", "", ""},
                            {"normal-not-renormalized", "normalize(n)", "n"},
                            {"to-light-not-normalized", "l = l / d;", ""}}) {
        CAPTURE(one.id);
        const std::string source = *one.what == 0 ? fragment : replaced(fragment, one.what, one.with);
        const written_program mine(vertex, source, program);
        const outcome got = run(tool + " check bollard moon-crates buoys --program " + mine.file);
        CHECK(got.status == (*one.id == 0 ? 0 : 1));
        CHECK((*one.id == 0 || has(got.out, std::string("What explains it: ") + one.id)));
    }
}

// An ambient light that is bound as what it is not: `without` would have hidden it.
TEST_CASE("what is bound is looked at, whatever `without` says") {
    const char* const fragment = R"t(#version 330
in vec3 p; in vec3 n; out vec4 c; uniform vec3 lamp, light, sky, paint;
void main() {
    vec3 u = normalize(n), l = lamp - p; float d = length(l); l = l / d;
    c = vec4(light * max(dot(u, l), 0.0) / (d * d) * paint + sky * l, 1.0);
})t";
    const std::string bound = "lamp = \"lights[0].position\"\nlight = \"lights[0].light\"\n";
    const written_program mine(world_vertex, fragment, lambert_program("without = [\"ambient\"]\n", bound));
    const outcome got = run(tool + " check buoys --program " + mine.file);
    CHECK(got.status == 1);
    CHECK(has(got.out, "`without` names `ambient`, which is bound"));
}

TEST_CASE("check --program ends with the mistake; diagnose, explain, compare, draw, layers, cost and rates "
          "take programs") {
    const temporary_folder folder;
    make_starters(folder / "new", "--rate fragment");
    const std::string program = folder / "new/per-fragment.toml";
    const std::string source = read_whole(folder / "new/per-fragment.frag");
    write_whole(folder / "new/per-fragment.frag",
                replaced(source, "return 1.0 / (d * d);", "return 1.0 / d;"));
    const outcome checked = run(tool + " check buoys lantern-quay-inverse-square --program " + program);
    CHECK(checked.status == 1);
    CHECK(has(checked.out, "What explains it: falloff-not-squared"));
    const outcome diagnosed = run(tool + " diagnose buoys --program " + program + " --json -");
    CHECK(diagnosed.status == 1);
    CHECK(json::parse(diagnosed.out)["mistakes"][0]["id"] == "falloff-not-squared");
    const outcome explained = run(tool + " explain buoys --pixel 400,300 --program " + program);
    CHECK(explained.status == 0);
    CHECK(has(explained.out, "falloff"));
    const std::string in = "cd " + folder.path() + " && " + tool;
    const outcome compared = run(in + " compare buoys --program " + program + " -o c.png");
    CHECK(compared.status == 1);
    CHECK(has(compared.out, "beyond the tolerance of `check`"));
    CHECK(run(in + " draw buoys --program " + program + " --size 320x200 -o d.png").status == 0);
    CHECK(run(in + " layers buoys --program " + program + " --size 320x200 -o l.png").status == 0);
    CHECK(run(in + " rates buoys --program " + program + " --size 320x200 -o r.png").status == 0);
    CHECK(run(in + " cost buoys --program " + program + " --size 320x200 --repeat 2").status == 0);
}

TEST_CASE("hostile and broken programs: one clear line, and a tool that lives") {
    struct hostile {
        const char *stage, *what, *with, *says;
        int status;
    };
    const std::vector<hostile> all{
        {".frag", "void main() {", "void main() { this is no shader; }", ".frag:", 2},
        {".frag", "void main() {", "void main() { undeclared = 1.0;", "undeclared", 2},
        {".vert", "void main() {", "void main() { vec3 a = vec4(1.0);", ".vert:", 2},
        {".frag", "#version 330", "#version 999", "", 2},
        {".frag", "#version 330", "", "", 2},
        {".frag", "in vec3 v_normal;", "in vec4 v_normal;", "", 2},
        {".frag", "in vec3 v_normal;", "in vec3 v_missing; vec3 v_normal = v_missing;", "v_missing", 2},
        {".frag", "out vec4 color;", "out vec3 color;", "", 2},
        {".frag", "out vec4 color;", "layout(location = 3) out vec4 color;", "location", 2},
        {".vert", "void main() {", "void mian() {", "", 2},
        // This driver breaks a loop off after 65,536 rounds; until then it takes its time.
        {".frag", "vec3 n = normalize(v_normal);",
         "vec3 n = normalize(v_normal); while (n.x < 9.0) { n = vec3(pow(abs(n.x), 1.001) * 0.5, sin(n.y + "
         "n.z), cos(n.z * n.x)); }",
         "took longer", 1},
        {".vert", "v_texcoord = a_texcoord;",
         "v_texcoord = a_texcoord; vec3 n = a_normal; while (n.x < 9.0) { n = vec3(pow(abs(n.x), 1.001) * "
         "0.5, sin(n.y + n.z), cos(n.z * n.x)); } v_texcoord += n.xy;",
         "", 0},
        {".frag", "vec3 n = normalize(v_normal);", "discard; vec3 n = v_normal;", "", 1},
        {".frag", "vec3 n = normalize(v_normal);", "vec3 n = vec3(sqrt(-1.0 - abs(v_normal.x)));", "", 1},
        {".frag", "vec3 n = normalize(v_normal);", "vec3 n = v_normal / 0.0;", "", 1},
        {".frag", "vec3 diffuse;",
         "vec3 diffuse; float huge[1000000]; huge[int(v_normal.x * 9.0)] = 1.0; specular_dummy(huge[3]);", "",
         2},
        {".frag", "void main() {", "uniform float u_extra; void main() { if (u_extra > 1.0) discard;",
         "u_extra", 2},
        {".frag", "uniform vec3 u_eye;", "uniform vec3 u_eyes; vec3 u_eye = u_eyes;", "", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"view.eyes\"", "`view.eye`", 2},
        {".toml", "u_eye = \"view.eye\"", "", "u_eye", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"view.eye\"\nu_nowhere = 1.0", "u_nowhere", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"object.to_world\"", "u_eye", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = [1.0, 2.0]", "u_eye", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = [true, false]", "u_eye", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"= view.eye +\"", "in `= view.eye +`", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"= view.eyes\"", "`view.eye`", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"= object.to_world\"", "u_eye", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"= 2.0 + object.to_world\"", "a matrix", 2},
        {".toml", "u_eye = \"view.eye\"", "\"u_eye[*]\" = \"view.eye\"", "u_eye", 2},
        {".toml", "u_texture = \"material.texture\"", "u_texture = [1.0, 2.0]", "u_texture", 2},
        {".toml", "rate = \"fragment\"", "rate = \"face\"", "normals = \"face\"", 2},
        {".toml", "format = 1", "format = 1\ngeometry = \"a.geom\"", "geometry", 2},
        {".toml", "format = 1", "format = 1\ngamma = 2.2", "gamma", 2},
        {".toml", "format = 1", "format = 1\nwithout = [\"fog\"]", "fog", 2},
        {".toml", "format = 1", "format = 1\nconstants = { view = { eye = [0, 0, 0] } }", "view.eye", 2},
        {".toml", "format = 1", "format = 1\nconstants = { material = { shininess = [1, 2] } }",
         "material.shininess", 2},
        {".toml", "format = 1",
         "format = 1\nconstants = { material = { base = [1, 1, 1], base_alpha = [0.5, 1, 1, 1] } }",
         "contradicts", 2},
        {".frag", "void main() {", "void main() { vec3 old = gl_LightSource[0].position.xyz;",
         "gl_LightSource", 2},
        {".frag", "void main() {", "#include \"nowhere.glsl\"\nvoid main() {", "nowhere.glsl", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"lights[0].glow\"", "glow", 2},
        {".toml", "u_eye = \"view.eye\"", "u_eye = \"lights[9].position\"", "", 0},
        {".toml", "a_normal = \"normal\"", "", "a_normal", 2},
        {".toml", "a_normal = \"normal\"", "a_normal = \"outwards\"", "a_normal", 2},
        {".toml", "a_normal = \"normal\"", "a_normal = \"normal\"\na_none = \"color\"", "a_none", 2},
        {".toml", "language = \"glsl\"", "language = \"runes\"", "runes", 2},
        {".toml", "language = \"glsl\"", "language = \"hlsl\"", "", 2},
        {".toml", "language = \"glsl\"", "language = \"glsl-vulkan\"", "", 2},
        {".toml", "rate = \"fragment\"", "rate = \"pixel\"", "pixel", 2},
        {".toml", "model = \"blinn-phong\"", "model = \"shiny\"", "shiny", 2},
        {".toml", "model = \"blinn-phong\"", "", "model", 2},
        {".toml", "format = 1", "format = 7", "format", 2},
        {".toml", "per-fragment.frag\"", "nowhere.frag\"", "nowhere.frag", 2},
        {".toml", "format = 1", "format = 1\nspeed = 3", "speed", 2},
        {".toml", "format = 1", "format = 1\nlimit = -1.0", "limit", 2},
        {".toml", "format = 1", "format = 1\nkinds = [\"sun\"]", "sun", 2},
        {".toml", "format = 1", "format = 1\nlights = [3, 1]", "lights", 2},
        {".toml", "format = 1", "format = 1\nin_order = true", "in_order", 2},
        {".toml", "u_texture = \"material.texture\"", "u_texture = \"material.base\"", "u_texture", 2},
        {".toml", "format = 1", "format = = 1", "TOML", 2}};
    const temporary_folder folder;
    make_starters(folder / "new", "--rate fragment");
    std::size_t count = 0;
    for (const hostile& one : all) {
        const std::string change = std::string(one.what) + " -> " + one.with;
        CAPTURE(change);
        const temporary_folder mine;
        for (const char* ending : {".vert", ".frag", ".toml"}) {
            std::string text = read_whole(folder / ("new/per-fragment" + std::string(ending)));
            if (ending == std::string(one.stage)) {
                text = replaced(text, one.what, one.with);
            }
            // Only what never ends by itself is given little time: a busy machine may need more than a
            // second.
            if (ending == std::string(".toml") &&
                std::string(one.with).find("while (") != std::string::npos) {
                // It runs as fast as ever under the sanitizer, which waits longer.
                text = "limit = " + std::to_string(1.0 / program::slowed_down) + "\n" + text;
            }
            write_whole(mine / ("per-fragment" + std::string(ending)), text);
        }
        const outcome got = run(tool + " check plates --program " + (mine / "per-fragment.toml"));
        if (one.status == 2) {
            CHECK(got.status == 2);
            CHECK(got.one_line_of_error());
            CHECK(has(got.err, one.says));
        } else if (one.status == 1) {
            CHECK(got.status == 1);
            CHECK(has(got.out, one.says));
        } else {
            CHECK(got.status <= 2);
        }
        ++count;
    }
    CHECK(count >= 40);
    // A stopped one stops no other scene.
    const outcome none = run(tool + " check --program " + (folder / "nowhere.toml"));
    CHECK(none.status == 2);
    CHECK(none.one_line_of_error());
}

TEST_CASE(
    "a lit claim that no light reaches fails on scenes that keep theirs, until it says that it takes none" *
    doctest::test_suite("slow")) {
    const char* const fragment = R"(#version 330
in vec3 turned;
uniform vec3 paint;
uniform vec3 sky;
out vec4 result;
void main() { result = vec4(sky * paint + 0.0 * turned, 1.0); }
)";
    const char* const vertex = R"(#version 330
in vec3 corner;
in vec3 facing;
uniform mat4 whole;
uniform mat3 turn;
out vec3 turned;
void main() { turned = turn * facing; gl_Position = whole * vec4(corner, 1.0); }
)";
    const std::string claim = R"(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "lambert"
rate = "fragment"
[attributes]
corner = "position"
facing = "normal"
[uniforms]
whole = "object.to_clip"
turn = "object.normal_to_world"
paint = "material.base"
sky = "ambient.light"
)";
    const written_program unlit(vertex, fragment, claim);
    const std::string at = "cd " + unlit.folder.path() + " && " + tool;
    const std::string check = at + " check" + testing::scenes_asked + " --program a.toml --json a.json";
    CHECK(run(check).status == 1);
    const json result = json::parse(read_whole(unlit.folder / "a.json"));
    CHECK(result["failed"] >= 3);
    REQUIRE_FALSE(result["advice"].empty());
    CHECK(has(result["advice"][0].get<std::string>(), "lights = [0, 0]"));
    write_whole(unlit.file, "lights = [0, 0]\n" + claim);
    const outcome meant = run(check);
    CAPTURE(meant.out);
    CHECK(meant.status == 0);
    CHECK(json::parse(read_whole(unlit.folder / "a.json"))["advice"].empty());
}

TEST_CASE("a GLSL ES fragment stage without a default precision is refused as a browser would refuse it") {
    const temporary_folder folder;
    make_starters(folder / "new", "--language glsl-es --rate fragment");
    const std::string file = folder / "new/per-fragment.frag";
    std::string source = read_whole(file);
    for (std::size_t at = source.find("precision "); at != std::string::npos;
         at = source.find("precision ")) {
        source.erase(at, source.find(';', at) + 1 - at);
    }
    // What a coarser precision is declared for makes the driver see the source with it made high as well.
    write_whole(file, replaced(source, "void main() {", "mediump vec3 unneeded;\nvoid main() {"));
    const outcome got = run(tool + " check plates --program " + (folder / "new/per-fragment.toml"));
    CHECK(got.status == 2);
    CHECK(got.one_line_of_error());
    CHECK(has(got.err, "per-fragment.frag:"));
    CHECK(has(got.err, "precision highp float;"));
}

TEST_CASE("under a display's gamma a right curve passes; one left out, or applied twice, is named") {
    const std::string last = "    result = vec4((sky + glow * a * c) * paint + glow * a * s * shine, 1.0);\n";
    const std::string sum =
        "    vec3 sum = clamp((sky + glow * a * c) * paint + glow * a * s * shine, 0.0, 1.0);\n";
    const std::string claim = "output = \"gamma\"\n" + std::string(view_space_program);
    const auto written = [&](const std::string& color) {
        return replaced(view_space_fragment, last, sum + "    result = vec4(" + color + ", 1.0);\n");
    };
    const auto told = [&](const std::string& color) {
        const written_program mine(view_space_vertex, written(color), claim);
        return run("cd " + mine.folder.path() + " && " + tool + " check buoys bollard --program a.toml");
    };
    const outcome right = told("pow(sum, vec3(1.0 / 2.2))");
    CAPTURE(right.out);
    CHECK(right.status == 0);
    const outcome missing = told("sum");
    CHECK(missing.status == 1);
    CHECK(has(missing.out, "What explains it: encode-missing"));
    const outcome twice = told("pow(sum, vec3(1.0 / 4.84))");
    CHECK(twice.status == 1);
    CHECK(has(twice.out, "What explains it: encode-twice"));
}

TEST_CASE("without a driver: one line and status 3, and the rest of the tool works") {
    const temporary_folder folder;
    make_starters(folder / "new", "--rate fragment");
    const std::string program = folder / "new/per-fragment.toml";
    const outcome got =
        run("__EGL_VENDOR_LIBRARY_FILENAMES=/nowhere.json " + tool + " check --program " + program);
    CHECK(got.status == 3);
    CHECK(got.one_line_of_error());
    CHECK(got.out.empty());
    CHECK(run("__EGL_VENDOR_LIBRARY_FILENAMES=/nowhere.json " + tool + " check plates").status == 0);
}

TEST_CASE("lights as separate uniforms, by kind and by name: scenes must have them") {
    const char* const fragment = R"(#version 330
uniform vec3 moon_to_light; uniform vec3 moon_light;
uniform vec3 lamp_position; uniform vec3 lamp_light;
uniform vec3 sky; uniform vec3 paint;
in vec3 p; in vec3 n; out vec4 c;
void main() {
    vec3 u = normalize(n);
    vec3 l = lamp_position - p;
    float d = length(l);
    vec3 lit = moon_light * max(dot(u, moon_to_light), 0.0) + lamp_light * max(dot(u, l / d), 0.0) / (d * d);
    c = vec4((sky + lit) * paint, 1.0);
})";
    const std::string program = lambert_program("", R"(moon_to_light = "lights.directional[0].to_light"
moon_light = "lights.directional[0].light"
lamp_position = "lights.point[0].position"
lamp_light = "lights.point[0].light"
)");
    const written_program mine(world_vertex, fragment, program);
    const program_renderer subject(read_program(mine.file));
    const held_program held = hold(subject, {"buoys", "line-up"});
    CHECK(held.failures == "");
    CHECK(held.checks > 8);
    // A lamp is added where a scene has none.
    const fitted_scene with_lamp = subject.fit(verify::find_reference("moon-crates")->scene);
    REQUIRE(with_lamp.fitted.has_value());
    CHECK(std::count_if(with_lamp.fitted->lights.begin(), with_lamp.fitted->lights.end(),
                        [](const named_light& lamp) { return lamp.light.kind == light_kind::point; }) == 1);
    const written_program by_name(
        world_vertex, fragment,
        replaced(replaced(program, "lights.point[0].position", "lights.lantern.position"),
                 "lights.point[0].light", "lights.lantern.light"));
    CHECK_NOTHROW(program_renderer(read_program(by_name.file)));
}

// A moon that brings ambient light, and lanterns that bring none: what the lanterns' parts are in a scene is
// no matter of such a program.
TEST_CASE("lights of one kind have a part that those of another do not") {
    const std::string fragment = R"(#version 330
in vec3 p; in vec3 n; out vec4 c;
uniform vec3 paint, moon_shines, moon_light; uniform float moon_ambient;
struct lantern { vec3 place; vec3 light; };
uniform lantern lanterns[4]; uniform int count;
void main() {
    vec3 u = normalize(n);
    vec3 lit = moon_light * (moon_ambient + max(dot(u, -normalize(moon_shines)), 0.0));
    for (int i = 0; i < count; ++i) {
        vec3 to = lanterns[i].place - p;
        lit += lanterns[i].light * max(dot(u, normalize(to)), 0.0) / dot(to, to);
    }
    c = vec4(lit * paint, 1.0);
})";
    const std::string program =
        replaced(lambert_program("without = [\"ambient\"]\n", R"(moon_shines = "lights.directional[0].shines"
moon_light = "lights.directional[0].light"
moon_ambient = "lights.directional[0].ambient[0]"
"lanterns[*].place" = "lights.point[*].position"
"lanterns[*].light" = "lights.point[*].light"
count = "lights.point.count"
)"),
                 "sky = \"ambient.light\"\n", "");
    const written_program mine(world_vertex, fragment, program);
    CHECK(run(tool + " check --program " + mine.file).status == 0);
    // What is bound of the moon has to come from there, though no reference scene has a moon with such a
    // part.
    const written_program forgotten(
        world_vertex, replaced(fragment, "moon_ambient + max", "0.0 * moon_ambient + max"), program);
    const outcome got = run(tool + " check --program " + forgotten.file);
    CHECK(got.status == 1);
    CHECK(got.out.find("parts-ignored") != std::string::npos);
    // Nor is it the lanterns'.
    const written_program given_to_all(world_vertex,
                                       replaced(fragment, "max(dot(u, normalize(to)), 0.0)",
                                                "(moon_ambient + max(dot(u, normalize(to)), 0.0))"),
                                       program);
    CHECK(run(tool + " check --program " + given_to_all.file).status == 1);
}

// Two lanterns, each with numbers of a law of its own: one's that is taken for the other's shows, although no
// reference scene has two lights of such a law.
TEST_CASE("one lamp's numbers of a law taken for another's are not right") {
    struct written {
        std::string type, arrives; // of a lamp's number k and its distance d
        std::string claim, bound;
    };
    const std::vector<written> laws{
        {"float", "max(1.0 - d / k, 0.0)", "linear", "range"},
        {"vec3", "1.0 / (k.x + k.y * d + k.z * d * d)", "polynomial", "coefficients"}};
    for (const written& law : laws) {
        for (const bool mistaken : {false, true}) {
            CAPTURE(law.bound);
            CAPTURE(mistaken);
            std::string body;
            for (const std::string lamp : {"A", "B"}) {
                body += "l = place" + lamp + " - p; d = length(l); k = law" + (mistaken ? "A" : lamp) +
                        "; c.rgb += paint * light" + lamp + " * " + law.arrives +
                        " * max(dot(u, l / d), 0.0);\n";
            }
            const written_program mine(world_vertex,
                                       "#version 330\nin vec3 p; in vec3 n; out vec4 c;\n"
                                       "uniform vec3 sky, paint, placeA, placeB, lightA, lightB; uniform " +
                                           law.type + " lawA, lawB;\nvoid main() { " + law.type +
                                           " k; vec3 u = normalize(n), l; float d;\n"
                                           "c = vec4(sky * paint, 1.0);\n" +
                                           body + "}",
                                       lambert_program("falloff = [\"" + law.claim + "\"]\n",
                                                       R"(placeA = "lights[0].position"
placeB = "lights[1].position"
lightA = "lights[0].light"
lightB = "lights[1].light"
lawA = "lights[0].)" + law.bound + "\"\nlawB = \"lights[1]." +
                                                           law.bound + "\"\n"));
            const held_program held = hold(program_renderer(read_program(mine.file)), {"buoys", "line-up"});
            CHECK((held.failures.empty()) == !mistaken);
        }
    }
}

// Lamps with an ambient, a diffuse and a specular colour each, as many programs have them.
const char* const lamps_in_parts = R"(#version 330
struct Lamp { vec3 position; vec3 ambient; vec3 diffuse; vec3 specular; };
uniform Lamp lamps[4];
uniform int lampCount;
uniform vec3 eye; uniform vec3 sky; uniform vec3 paint; uniform vec3 shine; uniform float gloss;
in vec3 p; in vec3 n; out vec4 c;
void main() {
    vec3 u = normalize(n);
    vec3 v = normalize(eye - p);
    vec3 spread = sky;
    vec3 lit = vec3(0.0);
    vec3 glint = vec3(0.0);
    for (int i = 0; i < lampCount; ++i) {
        vec3 l = lamps[i].position - p;
        float d = length(l);
        l /= d;
        float a = 1.0 / (d * d);
        spread += lamps[i].ambient * a;
        lit += lamps[i].diffuse * a * max(dot(u, l), 0.0);
        if (dot(u, l) > 0.0) { glint += lamps[i].specular * a * pow(max(dot(u, normalize(l + v)), 0.0), gloss); }
    }
    c = vec4((spread + lit) * paint + glint * shine, 1.0);
})";
const char* const lamps_program = R"(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "blinn-phong"
rate = "fragment"
attributes = { a = "position", b = "normal" }
[uniforms]
m = "object.to_world"
k = "object.normal_to_world"
vp = "view.world_to_clip"
eye = "view.eye"
sky = "ambient.light"
paint = "material.base"
shine = "material.specular"
gloss = "material.shininess"
lampCount = "lights.count"
"lamps[*].position" = "lights[*].position"
"lamps[*].ambient" = "lights[*].ambient_light"
"lamps[*].diffuse" = "lights[*].diffuse_light"
"lamps[*].specular" = "lights[*].specular_light"
)";

TEST_CASE(
    "lamps in parts: right as they are; parts that are ignored, or do not fall off, are found and named") {
    const written_program mine(world_vertex, lamps_in_parts, lamps_program);
    const program_renderer subject(read_program(mine.file));
    const fitted_scene fitted = subject.fit(verify::find_reference("lamp-parts")->scene);
    REQUIRE(fitted.fitted.has_value());
    REQUIRE(fitted.fitted->lights.size() == 4); // the two points, and others made so
    for (const named_light& lamp : fitted.fitted->lights) {
        CHECK(lamp.light.kind == light_kind::point);
        CHECK(lamp.light.follows == ambient_follows::cone);
    }
    const held_program held = hold(subject, {"lamp-parts", "buoys", "lantern-row"});
    CHECK(held.failures == "");
    CHECK(held.checks > 10);
    const auto named = [&](const std::string& fragment) -> std::string {
        const written_program wrong(world_vertex, fragment, lamps_program);
        const program_renderer drawn(read_program(wrong.file));
        CHECK(hold(drawn, {"lamp-parts"}).failed > 0);
        const scene small = *fitted.fitted;
        const verify::diagnosis found =
            verify::diagnose(small, drawn.draw(small), pixel_format::floats, drawn.tolerance());
        return found.mistakes.empty() ? "" : found.mistakes.front().id();
    };
    CHECK(named(replaced(lamps_in_parts, "lamps[i].ambient * a", "lamps[i].ambient")) ==
          "ambient-without-falloff");
    CHECK(named(replaced(lamps_in_parts, "eye - p)", "vec3(0.0, 3.2, 5.4))")) == "viewer-at-infinity");
    // Ambient light that follows nothing is another claim, and right under it.
    const written_program other(world_vertex,
                                replaced(lamps_in_parts, "lamps[i].ambient * a", "lamps[i].ambient"),
                                replaced(lamps_program, "rate =", "ambient_follows = \"nothing\"\nrate ="));
    const held_program right = hold(program_renderer(read_program(other.file)), {"lamp-parts"});
    CHECK(right.failures == "");
    CHECK(right.checks > 3);
}

TEST_CASE("new program --from: a guess that passes as it is") {
    const temporary_folder folder;
    make_starters(folder / "new", "--rate fragment");
    const std::string in = "cd " + folder.path() + " && " + tool;
    const outcome guessed =
        run(in + " new program guessed --from new/per-fragment.vert new/per-fragment.frag");
    REQUIRE(guessed.status == 0);
    const std::string text = read_whole(folder / "guessed/program.toml");
    for (const char* line :
         {"a_normal = \"normal\"", "u_world_to_clip = \"view.world_to_clip\"", "u_eye = \"view.eye\"",
          "\"u_lamps[*].position\" = \"lights[*].position\"", "u_shininess = \"material.shininess\""}) {
        const std::string wanted = line;
        CAPTURE(wanted);
        CHECK(has(text, line));
    }
    CHECK(run(in + " check buoys --program guessed/program.toml").status == 0);
    CHECK(run(in + " new program guessed --from new/per-fragment.vert new/per-fragment.frag").status == 2);
    CHECK(run(in + " new program new").status == 2); // nothing is overwritten
    CHECK(run(in + " new castle new2").status == 2);
    CHECK(run(in + " new program x --language cobol").status == 2);
}

TEST_CASE("new program --from says what a line of a right guess takes for meant" *
          doctest::skip(!testing::patient)) {
    const written_program lit_at_vertices(R"(#version 330 core
layout(location = 0) in vec3 corner;
layout(location = 1) in vec3 facing;
uniform mat4 toWorld, toEye, toClip;
uniform mat3 normalToWorld;
uniform vec3 lanternPosition, lanternColor, ambientLight, baseColor, eyePosition, specularColor;
uniform float shininess;
out vec3 lit;
void main() {
    vec4 world = toWorld * vec4(corner, 1.0);
    vec3 n = normalize(normalToWorld * facing);
    vec3 toLantern = lanternPosition - world.xyz;
    float d = length(toLantern);
    vec3 l = toLantern / d;
    vec3 v = normalize(eyePosition - world.xyz);
    float cosine = max(dot(n, l), 0.0);
    float shine = cosine > 0.0 ? pow(max(dot(n, normalize(l + v)), 0.0), shininess) : 0.0;
    lit = ambientLight * baseColor + (baseColor * cosine + specularColor * shine) * lanternColor / d;
    gl_Position = toClip * toEye * world;
}
)",
                                          R"(#version 330 core
in vec3 lit;
out vec4 fragColor;
void main() { fragColor = vec4(lit, 1.0); }
)",
                                          "");
    const std::string in = "cd " + lit_at_vertices.folder.path() + " && " + tool;
    const outcome guessed = run(in + " new program g --from a.vert a.frag");
    REQUIRE(guessed.status == 0);
    CHECK(has(guessed.out,
              "It is right on small scenes.\nOne line claims what would otherwise be the mistake "
              "falloff-not-squared: keep it only if it is meant.\n"));
    CHECK(has(read_whole(lit_at_vertices.folder / "g/program.toml"), "rate = \"vertex\""));
    const outcome held = run(in + " check buoys --program g/program.toml");
    CHECK(has(held.out, "`falloff` claims what would otherwise be the mistake `falloff-not-squared`"));
}

TEST_CASE("export --language glsl: a scene's model as a shader, right on that scene") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    for (const char* name : {"buoys-phong", "lantern-quay", "many-lanterns", "lamp-parts"}) {
        CAPTURE(name);
        REQUIRE(run(in + " export " + name + " --language glsl -o " + name).status == 0);
        CHECK(run(in + " check " + std::string(name) + " --program " + name + "/program.toml").status == 0);
    }
}

TEST_CASE("export --language: formulas in each shading language, right on their own scenes" *
          doctest::test_suite("slow")) {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    testing::part_of_list part;
    for (const char* scene : {"foggy-quay", "paint-by-formula"}) {
        for (const char* language : {"glsl", "glsl-es", "glsl-vulkan", "hlsl"}) {
            if (!part.asks_next()) {
                continue;
            }
            const std::string made = std::string(scene) + "-" + language;
            CAPTURE(made);
            REQUIRE(run(in + " export " + scene + " --language " + language + " -o " + made).status == 0);
            const outcome held = run(in + " check " + scene + " --program " + made + "/program.toml");
            CAPTURE(held.out);
            CHECK(held.status == 0);
        }
    }
    // A number of the claim's is another than the shader's own only where it is bound.
    const std::string text = read_whole(folder / "foggy-quay-glsl/program.toml");
    CHECK(has(text, "u_number_wrap = \"numbers.wrap\""));
    CHECK(has(text, "diffuse = \"max((dot(n, l) + wrap) / (1.0 + wrap), 0.0)\""));
    // A claim without the formula is another model, and does not hold.
    write_whole(folder / "foggy-quay-glsl/program.toml",
                text.substr(0, text.find("\ndiffuse = ") + 1) + text.substr(text.find("\nspecular = ") + 1));
    CHECK(run(in + " check foggy-quay --program foggy-quay-glsl/program.toml").status == 1);
}

TEST_CASE("export --language: mod rounds down in every language, where HLSL's own remainder does not") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    // mod(n.x - 3, 10) is n.x + 7: above 0, and without a step. What is rounded towards 0 is n.x - 3.
    write_whole(folder / "quay.toml", R"toml(format = 1
[view]
eye = [0.0, 1.0, 5.0]
target = [0.0, 0.0, 0.0]
[shading]
model = "lambert"
rate = "fragment"
[formulas]
diffuse = "max(dot(n, l), 0.0) * 0.1 * mod(n.x - 3.0, 10.0)"
[materials.planks]
base = [0.5, 0.4, 0.3]
[[objects]]
name = "buoy"
shape = "sphere"
radius = 1.0
material = "planks"
[[lights]]
kind = "directional"
shines = [-1.0, -2.0, -2.0]
)toml");
    for (const char* const language : {"glsl", "glsl-es", "glsl-vulkan", "hlsl"}) {
        CAPTURE(language);
        REQUIRE(run(in + " export quay.toml --language " + language + " -o " + language).status == 0);
        const outcome held = run(in + " check quay.toml --program " + language + "/program.toml");
        CAPTURE(held.out);
        CAPTURE(held.err);
        CHECK(held.status == 0);
    }
    // What rounds down in HLSL is there where it is used, and only there.
    CHECK(has(read_whole(folder / "hlsl/shader.hlsl"), "float mod_of(float x, float y)"));
    REQUIRE(run(in + " export buoys --language hlsl -o buoys").status == 0);
    CHECK_FALSE(has(read_whole(folder / "buoys/shader.hlsl"), "mod_of"));
}

TEST_CASE("export --language c++ and what cannot be exported") {
    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " export foggy-quay --language c++ -o model.hpp").status == 0);
    CHECK(has(read_whole(folder / "model.hpp"), "struct scene_model {"));
    const std::string model = read_whole(folder / "model.hpp");
    CHECK(has(model, "seen.ambient = seen.ambient * "));
    // What is given to a function of two numbers.
    const std::size_t call = model.find(" = power(t");
    REQUIRE(call != std::string::npos);
    const std::string given = model.substr(call + 10, model.find('\n', call) - call - 10);
    CHECK(given.find_first_not_of("0123456789") == given.find(", t"));
    CHECK(given.ends_with(");"));
    CHECK(given.find_first_not_of("0123456789, t);") == std::string::npos);
    REQUIRE(run(in + " export buoys --language c++ -o buoys.hpp").status == 0);
    CHECK_FALSE(has(read_whole(folder / "buoys.hpp"), "seen.ambient")); // it has no formula of it
    CHECK(run(in + " export foggy-quay --language c++ -o model.txt").status == 2);
    CHECK(run(in + " export painted-hull --language c++ -o hull.hpp").status == 2); // cel
    CHECK(run(in + " export foggy-quay --language cobol -o x").status == 2);
}

TEST_CASE(
    "pack: std140 and std430 by their rules, worked out by hand; the header compiles; the driver agrees") {
    scene of = verify::find_reference("buoys")->scene;
    REQUIRE(of.lights.size() == 2);
    // vec3 at 0 (12 bytes), float at 12; vec3 at 16, int at 28: 32 bytes with nothing empty.
    const std::vector<std::string> tight{"position", "intensity", "color", "kind"};
    packed_lights packed = pack_lights(of, tight, block_layout::std140, 0);
    CHECK(packed.members[1].offset == 12);
    CHECK(packed.members[2].offset == 16);
    CHECK(packed.members[3].offset == 28);
    CHECK(packed.stride == 32);
    CHECK(packed.count_offset == 64);
    CHECK(packed.size == 80);
    // Two vec3: 0 and 16, in memory 0 and 12.
    const std::vector<std::string> loose{"position", "color"};
    packed = pack_lights(of, loose, block_layout::std140, 4);
    CHECK(packed.members[0].padding == 4);
    CHECK(packed.members[1].offset == 16);
    CHECK(packed.stride == 32);
    CHECK(packed.count_offset == 128);
    CHECK(pack_lights(of, loose, block_layout::packed, 0).members[1].offset == 12);
    CHECK(pack_lights(of, loose, block_layout::packed, 0).stride == 24);
    // Floats alone: std140 rounds a structure up to 16 bytes, std430 does not.
    CHECK(pack_lights(of, {"intensity", "range"}, block_layout::std140, 0).stride == 16);
    CHECK(pack_lights(of, {"intensity", "range"}, block_layout::std430, 0).stride == 8);
    // The bytes: the second light's colour.
    float red = 0;
    std::memcpy(&red, &packed.bytes[32 + 16], 4);
    CHECK(red == static_cast<float>(of.lights[1].light.color.r));

    const temporary_folder folder;
    const std::string in = "cd " + folder.path() + " && " + tool;
    REQUIRE(run(in + " pack buoys --header lights.hpp --room 8 -o lights.bin").status == 0);
    // A count and twelve bytes that fill the block up, after lights that are full.
    CHECK(has(read_whole(folder / "lights.hpp"),
              "packed_light lights[8];\n    std::int32_t count;\n    float unused_0[3];\n"));
    write_whole(folder / "main.cpp",
                "#include \"lights.hpp\"\nint main() { return sizeof(packed_lights) == 0; }\n");
    CHECK(run("cd " + folder.path() + " && c++ -std=c++17 -fsyntax-only main.cpp").status == 0);
    make_starters(folder / "vk", "--language glsl-vulkan --rate fragment");
    const outcome compared = run(in + " pack buoys --program vk/per-fragment.toml --json -");
    const json data = json::parse(compared.out);
    CHECK(data["blocks"].size() > 20);
    CHECK(compared.status == 1); // View's eye is a vec3 followed by one: plain C++ is off there
    CHECK(run(in + " pack buoys --members position,glow").status == 2);
    CHECK(run(in + " pack buoys --layout std999").status == 2);
}

TEST_CASE(
    "SPIR-V files: by the names in them, by locations where there are none; what is no module is refused") {
    const temporary_folder folder;
    make_starters(folder / "new", "--rate fragment --language glsl-vulkan");
    const std::string in = "cd " + folder.path() + "/new && ";
    for (const char* stage : {"vert", "frag"}) {
        REQUIRE(run(in + "glslangValidator -V --amb --aml per-fragment." + stage + " -o " + stage + ".spv")
                    .status == 0);
        REQUIRE(run(in + "glslangValidator -V --amb --aml -g0 per-fragment." + stage + " -o bare-" + stage +
                    ".spv")
                    .status == 0);
    }
    std::string program =
        replaced(read_whole(folder / "new/per-fragment.toml"), "\"glsl-vulkan\"", "\"spirv\"");
    program =
        replaced(replaced(program, "per-fragment.vert\"", "vert.spv\""), "per-fragment.frag\"", "frag.spv\"");
    write_whole(folder / "new/spirv.toml", program);
    CHECK(run(in + tool + " check buoys lantern-quay --program spirv.toml").status == 0);
    // Without names an attribute goes by its location.
    std::string bare =
        replaced(replaced(program, "\"vert.spv", "\"bare-vert.spv"), "\"frag.spv", "\"bare-frag.spv");
    write_whole(folder / "new/bare.toml", bare);
    const outcome nameless = run(in + tool + " check buoys --program bare.toml");
    CHECK(nameless.status == 2);
    CHECK(has(nameless.err, "`location 0`"));
    bare = replaced(
        replaced(replaced(bare, "a_position =", "\"location 0\" ="), "a_normal =", "\"location 1\" ="),
        "a_texcoord =", "\"location 2\" =");
    write_whole(folder / "new/bare.toml", bare);
    CHECK(has(run(in + tool + " check buoys --program bare.toml").err, "the uniform"));
    // Another entry point, a module that breaks off, another file.
    write_whole(folder / "new/entry.toml",
                replaced(program, "\"vert.spv\"", "{ file = \"vert.spv\", entry = \"lantern\" }"));
    CHECK(has(run(in + tool + " check buoys --program entry.toml").err,
              "no vertex entry point `lantern`; `main`"));
    const std::string module = read_whole(folder / "new/vert.spv");
    for (const std::string& broken :
         {module.substr(0, 200), module.substr(0, 3), std::string("#version 450\n")}) {
        write_whole(folder / "new/vert.spv", broken);
        const outcome got = run(in + tool + " check buoys --program spirv.toml");
        CHECK(got.status == 2);
        CHECK(got.one_line_of_error());
        CHECK(has(got.err, "SPIR-V"));
    }
}

// Of a shader with one lamp, that hands on all but the exponent.
const char* const lamp_claim = R"t(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
limit = 60.0
model = "blinn-phong"
rate = "fragment"
kinds = ["point"]
falloff = ["inverse-square"]
attributes = { a = "position", b = "normal" }
[uniforms]
m = "object.to_world"
k = "object.normal_to_world"
vp = "view.world_to_clip"
eye = "view.eye"
lamp = "lights[0].position"
light = "lights[0].light"
sky = "ambient.light"
paint = "material.base"
shine = "material.specular"
)t";

TEST_CASE("a shader of which alpha alone is wrong is told so") {
    const char* const fragment = R"t(#version 330
in vec3 p; in vec3 n; out vec4 c; uniform vec3 eye, lamp, light, sky, paint, shine; uniform float gloss;
void main() {
    vec3 u = normalize(n), v = normalize(eye - p), l = lamp - p; float d = length(l); l /= d;
    float k = max(dot(u, l), 0.0);
    float s = k > 0.0 ? pow(max(dot(u, normalize(l + v)), 0.0), gloss) : 0.0;
    c = vec4(sky * paint, 1.0) + vec4((k * paint + s * shine) * light / (d * d), 1.0);
})t";
    const written_program mine(world_vertex, fragment,
                               lamp_claim + std::string("gloss = \"material.shininess\"\n"));
    const outcome got =
        run(tool + " check buoys --program " + mine.file + " --json " + (mine.folder / "a.json"));
    CHECK(got.status == 1);
    CHECK(has(got.out, "; colours are right, alpha alone is not"));
    CHECK(
        has(got.out,
            "\nEvery colour is right, alpha alone is not: a pixel's is its material's, 1 where none is set"));
    const json data = json::parse(read_whole(mine.folder / "a.json"));
    CHECK(has(data["advice"].dump(), "Every colour is right, alpha alone is not"));
    // Where a colour is off as well, it is not said.
    const written_program two(world_vertex, replaced(fragment, "sky * paint", "2.0 * sky * paint"),
                              lamp_claim + std::string("gloss = \"material.shininess\"\n"));
    CHECK_FALSE(has(run(tool + " check buoys --program " + two.file).out, "very colour is right"));
}

TEST_CASE("one number away: it is found and the line that says so, until a second one is wrong too" *
          doctest::test_suite("slow")) {
    const char* const fragment = R"t(#version 330
in vec3 p; in vec3 n; out vec4 c; uniform vec3 eye, lamp, light, sky, paint, shine;
void main() {
    vec3 u = normalize(n), v = normalize(eye - p), l = lamp - p; float d = length(l); l /= d;
    float k = max(dot(u, l), 0.0);
    float s = k > 0.0 ? pow(max(dot(u, normalize(l + v)), 0.0), 48.0) : 0.0;
    c = vec4((sky + light * k / (d * d)) * paint + light * s * shine / (d * d), 1.0);
})t";
    const auto advice = [&](const std::string& source, const std::string& program) {
        const written_program mine(world_vertex, source, program);
        const outcome got =
            run(tool + " check" + testing::scenes_asked + " --program " + mine.file + " --json -");
        std::string text;
        const json result = json::parse(got.out);
        for (const json& line : result["advice"]) {
            text += line.get<std::string>() + "\n";
        }
        CHECK(got.status == 1);
        return text;
    };
    CHECK(has(advice(fragment, lamp_claim), "right with material.shininess = 48"));
    if (!testing::whole) { // what else there is to it is asked of fewer scenes by other tests
        return;
    }
    CHECK(has(advice(replaced(fragment, "(sky + ", "(0.07 + "),
                     replaced(replaced(lamp_claim, "sky = \"ambient.light\"\n", ""), "[uniforms]",
                              "constants = { material = { shininess = 48 } }\n[uniforms]")),
              "right with ambient.light = 0.07"));
    CHECK_FALSE(has(advice(replaced(fragment, "(sky + ", "(0.07 + "),
                           replaced(lamp_claim, "sky = \"ambient.light\"\n", "")),
                    "right with"));
    // Said as a constant it is right.
    const written_program mine(
        world_vertex, fragment,
        replaced(lamp_claim, "[uniforms]", "constants = { material = { shininess = 48 } }\n[uniforms]"));
    CHECK(run(tool + " check" + testing::scenes_asked + " --program " + mine.file).status == 0);
}

TEST_CASE("check repeats what a claim takes out that is a mistake where it is not meant") {
    const std::string fragment = R"t(#version 330
in vec3 p; in vec3 n; out vec4 made;
uniform vec3 eye, lamp, light, sky, paint, shine; uniform float gloss;
void main() {
    vec3 u = normalize(n), l = normalize(lamp - p), v = normalize(eye - p);
    float far = length(lamp - p);
    float lit = max(dot(u, l), 0.0), spec = pow(max(dot(u, normalize(l + v)), 0.0), gloss);
    made = vec4(sky * paint + (paint * lit + shine * spec) * light / (far * far), 1.0);
})t";
    const std::string claim =
        replaced(std::string(lamp_claim) + "gloss = \"material.shininess\"\n", "[uniforms]",
                 "formulas = { specular = \"pow(max(dot(n,h), 0.0), shininess)\" }\n[uniforms]");
    const auto advice = [&](const std::string& program) {
        const written_program mine(world_vertex, fragment, program);
        const outcome got =
            run(tool + " check" + testing::scenes_asked + " --program " + mine.file + " --json -");
        CHECK(got.status == 0);
        return json::parse(got.out)["advice"];
    };
    REQUIRE(advice(claim).size() == 1);
    CHECK(has(advice(claim)[0].get<std::string>(),
              "`specular` claims what would otherwise be the mistake `specular-on-unlit-side`"));
    const json two =
        advice(replaced(replaced(claim, "formulas =", "without = [\"light.intensity\"]\nformulas ="),
                        "\"lights[0].light\"", "\"lights[0].color\""));
    REQUIRE(two.size() == 2);
    CHECK(has(two.dump(), "`without` claims what would otherwise be the mistake `light-intensity-ignored`"));
}

TEST_CASE("what a program file names wrongly, or hands over as something else, is one line with its place") {
    const temporary_folder folder;
    make_starters(folder / "new", "--rate fragment");
    const std::string in = "cd " + folder.path() + " && " + tool;
    const auto refused = [&](const std::string& program) {
        const outcome got = run(in + " check plates --program " + program);
        CHECK(got.status == 2);
        CHECK(got.one_line_of_error());
        return got.err;
    };
    CHECK(has(refused("new/per-fragment.frag"), "this is a shader's source, and no program file"));
    REQUIRE(::mkfifo((folder / "pipe.toml").c_str(), 0600) == 0);
    CHECK(has(refused("pipe.toml"), "pipe"));
    const std::string text = read_whole(folder / "new/per-fragment.toml");
    write_whole(folder / "new/many.toml", replaced(text, "format = 1", "format = 1\nlights = [1, 99]"));
    CHECK(has(refused("new/many.toml"), "the shader's arrays hold 16"));
    write_whole(folder / "new/large.frag", std::string((std::size_t{4} << 20U) + 10, ' '));
    write_whole(folder / "new/large.toml", replaced(text, "per-fragment.frag", "large.frag"));
    CHECK(has(refused("new/large.toml"), "larger than"));
    // A storage block that nothing feeds is told by its member, and one that nothing reads is not asked for.
    const std::string fragment = R"t(#version 450
in vec3 p; in vec3 n; out vec4 c;
layout(std430, binding = 1) readonly buffer Store { vec3 tint; vec3 spare; } store;
void main() { c = vec4(store.tint * (0.5 + 0.0 * n), 1.0); })t";
    const std::string program = R"t(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "unlit"
rate = "fragment"
attributes = { a = "position", b = "normal" }
uniforms = { m = "object.to_world", k = "object.normal_to_world", vp = "view.world_to_clip" }
)t";
    const written_program unfed(world_vertex, fragment, program);
    const outcome got = run(tool + " check plates --program " + unfed.file);
    CHECK(got.status == 2);
    CHECK(got.one_line_of_error());
    CHECK(has(got.err, "Store.tint"));
    const written_program fed(
        world_vertex, replaced(fragment, "(0.5 + 0.0 * n)", "(1.0 + 0.0 * n)"),
        replaced(program, "uniforms = {", "uniforms = { \"store.tint\" = \"material.base\", "));
    CHECK(run(tool + " check plates line-up --program " + fed.file).status == 0);
}

TEST_CASE(
    "a shader for two to four lamps that reads one is found out; slots beyond a scene's lights are safe") {
    const char* const fragment = R"t(#version 330
struct Lamp { vec3 position; vec3 light; };
uniform Lamp lamps[4];
uniform vec3 sky; uniform vec3 paint;
in vec3 p; in vec3 n; out vec4 c;
void main() {
    vec3 u = normalize(n); vec3 lit = sky;
    for (int i = 0; i < 4; ++i) { // whatever the count: dark ones add nothing, and are no number away from it
        vec3 l = lamps[i].position - p; lit += lamps[i].light * max(dot(u, normalize(l)), 0.0) / dot(l, l);
    }
    c = vec4(lit * paint, 1.0);
})t";
    const std::string program = R"t(format = 1
language = "glsl"
vertex = "a.vert"
fragment = "a.frag"
model = "lambert"
rate = "fragment"
kinds = ["point"]
lights = [2, 4]
falloff = ["inverse-square"]
attributes = { a = "position", b = "normal" }
[uniforms]
m = "object.to_world"
k = "object.normal_to_world"
vp = "view.world_to_clip"
sky = "ambient.light"
paint = "material.base"
"lamps[*].position" = "lights[*].position"
"lamps[*].light" = "lights[*].light"
)t";
    const written_program right(world_vertex, fragment, program);
    CHECK(run(tool + " check buoys lantern-quay --program " + right.file).status == 0);
    const written_program one(world_vertex, replaced(fragment, "i < 4", "i < 1"), program);
    const outcome got = run(tool + " diagnose lantern-quay --program " + one.file + " --json -");
    CHECK(got.status == 1);
    CHECK(json::parse(got.out)["mistakes"][0]["id"] == "single-light-only");
}

TEST_CASE(
    "check, diagnose and the precision agree for every starter, and for one that is off by a thousandth" *
    doctest::test_suite("slow")) {
    testing::part_of_list part;
    for (const std::string options :
         {"", "--language glsl-es", "--language glsl-vulkan", "--language hlsl"}) {
        if (!part.asks_next()) {
            continue;
        }
        CAPTURE(options);
        const temporary_folder folder;
        make_starters(folder / "new", options);
        testing::part_of_list parts;
        for (const std::string name : {"per-fragment", "per-vertex"}) {
            const std::string program = folder / ("new/" + name + ".toml");
            for (const char* scene : {"buoys", "bollard"}) {
                if (!parts.asks_next()) {
                    continue;
                }
                CHECK(run(tool + " check " + scene + " --program " + program).status == 0);
                CHECK(run(tool + " diagnose " + scene + " --program " + program).status == 0);
                const outcome compared = run(tool + " compare " + scene + " --program " + program);
                CHECK(compared.status == 0);
                CHECK(has(compared.out, "within the tolerance of `check`"));
            }
        }
    }
    const temporary_folder folder;
    make_starters(folder / "new", "--rate fragment");
    const std::string file = folder / "new/per-fragment.frag";
    write_whole(file, replaced(read_whole(file), "vec3 n = normalize(v_normal);",
                               "vec3 n = normalize(v_normal) * 1.001;"));
    const std::string program = folder / "new/per-fragment.toml";
    CHECK(run(tool + " check buoys --program " + program).status == 1);
    CHECK(run(tool + " diagnose buoys --program " + program).status == 1);
    const outcome compared = run(tool + " compare buoys --program " + program + " --json -");
    CHECK(compared.status == 1);
    CHECK(json::parse(compared.out)["passed"] == false);
    CHECK(json::parse(compared.out)["used"] > 1);
}
