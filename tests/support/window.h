// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/main_window.h"
#include "app/ui/style.h"
#include "support/demo.h"

#include <QApplication>
#include <QDialog>
#include <QPointer>
#include <QPushButton>
#include <QTemporaryDir>

namespace support {

/// The real window with its context, driven offscreen.
struct Window {
    QTemporaryDir data; ///< recordings and copies of one test are not offered to another
    app::Context context;
    std::unique_ptr<app::MainWindow> window;

    explicit Window(const QString& folder = {}) {
        app::loadFonts();
        context.settings = {};
        context.settings.dataFolder = folder.isEmpty() ? data.path() : folder;
        QApplication::setStyle(new app::SheetStyle(context.theme));
        window = std::make_unique<app::MainWindow>(context);
        window->applyTheme(app::ThemeChoice::Light);
        window->show();
        QApplication::processEvents();
    }
    ~Window() { QApplication::setStyle(QStringLiteral("Fusion")); } // the style looks at our theme

    [[nodiscard]] QString captures() const { return context.settings.dataFolder + "/captures"; }
    [[nodiscard]] app::Document& document() { return context.document; }
    /// Opens a copy of the demo, so that saving never touches the source tree.
    QString openDemo(const QTemporaryDir& dir) {
        const QString path = dir.filePath(QStringLiteral("demo.minidraft"));
        if (!store::saveProject(demoProject(), path) || !window->openPath(path))
            qFatal("the demo cannot be opened");
        QApplication::processEvents();
        return path;
    }
    /// The place with this key on the station shown; painted first.
    [[nodiscard]] std::optional<app::Hit> place(app::PaintedPanel* panel, const QString& key) {
        panel->grab();
        for (const app::Hit& hit : panel->hits())
            if (hit.key == key)
                return hit;
        return std::nullopt;
    }
    /// Clicks the middle of a place; answers false when it is not there.
    bool click(app::PaintedPanel* panel, const QString& key) {
        const auto hit = place(panel, key);
        if (!hit)
            return false;
        QTest::mouseClick(panel, Qt::LeftButton, {}, hit->rect.center().toPoint());
        QApplication::processEvents();
        return true;
    }
    /// A key for the window as a whole; shortcuts need it to be the active one.
    void key(int k, Qt::KeyboardModifiers modifiers = {}) {
        QApplication::setActiveWindow(window.get());
        QTest::keyClick(window.get(), static_cast<Qt::Key>(k), modifiers);
        QApplication::processEvents();
    }
    template <class T = QWidget> [[nodiscard]] T* dialog(const char* field) {
        QApplication::processEvents();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (top->isVisible() && qobject_cast<QDialog*>(top))
                if (auto* w = top->findChild<T*>(QString::fromLatin1(field)))
                    return w;
        return nullptr;
    }
    [[nodiscard]] QDialog* openDialog() {
        QApplication::processEvents();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (auto* d = qobject_cast<QDialog*>(top); d && d->isVisible() && d->objectName() != QLatin1String("progress"))
                return d;
        return nullptr;
    }
    [[nodiscard]] double cpu() {
        const auto& e = document().result().evaluation;
        return e ? e->air.part("tray/cpu")->temperatureC : std::nan("");
    }
};

} // namespace support
