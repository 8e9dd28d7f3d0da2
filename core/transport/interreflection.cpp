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
constexpr int kLampRays = 2048, kOnward = 2;  // ... and rays on from each place where one lands

using Matrix = Eigen::MatrixXf;
using Vector = Eigen::VectorXf;

}  // namespace

struct Interreflection::Equations {
  Matrix factors;                                   // what leaves the column's cell, as seen from the row's: F
  Matrix fromPanels;                                // the same, columns of panels alone
  std::array<Eigen::PartialPivLU<Matrix>, 3> room;  // I - F R, for red, green, blue
};

Interreflection::~Interreflection() = default;

Vec2 Interreflection::placeOn(int side, Vec3 position) const {
  const Side& s = scene_.sides()[size_t(side)];
  const Vec3 d = position - s.corner;
  return {dot(d, s.across) / dot(s.across, s.across), dot(d, s.up) / dot(s.up, s.up)};
}

int Interreflection::cellAt(int side, Vec3 position) const {
  const Grid& g = grid_[size_t(side)];
  if (scene_.sides()[size_t(side)].body()) return g.first;
  const Vec2 p = placeOn(side, position);
  return g.first + std::clamp(int(p.x * float(g.columns)), 0, g.columns - 1) +
         g.columns * std::clamp(int(p.y * float(g.rows)), 0, g.rows - 1);
}

Interreflection::Interreflection(const Scene& scene) : scene_(scene), equations_(std::make_unique<Equations>()) {
  cutIntoCells();
  countFactors();
  solveRoom();
}

namespace {
bool onDisc(Vec2 place) { return std::hypot(2 * place.x - 1, 2 * place.y - 1) <= 1; }
}  // namespace

void Interreflection::cutIntoCells() {
  const std::vector<Side>& sides = scene_.sides();
  float whole = 0, panels = 0;
  for (const Side& s : sides) (s.panel ? panels : whole) += length(s.across) * length(s.up);
  const float edge = std::max(0.2f, std::sqrt(whole / kCellsAimed)),
              ofPanels = std::max(0.4f, std::sqrt(panels / kCellsOfPanels));
  for (const Side& s : sides) {
    Grid g;
    g.first = int(area_.size());
    if (!s.body()) {
      const float most = s.panel ? ofPanels : edge;
      g.columns = std::clamp(int(std::lround(length(s.across) / most)), 1, 24);
      g.rows = std::clamp(int(std::lround(length(s.up) / most)), 1, 24);
    }
    grid_.push_back(g);
    const int side = int(grid_.size()) - 1, n = g.columns * g.rows;
    for (int c = 0; c < n; ++c) {
      float inside = 1;
      if (s.disc) {
        constexpr int kPlaces = 64;
        int met = 0;
        for (int k = 0; k < kPlaces; ++k) met += onDisc(g.place(c, sobol2(std::uint32_t(k), 0xd15cu)));
        inside = float(met) / kPlaces;
      }
      area_.push_back(s.body() ? 0.f : inside * length(s.across) * length(s.up) / float(n));
      side_.push_back(side);
      reflectance_.push_back(s.reflectance);
      through_.push_back(s.through);
    }
  }
  for (int c = 0; c < cells(); ++c) {
    const Side& s = sides[size_t(side_[size_t(c)])];
    const int at = c - grid_[size_t(side_[size_t(c)])].first;
    other_.push_back(s.other >= 0 ? grid_[size_t(s.other)].first + at : -1);
  }
}

