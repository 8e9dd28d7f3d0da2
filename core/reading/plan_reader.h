// Reads plans that nobody looks at: for remedies, ways and proposals, which try many.
#pragma once

#include <memory>

#include "picture/studio.h"
#include "reading/faults.h"

namespace easel {

/// Reads plans that are not on any screen, on small pictures; what one plan shares with the one before is kept.
class PlanReader {
 public:
  explicit PlanReader(int width = 160, int height = 200, int passes = 6);
  ~PlanReader();
  /// Throws as Studio::step().
  FaceReading read(const Plan& plan);
  const Layers& layers() const;
  const Answers& answers() const { return answers_; }
  /// The plan with the lights that differ from `before` (place, front, role) powered again for their targets.
  Plan repowered(const Plan& plan, const Plan& before);
  /// What the meter says of the plan, without a picture.
  Answers meter(const Plan& plan);
  /// All lights powered for their targets.
  Plan balanced(const Plan& plan);

 private:
  std::unique_ptr<Studio> studio_;
  Answers answers_;
  int passes_;
};

}  // namespace easel
