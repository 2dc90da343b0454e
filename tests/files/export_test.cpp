// What an export holds, field by field, by the formats' own rules: Wavefront OBJ and MTL, glTF 2.0 with
// KHR_lights_punctual. The scene is small enough to be written out by hand.
#include <doctest/doctest.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <sstream>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "files/flattened_mesh.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/export_file.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/test_report_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/geometry/mesh.hpp"

using namespace yurvo;

namespace {

// One triangle of planks, 2 m up.
scene quay() {
    scene made;
    made.title = "The quay";
    made.view.eye = {0, 0, 5};
    made.view.target = {0, 0, 0};
    made.view.fov = radians(90);
    made.view.near = 0.5;
    made.view.far = 50;
    made.view.width = 200;
    made.view.height = 100;
    named_material planks{.name = "wet planks"};
    planks.look.base = {0.5, 0.25, 0.125};
    made.materials.push_back(planks);
    auto data = std::make_shared<mesh>();
    data->positions = {{0, 0, 0}, {1, 0, 0}, {0, 0.5, 0}};
    data->normals = {{0, 0, 1}, {0, 0, 1}, {0, 0, 1}};
    data->triangles = {{0, 1, 2}};
    object board;
    board.name = "board";
    board.shape = mesh_shape{"board.obj", data, {}};
    board.placed.position = {0, 2, 0};
    made.objects.push_back(board);
    return made;
}

named_light lamp_of(light_kind kind) {
    named_light lamp{.name = "lamp"};
    lamp.light.kind = kind;
    lamp.light.color = {1, 0.5, 0.25};
    lamp.light.intensity = 4;
    lamp.light.position = {1, 2, 3};
    lamp.light.shines = {0, -1, 0};
    lamp.light.inner = radians(15);
    lamp.light.outer = radians(30);
    lamp.light.penumbra = penumbra_kind::squared;
    return lamp;
}

std::vector<std::string> lines_of(const std::string& text) {
    std::vector<std::string> lines;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        lines.push_back(line);
    }
    return lines;
}

bool has_line(const std::string& text, const std::string& line) {
    const std::vector<std::string> lines = lines_of(text);
    return std::find(lines.begin(), lines.end(), line) != lines.end();
}

bool left_out(const exported& made, const std::string& what) {
    return std::find(made.left_out.begin(), made.left_out.end(), what) != made.left_out.end();
}

nlohmann::json gltf_of(const scene& of) {
    return nlohmann::json::parse(export_scene(of, "quay.gltf").files.at(0).bytes);
}

const nlohmann::json& node_called(const nlohmann::json& root, const std::string& name) {
    for (const nlohmann::json& node : root.at("nodes")) {
        if (node.at("name") == name) {
            return node;
        }
    }
    FAIL("no node of that name");
    return root;
}

// A float keeps seven digits.
bool is(const nlohmann::json& number, double expected) {
    return std::abs(number.get<double>() - expected) < 1e-6;
}

// v turned by a unit quaternion (x, y, z, w): v + 2w(q × v) + 2q × (q × v).
vec3<double> turned(const nlohmann::json& q, const vec3<double>& v) {
    const vec3<double> u{q[0].get<double>(), q[1].get<double>(), q[2].get<double>()};
    const vec3<double> once = cross(u, v);
    return v + 2.0 * q[3].get<double>() * once + 2.0 * cross(u, once);
}

} // namespace

TEST_CASE("OBJ: places in the world, indices from 1, blanks out of names") {
    const exported made = export_scene(quay(), "folder/quay.obj");
    REQUIRE(made.files.size() == 2);
    CHECK(made.files[0].name == "quay.obj");
    CHECK(made.files[1].name == "quay.mtl");
    CHECK(lines_of(made.files[0].bytes) ==
          std::vector<std::string>{"# The quay", "mtllib quay.mtl", "o board", "v 0 2 0", "v 1 2 0",
                                   "v 0 2.5 0", "vn 0 0 1", "vn 0 0 1", "vn 0 0 1", "usemtl wet_planks",
                                   "f 1//1 2//2 3//3"});
    const std::string& materials = made.files[1].bytes;
    for (const char* const line : {"newmtl wet_planks", "Ka 0.5 0.25 0.125", "Kd 0.5 0.25 0.125", "Ks 0 0 0",
                                   "Ke 0 0 0", "Ns 32", "d 1", "illum 2"}) {
        CAPTURE(std::string(line));
        CHECK(has_line(materials, line));
    }
    CHECK(left_out(made, "the view"));
    CHECK(left_out(made, "the ambient light"));
}

