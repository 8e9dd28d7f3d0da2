#include "sitters/strands.h"

#include <algorithm>
#include <cmath>

#include "geometry/hashing.h"
#include "geometry/triangles.h"
#include "threads/parallel.h"

namespace easel {
namespace {

// Random numbers of a strand, each kind its own.
enum class Of : std::uint32_t { Triangle, Place, PlaceToo, Hairline, Length, Layer, Phase, Stray = 8, Shade };
float chance(std::uint32_t strand, Of what) { return unitFloat(hashPair(strand, 0x4a17u + std::uint32_t(what))); }

float smooth(float from, float to, float x) {
  const float t = std::clamp((x - from) / (to - from), 0.f, 1.f);  // `from` may be the greater
  return t * t * (3 - 2 * t);
}

constexpr float kDenser = 2;     // times more hair where a cut tapers to nothing
constexpr float kBand = 0.014f;  // metres: half of hair that is tied together

struct Root {
  Vec3 at, normal;
  std::uint32_t key = 0;
  float within = 0;      ///< metres inside the hairline
  float headWeight = 1;  ///< as the skin's
};

class Grower {
 public:
  Grower(const Sitter& sitter, const HairStyle& style, const Posture& posture)
      : sitter_(sitter), style_(style), posture_(posture), trunk_(posture.trunk()) {
    const Landmarks& l = sitter.landmarks;
    middle_ = l.middleOfHead();
    whorl_ = {0.01f, l.crown.y, middle_.z - 0.055f};
    // A band is pulled tight: it lies against the head, as thick as what it holds.
    knot_ = {0, float(style.knot), middle_.z - 0.16f};
    while (knot_.z < middle_.z && sitter.headField.at(knot_) > kBand) knot_.z += 0.001f;
    for (size_t i = 0; i < sitter.ground.position.size(); ++i)
      if (sitter.ground.headWeight[i] < 0.5f) topOfBody_ = std::max(topOfBody_, sitter.ground.position[i].y);
  }

  std::vector<Root> roots(int n, std::uint32_t seed) const;
  /// `points` places of a strand, and how long it is.
  void grow(const Root& root, int points, std::vector<Vec3>& out) const;

 private:
  float lengthAt(Vec3 normal) const;
  float tapered(Vec3 normal, float within) const;
  Vec3 combed(Vec3 at, const DistanceField::Near& head) const;
  Vec3 offTheFace(Vec3 at) const;
  Vec3 lyingDown(Vec3 at, float layer, const DistanceField::Near& head) const;
  Vec3 keptOff(Vec3 p, float layer, const Motion& head, Vec3& along) const;

