// Every study as JSON: each field that others rely on, of results written down by hand.
#include <doctest/doctest.h>

#include <limits>
#include <string>

#include <nlohmann/json.hpp>

#include "yurvo/report/data.hpp"

using namespace yurvo;
using nlohmann::json;

namespace {

const double infinite = std::numeric_limits<double>::infinity();

json parsed(const report::data& made) {
    const std::string text = made.text();
    CHECK(text.ends_with("}\n"));
    return json::parse(text);
}

study::named_scene quay() {
    study::named_scene made;
    made.name = "quay";
    made.scene.view.width = 64;
    made.scene.view.height = 40;
    return made;
}

verify::diagnosis two_explanations() {
    verify::diagnosis found;
    found.verdict = verify::verdict_kind::mistake;
    found.mistakes = {{{verify::mistake::falloff_missing}, 0.25, 1},
                      {{verify::mistake::falloff_missing, verify::mistake::encode_twice}, 0.5, 1.5}};
    found.ties = {verify::mistake::falloff_missing, verify::mistake::cosine_not_clamped};
    found.residual = 12.5;
    found.compared = 1000;
    found.off = 250;
    found.off_with = 3;
    found.tolerance = 1;
    found.x = 7;
    found.y = 9;
    found.makeup = {{"lantern", "diffuse", 0.5, "half"}, {"", "ambient", 1, ""}};
    found.remarks = {"the picture is noisy"};
    return found;
}

} // namespace

TEST_CASE("data: fields keep the order in which they are set first; what is not finite is null") {
    report::data made;
    made.set("quay", 0.5)
        .set("moon", infinite)
        .set("rope", -infinite)
        .set("buoy", std::nan(""))
        .set("quay", 2);
    CHECK(made.text() == "{\n  \"quay\": 2,\n  \"moon\": null,\n  \"rope\": null,\n  \"buoy\": null\n}\n");
    CHECK(report::data().text() == "{}\n");
}

TEST_CASE("data: text is escaped, and bytes that are not UTF-8 are replaced") {
    report::data made;
    made.set("plank", "a \"b\"\n\t\\");
    made.set("hull", std::string_view("\xff\xfe", 2));
    const json all = parsed(made);
    CHECK(all["plank"] == "a \"b\"\n\t\\");
    CHECK(all["hull"] == "\xef\xbf\xbd\xef\xbf\xbd"); // U+FFFD twice
}

TEST_CASE("data: lists, objects within, and fields of another") {
    report::data lamp;
    lamp.set("name", "lantern").set("on", true);
    report::data made;
    made.set("lamps", std::vector<report::data>{lamp, report::data()});
    made.set("first", lamp);
    made.set("pixel", std::vector<int>{3, 4}).set("bytes", std::vector<std::uint8_t>{0, 255});
    made.set("names", std::vector<std::string>{"quay", "pier"}).set("count", std::uint64_t{1} << 60U);
    made.set_in("lamps", 1, "name", "moon");
    report::data more;
    more.set("pixel", 5);
    made.add(more);
    const json all = parsed(made);
    CHECK(all["lamps"] == json::parse(R"([{"name": "lantern", "on": true}, {"name": "moon"}])"));
    CHECK(all["first"] == all["lamps"][0]);
    CHECK(all["bytes"] == json::parse("[0, 255]"));
    CHECK(all["names"] == json::parse(R"(["quay", "pier"])"));
    CHECK(all["count"] == 1152921504606846976U);
    CHECK(all["pixel"] == 5);
}

