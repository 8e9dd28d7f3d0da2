#include "meter/quality.h"

#include <cmath>
#include <optional>

#include "exposure/stops.h"
#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "plan/pose.h"
#include "spoken/say.h"
#include "threads/parallel.h"

namespace easel {

double seenAngle(double across, double distance) {
  return 2 * std::atan(across / 2 / std::max(0.01, distance)) * 180 / kPi;
}
double seenAngle(const Modifier& front, double distance) {
  return seenAngle(double(Emitter(front, LightPose{}).extent()), distance);
}
namespace {

// Light on the skin at a landmark as the modifier alone gives it: nothing stands between, the receptor looks at the
// modifier. That leaves distance and the modifier's own profile.
double freeLux(const Scene& scene, const Emitter& e, Vec3 local) {
  const Vec3 p = scene.studioPoint(local);
  return directLux(nullptr, e, p, normalize(e.pose().centre - p), Receptor::Flat, 256);
}

std::string firmnessText(ShadowEdge::Firmness f) {
  using F = ShadowEdge::Firmness;
  return f == F::Hard ? say("Hard") : f == F::Firm ? say("Firm") : f == F::Soft ? say("Soft") : say("Very soft");
}

std::string stopsText(double s) { return sayMany(std::abs(s), "{:.1f} stop", "{:.1f} stops", std::abs(s)); }

struct Middle {
  Vec3 at, normal;  // where half of the light is seen
  Vec3 line;        // along the skin, from dark to light
};
struct Stretch {
  float from = 0.004f, far = 0.075f, step = 0.0005f;  // along the line, m
};
ShadowEdge followed(const Scene& scene, const Emitter& e, Vec3 tip, Vec3 forward, Vec3 along, Stretch on, Stretch* edge,
                    Middle* middle) {
  ShadowEdge out;
  struct Place {
    float t;
    Vec3 position, normal;
    double seen;
    bool faces;  // the skin looks at the light: what is dark there lies in a thrown shadow
  };
  std::vector<Place> places;
  for (float t = on.from; t < on.far; t += on.step) {
    const Vec3 target = tip + along * t;
    const auto hit = scene.intersect(target + forward * 0.1f, -forward, 1);
    if (!hit || hit->surface != Surface::Skin) break;
    // Where the shadow falls deep (nostril, the far side of the head) the line has left the face.
    if (dot(target - hit->position, forward) > 0.07f) break;
    const Vec3 p = hit->position + hit->facet * 5e-4f;
    const double open = directLux(nullptr, e, p, hit->normal, Receptor::Flat, 128);
    // The flank of the nose that looks away from the light is dark by itself.
    places.push_back({t, hit->position, hit->normal,
                      open > 0 ? directLux(&scene, e, p, hit->normal, Receptor::Flat, 128) / open : 0, open > 0});
  }
  // Into the shadow first, then out of it.
  size_t darkest = 0;
  for (size_t i = 1; i < places.size(); ++i)
    if (places[i].faces && (!places[darkest].faces || places[i].seen < places[darkest].seen)) darkest = i;
  if (places.size() < 10 || places[darkest].seen > 0.5) return out;
  double way = 0;
  std::optional<double> at10, at90;
  bool half = false;
  // From the last dark place on: the darkest may lie in the middle of the core.
  size_t from = darkest;
  for (size_t i = darkest; i < places.size(); ++i)
    if (places[i].seen <= std::max(0.1, places[darkest].seen + 1e-9))
      from = i;
    else if (places[i].seen > 0.9)
      break;
  for (size_t i = from; i < places.size(); ++i) {
    // The edge of the nose itself or of the cheek, where the skin turns away, is no thrown edge.
    if (!places[i].faces || (i > from && length(places[i].position - places[i - 1].position) > 0.004f)) {
      out.kind = ShadowEdge::Kind::Merges;
      return out;
    }
    const double step = i > from ? double(length(places[i].position - places[i - 1].position)) : 0;
    way += step;
    // Where between the last place and this one the share is reached.
    auto crossed = [&](double share) {
      const double rise = i > from ? places[i].seen - places[i - 1].seen : 0;
      return rise > 1e-6 ? way - step * (places[i].seen - share) / rise : way;
    };
    if (!at10 && places[i].seen > 0.1) at10 = crossed(0.1);
    if (!half && places[i].seen > 0.5 && i > 0) {
      half = true;
      *middle = {places[i].position, places[i].normal, normalize(places[i].position - places[i - 1].position)};
    }
    if (places[i].seen >= 0.9) {
      at90 = crossed(0.9);
      if (edge) *edge = {places[from].t - 0.0015f, places[i].t + 0.0015f, 0.0001f};
      break;
    }
  }
  if (at90 && places[darkest].seen <= 0.1) {
    out.kind = ShadowEdge::Kind::Edge;
    out.width = 1000 * std::max(0.0, *at90 - at10.value_or(0));
  } else if (at90) {
    out.kind = ShadowEdge::Kind::Wider;
    out.width = 1000 * *at90;
  } else {
    out.kind = places.back().seen < 0.1 ? ShadowEdge::Kind::Merges : ShadowEdge::Kind::Wider;
    out.width = 1000 * way;
  }
  return out;
}

ShadowEdge::Firmness byWidth(double mm) {
  using F = ShadowEdge::Firmness;
  return mm < 4 ? F::Hard : mm < 10 ? F::Firm : mm < 20 ? F::Soft : F::VerySoft;
}
constexpr float kTenToNinety = 0.75f;  // of the width of a front: 0.8 of a rectangle, 0.69 of a disc
// Of the edge that a front of that angle throws over 30 mm.
ShadowEdge::Firmness firmnessOf(double angle) {
  return byWidth(double(kTenToNinety) * 30 * 2 * std::tan(angle / 2 * kPi / 180));
}

// How far the front reaches across: twice its support along a direction square to the way of the light [m].
float widthAlong(const Emitter& e, Vec3 direction) {
  float most = 0, least = 0;
  constexpr std::uint32_t n = 256;
  for (std::uint32_t i = 0; i < n; ++i) {
    const float at = dot(e.onFront(sobol2(i, 5)) - e.pose().centre, direction);
    most = std::max(most, at);
    least = std::min(least, at);
  }
  // Points chosen evenly stop a little short of the rim.
  return (most - least) * 1.02f;
}

// What throws the edge, which way it runs, and what similar triangles make of it.
void explain(const Scene& scene, const Emitter& e, const Middle& middle, Vec3 forward, ShadowEdge& edge) {
  const Vec3 n = middle.normal, p = middle.at + n * 5e-4f;
  const auto seen = [&](Vec3 at) {
    // Back onto the skin, which is not flat.
    const auto hit = scene.intersect(at + n * 0.01f, -n, 0.03f);
    if (!hit || hit->surface != Surface::Skin) return -1.0;
    const Vec3 q = hit->position + hit->facet * 5e-4f;
    const double open = directLux(nullptr, e, q, hit->normal, Receptor::Flat, 256);
    return open > 0 ? directLux(&scene, e, q, hit->normal, Receptor::Flat, 256) / open : -1.0;
  };
  const Vec3 line = normalize(middle.line - n * dot(middle.line, n)), side = cross(n, line);
  const float step = float(std::clamp(edge.width / 4000, 0.0004, 0.004));
  const double forth = seen(p + line * step), back = seen(p - line * step), left = seen(p + side * step),
               right = seen(p - side * step);
  if (forth < 0 || back < 0 || left < 0 || right < 0 || !(forth > back)) return;
  const Vec3 rising = normalize(line * float(forth - back) + side * float(left - right));
  const double aslant = std::abs(double(dot(rising, line)));
  if (aslant < 0.5) return;  // along the edge rather than across it
  edge.width *= aslant;
  const Vec3 up{0, 1, 0}, level = normalize(cross(up, forward)), runs = cross(n, rising);
  edge.lean = degrees(std::atan2(std::abs(dot(runs, level)), std::abs(dot(runs, up))));
  // From a little before the middle of the shadow the middle of the light is hidden.
  const float inside = float(std::max(0.0006, edge.width / 4000));
  const Vec3 q = p - rising * inside, to = e.pose().centre - q;
  const float distance = length(to);
  const Vec3 ray = to / distance;
  const auto blocked = scene.intersect(q, ray, distance * 0.999f);
  if (!blocked) return;
  const float h = length(blocked->position - q);
  edge.thrown = 1000 * h;
  // Across the edge as the light sees it, and on the skin, which it meets aslant.
  const Vec3 square = cross(runs, ray);
  if (length(square) < 1e-3f) return;
  const Vec3 acrossRay = normalize(square), alongRay = cross(ray, acrossRay);
  const float wide = widthAlong(e, acrossRay), tall = widthAlong(e, alongRay);
  edge.across = seenAngle(wide, distance);
  edge.along = seenAngle(tall, distance);
  const float lies = std::abs(dot(acrossRay, rising));  // of a length on the skin, what the light sees
  // Where light only grazes, the skin is curved too much for one triangle.
  if (lies > 0.35f) edge.expected = 1000 * double(kTenToNinety * wide * h / (distance - h) / lies);
}

}  // namespace

ShadowEdge::Firmness ShadowEdge::firmness() const { return byWidth(thrown > 5 ? width / thrown * 30 : width); }

ShadowEdge followShadow(const Scene& scene, const Emitter& e, Vec3 tip, Vec3 forward, Vec3 along, float far) {
  Stretch edge;
  Middle middle;
  ShadowEdge found = followed(scene, e, tip, forward, along, {0.004f, far, 0.0005f}, &edge, &middle);
  if (found.kind != ShadowEdge::Kind::Edge) return found;
  // A hard edge lies between two steps: there it is looked at ten times as closely.
  if (found.width <= 2.5) {
    Middle near = middle;
    const ShadowEdge closely = followed(scene, e, tip, forward, along, edge, nullptr, &near);
    if (closely.kind == ShadowEdge::Kind::Edge) {
      found = closely;
      middle = near;
    }
  }
  explain(scene, e, middle, forward, found);
  return found;
}

ShadowEdge noseShadowEdge(const Scene& scene, const PlacedSet& set, const PlacedLight& light) {
  const Emitter e = emitterOf(set, light);
  const Vec3 forward = beforeTheNose(scene).out, tip = scene.studioPoint(scene.sitter().landmarks.noseTip);
  const Vec3 to = normalize(e.pose().centre - tip);
  const Vec3 across = to - forward * dot(to, forward);
  ShadowEdge best;
  if (length(across) < 0.15f || dot(to, forward) < -0.2f) return best;  // from the lens, or from behind
  // Of several the one that is thrown furthest: where nose and skin touch, every light draws a line.
  for (float turn : {0.f, 20.f, -20.f, 40.f, -40.f}) {
    const ShadowEdge found =
        followShadow(scene, e, tip, forward, rotateAbout(-normalize(across), forward, radians(turn)));
    using K = ShadowEdge::Kind;
    const bool edge = found.kind == K::Edge;
    if (edge ? best.kind != K::Edge || found.thrown > best.thrown
             : best.kind != K::Edge && (best.kind == K::None || (best.kind == K::Merges && found.kind == K::Wider)))
      best = found;
  }
  return best;
}

namespace {
std::string edgeInWords(const LightQuality& q) {
  const ShadowEdge& e = q.nose;
  // Where nobody knows what throws it, the front's own size says more than the width of a line on the skin.
  if (e.thrown <= 0)
    return say("{}: the front fills {:.0f} degrees seen from the face. The nose's shadow has an edge of {:.0f} mm.",
               firmnessText(firmnessOf(std::min(q.wide, q.tall))), q.apparentSize, e.width);
  const std::string runs = e.lean < 30 ? say("upright") : e.lean > 60 ? say("level") : say("slanting");
  return say(
      "{}: the {} edge of the nose's shadow, {:.0f} mm from what casts it, is {:.0f} mm wide. Across that edge the "
      "front fills {:.0f} degrees; at half the distance the edge would be about {:.0f} mm.",
      firmnessText(e.firmness()), runs, e.thrown, e.width, e.across, e.width * 2);
}

// What the nose's shadow and the fall-off over the face say.
void tellFace(LightQuality& q, double distance, double extent) {
  using K = ShadowEdge::Kind;
  if (q.nose.kind == K::Edge)
    q.words.push_back(edgeInWords(q));
  else if (q.nose.kind == K::Wider)
    q.words.push_back(
        say("Very soft: the nose's shadow is never quite dark; its edge was followed for {:.0f} mm. "
            "Smaller or further away makes it firmer.",
            q.nose.width));
  else if (q.nose.kind == K::Merges)
    q.words.push_back(
        say("The nose's shadow runs into the shadow side of the cheek. Nearer the camera it would close off."));
  else
    q.words.push_back(say("It casts no shadow of the nose on this side of the face."));
  // Twice as wide one way as the other: it has two qualities.
  if (q.nose.kind == K::Edge && std::max(q.wide, q.tall) > 1.6 * std::min(q.wide, q.tall))
    q.words.push_back(say("Edges that stand upright see {:.0f} degrees of it ({}), level ones {:.0f} ({}).", q.wide,
                          firmnessText(firmnessOf(q.wide)), q.tall, firmnessText(firmnessOf(q.tall))));
  if (distance < 2.5 * extent && (q.cheekToCheek > 0.2 || std::abs(q.foreheadToChin) > 0.2))
    q.words.push_back(
        say("Near for its size, so it falls off quickly: {} from cheek to cheek, {} from forehead to "
            "chin. Twice as far away would halve that, and harden the edge.",
            stopsText(q.cheekToCheek), stopsText(q.foreheadToChin)));
  else
    q.words.push_back(say("Falls off by {} from cheek to cheek and {} from forehead to chin.",
                          stopsText(q.cheekToCheek), stopsText(q.foreheadToChin)));
}

// How much of it comes to the backdrop, or, of a background light, to the face.
void tellBackdrop(LightQuality& q, bool onBackdrop, double facing, bool reachesFace) {
  const auto face = [&] {
    if (!reachesFace || facing < -6) return say("It lights the backdrop and nothing of the sitter.");
    if (facing > 0)
      return say(
          "It lights the backdrop; the face gets {} more than that from it: flag it or turn it away from the "
          "sitter.",
          stopsText(facing));
    return facing > -3
               ? say("It lights the backdrop; the face gets {} less than that from it: flag it or turn it away from "
                     "the sitter.",
                     stopsText(facing))
               : say("It lights the backdrop; the face gets {} less than that from it.", stopsText(facing));
  };
  const auto backdrop = [&] {
    if (q.backdrop > -1.5)
      return q.backdrop > 0 ? say("Spills on the backdrop: {} over the face there. Feather it, grid it, or move the "
                                  "sitter forward.",
                                  stopsText(q.backdrop))
                            : say("Spills on the backdrop: {} under the face there. Feather it, grid it, or move the "
                                  "sitter forward.",
                                  stopsText(q.backdrop));
    return q.backdrop > -12 ? say("The backdrop gets {} less than the face.", stopsText(q.backdrop))
                            : say("None of its light reaches the backdrop behind the head.");
  };
  q.words.push_back(onBackdrop ? face() : backdrop());
}

void tellFront(LightQuality& q, const Modifier& front, const Fittings& fittings) {
  if (front.hotCentre > 0.9)
    q.words.push_back(
        front.innerDiffuser && !fittings.inner ? say("Its middle is {} brighter than its edge: feathered, the even "
                                                     "part works; the inner diffuser evens it.",
                                                     stopsText(front.hotCentre))
        : front.takesDeflector && !fittings.deflector
            ? say("Its middle is {} brighter than its edge: feathered, the even part works; the deflector evens it.",
                  stopsText(front.hotCentre))
            : say("Its middle is {} brighter than its edge: feathered, the even part works; a sheet on the front evens "
                  "it.",
                  stopsText(front.hotCentre)));
  else
    q.words.push_back(front.hotCentre < 0.05 ? say("Its front is even over its whole width.")
                                             : say("Its front is even to {}.", stopsText(front.hotCentre)));
  if (q.panels > 0.04) q.words.push_back(say("Boards add {} of its light at the face.", stopsText(q.panels)));
  if (!front.source.empty())
    q.words.push_back(
        front.profile
            ? say("Its beam was measured ({}).", front.source)
            : say("Its beam is a typical one. For your own head use a photometry file: Kit, Measured profile."));
}

}  // namespace

std::vector<LightQuality> lightQualities(const Scene& scene, const PlacedSet& set, const Interrupt& interrupt) {
  std::vector<std::optional<LightQuality>> all(set.lights.size());
  const Landmarks& marks = scene.sitter().landmarks;
  const Vec3 nose = beforeTheNose(scene).at;
  const std::array<Vec3, 2> wall = besideTheHead(set);
  inParallel(set.lights.size(), [&](size_t i) {
    const PlacedLight& l = set.lights[i];
    if (interrupt.raised() || !l.lamp) return;
    LightQuality q;
    q.light = l.light.id;
    const Source source = sourceOf(scene, set, l);
    const Emitter& e = source.emitter();
    const Vec3 centre = e.pose().centre;
    const double distance = double(length(centre - nose));
    q.apparentSize = seenAngle(double(e.extent()), distance);
    const Vec3 away = normalize(centre - nose), aside = cross({0, 1, 0}, away),
               level = length(aside) > 1e-3f ? normalize(aside) : Vec3{1, 0, 0};
    q.wide = seenAngle(double(widthAlong(e, level)), distance);
    q.tall = seenAngle(double(widthAlong(e, cross(away, level))), distance);
    q.nose = noseShadowEdge(scene, set, l);
    const double left = freeLux(scene, e, marks.cheekLeft), right = freeLux(scene, e, marks.cheekRight);
    q.cheekToCheek = std::abs(stopsOver(left, right));
    q.foreheadToChin = stopsOver(freeLux(scene, e, marks.forehead), freeLux(scene, e, scene.sitter().chinFront));
    const double face = meteredLux(scene, source, nose, away, Receptor::Flat, 256, 192);
    double onBackdropLux = 0;
    for (const Vec3& at : wall) onBackdropLux += meteredLux(scene, source, at, {0, 0, 1}, Receptor::Flat, 256, 192) / 2;
    q.backdrop = stopsOver(onBackdropLux, face);
    const double boards = panelLux(scene, source, nose, away, Receptor::Flat, 512);
    if (face > 0 && boards > 0) q.panels = -stopsFromRatio(std::max(1e-6, 1 - boards / face));

    // Behind a scrim, or turned to a board: the modifier itself is not what the face sees.
    const bool byPanels = q.panels > 1.5;
    if (byPanels) {
      q.nose = {};
      q.cheekToCheek = q.foreheadToChin = 0;
      q.words.push_back(
          say("Its light reaches the face by way of the boards ({} of it): their size and distance make it soft; the "
              "modifier only decides how evenly it fills them.",
              stopsText(q.panels)));
    }
    // A background light has its work behind the sitter: what it would do to the nose is nobody's question.
    const bool onBackdrop = l.light.role == Role::Background;
    if (!byPanels && !onBackdrop) tellFace(q, distance, double(e.extent()));
    tellBackdrop(q, onBackdrop, stopsOver(face, onBackdropLux), face > 0);
    if (!byPanels) tellFront(q, l.lamp->front, l.light.fittings);
    all[i] = std::move(q);
  });
  std::vector<LightQuality> out;
  for (auto& q : all)
    if (q) out.push_back(std::move(*q));
  return out;
}

}  // namespace easel
