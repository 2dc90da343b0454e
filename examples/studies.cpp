// Three studies of one scene, as plain data: what the rates cost in light, what each term adds, and whether a
// picture with a mistake in it is recognised.
#include <cstdio>

#include <yurvo/yurvo.hpp>

int main() {
    yurvo::study::named_scene quay{"lantern-quay-inverse-square",
                                   yurvo::find_scene("lantern-quay-inverse-square")};
    quay.scene.view.width = 320;
    quay.scene.view.height = 200;
    const yurvo::renderer& pipeline = yurvo::built_in_renderer();

    const yurvo::study::rates rates = yurvo::study::compare_rates(quay, pipeline);
    std::printf("per vertex %llu evaluations, per fragment %llu; they differ by %.3f at most\n",
                static_cast<unsigned long long>(rates.vertex.statistics.evaluations),
                static_cast<unsigned long long>(rates.fragment.statistics.evaluations),
                rates.vertex_off.largest);

    for (const yurvo::study::layer& one : yurvo::study::build_up(quay.scene, pipeline).list) {
        std::printf("%-10s mean %.4f\n", one.name.c_str(), one.mean);
    }

    const yurvo::verify::mistaken_renderer wrong({yurvo::verify::mistake::falloff_missing}, pipeline);
    yurvo::study::check_request asked;
    std::vector<std::string> fitted;
    asked.units = yurvo::study::units_of_scene(wrong, quay, fitted);
    const yurvo::study::check_run run = yurvo::study::run_checks(asked, wrong);
    std::printf("%zu of %zu checks did not hold; what explains it:", run.failed(), run.results.size());
    for (const std::string& id : run.common_explanations()) {
        std::printf(" %s", id.c_str());
    }
    std::printf("\n");
}
