// Meshes from files: what is read, and how what is broken is refused.
#include <doctest/doctest.h>

#include <cmath>
#include <cstring>
#include <limits>
#include <map>
#include <sstream>

#include "support/temporary_folder.hpp"
#include "yurvo/files/export_file.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;

namespace {

using file_map = std::map<std::string, std::string>;

mesh_file read_from(const file_map& files, const std::string& name) {
    return read_mesh(name, [&](const std::string& asked) {
        const auto found = files.find(asked);
        if (found == files.end()) {
            throw error({asked, 0, 0}, "cannot be read: there is none", "one that is there");
        }
        return found->second;
    });
}

const std::string triangle_obj =
    "v 0 0 0\nv 1 0 0\nv 0 1 0\nvn 0 0 1\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1/1 2/2/1 3/3/1\n";

std::string base64_of(const std::string& bytes) {
    const char* letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string text;
    for (std::size_t i = 0; i < bytes.size(); i += 3) {
        std::uint32_t group = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            group = group * 256 + (i + k < bytes.size() ? static_cast<std::uint8_t>(bytes[i + k]) : 0U);
        }
        for (std::size_t k = 0; k < 4; ++k) {
            text += i + k <= bytes.size() ? letters[(group >> (18 - 6 * k)) % 64] : '=';
        }
    }
    return text;
}

std::string floats(std::initializer_list<float> values) {
    std::string bytes;
    for (const float value : values) {
        char raw[4];
        std::memcpy(raw, &value, 4);
        bytes.append(raw, 4);
    }
    return bytes;
}

// A glTF file of one triangle, any part of which can be put differently.
struct gltf_parts {
    std::string positions = floats({0, 0, 0, 1, 0, 0, 0, 1, 0});
    std::string indices = std::string("\0\0\1\0\2\0", 6);
    std::string accessor = R"("bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3")";
    std::string index_accessor = R"("bufferView": 1, "componentType": 5123, "count": 3, "type": "SCALAR")";
    std::string view = R"("buffer": 0, "byteOffset": 0, "byteLength": 36)";
    std::string index_view = R"("buffer": 0, "byteOffset": 36, "byteLength": 6)";
    std::string primitive = R"("attributes": {"POSITION": 0}, "indices": 1)";
    std::string nodes = R"([{"mesh": 0}])";
    std::string scenes = R"([{"nodes": [0]}])";
    std::string extra;
    std::string buffer; // instead of the whole buffer

    [[nodiscard]] std::string text() const {
        const std::string bytes = positions + indices;
        const std::string whole_buffer = buffer.empty()
                                             ? R"("byteLength": )" + std::to_string(bytes.size()) +
                                                   R"(, "uri": "data:application/octet-stream;base64,)" +
                                                   base64_of(bytes) + "\""
                                             : buffer;
        return R"({"asset": {"version": "2.0"}, "scene": 0, "scenes": )" + scenes + R"(, "nodes": )" + nodes +
               R"(, "meshes": [{"primitives": [{)" + primitive + R"(}]}], "accessors": [{)" + accessor +
               "}, {" + index_accessor + R"(}], "bufferViews": [{)" + view + "}, {" + index_view +
               R"(}], "buffers": [{)" + whole_buffer + "}]" + extra + "}";
    }
};

std::string refusal(const file_map& files, const std::string& name) {
    try {
        (void)read_from(files, name);
    } catch (const error& refused) {
        return refused.what();
    }
    return "read";
}

} // namespace

TEST_CASE("OBJ: positions, normals, texture coordinates, colours, materials; polygons become triangles") {
    const mesh_file one = read_from({{"a.obj", triangle_obj}}, "a.obj");
    CHECK(one.shape.positions.size() == 3);
    CHECK(one.shape.positions[1] == vec3<double>{1, 0, 0});
    CHECK(one.shape.normals[2] == vec3<double>{0, 0, 1});
    CHECK(one.shape.texcoords[one.shape.texcoord_corners(0)[2]] == texcoord{0, 1});
    CHECK(one.remarks.empty());
    const mesh_file two =
        read_from({{"dir/a.obj", "mtllib a.mtl\nv 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 1 1 0 0 0 1\nv 0 1 0 1 1 1\n"
                                 "usemtl red\nf 1 2 3 4\n"},
                   {"dir/a.mtl", "newmtl red\nKd 0.5 0.25 0\nKs 1 1 1\nNs 20\nd 0.5\n"}},
                  "dir/a.obj");
    CHECK(two.shape.triangles.size() == 2);
    CHECK(two.shape.colors[1] == rgb<double>{0, 1, 0});
    REQUIRE(two.materials.size() == 1);
    CHECK(two.materials[0].base == rgb<double>{0.5, 0.25, 0});
    CHECK(two.materials[0].shininess == 20);
    CHECK(two.materials[0].alpha == 0.5);
    CHECK(two.materials[0].specular == rgb<double>{1, 1, 1});
    CHECK_FALSE(two.materials[0].emission.has_value()); // not said in the file
    // Normals that are not there are computed: a flat square faces +Z.
    CHECK(two.remarks.size() == 1);
    CHECK(two.shape.normals[0] == vec3<double>{0, 0, 1});
}

