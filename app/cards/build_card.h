// The card of the stage Build: the numbers of the chosen light.
#pragma once

#include <memory>

#include "cards/card.h"
#include "gallery/gallery_popover.h"
#include "meter/answers.h"
#include "meter/quality.h"
#include "render/background_task.h"

namespace easel::app {

class PolarPlot;

class BuildCard : public Card {
  Q_OBJECT

 public:
  explicit BuildCard(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setSelected(const QString& id);
  void setAnswers(std::shared_ptr<const Answers> answers);
  void setQuality(std::shared_ptr<const std::vector<LightQuality>> quality);
  void refresh() override;
  /// Own units and modifiers of the kit have come or gone.
  void gearChanged();
  using Card::showPage;
  void showPage(QWidget* page);

 signals:
  void preferencesChanged();

 private:
  QString lossesText() const;
  void headFields();
  void ratioFields();
  void placeFields();
  void fittingsPage();
  void switchBoxes();
  void picturedChoices();
  QString modifierNote(const QString& id) const;
  void doorFields();
  void pieceFields();
  void fillPatterns();
  void loadPattern();
  void takePattern(const QString& file);
  template <class F>
  void edit(const QString& label, const QString& key, F change);
  const Light* light() const;

  QString selected_;
  std::shared_ptr<const Answers> answers_;
  QLabel* facts_;
  QLabel* advice_;
  std::shared_ptr<const std::vector<LightQuality>> quality_;
  QLabel *losses_, *words_;
  void fillPieces();

  QComboBox *worksOn_, *inside_;
  PicturedBox *pattern_, *unit_, *modifier_, *gel_, *diffusion_;
  GalleryPopover* popover_;
  PolarPlot* polar_;
  BackgroundTask patternTask_;
  std::vector<QWidget*> ownPages_;
  struct Only {
    QWidget* field;
    std::function<bool(const Modifier&, const Unit*)> fits;
  };
  std::vector<Only> only_;  ///< fields that only some modifiers or units have
};

}  // namespace easel::app
