// What the photographer asks: what does the meter say, what power gives f/8, how dark is the backdrop?
//
// The meter is held where the light works: for key, fill and others 4 cm in front of the nose; for hair over the crown;
// for rim and kicker beside the head; for a background light on the backdrop behind the head; for a light that is there
// for a piece of the set on that piece. At the face by the plan's method: flat or dome, towards the light that is read
// or towards the camera; everywhere else flat. Each reading is one
// hold of one meter, everything that it takes in included, and is answered with the constant C of its receptor:
// "together" at a light's spot keeps the hold of that light, "everything on" at the face is held as the camera is set
// by, flat towards the key or dome towards the camera. Readings of different holds are never added.
#pragma once

#include <string>
#include <vector>

#include "exposure/power_scale.h"
#include "exposure/spelling.h"
#include "meter/account.h"

namespace easel {

struct LightAnswer {
  std::string id;
  HeldMeter held;               ///< for `alone` and `together`
  LuminousExposure alone;       ///< lx s there with this light alone, at its present power, even when it is off
  LuminousExposure atFace;      ///< lx s that it alone gives at the face, read there by the plan's method
  LuminousExposure inFace;      ///< lx s of Answers::face that are its own, also when it is off
  LuminousExposure onBackdrop;  ///< lx s of it alone on the backdrop beside the head, flat
  LuminousExposure together;    ///< lx s there with everything that is on, and the ambient
  double togetherStops = 0;     ///< the same against the target aperture
  std::vector<std::pair<std::string, double>>
      others;                   ///< stops under the light's own reading of each other light there
  double halfWayStops = 0;      ///< stops that a meter held half-way to the light reads too high
  double aperture = 0;          ///< f-number of the reading alone
  double within = kNewStudio;   ///< of it, stops, one standard deviation: what is known of head and modifier there
  double stopsFromWorking = 0;  ///< stops over (+) or under (-) the target aperture
  double wantedPower =
      0;  ///< stops below full for target aperture + targetStops; may be outside the range; 99: no power would
  PowerScale::Setting setting;                  ///< what the unit can give of it
  PowerScale scale;                             ///< the unit's
  double apertureLowest = 0, apertureFull = 0;  ///< what it reaches from where it stands
  double backdropStops = 0;                     ///< this light: backdrop beside the head against atFace, stops
  double distance = 0;                          ///< modifier to face [m]
  double elevation = 0;                         ///< above the face [degrees]
  double apparentSize = 0;                      ///< diagonal of the modifier seen from the face [degrees]
};

struct Answers {
  std::vector<LightAnswer> lights;
  LuminousExposure ambient;   ///< lx s
  double ambientStops = 0;    ///< against the target aperture
  Hold hold;                  ///< of `face`
  LuminousExposure face;      ///< everything that is on, in one hold
  double aperture = 0;        ///< f-number with everything on
  LuminousExposure backdrop;  ///< lx s with everything on where the camera sees backdrop beside the head, flat receptor
  double backdropStops = 0;   ///< the same against the face with everything on
  double backdropValue = 0;   ///< linear picture value there (0.18 = mid grey)
  Vec3 meterSpot;             ///< where the meter was held
  bool gazeReached = true;    ///< false: the eyes cannot turn to what the plan has them look at

  const LightAnswer* light(const std::string& id) const;
};

/// Unit against unit: stops by which one light is under another, each metered alone where it works and with its own
/// hold. The one function for Build, Read and shell. 0 where one of them gives nothing there.
double stopsUnder(const Answers& answers, const std::string& key, const std::string& light);

/// Of the first key that is on and gives light at its spot; nullptr when there is none.
const LightAnswer* keyAnswer(const std::vector<Light>& lights, const Answers& answers);

/// What the account comes to: readings, and the settings that follow from them.
Answers answersFrom(const Account& account, const Scene& scene, const PlacedSet& set);
/// The same with the account taken first.
Answers computeAnswers(const Scene& scene, const PlacedSet& set);

/// Power setting (stops below full, wanted and possible) so that `light` alone meters at f-number `fNumber` where
/// it works. What gives no light there keeps its power.
PowerScale::Setting powerForAperture(const Answers& answers, const Light& light, double fNumber,
                                     double* wanted = nullptr);

/// Reading of the light under the pointer: at a place of a surface, flat and looking out of it, each light's share.
struct SpotReading {
  Surface surface = Surface::Nothing;
  Vec3 position, normal;
  double aperture = 0;  ///< incident f-number, all lights that are on plus ambient
  double stops = 0;     ///< against the target aperture
  struct Share {
    std::string id;
    double share;
    double aperture;
  };
  std::vector<Share> shares;  ///< of each light that is on, and "ambient"; shares sum to 1
};
SpotReading readSpot(const Scene& scene, const PlacedSet& set, Vec3 point, Vec3 normal, Surface surface);

}  // namespace easel
