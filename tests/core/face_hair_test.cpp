#include "sitters/face_hair.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/scene.h"

namespace easel {
namespace {

Strands beardOf(const Sitter& sitter, const char* id, const char* expression = "neutral") {
  Strands s;
  addBeard(s, sitter, *findBeard(id), expression, Posture(sitter, {}));
  return s;
}
std::vector<Vec3> roots(const Strands& s) {
  std::vector<Vec3> out;
  std::vector<bool> ends(s.points.size());
  for (std::uint32_t first : s.segments) ends[first + 1] = true;
  for (size_t i = 0; i < ends.size(); ++i)
    if (!ends[i]) out.push_back(s.points[i].at);
  return out;
}

TEST(FaceHair, BeardsGrowOnTheSkinOfEveryoneAndStayOutsideOfIt) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    for (const Beard& beard : beards()) {
      const Strands s = beardOf(*sitter, beard.id.c_str());
      EXPECT_EQ(s.segments.empty(), beard.strands == 0) << beard.id;
      size_t off = 0, in = 0;
      const std::vector<Vec3> from = roots(s);
      for (Vec3 p : from) off += std::abs(sitter->headField.at(p)) > 0.003f;
      for (const auto& p : s.points) in += sitter->headField.at(p.at) < -0.003f;
      EXPECT_LE(double(off), 0.02 * double(from.size())) << person.id << " " << beard.id;
      EXPECT_LE(double(in), 0.02 * double(s.points.size())) << person.id << " " << beard.id;
    }
  }
}

TEST(FaceHair, LipsStayBareAndAMoustacheIsOnTheUpperLipAlone) {
  for (const char* id : {"anselm", "tobiah", "wren"}) {
    const auto sitter = loadSitter(id);
    const float mouth = sitter->landmarks.mouthHeight();
    // Down the middle there is a gap as high as two lips.
    std::vector<float> down;
    for (Vec3 p : roots(beardOf(*sitter, "full")))
      if (std::abs(p.x) < 0.008f && p.z > sitter->landmarks.chin.z - 0.02f) down.push_back(p.y);
    std::sort(down.begin(), down.end());
    float gap = 0, at = 0;
    for (size_t k = 1; k < down.size(); ++k)
      if (down[k] - down[k - 1] > gap) {
        gap = down[k] - down[k - 1];
        at = (down[k] + down[k - 1]) / 2;
      }
    EXPECT_GT(gap, 0.010f) << id;
    EXPECT_NEAR(at, mouth, 0.006f) << id;
    const auto lip = roots(beardOf(*sitter, "moustache"));
    ASSERT_GT(lip.size(), 300u) << id;
    for (Vec3 p : lip) {
      EXPECT_GT(p.y, mouth) << id;
      EXPECT_LT(p.y, sitter->landmarks.noseTip.y + 0.004f) << id;
      EXPECT_LT(std::abs(p.x), 0.03f) << id;
    }
  }
}

TEST(FaceHair, StrandsAreAsLongAsTheBeardSays) {
  const auto sitter = loadSitter("mosi");
  for (const Beard& beard : beards()) {
    const Strands s = beardOf(*sitter, beard.id.c_str());
    double longest = 0, strand = 0;
    for (size_t k = 0; k < s.segments.size(); ++k) {
      const std::uint32_t i = s.segments[k];
      strand = k && s.segments[k - 1] + 1 == i ? strand : 0;
      strand += double(length(s.points[i + 1].at - s.points[i].at));
      longest = std::max(longest, strand);
    }
    if (!beard.strands) continue;
    EXPECT_GT(longest, 0.75 * beard.length) << beard.id;
    EXPECT_LT(longest, 1.35 * beard.length + 10 * beard.curl + 0.001) << beard.id;
  }
}

TEST(FaceHair, ABeardGoesWithASmile) {
  const auto sitter = loadSitter("anselm");
  const HairGround& g = sitter->ground;
  const auto smile =
      std::find_if(g.morphs.begin(), g.morphs.end(), [](const Morph& m) { return m.expression == "smile"; });
  ASSERT_NE(smile, g.morphs.end());
  // Where skin under the beard moves furthest, roots are on the skin as it is then.
  size_t furthest = 0;
  float most = 0;
  for (size_t k = 0; k < smile->vertex.size(); ++k)
    if (g.beard[smile->vertex[k]] > 0.004f && length(smile->shift[k]) > most) {
      most = length(smile->shift[k]);
      furthest = k;
    }
  ASSERT_GT(most, 0.004f);
  const Vec3 was = g.position[smile->vertex[furthest]], is = was + smile->shift[furthest];
  const auto nearest = [&](const char* expression, Vec3 to) {
    float least = 1;
    for (Vec3 p : roots(beardOf(*sitter, "short", expression)))
      if (std::abs(p.x - to.x) < 0.003f && std::abs(p.y - to.y) < 0.003f) least = std::min(least, std::abs(p.z - to.z));
    return least;
  };
  EXPECT_LT(nearest("smile", is), 0.0012f);
  EXPECT_LT(nearest("neutral", was), 0.0012f);
}

TEST(FaceHair, ThePictureMeetsTheBeardAndTheBrows) {
  Plan plan = test::demoPlan();
  plan.sitter.id = "anselm";
  plan.sitter.turn = 0;
  const auto sitter = loadSitter("anselm");
  const auto hairShare = [&](const char* beard, Vec3 middle, float reach) {
    plan.sitter.beard = beard;
    const Scene scene(placedSetOf(plan), sitter);
    int hair = 0, n = 0;
    for (float y = -reach; y <= reach; y += reach / 20)
      for (float x = -reach; x <= reach; x += reach / 20) {
        const auto hit = scene.intersect(scene.studioPoint(middle + Vec3{x, y, 0.4f}), {0, 0, -1}, 1);
        hair += hit && hit->surface == Surface::Hair;
        ++n;
      }
    return double(hair) / n;
  };
  const Vec3 chin = sitter->landmarks.chin + Vec3{0, 0.004f, 0};
  EXPECT_GT(hairShare("full", chin, 0.01f), 0.3);
  EXPECT_GT(hairShare("stubble", chin, 0.01f), 0.001);
  EXPECT_EQ(hairShare("none", chin, 0.01f), 0);
  // Brows: strands where the card is, on both sides alike.
  const MeshPart* card = nullptr;
  for (const MeshPart& p : sitter->parts)
    if (p.surface == Surface::Brow) card = &p;
  ASSERT_TRUE(card);
  Strands brows;
  addBrows(brows, *sitter, *card, card->position, card->normal);
  const auto from = roots(brows);
  ASSERT_GT(from.size(), 500u);
  const auto left = std::count_if(from.begin(), from.end(), [](Vec3 p) { return p.x > 0; });
  EXPECT_NEAR(double(left) / double(from.size()), 0.5, 0.08);
  for (Vec3 p : from) EXPECT_TRUE(p.y > 0 && p.y < 0.05f && p.z > 0.05f);
}

}  // namespace
}  // namespace easel
