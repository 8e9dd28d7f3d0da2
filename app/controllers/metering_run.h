// The metering run of the open plan. What is read is judged and written to the journal on another thread, and shown
// only then; powers that a reading asks for become undoable edits of the plan that is viewed. Interface thread.
#pragma once

#include <QObject>
#include <deque>
#include <functional>
#include <memory>

#include "controllers/on_easel.h"
#include "document/strand.h"
#include "document/viewed_plan.h"
#include "journal/journal.h"
#include "run/course.h"

namespace easel::app {

class MeteringRun : public QObject {
  Q_OBJECT

 public:
  MeteringRun(ViewedPlan* viewed, OnEasel* onEasel, QObject* parent = nullptr);
  ~MeteringRun() override;

  /// What a run goes by; kept in QSettings.
  struct Wishes {
    QString studio, meter;
    double tolerance = 0.1;  ///< stops
    CameraSchool school = CameraSchool::EverythingOn;
    bool journal = true;
    static Wishes kept();
    void keep() const;
  };

  bool on() const { return course_ != nullptr; }
  /// Null before begin(); a value that no other thread touches.
  const RunCourse* course() const { return course_.get(); }
  const Wishes& wishes() const { return wishes_; }
  bool working() const { return strand_.busy() || !waiting_.empty(); }
  /// What stands in the way of a run of the plan as it is; empty: nothing.
  QString prevents() const;

  /// At once, or as soon as the scene is there.
  void begin(const Wishes& wishes);
  /// The session is finished in the journal.
  void end();
  void read(double fNumber);
  /// The power that the last reading asks for, on the plan.
  void setAsTold();
  /// By the school that the run goes by, on the plan.
  void setCamera();
  /// Something that happened besides readings, into the journal.
  void happened(const std::string& kind, const QString& words);
  void next();
  void back();
  void skip();
  void goTo(int step);
  void note(const QString& text);
  /// Readings of the open plan as it is: what a change has unsettled is marked.
  void planStands(const Plan& plan, const std::shared_ptr<const Scene>& scene);

 signals:
  void changed();
  void said(const QString& sentence, bool problem);

 private:
  using Action = std::function<void(RunCourse&)>;
  void act(Action action, bool change = false);
  void beginIn(const std::shared_ptr<const Scene>& scene, const Wishes& wishes);
  void doNext();
  void close(const QString& sentence);
  void install(std::shared_ptr<const RunCourse> course);

  ViewedPlan* viewed_;
  OnEasel* onEasel_;
  Strand strand_{this};
  Wishes wishes_;
  std::shared_ptr<const RunCourse> course_;
  struct Waiting {
    Action action;
    bool change = false;  ///< of the plan: a newer one takes its place
  };
  std::deque<Waiting> waiting_;
  QString lastChange_;  ///< since the last reading, as the journal has it
  bool beginning_ = false;
  Plan asked_;  ///< the plan that the course, or what waits for it, is of

  /// Used by the strand alone.
  struct Book {
    std::shared_ptr<const RunCourse> course;  ///< after the last action
    std::unique_ptr<Journal> journal;
    std::int64_t session = 0;
    std::string meter, plan;  ///< the plan as JSON, as the run has it
    QString failed;
    /// The run stands, or has ended, with everything read.
    void finish();
    /// Writes, if there is a journal; what fails is kept to be said.
    void write(const std::function<void(Journal&)>& work);
  };
  std::shared_ptr<Book> book_;
};

}  // namespace easel::app
