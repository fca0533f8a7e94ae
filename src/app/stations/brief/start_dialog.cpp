// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/start_dialog.h"

#include "app/stations/brief/start_sheet.h"
#include "app/ui/dialogs/standard_parts.h"
#include "store/csv.h"
#include "store/project_json.h"

#include <QFileDialog>
#include <QInputDialog>
#include <QKeyEvent>
#include <QPushButton>
#include <QScopedValueRollback>
#include <QScrollArea>

namespace app {
using core::Quantity;

StartDialog::StartDialog(Context& context, QWidget* parent) : FormDialog(context, tr("Start a project"), parent) {
    setObjectName(QStringLiteral("startProject"));
    if (auto parts = standardParts())
        m_standard = std::move(*parts);
    auto* columns = m_columns = new QHBoxLayout;
    columns->setSpacing(20);
    auto* left = new QVBoxLayout;
    auto* heading = new QLabel(tr("Which box is it, and how big is it?"), this);
    heading->setFont(context.theme.font(15, Weight::SemiBold));
    left->addWidget(heading);
    left->addWidget(new QLabel(tr("Usual arrangements: front and side, to scale; the bar is 100 mm"), this));
    m_grid = new ArrangementGrid(context, m_standard, this);
    m_grid->setMinimumSize(380, 460);
    left->addWidget(m_grid, 1);
    auto* below = new QLabel(tr("Sizes are inside, in mm. Arrows choose, Enter goes to the sizes."), this);
    below->setWordWrap(true);
    left->addWidget(below);
    auto* take = m_take = new QPushButton(tr("A case of another project or parts file ..."), this);
    take->setObjectName(QStringLiteral("takeCase"));
    take->setAutoDefault(false);
    connect(take, &QPushButton::clicked, this, &StartDialog::takeCase);
    left->addWidget(take, 0, Qt::AlignLeft);
    columns->addLayout(left, 5);
    columns->addWidget(makeForm(), 4);
    m_layout->insertLayout(0, columns, 1);
    auto* usualSizes = m_buttons->addButton(tr("Usual sizes"), QDialogButtonBox::ResetRole);
    usualSizes->setObjectName(QStringLiteral("usualSizes"));
    connect(usualSizes, &QPushButton::clicked, this, &StartDialog::usual);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Go on to the parts"));
    connect(m_grid, &ArrangementGrid::chose, this, &StartDialog::choose);
    connect(m_grid, &ArrangementGrid::entered, this, [this] { m_rows.front().box->setFocus(Qt::TabFocusReason); });
    m_grid->choose(3);
    const QSize room = parent ? parent->window()->size() : QSize(1280, 800);
    resize(std::clamp(room.width() - 40, 900, 1080), std::clamp(room.height() - 40, 600, 760));
}

void StartDialog::standOn(QWidget* page) {
    setParent(page, Qt::Widget);
    setAutoFillBackground(true);
    setAttribute(Qt::WA_DeleteOnClose, false); // dropped with Esc, what was typed stays
    m_layout->setContentsMargins(8, 4, 8, 4);
    m_grid->setMinimumSize(400, 360);
    m_scroll->setMinimumWidth(340);
    m_take->hide(); // the rail offers it
    m_columns->setSpacing(12);
    m_columns->setStretch(0, 8);
    m_columns->setStretch(1, 7);
    m_narrow = true;
    for (const Row& row : m_rows)
        sizeFields(row);
    show();
    raise();
    m_name->setFocus(Qt::TabFocusReason);
}

QString StartDialog::told(std::string_view word) const { return m_context.view().words(core::term(word)); }

const core::arrange::Arrangement& StartDialog::arrangement() const {
    return core::arrange::arrangements()[static_cast<std::size_t>(std::max(0, m_grid->chosen()))];
}

QWidget* StartDialog::makeForm() {
    auto* scroll = m_scroll = new QScrollArea(this);
    auto* holder = new QWidget(scroll);
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(2, 2, 12, 2);
    auto* head = new QHBoxLayout;
    m_title = new QLabel(holder);
    m_title->setFont(m_context.theme.font(14, Weight::SemiBold));
    m_litres = new QLabel(holder);
    m_litres->setObjectName(QStringLiteral("litres"));
    head->addWidget(m_title, 1);
    head->addWidget(m_litres);
    column->addLayout(head);
    m_picture = new StartSheet(m_context, holder);
    column->addWidget(m_picture);
    m_layout->removeItem(m_form);
    m_form->setParent(nullptr);
    m_name = addText(tr("Name"), QStringLiteral("name"), tr("My compact build"));
    column->addLayout(m_form);
    m_sizes = new QGridLayout;
    m_sizes->setHorizontalSpacing(8);
    m_sizes->setVerticalSpacing(4);
    m_sizes->setColumnStretch(0, 1);
    column->addLayout(m_sizes);
    auto* hint = new QLabel(tr("What nobody typed stays an estimate."), holder);
    hint->setWordWrap(true);
    column->addWidget(hint);
    m_makes = new QLabel(holder);
    m_makes->setObjectName(QStringLiteral("makes"));
    m_makes->setWordWrap(true);
    m_check = new QLabel(holder);
    m_check->setObjectName(QStringLiteral("check"));
    m_check->setWordWrap(true);
    column->addWidget(m_makes);
    column->addWidget(m_check);
    column->addStretch(1);
    scroll->setWidget(holder);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setMinimumWidth(400);
    m_way = new QComboBox(holder);
    m_way->setObjectName(QStringLiteral("way"));
    m_way->setToolTip(tr("Another way to use the same box; Alt+Left and Alt+Right"));
    m_wayLabel = new QLabel(tr("Supply"), holder);
    m_material = new QComboBox(holder);
    m_material->setObjectName(QStringLiteral("material"));
    m_material->addItems({tr("steel"), tr("aluminium"), tr("plastic, printed")});
    connect(m_way, &QComboBox::currentIndexChanged, this, [this] { follow(); });
    return scroll;
}

void StartDialog::choose(int) {
    const auto& a = arrangement();
    m_title->setText(told(a.name));
    makeRows();
    {
        const QScopedValueRollback quiet(m_showing, true);
        m_way->clear();
        for (const auto& way : a.ways)
            m_way->addItem(told(way.name), qs(way.id));
    }
    m_way->setVisible(a.ways.size() > 1);
    m_wayLabel->setVisible(a.ways.size() > 1);
    usual();
}

/// One row a size: the figure, and where it comes from with how far it may be off for that.
void StartDialog::makeRows() {
    m_rows.clear();
    while (QLayoutItem* item = m_sizes->takeAt(0)) {
        if (item->widget() && item->widget() != m_way && item->widget() != m_wayLabel && item->widget() != m_material)
            delete item->widget();
        delete item;
    }
    QWidget* holder = m_picture->parentWidget();
    const auto& asked = arrangement().sizes;
    for (std::size_t i = 0; i < asked.size(); ++i) {
        const auto& a = asked[i];
        const QString key = qs(a.key);
        auto* label = new QLabel(told(a.label), holder);
        label->setToolTip(told(a.help));
        QDoubleSpinBox* box = makeNumber(key, Quantity::Length, a.usualMm, a.lowMm, a.highMm);
        box->setToolTip(tr("%1: %2 to %3, %4")
                            .arg(told(a.label), m_context.view().number(Quantity::Length, a.lowMm),
                                 m_context.view().text(Quantity::Length, a.highMm), told(a.help)));
        box->setAccessibleName(told(a.label));
        QComboBox* source = makeSources(core::Source::Estimate);
        source->setObjectName(QStringLiteral("source-") + key);
        source->setAccessibleName(tr("%1 is measured with, or from").arg(told(a.label)));
        const int row = static_cast<int>(i);
        m_sizes->addWidget(label, row, 0);
        m_sizes->addWidget(box, row, 1);
        m_sizes->addWidget(source, row, 2);
        m_rows.push_back({box, source});
        sizeFields(m_rows.back());
        const auto stated = [this, i] { typed(i); };
        connect(box, &QDoubleSpinBox::valueChanged, this, stated);
        connect(box->findChild<QLineEdit*>(), &QLineEdit::textEdited, this, stated); // the same figure typed again
        connect(source, &QComboBox::activated, this, [this, i] {
            m_rows[i].typed = true;
            follow();
        });
        box->installEventFilter(this);
    }
    const int row = static_cast<int>(asked.size());
    m_sizes->addWidget(m_wayLabel, row, 0);
    m_sizes->addWidget(m_way, row, 1, 1, 2);
    auto* walls = new QLabel(tr("Walls are of"), holder);
    m_sizes->addWidget(walls, row + 1, 0);
    m_sizes->addWidget(m_material, row + 1, 1, 1, 2);
    QWidget* last = m_name; // Tab goes as one reads
    for (const Row& r : m_rows)
        for (QWidget* next : {static_cast<QWidget*>(r.box), static_cast<QWidget*>(r.source)}) {
            setTabOrder(last, next);
            last = next;
        }
    setTabOrder(last, m_way);
    setTabOrder(m_way, m_material);
}

void StartDialog::sizeFields(const Row& row) const {
    row.box->setFixedWidth(m_narrow ? 88 : 104);
    row.source->setFixedWidth(m_narrow ? 126 : 152);
}

void StartDialog::usual() {
    const auto& asked = arrangement().sizes;
    {
        const QScopedValueRollback quiet(m_showing, true);
        for (std::size_t i = 0; i < m_rows.size(); ++i) {
            setStored(m_rows[i].box, asked[i].usualMm);
            m_rows[i].wasMm = asked[i].usualMm;
            m_rows[i].source->setCurrentIndex(m_rows[i].source->findData(static_cast<int>(core::Source::Estimate)));
            m_rows[i].typed = false;
        }
    }
    m_litresBefore = 0;
    follow();
}

/// A figure that somebody typed is measured, unless its source says otherwise already.
void StartDialog::typed(std::size_t row) {
    if (m_showing)
        return;
    Row& r = m_rows[row];
    if (!std::exchange(r.typed, true) && sourceOf(r.source) == core::Source::Estimate)
        r.source->setCurrentIndex(r.source->findData(static_cast<int>(core::Source::Caliper)));
    m_picture->point(static_cast<int>(row), r.wasMm);
    follow();
}

/// What stands in a field as one comes to it is what the drawing compares with.
bool StartDialog::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusIn)
        for (std::size_t i = 0; i < m_rows.size(); ++i)
            if (watched == m_rows[i].box) {
                m_rows[i].wasMm = stored(m_rows[i].box);
                m_litresBefore = m_litresNow;
                m_picture->point(static_cast<int>(i), m_rows[i].wasMm);
            }
    return FormDialog::eventFilter(watched, event);
}

