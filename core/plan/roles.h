// Where practice puts a light by its role: clock, height, aim, distance, target, modifier, and a line that says why.
// Both schools where practitioners disagree. The recipes are data (data/roles.json, docs/formats/roles.md). All
// figures: common practice, no source.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "plan/plan.h"

namespace easel {

/// Where round the clock, as for a key on the camera's right (hours under 6).
struct HourRecipe {
  enum class Side {
    Fixed,        ///< at the hour, whatever else stands there
    Key,          ///< changes sides with the key
    Free,         ///< on the other side when one of the role stands near the hour
    OppositeKey,  ///< the mirror image of the key's own hour
  };
  double at = 12;
  Side side = Side::Fixed;
};
/// Metres from the sitter: times what is named, and some more, within bounds.
struct DistanceRecipe {
  enum class From { Sitter, Camera, Backdrop, Wall };  ///< Wall: the nearer one at the side
  From from = From::Sitter;
  double times = 1, plus = 0, least = 0, most = 100;
};
/// Metres above the floor.
struct HeightRecipe {
  enum class From { Floor, Eyes, Camera };
  From from = From::Eyes;
  double plus = 0, least = 0;
  double underCeiling = -100;  ///< room that stays under the ceiling; only where it is asked for
};
enum class LightAim { Sitter, Backdrop, AcrossBackdrop };
/// A level against the key and the reason for it, where all the conditions hold.
struct LevelRecipe {
  bool paleHead = false, second = false;        ///< second: one of the role stands near the hour already
  double backdropOver = -1, backdropUnder = 2;  ///< luminous reflectance
  std::optional<double> stops;
  std::string why;
};

struct RoleSchool {
  std::string id;  ///< "fill-opposite"
  Role role = Role::Key;
  std::string name;  ///< "Fill, opposite the key"
  std::string modifier;
  HourRecipe hour;
  DistanceRecipe distance;
  HeightRecipe height;
  LightAim aim = LightAim::Sitter;
  std::optional<double> power;      ///< first guess, stops below full
  std::string worksOn, inside;      ///< kinds of a piece (gear/panel_kinds.h) that it is there for, or burns in
  std::vector<LevelRecipe> levels;  ///< the first that holds; the last one always does
};
/// Every way to add a light; the first of a role is the default school.
const std::vector<RoleSchool>& roleSchools();

struct Proposal {
  Light light;  ///< letter taken from the plan; power is a first guess, balance sets it
  std::string why;
};
/// A light of the school for this sitter, key, backdrop and ceiling. Throws std::invalid_argument for an unknown id or
/// when all sixteen letters are taken.
Proposal proposeLight(const Plan& plan, const std::string& school);
Proposal proposeLight(const Plan& plan, const RoleSchool& school);

/// The same light put up by the next school of its role (by its name, "Fill, opposite the key" -> "Fill, near the
/// camera ..."): letter, group, unit, power, on and locked stay. Throws std::invalid_argument when its role has one
/// school only.
Proposal byOtherSchool(const Plan& plan, const Light& light);

/// The school of the role that the usual order puts next: key, fill, hair, background, rim, then other edges.
std::string nextInUsualOrder(const Plan& plan);

/// The whole set as in a mirror: left and right change places, the head too.
Plan mirrored(const Plan& plan);
/// Lights, boards and pins on the other side; the sitter stays as posed.
Plan keySideSwapped(const Plan& plan);

/// A copy with the next free letter, half an hour along the clock (near its end, back), unlocked and in no shade.
/// Throws std::invalid_argument when the plan is full.
Light copyOf(const Plan& plan, const Light& light);
/// Letters A, B, C... in the building order; a trigger group that had the light's letter goes with it.
std::vector<Light> withLettersInOrder(const Plan& plan);
/// Which letter each light of `before` has in `after`: a light that is there unchanged under another letter has moved
/// to it; one that has changed keeps its letter, unless another has taken that. Those that are gone are left out.
std::map<std::string, std::string> lettersIn(const Plan& before, const Plan& after);
/// The lights with `id` at `place` in the building order, beyond the end last; as they are when there is no such light.
std::vector<Light> movedTo(const Plan& plan, const std::string& id, size_t place);

}  // namespace easel
