#include "meter/answers.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "exposure/aperture.h"
#include "exposure/meter.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "gear/inventory.h"
#include "gear/kit.h"
#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "plan/leaves.h"
#include "plan/lens.h"
#include "plan/placement.h"
#include "spoken/say.h"
#include "threads/parallel.h"
#include "transport/figure.h"

namespace easel {
namespace {

constexpr int kDirect = HeldMeter::kDirect, kBounce = HeldMeter::kBounced;

double stopsOf(double ratio) { return ratio > 0 ? std::max(kNoLight, stopsFromRatio(ratio)) : kNoLight; }

// Luminous exposure at a receptor from one light at its present power.
Reading readingOf(const Light& light, const Camera& camera, double luxPerLumen) {
  const LampEnergy e = lampGives(light, light.power, camera);
  return {e.flash * luxPerLumen, e.steady * luxPerLumen};
}

}  // namespace

const LightAnswer* Answers::light(const std::string& id) const {
  for (const LightAnswer& l : lights)
    if (l.id == id) return &l;
  return nullptr;
}

const LightAnswer* keyAnswer(const Plan& plan, const Answers& answers) {
  for (const Light& l : plan.lights)
    if (l.role == Role::Key && l.on)
      if (const LightAnswer* r = answers.light(l.id); r && r->alone.total() > 0) return r;
  return nullptr;
}

std::string describe(const Hold& hold) {
  const std::string receptor = hold.receptor == Receptor::Flat ? say("flat") : say("dome");
  if (!hold.on.empty()) return say("{}, {}", receptor, hold.on);
  return hold.towards.empty() ? say("{}, towards the camera", receptor) : say("{}, towards {}", receptor, hold.towards);
}

HeldMeter worksIn(const Scene& scene, const Plan& plan, const Light& light) {
  HeldMeter w;
  const Vec3 lamp = lightPose(plan, light).centre;
  if (const Panel* on = workedOn(plan, light)) {
    const PieceSpot s = spotOf(*on);
    w.spot = "panel " + on->id;
    w.hold.on = atSpotOf(*on);
    w.at = s.at;
    w.looks = s.looks;
    return w;
  }
  w.at = beforeTheNose(scene).at;
  switch (light.role) {
    case Role::Background:
      w.at = onTheBackdrop(plan);
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
      w.hold.receptor = plan.receptor;
      if (plan.meterAim == MeterAim::Camera) {
        w.looks = normalize(cameraPose(plan).eye - w.at);
        return w;
      }
  }
  w.hold.towards = light.id;
  w.looks = normalize(lamp - w.at);
  return w;
}

HeldMeter heldAsCameraIsSet(const Scene& scene, const Plan& plan) {
  if (plan.meterAim == MeterAim::Light)
    for (const Light& l : plan.lights)
      if (l.role == Role::Key && l.on && findUnit(l.unit) && findModifier(l.modifier)) return worksIn(scene, plan, l);
  // Without a key, the camera.
  HeldMeter m;
  m.hold.receptor = plan.receptor;
  m.at = beforeTheNose(scene).at;
  m.looks = normalize(cameraPose(plan).eye - m.at);
  return m;
}

double stopsUnder(const Answers& answers, const std::string& key, const std::string& light) {
  const LightAnswer *k = answers.light(key), *l = answers.light(light);
  return k && l && k->alone.total() > 0 && l->alone.total() > 0 ? k->stopsFromWorking - l->stopsFromWorking : 0;
}

// Stops below full at which a light that gives `full` by its power and `beside` apart from it gives `wanted` in all: a
// modelling lamp does not go with the flash.
static double powerGiving(double wanted, double full, double beside) {
  return stopsFromRatio(std::max(1e-6 * wanted, wanted - beside) / full);
}

Answers computeAnswers(const Scene& scene, const Plan& plan) {
  Answers a;
  const Camera& cam = plan.camera;
  const auto [meterSpot, faceOut] = beforeTheNose(scene);
  a.meterSpot = meterSpot;
  a.gazeReached = gazeOf(plan, scene.sitter()).reached;
  const Vec3 toCamera = normalize(cameraPose(plan).eye - a.meterSpot);
  const double flatC = calibrationConstant(Receptor::Flat), faceC = calibrationConstant(plan.receptor);
  auto add = [](Reading& to, const Reading& from) {
    to.flash += from.flash;
    to.steady += from.steady;
  };

  const auto hold = [&](Vec3 at, Vec3 towards, Receptor receptor) {
    return bouncePoints(scene, at, towards, receptor, kBounce);
  };
  const auto luxIn = [&](const Source& s, const BouncePoints& h) { return meteredLux(scene, s, h, kDirect); };

  // What each light is read by: at the face, and where it works. Holds that several lights share are one.
  struct Place {
    std::optional<Source> source;
    HeldMeter own;
    std::optional<BouncePoints> ownAtFace, ownSpot;
    const BouncePoints *atFace = nullptr, *works = nullptr;
  };
  const size_t n = plan.lights.size();
  std::vector<Place> places(n);
  const BouncePoints onBackdrop = hold(onTheBackdrop(plan), {0, 0, 1}, Receptor::Flat);
  std::array<BouncePoints, 2> seenBackdrop;
  for (size_t side = 0; side < 2; ++side)
    seenBackdrop[side] = hold(besideTheHead(plan)[side], {0, 0, 1}, Receptor::Flat);
  std::optional<BouncePoints> atCamera;
  if (plan.meterAim == MeterAim::Camera) atCamera = hold(a.meterSpot, toCamera, plan.receptor);
  inParallel(n, [&](size_t i) {
    const Light& l = plan.lights[i];
    Place& p = places[i];
    if (!findUnit(l.unit) || !findModifier(l.modifier)) return;
    p.source = sourceOf(scene, plan, l);
    p.own = worksIn(scene, plan, l);
    const Vec3 centre = p.source->emitter().pose().centre;
    p.atFace =
        atCamera ? &*atCamera : &p.ownAtFace.emplace(hold(a.meterSpot, normalize(centre - a.meterSpot), plan.receptor));
    p.works = p.own.spot == "face"       ? p.atFace
              : p.own.spot == "backdrop" ? &onBackdrop
                                         : &p.ownSpot.emplace(hold(p.own.at, p.own.looks, p.own.hold.receptor));
  });

  const HeldMeter held = heldAsCameraIsSet(scene, plan);
  a.hold = held.hold;
  const BouncePoints* everything = nullptr;
  for (size_t i = 0; i < n && !atCamera; ++i)
    if (!held.hold.towards.empty() && plan.lights[i].id == held.hold.towards) everything = places[i].atFace;
  if (!everything) {
    if (!atCamera) atCamera = hold(held.at, held.looks, held.hold.receptor);
    everything = &*atCamera;
  }

  // Per lumen: every light in every hold.
  std::vector<std::vector<double>> inWork(n, std::vector<double>(n));
  std::vector<double> atFace(n), behind(n), together(n);
  inParallel(n, [&](size_t k) {
    if (!places[k].source) return;
    const Source& s = *places[k].source;
    atFace[k] = luxIn(s, *places[k].atFace);
    behind[k] = (luxIn(s, seenBackdrop[0]) + luxIn(s, seenBackdrop[1])) / 2;
    const auto known = [&](const BouncePoints* h) { return h == places[k].atFace ? atFace[k] : luxIn(s, *h); };
    together[k] = known(everything);
    for (size_t i = 0; i < n; ++i)
      if (places[i].source) inWork[i][k] = known(places[i].works);
  });

  const auto ambientIn = [&](Receptor r) { return Reading{0, evenly(r, plan.ambient.lux * cam.shutter)}; };
  // Everything on is read as the camera is set: at a piece of the set flat, whatever is held at the face.
  const Receptor heldWith = everything->receptor;
  const double heldC = calibrationConstant(heldWith);
  a.ambient = ambientIn(plan.receptor);
  a.face = ambientIn(heldWith);
  a.ambientStops = stopsOf(a.ambient.total() / exposureForAperture(cam.aperture, cam.iso, faceC));
  a.backdrop = ambientIn(Receptor::Flat);
  for (size_t i = 0; i < n; ++i) {
    const Light& l = plan.lights[i];
    const Place& p = places[i];
    LightAnswer r;
    r.id = l.id;
    const Unit* unit = findUnit(l.unit);
    if (!p.source) {
      a.lights.push_back(r);
      continue;
    }
    const Emitter& e = p.source->emitter();
    r.spot = p.own.spot;
    r.hold = p.own.hold;
    const double c = calibrationConstant(p.works->receptor), wanted = exposureForAperture(cam.aperture, cam.iso, c);
    const double perLumen = inWork[i][i];
    r.alone = readingOf(l, cam, perLumen);
    r.atFace = readingOf(l, cam, atFace[i]);
    r.inFace = readingOf(l, cam, together[i]);
    r.onBackdrop = readingOf(l, cam, behind[i]);
    r.together = ambientIn(p.works->receptor);
    for (size_t k = 0; k < n; ++k) {
      const Reading theirs = readingOf(plan.lights[k], cam, inWork[i][k]);
      if (plan.lights[k].on) add(r.together, theirs);
      if (k != i)
        r.others.emplace_back(plan.lights[k].id,
                              r.alone.total() > 0 ? stopsOf(theirs.total() / r.alone.total()) : kNoLight);
    }
    r.togetherStops = stopsOf(r.together.total() / wanted);
    // What burns beside the flash does not go with its power.
    const Reading atFull{lampGives(l, 0, cam).flash * perLumen, lampGives(l, 0, cam).steady * perLumen};
    const bool flash = unit->kind == UnitKind::Flash;
    const double full = flash ? atFull.flash : atFull.steady, beside = flash ? atFull.steady : 0;
    r.aperture = apertureForExposure(r.alone.total(), cam.iso, c);
    r.within = correctionOf(l.unit, l.modifier).within;
    r.stopsFromWorking = stopsOf(r.alone.total() / wanted);
    r.apertureFull = apertureForExposure(full + beside, cam.iso, c);
    r.apertureLowest = apertureForExposure(full * ratioFromStops(unit->scale.lowestStops) + beside, cam.iso, c);
    r.wantedPower = full > 0 ? powerGiving(wanted * std::exp2(l.targetStops), full, beside) : 99.0;
    r.setting = unit->scale.settingFor(r.wantedPower);
    r.distance = distanceToFace(plan, l);
    r.elevation = elevationFromFace(plan, l);
    r.apparentSize = 2 * degrees(std::atan(e.extent() / 2 / std::max(0.01f, float(r.distance))));
    const Vec3 to = e.pose().centre - a.meterSpot;
    const double near = directLux(nullptr, e, a.meterSpot + to * 0.5f, normalize(to), Receptor::Flat, 64),
                 there = directLux(nullptr, e, a.meterSpot, normalize(to), Receptor::Flat, 64);
    r.halfWayStops = there > 0 && near > 0 ? stopsOf(near / there) : 0;

    r.backdropStops = atFace[i] > 0 ? stopsOf(behind[i] / flatC / (atFace[i] / faceC)) : 0;
    if (l.on) {
      add(a.backdrop, r.onBackdrop);
      add(a.face, r.inFace);
    }
    a.lights.push_back(std::move(r));
  }
  a.aperture = apertureForExposure(a.face.total(), cam.iso, heldC);
  a.backdropStops = a.face.total() > 0 ? stopsOf(a.backdrop.total() / flatC / (a.face.total() / heldC)) : kNoLight;
  a.backdropValue = backdropLuminance(plan.backdrop.material) / kPi * a.backdrop.total() * gainOf(cam);
  return a;
}

PowerScale::Setting powerForAperture(const Answers& answers, const Light& light, double fNumber, double* wanted) {
  const LightAnswer* r = answers.light(light.id);
  const Unit* unit = findUnit(light.unit);
  // What gives no light at its spot is left as it is: no power would bring it there.
  if (!r || !unit || r->apertureFull <= 0) return {light.power, 0};
  // Of the readings at full and lowest power, in units of the squared f-number: what goes with the power, and what not.
  const double most = r->apertureFull * r->apertureFull, least = r->apertureLowest * r->apertureLowest,
               share = ratioFromStops(unit->scale.lowestStops);
  const double full = share < 1 ? std::max(0.0, most - least) / (1 - share) : most;
  if (full <= 0) return {light.power, 0};
  const double stops = powerGiving(fNumber * fNumber, full, std::max(0.0, most - full));
  if (wanted) *wanted = stops;
  return unit->scale.settingFor(stops);
}

SpotReading readSpot(const Scene& scene, const Plan& plan, Vec3 point, Vec3 normal, Surface surface) {
  SpotReading out;
  out.surface = surface;
  out.position = point;
  out.normal = normal;
  const double c = calibrationConstant(Receptor::Flat);
  std::vector<double> h;
  double total = plan.ambient.lux * plan.camera.shutter;
  const double ambient = total;
  for (const Light& l : plan.lights) {
    double v = 0;
    if (l.on && findUnit(l.unit) && findModifier(l.modifier)) {
      v = readingOf(l, plan.camera, meteredLux(scene, sourceOf(scene, plan, l), point, normal, Receptor::Flat, 64, 48))
              .total();
    }
    h.push_back(v);
    total += v;
  }
  out.aperture = apertureForExposure(total, plan.camera.iso, c);
  out.stops = stopsOf(total / exposureForAperture(plan.camera.aperture, plan.camera.iso, c));
  for (size_t i = 0; i < h.size(); ++i)
    if (plan.lights[i].on)
      out.shares.push_back(
          {plan.lights[i].id, total > 0 ? h[i] / total : 0, apertureForExposure(h[i], plan.camera.iso, c)});
  out.shares.push_back({"ambient", total > 0 ? ambient / total : 0, apertureForExposure(ambient, plan.camera.iso, c)});
  return out;
}

}  // namespace easel
