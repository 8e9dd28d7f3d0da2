// What the measuring program needs from the core by one name, whether the core is of today or the older one of
// bench/baseline: before the placed set, plans went into light and meter themselves.
#pragma once

#if __has_include("placed/placed_set.h")
#include "analysis/faults.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "rendering/progressive_render.h"
namespace easel::bench {
inline const PlacedSet& setOf(const ProgressiveRender& studio, const Plan&) { return *studio.set(); }
inline PlacedSet setOf(const Plan& plan) { return placedSetOf(plan); }
inline auto improve(ProgressiveRender& render, const Interrupt& interrupt) { return render.improve(interrupt, 64); }
inline FaceAnalysis readAll(const ProgressiveRender& studio, const Plan& plan, const Answers& answers,
                            const SpotTable& table, const std::vector<LightQuality>& quality) {
  return readPicture(studio.layers(), *studio.set(), plan, answers, table, quality);
}
}  // namespace easel::bench
#else
#include "picture/studio.h"
#include "plan/leaves.h"
#include "reading/faults.h"
namespace easel {
using ProgressiveRender = Studio;
using FaceAnalysis = FaceReading;
}  // namespace easel
namespace easel::bench {
inline auto improve(ProgressiveRender& render, const Interrupt& interrupt) { return render.step(interrupt, 64); }
inline const Plan& setOf(const ProgressiveRender&, const Plan& plan) { return plan; }
inline const Plan& setOf(const Plan& plan) { return plan; }
inline FaceAnalysis readAll(const ProgressiveRender& studio, const Plan& plan, const Answers& answers,
                            const SpotTable& table, const std::vector<LightQuality>& quality) {
  return readPicture(studio.layers(), plan, answers, table, quality);
}
}  // namespace easel::bench
#endif