TEST_CASE("OBJ: a mirrored object is wound the other way round, so that it still faces out") {
    scene of = quay();
    of.objects[0].placed.scale = {-1, 1, 1};
    const std::string text = export_scene(of, "quay.obj").files[0].bytes;
    CHECK(has_line(text, "v -1 2 0"));
    CHECK(has_line(text, "f 1//1 3//3 2//2"));
}

TEST_CASE("OBJ: factors go into the colours, and what cannot be held is said") {
    scene of = quay();
    material& look = of.materials[0].look;
    look.diffuse = {0.5, 1, 1};
    look.ambient = {2, 2, 2};
    look.specular = {0.75, 0.5, 0.25};
    look.shininess = 10.5;
    look.emission = {0, 0, 1};
    look.alpha = 0.5;
    look.two_sided = true;
    of.lights.push_back(lamp_of(light_kind::point));
    const exported made = export_scene(of, "quay.obj");
    for (const char* const line :
         {"Ka 1 0.5 0.25", "Kd 0.25 0.25 0.125", "Ks 0.75 0.5 0.25", "Ke 0 0 1", "Ns 10.5", "d 0.5"}) {
        CAPTURE(std::string(line));
        CHECK(has_line(made.files[1].bytes, line));
    }
    CHECK(left_out(made, "`two_sided` of the material `wet planks`"));
    CHECK(left_out(made, "all lights, 1 of them"));
    CHECK(left_out(made,
                   "the factors `ambient` and `diffuse` of the material `wet planks` by themselves: they are "
                   "in its colours"));
}

TEST_CASE("OBJ: a texture goes with it under a name of its own") {
    scene of = quay();
    of.materials[0].image = std::make_shared<texture>();
    of.materials[0].texture_file = "../elsewhere/planks.png";
    const exported made = export_scene(of, "quay.obj");
    REQUIRE(made.files.size() == 3);
    CHECK(made.files[2].name == "quay-0.png");
    CHECK(made.files[2].bytes.starts_with("\x89PNG"));
    CHECK(has_line(made.files[1].bytes, "map_Kd quay-0.png"));
}

TEST_CASE("glTF: a node for each object, the mesh in its own space, the view as a camera") {
    const nlohmann::json root = gltf_of(quay());
    CHECK(root.at("asset").at("version") == "2.0");
    CHECK(root.at("scenes")[0].at("name") == "The quay");
    const nlohmann::json& node = node_called(root, "board");
    CHECK(node.at("translation") == nlohmann::json::parse("[0.0, 2.0, 0.0]"));
    CHECK_FALSE(node.contains("rotation"));
    CHECK_FALSE(node.contains("scale"));
    const nlohmann::json& accessor =
        root.at("accessors")
            [root.at("meshes")[0].at("primitives")[0].at("attributes").at("POSITION").get<std::size_t>()];
    CHECK(accessor.at("count") == 3);
    CHECK(accessor.at("min") == nlohmann::json::parse("[0.0, 0.0, 0.0]"));
    CHECK(accessor.at("max") == nlohmann::json::parse("[1.0, 0.5, 0.0]"));
    const nlohmann::json& camera = root.at("cameras")[0].at("perspective");
    CHECK(is(camera.at("yfov"), pi / 2));
    CHECK(is(camera.at("aspectRatio"), 2));
    CHECK(is(camera.at("znear"), 0.5));
    CHECK(is(camera.at("zfar"), 50));
    CHECK(node_called(root, "view").at("translation") == nlohmann::json::parse("[0.0, 0.0, 5.0]"));
    CHECK_FALSE(root.contains("extensionsUsed"));
}

