#include "formats/ies_file.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <vector>

#include "files/atomic_file.h"
#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {

IesError::IesError(int at, const std::string& sentence)
    : std::runtime_error(say("Line {}: {}", at, sentence)), line(at) {}

namespace {

constexpr double kFoot = 0.3048;
// A table in steps of half a degree has 361 x 721.
constexpr int kMostValues = 270'000;

struct Lines {
  std::vector<std::string_view> all;
  size_t next = 0;
  int number() const { return int(next); }  // of the line that was taken last
  bool more() const { return next < all.size(); }
  std::string_view take(const std::string& wanted) {
    if (!more()) throw IesError(int(all.size()), say("the file ends before {}.", wanted));
    return all[next++];
  }
};

Lines split(std::string_view text) {
  Lines out;
  while (!text.empty()) {
    const size_t end = text.find('\n');
    std::string_view line = text.substr(0, end);
    while (!line.empty() && (line.back() == '\r' || line.back() == ' ' || line.back() == '\t')) line.remove_suffix(1);
    out.all.push_back(line);
    if (end == std::string_view::npos) break;
    text.remove_prefix(end + 1);
  }
  return out;
}

// Numbers run over lines, parted by blanks or commas.
class Numbers {
 public:
  explicit Numbers(Lines& lines) : lines_(lines) {}
  double take(const std::string& what) {
    while (rest_.find_first_not_of(" \t,") == std::string_view::npos) rest_ = lines_.take(what);
    rest_.remove_prefix(rest_.find_first_not_of(" \t,"));
    const size_t end = std::min(rest_.find_first_of(" \t,"), rest_.size());
    std::string_view word = rest_.substr(0, end);
    rest_.remove_prefix(end);
    const auto v = wholeNumber(word);
    if (!v)
      throw IesError(lines_.number(), say("\"{}\" is not a number, where {} should be.", word.substr(0, 30), what));
    return *v;
  }
  int count(const std::string& what, int most) {
    const double v = take(what);
    if (v < 1 || v > most || v != std::floor(v))
      throw IesError(lines_.number(), say("{} is {}, which is not a whole number from 1 to {}.", what, v, most));
    return int(v);
  }
  std::vector<double> angles(int n, const std::string& what, double least, double most) {
    std::vector<double> out;
    for (int i = 0; i < n; ++i) {
      const double v = take(what);
      if (v < least - 1e-6 || v > most + 1e-6)
        throw IesError(lines_.number(), say("a {} of {} lies outside {} to {} degrees.", what, v, least, most));
      if (!out.empty() && v <= out.back())
        throw IesError(lines_.number(), say("{}s must ascend, but {} follows {}.", what, v, out.back()));
      out.push_back(v);
    }
    return out;
  }

 private:
  Lines& lines_;
  std::string_view rest_;
};

}  // namespace

IesFile readIesText(std::string_view text) {
  Lines lines = split(text);
  IesFile out;
  if (lines.all.empty()) throw IesError(1, say("the file is empty."));
  std::string_view line = lines.take(say("its first line"));
  if (line.rfind("IES", 0) == 0) line = lines.take("TILT=");
  std::string last;
  while (line.rfind("TILT=", 0) != 0) {
    if (!line.empty() && line.front() == '[') {
      const size_t close = line.find(']');
      if (close == std::string_view::npos) throw IesError(lines.number(), say("a keyword has no closing bracket."));
      std::string key(line.substr(1, close - 1)), value(line.substr(close + 1));
      value.erase(0, value.find_first_not_of(" \t"));
      if (key == "MORE")
        out.keywords[last] += "\n" + value;
      else
        out.keywords[last = key] = value;
    }
    line = lines.take("TILT=");
  }
  Numbers numbers(lines);
  if (line == "TILT=INCLUDE") {  // how the lamp changes when it hangs: read past
    numbers.take(say("the lamp's position"));
    const int pairs = numbers.count(say("the number of tilt angles"), 200);
    for (int i = 0; i < 2 * pairs; ++i) numbers.take(say("a tilt figure"));
  } else if (line != "TILT=NONE") {
    throw IesError(lines.number(),
                   say("\"{}\" names another file; only TILT=NONE and TILT=INCLUDE are read.", line.substr(0, 60)));
  }
  const int lamps = numbers.count(say("the number of lamps"), 1000);
  const double perLamp = numbers.take(say("lumens per lamp")), multiplier = numbers.take(say("the multiplier"));
  const int nv = numbers.count(say("the number of vertical angles"), 2000),
            nh = numbers.count(say("the number of horizontal angles"), 2000);
  if (nv * nh > kMostValues)
    throw IesError(lines.number(), say("{} by {} angles are more than the {} values that are kept. Thin the table out.",
                                       nv, nh, kMostValues));
  const double type = numbers.take(say("the photometric type"));
  if (type != 1) throw IesError(lines.number(), say("photometric type {} is not read; only type C (1) is.", type));
  const double units = numbers.take(say("the units of length"));
  if (units != 1 && units != 2)
    throw IesError(lines.number(), say("the units of length must be 1 (feet) or 2 (metres)."));
  const double scale = units == 1 ? kFoot : 1;
  out.width = numbers.take(say("the width")) * scale;
  out.length = numbers.take(say("the length")) * scale;
  out.height = numbers.take(say("the height")) * scale;
  const double ballast = numbers.take(say("the ballast factor"));
  numbers.take(say("the future-use factor"));
  out.watts = numbers.take(say("the watts"));
  if (!(multiplier > 0) || !(ballast > 0))
    throw IesError(lines.number(), say("multiplier and ballast factor must be above 0."));
  out.lumens = perLamp > 0 ? lamps * perLamp : 0;
  std::vector<double> vertical = numbers.angles(nv, say("vertical angle"), 0, 180),
                      horizontal = numbers.angles(nh, say("horizontal angle"), 0, 360);
  std::vector<std::vector<double>> candela;
  for (int h = 0; h < nh; ++h) {
    std::vector<double> row;
    for (int v = 0; v < nv; ++v) {
      const double c = numbers.take(say("a candela value")) * multiplier * ballast;
      if (c < 0) throw IesError(lines.number(), say("a candela value is negative."));
      row.push_back(c);
    }
    candela.push_back(std::move(row));
  }
  try {
    out.profile =
        std::make_shared<const AngularProfile>(std::move(vertical), std::move(horizontal), std::move(candela));
  } catch (const std::invalid_argument& e) {
    throw IesError(lines.number(), e.what());
  }
  return out;
}

