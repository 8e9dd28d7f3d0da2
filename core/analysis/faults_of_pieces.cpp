#include <algorithm>
#include <optional>

#include "analysis/fault_search.h"
#include "meter/point_meter.h"
#include "plan/lens.h"
#include "plan/subject.h"
#include "spoken/say.h"

namespace easel::rules {

namespace {

// Which way on the floor plan, as the camera's side sees it.
std::string wayOf(Vec3 d) {
  if (std::abs(d.x) > std::abs(d.z)) return d.x > 0 ? say("to the right") : say("to the left");
  return d.z > 0 ? say("towards the camera") : say("towards the backdrop");
}

// Luminance of a shade's cloth towards the lens for one lumen-second of the lamp in it [cd s/m^2]: the mean over what
// the lens sees of it.
double luminanceOfShade(const FaultSearch& c, const Source& lamp, int panel, Vec3* middle) {
  const Vec3 lens = c.view.camera.eye;
  constexpr std::uint32_t kPoints = 96;
  double light = 0, seen = 0;
  for (size_t k = 0; k < lamp.leaves().size(); ++k) {
    const Leaf& leaf = lamp.leaves()[k];
    if (leaf.panel != panel) continue;
    const Vec3 d = lens - leaf.centre;
    const double facing = double(dot(d, leaf.frame.n)) / double(length(d));
    if (facing < 0.15) continue;
    *middle = leaf.centre;
    seen += double(leaf.area()) * facing / double(dot(d, d));
    for (std::uint32_t i = 0; i < kPoints; ++i)
      light += double(luminance(lamp.sampleLeaf(&c.scene, lens, k, i, 0x5adeu).lux)) / kPoints;
  }
  return seen > 0 ? light / seen : 0;
}

// Whether light `i` throws the shadow of a lamp with its shade where the picture shows it.
void shadowOfLamp(FaultSearch& c, const Panel& shade, size_t i, const std::vector<std::optional<Emitter>>& emitters) {
  const Emitter& e = *emitters[i];
  const Frame f = frameOf(shade);
  const Vec3 middle = spotOf(shade).at - f.n * float(shade.width / 2), eye = c.view.camera.eye;
  // How many stops the shadow of that place of it is deep; 0: nobody sees it.
  const auto depthBehind = [&](Vec3 through, Vec3* at) {
    const Vec3 way = normalize(through - e.pose().centre);
    const auto hit = c.scene.intersect(through + way * float(shade.width * 0.7), way, 5, -1, Colours::None);
    if (!hit || ofSitter(hit->surface)) return 0.0;
    *at = hit->position + hit->facet * 2e-3f;
    if (!pixelOf(c.view, *at) || c.scene.occluded(*at, normalize(eye - *at), 1e-3f, length(eye - *at) * 0.99f, 3))
      return 0.0;
    double now = c.set.ambientExposure();
    for (size_t k = 0; k < emitters.size(); ++k)
      if (emitters[k]) now += c.energy[k] * directLux(&c.scene, *emitters[k], *at, hit->facet, Receptor::Flat, 8);
    const double without = now + c.energy[i] * (directLux(nullptr, e, *at, hit->facet, Receptor::Flat, 8) -
                                                directLux(&c.scene, e, *at, hit->facet, Receptor::Flat, 8));
    // Of what nobody sees in near-black nothing is found out.
    if (without * gainOf(c.set.camera) * 0.2 / kPi < 0.012) return 0.0;
    return stopsOf(without, std::max(now, 1e-3 * without));
  };
  int asked = 0;
  std::vector<Vec3> places;
  double deepest = 0;
  for (int x = -1; x <= 1; ++x)
    for (int y = -2; y <= 1; ++y) {  // over the shade, and down its foot
      Vec3 at;
      const double depth =
          depthBehind(middle + f.u * float(x * shade.width / 3) + f.v * float(y * shade.height / 3), &at);
      ++asked;
      if (depth <= kFoundOut) continue;
      deepest = std::max(deepest, depth);
      places.push_back(at);
    }
  const std::string& id = c.set.lights[i].light.id;
  if (places.size() * 4 >= size_t(asked))
    c.tell("found-out", lightSubject(id),
           say("{} casts a visible shadow of {}, {:.1f} stops deep: so the light is not the lamp's.", id, called(shade),
               deepest),
           places);
}

}  // namespace

// The pool of a light that is there for a table: on its mark, and off the nose.
void pools(FaultSearch& c) {
  for (size_t i = 0; i < c.set.lights.size(); ++i) {
    const Light& l = c.set.lights[i].light;
    const Panel* on = c.set.lights[i].burns() ? c.set.workedOn(c.set.lights[i]) : nullptr;
    if (!on || (shapeOf(on->kind) != PanelShape::Table && shapeOf(on->kind) != PanelShape::Block)) continue;
    const Emitter e = emitterOf(c.set, c.set.lights[i]);
    const PieceSpot mark = spotOf(*on);
    const Frame f = frameOf(*on);
    const auto lux = [&](Vec3 at) { return directLux(&c.scene, e, at, mark.looks, Receptor::Flat, 24); };
    const double there = lux(mark.at);
    double most = there;
    Vec3 brightest = mark.at;
    for (int x = -4; x <= 4; ++x)
      for (int z = -3; z <= 3; ++z) {
        const Vec3 at = mark.at + f.u * float(on->width * x / 9) + f.n * float(on->depth * z / 7);
        if (const double here = lux(at); here > most) {
          most = here;
          brightest = at;
        }
      }
    if (const double over = stopsOf(most, std::max(there, 1e-3 * most)); most > 0 && over > kPoolOff)
      c.tell("pool-off-mark", lightSubject(l.id),
             say("The pool of {} lies {} {} of the middle of {}, {:.1f} stops over what falls there.", l.id,
                 c.spelling.length(double(length(brightest - mark.at))), wayOf(brightest - mark.at), called(*on), over),
             {brightest});
    const MeterSpot* nose = c.place("face");
    if (!nose) continue;
    const Vec3 to = normalize(e.pose().centre - nose->position);
    const double face = c.energy[i] * directLux(&c.scene, e, nose->position, to, Receptor::Flat, 64);
    if (const double share = face / std::max(1e-9, c.answers().face.total()); share > kSpillOnNose)
      c.tell("table-spill", lightSubject(l.id),
             say("{} is there for {}, and {:.0f} % of the light on the nose is its own.", l.id, called(*on),
                 100 * std::min(1.0, share)),
             {nose->position});
  }
}

// A lamp in the picture: it must be seen to burn, and not as a hole; and whoever goes on with its light must not show
// that it is another.
void lampsInThePicture(FaultSearch& c) {
  std::vector<std::optional<Emitter>> emitters;
  for (const PlacedLight& l : c.set.lights)
    emitters.push_back(l.burns() ? std::optional(emitterOf(c.set, l)) : std::nullopt);
  for (size_t s = 0; s < c.set.panels.size(); ++s) {
    const Panel& shade = c.set.panels[s];
    if (!shade.on || shapeOf(shade.kind) != PanelShape::Shade) continue;
    const auto bulb = std::find_if(c.set.lights.begin(), c.set.lights.end(),
                                   [&](const PlacedLight& l) { return l.burns() && l.light.inside == shade.id; });
    if (bulb == c.set.lights.end()) continue;
    const auto b = size_t(bulb - c.set.lights.begin());
    Vec3 middle = bulb->pose.centre;
    if (!pixelOf(c.view, middle)) continue;
    const double value =
        luminanceOfShade(c, sourceOf(c.scene, c.set, *bulb), int(s), &middle) * c.energy[b] * gainOf(c.set.camera);
    const double over = stopsOf(value, 0.18);
    if (over > kLampBurnt)
      c.tell("lamp-burnt", lightSubject(bulb->light.id),
             say("{} comes out {:.1f} stops over mid grey: a white patch without texture.", calledFirst(shade), over),
             {middle});
    else if (over < kLampDim)
      c.tell("lamp-dim", lightSubject(bulb->light.id),
             over < 0 ? say("{} comes out {:.1f} stops under mid grey: it does not look switched on.",
                            calledFirst(shade), std::min(-over, 9.0))
                      : say("{} comes out {:.1f} stops over mid grey: it does not look switched on.",
                            calledFirst(shade), over),
             {middle});
    for (size_t i = 0; i < emitters.size(); ++i)
      if (i != b && emitters[i]) shadowOfLamp(c, shade, i, emitters);
  }
}

}  // namespace easel::rules
