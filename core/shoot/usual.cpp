#include "shoot/usual.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "data/by_id.h"
#include "data/data_files.h"
#include "data/taking.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
const JsonLimits kUsualLimits{.kind = "list for shooting days"};

}  // namespace

const std::vector<ShootTime>& shootTimes() {
  using T = ShootTimes;
  static const std::vector<ShootTime> all{{"moveStand", &T::moveStand},
                                          {"perMetre", &T::perMetre},
                                          {"height", &T::height},
                                          {"turn", &T::turn},
                                          {"bring", &T::bring},
                                          {"takeAway", &T::takeAway},
                                          {"boom", &T::boom},
                                          {"swapHead", &T::swapHead},
                                          {"swapReflector", &T::swapReflector},
                                          {"swapBox", &T::swapBox},
                                          {"swapUmbrella", &T::swapUmbrella},
                                          {"fitting", &T::fitting},
                                          {"movePanel", &T::movePanel},
                                          {"bringPanel", &T::bringPanel},
                                          {"takePanel", &T::takePanel},
                                          {"backdropChange", &T::backdropChange},
                                          {"backdropMove", &T::backdropMove},
                                          {"cameraMove", &T::cameraMove},
                                          {"lensChange", &T::lensChange},
                                          {"seat", &T::seat},
                                          {"room", &T::room},
                                          {"setPower", &T::setPower},
                                          {"meterLight", &T::meterLight},
                                          {"meterAll", &T::meterAll},
                                          {"settle", &T::settle}};
  return all;
}

void readUsual(const Json& json, UsualDay& usual) {
  eachEntry(json, "appliances", kUsualLimits, [&](const Json& j) {
    Appliance a;
    take(j, "id", a.id);
    take(j, "name", a.name);
    a.name = translated(a.name);
    take(j, "watts", a.watts);
    take(j, "wind", a.wind);
    take(j, "haze", a.haze);
    take(j, "heat", a.heat);
    take(j, "source", a.source);
    put(usual.appliances, a);
  });
  eachEntry(json, "always", kUsualLimits, [&](const Json& j) {
    AlwaysPacked a;
    take(j, "id", a.id);
    take(j, "name", a.name);
    take(j, "count", a.count);
    take(j, "why", a.why);
    a.name = translated(a.name);
    a.why = translated(a.why);
    put(usual.always, a);
  });
  take(json, "cables", usual.cables);
  take(json, "weights", usual.weights);
  std::sort(usual.cables.begin(), usual.cables.end());
  std::sort(usual.weights.begin(), usual.weights.end());
  take(json, "bag", usual.bag);
  if (json.contains("times"))
    for (const ShootTime& t : shootTimes()) take(json["times"], t.name, usual.times.*t.seconds);
}

const UsualDay& usualDay() {
  static const UsualDay all = gathered<UsualDay>(DataKind::Shoot, readUsual);
  return all;
}

const Appliance* findAppliance(std::string_view id) { return byId(usualDay().appliances, id); }

}  // namespace easel
