// Reads plans that nobody looks at: for remedies, ways and proposals, which try many.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "analysis/faults.h"
#include "rendering/progressive_render.h"

namespace easel {

/// Reads plans that are not on any screen, on small pictures; what one plan shares with the one before is kept.
class PlanReader {
 public:
  explicit PlanReader(int width = 160, int height = 200, int passes = 6);
  ~PlanReader();
  /// Throws as ProgressiveRender::improve().
  FaceAnalysis read(const Plan& plan);
  /// Of that kind alone, as read() tells them: without a picture where the rule needs none.
  std::vector<Fault> faults(const Plan& plan, const std::string& id);
  const Layers& layers() const;
  /// Of the plan that was read last.
  const Answers& answers() const { return answers_; }
  /// The plan with the lights that differ from `before` (place, front, role) powered again for their targets.
  Plan repowered(const Plan& plan, const Plan& before);
  /// What the meter says of the plan, without a picture.
  Answers meter(const Plan& plan);
  /// All lights powered for their targets.
  Plan balanced(const Plan& plan);

 private:
  struct Looked;
  Looked lookedAt(const Plan& plan);

  std::unique_ptr<ProgressiveRender> studio_;
  Answers answers_;
  int passes_;
  std::optional<std::pair<Plan, FaceAnalysis>> last_;  ///< that was read, with answers_
};

}  // namespace easel
