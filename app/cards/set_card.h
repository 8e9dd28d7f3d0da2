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
  void headFields();
  void cameraPage();
  void framingFields();
  void bodyFields();
  void backdropPage();
  void roomPage();
  void endPage(int row);
  void fillGaze();
  std::optional<Edit> toned(const QString& tone) const;

  std::function<double()> sitterIs(double SitterPlace::*m) const;
  std::function<void(double)> setSitter(const QString& label, double SitterPlace::*m);
  std::function<double()> cameraIs(double Camera::*m) const;
  std::function<void(double)> setCamera(const QString& label, double Camera::*m);
  std::function<double()> roomIs(double Room::*m) const;
  std::function<void(double)> setRoom(const QString& label, double Room::*m);
  /// A choice of something that the sitter has, wears or does.
  PicturedBox* wears(int row, const QString& label, const Choices& choices, std::string SitterPlace::*m,
                     const QString& done, const char* name, PrintShows shows);

  std::shared_ptr<const Answers> answers_;
  PicturedBox* gaze_;
  struct Only {
    QWidget* field;
    std::function<bool(const SitterPlace&)> fits;
  };
  std::vector<Only> only_;  ///< fields that stand only with what they belong to
  QLabel *lens_, *tone_, *ambient_;
};

}  // namespace easel::app
