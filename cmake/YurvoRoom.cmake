# yurvo_room(NAME [QUICK] [LINKS rooms below] [PRIVATE_PACKAGES targets] [HEADERS_OF targets] [FINDS calls])
#
# QUICK is for what is compiled more often than its speed counts: words, sheets, plain data.
# HEADERS_OF are packages of headers alone; FINDS are the calls by which an installed static library has its
# PRIVATE_PACKAGES found.
#
# A room is include/yurvo/NAME, what users may include, and src/NAME, where headers of the house's own lie too
# ("NAME/header.hpp"). Without sources it is header-only.

# The flags of our own targets; none of them reaches a user's.
function(yurvo_flags target)
  target_compile_features(${target} PRIVATE cxx_std_20)
  # No contraction: the same formula gives the same digits wherever it is compiled.
  target_compile_options(${target} PRIVATE -ffp-contract=off -fno-math-errno)
  if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU") # it looks for what it can free less often, a tenth of its time
    target_compile_options(${target} PRIVATE "SHELL:--param ggc-min-expand=400" "SHELL:--param ggc-min-heapsize=400000")
  endif()
  if(YURVO_SANITIZE)
    target_compile_options(${target} PRIVATE -fsanitize=${YURVO_SANITIZE} -fno-sanitize-recover=all
      -fno-omit-frame-pointer -UNDEBUG) # preconditions are asserted, too
    target_link_options(${target} PRIVATE -fsanitize=${YURVO_SANITIZE})
  endif()
endfunction()

function(yurvo_warnings target)
  # In sources that are joined a name may hide another file's, which means nothing.
  set(shadow -Wshadow)
  if(YURVO_JOIN_SOURCES)
    set(shadow $<IF:$<CXX_COMPILER_ID:GNU>,-Wshadow=local,-Wno-shadow>)
  endif()
  # missing-field-initializers: a designated initializer leaves the rest at its default on purpose.
  target_compile_options(${target} PRIVATE -Wall -Wextra -Wpedantic -Wconversion -Wsign-conversion ${shadow}
    -Wnon-virtual-dtor -Wold-style-cast -Woverloaded-virtual -Wno-missing-field-initializers
    $<$<BOOL:${YURVO_WARNINGS_AS_ERRORS}>:-Werror>)
  if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU")
    # restrict: GCC 12 sees overlaps in std::string's operator+ where there are none (its bug 105651).
    target_compile_options(${target} PRIVATE -Wduplicated-cond -Wno-restrict)
    if(YURVO_SANITIZE) # GCC 12 then takes the insides of std::function and std::regex for uninitialised, and sees
                       # a vector of strings freed where none was made
      target_compile_options(${target} PRIVATE -Wno-maybe-uninitialized -Wno-free-nonheap-object)
    endif()
  else()
    target_compile_options(${target} PRIVATE -Wno-bitwise-instead-of-logical) # `&` where branches would cost
  endif()
endfunction()

# Of GCC 12 again, where headers are parsed once: std::string's operator+ does not write out of bounds (105651).
function(yurvo_no_false_bounds target)
  if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU")
    target_compile_options(${target} PRIVATE -Wno-array-bounds -Wno-stringop-overflow -Wno-stringop-overread)
  endif()
endfunction()

# What our own targets share: flags, warnings, the house's own headers.
function(yurvo_own target)
  yurvo_flags(${target})
  yurvo_warnings(${target})
  target_include_directories(${target} PRIVATE ${PROJECT_SOURCE_DIR}/src)
endfunction()

# Sources that share flags are compiled several together (`YURVO_JOIN_SOURCES`): what they include is parsed, and what they
# instantiate is compiled, once for all of them. So names in the unnamed namespaces of a room's files must differ.
function(yurvo_join_sources target)
  set_target_properties(${target} PROPERTIES UNITY_BUILD ${YURVO_JOIN_SOURCES} UNITY_BUILD_BATCH_SIZE 8)
endfunction()

# The standard's headers, which nearly every file needs, are parsed once: that is two thirds of what most files would
# parse. Files include what they use all the same. Files with flags of their own parse for themselves.
add_library(yurvo_standard_headers OBJECT ${PROJECT_SOURCE_DIR}/cmake/standard_headers.cpp)
add_library(yurvo_standard_headers_quick OBJECT ${PROJECT_SOURCE_DIR}/cmake/standard_headers.cpp)
target_compile_options(yurvo_standard_headers_quick PRIVATE $<$<CONFIG:Release>:-O1>)
function(yurvo_share_standard_headers target from)
  target_precompile_headers(${target} REUSE_FROM ${from})
  yurvo_no_false_bounds(${target})
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
  cmake_parse_arguments(room "QUICK" "" "LINKS;PRIVATE_PACKAGES;HEADERS_OF;FINDS" ${ARGN})
  set(target yurvo_${name})
  file(GLOB sources CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/src/${name}/*.cpp)
  set(links ${room_LINKS})
  list(TRANSFORM links PREPEND yurvo_)
  if(sources)
    add_library(${target} ${sources}) # static, or shared with BUILD_SHARED_LIBS
    set(scope PUBLIC)
    yurvo_own(${target})
    yurvo_join_sources(${target})
    if(room_QUICK)
      target_compile_options(${target} PRIVATE $<$<CONFIG:Release>:-O1>)
      yurvo_share_standard_headers(${target} yurvo_standard_headers_quick)
    else()
      yurvo_share_standard_headers(${target} yurvo_standard_headers)
    endif()
    target_link_libraries(${target} PRIVATE ${room_PRIVATE_PACKAGES})
    foreach(package IN LISTS room_HEADERS_OF) # headers alone: who links the room needs nothing of them
      target_link_libraries(${target} PRIVATE $<BUILD_INTERFACE:${package}>)
    endforeach()
    target_compile_features(${target} PUBLIC cxx_std_20)
  else()
    add_library(${target} INTERFACE)
    set(scope INTERFACE)
    target_compile_features(${target} INTERFACE cxx_std_20)
  endif()
  add_library(yurvo::${name} ALIAS ${target})
  target_include_directories(${target} ${scope} $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/include>
    $<INSTALL_INTERFACE:${CMAKE_INSTALL_INCLUDEDIR}>)
  target_link_libraries(${target} ${scope} ${links})
  if(YURVO_INSTALL)
    yurvo_install_room(${name} LINKS ${room_LINKS} FINDS ${room_FINDS})
  endif()
endfunction()

foreach(headers yurvo_standard_headers yurvo_standard_headers_quick)
  yurvo_own(${headers})
  target_precompile_headers(${headers} PRIVATE <algorithm> <array> <cmath> <cstdint> <functional> <limits>
    <memory> <optional> <string> <string_view> <utility> <variant> <vector>)
endforeach()
