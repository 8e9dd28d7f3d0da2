// Scattering of hair against what the published models say of it: S. Marschner and others, "Light scattering from human
// hair fibers", SIGGRAPH 2003; E. d'Eon and others, "An energy-conserving hair reflectance model", EGSR 2011; M. Chiang
// and others, Computer Graphics Forum 35(2), 2016.
#include <gtest/gtest.h>

#include <cmath>

#include "transport/fibre.h"
#include "transport/sampling.h"

namespace easel {
namespace {

constexpr Vec3 kAlong{1, 0, 0};
constexpr Vec3 kWhite{1, 1, 1};
Vec3 at(float slant, float turn) {
  return {std::sin(slant), std::cos(slant) * std::cos(turn), std::cos(slant) * std::sin(turn)};
}
Fibre byItself(Vec3 absorption) {
  Fibre::Surface s;
  s.beside = 0;
  return {absorption, kWhite, s};
}

// All that leaves a strand under even light of one unit from everywhere: by reciprocity what it sends anywhere.
struct Furnace {
  double coloured[3] = {}, mirrored = 0;
};
Furnace furnace(const Fibre& f, float slant) {
  Furnace out;
  constexpr int kRays = 120000;
  for (int i = 0; i < kRays; ++i) {
    const Vec2 u = sobol2(std::uint32_t(i), 5);
    const float y = 1 - 2 * u.x;
    const Fibre::Sent s = f.sent(kAlong, at(slant, 0), at(std::asin(y), 2 * kPiF * u.y));
    const double each = 4 * kPi / kRays;
    for (int c = 0; c < 3; ++c) out.coloured[c] += double(s.coloured[c]) * each;
    out.mirrored += double(s.mirrored) * each;
  }
  return out;
}

// d'Eon and others: a strand that absorbs nothing gives back all that it gets, from whichever side.
TEST(HairScattering, AStrandThatAbsorbsNothingGivesBackAll) {
  const Fibre f = byItself({});
  for (float slant : {0.f, 0.3f, 0.7f, 1.1f}) {
    const Furnace all = furnace(f, slant);
    for (double c : all.coloured) EXPECT_NEAR(c + all.mirrored, 1, 0.03) << slant;
  }
}

TEST(HairScattering, WithPigmentItGivesBackLessAndNeverMore) {
  double last = 1.02;
  for (double eumelanin : {0.05, 0.3, 1.3, 4.0, 8.0}) {
    const Furnace all = furnace(byItself(Fibre::absorptionOf(eumelanin, 0)), 0.2f);
    const double green = all.coloured[1] + all.mirrored;
    EXPECT_LT(green, last) << eumelanin;
    EXPECT_GE(all.coloured[0], all.coloured[1]) << "eumelanin absorbs blue most";
    EXPECT_GE(all.coloured[1], all.coloured[2]);
    last = green;
  }
}

// Fresnel at right angles on keratin, index 1.55: 4.65 %; round a cylinder, averaged over its width, the mean is
// greater (numerically 7.0 %, by the integral of Fresnel's equations over the width).
TEST(HairScattering, TheMirroredPartIsFresnelsOverTheWidth) {
  double mean = 0;
  constexpr int n = 2000;
  for (int i = 0; i < n; ++i) {
    const double h = (i + 0.5) / n, ci = std::sqrt(1 - h * h), ct = std::sqrt(1 - h * h / (1.55 * 1.55));
    const double s = (ci - 1.55 * ct) / (ci + 1.55 * ct), p = (1.55 * ci - ct) / (1.55 * ci + ct);
    mean += (s * s + p * p) / 2 / n;
  }
  EXPECT_NEAR(furnace(byItself({20, 20, 20}), 0).mirrored, mean, 0.004);
}

// Where along the strand a lobe is strongest, for an eye at that slant.
template <class Part>
float strongest(const Fibre& f, float eye, float turn, Part part) {
  float best = -1, where = 0;
  for (float slant = -1.4f; slant < 1.4f; slant += 0.002f)
    if (const float s = part(f.sent(kAlong, at(eye, 0), at(slant, turn))); s > best) {
      best = s;
      where = slant;
    }
  return where;
}

// Marschner and others, section 3 and figure 8: scales tilt the mirrored highlight by twice their angle one way, the
// light that has been inside the other way; what has gone through by half of the highlight's.
TEST(HairScattering, TheHighlightsAreShiftedAlongTheStrand) {
  Fibre::Surface s;
  s.along = 0.1f;
  s.tilt = 3;
  s.beside = 0;
  const Fibre f({0.3f, 0.3f, 0.3f}, kWhite, s);
  const float tilt = radians(3.f);
  for (float eye : {-0.2f, 0.f, 0.35f}) {
    const float mirrored = strongest(f, eye, 0.3f, [](const auto& sent) { return sent.mirrored; });
    EXPECT_NEAR(mirrored, -eye - 2 * tilt, 0.01f) << "towards the root";
    const float inside = strongest(f, eye, 0.3f, [](const auto& sent) { return sent.coloured.x; });
    EXPECT_NEAR(inside, -eye + 4 * tilt, 0.02f) << "towards the tip";
    const float through = strongest(f, eye, kPiF, [](const auto& sent) { return sent.coloured.x; });
    EXPECT_NEAR(through, -eye + tilt, 0.01f);
  }
}

// Figure 9 there: light hair sends most of it on, dark hair hardly more than its highlight.
TEST(HairScattering, BlondGlowsFromBehindAndBlackShowsOnlyItsHighlight) {
  const Fibre blond = byItself(Fibre::absorptionOf(0.016, 0.047)), black = byItself(Fibre::absorptionOf(8, 0));
  const auto behind = [](const Fibre& f) { return f.sent(kAlong, at(0, 0), at(0.05f, kPiF)); };
  EXPECT_GT(luminance(behind(blond).coloured), 50 * luminance(behind(black).coloured));
  const Fibre::Sent front = black.sent(kAlong, at(0, 0), at(-0.08f, 0.4f));
  EXPECT_GT(front.mirrored, 20 * luminance(front.coloured));
  EXPECT_GT(behind(blond).coloured.x, 1.05f * behind(blond).coloured.z) << "and it is warm";
  EXPECT_GT(blond.passes(), 0.7f);
  EXPECT_LT(black.passes(), 0.15f);
}

// Equation 9 of Chiang and others: strands with the absorption that it asks for, counted through a mass of them, give
// the reflectance back. Their fit is to whole masses; here the order and the ends of the scale are held.
TEST(HairScattering, AbsorptionForAReflectanceFallsAsTheyFound) {
  const Vec3 light = Fibre::absorptionOf({0.9f, 0.6f, 0.3f});
  EXPECT_LT(light.x, light.y);
  EXPECT_LT(light.y, light.z);
  EXPECT_FLOAT_EQ(Fibre::absorptionOf(kWhite).x, 0);
  // Worked by hand for a roughness of 0.32: (ln 0.3 / 5.8671)^2.
  EXPECT_NEAR(light.z, 0.04211, 0.0002);
}

}  // namespace
}  // namespace easel
