// SPDX-License-Identifier: GPL-3.0-or-later
#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/arrange/arrangement.h"
#include "core/model/choices.h"
#include "core/verdict/judge.h"
#include "support/json.h"
#include "support/registry.h"
#endif

#include <QtTest>

namespace tst_fresh {

using namespace core;

namespace {

Project blank() {
    const auto& tall = *arrange::arrangement("tall");
    auto box = arrange::makeBox(tall, arrange::usualSizes(tall));
    if (!box)
        qFatal("%s", box.error().text().c_str());
    Project p = arrange::startWith(tall, std::move(*box), "Fresh");
    p.brief.targets.clear();
    return p;
}
std::string told(const Project& p) {
    const auto e = stages::evaluate(p, "R1");
    if (!e)
        return e.error().text();
    std::string all;
    for (const auto& f : e->findings)
        all += f.rule + ": " + english(f.text) + "\n";
    return all;
}

} // namespace

/// What nobody chose yet is nobody's fault: a fresh case and default places make no findings of their own.
class FreshTest : public QObject {
    Q_OBJECT
private slots:
    void blankCaseIsQuiet() { QCOMPARE(QString::fromStdString(told(blank())), QString()); }
    void defaultPlaceOfAnM2Drive_data() {
        QTest::addColumn<QString>("drive");
        for (const char* id : {"m2-2242", "m2-2260", "m2-2280", "m2-22110"})
            QTest::newRow(id) << QString::fromLatin1(id);
    }
    void defaultPlaceOfAnM2Drive() {
        QFETCH(QString, drive);
        Project p = blank();
        auto shelf =
            store::readShelfJson(support::jsonFile(support::sourcePath("data/shelf/standard.json")).dump(), "shelf");
        QVERIFY2(shelf, shelf ? "" : shelf.error().text().c_str());
        std::string board;
        for (const Part& part : *shelf)
            if (part.kind == PartKind::Board || part.id == drive.toStdString()) {
                p.shelf.push_back(part);
                if (part.kind == PartKind::Board && board.empty() && std::get<BoardSpec>(part.spec).form == "mini-itx")
                    board = part.id;
            }
        p.revisions[0].changes.push_back(PlacePart{board, "tray"});
        const auto before = stages::evaluate(p, "R1");
        QVERIFY2(before, before ? "" : before.error().text().c_str());
        std::string place;
        for (const MountChoice& m : mountsOf(before->build))
            if (place.empty() && m.path.starts_with("tray/") &&
                std::find(m.accepts.begin(), m.accepts.end(), PartKind::Drive) != m.accepts.end())
                place = m.path;
        QVERIFY(!place.empty());
        p.revisions[0].changes.push_back(PlacePart{drive.toStdString(), place});
        const auto after = stages::evaluate(p, "R1");
        QVERIFY2(after, after ? "" : after.error().text().c_str());
        for (const auto& f : after->findings) {
            const bool known = std::any_of(before->findings.begin(), before->findings.end(),
                                           [&](const auto& b) { return b.id == f.id; });
            const bool ofTheDrive = f.subject == place || core::english(f.text).find("Store M.2") != std::string::npos;
            if (f.station == rules::Station::Air)
                continue; // how warm a bare drive gets in a case without a fan is no matter of its place
            QVERIFY2(known || !ofTheDrive || f.severity == rules::Severity::Note,
                     (f.rule + ": " + english(f.text)).c_str());
            QVERIFY2(!(ofTheDrive && f.station == rules::Station::Fit), (f.rule + ": " + english(f.text)).c_str());
        }
    }
};
} // namespace tst_fresh
MD_TEST(tst_fresh, FreshTest)
#include "tst_fresh.moc"
