#include "plan/ranges.h"

#include <fmt/format.h>

#include <array>
#include <cmath>
#include <set>

#include "sitters/colouring.h"
#include "spoken/clock.h"
#include "spoken/marked.h"
#include "spoken/say.h"

namespace easel {
namespace {

template <class Part>
struct Row {
  Range range;
  double& (*of)(Part&);
};
template <class Part>
struct TextRow {
  TextRange range;
  std::string& (*of)(Part&);
};
// The member by its path from the part, written once.
#define OF(Part, member) [](Part& p) -> double& { return p.member; }
#define TEXT(Part, member) [](Part& p) -> std::string& { return p.member; }

using enum Quantity;

const Row<Room> kRoom[] = {
    {{"room.width", "width", Length, 1, 60, ""}, OF(Room, width)},
    {{"room.depth", "depth", Length, 1, 100, ""}, OF(Room, depth)},
    {{"room.height", "ceiling", Length, 1.5, 20, ""}, OF(Room, height)},
    {{"room.behind", marked("wall behind the sitter"), Length, 0.2, 50, ""}, OF(Room, behind)},
    {{"room.wallReflectance", marked("reflectance of the walls"), Share, 0, 0.95,
      marked("Fresh white paint gives back about 85 %.")},
     OF(Room, wallReflectance)},
    {{"room.floorReflectance", marked("reflectance of the floor"), Share, 0, 0.95, ""}, OF(Room, floorReflectance)},
    {{"room.ceilingReflectance", marked("reflectance of the ceiling"), Share, 0, 0.95, ""},
     OF(Room, ceilingReflectance)},
};
const Row<SitterPlace> kSitter[] = {
    {{"sitter.eyeHeight", marked("eye height"), Length, 0.3, 2.3,
      marked("It is the height of seated or standing eyes.")},
     OF(SitterPlace, eyeHeight)},
    {{"sitter.turn", marked("turn of the head"), Angle, -100, 100, ""}, OF(SitterPlace, turn)},
    {{"sitter.tilt", marked("tilt of the head"), Angle, -45, 45, ""}, OF(SitterPlace, tilt)},
    {{"sitter.nod", marked("chin, up or down"), Angle, -45, 45, ""}, OF(SitterPlace, nod)},
    {{"sitter.shoulders", marked("turn of the shoulders"), Angle, -120, 120, ""}, OF(SitterPlace, shoulders)},
    {{"sitter.hatBack", marked("hat, tipped back"), Angle, 0, 30, ""}, OF(SitterPlace, hatBack)},
    {{"sitter.lean", marked("lean of the trunk"), Angle, -15, 40, ""}, OF(SitterPlace, lean)},
    {{"sitter.gazeHour", marked("place on the clock that the sitter looks at"), Clock, 0, 12, ""},
     OF(SitterPlace, gazeHour)},
    {{"sitter.gazeDistance", marked("distance of what the sitter looks at"), Length, 0, 50, ""},
     OF(SitterPlace, gazeDistance)},
    {{"sitter.gazeHeight", marked("height of what the sitter looks at"), Length, 0, 15, ""},
     OF(SitterPlace, gazeHeight)},
    {{"sitter.templesUp", marked("temples of the glasses, up"), Angle, 0, 15, ""}, OF(SitterPlace, templesUp)},
};
const Row<Camera> kCamera[] = {
    {{"camera.distance", "distance", Length, 0.3, 50, ""}, OF(Camera, distance)},
    {{"camera.height", "height", Length, 0.05, 10, ""}, OF(Camera, height)},
    {{"camera.focalLength", marked("focal length"), Millimetres, 8, 1200, ""}, OF(Camera, focalLength)},
    {{"camera.sensorWidth", marked("width of the sensor"), Millimetres, 3, 120, ""}, OF(Camera, sensorWidth)},
    {{"camera.sensorHeight", marked("height of the sensor"), Millimetres, 3, 120, ""}, OF(Camera, sensorHeight)},
    {{"camera.frame", marked("frame, width over height"), Plain, 0.4, 2.5, ""}, OF(Camera, frame)},
    {{"camera.aimBelowEyes", marked("aim below the eyes"), Length, -1, 2, ""}, OF(Camera, aimBelowEyes)},
    {{"camera.iso", "ISO", Plain, 6, 409600, ""}, OF(Camera, iso)},
    {{"camera.shutter", marked("shutter time"), Time, 1e-5, 3600, ""}, OF(Camera, shutter)},
    {{"camera.syncShutter", marked("sync time"), Time, 1e-5, 1,
      marked("It is the shortest time that works with flash, usually 1/200 or 1/250.")},
     OF(Camera, syncShutter)},
    {{"camera.aperture", marked("target aperture"), FNumber, 0.5, 512, ""}, OF(Camera, aperture)},
    {{"camera.closedBy", marked("closing of the lens beyond the target aperture"), Stops, -3, 3,
      marked("Balance the lights first (Ctrl+B), or change the target aperture.")},
     OF(Camera, closedBy)},
    {{"camera.whiteBalance", marked("white balance"), Kelvin, 1700, 25000, ""}, OF(Camera, whiteBalance)},
};
const Row<Backdrop> kBackdrop[] = {
    {{"backdrop.distance", "distance", Length, -10, 50, ""}, OF(Backdrop, distance)},
    {{"backdrop.width", "width", Length, 0.2, 30, ""}, OF(Backdrop, width)},
    {{"backdrop.height", "height", Length, 0.2, 15, ""}, OF(Backdrop, height)},
};
const Row<Ambient> kAmbient[] = {
    {{"ambient.lux", "level", Lux, 0, 200000, marked("Full sun at noon is about 100000 lx.")}, OF(Ambient, lux)},
    {{"ambient.kelvin", "colour", Kelvin, 1700, 25000, ""}, OF(Ambient, kelvin)},
};
const Row<Light> kLight[] = {
    {{"light.hour", marked("place on the clock"), Clock, 0, 12, ""}, OF(Light, hour)},
    {{"light.distance", "distance", Length, 0, 50, ""}, OF(Light, distance)},
    {{"light.height", "height", Length, 0, 15, ""}, OF(Light, height)},
    {{"light.pan", "feather", Angle, -180, 180, ""}, OF(Light, pan)},
    {{"light.tiltOffset", marked("tilt off the aim"), Angle, -180, 180, ""}, OF(Light, tiltOffset)},
    {{"light.power", "power", Stops, -14, 0, marked("It counts in stops below full.")}, OF(Light, power)},
    {{"light.targetStops", marked("level against the key"), Stops, -12, 12, ""}, OF(Light, targetStops)},
    {{"light.nd", marked("neutral density"), Stops, 0, 12, ""}, OF(Light, fittings.nd)},
    {{"light.grid", "grid", Angle, 0, 60, ""}, OF(Light, fittings.grid)},
    {{"light.doorLeft", marked("left barn door"), Angle, -45, 90, ""}, OF(Light, fittings.doors.left)},
    {{"light.doorRight", marked("right barn door"), Angle, -45, 90, ""}, OF(Light, fittings.doors.right)},
    {{"light.doorTop", marked("top barn door"), Angle, -45, 90, ""}, OF(Light, fittings.doors.top)},
    {{"light.doorBottom", marked("bottom barn door"), Angle, -45, 90, ""}, OF(Light, fittings.doors.bottom)},
    {{"light.zoom", "zoom", Millimetres, 14, 300, ""}, OF(Light, fittings.zoom)},
    {{"light.spread", "spread", Angle, 3, 35, ""}, OF(Light, fittings.spread)},
    {{"light.focus", marked("distance of sharp focus"), Length, 0, 50, ""}, OF(Light, fittings.focus)},
    {{"light.kelvin", marked("colour temperature"), Kelvin, 0, 25000, ""}, OF(Light, fittings.kelvin)},
};
const Row<Panel> kPanel[] = {
    {{"panel.width", "width", Length, 0.05, 12, ""}, OF(Panel, width)},
    {{"panel.height", "height", Length, 0.05, 12, ""}, OF(Panel, height)},
    {{"panel.fold", "fold", Angle, 20, 180, ""}, OF(Panel, fold)},
    {{"panel.gap", "gap", Length, 0.002, 3, ""}, OF(Panel, gap)},
    {{"panel.depth", "depth", Length, 0, 12, ""}, OF(Panel, depth)},
    {{"panel.openWidth", marked("width of the opening"), Length, 0.05, 12, ""}, OF(Panel, openWidth)},
    {{"panel.openHeight", marked("height of the opening"), Length, 0.05, 12, ""}, OF(Panel, openHeight)},
    {{"panel.reflectance", "reflectance", Share, 0, 0.95, ""}, OF(Panel, reflectance)},
    {{"panel.sill", marked("height of the sill"), Length, 0, 12, ""}, OF(Panel, sill)},
    {{"panel.hour", marked("place on the clock"), Clock, 0, 12, ""}, OF(Panel, hour)},
    {{"panel.distance", "distance", Length, 0.05, 20, ""}, OF(Panel, distance)},
    {{"panel.above", marked("height of its centre"), Length, 0, 15, ""}, OF(Panel, above)},
    {{"panel.turn", "turn", Angle, -180, 180, ""}, OF(Panel, turn)},
    {{"panel.tilt", "tilt", Angle, -90, 90, ""}, OF(Panel, tilt)},
};
const Row<PinnedSpot> kSpot[] = {
    {{"spot.x", marked("place across"), Length, -100, 100, ""}, OF(PinnedSpot, x)},
    {{"spot.y", "height", Length, -100, 100, ""}, OF(PinnedSpot, y)},
    {{"spot.z", marked("place along"), Length, -100, 100, ""}, OF(PinnedSpot, z)},
    {{"spot.nx", marked("aim across"), Plain, -1, 1, ""}, OF(PinnedSpot, nx)},
    {{"spot.ny", marked("aim up"), Plain, -1, 1, ""}, OF(PinnedSpot, ny)},
    {{"spot.nz", marked("aim along"), Plain, -1, 1, ""}, OF(PinnedSpot, nz)},
};
const Row<Plan> kPlan[] = {
    {{"plan.haze", "haze", PerMetre, 0, 0.5, marked("0.1 per metre is thick already.")}, OF(Plan, haze)},
};

const TextRow<Plan> kPlanTexts[] = {
    {{"plan.title", "title", 0, 200}, TEXT(Plan, title)},
    {{"plan.notes", "notes", 0, 20000}, TEXT(Plan, notes)},
};
const TextRow<Room> kRoomTexts[] = {{{"room.paint", "paint", 0, 40}, TEXT(Room, paint)}};
const TextRow<SitterPlace> kSitterTexts[] = {
    {{"sitter.id", "id", 1, 64, TextRange::Form::Word}, TEXT(SitterPlace, id)},
    {{"sitter.hairColour", marked("hair colour"), 0, 40}, TEXT(SitterPlace, hairColour)},
    {{"sitter.hairStyle", marked("hair style"), 0, 60}, TEXT(SitterPlace, hairStyle)},
    {{"sitter.skinTone", marked("skin tone"), 0, 40}, TEXT(SitterPlace, skinTone)},
    {{"sitter.outfit", marked("outfit"), 0, 60}, TEXT(SitterPlace, outfit)},
    {{"sitter.cloth", marked("cloth"), 0, 60}, TEXT(SitterPlace, cloth)},
    {{"sitter.clothColour", marked("colour of the clothes"), 0, 60}, TEXT(SitterPlace, clothColour)},
    {{"sitter.glasses", marked("glasses"), 0, 60}, TEXT(SitterPlace, glasses)},
    {{"sitter.beard", marked("beard"), 0, 60}, TEXT(SitterPlace, beard)},
    {{"sitter.pose", marked("pose"), 0, 60}, TEXT(SitterPlace, pose)},
    {{"sitter.expression", marked("expression"), 0, 60}, TEXT(SitterPlace, expression)},
    {{"sitter.hat", marked("hat"), 0, 60}, TEXT(SitterPlace, hat)},
    {{"sitter.gaze", marked("where the sitter looks"), 0, 20}, TEXT(SitterPlace, gaze)},
    {{"sitter.gazeLight", marked("the light that the sitter looks at"), 0, 1}, TEXT(SitterPlace, gazeLight)},
};
const TextRow<Backdrop> kBackdropTexts[] = {{{"backdrop.material", "material", 0, 64}, TEXT(Backdrop, material)}};
const TextRow<Light> kLightTexts[] = {
    {{"light.id", "letter", 1, 1, TextRange::Form::LightLetter}, TEXT(Light, id)},
    {{"light.name", "name", 0, 100}, TEXT(Light, name)},
    {{"light.group", marked("trigger group"), 0, 8}, TEXT(Light, group)},
    {{"light.unit", "unit", 0, 64}, TEXT(Light, unit)},
    {{"light.modifier", "modifier", 0, 64}, TEXT(Light, modifier)},
    {{"light.gel", "gel", 0, 40}, TEXT(Light, fittings.gel)},
    {{"light.diffusion", "diffusion", 0, 40}, TEXT(Light, fittings.diffusion)},
    {{"light.pattern", "pattern", 0, 200}, TEXT(Light, fittings.pattern)},
    {{"light.worksOn", marked("what it works on"), 0, 2}, TEXT(Light, worksOn)},
    {{"light.inside", marked("what it burns in"), 0, 2}, TEXT(Light, inside)},
};
const TextRow<Panel> kPanelTexts[] = {
    {{"panel.id", "number", 1, 2, TextRange::Form::PanelNumber}, TEXT(Panel, id)},
    {{"panel.name", "name", 0, 200}, TEXT(Panel, name)},
    {{"panel.kind", "kind", 0, 40}, TEXT(Panel, kind)},
    {{"panel.front", "front", 0, 40}, TEXT(Panel, front)},
    {{"panel.back", "back", 0, 40}, TEXT(Panel, back)},
    {{"panel.pattern", "pattern", 0, 200}, TEXT(Panel, pattern)},
    {{"panel.model", "model", 0, 200}, TEXT(Panel, model)},
};
const TextRow<PinnedSpot> kSpotTexts[] = {
    {{"spot.id", "id", 1, 40}, TEXT(PinnedSpot, id)},
    {{"spot.name", "name", 0, 120}, TEXT(PinnedSpot, name)},
};
#undef OF
#undef TEXT

// Of a plan; of things that there are several of, one.
struct Part {
  const char *title, *kind;  // what sentences call it, with {} for its id; the first word of its ranges' paths
  const std::string* id = nullptr;

