// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/style.h"
#include "support/registry.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QProgressBar>
#include <QRadioButton>
#include <QSlider>
#include <QSpinBox>
#include <QTableWidget>
#include <QtTest>

namespace tst_style {

using namespace app;

/// Standard controls in the program's own style, measured in the pixels they are painted with.
class StyleTest : public QObject {
    Q_OBJECT
    Theme m_theme;

    /// The control alone on paper with a margin around it, as it is painted.
    static QImage painted(QWidget* control, const Theme& theme, QSize size) {
        QWidget ground;
        ground.setPalette(theme.palette());
        ground.setAutoFillBackground(true);
        ground.resize(size + QSize(40, 40));
        control->setParent(&ground);
        control->setGeometry(QRect(QPoint(20, 20), size));
        control->setPalette(theme.palette());
        ground.show();
        QApplication::processEvents();
        control->clearFocus();
        const QImage image = ground.grab().toImage();
        control->setParent(nullptr);
        return image;
    }
    /// The strongest contrast against the ground in a row of pixels across an edge.
    static double edgeContrast(const QImage& image, QPoint outside, QPoint step) {
        const QColor ground = image.pixelColor(outside);
        double best = 1;
        QPoint at = outside;
        for (int i = 0; i < 6; ++i, at += step)
            best = std::max(best, contrast(ground, image.pixelColor(at)));
        return best;
    }

private Q_SLOTS:
    void initTestCase() { loadFonts(); }

    void edgesStandOut_data() {
        QTest::addColumn<bool>("dark");
        QTest::addColumn<QString>("what");
        for (const bool dark : {false, true})
            for (const char* what : {"text", "number", "choice", "editable choice", "list", "table", "progress",
                                     "button", "off text", "off number"})
                QTest::addRow("%s %s", what, dark ? "dark" : "light") << dark << QString(what);
    }
    /// All four edges 3:1 from the paper around them (WCAG 2.1, 1.4.11), and square: the corner is as strong as the
    /// edge.
    void edgesStandOut() {
        QFETCH(bool, dark);
        QFETCH(QString, what);
        m_theme = dark ? Theme::night_() : Theme::light();
        QApplication::setStyle(new SheetStyle(m_theme));
        std::unique_ptr<QWidget> control;
        if (what.endsWith("text"))
            control = std::make_unique<QLineEdit>("12.5");
        else if (what.endsWith("number"))
            control = std::make_unique<QSpinBox>();
        else if (what.endsWith("choice")) {
            auto box = std::make_unique<QComboBox>();
            box->addItem("caliper");
            box->setEditable(what.startsWith("editable"));
            control = std::move(box);
        } else if (what == "list")
            control = std::make_unique<QListWidget>();
        else if (what == "table")
            control = std::make_unique<QTableWidget>(2, 2);
        else if (what == "progress")
            control = std::make_unique<QProgressBar>();
        else
            control = std::make_unique<QPushButton>("Add");
        const bool off = what.startsWith("off");
        control->setEnabled(!off);
        const QSize size(160, what == "list" || what == "table" ? 90 : 28);
        const QImage image = painted(control.get(), m_theme, size);
        const int midX = 20 + size.width() / 2 + 7, midY = 20 + size.height() / 2 + 1;
        const auto best = [&](QPoint from, QPoint step,
                              QPoint along) { // a dashed edge has gaps: the strongest of some places
            double most = 1;
            for (int i = -6; i <= 6; ++i)
                most = std::max(most, edgeContrast(image, from + along * i, step));
            return most;
        };
        const double edges[] = {best({17, midY}, {1, 0}, {0, 1}), best({22 + size.width(), midY}, {-1, 0}, {0, 1}),
                                best({midX, 17}, {0, 1}, {1, 0}), best({midX, 22 + size.height()}, {0, -1}, {1, 0})};
        for (const double edge : edges)
            QVERIFY2(edge >= 3.0, qPrintable(QString::number(edge)));
        if (!off)
            QVERIFY2(edgeContrast(image, {17, 17}, {1, 1}) >= 3.0, "the corner is rounded off");
        QApplication::setStyle(QStringLiteral("Fusion"));
    }

