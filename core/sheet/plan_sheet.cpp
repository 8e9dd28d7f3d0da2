#include "sheet/plan_sheet.h"

#include <fmt/format.h>

#include <cmath>

#include "data/by_id.h"
#include "exposure/shutter.h"
#include "gear/fittings.h"
#include "gear/panel_kinds.h"
#include "plan/check.h"
#include "plan/gaze.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "plan/pose.h"
#include "sheet/packed_plan.h"
#include "sheet/set_drawing.h"
#include "sitters/people.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel {
namespace {

const Carried* carriedOf(const PlanSheet& s, const std::string& light) {
  for (const Carried& c : s.carried)
    if (c.light == light) return &c;
  return nullptr;
}

std::string unitName(const Light& l) { return nameOr(findUnit(l.unit), l.unit); }
std::string frontName(const Light& l) { return nameOr(findModifier(l.modifier), l.modifier); }
std::string power(const Light& l, const Spelling& spelling) {
  const Unit* u = findUnit(l.unit);
  return l.on ? (u ? spelling.power(u->scale, l.power) : std::string()) : say("off");
}

std::string placeOf(const Plan& plan, const Light& l, const Spelling& s) {
  if (onLens(l)) return say("round the lens");
  std::string out = say("{} o'clock, {}, {} high, {}", writeClock(l.hour), s.length(l.distance), s.length(l.height),
                        tiltSaid(plan, l));
  if (const std::string turned = featherSaid(l); !turned.empty()) out += ", " + turned;
  return out;
}

// How it stands to the key: as a ratio where the school has one for it, else in stops.
std::string against(const PlanSheet& s, const Light& l) {
  const LightAnswer* key = keyAnswer(s.plan.lights, s.answers);
  if (!key) return {};
  if (key->id == l.id) return say("key");
  const double under = stopsUnder(s.answers, key->id, l.id);
  const bool ratio = l.role == Role::Fill && s.wish.school != RatioSchool::StopsUnder && under >= 0;
  if (ratio) return writeRatio(under, s.wish.school);
  return std::abs(under) < 0.05 ? say("as the key")
         : under > 0            ? say("{:.1f} under", under)
                                : say("{:.1f} over", -under);
}

std::string schoolName(RatioSchool school) {
  switch (school) {
    case RatioSchool::UnitToUnit:
      return say("ratio, unit to unit");
    case RatioSchool::LitToShadow:
      return say("ratio, lit to shadow");
    case RatioSchool::StopsUnder:
      break;
  }
  return say("against the key");
}

PictureAndFacts facts(const PlanSheet& s) {
  const Plan& p = s.plan;
  const Spelling& sp = s.wish.spelling;
  PictureAndFacts out;
  out.picture = s.portrait;
  const auto fact = [&](const std::string& name, const std::string& value) { out.facts.emplace_back(name, value); };
  fact(say("Aperture"), sp.aperture(p.camera.shootingAperture()));
  fact(say("Shutter"), say("{}, sync {}", writeShutter(p.camera.shutter), writeShutter(p.camera.syncShutter)));
  fact(say("ISO"), fmt::format("{:.0f}", p.camera.iso));
  fact(say("White balance"), say("{:.0f} K", p.camera.whiteBalance));
  fact(say("Lens"), say("{:.0f} mm, {} away, {} high", p.camera.focalLength, sp.length(p.camera.distance),
                        sp.length(p.camera.height)));
  std::string sitter = personOf(p.sitter.id).name;
  sitter += say(", eyes at {}", sp.length(p.sitter.eyeHeight));
  if (std::abs(p.sitter.turn) >= 0.5)
    sitter += p.sitter.turn > 0 ? say(", head {:.0f}° to camera right", p.sitter.turn)
                                : say(", head {:.0f}° to camera left", -p.sitter.turn);
  if (p.sitter.gaze != kLooksAtLens) sitter += say(", looks {}", saidGaze(p));
  fact(say("Sitter"), sitter);
  const BackdropMaterial* m = findBackdrop(p.backdrop.material);
  fact(say("Backdrop"), say("{}, {} behind", nameOr(m, p.backdrop.material), sp.length(p.backdrop.distance)));
  fact(say("Room"),
       say("{} x {}, {} high", sp.length(p.room.width), sp.length(p.room.depth), sp.length(p.room.height)));
  if (!s.reading.lighting.name.empty()) fact(say("Pattern"), s.reading.lighting.name);
  fact(say("Everything on"), say("reads {} ({})", sp.aperture(s.answers.aperture), describe(s.answers.hold)));
  if (p.ambient.lux > 0 && s.answers.ambientStops > -12)
    fact(say("Room's light"), say("{:.1f} stops under", -s.answers.ambientStops));
  return out;
}

Table lightTable(const PlanSheet& s) {
  Table t;
  t.columns = {{say("light"), 1.75}, {say("head"), 2},    {say("modifier, what is on it"), 2.5},
               {say("power"), 1.45}, {say("alone"), 1.5}, {schoolName(s.wish.school), 1.4},
               {say("place"), 2.9}};
  for (const Light& l : s.plan.lights) {
    const LightAnswer* a = s.answers.light(l.id);
    const std::string on = whatIsOn(l);
    const Carried* c = carriedOf(s, l.id);
    std::string head = unitName(l);
    if (l.group != l.id) head += ", " + say("group {}", l.group);
    std::string place = placeOf(s.plan, l, s.wish.spelling);
    if (c && c->boom) place += ", " + say("on a boom");
    t.rows.push_back({say("{} {}", l.id, roleSaid(l.role)), head, frontName(l) + (on.empty() ? "" : "; " + on),
                      power(l, s.wish.spelling),
                      a ? say("{} {}", s.wish.spelling.aperture(a->aperture), placeOf(a->held)) : std::string(),
                      against(s, l), place});
  }
  return t;
}

// As one builds it: what has a depth says it, a wall its opening.
std::string sizeOf(const Panel& p, const Spelling& spelling) {
  const std::string wide = spelling.length(p.width), high = spelling.length(p.height);
  switch (shapeOf(p.kind)) {
    case PanelShape::Table:
    case PanelShape::Chair:
    case PanelShape::Block:
      return say("{} x {}, {} high", wide, spelling.length(p.depth), high);
    case PanelShape::Stool:
      return say("{} across, {} high", wide, high);
    case PanelShape::Doorway:
    case PanelShape::Window:
      return say("{} x {}; opening {} x {}, from {} up", wide, high, spelling.length(p.openWidth),
                 spelling.length(p.openHeight), spelling.length(p.sill));
    default:
      return say("{} x {}", wide, high);
  }
}

Table boardTable(const PlanSheet& s) {
  Table t;
  t.columns = {{say("board or piece"), 1.6}, {say("faces"), 1.2}, {say("size"), 1.4}, {say("place"), 3}};
  for (const Panel& p : s.plan.panels) {
    if (!p.on) continue;
    const PanelKind* k = findPanelKind(p.kind);
    const Finish* f = findFinish(p.front);
    std::string place = say("{} o'clock, {}", writeClock(p.hour), s.wish.spelling.length(p.distance));
    if (!standsOnFloor(p)) place += ", " + say("middle {} high", s.wish.spelling.length(p.above));
    if (std::abs(p.turn) >= 0.5) place += ", " + say("turned {:.0f}°", p.turn);
    if (std::abs(p.tilt) >= 0.5) place += ", " + say("tilted {:.0f}°", p.tilt);
    t.rows.push_back({say("{} {}", p.id,
                          !p.name.empty() ? p.name
                          : k             ? k->name
                                          : p.kind),
                      f ? f->name : p.front, sizeOf(p, s.wish.spelling), place});
  }
  return t;
}

Points buildOrder(const PlanSheet& s) {
  Points out;
  out.all.push_back(
      {"", say("Everything off: the frame should show nothing that you do not want. Then one light at a time.")});
  for (const Light& l : s.plan.lights) {
    if (!l.on) continue;
    const LightAnswer* a = s.answers.light(l.id);
    out.all.push_back(
        {l.id, say("{} to {}; {}. Alone it reads {} {}. {}", frontName(l), placeOf(s.plan, l, s.wish.spelling),
                   power(l, s.wish.spelling), a ? s.wish.spelling.aperture(a->aperture) : std::string("f/--"),
                   a ? placeOf(a->held) : std::string(), whatToLookFor(l.role))});
  }
  out.all.push_back({"", say("Everything on, {}: {}. Set the camera to {}.", describe(s.answers.hold),
                             s.wish.spelling.aperture(s.answers.aperture),
                             s.wish.spelling.aperture(s.plan.camera.shootingAperture()))});
  return out;
}

Prints growing(const PlanSheet& s) {
  Prints out;
  std::string letters;
  size_t k = 0;
  for (const Light& l : s.plan.lights) {
    if (!l.on) continue;
    letters += (letters.empty() ? "" : " + ") + l.id;
    if (k < s.growing.size()) out.all.push_back({s.growing[k++], letters});
  }
  return out;
}

void eyes(const PlanSheet& s, Pages& pages) {
  Prints prints;
  for (const int e : {1, 0})  // as one looks at them: the sitter's right eye is on the left
    if (const EyePicture& eye = s.eyes[size_t(e)]; eye.seen && eye.picture.height > 0)
      prints.all.push_back({eye.picture, e == 0 ? say("the sitter's left eye") : say("the sitter's right eye")});
  Points said;
  for (const Catchlight& c : s.reading.catchlights.all)
    if (c.lives)
      said.all.push_back({calledSource(c.light, s.plan.panels),
                          c.eye == 0 ? say("left eye, at {} o'clock on the iris, {}", wholeHour(c.hour), c.shape)
                                     : say("right eye, at {} o'clock on the iris, {}", wholeHour(c.hour), c.shape)});
  if (prints.all.empty() && said.all.empty()) return;
  pages.blocks.push_back(Heading{say("Eyes"), 2});
  prints.height = 26;
  if (!prints.all.empty()) pages.blocks.push_back(std::move(prints));
  if (!said.all.empty()) pages.blocks.push_back(std::move(said));
}

Pages begun(const PlanSheet& s, const std::string& heading) {
  Pages pages;
  pages.title = heading.empty() ? s.plan.title : heading;
  pages.foot = say("Predicted by Jolly Easel: a plan, not a measurement. Meter each light.");
  return pages;
}

}  // namespace

