// The falloffs compared: the same lamp at five distances under each law.
#include <cstdio>
#include <initializer_list>

#include <yurvo/shading/formula.hpp>

int main() {
    using yurvo::formula;
    std::printf("     d   none  inverse-square  polynomial  linear  windowed\n");
    for (const double d : {0.5, 1.0, 2.0, 4.0, 8.0}) {
        std::printf("%6.1f %6.3f %15.3f %11.3f %7.3f %9.3f\n", d, formula::falloff_none(d),
                    formula::falloff_inverse_square(d), formula::falloff_polynomial(d, 1.0, 0.1, 0.2),
                    formula::falloff_linear(d, 5.0), formula::falloff_windowed(d, 5.0));
    }
}
