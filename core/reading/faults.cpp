#include "reading/faults.h"

#include <algorithm>

#include "gear/kit.h"
#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "reading/fault_search.h"

namespace easel {

const std::vector<std::pair<std::string, std::string>>& faultKinds() {
  static const std::vector<std::pair<std::string, std::string>> all = {
      {"touches-sitter", "Too near the sitter"},
      {"ceiling", "Through the ceiling"},
      {"floor", "Through the floor"},
      {"outside-room", "Outside the room"},
      {"behind-backdrop", "Behind the backdrop"},
      {"stands-collide", "Two stands in one place"},
      {"sync", "Shutter over sync"},
      {"out-of-reach", "Power out of reach"},
      {"fill-over-key", "Fill over key"},
      {"from-below", "Light from below"},
      {"deep-sockets", "Deep eye sockets"},
      {"dead-eyes", "No catchlight"},
      {"two-nose-shadows", "Two nose shadows"},
      {"burnt", "Burnt-out skin"},
      {"meter-in-shadow", "Meter in a shadow"},
      {"in-frame", "In the picture"},
      {"panel-in-frame", "Panel before the lens"},
      {"flare", "Lamp into the lens"},
      {"hot-spot", "Hot spot beside the face"},
      {"on-the-nose", "Back light on the nose"},
      {"shadow-on-backdrop", "Shadow on the backdrop"},
      {"halo", "Halo round the head"},
      {"grey-white", "Grey white"},
      {"white-flares", "White that flares"},
      {"spill", "Spill on the backdrop"},
      {"merged-outline", "Head merges with backdrop"},
      {"uneven-fill", "Uneven fill"},
      {"stray-catchlight", "Stray catchlight"},
      {"ambient", "Room light in the picture"},
      {"boom", "Boom over the sitter"},
  };
  return all;
}

int FaceReading::count() const {
  return int(std::count_if(faults.begin(), faults.end(), [](const Fault& f) { return !f.caution && !f.wanted; }));
}
const Fault* FaceReading::fault(const std::string& id, const std::string& where) const {
  for (const Fault& f : faults)
    if (f.id == id && (where.empty() || f.where == where)) return &f;
  return nullptr;
}

FaceReading readPicture(const Layers& layers, const Plan& plan, const Answers& answers, const SpotTable& table,
                        const std::vector<LightQuality>& quality, const Spelling& spelling) {
  FaceReading r;
  const Scene& scene = *layers.scene;
  const FaceChart fine = chartFace(scene, 0.0025f);
  r.lighting = readLighting(scene, plan, fine);
  r.measures = measurePicture(layers, plan, table, quality, r.lighting, fine, spelling);
  r.catchlights = readCatchlights(scene, plan);
  const FaceChart coarse = chartFace(scene, 0.0035f);
  rules::FaultSearch c{layers, scene, plan, answers, table, r, coarse, spelling, {}, {}, 0, {}, -1, {}};
  c.lights.resize(plan.lights.size());
  const Vec3 nose = scene.studioPoint(coarse.features.noseTip + Vec3{0, 0, 0.01f}),
             forward = normalize(scene.studioPoint({0, 0, 1}) - scene.studioPoint({0, 0, 0}));
  const auto bounces = bouncePoints(scene, nose, forward, Receptor::Flat, 128);
  for (size_t i = 0; i < plan.lights.size(); ++i) {
    const Light& l = plan.lights[i];
    const bool known = findUnit(l.unit) && findModifier(l.modifier);
    c.energy.push_back(known ? lampEnergy(l, plan.camera.shutter) : 0);
    c.from.push_back({});
    if (!known || !l.on) continue;
    const Source source = sourceOf(plan, l);
    c.from.back() = directionFromFace(plan, scene, source.emitter().pose().centre);
    c.lights[i] = lightOnFace(scene, coarse, source, 12);
    c.bounced += c.energy[i] * bouncedLux(scene, source, bounces);
    if (l.id == r.lighting.key) c.key = int(i);
  }
  rules::fromCheck(c);
  rules::collisions(c);
  rules::exposure(c);
  rules::fills(c);
  rules::fromBelow(c);
  rules::sockets(c);
  rules::eyes(c);
  rules::noseShadows(c);
  rules::frame(c);
  rules::hotSpots(c);
  rules::onTheNose(c);
  rules::shadowOnBackdrop(c);
  rules::backdrop(c);
  r.faults = std::move(c.out);
  auto rank = [](const Fault& f) {
    size_t k = 0;
    while (k < faultKinds().size() && faultKinds()[k].first != f.id) ++k;
    return k + (f.caution ? 100 : 0) + (f.wanted ? 200 : 0);
  };
  for (Fault& f : r.faults) f.wanted = std::find(plan.wanted.begin(), plan.wanted.end(), f.id) != plan.wanted.end();
  std::stable_sort(r.faults.begin(), r.faults.end(), [&](const Fault& a, const Fault& b) { return rank(a) < rank(b); });
  return r;
}

}  // namespace easel