core::arrange::Sizes StartDialog::sizes() const {
    core::arrange::Sizes all;
    for (const Row& row : m_rows)
        all.all.push_back(core::measureMm(storedNow(row.box), sourceOf(row.source)));
    return all;
}

std::string StartDialog::way() const { return m_way->currentData().toString().toStdString(); }

void StartDialog::follow() {
    if (m_showing || m_rows.empty())
        return;
    const auto now = sizes();
    const auto box = arranged(arrangement(), now, way(), m_standard);
    if (!box) { // drawing and litres keep the last good value
        m_check->setText(qs(box.error().text()));
        return;
    }
    say(*box);
    m_picture->show(*box);
}

/// Litres, what is made, and whether the parts it is meant for go in.
void StartDialog::say(const ArrangedBox& box) {
    const View v = m_context.view();
    m_litresNow = box.litres;
    const QString now = v.text(Quantity::Volume, box.litres);
    m_litres->setText(m_litresBefore > 0 && std::abs(m_litresBefore - box.litres) >= 0.005
                          ? tr("%1 becomes %2 outside").arg(v.text(Quantity::Volume, m_litresBefore), now)
                          : tr("%1 outside, without feet").arg(now));
    sayWhatIsMade(box);
    results::Results check(box.project);
    const auto& look = check.waitedFor("R1");
    if (!look.evaluation) {
        m_check->setText(qs(look.problem));
        return;
    }
    sayWhetherItGoesIn(*look.evaluation);
    work(*look.evaluation);
}

