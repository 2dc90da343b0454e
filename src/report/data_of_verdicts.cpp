// Checks, diagnoses and explanations as JSON, and what they are about.
#include "report/data_json.hpp"
#include "yurvo/scene/names.hpp"

namespace yurvo::inline v0_1::report {

namespace {

using report::json_of; // not hidden by those below

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

json part_of(const verify::explained_light& lit) {
    return {{"name", lit.name},
            {"kind", name_of(lit.kind)},
            {"to_light", json_of(lit.to_light)},
            {"distance", json_of(lit.distance)},
            {"cosine", lit.cosine},
            {"falloff", lit.falloff},
            {"penumbra", lit.penumbra},
            {"cone_cosine", lit.kind == light_kind::spot ? json(lit.cone_cosine) : json(nullptr)},
            {"arriving", json_of(lit.arriving)},
            {"half", json_of(lit.half)},
            {"reflected", json_of(lit.reflected)},
            {"highlight_cosine", lit.highlight_cosine},
            {"highlight", lit.highlight},
            {"ambient", json_of(lit.ambient)},
            {"diffuse", json_of(lit.diffuse)},
            {"specular", json_of(lit.specular)}};
}

json part_of(const verify::explained_formula& asked) {
    const auto numbers = [](const std::vector<double>& values) {
        json list = json::array();
        for (const double value : values) {
            list.push_back(json_of(value));
        }
        return values.size() == 1 ? list[0] : list;
    };
    json inputs = json::object();
    for (const verify::explained_formula::input& each : asked.inputs) {
        inputs[each.name] = numbers(each.value);
    }
    return {{"name", asked.name},
            {"light", asked.light.empty() ? json(nullptr) : json(asked.light)},
            {"value", numbers(asked.value)},
            {"formula", asked.text},
            {"inputs", inputs}};
}

json part_of(const verify::explained_point& at) {
    json asked = json::array();
    for (const verify::explained_formula& each : at.formulas) {
        asked.push_back(part_of(each));
    }
    json lights = json::array();
    for (const verify::explained_light& lit : at.lights) {
        lights.push_back(part_of(lit));
    }
    return {{"position", json_of(at.position)},
            {"normal", json_of(at.normal)},
            {"normal_length", at.normal_length},
            {"to_eye", json_of(at.to_eye)},
            {"base", json_of(at.base)},
            {"ambient", json_of(at.ambient)},
            {"emission", json_of(at.emission)},
            {"lights", lights},
            {"formulas", asked}};
}

json json_of(const verify::diagnosis& found);

json json_of(const study::check_run& run) {
    json data{{"checks", json::array()}};
    for (const verify::check_result& result : run.results) {
        data["checks"].push_back({{"name", result.name},
                                  {"scene", result.scene},
                                  {"kind", result.kind},
                                  {"measured", json_of(result.measured)},
                                  {"expected", json_of(result.expected)},
                                  {"tolerance", result.tolerance},
                                  {"passed", result.passed},
                                  {"pixel", {result.x, result.y}},
                                  {"used", json_of(result.used)},
                                  {"remark", result.remark}});
    }
    data["passed"] = run.passed();
    data["failed"] = run.failed();
    data["diagnosis"] = json::array();
    for (const study::failure_diagnosis& failure : run.diagnoses) {
        json entry = json_of(failure.found);
        entry["scene"] = failure.scene;
        data["diagnosis"].push_back(entry);
    }
    return data;
}

json json_of(const verify::diagnosis& found) {
    json data{{"verdict", word_of(found.verdict)}, {"mistakes", json::array()}, {"ties", json::array()}};
    for (const verify::suspect& candidate : found.mistakes) {
        json ids = json::array();
        for (const verify::mistake which : candidate.which) {
            ids.push_back(verify::entry_of(which).id);
        }
        data["mistakes"].push_back({{"id", candidate.id()},
                                    {"residual", candidate.residual},
                                    {"exposure", candidate.exposure},
                                    {"ids", ids}});
    }
    for (const verify::mistake each : found.ties) {
        data["ties"].push_back(verify::entry_of(each).id);
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

json json_of(const verify::explanation& explained, int x, int y) {
    json data{
        {"pixel", {x, y}}, {"object", nullptr}, {"material", nullptr}, {"rate", name_of(explained.rate)}};
    if (explained.object) {
        data["object"] = explained.object_name;
        data["material"] = explained.material_name;
        data["triangle"] = explained.triangle;
        data["front"] = explained.front;
        data.update(part_of(explained.point));
        if (explained.rate == rate::vertex) {
            data["vertices"] = json::array();
            for (const verify::explained_vertex& vertex : explained.vertices) {
                json entry{{"weight", vertex.weight}, {"color", json_of(vertex.at.color)}};
                entry.update(part_of(vertex.at));
                data["vertices"].push_back(entry);
            }
        }
    }
    data["linear"] = json_of(explained.linear);
    data["alpha"] = explained.alpha;
    data["encoded"] = explained.encoded;
    data["clamped"] = explained.clamped[0] || explained.clamped[1] || explained.clamped[2];
    data["clamped_components"] = explained.clamped;
    return data;
}

json json_of(const study::found_pixel& found, const std::string& picture) {
    json changes = json::array();
    for (const verify::needed_change& change : found.changes) {
        changes.push_back({{"what", change.what},
                           {"factor", change.factor},
                           {"number", change.number},
                           {"is", change.is},
                           {"would_be", change.would_be}});
    }
    return {{"picture", picture},
            {"linear", json_of(found.linear)},
            {"encoded", found.encoded},
            {"would_need", changes}};
}

json json_of(const verify::mistake_entry& entry) {
    return {{"id", entry.id},        {"what", entry.what}, {"symptom", entry.symptom},
            {"cause", entry.cause},  {"fix", entry.fix},   {"applies_to", entry.applies_to},
            {"scenes", entry.scenes}};
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

} // namespace

data data_of(const study::check_run& run) { return data_access::make(json_of(run)); }
data data_of(const verify::diagnosis& found) { return data_access::make(json_of(found)); }
data data_of(const verify::explanation& explained, int x, int y) {
    return data_access::make(json_of(explained, x, y));
}
data data_of(const study::found_pixel& found, const std::string& picture) {
    return data_access::make(json_of(found, picture));
}
data data_of(const verify::mistake_entry& entry) { return data_access::make(json_of(entry)); }
data data_of(const verify::reference_scene& reference) { return data_access::make(json_of(reference)); }

} // namespace yurvo::inline v0_1::report
