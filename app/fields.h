// Number fields with units: metres or feet as the user has chosen, degrees, apertures and power as they are spoken.
#pragma once

#include <QDoubleSpinBox>
#include <QLineEdit>
#include <functional>

namespace easel::app {

/// A length kept in metres and shown in the chosen unit ("1.32 m", "4 ft 4 in"); takes either when typed.
class LengthField : public QDoubleSpinBox {
  Q_OBJECT
 public:
  LengthField(double least, double most, QWidget* parent = nullptr);
  QString textFromValue(double metres) const override;
  double valueFromText(const QString& text) const override;
  QValidator::State validate(QString& text, int& at) const override;
};

/// A line that is parsed when it is left or Enter is pressed; a wrong entry says why and goes back.
class SpokenField : public QLineEdit {
  Q_OBJECT
 public:
  /// `take` parses and applies; it throws std::exception with a sentence for the user.
  explicit SpokenField(std::function<void(const QString&)> take, QWidget* parent = nullptr);
  void setShown(const QString& text);

 signals:
  void refused(const QString& sentence);

 private:
  QString shown_;
};

QDoubleSpinBox* numberField(double least, double most, double step, int decimals, const QString& suffix,
                            QWidget* parent = nullptr);

}  // namespace easel::app
