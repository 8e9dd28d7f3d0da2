// What hair grows from and lies on: the scalp inside the hairline, and distances from skin and clothes.
#pragma once

#include <functional>

#include "human.h"
#include "sitters/sitter.h"

namespace easel::bake {

/// `body` shaped, in the package's units; `unshaped` the same vertices of the base mesh, where the hairline is drawn.
HairGround hairGround(const QuadMesh& body, const std::vector<Vec3>& unshaped);

/// Of the triangles of the parts whose three vertices are `among`, in metres.
DistanceField fieldOf(const std::vector<MeshPart>& parts, float cell,
                      const std::function<bool(const MeshPart&, size_t vertex)>& among);

}  // namespace easel::bake
