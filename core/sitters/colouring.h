// Other hair and other skin on a sitter: what the light meets, not who it is.
//
// Colours are linear Rec. 709 reflectances: of the strands for hair, the mean of the face for skin. Figures from
// memory, ordered from light to dark; calibrate with a grey card beside the face.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "geometry/vec.h"
#include "sitters/hair_style.h"
#include "sitters/sitter.h"

namespace easel {

struct Colouring {
  std::string id, name;
  Vec3 reflectance;
  std::optional<std::array<double, 2>> melanin;  ///< hair: eumelanin, pheomelanin; none: as its reflectance asks for
};
/// The first of each is "own": what the sitter was baked with (its reflectance says nothing).
const std::vector<Colouring>& hairColours();
const std::vector<Colouring>& skinTones();
/// "own" first, then what every sitter can wear, "shaved" last.
const std::vector<HairStyle>& hairStyles();
/// The style that a sitter wears: "own", and one that there is not, is `ofTheirs`.
const HairStyle& hairStyleOf(std::string_view id, std::string_view ofTheirs);
/// nullptr when there is none of that id.
const Colouring* findHairColour(std::string_view id);
const Colouring* findSkinTone(std::string_view id);

/// Reflectance of the sitter's face as baked: median of cheeks and forehead in its skin texture. A pass over
/// all vertices: readSitter() keeps it in the sitter.
Vec3 faceReflectance(const Sitter& sitter);

/// Whether a hair light needs the lesser level: blond, grey, white, or no hair at all.
bool paleHead(const std::string& sitterId, const std::string& hairColour, const std::string& hairStyle);

}  // namespace easel
