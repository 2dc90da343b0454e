// The inner loops of geometry, one table of each kind for each instruction set that the build has.
#pragma once

#include "pipeline/wide/attributes.hpp"
#include "pipeline/wide/coverage.hpp"
#include "pipeline/wide/fields.hpp"
#include "pipeline/wide/vertices.hpp"
#include "yurvo/pipeline/instruction_set.hpp"

namespace yurvo::inline v0_1::pipeline::wide {

struct kernels {
    const vertex_kernels& vertices;
    const coverage_kernels& coverage;
    const attribute_kernels& attributes;
    const field_kernels& fields;
};

kernels kernels_for(instruction_set wanted);

} // namespace yurvo::inline v0_1::pipeline::wide
