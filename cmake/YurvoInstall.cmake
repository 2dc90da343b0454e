# Installation: each room is an export set and a component of find_package(yurvo), with its headers, so that who needs the
# formulas alone needs no package at all. Also what pkg-config and cpack take.
include(GNUInstallDirs)
include(CMakePackageConfigHelpers)

set(YURVO_CONFIG_FOLDER ${CMAKE_INSTALL_LIBDIR}/cmake/yurvo)

# yurvo_install_room(NAME [LINKS rooms below] [FINDS calls that find what a static library needs besides])
function(yurvo_install_room name)
  cmake_parse_arguments(room "" "" "LINKS;FINDS" ${ARGN})
  set_target_properties(yurvo_${name} PROPERTIES EXPORT_NAME ${name})
  get_target_property(kind yurvo_${name} TYPE)
  if(kind STREQUAL "SHARED_LIBRARY")
    set_target_properties(yurvo_${name} PROPERTIES VERSION ${PROJECT_VERSION}
      SOVERSION ${PROJECT_VERSION_MAJOR}.${PROJECT_VERSION_MINOR})
    set(room_FINDS "")
  endif()
  install(TARGETS yurvo_${name} EXPORT yurvo-${name}
    LIBRARY COMPONENT tool NAMELINK_COMPONENT development ARCHIVE COMPONENT development)
  install(EXPORT yurvo-${name} NAMESPACE yurvo:: DESTINATION ${YURVO_CONFIG_FOLDER} COMPONENT development)
  if(EXISTS ${PROJECT_SOURCE_DIR}/include/yurvo/${name})
    install(DIRECTORY ${PROJECT_SOURCE_DIR}/include/yurvo/${name} DESTINATION ${CMAKE_INSTALL_INCLUDEDIR}/yurvo
      COMPONENT development)
  endif()
  list(JOIN room_FINDS "\n  " finds)
  list(JOIN room_LINKS " " links)
  set_property(GLOBAL APPEND PROPERTY yurvo_rooms ${name})
  set_property(GLOBAL APPEND_STRING PROPERTY yurvo_room_texts "set(_yurvo_below_${name} ${links})\nmacro(_yurvo_find_for_${name})\n  ${finds}\nendmacro()\n")
endfunction()

# After all rooms: the configuration, its version, pkg-config's files.
function(yurvo_install_package)
  get_property(YURVO_ROOMS GLOBAL PROPERTY yurvo_rooms)
  get_property(YURVO_ROOM_TEXTS GLOBAL PROPERTY yurvo_room_texts)
  configure_package_config_file(${PROJECT_SOURCE_DIR}/cmake/yurvo-config.cmake.in ${PROJECT_BINARY_DIR}/yurvo-config.cmake
    INSTALL_DESTINATION ${YURVO_CONFIG_FOLDER})
  # Below 1.0 the middle number is raised by what may break a program.
  write_basic_package_version_file(${PROJECT_BINARY_DIR}/yurvo-config-version.cmake COMPATIBILITY SameMinorVersion)
  install(FILES ${PROJECT_BINARY_DIR}/yurvo-config.cmake ${PROJECT_BINARY_DIR}/yurvo-config-version.cmake
    ${PROJECT_SOURCE_DIR}/cmake/YurvoKernels.cmake DESTINATION ${YURVO_CONFIG_FOLDER} COMPONENT development)
  install(FILES ${PROJECT_SOURCE_DIR}/include/yurvo/yurvo.hpp ${PROJECT_SOURCE_DIR}/include/yurvo/model.hpp
    ${PROJECT_SOURCE_DIR}/include/yurvo/version.hpp
    DESTINATION ${CMAKE_INSTALL_INCLUDEDIR}/yurvo COMPONENT development)
  # For plain compilers: a library that others follow comes first.
  set(YURVO_LIBRARIES "")
  foreach(room IN LISTS YURVO_ROOMS)
    set(kind INTERFACE_LIBRARY)
    if(TARGET yurvo_${room})
      get_target_property(kind yurvo_${room} TYPE)
    endif()
    if(NOT kind STREQUAL "INTERFACE_LIBRARY")
      string(PREPEND YURVO_LIBRARIES "-lyurvo_${room} ")
    endif()
  endforeach()
  # From the file itself, so that what is installed can be moved.
  file(RELATIVE_PATH YURVO_PC_PREFIX /${CMAKE_INSTALL_DATADIR}/pkgconfig /)
  foreach(name yurvo yurvo-shading)
    configure_file(${PROJECT_SOURCE_DIR}/cmake/${name}.pc.in ${PROJECT_BINARY_DIR}/${name}.pc @ONLY)
    install(FILES ${PROJECT_BINARY_DIR}/${name}.pc DESTINATION ${CMAKE_INSTALL_DATADIR}/pkgconfig COMPONENT development)
  endforeach()
  install(FILES ${PROJECT_SOURCE_DIR}/README.md ${PROJECT_SOURCE_DIR}/CHANGELOG.md
    DESTINATION ${CMAKE_INSTALL_DATADIR}/doc/yurvo-doc/documents COMPONENT documents)
  install(DIRECTORY ${PROJECT_SOURCE_DIR}/docs DESTINATION ${CMAKE_INSTALL_DATADIR}/doc/yurvo-doc/documents COMPONENT documents)
endfunction()
