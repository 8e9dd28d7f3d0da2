// How things stand in studio space, without the plan round them: poses of lights and camera, the clock, where a piece
// is metered. From a plan to these: plan/placement.h; of the whole set at once: placed/placed_set.h.
//
// Metres; +x camera right, +y up, +z towards the camera, the sitter's axis through the origin. Any thread.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "plan/parts.h"

namespace easel {

/// Unit vector on the floor from the sitter towards an hour of the clock: 6 -> +z (camera), 3 -> +x (camera right).
Vec3 towardsHour(double hour);
/// Hour in (0, 12] of a floor direction.
double hourOf(double x, double z);

/// How a panel stands: u across, v up, n the way that its front looks.
Frame frameOf(const Panel& panel);
/// Where a light that works on it is metered, and where the receptor looks: on a table or seat upwards; in an opening
/// through it, to what lies behind; before a lamp's shade at the shade; else as its front looks.
struct PieceSpot {
  Vec3 at, looks;
};
PieceSpot spotOf(const Panel& panel);
/// "board 3", "table 3": how sentences call it, and as their first word.
std::string called(const Panel& panel);
std::string calledFirst(const Panel& panel);
/// What a catchlight or a fill comes from, as sentences call it: a light's letter, or of plan/subject.h's "panel 3" the
/// board.
std::string calledSource(const std::string& source, const std::vector<Panel>& panels);
/// Where spotOf() is: "on table 1", "in the opening of wall with a window 2", "before lamp with a shade 3".
std::string atSpotOf(const Panel& panel);

/// Centre of the modifier's front and the frame it faces along, feathering included.
struct LightPose {
  Vec3 centre;
  Frame frame;
  bool operator==(const LightPose&) const = default;
};

/// Of a front that stands there and is aimed, then feathered and tilted as the light says.
LightPose lightPose(const Light& light, Vec3 aim);

struct CameraPose {
  Vec3 eye;
  Frame frame;          ///< n points back from the picture towards the photographer (camera looks along -n)
  float tanHalfHeight;  ///< tangent of half the vertical angle of view of the picture
  bool operator==(const CameraPose&) const = default;
};
/// Of this camera before a sitter of that eye height; `aspect` = picture width / height; the sensor is cropped to it.
CameraPose cameraPose(const Camera& camera, const SitterPlace& sitter, double aspect);
/// Of a front round that lens.
LightPose poseOnLens(const CameraPose& camera);
/// Where a point lies in a picture that is `frame` times as wide as high: -1 to 1 across and up, more beside it;
/// nothing when it is not two centimetres before the lens.
std::optional<Vec2> inPicture(const CameraPose& camera, double frame, Vec3 point);

/// Whether a light so near and so high comes on a boom from the side, as the picture shows it: no stand below it.
bool showsNoStand(const Light& light, const LightPose& pose, const SitterPlace& sitter);

}  // namespace easel
