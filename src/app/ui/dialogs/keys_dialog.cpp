// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/keys_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QMenu>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace app {
namespace {

struct Key {
    QString keys, what;
};

void addGroup(QTreeWidget* tree, const QString& title, const std::vector<Key>& keys) {
    if (keys.empty())
        return;
    auto* group = new QTreeWidgetItem(tree, {title});
    group->setFirstColumnSpanned(true);
    QFont font = tree->font();
    font.setBold(true);
    group->setFont(0, font);
    for (const Key& key : keys)
        new QTreeWidgetItem(group, {key.what, key.keys});
    group->setExpanded(true);
}

std::vector<Key> keysOf(const QMenu& menu) {
    std::vector<Key> keys;
    for (const QAction* action : menu.actions())
        if (!action->menu() && !action->shortcuts().isEmpty())
            keys.push_back({QKeySequence::listToString(action->shortcuts(), QKeySequence::NativeText),
                            QString(action->text()).remove(QLatin1Char('&')).remove(QStringLiteral(" ..."))});
    return keys;
}

} // namespace

KeysDialog::KeysDialog(Context&, const QMenu& menu, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Keys"));
    setObjectName(QStringLiteral("keys"));
    setAttribute(Qt::WA_DeleteOnClose);
    auto* layout = new QVBoxLayout(this);
    auto* tree = new QTreeWidget(this);
    tree->setObjectName(QStringLiteral("keysTree"));
    tree->setColumnCount(2);
    tree->setHeaderLabels({tr("What"), tr("Keys")});
    tree->setRootIsDecorated(false);
    tree->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    tree->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    for (const QAction* action : menu.actions())
        if (action->menu())
            addGroup(tree, QString(action->text()).remove(QLatin1Char('&')), keysOf(*action->menu()));
    addGroup(tree, tr("Everywhere"),
             {{tr("F10"), tr("Menu")},
              {tr("F6, Shift+F6"), tr("From region to region")},
              {tr("Esc, Backspace"), tr("Back to what was selected before")},
              {tr("Enter"), tr("Edit what is selected")},
              {tr("F2"), tr("Rename what is selected")},
              {tr("Delete"), tr("Take out what is selected")},
              {tr("Menu key, Shift+F10"), tr("What can be done with it")}});
    addGroup(tree, tr("Fit"),
             {{tr("A, B, C"), tr("Section from the side, the front, from above")},
              {tr("Arrows, Shift+arrows"), tr("Move the cut by 1 or 10 mm")},
              {tr("End"), tr("Cut at the next edge")},
              {tr("G, M, T, R, I, L"), tr("Gaps, what would mend, what to measure, room left, going in, leads")},
              {tr("Insert, Delete, N"), tr("Of the lead selected: a corner more, one less, the next one")},
              {tr("X"), tr("Sit the selected part the other way its place has")},
              {tr("S, D"), tr("Sort the gaps, show fewer of them")},
              {tr("Page up and down"), tr("Scroll the list")},
              {tr("E"), tr("Edit the box: walls, chambers, vents and places")},
              {tr("O"), tr("Lay the revision it came from, then the baseline, over the sections")},
              {tr("+, -, 0"), tr("Larger, smaller, all of it")},
              {tr("Alt+arrows, Alt+Page up and down"),
               tr("Nudge the selected part, or corner of a lead, by 0.5 mm, with Shift by 5")}});
    addGroup(tree, tr("Air"),
             {{tr("R"), tr("Turn the selected fan round")},
              {tr("Left, Right"), tr("Its speed; when exploring, the way before or after")},
              {tr("E"), tr("Explore what is left open, and back")},
              {tr("N"), tr("The network behind it; Enter sets a value by hand")},
              {tr("H"), tr("Play the warm-up; Space starts and stops, left and right go on")},
              {tr("A, B, C"), tr("Look from the side, the front, above")},
              {tr("D"), tr("What differs from the baseline")},
              {tr("V, S, A, C, L"), tr("Exploring: leave fans, screens, panels, places, lying open or not")},
              {tr("Ctrl+T"), tr("Save what is shown as SVG or CSV")},
              {tr("Ctrl+E"), tr("Save the fan curves of the chosen way")},
              {tr("Space"), tr("Exploring: draw the chosen way over what is there, and back")},
              {tr("M"), tr("The section with what the logged runs taught, and as the sheets have it")},
              {tr("Enter, Esc"), tr("Of a way: open it as a revision; leave")}});
    addGroup(tree, tr("Revisions"), {{tr("Up, Down"), tr("The revision above or below")}});
    layout->addWidget(tree);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(buttons);
    resize(560, 600);
}

} // namespace app

#include "moc_keys_dialog.cpp"
