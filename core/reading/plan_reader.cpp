#include "reading/plan_reader.h"

#include "balance/balance.h"

namespace easel {

PlanReader::PlanReader(int width, int height, int passes)
    : studio_(std::make_unique<Studio>(width, height)), passes_(passes) {
  studio_->setOnlyLast(true);
}
PlanReader::~PlanReader() = default;

const Layers& PlanReader::layers() const { return studio_->layers(); }

FaceReading PlanReader::read(const Plan& plan) {
  studio_->setPlan(plan);
  studio_->finish(passes_);
  answers_ = computeAnswers(*studio_->scene(), plan);
  const SpotTable table = spotTable(*studio_->scene(), plan);
  return readPicture(studio_->layers(), plan, answers_, table);
}

Answers PlanReader::meter(const Plan& plan) {
  studio_->setPlan(plan);
  return computeAnswers(*studio_->scene(), plan);
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
