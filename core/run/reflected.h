// Reflected readings: a spot meter from the camera reads the light that a surface gives back, so white reads over and
// black under what an incident meter says of the same light.
//
//   N_reflected = N_incident * sqrt(rho / 0.18)
//
// because the meter takes whatever it looks at for mid grey of 18 % (common practice; ISO 2720 leaves the constant K of
// reflected meters a range that puts its grey between 12 and 18 %: range from memory). rho is the diffuse reflectance
// of what a ray from the spot meets; sheen is left out, as a spot meter is told to be held beside it. Any thread.
#pragma once

#include <string>
#include <vector>

#include "meter/account.h"
#include "meter/spots.h"

namespace easel {

constexpr double kMeterGrey = 0.18;

struct ReflectedReading {
  std::string name;                    ///< "Left cheek", "White card at the face"
  double reflectance = 0;              ///< 0..1
  double incident = 0, reflected = 0;  ///< f-numbers, everything that is on
  double stops = 0;                    ///< reflected over incident
};
/// Three cards as the camera is set by, then every surface of the table of spots.
std::vector<ReflectedReading> reflectedReadings(const Scene& scene, const PlacedSet& set, const SpotTable& table);

/// Stops that a reflected reading of the surface under the held meter lies over the incident one: of the skin before
/// the nose, of the cloth of the backdrop. 0 where there is no surface.
double reflectedOver(const Scene& scene, const PlacedSet& set, const HeldMeter& held);

}  // namespace easel