TEST_CASE("OBJ: a material's picture is read from beside the file that names it") {
    picture boards(2, 1);
    boards.set(0, 0, {1, 0, 0}, 1);
    boards.set(1, 0, {0, 0, 1}, 1); // 0 and 1 are themselves in any encoding
    const mesh_file quay =
        read_from({{"quay/boards.obj", "mtllib paint/boards.mtl\nusemtl planks\n" + triangle_obj},
                   {"quay/paint/boards.mtl", "newmtl planks\nmap_Kd boards.png\n"},
                   {"quay/paint/boards.png", png_bytes(boards)}},
                  "quay/boards.obj");
    REQUIRE(quay.materials.size() == 1);
    REQUIRE(quay.materials[0].image != nullptr);
    CHECK(quay.materials[0].image->width == 2);
    CHECK(quay.materials[0].image->height == 1);
    CHECK(quay.materials[0].image->texels == std::vector<rgb<float>>{{1, 0, 0}, {0, 0, 1}});
}

TEST_CASE("OBJ: a position with two normals is two vertices; texture coordinates have indices of their own") {
    const mesh_file roof = read_from({{"a.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nvn 0 0 1\nvn 0 -1 0\n"
                                                "vt 0.25 0.5\nvt 1 0\nvt 0 1\n"
                                                "f 1/3/1 2/1/1 3/2/1\nf 1/2/2 4/2/2 2/3/2\n"}},
                                     "a.obj");
    REQUIRE(roof.shape.triangles.size() == 2);
    CHECK(roof.shape.positions.size() == 6);
    for (std::size_t k = 0; k < 3; ++k) {
        CHECK(roof.shape.normals[roof.shape.triangles[0][k]] == vec3<double>{0, 0, 1});
        CHECK(roof.shape.normals[roof.shape.triangles[1][k]] == vec3<double>{0, -1, 0});
    }
    const auto at = [&](std::size_t t, std::size_t k) {
        return roof.shape.texcoords[roof.shape.texcoord_corners(t)[k]];
    };
    CHECK(at(0, 0) == texcoord{0, 1});
    CHECK(at(0, 1) == texcoord{0.25, 0.5});
    CHECK(at(0, 2) == texcoord{1, 0});
    CHECK(at(1, 2) == texcoord{0, 1});
}

