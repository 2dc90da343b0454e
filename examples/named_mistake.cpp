// A formula with a mistake in it, and its name: the falloff divides by the distance where its square belongs.
#include <cstdio>

#include <yurvo/model.hpp>
#include <yurvo/yurvo.hpp>

struct mine : yurvo::formula {
    template <class Real> static Real falloff_inverse_square(const Real& d) { return Real(1) / d; }
};

int main() {
    yurvo::scene buoys = yurvo::verify::find_reference("buoys")->scene;
    buoys.view.width = 320;
    buoys.view.height = 200;
    const yurvo::picture drawn = yurvo::draw_with<mine>(buoys);
    const yurvo::verify::diagnosis found = yurvo::verify::diagnose(buoys, drawn, yurvo::pixel_format::floats);
    for (const yurvo::verify::mistake which : found.mistakes.front().which) {
        const yurvo::verify::mistake_entry& entry = yurvo::verify::entry_of(which);
        std::printf("%s: %s\nFix: %s\n", entry.id.data(), entry.what.data(), entry.fix.data());
    }
    const yurvo::verify::explanation told = yurvo::verify::explain(buoys, 240, 70);
    const yurvo::verify::explained_light& lantern = told.point.lights.back();
    std::printf("%s is %.4f m away there: 1 / d^2 is %.4f, 1 / d %.4f\n", lantern.name.c_str(),
                lantern.distance, lantern.falloff, 1 / lantern.distance);
}