TEST_CASE("data: rates, each with its figures, and the two differences against fragment") {
    study::rates found;
    found.model = "phong";
    found.face.at = rate::face;
    found.vertex.at = rate::vertex;
    found.vertex.brightest = {0.25F, 0.5F, 1};
    found.vertex.x = 3;
    found.vertex.y = 5;
    found.fragment.statistics.evaluations = 2560;
    found.fragment.statistics.pixels = 2000;
    found.vertex_off.largest = 0.125;
    found.vertex_off.largest_x = 11;
    found.vertex_off.largest_y = 12;
    found.vertex_off.mean_signed = -0.5;
    found.vertex_off.pixels_that_differ = 77;
    const json all = parsed(report::data_of(quay(), found));
    CHECK(all["scene"] == "quay");
    CHECK(all["model"] == "phong");
    CHECK(all["size"] == json::parse("[64, 40]"));
    REQUIRE(all["rates"].size() == 3);
    CHECK(all["rates"][0]["rate"] == "face");
    CHECK(all["rates"][1]["brightest"] == json::parse("[0.25, 0.5, 1.0]"));
    CHECK(all["rates"][1]["brightest_at"] == json::parse("[3, 5]"));
    CHECK(all["rates"][2]["evaluations"] == 2560);
    CHECK(all["rates"][2]["pixels"] == 2000);
    REQUIRE(all["differences"].size() == 2);
    CHECK(all["differences"][1]["rate"] == "vertex");
    CHECK(all["differences"][1]["against"] == "fragment");
    CHECK(all["differences"][1]["largest"] == 0.125);
    CHECK(all["differences"][1]["largest_at"] == json::parse("[11, 12]"));
    CHECK(all["differences"][1]["mean_signed"] == -0.5);
    CHECK(all["differences"][1]["pixels"] == 77);
}

TEST_CASE("data: layers, the first ones adding nothing") {
    study::layers found;
    found.model = "lambert";
    found.list.push_back({"unlit", {}, {}, 0.5, std::nullopt});
    difference adds;
    adds.largest = 0.75;
    adds.mean_signed = 0.25;
    found.list.push_back({"+ diffuse", {}, {}, 0.625, adds});
    const json all = parsed(report::data_of(quay(), found));
    REQUIRE(all["layers"].size() == 2);
    CHECK(all["layers"][0]["name"] == "unlit");
    CHECK(all["layers"][0]["mean"] == 0.5);
    CHECK_FALSE(all["layers"][0].contains("adds"));
    CHECK(all["layers"][1]["adds"]["largest"] == 0.75);
    CHECK(all["layers"][1]["adds"]["mean"] == 0.25);
}

TEST_CASE("data: turns, with the point that is followed and what it reflects, where that is known") {
    study::turn found;
    found.what = turned_part::eye;
    found.point = {"buoy", {1, 2, 3}};
    found.steps.push_back({0, {}, 0.5, 0, rgb<double>(0.25), rgb<double>{0, 0, 1}});
    found.steps.push_back({std::acos(-1.0) / 2, {}, 0.25, 0.5, std::nullopt, std::nullopt});
    const json all = parsed(report::data_of(quay(), found));
    CHECK(all["what"] == "eye");
    CHECK(all["point"]["object"] == "buoy");
    CHECK(all["point"]["position"] == json::parse("[1.0, 2.0, 3.0]"));
    REQUIRE(all["steps"].size() == 2);
    CHECK(all["steps"][0]["specular"] == json::parse("[0.0, 0.0, 1.0]"));
    CHECK(std::abs(all["steps"][1]["degrees"].get<double>() - 90) <= 1e-12);
    CHECK(all["steps"][1]["largest_difference"] == 0.5);
    CHECK_FALSE(all["steps"][1].contains("diffuse"));
    found.point.reset();
    CHECK_FALSE(parsed(report::data_of(quay(), found)).contains("point"));
}

TEST_CASE("data: curves, a pole of the law as null") {
    study::curves found;
    found.lights.push_back({"lantern", light_kind::point, "1 / d²"});
    found.falloffs.push_back({"inverse-square: 1 / d²", {"lantern"}, {{0, infinite}, {2, 0.25}}});
    const json all = parsed(report::data_of(quay(), found));
    CHECK(all["lights"][0] == json::parse(R"({"name": "lantern", "kind": "point", "says": "1 / d²"})"));
    CHECK(all["falloffs"][0]["law"] == "inverse-square: 1 / d²");
    CHECK(all["falloffs"][0]["lights"] == json::parse(R"(["lantern"])"));
    CHECK(all["falloffs"][0]["points"] == json::parse("[[0.0, null], [2.0, 0.25]]"));
    CHECK(all["penumbras"] == json::array());
}

