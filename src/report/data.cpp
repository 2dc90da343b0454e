#include "yurvo/report/data.hpp"

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

#include "yurvo/scene/names.hpp"

namespace yurvo::report {

struct data::parts {
    nlohmann::ordered_json value = nlohmann::ordered_json::object();
};

namespace {

using json = nlohmann::ordered_json;

// JSON has no infinity: what is not a finite number is null there.
json json_of(double value) { return std::isfinite(value) ? json(value) : json(nullptr); }
json json_of(const rgb<float>& color) { return {color.r, color.g, color.b}; }
json json_of(const rgb<double>& color) { return {json_of(color.r), json_of(color.g), json_of(color.b)}; }
json json_of(const vec3<double>& vector) { return {json_of(vector.x), json_of(vector.y), json_of(vector.z)}; }

std::string_view word_of(verify::verdict_kind verdict) {
    switch (verdict) {
    case verify::verdict_kind::right:
        return "right";
    case verify::verdict_kind::mistake:
        return "mistake";
    case verify::verdict_kind::unknown:
        break;
    }
    return "unknown";
}

json part_of(const verify::explained_light& one) {
    return {{"name", one.name},
            {"kind", name_of(one.kind)},
            {"to_light", json_of(one.to_light)},
            {"distance", json_of(one.distance)},
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

json part_of(const verify::explained_point& at) {
    json lights = json::array();
    for (const verify::explained_light& one : at.lights) {
        lights.push_back(part_of(one));
    }
    return {{"position", json_of(at.position)},  {"normal", json_of(at.normal)},
            {"normal_length", at.normal_length}, {"to_eye", json_of(at.to_eye)},
            {"base", json_of(at.base)},          {"ambient", json_of(at.ambient)},
            {"emission", json_of(at.emission)},  {"lights", lights}};
}

json json_of(const std::vector<double>& values) {
    json list = json::array();
    for (const double value : values) {
        list.push_back(json_of(value));
    }
    return list;
}

json json_of(const std::vector<std::pair<double, double>>& points) {
    json list = json::array();
    for (const auto& [across, up] : points) {
        list.push_back({across, json_of(up)});
    }
    return list;
}

json json_of(const std::vector<study::law_curve>& curves) {
    json list = json::array();
    for (const study::law_curve& one : curves) {
        list.push_back({{"lights", one.lights}, {"law", one.law}, {"points", json_of(one.points)}});
    }
    return list;
}

json size_of(const scene& of) { return {of.view.width, of.view.height}; }

json json_of(const study::named_scene& of, const study::rates& found) {
    json data{{"scene", of.name},
              {"model", found.model},
              {"size", size_of(of.scene)},
              {"rates", json::array()},
              {"differences", json::array()}};
    for (const study::drawn_rate* one : {&found.face, &found.vertex, &found.fragment}) {
        data["rates"].push_back({{"rate", name_of(one->at)},
                                 {"evaluations", one->statistics.evaluations},
                                 {"pixels", one->statistics.pixels},
                                 {"brightest", json_of(one->brightest)},
                                 {"brightest_at", {one->x, one->y}}});
    }
    const auto add = [&](rate at, const difference& off) {
        data["differences"].push_back({{"rate", name_of(at)},
                                       {"against", "fragment"},
                                       {"largest", off.largest},
                                       {"largest_at", {off.largest_x, off.largest_y}},
                                       {"mean", off.mean},
                                       {"mean_signed", off.mean_signed},
                                       {"root_mean_square", off.root_mean_square},
                                       {"pixels", off.pixels_that_differ}});
    };
    add(rate::face, found.face_off);
    add(rate::vertex, found.vertex_off);
    return data;
}

json json_of(const study::named_scene& of, const study::rate_claim& found, const std::string& program) {
    json data{{"scene", of.name},
              {"program", program},
              {"claims", name_of(found.claimed)},
              {"rates", json::array()},
              {"nearest", name_of(found.nearest)}};
    for (const study::rate_distance& one : found.rates) {
        data["rates"].push_back(
            {{"rate", name_of(one.at)}, {"largest", one.off.largest}, {"mean", one.off.mean}});
    }
    return data;
}

json json_of(const study::named_scene& of, const study::layers& found) {
    json data{{"scene", of.name}, {"model", found.model}, {"layers", json::array()}};
    for (const study::layer& one : found.list) {
        json entry{{"name", one.name}, {"mean", one.mean}};
        if (one.adds) {
            entry["adds"] = {{"largest", one.adds->largest},
                             {"largest_at", {one.adds->largest_x, one.adds->largest_y}},
                             {"mean", one.adds->mean_signed}};
        }
        data["layers"].push_back(entry);
    }
    return data;
}

json json_of(const study::named_scene& of, const study::turn& found) {
    json data{{"scene", of.name}, {"what", name_of(found.what)}, {"steps", json::array()}};
    if (found.point) {
        data["point"] = {{"object", found.point->object}, {"position", json_of(found.point->position)}};
    }
    for (const study::turn_step& one : found.steps) {
        json entry{{"degrees", degrees(one.angle)},
                   {"mean", one.mean},
                   {"largest_difference", one.largest_difference}};
        if (one.diffuse && one.specular) {
            entry["diffuse"] = json_of(*one.diffuse);
            entry["specular"] = json_of(*one.specular);
        }
        data["steps"].push_back(entry);
    }
    return data;
}

json json_of(const study::named_scene& of, const study::curves& found) {
    json data{{"scene", of.name}, {"lights", json::array()}};
    for (const study::light_laws& one : found.lights) {
        data["lights"].push_back({{"name", one.name}, {"kind", name_of(one.kind)}, {"says", one.laws}});
    }
    data["falloffs"] = json_of(found.falloffs);
    data["penumbras"] = json_of(found.penumbras);
    return data;
}

json json_of(const study::named_scene& of, const study::cost& found, int repeat) {
    json data{{"scene", of.name},
              {"model", found.model},
              {"size", size_of(of.scene)},
              {"repeat", repeat},
              {"instruction_set", found.instruction_set},
              {"rates", json::array()},
              {"says", found.advice}};
    const bool driver = !found.drawn_by.empty();
    if (driver) {
        data["driver"] = found.drawn_by;
    }
    for (const study::rate_cost& one : found.rates) {
        json entry{{"rate", name_of(one.at)},
                   {"milliseconds", one.median},
                   {"quartiles", {one.lower, one.upper}},
                   {"evaluations", driver ? json(nullptr) : json(one.statistics.evaluations)},
                   {"pixels", driver ? json(static_cast<std::uint64_t>(of.scene.view.width) *
                                            static_cast<std::uint64_t>(of.scene.view.height))
                                     : json(one.statistics.pixels)}};
        if (!driver) {
            entry["vertices"] = one.vertices;
            entry["visibility"] = one.visibility;
            entry["shading"] = one.shading;
            entry["encoding"] = one.encoding;
        }
        data["rates"].push_back(entry);
    }
    return data;
}

json json_of(const picture& a, const picture& b, const study::comparison& found) {
    const difference& linear = found.linear;
    return {{"size", {a.width, a.height}},
            {"same", found.same()},
            {"linear",
             {{"largest", linear.largest},
              {"largest_at", {linear.largest_x, linear.largest_y}},
              {"a", json_of(a.color(linear.largest_x, linear.largest_y))},
              {"b", json_of(b.color(linear.largest_x, linear.largest_y))},
              {"mean", linear.mean},
              {"mean_signed", linear.mean_signed},
              {"root_mean_square", linear.root_mean_square},
              {"pixels", linear.pixels_that_differ}}},
            {"codes",
             {{"largest", found.codes.largest},
              {"largest_at", {found.codes.x, found.codes.y}},
              {"mean", found.codes.mean},
              {"pixels", found.codes.pixels}}},
            {"largest_alpha", linear.largest_alpha}};
}

json json_of(const verify::diagnosis& found);

json json_of(const study::check_run& run) {
    json data{{"checks", json::array()}};
    for (const verify::check_result& one : run.results) {
        data["checks"].push_back({{"name", one.name},
                                  {"scene", one.scene},
                                  {"kind", one.kind},
                                  {"measured", json_of(one.measured)},
                                  {"expected", json_of(one.expected)},
                                  {"tolerance", one.tolerance},
                                  {"passed", one.passed},
                                  {"pixel", {one.x, one.y}},
                                  {"used", json_of(one.used)},
                                  {"remark", one.remark}});
    }
    data["passed"] = run.passed();
    data["failed"] = run.failed();
    data["diagnosis"] = json::array();
    for (const study::failure_diagnosis& one : run.diagnoses) {
        json entry = json_of(one.found);
        entry["scene"] = one.scene;
        data["diagnosis"].push_back(entry);
    }
    return data;
}

json json_of(const verify::diagnosis& found) {
    json data{{"verdict", word_of(found.verdict)}, {"mistakes", json::array()}, {"ties", json::array()}};
    for (const verify::suspect& one : found.mistakes) {
        json ids = json::array();
        for (const verify::mistake which : one.which) {
            ids.push_back(verify::entry_of(which).id);
        }
        data["mistakes"].push_back(
            {{"id", one.id()}, {"residual", one.residual}, {"exposure", one.exposure}, {"ids", ids}});
    }
    for (const verify::mistake one : found.ties) {
        data["ties"].push_back(verify::entry_of(one).id);
    }
    data["separated_by"] = found.separated_by.empty() ? json(nullptr) : json(found.separated_by);
    data["residual"] = found.residual;
    data["exposure"] = found.exposure;
    data["compared"] = found.compared;
    data["off"] = found.off;
    data["off_with_mistake"] = found.off_with;
    data["tolerance"] = found.tolerance;
    data["pixel"] = found.x >= 0 ? json{found.x, found.y} : json(nullptr);
    data["makeup"] = json::array();
    for (const verify::makeup_part& part : found.makeup) {
        data["makeup"].push_back({{"light", part.light.empty() ? json(nullptr) : json(part.light)},
                                  {"term", part.term},
                                  {"factor", part.factor},
                                  {"suggests", part.suggests}});
    }
    data["remarks"] = found.remarks;
    return data;
}

json json_of(const verify::explanation& told, int x, int y) {
    json data{{"pixel", {x, y}}, {"object", nullptr}, {"material", nullptr}, {"rate", name_of(told.rate)}};
    if (told.object) {
        data["object"] = told.object_name;
        data["material"] = told.material_name;
        data["triangle"] = told.triangle;
        data["front"] = told.front;
        data.update(part_of(told.point));
        if (told.rate == rate::vertex) {
            data["vertices"] = json::array();
            for (const verify::explained_vertex& vertex : told.vertices) {
                json one{{"weight", vertex.weight}, {"color", json_of(vertex.at.color)}};
                one.update(part_of(vertex.at));
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

json json_of(const study::found_pixel& found, const std::string& picture) {
    json changes = json::array();
    for (const verify::needed_change& one : found.changes) {
        changes.push_back({{"what", one.what},
                           {"factor", one.factor},
                           {"number", one.number},
                           {"is", one.is},
                           {"would_be", one.would_be}});
    }
    return {{"picture", picture},
            {"linear", json_of(found.linear)},
            {"encoded", found.encoded},
            {"would_need", changes}};
}

json json_of(const verify::mistake_entry& one) {
    return {{"id", one.id},        {"what", one.what}, {"symptom", one.symptom},
            {"cause", one.cause},  {"fix", one.fix},   {"applies_to", one.applies_to},
            {"scenes", one.scenes}};
}

json json_of(const verify::reference_scene& reference) {
    json data{{"name", reference.name},
              {"title", reference.scene.title},
              {"shows", reference.shows},
              {"known", reference.known},
              {"reveals", verify::mistakes_revealed_in(reference.name)},
              {"rates", json::array()}};
    for (const rate at : reference.rates) {
        data["rates"].push_back(name_of(at));
    }
    return data;
}

json json_of(const packed_lights& packed) {
    json list = json::array();
    for (const packed_member& member : packed.members) {
        list.push_back({{"name", member.name},
                        {"type", member.type},
                        {"offset", member.offset},
                        {"size", member.size},
                        {"padding", member.padding}});
    }
    return {{"layout", name_of(packed.layout)},
            {"members", list},
            {"stride", packed.stride},
            {"count_offset", packed.count_offset},
            {"size", packed.size}};
}

json json_of(const block_member& one) {
    return {{"block", one.block},
            {"member", one.name},
            {"type", one.type},
            {"offset", one.offset},
            {"plain_offset", one.plain_offset}};
}

json json_of(const program_renderer& program, const std::vector<std::string>& fitted,
             const study::check_run& run) {
    const tolerance_model allowed = program.tolerance();
    double largest = 0;
    for (const verify::check_result& one : run.results) {
        largest = one.kind == "second-method" ? std::max(largest, one.largest) : largest;
    }
    return {{"driver", program.drawn_by()},
            {"allowed", {{"precision", allowed.precision}, {"snap", allowed.snap}}},
            {"normals_unit_at_vertices", allowed.unit_at_vertices},
            {"largest_difference", largest},
            {"fitted", fitted}};
}

} // namespace

data make_data(data::parts&& of) {
    data made;
    *made.parts_ = std::move(of);
    return made;
}

data::data() : parts_(std::make_shared<parts>()) {}
data& data::set(std::string_view name, std::string_view text) {
    parts_->value[std::string(name)] = text;
    return *this;
}
data& data::set(std::string_view name, double number) {
    parts_->value[std::string(name)] = json_of(number);
    return *this;
}
data& data::set(std::string_view name, std::uint64_t number) {
    parts_->value[std::string(name)] = number;
    return *this;
}
data& data::set(std::string_view name, int number) {
    parts_->value[std::string(name)] = number;
    return *this;
}
data& data::set(std::string_view name, bool value) {
    parts_->value[std::string(name)] = value;
    return *this;
}
data& data::set(std::string_view name, const std::vector<int>& numbers) {
    parts_->value[std::string(name)] = numbers;
    return *this;
}
data& data::set(std::string_view name, const std::vector<std::uint8_t>& bytes) {
    parts_->value[std::string(name)] = bytes;
    return *this;
}
data& data::set(std::string_view name, const std::vector<std::string>& texts) {
    parts_->value[std::string(name)] = texts;
    return *this;
}
data& data::set(std::string_view name, const std::vector<data>& list) {
    json& made = parts_->value[std::string(name)] = json::array();
    for (const data& one : list) {
        made.push_back(one.parts_->value);
    }
    return *this;
}
data& data::set(std::string_view name, const data& value) {
    parts_->value[std::string(name)] = value.parts_->value;
    return *this;
}
data& data::add(const data& fields) {
    parts_->value.update(fields.parts_->value);
    return *this;
}
data& data::set_in(std::string_view list, std::size_t i, std::string_view name, std::string_view text) {
    parts_->value[std::string(list)][i][std::string(name)] = text;
    return *this;
}
std::string data::text() const {
    return parts_->value.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

data data_of(const study::named_scene& of, const study::rates& found) {
    return make_data({json_of(of, found)});
}
data data_of(const study::named_scene& of, const study::rate_claim& found, const std::string& program) {
    return make_data({json_of(of, found, program)});
}
data data_of(const study::named_scene& of, const study::layers& found) {
    return make_data({json_of(of, found)});
}
data data_of(const study::named_scene& of, const study::turn& found) {
    return make_data({json_of(of, found)});
}
data data_of(const study::named_scene& of, const study::curves& found) {
    return make_data({json_of(of, found)});
}
data data_of(const study::named_scene& of, const study::cost& found, int repeat) {
    return make_data({json_of(of, found, repeat)});
}
data data_of(const picture& a, const picture& b, const study::comparison& found) {
    return make_data({json_of(a, b, found)});
}
data data_of(const study::check_run& run) { return make_data({json_of(run)}); }
data data_of(const verify::diagnosis& found) { return make_data({json_of(found)}); }
data data_of(const verify::explanation& told, int x, int y) { return make_data({json_of(told, x, y)}); }
data data_of(const study::found_pixel& found, const std::string& picture) {
    return make_data({json_of(found, picture)});
}
data data_of(const verify::mistake_entry& one) { return make_data({json_of(one)}); }
data data_of(const verify::reference_scene& reference) { return make_data({json_of(reference)}); }
data data_of(const packed_lights& packed) { return make_data({json_of(packed)}); }
data data_of(const block_member& member) { return make_data({json_of(member)}); }
data data_of(const program_renderer& program, const std::vector<std::string>& fitted,
             const study::check_run& run) {
    return make_data({json_of(program, fitted, run)});
}

} // namespace yurvo::report