    void indicatorsTellWhatIsOn_data() {
        QTest::addColumn<bool>("dark");
        QTest::newRow("light") << false;
        QTest::newRow("dark") << true;
    }
    /// A box that is on differs from one that is off by a mark that stands out from its field.
    void indicatorsTellWhatIsOn() {
        QFETCH(bool, dark);
        m_theme = dark ? Theme::night_() : Theme::light();
        QApplication::setStyle(new SheetStyle(m_theme));
        const auto marks = [&](QAbstractButton* button) {
            button->setCheckable(true);
            button->setChecked(false);
            const QImage off = painted(button, m_theme, {24, 24});
            button->setChecked(true);
            const QImage on = painted(button, m_theme, {24, 24});
            double most = 1;
            for (int y = 20; y < 44; ++y)
                for (int x = 20; x < 44; ++x)
                    most = std::max(most, contrast(off.pixelColor(x, y), on.pixelColor(x, y)));
            return std::pair(most, edgeContrast(off, {19, 32}, {1, 0}));
        };
        QCheckBox check;
        QRadioButton radio;
        for (const auto& [mark, edge] : {marks(&check), marks(&radio)}) {
            QVERIFY2(mark >= 4.5, qPrintable(QString::number(mark)));
            QVERIFY2(edge >= 3.0, qPrintable(QString::number(edge)));
        }
        QSlider slider(Qt::Horizontal);
        const QImage image = painted(&slider, m_theme, {160, 28});
        double groove = 1;
        for (int y = 24; y < 44; ++y)
            groove = std::max(groove, contrast(image.pixelColor(20, 10), image.pixelColor(150, y)));
        QVERIFY2(groove >= 3.0, qPrintable(QString::number(groove)));
        QApplication::setStyle(QStringLiteral("Fusion"));
    }

    /// Rows, heads, fields and entries of menus are at least 24 px high.
    void rowsAreHighEnough() {
        m_theme = Theme::light();
        QApplication::setStyle(new SheetStyle(m_theme));
        QListWidget list;
        list.addItems({"one", "two"});
        QCOMPARE_GE(list.visualItemRect(list.item(0)).height(), 24);
        QTableWidget table(2, 2);
        QCOMPARE_GE(table.horizontalHeader()->sizeHint().height(), 24);
        QCOMPARE_GE(table.rowHeight(0), 24);
        for (QWidget* w :
             std::initializer_list<QWidget*>{new QLineEdit(&list), new QSpinBox(&list), new QComboBox(&list)})
            QCOMPARE_GE(w->sizeHint().height(), 24);
        QMenu menu;
        QAction* action = menu.addAction("Open");
        QCOMPARE_GE(menu.actionGeometry(action).height(), 24);
        // A menu lies over the sheet: its edge tells it from what is below.
        menu.resize(menu.sizeHint());
        const QImage image = menu.grab().toImage();
        for (const QPoint at : {QPoint(0, image.height() / 2), QPoint(image.width() - 1, image.height() / 2),
                                QPoint(image.width() / 2, 0), QPoint(image.width() / 2, image.height() - 1)})
            QVERIFY2(contrast(image.pixelColor(at), m_theme.sheet) >= 3.0,
                     qPrintable(QString::number(contrast(image.pixelColor(at), m_theme.sheet))));
        QApplication::setStyle(QStringLiteral("Fusion"));
    }

    /// File lists have icons of our own, in the ink of the theme: dark ones would vanish on dark paper.
    void fileIconsAreOurs() {
        for (const bool dark : {false, true}) {
            m_theme = dark ? Theme::night_() : Theme::light();
            SheetStyle style(m_theme);
            for (const auto which :
                 {QStyle::SP_DirIcon, QStyle::SP_FileIcon, QStyle::SP_FileDialogNewFolder,
                  QStyle::SP_FileDialogToParent, QStyle::SP_FileDialogListView, QStyle::SP_ArrowBack}) {
                QImage icon(16, 16, QImage::Format_ARGB32_Premultiplied);
                icon.fill(m_theme.field);
                QPainter p(&icon);
                p.drawPixmap(0, 0, style.standardIcon(which, nullptr, nullptr).pixmap(16, 16));
                p.end();
                double most = 1;
                for (int y = 0; y < icon.height(); ++y)
                    for (int x = 0; x < icon.width(); ++x)
                        most = std::max(most, contrast(icon.pixelColor(x, y), m_theme.field));
                QVERIFY2(most >= 4.5, qPrintable(QString::number(which) + ": " + QString::number(most)));
            }
        }
    }

    void dialogsAreNotLightInTheDark() {
        support::Window w;
        w.window->applyTheme(ThemeChoice::Dark);
        QFileDialog dialog(w.window.get());
        dialog.setOption(QFileDialog::DontUseNativeDialog);
        dialog.resize(700, 420);
        dialog.show();
        QApplication::processEvents();
        const QImage image = dialog.grab().toImage();
        qint64 light = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                light += image.pixelColor(x, y).lightnessF() > 0.6;
        const double share = double(light) / (image.width() * image.height());
        QVERIFY2(share > 0.001 && share < 0.1, qPrintable(QString::number(share))); // its letters, no plates
        w.window->applyTheme(ThemeChoice::Light);
    }
};

} // namespace tst_style
MD_TEST(tst_style, StyleTest)
#include "tst_style.moc"
