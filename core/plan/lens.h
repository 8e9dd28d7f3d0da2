// The lens at portrait distance. Focused near it stands further from the sensor than its focal length says: the picture
// is tighter and the light thinner.
//
// Thin lens: magnification m = f / (u - f) with u from the lens to what is sharp; the image stands f (1 + m) behind it,
// and illuminance goes with 1 / (1 + m)^2 (bellows factor of close-up tables). At 85 mm and 1.2 m: 7 % tighter, a fifth
// of a stop. Lenses that focus inside themselves keep their angle and their light: Camera::extends is off for those.
#pragma once

#include "plan/parts.h"

namespace easel {

/// From the lens to the nearer eye, which is sharp [m], > 0.
double focusDistance(const Camera& camera);
/// m, 0..1; 0 for a lens that does not extend.
double magnification(const Camera& camera);
/// From the lens to the sensor [mm].
double imageDistance(const Camera& camera);
/// Stops that the lens gives less than is engraved on it, >= 0.
double extensionStops(const Camera& camera);
/// cameraGain() (exposure/meter.h) of this camera as it stands: shooting aperture and extension.
double gainOf(const Camera& camera);

}  // namespace easel
