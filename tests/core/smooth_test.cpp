// The noise filter and the scattering in skin: what they may change, and what they must not.
#include "picture/smooth.h"

#include <gtest/gtest.h>

#include "picture/layer.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/sampling.h"

namespace easel {
namespace {

constexpr int kW = 160, kH = 200;

class SmoothTest : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    const Plan plan = test::demoPlan();
    sets = new SampleSets(std::make_shared<const Scene>(placedSetOf(plan), loadSitter(plan.sitter.id)),
                          View{cameraPose(plan, 0.8), kW, kH});
    sets->build(0, Interrupt());
  }
  static void TearDownTestSuite() {
    delete sets;
    sets = nullptr;
  }
  // Fills with irradiance / pi from f(x, y), on grey of the camera's own albedo, and gives back the picture / albedo.
  template <class F, class G>
  std::vector<Vec3> filtered(F light, G work) {
    Irradiance e(sets->guides(1));
    for (int y = 0; y < kH; ++y)
      for (int x = 0; x < kW; ++x) {
        const Vec3 a = sets->meanAlbedo(1, size_t(y) * kW + size_t(x));
        const Vec3 v = light(x, y);
        // Below 0.002 an albedo counts as 0.002: nothing is divided by less.
        e.set(x, y, v * Vec3{std::max(0.002f, a.x), std::max(0.002f, a.y), std::max(0.002f, a.z)}, a, 0, true);
      }
    work(e);
    LayerPicture p;
    p.r.resize(kW * kH);
    p.g.resize(kW * kH);
    p.b.resize(kW * kH);
    e.finish(*sets, p);
    std::vector<Vec3> out;
    for (size_t i = 0; i < p.r.size(); ++i) {
      const Vec3 a = sets->meanAlbedo(1, i);
      out.push_back({p.r[i] / std::max(0.002f, a.x), p.g[i] / std::max(0.002f, a.y), p.b[i] / std::max(0.002f, a.z)});
    }
    return out;
  }
  Surface surfaceAt(int x, int y) { return sets->set(0)[size_t(y) * kW + size_t(x)].albedo.surface; }
  static SampleSets* sets;
};
SampleSets* SmoothTest::sets = nullptr;

TEST_F(SmoothTest, WhereSurfacesShareAPixelEachGivesItsShareOfTheBounce) {
  SampleSets whole(sets->sceneShared(), sets->view());
  for (int set = 0; set < kSampleSets; ++set) whole.build(set, Interrupt());
  const Guides &full = whole.guides(1), &half = whole.guides(2);
  // Every surface its own light, so that what a pixel gets tells whom it took it from.
  const auto lightOf = [](std::int32_t surface) { return 1 + 0.5f * float(surface); };
  Irradiance bounced(half), on(full);
  for (int y = 0; y < half.height; ++y)
    for (int x = 0; x < half.width; ++x) {
      const float v = lightOf(half.surface[half.at(x, y)]);
      bounced.set(x, y, {v, v, v}, {1, 1, 1}, 0, true);
    }
  bounced.addToFull(on);
  LayerPicture p;
  for (auto* plane : {&p.r, &p.g, &p.b}) plane->resize(full.surface.size());
  on.finish(whole, p);
  int shared = 0, pure = 0;
  for (int y = 8; y < kH - 8; ++y)
    for (int x = 8; x < kW - 8; ++x) {
      const size_t i = full.at(x, y);
      const float albedo = whole.meanAlbedo(kSampleSets, i).y;
      if (albedo < 0.02f) continue;
      // Both must be there in the half picture, beside the pixel.
      bool most = false, other = false;
      for (int dy = 0; dy <= 1; ++dy)
        for (int dx = 0; dx <= 1; ++dx) {
          const auto surface = half.surface[half.at(x / 2 + dx, y / 2 + dy)];
          most |= surface == full.surface[i];
          other |= surface == full.other[i];
        }
      if (!most || (full.other[i] >= 0 && !other)) continue;
      const float w = full.otherShare[i],
                  is = (1 - w) * lightOf(full.surface[i]) + w * lightOf(full.other[i] < 0 ? 0 : full.other[i]);
      EXPECT_NEAR(p.g[i] / albedo, is, 0.03f * is) << x << " " << y;
      (w > 0 ? shared : pure) += 1;
    }
  EXPECT_GT(shared, 100);
  EXPECT_GT(pure, 10000);
}

