#include "meter/account.h"

#include <algorithm>

#include "spoken/say.h"
#include "threads/parallel.h"

namespace easel {
namespace {

// Of several lights that ask for the same hold, the first takes it.
class Holds {
 public:
  explicit Holds(std::vector<HoldAccount>& all) : all_(all) {}
  size_t take(const HeldMeter& held) {
    for (size_t i = 0; i < all_.size(); ++i)
      if (same(all_[i].held, held)) return i;
    all_.push_back({held, {}, {}, {}});
    return all_.size() - 1;
  }

 private:
  static bool same(const HeldMeter& a, const HeldMeter& b) {
    return a.at == b.at && a.looks == b.looks && a.spot == b.spot && a.hold == b.hold;
  }
  std::vector<HoldAccount>& all_;
};

// For a light that is read at the face as its own: towards it, or as the plan's school holds.
HeldMeter heldAtFace(const MeterPlace& face, const PlacedSet& set, const PlacedLight& light) {
  HeldMeter m;
  m.hold.receptor = set.receptor;
  m.at = face.at;
  const bool camera = set.meterAim == MeterAim::Camera;
  if (!camera) m.hold.towards = light.light.id;
  m.looks = normalize((camera ? set.cameraPose.eye : light.pose.centre) - face.at);
  return m;
}

HeldMeter onCloth(Vec3 at) {
  HeldMeter m;
  m.spot = "backdrop";
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

LightAccount factorsOf(const Scene& scene, const PlacedSet& set, const PlacedLight& l, Vec3 face) {
  LightAccount a;
  a.source = sourceOf(scene, set, l);
  a.lamp = l.lamp->factors(l.light.power, set.camera);
  a.full = l.lamp->gives(0, set.camera);
  a.halfWay = halfWay(a.source->emitter(), face);
  return a;
}

}  // namespace

std::string describe(const Hold& hold) {
  const std::string receptor = hold.receptor == Receptor::Flat ? say("flat") : say("dome");
  if (!hold.on.empty()) return say("{}, {}", receptor, hold.on);
  return hold.towards.empty() ? say("{}, towards the camera", receptor) : say("{}, towards {}", receptor, hold.towards);
}

HeldMeter worksIn(const Scene& scene, const PlacedSet& set, const PlacedLight& light) {
  HeldMeter w;
  const Vec3 lamp = light.pose.centre;
  if (const Panel* on = set.workedOn(light)) {
    const PieceSpot s = spotOf(*on);
    w.spot = "panel " + on->id;
    w.hold.on = atSpotOf(*on);
    w.at = s.at;
    w.looks = s.looks;
    return w;
  }
  w.at = beforeTheNose(scene).at;
  switch (light.light.role) {
    case Role::Background:
      w.at = onTheBackdrop(set);
      w.looks = {0, 0, 1};
      w.spot = "backdrop";
      return w;
    case Role::Hair:
      w.at = scene.studioPoint(scene.sitter().landmarks.crown) + Vec3{0, 0.04f, 0};
      w.spot = "hair";
      break;
    case Role::Rim:
    case Role::Kicker: {
      const Vec3 head = scene.studioPoint({0, 0.02f, 0.02f});
      Vec3 out = lamp - head;
      out.y = 0;
      w.at = head + normalize(out) * 0.16f;
      w.spot = "edge";
      break;
    }
    default:
      w.hold.receptor = set.receptor;
      if (set.meterAim == MeterAim::Camera) {
        w.looks = normalize(set.cameraPose.eye - w.at);
        return w;
      }
  }
  w.hold.towards = light.light.id;
  w.looks = normalize(lamp - w.at);
  return w;
}

HeldMeter heldAsCameraIsSet(const Scene& scene, const PlacedSet& set) {
  if (set.meterAim == MeterAim::Light)
    if (const PlacedLight* key = set.key()) return worksIn(scene, set, *key);
  // Without a key, the camera.
  HeldMeter m;
  m.hold.receptor = set.receptor;
  m.at = beforeTheNose(scene).at;
  m.looks = normalize(set.cameraPose.eye - m.at);
  return m;
}

Account accountOf(const Scene& scene, const PlacedSet& set) {
  Account a;
  a.face = beforeTheNose(scene);
  const size_t n = set.lights.size();
  a.lights.resize(n);

  Holds holds(a.holds);
  a.cameraIsSet = holds.take(heldAsCameraIsSet(scene, set));
  const std::array<Vec3, 2> beside = besideTheHead(set);
  for (size_t side = 0; side < 2; ++side) a.backdrop[side] = holds.take(onCloth(beside[side]));
  for (size_t i = 0; i < n; ++i) {
    if (!set.lights[i].lamp) continue;
    a.lights[i].face = holds.take(heldAtFace(a.face, set, set.lights[i]));
    a.lights[i].works = holds.take(worksIn(scene, set, set.lights[i]));
  }

  inParallel(a.holds.size() + n, [&](size_t task) {
    if (task < a.holds.size()) {
      HoldAccount& h = a.holds[task];
      const Receptor receptor = h.held.hold.receptor;
      h.points = bouncePoints(scene, h.held.at, h.held.looks, receptor, HeldMeter::kBounced);
      h.perLumen.resize(n);
      h.ambient = {0, evenly(receptor, set.ambientExposure())};
    } else if (const size_t i = task - a.holds.size(); set.lights[i].lamp) {
      const LightAccount known = a.lights[i];
      a.lights[i] = factorsOf(scene, set, set.lights[i], a.face.at);
      a.lights[i].face = known.face;
      a.lights[i].works = known.works;
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