  const Sitter& sitter_;
  const HairStyle& style_;
  const Posture& posture_;
  Motion trunk_;
  float topOfBody_ = -0.2f;     ///< height to which bodyField knows the neck; above it says nothing
  Vec3 middle_, whorl_, knot_;  // of the unturned head
};

std::vector<Root> Grower::roots(int n, std::uint32_t seed) const {
  const HairGround& g = sitter_.ground;
  ByArea area;
  for (size_t t = 0; t < g.triangles.size(); t += 3) {
    const Vec3 a = g.position[g.triangles[t]], b = g.position[g.triangles[t + 1]], c = g.position[g.triangles[t + 2]];
    const auto sum = [&](const auto& of) {
      return of[g.triangles[t]] + of[g.triangles[t + 1]] + of[g.triangles[t + 2]];
    };
    // The rest of the ground is for beards.
    const bool scalp =
        std::min({g.scalp[g.triangles[t]], g.scalp[g.triangles[t + 1]], g.scalp[g.triangles[t + 2]]}) > -0.008f;
    // Short hair hides the scalp by its number.
    const float dense = scalp ? 1 + kDenser * (1 - tapered(normalize(sum(g.normal)), sum(g.scalp) / 3)) : 0;
    area.add(double(length(cross(b - a, c - a)) * dense));
  }
  std::vector<Root> out;
  if (!(area.whole() > 0) || n < 1) return out;
  out.reserve(size_t(n));
  for (int i = 0; i < n; ++i) {
    const std::uint32_t key = hashPair(std::uint32_t(i), seed);
    const size_t t = area.at((double(i) + double(chance(key, Of::Triangle))) / n * area.whole()) * 3;
    float u = chance(key, Of::Place), v = chance(key, Of::PlaceToo);
    if (u + v > 1) u = 1 - u, v = 1 - v;
    auto between = [&](const auto& of) {
      return of[g.triangles[t]] * (1 - u - v) + of[g.triangles[t + 1]] * u + of[g.triangles[t + 2]] * v;
    };
    const Root r{between(g.position), normalize(between(g.normal)), key, between(g.scalp), between(g.headWeight)};
    // A hairline is no line: it thins out over half a centimetre.
    if (r.within + 0.004f * (chance(key, Of::Hairline) - 0.6f) < 0) continue;
    if (style_.bald > 0) {
      // It goes from the crown and from the forehead.
      const Vec3 from = normalize(r.at - middle_);
      const float up = from.y + 0.9f * std::max(0.f, from.z) + 0.12f * (chance(key, Of::Hairline) - 0.5f);
      if (up > 1.1f - float(style_.bald)) continue;
    }
    out.push_back(r);
  }
  return out;
}

float Grower::lengthAt(Vec3 n) const {
  const auto& l = style_.length;
  const float top = smooth(0.35f, 0.8f, n.y), front = std::max(0.f, n.z), side = std::abs(n.x),
              behind = std::max(0.f, -n.z);
  const float round = front * front + side * side + behind * behind + 1e-6f;
  const float low = (float(l[1]) * front * front + float(l[2]) * side * side + float(l[3]) * behind * behind) / round;
  return low * (1 - top) + float(l[0]) * top;
}

// Share of its length that a cut leaves there, so many metres inside the hairline.
float Grower::tapered(Vec3 normal, float within) const {
  if (!(style_.taper > 0)) return 1;
  // The hairline of the forehead keeps all.
  const float low =
      smooth(0.55f, 0.85f, std::max(std::abs(normal.x), -normal.z)) * (1 - smooth(0.45f, 0.75f, normal.y));
  const float inside = smooth(0, float(style_.taper), within);
  const float least = std::min(1.f, float(style_.edge) / std::max(1e-4f, lengthAt(normal)));
  return 1 - low * (1 - inside) * (1 - least);
}

// Which way hair is combed there, unturned; not a unit.
Vec3 Grower::combed(Vec3 p, const DistanceField::Near& head) const {
  const HairStyle::Combing& c = style_.combing;
  Vec3 d = Vec3{0, 0, -1} * float(c.back) + Vec3{0, -1, 0} * float(c.down) + Vec3{0, 0, 1} * float(c.forward);
  if (c.aside > 0) {
    const float off = p.x - float(style_.part);
    d += Vec3{std::clamp(off / 0.0015f, -1.f, 1.f), 0, 0} * float(c.aside);
  }
  if (c.whorl > 0) {
    const Vec3 away = p - whorl_;
    // It winds as it goes.
    d += normalize(away + cross({0, 1, 0}, away) * 0.3f) * float(c.whorl);
  }
  if (c.tie > 0) d += normalize(knot_ - p) * float(c.tie);
  // Along the head, not away from it.
  if (head.gap < 0.025f) d = d - head.outward * std::max(0.f, dot(d, head.outward));
  return d;
}

// Off the face and the throat, unless it is combed there: which way, and how much.
Vec3 Grower::offTheFace(Vec3 p) const {
  if (style_.combing.forward > 0 || style_.combing.tie > 0) return {};
  const float from = 0.05f - 0.08f * smooth(-0.07f, -0.11f, p.y);  // the throat lies further back
  const float before =
      smooth(from, from + 0.03f, p.z - middle_.z) * smooth(0.09f, 0.05f, p.y) * smooth(0.095f, 0.07f, std::abs(p.x));
  const float side = p.x > (std::abs(p.x) > 0.02f ? 0.f : float(style_.part)) ? 1.f : -1.f;
  return Vec3{side, 0, -0.55f} * before;
}

// Back to the head, unturned, of what stands off further than it is to lie, down to the ears: hair that is combed over
// an edge of the head follows it, and does not go on into the air.
Vec3 Grower::lyingDown(Vec3 p, float layer, const DistanceField::Near& head) const {
  const float off = std::min(head.gap - layer, 0.02f) / 0.01f;
  if (off <= 0) return {};
  const float told = smooth(DistanceField::kFar, 0.025f, head.gap);  // further away nothing says where the head is
  return head.outward * (-0.5f * off * told * (1 - float(style_.lift)) * smooth(-0.03f, 0.03f, p.y));
}

// Outside of head and body by `layer` metres; `along` no longer leads in.
Vec3 Grower::keptOff(Vec3 p, float layer, const Motion& head, Vec3& along) const {
  const Vec3 rest = head.back(p);
  auto off = [&](float gap, float least, Vec3 out) {
    if (gap >= least) return;
    p += out * (least - gap);
    along = along - out * std::min(0.f, dot(along, out));
  };
  const auto near = sitter_.headField.about(rest);
  off(near.gap, layer, head.turn(near.outward));
  const Vec3 onBody = trunk_.back(p);
  if (onBody.y > topOfBody_) return p;
  const auto body = sitter_.bodyField.about(onBody);
  off(body.gap, std::min(layer, 0.006f) + std::min(2 * layer, 0.012f), trunk_.turn(body.outward));
  return p;
}

void Grower::grow(const Root& root, int points, std::vector<Vec3>& out) const {
  out.clear();
  const Motion head = posture_.neck(root.headWeight);
  const float left = tapered(root.normal, root.within);
  const float whole = left * lengthAt(root.normal) * (1 - float(style_.varied) * chance(root.key, Of::Length));
  const float step = whole / float(points - 1);
  // What grows higher up lies over what grows below.
  const float high = smooth(-0.08f, 0.11f, root.at.y);
  const float layer = 0.0012f + left * float(style_.volume) * (0.25f + 0.75f * high) *
                                    std::pow(chance(root.key, Of::Layer), 1.4f - 0.7f * high);
  const bool ties = style_.combing.tie > 0;
  bool tied = false;
  Vec3 p = root.at;
  Vec3 flow = combed(p, sitter_.headField.about(p));
  flow = flow - root.normal * dot(flow, root.normal);
  // At the sides it lies closer.
  const float lift = float(style_.lift) * (0.45f + 0.55f * smooth(0.f, 0.7f, root.normal.y)) + 0.02f;
  Vec3 along = head.turn(normalize(normalize(flow) * (1 - lift) + root.normal * lift));
  p = head(p);
  out.push_back(p);
  float gone = 0, toTheBand = 0;
  for (int i = 1; i < points; ++i) {
    gone += step;
    const Vec3 rest = head.back(p);
    if (ties && !tied && length(rest - knot_) < 0.016f + 0.3f * step) {
      tied = true;
      toTheBand = gone;
    }
    const float free = std::clamp(gone / 0.03f, 0.f, 1.f);  // the first centimetres stand by the root
    if (ties && !tied) {
      along = normalize(along * 0.25f + head.turn(normalize(knot_ - rest)));
    } else {
      const auto near = sitter_.headField.about(rest);
      const float hang = float(style_.gravity) * step / 0.012f * free;
      const float comb = (ties ? 0 : 0.35f) * (step / 0.012f) * (1 - 0.6f * free);
      along = normalize(along +
                        head.turn(normalize(combed(rest, near)) * comb + offTheFace(rest) * (0.8f * step / 0.012f)) +
                        Vec3{0, -1, 0} * hang);
      along = normalize(along + head.turn(lyingDown(rest, layer, near)) * (step / 0.012f));
      if (tied)
        along = normalize(along + head.turn({0, -0.1f, -0.25f}) * std::max(0.f, 1 - (gone - toTheBand) / 0.05f));
    }
    const float reach = std::min(layer, 0.0012f + 0.5f * gone);
    p = keptOff(p + along * step, ties && !tied ? std::min(reach, 0.001f + 0.35f * float(style_.volume)) : reach, head,
                along);
    // What the head pushes out is no longer than it was.
    const Vec3 back = out.back();
    const Vec3 moved = normalize(p - back);
    along = normalize(along * 0.5f + moved);
    p = back + moved * step;
    if (tied) {  // a bundle: the tail is no thicker than what is gathered
      Vec3 r = head.back(p);
      const float wide = 0.011f + 0.25f * std::max(0.f, knot_.y - r.y) * (0.3f + 0.5f * chance(root.key, Of::Stray));
      if (std::abs(r.x) > wide) r.x = std::copysign(wide * (0.4f + 0.6f * chance(root.key, Of::Phase)), r.x);
      p = head(r);
    }
    out.push_back(p);
    if (style_.cutAt > 0 && p.y < -float(style_.cutAt) + 0.004f * (chance(root.key, Of::Length) - 0.5f)) {
      // Cut off: what is left of it lies there.
      while (int(out.size()) < points) out.push_back(p);
      return;
    }
  }
}

// A lock: the root and the way of what it keeps together.
struct Lock {
  const Root* root = nullptr;
  const std::vector<Vec3>* path = nullptr;
};
Lock nearestOf(const std::vector<Root>& of, const std::vector<std::vector<Vec3>>& paths, Vec3 at, float part) {
  Lock nearest;
  float least = 4e-4f;  // metres squared
  for (size_t i = 0; i < of.size(); ++i)
    // Across the parting nothing keeps together.
    if (const Vec3 d = of[i].at - at; dot(d, d) < least && (of[i].at.x > part) == (at.x > part)) {
      least = dot(d, d);
      nearest = {&of[i], &paths[i]};
    }
  return nearest;
}

// Of a longer lock the part that is as long: a hair beside it does not grow with it.
Vec3 alongLock(const std::vector<Vec3>& lock, const std::vector<Vec3>& path, size_t k) {
  const float each = length(lock[1] - lock[0]), own = length(path[1] - path[0]);
  const float at = float(k) * (own < each ? own / each : 1.f);
  const size_t before = std::min(size_t(at), lock.size() - 2);
  return lerp(lock[before], lock[before + 1], at - float(before));
}

struct StrandOut {
  Strands::Point* points;
  Vec3* along;
  float* shade;
};
// A grown strand with its lock, its waves and its own ways.
void dressed(const HairStyle& style, const Root& root, const std::vector<Vec3>& path, const Lock& lock,
             const StrandOut& out) {
  const std::uint32_t key = lock.root ? lock.root->key : root.key;
  const float turn = 2 * kPiF * chance(key, Of::Phase), own = 2 * kPiF * chance(root.key, Of::Phase);
  const float strays = float(style.frizz) * (0.3f + chance(root.key, Of::Stray));
  const Vec3 astray = normalize({chance(root.key, Of::Place) - 0.5f, chance(root.key, Of::PlaceToo) - 0.5f,
                                 chance(root.key, Of::Triangle) - 0.5f});
  const float shade = 0.85f + 0.3f * chance(root.key, Of::Shade);
  const size_t n = path.size();
  // What is cut short stands by itself.
  const float clumping = float(style.clumping) * smooth(0.008f, 0.035f, length(path[1] - path[0]) * float(n - 1));
  float gone = 0, kept = 1;  // by its lock
  for (size_t k = 0; k < n; ++k) {
    const float t = float(k) / float(n - 1);
    if (k) gone += length(path[k] - path[k - 1]);
    Vec3 p = path[k];
    if (lock.path) {
      const Vec3 there = alongLock(*lock.path, path, k) + (path[0] - (*lock.path)[0]) * (0.5f * (1 - t));
      // One that goes another way has left it: half way between them it would hang in the air before face or throat.
      kept = std::min(kept, smooth(0.06f, 0.03f, length(there - p)));
      p = lerp(p, there, clumping * t * (2 - t) * kept);
    }
    const float free = std::clamp(gone / 0.02f, 0.f, 1.f);  // it begins at the root
    const Frame across = Frame::facing(path[std::min(k + 1, n - 1)] - path[k ? k - 1 : 0]);
    auto swung = [&](double by, double every, float phase, float flat) {
      if (by <= 0) return;
      const float a = 2 * kPiF * gone / float(every) + phase;
      p += (across.u * std::sin(a) + across.v * (flat * std::cos(a))) * (float(by) * free);
    };
    swung(style.wave, style.waveLength, turn + 0.5f * std::sin(own), 0.6f);
    swung(style.coil, style.coilLength, own, 1);
    p += astray * (strays * gone);
    // A hair ends in a tip.
    out.points[k] = {p, float(style.thickness) / 2 * (k + 1 == n ? 0.35f : 1.f - 0.3f * t)};
    out.shade[k] = shade * (0.8f + 0.2f * free);
  }
  for (size_t k = 0; k < n; ++k)
    out.along[k] = normalize(out.points[std::min(k + 1, n - 1)].at - out.points[k ? k - 1 : 0].at);
}

// What is over it presses it down; strands that it bends keep their points.
void pressed(Strands::Point* points, Vec3* along, size_t n, const Cover& hat, const Motion& head) {
  for (size_t k = 0; k < n; ++k) points[k].at = head(hat.under(head.back(points[k].at)));
  for (size_t k = 0; k < n; ++k) {
    const Vec3 way = points[std::min(k + 1, n - 1)].at - points[k ? k - 1 : 0].at;
    if (dot(way, way) > 0) along[k] = normalize(way);
  }
}

}  // namespace

Strands grown(const Sitter& sitter, const HairStyle& style, const Posture& posture, const Cover* hat) {
  Strands s;
  if (style.strands < 1 || sitter.ground.triangles.empty()) return s;
  const Grower grower(sitter, style, posture);
  const double longest = *std::max_element(style.length.begin(), style.length.end());
  double finest = 0.014;  // metres of a piece
  if (style.wave > 0) finest = std::min(finest, style.waveLength / 7);
  if (style.coil > 0) finest = std::min(finest, style.coilLength / 5);
  const int points = std::clamp(int(std::lround(longest / finest)) + 1, 3, 40);

  std::vector<std::vector<Vec3>> locks;
  const std::vector<Root> of = grower.roots(std::max(1, style.clumps), 0x10c5u);
  locks.resize(of.size());
  for (size_t i = 0; i < of.size(); ++i) grower.grow(of[i], points, locks[i]);

  const std::vector<Root> roots = grower.roots(style.strands, 0x57a4du);
  const size_t each = size_t(points);
  s.points.resize(roots.size() * each);
  s.along.resize(s.points.size());
  s.shade.resize(s.points.size());
  s.segments.reserve(roots.size() * (each - 1));
  for (size_t r = 0; r < roots.size(); ++r)
    for (size_t k = 0; k + 1 < each; ++k) s.segments.push_back(std::uint32_t(r * each + k));
  const Motion head = posture.head();
  inParallel(roots.size(), 256, [&](size_t from, size_t to) {
    std::vector<Vec3> path;
    for (size_t r = from; r < to; ++r) {
      grower.grow(roots[r], points, path);
      const size_t first = r * each;
      dressed(style, roots[r], path, nearestOf(of, locks, roots[r].at, float(style.part)),
              {&s.points[first], &s.along[first], &s.shade[first]});
      if (hat) pressed(&s.points[first], &s.along[first], each, *hat, head);
    }
  });
  return s;
}

}  // namespace easel
