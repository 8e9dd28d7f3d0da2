// The meter in sets put together at random (sets.h), against the path tracer of tools/reference/rooms, which shares no
// code with core/. Scrims close behind one another, walls that reach across the room, boards, tables, shades, halls.
#include <gtest/gtest.h>

#include <map>

#include "reference/sets.h"
#include "reference/sets_traced.h"
#include "rendering/progressive_render.h"

namespace easel {
namespace {

// The neck lies in the shade of the chin, a hollow whose own light to and fro is coarser here than light from outside;
// at a window's reveal it is the reveal's. Both are told apart from the rest.
bool inAHollow(const std::string& spot) { return spot == "neck" || spot == "panel-1"; }

TEST(Sets, TheMeterReadsWhatAnIndependentTracerReads) {
  struct Sum {
    double squares = 0, worst = 0;
    int n = 0;
    std::string where;
    void take(double off, const std::string& at) {
      squares += off * off;
      ++n;
      if (std::abs(off) > std::abs(worst)) worst = off, where = at;
    }
    double mean() const { return n ? std::sqrt(squares / n) : 0; }
  };
  std::map<std::string, Sum> kinds;
  Sum lit, seen, hollow, scrims;
  for (const test::RoomCase& c : test::setCases()) {
    ProgressiveRender studio(8, 8);
    studio.setPlan(c.plan);
    const auto scene = studio.scene();
    const Source source = sourceOf(*scene, placedSetOf(c.plan), test::placed(c.plan, c.plan.lights[0]));
    const auto traced = [&](const std::string& spot) -> const test::Traced* {
      for (const test::Traced& t : test::kTracedSets)
        if (c.name == t.room && spot == t.spot) return &t;
      return nullptr;
    };
    const auto spots = test::setSpots(*scene, c.plan);
    double brightest = 0;
    for (const MeterSpot& s : spots) {
      ASSERT_TRUE(traced(s.id)) << c.name << " " << s.id;
      brightest = std::max(brightest, traced(s.id)->direct + traced(s.id)->reflected);
    }
    for (const MeterSpot& s : spots) {
      const test::Traced& t = *traced(s.id);
      const double truth = t.direct + t.reflected;
      if (truth < brightest / 64) continue;
      const double lux = meteredLux(*scene, source, s.position, s.normal, s.receptor, 4096, 3000);
      const double off = std::log2(lux / truth);
      const std::string at = c.name + ", " + s.id, kind = c.name.substr(c.name.rfind(' ') + 1);
      if (inAHollow(s.id)) {
        hollow.take(off, at);
        continue;
      }
      kinds[kind].take(off, at);
      seen.take(off, at);
      if (kind.ends_with("scrims")) scrims.take(off, at);
      if (truth > 0.3 * brightest) lit.take(off, at);
    }
  }
  for (const auto& [kind, sum] : kinds)
    std::printf("%-14s %3d readings, %.3f stop root mean square, worst %+.3f at %s\n", kind.c_str(), sum.n, sum.mean(),
                sum.worst, sum.where.c_str());
  for (const auto& [name, sum] : {std::pair{"lit", &lit}, {"within 6 stops", &seen}, {"hollows", &hollow}})
    std::printf("%-14s %3d readings, %.3f stop root mean square, worst %+.3f at %s\n", name, sum->n, sum->mean(),
                sum->worst, sum->where.c_str());
  EXPECT_GT(lit.n, 150);
  EXPECT_LT(lit.mean(), 0.03);
  EXPECT_LT(seen.mean(), 0.05);
  EXPECT_LT(scrims.mean(), 0.05) << "0.4 when one of two scrims was looked for by its area alone";
  EXPECT_LT(std::abs(lit.worst), 0.16) << lit.where;
  EXPECT_LT(std::abs(seen.worst), 0.25) << seen.where;
}

}  // namespace
}  // namespace easel
