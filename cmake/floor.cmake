# A floor is one folder, one library, one idea. It may use only floors below it:
# whorl_floor(NAME [USES floor...] [KEEPS system-library...])
# USES must name floors that come earlier in WHORL_FLOORS; anything else stops the configure step.

# Bottom to top. A floor may only use floors to its left.
set(WHORL_FLOORS quantity standard form model pair solid check together build drawing exchange cli app)

function(whorl_floor name)
    cmake_parse_arguments(arg "" "" "USES;KEEPS;SHARES" ${ARGN})
    list(FIND WHORL_FLOORS ${name} here)
    if(here EQUAL -1)
        message(FATAL_ERROR "Floor '${name}' is not listed in cmake/floor.cmake")
    endif()
    foreach(used ${arg_USES})
        list(FIND WHORL_FLOORS ${used} there)
        if(there EQUAL -1 OR NOT there LESS here)
            message(FATAL_ERROR "Floor '${name}' may not use '${used}': only floors below it")
        endif()
    endforeach()

    file(GLOB_RECURSE sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/*.cpp)
    list(FILTER sources EXCLUDE REGEX "/main\\.cpp$")
    add_library(whorl_${name} STATIC ${sources})
    whorl_target(whorl_${name})
    foreach(used ${arg_USES})
        target_link_libraries(whorl_${name} PUBLIC whorl_${used})
    endforeach()
    # KEEPS: system libraries that stay out of this floor's public headers. SHARES: those that do not.
    target_link_libraries(whorl_${name} PRIVATE ${arg_KEEPS} PUBLIC ${arg_SHARES})
    target_include_directories(whorl_${name} PUBLIC ${PROJECT_SOURCE_DIR}/src)
endfunction()

# Compiler settings that hold for every target of ours.
function(whorl_target target)
    target_compile_options(${target} PRIVATE -Wall -Wextra -Wpedantic -Wshadow -Wnon-virtual-dtor -Werror
        # GCC 12 reports std::string concatenation wrongly (GCC bugs 105651, 105329)
        $<$<CXX_COMPILER_ID:GNU>:-Wno-restrict -Wno-array-bounds -Wno-stringop-overflow -Wno-stringop-overread>)
    if(WHORL_FUZZ)
        target_compile_options(${target} PUBLIC -fsanitize=fuzzer-no-link)
    endif()
    if(WHORL_SANITIZE)
        # instrumented, GCC 12 takes the standard library's regex for uninitialised (GCC bug 105562)
        target_compile_options(${target} PUBLIC -fsanitize=address,undefined -fno-omit-frame-pointer
            $<$<CXX_COMPILER_ID:GNU>:-Wno-maybe-uninitialized>)
        target_link_options(${target} PUBLIC -fsanitize=address,undefined)
    endif()
endfunction()

# Headers that every file of a target reads are read once. The linter compiles without them, so that a file's own
# includes are still all it needs.
function(whorl_reads_once target)
    target_precompile_headers(${target} PRIVATE <algorithm> <cmath> <functional> <map> <memory> <optional> <string> <vector>
        ${ARGN})
endfunction()

# For a folder whose code never computes for long: compiled in three quarters of the time.
macro(whorl_compiled_fast)
    add_compile_options($<$<CONFIG:Release>:-O1>)
endmacro()

# Compiles data files into the program: each becomes a std::string_view named after the file.
# whorl_embed(target NAMESPACE file...)
function(whorl_embed target namespace)
    set(out ${CMAKE_CURRENT_BINARY_DIR}/embedded_${namespace}.cpp)
    set(body "// Generated from data files; do not edit.\n#include <string_view>\nnamespace whorl::${namespace} {\n")
    foreach(path ${ARGN})
        set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/${path})
        file(READ ${path} text)
        get_filename_component(stem ${path} NAME)
        string(MAKE_C_IDENTIFIER ${stem} id)
        string(APPEND body "extern const std::string_view ${id}_text;\n")
        # Raw literals are limited in length by some compilers: cut in pieces of 12000 bytes.
        string(LENGTH "${text}" size)
        set(pieces "")
        set(at 0)
        while(at LESS size)
            string(SUBSTRING "${text}" ${at} 12000 piece)
            string(APPEND pieces "R\"whorl(${piece})whorl\"\n")
            math(EXPR at "${at} + 12000")
        endwhile()
        string(APPEND body "const std::string_view ${id}_text =\n${pieces};\n")
    endforeach()
    string(APPEND body "}\n")
    file(CONFIGURE OUTPUT ${out} CONTENT "${body}" @ONLY)
    target_sources(${target} PRIVATE ${out})
endfunction()
