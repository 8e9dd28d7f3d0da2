// The examples of docs/rooms.md, compiled and run; the page and this file say the same.
#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

#include "analysis/fault_book.h"
#include "analysis/plan_reader.h"
#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "colour/colour.h"
#include "data/data_files.h"
#include "data/shipped.h"
#include "exposure/aperture.h"
#include "exposure/meter.h"
#include "files/atomic_file.h"
#include "files/record.h"
#include "formats/catalogue.h"
#include "formats/plan_json.h"
#include "gear/fittings.h"
#include "journal/learned.h"
#include "meter/spots.h"
#include "plan/edit.h"
#include "plan/roles.h"
#include "propose/propose.h"
#include "rendering/progressive_render.h"
#include "run/run.h"
#include "run/said_reading.h"
#include "sheet/layout.h"
#include "sheet/packed_plan.h"
#include "sheet/set_drawing.h"
#include "shoot/order.h"
#include "shoot/statics.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "sitters/strands.h"
#include "spoken/clock.h"
#include "spoken/length.h"
#include "spoken/say.h"
#include "support.h"
#include "wire/link.h"

namespace easel {
namespace {

// What some examples find there.
struct Examples : ::testing::Test {
  test::TemporaryFolder folder;
  Plan plan = test::demoPlan();
};

TEST_F(Examples, Spoken) {
  EXPECT_EQ(writeLength(readLength("4 ft 4 in", LengthUnit::Metres), LengthUnit::Metres), "1.32 m");
  EXPECT_EQ(writeClock(readClock("half past four")), "4:30");
  EXPECT_EQ(say("{} lights", 3), "3 lights");
}

TEST_F(Examples, Files) {
  writeFileAtomically(folder.path / "note.txt", "two pins, one cloth");
  EXPECT_EQ(readWholeFile(folder.path / "note.txt"), "two pins, one cloth");
  EXPECT_THROW(parseJson("[[[", {.kind = "note"}), FileError);
}

TEST_F(Examples, Data) {
  const DataFile file = readData(shippedText("looks.json"));
  EXPECT_EQ(file.kind, DataKind::Looks);
  EXPECT_GT(file.record()["looks"].size(), 20u);
}

TEST_F(Examples, Exposure) {
  EXPECT_NEAR(exactFromEngraved(5.6), 5.657, 0.001);
  EXPECT_EQ(writeAperture(readAperture("f/8 and a third"), ApertureStyle::Nominal), "f/9");
  const double lux = exposureForAperture(8, 100);  // lx s that call for f/8 at ISO 100
  EXPECT_NEAR(apertureForExposure(2 * lux, 100), 8 * std::sqrt(2), 1e-9);
}

TEST_F(Examples, GeometryAndColour) {
  const Vec3 up = cross({0, 0, 1}, {1, 0, 0});
  EXPECT_EQ(up.y, 1);
  EXPECT_NEAR(luminance(lightColour(3200, 5600)), 1, 1e-5);
}

TEST_F(Examples, Gear) {
  const Modifier& box = *findModifier("octa-90");
  Fittings worn;
  worn.diffusion = "sock";
  EXPECT_LT(fronted(box, worn).axialIntensity(), box.axialIntensity());
  EXPECT_NEAR(findUnit("mains-400")->lumenSeconds(-1, 0), 400 * 25 / 2, 1e-9);
}

TEST_F(Examples, Sitters) {
  const auto wren = loadSitter("wren");
  EXPECT_EQ(wren->name, personOf("wren").name);
  EXPECT_TRUE(paleHead("wren", "white", "own"));
  EXPECT_GT(grown(*wren, hairStyleOf("bob", {}), Posture(*wren, {})).segments.size(), 100000u);
  EXPECT_LT(fittedGlasses(*wren, *findGlasses("round"), 5).lens[0].axis.y, 0) << "it looks down";
  EXPECT_TRUE(findOutfit(personOf("wren").outfit)->apron);
}

TEST_F(Examples, Plan) {
  Plan plan;
  const Edit back = apply(plan, AddLight{proposeLight(plan, "key").light, 0});
  EXPECT_EQ(plan.lights.front().id, "A");
  takeBack(plan, back);
  EXPECT_TRUE(plan.lights.empty());
}

TEST_F(Examples, Placed) {
  const PlacedSet set = placedSetOf(plan, Catalogue::inUse());
  EXPECT_TRUE(set.key()->burns());
  EXPECT_NEAR(set.key()->distance, length(set.key()->pose.centre - set.face), 1e-6);
}

TEST_F(Examples, Transport) {
  const PlacedSet set = placedSetOf(plan);
  const Scene scene(set, loadSitter(set.sitter.id));
  const Vec3 nose = scene.studioPoint(scene.sitter().landmarks.noseTip);
  EXPECT_EQ(scene.intersect(nose + Vec3{0, 0, 0.5f}, {0, 0, -1}, 1)->surface, Surface::Skin);
}

TEST_F(Examples, Meter) {
  const PlacedSet set = placedSetOf(plan);
  const Scene scene(set, loadSitter(set.sitter.id));
  const Account account = accountOf(scene, set);
  const Answers answers = answersFrom(account, scene, set);
  EXPECT_GT(answers.light("A")->aperture, 1);
  const LightPaths& paths = account.holds[account.lights[0].works].perLumen[0];
  EXPECT_NEAR(answers.light("A")->alone.total(), account.lights[0].lamp.energy().total() * paths.total(), 1e-9);
  EXPECT_FALSE(spotTable(scene, set).spots.empty());
}

TEST_F(Examples, Picture) {
  ProgressiveRender render(32, 40);
  render.setPlan(plan);
  render.finish(4);
  EXPECT_EQ(developPicture(render.layers(), *render.set()).rgba.size(), 32u * 40 * 4);
}

TEST_F(Examples, Balance) {
  const Answers answers = test::answersOf(plan);
  const Balanced b = balance(plan, answers, BalanceBy::EachAlone);
  EXPECT_EQ(b.lights.size(), plan.lights.size());
  EXPECT_EQ(toneName(0.18), "mid grey");
}

TEST_F(Examples, Journal) {
  const Learned learned({{"mains-400", "octa-90", "", "", -0.3}});
  EXPECT_LT(learned.predict({"mains-400", "octa-90", "", "", 0}).stops, 0);
}

TEST_F(Examples, Run) {
  const PlacedSet set = placedSetOf(plan);
  const Scene scene(set, loadSitter(set.sitter.id));
  const Answers answers = computeAnswers(scene, set);
  const std::vector<RunStep> steps = runSteps(scene, set, answers);
  EXPECT_EQ(steps[1].light, "A");
  EXPECT_EQ(judge(scene, set, answers, steps[1], saidAperture("1.4")).verdict, Judgement::Verdict::Implausible);
}

TEST_F(Examples, Wire) {
  ProgramLink program;
  DeviceLink meter(DeviceKind::Meter, "pocket", {"read"});
  EXPECT_EQ(program.take(meter.out()).size(), 1u);
  EXPECT_TRUE(program.can("read"));
}

TEST_F(Examples, Shoot) {
  Plan softer = plan;
  softer.lights[0].modifier = "octa-120";
  EXPECT_EQ(changeover(&plan, softer, usualDay().times).moves(), 1);
  Day day;
  for (const Plan& p : {plan, softer, plan}) day.looks.emplace_back().plan = p;
  EXPECT_EQ(bestOrder(day, DayCosts(day, usualDay().times)).moves, 1);  // the two that are alike together
  EXPECT_NEAR(counterweightFor({.front = 1.5, .back = 0.5, .kilograms = 0}, 3, 1), 6, 1e-9);
}

TEST_F(Examples, Reading) {
  PlanReader reader(48, 60, 4);
  const FaceAnalysis face = reader.read(plan);
  EXPECT_FALSE(face.lighting.name.empty());
  EXPECT_EQ(recordOf("dead-eyes").title, "No catchlight");
}

TEST_F(Examples, Propose) {
  const Plan sketch = sketchOf(*findLook("three-on-black"), plan);
  EXPECT_EQ(sketch.lights.size(), 3u);
  EXPECT_EQ(sketch.backdrop.material, "paper-black");
}

TEST_F(Examples, Formats) {
  EXPECT_TRUE(readPlanText(writePlanText(plan)) == plan);
  EXPECT_EQ(whatItBrings(shippedText("people.json")).substr(0, 10), "people: 10");
}

TEST_F(Examples, Sheet) {
  const Pages pages{"The master", "", {Heading{"Levels", 2}, drawnSet(plan, SetView::Side)}};
  EXPECT_EQ(sheetPdf(pages, paperOf("a5"), Ink::Black).substr(0, 5), "%PDF-");
  EXPECT_EQ(unpackedPlan(packedPlan(plan)).title, plan.title);
}

// Every example of the page stands above, line for line.
TEST_F(Examples, ThePageSaysTheSame) {
  const auto lines = [](const std::string& file) {
    std::ifstream in(std::string(EASEL_SOURCE_DIR) + file);
    std::vector<std::string> all;
    for (std::string line; std::getline(in, line);) {
      line.erase(0, line.find_first_not_of(' ') == std::string::npos ? line.size() : line.find_first_not_of(' '));
      all.push_back(line);
    }
    return all;
  };
  const auto here = lines("/tests/core/examples_test.cpp");
  bool within = false;
  int examples = 0;
  for (const std::string& line : lines("/docs/rooms.md")) {
    if (line.starts_with("```")) {
      within = line == "```cpp";
      examples += within;
    } else if (within) {
      EXPECT_NE(std::find(here.begin(), here.end(), line), here.end()) << line;
    }
  }
  EXPECT_GE(examples, 15);
}

}  // namespace
}  // namespace easel
