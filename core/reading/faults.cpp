#include "reading/faults.h"

#include <algorithm>

#include "gear/kit.h"
#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "reading/fault_book.h"
#include "reading/fault_search.h"

namespace easel {

const std::vector<std::pair<std::string, std::string>>& faultKinds() {
  static const std::vector<std::pair<std::string, std::string>> all = [] {
    std::vector<std::pair<std::string, std::string>> kinds;
    for (const FaultRecord& record : faultBook()) kinds.emplace_back(record.id, record.title);
    return kinds;
  }();
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
  const auto fine = chartFace(scene, 0.0025f);
  r.lighting = readLighting(scene, plan, *fine);
  r.measures = measurePicture(layers, plan, answers, table, quality, r.lighting, *fine, spelling);
  r.catchlights = readCatchlights(scene, plan);
  const auto coarse = chartFace(scene, 0.0035f);
  rules::FaultSearch c{layers, scene, plan, answers, table, r, *coarse, spelling, {}, {}, 0, {}, -1, {}};
  c.lights.resize(plan.lights.size());
  const Vec3 nose = scene.studioPoint(coarse->features.noseTip + Vec3{0, 0, 0.01f}),
             forward = normalize(scene.studioPoint({0, 0, 1}) - scene.studioPoint({0, 0, 0}));
  const auto bounces = bouncePoints(scene, nose, forward, Receptor::Flat, 128);
  for (size_t i = 0; i < plan.lights.size(); ++i) {
    const Light& l = plan.lights[i];
    const bool known = findUnit(l.unit) && findModifier(l.modifier);
    c.energy.push_back(known ? lampEnergy(l, plan.camera) : 0);
    c.from.push_back({});
    if (!known || !l.on) continue;
    const Source source = sourceOf(scene, plan, l);
    c.from.back() = directionFromFace(plan, scene, source.emitter().pose().centre);
    c.lights[i] = lightOnFace(scene, *coarse, source, 12);
    c.bounced += c.energy[i] * bouncedLux(scene, source, bounces);
    if (l.id == r.lighting.key) c.key = int(i);
  }
  // Some rules find several faults.
  std::vector<void (*)(rules::FaultSearch&)> asked;
  for (const FaultRecord& record : faultBook())
    if (std::find(asked.begin(), asked.end(), record.find) == asked.end()) {
      asked.push_back(record.find);
      record.find(c);
    }
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

void rules::FaultSearch::tell(std::string id, std::string where, std::string sentence, std::vector<Vec3> places,
                              bool caution, std::string why) {
  const FaultRecord& record = recordOf(id);
  out.push_back({.id = std::move(id),
                 .title = record.title,
                 .where = std::move(where),
                 .sentence = std::move(sentence),
                 .why = why.empty() ? record.why : std::move(why),
                 .caution = caution,
                 .places = std::move(places)});
}

}  // namespace easel
