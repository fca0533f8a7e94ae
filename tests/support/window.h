// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/main_window.h"
#include "app/ui/style.h"
#include "support/demo.h"
#include "support/things.h"

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

    /// Logs of the demo are analysed once for all windows of a program.
    static results::StageStore::Kept analysedDemo() {
        results::Results results(std::make_shared<core::Project>(demoProject()));
        (void)results.analyses();
        return results.store().kept(core::stages::Stage::Run);
    }
    explicit Window(const QString& folder = {}) {
        static const results::StageStore::Kept known = analysedDemo();
        document().stages().begin(known);
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
        static const QTemporaryDir once;
        const QString saved = once.filePath(QStringLiteral("demo.minidraft")),
                      path = dir.filePath(QStringLiteral("demo.minidraft"));
        if (!QFile::exists(saved) && !store::saveProject(demoProject(), saved))
            qFatal("the demo cannot be saved");
        if (!QFile::copy(saved, path) || !window->openPath(path))
            qFatal("the demo cannot be opened");
        QApplication::processEvents();
        return path;
    }
    /// A thing, or what is done at a place: of a handle only what is given must agree.
    struct Where {
        core::Thing thing;
        app::Handle handle;
        template <class Ref>
        requires std::is_constructible_v<core::Thing, Ref> Where(const Ref& ref) : thing(ref) {}
        Where(app::Act act) : handle{.act = act} {}
        Where(app::Handle wanted) : handle(std::move(wanted)) {}
        [[nodiscard]] bool holds(const app::Hit& hit) const {
            if (handle.act == app::Act::None)
                return hit.thing == thing;
            const bool cut = hit.is(app::Act::ChooseCut) || hit.is(app::Act::DragCut);
            return hit.is(handle.act) && (handle.row < 0 || hit.handle.row == handle.row) &&
                   (handle.list.isEmpty() || hit.handle.list == handle.list) &&
                   (core::isNothing(handle.of) || hit.handle.of == handle.of) &&
                   (!cut || hit.handle.axis == handle.axis);
        }
    };
    /// The place on the station shown; painted first.
    [[nodiscard]] std::optional<app::Hit> place(app::PaintedPanel* panel, const Where& where) {
        panel->grab();
        for (const app::Hit& hit : panel->hits())
            if (where.holds(hit))
                return hit;
        return std::nullopt;
    }
    /// Clicks the middle of a place; answers false when it is not there.
    bool click(app::PaintedPanel* panel, const Where& where) {
        const auto hit = place(panel, where);
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
    /// In windows of their own, and the one that stands on a station before there is a project.
    [[nodiscard]] QList<QDialog*> openDialogs() {
        QApplication::processEvents();
        QList<QDialog*> all = window->findChildren<QDialog*>();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (auto* d = qobject_cast<QDialog*>(top); d && !all.contains(d))
                all << d;
        all.removeIf([](const QDialog* d) { return !d->isVisible(); });
        return all;
    }
    template <class T = QWidget> [[nodiscard]] T* dialog(const char* field) {
        for (const QDialog* d : openDialogs())
            if (auto* w = d->findChild<T*>(QString::fromLatin1(field)))
                return w;
        return nullptr;
    }
    [[nodiscard]] QDialog* openDialog() {
        for (QDialog* d : openDialogs())
            if (d->objectName() != QLatin1String("progress"))
                return d;
        return nullptr;
    }
    [[nodiscard]] double cpu() {
        const auto& e = document().result().evaluation;
        return e ? e->air.part("tray/cpu")->temperatureC : std::nan("");
    }
};

} // namespace support
