#include "yurvo/files/test_report_file.hpp"

#include <sstream>

#include <pugixml.hpp>

#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/visible_text.hpp"

namespace yurvo::inline v0_1 {

void write_junit(const std::string& path, const std::vector<test_case>& cases) {
    pugi::xml_document document;
    pugi::xml_node suites = document.append_child("testsuites");
    pugi::xml_node suite;
    std::size_t tests = 0;
    std::size_t failures = 0;
    std::size_t all_failures = 0;
    const auto close = [&] {
        if (suite) {
            suite.append_attribute("tests").set_value(static_cast<unsigned long long>(tests));
            suite.append_attribute("failures").set_value(static_cast<unsigned long long>(failures));
        }
        tests = 0;
        failures = 0;
    };
    for (const test_case& each_case : cases) {
        if (!suite || visible_text(each_case.suite) != suite.attribute("name").value()) {
            close();
            suite = suites.append_child("testsuite");
            suite.append_attribute("name").set_value(visible_text(each_case.suite).c_str());
        }
        pugi::xml_node node = suite.append_child("testcase");
        node.append_attribute("classname").set_value(visible_text(each_case.suite).c_str());
        node.append_attribute("name").set_value(visible_text(each_case.name).c_str());
        ++tests;
        if (!each_case.passed) {
            ++failures;
            ++all_failures;
            pugi::xml_node failure = node.append_child("failure");
            failure.append_attribute("message").set_value(
                visible_text(each_case.failure.substr(0, each_case.failure.find('\n'))).c_str());
            failure.text().set(visible_text(each_case.failure).c_str());
        }
    }
    close();
    suites.append_attribute("tests").set_value(static_cast<unsigned long long>(cases.size()));
    suites.append_attribute("failures").set_value(static_cast<unsigned long long>(all_failures));
    std::ostringstream text;
    document.save(text, "  ");
    write_whole(path, text.str());
}

} // namespace yurvo::inline v0_1
