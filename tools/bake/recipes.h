// The people of Marrow Lane: from the package's shapes and parts to a Sitter.
#pragma once

#include "human.h"
#include "sitters/sitter.h"

namespace easel::bake {

struct Recipe {
  std::string id;
  Shape shape;
  std::string skin;                    ///< texture file below public/data/skins
  std::string eyeTexture, brow, hair;  ///< eye texture name; names of the parts
  Vec3 hairTint, skinTint;
};
const std::vector<Recipe>& recipes();

/// The finished sitter. Throws std::runtime_error when the package lacks something.
Sitter bakeSitter(const HumanPackage& package, const Recipe& recipe);

}  // namespace easel::bake
