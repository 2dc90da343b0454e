#include "option_list.hpp"

#include <CLI/CLI.hpp>

namespace yurvo::app {

namespace {

void apply(CLI::Option& option, const option_look& look) {
    option.required(look.required);
    if (look.type[0] != '\0') {
        option.type_name(look.type);
    }
    if (look.show_default) {
        option.capture_default_str();
    }
    if (look.count > 0) {
        option.expected(static_cast<int>(look.count));
    }
}

} // namespace

void option_list::text(const char* name, std::string& into, const std::string& says,
                       const option_look& look) {
    apply(*command_.add_option(name, into, says), look);
    if (look.written) {
        written_.push_back(&into);
    }
}
void option_list::texts(const char* name, std::vector<std::string>& into, const std::string& says,
                        const option_look& look) {
    apply(*command_.add_option(name, into, says), look);
}
void option_list::whole(const char* name, int& into, const std::string& says, const option_look& look) {
    apply(*command_.add_option(name, into, says), look);
}
void option_list::whole(const char* name, std::size_t& into, const std::string& says,
                        const option_look& look) {
    apply(*command_.add_option(name, into, says), look);
}
void option_list::whole(const char* name, std::optional<std::uint64_t>& into, const std::string& says,
                        const option_look& look) {
    apply(*command_.add_option(name, into, says), look);
}
void option_list::whole_within(const char* name, int& into, int least, int most, const std::string& says,
                               const option_look& look) {
    apply(*command_.add_option(name, into, says)->check(CLI::Range(least, most)), look);
}
void option_list::flag(const char* name, bool& into, const std::string& says) {
    command_.add_flag(name, into, says);
}

void option_list::when_asked(std::function<void()> call) { command_.callback(std::move(call)); }

} // namespace yurvo::app
