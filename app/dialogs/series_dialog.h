// One thing varied: what, from where to where, in how many pictures. Stands beside the window, never in front of it.
#pragma once

#include <QDialog>
#include <QPointer>
#include <QThread>
#include <atomic>
#include <memory>

#include "document/viewed_plan.h"
#include "rendering/series.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace easel::app {

class NumberField;

class SeriesDialog : public QDialog {
  Q_OBJECT

 public:
  explicit SeriesDialog(ViewedPlan* viewed, QWidget* parent = nullptr);
  ~SeriesDialog() override;
  void setLight(const QString& id);
  bool running() const { return job_ && job_->isRunning(); }

 public slots:
  void make();
  void cancel() { cancelled_->store(true); }
  void saveSheet();
  void saveSheetTo(const QString& file);

  /// Of the pictures to come; tests take small ones.
  void setPrints(QSize size, int passes) {
    printSize_ = size;
    passes_ = passes;
  }

 signals:
  void made(const std::vector<easel::SeriesPicture>& series, const QString& title);
  void said(const QString& sentence, bool problem);

 private:
  void fillThings();
  void thingChosen();

  ViewedPlan* viewed_;
  QString light_ = "A";
  QComboBox* thing_;
  QSize printSize_{320, 400};
  int passes_ = 16;
  NumberField *from_, *to_;
  QSpinBox* count_;
  QCheckBox* hold_;
  QProgressBar* progress_;
  QPushButton *make_, *cancel_, *save_;
  QLabel* state_;
  QPointer<QThread> job_;
  std::shared_ptr<std::atomic<bool>> cancelled_ = std::make_shared<std::atomic<bool>>(false);
  std::vector<SeriesPicture> series_;
  QString title_;
};

}  // namespace easel::app
