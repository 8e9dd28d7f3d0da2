// What people can put on: garments, the cloth that they are of, and its colour. Data (docs/formats/people.md).
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "sitters/colouring.h"
#include "sitters/sitter.h"

namespace easel {

struct Outfit {
  /// A part of the picture that a garment is coloured with: left, top, right, bottom, 0..1 from its upper left corner.
  using Box = std::array<double, 4>;

  std::string id, name;
  std::string garment;          ///< of the data set; empty: a plain top of our own
  std::string relief;           ///< its map of normals; empty: none
  bool apron = false;           ///< over it
  std::vector<Box> shirt, tie;  ///< what belongs to a shirt and a tie under it

  Clothing clothing() const { return {garment.empty() ? "plain" : garment, apron}; }
};

/// How a cloth takes light beside its colour.
struct Cloth {
  std::string id, name;
  double sheen = 0.015;     ///< share that is mirrored straight ahead
  double roughness = 0.65;  ///< of that, 0..1
  double fuzz = 0;          ///< 0..1: fibres that stand off and catch light at the edge: velvet, wool
  double weave = 0.16;      ///< how much threads differ
};

/// "own" first: what each wears in the workshop.
const std::vector<Outfit>& outfits();
const std::vector<Cloth>& cloths();
const std::vector<Colouring>& clothColours();

/// nullptr when there is none of that id.
const Outfit* findOutfit(std::string_view id);
const Cloth* findCloth(std::string_view id);
const Colouring* findClothColour(std::string_view id);

}  // namespace easel
