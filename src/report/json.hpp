// json: every study as data. The fields are listed in docs and held by tests: others rely on them.
#pragma once

#include <string>
#include <vector>

#include <nlohmann/json_fwd.hpp>

#include "yurvo/numeric/rgb.hpp"
#include "yurvo/numeric/vec3.hpp"
#include "yurvo/program/light_block.hpp"
#include "yurvo/study/check_run.hpp"
#include "yurvo/study/comparison.hpp"
#include "yurvo/study/cost.hpp"
#include "yurvo/study/curves.hpp"
#include "yurvo/study/layers.hpp"
#include "yurvo/study/pixel.hpp"
#include "yurvo/study/rates.hpp"
#include "yurvo/study/turn.hpp"
#include "yurvo/verify/diagnose.hpp"
#include "yurvo/verify/explain.hpp"
#include "yurvo/verify/mistakes.hpp"
#include "yurvo/verify/reference.hpp"

namespace yurvo::report {

using json = nlohmann::ordered_json;

// JSON has no infinity: what is not a finite number is null there.
json json_of(double value);
json json_of(const rgb<float>& color);
json json_of(const rgb<double>& color);
json json_of(const vec3<double>& vector);

json json_of(const study::named_scene& of, const study::rates& found);
json json_of(const study::named_scene& of, const study::rate_claim& found, const std::string& program);
json json_of(const study::named_scene& of, const study::layers& found);
json json_of(const study::named_scene& of, const study::turn& found);
json json_of(const study::named_scene& of, const study::curves& found);
json json_of(const study::named_scene& of, const study::cost& found, int repeat);
json json_of(const picture& a, const picture& b, const study::comparison& found);
json json_of(const study::check_run& run);
json json_of(const verify::diagnosis& found);
json json_of(const verify::explanation& told, int x, int y);
json json_of(const study::found_pixel& found, const std::string& picture);
json json_of(const verify::mistake_entry& one);
json json_of(const verify::reference_scene& reference);
json json_of(const packed_lights& packed);

} // namespace yurvo::report
