// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QObject>

#include <functional>
#include <map>
#include <memory>
#include <string>

// One program a module holds many tests: each registers itself, and main.cpp runs the one it is called with.
namespace support {

using Tests = std::map<std::string, std::function<std::unique_ptr<QObject>()>>;
inline Tests& tests() {
    static Tests all;
    return all;
}

template <class Test> struct Registered {
    explicit Registered(const char* name) {
        tests().emplace(name, [] { return std::make_unique<Test>(); });
    }
};

} // namespace support

/// Behind the namespace of a test, which has the name of its file.
#define MD_TEST(Name, Test)                                                                                            \
    namespace Name {                                                                                                   \
    static const support::Registered<Test> registered(#Name);                                                          \
    }