TEST_F(SmoothTest, DarkTilesAreLeftOutAndNothingElseChanges) {
  // Light at one place of the backdrop: the same filter over a picture with a trace of light everywhere must give the
  // same there, and the dark rest must stay dark.
  auto spotOf = [](float everywhere) {
    return [everywhere](int x, int y) {
      return Vec3{1, 1, 1} * (everywhere + (std::abs(x - 20) < 3 && std::abs(y - 20) < 3 ? 1.f : 0.f));
    };
  };
  auto work = [](Irradiance& e) {
    e.smooth(3, 1);
    e.smoothWide(4);
    e.scatterInSkin();
  };
  const auto alone = filtered(spotOf(0), work), among = filtered(spotOf(1e-6f), work);
  double most = 0;
  for (size_t i = 0; i < alone.size(); ++i) {
    EXPECT_NEAR(alone[i].x, among[i].x, 2e-4) << i % kW << " " << i / kW;
    most = std::max(most, double(alone[i].x));
  }
  EXPECT_GT(most, 0.05);
  EXPECT_EQ(alone[size_t(150) * kW + 80].x, 0);
}

TEST_F(SmoothTest, EvenLightStaysEven) {
  const auto out = filtered(
      [](int, int) {
        return Vec3{0.5f, 0.5f, 0.5f};
      },
      [](Irradiance& e) {
        e.smooth(4, 1);
        e.scatterInSkin();
      });
  for (const Vec3& v : out) ASSERT_NEAR(v.y, 0.5f, 1e-4f);
}

TEST_F(SmoothTest, NoiseOnTheBackdropGoesAndItsMeanStays) {
  auto noisy = [](int x, int y) {
    const float v = unitFloat(hash32(std::uint32_t(y * kW + x)));
    return Vec3{v, v, v};
  };
  const auto out = filtered(noisy, [](Irradiance& e) { e.smooth(4, 1); });
  double before = 0, after = 0, sum = 0, n = 0, sumBefore = 0;
  for (int y = 0; y < kH; ++y)
    for (int x = 0; x < kW; ++x)
      if (surfaceAt(x, y) == Surface::Backdrop) {
        const double b = double(noisy(x, y).y), a = double(out[size_t(y) * kW + size_t(x)].y);
        before += (b - 0.5) * (b - 0.5);
        after += (a - 0.5) * (a - 0.5);
        sum += a;
        sumBefore += b;
        ++n;
      }
  EXPECT_LT(after, 0.1 * before);
  EXPECT_NEAR(sum / n, sumBefore / n, 0.015) << "the luminance stop costs a little at extreme noise";
}

TEST_F(SmoothTest, LightDoesNotLeakFromOneSurfaceToAnother) {
  // Only the backdrop is lit: the sitter must stay dark to the last pixel of the outline.
  auto backdropOnly = [&](int x, int y) { return surfaceAt(x, y) == Surface::Backdrop ? Vec3{1, 1, 1} : Vec3{}; };
  const auto out = filtered(backdropOnly, [](Irradiance& e) {
    e.smooth(4, 1);
    e.scatterInSkin();
  });
  for (int y = 0; y < kH; ++y)
    for (int x = 0; x < kW; ++x)
      if (surfaceAt(x, y) != Surface::Backdrop) {
        ASSERT_EQ(out[size_t(y) * kW + size_t(x)].y, 0) << x << " " << y;
      }
}

TEST_F(SmoothTest, AKnownQuietEdgeIsKept) {
  // With a measured noise of nothing, a shadow edge on the backdrop stays as sharp as it was.
  auto step = [](int x, int) { return x < 30 ? Vec3{1, 1, 1} : Vec3{0.2f, 0.2f, 0.2f}; };
  const auto out = filtered(step, [](Irradiance& e) { e.smooth(3, 8); });
  for (int y = 10; y < 60; ++y) {
    EXPECT_NEAR(out[size_t(y) * kW + 29].y, 1, 0.02f);
    EXPECT_NEAR(out[size_t(y) * kW + 30].y, 0.2f, 0.02f);
  }
}

TEST_F(SmoothTest, RedGoesFurtherInSkinThanBlueAndNoLightIsLost) {
  // A hard shadow down the middle of the face, in white light.
  auto half = [&](int x, int y) { return surfaceAt(x, y) == Surface::Skin && x > kW / 2 ? Vec3{1, 1, 1} : Vec3{}; };
  const auto out = filtered(half, [](Irradiance& e) { e.scatterInSkin(); });
  double red = 0, blue = 0;
  int rows = 0;
  for (int y = 60; y < 100; ++y) {
    if (surfaceAt(kW / 2 - 1, y) != Surface::Skin || surfaceAt(kW / 2 + 2, y) != Surface::Skin) continue;
    red += double(out[size_t(y) * kW + kW / 2].x);
    blue += double(out[size_t(y) * kW + kW / 2].z);
    ++rows;
  }
  ASSERT_GT(rows, 10);
  EXPECT_GT(red, 1.05 * blue) << "the shadow's rim glows red";
  double before = 0, after = 0;
  for (int y = 60; y < 100; ++y)
    for (int x = 0; x < kW; ++x) {
      before += double(half(x, y).y);
      after += double(out[size_t(y) * kW + size_t(x)].y);
    }
  EXPECT_NEAR(after, before, 0.03 * before);
}

}  // namespace
}  // namespace easel
