// A sheet on its paper: looked at, printed, exported. What it says is made by core/sheet on another thread. Not modal.
#pragma once

#include <QDialog>
#include <QImage>
#include <filesystem>
#include <functional>
#include <memory>
#include <vector>

#include "render/background_task.h"
#include "sheet/plan_sheet.h"
#include "sheet/sheet_file.h"
#include "shoot/day.h"

class QComboBox;
class QLabel;
class QPrinter;
class QProgressBar;
class QPushButton;
class QScrollArea;

namespace easel::app {

/// What can be printed: of one thing several sheets.
struct SheetSubject {
  struct Kind {
    QString id, name;
    std::function<Pages(const std::function<bool(double)>&)> make;  ///< on another thread; throws with a sentence
    std::string word;                                               ///< for the file's name: "sheet", "packing"
    QString paper = {};                                             ///< that it is meant for; empty: any
  };
  QString title;
  std::vector<Kind> kinds;
  std::vector<Attachment> attached;
  /// Everything as files into a folder; null: there is only the one.
  std::function<size_t(const std::filesystem::path& folder, const SheetForm&, const std::function<bool(double)>&)> all =
      {};
};
/// Of a plan: the whole sheet, for the stand, as it grows. Pictures are made once for all three.
SheetSubject sheetsOf(const Plan& plan, const SheetWish& wish, const QString& heading = {});

/// Of a day: the day, what to pack, and each look; all of them into a folder. Times by the user's own pace.
SheetSubject sheetsOf(const Day& day, const SheetWish& wish, double pace);

class SheetDialog : public QDialog {
  Q_OBJECT

 public:
  explicit SheetDialog(QWidget* parent = nullptr);
  void present(const SheetSubject& subject);
  bool working() const { return work_.running(); }
  int pageCount() const { return int(pictures_.size()); }
  void choose(const QString& kind);
  /// What Export does once a name stands. Throws with a sentence.
  std::vector<std::filesystem::path> exportTo(const std::filesystem::path& file);
  /// Every page of the sheet onto the printer, in its own size.
  void printTo(QPrinter& printer);

 signals:
  void said(const QString& sentence, bool problem);
  void arrived();  ///< the preview stands

 protected:
  void resizeEvent(QResizeEvent* e) override;

 private:
  const SheetSubject::Kind* kind() const;
  SheetForm form() const;
  void make();
  void layOut();
  void placePages();
  void exportSheet();
  void exportAll();
  void print();

  SheetSubject subject_;
  std::shared_ptr<const Pages> pages_;
  std::vector<QImage> pictures_;
  BackgroundTask work_;
  QComboBox *kinds_, *papers_, *inks_;
  QPushButton *print_, *export_, *all_, *stop_;
  QLabel* state_;
  QProgressBar* progress_;
  QScrollArea* scroll_;
};

}  // namespace easel::app
