// What is done with a day: it is computed and its prints are traced on other threads; looks come and go; the clock
// ticks and the journal gets to know how long things took. Interface thread.
#pragma once

#include <QHash>
#include <QImage>
#include <QObject>
#include <functional>
#include <optional>

#include "document/day_document.h"
#include "gear/inventory.h"
#include "render/background_task.h"
#include "shoot/forecast.h"

namespace easel::app {

class DayDesk : public QObject {
  Q_OBJECT

 public:
  explicit DayDesk(DayDocument* document, QObject* parent = nullptr);

  DayDocument* document() const { return document_; }
  const Day& day() const { return document_->day(); }
  /// What follows from the day as it was when it was last computed, and of this day when current(); nullptr before.
  const DayForecast* forecast() const { return forecast_ ? &*forecast_ : nullptr; }
  bool current() const { return forecast_ && expectedChange_ == change_; }
  const DayForecast* currentForecast() const { return current() ? forecast() : nullptr; }
  double pace() const { return pace_; }
  bool working() const { return work_.running() || prints_.running() || journal_.running() || !ticks_.empty(); }
  /// Of the look's plan as it is, or as it was a moment ago; null before it is traced.
  QImage print(const std::string& look) const { return images_.value(QString::fromStdString(look)); }
  /// Whether the look's plan has been tried: what has no print then cannot be shown.
  bool tried(const std::string& look) const { return images_.contains(QString::fromStdString(look)); }
  void setKit(const Inventory& kit);
  const Inventory& kit() const { return kit_; }
  /// Seconds since midnight; tests have a clock of their own.
  void setClock(std::function<double()> clock) { clock_ = std::move(clock); }
  double now() const { return clock_(); }
  /// The running clock is looked at: a day whose start has passed is computed from now.
  void setClockOn(bool on) {
    clockOn_ = on;
    look();
  }

  void add(DayLook look);
  void remove(int look);
  void move(int look, int to);
  /// The look keeps the plan as it is now, whatever becomes of the file.
  void cutLoose(int look);
  void putInBestOrder();
  /// What a late day can give up, as one step that can be undone.
  void take(const Relief& relief);

  /// The look that is being shot; -1: none.
  int shooting() const;
  /// The one that comes then; -1: none is left.
  int next() const;
  /// The set stands and the first frame is taken, or the look is done, whichever comes next.
  void tick();
  /// Computes again: time has gone by.
  void look();

 signals:
  void changed();  ///< the day, or what follows from it
  void printed();
  void said(const QString& sentence, bool problem);

 private:
  void compute();
  void tracePrints();
  void write(const QString& kind, const QString& words, double expected, double took);
  void writeNext();

  DayDocument* document_;
  Inventory kit_;
  std::optional<DayForecast> forecast_;
  int change_ = 0, expectedChange_ = -1;  ///< of the day: how many there were, and which one was computed
  double pace_ = 1;
  std::function<double()> clock_;
  double ticked_ = -1;  ///< s, of the last tick of this session
  bool paceKnown_ = false, clockOn_ = false;
  std::int64_t session_ = 0;
  struct Tick {
    QString kind, words;
    double expected, took;
  };
  std::vector<Tick> ticks_;
  QHash<QString, QImage> images_;
  QHash<QString, Plan> traced_;
  BackgroundTask work_, prints_, journal_;
};

}  // namespace easel::app
