// Cut-outs from strangers: drawn in a process of its own, with a sentence when it ends badly.
#include "gear/drawing.h"

#include <gtest/gtest.h>

#include <fstream>

#include "gear/gobo.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

std::string sentence(std::string_view svg, DrawingKind kind = DrawingKind::Svg) {
  try {
    drawApart(svg, kind, "fern.svg");
    return "drawn";
  } catch (const std::runtime_error& e) {
    return e.what();
  }
}

constexpr const char* kDisc =
    "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 10 10'><circle cx='5' cy='5' r='4' fill='white'/></svg>";

TEST(Drawing, ApartItIsTheSamePicture) {
  const auto here = draw(kDisc, DrawingKind::Svg, "disc"), apart = drawApart(kDisc, DrawingKind::Svg, "disc");
  EXPECT_EQ(here, apart);
  EXPECT_EQ(apart[256 * 512 + 256], 255);
  EXPECT_EQ(apart[0], 0);
}

TEST(Drawing, WhatIsNoDrawingIsASentence) {
  EXPECT_NE(sentence("no drawing").find("fern.svg"), std::string::npos);
  EXPECT_NE(sentence("\x89PNG\r\n\x1a\n", DrawingKind::Png).find("PNG"), std::string::npos);
  EXPECT_NE(sentence("", DrawingKind::Png).find("PNG"), std::string::npos);
}

// Each of these once ended the program, or asked for gigabytes or minutes.
TEST(Drawing, SmallFilesThatAskForTooMuchAreSentences) {
  const std::string svg =
      "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='10' height='10'>";
  const std::string convolve = svg +
                               "<filter id='f'><feConvolveMatrix order='99' kernelMatrix='1'/></filter>"
                               "<rect width='10' height='10' filter='url(#f)' fill='white'/></svg>";
  EXPECT_NE(sentence(convolve), "");
  std::string nested = svg + "<defs><g id='a0'><rect width='1' height='1'/></g>";
  for (int i = 1; i < 30; ++i) {
    nested += "<g id='a" + std::to_string(i) + "'>";
    for (int k = 0; k < 10; ++k) nested += "<use xlink:href='#a" + std::to_string(i - 1) + "'/>";
    nested += "</g>";
  }
  EXPECT_NE(sentence(nested + "</defs><use xlink:href='#a29'/></svg>"), "") << "ten to the twenty-ninth rectangles";
  EXPECT_NE(sentence(svg + "<pattern id='p' width='1e-9' height='1e-9' patternUnits='userSpaceOnUse'><rect width='1' "
                           "height='1'/></pattern>"
                           "<rect width='1e9' height='1e9' fill='url(#p)'/></svg>"),
            "");
  // A PNG that says it is 60000 pixels a side.
  std::string png = "\x89PNG\r\n\x1a\n";
  png += std::string("\0\0\0\x0dIHDR\0\0\xea\x60\0\0\xea\x60\x08\x06\0\0\0", 21) + "....";
  EXPECT_NE(sentence(png, DrawingKind::Png).find("8192"), std::string::npos);
}

TEST(Drawing, AMissingProgramIsASentence) {
  ::setenv("EASEL_APART", "/nowhere/easel-apart", 1);
  const std::string said = sentence(kDisc);
  ::unsetenv("EASEL_APART");
  EXPECT_NE(said, "drawn");
  EXPECT_EQ(sentence(kDisc), "drawn");
}

using test::DataHome;

TEST(Drawing, TheStateOfAPatternIsKnownWithoutDrawingIt) {
  DataHome home;
  EXPECT_EQ(goboState("panes"), GoboState::Usable);
  EXPECT_EQ(goboState("fern.svg"), GoboState::Missing);
  std::ofstream(goboFolder() / "fern.svg") << "no drawing";
  EXPECT_EQ(goboState("fern.svg"), GoboState::NotTried);
  EXPECT_EQ(findGobo("fern.svg"), nullptr);
  EXPECT_EQ(goboState("fern.svg"), GoboState::Unreadable);
}

// A layer remembers what it was traced with, not its name.
TEST(Drawing, APatternImportedAgainIsTracedAgain) {
  DataHome home;
  std::ofstream(goboFolder() / "cut.svg") << kDisc;
  Plan p = test::demoPlan();
  p.lights[0].modifier = "spot";
  p.lights[0].fittings.pattern = "cut.svg";
  ProgressiveRender s(40, 50);
  s.setPlan(p);
  s.finish(2);
  const auto before = developPicture(s.layers(), placedSetOf(p)).rgba;
  s.setPlan(p);
  EXPECT_TRUE(s.layers().current) << "nothing has changed";
  std::ofstream(goboFolder() / "cut.svg")
      << "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 10 10'><rect width='10' height='2' fill='white'/></svg>";
  std::filesystem::last_write_time(goboFolder() / "cut.svg",
                                   std::filesystem::file_time_type::clock::now() + std::chrono::seconds(5));
  s.setPlan(p);
  EXPECT_FALSE(s.layers().current);
  s.finish(2);
  EXPECT_NE(developPicture(s.layers(), placedSetOf(p)).rgba, before);
}

}  // namespace
}  // namespace easel
