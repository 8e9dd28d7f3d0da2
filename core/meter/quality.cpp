#include "meter/quality.h"

#include <cmath>
#include <optional>

#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "plan/placement.h"
#include "spoken/say.h"
#include "transport/parallel.h"

namespace easel {
namespace {

// Light on the skin at a landmark as the modifier alone gives it: nothing stands between, the receptor looks at the
// modifier. That leaves distance and the modifier's own profile.
double freeLux(const Scene& scene, const Emitter& e, Vec3 local) {
  const Vec3 p = scene.studioPoint(local);
  return directLux(nullptr, e, p, normalize(e.pose().centre - p), Receptor::Flat, 256);
}

std::string stopsText(double s) { return say("{:.1f} stop{}", std::abs(s), std::abs(s) < 1.05 ? "" : "s"); }

}  // namespace

namespace {
struct Stretch {
  float from = 0.004f, far = 0.075f, step = 0.0005f;  // along the line, m
};
ShadowEdge followed(const Scene& scene, const Emitter& e, Vec3 tip, Vec3 forward, Vec3 along, Stretch on,
                    Stretch* edge) {
  ShadowEdge out;
  struct Place {
    float t;
    Vec3 position;
    double seen;
    bool faces;  // the skin looks at the light: what is dark there lies in a thrown shadow
  };
  std::vector<Place> places;
  for (float t = on.from; t < on.far; t += on.step) {
    const Vec3 target = tip + along * t;
    const auto hit = scene.meet(target + forward * 0.1f, -forward, 1);
    if (!hit || hit->surface != Surface::Skin) break;
    // Where the shadow falls deep (nostril, the far side of the head) the line has left the face.
    if (dot(target - hit->position, forward) > 0.07f) break;
    const Vec3 p = hit->position + hit->facet * 5e-4f;
    const double open = directLux(nullptr, e, p, hit->normal, Receptor::Flat, 128);
    // The flank of the nose that looks away from the light is dark by itself.
    places.push_back(
        {t, hit->position, open > 0 ? directLux(&scene, e, p, hit->normal, Receptor::Flat, 128) / open : 0, open > 0});
  }
  // Into the shadow first, then out of it.
  size_t darkest = 0;
  for (size_t i = 1; i < places.size(); ++i)
    if (places[i].faces && (!places[darkest].faces || places[i].seen < places[darkest].seen)) darkest = i;
  if (places.size() < 10 || places[darkest].seen > 0.5) return out;
  double way = 0;
  std::optional<double> at10, at90;
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

}  // namespace

ShadowEdge followShadow(const Scene& scene, const Emitter& e, Vec3 tip, Vec3 forward, Vec3 along, float far) {
  Stretch edge;
  const ShadowEdge found = followed(scene, e, tip, forward, along, {0.004f, far, 0.0005f}, &edge);
  // A hard edge lies between two steps: there it is looked at ten times as closely.
  if (found.kind != ShadowEdge::Kind::Edge || found.width > 2.5) return found;
  const ShadowEdge closely = followed(scene, e, tip, forward, along, edge, nullptr);
  return closely.kind == ShadowEdge::Kind::Edge ? closely : found;
}

ShadowEdge noseShadowEdge(const Scene& scene, const Plan& plan, const Light& light) {
  const Emitter e = emitterOf(plan, light);
  const Vec3 forward = beforeTheNose(scene).out, tip = scene.studioPoint(scene.sitter().landmarks.noseTip);
  const Vec3 to = normalize(e.pose().centre - tip);
  const Vec3 across = to - forward * dot(to, forward);
  ShadowEdge best;
  if (length(across) < 0.15f || dot(to, forward) < -0.2f) return best;  // from the lens, or from behind
  // A line that meets the edge aslant finds it too wide: of several the narrowest counts.
  for (float turn : {0.f, 20.f, -20.f, 40.f, -40.f}) {
    const ShadowEdge found =
        followShadow(scene, e, tip, forward, rotateAbout(-normalize(across), forward, radians(turn)));
    using K = ShadowEdge::Kind;
    const bool edge = found.kind == K::Edge;
    if (edge ? best.kind != K::Edge || found.width < best.width
             : best.kind != K::Edge && (best.kind == K::None || (best.kind == K::Merges && found.kind == K::Wider)))
      best = found;
  }
  return best;
}

std::vector<LightQuality> lightQualities(const Scene& scene, const Plan& plan, const Interrupt& interrupt) {
  std::vector<std::optional<LightQuality>> all(plan.lights.size());
  const Landmarks& marks = scene.sitter().landmarks;
  const Vec3 nose = beforeTheNose(scene).at;
  const Vec3 wall = onTheBackdrop(plan);
  inParallel(plan.lights.size(), [&](size_t i) {
    const Light& l = plan.lights[i];
    if (interrupt.raised() || !findUnit(l.unit) || !findModifier(l.modifier)) return;
    LightQuality q;
    q.light = l.id;
    const Source source = sourceOf(scene, plan, l);
    const Emitter& e = source.emitter();
    const Vec3 centre = e.pose().centre;
    const double distance = double(length(centre - nose));
    q.apparentSize = 2 * degrees(std::atan(e.extent() / 2 / std::max(0.01f, float(distance))));
    q.nose = noseShadowEdge(scene, plan, l);
    auto stops = [](double a, double b) { return a > 0 && b > 0 ? std::log2(a / b) : 0.0; };
    const double left = freeLux(scene, e, marks.cheekLeft), right = freeLux(scene, e, marks.cheekRight);
    q.cheekToCheek = std::abs(stops(left, right));
    q.foreheadToChin = stops(freeLux(scene, e, marks.forehead), freeLux(scene, e, marks.chin));
    const Vec3 towards = normalize(centre - nose);
    const double face = meteredLux(scene, source, nose, towards, Receptor::Flat, 256, 192);
    q.backdrop = stops(meteredLux(scene, source, wall, {0, 0, 1}, Receptor::Flat, 256, 192), face);
    const double boards = panelLux(scene, source, nose, towards, Receptor::Flat, 512);
    if (face > 0 && boards > 0) q.panels = -std::log2(std::max(1e-6, 1 - boards / face));

    using K = ShadowEdge::Kind;
    const Modifier front = frontOf(l);
    // Behind a scrim, or turned to a board: the modifier itself is not what the face sees.
    const bool byPanels = q.panels > 1.5;
    if (byPanels) {
      q.nose = {};
      q.cheekToCheek = q.foreheadToChin = 0;
      q.words.push_back(
          say("Its light comes to the face over the boards ({} of it): their size and nearness make it "
              "soft, the modifier only says how evenly it fills them.",
              stopsText(q.panels)));
    }
    const double w = q.nose.width;
    // A background light has its work behind the sitter: what it would do to the nose is nobody's question.
    const bool onBackdrop = l.role == Role::Background;
    if (!byPanels && !onBackdrop) {
      if (q.nose.kind == K::Edge)
        q.words.push_back(
            say("{}: the nose's shadow has an edge of {:.0f} mm. The front is {:.0f} degrees wide from the "
                "face; half as far away it would be about {:.0f} mm.",
                w < 4    ? "Hard"
                : w < 10 ? "Firm"
                : w < 20 ? "Soft"
                         : say("Very soft"),
                w, q.apparentSize, w * 2));
      else if (q.nose.kind == K::Wider)
        q.words.push_back(
            say("Very soft: the nose's shadow is never quite dark; its edge was followed for {:.0f} mm. "
                "Smaller or further away makes it firmer.",
                w));
      else if (q.nose.kind == K::Merges)
        q.words.push_back(
            say("The nose's shadow runs into the shadow side of the cheek. Nearer the camera it would close off."));
      else
        q.words.push_back(say("It throws no shadow of the nose on this side of the face."));
      if (distance < 2.5 * e.extent() && (q.cheekToCheek > 0.2 || std::abs(q.foreheadToChin) > 0.2))
        q.words.push_back(
            say("Near for its size, so it falls off quickly: {} from cheek to cheek, {} from forehead to "
                "chin. Twice as far away would halve that, and harden the edge.",
                stopsText(q.cheekToCheek), stopsText(q.foreheadToChin)));
      else
        q.words.push_back(say("Falls off by {} from cheek to cheek and {} from forehead to chin.",
                              stopsText(q.cheekToCheek), stopsText(q.foreheadToChin)));
    }
    if (onBackdrop) {
      const double facing = stops(face, meteredLux(scene, source, wall, {0, 0, 1}, Receptor::Flat, 256, 192));
      q.words.push_back(face <= 0 || facing < -6
                            ? std::string(say("It lights the backdrop and leaves the sitter alone."))
                            : say("It lights the backdrop; the face gets {} {} than that from it{}.", stopsText(facing),
                                  facing > 0 ? "more" : "less",
                                  facing > -3 ? say(": flag it or turn it away from the sitter") : ""));
    } else
      q.words.push_back(
          q.backdrop > -1.5
              ? say("Spills on the backdrop: {} {} the face there. Feather it, grid it, or move the sitter "
                    "forward.",
                    stopsText(q.backdrop), q.backdrop > 0 ? "over" : "under")
          : q.backdrop > -12 ? say("The backdrop gets {} less than the face.", stopsText(q.backdrop))
                             : std::string(say("Nothing of it comes to the backdrop behind the head.")));
    if (!byPanels && front.hotCentre > 0.9)
      q.words.push_back(say("Its middle is {} brighter than its edge: feathered, the even part works; {} evens it.",
                            stopsText(front.hotCentre),
                            front.innerDiffuser && !l.fittings.inner        ? say("the inner diffuser")
                            : front.takesDeflector && !l.fittings.deflector ? say("the deflector")
                                                                            : say("a sheet on the front")));
    else if (!byPanels)
      q.words.push_back(front.hotCentre < 0.05 ? say("Its front is even over its whole width.")
                                               : say("Its front is even to {}.", stopsText(front.hotCentre)));
    if (!byPanels && q.panels > 0.04) q.words.push_back(say("Boards add {} of it at the face.", stopsText(q.panels)));
    all[i] = std::move(q);
  });
  std::vector<LightQuality> out;
  for (auto& q : all)
    if (q) out.push_back(std::move(*q));
  return out;
}

}  // namespace easel
