// The cards below the ladder: numbers of what is being worked on. Set: sitter, camera, backdrop, room. Build: the
// chosen light. Meter: what the readings are, and what to do.
#pragma once

#include <QWidget>
#include <functional>
#include <memory>
#include <vector>

#include "document/document.h"
#include "picture/renderer.h"
#include "plan/ranges.h"
#include "render/errand.h"
#include "widgets/fields.h"

class QComboBox;
class QCheckBox;
class QGridLayout;
class QLabel;
class QPushButton;
class QTableWidget;
class QTabWidget;

namespace easel::app {

class PolarPlot;

/// A grid of labelled fields bound to the plan: each shows a value and performs an edit when it is changed.
class Card : public QWidget {
  Q_OBJECT

 public:
  explicit Card(Document* document, QWidget* parent = nullptr);
  virtual void refresh();
  /// A page made elsewhere, after its own. `id` is what the program calls it, whatever the tab says in which language.
  void addPage(const char* id, QWidget* page, const QString& name);
  void showPage(const QString& id);
  QString page() const;  ///< the id of the page that is shown

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
  QComboBox* addChoice(int row, int column, const QString& label,
                       const std::vector<std::pair<QString, QString>>& idsAndNames, std::function<QString()> get,
                       std::function<void(const QString&)> set);

  Document* document_;
  QGridLayout* grid_;
  QTabWidget* pages_ = nullptr;
  bool refreshing_ = false;

 private:
  std::vector<std::function<void()>> refreshers_;
};

class BuildCard : public Card {
  Q_OBJECT

 public:
  explicit BuildCard(Document* document, QWidget* parent = nullptr);
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
  void fittingsPage();
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
  QComboBox *pattern_, *unit_, *modifier_;
  PolarPlot* polar_;
  Errand patternErrand_;
  std::vector<QWidget*> ownPages_;
  struct Only {
    QWidget* field;
    std::function<bool(const Modifier&, const Unit*)> fits;
  };
  std::vector<Only> only_;  ///< fields that only some modifiers or units have
};

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

class MeterCard : public Card {
  Q_OBJECT
 public:
  explicit MeterCard(Document* document, QWidget* parent = nullptr);
  void setResult(std::shared_ptr<const Result> result);
  void refresh() override;

 signals:
  void setCamera(int school);  ///< CameraSchool
  void exportWanted();

 private:
  void fillTable();
  std::shared_ptr<const Result> result_;
  QLabel *text_, *advice_;
  QTableWidget* table_;
  struct School {
    QLabel* sentence;
    QPushButton* apply;
  };
  std::vector<School> schools_;
};

}  // namespace easel::app