std::string whatIsOn(const Light& l) {
  const Fittings& f = l.fittings;
  std::vector<std::string> all;
  if (f.gel != "none") all.push_back(nameOr(findGel(f.gel), f.gel));
  if (f.diffusion != "none") all.push_back(nameOr(findDiffusion(f.diffusion), f.diffusion));
  if (f.nd > 0.05) all.push_back(say("ND {:.1f} stops", f.nd));
  if (f.grid > 0) all.push_back(say("grid {:.0f}°", f.grid));
  if (f.deflector) all.push_back(say("deflector"));
  if (const Modifier* m = findModifier(l.modifier)) {
    if (m->innerDiffuser && !f.inner) all.push_back(say("inner diffuser out"));
    if (m->zooms) all.push_back(say("zoom {:.0f} mm", f.zoom));
    if (m->projects) all.push_back(say("beam {:.0f}°", 2 * f.spread));
    if (m->projects && f.pattern != "none") all.push_back(say("gobo {}", f.pattern));
  }
  if (f.doors.closed())
    all.push_back(say("barn doors left {:.0f}°, right {:.0f}°, top {:.0f}°, bottom {:.0f}°", f.doors.left,
                      f.doors.right, f.doors.top, f.doors.bottom));
  if (f.kelvin > 0) all.push_back(say("{:.0f} K", f.kelvin));
  if (l.modelling) all.push_back(say("modelling lamp stays on"));
  std::string out;
  for (const std::string& one : all) out += (out.empty() ? "" : "; ") + one;
  return out;
}

