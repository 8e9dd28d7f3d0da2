#include "meshes.h"

#include <algorithm>

namespace easel::bake {

void placeUv(MeshPart& part) {
  part.uv.clear();
  for (Vec3 p : part.position) part.uv.push_back({p.x * kMetresPerUnit, p.y * kMetresPerUnit});
}
void placeUv(QuadMesh& mesh, const std::vector<Vec3>& places) {
  mesh.uv.clear();
  for (Vec3 p : places) mesh.uv.push_back({p.x * kMetresPerUnit, p.y * kMetresPerUnit});
  mesh.faceUv = mesh.face;
}

std::vector<std::vector<int>> neighbours(const QuadMesh& mesh) {
  std::vector<std::vector<int>> around(mesh.position.size());
  for (const auto& f : mesh.face)
    for (size_t k = 0; k < 4; ++k) {
      around[size_t(f[k])].push_back(f[(k + 1) % 4]);
      around[size_t(f[k])].push_back(f[(k + 3) % 4]);
    }
  return around;
}

std::vector<bool> ringsAbout(const QuadMesh& mesh, std::vector<bool> vertices, int rings) {
  for (int ring = 0; ring < rings; ++ring) {
    const std::vector<bool> was = vertices;
    for (const auto& f : mesh.face)
      if (std::any_of(f.begin(), f.end(), [&](int i) { return bool(was[size_t(i)]); }))
        for (int i : f) vertices[size_t(i)] = true;
  }
  return vertices;
}

std::uint32_t addBetween(MeshPart& part, std::uint32_t from, std::uint32_t to, float t) {
  part.position.push_back(lerp(part.position[from], part.position[to], t));
  part.normal.push_back(normalize(lerp(part.normal[from], part.normal[to], t)));
  part.uv.push_back(lerp(part.uv[from], part.uv[to], t));
  part.headWeight.push_back(part.headWeight[from] * (1 - t) + part.headWeight[to] * t);
  part.binding.push_back(part.binding[t < 0.5f ? from : to]);
  return std::uint32_t(part.position.size() - 1);
}

MeshPart chosen(const MeshPart& from, const std::function<bool(size_t)>& wants) {
  MeshPart out = from;
  for (auto* v : {&out.position, &out.normal}) v->clear();
  out.uv.clear();
  out.headWeight.clear();
  out.binding.clear();
  out.triangles.clear();
  std::vector<bool> used(from.position.size());
  for (size_t t = 0; t < from.triangles.size() / 3; ++t)
    if (wants(t))
      for (size_t k = 0; k < 3; ++k) {
        out.triangles.push_back(from.triangles[3 * t + k]);
        used[from.triangles[3 * t + k]] = true;
      }
  // In the order that they had: two shapes of one mesh keep vertices that belong together.
  std::vector<std::uint32_t> as(from.position.size());
  for (size_t i = 0; i < used.size(); ++i)
    if (used[i]) {
      as[i] = std::uint32_t(out.position.size());
      out.position.push_back(from.position[i]);
      out.normal.push_back(from.normal[i]);
      out.uv.push_back(from.uv[i]);
      out.headWeight.push_back(from.headWeight[i]);
      out.binding.push_back(from.binding[i]);
    }
  for (std::uint32_t& i : out.triangles) i = as[i];
  return out;
}

}  // namespace easel::bake
