#include "plan/placement.h"

#include <algorithm>

#include "gear/kit.h"
#include "gear/panel_kinds.h"
#include "plan/lens.h"

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

Vec3 sitterToStudio(const Plan& plan, Vec3 local) { return {local.x, local.y + float(plan.sitter.eyeHeight), local.z}; }

Vec3 facePoint(const Plan& plan) {
  // 2.5 cm below the eyes, 12 cm in front of the neck's axis: the bridge of the nose of an adult (own measurement on
  // the baked sitters). It does not follow the head's turn, as a stand does not.
  return sitterToStudio(plan, {0, -0.025f, 0.12f});
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

const Panel* workedOn(const Plan& plan, const Light& light) {
  const Panel* p = light.worksOn.empty() ? nullptr : plan.panel(light.worksOn);
  return p && p->on ? p : nullptr;
}

LightPose lightPose(const Plan& plan, const Light& light) {
  LightPose pose;
  if (onLens(light)) {  // the front ring of a portrait lens: 8 cm before its optical middle
    const CameraPose camera = cameraPose(plan);
    pose.centre = camera.eye - camera.frame.n * 0.08f;
    pose.frame = Frame::facing(-camera.frame.n);
    return pose;
  }
  pose.centre = towardsHour(light.hour) * float(light.distance);
  pose.centre.y = float(light.height);
  const Panel* on = workedOn(plan, light);
  Vec3 aim = (on ? spotOf(*on).at : facePoint(plan)) - pose.centre;
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

bool onLens(const Light& light) {
  const Modifier* m = findModifier(light.modifier);
  return m && m->mount == Mount::Lens;
}

double distanceToFace(const Plan& plan, const Light& light) {
  return length(lightPose(plan, light).centre - facePoint(plan));
}
double elevationFromFace(const Plan& plan, const Light& light) {
  const Vec3 d = normalize(lightPose(plan, light).centre - facePoint(plan));
  return degrees(std::asin(std::clamp(d.y, -1.f, 1.f)));
}
double downTilt(const Plan& plan, const Light& light) {
  return -degrees(std::asin(std::clamp(lightPose(plan, light).frame.n.y, -1.f, 1.f)));
}

double edgeFeather(const Plan& plan, const Light& light) {
  const Modifier* m = findModifier(light.modifier);
  if (!m || m->mount == Mount::Lens) return 0;
  const double d = std::max(0.2, distanceToFace(plan, light));
  const double angle = std::round(degrees(std::asin(std::min(0.95f, float(m->width / 2 / d)))));
  Light turned = light;
  double best = angle, furthest = -1e9;
  for (double pan : {angle, -angle}) {
    turned.pan = pan;
    const LightPose pose = lightPose(plan, turned);
    const double z = double((pose.centre + pose.frame.n * float(d)).z);
    if (z > furthest) {
      furthest = z;
      best = pan;
    }
  }
  return best;
}

CameraPose cameraPose(const Plan& plan, double aspect) {
  const Camera& c = plan.camera;
  CameraPose pose;
  pose.eye = {0, float(c.height), float(c.distance)};
  const Vec3 aim{0, float(plan.sitter.eyeHeight - c.aimBelowEyes), 0.05f};
  pose.frame = Frame::facing(pose.eye - aim);
  const double usedHeight = std::min(c.sensorHeight, c.sensorWidth / aspect);
  pose.tanHalfHeight = float(usedHeight / 2 / imageDistance(c));
  return pose;
}

CameraPose cameraPose(const Plan& plan) { return cameraPose(plan, plan.camera.frame); }

std::optional<Vec2> inPicture(const CameraPose& camera, double frame, Vec3 point) {
  const Vec3 d = point - camera.eye;
  const float depth = -dot(d, camera.frame.n), half = depth * camera.tanHalfHeight;
  if (!(depth >= 0.02f)) return {};
  return Vec2{dot(d, camera.frame.u) / (half * float(frame)), dot(d, camera.frame.v) / half};
}

}  // namespace easel
