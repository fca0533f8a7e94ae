# What nearly every test reads, parsed once: it was two thirds of the time a test took to build. The flags must be those
# of the tests, so both are made by md_test_flags. One for the core and the store, one for the window.
function(md_test_flags name)
    target_include_directories(${name} PRIVATE ${PROJECT_SOURCE_DIR}/src ${PROJECT_SOURCE_DIR}/tests)
    target_compile_options(${name} PRIVATE -UQT_NO_CAST_FROM_ASCII -UQT_NO_CAST_TO_ASCII # literals in tests are ASCII
        -UQT_TESTCASE_BUILDDIR -UQT_TESTCASE_SOURCEDIR) # not used here, and not the same for two folders
    target_compile_definitions(${name} PRIVATE MD_SOURCE_DIR="${PROJECT_SOURCE_DIR}" MD_BIN_DIR="${CMAKE_RUNTIME_OUTPUT_DIRECTORY}")
    target_compile_options(${name} PRIVATE -O0) # a test runs once: optimising it takes longer than it saves
endfunction()
function(md_test_headers name)
    cmake_parse_arguments(H "" "" "HEADERS;LIBS" ${ARGN})
    add_library(${name} OBJECT ${PROJECT_SOURCE_DIR}/cmake/headers.cpp)
    target_link_libraries(${name} PRIVATE md_options Qt6::Test ${H_LIBS})
    md_test_flags(${name})
    target_precompile_headers(${name} PRIVATE <QtTest> <algorithm> <functional> <map> <random> <set> ${H_HEADERS})
endfunction()
set(core_headers "${PROJECT_SOURCE_DIR}/src/core/model/choices.h" "${PROJECT_SOURCE_DIR}/src/core/verdict/judge.h" "${PROJECT_SOURCE_DIR}/src/store/files.h")
md_test_headers(test_headers_core LIBS core_verdict store HEADERS ${core_headers})
if(NOT MD_UNITY)
    md_test_headers(test_headers_window LIBS app_ui HEADERS <QtWidgets> ${core_headers} "${PROJECT_SOURCE_DIR}/src/app/ui/main_window.h")
endif()

# Seconds of those that take longest: CTest begins with them, so that on two cores nothing long is left for the end.
set(md_seconds tst_faults 85 tst_program 60 tst_killed_window 35 tst_safe_store 32 tst_things 22 tst_window 22
    tst_labels 20 tst_cli 18 tst_air_window 15 tst_fit_window 15 tst_extremes 13 tst_hands 12 tst_stage_store 12 tst_by_hand 9 tst_own_box 7)

# What CTest runs, and how: without a screen, with folders of its own.
function(md_register test)
    cmake_parse_arguments(R "" "LABEL;TIMEOUT" "COMMAND" ${ARGN})
    if(NOT R_TIMEOUT)
        set(R_TIMEOUT 180)
    endif()
    if(MD_SANITIZE OR MD_SANITIZE_THREADS) # three to twenty times slower; as tests/support/patience.h
        math(EXPR R_TIMEOUT "${R_TIMEOUT} * 8")
    endif()
    math(EXPR of_a_function "${R_TIMEOUT} * 1000") # Qt Test has a limit of its own
    add_test(NAME ${test} COMMAND ${R_COMMAND})
    list(FIND md_seconds ${test} at)
    if(NOT at EQUAL -1)
        math(EXPR at "${at} + 1")
        list(GET md_seconds ${at} seconds)
        set_tests_properties(${test} PROPERTIES COST ${seconds})
    endif()
    set_tests_properties(${test} PROPERTIES TIMEOUT ${R_TIMEOUT} LABELS "${R_LABEL}" ENVIRONMENT
        "QT_QPA_PLATFORM=offscreen;TZ=UTC;XDG_CONFIG_HOME=${CMAKE_BINARY_DIR}/test-config;XDG_DATA_HOME=${CMAKE_BINARY_DIR}/test-data;XDG_CACHE_HOME=${CMAKE_BINARY_DIR}/test-cache;QTEST_FUNCTION_TIMEOUT=${of_a_function}")
endfunction()

