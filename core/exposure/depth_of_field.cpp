#include "exposure/depth_of_field.h"

#include <cmath>
#include <limits>
#include <stdexcept>

#include "spoken/say.h"

namespace easel {

DepthOfField depthOfField(double focalLengthMm, double fNumber, double distance, double sensorWidthMm,
                          double sensorHeightMm) {
  const double f = focalLengthMm / 1000;
  DepthOfField d;
  d.circle = std::hypot(sensorWidthMm, sensorHeightMm) / 1500;
  if (!(f > 0 && fNumber > 0 && d.circle > 0 && distance > f))
    throw std::invalid_argument(
        say("Depth of field needs a lens, an aperture and a distance longer than the focal length."));
  const double hyperfocal = f * f / (fNumber * d.circle / 1000) + f;
  d.near = distance * (hyperfocal - f) / (hyperfocal + distance - 2 * f);
  d.far = distance < hyperfocal ? distance * (hyperfocal - f) / (hyperfocal - distance)
                                : std::numeric_limits<double>::infinity();
  return d;
}

}  // namespace easel
