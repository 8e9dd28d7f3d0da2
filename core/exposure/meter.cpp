#include "exposure/meter.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "exposure/aperture.h"

namespace easel {

double apertureForExposure(double luxSeconds, double iso, double c) {
  return std::sqrt(std::max(0.0, luxSeconds) * iso / c);
}
double exposureForAperture(double fNumber, double iso, double c) { return fNumber * fNumber * c / iso; }

double cameraGain(double iso, double fNumber) {
  return std::numbers::pi * iso / (fNumber * fNumber * calibrationConstant(Receptor::Flat));
}

double timeValue(double seconds) { return -std::log2(seconds); }
double speedValue(double iso) { return std::log2(iso / 3.125); }
double exposureValue(double fNumber, double seconds) { return avFromFNumber(fNumber) + timeValue(seconds); }

}  // namespace easel
