#include "bake_sitter.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "formats/picture_file.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "subdivide.h"

namespace easel::bake {
namespace {

constexpr float kMetresPerUnit = 0.1f;

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
  MeshPart sheet;
  sheet.surface = Surface::Cloth;
  sheet.garment = Garment::Apron;
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
      sheet.position.push_back({x, waist + (knee - waist) * t, z});
      sheet.uv.push_back({x * kMetresPerUnit, (waist + (knee - waist) * t) * kMetresPerUnit});
    }
  sheet.headWeight.assign(sheet.position.size(), 0);
  sheet.normal.assign(sheet.position.size(), {});
  for (int j = 0; j < kDown; ++j)
    for (int i = 0; i < kAcross; ++i) {
      const auto a = std::uint32_t(j * (kAcross + 1) + i), b = a + 1, c = a + kAcross + 1, d = c + 1;
      for (std::uint32_t k : {a, c, b, b, c, d}) sheet.triangles.push_back(k);
      const Vec3 n = cross(sheet.position[c] - sheet.position[a], sheet.position[b] - sheet.position[a]);
      for (std::uint32_t k : {a, b, c, d}) sheet.normal[k] += n;
    }
  for (Vec3& n : sheet.normal) n = normalize(n);
  return sheet;
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
  const Vec3 neck = package.joint("neck01____head", v);

  auto texture = [&](const std::string& below) {
    s.textures.push_back(readPng(package.file("public/data/" + below)));
    return int(s.textures.size()) - 1;
  };
  // Skin: what shows above the collar.
  std::vector<bool> shown(body.face.size());
  for (size_t f = 0; f < shown.size(); ++f) {
    float highest = -1e9f, out = 0;
    for (int i : body.face[f]) {
      highest = std::max(highest, aboveNeckline(v[size_t(i)], neck));
      out = std::max(out, std::abs(v[size_t(i)].x));
    }
    // 4.5 mm of skin go on below the collar; out on the shoulder and down the arm nothing does.
    shown[f] = highest > (out < 1.05f ? -0.45f : 0.1f) && highest > -0.45f && (out < 1.5f);
  }
  s.parts.push_back(
      triangulated(subdivided(keepFaces(body, shown), 2), Surface::Skin, texture("skins/" + person.skinTexture)));
  const Vec3 hip = package.joint("upperleg01.L____head", v), ankle = package.joint("foot.L____head", v);
  const std::vector<float>&arms = package.arms(), &hands = package.hands();
  s.parts.push_back(plainTop(body, neck, hip.y - 0.35f, arms, hands, package.joint("wrist.L____head", v),
                             package.joint("wrist.R____head", v)));
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
  s.parts.push_back(triangulated(subdivided(keepFaces(body, hand), 1), Surface::Skin, s.parts[0].texture));
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
    if (!sits) {
      MeshPart skirt = apronSkirt({&trousers, &s.parts[1]}, hip.y + 1.1f, hip.y - 4.2f);
      skirt.wear = pose;
      s.parts.push_back(std::move(skirt));
    }
    s.parts.push_back(std::move(trousers));
    s.parts.push_back(std::move(shoes));
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
  const std::pair<const char*, const char*> styles[] = {
      {"short", "short04"}, {"cropped", "short01"}, {"tied", "ponytail01"}, {"long", "long01"}};
  for (const auto& [style, model] : styles) {
    card("hair", model, std::string(model) + "_diffuse.png", Surface::Hair);
    s.parts.back().wear = style;
  }

  // Into local space: metres, eye level, plane of symmetry, axis of the neck.
  const Vec3 origin{0, eyeY, s.landmarks.neckPivot.z};
  auto local = [&](Vec3 p) { return (p - origin) * kMetresPerUnit; };
  for (MeshPart& p : s.parts) {
    for (Vec3& q : p.position) q = local(q);
    if (p.surface == Surface::Cloth)
      for (Vec2& t : p.uv) t.y -= eyeY * kMetresPerUnit;
  }
  s.hips = local(hip).y;
  s.soles = local({0, sole, 0}).y;
  Landmarks& l = s.landmarks;
  for (Vec3* p :
       {&l.eyeLeft, &l.eyeRight, &l.noseTip, &l.chin, &l.forehead, &l.crown, &l.cheekLeft, &l.cheekRight, &l.neckPivot})
    *p = local(*p);
  return s;
}

}  // namespace easel::bake
