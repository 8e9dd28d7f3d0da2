#include <gtest/gtest.h>

#include <random>

#include "plan/history.h"
#include "plan/placement.h"
#include "support.h"

namespace easel {
namespace {

TEST(Placement, ClockIsSeenFromAbove) {
  EXPECT_NEAR(towardsHour(6).z, 1, 1e-6) << "six is the camera";
  EXPECT_NEAR(towardsHour(3).x, 1, 1e-6) << "three is camera right";
  EXPECT_NEAR(towardsHour(12).z, -1, 1e-6) << "twelve is the backdrop";
  for (double h = 0.25; h <= 12; h += 0.25) {
    const Vec3 d = towardsHour(h);
    EXPECT_NEAR(hourOf(d.x, d.z), h, 1e-5);
  }
}

TEST(Placement, LightsAimAtTheFaceUnlessFeathered) {
  Plan plan = test::demoPlan();
  Light& l = plan.lights[0];
  const Vec3 to = normalize(facePoint(plan) - lightPose(plan, l).centre);
  EXPECT_NEAR(dot(to, lightPose(plan, l).frame.n), 1, 1e-5);
  l.pan = 20;
  EXPECT_NEAR(degrees(std::acos(dot(Vec3{to.x, 0, to.z} / std::hypot(to.x, to.z),
                                    normalize(Vec3{lightPose(plan, l).frame.n.x, 0, lightPose(plan, l).frame.n.z})))),
              20, 0.05);
  l.pan = 0;
  const double down = downTilt(plan, l);
  l.tiltOffset = 10;
  EXPECT_NEAR(downTilt(plan, l), down - 10, 1e-3) << "up from the aim";
}

TEST(Placement, PanTurnsClockwiseSeenFromAbove) {
  Plan plan = test::demoPlan();
  Light& l = plan.lights[0];
  l.hour = 6;
  l.pan = 30;  // faces the backdrop; clockwise from above turns it towards one o'clock, camera right
  EXPECT_GT(lightPose(plan, l).frame.n.x, 0.4);
}

TEST(Placement, FrameIsRightHandedAndOrthonormal) {
  for (Vec3 n : {Vec3{0, 0, 1}, Vec3{0, 1, 0}, Vec3{0, -1, 0}, Vec3{1, 2, -3}, Vec3{-0.2f, -0.9f, 0.1f}}) {
    const Frame f = Frame::facing(n);
    EXPECT_NEAR(length(f.u), 1, 1e-5);
    EXPECT_NEAR(dot(f.u, f.v), 0, 1e-5);
    EXPECT_NEAR(dot(cross(f.u, f.v), f.n), 1, 1e-5);
  }
}

TEST(Edit, EveryEditHasAnInverse) {
  Plan plan = test::demoPlan();
  Light changed = plan.lights[0];
  changed.height = 2.1;
  Light added = changed;
  added.id = "B";
  Camera camera = plan.camera;
  camera.iso = 400;
  Backdrop backdrop = plan.backdrop;
  backdrop.material = "velvet-black";
  Ambient ambient{300, 3200, {}};
  Room room = plan.room;
  room.height = 4;
  SitterPlace sitter = plan.sitter;
  sitter.turn = 30;
  const Edit edits[] = {SetTitle{"x", "y"},
                        SetRoom{room},
                        SetSitter{sitter},
                        SetCamera{camera},
                        SetBackdrop{backdrop},
                        SetAmbient{ambient},
                        SetReceptor{Receptor::Dome, MeterAim::Camera},
                        SetLight{changed},
                        AddLight{added, 0},
                        RemoveLight{"A"},
                        SetSpots{{PinnedSpot{"pin-1", "Pin 1", 1, 1, 1, 0, 0, 1, false, Receptor::Dome, {}}}}};
  for (const Edit& e : edits) {
    Plan now = plan;
    const Edit back = apply(now, e);
    EXPECT_FALSE(now == plan) << e.index();
    apply(now, back);
    EXPECT_TRUE(now == plan) << e.index();
  }
}

TEST(Edit, RefusesWhatIsNotThere) {
  Plan plan = test::demoPlan();
  const Plan before = plan;
  EXPECT_THROW(apply(plan, RemoveLight{"Q"}), std::invalid_argument);
  EXPECT_THROW(apply(plan, AddLight{plan.lights[0], 0}), std::invalid_argument);
  Light ghost;
  ghost.id = "Z";
  EXPECT_THROW(apply(plan, SetLight{ghost}), std::invalid_argument);
  EXPECT_TRUE(plan == before);
}

TEST(History, ADragIsOneStep) {
  History h(test::demoPlan());
  h.reset(test::demoPlan());
  const double start = h.plan().lights[0].height;
  for (int i = 1; i <= 20; ++i) {
    Light l = h.plan().lights[0];
    l.height = start + i * 0.01;
    h.perform(SetLight{l}, "Height", "drag");
  }
  h.endMerge();
  EXPECT_TRUE(h.modified());
  h.undo();
  EXPECT_DOUBLE_EQ(h.plan().lights[0].height, start);
  EXPECT_FALSE(h.canUndo());
  EXPECT_FALSE(h.modified()) << "back at what was saved";
  h.redo();
  EXPECT_NEAR(h.plan().lights[0].height, start + 0.2, 1e-9);
}

TEST(History, TwoDragsAreTwoSteps) {
  History h(test::demoPlan());
  for (int drag = 0; drag < 2; ++drag) {
    for (int i = 0; i < 3; ++i) {
      Light l = h.plan().lights[0];
      l.height += 0.01;
      h.perform(SetLight{l}, "Height", "drag");
    }
    h.endMerge();
  }
  h.undo();
  EXPECT_TRUE(h.canUndo());
}

TEST(History, WhatWasTakenBackIsForgottenWithTheNextEdit) {
  History h(test::demoPlan());
  Light l = h.plan().lights[0];
  l.height += 0.1;
  h.perform(SetLight{l}, "Height");
  h.undo();
  ASSERT_TRUE(h.canRedo());
  l.distance += 0.1;
  h.perform(SetLight{l}, "Distance");
  EXPECT_FALSE(h.canRedo()) << "it would bring back a plan that never was";
}

TEST(History, AnEditThatChangesNothingLeavesNoStep) {
  History h(test::demoPlan());
  h.perform(SetLight{h.plan().lights[0]}, "Nothing");
  EXPECT_FALSE(h.canUndo());
}

TEST(History, RandomEditsUndoAllTheWayAndRedoAllTheWay) {
  const Plan first = test::demoPlan();
  History h(first);
  std::mt19937 random(42);
  for (int i = 0; i < 200; ++i) {
    const int kind = int(random() % 4);
    if (kind == 0 && !freeLetter(h.plan()).empty()) {
      Light l;
      l.id = freeLetter(h.plan());
      h.perform(AddLight{l, random() % 4}, "Add");
    } else if (kind == 1 && !h.plan().lights.empty()) {
      h.perform(RemoveLight{h.plan().lights[random() % h.plan().lights.size()].id}, "Remove");
    } else if (kind == 2 && !h.plan().lights.empty()) {
      Light l = h.plan().lights[random() % h.plan().lights.size()];
      l.distance = 0.5 + double(random() % 300) / 100;
      h.perform(SetLight{l}, "Move", random() % 2 ? "drag" : "");
    } else {
      Camera c = h.plan().camera;
      c.iso = 100 + double(random() % 900);
      h.perform(SetCamera{c}, "ISO");
    }
  }
  const Plan last = h.plan();
  while (h.canUndo()) h.undo();
  EXPECT_TRUE(h.plan() == first);
  while (h.canRedo()) h.redo();
  EXPECT_TRUE(h.plan() == last);
}

TEST(Plan, SixteenLettersAndNoMore) {
  Plan plan;
  for (int i = 0; i < 16; ++i) {
    Light l;
    l.id = freeLetter(plan);
    ASSERT_FALSE(l.id.empty());
    apply(plan, AddLight{l, 99});
  }
  EXPECT_TRUE(freeLetter(plan).empty());
}

}  // namespace
}  // namespace easel
