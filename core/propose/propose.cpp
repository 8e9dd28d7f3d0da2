#include "propose/propose.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlopt.hpp>
#include <optional>
#include <stdexcept>

#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "gear/inventory.h"
#include "plan/lamp.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "plan/roles.h"
#include "reading/map.h"
#include "reading/remedies.h"
#include "reading/ways.h"

namespace easel {
namespace {

// Whether the kit has one more of it than the plan uses already. Nothing entered of that sort: there is always one.
bool frontLeft(const std::string& modifier, const Plan& plan) {
  const auto n = modifiersOwned(modifier);
  return !n || *n > std::count_if(plan.lights.begin(), plan.lights.end(),
                                  [&](const Light& l) { return l.modifier == modifier; });
}
bool unitLeft(const std::string& unit, const Plan& plan) {
  const auto n = unitsOwned(unit);
  return !n ||
         *n > std::count_if(plan.lights.begin(), plan.lights.end(), [&](const Light& l) { return l.unit == unit; });
}

// Where the pattern sits in the middle of what it is called; common practice, no source (docs/face-patterns.md).
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

// Degrees that the front should span from the face: soft as a near softbox, hard as a bare reflector.
double spanOf(Hardness h) { return h == Hardness::Soft ? 44 : h == Hardness::Firm ? 22 : h == Hardness::Hard ? 6 : 0; }

FacePattern patternOf(const SetLook& look, const Wish& wish) { return wish.pattern.value_or(look.pattern); }
Breadth breadthOf(const SetLook& look, const Wish& wish) { return wish.breadth.value_or(look.breadth); }

// A unit that carries the front: a mains head for boxes and dishes, the small one for what fits on it.
// None when the kit has no flash left: then the light cannot be put up.
std::optional<std::string> unitFor(const Modifier& m, const Plan& plan) {
  const bool small = m.family == ModifierFamily::Small && m.mount != Mount::Lens;
  const std::vector<std::string> wanted =
      small ? std::vector<std::string>{"hotshoe-60", "battery-200"}
            : std::vector<std::string>{"mains-400", "battery-200", "battery-600", "mains-1200"};
  for (const std::string& id : wanted)
    if (findUnit(id) && unitLeft(id, plan)) return id;
  for (const Unit& u : knownUnits())
    if (u.kind == UnitKind::Flash && unitLeft(u.id, plan)) return u.id;
  return {};
}

// A front and a head from what the kit has left; false, with a sentence, when there is none.
bool equip(Light& l, const std::vector<std::string>& fronts, const Plan& plan, std::vector<std::string>& gave) {
  std::vector<std::string> wanted = fronts;
  wanted.push_back(l.modifier);
  for (const Modifier& m : knownModifiers())
    if (m.mount == Mount::Stand) wanted.push_back(m.id);
  const auto front = std::find_if(wanted.begin(), wanted.end(),
                                  [&](const std::string& f) { return findModifier(f) && frontLeft(f, plan); });
  if (front == wanted.end()) {
    gave.push_back(fmt::format("The kit has no modifier left for the {}: it is left out.", roleName(l.role)));
    return false;
  }
  l.modifier = *front;
  const auto unit = unitFor(*findModifier(l.modifier), plan);
  if (!unit) {
    gave.push_back(fmt::format("The kit has no flash left for the {}: it is left out.", roleName(l.role)));
    return false;
  }
  l.unit = *unit;
  return true;
}

// The bare studio with the look's backdrop and the head as the look wants it.
Plan studioFor(const SetLook& look, const Wish& wish, const Plan& here) {
  Plan p = here;
  p.lights.clear();
  p.panels.clear();
  p.spots.clear();
  p.haze = 0;
  p.wanted = look.wanted;
  p.camera.closedBy = 0;
  if (wish.aperture) p.camera.aperture = *wish.aperture;
  if (p.camera.shutter < p.camera.syncShutter) p.camera.shutter = p.camera.syncShutter;
  if (!look.backdrop.empty()) p.backdrop.material = look.backdrop;
  p.sitter.tilt = p.sitter.nod = 0;
  const double side = wish.keyLeft ? -1 : 1;  // the key's side of the camera
  const Breadth b = breadthOf(look, wish);
  p.sitter.turn = look.profile          ? side * look.turn
                  : b == Breadth::Short ? side * std::max(look.turn, 25.0)
                  : b == Breadth::Broad ? -side * std::max(look.turn, 22.0)
                                        : 0;
  if (look.tone == "pure-white" || wish.tone == "pure-white")
    p.backdrop.distance = std::min(std::max(p.backdrop.distance, 1.7), std::max(0.5, p.room.behind));
  return p;
}

Light keyOf(const Modifier& m, const Plan& plan, bool left) {
  Light l = proposeLight(plan, "key").light;
  l.modifier = m.id;
  l.unit = unitFor(m, plan).value_or("mains-400");
  l.name = "Key";
  if (left) l.hour = 12 - l.hour;
  return l;
}

// How far a placed key is from what is wanted. Lower is better; below about 0.5 all conditions hold.
struct Search {
  const Scene& scene;
  const Plan& plan;
  const FaceChart& chart;
  const Light& key;
  const SetLook& look;
  FacePattern pattern;
  Hardness hardness;
  double side;
  std::function<bool()> wanted;  ///< false: stop
  int asked = 0;

