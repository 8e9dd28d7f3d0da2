// Catmull-Clark subdivision (OpenSubdiv) of a quad mesh, and its triangles with smooth normals.
#pragma once

#include "human.h"
#include "sitters/sitter.h"

namespace easel::bake {

/// Only the faces for which keep[i] is true; vertices stay in place (unused ones are harmless).
QuadMesh keepFaces(const QuadMesh& mesh, const std::vector<bool>& keep);

/// Area-weighted smooth vertex normals.
std::vector<Vec3> vertexNormals(const QuadMesh& mesh);

/// `levels` steps of Catmull-Clark with face-varying uv.
QuadMesh subdivided(const QuadMesh& mesh, int levels);

/// Triangles; vertices split where the uv differs. Positions stay in the mesh's units.
MeshPart triangulated(const QuadMesh& mesh, Surface surface, int texture);

}  // namespace easel::bake
