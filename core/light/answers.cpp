#include "light/answers.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "exposure/aperture.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "gear/kit.h"
#include "light/develop.h"
#include "light/point_meter.h"
#include "plan/placement.h"

namespace easel {
namespace {

constexpr int kDirect = 256, kBounce = 192;

double luxAt(const Scene& scene, const Emitter& e, Vec3 p, Vec3 n, Receptor r) {
  return directLux(&scene, e, p, n, r, kDirect) + bouncedLux(scene, e, p, n, r, kBounce);
}

double stopsOf(double ratio) { return ratio > 0 ? stopsFromRatio(ratio) : -99.0; }

// Luminous exposure at a receptor from one light at its present power.
Reading readingOf(const Light& light, const Camera& camera, double luxPerLumen) {
  Reading r;
  const Unit* unit = findUnit(light.unit);
  if (!unit) return r;
  const double h = unit->lumenSeconds(light.power, camera.shutter) * luxPerLumen;
  (unit->kind == UnitKind::Flash ? r.flash : r.steady) = h;
  return r;
}

}  // namespace

const LightAnswer* Answers::light(const std::string& id) const {
  for (const LightAnswer& l : lights)
    if (l.id == id) return &l;
  return nullptr;
}

std::string toneName(double v) {
  // Halfway, in stops, between the tones that photographers name; 0.18 is mid grey.
  if (v < 0.008) return "black";
  if (v < 0.03) return "almost black";
  if (v < 0.09) return "dark grey";
  if (v < 0.28) return "mid grey";
  if (v < 0.55) return "light grey";
  if (v < 0.90) return "white";
  return "pure white";
}

Answers computeAnswers(const Scene& scene, const Plan& plan) {
  Answers a;
  const Camera& cam = plan.camera;
  const double c = calibrationConstant(plan.receptor);
  const double wanted = exposureForAperture(cam.aperture, cam.iso, c);
  const Landmarks& marks = scene.sitter().landmarks;
  const Vec3 nose = scene.studioPoint(marks.noseTip);
  const Vec3 faceOut = normalize(scene.studioPoint(marks.noseTip + Vec3{0, 0, 1}) - nose);
  a.meterSpot = nose + faceOut * 0.04f;
  const Vec3 toCamera = normalize(cameraPose(plan, 0.8).eye - a.meterSpot);
  const Vec3 backdropSpot{0, float(plan.sitter.eyeHeight - 0.05), -float(plan.backdrop.distance) + 2e-3f};

  a.ambient.steady = plan.ambient.lux * cam.shutter;
  a.ambientStops = stopsOf(a.ambient.total() / wanted);
  Reading backdrop, faceFlat;
  backdrop.steady = faceFlat.steady = a.ambient.steady;
  a.face = a.ambient;

  for (const Light& l : plan.lights) {
    LightAnswer r;
    r.id = l.id;
    const Unit* unit = findUnit(l.unit);
    const Modifier* modifier = findModifier(l.modifier);
    if (!unit || !modifier) {
      a.lights.push_back(r);
      continue;
    }
    const Emitter e = emitterOf(plan, l);
    const Vec3 toLight = normalize(e.pose().centre - a.meterSpot);
    const Vec3 aim = plan.receptor == Receptor::Flat ? toLight : toCamera;
    const double atFace = luxAt(scene, e, a.meterSpot, aim, plan.receptor);
    const double onBackdrop = luxAt(scene, e, backdropSpot, {0, 0, 1}, Receptor::Flat);
    double perLumen = atFace;
    r.spot = "face";
    if (l.role == Role::Background) {
      r.spot = "backdrop";
      perLumen = onBackdrop;
    } else if (l.role == Role::Hair || l.role == Role::Rim || l.role == Role::Kicker) {
      r.spot = l.role == Role::Hair ? "hair" : "edge";
      const Vec3 head = scene.studioPoint({0, 0.02f, 0.02f});
      Vec3 out = l.role == Role::Hair ? Vec3{0, 1, 0} : e.pose().centre - head;
      if (l.role != Role::Hair) out.y = 0;
      const Vec3 place =
          l.role == Role::Hair ? scene.studioPoint(marks.crown) + Vec3{0, 0.04f, 0} : head + normalize(out) * 0.16f;
      perLumen = luxAt(scene, e, place, normalize(e.pose().centre - place), Receptor::Flat);
    }
    r.alone = readingOf(l, cam, perLumen);
    r.atFace = readingOf(l, cam, atFace);
    const double full = unit->lumenSeconds(0, cam.shutter) * perLumen;
    r.aperture = apertureForExposure(r.alone.total(), cam.iso, c);
    r.stopsFromWorking = stopsOf(r.alone.total() / wanted);
    r.apertureFull = apertureForExposure(full, cam.iso, c);
    r.apertureLowest = apertureForExposure(full * ratioFromStops(unit->scale.lowestStops), cam.iso, c);
    r.wantedPower = full > 0 ? stopsFromRatio(wanted / full) + l.targetStops : 99.0;
    r.setting = unit->scale.settingFor(r.wantedPower);
    r.distance = distanceToFace(plan, l);
    r.elevation = elevationFromFace(plan, l);
    r.apparentSize = 2 * degrees(std::atan(e.extent() / 2 / std::max(0.01f, float(r.distance))));

    r.backdropStops = atFace > 0 ? stopsOf(onBackdrop / atFace) : 0;
    if (l.on) {
      auto add = [](Reading& to, const Reading& from) {
        to.flash += from.flash;
        to.steady += from.steady;
      };
      add(backdrop, readingOf(l, cam, onBackdrop));
      // Everything on is read the way the camera is set: the dome at the camera, or flat towards the key.
      add(a.face, r.atFace);
    }
    a.lights.push_back(r);
  }
  a.aperture = apertureForExposure(a.face.total(), cam.iso, c);
  a.backdropStops = stopsOf(backdrop.total() / std::max(1e-12, a.face.total()));
  const BackdropMaterial* m = findBackdrop(plan.backdrop.material);
  const double rho = m ? 0.2126 * m->reflectance[0] + 0.7152 * m->reflectance[1] + 0.0722 * m->reflectance[2] : 0.18;
  a.backdropValue = rho / kPi * backdrop.total() * cameraGain(cam.iso, cam.aperture);
  a.backdropTone = toneName(a.backdropValue);
  return a;
}

PowerScale::Setting powerForAperture(const Answers& answers, const Light& light, double fNumber, double* wanted) {
  const LightAnswer* r = answers.light(light.id);
  const Unit* unit = findUnit(light.unit);
  if (!r || !unit || r->apertureFull <= 0) return {};
  const double stops = avFromFNumber(fNumber) - avFromFNumber(r->apertureFull);
  if (wanted) *wanted = stops;
  return unit->scale.settingFor(stops);
}

std::vector<std::string> remedies(const Plan& plan, const Light& light, const LightAnswer& r, bool metres) {
  std::vector<std::string> out;
  const double miss = r.setting.shortfall;
  if (miss == 0) return out;
  // Inverse square on the distance to the face: a good first step for a stand that is further off than its box is wide.
  const double factor = ratioFromStops(-std::abs(miss) / 2);
  auto length = [&](double m) { return metres ? fmt::format("{:.2f} m", m) : fmt::format("{:.1f} ft", m / 0.3048); };
  double iso = nominalIso(plan.camera.iso * ratioFromStops(miss));
  const auto& marks = isoThirds();
  if (const auto at = std::find(marks.begin(), marks.end(), iso);
      miss > 0 && iso < plan.camera.iso * ratioFromStops(miss) * 0.999 && at + 1 < marks.end())
    iso = *(at + 1);  // rounded to the side that helps
  if (miss > 0) {
    if (r.distance * factor > 0.4)
      out.push_back(fmt::format("Move {} to about {} from the face.", light.id, length(r.distance * factor)));
    if (iso <= 6400) out.push_back(fmt::format("Raise ISO to {:.0f} (ambient rises with it).", iso));
    out.push_back(fmt::format("Open up to {}.",
                              writeAperture(plan.camera.aperture * ratioFromStops(-miss / 2), ApertureStyle::Nominal)));
    if (light.modifier != "reflector-18") out.push_back("Take diffusion out or choose a stronger unit.");
  } else {
    out.push_back(fmt::format("Put ND {:.1f} ({:.1f} stops) on it.", std::ceil(-miss * 3 - 1e-6) * 0.1, -miss));
    out.push_back(fmt::format("Move {} back to about {} from the face.", light.id, length(r.distance / factor)));
    if (iso >= 50) out.push_back(fmt::format("Lower ISO to {:.0f}.", iso));
    out.push_back("Choose a smaller unit.");
  }
  return out;
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
      const Emitter e = emitterOf(plan, l);
      v = readingOf(l, plan.camera,
                    directLux(&scene, e, point, normal, Receptor::Flat, 64) +
                        bouncedLux(scene, e, point, normal, Receptor::Flat, 48))
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
