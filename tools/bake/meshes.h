// What the pieces of a sitter are cut and joined with: meshes in the units of the package.
#pragma once

#include <functional>

#include "human.h"
#include "sitters/sitter.h"

namespace easel::bake {

constexpr float kMetresPerUnit = 0.1f;

/// uv that carry the place in metres, from which the weave is drawn: of each vertex its own, or the one in `places`.
void placeUv(MeshPart& part);
void placeUv(QuadMesh& mesh, const std::vector<Vec3>& places);

/// The vertices beside each, twice those that two faces share.
std::vector<std::vector<int>> neighbours(const QuadMesh& mesh);

/// With the vertices of so many rings of faces about those that are marked.
std::vector<bool> ringsAbout(const QuadMesh& mesh, std::vector<bool> vertices, int rings);

/// Adds the vertex that lies `t` of the way from one to another; its number.
std::uint32_t addBetween(MeshPart& part, std::uint32_t from, std::uint32_t to, float t);

/// Only some of the triangles, and the vertices that they need.
MeshPart chosen(const MeshPart& from, const std::function<bool(size_t triangle)>& wants);

}  // namespace easel::bake
