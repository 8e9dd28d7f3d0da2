#include "run/run.h"

#include <algorithm>
#include <cmath>

#include "exposure/meter.h"
#include "exposure/stops.h"
#include "plan/lamp.h"
#include "spoken/say.h"

namespace easel {
namespace {

double stopsBetween(double fNumber, double than) {
  return fNumber > 0 && than > 0 ? aperturesApart(fNumber, than) : kNoLight;
}

std::string whereToHold(MeteredAt where) {
  return where == MeteredAt::Backdrop ? say("At the backdrop, behind the head")
         : where == MeteredAt::Hair   ? say("Over the crown")
         : where == MeteredAt::Edge   ? say("Beside the head, on the light's side")
                                      : say("Close to the face, before the nose");
}

}  // namespace

std::vector<RunStep> runOrder(const std::vector<Light>& lights) {
  std::vector<RunStep> out;
  RunStep step;
  step.kind = RunStep::Kind::AllOff;
  out.push_back(step);
  std::vector<const Light*> order;
  for (const Light& l : lights)
    if (burns(l)) order.push_back(&l);
  std::stable_partition(order.begin(), order.end(), [](const Light* l) { return l->role == Role::Key; });
  for (const Light* l : order) {
    step = {};
    step.light = l->id;
    step.power = l->power;
    out.push_back(step);
    if (l != order.front() || l->role != Role::Key) continue;
    step.kind = RunStep::Kind::Picture;
    out.push_back(step);
  }
  step = {};
  step.kind = RunStep::Kind::Together;
  if (order.size() > 1) out.push_back(step);
  return out;
}

std::vector<RunStep> runSteps(const Scene& scene, const PlacedSet& set, const Answers& answers) {
  std::vector<RunStep> out;
  const HeldMeter camera = heldAsCameraIsSet(scene, set);
  std::vector<Light> lights;
  for (const PlacedLight& l : set.lights) lights.push_back(l.light);
  for (RunStep& s : runOrder(lights)) {
    if (s.light.empty()) {
      s.meter = camera;
      s.expected = s.kind == RunStep::Kind::Together ? answers.aperture
                                                     : apertureForExposure(answers.ambient.total(), set.camera.iso,
                                                                           calibrationConstant(set.receptor));
    } else {
      const LightAnswer* a = answers.light(s.light);
      const PlacedLight& l = *set.light(s.light);
      if (!a || a->aperture <= 0) continue;  // what gives nothing where it should work is a fault, and said in Read
      s.meter = worksIn(scene, set, l);
      s.expected = a->aperture;
      s.fromTarget = a->stopsFromWorking - l.light.targetStops;
    }
    out.push_back(std::move(s));
  }
  return out;
}

std::string whereToHold(const HeldMeter& meter) {
  if (!meter.hold.on.empty()) return say("The meter {}.", describe(meter.hold));
  return say("{}; {}.", whereToHold(meter.where), describe(meter.hold));
}

std::string settingOf(const RunStep& s, const Plan& plan, const Spelling& spelling) {
  const Light* l = plan.light(s.light);
  const Unit* unit = l ? findUnit(l->unit) : nullptr;
  return unit ? spelling.power(unit->scale, s.power) : std::string();
}

std::string describe(const RunStep& s, const Plan& plan, const Spelling& spelling) {
  const std::string meter = whereToHold(s.meter);
  const std::string reads =
      stopsBetween(s.expected, plan.camera.aperture) > -12 ? spelling.aperture(s.expected) : say("nothing");
  switch (s.kind) {
    case RunStep::Kind::AllOff:
      return say("All flashes off. {} The room alone gives {}; a picture now should be as dark as it is wanted.", meter,
                 reads);
    case RunStep::Kind::Alone:
      return say("{} alone, set to {}. {} It should read {}.", s.light, settingOf(s, plan, spelling), meter, reads);
    case RunStep::Kind::Picture:
      return say("Take a picture with {} alone: is its direction right? Put it beside the predicted one.", s.light);
    case RunStep::Kind::Together:
      return say("Everything on. {} It should read {}. Set the camera.", meter, reads);
  }
  return {};
}

std::vector<Unsettled> unsettledBy(const std::vector<RunStep>& before, const std::vector<RunStep>& after,
                                   double least) {
  std::vector<Unsettled> out;
  for (size_t i = 0; i < before.size(); ++i) {
    const RunStep& then = before[i];
    const auto now = std::find_if(after.begin(), after.end(),
                                  [&](const RunStep& s) { return s.kind == then.kind && s.light == then.light; });
    const double stops = now == after.end() ? kNoLight : stopsBetween(now->expected, then.expected);
    // What neither shows on a meter has not moved.
    if (then.expected < 0.5 && (now == after.end() || now->expected < 0.5)) continue;
    if (std::abs(stops) > least) out.push_back({i, stops});
  }
  return out;
}

}  // namespace easel
