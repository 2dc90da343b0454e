// Which version of Yurvo these headers are. CMake takes the project's version from here.
//
// Everything of the library stands in an inline namespace that is named for what may not be mixed, v0_1 for
// all of 0.1: a program that was compiled against one and is linked with another does not link, instead of
// going wrong.
#pragma once

#define YURVO_VERSION_MAJOR 0
#define YURVO_VERSION_MINOR 1
#define YURVO_VERSION_PATCH 0

/// As "0.1.0".
#define YURVO_VERSION "0.1.0"

/// For comparisons: 10000 * major + 100 * minor + patch.
#define YURVO_VERSION_NUMBER (YURVO_VERSION_MAJOR * 10000 + YURVO_VERSION_MINOR * 100 + YURVO_VERSION_PATCH)
