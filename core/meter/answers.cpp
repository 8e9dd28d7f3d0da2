#include "meter/answers.h"

#include <algorithm>
#include <cmath>

#include "exposure/meter.h"
#include "exposure/stops.h"
#include "gear/kit.h"
#include "meter/quality.h"
#include "plan/lens.h"
#include "transport/figure.h"

namespace easel {
namespace {

double stopsOf(double ratio) { return ratio > 0 ? std::max(kNoLight, stopsFromRatio(ratio)) : kNoLight; }

LuminousExposure operator+(const LuminousExposure& a, const LuminousExposure& b) {
  return {a.flash + b.flash, a.steady + b.steady};
}

// Stops below full at which a light that gives `full` by its power and `beside` apart from it gives `wanted` in all: a
// modelling lamp does not go with the flash.
double powerGiving(double wanted, double full, double beside) {
  return stopsFromRatio(std::max(1e-6 * wanted, wanted - beside) / full);
}

}  // namespace

const LightAnswer* Answers::light(const std::string& id) const {
  for (const LightAnswer& l : lights)
    if (l.id == id) return &l;
  return nullptr;
}

const LightAnswer* keyAnswer(const std::vector<Light>& lights, const Answers& answers) {
  for (const Light& l : lights)
    if (l.role == Role::Key && l.on)
      if (const LightAnswer* r = answers.light(l.id); r && r->alone.total() > 0) return r;
  return nullptr;
}

double stopsUnder(const Answers& answers, const std::string& key, const std::string& light) {
  const LightAnswer *k = answers.light(key), *l = answers.light(light);
  return k && l && k->alone.total() > 0 && l->alone.total() > 0 ? k->stopsFromWorking - l->stopsFromWorking : 0;
}

namespace {

// Against the other lights where it works, everything on there.
void readTogether(LightAnswer& r, const Account& a, const PlacedSet& set, size_t light) {
  const size_t works = a.lights[light].works;
  r.together = a.holds[works].ambient;
  for (size_t k = 0; k < set.lights.size(); ++k) {
    const LuminousExposure theirs = a.lights[k].source ? a.reading(works, k) : LuminousExposure{};
    if (set.lights[k].light.on) r.together = r.together + theirs;
    if (k != light)
      r.others.emplace_back(set.lights[k].light.id,
                            r.alone.total() > 0 ? stopsOf(theirs.total() / r.alone.total()) : kNoLight);
  }
}

// What the unit reaches from where it stands, and the power that brings it to its target.
void findSetting(LightAnswer& r, const Account& a, const PlacedSet& set, size_t light, double wanted) {
  const LightAccount& own = a.lights[light];
  const Lamp& lamp = *set.lights[light].lamp;
  const HoldAccount& hold = a.holds[own.works];
  const double perLumen = hold.perLumen[light].total(), iso = set.camera.iso, c = hold.constant();
  // What burns beside the flash does not go with its power.
  const bool flash = lamp.unit.kind == UnitKind::Flash;
  const double full = (flash ? own.full.flash : own.full.steady) * perLumen,
               beside = flash ? own.full.steady * perLumen : 0;
  r.scale = lamp.unit.scale;
  r.apertureFull = apertureForExposure(full + beside, iso, c);
  r.apertureLowest = apertureForExposure(full * ratioFromStops(r.scale.lowestStops) + beside, iso, c);
  r.wantedPower = full > 0 ? powerGiving(wanted * std::exp2(set.lights[light].light.targetStops), full, beside) : 99.0;
  r.setting = r.scale.settingFor(r.wantedPower);
}

LightAnswer answerOf(const Account& a, const PlacedSet& set, size_t light) {
  LightAnswer r;
  const PlacedLight& l = set.lights[light];
  r.id = l.light.id;
  const LightAccount& own = a.lights[light];
  if (!own.source) return r;
  const HoldAccount& works = a.holds[own.works];
  r.held = works.held;
  const double c = works.constant(), wanted = exposureForAperture(set.camera.aperture, set.camera.iso, c);
  r.alone = a.reading(own.works, light);
  r.atFace = a.reading(own.face, light);
  r.inFace = a.reading(a.cameraIsSet, light);
  const LampEnergy energy = own.lamp.energy();
  const double behind = a.onBackdrop(light), face = a.holds[own.face].perLumen[light].total();
  r.onBackdrop = {energy.flash * behind, energy.steady * behind};
  readTogether(r, a, set, light);
  r.togetherStops = stopsOf(r.together.total() / wanted);
  r.aperture = apertureForExposure(r.alone.total(), set.camera.iso, c);
  r.within = l.lamp->correction.within;
  r.stopsFromWorking = stopsOf(r.alone.total() / wanted);
  findSetting(r, a, set, light, wanted);
  r.distance = l.distance;
  r.elevation = l.elevation;
  r.apparentSize = seenAngle(double(own.source->emitter().extent()), l.distance);
  r.halfWayStops = own.halfWay > 0 ? stopsOf(own.halfWay) : 0;
  r.backdropStops =
      face > 0 ? stopsOf(behind / calibrationConstant(Receptor::Flat) / (face / calibrationConstant(set.receptor))) : 0;
  return r;
}

}  // namespace

Answers answersFrom(const Account& account, const Scene& scene, const PlacedSet& set) {
  Answers a;
  const Camera& cam = set.camera;
  const double flatC = calibrationConstant(Receptor::Flat), faceC = calibrationConstant(set.receptor);
  a.meterSpot = account.face.at;
  a.gazeReached = gazeOf(set, scene.sitter()).reached;
  // Everything on is read as the camera is set: at a piece of the set flat, whatever is held at the face.
  const HoldAccount& everything = account.holds[account.cameraIsSet];
  a.hold = everything.held.hold;
  a.ambient = {0, evenly(set.receptor, set.ambientExposure())};
  a.ambientStops = stopsOf(a.ambient.total() / exposureForAperture(cam.aperture, cam.iso, faceC));
  a.face = everything.ambient;
  a.backdrop = account.holds[account.backdrop[0]].ambient;
  for (size_t i = 0; i < set.lights.size(); ++i) {
    a.lights.push_back(answerOf(account, set, i));
    if (!set.lights[i].burns()) continue;
    a.backdrop = a.backdrop + a.lights.back().onBackdrop;
    a.face = a.face + a.lights.back().inFace;
  }
  a.aperture = apertureForExposure(a.face.total(), cam.iso, everything.constant());
  a.backdropStops =
      a.face.total() > 0 ? stopsOf(a.backdrop.total() / flatC / (a.face.total() / everything.constant())) : kNoLight;
  a.backdropValue = backdropLuminance(set.backdrop.material) / kPi * a.backdrop.total() * gainOf(cam);
  return a;
}

Answers computeAnswers(const Scene& scene, const PlacedSet& set) {
  return answersFrom(accountOf(scene, set), scene, set);
}

PowerScale::Setting powerForAperture(const Answers& answers, const Light& light, double fNumber, double* wanted) {
  const LightAnswer* r = answers.light(light.id);
  // What gives no light at its spot is left as it is: no power would bring it there.
  if (!r || r->apertureFull <= 0) return {light.power, 0};
  // Of the readings at full and lowest power, in units of the squared f-number: what goes with the power, and what not.
  const double most = r->apertureFull * r->apertureFull, least = r->apertureLowest * r->apertureLowest,
               share = ratioFromStops(r->scale.lowestStops);
  const double full = share < 1 ? std::max(0.0, most - least) / (1 - share) : most;
  if (full <= 0) return {light.power, 0};
  const double stops = powerGiving(fNumber * fNumber, full, std::max(0.0, most - full));
  if (wanted) *wanted = stops;
  return r->scale.settingFor(stops);
}

SpotReading readSpot(const Scene& scene, const PlacedSet& set, Vec3 point, Vec3 normal, Surface surface) {
  SpotReading out;
  out.surface = surface;
  out.position = point;
  out.normal = normal;
  const Camera& cam = set.camera;
  const double c = calibrationConstant(Receptor::Flat), ambient = set.ambientExposure();
  std::vector<double> h;
  double total = ambient;
  for (const PlacedLight& l : set.lights) {
    const double lux =
        l.burns() ? meteredLux(scene, sourceOf(scene, set, l), point, normal, Receptor::Flat, 64, 48) : 0;
    h.push_back(l.energy(cam) * lux);
    total += h.back();
  }
  out.aperture = apertureForExposure(total, cam.iso, c);
  out.stops = stopsOf(total / exposureForAperture(cam.aperture, cam.iso, c));
  const auto tell = [&](const std::string& id, double v) {
    out.shares.push_back({id, total > 0 ? v / total : 0, apertureForExposure(v, cam.iso, c)});
  };
  for (size_t i = 0; i < h.size(); ++i)
    if (set.lights[i].light.on) tell(set.lights[i].light.id, h[i]);
  tell("ambient", ambient);
  return out;
}

}  // namespace easel
