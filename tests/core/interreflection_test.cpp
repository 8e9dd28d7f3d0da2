// Light from the lamp's side, and what the room makes of it: energy, agreement of picture and pins, what is kept.
#include "transport/interreflection.h"

#include <gtest/gtest.h>

#include "gear/kit.h"
#include "meter/point_meter.h"
#include "meter/spots.h"
#include "picture/develop.h"
#include "plan/lamp.h"
#include "plan/lens.h"
#include "rendering/progressive_render.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

// The same flux and the same falling of it as the meter sees, for every front there is: rays that land in a ring of a
// screen in front of the lamp carry what a meter adds up over the ring.
TEST(LampRays, RaysCarryWhatTheMeterReads) {
  for (const Modifier& m : modifiers()) {
    const Emitter e(m, {{0, 0, 0}, Frame::facing({0, 0, 1})});
    const LampRays rays(e);
    constexpr std::uint32_t n = 1 << 15;
    double flux = 0, inner = 0;
    for (std::uint32_t i = 0; i < n; ++i) {
      const LampRays::Ray l = rays.sample(sobol2(i, 1), sobol2(i, 2));
      flux += double(l.flux) / n;
      if (l.direction.z <= 0.01f) continue;
      const Vec3 at = l.origin + l.direction * ((4 - l.origin.z) / l.direction.z);
      if (std::hypot(at.x, at.y) < 1) inner += double(l.flux) / n;
    }
    EXPECT_NEAR(flux, m.transmission, 0.015 * m.transmission) << m.id;
    double metered = 0;
    constexpr int places = 4096;
    for (int k = 0; k < places; ++k) {
      const Vec2 d = concentricDisc(sobol2(std::uint32_t(k), 3));
      metered += kPi / places * directLux(nullptr, e, {d.x, d.y, 4}, {0, 0, -1}, Receptor::Flat, 16);
    }
    EXPECT_NEAR(inner, metered, 0.04 * metered + 1e-6) << m.id;
  }
}

Plan smallWhiteRoom() {
  Plan p = test::demoPlan();
  p.room = {3, 4, 2.4, 1.6, 0.8, 0.3, 0.8, "neutral", {}};
  p.backdrop.distance = 1.3;
  p.camera.distance = 1.6;
  p.backdrop.material = "paper-mid-grey";
  p.ambient.lux = 0;
  p.lights.resize(1);
  return p;
}

TEST(IndirectLight, IsKeptForWhoAsksAgainAndDropsWithAnotherLamp) {
  const Plan p = smallWhiteRoom();
  const Scene scene(placedSetOf(p), loadSitter(p.sitter.id));
  const Emitter one = emitterOf(placedSetOf(p), test::placed(p, p.lights[0]));
  Light moved = p.lights[0];
  moved.hour += 1;
  const auto first = scene.interreflection().of(one, 0);
  EXPECT_EQ(scene.interreflection().of(emitterOf(placedSetOf(p), test::placed(p, p.lights[0])), 0), first);
  EXPECT_NE(scene.interreflection().of(emitterOf(placedSetOf(p), test::placed(p, moved)), 0), first);
}

// What leaves a cell arrives somewhere, as long as the room is closed.
TEST(IndirectLight, FormFactorsAddUpToOne) {
  const Plan p = smallWhiteRoom();
  const Scene scene(placedSetOf(p), loadSitter(p.sitter.id));
  const Interreflection& room = scene.interreflection();
  int asked = 0;
  for (int c = 0; c < room.cells(); c += 7) {
    if (room.area(c) <= 0) continue;
    double sum = 0;
    for (int k = 0; k < room.cells(); ++k) sum += room.factor(c, k);
    EXPECT_NEAR(sum, 1, 0.05) << c;
    ++asked;
  }
  EXPECT_GT(asked, 30);
}

// A brighter room brings more than its first reflection: white walls are worth far more than grey ones twice over.
TEST(IndirectLight, WhiteRoomsGoOn) {
  const auto shadowSide = [](double walls) {
    Plan p = smallWhiteRoom();
    p.room.wallReflectance = p.room.ceilingReflectance = walls;
    const Scene scene(placedSetOf(p), loadSitter(p.sitter.id));
    return bouncedLux(scene, sourceOf(scene, placedSetOf(p), test::placed(p, p.lights[0])), {-0.12f, 1.25f, 0.1f},
                      {-1, 0, 0}, Receptor::Flat, 640);
  };
  const double grey = shadowSide(0.4), white = shadowSide(0.8);
  EXPECT_GT(white, 1.15 * 2 * grey);
  EXPECT_LT(white, 6 * grey);
}

// Picture and pins under a flash that lights the ceiling alone: linear values of cloth against the meter there.
TEST(IndirectLight, PictureAndPinsAgreeUnderBounceFlash) {
  Plan p = smallWhiteRoom();
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.hour = 6;
  l.distance = 0.7;
  l.height = 1.25;
  l.tiltOffset = 85;
  test::UnsmoothedPicture picture(p, 64, 80, 64);
  ProgressiveRender& s = picture.studio;
  const Source source = sourceOf(*s.scene(), placedSetOf(p), test::placed(p, l));
  const double scale = lampGives(l, l.power, p.camera).total() * gainOf(p.camera) / kPi;
  int compared = 0;
  double ours = 0, metered = 0;
  for (int y = 10; y < 76; y += 3)
    for (int x = 2; x < 62; x += 3) {
      const auto hit = surfaceAt(s.layers(), x + 0.5, y + 0.5);
      bool whole = true;  // nothing of the sitter in the pixel or beside it
      for (const int dx : {-1, 1})
        for (const int dy : {-1, 1}) {
          const auto beside = surfaceAt(s.layers(), x + 0.5 + dx, y + 0.5 + dy);
          whole &= beside && beside->surface == Surface::Backdrop;
        }
      if (!hit || hit->surface != Surface::Backdrop || !whole) continue;
      metered +=
          meteredLux(*s.scene(), source, hit->position + hit->facet * 1e-3f, hit->normal, Receptor::Flat, 64, 192) *
          double(luminance(hit->albedo)) * scale;
      ours += picture.at(x, y);
      ++compared;
    }
  ASSERT_GT(compared, 45);  // the flash itself stands before a part of it
  EXPECT_NEAR(std::log2(ours / metered), 0, 0.03);
}

}  // namespace
}  // namespace easel
