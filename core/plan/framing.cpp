#include "plan/framing.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "gear/kit.h"
#include "plan/lens.h"
#include "plan/placement.h"
#include "spoken/say.h"

namespace easel {

const std::vector<Framing>& framings() {
  static const std::vector<Framing> all = {
      {"tight", say("Tight face"), 0.30, 0.015},
      {"headshot", say("Headshot"), 0.42, 0.045},
      {"shoulders", say("Head and shoulders"), 0.62, 0.10},
      {"half", say("Half length"), 0.86, 0.20},
      {"three-quarter", say("Three-quarter length"), 1.30, 0.40},
      {"full", say("Full length"), 1.96, 0.72},
  };
  return all;
}

namespace {
// The sensor is cut to the picture's proportions.
double usedHeight(const Camera& c) { return std::min(c.sensorHeight, c.sensorWidth / c.frame); }
// What stands as high as the picture, focused: u = f (1 + 1 / m), or f / m for a lens that keeps its angle.
double distanceFor(const Camera& c, double height) {
  const double f = c.focalLength / 1000, smaller = height * 1000 / usedHeight(c);
  return f * smaller + (c.extends ? f : 0) + kFaceDepth;
}
}  // namespace

Camera framed(const Plan& plan, const Framing& f) {
  Camera c = plan.camera;
  c.distance = std::clamp(distanceFor(c, f.height), 0.5, 50.0);
  c.aimBelowEyes = f.belowEyes;
  c.height = plan.sitter.eyeHeight - f.belowEyes + 0.03;
  return c;
}

Camera croppedTo(const Plan& plan, const Framing& f, double frame) {
  Camera c = plan.camera;
  c.closedBy += extensionStops(c);  // a crop is no lens that moves out
  c.extends = false;
  c.frame = frame;
  c.focalLength = std::clamp(focusDistance(c) * usedHeight(c) / f.height, 8.0, 1200.0);
  c.aimBelowEyes = f.belowEyes;
  return c;
}

const Framing& framingCalled(const std::string& id) {
  for (const Framing& f : framings())
    if (f.id == id) return f;
  throw std::out_of_range(id);
}

namespace {
// Where points lie in the picture: 1 is its edge.
struct Extent {
  float low = INFINITY, high = -INFINITY, aside = 0;
};
Extent extentOf(const Plan& plan, std::span<const Vec3> points) {
  const CameraPose pose = cameraPose(plan);
  Extent e;
  for (const Vec3& q : points) {
    const auto at = inPicture(pose, plan.camera.frame, q);
    e.low = std::min(e.low, at ? at->y : -INFINITY);
    e.high = std::max(e.high, at ? at->y : INFINITY);
    e.aside = std::max(e.aside, at ? std::abs(at->x) : INFINITY);
  }
  return e;
}
}  // namespace

Camera widened(const Plan& plan, std::span<const Vec3> points) {
  constexpr float kWithin = 0.95f;
  constexpr double kBehindCamera = 0.4, kStep = 1.04, kShortest = 24;  // metres; a factor; mm
  const auto within = [](const Extent& e) { return e.aside <= kWithin && e.low >= -kWithin && e.high <= kWithin; };
  if (within(extentOf(plan, points))) return plan.camera;
  std::vector<Vec3> all(points.begin(), points.end());
  for (const Vec3& head : {Vec3{0, 0.19f, 0}, Vec3{-0.2f, -0.05f, 0}, Vec3{0.2f, -0.05f, 0}})
    all.push_back(head + Vec3{0, float(plan.sitter.eyeHeight), 0});
  Plan p = plan;
  Camera& c = p.camera;
  const double most = std::max(c.distance, plan.room.depth - plan.room.behind - kBehindCamera);
  for (;;) {
    c.aimBelowEyes = plan.camera.aimBelowEyes;
    for (int aimed = 0; aimed < 4; ++aimed) {
      const Extent e = extentOf(p, all);
      if (within(e)) return c;
      if (!(e.high - e.low < 100)) break;  // behind the lens: further back first
      c.aimBelowEyes -= double(e.low + e.high) / 2 * double(cameraPose(p).tanHalfHeight) * c.distance;
    }
    if (c.distance * kStep <= most)
      c.distance *= kStep;
    else if (c.focalLength / kStep >= kShortest)
      c.focalLength = std::round(c.focalLength / kStep - 0.5);
    else
      return c;
  }
}

const Framing& framingOf(const Plan& plan) {
  const double height = focusDistance(plan.camera) * usedHeight(plan.camera) / imageDistance(plan.camera);
  return *std::min_element(framings().begin(), framings().end(), [&](const Framing& a, const Framing& b) {
    return std::abs(std::log(a.height / height)) < std::abs(std::log(b.height / height));
  });
}

const std::vector<Sensor>& sensors() {
  static const std::vector<Sensor> all = {
      {"24x36", "24 x 36 mm", 24, 36},       {"15.6x23.5", "15.6 x 23.5 mm", 15.6, 23.5},
      {"13x17.3", "13 x 17.3 mm", 13, 17.3}, {"33x44", "33 x 44 mm", 33, 44},
      {"40x54", "40 x 54 mm", 40, 54},
  };
  return all;
}

const std::vector<PictureFrame>& frames() {
  static const std::vector<PictureFrame> all = {
      {"2:3", "2:3", 2.0 / 3}, {"4:5", "4:5", 0.8},     {"1:1", say("1:1, square"), 1},
      {"5:4", "5:4", 1.25},    {"3:2", "3:2", 3.0 / 2}, {"16:9", "16:9", 16.0 / 9},
  };
  return all;
}

std::pair<int, int> sizeInFrame(double widthOverHeight, double pixels) {
  const int height = std::max(8, int(std::lround(std::sqrt(pixels / widthOverHeight))));
  return {std::max(8, int(std::lround(height * widthOverHeight))), height};
}

Camera inFrame(const Plan& plan, double widthOverHeight) {
  const Framing& now = framingOf(plan);
  Plan held = plan;
  Camera& c = held.camera;
  c.frame = widthOverHeight;
  // Held the way that wastes less of the sensor.
  const double shortSide = std::min(c.sensorWidth, c.sensorHeight), longSide = std::max(c.sensorWidth, c.sensorHeight);
  c.sensorWidth = widthOverHeight > 1 ? longSide : shortSide;
  c.sensorHeight = widthOverHeight > 1 ? shortSide : longSide;
  return framed(held, now);
}

Plan withEyesAt(const Plan& plan, double eyeHeight) {
  Plan out = plan;
  const double by = eyeHeight - plan.sitter.eyeHeight;
  out.sitter.eyeHeight = eyeHeight;
  out.camera.height = std::clamp(plan.camera.height + by, 0.05, 10.0);
  for (Light& l : out.lights) {
    if (l.locked) continue;
    const Modifier* m = findModifier(l.modifier);
    const double half = m ? m->height / 2 : 0.1;
    l.height = std::clamp(l.height + by, std::min(0.1 + half, l.height), std::max(l.height, plan.room.height - half));
  }
  return out;
}

}  // namespace easel
