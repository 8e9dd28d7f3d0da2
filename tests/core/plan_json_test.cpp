#include <gtest/gtest.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <fstream>
#include <nlohmann/json.hpp>
#include <thread>

#include "files/atomic_file.h"
#include "support.h"

namespace easel {
namespace {

using nlohmann::json;

std::string refusal(const std::string& text) {
  try {
    readPlanText(text);
  } catch (const PlanFileError& e) {
    return e.what();
  }
  return {};
}
json demoJson() { return json::parse(writePlanText(test::demoPlan())); }

TEST(PlanFile, RoundTripIsExact) {
  Plan plan = test::demoPlan();
  plan.lights[0].hour = 4.123456789;
  plan.camera.shutter = 1.0 / 3;
  plan.notes = "Über \"quotes\"\nand lines \xF0\x9F\x8E\xBB";
  EXPECT_TRUE(readPlanText(writePlanText(plan)) == plan);
}

TEST(PlanFile, UnknownFieldsSurvive) {
  json j = demoJson();
  j["somebodysTool"] = {{"a", 1}};
  j["lights"][0]["sticker"] = "red";
  j["camera"]["strap"] = true;
  j["room"]["door"] = "left";
  const json back = json::parse(writePlanText(readPlanText(j.dump())));
  EXPECT_EQ(back["somebodysTool"]["a"], 1);
  EXPECT_EQ(back["lights"][0]["sticker"], "red");
  EXPECT_EQ(back["camera"]["strap"], true);
  EXPECT_EQ(back["room"]["door"], "left");
}

TEST(PlanFile, LittleIsEnough) {
  const Plan p = readPlanText(R"({"format":"jolly-easel-plan","version":1})");
  EXPECT_EQ(p.lights.size(), 0u);
  EXPECT_EQ(p.camera.iso, 100);
}

TEST(PlanFile, AnEngravedApertureMeansItsStop) {
  const Plan p = readPlanText(R"({"format":"jolly-easel-plan","version":1,"camera":{"aperture":22}})");
  EXPECT_NEAR(p.camera.aperture, std::sqrt(512.0), 1e-9);
  EXPECT_TRUE(readPlanText(writePlanText(p)) == p);
}

TEST(PlanFile, NewerVersionsAreRefusedWithASentence) {
  json j = demoJson();
  j["version"] = 2;
  EXPECT_NE(refusal(j.dump()).find("version 2"), std::string::npos);
  j["version"] = "1";
  EXPECT_FALSE(refusal(j.dump()).empty());
  j["version"] = 0;
  EXPECT_FALSE(refusal(j.dump()).empty());
}

TEST(PlanFile, ErrorsNameTheJsonPath) {
  struct Case {
    const char* pointer;
    json value;
    const char* path;
  };
  const Case cases[] = {
      {"/lights/0/distance", -3, "/lights/0/distance"},
      {"/lights/0/distance", "near", "/lights/0/distance"},
      {"/camera/iso", 0, "/camera/iso"},
      {"/camera/aperture", 1e9, "/camera/aperture"},
      {"/room/height", nullptr, "/room/height"},
      {"/sitter/turn", 4000, "/sitter/turn"},
      {"/lights/0/role", "boss", "/lights/0/role"},
      {"/lights/0/id", "AA", "/lights/0/id"},
      {"/lights", 5, "/lights"},
      {"/ambient/lux", -1, "/ambient/lux"},
      {"/lights/0/power", 3, "/lights/0/power"},
      {"/title", 7, "/title"},
  };
  for (const Case& c : cases) {
    json j = demoJson();
    j[json::json_pointer(c.pointer)] = c.value;
    const std::string said = refusal(j.dump());
    EXPECT_NE(said.find(c.path), std::string::npos) << c.pointer << " -> " << said;
  }
}

TEST(PlanFile, TruncatedAnywhereIsRefusedNeverTaken) {
  const std::string text = writePlanText(test::demoPlan());
  for (size_t n = 0; n + 2 < text.size(); n += 7) EXPECT_FALSE(refusal(text.substr(0, n)).empty()) << n;
}

TEST(PlanFile, HostileTextIsRefused) {
  EXPECT_FALSE(refusal("").empty());
  EXPECT_FALSE(refusal("null").empty());
  EXPECT_FALSE(refusal("[]").empty());
  EXPECT_FALSE(refusal("{\"format\":\"something-else\",\"version\":1}").empty());
  EXPECT_FALSE(refusal(std::string(200000, '[')).empty()) << "deep nesting must not exhaust the stack";
  EXPECT_FALSE(
      refusal(std::string("{\"format\":\"jolly-easel-plan\",\"version\":1,\"a\":") + std::string(100000, '[') + "}")
          .empty());
  EXPECT_FALSE(refusal("{\"format\":\"jolly-easel-plan\",\"version\":1,\"camera\":{\"iso\":NaN}}").empty())
      << "JSON has no NaN";
  EXPECT_FALSE(refusal("{\"format\":\"jolly-easel-plan\",\"version\":1,\"camera\":{\"iso\":1e999}}").empty());
  EXPECT_FALSE(refusal("{\"format\":\"jolly-easel-plan\",\"version\":1,\"title\":\"\xff\xfe\"}").empty())
      << "not UTF-8";
  EXPECT_FALSE(refusal(std::string("\0\0\0\0", 4)).empty());
}

TEST(PlanFile, TwoLightsOfOneLetterAreRefused) {
  json j = demoJson();
  j["lights"].push_back(j["lights"][0]);
  EXPECT_NE(refusal(j.dump()).find("letter A"), std::string::npos);
}

TEST(PlanFile, SeventeenLightsAreRefused) {
  json j = demoJson();
  for (int i = 0; i < 16; ++i) j["lights"].push_back(j["lights"][0]);
  EXPECT_FALSE(refusal(j.dump()).empty());
}

TEST(PlanFile, SavingIntoAReadOnlyFolderSaysSoAndKeepsTheOldFile) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "plan.easel.json";
  savePlan(file, test::demoPlan());
  Plan changed = test::demoPlan();
  changed.title = "changed";
  if (::geteuid() == 0) {
    // Root may write anywhere: a folder that is not there stands for one that cannot be written.
    EXPECT_THROW(savePlan(folder.path / "missing" / "plan.easel.json", changed), std::runtime_error);
  } else {
    std::filesystem::permissions(folder.path, std::filesystem::perms::owner_read | std::filesystem::perms::owner_exec);
    try {
      savePlan(file, changed);
      FAIL();
    } catch (const std::runtime_error& e) {
      EXPECT_NE(std::string(e.what()).find("plan.easel.json"), std::string::npos);
    }
  }
  EXPECT_EQ(loadPlan(file).title, test::demoPlan().title);
}

TEST(PlanFile, KilledWhileSavingLeavesTheOldFileOrTheNew) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "plan.easel.json";
  Plan plan = test::demoPlan();
  plan.title = "0";
  savePlan(file, plan);
  for (int round = 0; round < 12; ++round) {
    const pid_t child = ::fork();
    ASSERT_GE(child, 0);
    if (child == 0) {
      Plan mine = plan;
      mine.notes = std::string(20000, 'x');
      for (int i = 1;; ++i) {
        mine.title = std::to_string(i);
        savePlan(file, mine);
      }
    }
    ::usleep(useconds_t(1500 + 1700 * round));
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_NO_THROW(loadPlan(file)) << "round " << round;
  }
}

TEST(PlanFile, AFolderOrAMissingFileIsASentence) {
  for (const char* file : {"/", "/nowhere/at/all.easel.json"}) {
    try {
      loadPlan(file);
      FAIL() << file;
    } catch (const std::runtime_error& e) {
      EXPECT_NE(std::string(e.what()).find(file), std::string::npos);
    }
  }
}

TEST(AtomicFile, WritesThroughALink) {
  test::TemporaryFolder folder;
  writeFileAtomically(folder.path / "real", "one");
  std::filesystem::create_symlink(folder.path / "real", folder.path / "link");
  writeFileAtomically(folder.path / "link", "two");
  EXPECT_TRUE(std::filesystem::is_symlink(folder.path / "link"));
  EXPECT_EQ(readWholeFile(folder.path / "real"), "two");
  EXPECT_THROW(readWholeFile(folder.path / "real", 2), std::runtime_error);
}

}  // namespace
}  // namespace easel
