// The shelf of looks, each as a print of this sitter; and the wish: up to three sets that fulfil it.
#pragma once

#include <QDialog>
#include <QHash>
#include <QImage>
#include <vector>

#include "document/strand.h"
#include "document/viewed_plan.h"
#include "formats/own_looks.h"
#include "gallery/gallery.h"
#include "propose/propose.h"
#include "render/background_task.h"

class QCheckBox;
class QComboBox;
class QHBoxLayout;
class QLabel;
class QLineEdit;
class QListWidgetItem;
class QProgressBar;
class QPushButton;
class QVBoxLayout;

namespace easel::app {

class LooksDialog : public QDialog {
  Q_OBJECT

 public:
  explicit LooksDialog(ViewedPlan* viewed, QWidget* parent = nullptr);
  /// Prints are made anew when sitter, room, lens or backdrop have changed.
  void refreshShelf();
  void chooseLook(const QString& id);
  bool proposing() const { return proposeTask_.running(); }
  bool printing() const { return printTask_.running(); }
  bool working() const { return printing() || disk_.busy(); }
  size_t proposals() const { return proposed_.size(); }

 signals:
  void tryOut(const easel::Plan& plan, const QString& label);
  void taken(const easel::Plan& plan, const QString& label);
  void said(const QString& sentence, bool problem);

 protected:
  void showEvent(QShowEvent*) override;

 private:
  QVBoxLayout* shelfColumn();
  QWidget* wishForm();
  QHBoxLayout* proposalBoxes();
  void joinTasks();
  void fillShelf();
  /// Shows what has every word of the search in its name, its terms or what it is for; the first of them.
  QListWidgetItem* filterShelf();
  /// Lists the user's own looks after `change`, on another thread; then `after` here.
  void listOwn(const std::function<void()>& change = {}, const std::function<void()>& after = {});
  void lookChosen();
  void proposeNow();
  void showProposals();
  void keepPlan();
  void forget();
  const Look* look() const;
  const OwnLook* own() const;
  Wish wish() const;

  ViewedPlan* viewed_;
  QLineEdit* search_;
  Gallery* shelf_;
  QLabel* none_;
  QLabel *about_, *state_, *large_;
  QComboBox *pattern_, *breadth_, *hardness_, *tone_, *side_;
  QLineEdit *ratio_, *aperture_;
  QPushButton *propose_, *stop_, *useOwn_, *forget_;
  QWidget *wishBox_, *proposals_;
  QProgressBar* progress_;
  struct Box {
    QWidget* box;
    QLabel *print, *text;
    QPushButton *show, *take;
  };
  std::vector<Box> boxes_;
  std::vector<Proposed> proposed_;
  std::vector<QImage> proposedPrints_;
  std::vector<OwnLook> own_;
  Strand disk_{this};
  std::optional<Plan> printedFor_, proposedFor_;
  bool searching_ = false;  ///< nothing has been found, and nothing else been said, since it began
  int printRound_ = 0;      ///< prints of an earlier one come too late
  /// Of the shelf, as the sitter of printedFor_ would look. Kept for the program: a shelf that is opened again, or in
  /// another window on the same sitter, stands there at once.
  QHash<QString, QImage> prints_;
  void showPrints();
  void showLarge();
  QStringList inView() const;
  void stopPrinting();
  void dropStaleProposals();
  void forgetProposals();
  void hideProposals();
  BackgroundTask printTask_, proposeTask_, ownTask_;
};

}  // namespace easel::app