void StartDialog::sayWhatIsMade(const ArrangedBox& box) {
    const core::CaseSpec& spec = box.build->caseSpec();
    const auto& mounts = box.build->casePart->mounts;
    const auto fans = std::count_if(mounts.begin(), mounts.end(), [](const core::Mount& m) {
        return std::find(m.accepts.begin(), m.accepts.end(), core::PartKind::Fan) != m.accepts.end();
    });
    const auto panels = std::count_if(box.project->shelf.begin(), box.project->shelf.end(),
                                      [](const core::Part& p) { return p.kind == core::PartKind::Made; });
    m_makes->setText(tr("Makes %1, %2, %3, %4, %5. All of it stays open to change.")
                         .arg(counted(static_cast<qsizetype>(spec.chambers.size()), tr("1 chamber"), tr("%1 chambers")),
                              counted(panels, tr("1 inner panel"), tr("%1 inner panels")),
                              counted(static_cast<qsizetype>(mounts.size()), tr("1 place"), tr("%1 places")),
                              counted(static_cast<qsizetype>(spec.openings.size()), tr("1 vent"), tr("%1 vents")),
                              counted(fans, tr("1 fan place"), tr("%1 fan places"))));
}

void StartDialog::sayWhetherItGoesIn(const core::stages::Evaluation& look) {
    if (arrangement().meant.empty()) {
        m_check->setText(tr("Walls and feet only: places and vents are yours to state."));
        return;
    }
    const View v = m_context.view();
    QStringList wrong;
    for (const auto& f : look.findings)
        if (f.severity != core::rules::Severity::Note)
            wrong << v.words(f.text);
    const QString tightest =
        v.signedNumber(Quantity::Length, core::fit::tightestMm(look.fit)) + QLatin1Char(' ') + v.unit(Quantity::Length);
    m_check->setText(wrong.isEmpty()
                         ? tr("With the parts it is meant for (%1): nothing is short, tightest gap %2 at worst.")
                               .arg(told(arrangement().takes), tightest)
                         : tr("With the parts it is meant for (%1): %2")
                               .arg(told(arrangement().takes),
                                    wrong.mid(0, 2).join(QStringLiteral("; ")) +
                                        (wrong.size() > 2 ? tr("; and %1 more").arg(wrong.size() - 2) : QString())));
}

