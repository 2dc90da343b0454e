#include "yurvo/report/page.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <ctime>

#include <fmt/format.h>
#include <kainjow/mustache.hpp>
#include <nlohmann/json.hpp>

#include "embedded_page.hpp"
#include "yurvo/files/base64.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/pipeline/instruction_set.hpp"
#include "yurvo/report/check_run.hpp"
#include "yurvo/report/cost.hpp"
#include "yurvo/report/curves.hpp"
#include "yurvo/report/data.hpp"
#include "yurvo/report/diagnosis.hpp"
#include "yurvo/report/explanation.hpp"
#include "yurvo/report/fonts.hpp"
#include "yurvo/report/layers.hpp"
#include "yurvo/report/rates.hpp"
#include "yurvo/report/sheet.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/visible_text.hpp"
#include "yurvo/verify/mistakes.hpp"

namespace yurvo::inline v0_1::report {

namespace {

using kainjow::mustache::data;
using list = data::type;
using nlohmann::ordered_json;
using value = kainjow::mustache::data;

std::string_view embedded(std::string_view name) {
    for (const auto& each : embedded_page()) {
        if (each.name == name) {
            return each.bytes;
        }
    }
    return {};
}

// Text of files, for people: what would end a line or turn a terminal is a sign of its own.
std::string printable(std::string_view text) {
    std::string kept;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if ((byte < 0x20 && c != '\n' && c != '\t') || byte == 0x7F) {
            kept += "\xEF\xBF\xBD"; // U+FFFD
        } else {
            kept += c;
        }
    }
    return kept;
}

std::string picture_address(const picture& of) { return "data:image/png;base64," + base64(png_bytes(of)); }

// JSON within a page: nothing in it ends a script.
std::string in_script(const std::string& text) {
    std::string kept;
    for (const char c : text) {
        kept += c == '<' ? "\\u003c" : c == '>' ? "\\u003e" : c == '&' ? "\\u0026" : std::string(1, c);
    }
    return kept;
}

std::string share(double used) {
    return std::isfinite(used)
               ? used < 10 ? fmt::format("{:.0f} %", 100 * used) : fmt::format("{:.3g} times", used)
               : std::string("nothing was drawn");
}

ordered_json numbers_of(const rgb<double>& c) { return {c.r, c.g, c.b}; }

// What the script needs to add a scene's layers up; null where it is no sum.
ordered_json layers_of(const study::scene_evidence& of) {
    const study::relight& parts = of.parts;
    if (!parts.why_not.empty()) {
        return nullptr;
    }
    ordered_json made;
    made["width"] = parts.background.width;
    made["height"] = parts.background.height;
    made["shift"] = page_shift;
    made["ambient"] = {{"color", numbers_of(parts.ambient_color)}, {"strength", parts.ambient_strength}};
    made["lights"] = ordered_json::array();
    for (const study::relit_light& light : parts.lights) {
        made["lights"].push_back({{"name", printable(light.name)},
                                  {"color", numbers_of(light.color)},
                                  {"intensity", light.intensity}});
    }
    made["terms"] = ordered_json::array();
    for (const term_descriptor& each : term_list) {
        const bool has =
            std::any_of(parts.layers.begin(), parts.layers.end(),
                        [&](const study::linear_layer& layer) { return layer.what == each.kind; });
        if (has) {
            made["terms"].push_back(each.name);
        }
    }
    made["layers"] = ordered_json::array();
    for (const study::linear_layer& layer : parts.layers) {
        ordered_json one{{"term", name_of(layer.what)}};
        one["light"] = layer.light ? ordered_json(*layer.light) : ordered_json(nullptr);
        made["layers"].push_back(one);
    }
    made["packed"] = base64(packed_layers(parts));
    return made;
}

value mistake_of(const verify::mistake_entry& entry) {
    value one;
    one.set("id", std::string(entry.id));
    one.set("what", std::string(entry.what));
    one.set("symptom", std::string(entry.symptom));
    one.set("cause", std::string(entry.cause));
    one.set("fix", std::string(entry.fix));
    return one;
}

value mistakes_of(const verify::diagnosis& found) {
    value all{list::list};
    if (found.verdict != verify::verdict_kind::mistake || found.mistakes.empty()) {
        return all;
    }
    std::vector<verify::mistake> which = found.mistakes.front().which;
    which.insert(which.end(), found.ties.begin(), found.ties.end());
    for (const verify::mistake each : which) {
        all << mistake_of(verify::entry_of(each));
    }
    return all;
}

value makeup_of(const verify::diagnosis& found) {
    value all{list::list};
    for (const verify::makeup_part& part : found.makeup) {
        value one;
        one.set("part", printable((part.light.empty() ? "" : part.light + ", ") + part.term));
        one.set("factor", fmt::format("{:.2f}", part.factor));
        one.set("width", fmt::format("{:.1f}", std::clamp(part.factor / 2, 0.0, 1.0) * 100));
        one.set("right", std::abs(part.factor - 1) < 0.02 ? value::type::bool_true : value::type::bool_false);
        all << one;
    }
    return all;
}

std::string worked_text(const study::scene_evidence& of, const std::string& subject) {
    if (!of.pixel) {
        return "";
    }
    const study::worked_pixel& at = *of.pixel;
    std::string text =
        explanation_text(of.of, built_in_renderer().name_for(of.of.scene), at.right, at.x, at.y);
    if (at.found) {
        text += found_pixel_text(at.right, *at.found, subject);
    }
    return printable(text);
}

value failure_of(const study::scene_evidence& of, const std::string& subject, pixel_format held) {
    value one;
    one.set("name", printable(of.of.name));
    std::string failure;
    for (const verify::check_result& each : of.checks) {
        if (!each.passed) {
            failure = failure_text(each);
            break;
        }
    }
    one.set("failure", printable(failure));
    if (of.found && of.found->width == of.right.width && of.found->height == of.right.height) {
        const picture right = as_held(of.right, held);
        const double scale = luminance_range(right, *of.found, 0.99);
        value images;
        images.set("found", picture_address(*of.found));
        images.set("right", picture_address(of.right));
        images.set("difference", picture_address(difference_colors(right, *of.found, scale)));
        images.set("scale", fmt::format("{:.2g}", scale));
        images.set("name", printable(of.of.name));
        one.set("images", images);
    }
    if (of.diagnosis) {
        one.set("mistakes", mistakes_of(*of.diagnosis));
        one.set("evidence", printable(diagnosis_text(*of.diagnosis, subject, of.of.name)));
        value makeup = makeup_of(*of.diagnosis);
        one.set("has_makeup",
                of.diagnosis->makeup.empty() ? value::type::bool_false : value::type::bool_true);
        one.set("makeup", makeup);
    }
    if (of.pixel) {
        one.set("pixel", worked_text(of, subject));
    }
    return one;
}

value scene_of(const study::scene_evidence& of, std::size_t index, bool lit, const std::string& subject) {
    value one;
    one.set("name", printable(of.of.name));
    one.set("index", std::to_string(index));
    one.set("right", picture_address(of.right));
    one.set("width", std::to_string(of.right.width));
    one.set("height", std::to_string(of.right.height));
    one.set("state", of.passed() ? "right" : "wrong");
    one.set("meter", fmt::format("{:.3f}", std::clamp(of.used, 0.0, 1.0)));
    one.set("used", share(of.used));
    one.set("can_be_lit", lit ? value::type::bool_true : value::type::bool_false);
    one.set("why_not", of.parts.why_not);
    one.set("count",
            of.checks.size() == 1 ? std::string("1 check") : fmt::format("{} checks", of.checks.size()));
    value checks{list::list};
    for (const verify::check_result& each : of.checks) {
        value row;
        row.set("name", printable(each.name));
        row.set("kind", each.kind);
        row.set("used", share(each.used));
        row.set("state", each.passed ? "right" : "wrong");
        checks << row;
    }
    one.set("checks", checks);
    if (of.passed() && of.pixel) {
        one.set("worked", worked_text(of, subject));
    }
    return one;
}

void add_study(value& to, const std::string& title, const std::string& text, const picture* image) {
    value one;
    one.set("title", printable(title));
    one.set("text", printable(text));
    if (image != nullptr) {
        one.set("image", picture_address(*image));
    }
    to << one;
}

value studies_of(const study::evidence& of) {
    value all{list::list};
    for (const study::scene_evidence& each : of.scenes) {
        const std::string of_scene = " of " + each.of.name;
        if (each.layers) {
            const picture sheet = layers_sheet(each.of, *each.layers);
            add_study(all, "Build-up" + of_scene, layers_text(*each.layers), &sheet);
        }
        if (each.rates) {
            const picture sheet = rates_sheet(each.of, *each.rates);
            add_study(all, "Rates" + of_scene, rates_text(each.of, *each.rates), &sheet);
        }
        if (each.curves) {
            const picture sheet = curves_sheet(each.of, *each.curves);
            add_study(all, "Curves" + of_scene, curves_text(*each.curves), &sheet);
        }
        if (each.cost) {
            const std::string text = cost_text(each.of, *each.cost, of.repeat);
            if (each.growth) {
                const picture sheet = growth_sheet(each.of, each.cost->model, *each.growth);
                add_study(all, "Costs" + of_scene, text, &sheet);
            } else {
                add_study(all, "Costs" + of_scene, text, nullptr);
            }
        }
    }
    return all;
}

value facts_of(const study::evidence& of, const page_facts& facts, const program_renderer* program) {
    value all{list::list};
    const auto add = [&](const std::string& name, const std::string& what) {
        value one;
        one.set("name", name);
        one.set("value", printable(what));
        all << one;
    };
    const std::time_t now = std::time(nullptr);
    std::tm when{};
    gmtime_r(&now, &when);
    std::array<char, 32> date{};
    std::strftime(date.data(), date.size(), "%Y-%m-%d %H:%M UTC", &when);
    add("Made", date.data());
    add("Yurvo", facts.version);
    add("Instruction set",
        std::string(
            pipeline::instruction_set_names[static_cast<std::size_t>(pipeline::chosen_instruction_set())]));
    if (program != nullptr) {
        add("Driver", program->drawn_by());
        const tolerance_model allowed = program->tolerance();
        add("Tolerance",
            fmt::format("{:.3g} times a float's rounding, evaluation up to {:.3g} pixel beside the "
                        "centre; each check's own is derived from what it asks",
                        allowed.precision, allowed.snap));
    } else {
        add("Tolerance", "derived for each check from what it asks: `yurvo check --explain NAME` says how");
    }
    add("Checks", fmt::format("{} held, {} did not", of.run.passed(), of.run.failed()));
    return all;
}

// What is not said of a program that holds in the scenes that were named.
std::string only_text(const study::evidence& of) {
    const std::size_t hidden = of.covered ? of.covered->unseen.size() : 0;
    return fmt::format(
        "In the scenes that were named, and nowhere else{}. Without names all reference scenes are "
        "asked.",
        hidden == 0 ? "" : fmt::format(": {} mistakes that it could hold would not show there", hidden));
}

std::string coverage_text(const verify::coverage& covered, bool of_program) {
    const std::string could =
        of_program ? "that such a program could hold" : "of the catalogue change these scenes";
    return fmt::format("{} mistakes {}; {} of them would show in a scene{}.", covered.could.size(), could,
                       covered.shown.size(),
                       covered.unseen.empty() ? "" : fmt::format(", {} would not", covered.unseen.size()));
}

} // namespace

