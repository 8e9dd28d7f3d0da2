#include "plan/sync.h"

#include <algorithm>
#include <cmath>

namespace easel {
namespace {
constexpr double kSame = 0.98;  // engraved times are rounded
bool tooFast(const Camera& c) { return c.shutter < c.syncShutter * kSame; }
// The part of the sensor's short side that the picture uses.
double used(const Camera& c, double aspect) {
  return curtainsCross(c) ? std::min(1.0, c.sensorHeight * aspect / c.sensorWidth)
                          : std::min(1.0, c.sensorWidth / aspect / c.sensorHeight);
}
constexpr double kSoft = 0.02;  // of the sensor's short side
}  // namespace

Sync syncOf(const Unit& unit, const Camera& camera) {
  if (unit.kind != UnitKind::Flash || !tooFast(camera)) return Sync::Whole;
  return unit.highSpeedLoss > 0 ? Sync::HighSpeed : Sync::Band;
}

double syncShare(const Unit& unit, const Camera& camera) {
  if (syncOf(unit, camera) != Sync::HighSpeed) return 1;
  return std::exp2(-unit.highSpeedLoss) * camera.shutter / camera.syncShutter;
}

double openToFlash(const Camera& c) { return tooFast(c) ? c.shutter / c.syncShutter : 1; }

bool curtainsCross(const Camera& c) { return c.sensorWidth < c.sensorHeight; }

double openAt(const Camera& c, double aspect, double at) {
  const double open = openToFlash(c);
  if (open >= 1) return 1;
  const double sensor = 0.5 + (at - 0.5) * used(c, aspect);
  return std::clamp((open - sensor) / kSoft + 0.5, 0.0, 1.0);
}

double darkBand(const Camera& c) {
  const double open = openToFlash(c);
  if (open >= 1) return 0;
  const double u = used(c, c.frame);
  return std::clamp((0.5 + u / 2 - open) / u, 0.0, 1.0);
}

}  // namespace easel
