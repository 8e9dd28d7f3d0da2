#include "light/spots.h"

#include <gtest/gtest.h>

#include <set>
#include <sstream>

#include "exposure/meter.h"
#include "light/answers.h"
#include "light/studio.h"
#include "support.h"

namespace easel {
namespace {

Plan masterPlan() { return loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-master.easel.json"); }

struct Table {
  Plan plan;
  std::shared_ptr<const Scene> scene;
  SpotTable table;
  explicit Table(Plan p) : plan(std::move(p)) {
    Studio s(8, 8);
    s.setPlan(plan);
    scene = s.scene();
    table = spotTable(*scene, plan);
  }
  double at(const std::string& spot, const std::string& light) const {
    for (size_t i = 0; i < table.spots.size(); ++i)
      for (size_t j = 0; j < table.lights.size(); ++j)
        if (table.spots[i].id == spot && table.lights[j] == light) return table.luxSeconds[i][j];
    ADD_FAILURE() << spot << " " << light;
    return 0;
  }
};

TEST(Spots, StandOffTheSurfaceAndLookOutOfIt) {
  const Table t(masterPlan());
  std::set<std::string> ids;
  for (const MeterSpot& s : t.table.spots) {
    EXPECT_TRUE(ids.insert(s.id).second) << s.id;
    EXPECT_NEAR(length(s.normal), 1, 1e-3) << s.id;
    EXPECT_FALSE(t.scene->occluded(s.position, s.normal, 0, 0.05f, 1)) << s.id << ": the receptor is free";
  }
  EXPECT_GE(ids.size(), 15u);
}

TEST(Spots, TheKeySideCheekReadsMoreOfTheKey) {
  const Table t(masterPlan());
  EXPECT_GT(t.at("cheek-left", "A"), 1.3 * t.at("cheek-right", "A"))
      << "the key stands camera right, on the sitter's left";
  EXPECT_GT(t.at("hair-top", "C"), 5 * t.at("chin", "C"));
  EXPECT_GT(t.at("backdrop", "D"), 20 * t.at("face", "D"));
}

TEST(Spots, TogetherIsTheSumOfWhatIsOn) {
  Plan p = masterPlan();
  p.lights[1].on = false;
  const Table t(p);
  for (size_t s = 0; s < t.table.spots.size(); ++s) {
    double sum = 0;
    for (size_t l = 0; l < t.table.lights.size(); ++l)
      if (t.table.lights[l] != "B") sum += t.table.luxSeconds[s][l];
    EXPECT_NEAR(t.table.together[s], sum, 1e-9 * (1 + sum));
  }
}

TEST(Spots, MirroredSetMirrorsTheCheeks) {
  Plan p = test::demoPlan();
  const Table right(p);
  p.lights[0].hour = 12 - p.lights[0].hour;
  const Table left(p);
  EXPECT_NEAR(std::log2(right.at("cheek-left", "A") / left.at("cheek-right", "A")), 0, 0.15);
}

TEST(Spots, CsvHasARowASpotAndEqualFields) {
  const Table t(masterPlan());
  std::istringstream in(writeSpotCsv(t.table, t.plan));
  std::string line;
  size_t rows = 0, fields = 0;
  while (std::getline(in, line)) {
    ASSERT_FALSE(line.empty());
    EXPECT_EQ(line.back(), '\r');
    size_t n = 1;
    bool quoted = false;
    for (char c : line) {
      if (c == '"') quoted = !quoted;
      n += c == ',' && !quoted;
    }
    if (rows == 0) fields = n;
    EXPECT_EQ(n, fields) << line;
    ++rows;
  }
  EXPECT_EQ(rows, t.table.spots.size() + 1);
  EXPECT_EQ(fields, 2 + 3 * (t.plan.lights.size() + 2));
}

}  // namespace
}  // namespace easel
