# yurvo_room(NAME [LINKS rooms below] [PRIVATE_PACKAGES private])
#
# A room is include/yurvo/NAME, what users may include, and src/NAME, where headers of the house's own lie too
# ("NAME/header.hpp"). Without sources it is header-only.

# The flags of our own targets; none of them reaches a user's.
function(yurvo_flags target)
  target_compile_features(${target} PRIVATE cxx_std_20)
  # No contraction: the same formula gives the same digits wherever it is compiled.
  target_compile_options(${target} PRIVATE -ffp-contract=off -fno-math-errno)
  if(YURVO_SANITIZE)
    target_compile_options(${target} PRIVATE -fsanitize=${YURVO_SANITIZE} -fno-sanitize-recover=all
      -fno-omit-frame-pointer -UNDEBUG) # preconditions are asserted, too
    target_link_options(${target} PRIVATE -fsanitize=${YURVO_SANITIZE})
  endif()
endfunction()

function(yurvo_warnings target)
  # missing-field-initializers: a designated initializer leaves the rest at its default on purpose.
  # restrict: GCC 12 sees overlaps in std::string's operator+ where there are none (its bug 105651).
  target_compile_options(${target} PRIVATE -Wall -Wextra -Wpedantic -Wshadow=local -Wconversion -Wsign-conversion
    -Wnon-virtual-dtor -Wold-style-cast -Woverloaded-virtual -Wduplicated-cond -Wno-restrict -Wno-missing-field-initializers
    $<$<BOOL:${YURVO_WARNINGS_AS_ERRORS}>:-Werror>)
  if(YURVO_SANITIZE) # GCC 12 then takes the insides of std::function and std::regex for uninitialised, and sees
                     # a vector of strings freed where none was made
    target_compile_options(${target} PRIVATE -Wno-maybe-uninitialized -Wno-free-nonheap-object)
  endif()
endfunction()

# What our own targets share: flags, warnings, the house's own headers.
function(yurvo_own target)
  yurvo_flags(${target})
  yurvo_warnings(${target})
  target_include_directories(${target} PRIVATE ${PROJECT_SOURCE_DIR}/src)
endfunction()

# The standard's headers, which nearly every file needs, are parsed once: that is two thirds of what most files would
# parse. Files include what they use all the same. Files with flags of their own parse for themselves.
add_library(yurvo_standard_headers OBJECT ${PROJECT_SOURCE_DIR}/cmake/standard_headers.cpp)
function(yurvo_share_standard_headers target)
  target_precompile_headers(${target} REUSE_FROM yurvo_standard_headers)
  # GCC 12 then sees std::string's operator+ write out of bounds where it does not (the same bug 105651).
  target_compile_options(${target} PRIVATE -Wno-array-bounds -Wno-stringop-overflow -Wno-stringop-overread)
endfunction()

# What parses options, writes JSON or tests is compiled more often than its speed counts: -O1 builds it in two thirds
# of the time. yurvo_quick_to_build(TARGET) or (TARGET its sources...)
function(yurvo_quick_to_build target)
  set(flags $<$<CONFIG:Release>:-O1>)
  if(ARGN)
    set_source_files_properties(${ARGN} TARGET_DIRECTORY ${target} PROPERTIES COMPILE_OPTIONS "${flags}"
      SKIP_PRECOMPILE_HEADERS ON)
  else()
    target_compile_options(${target} PRIVATE ${flags})
  endif()
endfunction()

function(yurvo_room name)
  cmake_parse_arguments(room "" "" "LINKS;PRIVATE_PACKAGES" ${ARGN})
  set(target yurvo_${name})
  file(GLOB sources CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/src/${name}/*.cpp)
  set(links ${room_LINKS})
  list(TRANSFORM links PREPEND yurvo_)
  if(sources)
    add_library(${target} STATIC ${sources})
    set(scope PUBLIC)
    yurvo_own(${target})
    yurvo_share_standard_headers(${target})
    target_link_libraries(${target} PRIVATE ${room_PRIVATE_PACKAGES})
    target_compile_features(${target} PUBLIC cxx_std_20)
  else()
    add_library(${target} INTERFACE)
    set(scope INTERFACE)
    target_compile_features(${target} INTERFACE cxx_std_20)
  endif()
  add_library(yurvo::${name} ALIAS ${target})
  target_include_directories(${target} ${scope} $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/include>)
  target_link_libraries(${target} ${scope} ${links})
endfunction()

yurvo_own(yurvo_standard_headers)
target_precompile_headers(yurvo_standard_headers PRIVATE <algorithm> <array> <cmath> <cstdint> <functional> <limits>
  <memory> <optional> <string> <string_view> <utility> <variant> <vector>)
