#include "transport/source.h"

#include <algorithm>
#include <tuple>

#include "threads/parallel.h"
#include "transport/microfacet.h"

namespace easel {
namespace {
constexpr float kOff = 3e-4f;  // leaves the panel
// Nearer than this a panel's point is taken to be this far: keeps single samples from blazing.
constexpr float kNear2 = 0.03f * 0.03f;

Vec3 pointOn(const Leaf& l, Vec2 u, Vec2* place) {
  Vec2 p{2 * u.x - 1, 2 * u.y - 1};
  if (l.disc) p = concentricDisc(u);
  *place = p;
  return l.centre + l.frame.u * (p.x * l.halfWidth) + l.frame.v * (p.y * l.halfHeight);
}
float opaque(const Leaf& l, Vec2 place) { return l.pattern ? 1 - l.pattern->at(-place.x, place.y) : 1; }
}  // namespace

Source::Source(Emitter emitter, std::vector<Leaf> leaves) : emitter_(std::move(emitter)), leaves_(std::move(leaves)) {
  std::erase_if(leaves_, [](const Leaf& l) { return l.gives != Leaf::Gives::ByName; });
  // In the order of their places: the light is the same whichever panel was put up first.
  std::sort(leaves_.begin(), leaves_.end(), [](const Leaf& a, const Leaf& b) {
    const auto key = [](const Leaf& l) {
      return std::tuple(l.centre.x, l.centre.y, l.centre.z, l.halfWidth, l.halfHeight);
    };
    return key(a) < key(b);
  });
  // What each leaf can pass on: its share of the light that falls on it unhindered, at two points of each cell.
  constexpr int n = kCells * kCells;
  for (size_t k = 0; k < leaves_.size(); ++k) {
    const Leaf& l = leaves_[k];
    float sum = 0;
    Cells upTo;
    for (int c = 0; c < n; ++c) {
      for (std::uint32_t i = 0; i < 2; ++i) {
        Vec2 place;
        const Vec2 u = sobol2(i, 77u + std::uint32_t(c));
        const int column = c % kCells, row = c / kCells;
        const Vec3 q = pointOn(l, Vec2{(float(column) + u.x) / kCells, (float(row) + u.y) / kCells}, &place);
        const auto e = emitter_.sample(q, sobol2(i + 2 * std::uint32_t(c), 78));
        const float facing = dot(e.direction, l.frame.n);
        const Finish& lit = facing > 0 ? l.front : l.back;
        const float gives = easel::luminance(lit.diffuse + lit.gloss) + lit.through;
        sum += e.geometry * std::abs(facing) * gives / 2;
      }
      upTo[size_t(c)] = sum;
    }
    weight_.push_back(sum / n * l.area());
    // Three tenths of the points fall evenly: light may come over another panel, and a mirror looks where it looks.
    for (int c = 0; c < n; ++c) {
      float& s = upTo[size_t(c)];
      s = (sum > 0 ? 0.7f * s / sum : 0.7f * float(c + 1) / n) + 0.3f * float(c + 1) / n;
    }
    cells_.push_back(upTo);
    total_ += weight_.back();
    chains_ |= l.front.through > 0 || l.back.through > 0;
  }
  if (total_ <= 0) return;
  // What a scrim sends to the other leaves counts for their weights too, or a reflector that only a scrim feeds would
  // be chosen too seldom: centre to centre, good enough for a weight.
  if (chains_) {
    const std::vector<float> direct = weight_;
    for (size_t k = 0; k < leaves_.size(); ++k)
      for (size_t s = 0; s < leaves_.size(); ++s) {
        const Leaf &to = leaves_[k], &from = leaves_[s];
        if (k == s || (from.front.through <= 0 && from.back.through <= 0)) continue;
        const Vec3 d = from.centre - to.centre;
        const float d2 = std::max(dot(d, d), 0.25f * from.area());
        const float facing = dot(d, to.frame.n) / std::sqrt(d2);
        const Finish& lit = facing > 0 ? to.front : to.back;
        const float gives = easel::luminance(lit.diffuse + lit.gloss) + lit.through;
        weight_[k] += direct[s] * to.area() * std::abs(facing) * std::abs(dot(d, from.frame.n)) / std::sqrt(d2) /
                      (kPiF * d2) * gives;
      }
    total_ = 0;
    for (float w : weight_) total_ += w;
  }
  // A part for all alike: sixteen points may have missed where a spot falls, and a scrim's light comes to every board.
  const float even = 0.1f * total_ / float(leaves_.size());
  for (size_t k = 0; k < leaves_.size(); ++k) {
    const Leaf& l = leaves_[k];
    const float best = std::max(easel::luminance(l.front.diffuse + l.front.gloss) + l.front.through,
                                easel::luminance(l.back.diffuse + l.back.gloss) + l.back.through);
    weight_[k] += even * (best > 0.1f ? 1.f : 0.15f);
  }
  total_ = 0;
  for (float w : weight_) total_ += w;
}

Source Source::in(const Scene& scene) const {
  Source s = *this;
  s.returned_ = scene.interreflection().of(emitter_, feedsPanels() && chains_);
  return s;
}

Vec2 Source::withinCells(const Cells& upTo, Vec2 u, float* density) {
  const auto at = std::min(size_t(std::upper_bound(upTo.begin(), upTo.end(), u.x) - upTo.begin()), upTo.size() - 1);
  const float before = at ? upTo[at - 1] : 0, share = upTo[at] - before;
  *density = share * float(upTo.size());
  const float inside = std::clamp((u.x - before) / share, 0.f, 0.99999f);
  const size_t column = at % kCells, row = at / kCells;
  return {(float(column) + inside) / kCells, (float(row) + u.y) / kCells};
}

int Source::choose(float u, int only, float* probability) const {
  float total = total_;
  if (only >= 0) {
    total = 0;
    for (size_t k = 0; k < leaves_.size(); ++k)
      if (leaves_[k].panel == only) total += weight_[k];
  }
  if (total <= 0) return -1;
  float at = u * total;
  int last = -1;
  for (size_t k = 0; k < leaves_.size(); ++k) {
    if (only >= 0 && leaves_[k].panel != only) continue;
    last = int(k);
    if (at < weight_[k]) break;
    at -= weight_[k];
  }
  *probability = weight_[size_t(last)] / total;
  return last;
}

Source::Arriving Source::arriving(const Scene* scene, const Leaf& leaf, Vec3 point, std::uint32_t index,
                                  std::uint32_t seed, bool deeper) const {
  Arriving out;
  auto take = [&](Vec3 direction, float distance, Vec3 lux, std::uint32_t salt) {
    // The ray leaves the leaf on the side that the light comes from.
    const Vec3 from = point + leaf.frame.n * (dot(leaf.frame.n, direction) > 0 ? kOff : -kOff);
    if (!scene || !scene->occluded(from, direction, 0, distance, hashPair(salt, index)))
      out.from[size_t(out.n++)] = {direction, lux};
  };
  const auto e = emitter_.sample(point, sobol2(index, seed));
  if (e.geometry > 0)
    take(e.direction, e.distance * 0.9999f, Vec3{1, 1, 1} * (e.geometry * std::abs(dot(leaf.frame.n, e.direction))),
         seed);
  if (!deeper || !chains_) return out;
  float probability = 0;
  const std::uint32_t again = seed ^ 0xc4a1u;
  const int k = choose(sobol2(index, again ^ 0x11u).x, -1, &probability);
  if (k < 0 || &leaves_[size_t(k)] == &leaf) return out;
  const Leaf& other = leaves_[size_t(k)];
  Vec2 there;
  float density = 1;
  const Vec3 q = pointOn(other, withinCells(cells_[size_t(k)], sobol2(index, again), &density), &there);
  const Vec3 d = q - point;
  const float d2 = std::max(kNear2, dot(d, d)), distance = std::sqrt(d2);
  const Vec3 dir = d / distance;
  const float nl = std::abs(dot(leaf.frame.n, dir));
  if (nl <= 1e-4f) return out;
  const float geometry =
      std::abs(dot(other.frame.n, dir)) * other.area() / (d2 * probability * density) * opaque(other, there);
  const Vec3 sends = sent(other, there, arriving(scene, other, q, index, again ^ 0x99u, false), -dir);
  // The ray starts that much nearer: it must not end in the leaf that it asks for.
  take(dir, distance * 0.9999f - 2 * kOff, sends * (nl * geometry), again);
  return out;
}

Vec3 Source::sent(const Leaf& leaf, Vec2 place, const Arriving& arriving, Vec3 towards) {
  const float side = dot(leaf.frame.n, towards) >= 0 ? 1.f : -1.f;
  const Vec3 n = leaf.frame.n * side;
  const Finish& shown = side > 0 ? leaf.front : leaf.back;
  Vec3 out;
  for (int k = 0; k < arriving.n; ++k) {
    const auto& [from, lux] = arriving.from[size_t(k)];
    const float nl = dot(n, from);
    if (nl <= 0) {
      out += lux * ((side > 0 ? leaf.back : leaf.front).through / kPiF);
      continue;
    }
    Vec3 f = shown.diffuse / kPiF;
    if (shown.gloss.x > 0) {
      const Vec3 h = normalize(from + towards);
      const float nv = std::max(1e-3f, dot(n, towards)), nh = std::max(0.f, dot(n, h));
      f += shown.gloss * microfacet(std::max(nl, 1e-3f), nv, nh, shown.roughness);
    }
    out += f * lux;
  }
  return out * opaque(leaf, place);
}

Source::PanelPoint Source::panelPoint(const Scene* scene, std::uint32_t index, std::uint32_t seed, int only) const {
  float probability = 0;
  const int k = choose(sobol2(index, seed ^ 0x2717u).x, only, &probability);
  return k < 0 ? PanelPoint{} : pointOfLeaf(scene, size_t(k), index, seed, 1 / probability);
}

Source::PanelPoint Source::pointOfLeaf(const Scene* scene, size_t k, std::uint32_t index, std::uint32_t seed,
                                       float weight) const {
  PanelPoint p;
  float density = 1;
  p.leaf = &leaves_[k];
  p.position = pointOn(*p.leaf, withinCells(cells_[k], sobol2(index, seed ^ 0x3131u), &density), &p.place);
  p.arriving = arriving(scene, *p.leaf, p.position, index, seed ^ 0x71f3u, true);
  p.weight = weight * p.leaf->area() / density;
  return p;
}

Source::FromPanel Source::seenFrom(const PanelPoint& p, Vec3 receiver) {
  FromPanel out;
  if (!p.leaf) return out;
  const Vec3 d = p.position - receiver;
  const float d2 = std::max(kNear2, dot(d, d));
  out.distance = std::sqrt(dot(d, d));
  if (out.distance < 1e-4f) return out;
  out.direction = d / out.distance;
  out.panel = p.leaf->panel;
  if (p.arriving.n)
    out.lux = sent(*p.leaf, p.place, p.arriving, -out.direction) *
              (std::abs(dot(p.leaf->frame.n, out.direction)) * p.weight / d2);
  return out;
}

Source::Points::Points(const Source& source, const Scene& scene) {
  const auto mirrors = [](const Leaf& l) { return maxOf(l.front.gloss) > 0 || maxOf(l.back.gloss) > 0; };
  if (!source.feedsPanels() || std::any_of(source.leaves_.begin(), source.leaves_.end(), mirrors)) return;
  all_.resize(size_t(kBlock) * kBlocks);
  inParallel(all_.size(), 64, [&](size_t from, size_t to) {
    for (size_t k = from; k < to; ++k) all_[k] = source.panelPoint(&scene, std::uint32_t(k), 0x9001u);
  });
}

const Source::PanelPoint& Source::Points::at(std::uint32_t index, std::uint32_t seed) const {
  // Each block of a Sobol sequence is spread evenly by itself, and stays so when exclusive or turns its order.
  const std::uint32_t by = hashPair(seed, index / kBlock);
  return all_[size_t(by / kBlock % kBlocks) * kBlock + (index % kBlock ^ by % kBlock)];
}

Source::FromPanel Source::sample(const Scene* scene, Vec3 receiver, std::uint32_t index, std::uint32_t seed,
                                 int only) const {
  return seenFrom(panelPoint(scene, index, seed, only), receiver);
}

Source::FromPanel Source::sampleLeaf(const Scene* scene, Vec3 receiver, size_t k, std::uint32_t index,
                                     std::uint32_t seed) const {
  return seenFrom(pointOfLeaf(scene, k, index, seed, 1), receiver);
}

std::optional<Source::SeenPanel> Source::seenPanel(const Scene& scene, Vec3 origin, Vec3 direction, float limit,
                                                   std::uint32_t index, std::uint32_t seed) const {
  const Leaf* nearest = nullptr;
  Vec2 place;
  float best = limit;
  for (const Leaf& l : leaves_) {
    const float facing = dot(direction, l.frame.n);
    if (std::abs(facing) < 1e-6f) continue;
    const float t = dot(l.centre - origin, l.frame.n) / facing;
    if (t <= 1e-3f || t >= best) continue;
    const Vec3 hit = origin + direction * t - l.centre;
    const Vec2 p{dot(hit, l.frame.u) / l.halfWidth, dot(hit, l.frame.v) / l.halfHeight};
    if (l.disc ? p.x * p.x + p.y * p.y > 1 : std::abs(p.x) > 1 || std::abs(p.y) > 1) continue;
    if (opaque(l, p) < 0.5f) continue;
    nearest = &l;
    place = p;
    best = t;
  }
  if (!nearest) return {};
  const Arriving light = arriving(&scene, *nearest, origin + direction * best, index, seed, true);
  return SeenPanel{nearest->panel, best, sent(*nearest, place, light, -direction)};
}

Source sourceOf(const Plan& plan, const Light& light) { return Source(emitterOf(plan, light), leavesOf(plan)); }

}  // namespace easel
