#include "analysis/faults.h"

#include <algorithm>

#include "analysis/fault_book.h"
#include "analysis/fault_search.h"
#include "meter/point_meter.h"
#include "plan/plan.h"

namespace easel {

const std::vector<std::pair<std::string, std::string>>& faultKinds() {
  static const std::vector<std::pair<std::string, std::string>> all = [] {
    std::vector<std::pair<std::string, std::string>> kinds;
    for (const FaultRecord& record : faultBook()) kinds.emplace_back(record.id, record.title);
    return kinds;
  }();
  return all;
}

int FaceAnalysis::count() const {
  return int(std::count_if(faults.begin(), faults.end(), [](const Fault& f) { return !f.caution && !f.wanted; }));
}
const Fault* FaceAnalysis::fault(const std::string& id, const std::string& where) const {
  for (const Fault& f : faults)
    if (f.id == id && (where.empty() || f.where == where)) return &f;
  return nullptr;
}

namespace {

std::vector<double> energiesOf(const PlacedSet& set) {
  std::vector<double> out;
  for (const PlacedLight& l : set.lights) out.push_back(l.energy(set.camera));
  return out;
}

// Worst first; those that are wanted last.
void putInOrder(std::vector<Fault>& faults, const Plan& plan) {
  for (Fault& f : faults) f.wanted = std::find(plan.wanted.begin(), plan.wanted.end(), f.id) != plan.wanted.end();
  auto rank = [](const Fault& f) {
    size_t k = 0;
    while (k < faultKinds().size() && faultKinds()[k].first != f.id) ++k;
    return k + (f.caution ? 100 : 0) + (f.wanted ? 200 : 0);
  };
  std::stable_sort(faults.begin(), faults.end(), [&](const Fault& a, const Fault& b) { return rank(a) < rank(b); });
}

}  // namespace

rules::FaultSearch::FaultSearch(const ToRead& what, const Spelling& how)
    : of(what),
      scene(what.scene),
      set(what.set),
      view(what.view),
      spelling(how),
      energy(energiesOf(set)),
      fine([this] { return chartFace(scene, 0.0025f); }),
      coarse([this] { return chartFace(scene, 0.0035f); }),
      lighting([this] { return readLighting(scene, set, *fine()); }),
      measures([this] {
        return measurePicture(of.layers(), set, answers(), table(), of.quality, lighting(), *fine(), spelling);
      }),
      catchlights([this] { return readCatchlights(scene, set); }),
      lights([this] {
        std::vector<LightOnFace> all(set.lights.size());
        for (size_t i = 0; i < all.size(); ++i)
          if (burns(i)) all[i] = lightOnFace(scene, chart(), sourceOf(scene, set, set.lights[i]), 12);
        return all;
      }),
      from([this] {
        std::vector<FaceDirection> all(set.lights.size());
        for (size_t i = 0; i < all.size(); ++i)
          if (burns(i)) all[i] = directionFromFace(set, scene, set.lights[i].pose.centre);
        return all;
      }),
      bounced([this] {
        const Vec3 nose = scene.studioPoint(chart().features.noseTip + Vec3{0, 0, 0.01f}),
                   forward = normalize(scene.studioPoint({0, 0, 1}) - scene.studioPoint({0, 0, 0}));
        const auto bounces = bouncePoints(scene, nose, forward, Receptor::Flat, 128);
        double sum = 0;
        for (size_t i = 0; i < set.lights.size(); ++i)
          if (burns(i)) sum += energy[i] * bouncedLux(scene, sourceOf(scene, set, set.lights[i]), bounces);
        return sum;
      }) {}

int rules::FaultSearch::key() const {
  for (size_t i = 0; i < set.lights.size(); ++i)
    if (burns(i) && set.lights[i].light.id == lighting().key) return int(i);
  return -1;
}

FaceAnalysis readPicture(const ToRead& of, const Spelling& spelling) {
  rules::FaultSearch c(of, spelling);
  // Some rules find several faults.
  std::vector<void (*)(rules::FaultSearch&)> asked;
  for (const FaultRecord& record : faultBook())
    if (std::find(asked.begin(), asked.end(), record.find) == asked.end()) {
      asked.push_back(record.find);
      record.find(c);
    }
  putInOrder(c.out, of.plan);
  return {c.lighting(), c.measures(), c.catchlights(), std::move(c.out)};
}

FaceAnalysis readPicture(const Layers& layers, const PlacedSet& set, const Plan& plan, const Answers& answers,
                         const SpotTable& table, const std::vector<LightQuality>& quality, const Spelling& spelling) {
  return readPicture(
      {*layers.scene, set, plan, layers.view, [&]() -> const Layers& { return layers; },
       [&]() -> const Answers& { return answers; }, [&]() -> const SpotTable& { return table; }, quality},
      spelling);
}

std::vector<Fault> findFaults(const ToRead& of, const std::string& id, const Spelling& spelling) {
  rules::FaultSearch c(of, spelling);
  recordOf(id).find(c);
  std::erase_if(c.out, [&](const Fault& f) { return f.id != id; });
  putInOrder(c.out, of.plan);
  return std::move(c.out);
}

void rules::FaultSearch::tell(std::string id, std::string where, std::string sentence, std::vector<Vec3> places,
                              bool caution, std::string why) {
  const FaultRecord& record = recordOf(id);
  out.push_back({.id = std::move(id),
                 .title = record.title,
                 .where = std::move(where),
                 .sentence = std::move(sentence),
                 .why = why.empty() ? record.why : why,
                 .caution = caution,
                 .places = std::move(places)});
}

}  // namespace easel
