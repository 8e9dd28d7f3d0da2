// The meter in rooms with a sitter, against a path tracer of its own (tools/reference/rooms/trace.cpp: all orders,
// brute force, no code shared with core/; checked against the closed room E = flux / (area (1 - reflectance)),
// integrating sphere and closed enclosure, e.g. DiLaura, Houser, Mistrick, Steffy, "The Lighting Handbook", 10th ed.,
// IES 2011, ch. 10; value from memory). Three sizes, three paints, four kinds of light, panels in one another's light,
// a table, a lamp's shade, a doorway, and the body of a flash in the picture.
#include <gtest/gtest.h>

#include <map>

#include "placed/gear_bodies.h"
#include "reference/rooms.h"
#include "reference/rooms_traced.h"

namespace easel {
namespace {

TEST(Rooms, TheMeterReadsAllOrdersOfReflection) {
  std::map<std::string, double> worst;
  double squares = 0;
  int n = 0;
  std::map<std::string, std::vector<double>> chain;
  for (const test::RoomCase& c : test::roomCases()) {
    ProgressiveRender studio(8, 8);
    studio.setPlan(c.plan);
    const auto scene = studio.scene();
    const Source source = sourceOf(*scene, placedSetOf(c.plan), test::placed(c.plan, c.plan.lights[0]));
    for (const MeterSpot& s : test::roomSpots(*scene, c.plan)) {
      const auto traced = std::find_if(std::begin(test::kTraced), std::end(test::kTraced),
                                       [&](const test::Traced& t) { return c.name == t.room && s.id == t.spot; });
      ASSERT_NE(traced, std::end(test::kTraced)) << c.name << " " << s.id;
      const double truth = traced->direct + traced->reflected;
      // In deep shadow behind a wall or a body a hold has its own noise, which the table of spots tells; here it is
      // asked often enough to see what it tends to.
      const int bounced = test::pieces(c.plan) || !gearThatMatters(placedSetOf(c.plan)).empty() ? 5000 : 640;
      const double lux = meteredLux(*scene, source, s.position, s.normal, s.receptor, 512, bounced);
      const double off = std::log2(lux / truth);
      const std::string kind = c.name.substr(c.name.rfind(' ') + 1) + " " + s.id;
      if (std::abs(off) > std::abs(worst[kind])) worst[kind] = off;
      squares += off * off;
      ++n;
      // The far cheek within 0.1, the cloth within 0.08, all else within 0.05 stop; and the tracer's own error.
      const bool cheek = s.id == "cheek-right", cloth = s.id.starts_with("cloth");
      EXPECT_NEAR(off, 0,
                  (cheek   ? 0.1
                   : cloth ? 0.08
                           : 0.05) +
                      2 * traced->error)
          << c.name << ", " << s.id << ": " << lux << " for " << truth;
      if (kind.starts_with("scrim-board") || kind.starts_with("board-scrim"))
        chain[c.name.substr(0, c.name.rfind(' ')) + " " + s.id].push_back(lux);
    }
  }
  for (const auto& [kind, stops] : worst)
    if (std::getenv("EASEL_SHOW")) std::printf("%-24s %+.3f\n", kind.c_str(), stops);
  std::printf("%d readings, %.3f stop root mean square\n", n, std::sqrt(squares / n));
  EXPECT_LT(std::sqrt(squares / n), 0.03);
  // Scrim first or board first in the list: the same light.
  for (const auto& [where, lux] : chain) {
    ASSERT_EQ(lux.size(), 2u);
    EXPECT_NEAR(std::log2(lux[0] / lux[1]), 0, 0.03) << where;
  }
}

}  // namespace
}  // namespace easel
