// Fields that people type into: what is typed stays until it is taken or given up.
//
// A field with text that has not been taken yet is never refreshed. When the value changes underneath, a note under the
// field says what it is now. Enter, Tab or a click elsewhere takes the text; Escape brings the value back; Ctrl+Z
// undoes typing first and the plan after that. What cannot be taken is refused with a sentence and the value stands
// again. Comma and point are both understood, whatever the locale; points are shown.
//
// The wheel turns a field only while it has the focus: InputGuard sees to that for every box of the program.
#pragma once

#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPointer>
#include <functional>

#include "plan/ranges.h"

namespace easel::app {

/// The text of one field between the first key and its end. The field asks it; it shows the note.
class Typing : public QObject {
  Q_OBJECT

 public:
  /// `line` is the field itself or the line inside it.
  Typing(QWidget* field, QLineEdit* line);

  bool pending() const { return pending_; }
  /// The value is `text` now. True when the field may show it; otherwise the note says it.
  bool mayShow(const QString& text);
  /// What was typed has been taken or given up.
  void end();
  /// For the field's event(): whether the event was one of the keys that typing claims (Escape; undo and redo while
  /// there is something to undo) and is settled with this.
  bool claims(QEvent* e);

 signals:
  void givenUp();  ///< Escape

 private:
  void note(const QString& text);
  QWidget* field_;
  QLineEdit* line_;
  QPointer<QLabel> note_;
  QString shown_;
  bool pending_ = false;
};

/// A number in the words of its kind.
class NumberField : public QDoubleSpinBox {
  Q_OBJECT

 public:
  struct Words {
    std::function<QString(double)> write;
    std::function<double(const QString&)> read;  ///< throws std::exception with a sentence
    bool plain = true;                           ///< figures without a unit
  };
  NumberField(double least, double most, Words words, QWidget* parent = nullptr);

  /// The value as the plan has it; kept back while something is being typed.
  void setShown(double value);
  bool typing() const { return typing_->pending(); }
  /// Another kind of number from now on.
  void setWords(Words words, double least, double most);

  QString textFromValue(double value) const override;
  double valueFromText(const QString& text) const override;
  QValidator::State validate(QString& text, int& at) const override;
  void fixup(QString& text) const override;

 signals:
  void taken(double value);  ///< by typing or stepping
  void refused(const QString& sentence) const;

 protected:
  bool event(QEvent* e) override;

 private:
  QString bare(const QString& text) const;  ///< without the prefix
  Words words_;
  Typing* typing_ = nullptr;
  double underneath_ = 0;
};

/// The words for one number of the plan: a length, a clock place, a shutter time, an f-number, or plain figures.
NumberField::Words wordsOf(const Range& range);

/// A length kept in metres and shown in the chosen unit ("1.32 m", "4 ft 4 in"); takes either when typed.
class LengthField : public NumberField {
  Q_OBJECT
 public:
  LengthField(double least, double most, QWidget* parent = nullptr);
};

/// A place on the dial, "4:18"; steps go round.
class ClockField : public NumberField {
  Q_OBJECT
 public:
  explicit ClockField(QWidget* parent = nullptr);
  void stepBy(int steps) override;

 protected:
  StepEnabled stepEnabled() const override { return StepUpEnabled | StepDownEnabled; }
};

/// A plain number with a suffix.
NumberField* numberField(double least, double most, double step, int decimals, const QString& suffix,
                         QWidget* parent = nullptr);

/// A line that is parsed when it is left or Enter is pressed.
class SpokenField : public QLineEdit {
  Q_OBJECT
 public:
  /// `take` parses and applies; it throws std::exception with a sentence for the user.
  explicit SpokenField(std::function<void(const QString&)> take, QWidget* parent = nullptr);
  void setShown(const QString& text);
  bool typing() const { return typing_->pending(); }

 signals:
  void refused(const QString& sentence);

 protected:
  bool event(QEvent* e) override;

 private:
  Typing* typing_ = nullptr;
  QString shown_;
};

/// Keeps the wheel from boxes that have no focus, markup from labels and tooltips, and lets Enter press a button
/// outside of dialogs as it does within; one for the whole program.
class InputGuard : public QObject {
  Q_OBJECT
 public:
  static void install();

 protected:
  bool eventFilter(QObject* watched, QEvent* e) override;
};

/// Turns of a wheel or a touchpad into whole steps: small steps add up, sideways scrolling gives none.
class WheelNotches {
 public:
  /// Whole steps that are due with this event; up is positive.
  int take(const QWheelEvent& e);

 private:
  int rest_ = 0;
};

}  // namespace easel::app