TEST_CASE("data: cost, of the pipeline with its stages, of a driver without") {
    study::cost found;
    found.instruction_set = "avx2";
    study::rate_cost fragment;
    fragment.median = 4;
    fragment.lower = 3;
    fragment.upper = 5;
    fragment.shading = 0.75;
    fragment.statistics.evaluations = 2560;
    found.rates.push_back(fragment);
    const json all = parsed(report::data_of(quay(), found, 15));
    CHECK(all["repeat"] == 15);
    CHECK(all["instruction_set"] == "avx2");
    CHECK(all["rates"][0]["milliseconds"] == 4.0);
    CHECK(all["rates"][0]["quartiles"] == json::parse("[3.0, 5.0]"));
    CHECK(all["rates"][0]["shading"] == 0.75);
    CHECK(all["rates"][0]["evaluations"] == 2560);
    CHECK_FALSE(all.contains("driver"));
    found.drawn_by = "a driver";
    const json by_driver = parsed(report::data_of(quay(), found, 15));
    CHECK(by_driver["driver"] == "a driver");
    CHECK(by_driver["rates"][0]["evaluations"].is_null());
    CHECK(by_driver["rates"][0]["pixels"] == 64 * 40);
    CHECK_FALSE(by_driver["rates"][0].contains("shading"));
}

TEST_CASE("data: a run of checks, with what failed and its diagnosis") {
    study::check_run run;
    verify::check_result held;
    held.name = "fragment, at the foot of the lantern";
    held.scene = "quay";
    held.kind = "expectation";
    held.x = 3;
    held.y = 4;
    held.measured = {0.5, 0.25, 0};
    held.expected = {0.5, 0.25, 0};
    held.tolerance = 0.125;
    held.passed = true;
    verify::check_result failed = held;
    failed.measured = {infinite, std::nan(""), 1};
    failed.used = infinite;
    failed.passed = false;
    run.results = {held, failed};
    run.diagnoses.push_back({"quay", two_explanations()});
    const json all = parsed(report::data_of(run));
    CHECK(all["passed"] == 1);
    CHECK(all["failed"] == 1);
    REQUIRE(all["checks"].size() == 2);
    CHECK(all["checks"][0]["name"] == "fragment, at the foot of the lantern");
    CHECK(all["checks"][0]["kind"] == "expectation");
    CHECK(all["checks"][0]["pixel"] == json::parse("[3, 4]"));
    CHECK(all["checks"][0]["expected"] == json::parse("[0.5, 0.25, 0.0]"));
    CHECK(all["checks"][0]["tolerance"] == 0.125);
    CHECK(all["checks"][0]["passed"] == true);
    CHECK(all["checks"][1]["measured"] == json::parse("[null, null, 1.0]"));
    CHECK(all["checks"][1]["used"].is_null());
    REQUIRE(all["diagnosis"].size() == 1);
    CHECK(all["diagnosis"][0]["scene"] == "quay");
    CHECK(all["diagnosis"][0]["verdict"] == "mistake");
}

TEST_CASE("data: a diagnosis: explanations best first, ties, and the make-up") {
    verify::diagnosis found = two_explanations();
    json all = parsed(report::data_of(found));
    CHECK(all["verdict"] == "mistake");
    REQUIRE(all["mistakes"].size() == 2);
    CHECK(all["mistakes"][0]["id"] == "falloff-missing");
    CHECK(all["mistakes"][0]["residual"] == 0.25);
    CHECK(all["mistakes"][1]["ids"] == json::parse(R"(["falloff-missing", "encode-twice"])"));
    CHECK(all["mistakes"][1]["exposure"] == 1.5);
    CHECK(all["ties"] == json::parse(R"(["falloff-missing", "cosine-not-clamped"])"));
    CHECK(all["separated_by"].is_null());
    CHECK(all["residual"] == 12.5);
    CHECK(all["compared"] == 1000);
    CHECK(all["off"] == 250);
    CHECK(all["off_with_mistake"] == 3);
    CHECK(all["pixel"] == json::parse("[7, 9]"));
    CHECK(all["makeup"][0] ==
          json::parse(R"({"light": "lantern", "term": "diffuse", "factor": 0.5, "suggests": "half"})"));
    CHECK(all["makeup"][1]["light"].is_null());
    CHECK(all["remarks"] == json::parse(R"(["the picture is noisy"])"));
    found.verdict = verify::verdict_kind::right;
    found.x = -1;
    found.separated_by = "pier";
    all = parsed(report::data_of(found));
    CHECK(all["verdict"] == "right");
    CHECK(all["pixel"].is_null());
    CHECK(all["separated_by"] == "pier");
    found.verdict = verify::verdict_kind::unknown;
    CHECK(parsed(report::data_of(found))["verdict"] == "unknown");
}

