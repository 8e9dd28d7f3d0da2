#include "sitters/fine_skin.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "threads/parallel.h"

namespace easel {
namespace {

// Vertices in cubes, so that those about a place are found without asking all.
class About {
 public:
  About(float reach, const std::vector<Vec3>& position) : reach_(reach), position_(position) {}
  void add(std::uint32_t vertex) {
    const Vec3 p = position_[vertex];
    cubes_[cube(p)].push_back(vertex);
    for (int c = 0; c < 3; ++c) {
      low_[c] = std::min(low_[c], p[c] - reach_);
      high_[c] = std::max(high_[c], p[c] + reach_);
    }
  }
  /// Those within the reach, and some beyond it.
  template <class F>
  void each(Vec3 p, F visit) const {
    for (int c = 0; c < 3; ++c)
      if (p[c] < low_[c] || p[c] > high_[c]) return;
    const auto [x, y, z] = cube(p);
    for (int i = x - 1; i <= x + 1; ++i)
      for (int j = y - 1; j <= y + 1; ++j)
        for (int k = z - 1; k <= z + 1; ++k)
          if (const auto found = cubes_.find({i, j, k}); found != cubes_.end())
            for (std::uint32_t v : found->second) visit(v);
  }

 private:
  using Cube = std::tuple<int, int, int>;
  Cube cube(Vec3 p) const {
    const auto of = [this](float v) { return int(std::floor(v / reach_)); };
    return {of(p.x), of(p.y), of(p.z)};
  }
  float reach_;
  Vec3 low_{1e9f, 1e9f, 1e9f}, high_{-1e9f, -1e9f, -1e9f};  // of all, and the reach about them
  const std::vector<Vec3>& position_;
  std::map<Cube, std::vector<std::uint32_t>> cubes_;
};

template <class F>
void forVertices(const MeshPart& part, F of) {
  inParallel(part.position.size(), 512, [&](size_t from, size_t to) {
    for (size_t i = from; i != to; ++i) of(std::uint32_t(i));
  });
}

// A film of tears a millimetre high stands between lid and eye (value from memory).
std::vector<float> wetLids(const MeshPart& skin, const std::vector<const MeshPart*>& eyes) {
  constexpr float kReach = 0.0025f, kFilm = 0.0011f;
  std::vector<float> wet(skin.position.size());
  for (const MeshPart* eye : eyes) {
    About about(kReach, eye->position);
    for (std::uint32_t i = 0; i < eye->position.size(); ++i) about.add(i);
    forVertices(skin, [&](std::uint32_t i) {
      float nearest = kReach * kReach;
      about.each(skin.position[i], [&](std::uint32_t e) {
        const Vec3 d = skin.position[i] - eye->position[e];
        if (dot(d, d) > nearest) return;
        nearest = dot(d, d);
        wet[i] = std::clamp(2 - 2 * dot(d, eye->normal[e]) / kFilm, 0.f, 1.f);
      });
    });
  }
  return wet;
}

// Of what lies to the side of the head and has skin behind it that faces away.
std::vector<float> thicknessOfEars(const MeshPart& skin, const Landmarks& l) {
  std::vector<float> thickness(skin.position.size(), FineSkin::kThick);
  const float aside = 1.5f * l.eyeLeft.x, low = lerp(l.noseTip, l.chin, 0.6f).y, high = l.forehead.y + 0.02f;
  const auto ofEar = [&](Vec3 p) {
    return std::abs(p.x) > aside && p.y > low && p.y < high && p.z < l.eyeLeft.z - 0.03f;
  };
  About about(FineSkin::kThick, skin.position);
  for (std::uint32_t i = 0; i < skin.position.size(); ++i)
    if (ofEar(skin.position[i])) about.add(i);
  forVertices(skin, [&](std::uint32_t i) {
    const Vec3 p = skin.position[i], n = skin.normal[i];
    if (!ofEar(p)) return;
    about.each(p, [&](std::uint32_t j) {
      if (dot(skin.normal[j], n) > -0.4f) return;
      const Vec3 d = p - skin.position[j];
      const float through = dot(d, n);
      constexpr float kBeside = 0.002f;
      if (through > 0.0004f && dot(d, d) - through * through < kBeside * kBeside)
        thickness[i] = std::min(thickness[i], through);
    });
  });
  return thickness;
}

}  // namespace

FineSkin fineSkinOf(const Sitter& sitter) {
  FineSkin fine;
  std::vector<const MeshPart*> eyes;
  for (const MeshPart& p : sitter.parts) {
    if (p.surface == Surface::Eye) eyes.push_back(&p);
    // Of the parts of skin the head is the one that has a face to move.
    if (p.surface == Surface::Skin && !p.morphs.empty()) fine.of = &p;
  }
  if (!fine.of) return fine;
  fine.wet = wetLids(*fine.of, eyes);
  fine.thickness = thicknessOfEars(*fine.of, sitter.landmarks);
  return fine;
}

}  // namespace easel