/// The litres with their doubt, among those of the usual arrangements in their usual sizes.
void StartDialog::work(const core::stages::Evaluation& look) {
    m_worked = core::explain::ofVolume(look);
    m_worked->place = core::say("Start, box");
    m_worked->among = core::say("Among the usual ones, litres");
    const auto all = core::arrange::arrangements();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const bool own = &all[i] == &arrangement();
        if (own || !all[i].meant.empty()) // a blank one has no usual size
            m_worked->peers.push_back(
                {core::term(all[i].name), own ? look.fit.volumeL : m_grid->usualLitres(static_cast<int>(i)), own});
    }
    std::stable_sort(m_worked->peers.begin(), m_worked->peers.end(),
                     [](const auto& a, const auto& b) { return a.value < b.value; });
    Q_EMIT worked(m_worked);
}

void StartDialog::showEvent(QShowEvent* event) {
    FormDialog::showEvent(event);
    Q_EMIT worked(m_worked);
}

void StartDialog::hideEvent(QHideEvent* event) {
    FormDialog::hideEvent(event);
    Q_EMIT worked(std::nullopt);
}

void StartDialog::turnWay(int by) {
    if (m_way->count() > 1)
        m_way->setCurrentIndex((m_way->currentIndex() + by + m_way->count()) % m_way->count());
}

