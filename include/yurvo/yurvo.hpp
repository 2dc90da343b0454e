// The whole of Yurvo.
#pragma once

#include "yurvo/command_line/command_line.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/picture/comparison.hpp"
#include "yurvo/picture/encoding.hpp"
#include "yurvo/pipeline/draw.hpp"
#include "yurvo/scene/error.hpp"
#include "yurvo/scene/names.hpp"
#include "yurvo/scene/scene.hpp"
#include "yurvo/shading/formula.hpp"
#include "yurvo/shading/models.hpp"
#include "yurvo/shading/shade.hpp"
#include "yurvo/verify/check.hpp"
#include "yurvo/verify/reference.hpp"
