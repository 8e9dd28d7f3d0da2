// Taking the noise out of a young picture without touching what the user reads in it.
//
// Works on irradiance (diffuse light divided by albedo) and sheen, guided by surface, normal and place, so that texture
// and outlines are never blurred; an a-trous wavelet filter (Dammertz et al., "Edge-avoiding a-trous wavelet
// transform", 2010) with the luminance stop scaled by the measured noise. Numbers (meter, shadow edges) never come from
// here.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "picture/rows.h"
#include "picture/samples.h"

namespace easel {

struct LayerPicture;

class Irradiance {
 public:
  /// All dark, of the size of its guides, which must outlive it.
  explicit Irradiance(const Guides& guides);

  /// `diffuse` is albedo * irradiance / pi; a pixel that shows nothing has `solid` false.
  void set(int x, int y, Vec3 diffuse, Vec3 albedo, float sheen, bool solid);
  /// Standard error of the diffuse luminance from the two halves of the passes.
  void setNoise(int x, int y, float difference, float albedoLuminance);

  /// `rounds` of the filter with steps 1, 2, 4...; `passes` 1 means that the noise is unknown. With a `lamp`, the place
  /// of one, and known noise, light is compared as a share of what that lamp would give without shadows.
  void smooth(int rounds, int passes, std::optional<Vec3> lamp = {});

  /// For light that changes slowly (the bounce): `rounds` of the same filter, guided by the surface alone.
  void smoothWide(int rounds);

  /// Light that enters skin leaves it nearby, red furthest (transport/skin.h): a straight shadow's edge is as soft as
  /// the profile makes it, whatever the size of a pixel.
  void scatterInSkin();

  /// Irradiance / pi of a pixel.
  Vec3 at(int x, int y) const;
  /// Half resolution to full, on top of what stands there: joint bilateral; pixels that surfaces share take of each by
  /// its share.
  void addToFull(Irradiance& full) const;
  /// Applies the mean albedo.
  void finish(const SampleSets& sets, LayerPicture& out) const;

 private:
  using Planes = std::array<std::vector<float>, 4>;
  /// One round: `filter` with its planes filled in.
  void round(RowFilter filter);
  void light(std::vector<float>& out) const;
  std::vector<float> evenNoise();
  std::vector<float> evenLight();
  void findLit();
  std::optional<std::array<float, 4>> about(int fullX, int fullY, std::int32_t surface) const;
  template <class F>
  void overLit(F work) const;  ///< work(y, x0, x1) on what a filter can change; since findLit()

  const Guides& guides_;
  int width_, height_;
  Planes value_;              ///< r g b irradiance / pi, sheen
  Planes next_;               ///< where the filters write; dark wherever value_ is
  std::vector<float> noise_;  ///< standard error of luminance
  std::vector<std::uint8_t> lit_;
};

}  // namespace easel
