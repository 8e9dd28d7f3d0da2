// The picture at the pixels of the screen: its tiles are parts of one picture, traced anywhere, in any order.
#include "rendering/sharp.h"

#include <gtest/gtest.h>

#include <cmath>

#include "plan/framing.h"
#include "support.h"

namespace easel {
namespace {

std::vector<std::uint8_t> assembled(SharpPicture& sharp, const SharpWish& wish) {
  std::vector<std::uint8_t> all(size_t(wish.width) * size_t(wish.height) * 4, 7);
  const Interrupt never;
  while (auto tile = sharp.next(never))
    for (int y = 0; y < tile->picture.height; ++y)
      std::copy_n(tile->picture.rgba.begin() + long(y) * tile->picture.width * 4, tile->picture.width * 4,
                  all.begin() + (long(y + tile->top) * wish.width + tile->left) * 4);
  return all;
}

double meanDifference(const std::vector<std::uint8_t>& a, const std::vector<std::uint8_t>& b) {
  double sum = 0;
  for (size_t i = 0; i < a.size(); ++i) sum += std::abs(int(a[i]) - int(b[i]));
  return sum / double(a.size());
}

TEST(SharpPicture, APartOfTheViewLooksWhereTheWholeLooks) {
  const Plan plan = test::demoPlan();
  const View whole{cameraPose(plan), 400, 500};
  const View part{cameraPose(plan), 100, 120, 150, 200, 400, 500};
  for (float x : {0.5f, 40.f, 99.f})
    for (float y : {0.5f, 77.f, 119.f}) {
      const Vec3 a = part.direction(x, y), b = whole.direction(x + 150, y + 200);
      EXPECT_NEAR(length(a - b), 0, 1e-6);
    }
  Layers l;
  l.width = part.width;
  l.height = part.height;
  l.view = part;
  const Vec3 point = whole.camera.eye + whole.direction(200, 260) * 2.f;
  const auto at = pixelOf(l, point);
  ASSERT_TRUE(at);
  EXPECT_NEAR(at->x, 50, 0.01);
  EXPECT_NEAR(at->y, 60, 0.01);
}

// Against the ordinary way to the same picture, traced whole: no more apart than two seeds of it are.
TEST(SharpPicture, TilesAreTheWholePicture) {
  Plan plan = test::demoPlan();
  const SharpWish wish{560, 700, 0, 0, 560, 700};
  SharpPicture sharp(plan, {}, wish);
  EXPECT_EQ(sharp.count(), 4u);
  const auto tiled = assembled(sharp, wish);
  EXPECT_TRUE(sharp.done());
  // Where the four meet, by a part of each: forehead, cheeks, hair and the canvas beside them.
  constexpr int kLeft = 160, kTop = 250, kSide = 240;
  const auto whole = [&](std::uint32_t seed) {
    ProgressiveRender studio(kSide, kSide);
    studio.setPart(kLeft, kTop, 560, 700);
    studio.setSeed(seed);
    studio.setPlan(plan);
    studio.finish(SharpPicture::kPasses);
    return developPicture(studio.layers(), placedSetOf(plan)).rgba;
  };
  std::vector<std::uint8_t> there;
  for (int y = kTop; y < kTop + kSide; ++y) {
    const auto row = tiled.begin() + (y * 560 + kLeft) * 4;
    there.insert(there.end(), row, row + kSide * 4);
  }
  const auto one = whole(0);
  EXPECT_LT(meanDifference(there, one), 1.3 * meanDifference(whole(5), one) + 0.1);
}

TEST(SharpPicture, APartIsThatPart) {
  Plan plan = test::demoPlan();
  const SharpWish whole{320, 400, 0, 0, 320, 400}, part{320, 400, 100, 120, 90, 70};
  SharpPicture a(plan, {}, whole), b(plan, {}, part);
  const auto all = assembled(a, whole);
  const Interrupt never;
  const auto tile = b.next(never);
  ASSERT_TRUE(tile);
  EXPECT_TRUE(b.done());
  EXPECT_EQ(tile->left, 100);
  EXPECT_EQ(tile->top, 120);
  ASSERT_EQ(tile->picture.width, 90);
  ASSERT_EQ(tile->picture.height, 70);
  double sum = 0;
  for (int y = 0; y < 70; ++y)
    for (int x = 0; x < 90; ++x)
      for (int c = 0; c < 3; ++c)
        sum += std::abs(int(tile->picture.rgba[(size_t(y) * 90 + size_t(x)) * 4 + size_t(c)]) -
                        int(all[(size_t(y + 120) * 320 + size_t(x + 100)) * 4 + size_t(c)]));
  EXPECT_LT(sum / (70 * 90 * 3), 3);
}

TEST(SharpPicture, AnInterruptIsGoneOnFrom) {
  Plan plan = test::demoPlan();
  const SharpWish wish{200, 250, 0, 0, 200, 250};
  SharpPicture straight(plan, {}, wish), stopped(plan, {}, wish);
  const auto wanted = assembled(straight, wish);
  std::atomic<std::uint64_t> epoch{1};
  const Interrupt raised(epoch, 0);
  EXPECT_TRUE(raised.raised());
  EXPECT_FALSE(stopped.next(raised));
  EXPECT_FALSE(stopped.done());
  EXPECT_EQ(assembled(stopped, wish), wanted);
}

TEST(SharpPicture, WishesThatCannotBeAreNoWork) {
  const Plan plan = test::demoPlan();
  for (const SharpWish& wish : {SharpWish{}, SharpWish{4000, 5000, 0, 0, 4000, 5000},
                                SharpWish{200, 250, 300, 0, 50, 50}, SharpWish{200, 250, 0, 0, -4, 20}}) {
    SharpPicture sharp(plan, {}, wish);
    EXPECT_TRUE(sharp.done());
  }
}

TEST(Frame, TheFramingStaysWhenTheCameraIsTurned) {
  const Plan plan = test::demoPlan();
  for (const PictureFrame& f : frames()) {
    Plan turned = plan;
    turned.camera = inFrame(plan, f.widthOverHeight);
    EXPECT_EQ(framingOf(turned).id, framingOf(plan).id) << f.id;
    EXPECT_EQ(turned.camera.sensorWidth > turned.camera.sensorHeight, f.widthOverHeight > 1) << f.id;
    // What the lens sees across is the frame's share of what it sees down.
    const View view{cameraPose(turned), int(1000 * f.widthOverHeight), 1000};
    const Vec3 right = view.direction(float(view.width), 500), up = view.direction(float(view.width) / 2, 0);
    const CameraPose pose = cameraPose(turned);
    const double across = dot(right, pose.frame.u) / -dot(right, pose.frame.n),
                 down = dot(up, pose.frame.v) / -dot(up, pose.frame.n);
    EXPECT_NEAR(across / down, f.widthOverHeight, 0.01) << f.id;
    EXPECT_LE(2 * across * turned.camera.focalLength, turned.camera.sensorWidth * 1.001) << "beyond the sensor";
    EXPECT_LE(2 * down * turned.camera.focalLength, turned.camera.sensorHeight * 1.001);
  }
}

}  // namespace
}  // namespace easel
