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

set(YURVO_INSTRUCTION_SETS "")
if(YURVO_HAS_WIDE_KERNELS)
  set(YURVO_INSTRUCTION_SETS avx2 avx512)
endif()
set(YURVO_FLAGS_avx2 -mavx2 -mfma)
set(YURVO_FLAGS_avx512 -mavx512f -mavx512cd -mavx512dq -mavx512bw -mavx512vl -mfma -mprefer-vector-width=512)
set(YURVO_BATCH_baseline xsimd::default_arch)
set(YURVO_BATCH_avx2 xsimd::fma3<xsimd::avx2>)
set(YURVO_BATCH_avx512 xsimd::avx512dq)

# One object library that holds a source compiled for one instruction set, its code handed to a target.
function(yurvo_kernel_object target object source instruction_set)
  add_library(${object} OBJECT ${source})
  yurvo_flags(${object} PRIVATE)
  target_include_directories(${object} PRIVATE $<TARGET_PROPERTY:${target},INCLUDE_DIRECTORIES>)
  target_include_directories(${object} SYSTEM PRIVATE ${XSIMD_INCLUDE_DIR})
  target_compile_options(${object} PRIVATE ${YURVO_FLAGS_${instruction_set}} -O3 -fno-trapping-math)
  if(instruction_set STREQUAL baseline)
    yurvo_warnings(${object})
  else() # -w: GCC remarks on every inline constant that it is no longer shared; the rest is warned of elsewhere
    target_compile_options(${object} PRIVATE -fno-weak -w)
  endif()
  target_sources(${target} PRIVATE $<TARGET_OBJECTS:${object}>)
endfunction()

# yurvo_kernels(TARGET SOURCE file TABLE name [BASELINE] [CONTRACT]): the file defines a function
# YURVO_KERNELS() that gives a table, here called SET_name. CONTRACT allows a·b + c to be rounded once.
function(yurvo_kernels target)
  cmake_parse_arguments(kernel "BASELINE;CONTRACT" "SOURCE;TABLE" "" ${ARGN})
  set(sets ${YURVO_INSTRUCTION_SETS})
  if(kernel_BASELINE)
    list(PREPEND sets baseline)
  endif()
  foreach(set ${sets})
    set(object ${target}_${kernel_TABLE}_${set})
    yurvo_kernel_object(${target} ${object} ${PROJECT_SOURCE_DIR}/${kernel_SOURCE} ${set})
    target_compile_definitions(${object} PRIVATE YURVO_KERNELS=${set}_${kernel_TABLE} YURVO_BATCH=${YURVO_BATCH_${set}})
    if(kernel_CONTRACT)
      target_compile_options(${object} PRIVATE -ffp-contract=fast -fschedule-insns -fsched-pressure)
    endif()
  endforeach()
  if(YURVO_HAS_WIDE_KERNELS)
    target_compile_definitions(${target} PRIVATE YURVO_WIDE_KERNELS)
  endif()
endfunction()
