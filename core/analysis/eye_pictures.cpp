#include "analysis/eye_pictures.h"

#include <algorithm>
#include <cmath>

#include "analysis/catchlights.h"

namespace easel {
namespace {

// A square round `middle`; what lies outside the strip is black.
Picture cut(const Picture& strip, int left, int top, int side) {
  Picture out{side, side, std::vector<std::uint8_t>(size_t(side) * size_t(side) * 4, 0)};
  for (int y = std::max(0, -top); y < side && top + y < strip.height; ++y) {
    const int from = std::max(0, -left), to = std::min(side, strip.width - left);
    if (from >= to) break;
    const auto* in = strip.rgba.data() + (size_t(top + y) * size_t(strip.width) + size_t(left + from)) * 4;
    std::copy_n(in, size_t(to - from) * 4, out.rgba.data() + (size_t(y) * size_t(side) + size_t(from)) * 4);
  }
  return out;
}

}  // namespace

std::array<EyePicture, 2> renderEyes(const Plan& plan, const std::function<bool()>& wanted) {
  std::array<EyePicture, 2> out;
  // The same camera with a very long lens: a strip that holds both eyes.
  Plan close = plan;
  close.camera.aimBelowEyes = 0;
  ProgressiveRender studio(8, 8);  // its scene serves the strip as well: only the view differs
  studio.setPlan(plan);
  const auto scene = studio.scene();
  const std::vector<Eye> all = eyesInStudio(*scene);
  const auto set = studio.set();
  const CameraPose& pose = set->cameraPose;
  if (all.size() < 2) return out;
  double furthest = 0.02, highest = 0;
  for (const Eye& c : all) {
    const Vec3 d = c.iris() - pose.eye;
    const Vec3 aim = normalize(Vec3{0, float(plan.sitter.eyeHeight), 0.05f} - pose.eye);
    const Vec3 off = d - aim * dot(d, aim);
    furthest = std::max(furthest, std::abs(double(dot(off, pose.frame.u))) + 0.017);
    highest = std::max(highest, std::abs(double(off.y)) + 0.014);
  }
  const int height = 180, width = std::min(1400, int(height * furthest / highest));
  const double across = 2 * highest, distance = plan.camera.distance - 0.1;
  close.camera.sensorHeight = 24;
  close.camera.sensorWidth = 24.0 * width / height + 1;
  close.camera.extends = false;
  close.camera.focalLength = 24 * distance / across;
  studio.setSize(width, height);
  studio.setPlan(close);
  studio.setOnlyLast(true);
  if (!studio.finish(12, wanted)) return out;
  const Picture strip = developPicture(studio.layers(), *studio.set(), kWholeFrame);
  const Catchlights lights = readCatchlights(*scene, *set);
  for (size_t k = 0; k < 2; ++k) {
    const auto at = pixelOf(studio.layers(), all[k].iris());
    if (!at) continue;
    const auto edge = pixelOf(studio.layers(), all[k].iris() + pose.frame.v * kIris);
    out[k].radius = edge ? std::abs(double(edge->y - at->y)) : height / 5.0;
    const int half = int(out[k].radius * 2.4), left = int(at->x) - half, top = int(at->y) - half;
    out[k].picture = cut(strip, left, top, 2 * half);
    out[k].iris = {at->x - float(left), at->y - float(top)};
    out[k].seen = lights.seesEye[k];
  }
  return out;
}

}  // namespace easel
