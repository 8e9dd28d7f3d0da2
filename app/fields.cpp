#include "fields.h"

#include <QRegularExpression>
#include <QToolTip>

#include "wording.h"

namespace easel::app {

LengthField::LengthField(double least, double most, QWidget* parent) : QDoubleSpinBox(parent) {
  setDecimals(4);  // metres; an inch is kept exactly enough
  setRange(least, most);
  setSingleStep(0.05);
  setKeyboardTracking(false);
}

QString LengthField::textFromValue(double metres) const { return lengthText(metres); }

double LengthField::valueFromText(const QString& typed) const {
  const QString text = typed.toLower().replace(',', '.').trimmed();
  static const QRegularExpression feet(R"(^(-?[\d.]+)\s*(?:ft|')\s*(?:([\d.]+)\s*(?:in|")?)?$)");
  static const QRegularExpression inches(R"(^(-?[\d.]+)\s*(?:in|")$)");
  static const QRegularExpression metric(R"(^(-?[\d.]+)\s*(m|cm)?$)");
  if (auto m = feet.match(text); m.hasMatch())
    return m.captured(1).toDouble() * 0.3048 + m.captured(2).toDouble() * 0.0254;
  if (auto m = inches.match(text); m.hasMatch()) return m.captured(1).toDouble() * 0.0254;
  if (auto m = metric.match(text); m.hasMatch()) {
    const double v = m.captured(1).toDouble();
    if (m.captured(2) == "cm") return v / 100;
    if (m.captured(2) == "m" || Preferences::current().metres) return v;
    return v * 0.3048;  // a bare number is in the unit that is shown
  }
  return value();
}

QValidator::State LengthField::validate(QString& text, int&) const {
  static const QRegularExpression allowed(R"(^[-\d.,\s'"a-zA-Z]*$)");
  if (!allowed.match(text).hasMatch()) return QValidator::Invalid;
  static const QRegularExpression whole(
      R"(^\s*-?[\d.,]+\s*(m|cm|ft|in|'|"|ft\s*[\d.,]+\s*(in)?|'\s*[\d.,]+\s*"?)?\s*$)",
      QRegularExpression::CaseInsensitiveOption);
  return whole.match(text).hasMatch() ? QValidator::Acceptable : QValidator::Intermediate;
}

SpokenField::SpokenField(std::function<void(const QString&)> take, QWidget* parent) : QLineEdit(parent) {
  connect(this, &QLineEdit::editingFinished, this, [this, take = std::move(take)] {
    if (text() == shown_) return;
    try {
      take(text());
    } catch (const std::exception& e) {
      const QString why = QString::fromUtf8(e.what());
      setText(shown_);
      QToolTip::showText(mapToGlobal(QPoint(0, height())), why, this);
      emit refused(why);
    }
  });
}

void SpokenField::setShown(const QString& text) {
  shown_ = text;
  if (!hasFocus() || !isModified()) setText(text);
}

QDoubleSpinBox* numberField(double least, double most, double step, int decimals, const QString& suffix,
                            QWidget* parent) {
  auto* f = new QDoubleSpinBox(parent);
  f->setRange(least, most);
  f->setSingleStep(step);
  f->setDecimals(decimals);
  f->setSuffix(suffix);
  f->setKeyboardTracking(false);
  return f;
}

}  // namespace easel::app