std::string roleSaid(Role role) {
  switch (role) {
    case Role::Key:
      return say("key");
    case Role::Fill:
      return say("fill");
    case Role::Hair:
      return say("hair");
    case Role::Rim:
      return say("rim");
    case Role::Kicker:
      return say("kicker");
    case Role::Background:
      return say("background");
    case Role::Other:
      break;
  }
  return say("light");
}

std::string whatToLookFor(Role role) {
  switch (role) {
    case Role::Key:
      return say("Look at its direction first: the nose's shadow, a catchlight in both eyes. Then the power.");
    case Role::Fill:
      return say("Look at it alone: a little light only where the key's shadows are, and never over the key.");
    case Role::Hair:
      return say("Look at hair and shoulders: separated, not burnt; no light on the tip of the nose.");
    case Role::Rim:
    case Role::Kicker:
      return say("Look at the edge of cheek and shoulder: a line, not a stripe; nothing into the lens.");
    case Role::Background:
      return say("Look at the backdrop: brightest behind the shoulder blades, no halo round the head.");
    case Role::Other:
      break;
  }
  return say("Look at what it adds, and at what it touches that it should not.");
}

std::string sheetFileName(const std::string& title, const std::string& what, const std::string& ending) {
  std::string out;
  for (const char c : title) {
    const auto u = static_cast<unsigned char>(c);
    if (std::isalnum(u) && u < 128)
      out += char(std::tolower(u));
    else if (u >= 128)
      out += c;  // letters of other languages stay
    else if (!out.empty() && out.back() != '-')
      out += '-';
  }
  while (!out.empty() && out.back() == '-') out.pop_back();
  if (out.size() > 80) {
    out.resize(80);
    while (!out.empty() && (static_cast<unsigned char>(out.back()) & 0xc0) == 0x80) out.pop_back();
    if (!out.empty() && static_cast<unsigned char>(out.back()) >= 0xc0) out.pop_back();
  }
  if (out.empty()) out = "plan";
  return out + "_" + what + "." + ending;
}

