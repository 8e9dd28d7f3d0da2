#include <gtest/gtest.h>
#include <oneapi/tbb/global_control.h>
#include <oneapi/tbb/task_arena.h>

#include "colour/colour.h"
#include "formats/plan_json.h"
#include "picture/develop.h"
#include "picture/lighting.h"
#include "plan/roles.h"
#include "rendering/progressive_render.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

constexpr int kW = 80, kH = 100;

ProgressiveRender finished(const Plan& plan, int passes = 8, bool smooth = true) {
  ProgressiveRender s(kW, kH);
  s.setSmooth(smooth);
  s.setPlan(plan);
  s.finish(passes);
  return s;
}
std::vector<float> planes(const Layers& layers, const Plan& plan, const Show& show = {}) {
  std::vector<float> p[3], all;
  linearPicture(layers, placedSetOf(plan), show, p);
  for (auto& plane : p) all.insert(all.end(), plane.begin(), plane.end());
  return all;
}
double mean(const std::vector<float>& v) {
  double s = 0;
  for (float x : v) s += x;
  return s / double(v.size());
}
Plan twoLights() {
  Plan p = test::demoPlan();
  Light fill = p.lights[0];
  fill.id = "B";
  fill.role = Role::Fill;
  fill.hour = 7.5;
  fill.modifier = "softbox-60x90";
  fill.power = -5;
  p.lights.push_back(fill);
  return p;
}

TEST(Layers, SumOfSolosIsTheWholeToFloatPrecision) {
  Plan plan = twoLights();
  plan.ambient.lux = 0;
  const ProgressiveRender s = finished(plan);
  const auto all = planes(s.layers(), plan), a = planes(s.layers(), plan, {Show::What::Solo, "A"}),
             b = planes(s.layers(), plan, {Show::What::Solo, "B"});
  ASSERT_GT(mean(all), 0.01);
  for (size_t i = 0; i < all.size(); ++i) ASSERT_NEAR(a[i] + b[i], all[i], 2e-6 * (1 + all[i]));
}

// Beer and Lambert: what reaches the lens fades by exp(-extinction x way). Even light glows in the air as it does
// beyond it, so what fades comes back from before.
TEST(Layers, HazeTakesOfWhatHasBouncedAndOfTheAmbientWhatTheWayTellsIt) {
  Plan plan = test::demoPlan();
  plan.haze = 0;
  const ProgressiveRender clear = finished(plan, 8, false);
  plan.haze = 0.1;
  const ProgressiveRender hazy = finished(plan, 8, false);
  const LayerPicture &a = *clear.layers().ambient, &b = *hazy.layers().ambient;
  int asked = 0;
  for (int y = 5; y < kH; y += 7)
    for (int x = 5; x < kW; x += 7) {
      const auto hit = surfaceAt(clear.layers(), x + 0.5, y + 0.5);
      ASSERT_TRUE(hit);
      // Even about there: a pixel and its neighbours are as far.
      bool even = true;
      for (int k = 0; k < 9; ++k) {
        const auto beside = surfaceAt(clear.layers(), x + k % 3 - 0.5, y + k / 3 - 0.5);
        even &= beside && beside->surface == Surface::Backdrop;
      }
      if (!even) continue;
      const size_t i = size_t(y * kW + x);
      const float passes = std::exp(-0.1f * length(hit->position - clear.layers().view.camera.eye));
      EXPECT_NEAR(b.g[i], a.g[i] * passes + (1 - passes) / kPiF, 0.004 * (1 + a.g[i])) << x << " " << y;
      ++asked;
    }
  EXPECT_GT(asked, 20);

  const auto bounced = [&](double haze, const Plan& as) {
    Plan p = as;
    p.haze = haze;
    const auto scene = std::make_shared<const Scene>(placedSetOf(p), loadSitter(p.sitter.id));
    SampleSets sets(scene, View{cameraPose(p, 0.8), 16, 20});
    sets.build(0, Interrupt());
    // The way from the lamp fades in another place (emitter_test.cpp): here it is as in clear air.
    Plan lit = p;
    lit.haze = 0;
    const Lighting lamp(sourceOf(*scene, placedSetOf(lit), test::placed(lit, p.lights[0])), 1);
    BounceRun run;
    for (int y = 0; y < 8; ++y)
      for (int x = 0; x < 8; ++x)
        run.add(sets.set(0)[sets.pixelOfHalf(x, y)], sets.bounces(0)[size_t(y * 8 + x)], 0, 7, std::uint32_t(x));
    Run3 light;
    lamp.bounced(run, sets.view(), *scene, {}, light);
    std::vector<std::pair<float, float>> out;  // light and way to the lens
    for (int k = 0; k < run.n; ++k) out.emplace_back(luminance(light[k]), length(run.here[k] - sets.view().camera.eye));
    return out;
  };
  const auto without = bounced(0, plan), with = bounced(0.1, plan);
  double all = 0;
  for (size_t k = 0; k < without.size(); ++k) {
    EXPECT_NEAR(with[k].first, without[k].first * std::exp(-0.1f * without[k].second), 1e-4f * without[k].first);
    all += double(without[k].first);
  }
  EXPECT_GT(all, 0);
}

