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
  return fNumber > 0 && than > 0 ? 2 * std::log2(fNumber / than) : kNoLight;
}

RunStep stepOf(const Light& l, const LightAnswer& a) {
  RunStep s;
  s.light = l.id;
  s.spot = a.spot;
  s.hold = a.hold;
  s.power = l.power;
  if (const Unit* u = findUnit(l.unit)) s.setting = u->scale.write(l.power);
  s.expected = a.aperture;
  s.fromTarget = a.stopsFromWorking - l.targetStops;
  return s;
}

std::string placeOf(const std::string& spot) {
  return spot == "backdrop" ? say("at the backdrop behind the head")
         : spot == "hair"   ? say("over the crown")
         : spot == "edge"   ? say("beside the head, on the light's side")
                            : say("close to the face, before the nose");
}

}  // namespace

std::vector<RunStep> runSteps(const Plan& plan, const Answers& answers) {
  std::vector<RunStep> out;
  RunStep off;
  off.kind = RunStep::Kind::AllOff;
  off.spot = "face";
  off.hold = answers.hold;
  const double faceC = calibrationConstant(plan.receptor);
  off.expected = apertureForExposure(answers.ambient.total(), plan.camera.iso, faceC);
  out.push_back(off);
  std::vector<const Light*> order;
  for (const Light& l : plan.lights)
    if (const LightAnswer* a = answers.light(l.id); l.on && a && a->aperture > 0) order.push_back(&l);
  std::stable_partition(order.begin(), order.end(), [](const Light* l) { return l->role == Role::Key; });
  bool pictured = false;
  for (const Light* l : order) {
    out.push_back(stepOf(*l, *answers.light(l->id)));
    if (pictured || l->role != Role::Key) continue;
    RunStep picture = out.back();
    picture.kind = RunStep::Kind::Picture;
    out.push_back(picture);
    pictured = true;
  }
  if (order.size() > 1) {
    RunStep all;
    all.kind = RunStep::Kind::Together;
    all.spot = "face";
    all.hold = answers.hold;
    all.expected = answers.aperture;
    out.push_back(all);
  }
  return out;
}

std::string describe(const RunStep& s, const Plan& plan, const Spelling& spelling) {
  const std::string meter = say("Hold the meter {}, {}.", placeOf(s.spot), describe(s.hold));
  const std::string reads =
      stopsBetween(s.expected, plan.camera.aperture) > -12 ? spelling.aperture(s.expected) : say("nothing");
  switch (s.kind) {
    case RunStep::Kind::AllOff:
      return say("All flashes off. {} The room alone gives {}; a picture now should be as dark as it is wanted.", meter,
                 reads);
    case RunStep::Kind::Alone:
      return say("{} alone, set to {}. {} It should read {}.", s.light, s.setting, meter, reads);
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
