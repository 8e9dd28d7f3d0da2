#include "reading/faults.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "gear/kit.h"
#include "meter/point_meter.h"
#include "picture/develop.h"
#include "plan/check.h"
#include "plan/lamp.h"
#include "plan/placement.h"
#include "sitters/looks.h"

namespace easel {
namespace {

// Limits. Common practice, no source, where not said otherwise.
constexpr double kDeepSocket = 1.6;        // stops under the lit forehead
constexpr double kSecondShadow = 0.5;      // stops by which a second nose shadow is darker than beside it
constexpr double kHot = 1.2;               // stops over the brightest part of the face
constexpr double kOnNose = 0.12;           // share of the light on the nose's tip that may come from behind
constexpr double kUnevenFill = 0.9;        // stops, forehead against throat
constexpr double kAmbientShare = 0.10;     // of the light at the face
constexpr double kShadowOnBackdrop = 0.5;  // stops
constexpr double kIntoLens = -1.25;        // stops at the lens against the light on the face
constexpr double kNearest = 0.22;          // m, front to the middle of the head

struct Context {
  const Layers& layers;
  const Scene& scene;
  const Plan& plan;
  const Answers& answers;
  const SpotTable& table;
  const FaceReading& r;
  const FaceChart& chart;
  const Spelling& spelling;
  std::vector<FaceLight> lights;  // coarse chart, per light of the plan; empty for those that are off
  std::vector<double> energy;
  double bounced = 0;  // what the room sends back to the face, lx s
  std::vector<FaceDirection> from;
  int key = -1;
  std::vector<Fault> out;

