# yurvo_room(NAME [LINKS rooms below] [PACKAGES public] [PRIVATE_PACKAGES private])
#
# A room is include/yurvo/NAME and src/NAME. Without sources it is header-only.
function(yurvo_flags target scope)
  target_compile_features(${target} ${scope} cxx_std_20)
  # No contraction: the same formula gives the same digits wherever it is compiled.
  target_compile_options(${target} ${scope} -ffp-contract=off -fno-math-errno)
  if(YURVO_SANITIZE)
    target_compile_options(${target} ${scope} -fsanitize=${YURVO_SANITIZE} -fno-sanitize-recover=all
      -fno-omit-frame-pointer)
    target_link_options(${target} ${scope} -fsanitize=${YURVO_SANITIZE})
  endif()
endfunction()

function(yurvo_warnings target)
  # missing-field-initializers: a designated initializer leaves the rest at its default on purpose.
  # restrict: GCC 12 sees overlaps in std::string's operator+ where there are none (its bug 105651).
  target_compile_options(${target} PRIVATE -Wall -Wextra -Wpedantic -Wshadow=local -Wconversion -Wsign-conversion
    -Wnon-virtual-dtor -Wold-style-cast -Woverloaded-virtual -Wduplicated-cond -Wno-restrict -Wno-missing-field-initializers
    $<$<BOOL:${YURVO_WARNINGS_AS_ERRORS}>:-Werror>)
  if(YURVO_SANITIZE) # GCC 12 then takes the insides of std::function and std::regex for uninitialised
    target_compile_options(${target} PRIVATE -Wno-maybe-uninitialized)
  endif()
endfunction()

function(yurvo_room name)
  cmake_parse_arguments(room "" "" "LINKS;PACKAGES;PRIVATE_PACKAGES" ${ARGN})
  set(target yurvo_${name})
  file(GLOB sources CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/src/${name}/*.cpp)
  set(links ${room_LINKS})
  list(TRANSFORM links PREPEND yurvo_)
  if(sources)
    add_library(${target} STATIC ${sources})
    set(scope PUBLIC)
    yurvo_warnings(${target})
    target_link_libraries(${target} PRIVATE ${room_PRIVATE_PACKAGES})
  else()
    add_library(${target} INTERFACE)
    set(scope INTERFACE)
  endif()
  yurvo_flags(${target} ${scope})
  target_include_directories(${target} ${scope} $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/include>)
  target_link_libraries(${target} ${scope} ${links} ${room_PACKAGES})
endfunction()
