// Whether a stand stays up: moments about a boom's pivot and about the feet of a stand.
//
// A stand on three legs tips over the line between two of its feet, which passes at half the feet's radius from the
// column (the inscribed circle of an equilateral triangle). What turns it over: an eccentric load, with a margin of a
// half; a shoulder that brushes past at the height of the load; wind. What holds it: all weight on the feet. Rigid
// bodies on a level floor, so a planner's estimate: makers' ratings and licensed riggers decide. Metres, kilograms,
// newtons, newton metres. Levers: any textbook of statics. Nudge and margin: common practice, no source.
#pragma once

namespace easel {

constexpr double kGravity = 9.80665;  ///< m/s^2, standard gravity (ISO 80000-3)
/// N, of somebody who brushes past: asks for the one bag that practice hangs on a stand of two metres.
constexpr double kNudge = 12;
constexpr double kMargin = 1.5;  ///< of eccentric loads

struct BoomArm {
  double front = 1.5, back = 0.7;  ///< ends of the arm from its pivot
  double kilograms = 1.8;          ///< of the arm, even along its length
};
/// kg m that `load` at `reach` in front of the pivot and the arm's own weight turn it with, > 0 forwards.
double boomMoment(const BoomArm& arm, double load, double reach);
/// kg at the end of the back that balances it; 0 when the back is heavier already.
double counterweightFor(const BoomArm& arm, double load, double reach);

/// What stands on one set of feet.
struct OnFeet {
  double kilograms = 0;  ///< all of it: stand, head, counterweight, sandbags
  double feet = 0.45;    ///< from the column to the tip of a foot
  double eccentric = 0;  ///< kg m about the column
  double height = 0;     ///< of the load over the floor
  double wind = 0;       ///< N on the load
};
double overturning(const OnFeet& stand);
double resisting(const OnFeet& stand);
/// kg at the column that make resisting() reach overturning(); 0 when it does.
double sandbagFor(const OnFeet& stand);

/// N of wind of `speed` m/s on a flat thing of that area: 1/2 rho v^2 with rho 1.2 kg/m^3, drag coefficient 1.2 (flat
/// plate, from memory).
double windOn(double area, double speed);

}  // namespace easel
