#include "plan/lens.h"

#include <algorithm>

#include "exposure/meter.h"
#include "exposure/stops.h"
#include "plan/framing.h"

namespace easel {

double focusDistance(const Camera& c) { return std::max(0.1, c.distance - kFaceDepth); }

double magnification(const Camera& c) {
  if (!c.extends) return 0;
  const double f = c.focalLength / 1000;
  return f / std::max(f, focusDistance(c) - f);
}

double imageDistance(const Camera& c) { return c.focalLength * (1 + magnification(c)); }

double extensionStops(const Camera& c) { return 2 * stopsFromRatio(1 + magnification(c)); }

double gainOf(const Camera& c) { return cameraGain(c.iso, c.shootingAperture()) * std::exp2(-extensionStops(c)); }

}  // namespace easel
