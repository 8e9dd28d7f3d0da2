// The answer, large enough to be read from two metres, and the buttons of the stages.
#pragma once

#include <QWidget>
#include <vector>

class QButtonGroup;
class QLabel;

namespace easel::app {

class Stage;

class Headline : public QWidget {
  Q_OBJECT

 public:
  explicit Headline(const std::vector<Stage*>& stages, QWidget* parent = nullptr);
  void setAnswer(const QString& answer, const QString& under);
  QString answer() const;
  void setStage(int index);

 signals:
  void stageChosen(int index);

 private:
  void relabel();
  std::vector<Stage*> all_;
  QButtonGroup* stages_;
  QLabel *answer_, *under_;
};

}  // namespace easel::app
