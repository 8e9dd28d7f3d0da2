#include "sitters/glasses.h"

#include <gtest/gtest.h>

#include <cmath>

#include "analysis/glare.h"
#include "cured.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "rendering/progressive_render.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

// A low key before the camera's side of the face, chin a little up: what spectacle wearers are met with every week.
Plan lowKey(const std::string& sitter, const std::string& glasses) {
  Plan p = test::masterPlan();
  p.sitter.id = sitter;
  p.sitter.glasses = glasses;
  p.sitter.nod = -4;
  p.lights.resize(1);
  // Beside the camera, clear of what it sees.
  p.lights[0].hour = 5.3;
  p.lights[0].distance = 2.15;
  p.lights[0].height = 1.35;
  return p;
}

TEST(Glasses, FramesSitBeforeTheEyesAndOutsideOfTheHead) {
  for (const Person& person : sitterCatalogue()) {
    const auto s = loadSitter(person.id);
    for (const GlassesFrame& frame : glassesFrames()) {
      if (frame.id == "own" || frame.id == "none") continue;
      SCOPED_TRACE(person.id + " " + frame.id);
      const Glasses g = fittedGlasses(*s, frame, 0);
      for (int side = 0; side < 2; ++side) {
        const Lens& l = g.lens[size_t(side)];
        const Vec3 eye = side ? s->landmarks.eyeRight : s->landmarks.eyeLeft;
        // The line of sight goes through the lens, which stands off the cornea.
        const Vec3 off = eye - l.pole;
        EXPECT_TRUE(l.inside(dot(off, l.across), dot(off, l.up)));
        EXPECT_GT(l.pole.z - eye.z, 0.0255);
        EXPECT_LT(l.pole.z - eye.z, 0.036);
        EXPECT_LT(l.axis.y, -0.1) << "it looks down a little";
      }
      int in = 0;
      for (const Vec3& p : g.rims.position) in += s->headField.at(p) < -0.002f;
      EXPECT_LT(in, int(g.rims.position.size()) / 12) << "in the head";
      EXPECT_EQ(g.panes.triangles.size() % 6, 0u) << "two lenses alike";
    }
  }
}

TEST(Glasses, LiftedTemplesLookDown) {
  const auto s = loadSitter("wren");
  const GlassesFrame& frame = *findGlasses("square");
  const Vec3 usual = fittedGlasses(*s, frame, 0).lens[0].axis, up = fittedGlasses(*s, frame, 5).lens[0].axis;
  EXPECT_NEAR(degrees(std::asin(usual.y) - std::asin(up.y)), 5, 0.1);
}

TEST(Glasses, TheEyeShowsThroughThemAndTheRimHidesWhatIsBehind) {
  Plan p = lowKey("wren", "square");
  const auto sitter = loadSitter("wren");
  const Scene with(placedSetOf(p), sitter);
  p.sitter.glasses = "none";
  const Scene without(placedSetOf(p), sitter);
  ASSERT_TRUE(with.glasses());
  EXPECT_FALSE(without.glasses());
  const Vec3 eye = with.studioPoint(sitter->landmarks.eyeLeft), camera = cameraPose(p).eye,
             to = normalize(eye - camera);
  const auto seen = with.intersect(camera, to, 1), bare = without.intersect(camera, to, 1);
  ASSERT_TRUE(seen && bare);
  EXPECT_EQ(seen->surface, Surface::Eye);
  EXPECT_TRUE(seen->throughLens());
  EXPECT_FALSE(bare->throughLens());
  EXPECT_NEAR(length(seen->position - bare->position), 0, 1e-4) << "clear, without power";
  EXPECT_LT(seen->albedo.y, bare->albedo.y) << "what it mirrors does not come through";
  EXPECT_GT(seen->albedo.y, 0.85f * bare->albedo.y);
  EXPECT_FALSE(with.occluded(camera, to, 0.1f, length(eye - camera) - 0.02f, 1)) << "light goes through";
  const Lens& l = with.glasses()->lens[0];
  const Vec3 rim = with.studioPoint(l.point(0, l.halfHeight));
  const auto met = with.intersect(camera, normalize(rim - camera), 1);
  ASSERT_TRUE(met);
  EXPECT_EQ(met->surface, Surface::Cloth);
  EXPECT_NEAR(length(met->position - rim), 0, 0.004);
}

