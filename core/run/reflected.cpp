#include "run/reflected.h"

#include <cmath>

#include "exposure/stops.h"
#include "spoken/say.h"
#include "transport/skin.h"

namespace easel {
namespace {

// The surface that a receptor 1 to 5 cm before it is held to; a few rays, because skin and cloth are uneven.
double reflectanceUnder(const Scene& scene, Vec3 at, Vec3 out) {
  double sum = 0;
  int n = 0;
  const Vec3 side = normalize(std::abs(out.y) < 0.9f ? cross(out, {0, 1, 0}) : cross(out, {1, 0, 0})),
             up = cross(side, out);
  for (int i = -1; i <= 1; ++i)
    for (int k = -1; k <= 1; ++k) {
      const Vec3 from = at + side * (0.004f * float(i)) + up * (0.004f * float(k));
      const auto hit = scene.intersect(from, out * -1.f, std::uint32_t(3 * i + k + 9));
      if (!hit || hit->distance > 0.09f) continue;
      // A spot meter takes the sheen of skin with it.
      sum += luminance(hit->albedo) / (hit->surface == Surface::Skin ? kSkinGivesOn : 1);
      ++n;
    }
  return n ? sum / n : 0;
}

double over(double reflectance) { return stopsFromRatio(reflectance / kMeterGrey); }

}  // namespace

std::vector<ReflectedReading> reflectedReadings(const Scene& scene, const PlacedSet& set, const SpotTable& table) {
  std::vector<ReflectedReading> out;
  const auto add = [&](const std::string& name, double reflectance, double incident) {
    if (!(reflectance > 0) || !(incident > 0)) return;
    out.push_back({name, reflectance, incident, incident * std::exp2(over(reflectance) / 2), over(reflectance)});
  };
  for (size_t i = 0; i < table.spots.size(); ++i) {
    const MeterSpot& s = table.spots[i];
    const double incident = s.aperture(table.together[i], set.camera);
    if (s.held) {
      // Common practice, no source: what is sold as a white, a grey and a black card.
      add(say("White card at the face"), 0.9, incident);
      add(say("Grey card at the face"), kMeterGrey, incident);
      add(say("Black card at the face"), 0.04, incident);
    } else if (!s.pin) {
      add(s.name, reflectanceUnder(scene, s.position, s.normal), incident);
    }
  }
  return out;
}

double reflectedOver(const Scene& scene, const PlacedSet& set, const HeldMeter& held) {
  // At the face the meter stands before the nose; the nearest skin along the sitter's line of sight.
  const Vec3 out = held.where == MeteredAt::Backdrop ? Vec3{0, 0, 1} : normalize(set.cameraPose.eye - held.at);
  const double reflectance = reflectanceUnder(scene, held.at, out);
  return reflectance > 0 ? over(reflectance) : 0;
}

}  // namespace easel
