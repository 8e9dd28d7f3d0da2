// What is usual on a shooting day: seconds for what is moved, things that always come along, what else hangs on the
// mains. Data (docs/formats/shoot.md): what ships, and the user's own after it. Immutable, any thread.
#pragma once

#include <string>
#include <vector>

namespace easel {

class Record;

/// Seconds for one pair of hands; common practice, no source.
struct ShootTimes {
  double moveStand = 25, perMetre = 5;  ///< taking hold and setting down again, with sandbag and cable; and the way
  double height = 12;                   ///< column up or down, tilt
  double turn = 8;                      ///< aim alone
  double bring = 60, takeAway = 30;     ///< a stand with its head from the side, and back
  double boom = 120;                    ///< more for a boom that is put up, loaded and weighted
  double swapHead = 70, swapReflector = 20, swapBox = 75, swapUmbrella = 35;
  double fitting = 20;  ///< a gel, a grid, a sheet, doors
  double movePanel = 20, bringPanel = 45, takePanel = 20;
  double backdropChange = 240, backdropMove = 90;
  double cameraMove = 25, lensChange = 50, seat = 30;
  double room = 900;  ///< everything into another room
  double setPower = 4, meterLight = 12, meterAll = 15;
  double settle = 60;  ///< from "ready" to the first frame that counts
};

/// A number of ShootTimes by the name that files give it.
struct ShootTime {
  const char* name;
  double ShootTimes::*seconds;
};
const std::vector<ShootTime>& shootTimes();

/// What hangs on the mains besides lights.
struct Appliance {
  std::string id, name;
  double watts = 0;
  double wind = 0;  ///< m/s that it makes at the stands
  bool haze = false, heat = false;
  std::string source;
};

struct AlwaysPacked {
  std::string id, name;
  int count = 1;
  std::string why;
};

struct UsualDay {
  std::vector<Appliance> appliances;
  std::vector<AlwaysPacked> always;
  std::vector<double> cables;   ///< m, rising
  std::vector<double> weights;  ///< kg of counterweights, rising
  double bag = 5;               ///< kg of a sandbag
  ShootTimes times;
};

/// Adds what stands in a file that keeps to the schema. Throws FileError.
void readUsual(const Record& record, UsualDay& usual);
const UsualDay& usualDay();
/// nullptr when there is none of that id.
const Appliance* findAppliance(std::string_view id);

}  // namespace easel
