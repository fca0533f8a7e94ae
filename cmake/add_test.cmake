# md_test(tst_name SOURCES file.cpp LIBS core_air ... [LABEL core]) registers a Qt Test program with CTest.
function(md_test name)
    cmake_parse_arguments(T "" "LABEL;TIMEOUT" "SOURCES;LIBS" ${ARGN})
    add_executable(${name} ${T_SOURCES})
    set_target_properties(${name} PROPERTIES AUTOMOC ON)
    target_include_directories(${name} PRIVATE ${PROJECT_SOURCE_DIR}/src ${PROJECT_SOURCE_DIR}/tests)
    target_compile_options(${name} PRIVATE -UQT_NO_CAST_FROM_ASCII -UQT_NO_CAST_TO_ASCII) # literals in tests are ASCII
    target_compile_definitions(${name} PRIVATE MD_SOURCE_DIR="${PROJECT_SOURCE_DIR}" MD_BIN_DIR="${CMAKE_RUNTIME_OUTPUT_DIRECTORY}")
    target_link_libraries(${name} PRIVATE md_options Qt6::Test ${T_LIBS})
    # One source a test: a precompiled header of its own would cost more than it saves, and so would optimising it.
    target_compile_options(${name} PRIVATE -O0)
    add_test(NAME ${name} COMMAND ${name})
    if(NOT T_TIMEOUT)
        set(T_TIMEOUT 180)
    endif()
    set_tests_properties(${name} PROPERTIES TIMEOUT ${T_TIMEOUT} LABELS "${T_LABEL}" ENVIRONMENT
        "QT_QPA_PLATFORM=offscreen;TZ=UTC;XDG_CONFIG_HOME=${CMAKE_BINARY_DIR}/test-config;XDG_DATA_HOME=${CMAKE_BINARY_DIR}/test-data;XDG_CACHE_HOME=${CMAKE_BINARY_DIR}/test-cache")
endfunction()
