// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/shell/begin_elsewhere.h"

#include <QDir>
#include <QFileInfo>
#include <QLabel>
#include <QPainter>

namespace app {

namespace {
/// What a project is called on the disk, with the folder it lies in where two are called alike.
QStringList namesOf(const QStringList& paths) {
    QStringList names, folders;
    for (const QString& path : paths) {
        const QFileInfo file(path);
        const bool folder = file.fileName() == QLatin1String("project.json"); // the folder has the name
        const QFileInfo named(folder ? file.path() : path);
        names << (folder ? named.fileName() : named.completeBaseName());
        folders << named.dir().dirName();
    }
    QStringList told;
    for (qsizetype i = 0; i < names.size(); ++i)
        told << (names.count(names[i]) > 1 ? QStringLiteral("%1, %2").arg(names[i], folders[i]) : names[i]);
    return told;
}
} // namespace

BeginElsewhere::BeginElsewhere(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("beginElsewhere"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 6, 12, 6);
    column->setSpacing(6);
    auto* head = new QLabel(tr("Begin elsewhere"), this);
    head->setFont(context.theme.font(12.5, Weight::SemiBold));
    column->addWidget(head);
    const auto add = [&](const QString& words, const QString& tip, const QString& name) {
        QPushButton* button = offer(words, tip, name);
        column->addWidget(button);
        return button;
    };
    connect(add(tr("A project ..."), tr("Open a project file or folder (Ctrl+O)"), QStringLiteral("elsewhereOpen")),
            &QPushButton::clicked, this, &BeginElsewhere::openWanted);
    connect(add(tr("A case ..."), tr("The case of another project or parts file: its walls, places and vents"),
                QStringLiteral("elsewhereCase")),
            &QPushButton::clicked, this, &BeginElsewhere::caseWanted);
    connect(add(tr("The demo, as a copy"),
                tr("The dig-tent box, invented: twelve revisions and fourteen runs, to try "
                   "everything on"),
                QStringLiteral("elsewhereDemo")),
            &QPushButton::clicked, this, &BeginElsewhere::demoWanted);
    m_recent = new QVBoxLayout;
    m_recent->setSpacing(6);
    column->addLayout(m_recent);
    column->addStretch(1);
    refresh();
}

QPushButton* BeginElsewhere::offer(const QString& words, const QString& tip, const QString& objectName) {
    auto* button = new QPushButton(words, this);
    button->setObjectName(objectName);
    button->setToolTip(tip);
    button->setAutoDefault(false);
    return button;
}

void BeginElsewhere::refresh() {
    while (QLayoutItem* item = m_recent->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    constexpr qsizetype most = 4; // the menu has them all
    QStringList there;
    for (const QString& path : m_context.settings.recent)
        if (there.size() < most && QFileInfo::exists(path))
            there << path;
    if (there.isEmpty())
        return;
    auto* head = new QLabel(tr("Open last"), this);
    head->setFont(m_context.theme.font(12.5, Weight::SemiBold));
    m_recent->addWidget(head);
    const QStringList names = namesOf(there);
    for (qsizetype i = 0; i < there.size(); ++i) {
        QPushButton* button = offer(fontMetrics().elidedText(names[i], Qt::ElideMiddle, 130), there[i],
                                    QStringLiteral("elsewhereRecent"));
        connect(button, &QPushButton::clicked, this, [this, path = there[i]] { Q_EMIT recentWanted(path); });
        m_recent->addWidget(button);
    }
}

void BeginElsewhere::paintEvent(QPaintEvent*) { QPainter(this).fillRect(rect(), m_context.theme.tray); }

} // namespace app

#include "moc_begin_elsewhere.cpp"
