#include "files/model_reader.hpp"

#include <algorithm>

namespace yurvo::inline v0_1::files {

std::string read_model(section& from, const models* known, model_kind& built_in) {
    std::string word(name_of(built_in));
    from.read("model", word);
    if (const std::optional<model_kind> kind = from_name<model_kind>(word)) {
        built_in = *kind;
        return "";
    }
    if (known != nullptr && known->find(word) != nullptr) {
        built_in = model_kind::blinn_phong;
        return word;
    }
    keys names = all_names<model_kind>();
    if (known != nullptr) {
        const std::vector<std::string_view> own = known->names();
        names.insert(names.end(), own.begin(), own.end());
    }
    from.fail_word("model", word, names);
}

own_model own_model_with(const std::string& name, const models* known,
                         const std::vector<formulas::named_number>& numbers, const value_places& places) {
    if (name.empty()) {
        return {};
    }
    const any_model& model = *known->find(name);
    const std::vector<std::string> own = model->number_names();
    for (const formulas::named_number& number : numbers) {
        if (std::find(own.begin(), own.end(), number.name) == own.end()) {
            const keys names(own.begin(), own.end());
            throw error(places.find("numbers." + number.name),
                        "the model `" + name + "` has no number `" + number.name + "`",
                        names.empty() ? "no [numbers]: it lists none of its own" : listed(names));
        }
    }
    try {
        return {name, model.with(numbers).shared()};
    } catch (const error& failed) { // with the place in the file
        throw error(places.find(failed.where().file), failed.wrong(), failed.right());
    }
}

} // namespace yurvo::inline v0_1::files
