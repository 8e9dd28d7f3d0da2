// The apron of the workshop: bib, straps and skirt, sheets of our own that are laid on what is worn.
#pragma once

#include "sitters/sitter.h"

namespace easel::bake {

/// Over a top and the trousers of somebody who stands, in the units of the package; heights of `eyes` and `hip`. The
/// skirt is for standing. Throws std::runtime_error when the top leaves the shoulder bare.
std::vector<MeshPart> apronOver(const MeshPart& top, const MeshPart& standing, const MeshPart& seated, float eyes,
                                float hip);

}  // namespace easel::bake
