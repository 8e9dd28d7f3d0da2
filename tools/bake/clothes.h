// Tops and trousers, fitted to a shaped body, in the units of the package.
#pragma once

#include "human.h"
#include "sitters/sitter.h"
#include "sitters/wardrobe.h"

namespace easel::bake {

/// Height above the neckline of a crew-neck top, in dm: a plane through the base of the neck, lower in front.
float aboveNeckline(Vec3 p, Vec3 neck);

/// A plain top of our own: the shaped body pushed outwards, smoothed like cloth, and cut along the neckline. It ends
/// at the height `hem`; sleeves go down to the wrists.
MeshPart plainTop(const HumanPackage& package, const QuadMesh& body, float hem);

/// A garment of the data set, cut off below `hem`: what hangs on the legs is ours. First the garment itself, then what
/// shows from under it.
std::vector<MeshPart> topOf(const HumanPackage& package, const Outfit& outfit, const std::vector<Vec3>& vertices,
                            float hem, float hip);

constexpr const char* kTrousersOf = "male_casualsuit06";  ///< the garment whose trousers everybody wears
/// Those trousers on vertices `posed` that stand or sit; `standing` are the same as they stand, with the `hip` at that
/// height.
MeshPart trousersOn(const HumanPackage& package, const std::vector<Vec3>& posed, const std::vector<Vec3>& standing,
                    float hip);

}  // namespace easel::bake