TEST_CASE("glTF: rotations about X, then Y, then Z, as one quaternion") {
    scene of = quay();
    of.objects[0].placed.rotation = {radians(90), radians(90), 0};
    of.objects[0].placed.scale = {1, 2, 3};
    const nlohmann::json root = gltf_of(of);
    const nlohmann::json& node = node_called(root, "board");
    CHECK(node.at("scale") == nlohmann::json::parse("[1.0, 2.0, 3.0]"));
    // +Y goes to +Z about X, and from there to +X about Y.
    const vec3<double> up = turned(node.at("rotation"), {0, 1, 0});
    CHECK(length(up - vec3<double>{1, 0, 0}) < 1e-6);
    const vec3<double> right = turned(node.at("rotation"), {1, 0, 0});
    CHECK(length(right - vec3<double>{0, 0, -1}) < 1e-6);
}

TEST_CASE("glTF: each kind of light, and the way in which it shines") {
    for (const light_kind kind : {light_kind::directional, light_kind::point, light_kind::spot}) {
        scene of = quay();
        of.lights.push_back(lamp_of(kind));
        const nlohmann::json root = gltf_of(of);
        CHECK(root.at("extensionsUsed") == nlohmann::json::parse("[\"KHR_lights_punctual\"]"));
        const nlohmann::json& lamp = root.at("extensions").at("KHR_lights_punctual").at("lights")[0];
        CHECK(lamp.at("type") == (kind == light_kind::directional ? "directional"
                                  : kind == light_kind::point     ? "point"
                                                                  : "spot"));
        CHECK(lamp.at("color") == nlohmann::json::parse("[1.0, 0.5, 0.25]"));
        CHECK(is(lamp.at("intensity"), 4));
        const nlohmann::json& node = node_called(root, "lamp");
        CHECK(node.contains("translation") == (kind != light_kind::directional));
        CHECK(node.contains("rotation") == (kind != light_kind::point));
        if (kind != light_kind::point) {
            CHECK(length(turned(node.at("rotation"), {0, 0, -1}) - vec3<double>{0, -1, 0}) < 1e-6);
        }
        CHECK(lamp.contains("spot") == (kind == light_kind::spot));
        if (kind == light_kind::spot) {
            CHECK(is(lamp.at("spot").at("innerConeAngle"), radians(15)));
            CHECK(is(lamp.at("spot").at("outerConeAngle"), radians(30)));
        }
    }
}

TEST_CASE("glTF: what of a light it cannot hold is said by the light's name") {
    scene of = quay();
    of.lights.push_back(lamp_of(light_kind::spot));
    light& lamp = of.lights[0].light;
    lamp.color = {2, 1, 1};
    lamp.falloff = falloff_kind::linear;
    lamp.range = 9;
    lamp.penumbra = penumbra_kind::hard;
    lamp.outer = radians(120);
    of.lights[0].space = light_space::view;
    const exported made = export_scene(of, "quay.gltf");
    CHECK(left_out(made, "of the light `lamp`: what is above 1 in its colour"));
    CHECK(left_out(made, "of the light `lamp`: that it moves with the view: it stays where it is now"));
    CHECK(left_out(
        made, "of the light `lamp`: the falloff `linear`: the format has only inverse-square, and windowed "
              "by its range"));
    CHECK(left_out(made, "of the light `lamp`: the penumbra `hard`: the format's is `squared`"));
    CHECK(left_out(made, "of the light `lamp`: a cone wider than 90 degrees to each side"));
    const nlohmann::json root = nlohmann::json::parse(made.files[0].bytes);
    const nlohmann::json& held = root.at("extensions").at("KHR_lights_punctual").at("lights")[0];
    CHECK(held.at("color") == nlohmann::json::parse("[1.0, 1.0, 1.0]"));
    CHECK(is(held.at("spot").at("outerConeAngle"), pi / 2));
    CHECK(is(held.at("spot").at("innerConeAngle"), 0));
    CHECK_FALSE(held.contains("range"));
    // Where the eye is, in the world: the lamp hangs at (1, 2, 3) of the view.
    CHECK(node_called(root, "lamp").at("translation") == nlohmann::json::parse("[1.0, 2.0, 8.0]"));

    lamp = lamp_of(light_kind::point).light;
    lamp.falloff = falloff_kind::windowed;
    lamp.range = 9;
    of.lights[0].space = light_space::world;
    const nlohmann::json windowed = gltf_of(of);
    CHECK(is(windowed.at("extensions").at("KHR_lights_punctual").at("lights")[0].at("range"), 9));
}

