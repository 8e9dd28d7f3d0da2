#include "apron.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <stdexcept>

#include "geometry/triangles.h"
#include "meshes.h"

namespace easel::bake {
namespace {

// Cloth of its own from a grid of places, row by row.
MeshPart sheetOf(std::vector<Vec3> at, int across) {
  MeshPart sheet;
  sheet.surface = Surface::Cloth;
  sheet.garment = Garment::Apron;
  sheet.position = std::move(at);
  placeUv(sheet);
  sheet.headWeight.assign(sheet.position.size(), 0);
  sheet.normal.assign(sheet.position.size(), {});
  const int rows = int(sheet.position.size()) / across;
  for (int j = 0; j + 1 < rows; ++j)
    for (int i = 0; i + 1 < across; ++i) {
      const auto a = std::uint32_t(j * across + i), b = a + 1, c = a + std::uint32_t(across), d = c + 1;
      for (std::uint32_t k : {a, c, b, b, c, d}) sheet.triangles.push_back(k);
      const Vec3 n = cross(sheet.position[c] - sheet.position[a], sheet.position[b] - sheet.position[a]);
      for (std::uint32_t k : {a, b, c, d}) sheet.normal[k] += n;
    }
  for (Vec3& n : sheet.normal) n = normalize(n);
  return sheet;
}

// How far clothes stand out, by columns of a centimetre: seen from before and from behind.
class Outline {
 public:
  explicit Outline(const std::vector<const MeshPart*>& over) {
    for (const MeshPart* p : over)
      for (size_t t = 0; t < p->triangles.size(); t += 3) {
        const Vec3 a = p->position[p->triangles[t]], b = p->position[p->triangles[t + 1]],
                   c = p->position[p->triangles[t + 2]];
        overTriangle(a, b, c, 0.5f * kCell, 40, [&](float u, float v) { put(a + (b - a) * u + (c - a) * v); });
      }
  }
  struct Depth {
    float front = -1e9f, back = 1e9f;
    float top = -1e9f;  // how high it reaches there
    bool any() const { return front >= back; }
  };
  Depth at(float x, float y) const {
    const auto found = cells_.find(key(x, y));
    return found == cells_.end() ? Depth{} : found->second;
  }