# Our own libraries that @p libs are or need, each once.
function(md_own_libraries out libs)
    set(all ${${out}})
    foreach(lib IN LISTS libs)
        string(REGEX REPLACE "^\\$<LINK_ONLY:(.*)>$" "\\1" lib "${lib}")
        if(TARGET ${lib} AND NOT lib IN_LIST all)
            get_target_property(type ${lib} TYPE)
            get_target_property(below ${lib} INTERFACE_LINK_LIBRARIES)
            if(type STREQUAL "STATIC_LIBRARY")
                list(APPEND all ${lib})
                md_own_libraries(all "${below}")
            endif()
        endif()
    endforeach()
    set(${out} ${all} PARENT_SCOPE)
endfunction()

# An inline function that a test and a library both hold is the one that is linked first. Tests are not optimised, so the
# libraries stand before them: what is tested runs as fast as it will.
function(md_link_libraries_first name libs)
    set(own)
    md_own_libraries(own "${libs}")
    foreach(lib IN LISTS own)
        target_link_options(${name} PRIVATE $<TARGET_FILE:${lib}>)
    endforeach()
endfunction()

function(md_test_program name)
    cmake_parse_arguments(P "OWN_HEADERS" "" "SOURCES;LIBS" ${ARGN})
    add_executable(${name} ${P_SOURCES})
    set_target_properties(${name} PROPERTIES AUTOMOC ON AUTOMOC_EXECUTABLE ${CMAKE_BINARY_DIR}/moc)
    md_test_flags(${name})
    target_link_libraries(${name} PRIVATE md_options Qt6::Test ${P_LIBS})
    md_link_libraries_first(${name} "${P_LIBS}")
    # Moc's own file of a test is empty: what a test declares is in its .moc.
    set_source_files_properties(${CMAKE_CURRENT_BINARY_DIR}/${name}_autogen/mocs_compilation.cpp PROPERTIES SKIP_PRECOMPILE_HEADERS ON)
    if(P_OWN_HEADERS)
    elseif("${P_LIBS}" MATCHES "app_ui")
        if(NOT MD_UNITY) # two sources then
            target_precompile_headers(${name} REUSE_FROM test_headers_window)
        endif()
    else()
        target_precompile_headers(${name} REUSE_FROM test_headers_core)
    endif()
endfunction()

# md_tests(tests_core LIBS core_air ... LABEL core SOURCES a/tst_one.cpp b/tst_two.cpp): one program for the tests of a module,
# one test of CTest for each file. A template that many tests use is then compiled once. Each file is a namespace of its own.
function(md_tests program)
    cmake_parse_arguments(T "WINDOW;OWN_HEADERS" "LABEL" "SOURCES;LIBS" ${ARGN})
    set(own)
    if(T_OWN_HEADERS)
        set(own OWN_HEADERS)
    endif()
    md_test_program(${program} SOURCES ${PROJECT_SOURCE_DIR}/tests/support/main.cpp ${T_SOURCES} LIBS ${T_LIBS} ${own})
    set_target_properties(${program} PROPERTIES UNITY_BUILD ${MD_UNITY} UNITY_BUILD_BATCH_SIZE 24)
    target_compile_options(${program} PRIVATE -Wno-subobject-linkage) # said of files that are put together
    if(T_WINDOW)
        target_compile_definitions(${program} PRIVATE MD_WINDOW)
    endif()
    foreach(source IN LISTS T_SOURCES)
        cmake_path(GET source STEM name)
        md_register(${name} COMMAND ${program} ${name} LABEL ${T_LABEL})
    endforeach()
endfunction()

# md_test(tst_name SOURCES file.cpp LIBS core_air ... [LABEL core] [OWN_HEADERS]): a test that is a program of its own.
# OWN_HEADERS: built with other flags or other parts of Qt than the precompiled headers.
function(md_test name)
    cmake_parse_arguments(T "OWN_HEADERS" "LABEL;TIMEOUT" "SOURCES;LIBS" ${ARGN})
    set(own)
    if(T_OWN_HEADERS)
        set(own OWN_HEADERS)
    endif()
    md_test_program(${name} SOURCES ${T_SOURCES} LIBS ${T_LIBS} ${own})
    md_register(${name} COMMAND ${name} LABEL ${T_LABEL} TIMEOUT ${T_TIMEOUT})
endfunction()
