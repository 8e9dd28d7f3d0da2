#include "skin.h"

#include <algorithm>
#include <cmath>

#include "clothes.h"
#include "hair_ground.h"
#include "meshes.h"
#include "subdivide.h"

namespace easel::bake {
namespace {

// What shows above the collar and beyond the sleeves; the hands are apart. A garment says what it hides, less a ring of
// faces that go on under its edge.
std::vector<bool> bareSkin(const HumanPackage& package, const QuadMesh& body, const std::vector<bool>& hidden) {
  const std::vector<Vec3>& v = body.position;
  const Vec3 neck = package.joint("neck01____head", v), hip = package.joint("upperleg01.L____head", v);
  std::vector<bool> shown(body.face.size());
  for (size_t f = 0; f < shown.size(); ++f) {
    float highest = -1e9f, lowest = 1e9f, out = 0, hand = 0;
    bool bare = false;
    for (int i : body.face[f]) {
      highest = std::max(highest, aboveNeckline(v[size_t(i)], neck));
      lowest = std::min(lowest, v[size_t(i)].y);
      out = std::max(out, std::abs(v[size_t(i)].x));
      hand = std::max(hand, package.hands()[size_t(i)]);
      bare |= hidden.empty() || !hidden[size_t(i)];
    }
    // Under our own, 4.5 mm go on below the collar; out on the shoulder and down the arm nothing does.
    shown[f] = hidden.empty() ? highest > (out < 1.05f ? -0.45f : 0.1f) && out < 1.5f
                              : bare && lowest > hip.y && hand <= 0.01f;
  }
  return shown;
}

// Of the skin that those clothes leave bare: the faces that all leave bare, or the others.
MeshPart piece(const QuadMesh& skin, const Worn& w, const std::vector<bool>& common, int texture, bool ofAll) {
  constexpr int kLevels = 2;
  const MeshPart whole = triangulated(subdivided(keepFaces(skin, w.shown), kLevels), Surface::Skin, texture);
  std::vector<bool> keeps;  // by face that is kept
  for (size_t f = 0; f < common.size(); ++f)
    if (w.shown[f]) keeps.push_back(common[f] == ofAll);
  constexpr size_t kPieces = 2 << (2 * kLevels);  // triangles of a face
  MeshPart part = chosen(whole, [&](size_t t) { return bool(keeps[t / kPieces]); });
  if (!ofAll) part.of = w.of;
  return part;
}

}  // namespace

std::vector<Worn> wornOn(const HumanPackage& package, const QuadMesh& body) {
  std::vector<Worn> all;
  for (const Outfit& outfit : outfits()) {
    if (outfit.id == "own") continue;
    const std::string of = outfit.clothing().garment;
    auto at = std::find_if(all.begin(), all.end(), [&](const Worn& w) { return w.of == of; });
    if (at == all.end()) {
      Worn w{of, &outfit, {}, {}, false};
      if (!outfit.garment.empty()) w.hidden = package.hiddenBy(outfit.garment);
      w.shown = bareSkin(package, body, w.hidden);
      at = all.insert(all.end(), std::move(w));
    }
    at->apron |= outfit.apron;
  }
  return all;
}

// Faces that every garment leaves bare, two rings away from any that one does not: there they are the same mesh.
std::vector<bool> shownByAll(const QuadMesh& body, const std::vector<Worn>& all) {
  std::vector<bool> touched(body.position.size());
  for (const Worn& w : all) {
    for (size_t f = 0; f < body.face.size(); ++f)
      if (!w.shown[f])
        for (int i : body.face[f]) touched[size_t(i)] = true;
    for (size_t i = 0; i < w.hidden.size(); ++i)
      if (w.hidden[i]) touched[i] = true;
  }
  touched = ringsAbout(body, std::move(touched), 2);
  std::vector<bool> common(body.face.size());
  for (size_t f = 0; f < common.size(); ++f)
    common[f] = std::all_of(body.face[f].begin(), body.face[f].end(), [&](int i) { return !touched[size_t(i)]; });
  return common;
}

MeshPart skinOf(const QuadMesh& body, const Worn& w, const std::vector<MeshPart>& tops, const std::vector<bool>& common,
                int texture) {
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
  for (size_t f = 0; f < body.face.size(); ++f)
    if (common[f])
      for (int i : body.face[f]) still[size_t(i)] = true;
  still = ringsAbout(body, std::move(still), 2);
  constexpr float kUnder = 0.004f;  // metres
  for (size_t i = 0; i < w.hidden.size(); ++i) {
    if (w.hidden[i]) skin.position[i] += out[i] * -0.12f;
    const float gap = cloth.at(skin.position[i] * kMetresPerUnit);
    if (!w.hidden[i] && !still[i] && gap > -kUnder && gap < 0.007f)
      skin.position[i] += out[i] * (-(gap + kUnder) / kMetresPerUnit);
  }
  return piece(skin, w, common, texture, false);
}

MeshPart headOf(const QuadMesh& body, const Worn& w, const std::vector<bool>& common, int texture) {
  return piece(body, w, common, texture, true);
}

}  // namespace easel::bake