  std::string name() const {
    const bool has = id && !id->empty() && id->size() <= 40;
    return sayFilled(title, fmt::make_format_args(has ? *id : "?"));
  }
  // "light.A.hour" of the range "light.hour".
  std::string path(const Range& range) const {
    return id ? fmt::format("{}.{}{}", kind, *id, range.path.substr(range.path.find('.'))) : std::string(range.path);
  }
};

// Every part of the plan with its rows.
template <class Visit>
void forEachPart(Plan& p, Visit visit) {
  visit(p, Part{marked("The plan"), "plan"}, kPlan, kPlanTexts);
  visit(p.room, Part{marked("The room"), "room"}, kRoom, kRoomTexts);
  visit(p.sitter, Part{marked("The sitter"), "sitter"}, kSitter, kSitterTexts);
  visit(p.camera, Part{marked("The camera"), "camera"}, kCamera, std::array<TextRow<Camera>, 0>{});
  visit(p.backdrop, Part{marked("The backdrop"), "backdrop"}, kBackdrop, kBackdropTexts);
  visit(p.ambient, Part{marked("The room light"), "ambient"}, kAmbient, std::array<TextRow<Ambient>, 0>{});
  for (Light& l : p.lights) visit(l, Part{marked("Light {}"), "light", &l.id}, kLight, kLightTexts);
  for (Panel& q : p.panels) visit(q, Part{marked("Board {}"), "panel", &q.id}, kPanel, kPanelTexts);
  for (PinnedSpot& s : p.spots) visit(s, Part{marked("Pinned spot {}"), "spot", &s.id}, kSpot, kSpotTexts);
}

// A file holds text only; what is none would come back as something else (RFC 3629, table of well-formed sequences).
bool isUtf8(std::string_view text) {
  for (size_t i = 0; i < text.size();) {
    const auto byte = [&](size_t k) { return k < text.size() ? unsigned(static_cast<unsigned char>(text[k])) : 0u; };
    const unsigned lead = byte(i);
    const size_t length = lead < 0x80                   ? 1
                          : lead >= 0xC2 && lead < 0xE0 ? 2
                          : lead >= 0xE0 && lead < 0xF0 ? 3
                          : lead >= 0xF0 && lead < 0xF5 ? 4
                                                        : 0;
    if (!length) return false;
    for (size_t k = 1; k < length; ++k)
      if ((byte(i + k) & 0xC0) != 0x80) return false;
    const unsigned second = byte(i + 1);
    if ((lead == 0xE0 && second < 0xA0) || (lead == 0xED && second > 0x9F) || (lead == 0xF0 && second < 0x90) ||
        (lead == 0xF4 && second > 0x8F))
      return false;
    i += length;
  }
  return true;
}

std::string outside(const std::string& where, const Range& r, double v, const Spelling& spelling) {
  return say("{}: the {} of {} is outside {} to {}.{}{}", where, translated(r.name), r.write(v, spelling),
             r.write(r.least, spelling), r.write(r.most, spelling), r.advice.empty() ? "" : " ", translated(r.advice));
}

size_t characters(const std::string& text) {
  return size_t(std::count_if(text.begin(), text.end(), [](char c) { return (c & 0xC0) != 0x80; }));
}

}  // namespace

namespace {
// `where()` is asked for a text that is refused alone: edits check all texts of a plan.
template <class Where>
void requireTextAt(const TextRange& r, Where where, const std::string& text) {
  const size_t n = characters(text);
  if (n < r.shortest || n > r.longest)
    throw std::invalid_argument(
        r.shortest == r.longest || n > r.longest
            ? say("{}: the {} has {} characters; {} are the most.", where(), translated(r.name), n, r.longest)
            : say("{}: the {} is missing.", where(), translated(r.name)));
  if (!isUtf8(text))
    throw std::invalid_argument(say("{}: the {} holds bytes that are not text (UTF-8).", where(), translated(r.name)));
  switch (r.form) {
    case TextRange::Form::Any:
      return;
    case TextRange::Form::LightLetter:
      if (text[0] < 'A' || text[0] > 'P')
        throw std::invalid_argument(say("A light's letter is one of A to P, not \"{}\".", text));
      return;
    case TextRange::Form::PanelNumber:
      for (size_t i = 1; i <= kMostPanels; ++i)
        if (text == std::to_string(i)) return;
      throw std::invalid_argument(say("A board's number is one of 1 to {}, not \"{}\".", kMostPanels, text));
    case TextRange::Form::Word:
      for (const char c : text)
        if (!((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '-'))
          throw std::invalid_argument(say("{}: the {} \"{}\" may have small letters, figures and hyphens only.",
                                          where(), translated(r.name), text));
  }
}
}  // namespace

void requireText(const TextRange& r, const std::string& where, const std::string& text) {
  requireTextAt(
      r, [&] { return where; }, text);
}

namespace {

template <class List>
void requireList(const List& list, size_t most, const char* what, const char* word) {
  if (list.size() > most)
    throw std::invalid_argument(
        say("A plan holds at most {} {}; this has {}. Remove some first.", most, what, list.size()));
  std::set<std::string_view> ids;
  for (const auto& one : list)
    if (!ids.insert(one.id).second)
      throw std::invalid_argument(
          say("This plan has two {} with the {} {}. Give one another {}.", what, word, one.id, word));
}

}  // namespace

std::string Range::write(double v, const Spelling& spelling) const {
  if (std::isnan(v)) return marked("no number");
  switch (quantity) {
    case Length:
      return spelling.length(v);
    case Angle:
      return fmt::format("{:g}\u00b0", v);
    case Clock:
      return v <= 0 || v > 12 ? fmt::format("{:g} h", v) : writeClock(v);
    case Stops:
      return say("{:.3g} stops", v);
    case FNumber:
      return fmt::format("f/{:.3g}", v);
    case Time:
      return v >= 0.3 ? fmt::format("{:g} s", v) : fmt::format("1/{:.0f}", 1 / v);
    case Kelvin:
      return fmt::format("{:.0f} K", v);
    case Share:
      return fmt::format("{:g} %", v * 100);
    case Lux:
      return say("{:.0f} lx", v);
    case Millimetres:
      return say("{:g} mm", v);
    case PerMetre:
      return say("{:g} per m", v);
    case Plain:
      break;
  }
  return fmt::format("{:.7g}", v);
}

const std::vector<Range>& planRanges() {
  static const std::vector<Range> all = [] {
    std::vector<Range> out;
    Plan p;
    p.lights.emplace_back();
    p.panels.emplace_back();
    p.spots.emplace_back();
    forEachPart(p, [&](auto&, const Part&, const auto& rows, const auto&) {
      for (const auto& row : rows) out.push_back(row.range);
    });
    return out;
  }();
  return all;
}

const std::vector<TextRange>& planTexts() {
  static const std::vector<TextRange> all = [] {
    std::vector<TextRange> out;
    Plan p;
    p.lights.emplace_back();
    p.panels.emplace_back();
    p.spots.emplace_back();
    forEachPart(p, [&](auto&, const Part&, const auto&, const auto& texts) {
      for (const auto& row : texts) out.push_back(row.range);
    });
    return out;
  }();
  return all;
}

const TextRange& textOf(std::string_view path) {
  for (const TextRange& t : planTexts())
    if (t.path == path) return t;
  throw std::out_of_range(fmt::format("no text {}", path));
}

std::string firstCharacters(const std::string& text, size_t most) {
  size_t n = 0;
  for (size_t i = 0; i < text.size(); ++i)
    if ((text[i] & 0xC0) != 0x80 && n++ == most) return text.substr(0, i);
  return text;
}

const Range& rangeOf(std::string_view path) {
  for (const Range& r : planRanges())
    if (r.path == path) return r;
  throw std::out_of_range(say("no range of {}", path));
}

OutOfRange::OutOfRange(std::string where, const Range& range, double value)
    : std::invalid_argument(outside(where, range, value, {})),
      where_(std::move(where)),
      range_(&range),
      value_(value) {}

std::string OutOfRange::sentence(const Spelling& spelling) const { return outside(where_, *range_, value_, spelling); }

void forEachNumber(Plan& plan, const std::function<void(const Range&, const std::string&, double&)>& visit) {
  forEachPart(plan, [&](auto& part, const Part& which, const auto& rows, const auto&) {
    for (const auto& row : rows) visit(row.range, which.path(row.range), row.of(part));
  });
}

void clampToRanges(Plan& plan) {
  forEachNumber(plan, [](const Range& r, const std::string&, double& v) { v = r.clamp(v); });
}

void requireInRange(const Plan& plan) {
  // The rows give references that can be written through; here they are only read.
  Plan& p = const_cast<Plan&>(plan);
  requireList(p.lights, kMostLights, "lights", "letter");
  requireList(p.panels, kMostPanels, "panels", "number");
  requireList(p.spots, kMostSpots, marked("pinned spots"), "id");
  forEachPart(p, [&](auto& part, const Part& which, const auto& rows, const auto& texts) {
    for (const auto& row : texts)
      requireTextAt(
          row.range, [&] { return which.name(); }, row.of(part));
    for (const auto& row : rows)
      if (const double v = row.of(part); !row.range.holds(v)) throw OutOfRange(which.name(), row.range, v);
  });
  for (const PinnedSpot& s : p.spots)
    if (std::abs(std::hypot(s.nx, s.ny, s.nz) - 1) > 1e-4)
      throw std::invalid_argument(
          say("The pinned spot \"{}\" looks nowhere: its normal is not a direction of length 1.", s.id));
  if (p.wanted.size() > kMostWanted)
    throw std::invalid_argument(say("{} faults are the most that can be meant so.", kMostWanted));
  for (const std::string& w : p.wanted)
    if (characters(w) > 40) throw std::invalid_argument(say("The id of a fault has 40 characters at most."));
}

}  // namespace easel