// Rays from every cell; the sitter is met but sends none: what they pass on follows from what they meet.
void Interreflection::countFactors() {
  const std::vector<Side>& sides = scene_.sides();
  const int n = cells();
  Matrix& f = equations_->factors;
  f = Matrix::Zero(n, n);
  struct Met {
    Vec3 albedo;
    int cell;
  };
  std::vector<std::vector<Met>> onBodies{size_t(n)};
  inParallel(size_t(n), 4, [&](size_t from, size_t to) {
    for (size_t c = from; c < to; ++c) {
      if (area_[c] <= 0) continue;
      const Side& s = sides[size_t(side_[c])];
      const Grid& g = grid_[size_t(side_[c])];
      const int at = int(c) - g.first;
      const Frame frame = anyFrame(s.normal);
      int sent = 0;
      for (std::uint32_t i = 0; i < std::uint32_t(kRaysPerCell); ++i) {
        const Vec2 p = g.place(at, sobol2(i, std::uint32_t(c) * 2 + 0x11e7u));
        if (s.disc && !onDisc(p)) continue;
        ++sent;
        const Vec3 out = cosineDirection(frame, sobol2(i, std::uint32_t(c) * 2 + 0x11e8u));
        const auto hit = scene_.meet(s.corner + s.across * p.x + s.up * p.y + s.normal * kOffSurface, out,
                                     hashPair(std::uint32_t(c), i));
        if (!hit || hit->side < 0) continue;
        const int there = cellAt(hit->side, hit->position);
        f(Eigen::Index(c), there) += 1;
        if (sides[size_t(hit->side)].body()) onBodies[c].push_back({hit->albedo, there});
      }
      if (sent) f.row(Eigen::Index(c)) /= float(sent);
    }
  });
  // A part of the sitter has the area that the room sees of it, and sends where it is seen from (A F is symmetric).
  std::vector<int> met(size_t(n), 0);
  for (const auto& of : onBodies)
    for (const Met& m : of) {
      reflectance_[size_t(m.cell)] += m.albedo;
      ++met[size_t(m.cell)];
    }
  for (int b = 0; b < n; ++b) {
    if (!sides[size_t(side_[size_t(b)])].body()) continue;
    if (met[size_t(b)]) reflectance_[size_t(b)] = reflectance_[size_t(b)] / float(met[size_t(b)]);
    float area = 0;
    for (int c = 0; c < n; ++c) area += area_[size_t(c)] * f(c, b);
    if (area <= 0) continue;
    for (int c = 0; c < n; ++c) f(b, c) = area_[size_t(c)] * f(c, b) / area;
    area_[size_t(b)] = area;
  }
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

std::shared_ptr<const Returned> Interreflection::of(const Emitter& emitter, bool chains) const {
  return known_.get({emitter, chains}, [&] { return reckon(emitter, chains); });
}

std::shared_ptr<const Returned> Interreflection::reckon(const Emitter& emitter, bool chains) const {
  const std::vector<Side>& sides = scene_.sides();
  auto out = std::make_shared<Returned>(emitter);
  const LampRays& lamp = out->lamp_;
  out->room_ = this;
  out->rays_ = kLampRays;
  const int n = cells();
  struct Ray {
    Landed landed;
    int cell = -1;
    bool panel = false;
    int next[kOnward];
  };
  std::vector<Ray> rays(kLampRays);
  inParallel(size_t(kLampRays), 64, [&](size_t from, size_t to) {
    for (size_t i = from; i < to; ++i) {
      const auto index = std::uint32_t(i);
      const LampRays::Leaving l = lamp.leaving(sobol2(index, 0x1a3du), sobol2(index, 0x1a3eu));
      if (l.flux <= 0) continue;
      const auto hit = scene_.meet(l.origin, l.direction, hashPair(0x1a3fu, index));
      if (!hit || hit->side < 0) continue;
      const Side& s = sides[size_t(hit->side)];
      if (!s.body() && dot(hit->facet, s.normal) <= 0) continue;  // the outside of a wall
      Ray& r = rays[i];
      r.cell = cellAt(hit->side, hit->position);
      r.panel = s.panel;
      const float flux = l.flux * std::exp(-emitter.extinction() * hit->distance);
      r.landed = {hit->position + hit->facet * kOffSurface, hit->normal, hit->albedo, flux,
                  lamp.landing(hit->position, hit->normal), int(i)};
      for (std::uint32_t k = 0; k < kOnward && !r.panel; ++k) {
        const Vec3 on = cosineDirection(anyFrame(hit->normal), sobol2(index * kOnward + k, 0x1a40u));
        const auto next = scene_.meet(r.landed.position, on, hashPair(0x1a41u, index * kOnward + k));
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
    out->landed_.push_back(r.landed);
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
    // On panels the paths of Source cover the lamp itself and, in a chain, one panel before.
    Vector covered = direct;
    if (chains) covered += equations_->fromPanels * sent(direct);
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

Vec3 Returned::between(const std::vector<Vec3>& cells, int side, Vec3 position) const {
  if (side < 0) return {};
  const Interreflection::Grid& g = room_->grid_[size_t(side)];
  if (g.columns * g.rows == 1) return cells[size_t(g.first)];
  const Vec2 p = room_->placeOn(side, position);
  const float x = std::clamp(p.x * float(g.columns) - 0.5f, 0.f, float(g.columns - 1)),
              y = std::clamp(p.y * float(g.rows) - 0.5f, 0.f, float(g.rows - 1));
  const int x0 = std::min(int(x), std::max(0, g.columns - 2)), y0 = std::min(int(y), std::max(0, g.rows - 2));
  const int x1 = std::min(x0 + 1, g.columns - 1), y1 = std::min(y0 + 1, g.rows - 1);
  const float fx = x - float(x0), fy = y - float(y0);
  auto at = [&](int column, int row) {
    return cells[size_t(g.first) + size_t(row) * size_t(g.columns) + size_t(column)];
  };
  return lerp(lerp(at(x0, y0), at(x1, y0), fx), lerp(at(x0, y1), at(x1, y1), fx), fy);
}

Vec3 Returned::further(int side, Vec3 position) const { return between(further_, side, position); }
Vec3 Returned::all(int side, Vec3 position) const { return between(all_, side, position); }

}  // namespace easel