PlanSheet planSheet(const Plan& plan, const SheetWish& wish, const std::function<bool(double)>& progress) {
  for (const Finding& f : checkPlan(plan, wish.spelling))
    if (f.severity == Severity::Error) throw std::runtime_error(f.sentence);
  const auto stand = [&](double done) {
    if (progress && !progress(done)) throw std::runtime_error(say("The sheet was cancelled."));
  };
  PlanSheet out;
  out.plan = plan;
  out.wish = wish;
  stand(0);
  out.wish.traced.reset();
  const Layers* traced = wish.traced && wish.traced->plan == plan ? wish.traced->layers.get() : nullptr;
  const bool there = traced && traced->scene && traced->current && traced->passes >= wish.passes;
  ProgressiveRender studio(wish.width, wish.height);
  if (!there) {
    studio.setPlan(plan);
    studio.setOnlyLast(true);
    // One pass after the other, so that whoever waits can call it off.
    const Interrupt none;
    const double steps = double(wish.passes) * double(plan.lights.size() + 1);
    for (int k = 1; studio.improve(none, wish.passes) != ProgressiveRender::Progress::Done; ++k)
      stand(0.6 * std::min(1.0, k / steps));
  }
  const Layers& layers = there ? *traced : studio.layers();
  const PlacedSet set = placedSetOf(plan);
  out.answers = computeAnswers(*layers.scene, set);
  out.reading = readPicture(layers, set, plan, out.answers, spotTable(*layers.scene, set), {}, wish.spelling);
  stand(0.65);
  out.portrait = developPicture(layers, set);
  for (const Light& l : plan.lights) {
    if (!l.on) continue;
    out.growing.push_back(developPicture(layers, set, {Show::What::UpTo, l.id}, 2));
    out.alone.push_back(developPicture(layers, set, {Show::What::Solo, l.id}, 2));
  }
  stand(0.7);
  if (wish.eyes) out.eyes = renderEyes(plan);
  stand(0.98);
  out.carried = carriedIn(plan, wish.kit, windOf(wish.pluggedIn), wish.spelling);
  out.cautions = cautionsFor(plan, wish.kit, wish.pluggedIn, wish.spelling);
  stand(1);
  return out;
}

Pages pagesOf(const PlanSheet& s, const std::string& heading) {
  Pages pages = begun(s, heading);
  auto& b = pages.blocks;
  b.push_back(Heading{pages.title, 1});
  b.push_back(facts(s));
  b.push_back(Heading{say("Levels"), 2});
  b.push_back(drawnLadder(s.plan, s.answers, s.wish.spelling));
  b.push_back(lightTable(s));
  if (Table boards = boardTable(s); !boards.rows.empty()) b.push_back(std::move(boards));
  b.push_back(Heading{say("The set"), 2});
  b.push_back(drawnSet(s.plan, SetView::Above, s.wish.spelling));
  b.push_back(drawnSet(s.plan, SetView::Side, s.wish.spelling));
  b.push_back(Heading{say("Build it in this order"), 2});
  b.push_back(buildOrder(s));
  if (Prints p = growing(s); !p.all.empty()) b.push_back(std::move(p));
  eyes(s, pages);
  Points faults;
  for (const Fault& f : s.reading.faults)
    if (!f.caution)
      faults.all.push_back({f.wanted ? say("meant so") : say("watch"), say("{}. {}", f.title, f.sentence)});
  if (!faults.all.empty()) {
    b.push_back(Heading{say("Faults to watch"), 2});
    b.push_back(std::move(faults));
  }
  b.push_back(Heading{say("What stands, and how"), 2});
  Points stands;
  for (const Carried& c : s.carried)
    if (c.needsSupport || c.kilograms > 0) stands.all.push_back({c.what, describe(c, s.wish.spelling)});
  if (!stands.all.empty()) b.push_back(std::move(stands));
  Points cautions;
  for (const Caution& c : s.cautions) cautions.all.push_back({"!", c.sentence});
  if (!cautions.all.empty()) b.push_back(std::move(cautions));
  b.push_back(Sentence{loadCaution(), true});
  if (!s.plan.notes.empty()) {
    b.push_back(Heading{say("Notes"), 2});
    b.push_back(Sentence{s.plan.notes, false});
  }
  b.push_back(Heading{say("As it was really set"), 2});
  ByHand hand;
  for (const Light& l : s.plan.lights) hand.words.push_back(l.id);
  hand.words.push_back(say("Camera"));
  hand.words.push_back(say("Notes"));
  b.push_back(std::move(hand));
  if (auto code = codeOf(s.plan)) b.push_back(std::move(*code));
  return pages;
}

