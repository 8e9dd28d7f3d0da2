#include "shoot/usual.h"

#include <algorithm>

#include "data/by_id.h"
#include "data/data_files.h"
#include "data/named.h"
#include "files/record.h"
#include "spoken/say.h"

namespace easel {
namespace {}  // namespace

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

void readUsual(const Record& record, UsualDay& usual) {
  record.each("appliances", [&](const Record& r) {
    auto a = named<Appliance>(r);
    take(r, "watts", a.watts);
    take(r, "wind", a.wind);
    take(r, "haze", a.haze);
    take(r, "heat", a.heat);
    take(r, "source", a.source);
    put(usual.appliances, a);
  });
  record.each("always", [&](const Record& r) {
    auto a = named<AlwaysPacked>(r);
    take(r, "count", a.count);
    take(r, "why", a.why);
    a.why = translated(a.why);
    put(usual.always, a);
  });
  take(record, "cables", usual.cables);
  take(record, "weights", usual.weights);
  std::sort(usual.cables.begin(), usual.cables.end());
  std::sort(usual.weights.begin(), usual.weights.end());
  take(record, "bag", usual.bag);
  if (record.contains("times"))
    for (const ShootTime& t : shootTimes()) take(record["times"], t.name, usual.times.*t.seconds);
}

const UsualDay& usualDay() {
  static const UsualDay all = gathered<UsualDay>(DataKind::Shoot, readUsual);
  return all;
}

const Appliance* findAppliance(std::string_view id) { return byId(usualDay().appliances, id); }

}  // namespace easel
