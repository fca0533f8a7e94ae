// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QDoubleSpinBox>
#include <QLineEdit>

namespace app {

/// A number that is typed with a comma or a point, in any locale. Every letter that is typed stays until the field is
/// left; what cannot be taken is told then, and the last good value stays.
class NumberBox : public QDoubleSpinBox {
    Q_OBJECT
public:
    explicit NumberBox(QWidget* parent = nullptr);
    QValidator::State validate(QString& input, int& position) const override;
    double valueFromText(const QString& text) const override;
    QString textFromValue(double value) const override;
    /// Shows this many decimals, or two more where those say it exactly; keeps four more.
    void setLeastDecimals(int decimals);
    void fixup(QString& input) const override;
    /// What is typed now, before it is taken; the last good value while it is no number, or out of range.
    [[nodiscard]] double typedNow() const { return lineEdit()->isModified() ? valueFromText(text()) : value(); }
    /// Takes what is typed now. Answers false once where it was refused: then the field says why, and keeps its value.
    [[nodiscard]] bool takeTyped();
    /// Why the last thing typed was not taken; empty: it was.
    [[nodiscard]] const QString& refusal() const { return m_refusal; }

Q_SIGNALS:
    /// Empty when a good value followed.
    void refused(const QString& why) const;

protected:
    void focusInEvent(QFocusEvent* event) override;

private:
    struct Read {
        double value = 0;
        QString why;
    };
    [[nodiscard]] Read read(const QString& text) const;
    int m_least = -1; ///< decimals that are shown at least; -1: all there are
    mutable QString m_refusal;
    mutable bool m_fresh = false; ///< refused, and nobody was told in words yet
};

} // namespace app
