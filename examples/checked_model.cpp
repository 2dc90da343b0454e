// Your own model under Yurvo's checks, in your own test suite: here doctest's, but any will do. The model
// claims to be lambert, so it is held to lambert's values, to rays cast in double precision, and to what must
// hold between pictures.
#define DOCTEST_CONFIG_IMPLEMENT_WITH_MAIN
#include <doctest/doctest.h>
#include <yurvo/model.hpp>
#include <yurvo/yurvo.hpp>

struct my_lambert {
    static constexpr auto equals = yurvo::model_kind::lambert;
    template <class Real>
    yurvo::reflected<Real> operator()(const yurvo::surface<Real>& s, const yurvo::arrival<Real>& in) const {
        return {.diffuse = in.light * max(dot(s.normal, in.to_light), Real(0)), .specular = {}};
    }
};

TEST_CASE("my model is lambert, on the reference scenes that are") {
    for (const char* name : {"lantern-quay", "moon-crates", "lantern-row", "many-lanterns"}) {
        const yurvo::scene drawn = yurvo::verify::find_reference(name)->scene;
        const yurvo::check_report report = yurvo::check(drawn, my_lambert{});
        CHECK_MESSAGE(report.failed() == 0, report.failures());
    }
}
