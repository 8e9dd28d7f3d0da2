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
#include "plan/placement.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr int kDirect = 256, kBounce = 192;

double luxAt(const Scene& scene, const Source& s, Vec3 p, Vec3 n, Receptor r) {
  return meteredLux(scene, s, p, n, r, kDirect, kBounce);
}

double stopsOf(double ratio) { return ratio > 0 ? std::max(kNoLight, stopsFromRatio(ratio)) : kNoLight; }

// Luminous exposure at a receptor from one light at its present power.
Reading readingOf(const Light& light, const Camera& camera, double luxPerLumen) {
  Reading r;
  const Unit* unit = findUnit(light.unit);
  if (!unit) return r;
  const double h = lampEnergy(light, camera.shutter) * luxPerLumen;
  (unit->kind == UnitKind::Flash ? r.flash : r.steady) = h;
  return r;
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

Answers computeAnswers(const Scene& scene, const Plan& plan) {
  Answers a;
  const Camera& cam = plan.camera;
  const double c = calibrationConstant(plan.receptor);
  const double wanted = exposureForAperture(cam.aperture, cam.iso, c);
  const Landmarks& marks = scene.sitter().landmarks;
  const auto [meterSpot, faceOut] = beforeTheNose(scene);
  a.meterSpot = meterSpot;
  const Vec3 toCamera = normalize(cameraPose(plan).eye - a.meterSpot);
  const Vec3 backdropSpot = onTheBackdrop(plan);

  a.ambient.steady = plan.ambient.lux * cam.shutter;
  a.ambientStops = stopsOf(a.ambient.total() / wanted);
  a.backdrop = a.face = a.ambient;
  auto add = [](Reading& to, const Reading& from) {
    to.flash += from.flash;
    to.steady += from.steady;
  };

  // Per lumen of each light: at the face, on the backdrop, and at the spots of hair and edge lights.
  struct Place {
    std::optional<Source> source;
    bool own = false;  // metered at a spot of its own
    Vec3 spot, towards;
    double atFace = 0, onBackdrop = 0;
  };
  std::vector<Place> places(plan.lights.size());
  for (size_t i = 0; i < places.size(); ++i) {
    const Light& l = plan.lights[i];
    Place& p = places[i];
    if (!findUnit(l.unit) || !findModifier(l.modifier)) continue;
    p.source = sourceOf(scene, plan, l);
    const Vec3 centre = p.source->emitter().pose().centre;
    const Vec3 aim = plan.meterAim == MeterAim::Light ? normalize(centre - a.meterSpot) : toCamera;
    p.atFace = luxAt(scene, *p.source, a.meterSpot, aim, plan.receptor);
    p.onBackdrop = luxAt(scene, *p.source, backdropSpot, {0, 0, 1}, Receptor::Flat);
    p.own = l.role == Role::Hair || l.role == Role::Rim || l.role == Role::Kicker;
    if (!p.own) continue;
    const Vec3 head = scene.studioPoint({0, 0.02f, 0.02f});
    Vec3 out = centre - head;
    out.y = 0;
    p.spot = l.role == Role::Hair ? scene.studioPoint(marks.crown) + Vec3{0, 0.04f, 0} : head + normalize(out) * 0.16f;
    p.towards = normalize(centre - p.spot);
  }

  for (size_t i = 0; i < places.size(); ++i) {
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
    r.spot = p.own ? (l.role == Role::Hair ? "hair" : "edge") : l.role == Role::Background ? "backdrop" : "face";
    // What a light that is metered elsewhere brings to this light's spot: the same receptor, the same aim.
    auto here = [&](const Place& other) {
      if (!other.source) return 0.0;
      if (p.own) return luxAt(scene, *other.source, p.spot, p.towards, Receptor::Flat);
      return l.role == Role::Background ? other.onBackdrop : other.atFace;
    };
    const double perLumen = here(p);
    r.alone = readingOf(l, cam, perLumen);
    r.atFace = readingOf(l, cam, p.atFace);
    r.together.steady = a.ambient.steady;
    for (size_t k = 0; k < places.size(); ++k) {
      const Reading theirs = k == i ? r.alone : readingOf(plan.lights[k], cam, here(places[k]));
      if (plan.lights[k].on) add(r.together, theirs);
      if (k != i)
        r.others.emplace_back(plan.lights[k].id,
                              r.alone.total() > 0 ? stopsOf(theirs.total() / r.alone.total()) : kNoLight);
    }
    r.togetherStops = stopsOf(r.together.total() / wanted);
    const double full = lampEnergy(l, 0, cam.shutter) * perLumen;
    r.aperture = apertureForExposure(r.alone.total(), cam.iso, c);
    r.stopsFromWorking = stopsOf(r.alone.total() / wanted);
    r.apertureFull = apertureForExposure(full, cam.iso, c);
    r.apertureLowest = apertureForExposure(full * ratioFromStops(unit->scale.lowestStops), cam.iso, c);
    r.wantedPower = full > 0 ? stopsFromRatio(wanted / full) + l.targetStops : 99.0;
    r.setting = unit->scale.settingFor(r.wantedPower);
    r.distance = distanceToFace(plan, l);
    r.elevation = elevationFromFace(plan, l);
    r.apparentSize = 2 * degrees(std::atan(e.extent() / 2 / std::max(0.01f, float(r.distance))));
    const Vec3 to = e.pose().centre - a.meterSpot;
    const double near = directLux(nullptr, e, a.meterSpot + to * 0.5f, normalize(to), Receptor::Flat, 64),
                 there = directLux(nullptr, e, a.meterSpot, normalize(to), Receptor::Flat, 64);
    r.halfWayStops = there > 0 && near > 0 ? stopsOf(near / there) : 0;

    r.backdropStops = p.atFace > 0 ? stopsOf(p.onBackdrop / p.atFace) : 0;
    if (l.on) {
      add(a.backdrop, readingOf(l, cam, p.onBackdrop));
      // Everything on is read the way the camera is set: the dome at the camera, or flat towards the key.
      add(a.face, r.atFace);
    }
    a.lights.push_back(std::move(r));
  }
  a.aperture = apertureForExposure(a.face.total(), cam.iso, c);
  a.backdropStops = a.face.total() > 0 ? stopsOf(a.backdrop.total() / a.face.total()) : kNoLight;
  a.backdropValue = backdropLuminance(plan.backdrop.material) / kPi * a.backdrop.total() *
                    cameraGain(cam.iso, cam.shootingAperture());
  return a;
}

PowerScale::Setting powerForAperture(const Answers& answers, const Light& light, double fNumber, double* wanted) {
  const LightAnswer* r = answers.light(light.id);
  const Unit* unit = findUnit(light.unit);
  // What gives no light at its spot is left as it is: no power would bring it there.
  if (!r || !unit || r->apertureFull <= 0) return {light.power, 0};
  const double stops = avFromFNumber(fNumber) - avFromFNumber(r->apertureFull);
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