TEST_CASE(
    "glTF: a node's transform, a mirror that keeps the front, strips, texture coordinates from the top") {
    gltf_parts parts;
    parts.nodes = R"([{"children": [1], "translation": [0, 0, 5]}, {"mesh": 0, "scale": [-2, 1, 1]}])";
    const mesh_file moved = read_from({{"a.gltf", parts.text()}}, "a.gltf");
    CHECK(moved.shape.positions[1] == vec3<double>{-2, 0, 5});
    const triangle& corners = moved.shape.triangles[0];
    const auto at = [&](std::size_t k) { return moved.shape.positions[corners[k]]; };
    CHECK(cross(at(1) - at(0), at(2) - at(0)).z > 0); // it was, before the mirror
    CHECK(moved.shape.normals[0] == vec3<double>{0, 0, 1});
    CHECK(moved.remarks.size() == 1);

    gltf_parts strip;
    strip.positions = floats({0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0});
    strip.accessor = R"("bufferView": 0, "componentType": 5126, "count": 4, "type": "VEC3")";
    strip.view = R"("buffer": 0, "byteLength": 48)";
    strip.index_view = R"("buffer": 0, "byteOffset": 48, "byteLength": 6)";
    strip.primitive = R"("attributes": {"POSITION": 0}, "mode": 5)";
    const mesh_file square = read_from({{"a.gltf", strip.text()}}, "a.gltf");
    CHECK(square.shape.triangles.size() == 2);
    for (const vec3<double>& normal : square.shape.normals) {
        CHECK(normal == vec3<double>{0, 0, 1});
    }
    // A fan goes round its first vertex: this square's are in order around it.
    strip.positions = floats({0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0});
    strip.primitive = R"("attributes": {"POSITION": 0}, "mode": 6)";
    const mesh_file fan = read_from({{"a.gltf", strip.text()}}, "a.gltf");
    REQUIRE(fan.shape.triangles.size() == 2);
    CHECK(fan.shape.triangles[0] == triangle{0, 1, 2});
    CHECK(fan.shape.triangles[1] == triangle{0, 2, 3});
    // v is measured from the top in the file, from the bottom here.
    gltf_parts textured;
    textured.positions += floats({0, 0.25F, 1, 0.25F, 0, 1});
    textured.view = R"("buffer": 0, "byteLength": 36}, {"buffer": 0, "byteOffset": 36, "byteLength": 24)";
    textured.index_view = R"("buffer": 0, "byteOffset": 60, "byteLength": 6)";
    textured.index_accessor = R"("bufferView": 2, "componentType": 5123, "count": 3, "type": "SCALAR"}, )"
                              R"({"bufferView": 1, "componentType": 5126, "count": 3, "type": "VEC2")";
    textured.primitive = R"("attributes": {"POSITION": 0, "TEXCOORD_0": 2}, "indices": 1)";
    const mesh_file board = read_from({{"a.gltf", textured.text()}}, "a.gltf");
    REQUIRE(board.shape.texcoords.size() == 3);
    CHECK(board.shape.texcoords[0] == texcoord{0, 0.75});
    CHECK(board.shape.texcoords[1] == texcoord{1, 0.75});
    CHECK(board.shape.texcoords[2] == texcoord{0, 0});
}

TEST_CASE("broken OBJ and MTL files get one clear line") {
    const std::string points = "v 0 0 0\nv 1 0 0\nv 0 1 0\n";
    const std::string huge(200'000, '9');
    const file_map broken_objs{
        {"empty", ""},
        {"no triangles", points},
        {"index too large", points + "f 1 2 4\n"},
        {"index of zero", points + "f 0 1 2\n"},
        {"index far below zero", points + "f -9 1 2\n"},
        {"index beyond all", points + "f 1 2 99999999999\n"},
        {"normal not there", points + "f 1//1 2//1 3//1\n"},
        {"texture coordinate not there", points + "f 1/5 2/5 3/5\n"},
        {"position of nan", "v nan 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"},
        {"position of inf", "v 0 inf 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"},
        {"position beyond floats", "v 1e300 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"},
        {"normal of nan", points + "vn nan 0 0\nf 1//1 2//1 3//1\n"},
        {"faces before points", "f 1 2 3\n"},
        {"words for a face", points + "f a b c\n"},
        {"a face of two", points + "f 1 2\n"},
        {"bytes", std::string("\x00\x01\x7f\xff\xfe\x89PNG", 9)},
        {"a number without end", "v " + huge + "\n"},
        {"material library missing", "mtllib nowhere.mtl\n" + points + "usemtl a\nf 1 2 3\n"},
    };
    for (const auto& each : broken_objs) {
        const auto& what = each.first;
        const auto& text = each.second;
        CAPTURE(what);
        const std::string line = refusal({{"a.obj", text}}, "a.obj");
        CAPTURE(line);
        CHECK(line != "read");
        CHECK(line.find('\n') == std::string::npos);
        CHECK(line.find("; ") != std::string::npos);
    }
    const std::string with_material = "mtllib a.mtl\n" + points + "usemtl a\nf 1 2 3\n";
    const file_map broken_mtls{
        {"colour below zero", "newmtl a\nKd -1 0 0\n"},
        {"colour of nan", "newmtl a\nKd nan 0 0\n"},
        {"specular of inf", "newmtl a\nKs inf 0 0\n"},
        {"exponent below zero", "newmtl a\nNs -5\n"},
        {"exponent of nan", "newmtl a\nNs nan\n"},
        {"alpha above one", "newmtl a\nd 7\n"},
        {"alpha of nan", "newmtl a\nd nan\n"},
        {"emission below zero", "newmtl a\nKe 0 0 -3\n"},
        {"texture missing", "newmtl a\nmap_Kd nowhere.png\n"},
        {"texture that is text", "newmtl a\nmap_Kd a.obj\n"},
    };
    for (const auto& each : broken_mtls) {
        const auto& what = each.first;
        const auto& text = each.second;
        CAPTURE(what);
        const std::string line = refusal({{"a.obj", with_material}, {"a.mtl", text}}, "a.obj");
        CAPTURE(line);
        CHECK(line != "read");
        CHECK(line.find('\n') == std::string::npos);
    }
}

TEST_CASE("a word that is no number is named with its line and column") {
    CHECK(refusal({{"a.obj", "v 0 0 0\nv 1 nine 0\n"}}, "a.obj")
              .starts_with("a.obj:2:5: `nine` is no finite number"));
    CHECK(refusal({{"a.obj", "v 0 0\n"}}, "a.obj").starts_with("a.obj:1:1: `v` has 2 numbers"));
    // Signs, exponents, comments and what is too small for a float are as they should be.
    CHECK(refusal({{"a.obj", "v +0 -1e-60 0 # here\nv 1 0 0\nv 0 1e0 0\nf 1 2 3\n"}}, "a.obj") == "read");
}

TEST_CASE("glTF: a material's colour, alpha, glow and sides, each where the file gives it") {
    gltf_parts parts;
    parts.primitive += R"(, "material": 0)";
    parts.extra = R"(, "materials": [{"name": "lamp glass", "alphaMode": "BLEND", "doubleSided": true,
                      "emissiveFactor": [0.5, 0.25, 0.125],
                      "pbrMetallicRoughness": {"baseColorFactor": [0.75, 0.5, 0.25, 0.5]}}])";
    const mesh_file read = read_from({{"a.gltf", parts.text()}}, "a.gltf");
    REQUIRE(read.materials.size() == 1);
    CHECK(read.materials[0].base == rgb<double>{0.75, 0.5, 0.25});
    CHECK(read.materials[0].alpha == 0.5);
    CHECK(read.materials[0].emission == rgb<double>{0.5, 0.25, 0.125});
    CHECK(read.materials[0].two_sided == true);
}

