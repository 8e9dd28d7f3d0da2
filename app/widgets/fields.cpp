#include "widgets/fields.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolTip>
#include <QWheelEvent>
#include <cmath>

#include "exposure/aperture.h"
#include "exposure/shutter.h"
#include "spoken/clock.h"
#include "spoken/length.h"
#include "spoken/number.h"
#include "widgets/markup.h"
#include "widgets/wording.h"

namespace easel::app {

Typing::Typing(QWidget* field, QLineEdit* line) : QObject(field), field_(field), line_(line) {
  connect(line, &QLineEdit::textEdited, this, [this](const QString& text) {
    if (!pending_ && text == shown_) return;
    pending_ = text != shown_;
    if (!pending_ && note_) note_->hide();
  });
}

bool Typing::mayShow(const QString& text) {
  const bool changed = text != shown_;
  shown_ = text;
  if (!pending_) return true;
  if (changed) note(text);
  return false;
}

void Typing::end() {
  pending_ = false;
  shown_ = line_->text();
  if (note_) note_->hide();
}

bool Typing::claims(QEvent* e) {
  if (e->type() == QEvent::Hide) {
    if (note_) note_->hide();
    return false;
  }
  if (e->type() != QEvent::ShortcutOverride && e->type() != QEvent::KeyPress) return false;
  auto* key = static_cast<QKeyEvent*>(e);
  const bool override = e->type() == QEvent::ShortcutOverride;
  if (key->key() == Qt::Key_Escape && pending_) {
    if (!override) {
      pending_ = false;
      if (note_) note_->hide();
      emit givenUp();
    }
    key->accept();
    return true;
  }
  const bool undo = key->matches(QKeySequence::Undo),
             redo = key->matches(QKeySequence::Redo) ||
                    (key->key() == Qt::Key_Z && key->modifiers() == (Qt::ControlModifier | Qt::ShiftModifier));
  if (!undo && !redo) return false;
  const bool own = undo ? pending_ && line_->isUndoAvailable() : line_->isRedoAvailable();
  if (override) {
    // Left to the plan when nothing of the typing is left to take back.
    own ? key->accept() : key->ignore();
    return true;
  }
  if (own) undo ? line_->undo() : line_->redo();
  return own;
}

void Typing::note(const QString& text) {
  QWidget* window = field_->window();
  if (!note_) {
    note_ = new QLabel(window);
    note_->setObjectName("fieldNote");
    note_->setAccessibleName(tr("Changed meanwhile"));
  }
  note_->setText(tr("now %1 (Esc takes it)").arg(text));
  note_->adjustSize();
  const QPoint under = field_->mapTo(window, QPoint(0, field_->height() + 1));
  note_->move(std::max(0, std::min(under.x(), window->width() - note_->width())),
              std::min(under.y(), window->height() - note_->height()));
  note_->raise();
  note_->show();
}

NumberField::NumberField(double least, double most, Words words, QWidget* parent)
    : QDoubleSpinBox(parent), words_(std::move(words)) {
  typing_ = new Typing(this, lineEdit());  // in here: its coming is already an event of this field
  setDecimals(6);
  setRange(least, most);
  setKeyboardTracking(false);
  setFocusPolicy(Qt::StrongFocus);
  connect(this, &QDoubleSpinBox::valueChanged, this, [this](double v) {
    typing_->end();
    underneath_ = v;
    emit taken(v);
  });
  connect(this, &QDoubleSpinBox::editingFinished, this, [this] {
    if (!typing_->pending()) return;
    // The old value was typed again while another one came underneath: it is meant.
    typing_->end();
    if (value() != underneath_) {
      underneath_ = value();
      emit taken(value());
    }
  });
  connect(typing_, &Typing::givenUp, this, [this] {
    setShown(underneath_);
    selectAll();
  });
}

void NumberField::setShown(double v) {
  underneath_ = v;
  if (!typing_->mayShow(prefix() + textFromValue(v))) return;
  const QSignalBlocker quiet(this);
  setValue(v);  // writes the text anew even when only the unit has changed
  typing_->end();
}

QString NumberField::textFromValue(double v) const { return words_.write ? words_.write(v) : QString::number(v); }

QString NumberField::bare(const QString& text) const {
  return text.startsWith(prefix()) ? text.mid(prefix().size()) : text;
}

double NumberField::valueFromText(const QString& text) const {
  try {
    if (!specialValueText().isEmpty() && text == specialValueText()) return minimum();
    // What is shown may be rounded: read back it is the value, not the rounding.
    if (bare(text) == textFromValue(underneath_)) return underneath_;
    return words_.read(bare(text));
  } catch (const std::exception&) {
    return value();  // validate() has refused it already
  }
}

QValidator::State NumberField::validate(QString& text, int&) const {
  if (!specialValueText().isEmpty() && text == specialValueText()) return QValidator::Acceptable;
  try {
    const double v = words_.read(bare(text));
    return v >= minimum() && v <= maximum() ? QValidator::Acceptable : QValidator::Intermediate;
  } catch (const std::exception&) {
    return QValidator::Intermediate;  // may become a number while it is typed further
  }
}

// Called when the field is left with a text that is no value of it; afterwards the old value stands again.
void NumberField::fixup(QString& text) const {
  QString why;
  try {
    const double v = words_.read(bare(text));
    if (v >= minimum() && v <= maximum()) return;
    why = tr("%1: it goes from %2 to %3.").arg(text.trimmed(), words_.write(minimum()), words_.write(maximum()));
  } catch (const std::exception& e) {
    why = QString::fromUtf8(e.what());
  }
  if (!accessibleName().isEmpty()) why = accessibleName() + ": " + why;
  text = prefix() + textFromValue(underneath_);
  typing_->end();
  QToolTip::showText(mapToGlobal(QPoint(0, height())), plainTip(why), const_cast<NumberField*>(this));
  emit refused(why);
}

bool NumberField::event(QEvent* e) { return (typing_ && typing_->claims(e)) || QDoubleSpinBox::event(e); }

void NumberField::setWords(Words words, double least, double most) {
  words_ = std::move(words);
  typing_->end();
  const QSignalBlocker quiet(this);
  setRange(least, most);
}

NumberField::Words wordsOf(const Range& range) {
  const auto spoken = [](auto write, auto read) {
    return NumberField::Words{[write](double v) { return QString::fromStdString(write(v)); },
                              [read](const QString& t) { return read(t.toStdString()); }, false};
  };
  switch (range.quantity) {
    case Quantity::Length:
      return spoken([](double v) { return Preferences::current().spelling().length(v); },
                    [](const std::string& t) { return readLength(t, Preferences::current().spelling().lengths); });
    case Quantity::Clock:
      return spoken(writeClock, readClock);
    case Quantity::Time:
      return spoken(writeShutter, readShutter);
    case Quantity::FNumber:
      return spoken([](double v) { return Preferences::current().spelling().aperture(v); }, readAperture);
    default:
      return {[](double v) { return QString::number(v, 'g', 7); },
              [](const QString& t) {
                const auto v = wholeAmount(t.toStdString());
                if (!v) throw std::invalid_argument(QObject::tr("\"%1\" is not a number.").arg(t).toStdString());
                return *v;
              }};
  }
}

LengthField::LengthField(double least, double most, QWidget* parent)
    : NumberField(least, most, wordsOf(rangeOf("light.distance")), parent) {
  setDecimals(4);  // metres; an inch is kept exactly enough
  setSingleStep(0.05);
}

ClockField::ClockField(QWidget* parent) : NumberField(0, 12, wordsOf(rangeOf("light.hour")), parent) {
  setSingleStep(0.1);
}

void ClockField::stepBy(int steps) {
  interpretText();
  setValue(roundTheClock(value() + steps * singleStep()));
  selectAll();
}

NumberField* numberField(double least, double most, double step, int decimals, const QString& suffix, QWidget* parent) {
  // Read with or without the unit behind it. Shown with the decimals that are of use; with more where somebody typed
  // more, but not where a drag left a fraction.
  auto* f = new NumberField(
      least, most,
      {[decimals, suffix](double v) {
         int shown = decimals;
         const auto is = [v](int n) { return std::abs(v - std::round(v * std::pow(10, n)) / std::pow(10, n)) < 1e-7; };
         if (is(decimals + 2))
           while (!is(shown)) ++shown;
         return QString::number(v + 0.0, 'f', shown) + suffix;
       },
       [suffix](const QString& typed) {
         QString t = typed.trimmed();
         const QString unit = suffix.trimmed();
         if (!unit.isEmpty() && t.endsWith(unit, Qt::CaseInsensitive)) t.chop(int(unit.size()));
         const auto v = wholeAmount(t.toStdString());
         if (!v)
           throw std::invalid_argument(
               QObject::tr("\"%1\" is not a number. Write it like %2.").arg(typed, "2.5" + suffix).toStdString());
         return *v;
       }},
      parent);
  f->setSingleStep(step);
  return f;
}

SpokenField::SpokenField(std::function<void(const QString&)> take, QWidget* parent) : QLineEdit(parent) {
  typing_ = new Typing(this, this);
  connect(this, &QLineEdit::editingFinished, this, [this, take = std::move(take)] {
    if (!typing_->pending()) return;
    const QString typed = text();
    typing_->end();
    try {
      take(typed);
      setText(shown_);
      typing_->end();
    } catch (const std::exception& e) {
      const QString why = QString::fromUtf8(e.what());
      setText(shown_);
      typing_->end();
      QToolTip::showText(mapToGlobal(QPoint(0, height())), plainTip(why), this);
      emit refused(why);
    }
  });
  connect(typing_, &Typing::givenUp, this, [this] {
    setText(shown_);
    typing_->end();
    selectAll();
  });
}

void SpokenField::setShown(const QString& text) {
  shown_ = text;
  if (!typing_->mayShow(text)) return;
  if (text != this->text()) setText(text);
  typing_->end();
}

bool SpokenField::event(QEvent* e) { return (typing_ && typing_->claims(e)) || QLineEdit::event(e); }

void InputGuard::install() {
  static auto* guard = new InputGuard;
  qApp->removeEventFilter(guard);
  qApp->installEventFilter(guard);
}

namespace {

// The tooltip that the thing under the pointer has; empty: it shows its own, or none.
QString tipAt(QWidget* w, const QHelpEvent& e) {
  if (auto* view = qobject_cast<QAbstractItemView*>(w->parentWidget()); view && view->viewport() == w)
    if (const QModelIndex at = view->indexAt(e.pos()); at.isValid())
      if (const QString tip = at.data(Qt::ToolTipRole).toString(); !tip.isEmpty()) return tip;
  if (const auto* menu = qobject_cast<QMenu*>(w)) {
    const QAction* a = menu->actionAt(e.pos());
    return a && menu->toolTipsVisible() ? a->toolTip() : QString();
  }
  return w->toolTip();
}

}  // namespace

bool InputGuard::eventFilter(QObject* watched, QEvent* e) {
  // Names are text: widgets/markup.h.
  if (e->type() == QEvent::Polish)
    if (auto* label = qobject_cast<QLabel*>(watched); label && label->textFormat() == Qt::AutoText)
      label->setTextFormat(Qt::PlainText);
  if (e->type() == QEvent::ToolTip)
    if (auto* w = qobject_cast<QWidget*>(watched)) {
      const auto& help = *static_cast<QHelpEvent*>(e);
      const QString tip = tipAt(w, help);
      if (!Qt::mightBeRichText(tip)) return false;
      QToolTip::showText(help.globalPos(), plainTip(tip), w);
      return true;
    }
  if (e->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(e);
    auto* button = qobject_cast<QPushButton*>(watched);
    if (!button || !button->isEnabled() || (key->key() != Qt::Key_Return && key->key() != Qt::Key_Enter) ||
        key->modifiers() & ~Qt::KeypadModifier || qobject_cast<QDialog*>(button->window()))
      return false;
    button->click();
    return true;
  }
  if (e->type() != QEvent::Wheel && e->type() != QEvent::Polish) return false;
  auto* box = qobject_cast<QWidget*>(watched);
  if (!box || !(qobject_cast<QAbstractSpinBox*>(box) || qobject_cast<QComboBox*>(box))) return false;
  if (e->type() == QEvent::Polish) {
    // Or the wheel itself would bring the focus.
    if (box->focusPolicy() == Qt::WheelFocus) box->setFocusPolicy(Qt::StrongFocus);
    return false;
  }
  if (box->hasFocus()) return false;
  e->ignore();  // the page behind it may scroll
  return true;
}

int WheelNotches::take(const QWheelEvent& e) {
  const QPoint turned = e.angleDelta();
  if (std::abs(turned.x()) > std::abs(turned.y())) return 0;
  if ((rest_ > 0) != (turned.y() > 0)) rest_ = 0;  // the other way: what was saved up is forgotten
  rest_ += turned.y();
  const int steps = rest_ / QWheelEvent::DefaultDeltasPerStep;
  rest_ -= steps * QWheelEvent::DefaultDeltasPerStep;
  return steps;
}

}  // namespace easel::app
