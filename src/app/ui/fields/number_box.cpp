// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/fields/number_box.h"

#include "app/paint/canvas.h"
#include "core/base/typed_number.h"

#include <QFocusEvent>

#include <cmath>

namespace app {

NumberBox::NumberBox(QWidget* parent) : QDoubleSpinBox(parent) {
    setKeyboardTracking(false);
    setGroupSeparatorShown(false);
    connect(lineEdit(), &QLineEdit::textEdited, this, [this] {
        if (m_refusal.isEmpty())
            return;
        m_refusal.clear();
        m_fresh = false;
        Q_EMIT refused({});
    });
}

NumberBox::Read NumberBox::read(const QString& text) const {
    const QString said = text.trimmed();
    if (!specialValueText().isEmpty() && said == specialValueText())
        return {minimum(), {}};
    QString t = said;
    if (!prefix().isEmpty() && t.startsWith(prefix()))
        t.remove(0, prefix().size());
    const std::string typed = t.toStdString(), unit = suffix().trimmed().toStdString();
    const core::TypedNumber n = core::typedNumber(typed, unit);
    using Wrong = core::TypedNumber::Wrong;
    switch (n.wrong) {
    case Wrong::Nothing:
        break;
    case Wrong::Empty:
        return {0, tr("nothing is typed")};
    case Wrong::TwoMarks:
        return {
            0,
            tr("\u201c%1\u201d has more than one comma or point: write it without separators of thousands").arg(said)};
    case Wrong::NoNumber:
        return {0, tr("\u201c%1\u201d is no number").arg(said)};
    case Wrong::UnknownUnit:
        return {0, tr("the unit of \u201c%1\u201d is not known").arg(said)};
    case Wrong::OtherUnit:
        return {0, unit.empty() ? tr("\u201c%1\u201d: this field has no unit").arg(said)
                                : tr("\u201c%1\u201d is no figure in %2").arg(said, qs(unit))};
    }
    const double half = 0.5 * std::pow(10.0, -decimals());
    if (n.value < minimum() - half || n.value > maximum() + half)
        return {0, tr("%1 is out of range, %2 to %3")
                       .arg(said, textFromValue(minimum()), textFromValue(maximum()) + suffix())};
    return {std::clamp(n.value, minimum(), maximum()), {}};
}

/// Nothing is swallowed while typing: what is no number yet may become one.
QValidator::State NumberBox::validate(QString& input, int&) const {
    return read(input).why.isEmpty() ? QValidator::Acceptable : QValidator::Intermediate;
}

double NumberBox::valueFromText(const QString& text) const {
    const Read r = read(text);
    return r.why.isEmpty() ? r.value : value();
}

void NumberBox::setLeastDecimals(int least) {
    m_least = least;
    setDecimals(least + 4);
}

QString NumberBox::textFromValue(double value) const {
    if (m_least < 0)
        return digits(value, decimals());
    // As many decimals as say it exactly; of a long tail, as a conversion leaves it, no more than usual.
    for (int shown = m_least; shown <= std::min(m_least + 2, decimals()); ++shown) {
        const double scale = std::pow(10.0, shown);
        if (std::abs(std::round(value * scale) / scale - value) < 1e-9)
            return digits(value, shown);
    }
    return digits(value, std::min(m_least, decimals()));
}

void NumberBox::fixup(QString& input) const {
    const Read r = read(input);
    if (r.why.isEmpty())
        return;
    const QString stays = textFromValue(value());
    m_refusal = tr("%1; %2 stays").arg(r.why, stays + suffix());
    m_fresh = true;
    Q_EMIT refused(m_refusal);
    input = prefix() + stays + suffix();
}

bool NumberBox::takeTyped() {
    if (lineEdit()->isModified()) // what nobody touched may have more decimals than are shown
        interpretText();
    return !std::exchange(m_fresh, false);
}

void NumberBox::focusInEvent(QFocusEvent* event) {
    QDoubleSpinBox::focusInEvent(event);
    if (event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason)
        selectAll();
}

} // namespace app

#include "moc_number_box.cpp"
