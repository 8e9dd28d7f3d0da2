#include "balance/advice.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "exposure/aperture.h"
#include "exposure/shutter.h"
#include "gear/kit.h"
#include "plan/placement.h"

namespace easel {

double backdropUnevenness(const SpotTable& t) {
  double least = 1e30, most = 0;
  for (size_t i = 0; i < t.spots.size(); ++i)
    if (t.spots[i].id.rfind("backdrop", 0) == 0) {
      least = std::min(least, t.together[i]);
      most = std::max(most, t.together[i]);
    }
  return least > 0 && most > 0 ? std::log2(most / least) : 0;
}

std::vector<Finding> adviceOn(const Plan& plan, const Answers& a, const SpotTable* table,
                              const Spelling& spelling) {
  std::vector<Finding> out;
  auto say = [&](Severity s, std::string where, std::string sentence) {
    out.push_back({s, std::move(where), std::move(sentence)});
  };
  const LightAnswer* key = keyAnswer(plan, a);
  bool flash = false;
  for (const Light& l : plan.lights) {
    const Unit* u = findUnit(l.unit);
    flash |= l.on && u && u->kind == UnitKind::Flash;
  }
  if (key)
    for (const Light& l : plan.lights) {
      const LightAnswer* r = a.light(l.id);
      if (!r || !l.on || l.role != Role::Fill || r->atFace.total() <= 0 || key->atFace.total() <= 0) continue;
      const double over = std::log2(r->atFace.total() / key->atFace.total());
      if (over > 0.05)
        say(Severity::Warning, "light " + l.id,
            fmt::format(
                "Fill {} is {:.1f} stop over the key{}: lower it by at least that, or move it back to {}.", l.id,
                over, l.height < plan.sitter.eyeHeight - 0.2 ? ", from below" : "", spelling.length(r->distance * std::exp2(over / 2))));
    }
  const double rho = backdropLuminance(plan.backdrop.material);
  if (const double over = a.backdropValue > 0 ? std::log2(a.backdropValue / rho) : -99; rho > 0.6 && over > 2.1)
    say(Severity::Warning, "backdrop",
        fmt::format("The white backdrop gets {:.1f} stops over the camera's setting: beyond two it flares and eats the "
                    "outline. Take {:.1f} off the background lights.",
                    over, over - 2));
  if (table && rho > 0.6 && a.backdropValue > 0.5)
    if (const double uneven = backdropUnevenness(*table); uneven > 0.5)
      say(Severity::Warning, "backdrop",
          fmt::format(
              "The white backdrop differs by {:.1f} stops across the picture. Two background lights at 2 and 10 "
              "o'clock, further from it, even it out.",
              uneven));
  if (flash && a.ambient.total() > 0 && a.ambientStops > -3)
    say(Severity::Warning, "ambient",
        fmt::format("The ambient is only {:.1f} stops under the working aperture and will show. {} darkens it alone{}.",
                    -a.ambientStops,
                    plan.camera.shutter > plan.camera.syncShutter * 1.02
                        ? "A shutter of " + writeShutter(plan.camera.syncShutter)
                        : "Turning the room light off",
                    plan.camera.shutter > plan.camera.syncShutter * 1.02 ? ", the flash stays" : ""));
  if (plan.camera.closedBy != 0 && a.aperture > 0)
    if (const double off = 2 * std::log2(a.aperture / plan.camera.shootingAperture()); std::abs(off) > 0.25)
      say(Severity::Note, "camera",
          fmt::format("The lens stands at {} for everything on, which now reads {}. Set it again on the Meter page.",
                      spelling.aperture(plan.camera.shootingAperture()), spelling.aperture(a.aperture)));
  if (key && key->halfWayStops > 0.5)
    say(Severity::Note, "meter",
        fmt::format("Hold the meter at the face: half-way to {} it reads {}, {:.1f} stops too high.", key->id,
                    spelling.aperture(key->aperture * std::exp2(key->halfWayStops / 2)),
                    key->halfWayStops));
  // A pin that hangs near a lamp is read as a face by nobody but the meter.
  for (const PinnedSpot& p : plan.spots) {
    if (p.onHead) continue;
    for (const Light& l : plan.lights) {
      const Vec3 centre = lightPose(plan, l).centre;
      const double near = length(Vec3{float(p.x), float(p.y), float(p.z)} - centre), face = distanceToFace(plan, l);
      if (l.role != Role::Background && near < 0.6 * face && p.z > -plan.backdrop.distance + 0.1)
        say(Severity::Note, "meter",
            fmt::format(
                "{} is {} from light {}, the face {}: what it reads there is about {:.1f} stops more "
                "than the face gets.",
                p.name.empty() ? p.id : p.name, spelling.length(near), l.id, spelling.length(face), 2 * std::log2(face / std::max(0.05, near))));
    }
  }
  std::stable_sort(out.begin(), out.end(),
                   [](const Finding& x, const Finding& y) { return int(x.severity) > int(y.severity); });
  return out;
}

}  // namespace easel
