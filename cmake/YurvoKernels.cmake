# Files compiled once for each instruction set, so that the widest one a processor has can be chosen when the
# program runs.
#
# An inline function that such a file leaves behind as a weak symbol could be the one the linker keeps for
# everyone, and stop an older processor: -fno-weak keeps them all in the file (tests/house looks).
include(CheckCXXSourceCompiles)
check_cxx_source_compiles("
#if !defined(__x86_64__) || !defined(__GNUC__) || defined(__clang__)
#error only where these flags are known
#endif
int main() {}" YURVO_HAS_WIDE_KERNELS)

if(YURVO_INSTALLED) # what YurvoRoom.cmake has for our own build
  function(yurvo_flags target)
    target_compile_features(${target} PRIVATE cxx_std_20)
    target_compile_options(${target} PRIVATE -ffp-contract=off -fno-math-errno)
  endfunction()
  function(yurvo_warnings)
  endfunction()
endif()

set(YURVO_INSTRUCTION_SETS "")
if(YURVO_HAS_WIDE_KERNELS)
  set(YURVO_INSTRUCTION_SETS avx2 avx512)
endif()
set(YURVO_FLAGS_avx2 -mavx2 -mfma)
set(YURVO_FLAGS_avx512 -mavx512f -mavx512cd -mavx512dq -mavx512bw -mavx512vl -mfma -mprefer-vector-width=512)
set(YURVO_BATCH_baseline xsimd::default_arch)
set(YURVO_BATCH_avx2 xsimd::fma3<xsimd::avx2>)
set(YURVO_BATCH_avx512 xsimd::avx512dq)

# a·b + c may be rounded once; batches side by side are scheduled into each other.
set(YURVO_SHADING_FLAGS -ffp-contract=fast $<$<CXX_COMPILER_ID:GNU>:-fschedule-insns>)

# One object library that holds a source compiled for one instruction set, its code handed to a target.
function(yurvo_kernel_object target object source instruction_set)
  add_library(${object} OBJECT ${source})
  yurvo_flags(${object})
  target_include_directories(${object} PRIVATE $<TARGET_PROPERTY:${target},INCLUDE_DIRECTORIES>)
  target_include_directories(${object} PRIVATE $<TARGET_PROPERTY:yurvo::numeric,INTERFACE_INCLUDE_DIRECTORIES>)
  target_include_directories(${object} SYSTEM PRIVATE ${XSIMD_INCLUDE_DIR})
  set(level -O3)
  if(YURVO_SANITIZE)
    set(level -O1) # -O3 then takes minutes a kernel, twice as long
  endif()
  target_compile_options(${object} PRIVATE ${YURVO_FLAGS_${instruction_set}} ${level} -fno-trapping-math)
  if(instruction_set STREQUAL baseline)
    yurvo_warnings(${object})
  else() # -w: GCC remarks on every inline constant that it is no longer shared; the rest is warned of elsewhere
    target_compile_options(${object} PRIVATE -fno-weak -w)
  endif()
  target_sources(${target} PRIVATE $<TARGET_OBJECTS:${object}>)
endfunction()

# yurvo_kernels(TARGET SOURCE file TABLE name [BASELINE] [CONTRACT]): the file defines a function
# YURVO_KERNELS() that gives a table, here called SET_name, of YURVO_MODEL where MODEL is given. CONTRACT allows
# a·b + c to be rounded once.
function(yurvo_kernels target)
  cmake_parse_arguments(kernel "BASELINE;CONTRACT" "SOURCE;TABLE;MODEL" "" ${ARGN})
  set(sets ${YURVO_INSTRUCTION_SETS})
  if(kernel_BASELINE)
    list(PREPEND sets baseline)
  endif()
  foreach(set ${sets})
    set(object ${target}_${kernel_TABLE}_${set})
    yurvo_kernel_object(${target} ${object} ${PROJECT_SOURCE_DIR}/${kernel_SOURCE} ${set})
    target_compile_definitions(${object} PRIVATE YURVO_KERNELS=${set}_${kernel_TABLE} YURVO_BATCH=${YURVO_BATCH_${set}})
    if(kernel_MODEL)
      target_compile_definitions(${object} PRIVATE YURVO_MODEL=${kernel_MODEL})
      if(set STREQUAL baseline AND YURVO_INSTRUCTION_SETS)
        target_compile_definitions(${object} PRIVATE YURVO_ONE_LOOP)
      endif()
    endif()
    if(kernel_CONTRACT)
      target_compile_options(${object} PRIVATE ${YURVO_SHADING_FLAGS})
    elseif(CMAKE_CXX_COMPILER_ID STREQUAL GNU)
      # Loops over sixteen lanes are to become batches, not sixteen times their body.
      target_compile_options(${object} PRIVATE --param=max-completely-peel-times=4)
    endif()
  endforeach()
  if(YURVO_HAS_WIDE_KERNELS)
    target_compile_definitions(${target} PRIVATE YURVO_WIDE_KERNELS)
  endif()
endfunction()

# yurvo_compile_model(TARGET MODEL type HEADER file): compiles a model of one's own for every instruction set and
# makes it known to a program, so that draw() runs it as wide as the processor allows. The header defines the
# type and includes yurvo/model.hpp.
function(yurvo_compile_model target)
  cmake_parse_arguments(model "" "MODEL;HEADER" "" ${ARGN})
  if(NOT model_MODEL OR NOT model_HEADER)
    message(FATAL_ERROR "yurvo_compile_model(${target} MODEL type HEADER file): both are needed")
  endif()
  if(NOT YURVO_INSTRUCTION_SETS)
    return() # the program's own compilation serves
  endif()
  string(MAKE_C_IDENTIFIER "${model_MODEL}" name)
  cmake_path(ABSOLUTE_PATH model_HEADER BASE_DIRECTORY ${CMAKE_CURRENT_SOURCE_DIR})
  set(folder ${CMAKE_CURRENT_BINARY_DIR}/${target}_kernels)
  set(declared "")
  set(row nullptr)
  foreach(set ${YURVO_INSTRUCTION_SETS})
    string(APPEND declared "void ${name}_${set}(const yurvo::pipeline::shade_request<float>&);\n")
    list(APPEND row yurvo_kernels::${name}_${set})
    file(CONFIGURE OUTPUT ${folder}/${name}_${set}.cpp CONTENT [=[
#include "@model_HEADER@"

#include "yurvo/pipeline/shading_kernel.hpp"

namespace yurvo_kernels {
void @name@_@set@(const yurvo::pipeline::shade_request<float>& asked);
void @name@_@set@(const yurvo::pipeline::shade_request<float>& asked) {
    yurvo::pipeline::shade_with<yurvo::formula, yurvo::four<xsimd::batch<float, YURVO_BATCH>>, yurvo::pipeline::loop_for_each_law,
        @model_MODEL@>(asked);
}
} // namespace yurvo_kernels
]=] @ONLY)
    set(object ${target}_${name}_${set})
    yurvo_kernel_object(${target} ${object} ${folder}/${name}_${set}.cpp ${set})
    target_compile_definitions(${object} PRIVATE YURVO_BATCH=${YURVO_BATCH_${set}})
    target_compile_options(${object} PRIVATE ${YURVO_SHADING_FLAGS})
  endforeach()
  list(JOIN row ", " row)
  file(CONFIGURE OUTPUT ${folder}/${name}.cpp CONTENT [=[
#include "@model_HEADER@"

#include "yurvo/pipeline/shading_kernel.hpp"

namespace yurvo_kernels {
@declared@
namespace {
[[maybe_unused]] const bool known = yurvo::pipeline::register_kernels(typeid(@model_MODEL@), {@row@});
}
} // namespace yurvo_kernels
]=] @ONLY)
  target_sources(${target} PRIVATE ${folder}/${name}.cpp)
endfunction()
