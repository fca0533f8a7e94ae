// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/registry.h"

#ifdef MD_WINDOW
#include <QApplication>
using Application = QApplication;
#else
#include <QCoreApplication>
using Application = QCoreApplication;
#endif
#include <QtTest>

/// usage: PROGRAM tst_name [options of Qt Test]. Without a name: which there are.
int main(int argc, char** argv) {
    const auto wanted = argc > 1 ? support::tests().find(argv[1]) : support::tests().end();
    if (wanted == support::tests().end()) {
        for (const auto& [name, make] : support::tests())
            std::puts(name.c_str());
        return 2;
    }
    QStringList arguments{QString::fromUtf8(argv[0])};
    for (int i = 2; i < argc; ++i)
        arguments << QString::fromLocal8Bit(argv[i]);
    Application app(argc, argv);
#ifdef MD_WINDOW
    app.setAttribute(Qt::AA_Use96Dpi, true); // as QTEST_MAIN does
#endif
    return QTest::qExec(wanted->second().get(), arguments);
}
