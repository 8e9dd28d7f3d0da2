// What was read in a session, as pictures: its course along time, and read against predicted.
#pragma once

#include <QDateTime>
#include <vector>

#include "journal/journal.h"
#include "widgets/painted.h"

namespace easel::app {

/// A time of the journal, in the local one.
QDateTime timeOf(const std::string& utc);

/// The readings of a session along time: a row for each light, a mark for each reading.
class CourseView : public Painted {
  Q_OBJECT

 public:
  explicit CourseView(QWidget* parent = nullptr);
  void setReadings(const std::vector<JournalReading>& readings, const std::vector<JournalEvent>& events = {});
  QSize minimumSizeHint() const override { return inPixels(240, 84); }

 protected:
  void draw(QPainter& p) override;

 private:
  std::vector<JournalReading> readings_;
  std::vector<JournalEvent> events_;
};

/// Read against predicted, in stops off, one dot a reading; the band of a tenth of a stop.
class PlannedView : public Painted {
  Q_OBJECT

 public:
  explicit PlannedView(QWidget* parent = nullptr);
  void setReadings(const std::vector<JournalReading>& readings);
  QSize minimumSizeHint() const override { return inPixels(240, 84); }

 protected:
  void draw(QPainter& p) override;

 private:
  std::vector<JournalReading> readings_;
};

}  // namespace easel::app
