#include "plan/placement.h"

#include <algorithm>

#include "gear/kit.h"

namespace easel {

Vec3 sitterToStudio(const Plan& plan, Vec3 local) { return {local.x, local.y + float(plan.sitter.eyeHeight), local.z}; }

Vec3 facePoint(const Plan& plan) {
  // 2.5 cm below the eyes, 12 cm in front of the neck's axis: the bridge of the nose of an adult (own measurement on
  // the baked sitters). It does not follow the head's turn, as a stand does not.
  return sitterToStudio(plan, {0, -0.025f, 0.12f});
}

const Panel* workedOn(const Plan& plan, const Light& light) {
  const Panel* p = light.worksOn.empty() ? nullptr : plan.panel(light.worksOn);
  return p && p->on ? p : nullptr;
}

LightPose lightPose(const Plan& plan, const Light& light) {
  if (onLens(light)) return poseOnLens(cameraPose(plan));
  const Panel* on = workedOn(plan, light);
  return lightPose(light, on ? spotOf(*on).at : facePoint(plan));
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

CameraPose cameraPose(const Plan& plan, double aspect) { return cameraPose(plan.camera, plan.sitter, aspect); }
CameraPose cameraPose(const Plan& plan) { return cameraPose(plan, plan.camera.frame); }

}  // namespace easel
