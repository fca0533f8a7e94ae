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
    add_library(${name} OBJECT ${PROJECT_SOURCE_DIR}/tests/support/headers.cpp)
    target_link_libraries(${name} PRIVATE md_options Qt6::Test ${H_LIBS})
    md_test_flags(${name})
    target_precompile_headers(${name} PRIVATE <QtTest> <algorithm> <functional> <map> <random> <set> ${H_HEADERS})
endfunction()
set(core_headers "${PROJECT_SOURCE_DIR}/src/core/model/choices.h" "${PROJECT_SOURCE_DIR}/src/core/verdict/judge.h" "${PROJECT_SOURCE_DIR}/src/store/files.h")
md_test_headers(test_headers_core LIBS core_verdict store HEADERS ${core_headers})
md_test_headers(test_headers_window LIBS app_ui HEADERS <QtWidgets> ${core_headers} "${PROJECT_SOURCE_DIR}/src/app/ui/main_window.h")

# md_test(tst_name SOURCES file.cpp LIBS core_air ... [LABEL core] [OWN_HEADERS]) registers a Qt Test program with CTest.
# OWN_HEADERS: built with other flags or other parts of Qt than the precompiled headers.
function(md_test name)
    cmake_parse_arguments(T "OWN_HEADERS" "LABEL;TIMEOUT" "SOURCES;LIBS" ${ARGN})
    add_executable(${name} ${T_SOURCES})
    set_target_properties(${name} PROPERTIES AUTOMOC ON)
    md_test_flags(${name})
    target_link_libraries(${name} PRIVATE md_options Qt6::Test ${T_LIBS})
    # Moc's own file of a test is empty: what a test declares is in its .moc.
    set_source_files_properties(${CMAKE_CURRENT_BINARY_DIR}/${name}_autogen/mocs_compilation.cpp PROPERTIES SKIP_PRECOMPILE_HEADERS ON)
    if(T_OWN_HEADERS)
    elseif("${T_LIBS}" MATCHES "app_ui")
        target_precompile_headers(${name} REUSE_FROM test_headers_window)
    else()
        target_precompile_headers(${name} REUSE_FROM test_headers_core)
    endif()
    add_test(NAME ${name} COMMAND ${name})
    if(NOT T_TIMEOUT)
        set(T_TIMEOUT 180)
    endif()
    set_tests_properties(${name} PROPERTIES TIMEOUT ${T_TIMEOUT} LABELS "${T_LABEL}" ENVIRONMENT
        "QT_QPA_PLATFORM=offscreen;TZ=UTC;XDG_CONFIG_HOME=${CMAKE_BINARY_DIR}/test-config;XDG_DATA_HOME=${CMAKE_BINARY_DIR}/test-data;XDG_CACHE_HOME=${CMAKE_BINARY_DIR}/test-cache")
endfunction()
