#include "plan/roles.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <stdexcept>

#include "data/by_id.h"
#include "gear/inventory.h"
#include "gear/kit.h"
#include "plan/edit.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "plan/role_file.h"
#include "sitters/colouring.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::string letterFor(const Plan& plan) {
  std::string letter = freeLetter(plan);
  if (letter.empty()) throw std::invalid_argument(say("A plan holds at most sixteen lights. Remove one first."));
  return letter;
}

double mirrorHour(double h) { return h >= 12 ? 12 : 12 - h; }

// Of what there are `owned` (none: the kit does not count them), one is left beside those that stand.
bool oneLeft(const std::optional<int>& owned, const Plan& plan, std::string Light::*member, const std::string& id) {
  return !owned || *owned > std::count_if(plan.lights.begin(), plan.lights.end(),
                                          [&](const Light& l) { return l.*member == id; });
}

// The front that the method wants and the head that the plan works with, as far as the kit has one left; else the
// nearest in size of the front's kind, and any head.
void equip(const Plan& plan, Light& l) {
  const auto frontLeft = [&](const std::string& id) { return oneLeft(modifiersOwned(id), plan, &Light::modifier, id); };
  const Modifier* wanted = findModifier(l.modifier);
  if (!wanted) return;
  if (!frontLeft(l.modifier)) {
    double nearest = 0;
    std::string best;
    for (const Modifier& m : knownModifiers()) {
      if (m.family != wanted->family || m.mount != wanted->mount || !frontLeft(m.id)) continue;
      const double apart =
          std::abs(std::log(std::max(1e-4, m.width * m.height) / std::max(1e-4, wanted->width * wanted->height)));
      if (best.empty() || apart < nearest) {
        best = m.id;
        nearest = apart;
      }
    }
    if (!best.empty()) l.modifier = best;
  }
  const Modifier* front = findModifier(l.modifier);
  std::vector<std::string> heads;
  for (auto o = plan.lights.rbegin(); o != plan.lights.rend(); ++o)
    if (const Modifier* m = findModifier(o->modifier); m && m->mount == front->mount) heads.push_back(o->unit);
  heads.push_back(l.unit);
  for (const Unit& u : knownUnits()) heads.push_back(u.id);
  for (const std::string& id : heads)
    if (const Unit* u = findUnit(id);
        u && u->kind == UnitKind::Flash && !u->fixed && oneLeft(unitsOwned(id), plan, &Light::unit, id)) {
      l.unit = id;
      return;
    }
}

// Nothing stands outside the room.
double inRoom(const Plan& plan, double hour, double distance) {
  return std::min(distance, std::max(0.3, plan.room.width / 2 - 0.1) /
                                std::max(0.2, std::abs(std::sin(hour * 0.5235987755982988))));
}

// Two lights want two places: along the clock to the nearest hour where nothing is, then nearer to the sitter. One over
// the other, as key and fill stand for a shell, are two places.
void standApart(const Plan& plan, Light& l) {
  constexpr double kApart = 0.45;  // m, between two fronts: common practice, no source
  const double hour = l.hour, distance = l.distance;
  for (const double nearer : {1.0, 0.75, 0.55})
    for (const double step : {0.0, 0.5, -0.5, 1.0, -1.0, 1.5, -1.5, 2.0, -2.0, 2.5, -2.5, 3.0, -3.0}) {
      l.hour = step == 0 ? hour : std::fmod(hour + step + 12, 12.0);
      l.distance = nearer * inRoom(plan, l.hour, distance);
      const Vec3 here = towardsHour(l.hour) * float(l.distance);
      if (std::none_of(plan.lights.begin(), plan.lights.end(), [&](const Light& o) {
            const Vec3 there = towardsHour(o.hour) * float(o.distance);
            return std::hypot(double(there.x - here.x), double(there.z - here.z), o.height - l.height) < kApart;
          }))
        return;
    }
  l.hour = hour;
  l.distance = distance;
}

}  // namespace

const std::vector<RoleSchool>& roleSchools() { return roleRecipes().schools; }

Proposal proposeLight(const Plan& plan, const std::string& id) {
  const RoleSchool* school = byId(roleSchools(), id);
  if (!school) throw std::invalid_argument(say("There is no way to add a light called \"{}\".", id));
  return proposeLight(plan, *school);
}

