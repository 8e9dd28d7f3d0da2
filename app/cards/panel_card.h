// The panels: which stand in the set, the figures of the chosen one, and what it brings to the face.
#pragma once

#include "cards/card.h"
#include "meter/panel_shares.h"
#include "render/background_task.h"

class QToolButton;

namespace easel::app {

class PanelCard : public Card {
  Q_OBJECT
 public:
  explicit PanelCard(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setSelected(const QString& number);
  QString selected() const { return selected_; }
  void setShares(std::shared_ptr<const std::vector<PanelShare>> shares);
  void refresh() override;
  /// Takes an OBJ file into the user's folder and gives it to the piece; what is wrong with it is said.
  void takeModel(const QString& file);

 signals:
  void chosen(const QString& number);
  void putUpWanted(const std::string& kind);

 private:
  void chooserRow();
  void fields();
  const Panel* panel() const { return viewed_->plan().panel(selected_.toStdString()); }
  template <class F>
  void edit(const QString& label, const QString& key, F change);

  QString selected_;
  std::shared_ptr<const std::vector<PanelShare>> shares_;
  QComboBox* which_;
  QLabel* share_;
  std::vector<QWidget*> fields_;
  void shownWithLabel(QWidget* field, bool shown);

  void fillModels();
  void setModel(const QString& id);
  void loadModel();

  QComboBox* model_;
  QWidget *fold_, *gap_, *pattern_, *depth_, *reflectance_;
  BackgroundTask task_;
  std::vector<QWidget*> opening_;  ///< of a flat: width, height, sill
};

}  // namespace easel::app
