#include "plan/gaze.h"

#include <cmath>

#include "plan/placement.h"
#include "plan/ranges.h"
#include "sitters/sitter.h"
#include "spoken/say.h"

namespace easel {

std::optional<Vec3> lookedAt(const Plan& plan) {
  const SitterPlace& s = plan.sitter;
  if (s.gaze == kLooksAhead) return {};
  if (s.gaze == kLooksAtPoint) return towardsHour(s.gazeHour) * float(s.gazeDistance) + Vec3{0, float(s.gazeHeight), 0};
  if (s.gaze == kLooksAtLight)
    if (const Light* l = plan.light(s.gazeLight)) return lightPose(plan, *l).centre;
  return cameraPose(plan).eye;
}

SitterPlace withGaze(const Plan& plan, const std::string& gaze, const std::string& light) {
  SitterPlace s = plan.sitter;
  if (gaze == kLooksAtPoint && s.gaze != kLooksAtPoint) {
    // Straight ahead is a place two metres before the face.
    const Vec3 ahead = posedDirection({0, 0, 2}, 1, {s.turn, s.tilt, s.nod}) + Vec3{0, float(s.eyeHeight), 0};
    const Vec3 at = lookedAt(plan).value_or(ahead);
    s.gazeHour = hourOf(double(at.x), double(at.z));
    s.gazeDistance = rangeOf("sitter.gazeDistance").clamp(std::hypot(double(at.x), double(at.z)));
    s.gazeHeight = rangeOf("sitter.gazeHeight").clamp(double(at.y));
  }
  s.gaze = gaze;
  s.gazeLight = gaze == kLooksAtLight ? light : std::string();
  return s;
}

std::string saidGaze(const Plan& plan) {
  const SitterPlace& s = plan.sitter;
  if (s.gaze == kLooksAhead) return say("straight ahead");
  if (s.gaze == kLooksAtPoint) return say("at a place on the clock");
  if (s.gaze == kLooksAtLight && plan.light(s.gazeLight)) return say("at light {}", s.gazeLight);
  return say("at the lens");
}

}  // namespace easel