Proposal proposeLight(const Plan& plan, const RoleSchool& s) {
  Proposal p;
  Light& l = p.light;
  l.id = l.group = letterFor(plan);
  l.role = s.role;
  l.name = s.name;
  l.modifier = s.modifier;
  if (s.power) l.power = *s.power;

  // Hours are told for a key on the camera's right.
  const Light* key = plan.key();
  const double keyHour = key ? key->hour : 4.5;
  const bool taken = std::any_of(plan.lights.begin(), plan.lights.end(), [&](const Light& o) {
    return o.role == s.role && std::abs(std::remainder(o.hour - s.hour.at, 12.0)) < 2;
  });
  switch (s.hour.side) {
    case HourRecipe::Side::Fixed:
      l.hour = s.hour.at;
      break;
    case HourRecipe::Side::Key:
      l.hour = keyHour < 6 ? s.hour.at : mirrorHour(s.hour.at);
      break;
    case HourRecipe::Side::Free:
      l.hour = taken ? mirrorHour(s.hour.at) : s.hour.at;
      break;
    case HourRecipe::Side::OppositeKey:
      l.hour = mirrorHour(keyHour);
      break;
  }

  const double behind = std::max(0.35, plan.backdrop.distance);
  const double from[] = {0, plan.camera.distance, behind, plan.room.width / 2};
  const DistanceRecipe& d = s.distance;
  l.distance = std::min(std::max(d.times * from[int(d.from)] + d.plus, d.least), d.most);
  const double over[] = {0, plan.sitter.eyeHeight, plan.camera.height};
  const HeightRecipe& h = s.height;
  l.height = std::max(h.least, std::min(over[int(h.from)] + h.plus, plan.room.height - h.underCeiling));

  if (s.inside.empty()) {
    equip(plan, l);
    standApart(plan, l);
  }
  for (const Panel& piece : plan.panels) {
    if (l.worksOn.empty() && piece.kind == s.worksOn) l.worksOn = piece.id;
    if (l.inside.empty() && piece.kind == s.inside) {
      l.inside = piece.id;
      l.hour = piece.hour;
      l.distance = piece.distance;
      l.height = piece.above;
    }
  }

  if (s.aim == LightAim::Backdrop) l.pan = 180;
  if (s.aim == LightAim::AcrossBackdrop) {
    // At the far third of the backdrop, so that two of them overlap and even each other out.
    const Vec3 stands = towardsHour(l.hour) * float(l.distance);
    const Vec3 aim{-0.25f * stands.x, 0, -float(behind)};
    const double wanted = std::atan2(aim.x - stands.x, -(aim.z - stands.z)),
                 now = std::atan2(-stands.x, -(0.12 - stands.z));
    l.pan = std::remainder((wanted - now) * 180 / kPi, 360.0);
  }

  const double reflects = backdropLuminance(plan.backdrop.material);
  const bool pale = paleHead(plan.sitter.id, plan.sitter.hairColour, plan.sitter.hairStyle);
  for (const LevelRecipe& level : s.levels) {
    if ((level.paleHead && !pale) || (level.second && !taken) || !(reflects > level.backdropOver) ||
        !(reflects < level.backdropUnder))
      continue;
    if (level.stops) l.targetStops = *level.stops;
    p.why = level.why;
    break;
  }
  l.distance = inRoom(plan, l.hour, l.distance);
  return p;
}

Proposal byOtherSchool(const Plan& plan, const Light& light) {
  std::vector<const RoleSchool*> own;
  size_t now = 0;
  for (const RoleSchool& s : roleSchools()) {
    if (s.role != light.role) continue;
    if (s.name == light.name) now = own.size();
    own.push_back(&s);
  }
  if (own.size() < 2)
    throw std::invalid_argument(say("There is only one usual placement for light {}: move it by hand.", light.id));
  Plan without = plan;
  std::erase_if(without.lights, [&](const Light& l) { return l.id == light.id; });
  Proposal p = proposeLight(without, own[(now + 1) % own.size()]->id);
  p.light.id = light.id;
  p.light.group = light.group;
  p.light.unit = light.unit;
  p.light.power = light.power;
  p.light.on = light.on;
  p.light.locked = light.locked;
  p.light.extra = light.extra;
  return p;
}

