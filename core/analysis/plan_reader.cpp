#include "analysis/plan_reader.h"

#include "analysis/late.h"
#include "balance/balance.h"

namespace easel {

PlanReader::PlanReader(int width, int height, int passes)
    : studio_(std::make_unique<ProgressiveRender>(width, height)), passes_(passes) {
  studio_->setOnlyLast(true);
}
PlanReader::~PlanReader() = default;

const Layers& PlanReader::layers() const { return studio_->layers(); }

struct PlanReader::Looked {
  std::shared_ptr<const PlacedSet> set;
  Late<Answers> answers;
  Late<SpotTable> table;
  ToRead toRead;
  Looked(ProgressiveRender& studio, const Plan& plan, int passes, const std::shared_ptr<const Scene>& scene)
      : set(studio.set()),
        answers([=, this] { return computeAnswers(*scene, *set); }),
        table([=, this] { return spotTable(*scene, *set); }),
        toRead{*scene,
               *set,
               plan,
               studio.view(),
               [&studio, passes]() -> const Layers& {
                 studio.finish(passes);
                 return studio.layers();
               },
               [this]() -> const Answers& { return answers(); },
               [this]() -> const SpotTable& { return table(); }} {}
  Looked(const Looked&) = delete;
  Looked& operator=(const Looked&) = delete;
};
PlanReader::Looked PlanReader::lookedAt(const Plan& plan) {
  studio_->setPlan(plan);
  studio_->refuseImpossible();
  return {*studio_, plan, passes_, studio_->scene()};
}

FaceAnalysis PlanReader::read(const Plan& plan) {
  studio_->setPlan(plan);
  // A search comes back to the plan that it has just read.
  if (last_ && last_->first == plan && studio_->layers().current) return last_->second;
  last_.reset();
  const Looked looked = lookedAt(plan);
  FaceAnalysis reading = readPicture(looked.toRead);
  answers_ = looked.answers();
  last_ = {plan, reading};
  return reading;
}

std::vector<Fault> PlanReader::faults(const Plan& plan, const std::string& id) {
  return findFaults(lookedAt(plan).toRead, id);
}

Answers PlanReader::meter(const Plan& plan) {
  studio_->setPlan(plan);
  return computeAnswers(*studio_->scene(), *studio_->set());
}

Plan PlanReader::balanced(const Plan& plan) {
  Plan out = plan;
  out.lights = balance(plan, meter(plan), BalanceBy::EachAlone).lights;
  return out;
}

Plan PlanReader::repowered(const Plan& plan, const Plan& before) {
  const Plan all = balanced(plan);
  Plan out = plan;
  for (Light& l : out.lights) {
    const Light* old = before.light(l.id);
    Light same = old ? *old : Light{};
    same.power = l.power;
    const bool exposureMoved = plan.sitter.turn != before.sitter.turn || plan.sitter.nod != before.sitter.nod ||
                               plan.camera.aperture != before.camera.aperture || plan.camera.iso != before.camera.iso;
    const bool wallMoved = l.role == Role::Background && plan.backdrop.distance != before.backdrop.distance;
    if (!old || exposureMoved || wallMoved || (!(same == l) && l.power == old->power)) l.power = all.light(l.id)->power;
  }
  return out;
}

}  // namespace easel
