#include "analysis/pattern.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "exposure/meter.h"
#include "exposure/stops.h"
#include "meter/point_meter.h"
#include "plan/pose.h"
#include "plan/subject.h"
#include "spoken/say.h"

namespace easel {
namespace {

// Where the eye puts the edge of a thrown shadow: half the front is seen.
constexpr float kSeenHalf = 0.5f;
// Skin that gets less than a tenth of full light because it turns away reads as the shadow side.
constexpr float kTurnedAway = 0.10f;

// Dark under the nose that reads as a shadow, mm; and how far it may lean to pass for straight down.
constexpr double kUnderNose = 4, kStraightDown = 0.37;

struct Grid {
  const FaceChart& c;
  std::vector<int> queue;

  /// The cells of `in` that hang together with `seeds` (8 neighbours).
  std::vector<std::uint8_t> grown(const std::vector<std::uint8_t>& in, const std::vector<std::uint8_t>& seeds) {
    std::vector<std::uint8_t> out(in.size(), 0);
    queue.clear();
    for (size_t k = 0; k < in.size(); ++k)
      if (in[k] && seeds[k]) {
        out[k] = 1;
        queue.push_back(int(k));
      }
    for (size_t n = 0; n < queue.size(); ++n) {
      const int i = queue[n] % c.width, j = queue[n] / c.width;
      for (int dj = -1; dj <= 1; ++dj)
        for (int di = -1; di <= 1; ++di) {
          if (i + di < 0 || j + dj < 0 || i + di >= c.width || j + dj >= c.height) continue;
          const size_t k = c.index(i + di, j + dj);
          if (!in[k] || out[k]) continue;
          out[k] = 1;
          queue.push_back(int(k));
        }
    }
    return out;
  }
};

double share(size_t part, size_t whole) { return whole ? double(part) / double(whole) : 0; }

}  // namespace

std::string patternName(FacePattern p) {
  const std::array names{say("none"),      say("flat"),  say("butterfly"),  say("loop"),
                         say("Rembrandt"), say("split"), say("back light"), say("top light")};
  return names[size_t(p)];
}
const char* patternId(FacePattern p) {
  static constexpr std::array ids{"none", "flat", "butterfly", "loop", "rembrandt", "split", "back", "top"};
  return ids[size_t(p)];
}
std::optional<FacePattern> patternOfId(const std::string& id) {
  for (int i = 0; i <= int(FacePattern::Top); ++i)
    if (id == patternId(FacePattern(i))) return FacePattern(i);
  return {};
}

namespace {

// What of a face is dark by one light, which dark skin belongs to the nose, and what lit skin dark skin closes in.
class ShadowsOnFace {
 public:
  ShadowsOnFace(const FaceChart& chart, const LightOnFace& light, const FaceDirection& from)
      : chart_(chart), light_(light), away_(from.azimuth >= 0 ? -1.f : 1.f) {
    signs_.eyeWidth = 1000 * double(features_.eyeWidth);
    signs_.noseLength = 1000 * double(features_.noseLength);
    classify();
    followNose();
    measureTriangle(closeTriangle());
  }
  const PatternSigns& signs() const { return signs_; }
  bool triangleStands() const { return signs_.triangleArea > 30; }

  PatternMasks masks() const {
    PatternMasks m;
    m.dark = dark_;
    m.triangle = triangleStands() ? triangle_ : Mask(n_, 0);
    m.noseShadow.assign(n_, 0);
    for (size_t k = 0; k < n_; ++k) m.noseShadow[k] = nose_[k] && thrown_[k];
    return m;
  }

 private:
  using Mask = std::vector<std::uint8_t>;

  // Every cell of the skin: thrown shadow, turned away or lit, and where it lies.
  void classify();
  // Dark skin that hangs together with the nose, and how far it reaches.
  void followNose();
  // Lit skin of the far cheek that dark skin closes in: the largest piece, its number of cells.
  size_t closeTriangle();
  void measureTriangle(size_t cells);