  void say(std::string id, std::string where, std::string sentence, std::string why, std::vector<Vec3> places = {},
           bool caution = false) {
    Fault f;
    f.id = std::move(id);
    for (const auto& [k, title] : faultKinds())
      if (k == f.id) f.title = title;
    f.where = std::move(where);
    f.sentence = std::move(sentence);
    f.why = std::move(why);
    f.caution = caution;
    f.places = std::move(places);
    out.push_back(std::move(f));
  }
  bool onFace() const {
    return r.lighting.pattern.pattern != FacePattern::BackLight && r.lighting.pattern.pattern != FacePattern::None;
  }
  double spot(const char* id) const {
    for (size_t i = 0; i < table.spots.size(); ++i)
      if (table.spots[i].id == id) return table.together[i];
    return 0;
  }
  const MeterSpot* place(const char* id) const {
    for (const MeterSpot& s : table.spots)
      if (s.id == id) return &s;
    return nullptr;
  }
  bool lit(size_t i) const { return !lights[i].arrives.empty(); }
  double total(size_t cell) const {
    double sum = plan.ambient.lux * plan.camera.shutter + bounced;
    for (size_t i = 0; i < lights.size(); ++i)
      if (lit(i)) sum += energy[i] * double(lights[i].arrives[cell]);
    return sum;
  }
};

double stopsOf(double a, double b) { return a > 0 && b > 0 ? std::log2(a / b) : -99; }
std::string sideOf(bool left) { return left ? "left" : "right"; }

void sockets(Context& c) {
  const FaceFeatures& f = c.chart.features;
  if (c.key < 0 || !c.onFace() || c.from[size_t(c.key)].elevation < 25) return;
  const Landmarks& m = c.scene.sitter().landmarks;
  double forehead = 0;
  int nf = 0;
  std::array<double, 2> socket{};
  std::array<int, 2> count{};
  for (int j = 0; j < c.chart.height; ++j)
    for (int i = 0; i < c.chart.width; ++i) {
      const size_t k = c.chart.index(i, j);
      if (!c.chart.skin(k)) continue;
      const float x = c.chart.x(i), y = c.chart.y(j);
      if (y > f.eyeLine + 0.035f && y < f.eyeLine + 0.055f && std::abs(x) < 0.04f) {
        forehead += c.total(k);
        ++nf;
      }
      for (int e = 0; e < 2; ++e) {
        const float dx = x - (e == 0 ? m.eyeLeft.x : m.eyeRight.x);
        if (std::abs(dx) < 0.016f && y > f.eyeLine - 0.010f && y < f.eyeLine + 0.016f) {
          socket[size_t(e)] += c.total(k);
          ++count[size_t(e)];
        }
      }
    }
  if (!nf || !count[0] || !count[1]) return;
  forehead /= nf;
  // The better of the two: a shadow side may well lie dark.
  const double best = std::max(socket[0] / count[0], socket[1] / count[1]);
  const double under = -stopsOf(best, forehead);
  if (under > kDeepSocket)
    c.say("deep-sockets", "light " + c.r.lighting.key,
          fmt::format("Both eye sockets lie {:.1f} stops under the forehead: {} comes from {:.0f} degrees up.", under,
                      c.r.lighting.key, c.from[size_t(c.key)].elevation),
          "Eyes in dark hollows look tired or menacing, and nothing else in a face is looked at first.",
          {c.scene.studioPoint(m.eyeLeft), c.scene.studioPoint(m.eyeRight)});
}

void eyes(Context& c) {
  const Catchlights& k = c.r.catchlights;
  if (!c.onFace() || c.r.lighting.profile || (!k.seesEye[0] && !k.seesEye[1])) return;
  const Landmarks& m = c.scene.sitter().landmarks;
  if (k.living(0) + k.living(1) == 0) {
    std::string hidden;
    for (const Catchlight& l : k.all)
      if (l.light == c.r.lighting.key && !l.hiddenBy.empty()) {
        hidden = fmt::format(" {} is kept out by {}{}.", l.light, l.hiddenBy,
                             l.lowerTo > 0 ? fmt::format("; at {} it would show", c.spelling.length(l.lowerTo)) : "");
        break;
      }
    c.say("dead-eyes", "eyes", "Neither eye has a catchlight." + hidden,
          "Without a spark the eye looks like glass: catchlights make a portrait live.",
          {c.scene.studioPoint(m.eyeLeft), c.scene.studioPoint(m.eyeRight)});
  }
  for (const Catchlight& l : k.all)
    if (const Light* light = l.lives ? c.plan.light(l.light) : nullptr;
        light && (light->role == Role::Background || light->role == Role::Hair || light->role == Role::Rim)) {
      c.say("stray-catchlight", "light " + l.light,
            fmt::format("{} shows in the {} eye at {:.0f} o'clock.", l.light, sideOf(l.eye == 0), l.hour),
            "A spark that belongs to no light of the face reads as a mistake.", {l.point});
      break;
    }
}

// Dark places of light `i` that the face shows as a nose's shadow: how much darker than if it were not thrown.
struct NoseShadow {
  double depth = 0, area = 0;
  Vec3 middle{};
  double x = 0;
};
NoseShadow noseShadowOf(const Context& c, size_t i) {
  NoseShadow s;
  PatternMasks masks;
  readPattern(c.chart, c.lights[i], c.from[i], &masks);
  double depth = 0;
  int seen = 0;
  Vec3 sum{};
  double x = 0;
  for (int j = 0; j < c.chart.height; ++j)
    for (int col = 0; col < c.chart.width; ++col) {
      const size_t k = c.chart.index(col, j);
      if (!masks.noseShadow[k]) continue;
      // Where no other light comes either it is one shadow, not two.
      bool other = false;
      for (size_t o = 0; o < c.lights.size(); ++o)
        other |= o != i && c.lit(o) && c.lights[o].arrives[k] > 0.5f * c.lights[o].open[k] &&
                 c.energy[o] * double(c.lights[o].arrives[k]) > 0.2 * c.energy[i] * double(c.lights[i].open[k]);
      if (!other) continue;
      const double now = c.total(k), without = now + c.energy[i] * double(c.lights[i].open[k] - c.lights[i].arrives[k]);
      const double d = stopsOf(without, now);
      if (d < kSecondShadow) continue;
      ++seen;
      depth += d;
      sum += c.chart.cells[k].position;
      x += double(c.chart.x(col));
    }
  if (!seen) return s;
  s.depth = depth / seen;
  s.area = seen * double(c.chart.step) * double(c.chart.step) * 1e6;
  s.middle = sum / float(seen);
  s.x = x / seen;
  return s;
}

void noseShadows(Context& c) {
  if (!c.onFace()) return;
  std::vector<std::pair<size_t, NoseShadow>> found;
  for (size_t i = 0; i < c.lights.size(); ++i) {
    if (!c.lit(i) || std::abs(c.from[i].azimuth) > 85 || c.from[i].elevation < -5) continue;
    const NoseShadow s = noseShadowOf(c, i);
    if (s.area > 70) found.emplace_back(i, s);
  }
  for (size_t a = 0; a < found.size(); ++a)
    for (size_t b = a + 1; b < found.size(); ++b)
      if (std::abs(found[a].second.x - found[b].second.x) > 0.012) {
        const Light &p = c.plan.lights[found[a].first], &q = c.plan.lights[found[b].first];
        const Light& weaker = c.energy[found[a].first] * double(c.lights[found[a].first].reference) <
                                      c.energy[found[b].first] * double(c.lights[found[b].first].reference)
                                  ? p
                                  : q;
        const NoseShadow& its = &weaker == &p ? found[a].second : found[b].second;
        c.say("two-nose-shadows", "light " + weaker.id,
              fmt::format("The nose throws a second shadow: {} draws one beside that of {}, {:.1f} stops deep.",
                          weaker.id, (&weaker == &p ? q : p).id, its.depth),
              "One sun, one shadow: two cross the face like a moustache and give the set away.", {its.middle});
        return;
      }
}

void fills(Context& c) {
  const LightAnswer* key = nullptr;
  for (const LightAnswer& a : c.answers.lights)
    if (a.id == c.r.lighting.key) key = &a;
  if (!key || key->atFace.total() <= 0) return;
  for (const Light& l : c.plan.lights) {
    const LightAnswer* a = c.answers.light(l.id);
    if (!a || !l.on || l.role != Role::Fill) continue;
    const double over = stopsOf(a->atFace.total(), key->atFace.total());
    if (over > 0.05)
      c.say("fill-over-key", "light " + l.id,
            fmt::format("Fill {} is {:.1f} stops over the key {} at the face.", l.id, over, key->id),
            "Then it is the key, and the shadows fall the wrong way; from below it is the look of horror.");
  }
  if (std::abs(c.r.measures.fillTopToBottom) > kUnevenFill) {
    const bool low = c.r.measures.fillTopToBottom < 0;
    c.say("uneven-fill", "face",
          fmt::format("The fill is {:.1f} stops stronger at the {} than at the {}.",
                      std::abs(c.r.measures.fillTopToBottom), low ? "throat" : "forehead", low ? "forehead" : "throat"),
          "A fill that is much nearer to one end of the face shows where it stands: it should only lift shadows.");
  }
}

void fromBelow(Context& c) {
  if (c.key < 0) return;
  const double key = c.energy[size_t(c.key)] * double(c.lights[size_t(c.key)].reference);
  for (size_t i = 0; i < c.lights.size(); ++i) {
    const Light& l = c.plan.lights[i];
    if (!c.lit(i) || l.role == Role::Background || std::abs(c.from[i].azimuth) > 80 || c.from[i].elevation > -10)
      continue;
    const double level = stopsOf(c.energy[i] * double(c.lights[i].reference), key);
    if (int(i) == c.key || level > -0.6) {
      c.say("from-below", "light " + l.id,
            fmt::format("{} comes from {:.0f} degrees below the face{}.", l.id, -c.from[i].elevation,
                        int(i) == c.key ? ""
                        : level > 0.05  ? fmt::format(" and is {:.1f} stops over the key", level)
                        : level < -0.05 ? fmt::format(" and is only {:.1f} stops under the key", -level)
                                        : " and is as strong as the key"),
            "Light that rises throws the nose's shadow up: the look of a camp fire and of horror.",
            {c.scene.studioPoint(c.chart.features.noseTip)});
      return;
    }
  }
}

void hotSpots(Context& c) {
  if (!c.onFace()) return;
  const double face = std::max({c.spot("face"), c.spot("cheek-left"), c.spot("cheek-right"), c.spot("forehead")});
  if (face <= 0) return;
  const bool bald = c.plan.sitter.hairStyle == "shaved",
             pale = paleHead(c.plan.sitter.id, c.plan.sitter.hairColour, c.plan.sitter.hairStyle);
  struct Where {
    const char *id, *name;
    double limit;
  };
  const std::array<Where, 5> all{{{"hair-left", "left side of the head",
                                   kHot + (bald   ? 0
                                           : pale ? 0.4
                                                  : 1.0)},
                                  {"hair-right", "right side of the head",
                                   kHot + (bald   ? 0
                                           : pale ? 0.4
                                                  : 1.0)},
                                  {"shoulder-left", "left shoulder", kHot},
                                  {"shoulder-right", "right shoulder", kHot},
                                  {"hair-top", bald ? "scalp" : "top of the hair",
                                   kHot + (bald   ? 0
                                           : pale ? 0.4
                                                  : 1.0)}}};
  for (const Where& w : all) {
    const double over = stopsOf(c.spot(w.id), face);
    const MeterSpot* place = c.place(w.id);
    if (over <= w.limit || !place) continue;
    // Who brings most of it.
    size_t row = 0;
    for (size_t i = 0; i < c.table.spots.size(); ++i)
      if (c.table.spots[i].id == w.id) row = i;
    size_t most = 0;
    double best = -1;
    for (size_t i = 0; i < c.plan.lights.size(); ++i)
      if (c.plan.lights[i].on && c.table.luxSeconds[row][i] > best) {
        best = c.table.luxSeconds[row][i];
        most = i;
      }
    c.say("hot-spot", "light " + c.plan.lights[most].id,
          fmt::format("The {} gets {:.1f} stops more than the brightest part of the face, most of it from {}.", w.name,
                      over, c.plan.lights[most].id),
          "The eye goes to the brightest place; it should be the face.", {place->position});
    return;
  }
}

void onTheNose(Context& c) {
  if (c.key < 0) return;
  const double key = c.energy[size_t(c.key)] * double(c.lights[size_t(c.key)].reference);
  const Vec3 tip = c.scene.studioPoint(c.chart.features.noseTip);
  for (size_t i = 0; i < c.lights.size(); ++i) {
    const Light& l = c.plan.lights[i];
    if (!c.lit(i) || int(i) == c.key || l.role == Role::Fill) continue;
    if (std::abs(c.from[i].azimuth) < 85 && c.from[i].elevation < 60) continue;
    double most = 0;
    Vec3 where = tip;
    for (size_t k = 0; k < c.chart.cells.size(); ++k)
      if (c.chart.skin(k) && length(c.chart.cells[k].position - tip) < 0.011f) {
        const double share = c.energy[i] * double(c.lights[i].arrives[k]) / std::max(1e-9, key);
        if (share > most) {
          most = share;
          where = c.chart.cells[k].position;
        }
      }
    if (most > kOnNose && c.onFace()) {
      c.say("on-the-nose", "light " + l.id,
            fmt::format("{} from behind touches the tip of the nose, {:.1f} stops {} the key's light.", l.id,
                        std::abs(std::log2(most)), most < 1 ? "under" : "over"),
            "A bright tip looks like a drop. Light from behind should end at the forehead.", {where});
      return;
    }
  }
}

void backdrop(Context& c) {
  const Measures& m = c.r.measures;
  if (!m.backdropShows) return;
  bool background = false;
  for (const Light& l : c.plan.lights) background |= l.on && l.role == Role::Background;
  const Vec3 brightest{float(m.brightestAside), float(c.plan.sitter.eyeHeight - m.brightestBelowEyes),
                       -float(c.plan.backdrop.distance)};
  if (background && m.backdropGradient > 1.3 && std::abs(m.brightestBelowEyes) < 0.16 &&
      std::abs(m.brightestAside) < 0.30 && m.backdropLightness > 8)
    c.say("halo", "backdrop",
          fmt::format("The backdrop is brightest round the head ({:.1f} stops over its darkest part).",
                      m.backdropGradient),
          "A halo belongs to saints: the glow wants to sit behind the shoulder blades.", {brightest});
  const double rho = backdropLuminance(c.plan.backdrop.material);
  if (background && rho > 0.6 && m.backdropLightness < 92)
    c.say(
        "grey-white", "backdrop",
        fmt::format("The white backdrop comes out {} (lightness {:.0f} of 100).", m.backdropTone, m.backdropLightness),
        "White that is not two stops over the key prints grey.", {brightest});
  if (rho > 0.6 && c.answers.backdropValue > rho * std::exp2(2.15))
    c.say("white-flares", "backdrop",
          fmt::format("The white backdrop gets {:.1f} stops over the camera's setting.",
                      std::log2(c.answers.backdropValue / rho)),
          "Beyond two stops it throws light back past the outline: flare, and edges that are eaten away.", {brightest});
  if (!background && rho < 0.1 && m.backdropLightness > 14) {
    const LightAnswer* most = nullptr;
    double best = 0;
    for (const LightAnswer& a : c.answers.lights) {
      const Light* l = c.plan.light(a.id);
      if (!l || !l->on) continue;
      const double there = a.atFace.total() * std::exp2(a.backdropStops);
      if (there > best) {
        best = there;
        most = &a;
      }
    }
    if (most)
      c.say("spill", "light " + most->id,
            fmt::format("The black backdrop does not stay black (lightness {:.0f}): most of the light on it is {}'s.",
                        m.backdropLightness, most->id),
            "Spill takes the depth out of black.", {brightest});
  }
  for (const LightAnswer& a : c.answers.lights) {
    const Light* l = c.plan.light(a.id);
    if (!l || !l->on || (l->role != Role::Hair && l->role != Role::Rim && l->role != Role::Kicker)) continue;
    const double there = a.atFace.total() * std::exp2(a.backdropStops);
    if (there > 0.4 * c.answers.backdrop.total() && m.backdropLightness > 25) {
      c.say("spill", "light " + a.id,
            fmt::format("{:.0f} % of the light on the backdrop is {}'s, which is there for the outline.",
                        100 * there / c.answers.backdrop.total(), a.id),
            "Spill lights what nobody asked for, and moves when the light does.", {brightest});
      break;
    }
  }
  if (m.hairMerged > 0.35 && !m.outline.empty()) {
    c.say("merged-outline", "backdrop",
          fmt::format("{:.0f} % of the head's outline has the backdrop's tone, or both are black.", 100 * m.hairMerged),
          "Where hair and backdrop have one tone the head loses its shape.");
  }
}

// A light, its stand or a panel within the picture; and lamps that shine into the lens.
void frame(Context& c) {
  const Vec3 lens = c.layers.view.camera.eye;
  auto shows = [&](Vec3 p) {
    if (!pixelOf(c.layers, p)) return false;
    const Vec3 d = p - lens;
    const float far = length(d);
    const auto hit = c.scene.meet(lens, d / far, 1, 0.5f);
    return !hit || hit->distance > far - 0.03f;
  };
  for (size_t i = 0; i < c.plan.lights.size(); ++i) {
    const Light& l = c.plan.lights[i];
    if (!findUnit(l.unit) || !findModifier(l.modifier) || onLens(l)) continue;
    const Emitter e = emitterOf(c.plan, l);
    const LightPose& pose = e.pose();
    const Modifier* m = findModifier(l.modifier);
    const float hw = float(m->width) / 2, hh = float(m->height > 0 ? m->height : m->width) / 2;
    std::vector<Vec3> seen;
    int lampPoints = 0;
    for (float u : {-0.95f, -0.5f, 0.f, 0.5f, 0.95f})
      for (float v : {-0.95f, -0.5f, 0.f, 0.5f, 0.95f}) {
        const Vec3 p = pose.centre + pose.frame.u * (u * hw) + pose.frame.v * (v * hh);
        if (shows(p)) {
          seen.push_back(p);
          ++lampPoints;
        }
      }
    // Over the sitter's head a light hangs from a boom that comes from outside.
    const bool boom = std::hypot(pose.centre.x, pose.centre.z) < 0.95f && l.height > c.plan.sitter.eyeHeight + 0.45;
    int standPoints = 0;
    if (!boom)
      for (float y = 0.05f; y < float(l.height) - hh; y += 0.08f)
        if (const Vec3 p{pose.centre.x, y, pose.centre.z}; shows(p)) {
          seen.push_back(p);
          ++standPoints;
        }
    // The bulb of a prop is there to be seen, and stands in its prop.
    if (lampPoints + standPoints > 0 && l.modifier != "lamp-6") {
      c.say("in-frame", "light " + l.id,
            fmt::format("{} stands in the picture{}.", lampPoints ? l.id : "The stand of " + l.id,
                        lampPoints > 12 ? ", most of it" : ", a corner of it"),
            "It has to be taken out in the studio or in the computer; the studio is quicker.", seen);
    }
    // Shining into the lens: from behind the sitter, with nothing between.
    if (!l.on || pose.centre.z > 0) continue;
    const double atLens = c.energy[i] * directLux(&c.scene, e, lens, normalize(pose.centre - lens), Receptor::Flat, 32);
    const double over = stopsOf(atLens, c.answers.face.total());
    if (over > kIntoLens)
      c.say("flare", "light " + l.id,
            fmt::format("{} shines into the lens, {:.1f} stops {} the light on the face.", l.id, std::abs(over),
                        over >= 0 ? "over" : "under"),
            "It veils the shadows: grid it, turn it, or put a flag between it and the lens.", {pose.centre});
  }
}

void shadowOnBackdrop(Context& c) {
  if (!c.r.measures.backdropShows || !c.onFace()) return;
  const float z = -float(c.plan.backdrop.distance) + 3e-3f;
  struct Cell {
    Vec3 p;
    double now = 0, without = 0;
    std::vector<double> missing;
  };
  std::vector<Cell> cells;
  for (int y = 1; y < 20; ++y)
    for (int x = 1; x < 16; ++x) {
      const auto hit = surfaceAt(c.layers, c.layers.width * x / 16.0, c.layers.height * y / 20.0);
      if (hit && hit->surface == Surface::Backdrop) cells.push_back({{hit->position.x, hit->position.y, z}, 0, 0, {}});
    }
  if (cells.size() < 10) return;
  std::vector<std::pair<size_t, Emitter>> emitters;
  for (size_t i = 0; i < c.plan.lights.size(); ++i) {
    const Light& l = c.plan.lights[i];
    if (l.on && l.role != Role::Background && findUnit(l.unit) && findModifier(l.modifier) &&
        lightPose(c.plan, l).centre.z > -0.1f)
      emitters.emplace_back(i, emitterOf(c.plan, l));
  }
  std::vector<Emitter> behind;
  std::vector<double> behindEnergy;
  for (size_t i = 0; i < c.plan.lights.size(); ++i) {
    const Light& l = c.plan.lights[i];
    if (l.on && findUnit(l.unit) && findModifier(l.modifier) &&
        (l.role == Role::Background || lightPose(c.plan, l).centre.z <= -0.1f)) {
      behind.push_back(emitterOf(c.plan, l));
      behindEnergy.push_back(c.energy[i]);
    }
  }
  // What the room sends back fills the shadow: much the same all over it, so it is asked for once.
  double bounced = 0;
  const Vec3 middle = cells[cells.size() / 2].p;
  for (const auto& [i, e] : emitters)
    bounced +=
        c.energy[i] * bouncedLux(c.scene, sourceOf(c.plan, c.plan.lights[i]), middle, {0, 0, 1}, Receptor::Flat, 96);
  tbb::parallel_for(size_t(0), cells.size(), [&](size_t k) {
    Cell& cell = cells[k];
    double sum = c.plan.ambient.lux * c.plan.camera.shutter + bounced;
    for (size_t b = 0; b < behind.size(); ++b)
      sum += behindEnergy[b] * directLux(&c.scene, behind[b], cell.p, {0, 0, 1}, Receptor::Flat, 4);
    double open = 0, come = 0;
    for (const auto& [i, e] : emitters) {
      const double o = c.energy[i] * directLux(nullptr, e, cell.p, {0, 0, 1}, Receptor::Flat, 6),
                   a = c.energy[i] * directLux(&c.scene, e, cell.p, {0, 0, 1}, Receptor::Flat, 6);
      open += o;
      come += a;
      cell.missing.push_back(o - a);
    }
    cell.now = sum + come;
    cell.without = sum + open;
  });
  const double rho = backdropLuminance(c.plan.backdrop.material) / kPi *
                     cameraGain(c.plan.camera.iso, c.plan.camera.shootingAperture());
  int shadowed = 0;
  double deepest = 0;
  std::vector<Vec3> places;
  std::vector<double> missing(emitters.size(), 0);
  for (const Cell& cell : cells) {
    const double depth = stopsOf(cell.without, cell.now);
    // In near-black nobody sees it.
    if (depth < kShadowOnBackdrop || rho * cell.without < 0.012) continue;
    ++shadowed;
    deepest = std::max(deepest, depth);
    places.push_back(cell.p);
    for (size_t e = 0; e < missing.size(); ++e) missing[e] += cell.missing[e];
  }
  if (shadowed < int(cells.size()) / 25 + 1 || emitters.empty()) return;
  const size_t most = size_t(std::max_element(missing.begin(), missing.end()) - missing.begin());
  const std::string id = c.plan.lights[emitters[most].first].id;
  c.say("shadow-on-backdrop", "light " + id,
        fmt::format("The sitter's shadow from {} lies on the backdrop, up to {:.1f} stops deep over {:.0f} % of what "
                    "shows of it.",
                    id, deepest, 100.0 * shadowed / double(cells.size())),
        fmt::format("A shadow on the wall is a second figure in the picture. From {} away it falls out of sight.",
                    c.spelling.length(1.5)),
        places);
}

void collisions(Context& c) {
  struct Body {
    const Light* light;
    LightPose pose;
    float hw, hh, depth;
  };
  std::vector<Body> bodies;
  for (const Light& l : c.plan.lights) {
    const Modifier* m = findModifier(l.modifier);
    if (!m || onLens(l)) continue;
    bodies.push_back({&l, lightPose(c.plan, l), float(m->width) / 2, float(m->height > 0 ? m->height : m->width) / 2,
                      std::max(0.12f, float(m->depth))});
  }
  const Vec3 head = c.scene.studioPoint({0, 0, 0.05f});
  for (const Body& b : bodies) {
    // The nearest point of the front to the head.
    const Vec3 d = head - b.pose.centre;
    const Vec3 q = b.pose.centre + b.pose.frame.u * std::clamp(dot(d, b.pose.frame.u), -b.hw, b.hw) +
                   b.pose.frame.v * std::clamp(dot(d, b.pose.frame.v), -b.hh, b.hh);
    if (const double near = double(length(head - q)); near < kNearest)
      c.say("touches-sitter", "light " + b.light->id,
            fmt::format("The front of {} is {} from the middle of the head.", b.light->id, c.spelling.length(near)),
            "Nobody sits still with a box against the ear, and what is hot must not be there.", {q});
  }
  for (size_t i = 0; i < bodies.size(); ++i)
    for (size_t j = i + 1; j < bodies.size(); ++j) {
      const Body &a = bodies[i], &b = bodies[j];
      bool inside = false;
      for (const auto& [p, q] : {std::pair{&a, &b}, std::pair{&b, &a}})
        for (float u : {-1.f, 0.f, 1.f})
          for (float v : {-1.f, 0.f, 1.f}) {
            const Vec3 point = p->pose.centre + p->pose.frame.u * (u * p->hw) + p->pose.frame.v * (v * p->hh);
            const Vec3 d = point - q->pose.centre;
            const float n = dot(d, q->pose.frame.n);
            inside |= std::abs(dot(d, q->pose.frame.u)) < q->hw && std::abs(dot(d, q->pose.frame.v)) < q->hh &&
                      n < 0.03f && n > -q->depth;
          }
      if (inside)
        c.say("stands-collide", "light " + b.light->id,
              fmt::format("{} and {} stand in the same place.", a.light->id, b.light->id),
              "Two boxes do not fit where one stands.", {b.pose.centre});
    }
}

void exposure(Context& c) {
  const Measures& m = c.r.measures;
  if (m.burnt > 0.015)
    c.say("burnt", "face", fmt::format("{:.0f} % of the face is burnt out.", 100 * m.burnt),
          "Skin without tone is paper; no file brings it back.");
  for (const LightAnswer& a : c.answers.lights) {
    const Light* l = c.plan.light(a.id);
    const Unit* u = l ? findUnit(l->unit) : nullptr;
    if (!u || !l->on || std::abs(a.setting.shortfall) < 0.15) continue;
    const auto help = remedies(c.plan, *l, a, c.spelling);
    c.say("out-of-reach", "light " + a.id,
          fmt::format("{} is {:.1f} stops too {} for its target where it stands.", a.id, std::abs(a.setting.shortfall),
                      a.setting.shortfall > 0 ? "weak at full power" : "strong at its lowest power"),
          help.empty() ? "Its power cannot be set there." : help.front());
  }
  bool flash = false;
  for (const Light& l : c.plan.lights) {
    const Unit* u = findUnit(l.unit);
    flash |= l.on && u && u->kind == UnitKind::Flash;
  }
  const double ambient = c.answers.ambient.total(), face = c.answers.face.total();
  if (flash && face > 0 && ambient > kAmbientShare * face)
    c.say("ambient", "ambient",
          fmt::format("{:.0f} % of the light at the face is the room's own.", 100 * ambient / face),
          "It fills shadows that nobody sees while placing lights, in its own colour, and blurs what moves.");
  // The meter held in a pattern's or a panel's shadow reads for the shadow.
  if (c.key >= 0 && c.onFace()) {
    const FaceLight& key = c.lights[size_t(c.key)];
    const Source source = sourceOf(c.plan, c.plan.lights[size_t(c.key)]);
    const Vec3 at = c.answers.meterSpot, to = normalize(source.emitter().pose().centre - at);
    const double here = directLux(&c.scene, source.emitter(), at, to, Receptor::Flat, 64) +
                        panelLux(c.scene, source, at, to, Receptor::Flat, 128);
    const double under = stopsOf(double(key.reference), here);
    if (here <= 0 || under > 1.0)
      c.say("meter-in-shadow", "light " + c.r.lighting.key,
            "The meter's place before the nose lies in a shadow of " + c.r.lighting.key +
                (here > 0 ? fmt::format(": {:.1f} stops under what it gives the brightest parts of the face.", under)
                          : std::string(".")),
            "Powered for that reading the rest of the face is overexposed. Meter where the light falls: pin a spot.",
            {at});
  }
}

void fromCheck(Context& c) {
  for (const Finding& f : checkPlan(c.plan, c.spelling)) {
    if (f.id.empty()) continue;
    const bool boom = f.id == "boom";
    c.say(f.id, f.where, f.sentence,
          f.id == "sync" ? "A focal-plane shutter that is not open at once hides a strip of the picture from the flash."
          : f.id == "ceiling" ? "It cannot stand so."
          : boom              ? "What hangs over people must not be able to fall."
                              : "It cannot stand so.",
          {}, boom);
  }
}

}  // namespace

const std::vector<std::pair<std::string, std::string>>& faultKinds() {
  static const std::vector<std::pair<std::string, std::string>> all = {
      {"touches-sitter", "Too near the sitter"},
      {"ceiling", "Through the ceiling"},
      {"floor", "Through the floor"},
      {"outside-room", "Outside the room"},
      {"behind-backdrop", "Behind the backdrop"},
      {"stands-collide", "Two stands in one place"},
      {"sync", "Shutter over sync"},
      {"out-of-reach", "Power out of reach"},
      {"fill-over-key", "Fill over key"},
      {"from-below", "Light from below"},
      {"deep-sockets", "Deep eye sockets"},
      {"dead-eyes", "No catchlight"},
      {"two-nose-shadows", "Two nose shadows"},
      {"burnt", "Burnt-out skin"},
      {"meter-in-shadow", "Meter in a shadow"},
      {"in-frame", "In the picture"},
      {"panel-in-frame", "Panel before the lens"},
      {"flare", "Lamp into the lens"},
      {"hot-spot", "Hot spot beside the face"},
      {"on-the-nose", "Back light on the nose"},
      {"shadow-on-backdrop", "Shadow on the backdrop"},
      {"halo", "Halo round the head"},
      {"grey-white", "Grey white"},
      {"white-flares", "White that flares"},
      {"spill", "Spill on the backdrop"},
      {"merged-outline", "Head merges with backdrop"},
      {"uneven-fill", "Uneven fill"},
      {"stray-catchlight", "Stray catchlight"},
      {"ambient", "Room light in the picture"},
      {"boom", "Boom over the sitter"},
  };
  return all;
}

int FaceReading::count() const {
  return int(std::count_if(faults.begin(), faults.end(), [](const Fault& f) { return !f.caution && !f.wanted; }));
}
const Fault* FaceReading::fault(const std::string& id, const std::string& where) const {
  for (const Fault& f : faults)
    if (f.id == id && (where.empty() || f.where == where)) return &f;
  return nullptr;
}

FaceReading readPicture(const Layers& layers, const Plan& plan, const Answers& answers, const SpotTable& table,
                        const std::vector<LightQuality>& quality, const Spelling& spelling) {
  FaceReading r;
  const Scene& scene = *layers.scene;
  const FaceChart fine = chartFace(scene, 0.0025f);
  r.lighting = readLighting(scene, plan, fine);
  r.measures = measurePicture(layers, plan, table, quality, r.lighting, fine, spelling);
  r.catchlights = readCatchlights(scene, plan);
  const FaceChart coarse = chartFace(scene, 0.0035f);
  Context c{layers, scene, plan, answers, table, r, coarse, spelling, {}, {}, 0, {}, -1, {}};
  c.lights.resize(plan.lights.size());
  const Vec3 nose = scene.studioPoint(coarse.features.noseTip + Vec3{0, 0, 0.01f}),
             forward = normalize(scene.studioPoint({0, 0, 1}) - scene.studioPoint({0, 0, 0}));
  const auto bounces = bouncePoints(scene, nose, forward, Receptor::Flat, 128);
  for (size_t i = 0; i < plan.lights.size(); ++i) {
    const Light& l = plan.lights[i];
    const bool known = findUnit(l.unit) && findModifier(l.modifier);
    c.energy.push_back(known ? lampEnergy(l, plan.camera.shutter) : 0);
    c.from.push_back({});
    if (!known || !l.on) continue;
    const Source source = sourceOf(plan, l);
    c.from.back() = directionFromFace(plan, scene, source.emitter().pose().centre);
    c.lights[i] = lightOnFace(scene, coarse, source, 12);
    c.bounced += c.energy[i] * bouncedLux(scene, source, bounces);
    if (l.id == r.lighting.key) c.key = int(i);
  }
  fromCheck(c);
  collisions(c);
  exposure(c);
  fills(c);
  fromBelow(c);
  sockets(c);
  eyes(c);
  noseShadows(c);
  frame(c);
  hotSpots(c);
  onTheNose(c);
  shadowOnBackdrop(c);
  backdrop(c);
  r.faults = std::move(c.out);
  auto rank = [](const Fault& f) {
    size_t k = 0;
    while (k < faultKinds().size() && faultKinds()[k].first != f.id) ++k;
    return k + (f.caution ? 100 : 0) + (f.wanted ? 200 : 0);
  };
  for (Fault& f : r.faults) f.wanted = std::find(plan.wanted.begin(), plan.wanted.end(), f.id) != plan.wanted.end();
  std::stable_sort(r.faults.begin(), r.faults.end(), [&](const Fault& a, const Fault& b) { return rank(a) < rank(b); });
  return r;
}

}  // namespace easel
