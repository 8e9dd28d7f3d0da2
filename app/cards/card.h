// What the cards below the ladder have in common: labelled fields bound to the plan, on pages.
#pragma once

#include <QWidget>
#include <functional>
#include <map>
#include <vector>

#include "arrange/page_frame.h"
#include "document/viewed_plan.h"
#include "gallery/choice_gallery.h"
#include "plan/ranges.h"
#include "widgets/choices.h"
#include "widgets/fields.h"

class QBoxLayout;
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
  /// Without a name: not any more.
  void tryOut(const easel::Plan& plan, const QString& name);

 protected:
  using Get = std::function<double()>;
  using Set = std::function<void(double)>;
  /// Pages with tabs; what starts a page calls it too.
  void startTabs();
  /// What follows goes onto a page of its own, with a tab.
  void startPage(const char* id, const QString& name);
  /// The same with the fields at the left and pictures of what they let one choose beside them; under them where it is
  /// narrow.
  ChoiceGallery* startPicturedPage(const char* id, const QString& name);
  /// A field, with the label that belongs to it, stands or does not: nothing greyed stands about.
  static void setStands(QWidget* field, bool stands);
  /// The readings are those of the plan: pictures that can be seen are made anew.
  void printGalleries();
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
  PicturedBox* addChoice(int row, int column, const QString& label, const Choices& idsAndNames,
                         std::function<QString()> get, std::function<void(const QString&)> set);
  /// One that can be tried: what a choice does is an edit. Nothing: it does nothing to this plan.
  using EditOf = std::function<std::optional<Edit>(const QString&)>;
  PicturedBox* addPictured(int row, const QString& label, const Choices& idsAndNames, std::function<QString()> get,
                           const EditOf& edit, const QString& done, PrintShows shows,
                           const std::function<QString(const QString&)>& note = {});

  ViewedPlan* viewed_;
  QGridLayout* grid_;
  QTabWidget* pages_ = nullptr;
  bool refreshing_ = false;

 private:
  static QGridLayout* gridOn(QWidget* page);

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
  std::vector<std::pair<ChoiceGallery*, QBoxLayout*>> galleries_;
  bool narrow_ = false;
  double twoColumns_ = 0;  ///< what both beside each other need, in units of the type
};

}  // namespace easel::app
