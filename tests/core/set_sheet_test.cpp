// The sheet in the hand: read back with tools that are not ours, measured in its drawing, opened again as a plan.
#include <gtest/gtest.h>
#include <zbar.h>

#include <algorithm>
#include <array>
#include <cstdio>
#include <fstream>
#include <regex>
#include <set>

#include "files/atomic_file.h"
#include "formats/day_json.h"
#include "formats/plan_json.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "sheet/day_sheet.h"
#include "sheet/html.h"
#include "sheet/layout.h"
#include "sheet/packed_plan.h"
#include "sheet/plan_sheet.h"
#include "sheet/set_drawing.h"
#include "sheet/sheet_file.h"
#include "support.h"

namespace easel {
namespace {

namespace fs = std::filesystem;

Plan demo(const char* name) {
  return loadPlan(fs::path(EASEL_SOURCE_DIR) / "demo" / (std::string("marrow-lane-") + name + ".easel.json"));
}

// What another program prints.
std::string said(const std::string& command) {
  std::string out;
  std::unique_ptr<FILE, int (*)(FILE*)> pipe(popen(command.c_str(), "r"), pclose);
  std::array<char, 4096> buffer;
  while (pipe && fgets(buffer.data(), int(buffer.size()), pipe.get())) out += buffer.data();
  return out;
}
std::string textOf(const fs::path& pdf) { return said("pdftotext -layout '" + pdf.string() + "' -"); }

SheetWish small() {
  SheetWish w;
  w.width = 64;
  w.height = 80;
  w.passes = 1;
  w.eyes = false;
  return w;
}
const PlanSheet& master() {
  static const PlanSheet sheet = planSheet(demo("master"), small());
  return sheet;
}

double brightest(const Picture& p) {
  EXPECT_FALSE(p.rgba.empty());
  double most = 0;
  for (size_t i = 0; i < p.rgba.size(); i += 4) most = std::max(most, double(p.rgba[i + 1]));
  return most;
}

struct Word {
  double x0, y0, x1, y1;
  std::string text;
};
std::vector<std::vector<Word>> wordsOf(const fs::path& pdf) {
  std::vector<std::vector<Word>> pages;
  static const std::regex word(
      "<word xMin=\"([0-9.]+)\" yMin=\"([0-9.]+)\" xMax=\"([0-9.]+)\" yMax=\"([0-9.]+)\">(.*)</word>");
  std::istringstream in(said("LC_ALL=C pdftotext -bbox '" + pdf.string() + "' -"));
  const auto number = [](const std::string& s) {
    std::istringstream one(s);
    one.imbue(std::locale::classic());
    double v = 0;
    one >> v;
    return v;
  };
  for (std::string line; std::getline(in, line);) {
    if (line.find("<page ") != std::string::npos) pages.emplace_back();
    std::smatch m;
    if (!pages.empty() && std::regex_search(line, m, word))
      pages.back().push_back({number(m[1]), number(m[2]), number(m[3]), number(m[4]), m[5]});
  }
  return pages;
}

// Every figure that a sentence of the plan's own readings or members would hold, as it is written.
std::set<std::string> figuresOf(const PlanSheet& s) {
  std::set<std::string> out;
  const auto from = [&](const std::string& text) {
    static const std::regex figure("[0-9]+(\\.[0-9]+)?");
    for (std::sregex_iterator i(text.begin(), text.end(), figure), end; i != end; ++i) out.insert(i->str());
  };
  const auto number = [&](double v) {
    for (const char* f : {"{:.0f}", "{:.1f}", "{:.2f}"}) from(fmt::format(fmt::runtime(f), std::abs(v)));
  };
  Plan p = s.plan;
  // Members of the plan, and what follows from them by a function that is tested elsewhere.
  forEachNumber(p, [&](const Range& range, const std::string&, double& v) {
    number(v);
    from(range.write(v));
  });
  from(p.title);
  from(p.notes);
  from(writePlanText(p));
  for (const Light& l : p.lights) {
    from(findUnit(l.unit)->name);
    from(findUnit(l.unit)->scale.write(l.power));
    from(findModifier(l.modifier)->name);
    from(whatIsOn(l));
    number(downTilt(p, l));
    number(stopsUnder(s.answers, s.plan.key()->id, l.id));
    from(writeRatio(stopsUnder(s.answers, s.plan.key()->id, l.id), s.wish.school));
    from(writeAperture(s.answers.light(l.id)->aperture, s.wish.spelling.apertures));
  }
  from(writeAperture(s.answers.aperture, s.wish.spelling.apertures));
  number(s.answers.ambientStops);
  for (const Carried& c : s.carried) from(describe(c));
  for (const Catchlight& c : s.reading.catchlights.all) number(c.hour);
  for (const Fault& f : s.reading.faults) from(f.title + " " + f.sentence);
  for (const Caution& c : s.cautions) from(c.sentence);
  for (double stops = -7; stops <= 9; ++stops)
    from(writeAperture(p.camera.aperture * std::exp2(stops / 2), s.wish.spelling.apertures));
  from(fmt::format("{:g}", scaleOfSet(p, 186)));
  return out;
}

TEST(SetSheet, EveryFigureOnItIsThePlansOrItsReadings) {
  const test::TemporaryFolder folder;
  const fs::path pdf = folder.path / "sheet.pdf";
  saveSheet(pdf, pagesOf(master()), {});
  const std::string text = textOf(pdf);
  ASSERT_FALSE(text.empty());
  const auto known = figuresOf(master());
  static const std::regex figure("[0-9]+(\\.[0-9]+)?");
  const std::vector<std::string> ours{"1", "2", "3", "4", "5", "6"};  // numbers of pages; "1 m" of the bar
  size_t seen = 0;
  for (std::sregex_iterator i(text.begin(), text.end(), figure), end; i != end; ++i, ++seen)
    EXPECT_TRUE(known.count(i->str()) || std::find(ours.begin(), ours.end(), i->str()) != ours.end())
        << i->str() << " in ..." << text.substr(std::max<long>(0, i->position() - 60), 120);
  EXPECT_GT(seen, 60u);
}

TEST(SetSheet, EveryLightIsOnItWithWhatItNeeds) {
  const test::TemporaryFolder folder;
  const fs::path pdf = folder.path / "sheet.pdf";
  saveSheet(pdf, pagesOf(master()), {});
  std::string text = textOf(pdf);
  text = std::regex_replace(text, std::regex("\\s+"), " ");
  for (const Light& l : master().plan.lights) {
    EXPECT_NE(text.find(findUnit(l.unit)->scale.write(l.power)), std::string::npos) << l.id;
    EXPECT_NE(text.find(writeLength(l.height, LengthUnit::Metres) + " high"), std::string::npos) << l.id;
    EXPECT_NE(text.find(master().wish.spelling.aperture(master().answers.light(l.id)->aperture)), std::string::npos)
        << l.id;
  }
  for (const char* part : {"Levels", "The set", "Build it in this order", "As it was really set", "Everything off"})
    EXPECT_NE(text.find(part), std::string::npos) << part;
}

TEST(SetSheet, FontsAreEmbedded) {
  const test::TemporaryFolder folder;
  const fs::path pdf = folder.path / "sheet.pdf";
  saveSheet(pdf, pagesOf(master()), {});
  std::istringstream fonts(said("pdffonts '" + pdf.string() + "'"));
  std::string line;
  std::getline(fonts, line);
  std::getline(fonts, line);
  int n = 0;
  for (; std::getline(fonts, line); ++n) EXPECT_NE(line.find(" yes yes yes"), std::string::npos) << line;
  EXPECT_GE(n, 2);
}

Plan withLights(int n) {
  Plan p = demo("master");
  p.lights.resize(std::min<size_t>(p.lights.size(), size_t(n)));
  for (int i = int(p.lights.size()); i < n; ++i) {
    Light l = p.lights[size_t(i) % 4];
    l.id = std::string(1, char('A' + i));
    l.role = Role::Rim;
    // Some of them at the very same place: their names may not lie over one another either.
    l.hour = i % 3 == 0 ? p.lights[0].hour : 1 + 1.1 * (i % 10);
    l.height = 0.6 + 0.2 * i;
    p.lights.push_back(l);
  }
  return p;
}
TEST(SetSheet, NothingOverlapsAtOneToTenLights) {
  const test::TemporaryFolder folder;
  for (int n = 1; n <= 10; ++n)
    for (const char* paper : {"a4", "letter", "a5", "phone"}) {
      const fs::path pdf = folder.path / "drawn.pdf";
      PlanSheet s = master();
      s.plan = withLights(n);
      s.answers.lights.clear();
      for (const Light& l : s.plan.lights) {
        LightAnswer a = master().answers.lights[0];
        a.id = l.id;
        s.answers.lights.push_back(a);
      }
      s.carried = carriedIn(s.plan, {});
      saveSheet(pdf, pagesOf(s), {paperOf(paper), Ink::Black});
      const auto pages = wordsOf(pdf);
      ASSERT_FALSE(pages.empty());
      const double right = paperOf(paper).width * 72 / 25.4, bottom = paperOf(paper).height * 72 / 25.4;
      for (const auto& words : pages)
        for (size_t a = 0; a < words.size(); ++a) {
          EXPECT_LE(words[a].x1, right) << n << " " << paper << " " << words[a].text;
          EXPECT_LE(words[a].y1, bottom) << n << " " << paper << " " << words[a].text;
          for (size_t b = a + 1; b < words.size(); ++b) {
            // Boxes have the height of the type with its ascenders: neighbours in lines touch by a tenth of it.
            const double across = std::min(words[a].x1, words[b].x1) - std::max(words[a].x0, words[b].x0);
            const double down = std::min(words[a].y1, words[b].y1) - std::max(words[a].y0, words[b].y0);
            const double high = std::min(words[a].y1 - words[a].y0, words[b].y1 - words[b].y0);
            EXPECT_FALSE(across > 0.5 && down > 0.3 * high)
                << n << " lights on " << paper << ": " << words[a].text << " over " << words[b].text;
          }
        }
    }
}

// The small discs in the middle of each light, as they stand in the SVG: circles of half a millimetre.
std::vector<std::pair<double, double>> discsIn(const std::string& svg) {
  std::vector<std::pair<double, double>> out;
  static const std::regex path("<path[^>]* d=\"([^\"]*)\"[^>]*>");
  for (std::sregex_iterator i(svg.begin(), svg.end(), path), end; i != end; ++i) {
    const std::string d = (*i)[1];
    if (i->str().find("fill-rule") == std::string::npos || d.find('C') == std::string::npos)
      continue;  // outlines, letters
    double x0 = 1e9, x1 = -1e9, y0 = 1e9, y1 = -1e9;
    std::istringstream in(std::regex_replace(d, std::regex("[MCLZ,]"), " "));
    in.imbue(std::locale::classic());
    for (double x, y; in >> x >> y;) {
      x0 = std::min(x0, x);
      x1 = std::max(x1, x);
      y0 = std::min(y0, y);
      y1 = std::max(y1, y);
    }
    // Whether the file speaks in points or in millimetres under a transform.
    const bool transformed = i->str().find("transform=\"matrix(2.83") != std::string::npos;
    const double mm = transformed ? 1 : 25.4 / 72;
    // Two half circles, whose control points stand out by a third.
    if (std::abs((x1 - x0) * mm - 1) < 0.05 && std::abs((y1 - y0) * mm - 4.0 / 3) < 0.05)
      out.emplace_back((x0 + x1) / 2 * mm, (y0 + y1) / 2 * mm);
  }
  return out;
}

TEST(SetSheet, TheDrawingIsToScaleWithinAMillimetre) {
  for (const char* name : {"master", "fiddler", "maker"}) {
    Plan p = demo(name);
    p.panels.clear();  // boards have a disc as well
    for (const SetView view : {SetView::Above, SetView::Side}) {
      Pages pages;
      pages.blocks = {drawnSet(p, view)};
      const auto svg = sheetSvg(pages, paperOf("a4"), Ink::Black);
      ASSERT_EQ(svg.size(), 1u);
      const auto discs = discsIn(svg[0]);
      ASSERT_EQ(discs.size(), p.lights.size()) << name;
      const double mm = 1000 / scaleOfSet(p, 210 - 24);
      for (size_t a = 0; a < discs.size(); ++a)
        for (size_t b = a + 1; b < discs.size(); ++b) {
          const Vec3 u = lightPose(p, p.lights[a]).centre, v = lightPose(p, p.lights[b]).centre;
          const double across = view == SetView::Above ? double(v.x - u.x) : double(v.z - u.z),
                       down = view == SetView::Above ? double(v.z - u.z) : -double(v.y - u.y);
          EXPECT_NEAR(discs[b].first - discs[a].first, across * mm, 1) << name;
          EXPECT_NEAR(discs[b].second - discs[a].second, down * mm, 1) << name;
        }
    }
  }
}

TEST(SetSheet, ATextIsReadableAtArmsLengthAndTheStandsAtTwoMetres) {
  // 5 minutes of arc are the least (ISO 8596's 6/6 letter); a comfortable letter is twice that and more. From memory:
  // arm's length 0.6 m.
  const auto minutes = [](double capital, double metres) {
    return std::atan(capital / 1000 / metres) * 180 / kPi * 60;
  };
  constexpr double kCapital = 0.727;  // of the type's height, of this font
  EXPECT_GT(minutes(kCapital * paperOf("a4").text, 0.6), 10);
  EXPECT_GT(minutes(kCapital * 2.6, 0.6), 10);  // figures of the ladder, the smallest type
  EXPECT_GT(minutes(kCapital * paperOf("stand").text, 2), 10);
}

TEST(SetSheet, ThePlanIsInThePdfAndOpensFromIt) {
  const test::TemporaryFolder folder;
  const fs::path pdf = folder.path / "sheet.pdf";
  saveSheet(pdf, pagesOf(master()), {}, {attachedPlan(master().plan)});
  EXPECT_EQ(openPlan(pdf), master().plan);
  // Another program finds it too.
  EXPECT_NE(said("pdfdetach -list '" + pdf.string() + "'").find("marrow-lane-luthiers-the-master_plan.easel.json"),
            std::string::npos);
  // And what carries none says so; what is no PDF as well.
  saveSheet(pdf, pagesOf(master()), {});
  EXPECT_THROW(openPlan(pdf), FileError);
  writeFileAtomically(pdf, "not a sheet at all");
  EXPECT_THROW(openPlan(pdf), std::runtime_error);
}

TEST(PackedPlan, ComesBackWithinATenthOfAMillimetre) {
  for (const char* name : {"master", "fiddler", "maker", "two-lights", "first-light"}) {
    const Plan p = demo(name);
    Plan q = unpackedPlan(packedPlan(p)), rounded = p;
    const auto round = [](const Range&, const std::string&, double& v) {
      if (std::abs(v) >= 0.01) v = std::round(v * 1e4) / 1e4;
    };
    forEachNumber(rounded, round);
    forEachNumber(q, round);
    EXPECT_EQ(q, rounded) << name;
  }
}

// RFC 9285, section 4.3: its three examples.
TEST(PackedPlan, Base45AsInItsStandard) {
  EXPECT_EQ(base45("AB"), "BB8");
  EXPECT_EQ(base45("Hello!!"), "%69 VD92EX0");
  EXPECT_EQ(base45("base-45"), "UJCLQE7W581");
  EXPECT_EQ(fromBase45("QED8WEX0"), "ietf!");
  for (const char* wrong : {"A", "AAAA", ":::", "aa", "GGW"})
    EXPECT_THROW(fromBase45(wrong), std::invalid_argument) << wrong;
}

// Another library reads the dots.
TEST(PackedPlan, TheCodeIsReadByAnother) {
  const Plan p = demo("master");
  const auto code = codeOf(p);
  ASSERT_TRUE(code);
  constexpr int kDots = 4;
  const int side = (code->size + 8) * kDots;
  std::vector<unsigned char> grey(size_t(side) * size_t(side), 255);
  for (int y = 0; y < code->size * kDots; ++y)
    for (int x = 0; x < code->size * kDots; ++x)
      if (code->dark[size_t(y / kDots * code->size + x / kDots)])
        grey[size_t(y + 4 * kDots) * size_t(side) + size_t(x + 4 * kDots)] = 0;
  zbar::ImageScanner scanner;
  scanner.set_config(zbar::ZBAR_QRCODE, zbar::ZBAR_CFG_ENABLE, 1);
  zbar::Image image{static_cast<unsigned>(side), static_cast<unsigned>(side), "Y800", grey.data(), grey.size()};
  ASSERT_EQ(scanner.scan(image), 1);
  EXPECT_EQ(image.symbol_begin()->get_data(), packedPlan(p));
}

TEST(PackedPlan, WhatIsBrokenIsRefused) {
  const std::string code = packedPlan(demo("first-light"));
  for (size_t cut = 0; cut < code.size(); cut += 17) EXPECT_THROW(unpackedPlan(code.substr(0, cut)), FileError) << cut;
  EXPECT_THROW(unpackedPlan("JEP1:" + base45(std::string(200, 'x'))), FileError);
  for (size_t i = 5; i < code.size(); i += 11) {
    std::string other = code;
    other[i] = other[i] == 'A' ? 'B' : 'A';
    try {
      unpackedPlan(other);
    } catch (const FileError&) {
    }
  }
}

TEST(SetSheet, HtmlNeedsNothingElse) {
  Pages pages = pagesOf(master(), "A <b>bold</b> & \"quoted\" name");
  const std::string html = sheetHtml(pages, Ink::Black);
  EXPECT_EQ(html.find("<b>"), std::string::npos);
  EXPECT_NE(html.find("A &lt;b&gt;bold&lt;/b&gt; &amp; &quot;quoted&quot; name"), std::string::npos);
  static const std::regex outside("(src|href)=\"(?!data:|#)");
  EXPECT_FALSE(std::regex_search(html, outside));
  for (const Light& l : master().plan.lights)
    EXPECT_NE(html.find("<th scope=\"row\">" + l.id + " "), std::string::npos);
  // An identifier of one drawing is no other drawing's.
  std::set<std::string> ids;
  static const std::regex id("<[a-z]+ [^>]*\\bid=\"([^\"]+)\"");
  for (std::sregex_iterator i(html.begin(), html.end(), id), end; i != end; ++i)
    EXPECT_TRUE(ids.insert((*i)[1]).second) << (*i)[1];
}

TEST(SheetFile, NoTwoLooksHaveOneFile) {
  Day day;
  day.looks.resize(5);
  const std::pair<const char*, std::string> called[] = {{"1", "The Master"},
                                                        {"1-the", "master"},
                                                        {"1", "the master!"},
                                                        {"2", std::string(90, 'x') + " left"},
                                                        {"2", std::string(90, 'x') + " right"}};
  for (size_t i = 0; i < 5; ++i) {
    day.looks[i].id = called[i].first;
    day.looks[i].title = called[i].second;
  }
  const std::vector<std::string> names = sheetNames(day);
  EXPECT_EQ(names.at(0), "1-the-master_sheet.pdf");
  EXPECT_EQ(std::set<std::string>(names.begin(), names.end()).size(), 5u) << "one would replace the other";
}

TEST(SetSheet, WhatItIsCalledSaysWhatItHolds) {
  EXPECT_EQ(sheetFileName("Marrow Lane: the master", "sheet", "pdf"), "marrow-lane-the-master_sheet.pdf");
  EXPECT_EQ(sheetFileName("../../etc/passwd", "sheet", "pdf"), "etc-passwd_sheet.pdf");
  EXPECT_EQ(sheetFileName("", "sheet", "pdf"), "plan_sheet.pdf");
  EXPECT_LE(sheetFileName(std::string(500, 'x'), "sheet", "pdf").size(), 100u);
}

TEST(SetSheet, ItsPicturesAreTracedWhenNoneStandOnTheEasel) {
  EXPECT_GT(brightest(master().portrait), 120);
  ASSERT_FALSE(master().growing.empty());
  for (const Picture& p : master().growing) EXPECT_GT(brightest(p), 60);
  for (const Picture& p : master().alone) EXPECT_GT(brightest(p), 20);
}

TEST(SetSheet, ALightOnAPieceSaysWhereItIsMetered) {
  const fs::path plan = fs::path(EASEL_SOURCE_DIR) / "demo/scenes/marrow-lane-bench.easel.json";
  const test::TemporaryFolder folder;
  saveSheet(folder.path / "sheet.html", pagesOf(planSheet(loadPlan(plan), small())), {});
  const std::string text = readWholeFile(folder.path / "sheet.html");
  EXPECT_NE(text.find("on table 1"), std::string::npos);
}

TEST(SetSheet, APlanThatCannotBeComputedAndAnUnknownPaperAreSaid) {
  Plan p = demo("master");
  p.lights[0].unit = "nothing";
  EXPECT_THROW(planSheet(p, small()), std::runtime_error);
  EXPECT_THROW(paperOf("papyrus"), std::invalid_argument);
  const test::TemporaryFolder folder;
  EXPECT_THROW(saveSheet(folder.path / "x.doc", pagesOf(master()), {}), std::invalid_argument);
  EXPECT_THROW(planSheet(demo("first-light"), small(), [](double) { return false; }), std::runtime_error);
}

TEST(DaySheet, TheDayAndThePackingListAreReadBack) {
  const test::TemporaryFolder folder;
  const Day day = loadDay(fs::path(EASEL_SOURCE_DIR) / "demo/open-day/marrow-lane-open-day.day.json").day;
  const Order order = bestOrder(day, DayCosts(day, usualDay().times));
  saveSheet(folder.path / "day.pdf", dayPages(day, order, {}, {}), {});
  std::string text = std::regex_replace(textOf(folder.path / "day.pdf"), std::regex("\\s+"), " ");
  for (const Turn& s : order.turns) {
    EXPECT_NE(text.find(day.looks[s.look].name()), std::string::npos);
    EXPECT_NE(text.find(writeTime(int(std::lround(s.begin / 60)))), std::string::npos);
  }
  EXPECT_NE(text.find("licensed electricians"), std::string::npos);
  saveSheet(folder.path / "packing.pdf", packingPages(day, {}), {});
  text = std::regex_replace(textOf(folder.path / "packing.pdf"), std::regex("\\s+"), " ");
  for (const PackItem& i : packingFor(day, {}))
    EXPECT_NE(text.find(fmt::format("{} x {}", i.count, i.name)), std::string::npos) << i.name;
}

}  // namespace
}  // namespace easel
