#include "pictures_and_reading.h"

#include <fmt/format.h>
#include <unistd.h>

#include <optional>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "analysis/map.h"
#include "analysis/plan_reader.h"
#include "formats/contact_sheet.h"
#include "formats/pattern_sheet.h"
#include "formats/picture_file.h"
#include "formats/plan_json.h"
#include "formats/reading_json.h"
#include "formats/wish_json.h"
#include "given_plan.h"
#include "plan/framing.h"
#include "propose/propose.h"
#include "rendering/progressive_render.h"
#include "sitters/people.h"
#include "spoken/number.h"
#include "terminal.h"

namespace easel {
namespace {

struct Size {
  int width, height;
};

// "640x800", each side within its limits.
Size readSize(const std::string& text, int least, int most, const char* example) {
  Spoken s(text);
  const auto w = s.count();
  const bool times = s.take("x");
  const auto h = s.count();
  if (!w || !times || !h || !s.atEnd() || *w < least || *h < least || *w > most || *h > most)
    throw std::runtime_error(fmt::format("\"{}\" is not a picture size. Write it like {}, each between {} and {}.",
                                         text.substr(0, 40), example, least, most));
  return {*w, *h};
}

// Refuses a picture that the machine has no room for: the samples of every pixel are kept while it gets better.
void requireMemory(Size size, size_t lights) {
  const double wanted = ProgressiveRender::bytesWanted(size.width, size.height, lights);
  const double there = double(::sysconf(_SC_PHYS_PAGES)) * double(::sysconf(_SC_PAGESIZE));
  if (wanted > 0.8 * there)
    throw std::runtime_error(
        fmt::format("A picture of {}x{} with {} lights needs about {:.0f} GB of memory; this machine has {:.0f}. Take "
                    "a smaller --size.",
                    size.width, size.height, lights, wanted / (1 << 30), there / (1 << 30)));
}

FaceAnalysis readingOf(const Plan& plan, Size size, int samples) {
  refuse(plan);
  requireMemory(size, plan.lights.size());
  return PlanReader(size.width, size.height, samples).read(plan);
}

}  // namespace

void writePicture(const std::string& file, const std::string& out, const std::string& size, const std::string& solo,
                  int samples, bool plain) {
  if (!size.empty()) readSize(size, 16, 8192, "640x800");  // before the plan is read
  if (samples < 1 || samples > 65536) throw std::runtime_error("--samples takes a number from 1 to 65536.");
  const bool exr = out.ends_with(".exr");
  if (!exr && !out.ends_with(".png"))
    throw std::runtime_error(fmt::format("{} ends neither in .png nor in .exr: name the output so.", out));
  const Plan plan = planFrom(file);
  const auto inFrame = sizeInFrame(plan.camera.frame);
  const auto [width, height] = size.empty() ? Size{inFrame.first, inFrame.second} : readSize(size, 16, 8192, "640x800");
  if (!solo.empty() && !plan.light(solo))
    throw std::runtime_error(fmt::format("There is no light {} in {}.", solo, file));
  requireMemory({width, height}, plan.lights.size());
  ProgressiveRender studio(width, height);
  studio.setSmooth(!plain);
  studio.setPlan(plan);
  studio.finish(samples);
  const Show show = solo.empty() ? Show{} : Show{Show::What::Solo, solo};
  if (exr) {
    std::vector<float> planes[3];
    linearPicture(studio.layers(), *studio.set(), show, planes);
    writeExr(out, width, height, planes[0].data(), planes[1].data(), planes[2].data());
  } else {
    writePng(out, width, height, developPicture(studio.layers(), *studio.set(), show).rgba);
  }
}

void writeSeries(const std::string& file, const std::string& vary, const std::string& out, const std::string& size,
                 bool hold, int samples) {
  const auto [width, height] = readSize(size, 64, 2048, "320x400");
  if (samples < 1 || samples > 4096) throw std::runtime_error("--samples takes a number from 1 to 4096.");
  if (!out.ends_with(".png"))
    throw std::runtime_error(fmt::format("{} does not end in .png: name the output so.", out));
  const Variation v = readVariation(vary);
  const Plan plan = planFrom(file);
  const auto pictures = renderSeries(plan, v, hold, width, height, samples, {});
  const Picture sheet = contactSheet(
      pictures,
      {plan.title, fmt::format("{}{}", variedName(v.path), hold ? ", powered again for its target each time" : "")});
  writePng(out, sheet.width, sheet.height, sheet.rgba);
  for (const SeriesPicture& p : pictures) put("{:<16} face reads {}\n", p.caption, p.reading);
}

void showReading(const std::string& file, bool json, const std::string& size, int samples) {
  const Plan plan = planFrom(file);
  if (samples < 1 || samples > 4096) throw std::runtime_error("--samples takes a number from 1 to 4096.");
  const FaceAnalysis r = readingOf(plan, readSize(size, 80, 2048, "320x400"), samples);
  if (json) {
    putText(writeReadingText(plan, r));
    return;
  }
  put("{}\n{}\n", r.lighting.name, r.lighting.sentence);
  for (const std::string& w : r.measures.words) put("{}\n", w);
  for (const Catchlight& c : r.catchlights.all)
    if (c.lives)
      put("{} eye: {} at {:.1f} o'clock, {}, {:.1f} x {:.1f} mm{}\n", c.eye == 0 ? "left" : "right", c.light, c.hour,
          c.shape, c.width, c.height, c.onIris ? "" : ", on the white");
    else
      put("{} eye: {} is kept out by {}{}\n", c.eye == 0 ? "left" : "right", c.light, c.hiddenBy,
          c.lowerTo > 0 ? fmt::format("; it would at {:.2f} m", c.lowerTo) : "");
}

int showFaults(const std::string& file, bool json, const std::string& size, int samples) {
  const Plan plan = planFrom(file);
  if (samples < 1 || samples > 4096) throw std::runtime_error("--samples takes a number from 1 to 4096.");
  const FaceAnalysis r = readingOf(plan, readSize(size, 80, 2048, "320x400"), samples);
  if (json)
    putText(writeFaultsText(plan, r));
  else
    for (const Fault& f : r.faults)
      put("{}{} ({}): {} {}\n",
          f.wanted    ? "wanted: "
          : f.caution ? "caution: "
                      : "",
          f.title, f.where, f.sentence, f.why);
  return r.count() > 0 ? 1 : 0;
}

void writePatterns(const std::string& file, const std::string& out, double step) {
  if (!out.ends_with(".png"))
    throw std::runtime_error(fmt::format("{} does not end in .png: name the output so.", out));
  if (!(step >= 4 && step <= 30)) throw std::runtime_error("--step takes degrees from 4 to 30.");
  std::vector<std::pair<std::string, PatternMap>> maps;
  ProgressiveRender studio(8, 8);
  auto add = [&](const Plan& p, const std::string& caption) {
    studio.setPlan(p);
    maps.emplace_back(caption, patternMap(*studio.set(), *studio.scene(), step));
  };
  if (!file.empty()) {
    const Plan p = planFrom(file);
    add(p, fmt::format("{}, head turned {:.0f} degrees", personOf(p.sitter.id).name, p.sitter.turn));
  } else {
    Plan p;
    for (const Person& s : sitterCatalogue())
      for (double turn : {-30., 0., 30.}) {
        p.sitter.id = s.id;
        p.sitter.turn = turn;
        add(p, fmt::format("{}, {}", s.name,
                           turn < 0   ? "head 30 degrees to camera left"
                           : turn > 0 ? "head 30 degrees to camera right"
                                      : "head straight"));
      }
  }
  const Picture sheet =
      patternSheet(maps, file.empty() ? 3 : 1, "What a hard key makes of this face, by its place round it");
  writePng(out, sheet.width, sheet.height, sheet.rgba);
}

int proposeSet(const std::string& file, const std::string& base, const std::string& out, const std::string& picture) {
  const WishFile w = loadWish(file);
  const Plan here = !base.empty() ? loadPlan(base) : w.plan ? *w.plan : Plan{};
  const std::vector<Proposed> all = propose(w.wish, here);
  if (all.empty()) throw std::runtime_error("Nothing could be proposed.");
  for (size_t i = 0; i < all.size(); ++i) {
    const Proposed& p = all[i];
    put("{}. {}: {}\n", i + 1, p.reading.lighting.name, p.name);
    for (const std::string& r : p.reasons) put("   {}\n", r);
    for (const std::string& g : p.gave) put("   compromise: {}\n", g);
  }
  if (!out.empty()) savePlan(out, all.front().plan);
  if (!picture.empty()) {
    const Picture pic = [&] {
      ProgressiveRender s(640, 800);
      s.setPlan(all.front().plan);
      s.finish(16);
      return developPicture(s.layers(), *s.set());
    }();
    writePng(picture, pic.width, pic.height, pic.rgba);
  }
  return all.front().asAsked() ? 0 : 1;
}

}  // namespace easel
