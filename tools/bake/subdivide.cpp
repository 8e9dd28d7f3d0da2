#include "subdivide.h"

#include <opensubdiv/far/primvarRefiner.h>
#include <opensubdiv/far/topologyDescriptor.h>

#include <memory>
#include <unordered_map>

namespace easel::bake {
namespace {

namespace Osd = OpenSubdiv;

struct Corner {  // what a vertex carries through subdivision
  Vec3 p;
  float w = 0;
  Shares shares;
  void Clear() { *this = {}; }
  void AddWithWeight(const Corner& o, float k) {
    p += o.p * k;
    w += o.w * k;
    shares.add(o.shares, k);
  }
};
struct Uv {
  Vec2 t;
  void Clear() { t = {}; }
  void AddWithWeight(const Uv& o, float k) {
    t.x += o.t.x * k;
    t.y += o.t.y * k;
  }
};

}  // namespace

QuadMesh keepFaces(const QuadMesh& mesh, const std::vector<bool>& keep) {
  QuadMesh out;
  std::unordered_map<int, int> vertex, uv;
  auto moved = [](std::unordered_map<int, int>& map, int old, auto add) {
    auto [at, fresh] = map.try_emplace(old, int(map.size()));
    if (fresh) add(size_t(old));
    return at->second;
  };
  for (size_t f = 0; f < mesh.face.size(); ++f) {
    if (!keep[f]) continue;
    std::array<int, 4> v{}, t{};
    for (size_t k = 0; k < 4; ++k) {
      v[k] = moved(vertex, mesh.face[f][k], [&](size_t i) {
        out.position.push_back(mesh.position[i]);
        out.headWeight.push_back(mesh.headWeight[i]);
        out.shares.push_back(mesh.shares[i]);
      });
      t[k] = moved(uv, mesh.faceUv[f][k], [&](size_t i) { out.uv.push_back(mesh.uv[i]); });
    }
    out.face.push_back(v);
    out.faceUv.push_back(t);
  }
  return out;
}

std::vector<Vec3> vertexNormals(const QuadMesh& m) {
  std::vector<Vec3> n(m.position.size());
  for (const auto& f : m.face) {
    const Vec3 a = m.position[size_t(f[0])], b = m.position[size_t(f[1])], c = m.position[size_t(f[2])],
               d = m.position[size_t(f[3])];
    const Vec3 area = cross(c - a, d - b);
    for (int i : f) n[size_t(i)] += area;
  }
  for (Vec3& v : n) v = normalize(v);
  return n;
}

QuadMesh subdivided(const QuadMesh& mesh, int levels) {
  if (levels < 1 || mesh.face.empty()) return mesh;
  using Descriptor = Osd::Far::TopologyDescriptor;
  std::vector<int> counts(mesh.face.size(), 4);
  Descriptor d;
  d.numVertices = int(mesh.position.size());
  d.numFaces = int(mesh.face.size());
  d.numVertsPerFace = counts.data();
  d.vertIndicesPerFace = mesh.face[0].data();
  Descriptor::FVarChannel channel;
  channel.numValues = int(mesh.uv.size());
  channel.valueIndices = mesh.faceUv[0].data();
  d.numFVarChannels = 1;
  d.fvarChannels = &channel;

  Osd::Sdc::Options options;
  options.SetVtxBoundaryInterpolation(Osd::Sdc::Options::VTX_BOUNDARY_EDGE_AND_CORNER);
  options.SetFVarLinearInterpolation(Osd::Sdc::Options::FVAR_LINEAR_ALL);
  using Factory = Osd::Far::TopologyRefinerFactory<Descriptor>;
  std::unique_ptr<Osd::Far::TopologyRefiner> refiner(
      Factory::Create(d, Factory::Options(Osd::Sdc::SCHEME_CATMARK, options)));
  if (!refiner) return mesh;
  refiner->RefineUniform(Osd::Far::TopologyRefiner::UniformOptions(levels));

  std::vector<Corner> corners(mesh.position.size());
  for (size_t i = 0; i < corners.size(); ++i) corners[i] = {mesh.position[i], mesh.headWeight[i], mesh.shares[i]};
  std::vector<Uv> uvs(mesh.uv.size());
  for (size_t i = 0; i < uvs.size(); ++i) uvs[i].t = mesh.uv[i];
  Osd::Far::PrimvarRefiner primvar(*refiner);
  for (int level = 1; level <= levels; ++level) {
    std::vector<Corner> nextCorners(size_t(refiner->GetLevel(level).GetNumVertices()));
    primvar.Interpolate(level, corners, nextCorners);
    corners = std::move(nextCorners);
    std::vector<Uv> nextUvs(size_t(refiner->GetLevel(level).GetNumFVarValues(0)));
    primvar.InterpolateFaceVarying(level, uvs, nextUvs);
    uvs = std::move(nextUvs);
  }
  QuadMesh out;
  for (const Corner& c : corners) {
    out.position.push_back(c.p);
    out.headWeight.push_back(c.w);
    out.shares.push_back(c.shares);
  }
  for (const Uv& u : uvs) out.uv.push_back(u.t);
  const auto& last = refiner->GetLevel(levels);
  for (int f = 0; f < last.GetNumFaces(); ++f) {
    const auto v = last.GetFaceVertices(f);
    const auto t = last.GetFaceFVarValues(f, 0);
    out.face.push_back({v[0], v[1], v[2], v[3]});
    out.faceUv.push_back({t[0], t[1], t[2], t[3]});
  }
  return out;
}

MeshPart triangulated(const QuadMesh& m, Surface surface, int texture) {
  MeshPart part;
  part.surface = surface;
  part.texture = texture;
  const std::vector<Vec3> normals = vertexNormals(m);
  std::unordered_map<std::uint64_t, std::uint32_t> made;
  auto corner = [&](int v, int t) {
    auto [at, fresh] = made.try_emplace(std::uint64_t(v) << 32 | std::uint32_t(t), std::uint32_t(made.size()));
    if (fresh) {
      part.position.push_back(m.position[size_t(v)]);
      part.normal.push_back(normals[size_t(v)]);
      part.headWeight.push_back(m.headWeight[size_t(v)]);
      part.binding.push_back(m.shares[size_t(v)].binding());
      part.uv.push_back(m.uv[size_t(t)]);
    }
    return at->second;
  };
  for (size_t f = 0; f < m.face.size(); ++f) {
    std::uint32_t c[4];
    for (size_t k = 0; k < 4; ++k) c[k] = corner(m.face[f][k], m.faceUv[f][k]);
    // The shorter diagonal gives the flatter pair.
    const float d02 = length(part.position[c[0]] - part.position[c[2]]);
    const float d13 = length(part.position[c[1]] - part.position[c[3]]);
    if (d02 <= d13)
      for (int k : {0, 1, 2, 0, 2, 3}) part.triangles.push_back(c[k]);
    else
      for (int k : {0, 1, 3, 1, 2, 3}) part.triangles.push_back(c[k]);
  }
  return part;
}

}  // namespace easel::bake
