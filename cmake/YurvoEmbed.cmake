# yurvo_embed(TARGET NAMES_PREFIX prefix FILES ...)
#
# Puts files into the program: `embedded_PREFIX(name)` gives the bytes of the one so named, declared in the
# generated header embedded_PREFIX.hpp.
function(yurvo_embed target)
  cmake_parse_arguments(embed "" "NAMES_PREFIX" "FILES" ${ARGN})
  set(folder ${PROJECT_BINARY_DIR}/embedded)
  set(source ${folder}/embedded_${embed_NAMES_PREFIX}.cpp)
  file(MAKE_DIRECTORY ${folder})
  file(WRITE ${folder}/embedded_file.hpp.new
    "#pragma once\n\n#include <string_view>\n\nnamespace yurvo {\n\n"
    "struct embedded_file {\n    std::string_view name, bytes;\n};\n\n} // namespace yurvo\n")
  file(COPY_FILE ${folder}/embedded_file.hpp.new ${folder}/embedded_file.hpp ONLY_IF_DIFFERENT)
  file(WRITE ${folder}/embedded_${embed_NAMES_PREFIX}.hpp.new
    "#pragma once\n\n#include <vector>\n\n#include \"embedded_file.hpp\"\n\nnamespace yurvo {\n\n"
    "const std::vector<embedded_file>& embedded_${embed_NAMES_PREFIX}();\n\n} // namespace yurvo\n")
  file(COPY_FILE ${folder}/embedded_${embed_NAMES_PREFIX}.hpp.new ${folder}/embedded_${embed_NAMES_PREFIX}.hpp
    ONLY_IF_DIFFERENT)
  # The assembler takes the bytes as they are; no compiler has to read them as numbers.
  set(text "#include \"embedded_${embed_NAMES_PREFIX}.hpp\"\n\n")
  set(list "")
  set(i 0)
  foreach(file IN LISTS embed_FILES)
    get_filename_component(path ${file} ABSOLUTE BASE_DIR ${PROJECT_SOURCE_DIR})
    get_filename_component(name ${path} NAME)
    if(NOT EXISTS ${path})
      message(FATAL_ERROR "${path} is missing; scripts/setup installs what the build needs")
    endif()
    set(symbol embedded_${embed_NAMES_PREFIX}_${i})
    string(APPEND text
      "asm(\".section .rodata\\n${symbol}:\\n.incbin \\\"${path}\\\"\\n${symbol}_end:\\n.previous\\n\");\n"
      "extern \"C\" {\nextern const char ${symbol}[] asm(\"${symbol}\");\n"
      "extern const char ${symbol}_end[] asm(\"${symbol}_end\");\n}\n")
    string(APPEND list
      "        {\"${name}\", {${symbol}, static_cast<std::size_t>(${symbol}_end - ${symbol})}},\n")
    math(EXPR i "${i} + 1")
    list(APPEND paths ${path})
  endforeach()
  string(APPEND text "\nnamespace yurvo {\n\nconst std::vector<embedded_file>& embedded_${embed_NAMES_PREFIX}() {\n"
    "    static const std::vector<embedded_file> files{\n${list}    };\n    return files;\n}\n\n} // namespace yurvo\n")
  file(WRITE ${source}.new "${text}")
  file(COPY_FILE ${source}.new ${source} ONLY_IF_DIFFERENT)
  set_source_files_properties(${source} PROPERTIES OBJECT_DEPENDS "${paths}" SKIP_UNITY_BUILD_INCLUSION ON)
  target_sources(${target} PRIVATE ${source})
  target_include_directories(${target} PRIVATE ${folder})
endfunction()
