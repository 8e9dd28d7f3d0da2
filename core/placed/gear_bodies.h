// The gear of the lights as bodies: modifiers, heads, stands, booms. What the camera sees of them, and what they keep
// light off.
//
// Metres, studio space. A light gives its light from the front of its modifier whether its body stands in the scene or
// not, and no body is in the way of its own light. A box is black with a white front, dishes, reflectors and umbrellas
// are open and show their lining, heads and stands are black metal: reflectances common practice, no source.
#pragma once

#include <cstdint>
#include <vector>

#include "geometry/vec.h"
#include "placed/placed_set.h"

namespace easel {

struct Solid {
  std::vector<Vec3> position;
  std::vector<std::uint32_t> triangles;
  Vec3 albedo{0.04f, 0.04f, 0.04f};
  bool operator==(const Solid& o) const;
};

/// Body, head and stand of one light; empty of a bare bulb, a window and what sits on the lens.
std::vector<Solid> gearOf(const PlacedSet& set, const PlacedLight& light);

/// The user's own meshes among the pieces of the set.
struct Thing {
  int panel = 0;  ///< index into PlacedSet::panels
  Solid solid;
};
std::vector<Thing> objectsOf(const PlacedSet& set);

/// Of all lights, on or off, that matter to the picture: they reach into the frame, or stand in another light's way to
/// face, crown or backdrop. The others cost nothing.
std::vector<Solid> gearThatMatters(const PlacedSet& set);

}  // namespace easel
