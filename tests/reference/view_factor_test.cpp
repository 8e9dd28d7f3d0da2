// View factors from a differential element: closed forms as published in J. R. Howell, "A Catalog of Radiation Heat
// Transfer Configuration Factors" (B-13: element to parallel disc on its axis and off it; B-3/B-4: element to rectangle
// corner).
#include <gtest/gtest.h>

#include "meter/point_meter.h"

namespace easel {
namespace {

Modifier flat(Outline outline, double width, double height) {
  Modifier m;
  m.name = "emitter";
  m.outline = outline;
  m.width = width;
  m.height = height;
  m.transmission = 1;
  m.lobe = 1;
  return m;
}

// Element at the origin facing +z, parallel disc of radius r at height h, axis offset a.
double discFactor(double r, double h, double a) {
  const double H = h / a, R = r / a, Z = 1 + H * H + R * R;
  if (a == 0) return r * r / (h * h + r * r);
  return 0.5 * (1 - (1 + H * H - R * R) / std::sqrt(Z * Z - 4 * R * R));
}
// Element facing a parallel rectangle a x b at distance c, under its corner.
double cornerFactor(double a, double b, double c) {
  const double A = a / c, B = b / c;
  return (A / std::sqrt(1 + A * A) * std::atan(B / std::sqrt(1 + A * A)) +
          B / std::sqrt(1 + B * B) * std::atan(A / std::sqrt(1 + B * B))) /
         (2 * kPi);
}
// Element perpendicular to the plane of the rectangle (looking along it), corner at the foot.
double perpendicularFactor(double a, double b, double c) {
  // Rectangle of width b (along the normal's plane: height a upward from the element's plane) at distance c.
  const double X = a / b, Y = c / b;
  return (std::atan(1 / Y) - Y / std::sqrt(X * X + Y * Y) * std::atan(1 / std::sqrt(X * X + Y * Y))) / (2 * kPi);
}

double factorOf(const Modifier& m, Vec3 centre, Vec3 facing, Vec3 normal) {
  const Emitter e(m, {centre, Frame::facing(facing)});
  // E = F * M, and the exitance M of one lumen from the area is 1 / A.
  return directLux(nullptr, e, {0, 0, 0}, normal, Receptor::Flat, 16384) * m.area();
}

TEST(ViewFactor, ElementToParallelDisc) {
  for (auto [r, h, a] : {std::tuple{0.3, 1.0, 0.0},
                         {0.6, 0.6, 0.0},
                         {0.3, 1.0, 0.5},
                         {0.6, 0.8, 1.2},
                         {0.09, 2.0, 1.0},
                         {1.0, 0.5, 0.3}}) {
    const double ours = factorOf(flat(Outline::Disc, 2 * r, 2 * r), {float(a), 0, float(h)}, {0, 0, -1}, {0, 0, 1});
    const double published = a == 0 ? r * r / (h * h + r * r) : discFactor(r, h, a);
    EXPECT_NEAR(ours, published, 0.005 * published) << r << " " << h << " " << a;
  }
}

TEST(ViewFactor, ElementToParallelRectangle) {
  for (auto [w, h, c] : {std::tuple{0.6, 0.9, 1.0}, {0.3, 1.2, 0.5}, {2.0, 1.0, 0.5}, {0.9, 0.9, 3.0}}) {
    const Modifier m = flat(Outline::Rectangle, w, h);
    const double centred = factorOf(m, {0, 0, float(c)}, {0, 0, -1}, {0, 0, 1});
    EXPECT_NEAR(centred, 4 * cornerFactor(w / 2, h / 2, c), 0.005 * centred);
    const double corner = factorOf(m, {float(w / 2), float(h / 2), float(c)}, {0, 0, -1}, {0, 0, 1});
    EXPECT_NEAR(corner, cornerFactor(w, h, c), 0.005 * corner);
  }
}

TEST(ViewFactor, ElementToPerpendicularRectangle) {
  // Element at the origin facing +z; the rectangle stands at x = c, from z = 0 up to a, from y = 0 to b, facing -x.
  for (auto [a, b, c] : {std::tuple{0.9, 0.6, 1.0}, {1.2, 0.5, 0.5}, {2.0, 1.0, 1.5}}) {
    const Emitter e(flat(Outline::Rectangle, b, a),
                    {{float(c), float(b / 2), float(a / 2)}, Frame{{0, 1, 0}, {0, 0, 1}, {-1, 0, 0}}});
    const double ours = directLux(nullptr, e, {0, 0, 0}, {0, 0, 1}, Receptor::Flat, 65536) * a * b;
    EXPECT_NEAR(ours, perpendicularFactor(a, b, c), 0.005 * ours) << a << " " << b << " " << c;
  }
}

TEST(ViewFactor, InverseSquareAtADistance) {
  for (const Modifier& m : modifiers()) {
    const LightPose pose{{0, 0, 0}, Frame::facing({0, 0, 1})};
    const Emitter e(m, pose);
    const double far = directLux(nullptr, e, {0, 0, 40}, {0, 0, -1}, Receptor::Flat, 1024);
    const double farther = directLux(nullptr, e, {0, 0, 80}, {0, 0, -1}, Receptor::Flat, 1024);
    EXPECT_NEAR(far / farther, 4, 0.04) << m.id;
  }
}

TEST(ViewFactor, ADiscNearByFallsOffSlowerThanInverseSquare) {
  // From 0.5 m to 1 m a 1.2 m disc loses log2((1 + .36) / (.25 + .36)) stops by the closed form, not two.
  const Modifier m = flat(Outline::Disc, 1.2, 1.2);
  const double loss =
      std::log2(factorOf(m, {0, 0, 0.5f}, {0, 0, -1}, {0, 0, 1}) / factorOf(m, {0, 0, 1}, {0, 0, -1}, {0, 0, 1}));
  EXPECT_NEAR(loss, std::log2(1.36 / 0.61), 0.01);
}

}  // namespace
}  // namespace easel