std::string nextInUsualOrder(const Plan& plan) {
  const RoleRecipes& recipes = roleRecipes();
  for (const std::string& id : recipes.usualOrder) {
    const Role role = byId(recipes.schools, id)->role;
    if (std::none_of(plan.lights.begin(), plan.lights.end(), [&](const Light& l) { return l.role == role; })) return id;
  }
  return recipes.afterwards;
}

Plan mirrored(const Plan& plan) {
  Plan out = plan;
  out.sitter.turn = -plan.sitter.turn;
  out.sitter.tilt = -plan.sitter.tilt;
  out.sitter.shoulders = -plan.sitter.shoulders;
  out.sitter.gazeHour = mirrorHour(plan.sitter.gazeHour);
  for (Light& l : out.lights) {
    l.hour = mirrorHour(l.hour);
    l.pan = l.pan == 180 ? 180 : -l.pan;
    std::swap(l.fittings.doors.left, l.fittings.doors.right);
  }
  for (Panel& p : out.panels) {
    p.hour = mirrorHour(p.hour);
    p.turn = p.turn == 180 ? 180 : -p.turn;
  }
  // Pins in the air and, in the head's own space, on it.
  for (PinnedSpot& s : out.spots) {
    s.x = -s.x;
    s.nx = -s.nx;
  }
  return out;
}

Plan keySideSwapped(const Plan& plan) {
  Plan out = mirrored(plan);
  out.sitter = plan.sitter;
  return out;
}

Light copyOf(const Plan& plan, const Light& light) {
  Light l = light;
  l.id = l.group = letterFor(plan);
  l.locked = false;
  l.inside.clear();
  // As long as a name may be, with the word behind it.
  const TextRange& name = textOf("light.name");
  const std::string copy = say(", copy");
  if (!l.name.empty()) l.name = firstCharacters(light.name, name.longest - std::min(name.longest, copy.size())) + copy;
  l.hour += l.hour > 11.5 ? -0.5 : 0.5;  // beside the first, so that it can be seen and taken hold of
  return l;
}

std::vector<Light> withLettersInOrder(const Plan& plan) {
  std::vector<Light> out = plan.lights;
  // A group named after a light keeps its name's light, and all that are in it stay together.
  std::map<std::string, std::string> now;
  for (size_t i = 0; i < out.size(); ++i) now[out[i].id] = std::string(1, char('A' + i));
  for (Light& l : out) {
    if (const auto at = now.find(l.group); at != now.end()) l.group = at->second;
    l.id = now[l.id];
  }
  return out;
}

std::map<std::string, std::string> lettersIn(const Plan& before, const Plan& after) {
  std::map<std::string, std::string> out;
  std::set<std::string> taken;
  const auto pair = [&](const auto& fits) {
    for (const Light& l : before.lights) {
      if (out.count(l.id)) continue;
      const auto now = std::find_if(after.lights.begin(), after.lights.end(),
                                    [&](const Light& n) { return !taken.count(n.id) && fits(l, n); });
      if (now == after.lights.end()) continue;
      out[l.id] = now->id;
      taken.insert(now->id);
    }
  };
  const auto unchanged = [](Light a, const Light& b) {
    a.id = b.id;
    a.group = b.group;
    return a == b;
  };
  pair([&](const Light& l, const Light& n) { return l.id == n.id && unchanged(l, n); });
  pair(unchanged);
  pair([](const Light& l, const Light& n) { return l.id == n.id; });
  // A change and other letters at once: the same head and front.
  pair([](const Light& l, const Light& n) { return l.unit == n.unit && l.modifier == n.modifier && l.role == n.role; });
  return out;
}

std::vector<Light> movedTo(const Plan& plan, const std::string& id, size_t place) {
  std::vector<Light> out = plan.lights;
  const auto at = std::find_if(out.begin(), out.end(), [&](const Light& l) { return l.id == id; });
  if (at == out.end()) return out;
  const Light moved = *at;
  out.erase(at);
  out.insert(out.begin() + long(std::min(place, out.size())), moved);
  return out;
}

}  // namespace easel
