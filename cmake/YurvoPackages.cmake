# Debian packages, by cpack (scripts/package): the tool, the library with its headers, and the documents.
set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME yurvo)
set(CPACK_PACKAGE_VERSION ${PROJECT_VERSION})
set(CPACK_PACKAGE_CONTACT "The Yurvo team <team@yurvo.example.org>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "proves lighting models and shaders right on reference scenes")
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_STRIP_FILES ON)
set(CPACK_DEB_COMPONENT_INSTALL ON)
set(CPACK_COMPONENTS_GROUPING ONE_PER_GROUP)
set(CPACK_COMPONENTS_ALL tool development documents)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_DEBIAN_PACKAGE_RELEASE 1)
set(CPACK_DEBIAN_ENABLE_COMPONENT_DEPENDS ON)
set(CPACK_DEBIAN_PACKAGE_CONTROL_STRICT_PERMISSION ON)

set(CPACK_DEBIAN_TOOL_PACKAGE_NAME yurvo)
set(CPACK_DEBIAN_TOOL_PACKAGE_SECTION graphics)
set(CPACK_DEBIAN_TOOL_PACKAGE_SHLIBDEPS ON)
set(CPACK_DEBIAN_TOOL_PACKAGE_RECOMMENDS "libegl1, libgl1-mesa-dri, libsdl2-2.0-0") # loaded when they are needed
set(CPACK_COMPONENT_TOOL_DESCRIPTION "proves lighting models and shaders right
 The command-line tool: draws scenes with lighting models, says whether a
 picture or a shader is right, and names the mistake where it is not.")

set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_NAME libyurvo-dev)
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_SECTION libdevel)
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_DEPENDS "libtomlplusplus-dev, libtinygltf-dev, libtbb-dev, libxsimd-dev, libfmt-dev, libpng-dev, libopenexr-dev, libimath-dev, libtinyobjloader-dev, libpugixml-dev, libcairo2-dev, libfreetype-dev, zlib1g-dev, libre2-dev, libepoxy-dev, libegl-dev, libseccomp-dev, glslang-dev, libspirv-cross-c-shared-dev, libimgui-dev")
set(CPACK_COMPONENT_DEVELOPMENT_DESCRIPTION "library of lighting models and their verification
 The C++20 library: headers, static libraries, and what CMake and pkg-config
 need to find them. The formulas alone are headers that need no other package.")

set(CPACK_DEBIAN_DOCUMENTS_PACKAGE_NAME yurvo-doc)
set(CPACK_DEBIAN_DOCUMENTS_PACKAGE_SECTION doc)
set(CPACK_DEBIAN_DOCUMENTS_PACKAGE_ARCHITECTURE all)
set(CPACK_COMPONENT_DOCUMENTS_DESCRIPTION "documents of Yurvo
 The scene file, programs, formulas, the catalogue of mistakes with pictures.")

# What Debian's policy asks of each package: its licence and its changes.
file(READ ${PROJECT_SOURCE_DIR}/LICENSE licence)
string(REGEX REPLACE "\n\n" "\n.\n" licence "${licence}")
string(REGEX REPLACE "\n" "\n " licence "${licence}")
string(STRIP "${licence}" licence)
file(WRITE ${PROJECT_BINARY_DIR}/packaged/copyright
  "Format: https://www.debian.org/doc/packaging-manuals/copyright-format/1.0/\nUpstream-Name: yurvo\n\nFiles: *\nCopyright: 2026 The Yurvo team\nLicense: Expat\n ${licence}\n")
file(WRITE ${PROJECT_BINARY_DIR}/packaged/changelog.Debian
  "yurvo (${PROJECT_VERSION}-1) unstable; urgency=medium\n\n  * See CHANGELOG.md.\n\n -- The Yurvo team <team@yurvo.example.org>  Sat, 28 Nov 2026 12:00:00 +0000\n")
execute_process(COMMAND gzip -9nkf ${PROJECT_BINARY_DIR}/packaged/changelog.Debian)
foreach(component_and_package tool:yurvo development:libyurvo-dev documents:yurvo-doc)
  string(REPLACE ":" ";" pair ${component_and_package})
  list(GET pair 0 component)
  list(GET pair 1 package)
  install(FILES ${PROJECT_BINARY_DIR}/packaged/copyright ${PROJECT_BINARY_DIR}/packaged/changelog.Debian.gz
    DESTINATION ${CMAKE_INSTALL_DATADIR}/doc/${package} COMPONENT ${component})
  # It is not uploaded to Debian, where there would be a request to close.
  file(WRITE ${PROJECT_BINARY_DIR}/packaged/${package} "${package}: initial-upload-closes-no-bugs *\n")
  install(FILES ${PROJECT_BINARY_DIR}/packaged/${package} DESTINATION ${CMAKE_INSTALL_DATADIR}/lintian/overrides
    COMPONENT ${component})
endforeach()
include(CPack)
