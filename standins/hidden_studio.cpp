#include "hidden_studio.h"

#include <array>
#include <cmath>
#include <random>

#include "exposure/meter.h"
#include "exposure/stops.h"
#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "plan/placement.h"
#include "rendering/progressive_render.h"

namespace easel {
namespace {

constexpr std::array<const char*, kMishaps> kNames{"none",         "misfire",      "wrong-group",    "two-lights",
                                                   "not-recycled", "flat-battery", "modelling-lamp", "half-way",
                                                   "receptor",     "in-shadow",    "meter-settings"};

// FNV-1a: the same name is the same number on every machine.
std::uint64_t mixed(std::uint64_t seed, const std::string& name) {
  std::uint64_t h = 1469598103934665603ull ^ seed;
  for (const char c : name) h = (h ^ std::uint8_t(c)) * 1099511628211ull;
  return h;
}

// What shapes the light, without what only weighs it: another power is the same set.
Plan withoutWeights(Plan p) {
  for (Light& l : p.lights) {
    l.power = 0;
    l.on = true;
    l.modelling = false;
    l.targetStops = 0;
    l.locked = false;
  }
  p.camera.iso = 100;
  return p;
}

}  // namespace

std::string mishapName(Mishap mishap) { return kNames[size_t(mishap)]; }
std::optional<Mishap> mishapOf(const std::string& name) {
  for (int i = 0; i < kMishaps; ++i)
    if (kNames[size_t(i)] == name) return Mishap(i);
  return std::nullopt;
}

HiddenStudio::HiddenStudio(std::uint64_t seed, const Differences& differences) : seed_(seed), by_(differences) {}

double HiddenStudio::own(const std::string& what) const {
  std::mt19937_64 random(mixed(seed_, what));
  // Box and Muller by hand: the library's distribution differs from one library to the next.
  const double u = (double(random() >> 11) + 0.5) / 9007199254740992.0;
  const double v = double(random() >> 11) / 9007199254740992.0;
  return std::sqrt(-2 * std::log(u)) * std::cos(2 * M_PI * v);
}

double HiddenStudio::gives(const std::string& unit, const std::string& modifier) const {
  return by_.head * own("head " + unit) + by_.modifier * own("modifier " + modifier);
}
double HiddenStudio::meterReads() const { return by_.meter * own("meter"); }

Plan HiddenStudio::asItStands(const Plan& plan) const {
  Plan p = plan;
  for (Light& l : p.lights) {
    const auto of = [&](const char* what) { return own(l.id + " " + what); };
    l.distance = std::max(0.2, l.distance + by_.place * of("distance"));
    l.hour += by_.place * of("along") / std::max(0.3, l.distance) * 6 / M_PI;
    if (l.hour < 0) l.hour += 12;
    if (l.hour > 12) l.hour -= 12;
    l.height = std::clamp(l.height + by_.place * of("height"), 0.1, p.room.height - 0.05);
    l.pan += by_.turn * of("pan");
  }
  const double paint = std::exp2(by_.walls * own("walls"));
  p.room.wallReflectance = std::clamp(p.room.wallReflectance * paint, 0.02, 0.9);
  return p;
}

double HiddenStudio::read(const Plan& plan, const std::string& light, const std::map<std::string, Fired>& fired,
                          Mishap mishap) {
  const Plan shape = withoutWeights(plan);
  if (!planned_ || !(*planned_ == shape)) {
    planned_ = shape;
    ProgressiveRender studio(8, 8);
    studio.setPlan(asItStands(plan));
    scene_ = studio.scene();
  }
  const Plan stands = asItStands(plan);
  const PlacedSet set = placedSetOf(stands);
  const PlacedLight* l = set.light(light);
  HeldMeter held = l ? worksIn(*scene_, set, *l) : heldAsCameraIsSet(*scene_, set);
  if (mishap == Mishap::HalfWay && l) held.at = held.at + (l->pose.centre - held.at) * 0.5f;
  if (mishap == Mishap::Receptor)
    held.hold.receptor = held.hold.receptor == Receptor::Flat ? Receptor::Dome : Receptor::Flat;
  const BouncePoints points = bouncePoints(*scene_, held.at, held.looks, held.hold.receptor, HeldMeter::kBounced);
  double luxSeconds = evenly(held.hold.receptor, set.ambientExposure());
  for (const auto& [id, how] : fired) {
    const PlacedLight* lamp = set.light(id);
    if (!lamp || !lamp->lamp) continue;
    Lamp burning = *lamp->lamp;
    burning.modelling = how.modelling;
    const LampEnergy energy = burning.gives(lamp->light.power, set.camera);
    const Source source = sourceOf(*scene_, set, *lamp);
    const double lux = mishap == Mishap::InShadow && id == light
                           ? bouncedLux(*scene_, source, points)
                           : meteredLux(*scene_, source, points, HeldMeter::kDirect);
    luxSeconds +=
        (energy.flash * how.energy + energy.steady) * std::exp2(gives(lamp->light.unit, lamp->light.modifier)) * lux;
  }
  ++readings_;
  double stops = meterReads() + by_.hand * own("hand " + std::to_string(readings_));
  if (mishap == Mishap::MeterSettings) stops += own("settings") > 0 ? 1 : -1;
  return apertureForExposure(luxSeconds * std::exp2(stops), stands.camera.iso, calibrationConstant(held.hold.receptor));
}

Picture HiddenStudio::picture(const Plan& plan, const std::map<std::string, Fired>& fired, int width, int height,
                              int passes) const {
  Plan stands = asItStands(plan);
  for (Light& l : stands.lights) {
    const auto at = fired.find(l.id);
    l.on = at != fired.end();
    if (!l.on) continue;
    l.modelling = at->second.modelling;
    l.power += gives(l.unit, l.modifier) + stopsFromRatio(std::max(1e-3, at->second.energy));
  }
  ProgressiveRender studio(width, height);
  studio.setOnlyLast(true);
  studio.setPlan(stands);
  studio.finish(passes);
  return developPicture(studio.layers(), *studio.set(), {});
}

std::map<std::string, Fired> whatFires(const Plan& plan, Mishap mishap) {
  std::map<std::string, Fired> out;
  const Light* another = nullptr;
  for (const Light& l : plan.lights) {
    if (l.on)
      out[l.id] = {1, l.modelling};
    else if (!another)
      another = &l;
  }
  switch (mishap) {
    case Mishap::Misfire:
      out.clear();
      break;
    case Mishap::WrongGroup:
      if (!another) break;
      out.clear();
      out[another->id] = {1, another->modelling};
      break;
    case Mishap::TwoLights:
      if (another) out[another->id] = {1, another->modelling};
      break;
    case Mishap::NotRecycled:
      for (auto& [id, f] : out) f.energy = 0.5;
      break;
    case Mishap::FlatBattery:
      for (auto& [id, f] : out) f.energy = 0.25;
      break;
    case Mishap::ModellingLamp:
      for (auto& [id, f] : out) f.modelling = true;
      break;
    default:
      break;
  }
  return out;
}

}  // namespace easel
