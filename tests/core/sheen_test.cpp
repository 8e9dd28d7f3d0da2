// What mirrors on a person, each lobe found in every way that there is: by points of the lamp, by directions of the
// lobe, by both together, and by a plain sum over all directions. They are one number, or a highlight depends on how it
// was looked for.
#include <gtest/gtest.h>

#include "picture/lighting.h"
#include "picture/lit_points.h"
#include "plan/lamp.h"
#include "sitters/glasses.h"
#include "support.h"
#include "transport/fibre.h"

namespace easel {
namespace {

struct Bench {
  Plan plan = test::blackHall();
  std::shared_ptr<const Scene> scene;
  View view;
  Emitter lamp;
  Lighting lighting;

  // A box an arm's length from the point at the origin of the face, `aside` degrees from straight on.
  static Emitter boxAt(double aside) {
    const auto a = float(radians(float(aside)));
    const Vec3 centre = place() + Vec3{std::sin(a), 0, std::cos(a)} * 0.9f;
    return Emitter(*findModifier("softbox-60x90"), {centre, Frame::facing(place() - centre)});
  }
  static Vec3 place() { return {0, 1.4f, 0.5f}; }
  explicit Bench(double aside)
      : scene(std::make_shared<const Scene>(placedSetOf(plan), nullptr)),
        view{cameraPose(plan), 100, 100},
        lamp(boxAt(aside)),
        lighting(Source(boxAt(aside), {}).in(*scene), 1) {}

