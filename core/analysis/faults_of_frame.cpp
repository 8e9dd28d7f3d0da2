
#include <algorithm>
#include <array>
#include <cmath>

#include "analysis/fault_search.h"
#include "exposure/stops.h"
#include "gear/kit.h"
#include "meter/point_meter.h"
#include "picture/develop.h"
#include "plan/check.h"
#include "plan/lens.h"
#include "plan/placement.h"
#include "plan/subject.h"
#include "sitters/colouring.h"
#include "spoken/say.h"
#include "threads/parallel.h"
#include "transport/sampling.h"

namespace easel::rules {

static bool drawsOutline(Role r) { return r == Role::Hair || r == Role::Rim || r == Role::Kicker; }

void backdrop(FaultSearch& c) {
  const Measures& m = c.measures();
  if (!m.backdropShows) return;
  bool background = false;
  for (const PlacedLight& l : c.set.lights) background |= l.light.on && l.light.role == Role::Background;
  const Vec3 brightest{float(m.brightestAside), float(c.set.sitter.eyeHeight - m.brightestBelowEyes),
                       -float(c.set.backdrop.distance)};
  if (background && m.backdropGradient > 1.3 && std::abs(m.brightestBelowEyes) < 0.16 &&
      std::abs(m.brightestAside) < 0.30 && m.backdropLightness > 8)
    c.tell("halo", "backdrop",
           say("The backdrop is brightest round the head ({:.1f} stops over its darkest part).", m.backdropGradient),
           {brightest});
  const double rho = backdropLuminance(c.set.backdrop.material);
  if (background && rho > 0.6 && m.backdropLightness < 92)
    c.tell("grey-white", "backdrop",
           say("The white backdrop comes out {} (lightness {:.0f} of 100).", m.backdropTone, m.backdropLightness),
           {brightest});
  if (rho > 0.6 && c.answers().backdropValue > rho * std::exp2(2.15))
    c.tell("white-flares", "backdrop",
           say("The white backdrop gets {:.1f} stops over the camera's setting.",
               stopsFromRatio(c.answers().backdropValue / rho)),
           {brightest});
  if (!background && rho < 0.1 && m.backdropLightness > 14) {
    const LightAnswer* most = nullptr;
    double best = 0;
    for (const LightAnswer& a : c.answers().lights) {
      const PlacedLight* l = c.set.light(a.id);
      if (!l || !l->light.on) continue;
      const double there = a.onBackdrop.total();
      if (there > best) {
        best = there;
        most = &a;
      }
    }
    if (most)
      c.tell("spill", lightSubject(most->id),
             say("The black backdrop does not stay black (lightness {:.0f}): most of the light on it is {}'s.",
                 m.backdropLightness, most->id),
             {brightest});
  }
  for (const LightAnswer& a : c.answers().lights) {
    const PlacedLight* l = c.set.light(a.id);
    if (!l || !l->light.on || !drawsOutline(l->light.role)) continue;
    const double there = a.onBackdrop.total();
    if (there > 0.4 * c.answers().backdrop.total() && m.backdropLightness > 25) {
      c.tell("spill", lightSubject(a.id),
             say("{:.0f} % of the light on the backdrop is {}'s, which is there for the outline.",
                 100 * there / c.answers().backdrop.total(), a.id),
             {brightest}, false, say("Spill lights what should stay dark, and changes whenever the light is moved."));
      break;
    }
  }
  if (m.hairMerged > 0.35 && !m.outline.empty()) {
    c.tell("merged-outline", "backdrop",
           say("{:.0f} % of the head's outline has the backdrop's tone, or both are black.", 100 * m.hairMerged));
  }
}

// A light, its stand or a panel within the picture; and lamps that shine into the lens.
void frame(FaultSearch& c) {
  const Vec3 lens = c.view.camera.eye;
  auto shows = [&](Vec3 p) {
    if (!pixelOf(c.view, p)) return false;
    const Vec3 d = p - lens;
    const float far = length(d);
    const auto hit = c.scene.intersect(lens, d / far, 1, 0.5f, Colours::None);
    return !hit || hit->distance > far - 0.03f;
  };
  for (size_t i = 0; i < c.set.lights.size(); ++i) {
    const PlacedLight& placed = c.set.lights[i];
    const Light& l = placed.light;
    if (!placed.lamp || placed.onLens) continue;
    const Emitter e = emitterOf(c.set, placed);
    const LightPose& pose = placed.pose;
    const Modifier& m = placed.lamp->modifier;
    const float hw = float(m.width) / 2, hh = float(m.height > 0 ? m.height : m.width) / 2;
    std::vector<Vec3> seen;
    int lampPoints = 0;
    for (float u : {-0.95f, -0.5f, 0.f, 0.5f, 0.95f})
      for (float v : {-0.95f, -0.5f, 0.f, 0.5f, 0.95f}) {
        const Vec3 p = pose.centre + pose.frame.u * (u * hw) + pose.frame.v * (v * hh);
        if (shows(p)) {
          seen.push_back(p);
          ++lampPoints;
        }
      }
    // Over the sitter's head a light hangs from a boom that comes from outside.
    const bool boom = showsNoStand(l, pose, c.set.sitter);
    int standPoints = 0;
    if (!boom)
      for (float y = 0.05f; y < float(l.height) - hh; y += 0.08f)
        if (const Vec3 p{pose.centre.x, y, pose.centre.z}; shows(p)) {
          seen.push_back(p);
          ++standPoints;
        }
    // The bulb of a prop is there to be seen, and stands in its prop.
    if (lampPoints + standPoints > 0 && l.modifier != "lamp-6") {
      c.tell("in-frame", lightSubject(l.id),
             !lampPoints       ? say("The stand of {} stands in the picture, a corner of it.", l.id)
             : lampPoints > 12 ? say("{} stands in the picture, most of it.", l.id)
                               : say("{} stands in the picture, a corner of it.", l.id),
             seen);
    }
    // Shining into the lens: from behind the sitter, with nothing between.
    if (!l.on || pose.centre.z > 0) continue;
    const double atLens = c.energy[i] * directLux(&c.scene, e, lens, normalize(pose.centre - lens), Receptor::Flat, 32);
    const double over = stopsOf(atLens, c.answers().face.total());
    if (over > kIntoLens)
      c.tell("flare", lightSubject(l.id),
             over >= 0 ? say("{} shines into the lens, {:.1f} stops over the light on the face.", l.id, over)
                       : say("{} shines into the lens, {:.1f} stops under the light on the face.", l.id, -over),
             {pose.centre});
  }
}

namespace {

// Light of a lamp that the sitter keeps off a place of the backdrop: what a wall, a board or gear keeps off is no
// shadow of theirs.
double keptBySitter(const Scene& scene, const Emitter& e, Vec3 at) {
  constexpr std::uint32_t kPoints = 6;
  double kept = 0;
  for (std::uint32_t i = 0; i < kPoints; ++i) {
    const Emitter::Point p = e.sample(at, sobol2(i, 0x5e1fu));
    if (p.geometry <= 0 || p.direction.z <= 0) continue;
    const auto hit = scene.intersect(at, p.direction, i, -1, Colours::None);
    if (hit && hit->distance < p.distance && ofSitter(hit->surface))
      kept += double(p.geometry * p.direction.z) / kPoints;
  }
  return kept;
}

}  // namespace

// What stands behind the sitter, or is there for the backdrop: it fills the shadows that the others throw on it.
static bool fromBehind(const PlacedLight& l) { return l.light.role == Role::Background || l.pose.centre.z <= -0.1f; }

void shadowOnBackdrop(FaultSearch& c) {
  if (!c.measures().backdropShows || !c.onFace()) return;
  const float z = -float(c.set.backdrop.distance) + 3e-3f;
  struct Cell {
    Vec3 p;
    double now = 0, without = 0;
    std::vector<double> missing;
  };
  std::vector<Cell> cells;
  for (int y = 1; y < 20; ++y)
    for (int x = 1; x < 16; ++x) {
      const auto hit = bareAt(c.scene, c.view, c.view.width * x / 16.0, c.view.height * y / 20.0);
      if (hit && hit->surface == Surface::Backdrop) cells.push_back({{hit->position.x, hit->position.y, z}, 0, 0, {}});
    }
  if (cells.size() < 10) return;
  std::vector<std::pair<size_t, Emitter>> emitters;
  for (size_t i = 0; i < c.set.lights.size(); ++i) {
    const PlacedLight& l = c.set.lights[i];
    if (l.burns() && !fromBehind(l)) emitters.emplace_back(i, emitterOf(c.set, l));
  }
  std::vector<Emitter> behind;
  std::vector<double> behindEnergy;
  for (size_t i = 0; i < c.set.lights.size(); ++i) {
    const PlacedLight& l = c.set.lights[i];
    if (!l.burns() || !fromBehind(l)) continue;
    behind.push_back(emitterOf(c.set, l));
    behindEnergy.push_back(c.energy[i]);
  }
  // What the room sends back fills the shadow: much the same all over it, so it is asked for once.
  double bounced = 0;
  const Vec3 middle = cells[cells.size() / 2].p;
  for (const auto& [i, e] : emitters)
    bounced += c.energy[i] *
               bouncedLux(c.scene, sourceOf(c.scene, c.set, c.set.lights[i]), middle, {0, 0, 1}, Receptor::Flat, 96);
  inParallel(cells.size(), [&](size_t k) {
    Cell& cell = cells[k];
    double sum = c.set.ambientExposure() + bounced;
    for (size_t b = 0; b < behind.size(); ++b)
      sum += behindEnergy[b] * directLux(&c.scene, behind[b], cell.p, {0, 0, 1}, Receptor::Flat, 4);
    double open = 0, come = 0;
    for (const auto& [i, e] : emitters) {
      const double a = c.energy[i] * directLux(&c.scene, e, cell.p, {0, 0, 1}, Receptor::Flat, 6),
                   o = c.scene.hasPanels() ? a + c.energy[i] * keptBySitter(c.scene, e, cell.p)
                                           : c.energy[i] * directLux(nullptr, e, cell.p, {0, 0, 1}, Receptor::Flat, 6);
      open += o;
      come += a;
      cell.missing.push_back(o - a);
    }
    cell.now = sum + come;
    cell.without = sum + open;
  });
  const double rho = backdropLuminance(c.set.backdrop.material) / kPi * gainOf(c.set.camera);
  int shadowed = 0;
  double deepest = 0;
  std::vector<Vec3> places;
  std::vector<double> missing(emitters.size(), 0);
  for (const Cell& cell : cells) {
    const double depth = stopsOf(cell.without, cell.now);
    // In near-black nobody sees it.
    if (depth < kShadowOnBackdrop || rho * cell.without < 0.012) continue;
    ++shadowed;
    deepest = std::max(deepest, depth);
    places.push_back(cell.p);
    for (size_t e = 0; e < missing.size(); ++e) missing[e] += cell.missing[e];
  }
  if (shadowed < int(cells.size()) / 25 + 1 || emitters.empty()) return;
  const size_t most = size_t(std::max_element(missing.begin(), missing.end()) - missing.begin());
  const std::string id = c.set.lights[emitters[most].first].light.id;
  c.tell("shadow-on-backdrop", lightSubject(id),
         say("The sitter's shadow from {} lies on the backdrop, up to {:.1f} stops deep over {:.0f} % of what "
             "shows of it.",
             id, deepest, 100.0 * shadowed / double(cells.size())),
         places, false,
         say("A shadow on the wall distracts like a second figure. From {} away it falls out of sight.",
             c.spelling.length(1.5)));
}

}  // namespace easel::rules
