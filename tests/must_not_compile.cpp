// Code that must be refused, in words: compiled by a test that looks for them.
#include <yurvo/model.hpp>

struct float_only {
    yurvo::reflected<float> operator()(const yurvo::surface<float>&, const yurvo::arrival<float>&) const {
        return {};
    }
};

int main() { return yurvo::draw(yurvo::scene{}, float_only{}).width; }
