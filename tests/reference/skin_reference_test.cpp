// Skin against what is published of it.
//
// Profile: P. Christensen and B. Burley, "Approximate reflectance profiles for efficient subsurface scattering", Pixar
// technical memo 15-04, 2015. Optical properties: H. Jensen and others, "A practical model for subsurface light
// transport", 2001, "skin1" (values from memory). Reflectance: the "dark skin" and "light skin" patches of the 24-patch
// colour chart of C. McCamy and others, 1976, with the sRGB averages that D. Pascale published in 2006 (values from
// memory).
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "picture/guides.h"
#include "picture/lit_points.h"
#include "picture/smooth.h"
#include "sitters/colouring.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/scene.h"
#include "transport/skin.h"

namespace easel {
namespace {

double profile(double r) { return (std::exp(-r) + std::exp(-r / 3)) / (8 * kPi * r); }

TEST(SkinReference, AllLightThatGoesInComesOut) {
  double sum = 0;
  const double step = 1e-3;
  for (double r = step / 2; r < 60; r += step) sum += profile(r) * 2 * kPi * r * step;
  EXPECT_NEAR(sum, 1, 1e-3);
  EXPECT_NEAR(scatteredWithin(1e3f), 0.5, 1e-6);
}

// Summed over the plane to one side of a line, without the closed form that the table is made of.
TEST(SkinReference, BesideALineComesOutWhatTheProfileSaysOfThePlane) {
  for (double x : {0.2, 0.7, 1.5, 3.0, 6.0}) {
    double within = 0;  // |u| < x, by rings: of a ring of radius r the share 2 / pi asin(x / r) is within
    const double step = 5e-4;
    for (double r = step / 2; r < 60; r += step)
      within += profile(r) * 2 * kPi * r * step * (r <= x ? 1 : 2 / kPi * std::asin(x / r));
    EXPECT_NEAR(2 * scatteredWithin(float(x)), within, 2e-3) << x;
  }
}

TEST(SkinReference, DistancesAreThoseOfThePublishedSkin) {
  const auto& d = skinScatter();
  const double scatters[] = {0.74, 0.88, 1.01}, absorbs[] = {0.032, 0.17, 0.48}, albedo[] = {0.44, 0.22, 0.13};
  for (size_t c = 0; c < 3; ++c) {
    const double s = 1.9 - albedo[c] + 3.5 * (albedo[c] - 0.8) * (albedo[c] - 0.8);
    EXPECT_NEAR(double(d[c]), 1e-3 / (scatters[c] + absorbs[c]) / s, 1e-7);
  }
  EXPECT_GT(d[0], 1.9f * d[1]) << "red goes furthest";
  EXPECT_GT(d[1], d[2]);
}

// A straight edge of light on a plane of skin, at three sizes of a pixel, upright and lying: the picture has the edge
// that the profile's sum makes of it.
TEST(SkinReference, AShadowsEdgeIsAsSoftAsTheProfileMakesIt) {
  for (const float pixel : {0.00025f, 0.0004f, 0.0008f})
    for (const bool lying : {false, true}) {
      constexpr int n = 96;
      Guides g(n, n);
      for (int y = 0; y < n; ++y)
        for (int x = 0; x < n; ++x) {
          g.set(g.at(x, y), {float(x) * pixel, float(-y) * pixel, 0}, {0, 0, 1}, Surface::Skin, true);
          g.spread[g.at(x, y)] = pixel;
        }
      Irradiance light(g);
      for (int y = 0; y < n; ++y)
        for (int x = 0; x < n; ++x) {
          const float lit = (lying ? y : x) < n / 2 ? 1.f : 0.f;
          light.set(x, y, {lit, lit, lit}, {1, 1, 1}, 0, true);
        }
      light.scatterInSkin();
      for (int k = -6; k < 6; ++k) {
        const int at = n / 2 + k;
        const Vec3 is = lying ? light.at(n / 2, at) : light.at(at, n / 2);
        for (int c = 0; c < 3; ++c) {
          // The edge runs between two pixels; a pixel shows the mean over its width.
          double wanted = 0;
          for (int m = 0; m < 32; ++m) {
            const double off = (k + (m + 0.5) / 32) * double(pixel / skinScatter()[size_t(c)]);
            const double share = scatteredWithin(float(std::abs(off)));
            wanted += (0.5 - (off > 0 ? share : -share)) / 32;
          }
          // The blur ends after twelve pixels, and a pixel of light is a box before it is spread.
          EXPECT_NEAR(is[c], wanted, 0.04) << pixel << " " << lying << " " << k << " " << c;
        }
      }
    }
}

// What a surface sends to the eye in light from everywhere, as a share of it.
template <class Sheen>
double fromEverywhere(double toEye, Sheen sheen) {
  const Vec3 v{float(std::sin(toEye)), 0, float(std::cos(toEye))};
  double sum = 0;
  const int rings = 200, round = 400;
  for (int i = 0; i < rings; ++i)
    for (int j = 0; j < round; ++j) {
      const double c = (i + 0.5) / rings, s = std::sqrt(1 - c * c), a = 2 * kPi * (j + 0.5) / round;
      const Vec3 l{float(s * std::cos(a)), float(s * std::sin(a)), float(c)}, h = normalize(l + v);
      sum += double(sheen(l.z, v.z, h.z, dot(v, h))) * c * 2 * kPi / (double(rings) * round);
    }
  return sum;
}

TEST(SkinReference, WhiteFurnaceOfSkinAndCloth) {
  for (double degreesOff : {0., 20., 40.}) {
    for (float oil : {0.12f, 0.3f, 0.6f}) {
      const double gives = double(kSkinGivesOn) +
                           fromEverywhere(radians(float(degreesOff)), [&](float nl, float nv, float nh, float vh) {
                             return skinSheen(nl, nv, nh, vh, oil);
                           });
      EXPECT_LE(gives, 1.002) << degreesOff << " " << oil;
      EXPECT_GE(gives, 0.975) << degreesOff << " " << oil;
    }
    for (const Cloth& cloth : cloths()) {
      const ClothCode look = clothOf(clothCode(cloth, 1));
      const double gives = double(givesOn(look)) +
                           fromEverywhere(radians(float(degreesOff)), [&](float nl, float nv, float nh, float vh) {
                             return clothSheen(nl, nv, nh, vh, look.sheen, look.roughness, look.fuzz);
                           });
      EXPECT_LE(gives, 1.002) << degreesOff << " " << cloth.id;
      EXPECT_GE(gives, 0.9) << degreesOff << " " << cloth.id;
    }
  }
}

Vec3 linear(int r, int g, int b) {
  auto one = [](int v) {
    const double s = v / 255.0;
    return float(s <= 0.04045 ? s / 12.92 : std::pow((s + 0.055) / 1.055, 2.4));
  };
  return {one(r), one(g), one(b)};
}
// Mean of the face as the camera meets it.
Vec3 faceOf(const Plan& plan) {
  const Scene scene(placedSetOf(plan), loadSitter(plan.sitter.id));
  Vec3 sum;
  int n = 0;
  for (float y = -0.06f; y < 0.05f; y += 0.004f)
    for (float x = -0.05f; x < 0.05f; x += 0.004f)
      if (const auto hit = scene.intersect(scene.studioPoint({x, y, 0.5f}), {0, 0, -1}, 1);
          hit && hit->surface == Surface::Skin) {
        sum += hit->albedo;
        ++n;
      }
  return sum / float(std::max(1, n));
}

// Every face, and every tone that a face can be given, has the hue of skin between the two patches and a little beyond:
// red over green, blue over green; and the tones go from lighter than the light patch to darker than the dark one.
TEST(SkinReference, FacesAndTonesHaveTheHueOfPublishedSkin) {
  const Vec3 light = linear(194, 150, 130), dark = linear(115, 82, 68);
  ASSERT_NEAR(luminance(light), 0.36, 0.015) << "Y of the chart: 35.8";
  ASSERT_NEAR(luminance(dark), 0.10, 0.01) << "Y of the chart: 10.1";
  const float leastRed = std::min(light.x / light.y, dark.x / dark.y) * 0.78f,
              mostRed = std::max(light.x / light.y, dark.x / dark.y) * 1.08f;
  const float leastBlue = std::min(light.z / light.y, dark.z / dark.y) * 0.78f,
              mostBlue = std::max(light.z / light.y, dark.z / dark.y) * 1.15f;
  Plan plan = test::demoPlan();
  const auto check = [&](const std::string& what) {
    const Vec3 face = faceOf(plan);
    EXPECT_GT(face.x / face.y, leastRed) << what;
    EXPECT_LT(face.x / face.y, mostRed) << what;
    EXPECT_GT(face.z / face.y, leastBlue) << what;
    EXPECT_LT(face.z / face.y, mostBlue) << what;
    return luminance(face);
  };
  for (const Person& p : sitterCatalogue()) {
    plan.sitter.id = p.id;
    const float y = check(p.id);
    EXPECT_NEAR(y, p.skin, 0.12 * p.skin) << p.id << ": as the list of people says";
  }
  plan.sitter.id = "ottoline";
  float before = 1;
  for (const Colouring& tone : skinTones()) {
    if (tone.id == "own") continue;
    plan.sitter.skinTone = tone.id;
    const float y = check(tone.id);
    EXPECT_LT(y, before * 0.88f) << tone.id;
    before = y;
  }
  EXPECT_LT(before, luminance(dark));
  plan.sitter.skinTone = skinTones()[1].id;
  EXPECT_GT(luminance(faceOf(plan)), luminance(light));
}

}  // namespace
}  // namespace easel
