#include "reading/ways.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "gear/kit.h"
#include "plan/placement.h"
#include "reading/map.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel {
namespace {

double wrapped(double degrees) { return std::remainder(degrees, 360.0); }
double wrappedHour(double hour) {
  hour = std::fmod(hour, 12.0);
  return hour <= 0 ? hour + 12 : hour;
}
std::string side(bool left) { return left ? "left" : "right"; }

}  // namespace

PatternReading patternFrom(const Scene& scene, const PlacedSet& set, const FaceChart& chart, const Modifier& front,
                           FaceDirection place, double distance, int samples) {
  const Source source(Emitter(front, poseRoundFace(set, scene, place, distance)), {});
  return readPattern(chart, lightOnFace(scene, chart, source, samples), place);
}

Light lightAt(const PlacedSet& set, const Scene& scene, const Light& light, FaceDirection place, double distance) {
  Light out = light;
  const Vec3 c = poseRoundFace(set, scene, place, distance).centre;
  out.hour = hourOf(double(c.x), double(c.z));
  out.distance = std::max(0.1, std::hypot(double(c.x), double(c.z)));
  out.height = std::max(0.05, double(c.y));
  return out;
}

PatternWays waysTo(const Scene& scene, const Plan& plan, FacePattern wanted, const Spelling& spelling) {
  PatternWays out;
  out.wanted = wanted;
  const PlacedSet set = placedSetOf(plan);
  const PlacedLight* placed = patternKey(scene, set);
  if (!placed) {
    out.sentence = say("There is no light on the face: put up a key first.");
    return out;
  }
  const Light* key = &placed->light;
  if (placed->onLens) {
    out.sentence = say("Round the lens a light makes a flat face: take another key.");
    return out;
  }
  const auto chart = chartFace(scene, 0.003f);
  const Vec3 nose = scene.studioPoint(scene.sitter().landmarks.noseTip), centre = placed->pose.centre;
  const double distance = double(length(centre - nose));
  out.from = directionFromFace(set, scene, centre);
  const auto length = [&](double m) { return spelling.length(m); };
  const double sign = out.from.azimuth >= 0 ? 1 : -1;
  auto is = [&](double azimuth, double elevation) {
    const PatternReading r = patternFrom(scene, set, *chart, placed->lamp->front, {azimuth, elevation}, distance);
    return r.pattern == wanted && r.next == FacePattern::None;
  };
  // As it is read in the end: on the fine chart, with feathering and panels.
  const auto fine = chartFace(scene, 0.0025f);
  int asked = 0;
  constexpr int kMostAsked = 24;
  auto really = [&](double azimuth, double elevation) {
    if (++asked > kMostAsked) return false;
    const Light moved = lightAt(set, scene, *key, {azimuth, elevation}, distance);
    const Source source = sourceOf(set, placedAs(set, *placed, moved));
    const PatternReading r = readPattern(*fine, lightOnFace(scene, *fine, source, 24), {azimuth, elevation});
    return r.pattern == wanted && r.next == FacePattern::None;
  };
  if (really(out.from.azimuth, out.from.elevation)) {
    out.found = true;
    out.to = out.from;
    out.sentence = say("{} makes {} as it stands.", key->id, patternName(wanted));
    return out;
  }
  // At its own height first, then higher or lower; on its own side of the face.
  std::vector<double> heights{out.from.elevation};
  for (double by : {8., -8., 16., -16., 24., -24.})
    if (const double e = out.from.elevation + by; e > -5 && e < 58) heights.push_back(e);
  for (double e : heights) {
    const double here = std::clamp(std::abs(out.from.azimuth), 0.0, 110.0);
    for (double off = 0; off <= 110 && !out.found && asked < kMostAsked; off += 3)
      for (double a : {here + off, here - off}) {
        if (a < 0 || a > 110 || (off == 0 && e == out.from.elevation)) continue;
        if (!is(sign * a, e)) continue;
        // Back to the edge of the pattern in single degrees, then two degrees in, if that is still the pattern.
        const double inwards = a >= here ? 1 : -1;
        double edge = a;
        while (std::abs(edge - inwards - here) < std::abs(a - here) && std::abs(edge - a) < 3 &&
               is(sign * (edge - inwards), e))
          edge -= inwards;
        for (double in : {2., 0., 4., 6., 9., 12.}) {
          const double at = std::clamp(edge + in * inwards, 0.0, 110.0);
          if (!really(sign * at, e)) continue;
          out.to = {sign * at, e};
          out.found = true;
          break;
        }
        if (!out.found) continue;
        break;
      }
    if (out.found || asked >= kMostAsked) break;
  }
  if (!out.found && asked >= 6 && scene.hasPanels()) {
    out.sentence = say("The boards keep {} from making {}: what they send into the shadows closes it or fills it.",
                       key->id, patternName(wanted));
    return out;
  }
  if (!out.found) {
    out.sentence = say("{} makes no {} on this face at {}: move it nearer or take a smaller front.", key->id,
                       patternName(wanted), length(distance));
    return out;
  }
  const double round = wrapped(out.to.azimuth - out.from.azimuth), up = out.to.elevation - out.from.elevation;

  Way light;
  light.what = Way::What::Light;
  light.plan = plan;
  {
    Light moved = lightAt(set, scene, *key, out.to, distance);
    const double lift = moved.height - key->height;
    std::string text;
    if (std::abs(round) >= 0.5)
      text =
          say("move {} {:.0f} degrees {}, to {} o'clock", key->id, std::abs(round),
              std::abs(out.to.azimuth) > std::abs(out.from.azimuth) ? say("further round") : say("towards the camera"),
              writeClock(moved.hour));
    if (std::abs(lift) >= 0.02)
      text += fmt::format("{}{} {}", text.empty() ? say("{} {} by", lift > 0 ? "raise" : "lower", key->id) : ", and",
                          length(std::abs(lift)),
                          text.empty() ? ""
                          : lift > 0   ? "higher"
                                       : "lower");
    light.sentence = text;
    const double x = moved.distance * std::sin(moved.hour * kPi / 6),
                 z = -moved.distance * std::cos(moved.hour * kPi / 6);
    const Modifier* m = findModifier(moved.modifier);
    light.possible = !key->locked && std::abs(x) < plan.room.width / 2 && z < plan.room.depth - plan.room.behind &&
                     moved.height + (m ? m->height / 2 : 0) < plan.room.height + 0.05;
    if (Light* l = light.plan.light(key->id)) *l = moved;
  }
  // The other two keep the height of the light; what it wants of height is said with them.
  const std::string also =
      std::abs(up) >= 1 ? say(" ({} also {:.0f} degrees {})", key->id, std::abs(up), up > 0 ? "higher" : "lower") : "";
  auto atHeight = [&](Plan& p) {
    if (std::abs(up) < 1) return;
    if (Light* l = p.light(key->id))
      l->height = std::clamp(l->height + distance * (std::sin(radians(float(out.to.elevation))) -
                                                     std::sin(radians(float(out.from.elevation)))),
                             0.1, plan.room.height);
  };
  Way sitter;
  sitter.what = Way::What::Sitter;
  sitter.plan = plan;
  sitter.plan.sitter.turn = plan.sitter.turn - round;
  sitter.possible = std::abs(sitter.plan.sitter.turn) <= 75 && !(key->locked && std::abs(up) >= 1);
  atHeight(sitter.plan);
  // Away from the light when the light is to come further round.
  sitter.sentence = say("turn the face {:.0f} degrees to the sitter's {}{}", std::abs(round), side(round < 0), also);

  Way camera;
  camera.what = Way::What::Camera;
  camera.plan = plan;
  {
    // The lens goes round the sitter and the face follows it: on the dial, where the lens stays at six, the stands go
    // the other way.
    const double by = -round;  // degrees of the lens towards camera right
    for (Light& l : camera.plan.lights)
      if (!onLens(l)) l.hour = wrappedHour(l.hour + by / 30);
    for (Panel& p : camera.plan.panels) p.hour = wrappedHour(p.hour + by / 30);
    const double aside = 2 * plan.camera.distance * std::sin(std::abs(double(radians(float(by)))) / 2);
    camera.sentence = say("step {} to the {} and let the face follow you{}", length(aside), side(by < 0), also);
    const auto held = [](const auto& all) {
      return std::any_of(all.begin(), all.end(), [](const auto& one) { return one.locked; });
    };
    // Every stand goes round with it, those that are not to be moved too.
    camera.possible = std::abs(by) <= 60 && !held(plan.lights) && !held(plan.panels);
    if (held(plan.lights) || held(plan.panels)) camera.sentence += say(" (not while something is locked)");
    atHeight(camera.plan);
  }
  out.ways = {light, sitter, camera};
  out.sentence = say("To {}: {}, or {}, or {}.", patternName(wanted), light.sentence, sitter.sentence, camera.sentence);
  return out;
}

}  // namespace easel
