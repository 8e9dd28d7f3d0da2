#include "bake_sitter.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <stdexcept>

#include "formats/picture_file.h"
#include "hair_ground.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "subdivide.h"

namespace easel::bake {
namespace {

constexpr float kMetresPerUnit = 0.1f;

// uv that carry the place, from which the weave is drawn.
void placeUv(MeshPart& part) {
  part.uv.clear();
  for (Vec3 p : part.position) part.uv.push_back({p.x * kMetresPerUnit, p.y * kMetresPerUnit});
}

// Height above the neckline of a crew-neck top, in dm: a plane through the base of the neck, lower in front.
float aboveNeckline(Vec3 p, Vec3 neck) { return p.y - (neck.y + 0.16f - 0.62f * (p.z - neck.z)) - 0.08f * p.x * p.x; }

// A plain top, modelled here: the shaped body pushed outwards, smoothed like cloth, and cut along the neckline.
// `hem`: where it ends below the hips; sleeves go down to the wrists.
MeshPart plainTop(const QuadMesh& body, Vec3 neck, float hem, const std::vector<float>& arms,
                  const std::vector<float>& hands, Vec3 wristLeft, Vec3 wristRight) {
  std::vector<bool> keep(body.face.size());
  for (size_t f = 0; f < keep.size(); ++f) {
    float lowest = 1e9f, highest = -1e9f, y = 1e9f, arm = 0, hand = 0;
    for (int i : body.face[f]) {
      const Vec3 p = body.position[size_t(i)];
      arm = std::max(arm, arms[size_t(i)]);
      hand = std::max(hand, hands[size_t(i)]);
      lowest = std::min(lowest, aboveNeckline(p, neck));
      highest = std::max(highest, aboveNeckline(p, neck));
      y = std::min(y, p.y);
    }
    keep[f] = lowest < 0.35f && highest < 2.0f && (y > hem || arm > 0.5f) && hand < 0.1f;
  }
  QuadMesh top = keepFaces(body, keep);
  const std::vector<Vec3> skin = top.position, out = vertexNormals(top);
  std::vector<std::vector<int>> around(top.position.size());
  for (const auto& f : top.face)
    for (size_t k = 0; k < 4; ++k) {
      around[size_t(f[k])].push_back(f[(k + 1) % 4]);
      around[size_t(f[k])].push_back(f[(k + 3) % 4]);
    }
  auto clearance = [&](size_t i) {
    const float below = -aboveNeckline(skin[i], neck);
    const float wrist = std::min(length(skin[i] - wristLeft), length(skin[i] - wristRight));
    return 0.05f + 0.09f * std::clamp(below / 0.8f, 0.f, 1.f) * std::clamp(wrist / 1.6f - 0.3f, 0.f, 1.f);
  };
  for (size_t i = 0; i < skin.size(); ++i) top.position[i] += out[i] * clearance(i);
  // Cloth hangs over what is below it: no body stands under the top away from the collar, so it may be smoothed freely.
  // Alternating steps in and out (G. Taubin, 1995) smooth without shrinking the shoulders.
  for (int round = 0; round < 60; ++round) {
    const float step = round % 2 ? -0.62f : 0.6f;
    std::vector<Vec3> next = top.position;
    for (size_t i = 0; i < next.size(); ++i) {
      const float above = aboveNeckline(skin[i], neck);
      if (above > -0.15f || (around[i].size() < 8 && above > -1)) continue;  // the collar and its rim stay
      Vec3 mean;
      for (int j : around[i]) mean += top.position[size_t(j)];
      next[i] = lerp(top.position[i], mean / float(around[i].size()), step);
      const float gap = dot(next[i] - skin[i], out[i]), least = clearance(i) * 0.6f;
      if (gap < least && aboveNeckline(skin[i], neck) > -0.6f) next[i] += out[i] * (least - gap);
    }
    top.position = next;
  }
  for (float& w : top.headWeight) w = std::min(w, 0.25f);
  QuadMesh fine = subdivided(top, 2);
  // uv carry the place on the unturned body: the apron and the weave are drawn from it.
  fine.uv.resize(fine.position.size());
  for (size_t i = 0; i < fine.uv.size(); ++i)
    fine.uv[i] = {fine.position[i].x * kMetresPerUnit, fine.position[i].y * kMetresPerUnit};
  fine.faceUv = fine.face;
  MeshPart part = triangulated(fine, Surface::Cloth, -1);

  // Cut exactly along the neckline: triangles that cross it are clipped, so that the collar is a clean curve.
  MeshPart cut = part;
  cut.triangles.clear();
  std::vector<float> height(part.position.size());
  for (size_t i = 0; i < height.size(); ++i) height[i] = aboveNeckline(part.position[i], neck);
  auto between = [&](std::uint32_t a, std::uint32_t b) {
    const float t = height[a] / (height[a] - height[b]);
    cut.position.push_back(lerp(part.position[a], part.position[b], t));
    cut.normal.push_back(normalize(lerp(part.normal[a], part.normal[b], t)));
    cut.uv.push_back({part.uv[a].x * (1 - t) + part.uv[b].x * t, part.uv[a].y * (1 - t) + part.uv[b].y * t});
    cut.headWeight.push_back(part.headWeight[a] * (1 - t) + part.headWeight[b] * t);
    return std::uint32_t(cut.position.size() - 1);
  };
  for (size_t t = 0; t < part.triangles.size(); t += 3) {
    std::vector<std::uint32_t> polygon;
    for (size_t k = 0; k < 3; ++k) {
      const std::uint32_t a = part.triangles[t + k], b = part.triangles[t + (k + 1) % 3];
      if (height[a] <= 0) polygon.push_back(a);
      if ((height[a] <= 0) != (height[b] <= 0)) polygon.push_back(between(a, b));
    }
    for (size_t k = 2; k < polygon.size(); ++k)
      for (std::uint32_t i : {polygon[0], polygon[k - 1], polygon[k]}) cut.triangles.push_back(i);
  }
  // The collar's rib: a short turned-in edge gives the cloth its thickness. Pulled in along the normal at the rim.
  for (size_t i = 0; i < cut.position.size(); ++i) {
    const float below = -aboveNeckline(cut.position[i], neck);
    if (below < 0.22f && below >= -0.01f)
      cut.position[i] += cut.normal[i] * (0.05f * std::sin(kPiF * std::clamp(below / 0.22f, 0.f, 1.f)));
  }
  return cut;
}

// A loose garment over a part of the body: the faces in `keep`, pushed out by `clearance(rest position)`, smoothed
// `rounds` times. `rest` is the standing body, of the same vertices: uv carry the place on it.
template <class Clearance>
MeshPart garment(const QuadMesh& body, const QuadMesh& rest, const std::vector<bool>& keep, Garment kind, int rounds,
                 Clearance clearance) {
  QuadMesh worn = keepFaces(body, keep);
  const QuadMesh standing = keepFaces(rest, keep);
  const std::vector<Vec3> out = vertexNormals(worn);
  std::vector<std::vector<int>> around(worn.position.size());
  for (const auto& f : worn.face)
    for (size_t k = 0; k < 4; ++k) {
      around[size_t(f[k])].push_back(f[(k + 1) % 4]);
      around[size_t(f[k])].push_back(f[(k + 3) % 4]);
    }
  for (size_t i = 0; i < out.size(); ++i) worn.position[i] += out[i] * clearance(standing.position[i]);
  for (int round = 0; round < rounds; ++round) {
    std::vector<Vec3> next = worn.position;
    for (size_t i = 0; i < next.size(); ++i) {
      if (around[i].size() < 8) continue;  // rims stay
      Vec3 mean;
      for (int j : around[i]) mean += worn.position[size_t(j)];
      next[i] = lerp(worn.position[i], mean / float(around[i].size()), round % 2 ? -0.52f : 0.5f);
    }
    worn.position = next;
  }
  for (float& w : worn.headWeight) w = 0;
  worn.uv.clear();
  for (Vec3 p : standing.position) worn.uv.push_back({p.x * kMetresPerUnit, p.y * kMetresPerUnit});
  worn.faceUv = worn.face;
  MeshPart part = triangulated(subdivided(worn, 1), Surface::Cloth, -1);
  part.garment = kind;
  return part;
}

bool within(Vec2 t, const std::vector<Outfit::Box>& boxes) {
  return std::any_of(boxes.begin(), boxes.end(), [&](const Outfit::Box& b) {
    const double x = double(t.x), y = 1 - double(t.y);
    return x > b[0] && x < b[2] && y > b[1] && y < b[3];
  });
}

// Only some of the triangles, and the vertices that they need.
template <class Wants>
MeshPart chosen(const MeshPart& from, Wants wants) {
  MeshPart out = from;
  for (auto* v : {&out.position, &out.normal}) v->clear();
  out.uv.clear();
  out.headWeight.clear();
  out.triangles.clear();
  std::vector<std::int64_t> as(from.position.size(), -1);
  for (size_t t = 0; t < from.triangles.size() / 3; ++t) {
    if (!wants(t)) continue;
    for (size_t k = 0; k < 3; ++k) {
      const std::uint32_t i = from.triangles[3 * t + k];
      if (as[i] < 0) {
        as[i] = std::int64_t(out.position.size());
        out.position.push_back(from.position[i]);
        out.normal.push_back(from.normal[i]);
        out.uv.push_back(from.uv[i]);
        out.headWeight.push_back(from.headWeight[i]);
      }
      out.triangles.push_back(std::uint32_t(as[i]));
    }
  }
  return out;
}

// A garment of the data set, cut off below `hem`: what hangs on the legs is ours. With what shows from under it.
std::vector<MeshPart> topOf(const HumanPackage& package, const Outfit& outfit, const std::vector<Vec3>& v, float hem) {
  QuadMesh top = package.part("clothes", outfit.garment, v);
  std::vector<bool> keep(top.face.size());
  for (size_t f = 0; f < keep.size(); ++f)
    keep[f] =
        std::any_of(top.face[f].begin(), top.face[f].end(), [&](int i) { return top.position[size_t(i)].y > hem; });
  top = keepFaces(top, keep);
  for (float& w : top.headWeight) w = std::min(w, 0.25f);
  constexpr size_t kFineEnough = 4000;  // faces
  const MeshPart all = triangulated(subdivided(top, top.face.size() > kFineEnough ? 0 : 1), Surface::Cloth, -1);
  auto kind = [&](size_t t) {
    Vec2 middle;
    for (size_t k = 0; k < 3; ++k) {
      const Vec2 uv = all.uv[all.triangles[3 * t + k]];
      middle.x += uv.x / 3;
      middle.y += uv.y / 3;
    }
    return within(middle, outfit.tie) ? Garment::Tie : within(middle, outfit.shirt) ? Garment::Shirt : Garment::Top;
  };
  std::vector<MeshPart> out;
  for (Garment g : {Garment::Top, Garment::Shirt, Garment::Tie}) {
    MeshPart part = chosen(all, [&](size_t t) { return kind(t) == g; });
    part.garment = g;
    if (outfit.relief.empty()) placeUv(part);
    if (!part.triangles.empty()) out.push_back(std::move(part));
  }
  return out;
}

// Cloth of its own from a grid of places, row by row.
MeshPart sheetOf(Garment kind, std::vector<Vec3> at, int across) {
  MeshPart sheet;
  sheet.surface = Surface::Cloth;
  sheet.garment = kind;
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
        const float size = std::max({length(b - a), length(c - a), length(c - b)});
        const int steps = std::clamp(int(size / (0.5f * kCell)) + 1, 1, 40);
        for (int i = 0; i <= steps; ++i)
          for (int j = 0; i + j <= steps; ++j)
            put(a + (b - a) * (float(i) / float(steps)) + (c - a) * (float(j) / float(steps)));
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
  return sheetOf(Garment::Apron, std::move(at), kAcross + 1);
}

// A strap from the corner of the bib over the shoulder and down the back; `side` 1: the sitter's left.
MeshPart apronStrap(const Outline& over, float side, float bib, float waist) {
  constexpr int kAcross = 4;
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
  return sheetOf(Garment::Apron, std::move(at), kAcross + 1);
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
  return sheetOf(Garment::Apron, std::move(at), kAcross + 1);
}

Landmarks findLandmarks(const HumanPackage& package, const QuadMesh& body, const std::vector<Vec3>& v) {
  Landmarks l;
  l.eyeLeft = package.joint("eye.L____head", v);
  l.eyeRight = package.joint("eye.R____head", v);
  l.neckPivot = package.joint("neck02____head", v);
  const float eyeY = (l.eyeLeft.y + l.eyeRight.y) / 2;
  std::vector<Vec3> used;
  for (const auto& f : body.face)
    for (int i : f) used.push_back(v[size_t(i)]);
  auto best = [&](auto inside, auto score) {
    Vec3 found = used[0];
    float top = -1e9f;
    for (Vec3 p : used)
      if (inside(p) && score(p) > top) {
        top = score(p);
        found = p;
      }
    return found;
  };
  auto front = [](Vec3 p) { return p.z; };
  l.noseTip = best([&](Vec3 p) { return std::abs(p.x) < 0.15f && p.y < eyeY - 0.15f && p.y > eyeY - 0.75f; }, front);
  l.chin = best([&](Vec3 p) { return std::abs(p.x) < 0.15f && p.y < eyeY - 0.95f && p.y > eyeY - 1.5f; }, front);
  l.forehead = best([&](Vec3 p) { return std::abs(p.x) < 0.1f && p.y > eyeY + 0.42f && p.y < eyeY + 0.58f; }, front);
  l.crown = best([&](Vec3 p) { return std::abs(p.x) < 0.3f; }, [](Vec3 p) { return p.y; });
  const float out = std::abs(l.eyeLeft.x);
  l.cheekLeft =
      best([&](Vec3 p) { return std::abs(p.x - out * 1.25f) < 0.07f && std::abs(p.y - eyeY + 0.42f) < 0.08f; }, front);
  l.cheekRight =
      best([&](Vec3 p) { return std::abs(p.x + out * 1.25f) < 0.07f && std::abs(p.y - eyeY + 0.42f) < 0.08f; }, front);
  return l;
}

// A garment, and what of the skin goes with it.
struct Worn {
  std::string of;
  const Outfit* outfit;
  std::vector<bool> hidden, shown;  // vertices under it; faces that are seen
  bool apron;
};

struct Trunk {
  Vec3 neck, hip;
  const std::vector<float>* hands;
};
// What shows above the collar and beyond the sleeves; the hands are apart. A garment says what it hides, less a ring of
// faces that go on under its edge.
std::vector<bool> bareSkin(const QuadMesh& body, const std::vector<Vec3>& v, const std::vector<bool>& hidden,
                           const Trunk& trunk) {
  std::vector<bool> shown(body.face.size());
  for (size_t f = 0; f < shown.size(); ++f) {
    float highest = -1e9f, lowest = 1e9f, out = 0, hand = 0;
    bool bare = false;
    for (int i : body.face[f]) {
      highest = std::max(highest, aboveNeckline(v[size_t(i)], trunk.neck));
      lowest = std::min(lowest, v[size_t(i)].y);
      out = std::max(out, std::abs(v[size_t(i)].x));
      hand = std::max(hand, (*trunk.hands)[size_t(i)]);
      bare |= hidden.empty() || !hidden[size_t(i)];
    }
    // Under our own, 4.5 mm go on below the collar; out on the shoulder and down the arm nothing does.
    shown[f] = hidden.empty() ? highest > (out < 1.05f ? -0.45f : 0.1f) && out < 1.5f
                              : bare && lowest > trunk.hip.y && hand <= 0.01f;
  }
  return shown;
}

// Faces that every garment leaves bare, two rings away from any that one does not: there they are the same mesh.
std::vector<bool> shownByAll(const QuadMesh& body, const std::vector<Worn>& all) {
  std::vector<bool> clear(body.position.size(), true);
  for (const Worn& w : all) {
    for (size_t f = 0; f < body.face.size(); ++f)
      if (!w.shown[f])
        for (int i : body.face[f]) clear[size_t(i)] = false;
    for (size_t i = 0; i < w.hidden.size(); ++i)
      if (w.hidden[i]) clear[i] = false;
  }
  for (int ring = 0; ring < 2; ++ring) {
    const std::vector<bool> was = clear;
    for (const auto& f : body.face)
      if (std::any_of(f.begin(), f.end(), [&](int i) { return !was[size_t(i)]; }))
        for (int i : f) clear[size_t(i)] = false;
  }
  std::vector<bool> common(body.face.size());
  for (size_t f = 0; f < common.size(); ++f)
    common[f] = std::all_of(body.face[f].begin(), body.face[f].end(), [&](int i) { return bool(clear[size_t(i)]); });
  return common;
}

// The skin that goes with a garment alone, and last that which all have.
std::vector<MeshPart> skinOf(const QuadMesh& body, const Worn& w, const std::vector<MeshPart>& tops,
                             const std::vector<bool>& common, int texture) {
  QuadMesh skin = body;
  // What goes on under a garment's edge goes in there, or it would poke through; so does what the garment says nothing
  // of and yet touches from within.
  std::vector<MeshPart> inMetres = tops;
  for (MeshPart& p : inMetres)
    for (Vec3& q : p.position) q *= kMetresPerUnit;
  const DistanceField cloth =
      w.hidden.empty() ? DistanceField{} : fieldOf(inMetres, 0.006f, [](const MeshPart&, size_t) { return true; });
  const std::vector<Vec3> out = vertexNormals(body);
  // Beside the head's own faces nothing moves: they would come apart.
  std::vector<bool> still(body.position.size());
  auto spread = [&](auto wants) {
    const std::vector<bool> was = still;
    for (size_t f = 0; f < body.face.size(); ++f)
      if (wants(f, was))
        for (int i : body.face[f]) still[size_t(i)] = true;
  };
  spread([&](size_t f, const auto&) { return bool(common[f]); });
  for (int ring = 0; ring < 2; ++ring)
    spread([&](size_t f, const auto& was) {
      return std::any_of(body.face[f].begin(), body.face[f].end(), [&](int i) { return bool(was[size_t(i)]); });
    });
  constexpr float kUnder = 0.004f;  // metres
  for (size_t i = 0; i < w.hidden.size(); ++i) {
    if (w.hidden[i]) skin.position[i] += out[i] * -0.12f;
    const float gap = cloth.at(skin.position[i] * kMetresPerUnit);
    if (!w.hidden[i] && !still[i] && gap > -kUnder && gap < 0.007f)
      skin.position[i] += out[i] * (-(gap + kUnder) / kMetresPerUnit);
  }
  constexpr int kLevels = 2;
  const MeshPart whole = triangulated(subdivided(keepFaces(skin, w.shown), kLevels), Surface::Skin, texture);
  std::vector<bool> ofAll;  // by face that is kept
  for (size_t f = 0; f < common.size(); ++f)
    if (w.shown[f]) ofAll.push_back(common[f]);
  constexpr size_t kPieces = 2 << (2 * kLevels);  // triangles of a face
  std::vector<MeshPart> parts = {chosen(whole, [&](size_t t) { return !ofAll[t / kPieces]; }),
                                 chosen(whole, [&](size_t t) { return bool(ofAll[t / kPieces]); })};
  parts[0].of = w.of;
  return parts;
}

}  // namespace

Sitter bakeSitter(const HumanPackage& package, const Person& person) {
  Sitter s;
  s.id = person.id;
  s.name = person.name;
  s.recipe = recipeMark(person);
  s.hairTint = person.hairReflectance;
  s.skinTint = person.skinTint;

  const std::vector<Vec3> v = package.shaped(person.body);
  const QuadMesh body = package.body(v);
  s.landmarks = findLandmarks(package, body, v);
  const float eyeY = (s.landmarks.eyeLeft.y + s.landmarks.eyeRight.y) / 2;
  const Vec3 neck = package.joint("neck01____head", v), hip = package.joint("upperleg01.L____head", v);
  const std::vector<float>&arms = package.arms(), &hands = package.hands();

  auto texture = [&](const std::string& below) {
    s.textures.push_back(readPng(package.file("public/data/" + below)));
    return int(s.textures.size()) - 1;
  };
  const int skinTexture = texture("skins/" + person.skinTexture);
  const Vec3 ankle = package.joint("foot.L____head", v);
  const float hem = hip.y - 0.35f, bib = eyeY - 3.35f, waist = hip.y + 1.1f;
  std::vector<bool> hand(body.face.size());
  float sole = 1e9f;
  for (size_t f = 0; f < hand.size(); ++f) {
    float share = 0;
    for (int i : body.face[f]) {
      share = std::max(share, hands[size_t(i)]);
      sole = std::min(sole, v[size_t(i)].y);
    }
    hand[f] = share > 0.01f;
  }
  s.parts.push_back(triangulated(subdivided(keepFaces(body, hand), 1), Surface::Skin, skinTexture));
  auto facesBetween = [&](float low, float high) {
    std::vector<bool> keep(body.face.size());
    for (size_t f = 0; f < keep.size(); ++f) {
      float lowest = 1e9f, highest = -1e9f, arm = 0;
      for (int i : body.face[f]) {
        lowest = std::min(lowest, v[size_t(i)].y);
        highest = std::max(highest, v[size_t(i)].y);
        arm = std::max(arm, arms[size_t(i)] + hands[size_t(i)]);
      }
      keep[f] = lowest >= low && highest <= high && arm < 0.3f;
    }
    return keep;
  };
  const auto legs = facesBetween(ankle.y - 0.35f, hip.y + 0.9f);
  MeshPart standingTrousers;
  for (const char* pose : {"standing", "seated"}) {
    const bool sits = std::string_view(pose) == "seated";
    const QuadMesh posedBody = sits ? package.body(package.sitting(v)) : body;
    // Trousers hang wider the further down they are.
    MeshPart trousers = garment(posedBody, body, legs, Garment::Trousers, 24, [&](Vec3 p) {
      return 0.08f + 0.16f * std::clamp((hip.y - p.y) / (hip.y - ankle.y), 0.f, 1.f);
    });
    QuadMesh pair = package.part("clothes", "shoes02", posedBody.position);
    pair.uv.clear();  // coloured by what they are
    for (Vec3 q : pair.position) {
      pair.uv.push_back({q.x * kMetresPerUnit, q.y * kMetresPerUnit});
      if (!sits) sole = std::min(sole, q.y);
    }
    pair.faceUv = pair.face;
    pair.headWeight.assign(pair.position.size(), 0);
    MeshPart shoes = triangulated(subdivided(pair, 1), Surface::Cloth, -1);
    shoes.garment = Garment::Shoes;
    trousers.wear = shoes.wear = pose;
    if (!sits) standingTrousers = trousers;
    s.parts.push_back(std::move(trousers));
    s.parts.push_back(std::move(shoes));
  }

  // Garments, each with the skin that it leaves bare; the head is the same for all.
  std::vector<Worn> all;
  for (const Outfit& outfit : outfits()) {
    if (outfit.id == "own") continue;
    const std::string of = outfit.clothing().garment;
    auto at = std::find_if(all.begin(), all.end(), [&](const Worn& w) { return w.of == of; });
    if (at == all.end()) {
      Worn w{of, &outfit, {}, {}, false};
      if (!outfit.garment.empty()) w.hidden = package.hiddenBy(outfit.garment);
      w.shown = bareSkin(body, v, w.hidden, {neck, hip, &hands});
      at = all.insert(all.end(), std::move(w));
    }
    at->apron |= outfit.apron;
  }
  const std::vector<bool> common = shownByAll(body, all);
  for (const Worn& w : all) {
    std::vector<MeshPart> tops;
    if (w.outfit->garment.empty()) {
      tops.push_back(plainTop(body, neck, hem, arms, hands, package.joint("wrist.L____head", v),
                              package.joint("wrist.R____head", v)));
    } else {
      tops = topOf(package, *w.outfit, v, hem);
      if (!w.outfit->relief.empty())
        tops[0].relief = texture(fmt::format("proxies/clothes/{}/textures/{}", w.outfit->garment, w.outfit->relief));
      for (MeshPart& p : tops) p.relief = tops[0].relief;
    }
    std::vector<MeshPart> parts = skinOf(body, w, tops, common, skinTexture);
    if (&w != &all.front()) parts.pop_back();  // the head
    for (MeshPart& p : parts) s.parts.push_back(std::move(p));
    std::vector<MeshPart> apron;
    if (w.apron) {
      const Outline outline({&tops[0]});
      apron = {apronBib(outline, bib, waist - 0.1f), apronStrap(outline, 1, bib, waist),
               apronStrap(outline, -1, bib, waist), apronSkirt({&standingTrousers, &tops[0]}, waist, hip.y - 4.2f)};
      apron.back().wear = "standing";
    }
    for (std::vector<MeshPart>* some : {&tops, &apron})
      for (MeshPart& p : *some) {
        p.of = w.of;
        s.parts.push_back(std::move(p));
      }
  }

  const QuadMesh eyes = subdivided(package.part("eyes", "HighPolyEyes", v), 1);
  std::vector<bool> ball(eyes.face.size());
  for (size_t f = 0; f < ball.size(); ++f) {
    const Vec2 t = eyes.uv[size_t(eyes.faceUv[f][0])];
    ball[f] = !(t.x > 0.87f && t.y < 0.13f);
  }
  const int eyeTexture = texture(fmt::format("proxies/eyes/HighPolyEyes/textures/{}_eye.png", person.eyes));
  s.parts.push_back(triangulated(keepFaces(eyes, ball), Surface::Eye, eyeTexture));
  ball.flip();
  s.parts.push_back(triangulated(keepFaces(eyes, ball), Surface::Cornea, -1));

  auto card = [&](const std::string& kind, const std::string& name, const std::string& png, Surface surface) {
    const QuadMesh m = package.part(kind, name, v);
    s.parts.push_back(
        triangulated(subdivided(m, 1), surface, texture(fmt::format("proxies/{}/{}/textures/{}", kind, name, png))));
  };
  card("eyebrows", person.brows, person.brows + ".png", Surface::Brow);
  card("eyelashes", "Eyelashes01", "eyelashes01.png", Surface::Lash);
  s.hairStyle = person.hair;
  s.ground = hairGround(body, package.unshaped());

  // Into local space: metres, eye level, plane of symmetry, axis of the neck.
  const Vec3 origin{0, eyeY, s.landmarks.neckPivot.z};
  auto local = [&](Vec3 p) { return (p - origin) * kMetresPerUnit; };
  for (MeshPart& p : s.parts) {
    for (Vec3& q : p.position) q = local(q);
    if (p.surface == Surface::Cloth && p.relief < 0)
      for (Vec2& t : p.uv) t.y -= eyeY * kMetresPerUnit;
  }
  for (Vec3& q : s.ground.position) q = local(q);
  const std::string own = findOutfit(person.outfit, {})->clothing().garment;
  s.headField = fieldOf(s.parts, 0.004f, [](const MeshPart& p, size_t i) {
    return p.surface == Surface::Skin && p.headWeight[i] >= 0.5f;
  });
  s.bodyField = fieldOf(s.parts, 0.008f, [&](const MeshPart& p, size_t i) {
    return p.wear.empty() && (p.of.empty() || p.of == own) &&
           (p.surface == Surface::Skin || (p.surface == Surface::Cloth && p.garment == Garment::Top)) &&
           p.headWeight[i] < 0.5f && p.position[i].y > -0.6f;
  });
  s.hips = local(hip).y;
  s.soles = local({0, sole, 0}).y;
  Landmarks& l = s.landmarks;
  for (Vec3* p :
       {&l.eyeLeft, &l.eyeRight, &l.noseTip, &l.chin, &l.forehead, &l.crown, &l.cheekLeft, &l.cheekRight, &l.neckPivot})
    *p = local(*p);
  return s;
}

}  // namespace easel::bake
