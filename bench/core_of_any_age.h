// What the measuring program needs from the core by one name, whether the core is of today or the older one of
// bench/baseline: before the placed set, plans went into light and meter themselves.
#pragma once

#include "reading/faults.h"

#if __has_include("placed/placed_set.h")
#include "plan/panels.h"
#include "plan/placement.h"
#include "studio/studio.h"
namespace easel::bench {
inline const PlacedSet& setOf(const Studio& studio, const Plan&) { return *studio.set(); }
inline PlacedSet setOf(const Plan& plan) { return placedSetOf(plan); }
inline FaceReading readAll(const Studio& studio, const Plan& plan, const Answers& answers, const SpotTable& table,
                           const std::vector<LightQuality>& quality) {
  return readPicture(studio.layers(), *studio.set(), plan, answers, table, quality);
}
}  // namespace easel::bench
#else
#include "picture/studio.h"
#include "plan/leaves.h"
namespace easel::bench {
inline const Plan& setOf(const Studio&, const Plan& plan) { return plan; }
inline const Plan& setOf(const Plan& plan) { return plan; }
inline FaceReading readAll(const Studio& studio, const Plan& plan, const Answers& answers, const SpotTable& table,
                           const std::vector<LightQuality>& quality) {
  return readPicture(studio.layers(), plan, answers, table, quality);
}
}  // namespace easel::bench
#endif