TEST_CASE("broken glTF files get one clear line") {
    const auto with = [](auto&& change) {
        gltf_parts parts;
        change(parts);
        return parts.text();
    };
    REQUIRE(refusal({{"a.gltf", gltf_parts().text()}}, "a.gltf") == "read");
    const std::string whole = gltf_parts().text();
    const float nan = std::numeric_limits<float>::quiet_NaN();
    const file_map broken{
        {"empty", ""},
        {"not JSON", "this is no JSON"},
        {"half", whole.substr(0, whole.size() / 2)},
        {"a list", "[]"},
        {"no asset", R"({"meshes": []})"},
        {"no triangles", R"({"asset": {"version": "2.0"}, "scenes": [{"nodes": []}], "scene": 0})"},
        {"huge count", with([](auto& p) {
             p.accessor = R"("bufferView": 0, "componentType": 5126, "count": 4000000000, "type": "VEC3")";
         })},
        {"count that wraps", with([](auto& p) {
             p.accessor =
                 R"("bufferView": 0, "componentType": 5126, "count": 1537228672809129302, "type": "VEC3")";
         })},
        {"count below zero", with([](auto& p) {
             p.accessor = R"("bufferView": 0, "componentType": 5126, "count": -3, "type": "VEC3")";
         })},
        {"count of zero", with([](auto& p) {
             p.accessor = R"("bufferView": 0, "componentType": 5126, "count": 0, "type": "VEC3")";
         })},
        {"offset beyond", with([](auto& p) { p.accessor += R"(, "byteOffset": 30)"; })},
        {"huge offset", with([](auto& p) { p.accessor += R"(, "byteOffset": 18446744073709551600)"; })},
        {"view beyond buffer",
         with([](auto& p) { p.view = R"("buffer": 0, "byteOffset": 0, "byteLength": 3600)"; })},
        {"view of no buffer", with([](auto& p) { p.view = R"("buffer": 7, "byteLength": 36)"; })},
        {"stride too small", with([](auto& p) { p.view += R"(, "byteStride": 4)"; })},
        {"stride too large", with([](auto& p) { p.view += R"(, "byteStride": 252)"; })},
        {"accessor not there",
         with([](auto& p) { p.primitive = R"("attributes": {"POSITION": 9}, "indices": 1)"; })},
        {"accessor below zero",
         with([](auto& p) { p.primitive = R"("attributes": {"POSITION": -2}, "indices": 1)"; })},
        {"no positions", with([](auto& p) { p.primitive = R"("attributes": {"NORMAL": 0}, "indices": 1)"; })},
        {"positions are pairs", with([](auto& p) {
             p.accessor = R"("bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC2")";
         })},
        {"positions are bytes", with([](auto& p) {
             p.accessor = R"("bufferView": 0, "componentType": 5120, "count": 3, "type": "VEC3")";
         })},
        {"no such type", with([](auto& p) {
             p.accessor = R"("bufferView": 0, "componentType": 77, "count": 3, "type": "VEC3")";
         })},
        {"index too large", with([](auto& p) { p.indices = std::string("\0\0\1\0\x9\0", 6); })},
        {"indices are floats", with([](auto& p) {
             p.index_accessor = R"("bufferView": 0, "componentType": 5126, "count": 3, "type": "SCALAR")";
         })},
        {"two corners", with([](auto& p) {
             p.index_accessor = R"("bufferView": 1, "componentType": 5123, "count": 2, "type": "SCALAR")";
         })},
        {"normals for fewer", with([](auto& p) {
             p.primitive = R"("attributes": {"POSITION": 0, "NORMAL": 2}, "indices": 1)";
             p.index_accessor += R"(}, {"bufferView": 0, "componentType": 5126, "count": 2, "type": "VEC3")";
         })},
        {"position of nan", with([&](auto& p) {
             p.positions = floats({nan, 0, 0, 1, 0, 0, 0, 1, 0});
         })},
        {"node below itself", with([](auto& p) { p.nodes = R"([{"mesh": 0, "children": [0]}])"; })},
        {"nodes in a ring", with([](auto& p) {
             p.nodes = R"([{"children": [1]}, {"children": [2]}, {"mesh": 0, "children": [0]}])";
         })},
        {"node not there", with([](auto& p) { p.scenes = R"([{"nodes": [5]}])"; })},
        {"child not there", with([](auto& p) { p.nodes = R"([{"mesh": 0, "children": [8]}])"; })},
        {"mesh not there", with([](auto& p) { p.nodes = R"([{"mesh": 4}])"; })},
        {"singular node", with([](auto& p) { p.nodes = R"([{"mesh": 0, "scale": [0, 1, 1]}])"; })},
        {"material not there", with([](auto& p) { p.primitive += R"(, "material": 3)"; })},
        {"texture not there", with([](auto& p) {
             p.extra = R"(, "materials": [{"pbrMetallicRoughness": {"baseColorTexture": {"index": 2}}}])";
         })},
        {"colour below zero", with([](auto& p) {
             p.extra = R"(, "materials": [{"pbrMetallicRoughness": {"baseColorFactor": [-1, 0, 0, 1]}}])";
         })},
        {"sparse", with([](auto& p) {
             p.accessor +=
                 R"(, "sparse": {"count": 1, "indices": {"bufferView": 1, "componentType": 5123}, "values": {"bufferView": 0}})";
         })},
        {"buffer file missing",
         with([](auto& p) { p.buffer = R"("byteLength": 42, "uri": "nowhere.bin")"; })},
        {"buffer shorter than said", with([](auto& p) {
             p.buffer = R"("byteLength": 4200, "uri": "data:application/octet-stream;base64,AAAA")";
         })},
        {"buffer not base64", with([](auto& p) {
             p.buffer = R"("byteLength": 42, "uri": "data:application/octet-stream;base64,?!")";
         })},
        {"scene not there",
         R"({"asset": {"version": "2.0"}, "scene": 3, "scenes": [{"nodes": [0]}], "nodes": [{}]})"},
    };
    CHECK(broken.size() >= 40);
    for (const auto& each : broken) {
        const auto& what = each.first;
        const auto& text = each.second;
        CAPTURE(what);
        const std::string line = refusal({{"a.gltf", text}}, "a.gltf");
        CAPTURE(line);
        CHECK(line != "read");
        CHECK(line.find('\n') == std::string::npos);
        CHECK(line.find("; ") != std::string::npos);
    }
    for (const std::string& bytes : {std::string(), std::string("glTF"),
                                     std::string("glTF\2\0\0\0\xff\xff\xff\xff\xff\xff\xff\x7fJSON", 20),
                                     std::string("glTF\1\0\0\0\x14\0\0\0\0\0\0\0JSON", 20)}) {
        const std::string line = refusal({{"a.glb", bytes}}, "a.glb");
        CHECK(line != "read");
        CHECK(line.find('\n') == std::string::npos);
    }
    CHECK(refusal({}, "a.stl").find(".obj, .gltf or .glb") != std::string::npos);
}

