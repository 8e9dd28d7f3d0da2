#include "bake_sitter.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "apron.h"
#include "clothes.h"
#include "formats/picture_file.h"
#include "hair_ground.h"
#include "meshes.h"
#include "sitters/sitter_file.h"
#include "skin.h"
#include "subdivide.h"

namespace easel::bake {
namespace {

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

// Beyond the middle of the upper arm: arms move, and nothing lies on them.
bool ofForearm(const Binding& b) {
  int share = 0;
  for (size_t k = 0; k < b.bone.size(); ++k)
    if (b.bone[k] >= Bones::Arms && (b.bone[k] - Bones::Arms) % Bones::kOfArm != Bones::Upper) share += b.share[k];
  return share > 127;
}

// What has moved by more than a hundredth of a millimetre.
template <class Mesh>
Morph morphOf(const std::string& expression, const Mesh& from, const Mesh& to) {
  Morph m{expression, {}, {}, {}};
  for (size_t i = 0; i < from.position.size(); ++i) {
    const Vec3 shift = to.position[i] - from.position[i];
    if (length(shift) < 1e-4f && length(to.normal[i] - from.normal[i]) < 0.01f) continue;
    m.vertex.push_back(std::uint32_t(i));
    m.shift.push_back(shift);
    m.normal.push_back(to.normal[i]);
  }
  return m;
}

}  // namespace

namespace {

using ReadTexture = std::function<int(const std::string& below)>;

void addHats(Sitter& s, const HumanPackage& package, const std::vector<Vec3>& v, const ReadTexture& texture) {
  for (const Hat& hat : hats()) {
    if (hat.garment.empty()) continue;
    QuadMesh mesh = package.part("clothes", hat.garment, v);
    mesh.headWeight.assign(mesh.position.size(), 1);
    MeshPart part = triangulated(subdivided(mesh, 1), Surface::Cloth, -1);
    part.garment = Garment::Hat;
    part.of = hat.id;
    if (hat.relief.empty())
      placeUv(part);
    else
      part.relief = texture(fmt::format("proxies/clothes/{}/textures/{}", hat.garment, hat.relief));
    s.parts.push_back(std::move(part));
  }
}

void addEyes(Sitter& s, const HumanPackage& package, const std::vector<Vec3>& v, int eyeTexture) {
  const QuadMesh eyes = subdivided(package.part("eyes", "HighPolyEyes", v), 1);
  std::vector<bool> ball(eyes.face.size());
  for (size_t f = 0; f < ball.size(); ++f) {
    const Vec2 t = eyes.uv[size_t(eyes.faceUv[f][0])];
    ball[f] = !(t.x > 0.87f && t.y < 0.13f);
  }
  s.parts.push_back(triangulated(keepFaces(eyes, ball), Surface::Eye, eyeTexture));
  ball.flip();
  s.parts.push_back(triangulated(keepFaces(eyes, ball), Surface::Cornea, -1));
}

// Into local space: metres, eye level, plane of symmetry, axis of the neck.
void toLocalSpace(Sitter& s, float eyeY) {
  const Vec3 origin{0, eyeY, s.landmarks.neckPivot.z};
  auto local = [&](Vec3 p) { return (p - origin) * kMetresPerUnit; };
  for (MeshPart& p : s.parts) {
    for (Vec3& q : p.position) q = local(q);
    for (Morph& m : p.morphs)
      for (Vec3& d : m.shift) d *= kMetresPerUnit;
    if (p.surface == Surface::Cloth && p.relief < 0 && p.texture < 0)
      for (Vec2& t : p.uv) t.y -= eyeY * kMetresPerUnit;
  }
  for (Vec3& q : s.ground.position) q = local(q);
  for (Morph& m : s.ground.morphs)
    for (Vec3& d : m.shift) d *= kMetresPerUnit;
  for (Vec3& q : s.joints.of) q = local(q);
  for (auto* both : {&s.joints.hip, &s.joints.knee})
    for (Vec3& q : *both) q = local(q);
  Landmarks& l = s.landmarks;
  for (Vec3* p :
       {&l.eyeLeft, &l.eyeRight, &l.noseTip, &l.chin, &l.forehead, &l.crown, &l.cheekLeft, &l.cheekRight, &l.neckPivot})
    *p = local(*p);
}

void addFields(Sitter& s, const std::string& own) {
  s.headField = fieldOf(s.parts, 0.004f, [](const MeshPart& p, size_t i) {
    return p.surface == Surface::Skin && p.headWeight[i] >= 0.5f;
  });
  s.bodyField = fieldOf(s.parts, 0.008f, [&](const MeshPart& p, size_t i) {
    return p.wear.empty() && (p.of.empty() || p.of == own) &&
           (p.surface == Surface::Skin || (p.surface == Surface::Cloth && p.garment == Garment::Top)) &&
           p.headWeight[i] < 0.5f && p.position[i].y > -0.8f && !ofForearm(p.binding[i]);
  });
}

// The skin that head and garments share.
struct CommonSkin {
  const Worn& worn;
  const std::vector<bool>& common;
  int texture;
};

// What expressions move: head, brows, lashes, teeth, and the ground that hair grows on, with a shift for each of them.
void addFace(Sitter& s, const HumanPackage& package, const Person& person, const std::vector<Vec3>& v,
             const QuadMesh& body, const CommonSkin& skin, const ReadTexture& texture) {
  const auto partTexture = [&](const char* kind, const std::string& name, const std::string& png) {
    return texture(fmt::format("proxies/{}/{}/textures/{}", kind, name, png));
  };
  const int browTexture = partTexture("eyebrows", person.brows, person.brows + ".png"),
            lashTexture = partTexture("eyelashes", "Eyelashes01", "eyelashes01.png"),
            teethTexture = partTexture("teeth", "Teeth_Base", "teeth.png");
  const auto face = [&](const std::vector<Vec3>& shaped) {
    const auto card = [&](const char* kind, const std::string& name, Surface surface, int of) {
      return triangulated(subdivided(package.part(kind, name, shaped), 1), surface, of);
    };
    std::vector<MeshPart> parts;
    parts.push_back(headOf(package.body(shaped), skin.worn, skin.common, skin.texture));
    parts.push_back(card("eyebrows", person.brows, Surface::Brow, browTexture));
    parts.push_back(card("eyelashes", "Eyelashes01", Surface::Lash, lashTexture));
    parts.push_back(card("teeth", "Teeth_Base", Surface::Cloth, teethTexture));
    parts.back().garment = Garment::Teeth;
    return parts;
  };
  std::vector<MeshPart> neutral = face(v);
  s.ground = hairGround(body, package.unshaped());
  for (const Expression& e : expressions()) {
    if (e.shapes.empty()) continue;
    BodyRecipe saying = person.body;
    constexpr const char* kAncestries[] = {"african", "asian", "caucasian"};
    for (const auto& [unit, weight] : e.shapes)
      for (size_t r = 0; r < 3; ++r)
        saying.details[fmt::format("expression/units/{}/{}", kAncestries[r], unit)] += weight * person.body.ancestry[r];
    const std::vector<Vec3> shaped = package.shaped(saying);
    const std::vector<MeshPart> moved = face(shaped);
    const HairGround ground = hairGround(package.body(shaped), package.unshaped());
    s.ground.morphs.push_back(morphOf(e.id, s.ground, ground));
    for (size_t k = 0; k < neutral.size(); ++k) neutral[k].morphs.push_back(morphOf(e.id, neutral[k], moved[k]));
  }
  for (MeshPart& p : neutral) s.parts.push_back(std::move(p));
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
  const Vec3 hip = package.joint("upperleg01.L____head", v);
  const std::vector<float>& hands = package.hands();

  auto texture = [&](const std::string& below) {
    s.textures.push_back(readPng(package.file("public/data/" + below)));
    return int(s.textures.size()) - 1;
  };
  const int skinTexture = texture("skins/" + person.skinTexture);
  const float hem = hip.y - 0.35f;
  std::vector<bool> hand(body.face.size());
  float sole = 1e9f;
  for (size_t f = 0; f < hand.size(); ++f) {
    float share = 0;
    for (int i : body.face[f]) {
      share = std::max(share, hands[size_t(i)]);
    }
    hand[f] = share > 0.01f;
  }
  s.parts.push_back(triangulated(subdivided(keepFaces(body, hand), 1), Surface::Skin, skinTexture));
  MeshPart standingTrousers, seatedTrousers;
  const auto reliefOf = [&](const char* garment) {
    return texture(fmt::format("proxies/clothes/{0}/textures/{0}_normal.png", garment));
  };
  const int trousersRelief = reliefOf(kTrousersOf), shoesRelief = reliefOf("shoes01");
  for (const char* pose : {"standing", "seated"}) {
    const bool sits = std::string_view(pose) == "seated";
    const QuadMesh posedBody = sits ? package.body(package.sitting(v)) : body;
    MeshPart trousers = trousersOn(package, posedBody.position, v, hip.y);
    trousers.relief = trousersRelief;
    QuadMesh pair = package.part("clothes", "shoes01", posedBody.position);
    pair.headWeight.assign(pair.position.size(), 0);
    MeshPart shoes = triangulated(subdivided(pair, 1), Surface::Cloth, -1);
    if (!sits)
      for (Vec3 q : shoes.position) sole = std::min(sole, q.y);
    shoes.garment = Garment::Shoes;
    shoes.relief = shoesRelief;
    trousers.wear = shoes.wear = pose;
    (sits ? seatedTrousers : standingTrousers) = trousers;
    s.parts.push_back(std::move(trousers));
    s.parts.push_back(std::move(shoes));
  }

  // Garments, each with the skin that it leaves bare; the head is the same for all.
  const std::vector<Worn> all = wornOn(package, body);
  const std::vector<bool> common = shownByAll(body, all);
  for (const Worn& w : all) {
    std::vector<MeshPart> tops;
    if (w.outfit->garment.empty()) {
      tops.push_back(plainTop(package, body, hem));
    } else {
      tops = topOf(package, *w.outfit, v, hem, hip.y);
      if (!w.outfit->relief.empty())
        tops[0].relief = texture(fmt::format("proxies/clothes/{}/textures/{}", w.outfit->garment, w.outfit->relief));
      for (MeshPart& p : tops) p.relief = tops[0].relief;
    }
    s.parts.push_back(skinOf(body, w, tops, common, skinTexture));
    std::vector<MeshPart> apron;
    if (w.apron) apron = apronOver(tops[0], standingTrousers, seatedTrousers, eyeY, hip.y);
    for (std::vector<MeshPart>* some : {&tops, &apron})
      for (MeshPart& p : *some) {
        p.of = w.of;
        s.parts.push_back(std::move(p));
      }
  }

  addHats(s, package, v, texture);

  addEyes(s, package, v, texture(fmt::format("proxies/eyes/HighPolyEyes/textures/{}_eye.png", person.eyes)));

  addFace(s, package, person, v, body, {all.front(), common, skinTexture}, texture);
  s.hairStyle = person.hair;

  s.joints = package.joints(v);
  toLocalSpace(s, eyeY);
  s.hips = (hip.y - eyeY) * kMetresPerUnit;
  s.soles = (sole - eyeY) * kMetresPerUnit;
  addFields(s, findOutfit(person.outfit)->clothing().garment);
  return s;
}

}  // namespace easel::bake
