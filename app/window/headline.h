// The answer, large enough to be read from two metres, and the buttons of the stages.
#pragma once

#include <QWidget>
#include <vector>

class QButtonGroup;
class QBoxLayout;

namespace easel::app {

class FittedLabel;
class Stage;

class Headline : public QWidget {
  Q_OBJECT

 public:
  explicit Headline(const std::vector<Stage*>& stages, QWidget* parent = nullptr);
  void setAnswer(const QString& answer, const QString& under);
  QString answer() const;
  void setStage(int index);
  /// For reading from a distance: the answer alone, three times as large.
  void setFar(bool far);

  QSize minimumSizeHint() const override;

 signals:
  void stageChosen(int index);

 protected:
  void resizeEvent(QResizeEvent*) override { flow(); }

 private:
  void relabel();
  void flow();
  std::vector<Stage*> all_;
  QButtonGroup* stages_;
  FittedLabel *answer_, *under_;
  QBoxLayout *box_, *buttons_;
};

}  // namespace easel::app
