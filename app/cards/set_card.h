// The card of the stage Set: sitter, camera, backdrop, room.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "cards/card.h"
#include "meter/answers.h"

namespace easel::app {

class SetCard : public Card {
  Q_OBJECT
 public:
  explicit SetCard(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setAnswers(std::shared_ptr<const Answers> answers);
  void refresh() override;

 private:
  void sitterPage();
  void posePage();
  void gazeFields();
  void cameraPage();
  void framingFields();
  void backdropPage();
  void roomPage();
  void endPage(int row);
  void fillGaze();

  std::function<double()> sitterIs(double SitterPlace::*m) const;
  std::function<void(double)> setSitter(const QString& label, double SitterPlace::*m);
  std::function<double()> cameraIs(double Camera::*m) const;
  std::function<void(double)> setCamera(const QString& label, double Camera::*m);
  std::function<double()> roomIs(double Room::*m) const;
  std::function<void(double)> setRoom(const QString& label, double Room::*m);
  /// A choice of something that the sitter has, wears or does.
  QComboBox* wears(int row, int column, const QString& label, const Choices& choices, std::string SitterPlace::*m,
                   const QString& done, const char* name);

  std::shared_ptr<const Answers> answers_;
  QComboBox* gaze_;
  std::vector<QWidget*> gazePlace_;
  QLabel *lens_, *tone_, *ambient_;
};

}  // namespace easel::app