TEST_CASE("glTF: materials: base times diffuse, cut off at 1, see-through and two-sided ones") {
    scene of = quay();
    material& look = of.materials[0].look;
    look.diffuse = {0.5, 8, 1};
    look.emission = {0.5, 0, 3};
    look.alpha = 0.25;
    look.two_sided = true;
    look.specular = {1, 1, 1};
    look.ambient = {0, 0, 0};
    const exported made = export_scene(of, "quay.gltf");
    const nlohmann::json root = nlohmann::json::parse(made.files[0].bytes);
    const nlohmann::json& held = root.at("materials")[0];
    CHECK(held.at("pbrMetallicRoughness").at("baseColorFactor") ==
          nlohmann::json::parse("[0.25, 1.0, 0.125, 0.25]"));
    CHECK(held.at("emissiveFactor") == nlohmann::json::parse("[0.5, 0.0, 1.0]"));
    CHECK(held.at("doubleSided") == true);
    CHECK(held.at("alphaMode") == "BLEND");
    CHECK(left_out(made, "what is above 1 in the colours of the material `wet planks`"));
    CHECK(left_out(made, "`specular` and `shininess` of the material `wet planks`"));
    CHECK(left_out(made, "`ambient` of the material `wet planks`"));
    CHECK(left_out(made, "`diffuse` of the material `wet planks` by itself: it is in its colour"));
    CHECK(left_out(made, "the ambient light"));
}

TEST_CASE("glTF: a buffer's views say what they are for, as the standard wants of vertices and indices") {
    scene of = quay();
    of.materials[0].image = std::make_shared<texture>();
    const nlohmann::json root = gltf_of(of);
    const nlohmann::json& primitive = root.at("meshes")[0].at("primitives")[0];
    const auto target_of = [&](const nlohmann::json& accessor) {
        const nlohmann::json& view =
            root.at("bufferViews")
                [root.at("accessors")[accessor.get<std::size_t>()].at("bufferView").get<std::size_t>()];
        return view.value("target", 0);
    };
    CHECK(target_of(primitive.at("attributes").at("POSITION")) == 34962); // ARRAY_BUFFER
    CHECK(target_of(primitive.at("indices")) == 34963);                   // ELEMENT_ARRAY_BUFFER
    const nlohmann::json& image =
        root.at("bufferViews")[root.at("images")[0].at("bufferView").get<std::size_t>()];
    CHECK_FALSE(image.contains("target"));
}

TEST_CASE("glTF: alpha counts where its mode is to blend, and there alone") {
    scene of = quay();
    of.materials[0].look.alpha = 0.25;
    const std::string blended = export_scene(of, "quay.gltf").files.at(0).bytes;
    const auto alpha_of = [](const std::string& text) {
        const mesh_file read = read_mesh("quay.gltf", [&](const std::string&) { return text; });
        REQUIRE(read.materials.size() == 1);
        return read.materials[0].alpha;
    };
    CHECK(alpha_of(blended) == 0.25);
    std::string opaque = blended;
    opaque.replace(opaque.find("BLEND"), 5, "OPAQUE");
    CHECK(alpha_of(opaque).value_or(1) == 1);
}