TEST_CASE("data: an explanation; a pixel that hits nothing has no object and no lights") {
    verify::explanation explained;
    explained.rate = rate::fragment;
    explained.linear = {0.5, 2, -1};
    explained.encoded = {188, 255, 0};
    explained.clamped = {false, true, true};
    json all = parsed(report::data_of(explained, 5, 6));
    CHECK(all["pixel"] == json::parse("[5, 6]"));
    CHECK(all["object"].is_null());
    CHECK_FALSE(all.contains("lights"));
    CHECK(all["linear"] == json::parse("[0.5, 2.0, -1.0]"));
    CHECK(all["encoded"] == json::parse("[188, 255, 0]"));
    CHECK(all["clamped"] == true);
    CHECK(all["clamped_components"] == json::parse("[false, true, true]"));

    explained.object = 0;
    explained.object_name = "buoy";
    explained.material_name = "paint";
    explained.point.normal_length = 0.875;
    verify::explained_light lantern;
    lantern.name = "lantern";
    lantern.kind = light_kind::spot;
    lantern.cone_cosine = 0.75;
    lantern.distance = infinite;
    verify::explained_light moon;
    moon.name = "moon";
    moon.kind = light_kind::directional;
    explained.point.lights = {lantern, moon};
    explained.rate = rate::vertex;
    explained.vertices.resize(3);
    explained.vertices[1].weight = 0.625;
    all = parsed(report::data_of(explained, 5, 6));
    CHECK(all["object"] == "buoy");
    CHECK(all["material"] == "paint");
    CHECK(all["rate"] == "vertex");
    CHECK(all["normal_length"] == 0.875);
    REQUIRE(all["lights"].size() == 2);
    CHECK(all["lights"][0]["kind"] == "spot");
    CHECK(all["lights"][0]["cone_cosine"] == 0.75);
    CHECK(all["lights"][0]["distance"].is_null());
    CHECK(all["lights"][1]["cone_cosine"].is_null());
    for (const char* field : {"to_light", "cosine", "falloff", "penumbra", "half", "reflected", "diffuse",
                              "specular", "arriving", "highlight"}) {
        CAPTURE(field);
        CHECK(all["lights"][1].contains(field));
    }
    REQUIRE(all["vertices"].size() == 3);
    CHECK(all["vertices"][1]["weight"] == 0.625);
    CHECK(all["vertices"][1].contains("normal"));
}

TEST_CASE("data: the catalogue's entries and a reference scene") {
    const verify::mistake_entry& entry = verify::entry_of(verify::mistake::falloff_missing);
    const json all = parsed(report::data_of(entry));
    CHECK(all["id"] == "falloff-missing");
    for (const char* field : {"what", "symptom", "cause", "fix", "applies_to"}) {
        CAPTURE(field);
        CHECK(all[field].get<std::string>().size() > 3);
    }
    CHECK(all["scenes"].is_array());
}

TEST_CASE("data: a light block, byte by byte") {
    packed_lights packed;
    packed.layout = block_layout::std430;
    packed.members = {{"position", "vec3", 3, 0, 12, 4}};
    packed.stride = 16;
    packed.count_offset = 32;
    packed.size = 48;
    const json all = parsed(report::data_of(packed));
    CHECK(all["layout"] == "std430");
    CHECK(all["members"][0] ==
          json::parse(R"({"name": "position", "type": "vec3", "offset": 0, "size": 12, "padding": 4})"));
    CHECK(all["stride"] == 16);
    CHECK(all["count_offset"] == 32);
    CHECK(all["size"] == 48);
}