namespace {

// A mesh of floats that no symmetry helps: rows of a hull, with normals, texture coordinates and colours.
mesh hull_of_floats() {
    mesh made;
    for (std::uint32_t j = 0; j < 6; ++j) {
        for (std::uint32_t i = 0; i < 9; ++i) {
            const auto f = [](double value) { return static_cast<double>(static_cast<float>(value)); };
            const double angle = 0.37 * i;
            made.positions.push_back({f(std::cos(angle) + 0.01 * j), f(0.31 * j - 0.8), f(std::sin(angle))});
            const vec3<double> n = normalize(vec3<double>{std::cos(angle), 0.1 * j, std::sin(angle)});
            made.normals.push_back({f(n.x), f(n.y), f(n.z)});
            made.texcoords.push_back({f(i / 8.0), f(j / 8.0)}); // eighths: 1 − v is exact
            made.colors.push_back({f(0.1 * i), f(0.15 * j), 0.5});
        }
    }
    for (std::uint32_t j = 0; j + 1 < 6; ++j) {
        for (std::uint32_t i = 0; i + 1 < 9; ++i) {
            const std::uint32_t a = j * 9 + i;
            made.triangles.push_back({a, a + 9, a + 10});
            made.triangles.push_back({a, a + 10, a + 1});
        }
    }
    return made;
}

} // namespace

