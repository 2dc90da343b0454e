#include "yurvo/report/data.hpp"

#include "report/data_json.hpp"

namespace yurvo::inline v0_1::report {

data data_access::make(json value) {
    data result;
    result.parts_->value = std::move(value);
    return result;
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
    json& document = parts_->value[std::string(name)] = json::array();
    for (const data& entry : list) {
        document.push_back(entry.parts_->value);
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

} // namespace yurvo::inline v0_1::report