std::string page(const study::evidence& of, const page_facts& facts, const program_renderer* program) {
    value root;
    root.set("title", printable(facts.title));
    root.set("about", printable(facts.about));
    root.set("version", facts.version);
    root.set("command", printable(facts.command));
    root.set("font", base64(text_font()));
    root.set("style", std::string(embedded("page.css")));
    root.set("script", std::string(embedded("page.js")));
    root.set("kind", of.verdict.what == study::finding::right       ? "right"
                     : of.verdict.what == study::finding::mistake   ? "mistake"
                     : of.run.failed() > 0 && !of.verdict.undecided ? "mistake"
                                                                    : "unknown");
    root.set("line", printable(of.verdict.line));
    if (program != nullptr && !of.all && of.verdict.what == study::finding::right) {
        root.set("only", only_text(of));
    }
    value explained{list::list};
    for (const std::string& id : of.verdict.ids) {
        if (const verify::mistake_entry* entry = verify::find_mistake(id)) {
            explained << mistake_of(*entry);
        }
    }
    root.set("explained", explained);
    value numbers{list::list};
    for (const std::string& each : number_lines(of.run)) {
        numbers << value(printable(each));
    }
    root.set("numbers", numbers);
    value failures{list::list};
    value scenes{list::list};
    ordered_json layers = ordered_json::array();
    bool any_failed = false;
    for (std::size_t i = 0; i < of.scenes.size(); ++i) {
        const study::scene_evidence& each = of.scenes[i];
        if (!each.passed()) {
            failures << failure_of(each, facts.title, of.held);
            any_failed = true;
        }
        layers.push_back(layers_of(each));
        scenes << scene_of(each, i, !layers.back().is_null(), facts.title);
    }
    const auto truth = [](bool is) { return is ? value::type::bool_true : value::type::bool_false; };
    root.set("has_failures", truth(any_failed));
    root.set("failures", failures);
    root.set("scenes", scenes);
    root.set("single", truth(of.scenes.size() == 1));
    if (of.covered) {
        root.set("coverage", coverage_text(*of.covered, program != nullptr));
        value shown{list::list};
        for (std::size_t i = 0; i < of.covered->shown.size(); ++i) {
            value row;
            row.set("id", std::string(verify::entry_of(of.covered->shown[i]).id));
            row.set("where", printable(of.covered->where[i]));
            shown << row;
        }
        root.set("shown", shown);
        value unseen{list::list};
        for (const verify::mistake each : of.covered->unseen) {
            unseen << value(std::string(verify::entry_of(each).id));
        }
        root.set("unseen", unseen);
    }
    root.set("has_coverage", truth(of.covered.has_value()));
    value studies = studies_of(of);
    root.set("has_studies", truth(!studies.is_empty_list()));
    root.set("studies", studies);
    root.set("facts", facts_of(of, facts, program));
    value fitted{list::list};
    for (const std::string& each : of.fitted) {
        fitted << value(printable(each));
    }
    root.set("has_fitted", truth(!of.fitted.empty()));
    root.set("fitted", fitted);
    report::data everything = data_of(of.run);
    if (program != nullptr) {
        everything.add(data_of(*program, of.fitted, of.run));
    }
    if (of.covered) {
        everything.add(data_of(*of.covered));
    }
    root.set("data", in_script(everything.text()));
    root.set("layers", in_script(layers.dump(-1, ' ', false, ordered_json::error_handler_t::replace)));
    kainjow::mustache::mustache made{std::string(embedded("page.html"))};
    if (!made.is_valid()) {
        throw error({"page.html", 0, 0}, made.error_message(), "a template that can be read");
    }
    return visible_text(made.render(root));
}

} // namespace yurvo::inline v0_1::report