 private:
  static constexpr float kCell = 0.1f;
  static std::pair<int, int> key(float x, float y) {
    return {int(std::floor(x / kCell + 0.5f)), int(std::floor(y / kCell + 0.5f))};
  }
  void put(Vec3 p) {
    Depth& d = cells_[key(p.x, p.y)];
    d.front = std::max(d.front, p.z);
    d.back = std::min(d.back, p.z);
    d.top = std::max(d.top, p.y);
  }
  std::map<std::pair<int, int>, Depth> cells_;
};

// The bib of the apron, from the chest to the waist: a stiff cloth that spans the hollows.
MeshPart apronBib(const Outline& over, float top, float waist) {
  constexpr int kAcross = 24, kDown = 30;
  std::vector<Vec3> at;
  for (int j = 0; j <= kDown; ++j) {
    const float y = top + (waist - top) * float(j) / kDown, half = 1.05f + (top - y) * 0.12f;
    for (int i = 0; i <= kAcross; ++i) {
      const float x = half * (2 * float(i) / kAcross - 1);
      float z = 0, weight = 0, most = -1e9f;
      for (int k = -12; k <= 12; ++k)
        if (const auto d = over.at(x + 0.1f * float(k), y); d.any() && std::abs(x + 0.1f * float(k)) < 1.5f) {
          const float w = std::exp(-0.5f * float(k * k) / 20.f);
          z += w * d.front;
          weight += w;
          if (std::abs(k) < 2) most = std::max(most, d.front);
        }
      at.push_back({x, y, std::max(weight > 0 ? z / weight : 0.f, most) + 0.06f});
    }
  }
  // What it lies on has edges of its own.
  for (int round = 0; round < 6; ++round) {
    const std::vector<Vec3> was = at;
    for (int j = 1; j < kDown; ++j)
      for (int i = 1; i < kAcross; ++i) {
        const auto k = size_t(j * (kAcross + 1) + i);
        const float mean = (was[k - 1].z + was[k + 1].z + was[k - kAcross - 1].z + was[k + kAcross + 1].z) / 4;
        at[k].z = std::max(mean, was[k].z - 0.02f);
      }
  }
  return sheetOf(std::move(at), kAcross + 1);
}

constexpr int kStrap = 5;  // vertices across

// A strap from the corner of the bib over the shoulder and down the back; `side` 1: the sitter's left.
MeshPart apronStrap(const Outline& over, float side, float bib, float waist) {
  constexpr int kAcross = kStrap - 1;
  constexpr float kStep = 0.1f, kWidth = 0.26f, kOff = 0.06f;
  struct Column {
    std::vector<Vec3> up, down;  // as far as the ridge of the shoulder, which they share
  };
  std::vector<Column> columns;
  size_t longestUp = 0, longestDown = 0;
  for (int i = 0; i <= kAcross; ++i) {
    const float aside = kWidth * (float(i) / kAcross - 0.5f);
    auto xAt = [&](float y, bool front) {
      return side * (front ? 1.02f + 0.12f * std::max(0.f, y - bib) : 1.25f - 0.16f * std::max(0.f, bib + 1.9f - y)) +
             aside;
    };
    std::vector<Vec3> path;
    float y = bib - 0.25f, ridge = y;
    for (; y < bib + 4; y += kStep)
      if (const auto d = over.at(xAt(y, true), y); d.any()) {
        path.push_back({xAt(y, true), std::min(y, d.top - 0.06f), d.front});
        ridge = y;
      } else if (y > bib) {
        break;
      }
    const size_t turn = path.size();
    if (turn < 2) throw std::runtime_error("the garment leaves the shoulder bare where the apron's strap would lie");
    for (y = ridge; y > waist; y -= kStep)
      if (const auto d = over.at(xAt(y, false), y); d.any())
        path.push_back({xAt(y, false), std::min(y, d.top - 0.06f), d.back});
    // (Columns of a centimetre reach as high as their higher side: half of that is taken off.)
    // It is pulled taut, over what stands out: evened along its way and put back outside, in turn.
    const std::vector<Vec3> on = path;
    for (int round = 0; round < 12; ++round) {
      const std::vector<Vec3> was = path;
      for (size_t k = 1; k + 1 < path.size(); ++k) {
        const bool before = k < turn;
        path[k] = (was[k - 1] + was[k] * 2.f + was[k + 1]) / 4;
        path[k].z = before ? std::max(path[k].z, on[k].z) : std::min(path[k].z, on[k].z);
        path[k].y = std::max(path[k].y, on[k].y);
      }
    }
    std::vector<Vec3> laid = path;
    for (size_t k = 0; k < path.size(); ++k) {
      const Vec3 along = path[std::min(k + 1, path.size() - 1)] - path[k ? k - 1 : 0];
      // Its end lies under the bib.
      laid[k] += normalize(Vec3{0, -along.z, along.y}) * (kOff * std::min(1.f, float(k + 1) / 3));
    }
    const auto ridgeAt = laid.begin() + std::ptrdiff_t(turn) - 1;
    columns.push_back({{laid.begin(), ridgeAt + 1}, {ridgeAt, laid.end()}});
    longestUp = std::max(longestUp, columns.back().up.size());
    longestDown = std::max(longestDown, columns.back().down.size());
  }
  std::vector<Vec3> at;
  // Ridge beside ridge: the shoulder falls off across the strap.
  auto lay = [&](size_t rows, size_t from, auto way) {
    for (size_t k = from; k < rows; ++k)
      for (const Column& c : columns) {
        const std::vector<Vec3>& w = way(c);
        const float t = float(k) / float(rows - 1) * float(w.size() - 1);
        const auto below = std::min(size_t(t), w.size() - 2);
        at.push_back(lerp(w[below], w[below + 1], t - float(below)));
      }
  };
  lay(
      longestUp, 0, [](const Column& c) -> const auto& { return c.up; });
  lay(
      longestDown, 1, [](const Column& c) -> const auto& { return c.down; });
  // Flat across: what it lies on has edges that cloth does not follow.
  for (int round = 0; round < 8; ++round)
    for (size_t k = 0; k < at.size(); k += kAcross + 1) {
      const std::vector<Vec3> was(at.begin() + std::ptrdiff_t(k), at.begin() + std::ptrdiff_t(k) + kAcross + 1);
      for (size_t i = 1; i < kAcross; ++i) {
        at[k + i].y = (was[i - 1].y + was[i + 1].y) / 2;
        at[k + i].z = (was[i - 1].z + was[i + 1].z) / 2;
      }
    }
  return sheetOf(std::move(at), kAcross + 1);
}

// The skirt of the apron: a sheet that hangs from the waist in front of whatever stands out furthest there.
MeshPart apronSkirt(const std::vector<const MeshPart*>& over, float waist, float knee) {
  constexpr int kAcross = 30, kDown = 30;
  const float half = 1.42f, flare = 0.35f;  // as wide as the bib where it begins
  std::vector<float> front(kAcross + 1, -1e9f);
  for (const MeshPart* p : over)
    for (Vec3 q : p->position)
      if (q.y < waist && q.y > waist - 3.2f)
        for (int i = 0; i <= kAcross; ++i)
          if (std::abs(q.x - half * (2 * float(i) / kAcross - 1)) < 0.35f)
            front[size_t(i)] = std::max(front[size_t(i)], q.z);
  std::vector<Vec3> at;
  for (int j = 0; j <= kDown; ++j)
    for (int i = 0; i <= kAcross; ++i) {
      const float t = float(j) / kDown, x = (half + flare * t) * (2 * float(i) / kAcross - 1);
      float z = 0, weight = 0;  // a stiff cloth spans the hollows
      for (int k = 0; k <= kAcross; ++k) {
        const float w = std::exp(-0.5f * float((i - k) * (i - k)) / 30.f);
        z += w * std::max(front[size_t(k)], -0.5f);
        weight += w;
      }
      // It folds a little more the further down, and turns back at the sides.
      z = z / weight + 0.08f + t * (0.10f * std::sin(x * 2.6f) + 0.05f * std::sin(x * 5.3f + 1)) - 0.08f * x * x * t +
          0.2f * t;
      at.push_back({x, waist + (knee - waist) * t, z});
    }
  return sheetOf(std::move(at), kAcross + 1);
}

// The skirt of whoever sits: from the waist over the thighs to the knees, taut between them, and down from there.
MeshPart apronLap(const MeshPart& trousers, const MeshPart& top, float waist) {
  constexpr int kAcross = 36, kAlong = 44, kHangs = 10;
  constexpr float kCell = 0.15f, kHalf = 2.1f, kOff = 0.12f;
  std::map<std::pair<int, int>, float> height;
  float knee = -1e9f, thigh = -1e9f, belly = -1e9f;
  const auto column = [](float x, float z) {
    return std::pair(int(std::floor(x / kCell + 0.5f)), int(std::floor(z / kCell + 0.5f)));
  };
  for (Vec3 q : trousers.position) {
    auto [at, fresh] = height.try_emplace(column(q.x, q.z), q.y);
    at->second = std::max(at->second, q.y);
    thigh = std::max(thigh, q.y);
  }
  for (Vec3 q : trousers.position)
    if (q.y > thigh - 1.6f) knee = std::max(knee, q.z);
  for (Vec3 q : top.position)
    if (std::abs(q.y - waist) < 0.4f && std::abs(q.x) < 0.7f) belly = std::max(belly, q.z);
  const float from = belly - 0.2f, to = knee - 0.25f;
  // How high the thighs are there: they carry it, what is between them does not.
  const auto carried = [&](float z) {
    float y = -1e9f;
    for (float x = 0.3f; x < 2; x += kCell)
      for (float side : {-1.f, 1.f})
        for (float dz : {-kCell, 0.f, kCell})
          if (const auto found = height.find(column(side * x, z + dz)); found != height.end())
            y = std::max(y, found->second);
    return y;
  };
  std::vector<Vec3> at;
  float last = waist;
  for (int j = 0; j <= kAlong; ++j) {
    const float along = float(j) / kAlong, z = from + (to - from) * along, high = carried(z);
    last = high > -1e8f ? high : last;
    for (int i = 0; i <= kAcross; ++i) {
      const float x = kHalf * (2 * float(i) / kAcross - 1);
      const auto found = height.find(column(x, z));
      const float own = found == height.end() ? -1e9f : found->second;
      const float over = std::max(0.f, std::abs(x) - 1.75f), middle = std::max(0.f, 1 - std::abs(x) / 0.7f);
      const float taut = last - 0.35f * middle * middle * along - 1.6f * over * over;
      // It comes down from the waist on a curve.
      const float lift = std::max(0.f, 1 - along * 5);
      at.push_back({x, std::max(taut, own) + kOff + (waist - last) * 0.5f * lift * lift, z});
    }
  }
  for (int round = 0; round < 14; ++round) {
    const std::vector<Vec3> was = at;
    for (int j = 0; j <= kAlong; ++j)
      for (int i = 0; i <= kAcross; ++i) {
        const auto k = j * (kAcross + 1) + i;
        float sum = 0, n = 0;
        auto take = [&](bool there, int step) {
          if (!there) return;
          sum += was[size_t(k + step)].y;
          n += 1;
        };
        take(i > 0, -1);
        take(i < kAcross, 1);
        take(j > 0, -(kAcross + 1));
        take(j < kAlong, kAcross + 1);
        at[size_t(k)].y = std::max(sum / n, was[size_t(k)].y - 0.015f);
      }
  }
  for (int j = 1; j <= kHangs; ++j)
    for (int i = 0; i <= kAcross; ++i) {
      const Vec3 edge = at[size_t(kAlong * (kAcross + 1) + i)];
      const float t = float(j) / kHangs, turns = std::min(1.f, t * 2.5f) * kPiF / 2;
      at.push_back({edge.x * (1 + 0.04f * t), edge.y - 0.35f * (1 - std::cos(turns)) - 1.5f * std::max(0.f, t - 0.2f),
                    edge.z + 0.42f * std::sin(turns) + 0.06f * t * std::sin(edge.x * 3.4f)});
    }
  MeshPart lap = sheetOf(std::move(at), kAcross + 1);
  lap.wear = "seated";
  return lap;
}

// Goes where the nearest place of what it lies on goes; on sleeves nothing lies. Rows of `stiff` vertices go as their
// middle does, so that a strap keeps its width.
void bindLike(MeshPart& sheet, const std::vector<const MeshPart*>& under, size_t stiff = 1) {
  const auto sleeve = [](const Binding& b) {
    int arm = 0;
    for (size_t k = 0; k < b.bone.size(); ++k) arm += b.bone[k] >= Bones::Arms ? b.share[k] : 0;
    return arm > 200;
  };
  for (size_t row = 0; row < sheet.position.size(); row += stiff) {
    const Vec3 p = sheet.position[row + stiff / 2];
    float nearest = 1e9f;
    Binding found;
    for (const MeshPart* m : under)
      for (size_t i = 0; i < m->position.size(); ++i)
        if (const Vec3 d = m->position[i] - p; dot(d, d) < nearest && !sleeve(m->binding[i])) {
          nearest = dot(d, d);
          found = m->binding[i];
        }
    sheet.binding.insert(sheet.binding.end(), stiff, found);
  }
}

}  // namespace

std::vector<MeshPart> apronOver(const MeshPart& top, const MeshPart& standing, const MeshPart& seated, float eyes,
                                float hip) {
  const float bib = eyes - 3.35f, waist = hip + 1.1f;
  const Outline outline({&top});
  std::vector<MeshPart> apron = {apronBib(outline, bib, waist - 0.1f), apronStrap(outline, 1, bib, waist),
                                 apronStrap(outline, -1, bib, waist), apronSkirt({&standing, &top}, waist, hip - 4.2f),
                                 apronLap(seated, top, waist)};
  apron[3].wear = "standing";
  for (MeshPart& p : apron)
    bindLike(p, {&top, p.wear == "seated" ? &seated : &standing}, &p == &apron[1] || &p == &apron[2] ? kStrap : 1);
  return apron;
}

}  // namespace easel::bake
