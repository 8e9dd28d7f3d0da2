// The user's kit: what there is and how many, own units and modifiers, what the open plan lacks. Every change is the
// program's kit at once; other kits can be imported and exported.
#pragma once

#include <QDialog>

#include "document/kit_file.h"
#include "document/strand.h"
#include "document/viewed_plan.h"
#include "gear/inventory.h"

class QLabel;
class QLineEdit;
class QPushButton;
class QTreeWidget;

namespace easel::app {

class KitDialog : public QDialog {
  Q_OBJECT
 public:
  explicit KitDialog(ViewedPlan* viewed, QWidget* parent = nullptr);
  const Inventory& kit() const { return kit_; }
  /// Corrections of a studio are taken into the kit and into use, in the place of earlier ones of that studio.
  void takeCorrections(const StudioCorrections& corrections);
  /// Out of the kit again: the gear's own figures hold.
  void dropCorrections(const std::string& studio);
  void setKit(const Inventory& kit);

  // What waits for the disk: on another thread, and said() how it ended.
  void importKit(const QString& file);
  void exportKit(const QString& file);
  void addIes(const QString& file);
  /// The chosen modifier gets its profile from the file.
  void takeMeasured(const QString& file);

 signals:
  void said(const QString& sentence, bool problem);

 private:
  void fill();
  QIcon profileOf(const Modifier& modifier) const;
  void keep();
  void kitChanged();
  void countFirst(std::map<std::string, int>& counts, const std::string& id);
  void tellGaps();
  void behind(const Strand::Work& work);
  void editUnit(Unit unit);
  void editModifier(Modifier modifier);
  void removeOwn();
  void editChosen();
  std::string chosen() const;  ///< id of what the tree stands on

  ViewedPlan* viewed_;
  Inventory kit_ = KitFile::current().kit();  ///< what the fields change, before it is the program's
  QPushButton* anew_;
  QTreeWidget* tree_;
  QLineEdit* search_;
  void sift();
  QLabel* gaps_;
  Strand disk_{this};
};

}  // namespace easel::app
