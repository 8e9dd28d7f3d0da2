#include "shoot/statics.h"

#include <algorithm>
#include <cmath>

namespace easel {

double boomMoment(const BoomArm& arm, double load, double reach) {
  return load * reach + arm.kilograms * (arm.front - arm.back) / 2;
}
double counterweightFor(const BoomArm& arm, double load, double reach) {
  return std::max(0.0, boomMoment(arm, load, reach) / arm.back);
}

double overturning(const OnFeet& s) {
  return kMargin * kGravity * std::abs(s.eccentric) + (kNudge + s.wind) * s.height;
}
double resisting(const OnFeet& s) { return kGravity * s.kilograms * s.feet / 2; }
double sandbagFor(const OnFeet& s) { return std::max(0.0, (overturning(s) - resisting(s)) / (kGravity * s.feet / 2)); }

double windOn(double area, double speed) { return 0.5 * 1.2 * speed * speed * 1.2 * area; }

}  // namespace easel
