#include "analysis/measures.h"

#include <algorithm>
#include <cmath>

#include "balance/backdrop_tone.h"
#include "colour/colour.h"
#include "colour/lightness.h"
#include "exposure/meter.h"
#include "exposure/ratio.h"
#include "exposure/stops.h"
#include "meter/point_meter.h"
#include "picture/develop.h"
#include "spoken/say.h"
#include "threads/parallel.h"

namespace easel {
namespace {

double shownLightness(double linear) { return lightness(srgbDecode(toneCurve(std::max(0.0, linear)))); }

// The picture in blocks: mean luminance and what shows in the middle.
struct Blocks {
  int width = 0, height = 0, size = 4;
  std::vector<float> value;
  std::vector<Surface> surface;
  std::vector<Vec3> place;
  size_t at(int x, int y) const { return size_t(y) * size_t(width) + size_t(x); }
};

Blocks blocksOf(const Layers& layers, const PlacedSet& set) {
  Blocks b;
  b.size = std::max(1, layers.width / 160);
  b.width = layers.width / b.size;
  b.height = layers.height / b.size;
  const size_t n = size_t(b.width) * size_t(b.height);
  b.value.assign(n, 0);
  b.surface.assign(n, Surface::Nothing);
  b.place.resize(n);
  std::vector<float> planes[3];
  linearPicture(layers, set, kWholeFrame, planes);
  inParallel(size_t(b.height), [&](size_t at) {
    const int y = int(at);
    for (int x = 0; x < b.width; ++x) {
      double sum = 0;
      for (int dy = 0; dy < b.size; ++dy)
        for (int dx = 0; dx < b.size; ++dx) {
          const size_t k = size_t(y * b.size + dy) * size_t(layers.width) + size_t(x * b.size + dx);
          sum += double(luminance({planes[0][k], planes[1][k], planes[2][k]}));
        }
      b.value[b.at(x, y)] = float(sum / (b.size * b.size));
      const double mid = b.size / 2.0;
      if (const auto hit = bareAt(*layers.scene, layers.view, x * b.size + mid, y * b.size + mid)) {
        b.surface[b.at(x, y)] = hit->surface;
        b.place[b.at(x, y)] = hit->position;
      }
    }
  });
  return b;
}

void outlineOf(const Blocks& b, const Layers& layers, const PlacedSet& set, Measures& m) {
  struct Raw {
    double angle;
    OutlinePlace place;
    double in, out;
  };
  std::vector<Raw> raw;
  const auto eyes = pixelOf(layers, {0, float(set.sitter.eyeHeight), 0.05f});
  const double cx = eyes ? double(eyes->x) / b.size : b.width / 2.0,
               cy = eyes ? double(eyes->y) / b.size : b.height / 3.0;
  const double shoulders = set.sitter.eyeHeight - 0.15;  // under the neck
  for (int y = 2; y + 2 < b.height; ++y)
    for (int x = 2; x + 2 < b.width; ++x) {
      if (!ofSitter(b.surface[b.at(x, y)])) continue;
      if (b.surface[b.at(x - 1, y)] != Surface::Backdrop && b.surface[b.at(x + 1, y)] != Surface::Backdrop &&
          b.surface[b.at(x, y - 1)] != Surface::Backdrop)
        continue;
      double in = 0, out = 0;
      int ni = 0, no = 0, hair = 0, skin = 0;
      for (int dy = -2; dy <= 2; ++dy)
        for (int dx = -2; dx <= 2; ++dx) {
          const size_t k = b.at(x + dx, y + dy);
          if (ofSitter(b.surface[k])) {
            in += double(b.value[k]);
            ++ni;
            hair += b.surface[k] == Surface::Hair;
            skin += b.surface[k] == Surface::Skin;
          } else if (b.surface[k] == Surface::Backdrop && std::abs(dx) + std::abs(dy) > 1) {
            out += double(b.value[k]);
            ++no;
          }
        }
      if (ni < 4 || no < 3) continue;
      Raw r;
      r.in = in / ni;
      r.out = out / no;
      // From the foot of the picture on the left over the head to its foot on the right.
      r.angle = std::atan2(x - cx, cy - y);
      r.place.pixel = {float((x + 0.5) * b.size), float((y + 0.5) * b.size)};
      r.place.part = double(b.place[b.at(x, y)].y) < shoulders ? OutlinePlace::Part::Shoulder
                     : hair >= skin                            ? OutlinePlace::Part::Hair
                                                               : OutlinePlace::Part::Face;
      raw.push_back(r);
    }
  if (raw.empty()) return;
  std::stable_sort(raw.begin(), raw.end(), [](const Raw& a, const Raw& c) { return a.angle < c.angle; });
  // Stretches: what the eye takes as one piece of edge.
  constexpr int kStretches = 48;
  const size_t each = std::max<size_t>(3, raw.size() / kStretches);
  size_t hair = 0, merged = 0;
  for (size_t from = 0; from < raw.size(); from += each) {
    const size_t to = std::min(raw.size(), from + each);
    if (to - from < 2) break;
    OutlinePlace p = raw[(from + to) / 2].place;
    double in = 0, out = 0;
    for (size_t k = from; k < to; ++k) {
      in += raw[k].in;
      out += raw[k].out;
    }
    in /= double(to - from);
    out /= double(to - from);
    p.inside = shownLightness(in);
    p.outside = shownLightness(out);
    p.stops = stopsFromRatio(std::max(1e-6, in) / std::max(1e-6, out));
    if (p.part != OutlinePlace::Part::Shoulder) {
      ++hair;
      merged += p.merges();
    }
    m.outline.push_back(p);
  }
  // Over three stretches: where a lit side passes into a dark one a single place always has the backdrop's tone.
  double least = 1e9;
  for (int i = 1; i + 1 < int(m.outline.size()); ++i) {
    double sum = 0;
    for (int k = i - 1; k <= i + 1; ++k) sum += std::abs(m.outline[size_t(k)].difference());
    if (sum < least) {
      least = sum;
      m.weakest = i;
    }
  }
  m.hairMerged = hair ? double(merged) / double(hair) : 0;
}

void backdropOf(const Blocks& b, const PlacedSet& set, Measures& m) {
  double sum = 0, most = 0, least = 1e9;
  int n = 0;
  Vec3 where{};
  for (int y = 2; y + 2 < b.height; ++y)
    for (int x = 2; x + 2 < b.width; ++x) {
      double v = 0;
      bool all = true;
      for (int dy = -2; dy <= 2 && all; ++dy)
        for (int dx = -2; dx <= 2 && all; ++dx) {
          const size_t k = b.at(x + dx, y + dy);
          all = b.surface[k] == Surface::Backdrop;
          v += double(b.value[k]);
        }
      if (!all) continue;
      v /= 25;
      sum += v;
      ++n;
      least = std::min(least, v);
      if (v > most) {
        most = v;
        where = b.place[b.at(x, y)];
        m.backdropBrightest = {float((x + 0.5) * b.size), float((y + 0.5) * b.size)};
      }
    }
  m.backdropShows = n > 20;
  if (!m.backdropShows) return;
  const double mean = sum / n;
  m.backdropLightness = shownLightness(mean);
  m.backdropTone = toneName(mean);
  m.backdropGradient = most > 0 ? stopsFromRatio(most / std::max(1e-5, least)) : 0;
  m.brightestBelowEyes = set.sitter.eyeHeight - double(where.y);
  m.brightestAside = double(where.x);
}

void faceExposure(const Layers& layers, const PlacedSet& set, const FaceChart& chart, Measures& m) {
  const Picture p = developPicture(layers, set, kWholeFrame);
  const Vec3 lens = layers.view.camera.eye;
  int all = 0, burnt = 0, blocked = 0;
  for (size_t k = 0; k < chart.cells.size(); k += 2) {
    const FaceCell& c = chart.cells[k];
    if (c.surface != Surface::Skin) continue;
    const Vec3 to = lens - c.position;
    const float d = length(to);
    if (dot(c.normal, to / d) < 0.15f) continue;
    const auto at = pixelOf(layers, c.position);
    if (!at || layers.scene->occluded(c.position, to / d, 1e-4f, d - 0.01f, 1)) continue;
    const size_t q = (size_t(at->y) * size_t(p.width) + size_t(at->x)) * 4;
    if (q + 2 >= p.rgba.size()) continue;
    ++all;
    const int high = std::max({p.rgba[q], p.rgba[q + 1], p.rgba[q + 2]});
    const double luma = 0.2126 * p.rgba[q] + 0.7152 * p.rgba[q + 1] + 0.0722 * p.rgba[q + 2];
    burnt += luma >= 240;  // skin loses its colour well before all channels are full
    blocked += high <= 12;
  }
  if (all) {
    m.burnt = double(burnt) / all;
    m.blocked = double(blocked) / all;
  }
}

// The shadow side of the cheek, along the height of the nose's base, from the light outwards.
double cheekEdge(const FaceChart& c, const LightOnFace& on, double azimuth) {
  const float away = azimuth >= 0 ? -1.f : 1.f;
  const float row = (c.features.noseBase.y + c.features.mouthLine) / 2;
  const int j = int(std::lround((c.top - row) / c.step));
  if (j < 0 || j >= c.height) return 0;
  std::vector<std::pair<double, double>> line;  // way on the skin, light
  double way = 0, most = 0;
  Vec3 last{};
  for (int i = 0; i < c.width; ++i) {
    const int col = away > 0 ? i : c.width - 1 - i;
    const size_t k = c.index(col, j);
    // From the middle outwards: what the nose throws is not the cheek's own turning away.
    if (!c.skin(k) || c.x(col) * away < c.features.noseHalfWidth * 0.5f) continue;
    if (!line.empty()) way += double(length(c.cells[k].position - last));
    last = c.cells[k].position;
    line.emplace_back(way, double(on.open[k]));
    most = std::max(most, line.back().second);
  }
  double at90 = -1, at10 = -1;
  for (size_t i = 0; i < line.size(); ++i) {
    if (line[i].second >= 0.9 * most) at90 = line[i].first;
    if (at90 >= 0 && line[i].second <= 0.1 * most) {
      at10 = line[i].first;
      break;
    }
  }
  return at90 >= 0 && at10 > at90 ? 1000 * (at10 - at90) : 0;
}

enum class Of { Nose, Jaw };
std::string edgeText(Of what, const ShadowEdge& e) {
  using K = ShadowEdge::Kind;
  const bool nose = what == Of::Nose;
  switch (e.kind) {
    case K::Edge:
      return nose ? say("nose {:.0f} mm", e.width) : say("jaw {:.0f} mm", e.width);
    case K::Wider:
      // Followed for a few millimetres only: nothing is known of its width.
      return e.width < 4 ? std::string()
             : nose      ? say("nose wider than {:.0f} mm", e.width)
                         : say("jaw wider than {:.0f} mm", e.width);
    case K::Merges:
      return nose ? say("nose runs into the shadow side") : say("jaw runs into the shadow side");
    case K::None:
      break;
  }
  return {};
}

std::string ratioText(const Measures& m) {
  const double stops = m.ratioStops(), ratio = std::exp2(stops);
  const std::string units = writeRatio(m.unitStops, RatioSchool::UnitToUnit);
  if (m.hasFill)
    return stops > 0.02
               ? say("On the skin the lit cheek has {:.1f} stops more than the other: {:.1f}:1 lit to shadow; by "
                     "units {}, the fill {:.1f} stops under.",
                     stops, ratio, units, m.unitStops)
               : say("On the skin the lit cheek has {:.1f} stops more than the other: no ratio; by units {}, the "
                     "fill {:.1f} stops under.",
                     stops, units, m.unitStops);
  return stops > 0.02
             ? say("On the skin the lit cheek has {:.1f} stops more than the other: {:.1f}:1 lit to shadow; no fill "
                   "light.",
                   stops, ratio)
             : say("On the skin the lit cheek has {:.1f} stops more than the other: no ratio; no fill light.", stops);
}

// Where the outline is weakest; `separates` in percent of the head's.
std::string outlineText(const OutlinePlace& w, double separates) {
  using Part = OutlinePlace::Part;
  const double by = w.difference(), stops = std::abs(w.stops);
  if (std::abs(by) < 0.5)
    return w.part == Part::Hair
               ? say("Outline: weakest at the hair, where it has the backdrop's own tone; {:.0f} % of the "
                     "head's outline separates.",
                     separates)
           : w.part == Part::Face
               ? say("Outline: weakest at the side of the face or neck, where it has the backdrop's own tone; {:.0f} % "
                     "of "
                     "the head's outline separates.",
                     separates)
               : say("Outline: weakest at the shoulder, where it has the backdrop's own tone; {:.0f} % of the head's "
                     "outline separates.",
                     separates);
  const std::string against = by > 0 ? say("{:.0f} lightness steps over the backdrop ({:.1f} stops)", by, stops)
                                     : say("{:.0f} lightness steps under the backdrop ({:.1f} stops)", -by, stops);
  return w.part == Part::Hair
             ? say("Outline: weakest at the hair, {}; {:.0f} % of the head's outline separates.", against, separates)
         : w.part == Part::Face ? say("Outline: weakest at the side of the face or neck, {}; {:.0f} % of the head's "
                                      "outline separates.",
                                      against, separates)
                                : say("Outline: weakest at the shoulder, {}; {:.0f} % of the head's outline separates.",
                                      against, separates);
}

std::string placeOfBrightest(const Measures& m, const Spelling& spelling) {
  const std::string height =
      m.brightestBelowEyes > 0.1    ? say("{} below the eyes", spelling.length(m.brightestBelowEyes))
      : m.brightestBelowEyes < -0.1 ? say("{} above the eyes", spelling.length(-m.brightestBelowEyes))
                                    : say("at eye level");
  return m.brightestAside > 0.15    ? say("{}, {} to the right", height, spelling.length(m.brightestAside))
         : m.brightestAside < -0.15 ? say("{}, {} to the left", height, spelling.length(-m.brightestAside))
                                    : height;
}

// Fills: forehead against the foot of the throat by distance and beam alone (how the skin lies there is no fault of the
// fill's), and the strongest against the key at the face.
void fillsOf(const Scene& scene, const PlacedSet& set, const Answers& answers, const LightingAnalysis& lighting,
             const FaceChart& chart, Measures& m) {
  double fillTop = 0, fillLow = 0;
  const Vec3 forehead = scene.studioPoint(scene.sitter().landmarks.forehead),
             throat = scene.studioPoint({0, chart.features.chinLine - 0.10f, 0.06f});
  for (const PlacedLight& l : set.lights) {
    if (!l.burns() || l.light.role != Role::Fill) continue;
    const Emitter e = emitterOf(set, l);
    const double energy = l.energy(set.camera);
    auto free = [&](Vec3 p) {
      return energy * directLux(nullptr, e, p, normalize(e.pose().centre - p), Receptor::Flat, 64);
    };
    fillTop += free(forehead);
    fillLow += free(throat);
    const double under = stopsUnder(answers, lighting.key, l.light.id);
    m.unitStops = m.hasFill ? std::min(m.unitStops, under) : under;
    m.hasFill = true;
  }
  m.fillTopToBottom = stopsOver(fillTop, fillLow);
}

}  // namespace

Measures measurePicture(const Layers& layers, const PlacedSet& set, const Answers& answers, const SpotTable& table,
                        const std::vector<LightQuality>& quality, const LightingAnalysis& lighting,
                        const FaceChart& chart, const Spelling& spelling) {
  Measures m;
  const Scene& scene = *layers.scene;
  const double working = exposureForAperture(set.camera.aperture, set.camera.iso);
  auto together = [&](const char* id) {
    for (size_t i = 0; i < table.spots.size(); ++i)
      if (table.spots[i].id == id) return table.together[i];
    return 0.0;
  };
  const char *litId = lighting.litLeft ? "cheek-left" : "cheek-right",
             *darkId = lighting.litLeft ? "cheek-right" : "cheek-left";
  m.lit = stopsOver(together(litId), working);
  m.shadow = stopsOver(together(darkId), working);
  const PlacedLight* key = set.light(lighting.key);
  if (key && key->lamp) {
    const Source source = sourceOf(set, *key);
    for (const LightQuality& q : quality)
      if (q.light == key->light.id) {
        m.nose = q.nose;
        m.acrossStops = q.cheekToCheek;
      }
    if (quality.empty()) m.nose = noseShadowEdge(scene, set, *key);
    const Vec3 chin = scene.studioPoint({0, chart.features.chinLine + 0.008f, chart.features.noseBase.z}),
               forward = normalize(scene.studioPoint({0, 0, 1}) - scene.studioPoint({0, 0, 0})),
               down = normalize(scene.studioPoint({0, -1, 0}) - scene.studioPoint({0, 0, 0}));
    m.jaw = followShadow(scene, source.emitter(), chin, forward, down, 0.10f);
    m.cheekEdge = cheekEdge(chart, lighting.light, lighting.pattern.light.azimuth);
  }
  fillsOf(scene, set, answers, lighting, chart, m);

  const Blocks blocks = blocksOf(layers, set);
  outlineOf(blocks, layers, set, m);
  backdropOf(blocks, set, m);
  faceExposure(layers, set, chart, m);

  std::string edges;
  for (const std::string& s : {edgeText(Of::Nose, m.nose), edgeText(Of::Jaw, m.jaw),
                               m.cheekEdge > 0 ? say("cheek {:.0f} mm", m.cheekEdge) : std::string()})
    if (!s.empty()) edges += (edges.empty() ? "" : ", ") + s;
  if (!edges.empty()) m.words.push_back(say("Shadow edges, 10 to 90 %: {}.", edges));
  if (key) m.words.push_back(ratioText(m));
  if (m.hasFill && std::abs(m.fillTopToBottom) > 0.15)
    m.words.push_back(m.fillTopToBottom > 0
                          ? say("The fill is {:.1f} stops stronger at the forehead.", m.fillTopToBottom)
                          : say("The fill is {:.1f} stops stronger at the throat.", -m.fillTopToBottom));
  if (m.acrossStops > 0.15)
    m.words.push_back(say("By distance alone the key falls off {:.1f} stops from cheek to cheek.", m.acrossStops));
  if (m.weakest >= 0) {
    m.words.push_back(outlineText(m.outline[size_t(m.weakest)], 100 * (1 - m.hairMerged)));
  }
  if (m.backdropShows)
    m.words.push_back(
        say("Backdrop: {} (lightness {:.0f}), {:.1f} stops from its darkest to its brightest place, which lies {}.",
            m.backdropTone, m.backdropLightness, m.backdropGradient, placeOfBrightest(m, spelling)));
  m.words.push_back(
      m.burnt < 0.003 && m.blocked < 0.01
          ? std::string(say("Nothing in the face is burnt out or lost in black."))
          : say("{:.1f} % of the face is burnt out and {:.0f} % is lost in black.", 100 * m.burnt, 100 * m.blocked));
  return m;
}

}  // namespace easel
