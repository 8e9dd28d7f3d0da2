// What the cards below the ladder have in common: labelled fields bound to the plan, on pages.
#pragma once

#include <QWidget>
#include <functional>
#include <map>
#include <vector>

#include "arrange/page_frame.h"
#include "document/viewed_plan.h"
#include "plan/ranges.h"
#include "widgets/choices.h"
#include "widgets/fields.h"

class QComboBox;
class QGridLayout;
class QLayoutItem;
class QLabel;
class QTabWidget;

namespace easel::app {

/// A grid of labelled fields bound to the plan: each shows a value and performs an edit when it is changed.
class Card : public QWidget, public Reflowing {
  Q_OBJECT

 public:
  explicit Card(ViewedPlan* viewed, QWidget* parent = nullptr);
  virtual void refresh();
  /// A page made elsewhere, after its own. `id` is what the program calls it, whatever the tab says in which language.
  void addPage(const char* id, QWidget* page, const QString& name);
  void showPage(const QString& id);
  QString page() const;  ///< the id of the page that is shown
  /// Two columns of fields where they fit, else one under the other.
  void fitWidth(int pixels) override;

 signals:
  void refused(const QString& sentence);

 protected:
  using Get = std::function<double()>;
  using Set = std::function<void(double)>;
  /// What follows goes onto a page of its own, with a tab.
  void startPage(const char* id, const QString& name);
  QLabel* addLabel(int row, int column, const QString& text, QWidget* buddy);
  /// The field shows what `get` gives and hands what is typed or stepped to `set`.
  void bind(NumberField* field, Get get, Set set);
  LengthField* addLength(int row, int column, const QString& label, const Range& range, Get get, Set set);
  ClockField* addClock(int row, int column, const QString& label, Get get, Set set);
  /// Shares are shown in percent.
  NumberField* addNumber(int row, int column, const QString& label, const Range& range, double step, int decimals,
                         const QString& suffix, Get get, Set set);
  SpokenField* addSpoken(int row, int column, const QString& label, std::function<QString()> get,
                         std::function<void(const QString&)> set);
  QComboBox* addChoice(int row, int column, const QString& label, const Choices& idsAndNames,
                       std::function<QString()> get, std::function<void(const QString&)> set);

  ViewedPlan* viewed_;
  QGridLayout* grid_;
  QTabWidget* pages_ = nullptr;
  bool refreshing_ = false;

 private:
  std::vector<std::function<void()>> refreshers_;
  struct Cell {
    QLayoutItem* item;
    int row, column, rows, columns;
  };
  struct Grid {
    std::vector<Cell> cells;
    int fieldsFrom = 0;  ///< first row with two fields beside each other
  };
  std::map<QGridLayout*, Grid> grids_;  ///< as they were made
  bool narrow_ = false;
  double twoColumns_ = 0;  ///< what both beside each other need, in units of the type
};

}  // namespace easel::app
