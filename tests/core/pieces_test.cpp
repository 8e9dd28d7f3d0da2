#include <fmt/format.h>
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

#include "gear/model.h"
#include "meter/answers.h"
#include "meter/panel_shares.h"
#include "meter/point_meter.h"
#include "meter/spots.h"
#include "picture/layer.h"
#include "picture/samples.h"
#include "placed/gear_bodies.h"
#include "plan/check.h"
#include "plan/history.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "shoot/cautions.h"
#include "support.h"

namespace easel {
namespace {

Panel piece(const char* kind, const char* id = "1") {
  Plan p = test::demoPlan();
  p.panels.clear();
  Panel made = proposePanel(p, kind).panel;
  made.id = id;
  return made;
}
// One light in it, bare of fittings.
Plan blackRoom() {
  Plan p = test::blackHall();
  p.panels.clear();
  p.lights.resize(1);
  p.lights[0].fittings = {};
  p.lights[0].pan = p.lights[0].tiltOffset = 0;
  return p;
}
Box around(const std::vector<Leaf>& leaves) {
  Box box;
  for (const Leaf& l : leaves)
    for (const Vec3& corner : l.corners()) box.take(corner);
  return box;
}

TEST(Pieces, StandOnTheFloorAndAreAsLargeAsTheySay) {
  Plan plan;
  for (const PanelKind& kind : panelKinds()) {
    if (!isPiece(kind.shape)) continue;
    Panel p = piece(kind.id.c_str());
    p.hour = 12;  // across is x then
    p.turn = 0;
    const Box box = around(leavesOf(p));
    const Vec3 size = box.high - box.low;
    const bool stands = kind.shape != PanelShape::Picture && kind.shape != PanelShape::Branch;
    if (stands) {
      EXPECT_NEAR(box.low.y, 0, 3e-3) << kind.id;
    }
    // Feet splay a little, and foliage hangs out.
    EXPECT_NEAR(size.x, p.width, kind.shape == PanelShape::Branch ? 0.25 : 0.1) << kind.id;
    if (kind.shape != PanelShape::Shade && kind.shape != PanelShape::Branch) {
      EXPECT_NEAR(size.y, p.height, 2e-3) << kind.id;
    }
    if (kind.shape == PanelShape::Table || kind.shape == PanelShape::Block || kind.shape == PanelShape::Chair) {
      EXPECT_NEAR(size.z, p.depth, 2e-3) << kind.id;
    }
  }
}

TEST(Pieces, EveryFaceLooksOutOfItsBox) {
  Plan plan;
  Panel p = piece("block");
  p.hour = 2.3;
  p.turn = 31;
  const std::vector<Leaf> leaves = leavesOf(p);
  ASSERT_EQ(leaves.size(), 6u);
  Vec3 middle;
  for (const Leaf& l : leaves) middle += l.centre / 6;
  double area = 0;
  for (const Leaf& l : leaves) {
    EXPECT_GT(dot(l.centre - middle, l.frame.n), 0);
    EXPECT_LT(length(cross(l.frame.u, l.frame.v) - l.frame.n), 1e-5f);
    area += double(l.area());
  }
  EXPECT_NEAR(area, 2 * (p.width * p.height + p.width * p.depth + p.height * p.depth), 1e-4);
}

TEST(Pieces, AnOpeningIsOpenAndTheWallRoundItIsNot) {
  Plan plan = blackRoom();
  Panel p = piece("window");
  p.hour = 12;
  p.distance = 1;
  p.turn = 0;
  plan.panels = {p};
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  const auto scene = studio.scene();
  const auto passes = [&](double x, double y) {
    return !scene->occluded({float(x), float(y), -0.6f}, {0, 0, -1}, 0, 1, 1);
  };
  const double middle = p.sill + p.openHeight / 2;
  EXPECT_TRUE(passes(0.2, middle + 0.2));
  EXPECT_FALSE(passes(0, middle + 0.2)) << "its bar";
  EXPECT_FALSE(passes(p.openWidth / 2 + 0.1, middle));
  EXPECT_FALSE(passes(0.2, p.sill - 0.05));
  EXPECT_FALSE(passes(0.2, p.sill + p.openHeight + 0.05));
}

TEST(Pieces, ABoxInTheWayDarkensByWhatGeometrySays) {
  // The edge of a box stands where it hides the part of a square front beyond a line. What is left of it is summed over
  // the front's points, each by the two cosines and the square of its distance.
  Plan plan = blackRoom();
  Light& l = plan.lights[0];
  l.modifier = "softbox-40x40";
  l.hour = 3;
  l.distance = 2;
  l.height = plan.sitter.eyeHeight - 0.025;
  l.on = true;
  const Modifier& front = *findModifier(l.modifier);
  Panel box = piece("block");
  box.width = box.depth = 0.3;
  box.height = 3;
  box.above = 1.5;
  box.front = box.back = "black";
  box.hour = 3;
  box.distance = 1.1;
  box.turn = 0;
  for (double aside : {0.0, 0.04, -0.05}) {
    Panel moved = box;
    // Its edge at z = aside, its body towards the camera.
    const double x = box.distance, z = aside + box.width / 2;
    moved.distance = std::hypot(x, z);
    moved.hour = hourOf(x, z);
    moved.turn = -double(degrees(std::atan2(float(z), float(x))));
    Plan with = plan;
    with.panels = {moved};
    ProgressiveRender studio(8, 8);
    studio.setPlan(with);
    const auto scene = studio.scene();
    const Source source = sourceOf(*scene, placedSetOf(with), test::placed(with, l));
    const Vec3 at{0.3f, float(l.height), 0}, looks{1, 0, 0};
    const double open = directLux(nullptr, source.emitter(), at, looks, Receptor::Flat, 4096),
                 now = directLux(scene.get(), source.emitter(), at, looks, Receptor::Flat, 4096);
    const LightPose pose = source.emitter().pose();
    const Box solid = around(leavesOf(moved));
    double seen = 0, all = 0;
    constexpr int n = 400;
    for (int i = 0; i < n; ++i)
      for (int k = 0; k < n; ++k) {
        const Vec3 q = pose.centre + pose.frame.u * float(0.4 * ((i + 0.5) / n - 0.5)) +
                       pose.frame.v * float(0.4 * ((k + 0.5) / n - 0.5));
        const Vec3 d = q - at;
        const double far = double(length(d)), leaves = double(-dot(d, pose.frame.n)) / far;
        const double across = 2 * ((i + 0.5) / n - 0.5), up = 2 * ((k + 0.5) / n - 0.5);
        const double w = double(d.x) / far * std::pow(leaves, front.lobe) / (far * far) *
                         std::exp2(-front.hotCentre * std::min(1.5, across * across + up * up));
        all += w;
        if (solid.entry(at, d) > 1) seen += w;
      }
    EXPECT_NEAR(now / open, seen / all, 0.012) << aside;
    EXPECT_GT(seen / all, 0.05);
    EXPECT_LT(seen / all, 0.95);
  }
}

TEST(Pieces, LampAndShadeMoveTogetherAndBackAgain) {
  Plan plan = test::demoPlan();
  plan.panels = {piece("shade")};
  plan.lights.resize(1);
  History history(plan);
  Light bulb = plan.lights[0];
  bulb.id = "B";
  bulb.modifier = "lamp-6";
  bulb.unit = "bulb-7";
  bulb.inside = "1";
  history.perform(AddLight{bulb, 1}, "add", "");
  const auto together = [&] {
    const Plan& p = history.plan();
    const Light& l = *p.light("B");
    const Panel& s = *p.panel("1");
    return l.hour == s.hour && l.distance == s.distance && l.height == s.above;
  };
  EXPECT_TRUE(together()) << "it is put where its shade stands";
  const Plan before = history.plan();
  Panel moved = *before.panel("1");
  moved.hour = 9.5;
  moved.above = 1.3;
  history.perform(SetPanel{moved}, "move", "");
  EXPECT_TRUE(together());
  EXPECT_DOUBLE_EQ(history.plan().light("B")->hour, 9.5);
  Light pulled = *history.plan().light("B");
  pulled.distance = 1.7;
  history.perform(SetLight{pulled}, "pull", "");
  EXPECT_TRUE(together());
  EXPECT_DOUBLE_EQ(history.plan().panel("1")->distance, 1.7);
  history.undo();
  history.undo();
  EXPECT_EQ(history.plan(), before);
  history.redo();
  EXPECT_DOUBLE_EQ(history.plan().panel("1")->above, 1.3);
  EXPECT_TRUE(together());
}

TEST(Pieces, ALampInAShadeIsCautionedOf) {
  const Plan plan = loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/scenes/marrow-lane-glue-pot.easel.json");
  const auto said = cautionsFor(plan, {}, {});
  EXPECT_TRUE(std::any_of(said.begin(), said.end(), [](const Caution& c) {
    return c.id == "shade" && c.sentence.find("B burns") != std::string::npos;
  }));
}

TEST(Pieces, ALightIsAimedAtWhatItWorksOnAndMeteredThere) {
  Plan plan = test::demoPlan();
  plan.panels = {piece("table")};
  plan.lights.resize(1);
  Light own = plan.lights[0];
  own.id = "B";
  own.role = Role::Other;
  own.modifier = "snoot";
  own.worksOn = "1";
  own.hour = 8;
  own.distance = 1.2;
  own.height = 2.2;
  own.pan = own.tiltOffset = 0;
  plan.lights.push_back(own);
  const PieceSpot mark = spotOf(plan.panels[0]);
  const LightPose pose = lightPose(plan, own);
  EXPECT_GT(dot(normalize(mark.at - pose.centre), pose.frame.n), 0.9999f);
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  const Answers a = computeAnswers(*studio.scene(), placedSetOf(plan));
  EXPECT_EQ(idOf(a.light("B")->held), "panel 1");
  EXPECT_EQ(describe(a.light("B")->held.hold), "flat, on table 1");
  EXPECT_GT(a.light("B")->alone.total(), 3 * a.light("B")->atFace.total())
      << "a snoot on the table is not for the face";
  const SpotTable table = spotTable(*studio.scene(), placedSetOf(plan));
  const auto row =
      std::find_if(table.spots.begin(), table.spots.end(), [](const MeterSpot& s) { return s.id == "panel-1"; });
  ASSERT_NE(row, table.spots.end());
  EXPECT_NEAR(std::log2(table.luxSeconds[size_t(row - table.spots.begin())][1] / a.light("B")->alone.total()), 0, 0.03)
      << "one place, one figure";
  // Carried out, the light goes back to what its role says.
  plan.panels[0].on = false;
  EXPECT_EQ(workedOn(plan, plan.lights[1]), nullptr);
}

TEST(Pieces, ATableSaysWhatItSendsToTheChin) {
  Plan plan = loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/scenes/marrow-lane-bench.easel.json");
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  const auto of = [&](const char* finish) {
    Plan p = plan;
    p.panels[0].front = finish;
    ProgressiveRender s(8, 8);
    s.setPlan(p);
    return panelShares(*s.scene(), placedSetOf(p)).front();
  };
  const PanelShare white = of("white"), wood = of("wood"), black = of("cloth-black");
  EXPECT_GT(white.stops, wood.stops + 0.2);
  EXPECT_GT(wood.stops, 0.3) << wood.sentence;
  EXPECT_LT(black.stops, 0.15) << black.sentence;
  EXPECT_TRUE(white.spot == "chin" || white.spot == "neck") << white.sentence;
  EXPECT_EQ(white.light, "B") << "the snoot on the table feeds it";
}

TEST(Pieces, WhatTheCameraSawOfTheRestStillHolds) {
  Plan plan = test::demoPlan();
  plan.panels = {piece("table"), piece("chair", "2")};
  Plan moved = plan;
  moved.panels[0].hour += 0.3;
  moved.panels[0].distance += 0.1;
  const View view{cameraPose(plan, 0.8), 96, 121};
  ProgressiveRender a(8, 8), b(8, 8);
  a.setPlan(plan);
  b.setPlan(moved);
  const Interrupt never;
  SampleSets before(a.scene(), view);
  for (int k = 0; k < 3; ++k) before.build(k, never);
  SampleSets fresh(b.scene(), view), kept(b.scene(), view, 0, std::move(before));
  for (int k = 0; k < 4; ++k) {
    fresh.build(k, never);
    kept.build(k, never);
    const auto same = [](const PixelSample& x, const PixelSample& y) {
      return x.position == y.position && x.albedo.surface == y.albedo.surface && x.albedo.r == y.albedo.r &&
             x.normal.code() == y.normal.code();
    };
    size_t off = 0, offBounced = 0;
    for (size_t i = 0; i < fresh.set(k).size(); ++i) off += !same(fresh.set(k)[i], kept.set(k)[i]);
    for (size_t i = 0; i < fresh.bounces(k).size(); ++i) {
      const BounceSample &x = fresh.bounces(k)[i], &y = kept.bounces(k)[i];
      offBounced += !(x.position == y.position && x.side == y.side && x.albedo.surface == y.albedo.surface);
    }
    EXPECT_EQ(off, 0u) << k;
    EXPECT_EQ(offBounced, 0u) << k;
  }
  // More than a piece is different: nothing is kept, and nothing is wrong.
  Plan turned = moved;
  turned.backdrop.distance += 0.2;
  ProgressiveRender c(8, 8);
  c.setPlan(turned);
  EXPECT_FALSE(c.scene()->movedSince(*b.scene()));
}

TEST(GearInTheSet, StandsInTheSceneWhereItIsSeenOrInTheWay) {
  Plan plan = test::demoPlan();
  plan.panels.clear();
  plan.lights.resize(1);
  Light& key = plan.lights[0];
  key.modifier = "softbox-60x90";
  key.hour = 4.5;
  key.distance = 1.3;
  key.height = 1.9;
  EXPECT_FALSE(gearOf(placedSetOf(plan), test::placed(plan, key)).empty());
  EXPECT_TRUE(gearThatMatters(placedSetOf(plan)).empty()) << "a key beside the camera costs nothing";
  // Behind the sitter and beside the head it is in the picture.
  Plan seen = plan;
  seen.lights[0].hour = 12.4;
  seen.lights[0].distance = 1.2;
  seen.lights[0].height = 1.4;
  EXPECT_FALSE(gearThatMatters(placedSetOf(seen)).empty());
  // In another light's way.
  Plan before = plan;
  Light far = key;
  far.id = "B";
  far.distance = 2.6;
  far.height = 2.3;
  before.lights.push_back(far);
  ASSERT_FALSE(gearThatMatters(placedSetOf(before)).empty());
  ProgressiveRender studio(8, 8), alone(8, 8);
  studio.setPlan(before);
  const Answers a = computeAnswers(*studio.scene(), placedSetOf(before));
  alone.setPlan(plan);
  const Answers b = computeAnswers(*alone.scene(), placedSetOf(plan));
  EXPECT_NEAR(std::log2(a.light("A")->alone.total() / b.light("A")->alone.total()), 0, 0.05)
      << "no body is in the way of its own light";
  Plan open = before;
  open.lights.erase(open.lights.begin());
  alone.setPlan(open);
  const Answers c = computeAnswers(*alone.scene(), placedSetOf(open));
  EXPECT_LT(a.light("B")->alone.total(), 0.6 * c.light("B")->alone.total()) << "the key's box stands before it";
}

TEST(GearInTheSet, OneLooksIntoABowlAndOntoABox) {
  struct Form {
    const char* modifier;
    float reflectance, deepest, shallowest;  // metres behind the front
  };
  for (const Form& form : {Form{"softbox-60x90", 0.75f, 0.006f, 0},
                           {"octa-90", 0.75f, 0.006f, 0},
                           {"panel-60x30", 0.75f, 0.006f, 0},
                           {"dish-55", 0.75f, 0.2f, 0.03f},
                           {"dish-55-silver", 0.6f, 0.2f, 0.03f},
                           {"reflector-18", 0.6f, 0.18f, 0.03f},
                           {"umbrella-white", 0.75f, 0.3f, 0.05f},
                           {"umbrella-silver", 0.6f, 0.3f, 0.05f}}) {
    SCOPED_TRACE(form.modifier);
    Plan plan = test::demoPlan();
    plan.panels.clear();
    plan.lights.resize(1);
    Light& l = plan.lights[0];
    l.modifier = form.modifier;
    l.hour = 12.4;  // in the picture
    l.distance = 1.2;
    l.height = 1.4;
    ProgressiveRender studio(8, 8);
    studio.setPlan(plan);
    const LightPose pose = lightPose(plan, l);
    const Vec3 aside = pose.frame.u * float(findModifier(form.modifier)->width * 0.4);
    const auto met = studio.scene()->intersect(pose.centre + aside + pose.frame.n * 0.1f, -pose.frame.n, 1);
    ASSERT_TRUE(met);
    EXPECT_EQ(met->surface, Surface::Piece);
    EXPECT_NEAR(met->albedo.x, form.reflectance, 1e-3);
    EXPECT_LT(met->distance - 0.1f, form.deepest);
    EXPECT_GT(met->distance - 0.1f, form.shallowest);
    std::vector<Solid> body = gearOf(placedSetOf(plan), test::placed(plan, l));
    body.pop_back();  // head and stand
    for (const Solid& s : body)
      for (const Vec3& p : s.position) EXPECT_LT(dot(p - pose.centre, pose.frame.n), -0.001f) << "its own light leaves";
  }
}

TEST(GearInTheSet, ABulbInAShadeAndAWindowHaveNone) {
  Plan plan = test::demoPlan();
  Light l = plan.lights[0];
  l.modifier = "lamp-6";
  EXPECT_TRUE(gearOf(placedSetOf(plan), test::placed(plan, l)).empty());
  l.modifier = "window-100x130";
  EXPECT_TRUE(gearOf(placedSetOf(plan), test::placed(plan, l)).empty());
  l.modifier = "octa-90";
  l.height = 2;
  const std::vector<Solid> gear = gearOf(placedSetOf(plan), test::placed(plan, l));
  Box box;
  for (const Solid& s : gear)
    for (const Vec3& p : s.position) box.take(p);
  EXPECT_LT(box.low.y, 0.02) << "a stand reaches the floor";
  const LightPose pose = lightPose(plan, l);
  for (const Vec3& p : gear.front().position)
    EXPECT_LT(dot(p - pose.centre, pose.frame.n), -0.001f) << "the cloth is behind the plane that the light leaves";
}

std::string cube(double size) {
  std::string out = "# a cube\no cube\n";
  for (int k = 0; k < 8; ++k)
    out += fmt::format("v {} {} {}\n", size * (k & 1), size * (k >> 1 & 1), size * (k >> 2 & 1));
  return out + "f 1 3 4 2\nf 5 6 8 7\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\n";
}

TEST(Models, AreReadInMetresAndStandOnTheirFoot) {
  const Model m = readModelText(cube(0.4), "cube.obj");
  EXPECT_EQ(m.triangles.size(), 36u);
  EXPECT_NEAR(m.size.y, 0.4, 1e-6);
  Box box;
  for (const Vec3& p : m.position) box.take(p);
  EXPECT_NEAR(box.low.y, 0, 1e-6);
  EXPECT_NEAR(box.low.x, -0.2, 1e-6);
  EXPECT_NEAR(box.high.z, 0.2, 1e-6);
}

TEST(Models, WhatIsWrongIsSaidAndWhere) {
  const auto why = [](const std::string& text) -> std::string {
    try {
      readModelText(text, "vice.obj");
    } catch (const std::runtime_error& e) {
      return e.what();
    }
    return "";
  };
  EXPECT_NE(why("v 0 0 0\nv 1 0 nan\nv 0 1 0\nf 1 2 3\n").find("line 2"), std::string::npos);
  EXPECT_NE(why("v 0 0 0\nv 1 0\nv 0 1 0\nf 1 2 3\n").find("line 2"), std::string::npos);
  EXPECT_NE(why("v 0 0 1e300\nv 1 0 0\nv 0 1 0\nf 1 2 3\n").find("line 1"), std::string::npos);
  EXPECT_NE(why("").find("no faces"), std::string::npos);
  EXPECT_NE(why("v 0 0 0\n").find("no faces"), std::string::npos);
  EXPECT_NE(why(cube(900)).find("metres"), std::string::npos);
  for (const char* face : {"f 1 2 9\n", "f 1 2 -9\n", "f 0 1 2\n", "f a b c\n", "f 1\n", "f\n", "f 1 2 2000000000\n"})
    EXPECT_FALSE(why(std::string("v 0 0 0\nv 1 0 0\nv 0 1 0\n") + face).empty()) << face;
  EXPECT_NE(why("v " + std::string(30'000, '1') + "\n").find("line 1"), std::string::npos);
  // Whatever is cut or turned in it, it is read or refused.
  const std::string whole = cube(0.4);
  for (size_t cut = 0; cut < whole.size(); cut += 7) why(whole.substr(0, cut));
  for (size_t at = 0; at < whole.size(); at += 3) {
    std::string other = whole;
    other[at] = char(other[at] ^ 0x15);
    why(other);
  }
}

TEST(Models, APieceOfOnesOwnIsTracedAndMeteredWithItsReflectance) {
  const std::filesystem::path file = std::filesystem::path(testing::TempDir()) / "crate.obj";
  std::ofstream(file) << cube(0.5);
  ASSERT_EQ(importModel(file), "crate.obj");
  EXPECT_THROW(importModel(file.parent_path() / "none.obj"), std::runtime_error);
  Plan plan = blackRoom();
  Panel p = withModel(piece("object"), "crate.obj");
  EXPECT_NEAR(p.height, 0.5, 1e-6);
  EXPECT_NEAR(p.above, 0.25, 1e-6);
  p.hour = 6;
  p.distance = 0.8;
  p.reflectance = 0.6;
  plan.panels = {p};
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  const auto scene = studio.scene();
  const auto hit = scene->intersect({0.1f, 2, 0.8f}, {0, -1, 0}, 1);
  ASSERT_TRUE(hit);
  EXPECT_EQ(hit->surface, Surface::Piece);
  EXPECT_NEAR(hit->position.y, 0.5, 1e-4);
  EXPECT_NEAR(luminance(hit->albedo), 0.6, 0.01);
  const auto spots = meterSpots(*scene, placedSetOf(plan));
  EXPECT_TRUE(std::any_of(spots.begin(), spots.end(), [](const MeterSpot& s) {
    return s.id == "panel-1" && std::abs(s.position.y - 0.512f) < 0.01f && s.normal.y > 0.99f;
  }));
  // Gone from the folder it is a block, and said so.
  plan.panels[0].model = "gone.obj";
  bool said = false;
  for (const Finding& f : checkPlan(plan)) said |= f.sentence.find("gone.obj") != std::string::npos;
  EXPECT_TRUE(said);
  EXPECT_EQ(leavesOf(plan.panels[0]).front().sampling, Leaf::Sampling::ByCells);
}

}  // namespace
}  // namespace easel