  const FaceChart& chart_;
  const FaceFeatures& features_ = chart_.features;
  const LightOnFace& light_;
  const float away_;  // sign of x on the side away from the light
  const float wing_ = features_.noseHalfWidth;
  const size_t n_ = chart_.cells.size();
  Grid grid_{chart_, {}};
  Mask dark_ = Mask(n_, 0), thrown_ = dark_, zone_ = dark_, seed_ = dark_, farEdge_ = dark_, lit_ = dark_,
       nearLit_ = dark_, inDark_ = dark_, inLit_ = dark_, nose_, fromEdge_, triangle_ = dark_;
  PatternSigns signs_;
};

void ShadowsOnFace::classify() {
  size_t nearAll = 0, nearCount = 0, farAll = 0, farCount = 0, faceAll = 0, faceCount = 0, halfAll = 0, halfCount = 0;
  // The zone between lower lids and mouth: sockets and jaw have shadows of their own.
  const float low = features_.mouthLine - 0.004f;
  for (int j = 0; j < chart_.height; ++j)
    for (int i = 0; i < chart_.width; ++i) {
      const size_t k = chart_.index(i, j);
      if (!chart_.skin(k)) continue;
      const float x = chart_.x(i) * away_, y = chart_.y(j);  // x > 0: away from the light
      if (std::abs(x) > features_.halfWidth + 0.004f || y < features_.chinLine) continue;
      const float open = light_.open[k], arrives = light_.arrives[k];
      const bool turned = open < kTurnedAway * light_.reference;
      thrown_[k] = !turned && arrives < kSeenHalf * open;
      dark_[k] = turned || thrown_[k];
      lit_[k] = !dark_[k];
      ++faceAll;
      faceCount += lit_[k];
      if (x > 0.004f) {
        ++halfAll;
        halfCount += lit_[k];
      }
      const bool cheekHigh = y < features_.lidLine - 0.004f && y > features_.mouthLine;
      if (cheekHigh && std::abs(x) > wing_ + 0.006f && std::abs(x) < 0.8f * features_.halfWidth) {
        ++(x > 0 ? farAll : nearAll);
        (x > 0 ? farCount : nearCount) += lit_[k];
      }
      zone_[k] = y < features_.lidLine && y > low;
      seed_[k] = dark_[k] && std::abs(x) < wing_ + 0.004f && y < features_.noseTip.y + 0.004f &&
                 y > features_.noseBase.y - 0.008f && x > -wing_;
      farEdge_[k] = x > 0.78f * features_.halfWidth;
      nearLit_[k] = lit_[k] && x < -wing_ - 0.003f;
    }
  signs_.face = share(faceCount, faceAll);
  signs_.farHalf = share(halfCount, halfAll);
  signs_.nearCheek = share(nearCount, nearAll);
  signs_.farCheek = share(farCount, farAll);
  for (size_t k = 0; k < n_; ++k) {
    inDark_[k] = zone_[k] && dark_[k];
    // Over the ridge of the nose lit skin hangs together in every pattern: it is cut there.
    const int i = int(k) % chart_.width, j = int(k) / chart_.width;
    inLit_[k] = zone_[k] && lit_[k] && (std::abs(chart_.x(i)) > wing_ || chart_.y(j) < features_.noseTip.y);
  }
}

void ShadowsOnFace::followNose() {
  nose_ = grid_.grown(inDark_, seed_);
  fromEdge_ = grid_.grown(inDark_, farEdge_);
  for (size_t k = 0; k < n_; ++k) signs_.joined |= nose_[k] && fromEdge_[k];
  // How far the nose's own shadow reaches: its thrown part.
  float aside = 0;
  double under = 0, lean = 0, weight = 0;
  double gap = 1e9;
  for (int j = 0; j < chart_.height; ++j) {
    float last = -1;
    for (int i = 0; i < chart_.width; ++i) {
      const int col = away_ > 0 ? i : chart_.width - 1 - i;
      const size_t k = chart_.index(col, j);
      const float x = chart_.x(col) * away_, y = chart_.y(j);
      if (nose_[k] && thrown_[k]) {
        if (y < features_.noseTip.y + 0.006f) aside = std::max(aside, x - wing_);
      }
      if (dark_[k] && y < features_.noseTip.y + 0.002f && y > features_.mouthLine && std::abs(x) < wing_) under += 1;
      if (nose_[k] && y < features_.noseTip.y + 0.004f && y > features_.mouthLine && std::abs(x) < 2.5f * wing_) {
        lean += double(x);
        weight += 1;
      }
      if (nose_[k]) last = x;
      if (last > 0 && fromEdge_[k] && !nose_[k] && x > last) {
        gap = std::min(gap, 1000 * double(x - last));
        last = -1;
      }
    }
  }
  signs_.aside = 1000 * double(aside);
  signs_.under = 1000 * under * double(chart_.step) * double(chart_.step) / (2 * double(wing_));
  signs_.lean = weight > 0 ? lean / weight / double(wing_) : 0;
  signs_.gap = signs_.joined || gap > 1e8 ? 0 : gap;
}

size_t ShadowsOnFace::closeTriangle() {
  const auto open = grid_.grown(inLit_, nearLit_);
  std::vector<std::uint8_t> closed(n_, 0), any(n_, 0);
  for (int j = 0; j < chart_.height; ++j)
    for (int i = 0; i < chart_.width; ++i) {
      const size_t k = chart_.index(i, j);
      closed[k] = inLit_[k] && !open[k] && chart_.x(i) * away_ > wing_ * 0.8f;
    }
  // The largest piece.
  size_t most = 0;
  std::vector<std::uint8_t> seen(n_, 0);
  for (size_t k = 0; k < n_; ++k) {
    if (!closed[k] || seen[k]) continue;
    any.assign(n_, 0);
    any[k] = 1;
    const auto piece = grid_.grown(closed, any);
    size_t count = 0;
    for (size_t q = 0; q < n_; ++q)
      if (piece[q]) {
        seen[q] = 1;
        ++count;
      }
    if (count > most) {
      most = count;
      triangle_ = piece;
    }
  }
  return most;
}

void ShadowsOnFace::measureTriangle(size_t cells) {
  if (!cells) return;
  const double mm = 1000 * double(chart_.step);
  float widest = 0, top = -1, bottom = 1;
  for (int j = 0; j < chart_.height; ++j) {
    float a = 1, b = -1;
    for (int i = 0; i < chart_.width; ++i)
      if (triangle_[chart_.index(i, j)]) {
        a = std::min(a, chart_.x(i));
        b = std::max(b, chart_.x(i));
      }
    if (b < a) continue;
    widest = std::max(widest, b - a + chart_.step);
    if (top < -0.9f) top = chart_.y(j);
    bottom = chart_.y(j);
  }
  signs_.triangleArea = double(cells) * mm * mm;
  signs_.triangleWidth = 1000 * double(widest);
  signs_.triangleLength = 1000 * double(top - bottom + chart_.step);
}

// Limits: common practice, no source, set so that the textbook places of a hard light read as they should on every
// sitter (docs/face-patterns.md shows the map).
void nameIt(PatternAnalysis& r, bool triangleStands) {
  const PatternSigns& s = r.signs;
  const FaceDirection& from = r.light;
  const double eye = s.eyeWidth;
  if (from.elevation > 50 && std::abs(from.azimuth) < 75 &&
      (std::min(s.nearCheek, s.farHalf) < 0.45 || s.joined || triangleStands)) {
    r.pattern = FacePattern::Top;
  } else if (s.face < 0.15 || s.nearCheek < 0.25) {
    r.pattern = FacePattern::BackLight;
  } else if (s.farCheek < 0.06 && s.farHalf < 0.20) {
    r.pattern = FacePattern::Split;
    if (s.farHalf > 0.14) r.next = FacePattern::Rembrandt;
  } else if (triangleStands) {
    r.pattern = FacePattern::Rembrandt;
    if (s.triangleWidth > 1.5 * eye) r.next = FacePattern::Loop;
  } else if (s.joined) {
    r.pattern = s.farCheek > 0.35 ? FacePattern::Loop : FacePattern::Split;
    r.next = FacePattern::Rembrandt;
  } else if (s.nearCheek > 0.6 && s.farCheek > 0.6 && s.under < kUnderNose && s.farHalf > 0.84) {
    r.pattern = FacePattern::Flat;
  } else if (s.nearCheek > 0.5 && s.farCheek > 0.5 && s.lean < kStraightDown) {
    // From high up and aside the shadow falls nearly straight down as well, but the face has a lit side.
    r.pattern = std::abs(from.azimuth) < 33 ? FacePattern::Butterfly
                : from.elevation > 50       ? FacePattern::Top
                                            : FacePattern::Loop;
  } else if (s.farCheek > 0.30) {
    r.pattern = FacePattern::Loop;
  } else {
    r.pattern = FacePattern::Split;
    r.next = FacePattern::Rembrandt;
  }
}

}  // namespace

PatternAnalysis readPattern(const FaceChart& chart, const LightOnFace& light, const FaceDirection& from,
                            PatternMasks* masks) {
  const ShadowsOnFace shadows(chart, light, from);
  PatternAnalysis r;
  r.light = from;
  r.signs = shadows.signs();
  nameIt(r, shadows.triangleStands());
  if (masks) *masks = shadows.masks();
  return r;
}

namespace {

// The border of a mask, smoothed over its neighbours and followed at a half (marching squares).
LightingAnalysis::Outline outlineOf(const FaceChart& c, const std::vector<std::uint8_t>& mask) {
  LightingAnalysis::Outline out;
  std::vector<float> v(mask.size(), 0);
  for (int j = 1; j + 1 < c.height; ++j)
    for (int i = 1; i + 1 < c.width; ++i) {
      float sum = 0;
      for (int dj = -1; dj <= 1; ++dj)
        for (int di = -1; di <= 1; ++di)
          sum += float(mask[c.index(i + di, j + dj)]) * ((di == 0 ? 2.f : 1.f) * (dj == 0 ? 2.f : 1.f) / 16);
      v[c.index(i, j)] = sum;
    }
  for (int j = 0; j + 1 < c.height; ++j)
    for (int i = 0; i + 1 < c.width; ++i) {
      const std::array<size_t, 4> k{c.index(i, j), c.index(i + 1, j), c.index(i + 1, j + 1), c.index(i, j + 1)};
      if (std::any_of(k.begin(), k.end(), [&](size_t q) { return c.cells[q].surface == Surface::Nothing; })) continue;
      std::vector<Vec3> at;
      for (size_t e = 0; e < 4; ++e) {
        const size_t a = k[e], b = k[(e + 1) % 4];
        if ((v[a] >= 0.5f) == (v[b] >= 0.5f)) continue;
        const float t = (0.5f - v[a]) / (v[b] - v[a]);
        at.push_back(lerp(c.cells[a].position, c.cells[b].position, t));
      }
      for (size_t p = 0; p + 1 < at.size(); p += 2)
        if (length(at[p] - at[p + 1]) < 0.02f) out.emplace_back(at[p], at[p + 1]);
    }
  return out;
}

// Lux seconds before the nose, receptor at the light: what a meter says of it there.
double level(const Scene& scene, const PlacedSet& set, const PlacedLight& l, const Source& source) {
  const Vec3 at = beforeTheNose(scene).at, to = normalize(source.emitter().pose().centre - at);
  return l.energy(set.camera) * (directLux(&scene, source.emitter(), at, to, Receptor::Flat, 64) +
                                 panelLux(scene, source, at, to, Receptor::Flat, 128));
}

std::string capital(std::string s) {
  if (!s.empty()) s[0] = char(std::toupper(static_cast<unsigned char>(s[0])));
  return s;
}

std::string describe(const LightingAnalysis& r, const PlacedSet& set) {
  const PatternSigns& s = r.pattern.signs;
  const double round = std::abs(r.pattern.light.azimuth), high = std::abs(r.pattern.light.elevation);
  const bool left = r.pattern.light.azimuth >= 0, up = r.pattern.light.elevation >= 0;
  const std::string where =
      left && up
          ? say("{} stands {:.0f} degrees round from the nose to the sitter's left and {:.0f} up", r.key, round, high)
      : left
          ? say("{} stands {:.0f} degrees round from the nose to the sitter's left and {:.0f} down", r.key, round, high)
      : up ? say("{} stands {:.0f} degrees round from the nose to the sitter's right and {:.0f} up", r.key, round, high)
           : say("{} stands {:.0f} degrees round from the nose to the sitter's right and {:.0f} down", r.key, round,
                 high);
  if (r.profile) return say("The face is turned {:.0f} degrees from the lens; {}.", std::abs(set.sitter.turn), where);
  std::string seen;
  switch (r.pattern.pattern) {
    case FacePattern::Flat:
      seen = say("the nose throws no shadow to speak of");
      break;
    case FacePattern::Butterfly:
      seen = say("the nose's shadow falls straight down, {:.0f} mm high", s.under);
      break;
    case FacePattern::Loop:
      seen = s.joined    ? say("the nose's shadow just touches the shadow side, and closes nothing in")
             : s.gap > 0 ? say("the nose's shadow reaches {:.0f} mm past the wing; {:.0f} mm of lit skin keep it "
                               "from the cheek's shadow",
                               s.aside, s.gap)
                         : say("the nose's shadow reaches {:.0f} mm past the wing and touches no other", s.aside);
      break;
    case FacePattern::Rembrandt:
      seen = say(
          "the nose's shadow meets the cheek's; the lit triangle is {:.0f} mm wide (the eye {:.0f}) and {:.0f} long "
          "(the nose {:.0f})",
          s.triangleWidth, s.eyeWidth, s.triangleLength, s.noseLength);
      break;
    case FacePattern::Split:
      seen = say("{:.0f} % of the far half of the face has light", 100 * s.farHalf);
      break;
    case FacePattern::BackLight:
      seen = say("{:.0f} % of the face has its light: it draws outlines", 100 * s.face);
      break;
    case FacePattern::Top:
      seen = say("it rakes down the face: brow, nose and lip throw their shadows over what is below");
      break;
    case FacePattern::None:
      break;
  }
  return fmt::format("{}: {}.", where, seen);
}

}  // namespace

const PlacedLight* patternKey(const Scene& scene, const PlacedSet& set) {
  if (const PlacedLight* key = set.key()) return key;
  const PlacedLight* best = nullptr;
  double most = 0;
  const Vec3 face = scene.studioPoint(scene.sitter().landmarks.noseTip);
  for (const PlacedLight& l : set.lights) {
    if (!l.burns() || l.light.role == Role::Background) continue;
    const Emitter e = emitterOf(set, l);
    const Emitter::Point p = e.sample(face, {0.5f, 0.5f});
    const double h = double(p.geometry) * l.energy(set.camera);
    if (h > most) {
      most = h;
      best = &l;
    }
  }
  return best;
}

LightingAnalysis readLighting(const Scene& scene, const PlacedSet& set, const FaceChart& chart) {
  LightingAnalysis r;
  const PlacedLight* key = patternKey(scene, set);
  if (!key) {
    r.name = say("No light on the face");
    r.sentence = say("Add a key, or switch one on.");
    return r;
  }
  r.key = key->light.id;
  const Source source = sourceOf(set, *key);
  r.light = lightOnFace(scene, chart, source, 24);
  const LightOnFace& on = r.light;
  PatternMasks masks;
  r.pattern = readPattern(chart, on, directionFromFace(set, scene, source.emitter().pose().centre), &masks);
  r.noseShadow = outlineOf(chart, masks.noseShadow);
  r.triangle = outlineOf(chart, masks.triangle);
  r.terminator = outlineOf(chart, masks.dark);

  const double azimuth = r.pattern.light.azimuth;
  r.litLeft = azimuth > 0;
  r.profile = std::abs(set.sitter.turn) >= 65;
  // Turned to camera right (turn > 0) the face shows the camera its right side.
  if (std::abs(set.sitter.turn) >= 12 && std::abs(azimuth) > 8) {
    const bool shownLeft = set.sitter.turn < 0;
    r.breadth = shownLeft == r.litLeft ? Breadth::Broad : Breadth::Short;
  }
  const double keyLevel = level(scene, set, *key, source);
  double others = 0;
  for (const PlacedLight& l : set.lights) {
    if (&l == key || !l.burns() || l.light.role == Role::Background) continue;
    const Source fill = sourceOf(set, l);
    const FaceDirection from = directionFromFace(set, scene, fill.emitter().pose().centre);
    if (std::abs(from.azimuth) > 120) continue;
    const double h = level(scene, set, l, fill);
    others = std::max(others, h);
    const double stops = stopsOver(h, keyLevel, -99);
    if (r.pattern.pattern == FacePattern::Butterfly && r.pattern.next == FacePattern::None &&
        std::abs(from.azimuth) < 25 && from.elevation < -8 && stops > -4 && stops < 0.2) {
      r.clamshell = true;
      r.other = l.light.id;
    }
    if (std::abs(azimuth) > 30 && std::abs(from.azimuth) > 30 && from.azimuth * azimuth < 0 && stops > -0.8 &&
        stops < 0.8) {
      r.cross = true;
      r.other = l.light.id;
    }
  }
  // A board below that sends the key's light up closes the shell as well.
  if (r.pattern.pattern == FacePattern::Butterfly && !r.clamshell)
    for (size_t i = 0; i < set.panels.size(); ++i) {
      const Panel& p = set.panels[i];
      if (!p.on || p.above > set.sitter.eyeHeight - 0.15 || std::abs(std::remainder(p.hour - 6, 12)) > 1.2) continue;
      double up = 0;
      const Vec3 chin = scene.studioPoint(chart.features.noseTip + Vec3{0, -0.03f, 0.05f});
      const Vec3 n = normalize(Vec3{0, -0.7f, 0.7f});
      for (std::uint32_t s = 0; s < 64; ++s) {
        const auto q = source.sample(&scene, chin, s, 11, int(i));
        up += double(luminance(q.lux) * std::max(0.f, dot(n, q.direction))) / 64;
      }
      if (on.reference > 0 && up > 0.06 * double(on.reference)) {
        r.clamshell = true;
        r.other = panelSubject(p.id);
      }
    }
  // Nothing else lifts the face to within three stops of what the camera is set for.
  const bool dim = others < exposureForAperture(set.camera.aperture, set.camera.iso) / 8;
  r.silhouette = r.pattern.pattern == FacePattern::BackLight && dim;
  const std::string base = r.pattern.next == FacePattern::None
                               ? patternName(r.pattern.pattern)
                               : say("between {} and {}", patternName(r.pattern.pattern), patternName(r.pattern.next));
  if (r.profile)
    r.name = r.pattern.pattern == FacePattern::BackLight ? say("Profile, light from behind") : say("Profile");
  else if (r.silhouette)
    r.name = say("Back light");
  else if (r.cross)
    r.name = say("Cross light");
  else if (r.clamshell)
    r.name = say("Clamshell");
  else if (r.pattern.pattern == FacePattern::BackLight || r.breadth == Breadth::Straight)
    r.name = capital(base);
  else
    r.name = r.breadth == Breadth::Broad ? say("Broad {}", base) : say("Short {}", base);
  r.sentence = describe(r, set);
  if (r.clamshell) r.sentence += say(" From below {} closes the shell.", calledSource(r.other, set.panels));
  if (r.cross) r.sentence += say(" {} comes as strongly from the other side.", r.other);
  return r;
}

}  // namespace easel
