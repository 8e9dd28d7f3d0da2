#include <algorithm>
#include <array>
#include <cmath>

#include "analysis/fault_search.h"
#include "analysis/glare.h"
#include "exposure/stops.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "plan/subject.h"
#include "sitters/colouring.h"
#include "sitters/people.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel::rules {

void sockets(FaultSearch& c) {
  if (c.key() < 0 || !c.onFace() || c.from()[size_t(c.key())].elevation < 25) return;
  const FaceChart& chart = c.chart();
  const FaceFeatures& f = chart.features;
  const Landmarks& m = c.scene.sitter().landmarks;
  double forehead = 0;
  int nf = 0;
  std::array<double, 2> socket{};
  std::array<int, 2> count{};
  for (int j = 0; j < chart.height; ++j)
    for (int i = 0; i < chart.width; ++i) {
      const size_t k = chart.index(i, j);
      if (!chart.skin(k)) continue;
      const float x = chart.x(i), y = chart.y(j);
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
    c.tell("deep-sockets", lightSubject(c.lighting().key),
           say("Both eye sockets lie {:.1f} stops under the forehead: {} comes from {:.0f} degrees up.", under,
               c.lighting().key, c.from()[size_t(c.key())].elevation),
           {c.scene.studioPoint(m.eyeLeft), c.scene.studioPoint(m.eyeRight)});
}

void eyes(FaultSearch& c) {
  const Catchlights& k = c.catchlights();
  if (!c.onFace() || c.lighting().profile || (!k.seesEye[0] && !k.seesEye[1])) return;
  const Landmarks& m = c.scene.sitter().landmarks;
  if (k.living(0) + k.living(1) == 0) {
    std::string hidden;
    for (const Catchlight& l : k.all)
      if (l.light == c.lighting().key && !l.hiddenBy.empty()) {
        hidden = l.lowerTo > 0 ? say(" {} is kept out by {}; at {} it would show.", l.light, l.hiddenBy,
                                     c.spelling.length(l.lowerTo))
                               : say(" {} is kept out by {}.", l.light, l.hiddenBy);
        break;
      }
    c.tell("dead-eyes", "eyes", say("Neither eye has a catchlight.") + hidden,
           {c.scene.studioPoint(m.eyeLeft), c.scene.studioPoint(m.eyeRight)});
  }
  for (const Catchlight& l : k.all)
    if (const PlacedLight* light = l.lives ? c.set.light(l.light) : nullptr;
        light && worksFromBehind(light->light.role)) {
      c.tell("stray-catchlight", lightSubject(l.light),
             l.eye == 0 ? say("{} shows in the left eye at {} o'clock.", l.light, wholeHour(l.hour))
                        : say("{} shows in the right eye at {} o'clock.", l.light, wholeHour(l.hour)),
             {l.point});
      break;
    }
}

static std::string saidGlare(const std::string& name, const Glare& g) {
  const double lens = 100 * g.share, eye = 100 * g.onEye, stops = std::abs(g.overSkin);
  if (g.lens == 0)
    return g.overSkin > 0 ? say("{} shows in the left lens: {:.0f} % of it, and {:.0f} % of what shows the eye, {:.1f} "
                                "stops over lit skin.",
                                name, lens, eye, stops)
                          : say("{} shows in the left lens: {:.0f} % of it, and {:.0f} % of what shows the eye, {:.1f} "
                                "stops under lit skin.",
                                name, lens, eye, stops);
  return g.overSkin > 0 ? say("{} shows in the right lens: {:.0f} % of it, and {:.0f} % of what shows the eye, {:.1f} "
                              "stops over lit skin.",
                              name, lens, eye, stops)
                        : say("{} shows in the right lens: {:.0f} % of it, and {:.0f} % of what shows the eye, {:.1f} "
                              "stops under lit skin.",
                              name, lens, eye, stops);
}

void glasses(FaultSearch& c) {
  if (!c.scene.glasses()) return;
  const double key = c.key() < 0 ? 0 : c.energy[size_t(c.key())] * double(c.lights()[size_t(c.key())].reference);
  const std::vector<Glare> all = readGlare(c.scene, c.set, key, personOf(c.set.sitter.id).skin);
  const auto size = [](const Glare& g) { return std::max(g.onEye / kGlareOnEye, g.share / kGlareOnLens); };
  const auto tell = [&](const std::string& where, const std::string& name, auto ofIt) {
    const Glare* worst = nullptr;
    std::vector<Vec3> places;
    for (const Glare& g : all) {
      if (!ofIt(g) || g.overSkin < kGlareShows || size(g) < 1) continue;
      places.push_back(g.place);
      if (!worst || size(g) > size(*worst)) worst = &g;
    }
    if (!worst) return;
    c.tell("glare-on-glasses", where, saidGlare(name, *worst), places);
  };
  for (const PlacedLight& l : c.set.lights) {
    const std::string& id = l.light.id;
    tell(lightSubject(id), id, [&](const Glare& g) { return g.light == id; });
  }
  for (const Panel& p : c.set.panels)
    tell(panelSubject(p.id), calledFirst(p), [&](const Glare& g) { return g.panel == p.id; });
}

void brim(FaultSearch& c) {
  if (!c.scene.hasHat() || c.key() < 0 || !c.lit(size_t(c.key()))) return;
  const auto key = size_t(c.key());
  const LightOnFace& light = c.lights()[key];
  const Vec3 lamp = c.set.lights[key].pose.centre;
  const FaceChart& chart = c.chart();
  const FaceFeatures& f = chart.features;
  const Landmarks& m = c.scene.sitter().landmarks;
  double shaded = 0, all = 0, has = 0, would = 0;
  float lowest = f.browLine;
  std::array<double, 2> eye{}, cells{};
  for (int j = 0; j < chart.height; ++j)
    for (int i = 0; i < chart.width; ++i) {
      const size_t k = chart.index(i, j);
      if (!chart.skin(k) || light.open[k] <= 0) continue;
      const float x = chart.x(i), y = chart.y(j);
      ++all;
      const bool under = light.arrives[k] < 0.6f * light.open[k] && c.scene.hatBetween(chart.cells[k].position, lamp);
      shaded += under;
      if (under && std::abs(x) < 0.03f) lowest = std::min(lowest, y);
      for (size_t e = 0; e < 2; ++e) {
        if (std::abs(x - (e == 0 ? m.eyeLeft.x : m.eyeRight.x)) > 0.018f || std::abs(y - f.eyeLine) > 0.016f) continue;
        ++cells[e];
        eye[e] += under;
        has += c.total(k);
        would += c.total(k) + c.energy[key] * double(light.open[k] - light.arrives[k]);
      }
    }
  if (cells[0] < 1 || cells[1] < 1 || has <= 0) return;
  // One eye may lie in the shadow of a hat that is worn aslant.
  const double takes = stopsOf(would, has);
  if (std::min(eye[0] / cells[0], eye[1] / cells[1]) < 0.5 || takes < kBrimTakes) return;
  const std::string& name = c.lighting().key;
  const double share = 100 * shaded / all;
  c.tell("brim-shadow", lightSubject(name),
         lowest > f.lidLine
             ? say("The brim keeps {} off both eyes and {:.0f} % of the face, down to the eyes: {:.1f} stops less.",
                   name, share, takes)
         : lowest > m.noseTip.y
             ? say("The brim keeps {} off both eyes and {:.0f} % of the face, down to the nose: {:.1f} stops less.",
                   name, share, takes)
         : lowest > f.mouthLine
             ? say("The brim keeps {} off both eyes and {:.0f} % of the face, down to the upper lip: {:.1f} stops "
                   "less.",
                   name, share, takes)
             : say("The brim keeps {} off both eyes and {:.0f} % of the face, down to the chin: {:.1f} stops less.",
                   name, share, takes),
         {c.scene.studioPoint(m.eyeLeft), c.scene.studioPoint(m.eyeRight)});
}

// Dark places of light `i` that the face shows as a nose's shadow: how much darker than if it were not thrown.
struct NoseShadow {
  double depth = 0, area = 0;
  Vec3 middle{};
  double x = 0;
};
NoseShadow noseShadowOf(const FaultSearch& c, size_t i) {
  const FaceChart& chart = c.chart();
  const std::vector<LightOnFace>& lights = c.lights();
  NoseShadow s;
  PatternMasks masks;
  readPattern(chart, lights[i], c.from()[i], &masks);
  double depth = 0;
  int seen = 0;
  Vec3 sum{};
  double x = 0;
  for (int j = 0; j < chart.height; ++j)
    for (int col = 0; col < chart.width; ++col) {
      const size_t k = chart.index(col, j);
      if (!masks.noseShadow[k]) continue;
      // Where no other light comes either it is one shadow, not two.
      bool other = false;
      for (size_t o = 0; o < lights.size(); ++o)
        other |= o != i && c.lit(o) && lights[o].arrives[k] > 0.5f * lights[o].open[k] &&
                 c.energy[o] * double(lights[o].arrives[k]) > 0.2 * c.energy[i] * double(lights[i].open[k]);
      if (!other) continue;
      const double now = c.total(k), without = now + c.energy[i] * double(lights[i].open[k] - lights[i].arrives[k]);
      const double d = stopsOf(without, now);
      if (d < kSecondShadow) continue;
      ++seen;
      depth += d;
      sum += chart.cells[k].position;
      x += double(chart.x(col));
    }
  if (!seen) return s;
  s.depth = depth / seen;
  s.area = seen * double(chart.step) * double(chart.step) * 1e6;
  s.middle = sum / float(seen);
  s.x = x / seen;
  return s;
}

void noseShadows(FaultSearch& c) {
  if (!c.onFace()) return;
  std::vector<std::pair<size_t, NoseShadow>> found;
  for (size_t i = 0; i < c.lights().size(); ++i) {
    if (!c.lit(i) || std::abs(c.from()[i].azimuth) > 85 || c.from()[i].elevation < -5) continue;
    const NoseShadow s = noseShadowOf(c, i);
    if (s.area > 70) found.emplace_back(i, s);
  }
  for (size_t a = 0; a < found.size(); ++a)
    for (size_t b = a + 1; b < found.size(); ++b)
      if (std::abs(found[a].second.x - found[b].second.x) > 0.012) {
        const Light &p = c.set.lights[found[a].first].light, &q = c.set.lights[found[b].first].light;
        const Light& weaker = c.energy[found[a].first] * double(c.lights()[found[a].first].reference) <
                                      c.energy[found[b].first] * double(c.lights()[found[b].first].reference)
                                  ? p
                                  : q;
        const NoseShadow& its = &weaker == &p ? found[a].second : found[b].second;
        c.tell("two-nose-shadows", lightSubject(weaker.id),
               say("The nose throws a second shadow: {} draws one beside that of {}, {:.1f} stops deep.", weaker.id,
                   (&weaker == &p ? q : p).id, its.depth),
               {its.middle});
        return;
      }
}

void fillOverKey(FaultSearch& c) {
  const LightAnswer* key = nullptr;
  for (const LightAnswer& a : c.answers().lights)
    if (a.id == c.lighting().key) key = &a;
  if (!key || key->atFace.total() <= 0) return;
  for (const PlacedLight& placed : c.set.lights) {
    const Light& l = placed.light;
    const LightAnswer* a = c.answers().light(l.id);
    if (!a || !l.on || l.role != Role::Fill) continue;
    const double over = stopsOf(a->atFace.total(), key->atFace.total());
    if (over > 0.05)
      c.tell("fill-over-key", lightSubject(l.id),
             say("Fill {} is {:.1f} stops over the key {} at the face.", l.id, over, key->id));
  }
}

void unevenFill(FaultSearch& c) {
  const bool keyed = std::any_of(c.answers().lights.begin(), c.answers().lights.end(), [&](const LightAnswer& a) {
    return a.id == c.lighting().key && a.atFace.total() > 0;
  });
  const double more = keyed ? c.measures().fillTopToBottom : 0;
  if (std::abs(more) <= kUnevenFill) return;
  c.tell("uneven-fill", "face",
         more < 0 ? say("The fill is {:.1f} stops stronger at the throat than at the forehead.", -more)
                  : say("The fill is {:.1f} stops stronger at the forehead than at the throat.", more));
}

void fromBelow(FaultSearch& c) {
  if (c.key() < 0) return;
  const double key = c.energy[size_t(c.key())] * double(c.lights()[size_t(c.key())].reference);
  for (size_t i = 0; i < c.lights().size(); ++i) {
    const Light& l = c.set.lights[i].light;
    if (!c.lit(i) || l.role == Role::Background || std::abs(c.from()[i].azimuth) > 80 || c.from()[i].elevation > -10)
      continue;
    const double level = stopsOf(c.energy[i] * double(c.lights()[i].reference), key);
    if (int(i) == c.key() || level > -0.6) {
      const double below = -c.from()[i].elevation;
      c.tell("from-below", lightSubject(l.id),
             int(i) == c.key() ? say("{} comes from {:.0f} degrees below the face.", l.id, below)
             : level > 0.05 ? say("{} comes from {:.0f} degrees below the face and is {:.1f} stops over the key.", l.id,
                                  below, level)
             : level < -0.05
                 ? say("{} comes from {:.0f} degrees below the face and is only {:.1f} stops under the key.", l.id,
                       below, -level)
                 : say("{} comes from {:.0f} degrees below the face and is as strong as the key.", l.id, below),
             {c.scene.studioPoint(c.chart().features.noseTip)});
      return;
    }
  }
}

void hotSpots(FaultSearch& c) {
  if (!c.onFace()) return;
  const double face = std::max({c.spot("face"), c.spot("cheek-left"), c.spot("cheek-right"), c.spot("forehead")});
  if (face <= 0) return;
  const bool bald = c.set.sitter.hairStyle == "shaved",
             pale = paleHead(c.set.sitter.id, c.set.sitter.hairColour, c.set.sitter.hairStyle);
  struct Where {
    const char* id;
    std::string name;
    double limit;
  };
  const std::array<Where, 5> all{{{"hair-left", say("left side of the head"),
                                   kHot + (bald   ? 0
                                           : pale ? 0.4
                                                  : 1.0)},
                                  {"hair-right", say("right side of the head"),
                                   kHot + (bald   ? 0
                                           : pale ? 0.4
                                                  : 1.0)},
                                  {"shoulder-left", say("left shoulder"), kHot},
                                  {"shoulder-right", say("right shoulder"), kHot},
                                  {"hair-top", bald ? say("scalp") : say("top of the hair"),
                                   kHot + (bald   ? 0
                                           : pale ? 0.4
                                                  : 1.0)}}};
  for (const Where& w : all) {
    const double over = stopsOf(c.spot(w.id), face);
    const MeterSpot* place = c.place(w.id);
    if (over <= w.limit || !place) continue;
    // Who brings most of it.
    size_t row = 0;
    for (size_t i = 0; i < c.table().spots.size(); ++i)
      if (c.table().spots[i].id == w.id) row = i;
    size_t most = 0;
    double best = -1;
    for (size_t i = 0; i < c.set.lights.size(); ++i)
      if (c.set.lights[i].light.on && c.table().luxSeconds[row][i] > best) {
        best = c.table().luxSeconds[row][i];
        most = i;
      }
    c.tell("hot-spot", lightSubject(c.set.lights[most].light.id),
           say("The {} gets {:.1f} stops more than the brightest part of the face, most of it from {}.", w.name, over,
               c.set.lights[most].light.id),
           {place->position});
    return;
  }
}

void onTheNose(FaultSearch& c) {
  if (c.key() < 0) return;
  const double key = c.energy[size_t(c.key())] * double(c.lights()[size_t(c.key())].reference);
  const FaceChart& chart = c.chart();
  const Vec3 tip = c.scene.studioPoint(chart.features.noseTip);
  for (size_t i = 0; i < c.lights().size(); ++i) {
    const Light& l = c.set.lights[i].light;
    if (!c.lit(i) || int(i) == c.key() || l.role == Role::Fill) continue;
    if (std::abs(c.from()[i].azimuth) < 85 && c.from()[i].elevation < 60) continue;
    double most = 0;
    Vec3 where = tip;
    for (size_t k = 0; k < chart.cells.size(); ++k)
      if (chart.skin(k) && length(chart.cells[k].position - tip) < 0.011f) {
        const double share = c.energy[i] * double(c.lights()[i].arrives[k]) / std::max(1e-9, key);
        if (share > most) {
          most = share;
          where = chart.cells[k].position;
        }
      }
    if (most > kOnNose && c.onFace()) {
      c.tell("on-the-nose", lightSubject(l.id),
             most < 1 ? say("{} from behind touches the tip of the nose, {:.1f} stops under the key's light.", l.id,
                            -stopsFromRatio(most))
                      : say("{} from behind touches the tip of the nose, {:.1f} stops over the key's light.", l.id,
                            stopsFromRatio(most)),
             {where});
      return;
    }
  }
}

}  // namespace easel::rules
