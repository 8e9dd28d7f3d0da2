// Panels, flags and scrims against closed forms and against the rules of practice.
#include <gtest/gtest.h>

#include <cmath>

#include "meter/point_meter.h"
#include "plan/lamp.h"
#include "plan/panels.h"
#include "support.h"

namespace easel {
namespace {

Panel disc(const char* front, const char* back, double diameter, double along, double above) {
  Panel d;
  d.id = "1";
  d.kind = "reflector";
  d.front = front;
  d.back = back;
  d.width = d.height = diameter;
  d.hour = along >= 0 ? 6 : 12;  // +z, facing -z
  d.distance = std::abs(along);
  d.above = above;
  return d;
}

// Irradiance of an element that lies parallel to a disc of even radiosity, on its axis: E rho r^2 / (r^2 + d^2), and
// beside its axis 1/2 (1 - (1 + H^2 - R^2) / sqrt((1 + H^2 + R^2)^2 - 4 R^2 H^2)...): published configuration factors
// of a differential element to a parallel disc (J. R. Howell, "A Catalog of Radiation Heat Transfer Configuration
// Factors", B-12 and B-13; form from memory, checked against view_factor_test).
double discFactor(double radius, double away, double aside) {
  const double h = away / radius, b = aside / radius, z = 1 + h * h + b * b;
  return 0.5 * (1 - (h * h + b * b - 1) / std::sqrt(z * z - 4 * b * b));
}

TEST(PanelReference, AWhiteDiscAtTwelveSpots) {
  for (double diameter : {0.4, 0.8, 1.4})
    for (auto [away, aside] : {std::pair{0.3, 0.0}, {0.6, 0.0}, {0.6, 0.35}, {1.2, 0.2}}) {
      Plan p = test::blackHall();
      p.panels = {disc("white", "black", diameter, 3, 6)};
      // A small lamp far in front of the disc, off to the side: the disc is lit as good as evenly.
      const LightPose lamp{{7, 6, -9}, Frame::facing({-7, 0, 12})};
      const Emitter e(*findModifier("bare"), lamp);
      const Source s(e, leavesOf(p.panels));
      const Scene scene(placedSetOf(p), nullptr);
      const Vec3 centre{0, 6, 3}, spot{float(aside), 6, float(3 - away)};
      const double lit = directLux(nullptr, e, centre, {0, 0, -1}, Receptor::Flat, 256);
      const double wanted =
          lit * double(luminance(findFinish("white")->diffuse)) * discFactor(diameter / 2, away, aside);
      const double ours = panelLux(scene, s, spot, {0, 0, 1}, Receptor::Flat, 4096);
      EXPECT_NEAR(ours, wanted, 0.05 * wanted) << diameter << " " << away << " " << aside;
    }
}

TEST(PanelReference, AScrimAtTwelveSpots) {
  for (double diameter : {0.6, 1.0, 1.8})
    for (auto [away, aside] : {std::pair{0.4, 0.0}, {0.8, 0.0}, {0.8, 0.4}, {1.6, 0.3}}) {
      Plan p = test::blackHall();
      p.panels = {disc("scrim", "scrim", diameter, 3, 6)};
      const Emitter e(*findModifier("bare"), {{2, 6, 14}, Frame::facing({0, 0, -1})});
      const Source s(e, leavesOf(p.panels));
      const Scene scene(placedSetOf(p), nullptr);
      const Vec3 spot{float(aside), 6, float(3 - away)};
      const double lit = directLux(nullptr, e, {0, 6, 3}, {0, 0, 1}, Receptor::Flat, 256);
      const double wanted = lit * double(findFinish("scrim")->through) * discFactor(diameter / 2, away, aside);
      const double ours = panelLux(scene, s, spot, {0, 0, 1}, Receptor::Flat, 4096);
      EXPECT_NEAR(ours, wanted, 0.05 * wanted) << diameter << " " << away << " " << aside;
    }
}

TEST(PanelReference, SilverSendsTheLampOnByTheMirrorLaw) {
  // A rough mirror is brightest where angle in equals angle out (law of reflection), and there outshines white.
  auto at = [](const char* finish, float x) {
    Plan p = test::blackHall();
    p.panels = {disc(finish, "black", 0.5, 3, 6)};
    const Emitter e(*findModifier("reflector-18"), {{-2, 6, -1}, Frame::facing({2, 0, 4})});
    const Scene scene(placedSetOf(p), nullptr);
    const Vec3 spot{x, 6, -1};
    return panelLux(scene, Source(e, leavesOf(p.panels)), spot, normalize(Vec3{0, 6, 3} - spot), Receptor::Flat, 4096);
  };
  double best = 0;
  float where = 0;
  for (float x = -4; x <= 6; x += 0.5f)
    if (const double v = at("silver", x); v > best) {
      best = v;
      where = x;
    }
  // Off-specular by a little: rough gloss peaks further out than the mirror direction (Torrance and Sparrow, 1967).
  EXPECT_NEAR(where, 2, 1.01);
  EXPECT_GT(std::log2(at("silver", 2) / at("white", 2)), 1.0);
  EXPECT_LT(at("silver", -4), at("white", -4));
}

// Width of a flag's shadow edge on a plane, 10 to 90 % of what is seen of the lamp: 0.8 of source size times
// (flag to face) / (source to flag), by similar triangles.
double edgeOf(double sourceWidth, double sourceToFlag, double flagToFace) {
  Plan p = test::blackHall();
  Modifier m = *findModifier("window-100x130");
  m.width = sourceWidth;
  m.height = 0.05;  // a slot: what the edge across it does, no more
  const auto far = float(sourceToFlag + flagToFace);
  const Emitter e(m, {{0, 6, far}, Frame::facing({0, 0, -1})});
  Panel flag;
  flag.id = "1";
  flag.kind = "flag";
  flag.front = flag.back = "cloth-black";
  flag.width = 4;
  flag.height = 4;
  flag.hour = 6;
  flag.distance = flagToFace;
  flag.above = 6;
  p.panels = {flag};
  const Scene scene(placedSetOf(p), nullptr);
  // The flag's edge stands at x = 2; the lamp is moved over it.
  const Emitter over(m, {{2, 6, far}, Frame::facing({0, 0, -1})});
  double at10 = 0, at90 = 0;
  for (float x = -1.5f; x < 1.5f; x += 0.0005f * far) {
    const Vec3 q{2 + x, 6, 0};
    const double v = directLux(&scene, over, q, {0, 0, 1}, Receptor::Flat, 512) /
                     directLux(nullptr, over, q, {0, 0, 1}, Receptor::Flat, 512);
    if (v < 0.1) at10 = double(x);
    if (v < 0.9) at90 = double(x);
  }
  return at90 - at10;
}

TEST(PanelReference, PenumbraByCloseTriangles) {
  for (auto [w, a, b] : {std::tuple{0.18, 1.0, 1.0}, {0.4, 1.5, 0.5}, {0.4, 0.5, 0.5}, {0.2, 2.0, 0.3}})
    EXPECT_NEAR(edgeOf(w, a, b), 0.8 * w * b / a, 0.1 * 0.8 * w * b / a) << w << " " << a << " " << b;
}

TEST(PanelReference, AFlagNearTheFaceIsHarderThanNearTheLamp) {  // common practice, no source
  EXPECT_GT(edgeOf(0.3, 0.4, 1.6), 6 * edgeOf(0.3, 1.6, 0.4));
}

TEST(PanelReference, HalfASoftboxFlaggedCostsOneToTwoAndAHalfStops) {  // common practice, no source
  Plan p = test::demoPlan();
  Light& l = p.lights[0];
  l.modifier = "softbox-60x90";
  l.hour = 4.5;
  l.distance = 1.2;
  l.height = p.sitter.eyeHeight;
  const double open = test::answersOf(p).lights[0].alone.total();
  // A board close before the box, its edge a little past the axis.
  Panel flag = proposePanel(p, "flag").panel;
  flag.width = 0.8;
  flag.height = 1.2;
  flag.above = p.sitter.eyeHeight;
  flag.distance = 1.12;
  flag.tilt = 0;
  flag.hour = 4.5 - (0.4 - 0.06) / 1.12 * 6 / kPi;
  p.panels = {flag};
  const double stops = std::log2(open / test::answersOf(p).lights[0].alone.total());
  EXPECT_GT(stops, 1.0);
  EXPECT_LT(stops, 2.5);
}

TEST(PanelReference, TheFullWarmGelTakesFlashToTungsten) {
  // 131 mired: 5600 K -> 1e6 / (1e6 / 5600 + 131) = 3230 K. Definition of the mired; the sheet's figure is the trade's.
  Light l = test::demoPlan().lights[0];
  l.fittings.gel = "warm-full";
  const Vec3 seen = lampColour(l, 1e6 / (1e6 / 5600 + 131));
  EXPECT_NEAR(seen.x, 1, 0.002);
  EXPECT_NEAR(seen.z, 1, 0.002);
}

}  // namespace
}  // namespace easel
