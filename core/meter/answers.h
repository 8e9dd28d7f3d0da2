// What the photographer asks: what does the meter say, what power gives f/8, how dark is the backdrop?
//
// The meter is held where the light works: for key, fill and others 4 cm in front of the nose; for hair over the crown;
// for rim and kicker beside the head; for a background light on the backdrop behind the head. At the face by the plan's
// school: flat or dome, towards the light that is read or towards the camera. "All together" is always
// read with the dome's or the flat receptor's own constant C.
#pragma once

#include <string>
#include <vector>

#include "exposure/meter.h"
#include "exposure/power_scale.h"
#include "exposure/spelling.h"
#include "plan/plan.h"
#include "transport/scene.h"

namespace easel {

struct LightAnswer {
  std::string id;
  std::string spot;          ///< where it is metered: "face", "hair", "edge", "backdrop", by its role
  Reading alone;             ///< lx s at that spot with this light alone, at its present power, even when it is off
  Reading atFace;            ///< lx s that it adds at the face
  Reading together;          ///< lx s at that spot with everything that is on, and the ambient
  double togetherStops = 0;  ///< the same against the working aperture
  std::vector<std::pair<std::string, double>>
      others;                   ///< stops under the light's own reading of each other light there
  double halfWayStops = 0;      ///< stops that a meter held half-way to the light reads too high
  double aperture = 0;          ///< f-number of the reading alone
  double stopsFromWorking = 0;  ///< stops over (+) or under (-) the working aperture
  double wantedPower = 0;       ///< stops below full for working aperture + targetStops; may be outside the range
  PowerScale::Setting setting;  ///< what the unit can give of it
  double apertureLowest = 0, apertureFull = 0;  ///< what it reaches from where it stands
  double backdropStops = 0;                     ///< this light: backdrop behind the head against the face, stops
  double distance = 0;                          ///< modifier to face [m]
  double elevation = 0;                         ///< above the face [degrees]
  double apparentSize = 0;                      ///< diagonal of the modifier seen from the face [degrees]
};

struct Answers {
  std::vector<LightAnswer> lights;
  Reading ambient;           ///< lx s
  double ambientStops = 0;   ///< against the working aperture
  Reading face;              ///< everything that is on
  double aperture = 0;       ///< f-number with everything on
  Reading backdrop;          ///< lx s on the backdrop behind the head with everything on, flat receptor
  double backdropStops = 0;  ///< backdrop behind the head against the face with everything on
  double backdropValue = 0;  ///< linear picture value there (0.18 = mid grey)
  Vec3 meterSpot;            ///< where the meter was held

  const LightAnswer* light(const std::string& id) const;
};

/// Of the first key that is on and gives light at its spot; nullptr when there is none.
const LightAnswer* keyAnswer(const Plan& plan, const Answers& answers);

/// Holds the meter for every light. About two milliseconds a light.
Answers computeAnswers(const Scene& scene, const Plan& plan);

/// Power setting (stops below full, wanted and possible) so that `light` alone meters at f-number `fNumber` at the
/// face. What gives no light there keeps its power.
PowerScale::Setting powerForAperture(const Answers& answers, const Light& light, double fNumber,
                                     double* wanted = nullptr);

/// Reading of the light under the pointer: for a surface point, each light's stops and f-number there.
struct SpotReading {
  Surface surface = Surface::Nothing;
  Vec3 position, normal;
  double aperture = 0;  ///< incident f-number, all lights that are on plus ambient
  double stops = 0;     ///< against the working aperture
  struct Share {
    std::string id;
    double share;
    double aperture;
  };
  std::vector<Share> shares;  ///< of each light that is on, and "ambient"; shares sum to 1
};
SpotReading readSpot(const Scene& scene, const Plan& plan, Vec3 point, Vec3 normal, Surface surface);

}  // namespace easel
