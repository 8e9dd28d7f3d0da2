#include "sitters/colouring.h"

#include <algorithm>
#include <cmath>

#include "colour/colour.h"
#include "data/by_id.h"
#include "sitters/people.h"

namespace easel {

const std::vector<Colouring>& hairColours() { return people().hairColours; }
const std::vector<Colouring>& skinTones() { return people().skinTones; }
const std::vector<HairStyle>& hairStyles() { return people().hairStyles; }

const HairStyle& hairStyleOf(std::string_view id, std::string_view ofTheirs) {
  static const HairStyle none;
  const HairStyle* s = byIdOrOwn(hairStyles(), id, ofTheirs);
  return s ? *s : none;
}

const Colouring* findHairColour(std::string_view id) { return byId(hairColours(), id); }
const Colouring* findSkinTone(std::string_view id) { return byId(skinTones(), id); }

Vec3 faceReflectance(const Sitter& s) {
  // Cheeks and forehead, where the tone is metered; lips, lids and what is inside the mouth would redden the mean. The
  // median, because stubble and freckles are outliers.
  const Vec3 places[] = {s.landmarks.cheekLeft, s.landmarks.cheekRight, s.landmarks.forehead};
  std::vector<float> channel[3];
  for (const MeshPart& p : s.parts) {
    if (p.surface != Surface::Skin || p.texture < 0) continue;
    const Texture& t = s.textures[size_t(p.texture)];
    if (t.rgba.empty()) continue;
    for (size_t i = 0; i < p.position.size(); ++i) {
      if (p.normal[i].z < 0.2f ||
          std::none_of(std::begin(places), std::end(places), [&](Vec3 c) { return length(p.position[i] - c) < 0.02f; }))
        continue;
      const std::uint8_t* c = t.at(p.uv[i]);
      for (size_t k = 0; k < 3; ++k) channel[k].push_back(float(srgbDecode(c[k] / 255.0)) * s.skinTint[int(k)]);
    }
  }
  if (channel[0].empty()) return s.faceReflectance;
  Vec3 out;
  for (size_t k = 0; k < 3; ++k) {
    const auto middle = channel[k].begin() + long(channel[k].size() / 2);
    std::nth_element(channel[k].begin(), middle, channel[k].end());
    out[int(k)] = *middle;
  }
  return out;
}

bool paleHead(const std::string& sitterId, const std::string& hairColour, const std::string& hairStyle) {
  if (hairStyle == "shaved") return true;
  if (const Colouring* l = findHairColour(hairColour); l && l->id != "own") return luminance(l->reflectance) > 0.25f;
  for (const Person& s : sitterCatalogue())
    if (s.id == sitterId) return s.lightHair;
  return false;
}

}  // namespace easel