IesFile readIes(const std::filesystem::path& file) {
  const std::string text = readWholeFile(file, 4u << 20);
  return readIesText(text);
}

std::string writeIesText(const Modifier& m, double lumens, double watts) {
  std::vector<double> vertical, horizontal{0};
  if (m.profile) {
    vertical = m.profile->vertical();
    horizontal = m.profile->horizontal();
  } else {
    for (int i = 0; i <= (m.outline == Outline::Ball ? 180 : 90); ++i) vertical.push_back(i);
    // Where the profile breaks off a straight line between whole degrees would reach too far.
    if (m.cutOff > 0 && m.outline != Outline::Ball) vertical.insert(vertical.end(), {m.cutOff - 1e-3, m.cutOff + 1e-3});
    std::sort(vertical.begin(), vertical.end());
  }
  // Negative width and length mean a round opening.
  const bool round = m.outline == Outline::Disc || m.outline == Outline::Ring || m.outline == Outline::Ball;
  const double width = round ? -m.width : m.width, length = round ? -m.width : m.height;
  std::string out = say(
      "IESNA:LM-63-2002\n[TEST] computed by Jolly Easel {}\n[ISSUEDATE] \n[MANUFAC] none\n[LUMINAIRE] {}\n[_SOURCE] "
      "{}\n"
      "TILT=NONE\n1 {:.6g} 1 {} {} 1 2 {:.6g} {:.6g} {:.6g}\n1 1 {:.6g}\n",
      EASEL_VERSION, m.name, m.source, lumens, vertical.size(), horizontal.size(), width, length, 0.0, watts);
  auto row = [&](const std::vector<double>& values) {
    for (size_t i = 0; i < values.size(); ++i)
      out += fmt::format("{:.7g}{}", values[i], i + 1 == values.size() ? "\n" : i % 10 == 9 ? "\n" : " ");
  };
  row(vertical);
  row(horizontal);
  const double axis = lumens * m.forward() / m.profileIntegral();  // candela where shape() is 1
  for (double h : horizontal) {
    std::vector<double> values;
    for (double v : vertical) values.push_back(axis * m.shape(v, h));
    row(values);
  }
  return out;
}

Modifier modifierFromIes(const IesFile& file, const std::string& id, const std::string& name, double absolute) {
  if (!file.profile || file.profile->forwardLumens() <= 0)
    throw std::invalid_argument(say("The file gives no light forwards; turn the luminaire, or choose another file."));
  Modifier m;
  m.id = id;
  m.name = name;
  m.width = std::clamp(std::abs(file.width), 0.02, 4.0);
  m.height = std::clamp(std::abs(file.length), 0.02, 4.0);
  if (file.width < 0 || file.length < 0) {
    m.outline = Outline::Disc;
    m.height = m.width;
  } else {
    m.outline = Outline::Rectangle;
    if (file.width == 0) m.width = m.height;
    if (file.length == 0) m.height = m.width;
  }
  m.depth = std::clamp(file.height, 0.05, 1.0);
  m.transmission = std::clamp(file.lumens > 0 ? file.profile->forwardLumens() / file.lumens : absolute, 0.001, 1.0);
  m.profile = file.profile;
  m.source = say("measured: IES photometry file");
  return m;
}

Modifier measuredBy(Modifier m, const IesFile& file, const std::string& fileName) {
  const Modifier bare = modifierFromIes(file, m.id, m.name, m.transmission);
  if (m.outline == Outline::Ball)
    throw std::invalid_argument(say("{} gives its light all round; a profile is for a front.", m.name));
  m.profile = bare.profile;
  m.transmission = bare.transmission;
  m.backShare = 0;
  m.grid = m.cutOff = 0;  // what it cuts off is in the measurement
  m.source = say("photometry file {}", fileName);
  return m;
}

}  // namespace easel
