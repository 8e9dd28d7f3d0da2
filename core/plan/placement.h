// From the clock to studio space and back: where things of a plan stand and where they point.
#pragma once

#include <optional>

#include "geometry/vec.h"
#include "plan/plan.h"

namespace easel {

/// Unit vector on the floor from the sitter towards an hour of the clock: 6 -> +z (camera), 3 -> +x (camera right).
Vec3 towardsHour(double hour);
/// Hour in (0, 12] of a floor direction.
double hourOf(double x, double z);

/// Sitter local space -> studio space.
Vec3 sitterToStudio(const Plan& plan, Vec3 local);
/// Face point that lights aim at: between the eyes and the nose.
Vec3 facePoint(const Plan& plan);

/// How a panel stands: u across, v up, n the way that its front looks.
Frame frameOf(const Panel& panel);
/// Where a light that works on it is metered, and where the receptor looks: on a table or seat upwards; in an opening
/// through it, to what lies behind; before a lamp's shade at the shade; else as its front looks.
struct PieceSpot {
  Vec3 at, looks;
};
PieceSpot spotOf(const Panel& panel);
/// The thing that the light works on, when it is in the set; nullptr: the sitter or the backdrop.
const Panel* workedOn(const Plan& plan, const Light& light);

/// Centre of the modifier's front and the frame it faces along, feathering included.
struct LightPose {
  Vec3 centre;
  Frame frame;
  bool operator==(const LightPose&) const = default;
};
LightPose lightPose(const Plan& plan, const Light& light);

/// Whether the light sits round the lens: its place is the camera's, not the one that the light says.
bool onLens(const Light& light);

/// Straight-line distance from the modifier's centre to the face point [m], and the elevation of that line [degrees].
double distanceToFace(const Plan& plan, const Light& light);
double elevationFromFace(const Plan& plan, const Light& light);
/// Degrees the modifier points below the horizontal.
double downTilt(const Plan& plan, const Light& light);

/// Feather [degrees, as Light::pan] that brings the modifier's edge in line with the face, its body in front of the
/// sitter, on the camera's side: the even part of the light works, and the backdrop gets less. 0 round the lens.
double edgeFeather(const Plan& plan, const Light& light);

struct CameraPose {
  Vec3 eye;
  Frame frame;          ///< n points back from the picture towards the photographer (camera looks along -n)
  float tanHalfHeight;  ///< tangent of half the vertical angle of view of the picture
  bool operator==(const CameraPose&) const = default;
};
/// `aspect` = picture width / height; the sensor is cropped to it.
CameraPose cameraPose(const Plan& plan, double aspect);
/// ... of the plan's own frame.
CameraPose cameraPose(const Plan& plan);
/// Where a point lies in a picture that is `frame` times as wide as high: -1 to 1 across and up, more beside it;
/// nothing when it is not two centimetres before the lens.
std::optional<Vec2> inPicture(const CameraPose& camera, double frame, Vec3 point);

}  // namespace easel
