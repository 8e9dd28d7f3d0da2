// A run as it goes: where it stands, what was read, what a change has unsettled. Window and shell drive the same one.
// Not thread-safe; judging asks the scene for some milliseconds.
#pragma once

#include <map>
#include <memory>

#include "balance/camera_setting.h"
#include "plan/plan.h"
#include "run/run.h"

namespace easel {

struct StepReading {
  double fNumber = 0;
  Judgement judgement;
  std::string note;
  bool skipped = false;
  int tries = 0;
  std::string why;    ///< it was read again: "doubt", "set" (another power), "changed" (the plan), "once more"
  bool told = false;  ///< what unsettled it was the power that it asked for
  std::optional<double> unsettled;  ///< stops by which a change since then moves what is expected
};

/// What a light gives over what is predicted, and how surely. Stops; `within` is one standard deviation.
struct Known {
  double stops = 0, within = 0.1;
};

/// The camera by what was read: how far the lens is closed beyond the target aperture, or by how much all lights go
/// down.
struct RunCamera {
  double closedBy = 0, lowerBy = 0;  ///< stops
  bool standing = false;             ///< the plan has it so
  std::string sentence;
};

/// The plan with the camera, or the powers of lights that are on and not locked, set so.
Plan withCamera(const Plan& plan, const RunCamera& camera);

class RunCourse {
 public:
  /// `known`: by letter, from earlier sessions; of what is missing readings spread by JudgeBy::spread.
  RunCourse(std::shared_ptr<const Scene> scene, Plan plan, JudgeBy by = {}, Spelling spelling = {},
            std::map<std::string, Known> known = {});

  const std::vector<RunStep>& steps() const { return steps_; }
  /// steps().size() when it is over.
  size_t at() const { return at_; }
  bool over() const { return at_ >= steps_.size(); }
  const RunStep& step() const { return steps_.at(at_); }
  /// Empty for steps that have not been read or skipped.
  const std::optional<StepReading>& reading(size_t step) const { return readings_.at(step); }
  const Plan& plan() const { return plan_; }
  /// Empty until what the school goes by has been read: the key, or everything on.
  std::optional<RunCamera> cameraBy(CameraSchool school) const;
  const Answers& answers() const { return answers_; }

  /// A reading at the step where it stands; stays there. Throws std::invalid_argument with a sentence when no meter can
  /// have shown it: nothing has changed then.
  const Judgement& read(double fNumber);
  /// Sets the power that the last judgement of this step names, on the plan; the step then wants to be read again.
  /// False when it named none.
  bool setAsTold();
  void next();  ///< on, past what has been read and is settled; an unread step stays open
  void back();
  void goTo(size_t step);
  void skip();
  void note(const std::string& text);

  /// The plan as it is now (moved, another front, ISO...): marks the readings that it unsettles. Those of steps that
  /// are gone go too. Throws as computeAnswers().
  void planChanged(std::shared_ptr<const Scene> scene, const Plan& plan);
  /// Steps that want a reading still, or again.
  std::vector<size_t> open() const;

 private:
  void compute();
  std::vector<double> offOfOthers() const;
  std::shared_ptr<const Scene> scene_;
  Plan plan_;
  PlacedSet set_;  ///< of plan_
  JudgeBy by_;
  Spelling spelling_;
  Answers answers_;
  std::vector<RunStep> steps_;
  Known knownOf(const std::string& light) const;
  std::map<std::string, Known> known_;  ///< from earlier sessions, and of heads that this run has found out
  std::vector<std::optional<StepReading>> readings_;
  size_t at_ = 0;
};

}  // namespace easel
