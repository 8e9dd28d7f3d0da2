#include "transport/figure.h"

#include <algorithm>
#include <cmath>

#include "data/by_id.h"
#include "sitters/colouring.h"
#include "sitters/face_hair.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "transport/cloth.h"
#include "transport/sampling.h"
#include "transport/shared.h"
#include "transport/skin.h"

namespace easel {
namespace {

// What the workshop's own things are coloured with: the black apron, trousers, shoes.
constexpr Vec3 kApron{0.030f, 0.030f, 0.032f}, kTrousers{0.085f, 0.082f, 0.080f}, kLeather{0.045f, 0.033f, 0.026f},
    kShirt{0.75f, 0.75f, 0.74f}, kTie{0.05f, 0.012f, 0.016f};

Vec3 hairTintOf(const SitterPlace& as, const Sitter* sitter) {
  if (const Colouring* hair = findHairColour(as.hairColour); hair && hair->id != "own") return hair->reflectance;
  return sitter ? sitter->hairTint : Vec3{0.2f, 0.15f, 0.1f};
}

Vec3 absorptionOf(const SitterPlace& as, const Sitter* sitter) {
  const Colouring* dyed = findHairColour(as.hairColour);
  const auto melanin = dyed && dyed->id != "own" ? dyed->melanin : personOf(as.id).melanin;
  return melanin ? Fibre::absorptionOf((*melanin)[0], (*melanin)[1]) : Fibre::absorptionOf(hairTintOf(as, sitter));
}

Vec3 ownColour(Garment g) {
  switch (g) {
    case Garment::Trousers:
      return kTrousers;
    case Garment::Shoes:
      return kLeather;
    case Garment::Shirt:
      return kShirt;
    case Garment::Tie:
      return kTie;
    default:
      return kApron;
  }
}
// Frames of glasses, teeth.
Cloth polished() {
  Cloth c;
  c.sheen = 0.045;
  c.roughness = 0.18;
  c.weave = 0;
  return c;
}
void dye(Geometry& g, const Cloth& cloth, Vec3 reflectance) {
  g.cloth = clothCode(cloth, luminance(reflectance));
  g.albedo = reflectance * givesOn(clothOf(g.cloth));
  g.weave = float(cloth.weave);
}

// Teeth are painted grey, gums dark: enamel is warmer and lighter (value from memory).
Vec3 enamelled(Vec3 painted) {
  const float grey = std::clamp(1 - 2.5f * (painted.x - painted.z) / std::max(0.02f, painted.x), 0.f, 1.f);
  return painted * lerp(Vec3{1.1f, 0.9f, 0.9f}, Vec3{1.5f, 1.38f, 1.12f}, grey);
}

float seatedSoles(const Sitter& s) {
  float lowest = 0;
  for (const MeshPart& p : s.parts)
    if (p.wear == "seated")
      for (Vec3 q : p.position) lowest = std::min(lowest, q.y);
  return lowest;
}

// The normal that a map of folds gives, in the frame that its uv span.
Vec3 inRelief(const Geometry& g, const std::uint32_t* i, float u, float v, Vec3 normal) {
  const Vec2 a = g.part->uv[i[0]], b = g.part->uv[i[1]], c = g.part->uv[i[2]];
  const float ub = b.x - a.x, vb = b.y - a.y, uc = c.x - a.x, vc = c.y - a.y, det = ub * vc - uc * vb;
  if (std::abs(det) < 1e-12f) return normal;
  const Vec3 pb = g.position[i[1]] - g.position[i[0]], pc = g.position[i[2]] - g.position[i[0]];
  Vec3 across = (pb * vc - pc * vb) / det, up = (pc * ub - pb * uc) / det;
  across = normalize(across - normal * dot(normal, across));
  up = normalize(up - normal * dot(normal, up));
  const float w = 1 - u - v;
  const Vec3 n = coded(*g.relief, {a.x * w + b.x * u + c.x * v, a.y * w + b.y * u + c.y * v});
  return normalize(across * n.x + up * n.y + normal * std::max(0.2f, n.z));
}

// The iris is a shallow bowl behind the cornea, which bends light towards its far side: that one is the brighter,
// across from the catchlight. What turns the normal of the ball there; depth and size by eye.
Vec3 bowlOfIris(const Eye& eye, Vec3 place) {
  constexpr float kSteep = 0.8f;
  const Vec3 d = place - eye.iris();
  const float x = dot(d, eye.frame.u) / kIris, y = dot(d, eye.frame.v) / kIris, r2 = x * x + y * y;
  if (r2 >= 1) return {};
  const float deep = kSteep * std::min(1.f, 4 * (1 - r2));  // none at its rim
  return eye.frame.u * (-x * deep) + eye.frame.v * (-y * deep);
}

}  // namespace

Posture postureOf(const SitterPlace& as, const Sitter& sitter) {
  const bool sits = seated(-double(sitter.soles), as.eyeHeight);
  return {sitter, {{as.turn, as.tilt, as.nod}, as.shoulders, as.lean, sits, poseOf(as.pose, sits)}};
}

Gazing gazeOf(const PlacedSet& set, const Sitter& sitter) {
  Gazing out;
  if (!set.lookedAt) return out;
  const Vec3 local = postureOf(set.sitter, sitter).head().back(*set.lookedAt - Vec3{0, float(set.sitter.eyeHeight), 0});
  bool aside = false;
  for (size_t k = 0; k < 2; ++k) {
    const EyeAim look = lookAt(sitter, k, local);
    out.gaze[k] = look.turn;
    out.reached &= look.aside && look.height;
    aside |= look.aside;
  }
  // In a profile nobody squints at the lens: past the corners of both eyes it is given up, unless it was asked for.
  const bool askedFor = set.sitter.gaze == kLooksAtLight || set.sitter.gaze == kLooksAtPoint;
  return aside || askedFor ? out : Gazing{};
}

Figure::Figure(const SitterPlace& as, std::shared_ptr<const Sitter> sitter, const Gaze& gaze)
    : sitter_(std::move(sitter)),
      hairTint_(hairTintOf(as, sitter_.get())),
      fibre_(absorptionOf(as, sitter_.get()), hairTint_) {
  if (sitter_) {
    static Shared<std::shared_ptr<const Sitter>, FineSkin> all(4e6);
    fine_ = all.get(sitter_, [&] { return std::make_shared<const FineSkin>(fineSkinOf(*sitter_)); });
    posture_.emplace(postureOf(as, *sitter_));
    head_ = posture_->head();
    addSitter(as, gaze);
  }
  traced_.commit();
  hatAlone_.commit();
}

// A plain wooden stool with its top at `height`.
void Figure::addStool(float height, const Motion& seat) {
  if (height < 0.1f) return;
  const Vec3 wood{0.16f, 0.105f, 0.065f};
  const float h = 0.17f, z = 0.02f, top = height, low = height - 0.04f, leg = 0.02f;
  auto quad = [&](Vec3 corner, Vec3 across, Vec3 up) {
    traced_.attach(quadOf(Surface::Floor, wood, 0.1f, seat(corner), seat.turn(across), seat.turn(up)));
  };
  auto box = [&](Vec3 a, Vec3 b) {
    quad({a.x, b.y, b.z}, {b.x - a.x, 0, 0}, {0, 0, a.z - b.z});  // top
    quad({a.x, a.y, b.z}, {b.x - a.x, 0, 0}, {0, b.y - a.y, 0});  // front
    quad({a.x, a.y, a.z}, {0, 0, b.z - a.z}, {0, b.y - a.y, 0});  // left
    quad({b.x, a.y, b.z}, {0, 0, a.z - b.z}, {0, b.y - a.y, 0});  // right
    quad({b.x, a.y, a.z}, {a.x - b.x, 0, 0}, {0, b.y - a.y, 0});  // back
  };
  box({-h, low, z - h}, {h, top, z + h});
  for (float sx : {-1.f, 1.f})
    for (float sz : {-1.f, 1.f}) {
      const float x = sx * (h - 2 * leg), d = z + sz * (h - 2 * leg);
      box({x - leg, 0, d - leg}, {x + leg, low, d + leg});
    }
}

void Figure::addSitter(const SitterPlace& as, const Gaze& gaze) {
  tintSkin(as);
  addBody(as);
  addEyes(as, gaze);
  addGlasses(as);
  addHat(as);
  addHair(as);
}

void Figure::tintSkin(const SitterPlace& as) {
  skinTint_ = sitter_->skinTint;
  const Vec3 own = sitter_->faceReflectance;
  if (const Colouring* skin = findSkinTone(as.skinTone); skin && skin->id != "own") {
    for (int c = 0; c < 3; ++c) skinTint_[c] *= skin->reflectance[c] / std::max(0.01f, own[c]);
  } else {
    // The textures are painted for the eye, up to a stop too light; a predicted picture wants the reflectance of
    // skin.
    for (const Person& s : sitterCatalogue())
      if (s.id == as.id) skinTint_ *= float(s.skin) / std::max(0.01f, luminance(own));
  }
  for (int c = 0; c < 3; ++c) faceHue_[c] = own[c] * skinTint_[c] / std::max(0.01f, sitter_->skinTint[c]);
  faceHue_ = faceHue_ / std::max(0.01f, luminance(faceHue_));
}

void Figure::addBody(const SitterPlace& as) {
  const bool sits = seated(-double(sitter_->soles), as.eyeHeight);
  // Legs are as long as the floor is far.
  Legs legs;
  const float risen = posture_->seat().shift.y;
  legs.from = sitter_->hips + risen - (sits ? 0.12f : 0.f);
  const float soles = (sits ? seatedSoles(*sitter_) : sitter_->soles) + risen;
  legs.length = std::clamp((float(as.eyeHeight) + legs.from) / (legs.from - soles), 0.6f, 1.4f);
  if (sits) {
    Motion seat = posture_->seat();
    seat.shift.y = 0;
    addStool(sitter_->hips + risen + float(as.eyeHeight) - 0.11f, seat);
  }
  const Person& person = personOf(as.id);
  const Outfit* outfit = byIdOrOwn(outfits(), as.outfit, person.outfit);
  const Clothing clothing = outfit ? outfit->clothing() : Clothing{"plain", false};
  static const Cloth plain;
  const auto clothOf = [&](const std::string& id) -> const Cloth& {
    const Cloth* c = byIdOrOwn(cloths(), id, person.cloth);
    return c ? *c : plain;
  };
  const Colouring* colour = byIdOrOwn(clothColours(), as.clothColour, person.clothColour);
  for (const MeshPart& p : sitter_->parts) {
    if (p.garment == Garment::Hat || !worn(*sitter_, p, clothing, as.eyeHeight)) continue;
    if (p.surface == Surface::Brow) continue;                                 // strands
    if (p.surface == Surface::Eye || p.surface == Surface::Cornea) continue;  // addEyes()
    auto g = posedPart(p, as, p.wear.empty() ? Legs{} : legs);
    g->texture = p.texture >= 0 ? &sitter_->textures[size_t(p.texture)] : nullptr;
    g->relief = p.relief >= 0 ? &sitter_->textures[size_t(p.relief)] : nullptr;
    if (fine_->of == &p) {
      g->wet = fine_->wet.data();
      g->thickness = fine_->thickness.data();
    }
    if (p.surface == Surface::Cloth && p.garment == Garment::Top)
      dye(*g, clothOf(as.cloth), colour ? colour->reflectance : Vec3{0.235f, 0.25f, 0.275f});
    else if (p.garment == Garment::Teeth)
      dye(*g, polished(), {1, 1, 1});
    else if (p.surface == Surface::Cloth)
      dye(*g, clothOf("cotton"), ownColour(p.garment));
    traced_.attach(std::move(g));
  }
}

void Figure::addEyes(const SitterPlace& as, const Gaze& gaze) {
  eyes_ = eyesOf(*sitter_, gaze);
  eyeMeshes_ = eyeMeshes(*sitter_, eyes_);
  if (eyeMeshes_.white.texture < 0) return;
  for (const MeshPart* p : {&eyeMeshes_.white, &eyeMeshes_.cornea}) {
    auto g = posedPart(*p, as, {});
    if (p->texture >= 0) g->texture = &sitter_->textures[size_t(p->texture)];
    traced_.attach(std::move(g));
  }
}

void Figure::addGlasses(const SitterPlace& as) {
  const GlassesFrame* frame = byIdOrOwn(glassesFrames(), as.glasses, personOf(as.id).glasses);
  if (!frame || frame->id == "none") return;
  glasses_ = std::make_unique<const Glasses>(fittedGlasses(*sitter_, *frame, as.templesUp));
  for (const MeshPart* p : {&glasses_->rims, &glasses_->panes}) {
    auto g = posedPart(*p, as, {});
    dye(*g, polished(), frame->reflectance);
    traced_.attach(std::move(g));
  }
}

void Figure::addHat(const SitterPlace& as) {
  const Hat* hat = findHat(as.hat);
  if (!hat || hat->garment.empty()) return;
  for (const MeshPart& p : sitter_->parts) {
    if (p.garment != Garment::Hat || p.of != hat->id) continue;
    hat_ = std::make_unique<const MeshPart>(tippedBack(p, *sitter_, as.hatBack));
    const Cloth* cloth = findCloth(hat->cloth);
    auto g = posedPart(*hat_, as, {});
    g->relief = p.relief >= 0 ? &sitter_->textures[size_t(p.relief)] : nullptr;
    dye(*g, cloth ? *cloth : Cloth{}, hat->reflectance);
    hatAlone_.attach(std::make_unique<Geometry>(*g));
    traced_.attach(std::move(g));
  }
}

bool Figure::hatBetween(Vec3 from, Vec3 to) const {
  const float far = length(to - from);
  return far > 0 && hatAlone_.occluded(rayOf(from, (to - from) / far, 1e-4f, far, 0));
}

void Figure::addHair(const SitterPlace& as) {
  auto hair = std::make_unique<Geometry>();
  hair->surface = Surface::Hair;
  hair->passes = fibre_.passes();
  std::optional<const Cover> cover;
  if (hat_) cover.emplace(*hat_, *sitter_);
  hair->strands = grown(*sitter_, hairStyleOf(as.hairStyle, sitter_->hairStyle), *posture_, cover ? &*cover : nullptr);
  const Beard* beard = byIdOrOwn(beards(), as.beard, personOf(as.id).beard);
  if (beard) addBeard(hair->strands, *sitter_, *beard, as.expression, *posture_);
  for (Strands::Point& p : hair->strands.points) p.at.y += float(as.eyeHeight);
  for (const MeshPart& p : sitter_->parts)
    if (p.surface == Surface::Brow) {
      const auto card = posedPart(p, as, {});
      addBrows(hair->strands, *sitter_, p, card->position, card->normal);
    }
  if (!hair->strands.segments.empty()) traced_.attach(std::move(hair));
}

std::unique_ptr<Geometry> Figure::posedPart(const MeshPart& p, const SitterPlace& as, const Legs& legs) const {
  const Vec3 up{0, float(as.eyeHeight), 0};
  auto g = std::make_unique<Geometry>();
  g->part = &p;
  g->surface = p.surface;
  g->position = p.position;
  g->normal = p.normal;
  express(p.morphs, as.expression, g->position, g->normal);
  posture_->place(p, g->position, g->normal);
  for (Vec3& q : g->position) {
    if (q.y < legs.from) q.y = legs.from + (q.y - legs.from) * legs.length;
    q += up;
  }
  return g;
}

Vec3 Figure::lensNormal(const Hit& hit, bool ofBack) const {
  const MeshPart& p = glasses_->panes;
  const size_t triangle = hit.ray.hit.primID;
  const Lens& lens = glasses_->lens[triangle < p.triangles.size() / 6 ? 0 : 1];
  const Vec3 at = restAt(p, hit.ray.hit.primID, hit.ray.hit.u, hit.ray.hit.v);
  return head_.turn(lens.normal(at, ofBack));
}

bool Figure::colour(SurfacePoint& s, const Hit& hit, bool fine) const {
  const Geometry& g = *hit.geometry;
  if (!g.strands.segments.empty()) {
    const std::uint32_t first = g.strands.segments[hit.ray.hit.primID];
    s.albedo = hairTint_ * g.strands.shade[first];
    for (int c = 0; c < 3; ++c) s.albedo[c] = std::min(s.albedo[c], 0.92f);
    return true;
  }
  if (!g.part) return false;
  const std::uint32_t triangle = hit.ray.hit.primID;
  const float u = hit.ray.hit.u, v = hit.ray.hit.v;
  switch (g.surface) {
    case Surface::Skin: {
      const Texel t = texelAt(*g.texture, uvAt(*g.part, triangle, u, v));
      s.albedo = t.colour * skinTint_;
      // The unposed place is what pores and blotches are fixed to.
      const Vec3 rest = restAt(*g.part, triangle, u, v);
      // Scalps are painted in hair colours: what hair leaves bare has the hue of the face.
      if (rest.y > 0.07f)
        s.albedo = lerp(s.albedo, faceHue_ * luminance(s.albedo), std::min(1.f, (rest.y - 0.07f) / 0.03f));
      s.albedo *= kSkinGivesOn;
      if (!fine) break;
      // Fine relief at the scale of pores: three offsets of the same noise give the slope.
      const float e = 0.0006f;
      const NoiseAt at[] = {{rest * 90.f, 3},
                            {rest * 900.f, 2},
                            {rest * 700.f, 2},
                            {(rest + Vec3{e, 0, 0}) * 700.f, 2},
                            {(rest + Vec3{0, e, 0}) * 700.f, 2},
                            {(rest + Vec3{0, 0, e}) * 700.f, 2}};
      float noise[6];
      fractalNoises(at, noise);
      const float blotch = noise[0], pore = noise[1];
      s.albedo *= 1 + 0.05f * blotch + 0.05f * pore;
      s.albedo.x *= 1 + 0.03f * blotch;
      float oil = oilAt(rest, sitter_->landmarks) * (1 + 0.4f * blotch);
      if (g.wet) {
        const std::uint32_t* i = &g.part->triangles[size_t(triangle) * 3];
        oil = std::max(oil, g.wet[i[0]] * (1 - u - v) + g.wet[i[1]] * u + g.wet[i[2]] * v);
      }
      s.cloth = std::uint32_t(oil * 255 + 0.5f);
      const Vec3 slope = Vec3{noise[3], noise[4], noise[5]} - Vec3{1, 1, 1} * noise[2];
      s.normal = normalize(s.normal - (slope - s.normal * dot(slope, s.normal)) * 0.16f);
      break;
    }
    case Surface::Eye: {
      s.albedo = texelAt(*g.texture, uvAt(*g.part, triangle, u, v)).colour;
      // The package's irises are too saturated; the white of a real eye is greyer than paper.
      const float y = luminance(s.albedo);
      s.albedo = lerp(s.albedo, {y, y, y}, 0.35f) * 0.75f;
      s.albedo.x = std::min(s.albedo.x, 1.7f * s.albedo.y);  // brown, not red
      const Vec3 rest = restAt(*g.part, triangle, u, v);
      s.normal = normalize(s.normal + head_.turn(bowlOfIris(eyes_[rest.x > 0 ? 0 : 1], rest)));
      break;
    }
    case Surface::Lash:
      s.albedo = {0.02f, 0.018f, 0.016f};
      break;
    case Surface::Cloth: {
      const Vec3 rest = restAt(*g.part, triangle, u, v);
      s.cloth = g.cloth;
      s.albedo = g.texture ? enamelled(texelAt(*g.texture, uvAt(*g.part, triangle, u, v)).colour) : g.albedo;
      if (!fine) break;
      if (g.relief) s.normal = inRelief(g, &g.part->triangles[size_t(triangle) * 3], u, v, s.normal);
      const NoiseAt at[] = {{{rest.x * 1400.f, rest.y * 500.f, 3.f}, 1}, {{rest.x * 400.f, rest.y * 1500.f, 9.f}, 1}};
      float noise[2];
      fractalNoises(at, noise);
      s.albedo *= 1 + g.weave * (noise[0] + noise[1]) / 2;
      break;
    }
    default:
      return false;
  }
  return true;
}

std::shared_ptr<const Figure> figureOf(const SitterPlace& as, const std::shared_ptr<const Sitter>& sitter,
                                       const Gaze& gaze) {
  static Shared<std::tuple<SitterPlace, std::shared_ptr<const Sitter>, Gaze>, Figure> all(3e8);
  // What is looked at is in the gaze already: of two plans that differ in words alone the eyes stand alike.
  SitterPlace key = as;
  key.gaze = key.gazeLight = {};
  key.gazeHour = key.gazeDistance = key.gazeHeight = 0;
  return all.get({key, sitter, gaze}, [&] { return std::make_shared<const Figure>(as, sitter, gaze); });
}

}  // namespace easel
