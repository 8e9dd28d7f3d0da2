// The card of the stage Set: sitter, camera, backdrop, room.
#pragma once

#include <memory>
#include <vector>

#include "cards/card.h"
#include "meter/answers.h"

namespace easel::app {

class SetCard : public Card {
  Q_OBJECT
 public:
  explicit SetCard(Document* document, QWidget* parent = nullptr);
  void setAnswers(std::shared_ptr<const Answers> answers);
  void refresh() override;

 private:
  void fillGaze();

  std::shared_ptr<const Answers> answers_;
  QComboBox* gaze_;
  std::vector<QWidget*> gazePlace_;
  QLabel *lens_, *tone_, *ambient_;
};

}  // namespace easel::app