// A strand tries several points of the front and asks about one: the same in the mean as one point at a time, surer.
TEST(Layers, StrandsGetTheSameLightOfPointsThatAreChosen) {
  Plan plan = test::masterPlan();
  const Light strip = proposeLight(plan, "kicker").light;
  const auto scene = std::make_shared<const Scene>(placedSetOf(plan), loadSitter(plan.sitter.id));
  SampleSets sets(scene, View{cameraPose(plan, 0.8), kW, kH});
  sets.build(0, Interrupt());
  std::vector<const PixelSample*> strands;
  for (const PixelSample& s : sets.set(0))
    if (s.albedo.surface == Surface::Hair && strands.size() < 1200) strands.push_back(&s);
  ASSERT_GT(strands.size(), 300u);
  const Lighting lamp(sourceOf(*scene, placedSetOf(plan), test::placed(plan, strip)), 1);
  struct Found {
    double mean = 0, variance = 0;
  };
  const auto ask = [&](bool firstLook) {
    constexpr std::uint32_t kPasses = 128;
    Found all;
    for (size_t i = 0; i < strands.size(); ++i) {
      LitPoints points;
      Lighting::Lit lit;
      double sum = 0, squares = 0;
      for (std::uint32_t pass = 0; pass < kPasses; ++pass)
        points.add(*strands[i], std::uint32_t(i), 7u * std::uint32_t(i), pass);
      if (firstLook)
        lamp.firstLook(points, sets.view(), *scene, 1, {}, lit);
      else
        lamp.light(points, sets.view(), *scene, {}, lit);
      for (int k = 0; k < points.n; ++k) {
        const auto y = double(luminance(lit.direct[k]));
        sum += y;
        squares += y * y;
      }
      all.mean += sum / kPasses;
      all.variance += squares / kPasses - sum * sum / kPasses / kPasses;
    }
    return all;
  };
  static_assert(kRun >= 128);
  const Found plain = ask(true), chosen = ask(false);
  ASSERT_GT(plain.mean, 0);
  EXPECT_NEAR(chosen.mean, plain.mean, 0.01 * plain.mean);
  EXPECT_LT(chosen.variance, 0.5 * plain.variance);
}

TEST(Layers, OneStopOfPowerIsTwiceTheLight) {
  Plan plan = test::demoPlan();
  plan.ambient.lux = 0;
  const ProgressiveRender s = finished(plan);
  const auto before = planes(s.layers(), plan);
  Plan more = plan;
  more.lights[0].power += 1;
  const auto after = planes(s.layers(), more);
  for (size_t i = 0; i < before.size(); ++i) ASSERT_NEAR(after[i], 2 * before[i], 1e-5 * (1 + after[i]));
  more.camera.aperture *= std::sqrt(2.0);
  const auto back = planes(s.layers(), more);
  for (size_t i = 0; i < before.size(); ++i) ASSERT_NEAR(back[i], before[i], 1e-5 * (1 + before[i]));
}

