#include "propose/propose.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <stdexcept>

#include "analysis/map.h"
#include "analysis/remedies.h"
#include "analysis/ways.h"
#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "exposure/stops.h"
#include "gear/inventory.h"
#include "gear/panel_kinds.h"
#include "plan/framing.h"
#include "plan/lamp.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "plan/roles.h"
#include "propose/key_search.h"
#include "spoken/say.h"

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

FacePattern patternOf(const Look& look, const Wish& wish) { return wish.pattern.value_or(look.pattern); }
Breadth breadthOf(const Look& look, const Wish& wish) { return wish.breadth.value_or(look.breadth); }

// What burns in a lamp's shade.
bool inLamps(const Modifier& m) { return m.family == ModifierFamily::Continuous && m.outline == Outline::Ball; }

// A unit that carries the front: a mains head for boxes and dishes, the small one for what fits on it.
// None when the kit has no flash left: then the light cannot be put up.
std::optional<std::string> unitFor(const Modifier& m, const Plan& plan) {
  const bool small = (m.family == ModifierFamily::Small && m.mount != Mount::Lens) || inLamps(m);
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
    gave.push_back(say("The kit has no modifier left for the {}: it is left out.", roleName(l.role)));
    return false;
  }
  l.modifier = *front;
  const auto unit = unitFor(*findModifier(l.modifier), plan);
  if (!unit) {
    gave.push_back(say("The kit has no flash left for the {}: it is left out.", roleName(l.role)));
    return false;
  }
  l.unit = *unit;
  return true;
}

