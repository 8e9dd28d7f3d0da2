// The card of the stage Set: sitter, camera, backdrop, room.
#pragma once

#include <memory>

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
  std::shared_ptr<const Answers> answers_;
  QLabel *lens_, *tone_, *ambient_;
};

}  // namespace easel::app
