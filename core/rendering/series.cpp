#include "rendering/series.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "exposure/aperture.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "gear/kit.h"
#include "plan/ranges.h"
#include "spoken/clock.h"
#include "spoken/marked.h"
#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::string_view lastWord(const std::string& path) {
  const auto dot = path.rfind('.');
  return std::string_view(path).substr(dot == std::string::npos ? 0 : dot + 1);
}
std::string letterOf(const std::string& path) {
  return path.rfind("light.", 0) == 0 ? path.substr(6, path.rfind('.') - 6) : std::string();
}

}  // namespace

const std::vector<Varied>& variedThings() {
  static const std::vector<Varied> all = {
      {"light.A.distance", marked("Distance of light {}"), "m", 0.6, 2.4},
      {"light.A.hour", marked("Clock place of light {}"), "o'clock", 3, 6},
      {"light.A.height", marked("Height of light {}"), "m", 1.2, 2.2},
      {"light.A.power", marked("Power of light {}"), marked("stops below full"), -6, -1},
      {"light.A.pan", marked("Feather of light {}"), marked("degrees"), 0, 50},
      {"light.A.tiltOffset", marked("Tilt of light {} off its aim"), marked("degrees"), -30, 30},
      {"camera.aperture", "Aperture", "f-number", 4, 16},
      {"camera.iso", "ISO", "", 100, 800},
      {"camera.shutter", marked("Shutter time"), "s", 0.005, 0.5},
      {"camera.whiteBalance", marked("White balance"), "K", 3200, 7500},
      {"camera.focalLength", marked("Focal length"), "mm", 50, 200},
      {"camera.distance", marked("Camera distance"), "m", 1, 4},
      {"camera.height", marked("Camera height"), "m", 0.9, 1.8},
      {"backdrop.distance", marked("Backdrop distance"), "m", 0.4, 2.4},
      {"sitter.turn", marked("Turn of the head"), marked("degrees"), -45, 45},
      {"sitter.tilt", marked("Tilt of the head"), marked("degrees"), -15, 15},
      {"sitter.nod", marked("Chin, up to down"), marked("degrees"), -15, 15},
      {"ambient.lux", "Room light", "lx", 0, 500},
      {"room.wallReflectance", marked("Reflectance of the walls"), "", 0.05, 0.8},
  };
  return all;
}

std::string variedName(const std::string& path) {
  std::string general = path;
  const std::string letter = letterOf(path);
  if (letter.size() == 1) general[6] = 'A';
  for (const Varied& v : variedThings())
    if (v.path == general) return sayFilled(v.name, fmt::make_format_args(letter));
  return path;
}

Variation readVariation(const std::string& text) {
  const auto sign = text.find('=');
  const auto wrong = [&](const std::string& why) {
    return std::invalid_argument(
        say("\"{}\" is not a variation: {}. Write it like light.A.distance=0.5:3:6 (from:to:how many) or "
            "light.A.hour=3,4.5,6.",
            text, why));
  };
  if (sign == std::string::npos) throw wrong(say("there is no = in it"));
  Variation v;
  v.path = text.substr(0, sign);
  std::string path = v.path;
  if (const std::string letter = letterOf(path); letter.size() == 1) path[6] = 'A';
  if (path != "light.A.targetStops" &&
      std::none_of(variedThings().begin(), variedThings().end(), [&](const Varied& t) { return t.path == path; }))
    throw wrong(say("\"{}\" is nothing that can be varied", v.path));
  const std::string rest = text.substr(sign + 1);
  // A comma parts the values as long as nothing else does; after : or ; it is a decimal comma.
  const char between = rest.find(':') != std::string::npos ? ':' : rest.find(';') != std::string::npos ? ';' : ',';
  std::vector<double> numbers;
  for (size_t from = 0; from <= rest.size();) {
    const size_t to = std::min(rest.find(between, from), rest.size());
    const std::string part = rest.substr(from, to - from);
    const auto number = wholeAmount(part);
    if (!number) throw wrong(say("\"{}\" is not a number", part));
    numbers.push_back(*number);
    from = to + 1;
  }
  if (between != ':') {
    v.values = numbers;
  } else {
    if (numbers.size() != 3 || numbers[2] != std::floor(numbers[2]))
      throw wrong(say("from, to and a whole number of pictures"));
    if (numbers[2] >= 2 && numbers[2] <= 24)
      for (int i = 0; i < int(numbers[2]); ++i)
        v.values.push_back(numbers[0] + (numbers[1] - numbers[0]) * i / (numbers[2] - 1));
  }
  if (v.values.size() < 2 || v.values.size() > 24) throw wrong(say("a series has 2 to 24 pictures"));
  return v;
}