TEST_CASE("GLB: a head of 12 bytes, chunks of whole words, lengths that add up") {
    const std::string bytes = export_scene(quay(), "quay.glb").files.at(0).bytes;
    const auto word_at = [&](std::size_t at) {
        std::uint32_t word = 0;
        std::memcpy(&word, bytes.data() + at, 4);
        return static_cast<std::size_t>(word);
    };
    REQUIRE(bytes.size() > 28);
    CHECK(bytes.substr(0, 4) == "glTF");
    CHECK(word_at(4) == 2);
    CHECK(word_at(8) == bytes.size());
    const std::size_t head = word_at(12);
    CHECK(head % 4 == 0);
    CHECK(bytes.substr(16, 4) == "JSON");
    const nlohmann::json root = nlohmann::json::parse(bytes.substr(20, head));
    const std::size_t body = word_at(20 + head);
    CHECK(body % 4 == 0);
    CHECK(bytes.substr(24 + head, 4) == std::string("BIN\0", 4));
    CHECK(28 + head + body == bytes.size());
    CHECK(root.at("buffers")[0].at("byteLength") == body);
    // The first place of the first mesh, as it lies there: three floats of 0, then 1, 0, 0.
    const nlohmann::json& accessor =
        root.at("accessors")
            [root.at("meshes")[0].at("primitives")[0].at("attributes").at("POSITION").get<std::size_t>()];
    const nlohmann::json& view = root.at("bufferViews")[accessor.at("bufferView").get<std::size_t>()];
    const std::size_t at =
        28 + head + view.value("byteOffset", std::size_t{0}) + accessor.value("byteOffset", std::size_t{0});
    float second[3];
    std::memcpy(second, bytes.data() + at + 12, sizeof second);
    CHECK(second[0] == 1);
    CHECK(second[1] == 0);
    CHECK(second[2] == 0);
}

TEST_CASE("JUnit: a suite for each name in a row, with its numbers, and the first line of a failure as its "
          "message") {
    const testing::temporary_folder folder;
    write_junit(folder / "a.xml", {{"buoys", "the dark side", true, ""},
                                   {"buoys", "the <bright> side", false, "expected 1\nfound 2"},
                                   {"bollard", "the cap", true, ""}});
    CHECK(read_whole(folder / "a.xml") ==
          "<?xml version=\"1.0\"?>\n"
          "<testsuites tests=\"3\" failures=\"1\">\n"
          "  <testsuite name=\"buoys\" tests=\"2\" failures=\"1\">\n"
          "    <testcase classname=\"buoys\" name=\"the dark side\" />\n"
          "    <testcase classname=\"buoys\" name=\"the &lt;bright> side\">\n"
          "      <failure message=\"expected 1\">expected 1\nfound 2</failure>\n"
          "    </testcase>\n"
          "  </testsuite>\n"
          "  <testsuite name=\"bollard\" tests=\"1\" failures=\"0\">\n"
          "    <testcase classname=\"bollard\" name=\"the cap\" />\n"
          "  </testsuite>\n"
          "</testsuites>\n");
    write_junit(folder / "none.xml", {});
    CHECK(read_whole(folder / "none.xml") ==
          "<?xml version=\"1.0\"?>\n<testsuites tests=\"0\" failures=\"0\" />\n");
}

TEST_CASE("a mesh for formats with one index has a vertex for each coordinate that its corners have") {
    // Two triangles of a plank along an edge that is a seam, and a third with the coordinates of the second.
    mesh plank;
    plank.positions = {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}};
    plank.normals.assign(4, {0, 0, 1});
    plank.triangles = {{0, 1, 2}, {0, 2, 3}, {2, 0, 3}};
    plank.texcoords = {{0, 0}, {0.5, 0}, {0.5, 0.5}, {0.25, 0.75}, {1, 1}, {0, 1}};
    plank.texcoord_triangles = {{0, 1, 2}, {3, 4, 5}, {4, 3, 5}};
    const files::flattened_mesh flat = files::flatten(plank);
    CHECK(flat.positions.size() == 3 * 6); // four, and two of them a second time
    CHECK(flat.normals.size() == 3 * 6);
    REQUIRE(flat.texcoords.size() == 2 * 6);
    REQUIRE(flat.indices.size() == 3 * 3);
    for (std::size_t t = 0; t < plank.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t at = flat.indices[3 * t + k];
            CAPTURE(t);
            CAPTURE(k);
            REQUIRE(at < 6);
            const vec3<double>& position = plank.positions[plank.triangles[t][k]];
            CHECK(flat.positions[3 * at] == static_cast<float>(position.x));
            CHECK(flat.positions[3 * at + 1] == static_cast<float>(position.y));
            const texcoord& coordinate = plank.texcoords[plank.texcoord_triangles[t][k]];
            CHECK(flat.texcoords[2 * at] == static_cast<float>(coordinate.u));
            CHECK(flat.texcoords[2 * at + 1] == static_cast<float>(1 - coordinate.v)); // from the top
        }
    }
}
