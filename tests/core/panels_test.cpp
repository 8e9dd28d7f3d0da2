#include "plan/panels.h"

#include <gtest/gtest.h>

#include <map>

#include "meter/panel_shares.h"
#include "meter/point_meter.h"
#include "meter/spots.h"
#include "picture/develop.h"
#include "picture/layer.h"
#include "plan/check.h"
#include "plan/history.h"
#include "plan/lamp.h"
#include "plan/lens.h"
#include "plan/placement.h"
#include "plan/pose.h"
#include "plan/roles.h"
#include "plan/subject.h"
#include "support.h"

namespace easel {
namespace {

using test::blackHall;
Panel board(double hour, double distance, double above, double width, double height, const char* front) {
  Panel b;
  b.id = "1";
  b.kind = "board";
  b.front = b.back = front;
  b.width = width;
  b.height = height;
  b.hour = hour;
  b.distance = distance;
  b.above = above;
  return b;
}

TEST(Panels, WhatGivesALightIsCalledAsInSentences) {
  Panel board, table;
  board.id = "3";
  table.id = "4";
  table.kind = "table";
  const std::vector<Panel> all{board, table};
  EXPECT_EQ(calledSource("A", all), "A");
  EXPECT_EQ(calledSource(panelSubject("3"), all), called(board));
  EXPECT_EQ(calledSource(panelSubject("4"), all), "table 4");
  EXPECT_EQ(calledSource(panelSubject("9"), all), "panel 9") << "one that is not there keeps its key";
}

TEST(Panels, LeavesStandWhereThePlanSays) {
  Plan p;
  Panel b = board(3, 1, 1.2, 1.2, 2.4, "white");
  p.panels = {b};
  auto leaves = leavesOf(p.panels);
  ASSERT_EQ(leaves.size(), 1u);
  EXPECT_NEAR(leaves[0].centre.x, 1, 1e-5);
  EXPECT_NEAR(leaves[0].frame.n.x, -1, 1e-5) << "the front looks at the sitter";
  p.panels[0].tilt = 90;
  EXPECT_NEAR(leavesOf(p.panels)[0].frame.n.y, 1, 1e-5) << "tilted up it lies and looks up";
  p.panels[0].tilt = 0;
  p.panels[0].kind = "v-flat";
  leaves = leavesOf(p.panels);
  ASSERT_EQ(leaves.size(), 2u);
  EXPECT_NEAR(dot(leaves[0].frame.n, leaves[1].frame.n), 0, 1e-5) << "folded to a right angle";
  for (const Leaf& l : leaves) {
    EXPECT_LT(l.centre.x, 1) << "its leaves open towards the sitter";
    // Both meet in the hinge.
    const float side = dot(l.frame.u, Vec3{1, 0, 0} - l.centre + Vec3{0, 1.2f, 0}) > 0 ? 1.f : -1.f;
    EXPECT_LT(length(l.centre + l.frame.u * (side * l.halfWidth) - Vec3{1, 1.2f, 0}), 1e-4f);
  }
  p.panels[0].kind = "slit";
  p.panels[0].gap = 0.1;
  leaves = leavesOf(p.panels);
  ASSERT_EQ(leaves.size(), 2u);
  EXPECT_NEAR(length(leaves[0].centre - leaves[1].centre), 1.3, 1e-5);
  p.panels[0].kind = "photographer";
  p.panels[0].height = 1.75;
  float top = 0;
  for (const Leaf& l : leavesOf(p.panels)) top = std::max(top, l.centre.y + l.halfHeight);
  EXPECT_NEAR(top, 1.75, 1e-4);
  p.panels[0].on = false;
  EXPECT_TRUE(leavesOf(p.panels).empty());
}

TEST(Panels, NoFinishGivesMoreThanItGets) {
  for (const Finish& f : finishes())
    for (int c = 0; c < 3; ++c) {
      EXPECT_LE(f.diffuse[c] + f.gloss[c] + f.through, 1) << f.id;
      EXPECT_GE(f.diffuse[c], 0) << f.id;
    }
}

// All that a panel sends out, caught on a large sphere round it, against what falls on it.
TEST(Panels, PassOnWhatTheyStateAndNoMore) {
  for (const char* id : {"white", "silver", "gold", "scrim", "black"}) {
    Plan p = blackHall();
    p.sitter.eyeHeight = 1.25;
    p.panels = {board(3, 4, 6, 0.3, 0.3, id)};
    Light& l = p.lights[0];
    l.modifier = "octa-90";
    const Vec3 centre = leavesOf(p.panels)[0].centre;
    // A lamp a metre before the board, facing it.
    const Emitter e(*findModifier("reflector-18"), {centre + Vec3{-1, 0, 0}, Frame::facing({1, 0, 0})});
    const Source s(e, leavesOf(p.panels));
    double falls = 0, gives = 0;
    constexpr int n = 20000;
    for (int i = 0; i < 256; ++i) {
      const Vec2 u = sobol2(std::uint32_t(i), 1);
      const Vec3 q = centre + Vec3{0, 0.3f * (u.x - 0.5f), 0.3f * (u.y - 0.5f)};
      const auto at = e.sample(q, sobol2(std::uint32_t(i), 2));
      falls += double(at.geometry) * -dot(at.direction, Vec3{1, 0, 0}) * 0.09 / 256;
    }
    for (int i = 0; i < n; ++i) {
      const Vec2 u = sobol2(std::uint32_t(i), 9);
      const float z = 1 - 2 * u.x, r = std::sqrt(std::max(0.f, 1 - z * z));
      const Vec3 out{r * std::cos(2 * kPiF * u.y), r * std::sin(2 * kPiF * u.y), z};
      const auto f = s.sample(nullptr, centre + out * 30.f, std::uint32_t(i), 5);
      gives += double(luminance(f.lux)) * 4 * kPi * 900 / n;
    }
    const Finish& finish = *findFinish(id);
    const double stated = double(luminance(finish.diffuse + finish.gloss)) + finish.through;
    if (finish.gloss.x > 0) {
      // Single scattering between the facets loses a little of rough gloss; it never adds.
      EXPECT_LT(gives / falls, stated * 1.01) << id;
      EXPECT_GT(gives / falls, stated * 0.85) << id;
    } else {
      EXPECT_NEAR(gives / falls, stated, 0.02 * stated) << id;
    }
  }
}

// A white board as a secondary emitter, against an integral of our own by brute force over both areas.
TEST(Panels, ABoardLightsAsItsIlluminatedAreaDoes) {
  Plan p = blackHall();
  p.panels = {board(9, 1.2, 1.2, 1.0, 1.4, "white")};
  p.panels[0].turn = 20;
  Light& l = p.lights[0];
  l.modifier = "softbox-60x90";
  l.hour = 4;
  l.distance = 2;
  const auto leaf = leavesOf(p.panels)[0];
  const Source s = sourceOf(placedSetOf(p), test::placed(p, l));
  const Scene scene(placedSetOf(p), nullptr);
  const Vec3 spot{0.3f, 1.2f, 0.4f}, normal = normalize(Vec3{-1, 0, 0.2f});
  const double ours = panelLux(scene, s, spot, normal, Receptor::Flat, 4096);
  double sum = 0;
  constexpr int n = 60;
  for (int i = 0; i < n; ++i)
    for (int k = 0; k < n; ++k) {
      const float x = (2 * (float(i) + 0.5f) / n - 1) * leaf.halfWidth,
                  y = (2 * (float(k) + 0.5f) / n - 1) * leaf.halfHeight;
      const Vec3 q = leaf.centre + leaf.frame.u * x + leaf.frame.v * y;
      const double e = directLux(nullptr, s.emitter(), q, leaf.frame.n, Receptor::Flat, 64);
      const Vec3 d = spot - q;
      const double d2 = double(dot(d, d));
      const double cosQ = std::max(0.f, dot(leaf.frame.n, d)) / std::sqrt(d2),
                   cosR = std::max(0.f, -dot(normal, d)) / std::sqrt(d2);
      sum += e * double(luminance(leaf.front.diffuse)) / kPi * cosQ * cosR / d2 * double(leaf.area()) / (n * n);
    }
  EXPECT_NEAR(ours, sum, 0.02 * sum);
}

TEST(Panels, AFlagTakesTheLightAndAWhiteBoardAddsSome) {
  Plan p = test::demoPlan();
  p.lights[0].hour = 4;
  const double open = test::answersOf(p).lights[0].alone.total();
  Plan flagged = p;
  Panel flag = proposePanel(p, "flag").panel;
  flag.above = p.sitter.eyeHeight + 0.2;
  flag.width = flag.height = 1.6;
  flagged.panels = {flag};
  EXPECT_LT(test::answersOf(flagged).lights[0].alone.total(), 0.4 * open);

  ProgressiveRender before(8, 8), after(8, 8);
  before.setPlan(p);
  Plan filled = p;
  filled.panels = {proposePanel(p, "v-flat").panel};
  after.setPlan(filled);
  auto shadowCheek = [](ProgressiveRender& s, const Plan& plan) {
    const SpotTable t = spotTable(*s.scene(), placedSetOf(plan));
    for (size_t i = 0; i < t.spots.size(); ++i)
      if (t.spots[i].id == "cheek-right") return t.luxSeconds[i][0];
    return 0.0;
  };
  const double dark = shadowCheek(before, p), lit = shadowCheek(after, filled);
  EXPECT_GT(std::log2(lit / dark), 0.3) << "a white V-flat opposite the key fills the shadow cheek";
  filled.panels[0].front = "black";
  after.setPlan(filled);
  EXPECT_LT(shadowCheek(after, filled), dark) << "a black one takes the room's own bounce away";
}

TEST(Panels, EachPanelsShareCanBeReadAndTheSharesAddUp) {
  Plan p = test::demoPlan();
  Panel a = proposePanel(p, "v-flat").panel;
  p.panels = {a};
  p.panels.push_back(proposePanel(p, "reflector").panel);
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const auto shares = panelShares(*s.scene(), placedSetOf(p));
  ASSERT_EQ(shares.size(), 2u);
  for (const PanelShare& share : shares) {
    EXPECT_GT(share.stops, 0.02) << share.panel;
    EXPECT_FALSE(share.spot.empty());
    EXPECT_FALSE(share.sentence.empty());
  }
  const Source source = sourceOf(placedSetOf(p), test::placed(p, p.lights[0]));
  const Vec3 spot = computeAnswers(*s.scene(), placedSetOf(p)).meterSpot;
  const double all = panelLux(*s.scene(), source, spot, {0, 0, 1}, Receptor::Flat, 16384),
               first = panelLux(*s.scene(), source, spot, {0, 0, 1}, Receptor::Flat, 16384, 0),
               second = panelLux(*s.scene(), source, spot, {0, 0, 1}, Receptor::Flat, 16384, 1);
  EXPECT_NEAR(all, first + second, 0.03 * all);
}

TEST(Panels, AScrimIsALightOfItsOwnSize) {
  // A bare reflector through a scrim: softer and weaker, and what passes falls like the scrim, not like the lamp.
  Plan p = blackHall();
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.hour = 4.5;
  l.distance = 3;
  l.height = 1.6;
  const double bare = test::answersOf(p).lights[0].alone.total();
  Panel scrim = proposePanel(p, "scrim-small").panel;
  scrim.hour = 4.5;
  scrim.distance = 1.2;
  p.panels = {scrim};
  const double through = test::answersOf(p).lights[0].alone.total();
  EXPECT_LT(through, 0.6 * bare);
  EXPECT_GT(through, 0.02 * bare);
  const Source s = sourceOf(placedSetOf(p), test::placed(p, l));
  EXPECT_TRUE(s.feedsPanels());
  const Scene scene(placedSetOf(p), nullptr);
  EXPECT_EQ(directLux(&scene, s.emitter(), {0, 1.25f, 0.1f}, {0, 0, 1}, Receptor::Flat, 64), 0)
      << "nothing goes round the cloth";
}

TEST(Panels, TwoPanelsInARowPassLightOnWhenOneIsAScrim) {
  Plan p = blackHall();
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.distance = 3;
  p.panels = {proposePanel(p, "scrim-small").panel};
  p.panels[0].hour = p.lights[0].hour;
  Panel board = proposePanel(p, "board").panel;
  p.panels.push_back(board);
  const Source s = sourceOf(placedSetOf(p), test::placed(p, l));
  const Scene scene(placedSetOf(p), nullptr);
  const Vec3 cheek{-0.06f, float(p.sitter.eyeHeight) - 0.05f, 0.1f};
  const Vec3 towards = normalize(leavesOf(board)[0].centre - cheek);
  EXPECT_GT(panelLux(scene, s, cheek, towards, Receptor::Flat, 8192, 1),
            0.01 * panelLux(scene, s, cheek, -towards, Receptor::Flat, 8192, 0));
}

TEST(Panels, ThePictureShowsWhatTheMeterReads) {
  // The lit side of a face under a scrim: picture value against meter reading times albedo, pixel by pixel.
  Plan p = blackHall();
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.hour = 4;
  l.distance = 2.6;
  p.panels = {proposePanel(p, "scrim-small").panel};
  p.panels[0].hour = 4;
  p.panels[0].turn = -30;
  test::UnsmoothedPicture picture(p, 64, 80, 32);
  ProgressiveRender& s = picture.studio;
  const Source source = sourceOf(placedSetOf(p), test::placed(p, l));
  const double scale = lampGives(l, l.power, p.camera).total() * gainOf(p.camera) / kPi;
  int compared = 0;
  double ours = 0, metered = 0;
  for (int y = 20; y < 60; y += 2)
    for (int x = 16; x < 48; x += 2) {
      const auto hit = surfaceAt(s.layers(), x + 0.5, y + 0.5);
      if (!hit || hit->surface != Surface::Cloth) continue;
      metered += panelLux(*s.scene(), source, hit->position + hit->facet * 1e-3f, hit->normal, Receptor::Flat, 256) *
                 double(luminance(hit->albedo)) * scale;
      ours += picture.at(x, y);
      ++compared;
    }
  ASSERT_GT(compared, 20);
  EXPECT_NEAR(std::log2(ours / metered), 0, 0.25) << "cloth has a little sheen, the pixel a little width";
}

// What a picture shows of matt surfaces against what the meter reads there, kind by kind: in stops.
std::map<Surface, double> pictureAgainstMeter(const Plan& p) {
  constexpr int kWide = 96, kHigh = 120;
  test::UnsmoothedPicture picture(p, kWide, kHigh, 64);
  ProgressiveRender& s = picture.studio;
  const Source source = sourceOf(*s.scene(), placedSetOf(p), test::placed(p, p.lights[0]));
  const double scale = lampGives(p.lights[0], p.lights[0].power, p.camera).total() * gainOf(p.camera) / kPi;
  std::map<Surface, std::pair<double, double>> sums;
  for (int y = 2; y < kHigh; y += 3)
    for (int x = 2; x < kWide; x += 3) {
      // Where the pixel shows one thing, all of it alike.
      std::vector<SurfacePoint> corners;
      for (const auto& [dx, dy] : {std::pair{0.05, 0.05}, {0.95, 0.05}, {0.05, 0.95}, {0.95, 0.95}, {0.5, 0.5}})
        if (const auto hit = surfaceAt(s.layers(), x + dx, y + dy)) corners.push_back(*hit);
      if (corners.size() < 5) continue;
      const SurfacePoint& here = corners.back();
      if (std::any_of(corners.begin(), corners.end(), [&](const SurfacePoint& c) {
            return c.side != here.side || dot(c.facet, here.facet) < 0.99f || c.surface != here.surface;
          }))
        continue;
      const double lux =
          meteredLux(*s.scene(), source, here.position + here.facet * 1e-3f, here.normal, Receptor::Flat, 256, 256);
      auto& [shown, metered] = sums[here.surface];
      metered += lux * double(luminance(here.albedo)) * scale;
      shown += picture.at(x, y);
    }
  std::map<Surface, double> out;
  for (const auto& [surface, sum] : sums) out[surface] = std::log2(sum.first / sum.second);
  return out;
}

// A board by the backdrop, and a folded one, that a lamp reaches only through a scrim. -8 stops when boards took no
// light of other panels.
TEST(Panels, BoardsInThePictureShowTheLightOfScrimsAndOfOneAnother) {
  Plan p = blackHall();
  p.room.wallReflectance = p.room.ceilingReflectance = 0.3;
  p.backdrop = {1.8, 2.7, 2.5, "paper-mid-grey", {}};
  p.camera.distance = 4;
  p.camera.focalLength = 35;
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.hour = 4;
  l.distance = 2.8;
  p.panels = {board(4, 1.7, 1.6, 2.6, 2.6, "scrim"), board(0.6, 0.9, 1.2, 0.7, 1.4, "white"),
              board(11.2, 0.9, 1.2, 0.5, 1.6, "white")};
  p.panels[1].id = "2";
  p.panels[2].id = "3";
  p.panels[2].kind = "v-flat";
  p.panels[2].fold = 80;
  const auto stops = pictureAgainstMeter(p);
  ASSERT_TRUE(stops.contains(Surface::Panel));
  ASSERT_TRUE(stops.contains(Surface::Backdrop));
  EXPECT_NEAR(stops.at(Surface::Panel), 0, 0.05);
  EXPECT_NEAR(stops.at(Surface::Backdrop), 0, 0.05);
}

TEST(Panels, PictureAndPinAgreeOnPiecesWallsAndBackdrop) {
  Plan p = blackHall();
  p.room = {5, 7, 2.8, 2.6, 0.4, 0.3, 0.6, "neutral", {}};
  p.camera.distance = 4;
  p.camera.focalLength = 30;
  p.backdrop = {1.8, 1.4, 2.3, "paper-mid-grey", {}};
  Panel table = proposePanel(p, "table").panel;
  table.height = 1;
  table.above = 0.5;
  p.panels = {table};
  p.panels.push_back(proposePanel(p, "block").panel);
  Light& l = p.lights[0];
  l.modifier = "softbox-60x90";
  l.hour = 4;
  l.distance = 2;
  const auto stops = pictureAgainstMeter(p);
  for (const Surface s : {Surface::Piece, Surface::Wall, Surface::Backdrop}) {
    ASSERT_TRUE(stops.contains(s)) << int(s);
    EXPECT_NEAR(stops.at(s), 0, 0.05) << int(s);
  }
}

// A scrim is seen as bright as what comes through it, not as what it would throw back.
TEST(Panels, AScrimInThePictureGlowsWithWhatComesThrough) {
  Plan p = blackHall();
  p.camera.distance = 3;
  p.camera.focalLength = 35;
  p.sitter.eyeHeight = 1.1;
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.hour = 12;
  l.distance = 1.9;
  l.height = 1.7;
  p.backdrop.distance = 2.5;
  p.panels = {board(12, 0.8, 1.7, 0.6, 0.6, "scrim")};
  test::UnsmoothedPicture picture(p, 64, 80, 64);
  ProgressiveRender& s = picture.studio;
  const Leaf leaf = leavesOf(p.panels)[0];
  const auto at = pixelOf(s.layers(), leaf.centre + Vec3{0, 0.15f, 0});
  ASSERT_TRUE(at);
  const auto hit = surfaceAt(s.layers(), std::floor(at->x) + 0.5, std::floor(at->y) + 0.5);
  ASSERT_TRUE(hit && hit->surface == Surface::Scrim);
  const Source source = sourceOf(*s.scene(), placedSetOf(p), test::placed(p, l));
  const double behind = directLux(s.scene().get(), source.emitter(), hit->position - hit->facet * 1e-3f, -hit->facet,
                                  Receptor::Flat, 4096);
  ASSERT_GT(behind, 0);
  const double before =
      meteredLux(*s.scene(), source, hit->position + hit->facet * 1e-3f, hit->facet, Receptor::Flat, 512, 2000);
  EXPECT_LT(before, 0.3 * behind);
  const double expected = (behind * double(leaf.front.through) + before * double(luminance(leaf.front.diffuse))) *
                          lampGives(l, l.power, p.camera).total() * gainOf(p.camera) / kPi;
  EXPECT_NEAR(std::log2(picture.at(int(at->x), int(at->y)) / expected), 0, 0.05);
}

TEST(Panels, LayersAddUpAndAreTheSameEachTime) {
  Plan p = test::demoPlan();
  p.panels = {proposePanel(p, "reflector").panel};
  auto picture = [&] {
    ProgressiveRender s(64, 80);
    s.setPlan(p);
    s.finish(8);
    return developPicture(s.layers(), placedSetOf(p)).rgba;
  };
  EXPECT_EQ(picture(), picture());
}

TEST(Panels, SurviveTheFileUndoAndTheMirror) {
  Plan p = test::demoPlan();
  History h(p);
  Panel v = proposePanel(p, "v-flat").panel;
  v.turn = 15;
  h.perform(AddPanel{v, 99}, "add");
  Panel moved = v;
  moved.distance = 0.9;
  h.perform(SetPanel{moved}, "move");
  h.perform(SetHaze{0.05}, "haze");
  EXPECT_EQ(readPlanText(writePlanText(h.plan())), h.plan());
  const Plan twice = mirrored(mirrored(h.plan()));
  EXPECT_NEAR(twice.panels[0].hour, h.plan().panels[0].hour, 1e-9);
  EXPECT_EQ(mirrored(h.plan()).panels[0].turn, -15);
  h.perform(RemovePanel{v.id}, "remove");
  EXPECT_TRUE(h.plan().panels.empty());
  for (int i = 0; i < 4; ++i) h.undo();
  EXPECT_EQ(h.plan(), p);
  EXPECT_THROW(h.perform(SetPanel{v}, "none"), std::invalid_argument);
  Panel locked = v;
  locked.locked = true;
  h.perform(AddPanel{locked, 0}, "add");
  EXPECT_THROW(h.perform(RemovePanel{v.id}, "x"), std::invalid_argument);
}

TEST(Panels, TooManyAreRefused) {
  Plan p = test::demoPlan();
  for (size_t i = 0; i < kMostPanels; ++i) apply(p, AddPanel{proposePanel(p, "board").panel, 99});
  EXPECT_THROW(proposePanel(p, "board"), std::invalid_argument);
  Panel extra;
  extra.id = "17";
  EXPECT_THROW(apply(p, AddPanel{extra, 0}), std::invalid_argument);
}

TEST(Panels, EveryKindCanBePutUpAndNamesWhy) {
  for (const PanelKind& k : panelKinds()) {
    Plan p = test::demoPlan();
    const PanelProposal made = proposePanel(p, k.id);
    EXPECT_FALSE(made.reason.empty()) << k.id;
    p.panels = {made.panel};
    EXPECT_EQ(readPlanText(writePlanText(p)), p) << k.id;
    for (const Finding& f : checkPlan(p)) {
      EXPECT_NE(f.severity, Severity::Error) << k.id << ": " << f.sentence;
      EXPECT_EQ(f.sentence.find("between the lens"), std::string::npos) << k.id;
    }
  }
  EXPECT_THROW(proposePanel(test::demoPlan(), "hammock"), std::invalid_argument);
}

TEST(Panels, WhatCannotStandIsSaid) {
  Plan p = test::demoPlan();
  Panel b = board(6, 1.0, p.camera.height, 1, 1, "white");  // between lens and face
  p.panels = {b};
  auto said = [&](const char* words) {
    for (const Finding& f : checkPlan(p))
      if (f.sentence.find(words) != std::string::npos) return true;
    return false;
  };
  EXPECT_TRUE(said("between the lens"));
  p.panels[0].distance = 0.02;
  p.panels[0].above = p.sitter.eyeHeight;
  EXPECT_TRUE(said("inside the sitter"));
  p.panels[0] = board(9, 9, 1, 1, 1, "white");
  EXPECT_TRUE(said("outside the room"));
  p.panels[0] = board(9, 1, 1, 1, 1, "velour");
  EXPECT_TRUE(said("velour"));
}

}  // namespace
}  // namespace easel
