#include "transport/interreflection.h"

#include <Eigen/LU>
#include <algorithm>
#include <array>
#include <cmath>

#include "threads/parallel.h"
#include "transport/sampling.h"

namespace easel {
namespace {

constexpr float kOffSurface = 2e-4f;  // metres: leaves the surface
constexpr int kCellsAimed = 360;      // of the room
constexpr int kCellsOfPanels = 240;   // at most, about: sixteen folded boards must not cost a second
constexpr int kRaysPerCell = 192;
constexpr float kWide = 0.9f, kNarrow = 1.5f;  // metres: cells wider than the one are spread by the other
constexpr int kLampRays = 2048, kOnward = 2;   // ... and rays on from each place where one lands

using Matrix = Eigen::MatrixXf;
using Vector = Eigen::VectorXf;

}  // namespace

struct Interreflection::Equations {
  Matrix factors;                                   // what leaves the column's cell, as seen from the row's: F
  Matrix fromPanels;                                // the same, columns of panels alone
  std::array<Eigen::PartialPivLU<Matrix>, 3> room;  // I - F R, for red, green, blue
};

Interreflection::~Interreflection() = default;

namespace {
// 0..1 both ways.
Vec2 onSide(const Side& s, Vec3 position) {
  const Vec3 d = position - s.corner;
  return {dot(d, s.across) / dot(s.across, s.across), dot(d, s.up) / dot(s.up, s.up)};
}
}  // namespace

Vec2 Interreflection::placeOn(int side, Vec3 position) const {
  const Grid& g = grid_[size_t(side)];
  const Vec2 p = onSide(scene_.sides()[size_t(side)], position);
  return {g.across.even(p.x), g.up.even(p.y)};
}

int Interreflection::partOf(const Grid& g, int at, Vec3 position) const {
  if (g.cuts.empty()) return g.first + at;
  const Cut& cut = g.cuts[size_t(at)];
  int part = 0;
  for (int k = 0; k < cut.walls; ++k) {
    const Wall& w = walls_[size_t(cut.wall[size_t(k)])];
    part |= int(dot(position - w.centre, w.normal) > 0) << k;
  }
  return cut.first + part;
}

int Interreflection::cellAt(int side, Vec3 position) const {
  const Grid& g = grid_[size_t(side)];
  if (scene_.sides()[size_t(side)].body()) return g.first;
  const Vec2 p = placeOn(side, position);
  const int column = std::clamp(int(p.x * float(g.columns)), 0, g.columns - 1),
            row = std::clamp(int(p.y * float(g.rows)), 0, g.rows - 1);
  return partOf(g, column + g.columns * row, position);
}

Interreflection::Interreflection(const Scene& scene) : scene_(scene), equations_(std::make_unique<Equations>()) {
  standWalls();
  cutIntoCells();
  countFactors();
  solveRoom();
}

namespace {
bool onDisc(Vec2 place) { return std::hypot(2 * place.x - 1, 2 * place.y - 1) <= 1; }
// Not a panel that is carried about, nor a body: what a wall can stand on.
bool built(const Side& s) { return !s.panel && !s.body() && s.other < 0; }
}  // namespace

// Sides of set pieces look both ways from one plane; a large one keeps the light of its two sides apart.
void Interreflection::standWalls() {
  constexpr float kLarge = 1;  // square metres: what is smaller is passed round by light within a cell or two
  const std::vector<Side>& sides = scene_.sides();
  for (size_t k = 0; k + 1 < sides.size(); ++k) {
    const Side &s = sides[k], &back = sides[k + 1];
    if (!s.piece || !back.piece || length(s.across) * length(s.up) < kLarge) continue;
    if (dot(s.normal, back.normal) > -0.999f || length(s.corner - back.corner) > 1e-4f) continue;
    walls_.push_back({s.corner + (s.across + s.up) * 0.5f, s.normal, s.across * 0.5f, s.up * 0.5f});
  }
}

// Where a wall's edge lies on a side, as a stretch in the side's own 0..1, and which cells it crosses.
void Interreflection::cutByWalls(int side, Grid& g) {
  constexpr float kOnIt = 0.05f, kPast = 0.02f;  // metres: so near it stands there; so far it reaches past its ends
  const Side& s = scene_.sides()[size_t(side)];
  std::vector<Cut> cuts(size_t(g.columns * g.rows));
  for (size_t w = 0; w < walls_.size(); ++w) {
    const Wall& wall = walls_[w];
    if (std::abs(dot(wall.normal, s.normal)) > 0.9f) continue;
    // The wall's corners, nearest to the side first.
    std::array<Vec3, 4> corners;
    for (size_t k = 0; k < 4; ++k)
      corners[k] = wall.centre + wall.across * (k & 1 ? 1.f : -1.f) + wall.up * (k & 2 ? 1.f : -1.f);
    const auto off = [&](Vec3 p) { return std::abs(dot(p - s.corner, s.normal)); };
    std::sort(corners.begin(), corners.end(), [&](Vec3 a, Vec3 b) { return off(a) < off(b); });
    if (off(corners[1]) > kOnIt) continue;
    const Vec3 along = normalize(corners[1] - corners[0]) * kPast;
    const Vec2 from = onSide(s, corners[0] - along), to = onSide(s, corners[1] + along);
    for (int at = 0; at < g.columns * g.rows; ++at) {
      const Vec2 low = g.place(at, {0, 0}), high = g.place(at, {1, 1});
      // The part of the stretch that is inside the cell: each pair of edges leaves less of it (Liang and Barsky, 1984).
      float first = 0, last = 1;
      const auto within = [&](float a, float way, float least, float most) {
        if (std::abs(way) < 1e-9f) return a > least && a < most;
        const float p = (least - a) / way, q = (most - a) / way;
        first = std::max(first, std::min(p, q));
        last = std::min(last, std::max(p, q));
        return first < last;
      };
      if (!within(from.x, to.x - from.x, low.x, high.x) || !within(from.y, to.y - from.y, low.y, high.y)) continue;
      if (Cut& cut = cuts[size_t(at)]; cut.walls < 2) cut.wall[size_t(cut.walls++)] = int(w);
    }
  }
  if (std::any_of(cuts.begin(), cuts.end(), [](const Cut& c) { return c.walls > 0; })) g.cuts = std::move(cuts);
}

void Interreflection::cutIntoCells() {
  const std::vector<Side>& sides = scene_.sides();
  float whole = 0, panels = 0;
  for (const Side& s : sides) (s.panel ? panels : whole) += length(s.across) * length(s.up);
  const float edge = std::max(0.2f, std::sqrt(whole / kCellsAimed)),
              ofPanels = std::max(0.4f, std::sqrt(panels / kCellsOfPanels));
  for (size_t k = 0; k < sides.size(); ++k) {
    const Side& s = sides[k];
    Grid g;
    g.first = int(area_.size());
    if (!s.body()) {
      const float most = s.panel ? ofPanels : edge;
      g.columns = std::clamp(int(std::lround(length(s.across) / most)), 1, 24);
      g.rows = std::clamp(int(std::lround(length(s.up) / most)), 1, 24);
    }
    if (built(s) && edge > kWide) {
      const auto spread = [&](Vec3 way) {
        const float extent = length(way), about = dot(-s.corner, way) / (extent * extent), unit = kNarrow / extent;
        return Spread{about, unit, std::asinh(-about / unit), std::asinh((1 - about) / unit)};
      };
      g.across = spread(s.across);
      g.up = spread(s.up);
    }
    if (built(s) && !s.disc) cutByWalls(int(k), g);
    grid_.push_back(g);
    const auto add = [&](int at, float area) {
      area_.push_back(area);
      side_.push_back(int(k));
      at_.push_back(at);
      reflectance_.push_back(s.reflectance);
      through_.push_back(s.through);
    };
    for (int at = 0; at < g.columns * g.rows; ++at) {
      const Vec2 low = g.place(at, {0, 0}), high = g.place(at, {1, 1});
      const float area = s.body() ? 0.f : (high.x - low.x) * (high.y - low.y) * length(s.across) * length(s.up);
      const int parts = g.cuts.empty() ? 1 : 1 << g.cuts[size_t(at)].walls;
      if (!g.cuts.empty()) grid_.back().cuts[size_t(at)].first = int(area_.size());
      const int first = int(area_.size());
      for (int part = 0; part < parts; ++part) add(at, s.disc || parts > 1 ? 0.f : area);
      if (!s.disc && parts == 1) continue;
      constexpr int kPlaces = 64;
      for (int i = 0; i < kPlaces; ++i) {
        const Vec2 p = g.place(at, sobol2(std::uint32_t(i), 0xd15cu));
        if (s.disc && !onDisc(p)) continue;
        const int cell = s.disc ? first : partOf(grid_.back(), at, s.corner + s.across * p.x + s.up * p.y);
        area_[size_t(cell)] += area / kPlaces;
      }
    }
  }
  for (int c = 0; c < cells(); ++c) {
    const Side& s = sides[size_t(side_[size_t(c)])];
    other_.push_back(s.other >= 0 ? grid_[size_t(s.other)].first + at_[size_t(c)] : -1);
  }
  if (!walls_.empty()) linkCells();
}

// Middles of cells that see one another belong to one side of every wall.
void Interreflection::linkCells() {
  constexpr float kAbove = 0.03f;  // metres: the rays run so high over the side
  const std::vector<Side>& sides = scene_.sides();
  std::vector<Vec3> middle(area_.size());
  for (size_t c = 0; c < area_.size(); ++c) {
    const Side& s = sides[size_t(side_[c])];
    const Grid& g = grid_[size_t(side_[c])];
    if (s.body() || area_[c] <= 0) continue;
    Vec3 sum;
    float n = 0;
    for (std::uint32_t i = 0; i < 64; ++i) {
      const Vec2 p = g.place(at_[c], sobol2(i, 0xd15cu));
      const Vec3 place = s.corner + s.across * p.x + s.up * p.y;
      if (partOf(g, at_[c], place) != int(c)) continue;
      sum += place;
      ++n;
    }
    middle[c] = sum / std::max(1.f, n) + s.normal * kAbove;
  }
  links_.resize(area_.size());
  inParallel(area_.size(), 32, [&](size_t from, size_t to) {
    for (size_t c = from; c < to; ++c) {
      const Side& s = sides[size_t(side_[c])];
      const Grid& g = grid_[size_t(side_[c])];
      links_[c].fill(-1);
      links_[c][4] = int(c);
      if (s.body() || area_[c] <= 0) continue;
      const int column = at_[c] % g.columns, row = at_[c] / g.columns;
      for (int k = 0; k < 9; ++k) {
        const int x = column + k % 3 - 1, y = row + k / 3 - 1;
        if (k == 4 || x < 0 || y < 0 || x >= g.columns || y >= g.rows) continue;
        const int at = x + y * g.columns, parts = g.cuts.empty() ? 1 : 1 << g.cuts[size_t(at)].walls;
        const int first = g.cuts.empty() ? g.first + at : g.cuts[size_t(at)].first;
        float most = 0;
        for (int d = first; d < first + parts; ++d) {
          if (area_[size_t(d)] <= most) continue;
          const Vec3 way = middle[size_t(d)] - middle[c];
          const float far = length(way);
          if (scene_.occluded(middle[c], way / far, 0, far, hashPair(std::uint32_t(c), std::uint32_t(k)))) continue;
          links_[c][size_t(k)] = d;
          most = area_[size_t(d)];
        }
      }
    }
  });
}

// Rays from every cell; the sitter is hit but sends none: what they pass on follows from what they meet.
void Interreflection::countFactors() {
  const std::vector<Side>& sides = scene_.sides();
  const int n = cells();
  Matrix& f = equations_->factors;
  f = Matrix::Zero(n, n);
  struct Hit {
    Vec3 albedo;
    int cell;
  };
  std::vector<std::vector<Hit>> onBodies{size_t(n)};
  inParallel(size_t(n), 4, [&](size_t from, size_t to) {
    for (size_t c = from; c < to; ++c) {
      if (area_[c] <= 0) continue;
      const Side& s = sides[size_t(side_[c])];
      const Grid& g = grid_[size_t(side_[c])];
      const int at = at_[c];
      const bool cut = !g.cuts.empty() && g.cuts[size_t(at)].walls > 0;
      const Frame frame = anyFrame(s.normal);
      int sent = 0;
      for (std::uint32_t i = 0; i < std::uint32_t(kRaysPerCell) * (cut ? 4 : 1) && sent < kRaysPerCell; ++i) {
        const Vec2 p = g.place(at, sobol2(i, std::uint32_t(c) * 2 + 0x11e7u));
        const Vec3 place = s.corner + s.across * p.x + s.up * p.y;
        if ((s.disc && !onDisc(p)) || (cut && partOf(g, at, place) != int(c))) continue;
        ++sent;
        const Vec3 out = cosineDirection(frame, sobol2(i, std::uint32_t(c) * 2 + 0x11e8u));
        const auto hit = scene_.intersect(place + s.normal * kOffSurface, out, hashPair(std::uint32_t(c), i));
        if (!hit || hit->side < 0) continue;
        const int there = cellAt(hit->side, hit->position);
        f(Eigen::Index(c), there) += 1;
        if (sides[size_t(hit->side)].body()) onBodies[c].push_back({hit->albedo, there});
      }
      if (sent) f.row(Eigen::Index(c)) /= float(sent);
    }
  });
  evenOutFactors();
  // A part of the sitter has the area that the room sees of it, and sends where it is seen from (A F is symmetric).
  std::vector<int> hits(size_t(n), 0);
  for (const auto& of : onBodies)
    for (const Hit& m : of) {
      reflectance_[size_t(m.cell)] += m.albedo;
      ++hits[size_t(m.cell)];
    }
  for (int b = 0; b < n; ++b) {
    if (!sides[size_t(side_[size_t(b)])].body()) continue;
    if (hits[size_t(b)]) reflectance_[size_t(b)] = reflectance_[size_t(b)] / float(hits[size_t(b)]);
    float area = 0;
    for (int c = 0; c < n; ++c) area += area_[size_t(c)] * f(c, b);
    if (area <= 0) continue;
    for (int c = 0; c < n; ++c) f(b, c) = area_[size_t(c)] * f(c, b) / area;
    area_[size_t(b)] = area;
  }
}

// What two cells exchange (A F) is the same both ways and counted twice: few rays of a wall meet a lamp's shade, but
// many of the shade's the wall. Each count weighs as the inverse of its variance, which goes with the area that it was
// sent from. What a cell sees of all others together was exact before and stays so.
void Interreflection::evenOutFactors() {
  Matrix& f = equations_->factors;
  const auto n = f.rows();
  std::vector<char> counted(area_.size());
  for (Eigen::Index c = 0; c < n; ++c) counted[size_t(c)] = area_[size_t(c)] > 0;  // bodies have none yet
  const auto seen = [&](Eigen::Index c) {
    float sum = 0;
    for (Eigen::Index b = 0; b < n; ++b) sum += counted[size_t(b)] ? f(c, b) : 0;
    return sum;
  };
  std::vector<float> whole(size_t(n), 0.f);
  for (Eigen::Index c = 0; c < n; ++c)
    if (counted[size_t(c)]) whole[size_t(c)] = seen(c);
  for (Eigen::Index c = 0; c < n; ++c)
    for (Eigen::Index b = c + 1; b < n; ++b) {
      if (!counted[size_t(c)] || !counted[size_t(b)]) continue;
      const float ac = area_[size_t(c)], ab = area_[size_t(b)];
      const float exchanged = ac * ab * (f(c, b) + f(b, c)) / (ac + ab);
      f(c, b) = exchanged / ac;
      f(b, c) = exchanged / ab;
    }
  for (Eigen::Index c = 0; c < n; ++c)
    if (const float sum = counted[size_t(c)] ? seen(c) : 0; sum > 0)
      for (Eigen::Index b = 0; b < n; ++b)
        if (counted[size_t(b)]) f(c, b) *= whole[size_t(c)] / sum;
}

void Interreflection::solveRoom() {
  const std::vector<Side>& sides = scene_.sides();
  const int n = cells();
  const Matrix& f = equations_->factors;
  equations_->fromPanels = f;
  for (int c = 0; c < n; ++c)
    if (!sides[size_t(side_[size_t(c)])].panel) equations_->fromPanels.col(c).setZero();
  inParallel(3, [&](size_t channel) {
    Matrix m = Matrix::Identity(n, n);
    for (int c = 0; c < n; ++c) {
      m.col(c) -= f.col(c) * reflectance_[size_t(c)][int(channel)];
      if (other_[size_t(c)] >= 0) m.col(other_[size_t(c)]) -= f.col(c) * through_[size_t(other_[size_t(c)])];
    }
    equations_->room[channel].compute(m);
  });
}

double Interreflection::factor(int from, int to) const { return double(equations_->factors(from, to)); }

std::shared_ptr<const IndirectLight> Interreflection::of(const Emitter& emitter, int more) const {
  return known_.get({emitter, more}, [&] { return solved(emitter, more); });
}

std::shared_ptr<const IndirectLight> Interreflection::solved(const Emitter& emitter, int more) const {
  const std::vector<Side>& sides = scene_.sides();
  auto out = std::make_shared<IndirectLight>(emitter);
  const LampRays& lamp = out->lamp_;
  out->room_ = this;
  out->rays_ = kLampRays;
  const int n = cells();
  struct Ray {
    VirtualLight landed;
    int cell = -1;
    bool panel = false;
    int next[kOnward];
  };
  std::vector<Ray> rays(kLampRays);
  inParallel(size_t(kLampRays), 64, [&](size_t from, size_t to) {
    for (size_t i = from; i < to; ++i) {
      const auto index = std::uint32_t(i);
      const LampRays::Ray l = lamp.sample(sobol2(index, 0x1a3du), sobol2(index, 0x1a3eu));
      if (l.flux <= 0) continue;
      const auto hit = scene_.intersect(l.origin, l.direction, hashPair(0x1a3fu, index));
      if (!hit || hit->side < 0) continue;
      const Side& s = sides[size_t(hit->side)];
      if (!s.body() && dot(hit->facet, s.normal) <= 0) continue;  // the outside of a wall
      Ray& r = rays[i];
      r.cell = cellAt(hit->side, hit->position);
      r.panel = s.panel;
      const float flux = l.flux * std::exp(-emitter.extinction() * hit->distance);
      r.landed = {hit->position + hit->facet * kOffSurface, hit->normal, hit->albedo, flux,
                  lamp.pdf(hit->position, hit->normal),     int(i)};
      for (std::uint32_t k = 0; k < kOnward && !r.panel; ++k) {
        const Vec3 on = cosineDirection(anyFrame(hit->normal), sobol2(index * kOnward + k, 0x1a40u));
        const auto next = scene_.intersect(r.landed.position, on, hashPair(0x1a41u, index * kOnward + k));
        r.next[k] = next && next->side >= 0 ? cellAt(next->side, next->position) : -1;
      }
    }
  });
  // What the lamp sends to each cell, and what comes back of it from where it landed: followed by rays, for the light
  // of a lamp close to a wall falls on a cell or two, and few of the rays for the form factors have met those.
  Vector direct = Vector::Zero(n), onPanels = Vector::Zero(n);
  std::array<Vector, 3> back{Vector::Zero(n), Vector::Zero(n), Vector::Zero(n)};
  for (const Ray& r : rays) {
    if (r.cell < 0) continue;
    const float flux = r.landed.flux / float(kLampRays);
    if (const float area = area_[size_t(r.cell)]; area > 0) (r.panel ? onPanels : direct)[r.cell] += flux / area;
    if (r.panel) continue;
    out->virtualLights_.push_back(r.landed);
    for (const int next : r.next)
      if (next >= 0 && area_[size_t(next)] > 0)
        for (int c = 0; c < 3; ++c)
          back[size_t(c)][next] += flux * r.landed.albedo[c] / (float(kOnward) * area_[size_t(next)]);
  }
  direct += onPanels;
  out->further_.resize(size_t(n));
  out->all_.resize(size_t(n));
  inParallel(3, [&](size_t channel) {
    // What faces send of what arrives at them.
    auto sent = [&](const Vector& arrives) {
      Vector b(n);
      for (int c = 0; c < n; ++c) {
        b[c] = arrives[c] * reflectance_[size_t(c)][int(channel)];
        if (const int o = other_[size_t(c)]; o >= 0) b[c] += arrives[o] * through_[size_t(o)];
      }
      return b;
    };
    const Vector returned = equations_->room[channel].solve(back[channel] + equations_->fromPanels * sent(onPanels));
    const Vector all = direct + returned;
    // On panels the paths of Source cover the lamp itself and, in a chain, the panels before.
    Vector covered = direct;
    for (int panel = 0; panel < more; ++panel) covered = direct + equations_->fromPanels * sent(covered);
    const Vector further = returned - equations_->fromPanels * sent(covered);
    const Vector beyond = sent(all - covered);
    for (int c = 0; c < n; ++c) {
      const Side& s = sides[size_t(side_[size_t(c)])];
      const float v = s.panel ? beyond[c] / std::max(0.01f, s.shown[int(channel)]) : further[c];
      out->further_[size_t(c)][int(channel)] = std::max(0.f, v);
      out->all_[size_t(c)][int(channel)] = std::max(0.f, s.panel ? v : all[c]);
    }
  });
  return out;
}

Vec3 IndirectLight::between(const std::vector<Vec3>& cells, int side, Vec3 position) const {
  if (side < 0) return {};
  const Interreflection::Grid& g = room_->grid_[size_t(side)];
  if (g.columns * g.rows == 1 && g.cuts.empty()) return cells[size_t(g.first)];
  const Vec2 p = room_->placeOn(side, position);
  const float x = std::clamp(p.x * float(g.columns) - 0.5f, 0.f, float(g.columns - 1)),
              y = std::clamp(p.y * float(g.rows) - 0.5f, 0.f, float(g.rows - 1));
  const int x0 = std::min(int(x), std::max(0, g.columns - 2)), y0 = std::min(int(y), std::max(0, g.rows - 2));
  const int x1 = std::min(x0 + 1, g.columns - 1), y1 = std::min(y0 + 1, g.rows - 1);
  const float fx = x - float(x0), fy = y - float(y0);
  if (room_->links_.empty()) {
    auto at = [&](int column, int row) {
      return cells[size_t(g.first) + size_t(row) * size_t(g.columns) + size_t(column)];
    };
    return lerp(lerp(at(x0, y0), at(x1, y0), fx), lerp(at(x0, y1), at(x1, y1), fx), fy);
  }
  const int own = room_->cellAt(side, position), column = room_->at_[size_t(own)] % g.columns,
            row = room_->at_[size_t(own)] / g.columns;
  Vec3 sum;
  float weight = 0;
  for (int k = 0; k < 4; ++k) {
    const int cx = k & 1 ? x1 : x0, cy = k & 2 ? y1 : y0;
    const int cell = room_->links_[size_t(own)][size_t((cx - column + 1) + 3 * (cy - row + 1))];
    if (cell < 0) continue;
    const float w = (k & 1 ? fx : 1 - fx) * (k & 2 ? fy : 1 - fy);
    sum += cells[size_t(cell)] * w;
    weight += w;
  }
  return weight > 0 ? sum / weight : cells[size_t(own)];
}

Vec3 IndirectLight::further(int side, Vec3 position) const { return between(further_, side, position); }
Vec3 IndirectLight::all(int side, Vec3 position) const { return between(all_, side, position); }

}  // namespace easel
