#include "propose/key_search.h"

#include <algorithm>
#include <cmath>
#include <nlopt.hpp>

#include "analysis/catchlights.h"
#include "analysis/map.h"
#include "analysis/ways.h"

namespace easel {

FaceDirection middleOf(FacePattern p) {
  switch (p) {
    case FacePattern::Butterfly:
      return {4, 40};
    case FacePattern::Rembrandt:
      return {56, 36};
    case FacePattern::Split:
      return {88, 6};
    case FacePattern::Flat:
      return {4, 8};
    case FacePattern::BackLight:
      return {150, 25};
    default:
      return {40, 32};
  }
}

namespace {

// Degrees that the front should span from the face: soft as a near softbox, hard as a bare reflector.
double spanOf(Hardness h) { return h == Hardness::Soft ? 44 : h == Hardness::Firm ? 22 : h == Hardness::Hard ? 6 : 0; }

}  // namespace

double KeySearch::cost(double azimuth, double elevation, double distance) {
  ++asked;
  const FaceDirection place{side * azimuth, elevation};
  PlacedLight& key = set.lights.front();
  key = placedAs(set, key, lightAt(set, scene, key.light, place, distance));
  const Modifier& front = key.lamp->front;
  double c = 0;
  const FaceDirection middle = this->middle();
  c += 0.05 * std::pow((azimuth - middle.azimuth) / 15, 2) + 0.05 * std::pow((elevation - middle.elevation) / 12, 2);
  if (!look.profile) {
    const PatternAnalysis r = patternFrom(scene, set, chart, front, place, distance, 8);
    if (r.pattern != pattern || r.next != FacePattern::None) c += r.next == pattern || r.pattern == pattern ? 0.8 : 1.6;
    if (pattern == FacePattern::Rembrandt && r.signs.triangleArea > 30)
      c += 0.6 * std::pow(std::max(0.0, r.signs.triangleWidth / r.signs.eyeWidth - 1.0), 2) +
           (r.signs.triangleWidth < 0.4 * r.signs.eyeWidth ? 0.4 : 0);
  }
  const double extent = (front.width + (front.height > 0 ? front.height : front.width)) / 2;
  if (const double wanted = spanOf(hardness); wanted > 0) {
    const double span = 2 * degrees(std::atan(float(extent / 2 / distance)));
    c += 0.12 * std::pow(std::log(std::max(0.5, span) / wanted), 2);
  }
  // The room.
  const LightPose& pose = key.pose;
  const double x = std::abs(double(pose.centre.x)), z = double(pose.centre.z);
  const double half = (front.height > 0 ? front.height : front.width) / 2;
  const double top = key.light.height + half * std::abs(double(pose.frame.v.y)),
               foot = key.light.height - half * std::abs(double(pose.frame.v.y));
  auto over = [](double by) { return by > 0 ? 1.5 + 8 * by : 0; };
  c += over(x + 0.25 - set.room.width / 2) + over(z + 0.25 - (set.room.depth - set.room.behind)) +
       over(-z + 0.1 - set.backdrop.distance) + over(top + 0.04 - set.room.height) + over(0.1 - foot);
  // Before the lens, or in the picture.
  for (float u : {-1.f, 0.f, 1.f})
    for (float v : {-1.f, -0.5f, 0.f, 0.5f, 1.f}) {
      const Vec3 q = pose.centre + pose.frame.u * (u * float(front.width) / 2) + pose.frame.v * (v * float(half));
      const auto at = inPicture(set.cameraPose, set.camera.frame, q);
      if (at && std::abs(at->x) < 1.04f && std::abs(at->y) < 1.04f) c += 0.25;
    }
  const Vec3 head = scene.studioPoint({0, 0, 0.05f});
  c += over(0.42 + 0.2 * extent - double(length(pose.centre - head)));
  // The spark in the eye.
  if (!look.profile && pattern != FacePattern::BackLight) {
    const Catchlights k = readCatchlights(scene, set);
    const bool needs = std::find(look.wanted.begin(), look.wanted.end(), "dead-eyes") == look.wanted.end();
    if (needs && k.living(0) + k.living(1) == 0)
      c += 0.8;
    else if (needs && pattern != FacePattern::Split && std::min(k.living(0), k.living(1)) == 0)
      c += 0.15;
  }
  return c;
}

KeyPlace searchKey(KeySearch& s, const Modifier& front) {
  // Near and far follow from the front: a box works from its own width to three times that.
  const double wide = std::max(front.width, front.height);
  const double nearest = std::max({0.55, 0.9 * wide, s.look.nearest}),
               furthest = std::max(s.look.nearest + 0.6, s.pattern == FacePattern::Split
                                                             ? nearest + 0.5
                                                             : std::clamp(wide < 0.3 ? 2.4 : 2.6 * wide, 1.3, 2.6));
  const FaceDirection middle = s.middle();
  std::vector<double> low{std::max(0.0, middle.azimuth - 26), std::max(s.look.elevationLeast, middle.elevation - 24),
                          nearest},
      high{middle.azimuth + 26, std::min(s.look.elevationMost, middle.elevation + 20), furthest};
  if (s.look.profile) {
    low[0] = 0;
    high[0] = 70;
  }
  if (high[1] < low[1] + 2) {
    low[1] = s.look.elevationLeast;
    high[1] = s.look.elevationMost;
  }
  KeyPlace best;
  auto objective = [](const std::vector<double>& x, std::vector<double>&, void* data) {
    auto* pair = static_cast<std::pair<KeySearch*, KeyPlace*>*>(data);
    if (!pair->first->wanted()) throw nlopt::forced_stop();
    const double c = pair->first->cost(x[0], x[1], x[2]);
    if (c < pair->second->cost) *pair->second = {x[0], x[1], x[2], c};
    return c;
  };
  std::pair<KeySearch*, KeyPlace*> both{&s, &best};
  try {
    nlopt::opt wideSearch(nlopt::GN_DIRECT_L, 3);
    wideSearch.set_lower_bounds(low);
    wideSearch.set_upper_bounds(high);
    wideSearch.set_min_objective(objective, &both);
    wideSearch.set_maxeval(90);
    std::vector<double> x{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2};
    double value = 0;
    wideSearch.optimize(x, value);
    nlopt::opt near(nlopt::LN_SBPLX, 3);
    near.set_lower_bounds(low);
    near.set_upper_bounds(high);
    near.set_min_objective(objective, &both);
    near.set_initial_step(std::vector<double>{4, 4, 0.12});
    near.set_xtol_abs(std::vector<double>{0.5, 0.5, 0.02});
    near.set_maxeval(60);
    x = {best.azimuth, best.elevation, best.distance};
    near.optimize(x, value);
  } catch (const nlopt::forced_stop&) {
    // The caller asks again and goes.
  } catch (const nlopt::roundoff_limited&) {
    // What was found stands.
  }
  return best;
}

}  // namespace easel