TEST_CASE("glTF without scenes: every node that is no other's child is taken, with its children, once") {
    gltf_parts parts;
    parts.nodes = R"([{"mesh": 0}, {"mesh": 0, "translation": [0, 0, 1], "children": [0, 2]},
        {"mesh": 0, "translation": [5, 0, 0]}, {"mesh": 0, "translation": [0, 7, 0]}])";
    std::string text = parts.text();
    const std::string scenes = R"("scene": 0, "scenes": [{"nodes": [0]}], )";
    text.erase(text.find(scenes), scenes.size());
    const mesh_file found = read_from({{"a.gltf", text}}, "a.gltf");
    REQUIRE(found.shape.triangles.size() == 4);
    std::vector<std::array<double, 3>> firsts; // each triangle's corner at the node's own origin
    for (const triangle& each : found.shape.triangles) {
        const vec3<double>& corner = found.shape.positions[each[0]];
        firsts.push_back({corner.x, corner.y, corner.z});
    }
    std::sort(firsts.begin(), firsts.end());
    CHECK(firsts == std::vector<std::array<double, 3>>{{0, 0, 1}, {0, 0, 1}, {0, 7, 0}, {5, 0, 1}});
}

TEST_CASE("a mesh exported to OBJ and to glTF and read back draws the same picture, bit for bit") {
    const testing::temporary_folder folder;
    scene made;
    made.view = {.eye = {3, 2, 3}, .width = 160, .height = 100};
    named_material paint;
    paint.name = "paint";
    paint.look.specular = rgb<double>(0.5);
    paint.look.two_sided = true;
    made.materials.push_back(paint);
    object hull;
    hull.name = "hull";
    hull.shape = mesh_shape{"hull.obj", std::make_shared<const mesh>(hull_of_floats()), {}};
    made.objects.push_back(hull);
    named_light lamp;
    lamp.light.position = {2, 3, 1};
    lamp.light.intensity = 6;
    made.lights.push_back(lamp);
    const picture before = draw(made);
    for (const std::string name : {"a.obj", "a.gltf", "a.glb"}) {
        CAPTURE(name);
        for (const exported_file& file : export_scene(made, name).files) {
            write_whole(folder / file.name, file.bytes);
        }
        const mesh_file back =
            read_mesh(folder / name, [](const std::string& path) { return read_whole(path); });
        CHECK(back.remarks.empty());
        scene again = made;
        // The file's own material by name is the scene's: as a scene file does it.
        again.objects[0].shape = mesh_shape{name, std::make_shared<const mesh>(back.shape), {0}};
        CHECK(draw(again) == before);
    }
}