  /// A profile is lit from before the face and a little behind it.
  FaceDirection middle() const { return look.profile ? FaceDirection{14, 16} : middleOf(pattern); }
  double cost(double azimuth, double elevation, double distance) {
    ++asked;
    const FaceDirection place{side * azimuth, elevation};
    const Light l = lightAt(plan, scene, key, place, distance);
    double c = 0;
    const FaceDirection middle = this->middle();
    c += 0.05 * std::pow((azimuth - middle.azimuth) / 15, 2) + 0.05 * std::pow((elevation - middle.elevation) / 12, 2);
    if (!look.profile) {
      const PatternReading r = patternFrom(scene, plan, chart, key, place, distance, 8);
      if (r.pattern != pattern || r.next != FacePattern::None)
        c += r.next == pattern || r.pattern == pattern ? 0.8 : 1.6;
      if (pattern == FacePattern::Rembrandt && r.signs.triangleArea > 30)
        c += 0.6 * std::pow(std::max(0.0, r.signs.triangleWidth / r.signs.eyeWidth - 1.0), 2) +
             (r.signs.triangleWidth < 0.4 * r.signs.eyeWidth ? 0.4 : 0);
    }
    const Modifier front = frontOf(l);
    const double extent = (front.width + (front.height > 0 ? front.height : front.width)) / 2;
    if (const double wanted = spanOf(hardness); wanted > 0) {
      const double span = 2 * degrees(std::atan(float(extent / 2 / distance)));
      c += 0.12 * std::pow(std::log(std::max(0.5, span) / wanted), 2);
    }
    // The room.
    Plan p = plan;
    p.lights = {l};
    const LightPose pose = lightPose(p, l);
    const double x = std::abs(double(pose.centre.x)), z = double(pose.centre.z);
    const double half = (front.height > 0 ? front.height : front.width) / 2;
    const double top = l.height + half * std::abs(double(pose.frame.v.y)),
                 foot = l.height - half * std::abs(double(pose.frame.v.y));
    auto over = [](double by) { return by > 0 ? 1.5 + 8 * by : 0; };
    c += over(x + 0.25 - plan.room.width / 2) + over(z + 0.25 - (plan.room.depth - plan.room.behind)) +
         over(-z + 0.1 - plan.backdrop.distance) + over(top + 0.04 - plan.room.height) + over(0.1 - foot);
    // Before the lens, or in the picture.
    const CameraPose camera = cameraPose(plan, 0.8);
    for (float u : {-1.f, 0.f, 1.f})
      for (float v : {-1.f, -0.5f, 0.f, 0.5f, 1.f}) {
        const Vec3 q = pose.centre + pose.frame.u * (u * float(front.width) / 2) + pose.frame.v * (v * float(half));
        const Vec3 d = q - camera.eye;
        const float depth = -dot(d, camera.frame.n);
        if (depth < 0.02f) continue;
        const float py = std::abs(dot(d, camera.frame.v)) / (depth * camera.tanHalfHeight),
                    px = std::abs(dot(d, camera.frame.u)) / (depth * camera.tanHalfHeight * 0.8f);
        if (px < 1.04f && py < 1.04f) c += 0.25;
      }
    const Vec3 head = scene.studioPoint({0, 0, 0.05f});
    c += over(0.42 + 0.2 * extent - double(length(pose.centre - head)));
    // The spark in the eye.
    if (!look.profile && pattern != FacePattern::BackLight) {
      const Catchlights k = readCatchlights(scene, p);
      const bool needs = std::find(look.wanted.begin(), look.wanted.end(), "dead-eyes") == look.wanted.end();
      if (needs && k.living(0) + k.living(1) == 0)
        c += 0.8;
      else if (needs && pattern != FacePattern::Split && std::min(k.living(0), k.living(1)) == 0)
        c += 0.15;
    }
    return c;
  }
};

struct Found {
  double azimuth = 40, elevation = 32, distance = 1.1, cost = 1e9;
};

Found searchKey(Search& s, const Modifier& front) {
  // Near and far follow from the front: a box works from its own width to three times that.
  const double wide = std::max(front.width, front.height);
  const double nearest = std::max(0.55, 0.9 * wide),
               furthest = s.pattern == FacePattern::Split ? nearest + 0.5
                                                          : std::clamp(wide < 0.3 ? 2.4 : 2.6 * wide, 1.3, 2.6);
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
  Found best;
  auto objective = [](const std::vector<double>& x, std::vector<double>&, void* data) {
    auto* pair = static_cast<std::pair<Search*, Found*>*>(data);
    if (!pair->first->wanted()) throw nlopt::forced_stop();
    const double c = pair->first->cost(x[0], x[1], x[2]);
    if (c < pair->second->cost) *pair->second = {x[0], x[1], x[2], c};
    return c;
  };
  std::pair<Search*, Found*> both{&s, &best};
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

void addOthers(Plan& plan, const SetLook& look, const Wish& wish, std::vector<std::string>& gave) {
  std::vector<LookLight> lights = look.lights;
  const bool hasFill =
      std::any_of(lights.begin(), lights.end(), [](const LookLight& l) { return l.school.starts_with("fill"); });
  if (wish.ratioStops && !hasFill)
    lights.insert(lights.begin(), {"fill-lens", -*wish.ratioStops, {}, 0, 0, "none", "none"});
  int edges = 0;
  for (const LookLight& r : lights) {
    Light l = proposeLight(plan, r.school).light;
    if (r.targetStops < 90) l.targetStops = r.targetStops;
    if (l.role == Role::Fill && wish.ratioStops) l.targetStops = -*wish.ratioStops;
    if (!equip(l, r.fronts, plan, gave)) continue;
    l.fittings.grid = r.grid;
    l.fittings.gel = r.gel;
    l.fittings.pattern = r.pattern;
    if (r.kelvin > 0) l.fittings.kelvin = r.kelvin;
    // The second of a pair goes to the other side.
    if (l.role == Role::Rim && ++edges == 2) l.hour = 12 - l.hour;
    if (const Modifier* m = findModifier(l.modifier)) {
      const double half = (m->height > 0 ? m->height : m->width) / 2;
      l.height = std::clamp(l.height, half + 0.05, std::max(half + 0.06, plan.room.height - half - 0.03));
    }
    plan.lights.push_back(l);
  }
  if (!look.panel.empty()) plan.panels.push_back(proposePanel(plan, look.panel).panel);
}

void setTone(PlanReader& reader, Plan& plan, const std::string& tone, std::vector<std::string>& gave) {
  if (tone.empty()) return;
  if (std::none_of(plan.lights.begin(), plan.lights.end(), [](const Light& l) { return l.role == Role::Background; }) &&
      tone != "black" && tone != "almost-black")
    if (Light l = proposeLight(plan, "background").light; equip(l, {l.modifier}, plan, gave)) plan.lights.push_back(l);
  for (int round = 0; round < 2; ++round) {
    plan = reader.balanced(plan);
    const Answers answers = reader.meter(plan);
    const BackdropLight b = backgroundFor(plan, answers, tone);
    if (!b.reachable && b.onBackdrop > b.spill) gave.push_back(b.sentence);
    plan = withBackdropTone(plan, answers, tone);
  }
}

}  // namespace

bool showsPattern(const FaceReading& r, const SetLook& look, const Wish& wish) {
  const FacePattern p = patternOf(look, wish);
  if (look.profile) return r.lighting.profile;
  if (p == FacePattern::None) return r.lighting.key.empty() || r.lighting.pattern.pattern == FacePattern::BackLight;
  if (look.clamshell && !wish.pattern && !r.lighting.clamshell) return false;
  if (breadthOf(look, wish) != Breadth::Straight && r.lighting.breadth != breadthOf(look, wish)) return false;
  return r.lighting.pattern.pattern == p && r.lighting.pattern.next == FacePattern::None;
}

Plan sketchOf(const SetLook& look, const Plan& here) {
  const Wish wish;
  Plan plan = studioFor(look, wish, here);
  Studio s(8, 8);
  s.setPlan(plan);
  if (patternOf(look, wish) != FacePattern::None) {
    std::string front = look.keyFronts.empty() ? "octa-90" : look.keyFronts.front();
    const Modifier* m = findModifier(front);
    Light key = keyOf(*m, plan, false);
    FaceDirection middle = middleOf(look.pattern);
    if (look.profile) middle = {14, 16};
    middle.elevation = std::clamp(middle.elevation, look.elevationLeast, look.elevationMost);
    key = lightAt(plan, *s.scene(), key, middle, std::clamp(1.3 * m->width, 0.9, 1.6));
    key.height = std::min(key.height, plan.room.height - m->height / 2);
    plan.lights.push_back(key);
  }
  std::vector<std::string> gave;
  addOthers(plan, look, wish, gave);
  s.setPlan(plan);
  plan.lights = balance(plan, computeAnswers(*s.scene(), plan), BalanceBy::EachAlone).lights;
  if (!look.tone.empty()) {
    s.setPlan(plan);
    plan = withBackdropTone(plan, computeAnswers(*s.scene(), plan), look.tone);
  }
  return plan;
}

std::vector<Proposed> propose(const Wish& wish, const Plan& here, const std::function<bool(double)>& go, int most,
                              const Spelling& spelling, PictureEffort pictures) {
  const SetLook* look = findSetLook(wish.look);
  if (!look) throw std::invalid_argument(fmt::format("There is no look \"{}\" on the shelf.", wish.look));
  std::vector<Proposed> out;
  const Plan studio = studioFor(*look, wish, here);
  const FacePattern pattern = patternOf(*look, wish);
  const bool keyless = pattern == FacePattern::None;
  const Hardness hardness = wish.hardness.value_or(look->hardness);

  // Fronts: the look's own, then what else spans the wanted angle.
  std::vector<std::string> fronts;
  if (wish.hardness && *wish.hardness != look->hardness) {
    if (hardness == Hardness::Hard) fronts = {"reflector-18", "reflector-21", "bare"};
    if (hardness == Hardness::Firm) fronts = {"dish-55", "dish-70", "octa-55"};
    if (hardness == Hardness::Soft) fronts = {"octa-120", "softbox-90x120", "octa-90"};
  }
  for (const std::string& f : look->keyFronts) fronts.push_back(f);
  for (const char* f : {"octa-90", "softbox-60x90", "octa-55", "reflector-18", "umbrella-white"}) fronts.push_back(f);
  std::vector<std::string> usable;
  for (const std::string& f : fronts)
    if (findModifier(f) && frontLeft(f, studio) && std::find(usable.begin(), usable.end(), f) == usable.end()) usable.push_back(f);
  if (usable.empty())
    for (const Modifier& m : knownModifiers())
      if (frontLeft(m.id, studio) && m.mount == Mount::Stand) usable.push_back(m.id);
  if (usable.empty())
    throw std::invalid_argument("The kit has no modifier for a key. Enter what there is in the kit window.");
  if (keyless) usable.resize(1);
  usable.resize(std::min(usable.size(), size_t(std::clamp(most, 1, 3))));

  PlanReader reader(pictures.width, pictures.height, pictures.passes);
  std::string problem;
  size_t done = 0;
  for (const std::string& id : usable) {
    auto share = [&](double part) { return !go || go((double(done) + part) / double(usable.size())); };
    if (!share(0)) break;
    try {
      Proposed p;
      p.plan = studio;
      const Modifier& front = *findModifier(id);
      Studio room(8, 8);
      room.setPlan(studio);
      const auto scene = room.scene();
      if (!keyless) {
        const Light key = keyOf(front, studio, wish.keyLeft);
        const FaceChart chart = chartFace(*scene, 0.0035f);
        Search s{*scene,
                 studio,
                 chart,
                 key,
                 *look,
                 pattern,
                 hardness,
                 wish.keyLeft ? -1.0 : 1.0,
                 [&] { return share(0.05); }};
        const Found at = searchKey(s, front);
        Light placed = lightAt(studio, *scene, key, {s.side * at.azimuth, at.elevation}, at.distance);
        if (look->feather > 0) placed.pan = look->feather * edgeFeather(studio, placed);
        p.plan.lights.push_back(placed);
        p.cost = at.cost;
        p.name = fmt::format("{} {:.0f} degrees round and {:.0f} up, {} away", front.name, at.azimuth,
                             at.elevation, spelling.length(at.distance));
        p.reasons.push_back(
            fmt::format("{} places were tried for the {} on this face; from here it spans {:.0f} degrees.", s.asked,
                        front.name, 2 * degrees(std::atan(float((front.width + front.height) / 4 / at.distance)))));
      } else {
        p.name = "The backdrop alone";
      }
      if (!share(0.3)) break;
      addOthers(p.plan, *look, wish, p.gave);
      for (const Light& l : p.plan.lights)
        if (l.id != "A")
          p.reasons.push_back(fmt::format("{}: {}, {:.1f} stops {} the key.", l.id, l.name, std::abs(l.targetStops),
                                          l.targetStops <= 0 ? "under" : "over"));
      const std::string tone = wish.tone.empty() ? look->tone : wish.tone;
      p.plan = reader.balanced(p.plan);
      setTone(reader, p.plan, tone, p.gave);
      p.reading = reader.read(p.plan);
      // Between two patterns: the short way into the wished one.
      if (!keyless && !look->profile &&
          (p.reading.lighting.pattern.pattern != pattern || p.reading.lighting.pattern.next != FacePattern::None)) {
        const PatternWays ways = waysTo(*reader.layers().scene, p.plan, pattern, spelling);
        if (!ways.ways.empty() && ways.ways[0].possible) {
          const Plan nearer = reader.repowered(ways.ways[0].plan, p.plan);
          const FaceReading again = reader.read(nearer);
          if (showsPattern(again, *look, wish)) {
            p.plan = nearer;
            p.reading = again;
          }
        }
      }
      // What the picture tells is wrong is cured, as long as the pattern stays.
      std::vector<std::string> hopeless;
      for (int round = 0; round < 8 && p.reading.count() > 0; ++round) {
        if (!share(0.4 + 0.07 * round)) break;
        const Fault* fault = nullptr;
        for (const Fault& f : p.reading.faults)
          if (!f.caution && !f.wanted && std::find(hopeless.begin(), hopeless.end(), f.id) == hopeless.end()) {
            fault = &f;
            break;
          }
        if (!fault) break;
        const std::string what = fault->id, title = fault->title;
        bool cured = false;
        RemedySearch search;
        search.most = 1;
        search.spelling = spelling;
        search.progress = [&](double) { return share(0.4 + 0.07 * round); };
        const bool stands = showsPattern(p.reading, *look, wish);
        search.acceptable = [&](const FaceReading& after) { return !stands || showsPattern(after, *look, wish); };
        for (Remedy& r : findRemedies(reader, p.plan, what, search)) {
          if (!r.clears) continue;
          p.plan = std::move(r.plan);
          p.reading = std::move(r.reading);
          p.gave.push_back(fmt::format("{}: {}.", title, r.text));
          cured = true;
        }
        if (!cured) hopeless.push_back(what);
      }
      // Levels as they meter, from the finished set.
      p.reading = reader.read(p.plan);
      const Answers& answers = reader.answers();
      p.patternAsAsked = showsPattern(p.reading, *look, wish);
      const double wantedRatio = wish.ratioStops.value_or(look->ratioStops);
      p.ratioAsAsked = true;
      const LightAnswer* key = keyAnswer(p.plan, answers);
      if (wantedRatio > 0 && key)
        for (const Light& l : p.plan.lights)
          if (const LightAnswer* a = answers.light(l.id); a && l.on && l.role == Role::Fill) {
            p.ratioStops = std::log2(key->atFace.total() / std::max(1e-9, a->atFace.total()));
            p.ratioAsAsked = std::abs(p.ratioStops - wantedRatio) <= 0.2;
          }
      p.reachable = std::none_of(answers.lights.begin(), answers.lights.end(), [&](const LightAnswer& a) {
        const Light* l = p.plan.light(a.id);
        return l && l->on && std::abs(a.setting.shortfall) >= 0.15;  // as the fault has it
      });
      if (!p.patternAsAsked) p.gave.push_back(fmt::format("It makes {} instead.", p.reading.lighting.name));
      if (!p.ratioAsAsked) p.gave.push_back(fmt::format("The fill meters {:.1f} stops under the key.", p.ratioStops));
      if (!p.reachable) p.gave.push_back("Not every power can be set.");
      for (const Fault& f : p.reading.faults)
        if (!f.caution && !f.wanted) p.gave.push_back(fmt::format("{} stays: {}", f.title, f.sentence));
      p.plan.title = here.title;
      clampToRanges(p.plan);
      out.push_back(std::move(p));
    } catch (const std::exception& e) {
      problem = e.what();  // a front that cannot stand here at all; the others may
    }
    ++done;
  }
  if (out.empty() && !problem.empty()) throw std::runtime_error(problem);
  std::stable_sort(out.begin(), out.end(), [](const Proposed& a, const Proposed& b) {
    const int x = (a.patternAsAsked ? 0 : 4) + (a.ratioAsAsked ? 0 : 2) + (a.reachable ? 0 : 2) +
                  std::min(3, a.reading.count()),
              y = (b.patternAsAsked ? 0 : 4) + (b.ratioAsAsked ? 0 : 2) + (b.reachable ? 0 : 2) +
                  std::min(3, b.reading.count());
    return x != y ? x < y : a.cost < b.cost;
  });
  return out;
}

}  // namespace easel
