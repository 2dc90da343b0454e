// One model at three rates: how often it runs, and what the middle of a big quad looks like.
#include <cstdio>

#include <yurvo/yurvo.hpp>

int main() {
    yurvo::scene quay = yurvo::verify::find_reference("lantern-quay-inverse-square")->scene;
    for (const yurvo::rate at : {yurvo::rate::face, yurvo::rate::vertex, yurvo::rate::fragment}) {
        quay.shading.rate = at;
        yurvo::draw_statistics done;
        const yurvo::picture drawn = yurvo::draw(quay, {}, &done);
        std::printf("per %-9s %7llu evaluations, middle %.4f\n", yurvo::name_of(at).data(),
                    static_cast<unsigned long long>(done.evaluations), drawn.color(640, 400).r);
    }
}