Plan varied(const Plan& plan, const std::string& path, double value) {
  Plan out = plan;
  const std::string letter = letterOf(path);
  if (!letter.empty()) {
    const Light* l = out.light(letter);
    if (!l) throw std::invalid_argument(say("There is no light {} in this plan.", letter));
    if (l->locked) throw std::invalid_argument(say("Light {} is locked: unlock it to vary it.", letter));
  }
  double* target = nullptr;
  const Range* range = nullptr;
  forEachNumber(out, [&](const Range& r, const std::string& its, double& number) {
    if (its != path) return;
    target = &number;
    range = &r;
  });
  if (!target) throw std::invalid_argument(say("\"{}\" is nothing that can be varied.", path));
  if (!range->holds(value)) throw OutOfRange(path, *range, value);
  *target = path == "camera.aperture" ? exactFromEngraved(value) : value;
  return out;
}

std::string writeVaried(const Plan& plan, const std::string& path, double v, const Spelling& spelling) {
  const auto what = lastWord(path);
  if (what == "hour") return writeClock(v);
  if (what == "power") {
    const Light* l = plan.light(letterOf(path));
    const Unit* u = l ? findUnit(l->unit) : nullptr;
    return u ? u->scale.write(v) : signedStops(v) + " stops";
  }
  if (what == "aperture") return writeAperture(exactFromEngraved(v), ApertureStyle::Nominal);
  if (what == "shutter") return writeShutter(v);
  if (what == "iso") return say("ISO {:.0f}", v);
  if (what == "whiteBalance") return fmt::format("{:.0f} K", v);
  if (what == "focalLength") return say("{:.0f} mm", v);
  if (what == "lux") return say("{:.0f} lx", v);
  if (what == "wallReflectance") return say("walls {:.0f} %", 100 * v);
  if (what == "targetStops") return signedStops(v) + " stops";
  if (what == "distance" || what == "height") return spelling.length(v);
  return fmt::format("{:+.0f}\u00b0", v);
}

std::vector<SeriesPicture> renderSeries(const Plan& plan, const Variation& variation, bool hold, int width, int height,
                                        int passes, const std::function<bool(double)>& progress,
                                        const Spelling& spelling) {
  std::vector<SeriesPicture> out;
  ProgressiveRender studio(width, height);
  const std::string letter = letterOf(variation.path);
  for (double value : variation.values) {
    SeriesPicture p;
    p.plan = varied(plan, variation.path, value);
    p.caption = writeVaried(plan, variation.path, value, spelling);
    studio.setPlan(p.plan);
    Answers a = computeAnswers(*studio.scene(), *studio.set());
    if (Light* l = hold && !letter.empty() ? p.plan.light(letter) : nullptr; l && lastWord(variation.path) != "power") {
      if (const LightAnswer* r = a.light(letter)) l->power = r->setting.stops;
      studio.setPlan(p.plan);
      a = computeAnswers(*studio.scene(), *studio.set());
    }
    p.reading = spelling.aperture(a.aperture);
    // A pass of one light at a time, so that a cancelled series stops within one.
    const Interrupt never;
    const double steps = double(passes) * double(p.plan.lights.size() + 1);
    for (int n = 0; studio.improve(never, passes) != ProgressiveRender::Progress::Done; ++n)
      if (progress && !progress((double(out.size()) + std::min(1.0, n / steps)) / double(variation.values.size())))
        return out;
    p.picture = developPicture(studio.layers(), *studio.set());
    out.push_back(std::move(p));
  }
  return out;
}

std::vector<RatioPlan> ratioStrip(const Plan& plan, const Answers& answers) {
  const LightAnswer* key = keyAnswer(plan.lights, answers);
  const bool fill =
      std::any_of(plan.lights.begin(), plan.lights.end(), [](const Light& l) { return l.role == Role::Fill && l.on; });
  if (!key || !fill) return {};
  std::vector<RatioPlan> out;
  for (int stops = 0; stops <= 4; ++stops) {
    RatioPlan s{fmt::format("{}:1", 1 << stops), double(stops), plan, true};
    for (Light& l : s.plan.lights) {
      if (l.role != Role::Fill || !l.on) continue;
      if (l.locked) {
        // It stays as it is, and may stand right all the same.
        const LightAnswer* now = answers.light(l.id);
        s.reached &= now && std::abs(key->stopsFromWorking - stops - now->stopsFromWorking) < 0.05;
        continue;
      }
      l.targetStops = key->stopsFromWorking - stops;
      const auto setting = powerForAperture(answers, l, key->aperture * std::exp2(-stops / 2.0));
      l.power = setting.stops;
      s.reached &= setting.shortfall == 0;
    }
    out.push_back(std::move(s));
  }
  return out;
}

}  // namespace easel
