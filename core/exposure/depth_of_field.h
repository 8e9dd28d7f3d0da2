// Depth of field of a thin lens, from the aperture.
//
//   H = f^2 / (N c) + f     near = s (H - f) / (H + s - 2 f)     far = s (H - f) / (H - s), infinite when s >= H
//
// f focal length, s distance of sharp focus from the lens, N f-number, c diameter of the circle of confusion. Usual
// derivation in any textbook of optics for photographers (for example S. F. Ray, "Applied Photographic Optics").
// Lengths in metres here except the focal length in millimetres. c is the diagonal of the sensor / 1500, the usual
// convention.
#pragma once

namespace easel {

struct DepthOfField {
  double near = 0, far = 0;  ///< limits from the lens [m]; far is infinity beyond the hyperfocal distance
  double circle = 0;         ///< circle of confusion used [mm]
  double behind(double distance) const { return far - distance; }
  double inFrontOf(double distance) const { return distance - near; }
};

/// All arguments > 0 and distance longer than the focal length; throws std::invalid_argument with a sentence otherwise.
DepthOfField depthOfField(double focalLengthMm, double fNumber, double distance, double sensorWidthMm,
                          double sensorHeightMm);

}  // namespace easel
