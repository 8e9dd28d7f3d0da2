#include "light/spots.h"

#include <fmt/format.h>

#include <cmath>

#include "exposure/meter.h"
#include "gear/kit.h"
#include "light/point_meter.h"

namespace easel {

std::vector<MeterSpot> meterSpots(const Scene& scene, const Plan& plan) {
  const Landmarks& l = scene.sitter().landmarks;
  std::vector<MeterSpot> spots;
  // On the head: out of the skin as the smooth head has it there, found by a ray from in front.
  auto onHead = [&](const char* id, const char* name, Vec3 local, Vec3 from) {
    const Vec3 target = scene.studioPoint(local), start = scene.studioPoint(local + from * 0.3f);
    const auto hit = scene.meet(start, normalize(target - start), 1);
    const Vec3 out = normalize(start - target);
    spots.push_back(
        {id, name, (hit ? hit->position : target) + (hit ? hit->facet : out) * 0.01f, hit ? hit->normal : out});
  };
  const Vec3 front{0, 0, 1};
  onHead("face", "Face (nose)", l.noseTip, front);
  onHead("forehead", "Forehead", l.forehead, front);
  onHead("cheek-left", "Left cheek (the sitter's)", l.cheekLeft, front);
  onHead("cheek-right", "Right cheek (the sitter's)", l.cheekRight, front);
  onHead("chin", "Chin", l.chin, front);
  onHead("hair-top", "Hair, top", l.crown, {0, 1, 0});
  onHead("hair-left", "Hair, left side", {0, l.forehead.y, 0.0f}, {1, 0, 0});
  onHead("hair-right", "Hair, right side", {0, l.forehead.y, 0.0f}, {-1, 0, 0});
  const float eyes = float(plan.sitter.eyeHeight);
  for (int side : {1, -1}) {
    const Vec3 above{0.17f * float(side), eyes + 0.1f, 0};
    const auto hit = scene.meet(above, {0, -1, 0}, 1);
    const Vec3 at = hit ? hit->position : Vec3{above.x, eyes - 0.25f, 0};
    spots.push_back({side > 0 ? "shoulder-left" : "shoulder-right",
                     side > 0 ? "Left shoulder" : "Right shoulder",
                     at + Vec3{0, 0.01f, 0},
                     {0, 1, 0}});
  }
  const float z = -float(plan.backdrop.distance) + 0.01f;
  const float half = std::min(float(plan.backdrop.width) / 2 - 0.1f, 0.9f),
              top = std::min(float(plan.backdrop.height) - 0.1f, eyes + 0.7f);
  spots.push_back({"backdrop", "Backdrop behind the shoulder blades", {0, eyes - 0.3f, z}, front});
  for (int corner = 0; corner < 4; ++corner) {
    const bool right = corner & 1, low = corner & 2;
    spots.push_back({fmt::format("backdrop-{}-{}", low ? "low" : "high", right ? "right" : "left"),
                     fmt::format("Backdrop, {} camera {}", low ? "low" : "high", right ? "right" : "left"),
                     {right ? half : -half, low ? std::max(0.2f, eyes - 0.9f) : top, z},
                     front});
  }
  return spots;
}

SpotTable spotTable(const Scene& scene, const Plan& plan) {
  SpotTable t;
  t.spots = meterSpots(scene, plan);
  for (const Light& l : plan.lights) t.lights.push_back(l.id);
  t.lights.push_back("ambient");
  for (const MeterSpot& spot : t.spots) {
    std::vector<double> row;
    double sum = 0;
    for (const Light& l : plan.lights) {
      const Unit* unit = findUnit(l.unit);
      double h = 0;
      if (unit && findModifier(l.modifier)) {
        const Emitter e = emitterOf(plan, l);
        h = unit->lumenSeconds(l.power, plan.camera.shutter) *
            (directLux(&scene, e, spot.position, spot.normal, Receptor::Flat, 256) +
             bouncedLux(scene, e, spot.position, spot.normal, Receptor::Flat, 128));
      }
      row.push_back(h);
      if (l.on) sum += h;
    }
    row.push_back(plan.ambient.lux * plan.camera.shutter);
    t.together.push_back(sum + row.back());
    t.luxSeconds.push_back(std::move(row));
  }
  return t;
}

std::string writeSpotCsv(const SpotTable& t, const Plan& plan) {
  const double working = exposureForAperture(plan.camera.aperture, plan.camera.iso);
  std::string out = "spot,name";
  auto columns = [&](const std::string& id) {
    out += fmt::format(",{0} lux seconds,{0} f-number,{0} stops from working", id);
  };
  for (const std::string& id : t.lights) columns(id);
  columns("together");
  out += "\r\n";
  auto value = [&](double h) {
    if (h > 0)
      out += fmt::format(",{:.4f},{:.2f},{:.2f}", h, apertureForExposure(h, plan.camera.iso), std::log2(h / working));
    else
      out += ",0,,";
  };
  for (size_t s = 0; s < t.spots.size(); ++s) {
    out += fmt::format("{},\"{}\"", t.spots[s].id, t.spots[s].name);
    for (double h : t.luxSeconds[s]) value(h);
    value(t.together[s]);
    out += "\r\n";
  }
  return out;
}

}  // namespace easel
