#include "sitters/wardrobe.h"

#include "data/by_id.h"
#include "sitters/people.h"

namespace easel {

const std::vector<Outfit>& outfits() { return people().outfits; }
const std::vector<Cloth>& cloths() { return people().cloths; }
const std::vector<Colouring>& clothColours() { return people().clothColours; }

const Outfit* findOutfit(std::string_view id) { return byId(outfits(), id); }
const Cloth* findCloth(std::string_view id) { return byId(cloths(), id); }
const Colouring* findClothColour(std::string_view id) { return byId(clothColours(), id); }

}  // namespace easel
