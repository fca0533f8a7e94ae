# Warnings, sanitizers, compiler cache and linker, as one interface target that every module links.
option(MD_SANITIZE "Build with address and undefined behaviour sanitizers" OFF)
option(MD_SANITIZE_THREADS "Build with the thread sanitizer" OFF)
option(MD_FUZZ "Build the fuzzers instead of the tests; needs clang" OFF)
# For a tree that is built once, from nothing (./check on a new machine): half the work. One that is worked in stays faster
# without, since a change then builds one file and not six.
option(MD_UNITY "Compile several sources of a module together" OFF)
# What templates make of the same types is then made once or twice a module, and not for every six files.
set(CMAKE_UNITY_BUILD_BATCH_SIZE 36)
set(CMAKE_AUTOGEN_ORIGIN_DEPENDS OFF) # moc reads sources alone: nothing waits for the libraries below
option(MD_WERROR "Treat warnings as errors" ON)

set(CMAKE_CXX_FLAGS_RELEASE "-O2 -DNDEBUG")

add_library(md_options INTERFACE)
if(MD_UNITY AND CMAKE_CXX_COMPILER_ID STREQUAL "GNU") # several files at once: the compiler's own memory is tidied less often
    target_compile_options(md_options INTERFACE --param=ggc-min-expand=300 --param=ggc-min-heapsize=1048576)
endif()
target_compile_options(md_options INTERFACE -Wall -Wextra -Wpedantic -Wshadow -Wconversion -Wno-sign-conversion
    -Wno-missing-field-initializers # designated initialisers leave the rest at their defaults on purpose
    $<$<CXX_COMPILER_ID:GNU>:-Wno-stringop-overflow -Wno-stringop-overread -Wno-array-bounds -Wno-restrict> # false alarms of GCC 12 on std::string
    $<$<BOOL:${MD_WERROR}>:-Werror>)
if(MD_FUZZ)
    target_compile_options(md_options INTERFACE -fsanitize=fuzzer-no-link,address -fno-omit-frame-pointer)
endif()
if(MD_SANITIZE)
    target_compile_options(md_options INTERFACE -O1 -fsanitize=address,undefined -fno-omit-frame-pointer -fno-sanitize-recover=undefined)
    target_link_options(md_options INTERFACE -fsanitize=address,undefined)
endif()

if(MD_SANITIZE_THREADS)
    target_compile_options(md_options INTERFACE -O1 -fsanitize=thread -fno-omit-frame-pointer -Wno-tsan)
    target_link_options(md_options INTERFACE -fsanitize=thread)
endif()

find_program(MD_CCACHE ccache)
if(MD_CCACHE)
    set(CMAKE_CXX_COMPILER_LAUNCHER ${CMAKE_COMMAND} -E env CCACHE_SLOPPINESS=pch_defines,time_macros ${MD_CCACHE})
    target_compile_options(md_options INTERFACE $<$<CXX_COMPILER_ID:GNU>:-fpch-preprocess>)
endif()
find_program(MD_MOLD mold)
if(MD_MOLD)
    target_link_options(md_options INTERFACE -fuse-ld=mold)
endif()
