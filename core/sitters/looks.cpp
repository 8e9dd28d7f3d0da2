#include "sitters/looks.h"

#include <algorithm>
#include <cmath>

#include "colour/colour.h"
#include "sitters/sitter_file.h"

namespace easel {

const std::vector<Look>& hairColours() {
  static const std::vector<Look> all = {
      {"own", "As the sitter's", {}},
      {"black", "Black", {0.042f, 0.037f, 0.034f}},
      {"dark-brown", "Dark brown", {0.085f, 0.055f, 0.038f}},
      {"brown", "Brown", {0.185f, 0.115f, 0.068f}},
      {"red", "Red", {0.30f, 0.115f, 0.045f}},
      {"blond", "Blond", {0.52f, 0.40f, 0.23f}},
      {"grey", "Grey", {0.42f, 0.415f, 0.41f}},
      {"white", "White", {0.64f, 0.635f, 0.63f}},
  };
  return all;
}

const std::vector<Look>& skinTones() {
  static const std::vector<Look> all = {
      {"own", "As the sitter's", {}},
      {"1-lightest", "1, lightest", {0.58f, 0.40f, 0.32f}},
      {"2-light", "2, light", {0.50f, 0.32f, 0.24f}},
      {"3-olive", "3, olive", {0.40f, 0.25f, 0.17f}},
      {"4-tan", "4, tan", {0.29f, 0.165f, 0.105f}},
      {"5-brown", "5, brown", {0.18f, 0.095f, 0.058f}},
      {"6-darkest", "6, darkest", {0.095f, 0.050f, 0.033f}},
  };
  return all;
}

const std::vector<std::pair<std::string, std::string>>& hairStyles() {
  static const std::vector<std::pair<std::string, std::string>> all = {
      {"own", "As the sitter's"}, {"short", "Short, combed back"},
      {"cropped", "Cropped"},     {"tied", "Tied back"},
      {"long", "Long"},           {"shaved", "Shaved"},
  };
  return all;
}

static const Look* find(const std::vector<Look>& all, std::string_view id) {
  for (const Look& l : all)
    if (l.id == id) return &l;
  return nullptr;
}
const Look* findHairColour(std::string_view id) { return find(hairColours(), id); }
const Look* findSkinTone(std::string_view id) { return find(skinTones(), id); }

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
      const int x = std::clamp(int(p.uv[i].x * float(t.width)), 0, t.width - 1),
                y = std::clamp(int((1 - p.uv[i].y) * float(t.height)), 0, t.height - 1);
      const std::uint8_t* c = &t.rgba[(size_t(y) * size_t(t.width) + size_t(x)) * 4];
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
  if (const Look* l = findHairColour(hairColour); l && l->id != "own") return luminance(l->reflectance) > 0.25f;
  for (const SitterInfo& s : sitterCatalogue())
    if (s.id == sitterId) return s.lightHair;
  return false;
}

}  // namespace easel
