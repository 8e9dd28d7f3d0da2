#include "plan/pose.h"

#include <algorithm>
#include <cmath>

#include "data/by_id.h"
#include "gear/panel_kinds.h"
#include "plan/lens.h"
#include "plan/subject.h"
#include "spoken/say.h"

namespace easel {

Vec3 towardsHour(double hour) {
  const double a = hour * (kPi / 6);
  return {float(std::sin(a)), 0, float(-std::cos(a))};
}
double hourOf(double x, double z) {
  double h = std::atan2(x, -z) * (6 / kPi);
  if (h <= 0) h += 12;
  return h;
}

Frame frameOf(const Panel& p) {
  Frame f = Frame::facing(-towardsHour(p.hour));
  const auto turned = [&f](Vec3 axis, float angle) {
    f = {rotateAbout(f.u, axis, angle), rotateAbout(f.v, axis, angle), rotateAbout(f.n, axis, angle)};
  };
  turned({0, 1, 0}, -radians(float(p.turn)));
  turned(f.u, -radians(float(p.tilt)));
  return f;
}

PieceSpot spotOf(const Panel& p) {
  constexpr float kOff = 0.012f;  // metres: the receptor's own thickness
  const Frame f = frameOf(p);
  Vec3 at = towardsHour(p.hour) * float(p.distance);
  at.y = float(p.above);
  const auto half = float(p.height / 2);
  switch (shapeOf(p.kind)) {
    case PanelShape::Table:
    case PanelShape::Stool:
    case PanelShape::Block:
    case PanelShape::Object:
      return {at + f.v * (half + kOff), f.v};
    case PanelShape::Chair:
      return {at + f.v * kOff, f.v};
    case PanelShape::Doorway:
    case PanelShape::Window: {
      const auto low = float(p.sill), high = std::min(low + float(p.openHeight), float(p.height));
      return {at + f.v * ((low + high) / 2 - half) + f.n * (float(p.depth) / 2 + kOff), -f.n};
    }
    case PanelShape::Shade:
      return {at + f.n * (float(p.width / 2) + 0.04f), -f.n};
    default:
      return {at + f.n * kOff, f.n};
  }
}

std::string calledFirst(const Panel& p) {
  return isPiece(shapeOf(p.kind)) ? findPanelKind(p.kind)->name + " " + p.id : say("Board {}", p.id);
}
std::string called(const Panel& p) {
  if (!isPiece(shapeOf(p.kind))) return say("board {}", p.id);
  std::string text = calledFirst(p);
  if (text[0] >= 'A' && text[0] <= 'Z') text[0] = char(text[0] - 'A' + 'a');
  return text;
}
std::string calledSource(const std::string& source, const std::vector<Panel>& panels) {
  const auto number = panelOf(source);
  const Panel* panel = number ? byId(panels, *number) : nullptr;
  return panel ? called(*panel) : source;
}

std::string atSpotOf(const Panel& p) {
  switch (shapeOf(p.kind)) {
    case PanelShape::Doorway:
    case PanelShape::Window:
      return say("in the opening of {}", called(p));
    case PanelShape::Shade:
    case PanelShape::Branch:
      return say("before {}", called(p));
    default:
      return say("on {}", called(p));
  }
}

LightPose lightPose(const Light& light, Vec3 aimedAt) {
  LightPose pose;
  pose.centre = towardsHour(light.hour) * float(light.distance);
  pose.centre.y = float(light.height);
  Vec3 aim = aimedAt - pose.centre;
  if (length(aim) < 1e-4f) aim = {0, 0, -1};
  pose.frame = Frame::facing(aim);
  if (light.tiltOffset != 0) {
    const float a = radians(float(light.tiltOffset));
    pose.frame =
        Frame{pose.frame.u, rotateAbout(pose.frame.v, pose.frame.u, -a), rotateAbout(pose.frame.n, pose.frame.u, -a)};
  }
  if (light.pan != 0) {
    const float a = -radians(float(light.pan));
    const Vec3 up{0, 1, 0};
    pose.frame =
        Frame{rotateAbout(pose.frame.u, up, a), rotateAbout(pose.frame.v, up, a), rotateAbout(pose.frame.n, up, a)};
  }
  return pose;
}

LightPose poseOnLens(const CameraPose& camera) {
  // The front ring of a portrait lens: 8 cm before its optical middle.
  return {camera.eye - camera.frame.n * 0.08f, Frame::facing(-camera.frame.n)};
}

CameraPose cameraPose(const Camera& c, const SitterPlace& sitter, double aspect) {
  CameraPose pose;
  pose.eye = {0, float(c.height), float(c.distance)};
  const Vec3 aim{0, float(sitter.eyeHeight - c.aimBelowEyes), 0.05f};
  pose.frame = Frame::facing(pose.eye - aim);
  const double usedHeight = std::min(c.sensorHeight, c.sensorWidth / aspect);
  pose.tanHalfHeight = float(usedHeight / 2 / imageDistance(c));
  return pose;
}

std::optional<Vec2> inPicture(const CameraPose& camera, double frame, Vec3 point) {
  const Vec3 d = point - camera.eye;
  const float depth = -dot(d, camera.frame.n), half = depth * camera.tanHalfHeight;
  if (!(depth >= 0.02f)) return {};
  return Vec2{dot(d, camera.frame.u) / (half * float(frame)), dot(d, camera.frame.v) / half};
}

bool showsNoStand(const Light& light, const LightPose& pose, const SitterPlace& sitter) {
  return std::hypot(pose.centre.x, pose.centre.z) < 0.95f && light.height > sitter.eyeHeight + 0.45;
}

}  // namespace easel