// Hair is met anew after the eighth pass; what the room shows it stays the same.
TEST(Layers, AmbientInHairKeepsItsLevelAsPassesGoOn) {
  Plan plan = test::demoPlan();
  plan.ambient.lux = 400;
  const auto inHair = [&](int passes) {
    const ProgressiveRender s = finished(plan, passes, false);
    std::vector<float> p[3];
    linearPicture(s.layers(), placedSetOf(plan), {Show::What::Ambient, {}}, p);
    double sum = 0;
    int count = 0;
    for (int y = 0; y < kH; ++y)
      for (int x = 0; x < kW; ++x)
        if (const auto hit = surfaceAt(s.layers(), x + 0.5, y + 0.5); hit && hit->surface == Surface::Hair) {
          sum += double(p[1][size_t(y) * kW + size_t(x)]);
          ++count;
        }
    EXPECT_GT(count, 50);
    return sum / count;
  };
  const double young = inHair(8), old = inHair(64);
  EXPECT_NEAR(old, young, 0.03 * young);
}

TEST(Layers, ShutterChangesAmbientAloneIsoChangesBoth) {
  Plan plan = test::demoPlan();
  plan.ambient.lux = 400;
  const ProgressiveRender s = finished(plan);
  auto level = [&](const Plan& p, Show::What what) { return mean(planes(s.layers(), p, {what, "A"})); };
  const double flash = level(plan, Show::What::Solo), ambient = level(plan, Show::What::Ambient);
  Plan slow = plan;
  slow.camera.shutter *= 4;
  EXPECT_NEAR(level(slow, Show::What::Solo), flash, 1e-6 * flash);
  EXPECT_NEAR(level(slow, Show::What::Ambient), 4 * ambient, 1e-4 * ambient);
  Plan iso = plan;
  iso.camera.iso *= 4;
  EXPECT_NEAR(level(iso, Show::What::Solo), 4 * flash, 1e-4 * flash);
  EXPECT_NEAR(level(iso, Show::What::Ambient), 4 * ambient, 1e-4 * ambient);
}

TEST(Layers, ALightThatIsOffGivesNothingButCanBeSeenAlone) {
  Plan plan = test::demoPlan();
  plan.lights[0].on = false;
  plan.ambient.lux = 0;
  const ProgressiveRender s = finished(plan);
  EXPECT_EQ(mean(planes(s.layers(), plan)), 0);
  EXPECT_GT(mean(planes(s.layers(), plan, {Show::What::Solo, "A"})), 0.01);
}

TEST(Layers, SamePlanSamePictureWhateverTheOrderOfWork) {
  const Plan plan = twoLights();
  const ProgressiveRender a = finished(plan);
  // Another studio that was interrupted, moved about and brought back.
  ProgressiveRender b(kW, kH);
  Plan other = plan;
  other.lights[0].hour = 8;
  b.setPlan(other);
  b.finish(3);
  std::atomic<std::uint64_t> epoch{0};
  const Interrupt raised = [&] {
    Interrupt i(epoch);
    ++epoch;
    return i;
  }();
  b.improve(raised);
  b.setPlan(plan);
  b.finish(8);
  EXPECT_EQ(planes(a.layers(), plan), planes(b.layers(), plan));
}

TEST(Layers, OneTwoAndFourThreadsGiveOnePicture) {
  // More than the machine may have: then they take turns.
  const tbb::global_control four(tbb::global_control::max_allowed_parallelism, 4);
  std::vector<std::uint8_t> one;
  for (int threads : {1, 2, 4}) {
    tbb::task_arena arena(threads);
    const Picture p = arena.execute([] { return renderPicture(test::demoPlan(), 48, 60, 6); });
    if (one.empty()) one = p.rgba;
    EXPECT_EQ(p.rgba, one) << threads;
  }
  int lit = 0;
  for (size_t i = 0; i < one.size(); i += 4) lit += one[i] > 100;
  EXPECT_GT(lit, 20) << "there is a face in it";
}

TEST(Layers, SmoothingKeepsTheAmountOfLight) {
  Plan plan = test::demoPlan();
  const double plain = mean(planes(finished(plan, 64, false).layers(), plan));
  EXPECT_NEAR(mean(planes(finished(plan, 8, true).layers(), plan)), plain, 0.02 * plain);
}

TEST(Layers, ThePreviewIsAlreadyRight) {
  const Plan plan = test::demoPlan();
  ProgressiveRender s(kW * 2, kH * 2);
  s.setPlan(plan);
  const Interrupt never;
  while (s.improve(never) != ProgressiveRender::Progress::Improved) {
  }
  ASSERT_TRUE(s.layers().usable);
  EXPECT_EQ(s.layers().passes, 0);
  const double early = mean(planes(s.layers(), plan));
  s.finish(32);
  EXPECT_NEAR(early, mean(planes(s.layers(), plan)), 0.05 * early);
}

