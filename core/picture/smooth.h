// Taking the noise out of a young picture without touching what the user reads in it.
//
// Works on irradiance (diffuse light divided by albedo) and sheen, guided by surface, normal and place, so that texture
// and outlines are never blurred; an a-trous wavelet filter (Dammertz et al., "Edge-avoiding a-trous wavelet
// transform", 2010) with the luminance stop scaled by the measured noise. Numbers (meter, shadow edges) never come from
// here.
#pragma once

#include <memory>
#include <vector>

#include "picture/samples.h"

namespace easel {

struct LayerPicture;

class Irradiance {
 public:
  Irradiance(int width, int height);

  /// `diffuse` is albedo * irradiance / pi; a pixel that shows nothing has `solid` false.
  void set(int x, int y, Vec3 diffuse, Vec3 albedo, float sheen, bool solid);
  /// Standard error of the diffuse luminance from the two halves of the passes.
  void setNoise(int x, int y, float difference, float albedoLuminance);

  /// `reduce` 2: this is the half-resolution picture of the sets.
  void guideFrom(const SampleSets& sets, int reduce);

  /// `rounds` of the filter with steps 1, 2, 4...; `passes` 1 means that the noise is unknown.
  void smooth(int rounds, int passes);

  /// For light that changes slowly (the bounce): `rounds` of the same filter, guided by the surface alone.
  void smoothWide(int rounds);

  /// Light that enters skin leaves it nearby, red furthest: a Gaussian blur on skin, widths in millimetres on the face.
  void scatterInSkin();

  /// Half resolution to full, on top of what stands there: joint bilateral. Both have their guides.
  void addToFull(Irradiance& full) const;
  /// Applies the mean albedo.
  void finish(const SampleSets& sets, LayerPicture& out) const;

 private:
  struct Guide {
    Vec3 position, normal;
    float spread = 0;  ///< how far a step of one pixel goes on the surface [m]
    std::uint8_t surface = 0, share = kSampleSets;
  };
  /// What lies round a pixel on its own surface, `step` pixels apart; `off` is how far a neighbour is from the pixel's
  /// tangent plane, in steps.
  template <class Weigh, class Take>
  void around(int x, int y, int step, Weigh weigh, Take take) const;
  /// One round of the wavelet: the mean of `around`, weighted by `weighFrom(pixel)(neighbour, off)`. `channels(guide)`
  /// says how many of r g b sheen take part; the rest stay.
  template <class Channels, class Weigh>
  void round(int step, Channels channels, Weigh weighFrom);
  float lightOf(size_t pixel) const;
  std::vector<float> evenNoise() const;
  std::vector<float> evenLight() const;
  void findLit();
  bool lit(int x, int y) const;  ///< whether a filter can change the pixel; since findLit()
  size_t at(int x, int y) const { return size_t(y) * size_t(width_) + size_t(x); }

  int width_, height_;
  std::vector<float> value_;  ///< r g b irradiance / pi, sheen
  std::vector<float> noise_;  ///< standard error of luminance
  std::vector<Guide> guide_;
  std::vector<std::uint8_t> lit_;
};

}  // namespace easel