// The bare studio with the look's backdrop and the head as the look wants it.
Plan studioFor(const Look& look, const Wish& wish, const Plan& here) {
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

// What of a piece the picture is to show: a lamp or a painting whole, of a table the place that is lit, of an opening
// what is beside the head.
void toBeSeen(const Plan& plan, const Panel& panel, std::vector<Vec3>& points) {
  switch (shapeOf(panel.kind)) {
    case PanelShape::Shade:
    case PanelShape::Picture:
      for (const Leaf& l : outlinesOf(panel))
        for (const Vec3& corner : l.corners()) points.push_back(corner);
      return;
    case PanelShape::Table:
      for (const Vec3& about : {Vec3{-0.2f, 0, 0}, Vec3{0.2f, 0, 0}, Vec3{0, 0, 0.2f}})
        points.push_back(spotOf(panel).at + about);
      return;
    case PanelShape::Doorway:
    case PanelShape::Window:
      for (const float aside : {-0.2f, 0.2f})
        points.push_back({spotOf(panel).at.x + aside, float(plan.sitter.eyeHeight), spotOf(panel).at.z});
      return;
    default:
      return;  // before the lamp, or beside the picture
  }
}
// The picture wide enough for what the look shows in it.
void stepBack(Plan& plan, const Look& look) {
  std::vector<Vec3> points;
  for (const Panel& p : plan.panels)
    if (std::find(look.pieces.begin(), look.pieces.end(), p.kind) != look.pieces.end()) toBeSeen(plan, p, points);
  if (!points.empty()) plan.camera = widened(plan, points);
}
// Before the key is searched, which must not stand in that picture: as if it stood where keys usually do.
Camera cameraFor(const Look& look, const Plan& studio, const Light& key) {
  Plan p = studio;
  p.lights.push_back(key);
  for (const std::string& piece : look.pieces) p.panels.push_back(proposePanel(p, piece).panel);
  stepBack(p, look);
  return p.camera;
}

// A branch stands in the key's way, wherever a cure has put the key.
bool branchFollows(Plan& plan) {
  bool moved = false;
  for (Panel& p : plan.panels) {
    if (shapeOf(p.kind) != PanelShape::Branch) continue;
    const Panel again = proposePanel(plan, p.kind).panel;
    moved |= std::abs(again.above - p.above) > 0.01 || std::abs(again.hour - p.hour) > 0.02 ||
             std::abs(again.distance - p.distance) > 0.01;
    p.hour = again.hour;
    p.distance = again.distance;
    p.above = again.above;
    p.turn = again.turn;
  }
  return moved;
}

// By similar triangles, how wide the edges of leaves before the key are on the face [m].
double blurOfLeaves(const Plan& plan) {
  const Light* key = plan.key();
  const Modifier* front = key ? findModifier(key->modifier) : nullptr;
  double most = 0;
  for (const Panel& p : plan.panels)
    if (front && shapeOf(p.kind) == PanelShape::Branch)
      most = std::max(most, front->width * p.distance / std::max(0.05, key->distance - p.distance));
  return most;
}

void addOthers(Plan& plan, const Look& look, const Wish& wish, std::vector<std::string>& gave) {
  std::vector<LookLight> lights = look.lights;
  const bool hasFill =
      std::any_of(lights.begin(), lights.end(), [](const LookLight& l) { return l.school.starts_with("fill"); });
  if (wish.ratioStops && !hasFill)
    lights.insert(lights.begin(), {"fill-lens", -*wish.ratioStops, {}, 0, 0, "none", "none"});
  for (const std::string& piece : look.pieces) plan.panels.push_back(proposePanel(plan, piece).panel);
  int edges = 0;
  for (const LookLight& r : lights) {
    Light l = proposeLight(plan, r.school).light;
    if (r.targetStops) l.targetStops = *r.targetStops;
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
  stepBack(plan, look);
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

bool showsPattern(const FaceAnalysis& r, const Look& look, const Wish& wish) {
  const FacePattern p = patternOf(look, wish);
  if (look.profile) return r.lighting.profile;
  if (p == FacePattern::None) return r.lighting.key.empty() || r.lighting.pattern.pattern == FacePattern::BackLight;
  if (look.clamshell && !wish.pattern && !r.lighting.clamshell) return false;
  if (breadthOf(look, wish) != Breadth::Straight && r.lighting.breadth != breadthOf(look, wish)) return false;
  return r.lighting.pattern.pattern == p && r.lighting.pattern.next == FacePattern::None;
}

double turnOf(const Look& look, const Plan& here) { return studioFor(look, {}, here).sitter.turn; }

Plan sketchOf(const Look& look, const Plan& here) {
  const Wish wish;
  Plan plan = studioFor(look, wish, here);
  ProgressiveRender s(8, 8);
  s.setPlan(plan);
  if (patternOf(look, wish) != FacePattern::None) {
    std::string front = look.keyFronts.empty() ? "octa-90" : look.keyFronts.front();
    const Modifier* m = findModifier(front);
    Light key = keyOf(*m, plan, false);
    FaceDirection middle = middleOf(look.pattern);
    if (look.profile) middle = {14, 16};
    middle.elevation = std::clamp(middle.elevation, look.elevationLeast, look.elevationMost);
    key = lightAt(*s.set(), *s.scene(), key, middle, std::clamp(1.3 * m->width, 0.9, 1.6));
    key.height = std::min(key.height, plan.room.height - m->height / 2);
    plan.lights.push_back(key);
  }
  std::vector<std::string> gave;
  addOthers(plan, look, wish, gave);
  s.setPlan(plan);
  plan.lights = balance(plan, computeAnswers(*s.scene(), *s.set()), BalanceBy::EachAlone).lights;
  if (!look.tone.empty()) {
    s.setPlan(plan);
    plan = withBackdropTone(plan, computeAnswers(*s.scene(), *s.set()), look.tone);
  }
  return plan;
}

namespace {

// The look's own fronts, then what else spans the wanted angle, as far as the kit has one left.
std::vector<std::string> usableFronts(const Look& look, const Wish& wish, Hardness hardness, const Plan& studio) {
  std::vector<std::string> fronts;
  if (wish.hardness && *wish.hardness != look.hardness) {
    if (hardness == Hardness::Hard) fronts = {"reflector-18", "reflector-21", "bare"};
    if (hardness == Hardness::Firm) fronts = {"dish-55", "dish-70", "octa-55"};
    if (hardness == Hardness::Soft) fronts = {"octa-120", "softbox-90x120", "octa-90"};
  }
  for (const std::string& f : look.keyFronts) fronts.push_back(f);
  for (const char* f : {"octa-90", "softbox-60x90", "octa-55", "reflector-18", "umbrella-white"}) fronts.push_back(f);
  std::vector<std::string> usable;
  for (const std::string& f : fronts)
    if (findModifier(f) && frontLeft(f, studio) && std::find(usable.begin(), usable.end(), f) == usable.end())
      usable.push_back(f);
  if (usable.empty())
    for (const Modifier& m : knownModifiers())
      if (frontLeft(m.id, studio) && m.mount == Mount::Stand) usable.push_back(m.id);
  if (usable.empty())
    throw std::invalid_argument(say("The kit has no modifier for a key. Enter what there is in the kit window."));
  return usable;
}

// One set for one front of the key.
class Proposing {
 public:
  Proposing(const Wish& wish, const Look& look, const Plan& here, const Plan& studio, PlanReader& reader,
            const Spelling& spelling, std::function<bool(double)> share)
      : wish_(wish),
        look_(look),
        here_(here),
        studio_(studio),
        reader_(reader),
        spelling_(spelling),
        share_(std::move(share)),
        pattern_(patternOf(look, wish)) {
    p_.plan = studio;
  }

  /// Empty: somebody has said stop. Throws when this front cannot stand here.
  std::optional<Proposed> with(const Modifier& front) {
    if (keyless())
      p_.name = say("The backdrop alone");
    else
      placeKey(front);
    if (!share_(0.3)) return {};
    placeOthers();
    p_.plan = reader_.balanced(p_.plan);
    setTone(reader_, p_.plan, wish_.tone.empty() ? look_.tone : wish_.tone, p_.gave);
    p_.reading = reader_.read(p_.plan);
    if (!keyless() && !look_.profile) intoPattern();
    cureFaults();
    p_.reading = reader_.read(p_.plan);
    compareWithWish();
    p_.cost += 10 * blurOfLeaves(p_.plan);  // leaves that are a haze are no leaves
    p_.plan.title = here_.title;
    clampToRanges(p_.plan);
    return std::move(p_);
  }

 private:
  bool keyless() const { return pattern_ == FacePattern::None; }
  void placeKey(const Modifier& front);
  void placeOthers();
  // Between two patterns: the short way into the wished one.
  void intoPattern();
  // What the picture shows to be wrong, as long as the pattern stays.
  void cureFaults();
  // Levels as they meter, from the finished set.
  void compareWithWish();

  const Wish& wish_;
  const Look& look_;
  const Plan &here_, &studio_;
  PlanReader& reader_;
  const Spelling& spelling_;
  const std::function<bool(double)> share_;
  const FacePattern pattern_;
  Proposed p_;
};

void Proposing::placeKey(const Modifier& front) {
  ProgressiveRender room(8, 8);
  room.setPlan(studio_);
  const auto scene = room.scene();
  const Light key = keyOf(front, studio_, wish_.keyLeft);
  const auto chart = chartFace(*scene, 0.004f);
  Plan alone = studio_;
  alone.lights = {key};
  KeySearch s{*scene,
              placedSetOf(alone),
              *chart,
              look_,
              pattern_,
              wish_.hardness.value_or(look_.hardness),
              wish_.keyLeft ? -1.0 : 1.0,
              [&] { return share_(0.05); }};
  const KeyPlace at = searchKey(s, front);
  Light placed = lightAt(s.set, *scene, key, {s.side * at.azimuth, at.elevation}, at.distance);
  if (look_.feather > 0) placed.pan = look_.feather * edgeFeather(studio_, placed);
  p_.plan.lights.push_back(placed);
  p_.cost = at.cost;
  p_.name = say("{} {:.0f} degrees round and {:.0f} up, {} away", front.name, at.azimuth, at.elevation,
                spelling_.length(at.distance));
  p_.reasons.push_back(say("{} places were tried for the {} on this face; from here it spans {:.0f} degrees.", s.asked,
                           front.name, 2 * degrees(std::atan(float((front.width + front.height) / 4 / at.distance)))));
}

void Proposing::placeOthers() {
  addOthers(p_.plan, look_, wish_, p_.gave);
  for (const Light& l : p_.plan.lights)
    if (l.id != "A")
      p_.reasons.push_back(std::abs(l.targetStops) < 0.05 ? say("{}: {}, as strong as the key.", l.id, l.name)
                           : l.targetStops < 0
                               ? say("{}: {}, {:.1f} stops under the key.", l.id, l.name, -l.targetStops)
                               : say("{}: {}, {:.1f} stops over the key.", l.id, l.name, l.targetStops));
  if (const Camera& c = p_.plan.camera;
      c.distance != here_.camera.distance || c.focalLength != here_.camera.focalLength)
    p_.reasons.push_back(say("The camera stands {} away with {:.0f} mm, so that the picture shows it all.",
                             spelling_.length(c.distance), c.focalLength));
}

void Proposing::intoPattern() {
  const PatternAnalysis& now = p_.reading.lighting.pattern;
  if (now.pattern == pattern_ && now.next == FacePattern::None) return;
  const PatternWays ways = waysTo(*reader_.layers().scene, p_.plan, pattern_, spelling_);
  if (!ways.ways.empty() && ways.ways[0].possible) {
    const Plan nearer = reader_.repowered(ways.ways[0].plan, p_.plan);
    const FaceAnalysis again = reader_.read(nearer);
    if (showsPattern(again, look_, wish_)) {
      p_.plan = nearer;
      p_.reading = again;
    }
  }
}

void Proposing::cureFaults() {
  std::vector<std::string> hopeless;
  for (int round = 0; round < 8 && p_.reading.count() > 0; ++round) {
    if (!share_(0.4 + 0.07 * round)) break;
    const Fault* fault = nullptr;
    for (const Fault& f : p_.reading.faults)
      if (!f.caution && !f.wanted && std::find(hopeless.begin(), hopeless.end(), f.id) == hopeless.end()) {
        fault = &f;
        break;
      }
    if (!fault) break;
    const std::string what = fault->id, title = fault->title;
    bool cured = false;
    RemedySearch search;
    search.most = 1;
    search.spelling = spelling_;
    search.progress = [&](double) { return share_(0.4 + 0.07 * round); };
    const bool stands = showsPattern(p_.reading, look_, wish_);
    search.acceptable = [&](const FaceAnalysis& after) { return !stands || showsPattern(after, look_, wish_); };
    for (Remedy& r : findRemedies(reader_, p_.plan, what, search)) {
      if (!r.clears) continue;
      p_.plan = std::move(r.plan);
      p_.reading = branchFollows(p_.plan) ? reader_.read(p_.plan) : std::move(r.reading);
      p_.gave.push_back(fmt::format("{}: {}.", title, r.text));
      cured = true;
    }
    if (!cured) hopeless.push_back(what);
  }
}

void Proposing::compareWithWish() {
  const Answers& answers = reader_.answers();
  p_.patternAsAsked = showsPattern(p_.reading, look_, wish_);
  const double wantedRatio = wish_.ratioStops.value_or(look_.ratioStops);
  p_.ratioAsAsked = true;
  const LightAnswer* key = keyAnswer(p_.plan.lights, answers);
  if (wantedRatio > 0 && key)
    for (const Light& l : p_.plan.lights)
      if (const LightAnswer* a = answers.light(l.id); a && l.on && l.role == Role::Fill) {
        p_.ratioStops = stopsFromRatio(key->atFace.total() / std::max(1e-9, a->atFace.total()));
        p_.ratioAsAsked = std::abs(p_.ratioStops - wantedRatio) <= 0.2;
      }
  p_.reachable = std::none_of(answers.lights.begin(), answers.lights.end(), [&](const LightAnswer& a) {
    const Light* l = p_.plan.light(a.id);
    return l && l->on && std::abs(a.setting.shortfall) >= 0.15;  // as the fault has it
  });
  if (!p_.patternAsAsked) p_.gave.push_back(say("It makes {} instead.", p_.reading.lighting.name));
  if (!p_.ratioAsAsked) p_.gave.push_back(say("The fill meters {:.1f} stops under the key.", p_.ratioStops));
  if (!p_.reachable) p_.gave.push_back(say("Not every power can be set."));
  for (const Fault& f : p_.reading.faults)
    if (!f.caution && !f.wanted) p_.gave.push_back(say("{} stays: {}", f.title, f.sentence));
}

}  // namespace

std::vector<Proposed> propose(const Wish& wish, const Plan& here, const std::function<bool(double)>& go, int most,
                              const Spelling& spelling, PictureEffort pictures) {
  const Look* look = findLook(wish.look);
  if (!look) throw std::invalid_argument(say("There is no look \"{}\" on the shelf.", wish.look));
  Plan studio = studioFor(*look, wish, here);
  std::vector<std::string> usable = usableFronts(*look, wish, wish.hardness.value_or(look->hardness), studio);
  if (patternOf(*look, wish) == FacePattern::None) usable.resize(1);
  usable.resize(std::min(usable.size(), size_t(std::clamp(most, 1, 3))));

  if (!look->pieces.empty())
    studio.camera = cameraFor(*look, studio, keyOf(*findModifier(usable.front()), studio, wish.keyLeft));
  PlanReader reader(pictures.width, pictures.height, pictures.passes);
  std::vector<Proposed> out;
  std::string problem;
  size_t done = 0;
  for (const std::string& id : usable) {
    const auto share = [&](double part) { return !go || go((double(done) + part) / double(usable.size())); };
    if (!share(0)) break;
    try {
      auto proposed = Proposing(wish, *look, here, studio, reader, spelling, share).with(*findModifier(id));
      if (!proposed) break;
      out.push_back(std::move(*proposed));
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