Pages standPagesOf(const PlanSheet& s, const std::string& heading) {
  Pages pages = begun(s, heading);
  auto& b = pages.blocks;
  b.push_back(Heading{say("{}, {}, ISO {:.0f}", s.wish.spelling.aperture(s.plan.camera.shootingAperture()),
                          writeShutter(s.plan.camera.shutter), s.plan.camera.iso),
                      1});
  Table t;
  t.columns = {{say("light")}, {say("power")}, {say("alone")}, {say("front")}, {say("place")}};
  for (const Light& l : s.plan.lights) {
    const LightAnswer* a = s.answers.light(l.id);
    const std::string on = whatIsOn(l);
    t.rows.push_back({say("{}  {}", l.id, power(l, s.wish.spelling)), std::string(),
                      a ? s.wish.spelling.aperture(a->aperture) : std::string(),
                      frontName(l) + (on.empty() ? "" : "; " + on), placeOf(s.plan, l, s.wish.spelling)});
  }
  b.push_back(std::move(t));
  return pages;
}

Pages growingPagesOf(const PlanSheet& s) {
  Pages pages = begun(s, {});
  auto& b = pages.blocks;
  b.push_back(Heading{pages.title, 1});
  b.push_back(Heading{say("One light at a time"), 2});
  Prints grown = growing(s);
  grown.height = 70;
  if (grown.all.size() > 1) {
    Prints pair;
    pair.height = 100;
    pair.all = {{grown.all.front().picture, say("Before: {} alone", grown.all.front().caption)},
                {grown.all.back().picture, say("After: {}", grown.all.back().caption)}};
    b.push_back(std::move(pair));
  }
  b.push_back(std::move(grown));
  b.push_back(Heading{say("Each light alone"), 2});
  Prints alone;
  alone.height = 70;
  size_t k = 0;
  for (const Light& l : s.plan.lights) {
    if (!l.on || k >= s.alone.size()) continue;
    const LightAnswer* a = s.answers.light(l.id);
    alone.all.push_back({s.alone[k++], say("{} {}, {}, {}", l.id, roleSaid(l.role), frontName(l),
                                           a ? s.wish.spelling.aperture(a->aperture) : std::string())});
  }
  b.push_back(std::move(alone));
  b.push_back(buildOrder(s));
  return pages;
}

Pages seriesPagesOf(const std::vector<SeriesPicture>& series, const std::string& title, const std::string& what) {
  Pages pages;
  pages.title = title;
  pages.foot = say("Predicted by Jolly Easel.");
  pages.blocks.push_back(Heading{title, 1});
  pages.blocks.push_back(Heading{what, 2});
  Prints prints;
  prints.height = 70;
  for (const SeriesPicture& p : series)
    prints.all.push_back(
        {p.picture, p.reading.empty() ? p.caption : say("{}; the face reads {}", p.caption, p.reading)});
  pages.blocks.push_back(std::move(prints));
  return pages;
}

Pages comparedPagesOf(const std::string& title, const Picture& before, const Picture& after) {
  Pages pages;
  pages.title = title;
  pages.foot = say("Predicted by Jolly Easel.");
  pages.blocks.push_back(Heading{title, 1});
  pages.blocks.push_back(Prints{{{before, say("Before")}, {after, say("After")}}, 110});
  return pages;
}

}  // namespace easel
