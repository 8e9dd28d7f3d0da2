// Indirect light: the room solved once, as cells that exchange light (radiosity).
//
// Room, backdrop (both faces) and panels are cut into some 400 cells, smaller near the sitter in a large room and cut
// in two where a wall of the set stands on them; the sitter takes part as eighteen coarse pieces, six ways to look in
// three heights, and so do the small parts of set pieces and gear. Form factors are counted by rays in the scene
// itself, so that what stands between keeps light back; the illuminance E of all cells then follows from E = D + F (R E
// + T E'), D being what the lamp sends there itself, R what a face gives back and T what it lets through from its other
// face E'. All orders of reflection at once (radiosity: C. Goral, K. Torrance, D. Greenberg, B. Battaile, "Modeling the
// interaction of light between diffuse surfaces", SIGGRAPH 1984). Every face is diffuse here, which it need not be for
// the paths that Source samples.
//
// Units: lux per lumen of the head, linear RGB. Immutable; any thread.
#pragma once

#include <array>
#include <cmath>
#include <memory>
#include <vector>

#include "transport/lamp_rays.h"
#include "transport/scene.h"
#include "transport/shared.h"

namespace easel {

/// A point that a ray of the lamp has hit: a small lamp for the reflections that follow.
struct VirtualLight {
  Vec3 position, normal;  ///< lifted off the surface
  Vec3 albedo;
  float flux = 0;  ///< lumens per lumen of the head, were it the only one
  float pdf = 0;   ///< LampRays::pdf() there
  int ray = 0;     ///< the first n rays are spread as evenly as all of them
};

/// Indirect light of one lamp: what arrives after the first surface that its rays hit.
class IndirectLight {
 public:
  explicit IndirectLight(const Emitter& emitter) : lamp_(emitter) {}
  /// What arrives at a place by more reflections than a sampled path covers: all but the lamp itself and, on what is no
  /// panel, what panels send on of it. On panels per SurfacePoint::albedo. `side` < 0: none.
  Vec3 further(int side, Vec3 position) const;
  /// All that arrives at a place: coarse, no finer than cells are.
  Vec3 all(int side, Vec3 position) const;
  const LampRays& lamp() const { return lamp_; }
  /// Where rays of the lamp have hit, panels left out.
  const std::vector<VirtualLight>& virtualLights() const { return virtualLights_; }
  /// Rays that virtualLights() were taken from: each stands for 1 / rays of its flux.
  int rays() const { return rays_; }
  double bytes() const { return sizeof(*this) + bytesOf(further_) + bytesOf(all_) + bytesOf(virtualLights_); }

 private:
  friend class Interreflection;
  /// Between the middles of cells, across no wall.
  Vec3 between(const std::vector<Vec3>& cells, int side, Vec3 position) const;

  const class Interreflection* room_ = nullptr;
  LampRays lamp_;
  std::vector<Vec3> further_, all_;
  std::vector<VirtualLight> virtualLights_;
  int rays_ = 1;
};

class Interreflection {
 public:
  /// Some 75 000 rays and three systems of linear equations: tens of milliseconds.
  explicit Interreflection(const Scene& scene);
  ~Interreflection();

  /// Of one lamp; a few milliseconds, then cached. `more`: over so many panels more than one the
  /// source follows light itself, so that is not in further().
  std::shared_ptr<const IndirectLight> of(const Emitter& emitter, int more) const;

  int cells() const { return int(area_.size()); }
  /// About: five square tables of them are nearly all of it.
  double bytes() const { return 5 * sizeof(float) * double(cells()) * double(cells()) + double(kMostKnown); }
  double area(int cell) const { return double(area_[size_t(cell)]); }
  /// Share of what leaves one cell that arrives at another.
  double factor(int from, int to) const;

 private:
  friend class IndirectLight;
  /// Spreads even steps 0..1 over a side so that they are small about one place of it: asinh about that place.
  struct Spread {
    float about = 0, unit = 0, low = 0, high = 1;  ///< unit 0: evenly
    float even(float place) const {
      return unit > 0 ? (std::asinh((place - about) / unit) - low) / (high - low) : place;
    }
    float place(float even) const { return unit > 0 ? about + unit * std::sinh(low + even * (high - low)) : even; }
  };
  /// A plane of the set that cuts cells in two, where its rectangle stands on a side.
  struct Wall {
    Vec3 centre, normal, across, up;  ///< half of its extent
  };
  struct Cut {
    int first = 0;                 ///< of its two or four parts
    int walls = 0;                 ///< that cut it, at most two
    std::array<int, 2> wall = {};  ///< of walls_
  };
  struct Grid {
    int first = 0, columns = 1, rows = 1;
    Spread across, up;
    std::vector<Cut> cuts;  ///< by cell of the grid; empty: no wall stands here
    /// Place on the side, 0..1 both ways, of a place within the grid's cell `at`.
    Vec2 place(int at, Vec2 within) const {
      const int column = at % columns, row = at / columns;
      return {across.place((float(column) + within.x) / float(columns)),
              up.place((float(row) + within.y) / float(rows))};
    }
  };
  struct Equations;
  void cutIntoCells();
  void standWalls();
  void cutByWalls(int side, Grid& grid);
  void linkCells();
  void countFactors();
  void evenOutFactors();
  void solveRoom();
  int cellAt(int side, Vec3 position) const;
  int partOf(const Grid& grid, int at, Vec3 position) const;
  /// 0..1 both ways, in steps of the grid.
  Vec2 placeOn(int side, Vec3 position) const;
  std::shared_ptr<const IndirectLight> solved(const Emitter& emitter, int more) const;

  static constexpr double kMostKnown = 1.6e7;  ///< bytes: of lamps, those that were asked for last

  const Scene& scene_;
  std::vector<Grid> grid_;  ///< by side
  std::vector<int> side_;   ///< by cell
  std::vector<int> at_;     ///< by cell: of the grid
  std::vector<Wall> walls_;
  /// By cell, where walls stand: the parts of the nine cells about it that no wall parts it from; -1: none.
  std::vector<std::array<int, 9>> links_;
  std::vector<int> other_;         ///< by cell; -1: nothing comes through
  std::vector<float> area_;        ///< m^2, by cell
  std::vector<Vec3> reflectance_;  ///< by cell
  std::vector<float> through_;     ///< by cell
  std::unique_ptr<Equations> equations_;

  mutable Shared<std::pair<Emitter, int>, IndirectLight> known_{kMostKnown};
};

}  // namespace easel
