// The metering run: its order, what a reading means, what a change unsettles.
#include "run/run.h"

#include <gtest/gtest.h>

#include <array>
#include <random>

#include "exposure/aperture.h"
#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "plan/placement.h"
#include "plan/roles.h"
#include "run/course.h"
#include "run/reflected.h"
#include "run/said_reading.h"
#include "support.h"

namespace easel {
namespace {

struct Ready {
  Plan plan;
  std::shared_ptr<const Scene> scene;
  Answers answers;
  std::vector<RunStep> steps;
  explicit Ready(Plan p) : plan(std::move(p)) {
    ProgressiveRender s(8, 8);
    s.setPlan(plan);
    scene = s.scene();
    answers = computeAnswers(*scene, placedSetOf(plan));
    steps = runSteps(*scene, placedSetOf(plan), answers);
  }
};

TEST(SaidReading, IsUnderstoodAsItIsCalled) {
  const auto av = [](const char* text) { return avFromFNumber(saidAperture(text)); };
  EXPECT_NEAR(av("five six and a half"), 5.5, 1e-9);
  EXPECT_NEAR(av("f five point six and a half"), 5.5, 1e-9);
  EXPECT_NEAR(av("Eight"), 6, 1e-9);
  EXPECT_NEAR(av("eight and a third"), 6 + 1.0 / 3, 1e-9);
  EXPECT_NEAR(av("eleven two thirds"), 7 + 2.0 / 3, 1e-9);
  EXPECT_NEAR(av("sixteen minus a third"), 8 - 1.0 / 3, 1e-9);
  EXPECT_NEAR(av("two eight point four"), 3.4, 1e-9);
  EXPECT_NEAR(av("f/5.6 + 0.3"), 5.3, 1e-9);
  EXPECT_NEAR(av("8 1/3"), 6 + 1.0 / 3, 1e-9);
  for (const char* bad : {"", "f", "bright", "eight and", "eight and a lot", "half", "five six and a half please"})
    EXPECT_THROW(saidAperture(bad), std::invalid_argument) << bad;
}

TEST(Run, GoesInTheOrderOfPractice) {  // common practice, no source
  Plan p = test::masterPlan();
  std::swap(p.lights[0], p.lights[2]);  // the key does not stand first in the list
  p.lights[1].on = false;
  const Ready r(p);
  using K = RunStep::Kind;
  ASSERT_EQ(r.steps.size(), 6u);
  EXPECT_EQ(r.steps[0].kind, K::AllOff);
  EXPECT_EQ(r.steps[1].light, "A") << "key first";
  EXPECT_EQ(r.steps[2].kind, K::Picture);
  EXPECT_EQ(r.steps.back().kind, K::Together);
  for (const RunStep& s : r.steps) EXPECT_NE(s.light, "B") << "what is off is not metered";
  EXPECT_EQ(settingOf(r.steps[1], p), findUnit(p.lights[2].unit)->scale.write(p.lights[2].power));
  EXPECT_EQ(r.steps.back().expected, r.answers.aperture) << "one figure, one meaning";
  const std::string said = describe(r.steps[1], p);
  for (const char* part : {"A alone", "1/16 + 0.9", "flat, towards A", "f/8"})
    EXPECT_NE(said.find(part), std::string::npos) << said;
}

TEST(Run, TheRoomAloneIsJudgedByWhatItWillShow) {
  const Ready r(test::masterPlan());
  EXPECT_EQ(judge(*r.scene, placedSetOf(r.plan), r.answers, r.steps[0], 1).verdict, Judgement::Verdict::OnTarget);
  const Judgement light = judge(*r.scene, placedSetOf(r.plan), r.answers, r.steps[0], 5.657);
  EXPECT_EQ(light.verdict, Judgement::Verdict::Off);
  EXPECT_NE(light.sentence.find("only 1.0 stops under"), std::string::npos) << light.sentence;
}

TEST(Run, AReadingOnItsPegIsDoneAndAnotherSaysThePower) {
  const Ready r(test::masterPlan());
  const RunStep& key = r.steps[1];
  const JudgeBy clean{0.1, 1.0 / 3};
  const double target = key.expected * std::exp2(-key.fromTarget / 2);
  const Judgement on = judge(*r.scene, placedSetOf(r.plan), r.answers, key, target * std::exp2(0.05 / 2), clean);
  EXPECT_EQ(on.verdict, Judgement::Verdict::OnTarget) << on.sentence;
  const Judgement off = judge(*r.scene, placedSetOf(r.plan), r.answers, key, target * std::exp2(-0.4 / 2), clean);
  ASSERT_EQ(off.verdict, Judgement::Verdict::Off) << off.sentence;
  ASSERT_TRUE(off.power);
  EXPECT_NEAR(*off.power, key.power + 0.4, 0.051) << "as near as the unit can be set";
  // At the end of its scale the step that brings it.
  Plan weak = r.plan;
  weak.light("A")->power = 0;
  const Ready full(weak);
  const RunStep& most = full.steps[1];
  const double low = most.expected * std::exp2(-most.fromTarget / 2) * std::exp2(-0.5 / 2);
  RunStep asIs = most;
  asIs.fromTarget = 0;
  asIs.expected = low * std::exp2(0.5 / 2);
  const Judgement end = judge(*full.scene, placedSetOf(weak), full.answers, asIs, low, clean);
  ASSERT_EQ(end.verdict, Judgement::Verdict::Off);
  EXPECT_NEAR(end.left, 0.5, 0.02);
  EXPECT_NE(end.sentence.find("nearer"), std::string::npos) << end.sentence;
}

// 200 clean readings at a spread of a tenth of a stop: nothing is called implausible.
TEST(Run, CleanReadingsRaiseNoAlarm) {
  std::mt19937 random(7);
  std::normal_distribution<double> tenth(0, 0.1);
  int readings = 0, alarms = 0;
  for (const char* demo : {"marrow-lane-master", "marrow-lane-two-lights", "marrow-lane-fiddler"}) {
    const Ready r(loadPlan(test::demoFile(demo)));
    for (int i = 0; i < 25; ++i)
      for (const RunStep& s : r.steps) {
        if (s.kind != RunStep::Kind::Alone || readings >= 200) continue;
        ++readings;
        alarms +=
            judge(*r.scene, placedSetOf(r.plan), r.answers, s, s.expected * std::exp2(tenth(random) / 2)).verdict ==
            Judgement::Verdict::Implausible;
      }
  }
  EXPECT_EQ(readings, 200);
  EXPECT_EQ(alarms, 0);
}

// What goes wrong, done to the light itself and read by the meter as it is then held; the spread is a tenth of a stop.
double misread(const Ready& r, const RunStep& s, Misreading what, std::string* who, std::mt19937& random) {
  const Camera& cam = r.plan.camera;
  const double c = calibrationConstant(s.meter.hold.receptor);
  Light l = *r.plan.light(s.light);
  const LightAnswer& own = *r.answers.light(s.light);
  const double alone = own.alone.total(), ambient = evenly(s.meter.hold.receptor, r.plan.ambient.lux * cam.shutter);
  const Vec3 lamp = lightPose(r.plan, l).centre;
  const Vec3 looks = normalize((s.meter.hold.towards.empty() ? cameraPose(r.plan).eye : lamp) - r.answers.meterSpot);
  const Source source = sourceOf(*r.scene, placedSetOf(r.plan), test::placed(r.plan, l));
  std::pair<std::string, double> strongest{"", -99};
  for (const auto& o : own.others)
    if (r.plan.light(o.first)->on && o.second > strongest.second) strongest = o;
  *who = "";
  std::uniform_real_distribution<double> even(0, 1);
  switch (what) {
    case Misreading::TwoLights:
      *who = strongest.first;
      return strongest.second > -1.2 ? apertureForExposure(alone * (1 + std::exp2(strongest.second)), cam.iso, c) : 0;
    case Misreading::WrongGroup:
      *who = strongest.first;
      return strongest.second > -4 && strongest.second < -0.5
                 ? apertureForExposure(alone * std::exp2(strongest.second), cam.iso, c)
                 : 0;
    case Misreading::NothingFired:
      return apertureForExposure(ambient, cam.iso, c);
    case Misreading::NotRecycled:
      return s.expected * std::exp2(-(0.85 + 0.3 * even(random)) / 2);
    case Misreading::HalfWay: {
      if (s.meter.where != MeteredAt::Face) return 0;
      const Vec3 at = r.answers.meterSpot + (lamp - r.answers.meterSpot) * 0.5f;
      return apertureForExposure(
          lampGives(l, l.power, cam).total() * meteredLux(*r.scene, source, at, looks, s.meter.hold.receptor, 256, 192),
          cam.iso, c);
    }
    case Misreading::Receptor: {
      if (s.meter.where != MeteredAt::Face) return 0;
      const Receptor other = s.meter.hold.receptor == Receptor::Flat ? Receptor::Dome : Receptor::Flat;
      const Vec3 at = r.answers.meterSpot;
      return apertureForExposure(
          lampGives(l, l.power, cam).total() * meteredLux(*r.scene, source, at, looks, other, 256, 192), cam.iso,
          calibrationConstant(other));
    }
    case Misreading::InShadow:
      if (s.meter.where != MeteredAt::Face) return 0;
      return apertureForExposure(lampGives(l, l.power, cam).total() * bouncedLux(*r.scene, source, r.answers.meterSpot,
                                                                                 looks, s.meter.hold.receptor, 192) +
                                     ambient,
                                 cam.iso, c);
    case Misreading::ModellingLamp: {
      l.modelling = true;
      const LampEnergy e = lampGives(l, l.power, cam);
      return e.steady > e.flash * 0.3 ? s.expected * std::sqrt(1 + e.steady / e.flash) : 0;
    }
    case Misreading::Reflected: {
      const double over = reflectedOver(*r.scene, placedSetOf(r.plan), s.meter);
      return std::abs(over) > 0.45 ? s.expected * std::exp2(over / 2) : 0;
    }
    case Misreading::MeterSettings:
      return s.expected * std::exp2((even(random) < 0.5 ? 1.0 : -1.0));  // two stops: ISO 400 or 25
  }
  return 0;
}

TEST(Run, WhiteReadsOverAndBlackUnderOnASpotMeter) {
  const Ready r(test::masterPlan());
  const auto all = reflectedReadings(*r.scene, placedSetOf(r.plan), spotTable(*r.scene, placedSetOf(r.plan)));
  const auto of = [&](const std::string& name) {
    return std::find_if(all.begin(), all.end(), [&](const ReflectedReading& x) { return x.name == name; });
  };
  ASSERT_NE(of("White card at the face"), all.end());
  EXPECT_NEAR(of("White card at the face")->stops, 2.32, 0.01) << "five times as much as mid grey";
  EXPECT_NEAR(of("Grey card at the face")->stops, 0, 1e-9);
  EXPECT_NEAR(of("Black card at the face")->stops, -2.17, 0.01);
  EXPECT_NEAR(of("Grey card at the face")->incident, r.answers.aperture, 0.01 * r.answers.aperture);
  // Skin of light complexion lies about a stop over mid grey (common practice, no source); the painted canvas by its
  // own figure in the catalogue.
  ASSERT_NE(of("Left cheek"), all.end());
  EXPECT_GT(of("Left cheek")->stops, -0.5);
  EXPECT_LT(of("Left cheek")->stops, 1.5);
  EXPECT_NEAR(of("Backdrop, middle")->reflectance, backdropLuminance(r.plan.backdrop.material), 0.05);
}

TEST(Run, AReflectedReadingOfTheBackdropIsNamed) {
  Plan p = test::masterPlan();
  p.backdrop.material = "paper-white";
  const Ready r(p);
  const auto at = std::find_if(r.steps.begin(), r.steps.end(),
                               [](const RunStep& s) { return s.meter.where == MeteredAt::Backdrop; });
  ASSERT_NE(at, r.steps.end());
  const double over = reflectedOver(*r.scene, placedSetOf(r.plan), at->meter);
  EXPECT_GT(over, 1.5);
  const Judgement j = judge(*r.scene, placedSetOf(r.plan), r.answers, *at, at->expected * std::exp2(over / 2));
  ASSERT_FALSE(j.causes.empty()) << j.sentence;
  EXPECT_EQ(j.causes[0].what, Misreading::Reflected) << j.causes[0].sentence;
}

TEST(Run, EachCauseIsNamedFirst) {
  std::mt19937 random(11);
  std::normal_distribution<double> tenth(0, 0.1);
  // A key at a tenth of its usual light, so that a modelling lamp can count, beside the ordinary sets.
  std::vector<Ready> sets;
  for (const char* demo : {"marrow-lane-master", "marrow-lane-two-lights"}) {
    Plan p = loadPlan(test::demoFile(demo));
    sets.emplace_back(p);
  }
  Plan slow = test::masterPlan();
  slow.camera.shutter = 1.0 / 30;
  slow.camera.aperture = 4;
  for (Light& l : slow.lights) l.power -= 2;
  sets.emplace_back(slow);
  // The dome's school, and a key far round: there a flat receptor reads another thing.
  Plan dome = test::masterPlan();
  dome.receptor = Receptor::Dome;
  dome.meterAim = MeterAim::Camera;
  dome.light("A")->hour = 3.2;
  sets.emplace_back(dome);
  std::array<int, kMisreadings> done{}, named{};
  for (int round = 0; round < 12; ++round)
    for (const Ready& r : sets)
      for (const RunStep& s : r.steps) {
        if (s.kind != RunStep::Kind::Alone) continue;
        for (int k = 0; k < kMisreadings; ++k) {
          std::string who;
          const double f = misread(r, s, Misreading(k), &who, random);
          if (!(f > 0)) continue;
          // What is read apart from a clean reading by less than the spread hides, nobody can name.
          if (std::abs(2 * std::log2(f / s.expected)) < 0.45) continue;
          // The others of this run were read before, as they should be; with a meter set wrongly as far off as this
          // one.
          JudgeBy by;
          for (int n = 0; n < 2; ++n)
            by.others.push_back(tenth(random) +
                                (Misreading(k) == Misreading::MeterSettings ? 2 * std::log2(f / s.expected) : 0.0));
          const Judgement j = judge(*r.scene, placedSetOf(r.plan), r.answers, s, f * std::exp2(tenth(random) / 2), by);
          ++done[size_t(k)];
          // Two causes that read alike stand side by side: one reading cannot part them, the sentences do.
          const bool alike =
              j.causes.size() > 1 && std::abs(2 * std::log2(j.causes[0].expected / j.causes[1].expected)) < 0.25;
          named[size_t(k)] +=
              (!j.causes.empty() && j.causes[0].what == Misreading(k)) || (alike && j.causes[1].what == Misreading(k));
        }
      }
  for (int k = 0; k < kMisreadings; ++k)
    std::printf("cause %d: %d of %d named first\n", k, named[size_t(k)], done[size_t(k)]);
  for (int k = 0; k < kMisreadings; ++k) {
    EXPECT_GE(done[size_t(k)], 10) << k;
    // Skin a stop from mid grey reads as a head that had not recycled: nobody can tell those two by one reading.
    EXPECT_GE(named[size_t(k)], (Misreading(k) == Misreading::Reflected ? 0.8 : 0.9) * done[size_t(k)]) << k;
  }
}

TEST(Run, WhyAReadingIsRepeatedIsKept) {
  const Ready r(test::masterPlan());
  RunCourse course(r.scene, r.plan);
  course.goTo(1);
  const auto why = [&] { return course.reading(1)->why; };
  course.read(course.step().expected * std::exp2(-0.5 / 2));
  EXPECT_EQ(why(), "");
  ASSERT_TRUE(course.setAsTold());
  course.read(kShowsNothing);
  EXPECT_EQ(why(), "set");
  course.read(course.step().expected);
  EXPECT_EQ(why(), "doubt");
  course.read(course.step().expected);
  EXPECT_EQ(why(), "once more");
  Plan iso = course.plan();
  iso.camera.iso *= 2;
  course.planChanged(r.scene, iso);
  course.read(course.step().expected);
  EXPECT_EQ(why(), "changed");
}

TEST(Run, WhatNoMeterShowsIsNoReading) {
  const Ready r(test::masterPlan());
  RunCourse course(r.scene, r.plan);
  course.goTo(1);
  for (const double f : {1e308, 5e-324, 0.0, -8.0, std::nan("")})
    EXPECT_THROW(course.read(f), std::invalid_argument) << f;
  EXPECT_FALSE(course.reading(1));
}

// What was found out about a head, and read of it, is the head's, not the letter's.
TEST(Run, ACorrectionGoesWithItsHeadToAnotherLetter) {
  const Ready r(test::masterPlan());
  RunCourse course(r.scene, r.plan, {}, {}, {{"A", {0.5, 0.1}}});
  const auto expected = [&](const std::string& light) {
    for (const RunStep& s : course.steps())
      if (s.kind == RunStep::Kind::Alone && s.light == light) return s.expected;
    return 0.0;
  };
  const auto stepOf = [&](const std::string& light) {
    for (size_t i = 0; i < course.steps().size(); ++i)
      if (course.steps()[i].kind == RunStep::Kind::Alone && course.steps()[i].light == light) return i;
    return course.steps().size();
  };
  const double keyReads = expected("A"), hairReads = expected("C");
  course.goTo(stepOf("A"));
  course.read(keyReads);
  Plan other = r.plan;
  for (Light& l : other.lights) l.id = l.id == "A" ? "C" : l.id == "C" ? "A" : l.id;
  EXPECT_EQ(lettersIn(r.plan, other).at("A"), "C");
  course.planChanged(Ready(other).scene, other);
  EXPECT_NEAR(expected("C"), keyReads, 1e-3 * keyReads);
  EXPECT_NEAR(expected("A"), hairReads, 1e-3 * hairReads);
  EXPECT_EQ(course.step().light, "C") << "it stands at the head where it stood";
  ASSERT_TRUE(course.reading(stepOf("C")));
  EXPECT_FALSE(course.reading(stepOf("C"))->unsettled);
  EXPECT_FALSE(course.reading(stepOf("A")) && course.reading(stepOf("A"))->tries > 0);
}

TEST(Run, ALightThatIsChangedKeepsItsLetter) {
  Plan p = test::masterPlan();
  p.light("A")->distance += 0.3;
  p.light("B")->power -= 1;
  for (const auto& [was, is] : lettersIn(test::masterPlan(), p)) EXPECT_EQ(was, is);
  p.lights.erase(p.lights.begin());
  EXPECT_EQ(lettersIn(test::masterPlan(), p).count("A"), 0u);
}

TEST(Run, AChangeUnsettlesWhatItCanChange) {
  const Ready before(test::masterPlan());
  Plan p = before.plan;
  p.light("C")->distance += 0.3;
  const Ready after(p);
  std::vector<std::string> moved;
  for (const Unsettled& u : unsettledBy(before.steps, after.steps)) moved.push_back(before.steps[u.step].light);
  EXPECT_EQ(moved, std::vector<std::string>{"C"}) << "the hair light alone";
  p = before.plan;
  p.camera.iso = 200;
  const auto all = unsettledBy(before.steps, Ready(p).steps);
  EXPECT_GE(all.size(), 5u);
  for (const Unsettled& u : all) EXPECT_NEAR(u.stops, 1, 1e-6);
  p = before.plan;
  p.title = "Another name";
  EXPECT_TRUE(unsettledBy(before.steps, Ready(p).steps).empty());
}

TEST(Run, ACourseGoesFromTheFirstKeyToAllSet) {
  const Ready r(test::masterPlan());
  RunCourse run(r.scene, r.plan, {0.1, 1.0 / 3});
  int presses = 0;
  // A head that gives a third of a stop less than the catalogue: told once, set, read again.
  const auto truth = [&](const RunStep& s) {
    const Light* l = run.plan().light(s.light);
    const LightAnswer* a = l ? r.answers.light(s.light) : nullptr;
    return a ? a->aperture * std::exp2((l->power - r.plan.light(s.light)->power - 1.0 / 3) / 2) : s.expected;
  };
  while (!run.over() && presses < 100) {
    if (run.step().kind != RunStep::Kind::Picture) {
      ++presses;
      const Judgement j = run.read(truth(run.step()));
      EXPECT_NE(j.verdict, Judgement::Verdict::Implausible) << j.sentence;
      if (j.verdict == Judgement::Verdict::Off && run.step().kind == RunStep::Kind::Alone) {
        ++presses;
        ASSERT_TRUE(run.setAsTold());
        ++presses;
        const Judgement again = run.read(truth(run.step()));
        EXPECT_LE(std::abs(again.off), 0.2) << again.sentence;
      }
    }
    ++presses;
    run.next();
  }
  EXPECT_TRUE(run.open().empty());
  EXPECT_LE(presses, 25) << "four lights";
  EXPECT_NEAR(run.plan().light("A")->power, r.plan.light("A")->power + 0.3, 0.11);
  // A light that is moved then wants its reading again, and only it.
  Plan moved = run.plan();
  moved.light("C")->distance += 0.3;
  const Ready now(moved);
  run.planChanged(now.scene, moved);
  ASSERT_EQ(run.open().size(), 1u);
  EXPECT_EQ(run.steps()[run.open()[0]].light, "C");
}

}  // namespace
}  // namespace easel
