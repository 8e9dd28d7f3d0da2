// Emitters, flags and panels against a general-purpose renderer on the same geometry (tools/reference/panels.py).
#include <gtest/gtest.h>

#include <cmath>
#include <cstring>
#include <map>

#include "meter/point_meter.h"
#include "plan/panels.h"
#include "reference/panels_povray.h"
#include "spoken/number.h"
#include "support.h"

namespace easel {
namespace {

Panel board(const char* front, const char* back, double width, double height, double z) {
  Panel b;
  b.id = "1";
  b.kind = "board";
  b.front = front;
  b.back = back;
  b.width = width;
  b.height = height;
  b.hour = 6;
  b.distance = z;
  b.above = 6;
  return b;
}
Modifier even(const std::string& kind) {
  Modifier m;
  m.name = kind;
  m.outline = kind == "disc" ? Outline::Disc : Outline::Rectangle;
  m.width = kind == "disc" ? 0.56 : kind == "large" ? 1.2 : 0.6;
  m.height = kind == "disc" ? 0.56 : kind == "large" ? 1.8 : 0.9;
  m.transmission = 1;
  m.lobe = 1;
  return m;
}
Vec3 vec(const double (&v)[3]) { return {float(v[0]), float(v[1]), float(v[2])}; }

// What we say at that spot, for an emitter of luminance 1.
double ours(const TransportSpot& r) {
  const std::string scene = r.scene;
  Plan p = test::blackHall();
  Vec3 shift;
  if (scene.rfind("flag", 0) == 0) {
    // The flag is a board of 4 m: its edge is brought to x = 2, and all else with it.
    p.panels = {board("cloth-black", "cloth-black", 4, 4, wholeNumber(scene.substr(5)).value())};
    shift = {2, 0, 0};
  } else if (scene == "white") {
    p.panels = {board("white", "black", 0.8, 1.2, 3)};
  } else if (scene == "scrim") {
    p.panels = {board("scrim", "scrim", 0.8, 1.2, 3)};
  } else if (scene == "gloss") {
    p.panels = {board("silver", "black", 0.8, 1.2, 3)};
  }
  const Modifier m = even(r.emitter);
  const Emitter e(m, {vec(r.place) + shift, Frame::facing(vec(r.aim))});
  const double luminance = 1 / (kPi * e.area());
  const Vec3 spot = vec(r.spot) + shift, normal = normalize(vec(r.normal));
  const Scene studio(placedSetOf(p), nullptr);
  if (scene == "emitter" || scene.rfind("flag", 0) == 0)
    return directLux(&studio, e, spot, normal, Receptor::Flat, 8192) / luminance;
  return panelLux(studio, Source(e, leavesOf(p.panels)), spot, normal, Receptor::Flat, 65536) / luminance;
}

std::vector<TransportSpot> rowsOf(const char* scene) {
  std::vector<TransportSpot> out;
  for (const TransportSpot& r : kTransportPovray)
    if (std::strncmp(r.scene, scene, std::strlen(scene)) == 0) out.push_back(r);
  EXPECT_GE(out.size(), 12u) << scene;
  return out;
}
void within(const char* scene, double share, double times = 1) {
  double worst = 0;
  for (const TransportSpot& r : rowsOf(scene)) {
    const double wanted = r.irradiance * times, got = ours(r);
    worst = std::max(worst, std::abs(got / wanted - 1));
    EXPECT_NEAR(got, wanted, share * wanted)
        << r.scene << " " << r.emitter << " " << r.spot[0] << " " << r.spot[1] << " " << r.spot[2];
  }
  std::printf("  %s: %.1f %% at the worst spot\n", scene, 100 * worst);
}

TEST(Transport, RectanglesAndDiscsNearAndFar) { within("emitter", 0.02); }

TEST(Transport, ShadowEdgeOfAFlag) {
  // Across the penumbra the irradiance falls to nothing: the measure is the share of what falls there unflagged.
  for (const TransportSpot& r : rowsOf("flag")) {
    TransportSpot open = r;
    open.scene = "emitter";
    const double all = ours(open);
    EXPECT_NEAR(ours(r), r.irradiance, 0.02 * all) << r.scene << " " << r.spot[0];
  }
}

TEST(Transport, WhiteBoard) { within("white", 0.05, double(luminance(findFinish("white")->diffuse))); }

TEST(Transport, Scrim) { within("scrim", 0.05, double(findFinish("scrim")->through)); }

TEST(Transport, SilverBoardAgainstAMosaicOfMirrors) {
  const Finish& silver = *findFinish("silver");
  // The reference has the mirrors alone; the even part of the finish is checked by the white board.
  ASSERT_FLOAT_EQ(silver.roughness, 0.32f);
  for (const TransportSpot& r : rowsOf("gloss")) {
    TransportSpot matt = r;
    matt.scene = "white";
    const double diffuse =
        ours(matt) * double(luminance(silver.diffuse)) / double(luminance(findFinish("white")->diffuse));
    const double wanted = r.irradiance * double(luminance(silver.gloss));
    EXPECT_NEAR(ours(r) - diffuse, wanted, 0.10 * wanted) << r.emitter << " " << r.spot[0] << " " << r.spot[2];
  }
}

}  // namespace
}  // namespace easel