TEST_CASE(
    "a scene of placed shapes, exported and read back, differs by the rounding of its coordinates alone") {
    const testing::temporary_folder folder;
    const std::string text = R"(
format = 1
[view]
eye = [3, 2, 5]
target = [0, 0, 0]
size = [160, 100]
[shading]
model = "lambert"
[materials.iron]
base = [0.5, 0.4, 0.3]
[materials.paint]
base = [0.7, 0.1, 0.1]
)";
    const std::string light = "[[lights]]\nkind = \"directional\"\nshines = [-1, -2, -1.5]\n";
    write_whole(folder / "before.toml", text + light + R"(
[[objects]]
material = "iron"
shape = "torus"
radius = 0.8
tube = 0.3
rotation = [40, 20, 10]
position = [0.3, 0.1, 0]
[[objects]]
material = "paint"
shape = "box"
size = [0.8, 0.6, 0.5]
position = [-1.2, 0, 0]
rotation = [10, 50, 0]
scale = [-1, 1.5, 1]
)");
    const scene before = read_scene(folder / "before.toml");
    const picture drawn = draw(before);
    for (const std::string name : {"a.obj", "a.glb"}) {
        CAPTURE(name);
        const exported made = export_scene(before, folder / name);
        for (const exported_file& file : made.files) {
            write_whole(folder / file.name, file.bytes);
        }
        write_whole(folder / "after.toml",
                    text + light + "[[objects]]\nmaterial = \"iron\"\nshape = \"mesh\"\nfile = \"" + name +
                        "\"\n");
        const picture back = draw(read_scene(folder / "after.toml"));
        std::size_t at_borders = 0;
        for (std::size_t i = 0; i < drawn.values.size(); i += 4) {
            // Normals and rotations are off by a few roundings of a float; what is more lies at a border.
            at_borders += std::abs(drawn.values[i] - back.values[i]) > 1e-5 ? 1U : 0U;
        }
        CHECK(at_borders <= 160 * 100 / 500);
    }
}

TEST_CASE("export: a material's factors in MTL, and where a glTF light shines") {
    scene made;
    made.materials.push_back({.name = "paint"});
    made.materials[0].look.base = {0.5, 0.25, 1};
    made.materials[0].look.ambient = rgb<double>(0.5);
    made.materials[0].look.diffuse = {0.5, 1, 0.25};
    made.materials[0].look.specular = {0.125, 0.25, 0.5};
    made.materials[0].look.shininess = 24;
    made.objects.push_back({.name = "crate", .shape = box_shape{}});
    named_light lamp{.name = "lamp"};
    lamp.light.kind = light_kind::directional;
    lamp.light.shines = {2, -3, 6}; // of length 7
    made.lights.push_back(lamp);
    const exported obj = export_scene(made, "a.obj");
    REQUIRE(obj.files.size() == 2);
    for (const char* line :
         {"Ka 0.25 0.125 0.5\n", "Kd 0.25 0.25 0.25\n", "Ks 0.125 0.25 0.5\n", "Ns 24\n"}) {
        CAPTURE(line);
        CHECK(obj.files[1].bytes.find(line) != std::string::npos);
    }
    // A light shines along −Z of its node: −Z turned by the node's quaternion (x, y, z, w), by Rodrigues'
    // formula.
    const std::string gltf = export_scene(made, "a.gltf").files[0].bytes;
    const std::size_t at = gltf.find("\"rotation\"", gltf.find("\"lamp\""));
    REQUIRE(at != std::string::npos);
    std::istringstream words(gltf.substr(gltf.find('[', at) + 1));
    double q[4] = {};
    char comma = 0;
    words >> q[0] >> comma >> q[1] >> comma >> q[2] >> comma >> q[3];
    const vec3<double> axis{q[0], q[1], q[2]};
    const vec3<double> back{0, 0, -1};
    const vec3<double> side = cross(axis, back);
    const vec3<double> turned = back + 2 * (q[3] * side + cross(axis, side));
    // Each number of the file is a float near 1: a few roundings of 2⁻²⁴.
    const double rounded = 8 * 0x1p-24;
    CHECK(std::abs(turned.x - 2.0 / 7) <= rounded);
    CHECK(std::abs(turned.y + 3.0 / 7) <= rounded);
    CHECK(std::abs(turned.z - 6.0 / 7) <= rounded);
}

