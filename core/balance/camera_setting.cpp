#include "balance/camera_setting.h"

#include <cmath>

#include "exposure/aperture.h"
#include "exposure/stops.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::string thirds(double n) { return writeAperture(n, ApertureStyle::Thirds); }
double inThirds(double stops) { return std::round(stops * 3) / 3; }

}  // namespace

std::vector<CameraSetting> cameraSettings(const Plan& plan, const Answers& a, const Spelling& spelling) {
  const auto reads = [&](double n) { return spelling.aperture(n); };
  const LightAnswer* key = keyAnswer(plan.lights, a);
  if (!key || a.aperture <= 0) return {};
  const double working = plan.camera.aperture;
  const double sumOverKey = aperturesApart(a.aperture, key->aperture);
  const double close = inThirds(aperturesApart(a.aperture, working));
  const double over = aperturesApart(a.aperture, working);
  const double keyOver = aperturesApart(key->aperture, working);
  CameraSetting k{CameraSchool::KeyOnly, say("Key only"), key->aperture, 0, {}, false};
  k.sentence = sayMany(sumOverKey, "{} alone reads {}: set {}. Everything on adds {} stop at the face.",
                       "{} alone reads {}: set {}. Everything on adds {} stops at the face.", key->id,
                       reads(key->aperture), thirds(key->aperture), spelling.amount(sumOverKey));
  k.standing = std::abs(keyOver) < 0.17 && plan.camera.closedBy == 0 && over > 0.1;
  CameraSetting e{CameraSchool::EverythingOn, say("Everything on"), working * std::exp2(close / 2), 0, {}, false};
  const double under = close - keyOver;
  const std::string all = say("All together read {} (meter {}): set {}.", reads(a.aperture), describe(a.hold),
                              thirds(e.aperture)),
                    amount = spelling.amount(under);
  e.sentence = all + " " +
               (std::abs(under) < 0.05 ? say("The key alone reads that too.")
                : under > 0            ? sayMany(under, "The key itself then lies {} stop under.",
                                                 "The key itself then lies {} stops under.", amount)
                                       : sayMany(-under, "The key itself then lies {} stop over.",
                                                 "The key itself then lies {} stops over.", amount));
  e.standing = std::abs(plan.camera.closedBy - close) < 0.1 && close != 0;
  CameraSetting l{CameraSchool::LowerAll, say("Lower all"), working, std::max(0.0, over), {}, false};
  l.sentence = over > 0.05 ? sayMany(over, "Stay at {} and take {} stop off every light: everything on then reads {}.",
                                     "Stay at {} and take {} stops off every light: everything on then reads {}.",
                                     thirds(working), spelling.amount(over), thirds(working))
                           : say("Everything on reads {}, which is not over {}: nothing to take off.",
                                 reads(a.aperture), thirds(working));
  l.standing = std::abs(over) <= 0.1 && plan.camera.closedBy == 0;
  return {k, e, l};
}

Plan withCameraSetting(const Plan& plan, const Answers& a, CameraSchool school) {
  Plan out = plan;
  for (const CameraSetting& s : cameraSettings(plan, a)) {
    if (s.school != school) continue;
    out.camera.closedBy = 0;
    if (school == CameraSchool::KeyOnly) {
      // Within a third the engraved stop is the key's; beyond, the lens follows the key.
      const double off = aperturesApart(s.aperture, plan.camera.aperture);
      if (std::abs(off) > 0.17) out.camera.aperture = plan.camera.aperture * std::exp2(inThirds(off) / 2);
    } else if (school == CameraSchool::EverythingOn) {
      out.camera.closedBy = aperturesApart(s.aperture, plan.camera.aperture);
    } else {
      out.lights = lowered(plan, a).lights;
    }
  }
  return out;
}

}  // namespace easel
