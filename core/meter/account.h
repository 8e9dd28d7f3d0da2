// The account of the answers: every hold of the meter, and what each lamp brings to it, term by term.
//
// A figure that the meter shows is, for each light, energy of the lamp times illuminance per lumen at the hold, and the
// ambient besides. Both factors keep their own terms here (LampFactors, LightPaths), so that whoever shows a figure can
// say where it comes from without computing it a second way. Holds that several lights share are one. Units: lx per lm
// of the bare head (or lx s per lm s, the same number), lx s, lm s. A value of its own; any thread.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "exposure/meter.h"
#include "meter/point_meter.h"
#include "placed/placed_set.h"
#include "transport/scene.h"
#include "transport/source.h"

namespace easel {

/// How a meter was held.
struct Hold {
  Receptor receptor = Receptor::Flat;
  std::string towards;  ///< letter of the light; empty: the camera
  std::string on;       ///< laid on a piece of the set or held at it: "on table 3"; empty: none
  bool operator==(const Hold&) const = default;
};
/// "flat, towards A"; "dome, towards the camera"; "flat, on table 3".
std::string describe(const Hold& hold);

/// Before the nose; over the crown; beside the head, on the light's side; on the cloth behind it; at a piece of the
/// set.
enum class MeteredAt { Face, Hair, Edge, Backdrop, Piece };

/// Where and how the meter is held.
struct HeldMeter {
  MeteredAt where = MeteredAt::Face;
  std::string piece;  ///< its number, of MeteredAt::Piece
  Hold hold;
  Vec3 at, looks;
  static constexpr int kDirect = 256, kBounced = 192;  ///< samples, so that the same hold is the same figure
  bool operator==(const HeldMeter&) const = default;
};
/// In files and on the wire: "face", "hair", "edge", "backdrop", "panel 3".
std::string idOf(const HeldMeter& held);
/// "at the face", "over the crown", "on table 3".
std::string placeOf(const HeldMeter& held);
/// For a light where it works: on the piece that it is there for, else by its role: flat with it everywhere but at the
/// face, where the plan's school holds; on the backdrop flat towards the camera.
HeldMeter worksIn(const Scene& scene, const PlacedSet& set, const PlacedLight& light);
/// The hold by which the camera is set: as for the key, or dome towards the camera, by the plan's school. It is that of
/// Answers::face and of the first row of the table of spots.
HeldMeter heldAsCameraIsSet(const Scene& scene, const PlacedSet& set);

/// One hold, and what every light brings to it.
struct HoldAccount {
  HeldMeter held;
  BouncePoints points;               ///< where light can come from by one reflection
  std::vector<LightPaths> perLumen;  ///< by light; zero where it is not needed, and for unknown gear
  LuminousExposure ambient;          ///< lx s

  double constant() const { return calibrationConstant(points.receptor); }
};

struct LightAccount {
  std::optional<Source> source;  ///< empty: unit or modifier are not known
  LampFactors lamp;              ///< at its power
  LampEnergy full;               ///< at full power
  double halfWay = 0;            ///< direct light half-way to the lamp over that at the face, for the meter held there
  size_t face = 0, works = 0;    ///< holds: towards it at the face, and where it works
};

struct Account {
  MeterPlace face;
  std::vector<HoldAccount> holds;
  size_t cameraIsSet = 0;            ///< the hold that everything on is read in
  std::array<size_t, 2> backdrop{};  ///< beside both sides of the head, flat
  std::vector<LightAccount> lights;  ///< in the order of the set

  /// Luminous exposure of one light at a hold, at its power, even when it is off.
  LuminousExposure reading(size_t hold, size_t light) const {
    const LampEnergy e = lights[light].lamp.energy();
    const double lux = holds[hold].perLumen[light].total();
    return {e.flash * lux, e.steady * lux};
  }
  /// lx per lm, the mean of both sides of the head.
  double onBackdrop(size_t light) const {
    return (holds[backdrop[0]].perLumen[light].total() + holds[backdrop[1]].perLumen[light].total()) / 2;
  }
};

/// Holds the meter for every light. Some two milliseconds a light, and a quarter of one for each light and hold
/// besides.
Account accountOf(const Scene& scene, const PlacedSet& set);

}  // namespace easel
