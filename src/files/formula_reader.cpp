#include "files/formula_reader.hpp"

#include <algorithm>
#include <cmath>

namespace yurvo::inline v0_1::files {

namespace {

const toml::table* table_of(const toml::table& root, const char* key, const value_places& places) {
    const toml::node* node = root.get(key);
    if (node == nullptr) {
        return nullptr;
    }
    if (const toml::table* found = node->as_table()) {
        return found;
    }
    throw error(places.at(node->source()), "`" + std::string(key) + "` is not a table",
                "a section that begins with [" + std::string(key) + "]");
}

// Where a character of a text value stands in its file. What the file writes with a backslash is counted as
// the one character that it means.
source_location place_in(const std::string& text, std::size_t offset, const toml::source_region& region,
                         const value_places& places) {
    source_location where = places.at(region);
    const auto lines = static_cast<std::size_t>(std::count(text.begin(), text.end(), '\n'));
    const std::size_t spanned = region.end.line - region.begin.line;
    const auto before = text.begin() + static_cast<std::ptrdiff_t>(offset);
    const auto line = static_cast<std::size_t>(std::count(text.begin(), before, '\n'));
    const auto last = std::find(std::make_reverse_iterator(before), text.rend(), '\n');
    const auto column = static_cast<std::size_t>(before - last.base());
    if (spanned == 0) { // between one quote each
        where.column += 1 + offset;
        return where;
    }
    // Between three quotes each, the first line's end after them left out where there is one.
    const std::size_t first = spanned > lines ? 1 : 0;
    where.line += first + line;
    where.column = first + line > 0 ? column + 1 : where.column + 3 + column;
    return where;
}

std::vector<formulas::named_number> read_numbers(const toml::table& root, value_places& places) {
    std::vector<formulas::named_number> numbers;
    const toml::table* table = table_of(root, "numbers", places);
    if (table == nullptr) {
        return numbers;
    }
    const std::string right = "a finite number, or a list of one to four";
    for (const auto& [key, node] : *table) {
        formulas::named_number number{std::string(key.str()), {}};
        const source_location where = places.at(node.source());
        if (const std::string wrong = formulas::fault_in_number_name(number.name); !wrong.empty()) {
            throw error(places.at(key.source()), "`" + number.name + "`: " + wrong, "another name");
        }
        const auto add = [&](const toml::node& item) {
            const std::optional<double> value = item.is_number() ? item.value<double>() : std::nullopt;
            if (!value || !std::isfinite(*value) || number.values.size() == 4) {
                throw error(places.at(item.source()), "`" + number.name + "` is not a number", right);
            }
            number.values.push_back(*value);
        };
        if (const toml::array* list = node.as_array()) {
            for (const toml::node& item : *list) {
                add(item);
            }
            if (list->empty()) {
                throw error(where, "`" + number.name + "` has no components", right);
            }
        } else {
            add(node);
        }
        places.remember("numbers." + number.name, node.source());
        numbers.push_back(std::move(number));
    }
    return numbers;
}

} // namespace

read_formulas read_formula_sections(const toml::table& root, value_places& places) {
    read_formulas result;
    result.numbers = read_numbers(root, places);
    const toml::table* table = table_of(root, "formulas", places);
    if (table == nullptr) {
        return result;
    }
    section from(*table, "formulas", places);
    keys names;
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        names.push_back(each.name);
    }
    from.only(names);
    for (const formulas::slot_descriptor& each : formulas::slot_list) {
        std::string& text = result.texts[each.which];
        from.read(each.name, text);
        if (from.has(each.name) && text.empty()) {
            from.fail(each.name, "the formula is empty",
                      "an expression, or no such line: then " + std::string(each.replaces) + " stands");
        }
    }
    try {
        parse_all(result.texts, result.numbers);
    } catch (const formulas::fault_in_formula& fault) {
        const std::string_view key = descriptor_of(fault.where).name;
        std::vector<std::string_view> known(fault.known.begin(), fault.known.end());
        const std::string_view meant = fault.unknown.empty() ? "" : nearest(fault.unknown, known);
        throw error(place_in(result.texts[fault.where], fault.offset, table->get(key)->source(), places),
                    "in `" + std::string(key) + "`: " + fault.wrong,
                    meant.empty() ? fault.right : "the nearest is `" + std::string(meant) + "`");
    }
    return result;
}

} // namespace yurvo::inline v0_1::files
