// The incident meter and the exposure equation.
//
// A meter integrates luminous exposure H = E t at its receptor (lux-seconds; a flash delivers its H in one go) and
// answers with the aperture:   N^2 = H S / C       (incident-light exposure equation, ISO 2720, with H = E t)
//
//   N  f-number    S  ISO arithmetic speed    C  incident calibration constant
//
// ISO 2720 gives ranges for C: 240 to 400 for a flat cosine receptor, 320 to 540 for a cardioid dome (ranges from
// memory). 250 and 330 are the usual instruments' values and the defaults here.
#pragma once

namespace easel {

/// The shape of the receptor, which is a school of metering: flat ("dome in") reads one light at a time along its
/// normal with the cosine; dome ("dome out") gathers from the front half and beyond with the cardioid (1+cos)/2.
enum class Receptor { Flat, Dome };

/// Incident calibration constant C in lux second ISO.
constexpr double calibrationConstant(Receptor receptor) { return receptor == Receptor::Flat ? 250.0 : 330.0; }

/// f-number that `luxSeconds` at `iso` calls for. Zero light gives 0. iso > 0.
double apertureForExposure(double luxSeconds, double iso, double c = calibrationConstant(Receptor::Flat));

/// Luminous exposure in lux-seconds that calls for `fNumber` at `iso`: the inverse of the above.
double exposureForAperture(double fNumber, double iso, double c = calibrationConstant(Receptor::Flat));

/// Linear picture value per cd s/m^2 of a surface: pi S / (N^2 C) with the flat receptor's C, so that a card of
/// reflectance rho that faces the light and is exposed as metered comes out at rho.
double cameraGain(double iso, double fNumber);

/// APEX values (ANSI PH2.5 usage). EV = Av + Tv = log2(N^2 / t).
double timeValue(double seconds);                      ///< Tv = log2(1/t)
double speedValue(double iso);                         ///< Sv = log2(S/3.125)
double exposureValue(double fNumber, double seconds);  ///< EV = Av + Tv

/// A meter's answer, split the way a flash meter shows it.
struct LuminousExposure {
  double flash = 0;   ///< lux-seconds from flash
  double steady = 0;  ///< lux-seconds from continuous light and ambient over the shutter time
  double total() const { return flash + steady; }
  double flashShare() const { return total() > 0 ? flash / total() : 0; }  ///< 0..1
};

}  // namespace easel
