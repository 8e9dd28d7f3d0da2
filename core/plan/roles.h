// Where practice puts a light by its role: clock, height, aim, distance, target, modifier, and a line that says why.
// Both schools where practitioners disagree. All figures: common practice, no source.
#pragma once

#include <string>
#include <vector>

#include "plan/plan.h"

namespace easel {

struct RoleSchool {
  std::string id;  ///< "fill-opposite"
  Role role;
  std::string name;  ///< "Fill, opposite the key"
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

/// The same light put up by the next school of its role (by its name, "Fill, opposite the key" -> "Fill, near the
/// camera ..."): letter, group, unit and power stay. Throws std::invalid_argument when its role has one school only.
Proposal byOtherSchool(const Plan& plan, const Light& light);

/// The school of the role that the usual order puts next: key, fill, hair, background, rim, then other edges.
std::string nextInUsualOrder(const Plan& plan);

/// The whole set as in a mirror: left and right change places, the head too.
Plan mirrored(const Plan& plan);
/// The lights alone on the other side; the sitter stays as posed.
Plan keySideSwapped(const Plan& plan);

/// A copy with the next free letter, half an hour along the clock. Throws std::invalid_argument when the plan is full.
Light copyOf(const Plan& plan, const Light& light);
/// Letters A, B, C... in the building order; a trigger group that had the light's letter goes with it.
std::vector<Light> withLettersInOrder(const Plan& plan);
/// The lights with `id` at `place` in the building order.
std::vector<Light> movedTo(const Plan& plan, const std::string& id, size_t place);

}  // namespace easel