// Found and cured on three sitters, and the picture shows it where the reading says.
TEST(Glasses, GlareIsFoundIsInThePictureAndIsCured) {
  for (const auto& [sitter, glasses] : {std::pair{"ottoline", "large"}, {"tobiah", "square"}, {"anselm", "square"}}) {
    SCOPED_TRACE(sitter);
    const Plan p = lowKey(sitter, glasses);
    PlanReader reader(112, 140, 4);
    const FaceAnalysis r = reader.read(p);
    const Fault* fault = r.fault("glare-on-glasses");
    ASSERT_TRUE(fault);
    EXPECT_EQ(fault->where, "light A");
    ASSERT_FALSE(fault->places.empty());
    // The same picture without the glass is darker there.
    Plan bare = p;
    bare.sitter.glasses = "none";
    const auto level = [&](const Plan& plan) {
      const CameraPose camera = cameraPose(plan);
      const Vec3 d = fault->places[0] - camera.eye;
      const float depth = -dot(d, camera.frame.n), half = 200 / camera.tanHalfHeight;
      const int x = int(160 + dot(d, camera.frame.u) / std::abs(depth) * half),
                y = int(200 - dot(d, camera.frame.v) / std::abs(depth) * half);
      // Of a picture of 320x400 the pixels about that place.
      constexpr int kAbout = 40;
      ProgressiveRender studio(kAbout, kAbout);
      studio.setPart(x - kAbout / 2, y - kAbout / 2, 320, 400);
      studio.setPlan(plan);
      studio.finish(8);
      const Picture picture = developPicture(studio.layers(), placedSetOf(plan));
      double sum = 0;
      for (size_t j = kAbout / 2 - 1; j <= kAbout / 2 + 1; ++j)
        for (size_t i = kAbout / 2 - 1; i <= kAbout / 2 + 1; ++i) sum += picture.rgba[(j * kAbout + i) * 4 + 1];
      return sum / 9;
    };
    EXPECT_GT(level(p), level(bare) + 6);
    test::expectCured(reader, p, "glare-on-glasses");
  }
}

// Skin that gives back little shows what lenses mirror the more: a white board below the lens.
TEST(Glasses, ABoardIsMirroredToo) {
  Plan p = lowKey("tobiah", "square");
  p.lights.resize(1);
  p.lights[0].hour = 3.6;
  p.lights[0].height = p.sitter.eyeHeight + 0.6;
  const auto faults = [&](const Plan& plan) {
    PlanReader reader;
    std::vector<std::string> where;
    for (const Fault& f : reader.read(plan).faults)
      if (f.id == "glare-on-glasses") where.push_back(f.where);
    return where;
  };
  EXPECT_TRUE(faults(p).empty());
  p.panels.push_back(proposePanel(p, "board").panel);
  Panel& board = p.panels[0];
  board.front = board.back = "white";
  board.hour = 6.5;
  board.distance = 0.7;
  board.above = p.sitter.eyeHeight - 0.5;
  board.width = board.height = 0.8;
  EXPECT_EQ(faults(p), std::vector<std::string>{"panel " + board.id});
  PlanReader reader;
  test::expectCured(reader, p, "glare-on-glasses");
}

TEST(Glasses, WithoutThemThereIsNoGlare) {
  Plan p = lowKey("ottoline", "none");
  const Scene scene(placedSetOf(p), loadSitter("ottoline"));
  EXPECT_TRUE(readGlare(scene, placedSetOf(p), 1000, 0.3).empty());
}

}  // namespace
}  // namespace easel