/// On a page, plain keys are for its fields: the window has some for its stations.
bool StartDialog::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (!(key->modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier)) && !key->text().isEmpty())
            event->accept();
    }
    return FormDialog::event(event);
}

void StartDialog::keyPressEvent(QKeyEvent* event) {
    if (event->modifiers() == Qt::AltModifier && (event->key() == Qt::Key_Left || event->key() == Qt::Key_Right))
        return turnWay(event->key() == Qt::Key_Left ? -1 : 1);
    if (event->modifiers() == Qt::ControlModifier && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter))
        return accept();
    FormDialog::keyPressEvent(event);
}

core::Result<void> StartDialog::apply() {
    const QString name = m_name->text().trimmed();
    if (name.isEmpty())
        return core::problem("Name", "is empty", "any name; the file is called after it");
    auto box = core::arrange::makeBox(arrangement(), sizes(), way());
    if (!box)
        return tl::make_unexpected(box.error());
    std::get<core::CaseSpec>(box->casePart.spec).material = static_cast<core::WallMaterial>(m_material->currentIndex());
    core::Project project = core::arrange::startWith(arrangement(), std::move(*box), name.toStdString());
    if (auto wrong = core::validate(project); !wrong.empty())
        return tl::make_unexpected(wrong.front());
    Q_EMIT created(project);
    return {};
}

void StartDialog::takeCase() {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("A case of another project or parts file"), {},
                                     tr("Projects and parts files (*.minidraft *.json);;All files (*)"));
    if (!path.isEmpty())
        takeCaseOf(path);
}

void StartDialog::takeCaseOf(const QString& path) {
    std::vector<core::Part> parts;
    if (auto project = store::openProject(path)) {
        parts.assign(project->project.shelf.begin(), project->project.shelf.end());
    } else {
        const auto text = store::readFile(path.toStdString());
        auto shelf = text ? store::readShelfJson(*text, path.toStdString()) : tl::make_unexpected(text.error());
        if (!shelf)
            return FormDialog::say(qs(shelf.error().text()));
        parts = std::move(*shelf);
    }
    QStringList names;
    std::vector<const core::Part*> cases;
    for (const core::Part& p : parts)
        if (p.kind == core::PartKind::Case) {
            names << QStringLiteral("%1 (%2)").arg(qs(p.name), qs(p.id));
            cases.push_back(&p);
        }
    if (cases.empty())
        return FormDialog::say(tr("%1 holds no case: choose a project or parts file with one").arg(path));
    qsizetype row = 0;
    if (cases.size() > 1) {
        bool chosen = false;
        const QString name = QInputDialog::getItem(this, tr("Which case?"), tr("Case"), names, 0, false, &chosen);
        if (!chosen)
            return;
        row = names.indexOf(name);
    }
    const core::Part chosen = *cases[static_cast<std::size_t>(row)];
    beginWith(std::move(parts), chosen);
}

/// With the made parts that the case is put together from, and without anything placed.
void StartDialog::beginWith(std::vector<core::Part> parts, const core::Part& chosen) {
    core::arrange::Box box{chosen, {}, {core::SetCase{chosen.id}}};
    const auto& pieces = std::get<core::CaseSpec>(chosen.spec).pieces;
    for (core::Part& p : parts)
        if (std::find(pieces.begin(), pieces.end(), p.id) != pieces.end())
            box.panels.push_back(std::move(p));
    core::Project project = core::arrange::startWith(core::arrange::arrangements().back(), std::move(box),
                                                     m_name->text().trimmed().toStdString());
    project.revisions[0].note = tr("Begun with the case %1").arg(qs(chosen.name)).toStdString();
    if (auto wrong = core::validate(project); !wrong.empty())
        return FormDialog::say(qs(wrong.front().text()));
    Q_EMIT created(project);
    QDialog::accept(); // NOLINT(bugprone-parent-virtual-call): what a form checks was checked above
}

} // namespace app

#include "moc_start_dialog.cpp"
