// Setting the camera: three schools, each with this plan's numbers.
//
//   key only        the lens stands at the key's reading alone; whatever else is on brightens the face a little
//   everything on   the lens is closed to the reading with all lights on (in thirds, as lenses go)
//   lower all       the aperture stays, all lights go down equally until everything on reads it
// Common practice, no source.
#pragma once

#include <string>
#include <vector>

#include "balance/balance.h"
#include "exposure/spelling.h"
#include "plan/plan.h"

namespace easel {

enum class CameraSchool { KeyOnly, EverythingOn, LowerAll };

struct CameraSetting {
  CameraSchool school;
  std::string name;
  double aperture = 0;    ///< what the lens would be set to
  double lowerBy = 0;     ///< LowerAll: stops off every light
  std::string sentence;   ///< why and how, with numbers
  bool standing = false;  ///< the plan is set so now (within a tenth of a stop)
};
/// Empty without a key that is on.
std::vector<CameraSetting> cameraSettings(const Plan& plan, const Answers& answers, const Spelling& spelling = {});

/// The plan with the camera set by the school. `answers` must be of this plan.
Plan withCameraSetting(const Plan& plan, const Answers& answers, CameraSchool school);

}  // namespace easel
