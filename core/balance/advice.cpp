#include "balance/advice.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "exposure/aperture.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "gear/inventory.h"
#include "gear/kit.h"
#include "plan/gaze.h"
#include "plan/placement.h"
#include "plan/subject.h"
#include "plan/sync.h"
#include "spoken/say.h"

namespace easel {
namespace {

// Whether a photographer could mean it: what stands on a stand before a head, for what does; no window, no lamp in the
// picture, no ring on the lens, no snoot for a softbox.
bool takesThePlaceOf(const Modifier& m, const Modifier& now) {
  using F = ModifierFamily;
  if (m.id == now.id || m.mount != now.mount || m.outline == Outline::Ball) return false;
  if (m.grid > 0 && now.grid <= 0) return false;  // a grid is another light, not more or less of this one
  const auto front = [](F f) { return f == F::Reflector || f == F::Dish || f == F::Softbox || f == F::Umbrella; };
  return now.family == m.family || (front(now.family) && front(m.family));
}

}  // namespace

double backdropUnevenness(const SpotTable& t) {
  double least = 1e30, most = 0;
  for (size_t i = 0; i < t.spots.size(); ++i)
    if (t.spots[i].id.rfind("backdrop", 0) == 0) {
      least = std::min(least, t.together[i]);
      most = std::max(most, t.together[i]);
    }
  return stopsOver(most, least);
}

std::vector<Finding> adviceOn(const Plan& plan, const Answers& a, const SpotTable* table, const Spelling& spelling) {
  std::vector<Finding> out;
  auto tell = [&](Severity s, std::string where, std::string sentence) {
    out.push_back({s, std::move(where), std::move(sentence)});
  };
  if (!a.gazeReached)
    tell(Severity::Note, "sitter",
         say("The eyes cannot look {}: they turn 35 degrees aside, 20 up and 25 down. Turn the head, or let them look "
             "at "
             "the lens.",
             saidGaze(plan)));
  const LightAnswer* key = keyAnswer(plan.lights, a);
  bool flash = false;
  for (const Light& l : plan.lights) {
    const Unit* u = findUnit(l.unit);
    flash |= l.on && u && u->kind == UnitKind::Flash;
  }
  if (key)
    for (const Light& l : plan.lights) {
      const LightAnswer* r = a.light(l.id);
      if (!r || !l.on || l.role != Role::Fill || r->atFace.total() <= 0 || key->atFace.total() <= 0) continue;
      const double over = stopsFromRatio(r->atFace.total() / key->atFace.total());
      if (over > 0.05)
        tell(Severity::Warning, lightSubject(l.id),
             l.height < plan.sitter.eyeHeight - 0.2
                 ? say("Fill {} is {:.1f} stop over the key, from below: lower it by at least that, or move it back "
                       "to {}.",
                       l.id, over, spelling.length(r->distance * std::exp2(over / 2)))
                 : say("Fill {} is {:.1f} stop over the key: lower it by at least that, or move it back to {}.", l.id,
                       over, spelling.length(r->distance * std::exp2(over / 2))));
    }
  const double rho = backdropLuminance(plan.backdrop.material);
  if (const double over = stopsOver(a.backdropValue, rho, -99); rho > 0.6 && over > 2.1)
    tell(Severity::Warning, "backdrop",
         say("The white backdrop gets {:.1f} stops over the camera's setting: beyond two it flares and eats the "
             "outline. Lower the background lights by {:.1f} stops.",
             over, over - 2));
  if (table && rho > 0.6 && a.backdropValue > 0.5)
    if (const double uneven = backdropUnevenness(*table); uneven > 0.5)
      tell(Severity::Warning, "backdrop",
           say("The white backdrop differs by {:.1f} stops across the picture. Two background lights at 2 and 10 "
               "o'clock, further from it, even it out.",
               uneven));
  if (flash && a.ambient.total() > 0 && a.ambientStops > -3)
    tell(Severity::Warning, "ambient",
         (a.ambientStops < -0.05
              ? say("Room light is only {:.1f} stops under the target aperture and will show.", -a.ambientStops)
          : a.ambientStops > 0.05
              ? say("Room light is {:.1f} stops over the target aperture and will show.", a.ambientStops)
              : say("Room light is as bright as the target aperture and will show.")) +
             " " +
             (plan.camera.shutter > plan.camera.syncShutter * 1.02
                  ? say("A shutter of {} darkens it without changing the flash.", writeShutter(plan.camera.syncShutter))
                  : say("Turn the room light off: the flash does not change.")));
  if (plan.camera.closedBy != 0 && a.aperture > 0)
    if (const double off = aperturesApart(a.aperture, plan.camera.shootingAperture()); std::abs(off) > 0.25)
      tell(Severity::Note, "camera",
           say("The lens is set to {} for everything on, which now reads {}. Set it again on the Meter page.",
               spelling.aperture(plan.camera.shootingAperture()), spelling.aperture(a.aperture)));
  if (key && key->halfWayStops > 0.5)
    tell(Severity::Note, "meter",
         say("Hold the meter at the face: half-way to {} it reads {}, {:.1f} stops too high.", key->id,
             spelling.aperture(key->aperture * std::exp2(key->halfWayStops / 2)), key->halfWayStops));
  // A pin that hangs near a lamp is read as a face by nobody but the meter.
  for (const PinnedSpot& p : plan.spots) {
    if (p.onHead) continue;
    for (const Light& l : plan.lights) {
      const Vec3 centre = lightPose(plan, l).centre;
      const double near = length(Vec3{float(p.x), float(p.y), float(p.z)} - centre), face = distanceToFace(plan, l);
      if (l.role != Role::Background && near < 0.6 * face && p.z > -plan.backdrop.distance + 0.1)
        tell(Severity::Note, "meter",
             say("{} is {} from light {}, the face {}: what it reads there is about {:.1f} stops more "
                 "than the face gets.",
                 p.name.empty() ? p.id : p.name, spelling.length(near), l.id, spelling.length(face),
                 aperturesApart(face, std::max(0.05, near))));
    }
  }
  std::stable_sort(out.begin(), out.end(),
                   [](const Finding& x, const Finding& y) { return int(x.severity) > int(y.severity); });
  return out;
}

std::vector<std::string> adviceOnPower(const Plan& plan, const Light& light, const LightAnswer& r,
                                       const Spelling& spelling) {
  std::vector<std::string> out;
  const double miss = r.setting.shortfall;
  const Unit* unit = findUnit(light.unit);
  const Modifier* modifier = findModifier(light.modifier);
  if (miss == 0 || !unit || !modifier) return out;
  if (r.apertureFull <= 0) {
    out.push_back(
        say("None of {}'s light comes to its spot: it points away, or something stands between. Turn it or move it.",
            light.id));
    return out;
  }
  // Inverse square on the distance to the face: a good first step for a stand that is further off than its box is wide.
  const double factor = ratioFromStops(-std::abs(miss) / 2);
  auto length = [&](double m) { return spelling.length(m); };
  double iso = nominalIso(plan.camera.iso * ratioFromStops(miss));
  const auto& marks = isoThirds();
  if (const auto at = std::find(marks.begin(), marks.end(), iso);
      miss > 0 && iso < plan.camera.iso * ratioFromStops(miss) * 0.999 && at + 1 < marks.end())
    iso = *(at + 1);  // rounded to the side that helps
  // Who has entered a kit is sent to nothing else, and not to what other lights already use.
  auto spare = [&](std::optional<int> owned, const std::string& id, std::string Light::*what) {
    return !owned || *owned > std::count_if(plan.lights.begin(), plan.lights.end(),
                                            [&](const Light& l) { return l.*what == id; });
  };
  // The modifier of the kit that mends it with the least change, by its intensity on the axis.
  const Modifier* other = nullptr;
  double gain = 0;
  const std::vector<Modifier> fronts = knownModifiers();
  for (const Modifier& m : fronts) {
    if (!takesThePlaceOf(m, *modifier) || !spare(modifiersOwned(m.id), m.id, &Light::modifier)) continue;
    const double by = stopsFromRatio(m.axialIntensity() / modifier->axialIntensity());
    if ((miss > 0 ? by >= miss : by <= miss) && (!other || std::abs(by) < std::abs(gain))) {
      other = &m;
      gain = by;
    }
  }
  // Units of the kit that reach it from the same place with the same modifier.
  std::vector<std::string> units;
  const double now = unit->lumenSeconds(0, plan.camera.shutter) * syncShare(*unit, plan.camera);
  for (const Unit& u : knownUnits()) {
    if (u.id == unit->id || u.kind != unit->kind || !spare(unitsOwned(u.id), u.id, &Light::unit)) continue;
    const auto s = u.scale.settingFor(
        r.wantedPower + stopsFromRatio(now / (u.lumenSeconds(0, plan.camera.shutter) * syncShare(u, plan.camera))));
    if (s.shortfall == 0) units.push_back(say("{} at {}", u.name, spelling.power(u.scale, s.stops)));
  }
  auto from = [&](const std::string& either) {
    return unitsOwned(unit->id) ? say("From the kit: {}.", either) : say("Another head: {}.", either);
  };
  if (miss > 0) {
    if (r.distance * factor > 0.4)
      out.push_back(say("Move {} to about {} from the face.", light.id, length(r.distance * factor)));
    if (!units.empty()) out.push_back(from(eitherOf(units)));
    if (other) out.push_back(say("Another modifier: {} gives {} stops.", other->name, spelling.stops(gain)));
    if (iso <= 6400) out.push_back(say("Raise ISO to {:.0f} (room light rises with it).", iso));
    out.push_back(
        say("Open up to {}.", writeAperture(plan.camera.aperture * ratioFromStops(-miss / 2), ApertureStyle::Nominal)));
  } else {
    out.push_back(say("Put ND {:.1f} ({:.1f} stops) on it.", std::ceil(-miss * 3 - 1e-6) * 0.1, -miss));
    out.push_back(say("Move {} back to about {} from the face.", light.id, length(r.distance / factor)));
    if (!units.empty()) out.push_back(from(eitherOf(units)));
    if (other) out.push_back(say("Another modifier: {} gives {} stops.", other->name, spelling.stops(gain)));
    if (iso >= 50) out.push_back(say("Lower ISO to {:.0f}.", iso));
    out.push_back(say("Close down to {}.",
                      writeAperture(plan.camera.aperture * ratioFromStops(-miss / 2), ApertureStyle::Nominal)));
  }
  return out;
}

std::string mostPressing(const Plan& plan, const Answers* answers, const SpotTable* table, const Spelling& spelling) {
  // The first of the most severe ones.
  std::optional<Finding> worst;
  for (const Finding& f : checkPlan(plan, spelling)) {
    const bool wanted = !f.id.empty() && std::find(plan.wanted.begin(), plan.wanted.end(), f.id) != plan.wanted.end();
    if (!wanted && (!worst || f.severity > worst->severity)) worst = f;
  }
  if (answers && (!worst || worst->severity == Severity::Note))
    for (const Finding& f : adviceOn(plan, *answers, table, spelling))
      if (f.severity == Severity::Warning) return f.sentence;
  return worst ? worst->sentence : std::string();
}

std::string whatPrevents(const Plan& plan, const Spelling& spelling) {
  for (const Finding& f : checkPlan(plan, spelling))
    if (f.severity == Severity::Error) return f.sentence;
  return {};
}

}  // namespace easel
