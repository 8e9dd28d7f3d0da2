#include "analysis/ways.h"

#include <algorithm>
#include <cmath>

#include "analysis/map.h"
#include "gear/kit.h"
#include "plan/placement.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel {
namespace {

double wrapped(double degrees) { return std::remainder(degrees, 360.0); }
double wrappedHour(double hour) {
  hour = std::fmod(hour, 12.0);
  return hour <= 0 ? hour + 12 : hour;
}

}  // namespace

PatternAnalysis patternFrom(const Scene& scene, const PlacedSet& set, const FaceChart& chart, const Modifier& front,
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

namespace {

// Looks for the nearest place of the key that makes the wished pattern, and says how light, face or camera can be moved
// to bring it about.
class WaySearch {
 public:
  WaySearch(const Scene& scene, const Plan& plan, FacePattern wanted, const Spelling& spelling)
      : scene_(scene), plan_(plan), wanted_(wanted), spelling_(spelling), set_(placedSetOf(plan)) {
    out_.wanted = wanted;
  }

  PatternWays all() {
    placed_ = patternKey(scene_, set_);
    if (!placed_) return saying(say("There is no light on the face: add a key first."));
    if (placed_->onLens) return saying(say("A light round the lens lights the face flat: choose another key."));
    key_ = &placed_->light;
    distance_ = double(length(placed_->pose.centre - scene_.studioPoint(scene_.sitter().landmarks.noseTip)));
    out_.from = directionFromFace(set_, scene_, placed_->pose.centre);
    if (showsReally(out_.from.azimuth, out_.from.elevation)) {
      out_.found = true;
      out_.to = out_.from;
      return saying(say("{} already makes {}.", key_->id, patternName(wanted_)));
    }
    find();
    if (!out_.found)
      return saying(tried_ >= 6 && scene_.hasPanels()
                        ? say("The boards keep {} from making {}: what they reflect fills its shadows.", key_->id,
                              patternName(wanted_))
                        : say("{} makes no {} on this face at {}: move it nearer or use a smaller modifier.", key_->id,
                              patternName(wanted_), spelling_.length(distance_)));
    round_ = wrapped(out_.to.azimuth - out_.from.azimuth);
    up_ = out_.to.elevation - out_.from.elevation;
    out_.ways = {byLight(), bySitter(), byCamera()};
    return saying(say("To {}: {}, or {}, or {}.", patternName(wanted_), out_.ways[0].sentence, out_.ways[1].sentence,
                      out_.ways[2].sentence));
  }

 private:
  PatternWays saying(std::string sentence) {
    out_.sentence = std::move(sentence);
    return std::move(out_);
  }
  bool isWanted(const PatternAnalysis& r) const { return r.pattern == wanted_ && r.next == FacePattern::None; }
  bool showsRoughly(double azimuth, double elevation) const {
    return isWanted(patternFrom(scene_, set_, *chart_, placed_->lamp->front, {azimuth, elevation}, distance_));
  }
  // As it is read in the end: on the fine chart, with feathering and panels. So many times at most.
  bool showsReally(double azimuth, double elevation) {
    if (++tried_ > kMostTried) return false;
    const Light moved = lightAt(set_, scene_, *key_, {azimuth, elevation}, distance_);
    const Source source = sourceOf(set_, placedAs(set_, *placed_, moved));
    return isWanted(readPattern(*fine_, lightOnFace(scene_, *fine_, source, 24), {azimuth, elevation}));
  }
  void find();
  std::string saidMove(const Light& moved, double lift) const;
  Way byLight() const;
  Way bySitter() const;
  Way byCamera() const;
  // Sitter and camera keep the height of the light; what it wants of height is said with them.
  std::string withHeight(const std::string& move) const {
    return up_ >= 1    ? say("{} ({} also {:.0f} degrees higher)", move, key_->id, up_)
           : up_ <= -1 ? say("{} ({} also {:.0f} degrees lower)", move, key_->id, -up_)
                       : move;
  }
  void toHeight(Plan& p) const {
    if (std::abs(up_) < 1) return;
    if (Light* l = p.light(key_->id))
      l->height = std::clamp(l->height + distance_ * (std::sin(radians(float(out_.to.elevation))) -
                                                      std::sin(radians(float(out_.from.elevation)))),
                             0.1, plan_.room.height);
  }

  static constexpr int kMostTried = 24;

  const Scene& scene_;
  const Plan& plan_;
  const FacePattern wanted_;
  const Spelling& spelling_;
  const PlacedSet set_;
  const std::shared_ptr<const FaceChart> chart_ = chartFace(scene_, 0.003f), fine_ = chartFace(scene_, 0.0025f);
  const PlacedLight* placed_ = nullptr;
  const Light* key_ = nullptr;
  double distance_ = 0, round_ = 0, up_ = 0;  // m; degrees from where it stands
  int tried_ = 0;
  PatternWays out_;
};

void WaySearch::find() {
  // At its own height first, then higher or lower; on its own side of the face.
  const double sign = out_.from.azimuth >= 0 ? 1 : -1;
  std::vector<double> heights{out_.from.elevation};
  for (double by : {8., -8., 16., -16., 24., -24.})
    if (const double e = out_.from.elevation + by; e > -5 && e < 58) heights.push_back(e);
  for (double e : heights) {
    const double here = std::clamp(std::abs(out_.from.azimuth), 0.0, 110.0);
    for (double off = 0; off <= 110 && !out_.found && tried_ < kMostTried; off += 3)
      for (double a : {here + off, here - off}) {
        if (a < 0 || a > 110 || (off == 0 && e == out_.from.elevation)) continue;
        if (!showsRoughly(sign * a, e)) continue;
        // Back to the edge of the pattern in single degrees, then two degrees in, if that is still the pattern.
        const double inwards = a >= here ? 1 : -1;
        double edge = a;
        while (std::abs(edge - inwards - here) < std::abs(a - here) && std::abs(edge - a) < 3 &&
               showsRoughly(sign * (edge - inwards), e))
          edge -= inwards;
        for (double in : {2., 0., 4., 6., 9., 12.}) {
          const double at = std::clamp(edge + in * inwards, 0.0, 110.0);
          if (!showsReally(sign * at, e)) continue;
          out_.to = {sign * at, e};
          out_.found = true;
          break;
        }
        if (!out_.found) continue;
        break;
      }
    if (out_.found || tried_ >= kMostTried) break;
  }
}

std::string WaySearch::saidMove(const Light& moved, double lift) const {
  const bool turns = std::abs(round_) >= 0.5, lifts = std::abs(lift) >= 0.02,
             further = std::abs(out_.to.azimuth) > std::abs(out_.from.azimuth);
  const double by = std::abs(round_);
  const std::string &id = key_->id, to = writeClock(moved.hour), height = spelling_.length(std::abs(lift));
  if (!turns) return !lifts ? "" : lift > 0 ? say("raise {} by {}", id, height) : say("lower {} by {}", id, height);
  if (!lifts)
    return further ? say("move {} {:.0f} degrees further round, to {} o'clock", id, by, to)
                   : say("move {} {:.0f} degrees towards the camera, to {} o'clock", id, by, to);
  if (lift > 0)
    return further ? say("move {} {:.0f} degrees further round, to {} o'clock, and {} higher", id, by, to, height)
                   : say("move {} {:.0f} degrees towards the camera, to {} o'clock, and {} higher", id, by, to, height);
  return further ? say("move {} {:.0f} degrees further round, to {} o'clock, and {} lower", id, by, to, height)
                 : say("move {} {:.0f} degrees towards the camera, to {} o'clock, and {} lower", id, by, to, height);
}

Way WaySearch::byLight() const {
  Way light;
  light.what = Way::What::Light;
  light.plan = plan_;
  Light moved = lightAt(set_, scene_, *key_, out_.to, distance_);
  const double lift = moved.height - key_->height;
  light.sentence = saidMove(moved, lift);
  const std::string to = writeClock(moved.hour), height = spelling_.length(std::abs(lift));
  light.brief = std::abs(lift) < 0.02 ? say("{} to {}", key_->id, to)
                : lift > 0            ? say("{} to {}, {} up", key_->id, to, height)
                                      : say("{} to {}, {} down", key_->id, to, height);
  light.possible = !key_->locked && hasRoom(set_, moved);
  if (Light* l = light.plan.light(key_->id)) *l = moved;
  return light;
}

Way WaySearch::bySitter() const {
  Way sitter;
  sitter.what = Way::What::Sitter;
  sitter.plan = plan_;
  sitter.plan.sitter.turn = plan_.sitter.turn - round_;
  sitter.possible = std::abs(sitter.plan.sitter.turn) <= 75 && !(key_->locked && std::abs(up_) >= 1);
  toHeight(sitter.plan);
  sitter.brief = round_ < 0 ? say("face {:.0f}° to their left", -round_) : say("face {:.0f}° to their right", round_);
  // Away from the light when the light is to come further round.
  sitter.sentence = withHeight(round_ < 0 ? say("turn the face {:.0f} degrees to the sitter's left", -round_)
                                          : say("turn the face {:.0f} degrees to the sitter's right", round_));
  return sitter;
}

Way WaySearch::byCamera() const {
  Way camera;
  camera.what = Way::What::Camera;
  camera.plan = plan_;
  // The lens goes round the sitter and the face follows it: on the dial, where the lens stays at six, the stands go
  // the other way.
  const double by = -round_;  // degrees of the lens towards camera right
  for (Light& l : camera.plan.lights)
    if (!onLens(l)) l.hour = wrappedHour(l.hour + by / 30);
  for (Panel& p : camera.plan.panels) p.hour = wrappedHour(p.hour + by / 30);
  const double aside = 2 * plan_.camera.distance * std::sin(std::abs(double(radians(float(by)))) / 2);
  const std::string steps = spelling_.length(aside);
  camera.brief = by < 0 ? say("camera {} to the left", steps) : say("camera {} to the right", steps);
  camera.sentence =
      withHeight(by < 0 ? say("step {} to the left and let the face follow you", spelling_.length(aside))
                        : say("step {} to the right and let the face follow you", spelling_.length(aside)));
  const auto held = [](const auto& all) {
    return std::any_of(all.begin(), all.end(), [](const auto& one) { return one.locked; });
  };
  const auto inTheWay = [](const PlacedSet& set) {
    return std::any_of(set.lights.begin(), set.lights.end(), [&](const PlacedLight& l) {
      if (!l.lamp || l.onLens) return false;
      // From the lens to the face, nearer than the front's corners are to its middle.
      const Vec3 eye = set.cameraPose.eye, along = set.face - eye;
      const float at = std::clamp(dot(l.pose.centre - eye, along) / dot(along, along), 0.f, 1.f);
      return length(eye + along * at - l.pose.centre) < Emitter(l.lamp->front, l.pose).extent() / 2;
    });
  };
  // Every stand goes round with it, those that are not to be moved too.
  camera.possible =
      std::abs(by) <= 60 && !held(plan_.lights) && !held(plan_.panels) && !inTheWay(placedSetOf(camera.plan));
  if (held(plan_.lights) || held(plan_.panels)) camera.sentence += say(" (not while something is locked)");
  toHeight(camera.plan);
  return camera;
}

}  // namespace

PatternWays waysTo(const Scene& scene, const Plan& plan, FacePattern wanted, const Spelling& spelling) {
  return WaySearch(scene, plan, wanted, spelling).all();
}

}  // namespace easel
