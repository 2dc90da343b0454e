// uninitialized: scratch space that costs nothing to make.
#pragma once

namespace yurvo::inline v0_1::pipeline {

// A value whose numbers are not set at first: whoever makes one writes them before reading them. Value is a
// class that is trivial to make, an array of numbers most often.
template <class Value> struct uninitialized : Value {
    uninitialized() {} // NOLINT: that nothing is set is what it is for
};

} // namespace yurvo::inline v0_1::pipeline
