// The skin that shows with each garment: the head once, for all of them, and what each leaves bare beside it.
#pragma once

#include "human.h"
#include "sitters/sitter.h"
#include "sitters/wardrobe.h"

namespace easel::bake {

/// A garment of the outfits, and what of the body goes with it.
struct Worn {
  std::string of;            ///< MeshPart::of
  const Outfit* outfit;      ///< the first that has it
  std::vector<bool> hidden;  ///< vertices of the body under it
  std::vector<bool> shown;   ///< faces of the body that are seen
  bool apron;                ///< in one of the outfits an apron lies over it
};
/// Each garment once.
std::vector<Worn> wornOn(const HumanPackage& package, const QuadMesh& body);

/// Faces that every garment leaves bare, two rings away from any that one does not: there they are the same mesh.
std::vector<bool> shownByAll(const QuadMesh& body, const std::vector<Worn>& all);

/// The skin that goes with a garment and its parts alone.
MeshPart skinOf(const QuadMesh& body, const Worn& worn, const std::vector<MeshPart>& tops,
                const std::vector<bool>& common, int texture);
/// The head, which is the same with any of them.
MeshPart headOf(const QuadMesh& body, const Worn& worn, const std::vector<bool>& common, int texture);

}  // namespace easel::bake
