#include "clothes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "meshes.h"
#include "subdivide.h"

namespace easel::bake {
namespace {

bool within(Vec2 t, const std::vector<Outfit::Box>& boxes) {
  return std::any_of(boxes.begin(), boxes.end(), [&](const Outfit::Box& b) {
    const double x = double(t.x), y = 1 - double(t.y);
    return x > b[0] && x < b[2] && y > b[1] && y < b[3];
  });
}

// By vertex: how high (`way` 1) or how low (-1) the piece reaches that it hangs together with.
std::vector<float> ofPiece(const QuadMesh& mesh, float way) {
  std::vector<float> reach;
  for (Vec3 p : mesh.position) reach.push_back(p.y * way);
  for (bool changed = true; changed;) {
    changed = false;
    for (const auto& f : mesh.face) {
      float most = -1e9f;
      for (int i : f) most = std::max(most, reach[size_t(i)]);
      for (int i : f)
        if (reach[size_t(i)] < most) {
          reach[size_t(i)] = most;
          changed = true;
        }
    }
  }
  for (float& r : reach) r *= way;
  return reach;
}

// Faces of the pieces that reach from the hips down to the feet and hang together with nothing above.
std::vector<bool> onTheLegs(const QuadMesh& mesh, float hip) {
  const std::vector<float> high = ofPiece(mesh, 1), low = ofPiece(mesh, -1);
  std::vector<bool> legs;
  for (const auto& f : mesh.face) {
    const auto first = size_t(f[0]);
    legs.push_back(high[first] <= hip + 3 && low[first] <= hip - 1.5f);
  }
  return legs;
}

// Splits triangles along the edges of a box of the garment's picture, so that what is coloured apart ends on a line.
void cutAlong(MeshPart& part, const Outfit::Box& box) {
  const auto of = [](Vec2 t, int axis) { return axis ? 1 - t.y : t.x; };
  for (int axis : {0, 1})
    for (size_t end : {size_t(axis), size_t(axis) + 2}) {
      const auto line = float(box[end]), low = float(box[size_t(1 - axis)]), high = float(box[size_t(1 - axis) + 2]);
      std::vector<std::uint32_t> out;
      std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> made;
      const auto between = [&](std::uint32_t a, std::uint32_t b) {
        auto [at, fresh] = made.try_emplace(std::minmax(a, b), std::uint32_t(part.position.size()));
        if (!fresh) return at->second;
        const float from = of(part.uv[a], axis), t = (line - from) / (of(part.uv[b], axis) - from);
        return addBetween(part, a, b, t);
      };
      for (size_t t = 0; t < part.triangles.size(); t += 3) {
        const std::uint32_t* i = &part.triangles[t];
        float least = 2, most = -1, aside = 2, beyond = -1;
        for (int k = 0; k < 3; ++k) {
          least = std::min(least, of(part.uv[i[k]], axis));
          most = std::max(most, of(part.uv[i[k]], axis));
          aside = std::min(aside, of(part.uv[i[k]], 1 - axis));
          beyond = std::max(beyond, of(part.uv[i[k]], 1 - axis));
        }
        if (least >= line - 1e-5f || most <= line + 1e-5f || beyond < low || aside > high) {
          out.insert(out.end(), i, i + 3);
          continue;
        }
        // The corner that is alone on its side, and the two others.
        const std::array<std::uint32_t, 3> c{i[0], i[1], i[2]};
        const auto before = [&](std::uint32_t v) { return of(part.uv[v], axis) < line; };
        size_t k = 0;
        while (before(c[k]) == before(c[(k + 1) % 3]) || before(c[k]) == before(c[(k + 2) % 3])) ++k;
        const std::uint32_t a = c[k], b = c[(k + 1) % 3], d = c[(k + 2) % 3], p = between(a, b), q = between(a, d);
        out.insert(out.end(), {a, p, q, p, b, d, p, d, q});
      }
      part.triangles = std::move(out);
    }
}

}  // namespace

float aboveNeckline(Vec3 p, Vec3 neck) { return p.y - (neck.y + 0.16f - 0.62f * (p.z - neck.z)) - 0.08f * p.x * p.x; }

MeshPart plainTop(const HumanPackage& package, const QuadMesh& body, float hem) {
  const Vec3 neck = package.joint("neck01____head", body.position),
             wristLeft = package.joint("wrist.L____head", body.position),
             wristRight = package.joint("wrist.R____head", body.position);
  const std::vector<float>&arms = package.arms(), &hands = package.hands();
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
  const auto around = neighbours(top);
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
  placeUv(fine, fine.position);
  MeshPart part = triangulated(fine, Surface::Cloth, -1);

  // Cut exactly along the neckline: triangles that cross it are clipped, so that the collar is a clean curve.
  MeshPart cut = part;
  cut.triangles.clear();
  std::vector<float> height(part.position.size());
  for (size_t i = 0; i < height.size(); ++i) height[i] = aboveNeckline(part.position[i], neck);
  auto between = [&](std::uint32_t a, std::uint32_t b) {
    const float t = height[a] / (height[a] - height[b]);
    return addBetween(cut, a, b, t);
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

std::vector<MeshPart> topOf(const HumanPackage& package, const Outfit& outfit, const std::vector<Vec3>& v, float hem,
                            float hip) {
  QuadMesh top = package.part("clothes", outfit.garment, v);
  // Everybody wears the trousers of one garment.
  std::vector<bool> keep = onTheLegs(top, hip);
  for (size_t f = 0; f < keep.size(); ++f)
    keep[f] = !keep[f] && std::any_of(top.face[f].begin(), top.face[f].end(),
                                      [&](int i) { return top.position[size_t(i)].y > hem; });
  top = keepFaces(top, keep);
  for (float& w : top.headWeight) w = std::min(w, 0.25f);
  constexpr size_t kFineEnough = 4000;  // faces
  MeshPart all = triangulated(subdivided(top, top.face.size() > kFineEnough ? 0 : 1), Surface::Cloth, -1);
  for (const auto* boxes : {&outfit.shirt, &outfit.tie})
    for (const Outfit::Box& b : *boxes) cutAlong(all, b);
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

MeshPart trousersOn(const HumanPackage& package, const std::vector<Vec3>& posed, const std::vector<Vec3>& standing,
                    float hip) {
  const QuadMesh rest = package.part("clothes", kTrousersOf, standing);
  QuadMesh worn = keepFaces(package.part("clothes", kTrousersOf, posed), onTheLegs(rest, hip));
  worn.headWeight.assign(worn.position.size(), 0);
  MeshPart part = triangulated(subdivided(worn, 1), Surface::Cloth, -1);
  part.garment = Garment::Trousers;
  return part;
}

}  // namespace easel::bake