TEST_CASE("what a mesh's material does not say is the object's; what it says is its own") {
    const testing::temporary_folder folder;
    write_whole(folder / "crate.obj", "mtllib crate.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl dull\nf 1 2 3\n"
                                      "usemtl bare\nf 1 2 3\n");
    write_whole(folder / "crate.mtl", "newmtl dull\nKd 0 1 0\nKs 0.5 0.25 0\nNs 5\nd 0.25\nnewmtl bare\n");
    write_whole(folder / "a.toml", R"(
format = 1
[view]
eye = [0.5, 0.5, 3]
target = [0.5, 0.5, 0]
[materials.rest]
base = [0.2, 0.3, 0.4]
specular = 0.75
shininess = 77
alpha = 0.5
two_sided = true
[[objects]]
shape = "mesh"
file = "crate.obj"
material = "rest"
)");
    const scene read = read_scene(folder / "a.toml");
    REQUIRE(read.materials.size() == 3);
    const material& dull = read.materials[1].look;
    CHECK(dull.base == rgb<double>{0, 1, 0});
    CHECK(dull.specular == rgb<double>{0.5, 0.25, 0});
    CHECK(dull.shininess == 5);
    CHECK(dull.alpha == 0.25);
    CHECK(dull.two_sided);
    CHECK(read.materials[2].look == read.materials[0].look);
}

TEST_CASE("what a format cannot hold is said") {
    scene made;
    made.shading.model = model_kind::cel;
    made.materials.push_back({.name = "paint"});
    made.materials[0].look.specular = rgb<double>(1.0);
    made.objects.push_back({.name = "buoy", .shape = field_shape{}});
    named_light lamp{.name = "lamp"};
    lamp.light.kind = light_kind::spot;
    lamp.light.falloff = falloff_kind::polynomial;
    lamp.light.penumbra = penumbra_kind::smooth;
    lamp.light.outer = radians(30);
    made.lights.push_back(lamp);
    const auto said = [](const exported& file, const std::string& part) {
        for (const std::string& line : file.left_out) {
            if (line.find(part) != std::string::npos) {
                return true;
            }
        }
        return false;
    };
    const exported gltf = export_scene(made, "a.gltf");
    for (const char* part : {"polynomial", "`smooth`", "`buoy`", "ambient light", "`cel`", "`specular`"}) {
        CAPTURE(part);
        CHECK(said(gltf, part));
    }
    CHECK(gltf.files[0].bytes.find("KHR_lights_punctual") != std::string::npos);
    const exported obj = export_scene(made, "a.obj");
    for (const char* part : {"all lights, 1", "`buoy`", "the view"}) {
        CHECK(said(obj, part));
    }
    // A windowed light and a squared penumbra are what the format has: nothing is said of them.
    made.lights[0].light.falloff = falloff_kind::windowed;
    made.lights[0].light.penumbra = penumbra_kind::squared;
    CHECK_FALSE(said(export_scene(made, "a.glb"), "`lamp`"));
    CHECK_THROWS_AS((void)export_scene(made, "a.stl"), error);
}

TEST_CASE("a scene with a mesh: its materials by name are the scene's, others come with it, and what is "
          "missing is remarked") {
    const testing::temporary_folder folder;
    write_whole(
        folder / "crate.obj",
        "mtllib crate.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0\nusemtl known\nf 1 2 3\nusemtl own\nf 2 4 3\n");
    write_whole(folder / "crate.mtl", "newmtl known\nKd 1 0 0\nnewmtl own\nKd 0 1 0\n");
    write_whole(folder / "a.toml", R"(
format = 1
[view]
eye = [0.5, 0.5, 3]
target = [0.5, 0.5, 0]
size = [64, 64]
[shading]
model = "unlit"
[materials.known]
base = [0, 0, 0.5]
[materials.rest]
base = [1, 1, 1]
[[objects]]
shape = "mesh"
file = "crate.obj"
material = "rest"
)");
    std::vector<std::string> remarks;
    const scene read = read_scene(folder / "a.toml", &remarks);
    REQUIRE(remarks.size() == 1);
    CHECK(remarks[0].find("no normals") != std::string::npos);
    const picture drawn = draw(read);
    CHECK(drawn.color(25, 38) == rgb<float>{0, 0, 0.5F}); // the lower left half: the scene's `known`
    CHECK(drawn.color(38, 25) == rgb<float>{0, 1, 0});    // the upper right one: the file's `own`
    CHECK(scene_text(read).find("crate.obj:own") == std::string::npos);
}
