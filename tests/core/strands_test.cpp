#include "sitters/strands.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "sitters/colouring.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"

namespace easel {
namespace {

const HairStyle& style(const char* id) { return hairStyleOf(id, ""); }

template <class Wants>
double share(const Strands& s, Wants wants) {
  const auto n = std::count_if(s.points.begin(), s.points.end(), wants);
  return double(n) / double(std::max<size_t>(1, s.points.size()));
}

struct Rooted {
  Vec3 at;
  double length = 0;
};
std::vector<Rooted> eachOf(const Strands& s) {
  std::vector<Rooted> all;
  for (size_t i = 0; i < s.segments.size(); ++i) {
    const std::uint32_t a = s.segments[i];
    if (i == 0 || a != s.segments[i - 1] + 1) all.push_back({s.points[a].at});
    all.back().length += double(length(s.points[a + 1].at - s.points[a].at));
  }
  return all;
}

Attitude headed(const HeadPose& head) {
  Attitude as;
  as.head = head;
  return as;
}

TEST(Strands, EveryStyleGrowsOnEveryoneIsWholeAndLeavesTheEyesFree) {
  for (const Person& person : sitterCatalogue())
    for (const HairStyle& wears : hairStyles()) {
      if (wears.id == "own") continue;
      const auto sitter = loadSitter(person.id);
      const Strands s = grown(*sitter, wears, Posture(*sitter, {}));
      SCOPED_TRACE(person.id + " " + wears.id);
      if (wears.id == "shaved") {
        EXPECT_TRUE(s.points.empty() && s.segments.empty());
        continue;
      }
      ASSERT_GT(s.segments.size(), 10000u);
      ASSERT_EQ(s.along.size(), s.points.size());
      ASSERT_EQ(s.shade.size(), s.points.size());
      ASSERT_LT(*std::max_element(s.segments.begin(), s.segments.end()) + 1, s.points.size());
      // Written this way so that what is no number does not pass either.
      const auto bent = std::count_if(s.along.begin(), s.along.end(),
                                      [](const Vec3& t) { return !(std::abs(length(t) - 1) < 1e-3f); });
      size_t astray = 0, beforeEyes = 0;
      for (const Strands::Point& p : s.points) {
        astray += !(length(p.at) < 1 && p.radius > 0 && p.radius < 0.0005f);
        const auto before = [&](Vec3 eye) { return std::hypot(p.at.x - eye.x, p.at.y) < 0.006f; };
        beforeEyes += p.at.z > 0.02f && (before(sitter->landmarks.eyeLeft) || before(sitter->landmarks.eyeRight));
      }
      EXPECT_EQ(bent, 0);
      EXPECT_EQ(astray, 0u) << "metres: it hangs by the head, and none is thicker than half a millimetre";
      EXPECT_LT(beforeEyes, 60u);
      // Pieces begin where the last one ended or at a root, on the skin.
      double off = 0;
      const auto all = eachOf(s);
      const auto roots = int(all.size());
      for (const Rooted& r : all)
        off =
            std::max(off, double(std::min(std::abs(sitter->headField.at(r.at)), std::abs(sitter->bodyField.at(r.at)))));
      EXPECT_GT(roots, wears.strands / 5);
      EXPECT_LE(roots, wears.strands);
      EXPECT_LT(off, 0.004) << "roots stand on the scalp";
    }
}

TEST(Strands, HairLiesOnHeadAndShouldersHoweverTheHeadTurns) {
  const auto sitter = loadSitter("wren");
  for (const char* id : {"short", "parted", "bob", "long", "wavy", "tied"})
    for (const HeadPose& pose : {HeadPose{}, HeadPose{35, 0, 0}, HeadPose{-20, 8, 12}}) {
      const Strands s = grown(*sitter, style(id), Posture(*sitter, headed(pose)));
      SCOPED_TRACE(std::string(id) + " " + std::to_string(pose.turn));
      EXPECT_LT(share(s,
                      [&](const Strands::Point& p) {
                        return sitter->headField.at(unposed(p.at, 1, sitter->landmarks.neckPivot, pose)) < -0.004f;
                      }),
                0.01)
          << "in the head";
      // Below the neck, which turns with the head in part.
      EXPECT_LT(share(s, [&](const auto& p) { return p.at.y < -0.2f && sitter->bodyField.at(p.at) < -0.004f; }), 0.01)
          << "in the shoulders";
    }
}

TEST(Strands, AStyleIsCutWhereItSays) {
  const auto sitter = loadSitter("ottoline");
  const HairStyle& bob = style("bob");
  ASSERT_GT(bob.cutAt, 0);
  for (const Strands::Point& p : grown(*sitter, bob, Posture(*sitter, {})).points) ASSERT_GT(p.at.y, -bob.cutAt - 0.02);
  EXPECT_GT(share(grown(*sitter, style("long"), Posture(*sitter, {})),
                  [&](const auto& p) { return p.at.y < -bob.cutAt - 0.02; }),
            0.2);
}

TEST(Strands, WhereNothingGrowsNothingIsRooted) {
  const auto sitter = loadSitter("anselm");
  const auto above = [&](const Strands& s) {
    return share(s, [&](const auto& p) { return p.at.y > sitter->landmarks.crown.y - 0.02f; });
  };
  EXPECT_EQ(above(grown(*sitter, style("rim"), Posture(*sitter, {}))), 0);
  EXPECT_GT(above(grown(*sitter, style("cropped"), Posture(*sitter, {}))), 0.05);
}

TEST(Strands, ACutTapersAtSidesAndNapeAndKeepsItsLengthAboveTheForehead) {
  const HairStyle& cut = style("short");
  ASSERT_GT(cut.taper, cut.edge);
  for (const char* id : {"ottoline", "tobiah", "anselm"}) {
    SCOPED_TRACE(id);
    const auto sitter = loadSitter(id);
    const Vec3 middle = sitter->landmarks.middleOfHead();
    double nape = 0, forehead = 0;
    int below = 0, before = 0;
    for (const Rooted& r : eachOf(grown(*sitter, cut, Posture(*sitter, {})))) {
      if (r.at.z < middle.z && r.at.y < -0.035f) nape += r.length, ++below;
      if (r.at.z > middle.z + 0.06f && std::abs(r.at.x) < 0.02f) forehead += r.length, ++before;
    }
    ASSERT_GT(below, 100);
    ASSERT_GT(before, 20);
    EXPECT_NEAR(nape / below, cut.edge, 0.4 * cut.edge);
    EXPECT_GT(forehead / before, 0.7 * cut.length[1]);
  }
}

TEST(Strands, TheHairlineRunsDownBeforeTheEarOverItAndToTheNape) {
  for (const Person& person : sitterCatalogue()) {
    SCOPED_TRACE(person.id);
    const auto sitter = loadSitter(person.id);
    const Vec3 middle = sitter->landmarks.middleOfHead();
    int sideburn = 0, nape = 0, cheek = 0, throat = 0;
    float highestBehindTheEar = -1;
    for (const Rooted& r : eachOf(grown(*sitter, style("buzz"), Posture(*sitter, {})))) {
      const double round = degrees(std::atan2(std::abs(r.at.x), r.at.z - middle.z));
      sideburn += round > 55 && round < 80 && r.at.y < 0 && r.at.y > -0.03f;
      nape += round > 160 && r.at.y < -0.05f;
      cheek += round < 48 && r.at.y < 0.01f;
      throat += r.at.y < -0.1f;
      if (round > 118 && round < 122) highestBehindTheEar = std::max(highestBehindTheEar, -r.at.y);
    }
    EXPECT_GT(sideburn, 40);
    EXPECT_GT(nape, 40);
    EXPECT_EQ(cheek + throat, 0);
    EXPECT_GT(highestBehindTheEar, 0.02f) << "it goes down behind the ear";
  }
}

TEST(Strands, TheHairOfTheNapeStandsOnItsSkinHoweverTheHeadIsTurned) {
  const auto sitter = loadSitter("ottoline");
  for (const HeadPose& pose : {HeadPose{}, HeadPose{55, 0, 0}, HeadPose{-60, 6, 8}}) {
    SCOPED_TRACE(pose.turn);
    const Posture posture(*sitter, headed(pose));
    std::vector<Vec3> skin, out;
    for (const MeshPart& part : sitter->parts) {
      if (part.surface != Surface::Skin || !part.of.empty()) continue;
      std::vector<Vec3> at = part.position, normal = part.normal;
      posture.place(part, at, normal);
      for (size_t i = 0; i < at.size(); ++i)
        if (part.position[i].y > -0.09f && part.position[i].y < 0 && part.position[i].z < 0.03f) {
          skin.push_back(at[i]);
          out.push_back(normal[i]);
        }
    }
    const Strands s = grown(*sitter, style("buzz"), posture);
    int asked = 0, within = 0;
    for (size_t i = 0; i + 1 < s.segments.size(); ++i) {
      if (s.segments[i + 1] == s.segments[i] + 1) continue;
      const Vec3 tip = s.points[s.segments[i] + 1].at, rest = posture.head().back(tip);
      if (rest.y > -0.015f || rest.y < -0.055f || rest.z > -0.01f || ++asked % 8) continue;
      size_t near = 0;
      for (size_t k = 1; k < skin.size(); ++k)
        if (length(skin[k] - tip) < length(skin[near] - tip)) near = k;
      within += dot(tip - skin[near], out[near]) < 0;
    }
    ASSERT_GT(asked, 800);
    EXPECT_LT(within, asked / 8 / 10) << "tips under the skin";
  }
}

TEST(Strands, TheSamePoseGivesTheSameStrands) {
  const auto sitter = loadSitter("tobiah");
  const Posture turned(*sitter, headed({12, 3, -2}));
  const Strands a = grown(*sitter, style("coiled"), turned), b = grown(*sitter, style("coiled"), turned);
  ASSERT_EQ(a.points.size(), b.points.size());
  for (size_t i = 0; i < a.points.size(); ++i) ASSERT_EQ(a.points[i].at, b.points[i].at);
}

TEST(Strands, TheLengthsOfAStyleAreThoseOfItsStrands) {
  // A style of one length all over, straight up: nothing bends it, nothing cuts it.
  HairStyle s;
  s.strands = 2000;
  s.length = {0.02, 0.02, 0.02, 0.02};
  s.varied = 0;
  s.lift = 1;
  s.gravity = 0;
  s.frizz = 0;
  s.clumping = 0;
  const auto sitter = loadSitter("wren");
  const Strands all = grown(*sitter, s, Posture(*sitter, {}));
  double gone = 0;
  const auto strands = eachOf(all);
  for (const Rooted& r : strands) gone += r.length;
  EXPECT_NEAR(gone / double(strands.size()), 0.02, 0.0005);
}

TEST(DistanceField, TellsAndPointsAway) {
  // A ball of 20 mm: a grid of 4 mm knows its surface to a fraction of that.
  DistanceField f;
  f.cell = 0.004f;
  f.low = {-0.05f, -0.05f, -0.05f};
  f.nx = f.ny = f.nz = 26;
  for (int z = 0; z < f.nz; ++z)
    for (int y = 0; y < f.ny; ++y)
      for (int x = 0; x < f.nx; ++x) {
        const Vec3 p = f.low + Vec3{float(x), float(y), float(z)} * f.cell;
        f.values.push_back(std::int8_t(std::clamp((length(p) - 0.02f) / DistanceField::kStep, -127.f, 127.f)));
      }
  ASSERT_TRUE(f.sound());
  const Vec3 way = normalize({1, 2, -0.5f});
  EXPECT_NEAR(f.at(way * 0.025f), 0.005f, 0.0006f);
  EXPECT_NEAR(f.at(way * 0.014f), -0.006f, 0.0006f);
  EXPECT_GT(dot(f.about(way * 0.022f).outward, way), 0.98f);
  EXPECT_FLOAT_EQ(f.at({1, 0, 0}), DistanceField::kFar) << "outside of the grid";
  EXPECT_FLOAT_EQ(DistanceField().at({}), DistanceField::kFar) << "of nothing";
}

}  // namespace
}  // namespace easel
