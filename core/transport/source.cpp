#include "transport/source.h"

#include <algorithm>
#include <optional>
#include <set>
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
// Where a ray meets a leaf, as pointOn() has it, and how far away; nothing: it passes.
struct OnLeaf {
  Vec2 place;
  float distance;
};
std::optional<OnLeaf> intersect(const Leaf& l, Vec3 origin, Vec3 direction) {
  const float facing = dot(direction, l.frame.n);
  if (std::abs(facing) < 1e-6f) return {};
  const float t = dot(l.centre - origin, l.frame.n) / facing;
  if (t <= 1e-3f) return {};
  const Vec3 hit = origin + direction * t - l.centre;
  const Vec2 p{dot(hit, l.frame.u) / l.halfWidth, dot(hit, l.frame.v) / l.halfHeight};
  if (l.disc ? p.x * p.x + p.y * p.y > 1 : std::abs(p.x) > 1 || std::abs(p.y) > 1) return {};
  return OnLeaf{p, t};
}
bool passesLight(const Leaf& l) { return l.front.through > 0 || l.back.through > 0; }
}  // namespace

Source::Source(Emitter emitter, std::vector<Leaf> leaves) : emitter_(std::move(emitter)), leaves_(std::move(leaves)) {
  std::erase_if(leaves_, [](const Leaf& l) { return l.sampling != Leaf::Sampling::ByArea; });
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
  }
  if (total_ <= 0) return;
  std::set<int> scrims;
  for (const Leaf& l : leaves_)
    if (passesLight(l)) scrims.insert(l.panel);
  // Between scrims that hang close light goes to and fro: of two the first time counts (through, back, back, through),
  // of three the first of either gap and of both. What is beyond comes from the room's cells.
  before_ = scrims.size() < 2 ? int(scrims.size()) : scrims.size() == 2 ? 3 : 6;
  // What a scrim sends to the other leaves counts for their weights too, or a reflector that only a scrim feeds would
  // be chosen too seldom: centre to centre, good enough for a weight.
  if (before_) {
    const std::vector<float> direct = weight_;
    for (size_t k = 0; k < leaves_.size(); ++k)
      for (size_t s = 0; s < leaves_.size(); ++s) {
        const Leaf &to = leaves_[k], &from = leaves_[s];
        if (k == s || !passesLight(from)) continue;
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
  if (before_) lookAround();
}

// A small radiosity of the leaves alone, each with two sides, by a few dozen directions from each: good enough to say
// where light is worth looking for.
void Source::lookAround() {
  constexpr std::uint32_t n = 64;
  struct Seen {
    size_t leaf;
    bool front;  // the side of that leaf
  };
  struct OfSide {
    std::vector<Seen> seen;
    float lamp = 0, others = 0;
  };
  std::vector<std::array<OfSide, 2>> sides(leaves_.size());
  Onwards along;
  for (size_t k = 0; k < leaves_.size(); ++k)
    for (std::uint32_t i = 0; i < n; ++i) {
      Vec2 place;
      const Vec3 from = pointOn(leaves_[k], sobol2(i, 0xd1u), &place);
      const Vec3 way = cosineDirection(leaves_[k].frame, sobol2(i, 0xd2u));
      for (const bool front : {true, false}) {
        const Vec3 d = front ? way : -way;
        if (const int hits = othersAlong(k, from, d, along))
          sides[k][front].seen.push_back(
              {along[size_t(hits) - 1].leaf, dot(leaves_[along[size_t(hits) - 1].leaf].frame.n, d) < 0});
      }
      const auto e = emitter_.sample(from, sobol2(i, 0xd3u));
      if (!(e.geometry > 0)) continue;
      const int between = othersAlong(k, from, e.direction, along);
      if (!between || along[0].distance > e.distance)
        sides[k][dot(leaves_[k].frame.n, e.direction) > 0].lamp +=
            e.geometry * std::abs(dot(leaves_[k].frame.n, e.direction)) / float(n);
    }
  const auto finish = [&](size_t k, bool front) -> const Finish& { return front ? leaves_[k].front : leaves_[k].back; };
  const auto back = [](const Finish& f) { return easel::luminance(f.diffuse + f.gloss); };
  for (int order = 0; order < before_; ++order) {
    const auto last = sides;
    for (auto& both : sides)
      for (OfSide& s : both) {
        s.others = 0;
        for (const Seen& o : s.seen) {
          const OfSide &here = last[o.leaf][o.front], &there = last[o.leaf][!o.front];
          s.others += ((here.lamp + here.others) * back(finish(o.leaf, o.front)) +
                       (there.lamp + there.others) * finish(o.leaf, !o.front).through) /
                      float(n);
        }
      }
  }
  for (size_t k = 0; k < leaves_.size(); ++k) {
    Around a;
    for (const bool front : {false, true}) {
      const OfSide &s = sides[k][front], &other = sides[k][!front];
      // Closely covered by other leaves it is a direction that finds them, else their area.
      a.byDirection[front] = std::clamp(1.5f * float(s.seen.size()) / n, 0.1f, 0.85f);
      const float here = s.others * back(finish(k, front)), there = other.others * finish(k, !front).through;
      a.same[front] = here + there > 0 ? std::clamp(here / (here + there), 0.08f, 0.92f) : 0.5f;
    }
    const auto sent = [&](bool lit) { return sides[k][lit].others * (back(finish(k, lit)) + finish(k, lit).through); };
    const float both = sent(true) + sent(false);
    a.front = both > 0 ? std::clamp(sent(true) / both, 0.08f, 0.92f) : 0.5f;
    around_.push_back(a);
  }
}

Source Source::in(const Scene& scene) const {
  Source s = *this;
  s.indirect_ = scene.interreflection().of(emitter_, feedsPanels() ? before_ : 0);
  return s;
}

Vec2 Source::withinCells(const Cells& upTo, Vec2 u, float* pdf) {
  const auto at = std::min(size_t(std::upper_bound(upTo.begin(), upTo.end(), u.x) - upTo.begin()), upTo.size() - 1);
  const float before = at ? upTo[at - 1] : 0, share = upTo[at] - before;
  *pdf = share * float(upTo.size());
  const float inside = std::clamp((u.x - before) / share, 0.f, 0.99999f);
  const size_t column = at % kCells, row = at / kCells;
  return {(float(column) + inside) / kCells, (float(row) + u.y) / kCells};
}

float Source::densityAt(size_t k, Vec2 place) const {
  const Vec2 u = leaves_[k].disc ? squareOfDisc(place) : Vec2{(place.x + 1) / 2, (place.y + 1) / 2};
  const auto at = [](float x) { return size_t(std::clamp(int(x * kCells), 0, kCells - 1)); };
  const size_t cell = at(u.y) * kCells + at(u.x);
  const float share = cells_[k][cell] - (cell ? cells_[k][cell - 1] : 0);
  return share * float(cells_[k].size()) / leaves_[k].area();
}

template <class May>
int Source::choose(float u, May may, float* probability) const {
  float total = 0;
  for (size_t k = 0; k < leaves_.size(); ++k)
    if (may(k)) total += weight_[k];
  if (total <= 0) return -1;
  float at = u * total;
  int last = -1;
  for (size_t k = 0; k < leaves_.size(); ++k) {
    if (!may(k)) continue;
    last = int(k);
    if (at < weight_[k]) break;
    at -= weight_[k];
  }
  *probability = weight_[size_t(last)] / total;
  return last;
}

int Source::othersAlong(size_t leaf, Vec3 point, Vec3 direction, Onwards& out) const {
  size_t n = 0;
  for (size_t k = 0; k < leaves_.size(); ++k) {
    if (k == leaf) continue;
    const auto there = intersect(leaves_[k], point, direction);
    if (!there) continue;
    size_t at = 0;
    while (at < n && out[at].distance < there->distance) ++at;
    if (at == out.size()) continue;
    n = std::min(n + 1, out.size());
    std::move_backward(out.begin() + std::ptrdiff_t(at), out.begin() + std::ptrdiff_t(n) - 1,
                       out.begin() + std::ptrdiff_t(n));
    out[at] = {k, there->place, direction, there->distance, 0};
  }
  // What is whole hides what is behind it.
  for (size_t k = 0; k < n; ++k)
    if (opaque(leaves_[out[k].leaf], out[k].place) > 0.97f) return int(k) + 1;
  return int(n);
}

int Source::others(size_t leaf, Vec3 point, std::optional<bool> sentTo, std::uint32_t index, std::uint32_t seed,
                   Onwards& out) const {
  const Vec2 pick = sobol2(index, hashPair(seed, 1)), u = sobol2(index, seed);
  const Around& about = around_[leaf];
  const float front = !sentTo ? about.front : *sentTo ? about.same[1] : 1 - about.same[0];
  const bool side = pick.y < front;
  const float byDirection = about.byDirection[side];
  int n = 0;
  if (pick.x < byDirection) {
    const Vec3 way = cosineDirection(leaves_[leaf].frame, u);
    n = othersAlong(leaf, point, side ? way : -way, out);
  } else {
    float probability = 0, pdf = 1;
    const int k = choose((pick.x - byDirection) / (1 - byDirection), [&](size_t l) { return l != leaf; }, &probability);
    if (k < 0) return 0;
    out[0].leaf = size_t(k);
    const Vec3 way = pointOn(leaves_[size_t(k)], withinCells(cells_[size_t(k)], u, &pdf), &out[0].place) - point;
    out[0].distance = std::sqrt(dot(way, way));
    if (out[0].distance < 1e-4f) return 0;
    out[0].direction = way / out[0].distance;
    n = 1;
  }
  const float directions[2] = {(1 - front) * about.byDirection[0], front * about.byDirection[1]};
  for (int i = 0; i < n; ++i) {
    Onward& o = out[size_t(i)];
    const Leaf& other = leaves_[o.leaf];
    const float cosine = dot(leaves_[leaf].frame.n, o.direction), here = std::abs(cosine),
                there = std::abs(dot(other.frame.n, o.direction));
    const float byArea =
        chanceBeside(leaf, o.leaf) * densityAt(o.leaf, o.place) * o.distance * o.distance / std::max(1e-6f, there);
    o.weight =
        here / std::max(1e-12f, directions[cosine > 0] * here / kPiF + (1 - directions[0] - directions[1]) * byArea);
  }
  return n;
}

Source::Arriving Source::arriving(const Scene* scene, size_t at, Vec3 point, std::optional<bool> sentTo,
                                  std::uint32_t index, std::uint32_t seed, int more) const {
  const Leaf& leaf = leaves_[at];
  Arriving out;
  // A ray leaves the leaf on the side that the light comes from.
  const auto lifted = [](const Leaf& of, Vec3 place, Vec3 towards) {
    return place + of.frame.n * (dot(of.frame.n, towards) > 0 ? kOff : -kOff);
  };
  const auto open = [&](Vec3 from, Vec3 to, std::uint32_t salt) {
    const float distance = length(to - from);
    return !scene || !scene->occluded(from, (to - from) / distance, 0, distance * 0.9999f, hashPair(salt, index));
  };
  const auto e = emitter_.sample(point, sobol2(index, seed));
  if (e.geometry > 0 && open(lifted(leaf, point, e.direction), point + e.direction * e.distance, seed))
    out.from[size_t(out.n++)] = {e.direction, Vec3{1, 1, 1} * (e.geometry * std::abs(dot(leaf.frame.n, e.direction)))};
  if (more <= 0 || leaves_.size() < 2) return out;
  // Hashed: to change a few bits at each panel would come back to the same numbers at every second.
  const std::uint32_t again = hashPair(seed, 0xc4a1u);
  Onwards next;
  const int n = others(at, point, sentTo, index, again, next);
  for (int i = 0; i < n; ++i) {
    const Onward& o = next[size_t(i)];
    const Leaf& other = leaves_[o.leaf];
    const Vec3 there = point + o.direction * o.distance;
    // Lifted at its end too: it must not end in the leaf that it asks for, however flat it comes.
    if (!(o.weight > 0) ||
        !open(lifted(leaf, point, o.direction), lifted(other, there, -o.direction), again + std::uint32_t(i)))
      continue;
    const bool front = dot(other.frame.n, o.direction) < 0;
    const Arriving before = arriving(scene, o.leaf, there, front, index, hashPair(again, 0x99u), more - 1);
    out.from[size_t(out.n++)] = {o.direction, sent(other, o.place, before, -o.direction) * o.weight};
  }
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
  const int k = choose(
      sobol2(index, seed ^ 0x2717u).x, [&](size_t l) { return only < 0 || leaves_[l].panel == only; }, &probability);
  return k < 0 ? PanelPoint{} : pointOfLeaf(scene, size_t(k), index, seed, 1 / probability);
}

Source::PanelPoint Source::pointOfLeaf(const Scene* scene, size_t k, std::uint32_t index, std::uint32_t seed,
                                       float weight) const {
  PanelPoint p;
  float pdf = 1;
  p.leaf = &leaves_[k];
  p.position = pointOn(*p.leaf, withinCells(cells_[k], sobol2(index, seed ^ 0x3131u), &pdf), &p.place);
  p.arriving = arriving(scene, k, p.position, {}, index, seed ^ 0x71f3u, before_);
  p.weight = weight * p.leaf->area() / pdf;
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
  out.at = p.position + p.leaf->frame.n * (dot(p.leaf->frame.n, out.direction) < 0 ? kOff : -kOff);
  const float away = std::abs(dot(p.leaf->frame.n, out.direction));
  out.pdf = out.distance * out.distance / std::max(1e-12f, p.weight * away);
  if (p.arriving.n) out.lux = sent(*p.leaf, p.place, p.arriving, -out.direction) * (away * p.weight / d2);
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
  std::optional<size_t> nearest;
  OnLeaf at{{}, limit};
  for (size_t k = 0; k < leaves_.size(); ++k) {
    const auto there = intersect(leaves_[k], origin, direction);
    if (!there || there->distance >= at.distance || opaque(leaves_[k], there->place) < 0.5f) continue;
    nearest = k;
    at = *there;
  }
  if (!nearest) return {};
  const Leaf& leaf = leaves_[*nearest];
  const float facing = -dot(leaf.frame.n, direction), away = std::abs(facing);
  const Arriving light = arriving(&scene, *nearest, origin + direction * at.distance, facing > 0, index, seed, before_);
  return SeenPanel{
      leaf.panel, at.distance, sent(leaf, at.place, light, -direction),
      shareOf(*nearest) * densityAt(*nearest, at.place) * at.distance * at.distance / std::max(1e-6f, away)};
}

Source sourceOf(const PlacedSet& set, const PlacedLight& light) { return Source(emitterOf(set, light), set.leaves); }

}  // namespace easel