TEST(Layers, NoValueIsNegativeOrNotANumber) {
  const Plan plan = twoLights();
  for (float v : planes(finished(plan, 3).layers(), plan)) {
    ASSERT_TRUE(std::isfinite(v));
    ASSERT_GE(v, 0);
  }
}

TEST(Develop, MidGreyLandsMidScaleAndWhiteIsReachedSmoothly) {
  EXPECT_EQ(std::lround(255 * toneCurve(0.18)), std::lround(255 * srgbEncode(0.18)));
  EXPECT_EQ(toneCurve(0), 0);
  EXPECT_EQ(toneCurve(-1), 0);
  double last = -1;
  for (double x = 0; x < 8; x += 0.01) {
    EXPECT_GE(toneCurve(x), last);
    last = toneCurve(x);
  }
  EXPECT_NEAR(toneCurve(8), 1, 1e-3);
  EXPECT_LT(toneCurve(0.84), 0.93) << "white paper at metered exposure is not burnt out";
}

TEST(Develop, ACardAtMeteredExposureComesOutAtItsReflectance) {
  // Facing the light: L = rho H / pi per second; metered N gives H = N^2 C / S.
  const double h = 8 * 8 * 250 / 100.0, luminance = 0.18 * h / kPi;
  EXPECT_NEAR(luminance * cameraGain(100, 8), 0.18, 1e-12);
}

TEST(Develop, TableFollowsTheCurve) {
  LayerPicture layer;
  layer.width = 100;
  layer.height = 1;
  for (int i = 0; i < 100; ++i) {
    layer.r.push_back(float(i) * 0.03f);
    layer.g.push_back(float(i) * 0.003f);
    layer.b.push_back(i == 99 ? 1e9f : 0.0001f * float(i));
  }
  const WeightedLayer w[] = {{&layer, {1, 1, 1}}};
  std::vector<std::uint8_t> rgba;
  develop(w, 100, 1, rgba);
  for (int i = 0; i < 100; ++i) {
    EXPECT_NEAR(rgba[size_t(i) * 4], 255 * toneCurve(layer.r[size_t(i)]), 1.01);
    EXPECT_NEAR(rgba[size_t(i) * 4 + 1], 255 * toneCurve(layer.g[size_t(i)]), 1.01);
    EXPECT_NEAR(rgba[size_t(i) * 4 + 2], 255 * toneCurve(layer.b[size_t(i)]), 1.01);
    EXPECT_EQ(rgba[size_t(i) * 4 + 3], 255);
  }
}

// A gridded strip behind the sitter: most of its picture is black, and what it is for is a line one pixel wide.
TEST(Layers, AnEdgeLightsTimeGoesToItsEdge) {
  Plan plan = test::demoPlan();
  plan.ambient.lux = 0;
  Light& l = plan.lights[0];
  l.modifier = "strip-30x120-grid";
  l.hour = 10.8;
  l.distance = 1.2;
  l.height = 1.6;
  l.power = 0;
  auto picture = [&](int passes, std::uint32_t seed) {
    ProgressiveRender s(kW, kH);
    s.setSeed(seed);
    s.setPlan(plan);
    s.finish(passes);
    std::vector<float> toned = planes(s.layers(), plan);
    for (float& v : toned) v = float(toneCurve(v));
    return toned;
  };
  // Its own camera samples: an error that both share would not be seen.
  const std::vector<float> truth = picture(384, 1);
  auto error = [&](int passes) {
    const std::vector<float> now = picture(passes, 0);
    double sum = 0;
    for (size_t i = 0; i < now.size(); ++i) sum += double(now[i] - truth[i]) * double(now[i] - truth[i]);
    return std::sqrt(sum / double(now.size()));
  };
  ASSERT_LT(mean(truth), 0.2) << "mostly dark";
  const double four = error(4), sixteen = error(16), sixtyFour = error(64);
  // Even samples would halve the error with four times the passes; by noise it goes faster, at less than half the work.
  EXPECT_LT(sixteen, 0.5 * four) << four << " " << sixteen << " " << sixtyFour;
  EXPECT_LT(sixtyFour, sixteen);
  EXPECT_LT(sixteen, 0.02) << "RMSE after the tone curve";
}

}  // namespace
}  // namespace easel
