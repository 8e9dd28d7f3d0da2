#include "meter/account.h"

#include <algorithm>

#include "plan/subject.h"
#include "spoken/say.h"
#include "threads/parallel.h"

namespace easel {
namespace {

// Of several lights that ask for the same hold, the first takes it.
size_t indexOf(const HeldMeter& held, std::vector<HoldAccount>& all) {
  const auto same = std::find_if(all.begin(), all.end(), [&](const HoldAccount& h) { return h.held == held; });
  const auto index = size_t(same - all.begin());
  if (same == all.end()) all.push_back({held, {}, {}, {}});
  return index;
}

// At the face by the plan's school: towards the light that is read as its own, or towards the camera. Null: no light.
HeldMeter heldAtFace(Vec3 face, const PlacedSet& set, const PlacedLight* light) {
  HeldMeter m;
  m.hold.receptor = set.receptor;
  m.at = face;
  const bool camera = !light || set.meterAim == MeterAim::Camera;
  if (!camera) m.hold.towards = light->light.id;
  m.looks = normalize((camera ? set.cameraPose.eye : light->pose.centre) - face);
  return m;
}

HeldMeter onCloth(Vec3 at) {
  HeldMeter m;
  m.where = MeteredAt::Backdrop;
  m.at = at;
  m.looks = {0, 0, 1};
  return m;
}

// What a meter held half-way to the lamp reads over what it reads at the face, with nothing in between.
double halfWay(const Emitter& lamp, Vec3 face) {
  const Vec3 to = lamp.pose().centre - face, towards = normalize(to);
  const double near = directLux(nullptr, lamp, face + to * 0.5f, towards, Receptor::Flat, 64),
               there = directLux(nullptr, lamp, face, towards, Receptor::Flat, 64);
  return there > 0 ? near / there : 0;
}

// Whatever no hold changes.
void findOwn(LightAccount& a, const Scene& scene, const PlacedSet& set, const PlacedLight& l, Vec3 face) {
  a.source = sourceOf(scene, set, l);
  a.lamp = l.lamp->factors(l.light.power, set.camera);
  a.full = l.lamp->gives(0, set.camera);
  a.halfWay = halfWay(a.source->emitter(), face);
}

}  // namespace

std::string describe(const Hold& hold) {
  const std::string receptor = hold.receptor == Receptor::Flat ? say("flat") : say("dome");
  if (!hold.on.empty()) return say("{}, {}", receptor, hold.on);
  return hold.towards.empty() ? say("{}, towards the camera", receptor) : say("{}, towards {}", receptor, hold.towards);
}

std::string idOf(const HeldMeter& held) {
  switch (held.where) {
    case MeteredAt::Face:
      return "face";
    case MeteredAt::Hair:
      return "hair";
    case MeteredAt::Edge:
      return "edge";
    case MeteredAt::Backdrop:
      return "backdrop";
    case MeteredAt::Piece:
      break;
  }
  return panelSubject(held.piece);
}

std::string placeOf(const HeldMeter& held) {
  switch (held.where) {
    case MeteredAt::Face:
      return say("at the face");
    case MeteredAt::Hair:
      return say("over the crown");
    case MeteredAt::Edge:
      return say("beside the head");
    case MeteredAt::Backdrop:
      return say("on the backdrop");
    case MeteredAt::Piece:
      break;
  }
  return held.hold.on;
}

HeldMeter worksIn(const Scene& scene, const PlacedSet& set, const PlacedLight& light) {
  HeldMeter w;
  const Vec3 lamp = light.pose.centre;
  if (const Panel* on = set.workedOn(light)) {
    const PieceSpot s = spotOf(*on);
    w.where = MeteredAt::Piece;
    w.piece = on->id;
    w.hold.on = atSpotOf(*on);
    w.at = s.at;
    w.looks = s.looks;
    return w;
  }
  switch (light.light.role) {
    case Role::Background:
      return onCloth(onTheBackdrop(set));
    case Role::Hair:
      w.at = scene.studioPoint(scene.sitter().landmarks.crown) + Vec3{0, 0.04f, 0};
      w.where = MeteredAt::Hair;
      break;
    case Role::Rim:
    case Role::Kicker: {
      const Vec3 head = scene.studioPoint({0, 0.02f, 0.02f});
      Vec3 out = lamp - head;
      out.y = 0;
      w.at = head + normalize(out) * 0.16f;
      w.where = MeteredAt::Edge;
      break;
    }
    default:
      return heldAtFace(beforeTheNose(scene).at, set, &light);
  }
  w.hold.towards = light.light.id;
  w.looks = normalize(lamp - w.at);
  return w;
}

HeldMeter heldAsCameraIsSet(const Scene& scene, const PlacedSet& set) {
  if (set.meterAim == MeterAim::Light)
    if (const PlacedLight* key = set.key()) return worksIn(scene, set, *key);
  return heldAtFace(beforeTheNose(scene).at, set, nullptr);
}

Account accountOf(const Scene& scene, const PlacedSet& set) {
  Account a;
  a.face = beforeTheNose(scene);
  const size_t n = set.lights.size();
  a.lights.resize(n);

  a.cameraIsSet = indexOf(heldAsCameraIsSet(scene, set), a.holds);
  const std::array<Vec3, 2> beside = besideTheHead(set);
  for (size_t side = 0; side < 2; ++side) a.backdrop[side] = indexOf(onCloth(beside[side]), a.holds);
  for (size_t i = 0; i < n; ++i) {
    if (!set.lights[i].lamp) continue;
    a.lights[i].face = indexOf(heldAtFace(a.face.at, set, &set.lights[i]), a.holds);
    a.lights[i].works = indexOf(worksIn(scene, set, set.lights[i]), a.holds);
  }

  inParallel(a.holds.size() + n, [&](size_t task) {
    if (task < a.holds.size()) {
      HoldAccount& h = a.holds[task];
      const Receptor receptor = h.held.hold.receptor;
      h.points = bouncePoints(scene, h.held.at, h.held.looks, receptor, HeldMeter::kBounced);
      h.perLumen.resize(n);
      h.ambient = {0, evenly(receptor, set.ambientExposure())};
    } else if (const size_t i = task - a.holds.size(); set.lights[i].lamp) {
      findOwn(a.lights[i], scene, set, set.lights[i], a.face.at);
    }
  });

  // Every light where any of them works; at the face each in its own hold.
  inParallel(n, [&](size_t k) {
    if (!a.lights[k].source) return;
    std::vector<size_t> wanted{a.cameraIsSet, a.backdrop[0], a.backdrop[1], a.lights[k].face};
    for (const LightAccount& other : a.lights)
      if (other.source) wanted.push_back(other.works);
    std::sort(wanted.begin(), wanted.end());
    wanted.erase(std::unique(wanted.begin(), wanted.end()), wanted.end());
    for (const size_t h : wanted)
      a.holds[h].perLumen[k] = meteredPaths(scene, *a.lights[k].source, a.holds[h].points, HeldMeter::kDirect);
  });
  return a;
}

}  // namespace easel