  struct Found {
    double direct = 0, sheen = 0;
  };
  Found both(const PixelSample& sample) const {
    constexpr int kRuns = 512;
    Found sum;
    for (int r = 0; r < kRuns; ++r) {
      LitPoints points;
      Lighting::Lit lit;
      for (int k = 0; k < kRun; ++k)
        points.add(sample, std::uint32_t(r), hashPair(5, std::uint32_t(r)), std::uint32_t(k));
      lighting.light(points, view, *scene, {}, lit);
      for (int k = 0; k < kRun; ++k) {
        sum.sheen += double(lit.sheen[size_t(k)]) / kRun / kRuns;
        sum.direct += double(luminance(lit.direct[k])) / kRun / kRuns;
      }
    }
    return sum;
  }
  // Over all directions about the normal, each as bright as the lamp is there.
  template <class Sent>
  double summed(Vec3 normal, Sent sent) const {
    constexpr std::uint32_t n = 4000000;
    const Frame frame = anyFrame(normal);
    double sum = 0;
    for (std::uint32_t i = 0; i < n; ++i) {
      const Vec2 u = sobol2(i, 3);
      const float z = 1 - 2 * u.x, r = std::sqrt(std::max(0.f, 1 - z * z)), a = 2 * kPiF * u.y;
      const Vec3 d = frame.toWorld({r * std::cos(a), r * std::sin(a), z});
      const auto seen = lamp.seen(place(), d, 1e6f);
      if (seen && *seen > 0) sum += double(*seen * sent(d)) * 4 * kPi / n;
    }
    return sum;
  }
};

PixelSample sampleOf(Surface surface, Vec3 normal, Vec3 facet, std::uint32_t code) {
  PixelSample s;
  s.position = Bench::place();
  s.normal = PackedDirection::of(normal);
  s.facet = PackedDirection::of(facet);
  s.special = PackedDirection::ofCode(code);
  s.albedo = PackedColour::of({0.25f, 0.25f, 0.25f}, surface);
  return s;
}

struct Cosines {
  float nl, nv, nh, vh;
};
Cosines cosines(Vec3 normal, Vec3 eye, Vec3 light) {
  const Vec3 h = normalize(eye + light);
  return {dot(normal, light), std::max(kLeastToEye, dot(normal, eye)), std::max(0.f, dot(normal, h)), dot(eye, h)};
}

// Grazing, with facets that look away from the lamp: 95 % of such a highlight was lost.
TEST(Sheen, OfSkinIsTheSameByTheLampByItsLobesAndByBoth) {
  for (const double aside : {20.0, 60.0, 78.0})
    for (const float turned : {0.f, 25.f}) {
      const Bench b(aside);
      const Vec3 eye = normalize(b.view.camera.eye - Bench::place());
      const Vec3 normal = normalize(Vec3{-0.15f, 0.05f, 1}), facet = rotateAbout(normal, {0, 1, 0}, radians(-turned));
      const PixelSample s = sampleOf(Surface::Skin, normal, facet, skinCode(160, 0));
      const Vec3 smooth = s.normal.unpacked();
      const float oil = oilOf(s.special.code());
      const double plain = b.summed(smooth, [&](Vec3 d) {
        const Cosines c = cosines(smooth, eye, d);
        return c.nl > 0 ? c.nl * skinSheen(c.nl, c.nv, c.nh, c.vh, oil) : 0.f;
      });
      double byLamp = 0;
      constexpr std::uint32_t n = 100000;
      for (std::uint32_t i = 0; i < n; ++i) {
        const auto e = b.lamp.sample(Bench::place(), sobol2(i, 9));
        const Cosines c = cosines(smooth, eye, e.direction);
        if (e.geometry > 0 && c.nl > 0)
          byLamp += double(e.geometry * c.nl * skinSheen(c.nl, c.nv, c.nh, c.vh, oil)) / n;
      }
      double byLobes = 0;
      for (std::uint32_t r = 0; r < 2000; ++r) {
        LitPoints points;
        for (int k = 0; k < kRun; ++k) points.add(s, 0, 0, 0);
        points.unpack(b.view.camera.eye);
        Run2 u;
        Run3 direction;
        Plane weight, density;
        std::array<std::uint8_t, kRun> oily;
        for (size_t k = 0; k < kRun; ++k) {
          const Vec2 at = sobol2(r * kRun + std::uint32_t(k), 21);
          u.x[k] = at.x;
          u.y[k] = at.y;
          oily[k] = hash32(r * kRun + std::uint32_t(k)) & 1;
        }
        mirroredRun(points, u, oily, direction, weight, density);
        for (int k = 0; k < kRun; ++k)
          if (weight[size_t(k)] > 0)
            if (const auto seen = b.lamp.seen(Bench::place(), direction[k], 1e6f))
              byLobes += double(*seen * weight[size_t(k)] / density[size_t(k)]) / (2000 * kRun);
      }
      const std::string at = fmt::format("{} degrees aside, facets turned {}", aside, turned);
      ASSERT_GT(plain, 0) << at;
      EXPECT_NEAR(byLamp / plain, 1, 0.01) << at;
      EXPECT_NEAR(byLobes / plain, 1, 0.02) << at << ": at grazing angles few of them meet the lamp";
      EXPECT_NEAR(b.both(s).sheen / plain, 1, 0.01) << at;
    }
}

TEST(Sheen, OfClothIsThatOfAllDirections) {
  for (const double aside : {20.0, 70.0}) {
    const Bench b(aside);
    const Vec3 eye = normalize(b.view.camera.eye - Bench::place()), normal = normalize(Vec3{-0.3f, 0.1f, 1});
    Cloth cloth;
    cloth.sheen = 0.1;
    cloth.roughness = 0.4;
    cloth.fuzz = 0.6;
    const PixelSample s =
        sampleOf(Surface::Cloth, normal, rotateAbout(normal, {0, 1, 0}, -0.3f), clothCode(cloth, 0.25f));
    const ClothCode look = clothOf(s.special.code());
    const Vec3 smooth = s.normal.unpacked();
    const double plain = b.summed(smooth, [&](Vec3 d) {
      const Cosines c = cosines(smooth, eye, d);
      return c.nl > 0 ? c.nl * clothSheen(c.nl, c.nv, c.nh, c.vh, look.sheen, look.roughness, look.fuzz) : 0.f;
    });
    EXPECT_NEAR(b.both(s).sheen / plain, 1, 0.01) << aside;
  }
}

TEST(Sheen, OfAStrandIsThatOfAllDirections) {
  for (const double aside : {20.0, 110.0, 160.0}) {
    const Bench b(aside);
    const Vec3 eye = normalize(b.view.camera.eye - Bench::place()), along = normalize(Vec3{0.2f, -1, 0.1f});
    PixelSample s = sampleOf(Surface::Hair, eye, eye, 0);
    s.special = PackedDirection::of(along);
    const Fibre& fibre = b.scene->fibre();
    const float share = luminance(s.albedo.unpacked()) / fibre.meant();
    const double plain = b.summed(eye, [&](Vec3 d) {
      const Fibre::Sent sent = fibre.sent(s.special.unpacked(), eye, d);
      return luminance(sent.coloured) * share + sent.mirrored;
    });
    EXPECT_NEAR(b.both(s).direct / plain, 1, 0.02) << aside;
  }
}

// Eye and lens mirror along one direction: what is seen there, times what the surface mirrors.
TEST(Sheen, OfEyeAndLensIsTheLampThatIsSeenInThem) {
  const Bench b(40);
  const Vec3 place = Bench::place(), eye = normalize(b.view.camera.eye - place);
  const Vec3 toLamp = normalize(b.lamp.pose().centre - place), half = normalize(eye + toLamp);
  PixelSample s = sampleOf(Surface::Eye, half, half, 0);
  s.special = PackedDirection::of(half);
  const Vec3 coat = s.special.unpacked();
  const float cosine = dot(eye, coat);
  const Vec3 mirrored = coat * (2 * cosine) - eye;
  const auto seen = b.lamp.seen(place + coat * 0.003f, mirrored, 1e6f);
  ASSERT_TRUE(seen && *seen > 0);
  EXPECT_NEAR(b.both(s).sheen / double(schlick(0.025f, cosine) * *seen), 1, 1e-3);
  // A coat that looks away shows nothing; it was a perfect mirror.
  s.special = PackedDirection::of(normalize(half - eye * (2 * dot(half, eye))));
  EXPECT_EQ(b.both(s).sheen, 0);
  PixelSample behindGlass = sampleOf(Surface::Backdrop, half, half, 0);
  behindGlass.lens = PackedDirection::of(half);
  EXPECT_NEAR(b.both(behindGlass).sheen / double(2 * mirroredByGlass(cosine) * *seen), 1, 0.01);
}

// In a white furnace (light from everywhere alike) no lobe gives back more than falls on it, from any side.
TEST(Sheen, NoLobeGivesBackMoreThanItGets) {
  const Vec3 normal{0, 0, 1};
  for (float slant = 0; slant < 88; slant += 8) {
    const Vec3 eye{std::sin(radians(slant)), 0, std::cos(radians(slant))};
    double skin = 0, cloth = 0;
    constexpr std::uint32_t n = 200000;
    for (std::uint32_t i = 0; i < n; ++i) {
      const Vec3 d = cosineDirection(anyFrame(normal), sobol2(i, 4));
      const Cosines c = cosines(normal, eye, d);
      skin += double(skinSheen(c.nl, c.nv, c.nh, c.vh, 0.6f)) * kPi / n;
      cloth += double(clothSheen(c.nl, c.nv, c.nh, c.vh, 0.2f, 0.4f, 0)) * kPi / n;
    }
    EXPECT_LT(skin, 0.6) << slant;
    EXPECT_LT(cloth, 0.6) << slant;
    if (slant < 41) {
      EXPECT_NEAR(skin, 0.03, 0.015) << slant << ": about F0";
      EXPECT_NEAR(cloth, 0.2, 0.06) << slant << ": about its share";
    }
    EXPECT_LE(schlick(0.025f, dot(normal, eye)), 1) << slant;
  }
}

}  // namespace
}  // namespace easel
