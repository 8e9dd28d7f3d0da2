#include "gear/gear_file.h"

#include <stdexcept>

#include "colour/colour.h"
#include "data/by_id.h"
#include "data/data_files.h"
#include "data/named.h"
#include "data/vec_member.h"
#include "files/record.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr const char* kOutlines[] = {"rectangle", "octagon", "disc", "ring", "ball"};
constexpr const char* kFamilies[] = {"reflector", "dish",  "softbox",    "umbrella",
                                     "spot",      "small", "continuous", "large"};
constexpr const char* kMounts[] = {"stand", "lens"};
constexpr const char* kNotations[] = {"fraction", "stops", "percent", "watt-seconds"};
constexpr const char* kShapes[] = {"board",   "fold",  "disc",   "slit",  "cut-out", "photographer",
                                   "table",   "stool", "chair",  "block", "doorway", "window",
                                   "picture", "shade", "branch", "object"};

template <class T>
T sourced(const Record& record) {
  T out = named<T>(record);
  take(record, "source", out.source);
  out.source = translated(out.source);
  return out;
}

Gel readGel(const Record& record) {
  Gel g = sourced<Gel>(record);
  take(record, "mired", g.mired);
  take(record, "transmission", g.transmission);
  take(record, "passes", g.passes);
  if (record.contains("passes")) {
    if (g.mired != 0) throw std::invalid_argument(say("A gel has either mired or passes. Remove one of them."));
    const Vec3 head = rawLightColour(5600);
    g.transmission = double(luminance(head * g.passes) / luminance(head));
  }
  return g;
}

Finish readFinish(const Record& record) {
  Finish f = sourced<Finish>(record);
  take(record, "diffuse", f.diffuse);
  take(record, "gloss", f.gloss);
  take(record, "roughness", f.roughness);
  take(record, "through", f.through);
  take(record, "grain", f.grain);
  for (int c = 0; c < 3; ++c)
    if (f.diffuse[c] + f.gloss[c] + f.through > 1.0001f)
      throw std::invalid_argument(
          say("Diffuse, gloss and through add up to more than 1: it would give more light than falls "
              "on it. Lower one of them."));
  return f;
}

PanelKind readPanel(const Record& record, const Gear& gear) {
  PanelKind p = named<PanelKind>(record);
  take(record, "shape", kShapes, p.shape);
  take(record, "width", p.width);
  take(record, "height", p.height);
  take(record, "front", p.front);
  take(record, "back", p.back);
  take(record, "above", p.above);
  take(record, "kilograms", p.kilograms);
  take(record, "depth", p.depth);
  take(record, "openWidth", p.openWidth);
  take(record, "openHeight", p.openHeight);
  take(record, "sill", p.sill);
  take(record, "use", p.use);
  p.use = translated(p.use);
  for (const std::string& finish : {p.front, p.back})
    if (!byId(gear.finishes, finish))
      throw std::invalid_argument(
          say("There is no finish \"{}\". Name one that stands in a file before it, or higher up.", foreign(finish)));
  return p;
}

BackdropMaterial readBackdrop(const Record& record) {
  BackdropMaterial b = sourced<BackdropMaterial>(record);
  for (size_t c = 0; c < 3; ++c) b.reflectance[c] = record["reflectance"][c].get<double>();
  take(record, "mottle", b.mottle);
  return b;
}

Support readSupport(const Record& record) {
  Support s = sourced<Support>(record);
  take(record, "highest", s.highest);
  take(record, "load", s.load);
  take(record, "boom", s.boom);
  take(record, "panels", s.panels);
  take(record, "kilograms", s.kilograms);
  take(record, "feet", s.feet);
  take(record, "armFront", s.armFront);
  take(record, "armBack", s.armBack);
  take(record, "armKilograms", s.armKilograms);
  if (s.boom && s.armFront <= 0) s.armFront = 1.5;  // the usual arm, of a file that says nothing of it
  if (s.boom && s.armBack <= 0) s.armBack = 0.45 * s.armFront;
  return s;
}

}  // namespace

Unit readUnit(const Record& record) {
  Unit u = sourced<Unit>(record);
  if (record.contains("kind")) u.kind = record["kind"] == "continuous" ? UnitKind::Continuous : UnitKind::Flash;
  u.efficacy = u.kind == UnitKind::Flash ? 25 : 0;
  u.scale.lowestStops = -7;
  u.scale.step = 0.1;
  u.scale.topNumber = 10;
  take(record, "wattSeconds", u.wattSeconds);
  take(record, "efficacy", u.efficacy);
  take(record, "lumens", u.lumens);
  take(record, "kelvin", u.kelvin);
  take(record, "kelvinTo", u.kelvinTo);
  take(record, "drift", u.drift);
  take(record, "recycle", u.recycle);
  take(record, "duration", u.duration);
  take(record, "durationLowest", u.durationLowest);
  take(record, "highSpeedLossStops", u.highSpeedLoss);
  take(record, "notation", kNotations, u.scale.notation);
  take(record, "lowestStops", u.scale.lowestStops);
  take(record, "step", u.scale.step);
  take(record, "topNumber", u.scale.topNumber);
  take(record, "modellingWatts", u.modellingWatts);
  take(record, "modellingLumens", u.modellingLumens);
  take(record, "modellingKelvin", u.modellingKelvin);
  take(record, "kilograms", u.kilograms);
  take(record, "mains", u.mains);
  take(record, "fullFlashes", u.fullFlashes);
  take(record, "hotShoe", u.hotShoe);
  take(record, "fixed", u.fixed);
  u.scale.fullWattSeconds = u.wattSeconds;
  if (u.kind == UnitKind::Flash ? u.wattSeconds * u.efficacy <= 0 : u.lumens <= 0)
    throw std::invalid_argument(say("This unit gives no light. A flash needs wattSeconds, a continuous unit lumens."));
  return u;
}

Modifier readModifier(const Record& record, const std::vector<Modifier>& known) {
  Modifier m;
  m.outline = Outline::Rectangle;
  m.width = 0.3;
  m.depth = 0.2;
  m.transmission = 0.5;
  m.lobe = 1.3;
  if (record.contains("like")) {
    const auto like = record["like"].get<std::string>();
    const Modifier* other = byId(known, like);
    if (!other)
      throw std::invalid_argument(
          say("There is no modifier \"{}\" to be like. Name one that stands in a file before it, or higher up.",
              foreign(like)));
    m = *other;
  }
  const double gridBefore = m.grid;
  take(record, "id", m.id);
  if (!record.contains("like")) m.name = m.id;
  take(record, "name", m.name);
  m.name = translated(m.name);
  take(record, "family", kFamilies, m.family);
  take(record, "outline", kOutlines, m.outline);
  take(record, "width", m.width);
  if (record.contains("width")) m.height = m.width;
  if (m.height <= 0) m.height = m.width;
  take(record, "height", m.height);
  take(record, "centre", m.centre);
  take(record, "depth", m.depth);
  take(record, "lining", m.lining);
  take(record, "kilograms", m.kilograms);
  take(record, "transmission", m.transmission);
  take(record, "lobe", m.lobe);
  take(record, "hotCentre", m.hotCentre);
  take(record, "grid", m.grid);
  take(record, "squareCells", m.squareCells);
  take(record, "cutOff", m.cutOff);
  take(record, "brightest", m.brightest);
  take(record, "backShare", m.backShare);
  take(record, "mount", kMounts, m.mount);
  take(record, "zooms", m.zooms);
  take(record, "projects", m.projects);
  take(record, "innerDiffuser", m.innerDiffuser);
  take(record, "takesDeflector", m.takesDeflector);
  take(record, "takesDoors", m.takesDoors);
  take(record, "source", m.source);
  m.source = translated(m.source);
  if (m.centre > 0.95 * m.width)
    throw std::invalid_argument(say("Its dark centre of {} m leaves nothing of a width of {} m.", m.centre, m.width));
  if (record.contains("axisLossStops") && m.grid <= 0)
    throw std::invalid_argument(say("axisLossStops belongs to a grid. Say its angle as grid, in degrees."));
  // A grid before a known front costs what is said, or what any grid costs; what stood behind one stays as bright.
  if (record.contains("axisLossStops") || (record.contains("grid") && m.grid > 0 && !record.contains("transmission"))) {
    Modifier open = m;
    open.grid = gridBefore;
    const double loss = record.value("axisLossStops", gridBefore > 0 ? 0 : kGridLoss);
    m.transmission = open.axialIntensity() * std::exp2(-loss) * m.profileIntegral() / (1 - m.backShare);
  }
  return m;
}

Json written(const Unit& u) {
  return {{"id", u.id},
          {"name", u.name},
          {"kind", u.kind == UnitKind::Flash ? "flash" : "continuous"},
          {"wattSeconds", u.wattSeconds},
          {"efficacy", u.efficacy},
          {"lumens", u.lumens},
          {"kelvin", u.kelvin},
          {"kelvinTo", u.kelvinTo},
          {"drift", u.drift},
          {"recycle", u.recycle},
          {"duration", u.duration},
          {"durationLowest", u.durationLowest},
          {"highSpeedLossStops", u.highSpeedLoss},
          {"notation", kNotations[int(u.scale.notation)]},
          {"lowestStops", u.scale.lowestStops},
          {"step", u.scale.step},
          {"topNumber", u.scale.topNumber},
          {"modellingWatts", u.modellingWatts},
          {"modellingLumens", u.modellingLumens},
          {"modellingKelvin", u.modellingKelvin},
          {"kilograms", u.kilograms},
          {"mains", u.mains},
          {"fullFlashes", u.fullFlashes},
          {"hotShoe", u.hotShoe},
          {"fixed", u.fixed},
          {"source", u.source}};
}
Json written(const Modifier& m) {
  return {{"id", m.id},
          {"name", m.name},
          {"outline", kOutlines[int(m.outline)]},
          {"width", m.width},
          {"height", m.height},
          {"centre", m.centre},
          {"depth", m.depth},
          {"lining", m.lining},
          {"kilograms", m.kilograms},
          {"transmission", m.transmission},
          {"lobe", m.lobe},
          {"hotCentre", m.hotCentre},
          {"grid", m.grid},
          {"squareCells", m.squareCells},
          {"cutOff", m.cutOff},
          {"brightest", m.brightest},
          {"backShare", m.backShare},
          {"innerDiffuser", m.innerDiffuser},
          {"takesDeflector", m.takesDeflector},
          {"takesDoors", m.takesDoors},
          {"family", kFamilies[int(m.family)]},
          {"mount", kMounts[int(m.mount)]},
          {"zooms", m.zooms},
          {"projects", m.projects},
          {"source", m.source}};
}

void readGear(const Record& record, Gear& gear) {
  record.each("units", [&](const Record& r) { put(gear.units, readUnit(r)); });
  record.each("modifiers", [&](const Record& r) { put(gear.modifiers, readModifier(r, gear.modifiers)); });
  record.each("supports", [&](const Record& r) { put(gear.supports, readSupport(r)); });
  record.each("gels", [&](const Record& r) { put(gear.gels, readGel(r)); });
  record.each("diffusions", [&](const Record& r) {
    Diffusion d = sourced<Diffusion>(r);
    take(r, "transmission", d.transmission);
    take(r, "scatter", d.scatter);
    if (r.contains("axisLossStops")) {
      const double onAxis = std::exp2(-r["axisLossStops"].get<double>()), dish = Diffusion::kStatedOn;
      d.transmission = onAxis * (dish + 1) / (dish + (1 - dish) * d.scatter + 1);
      if (d.transmission > 1)
        throw std::invalid_argument(
            say("A sheet that scatters so much costs at least {:.2f} stop on the axis. Raise axisLossStops.",
                std::log2((dish + 1) / (dish + (1 - dish) * d.scatter + 1))));
    }
    put(gear.diffusions, d);
  });
  record.each("finishes", [&](const Record& r) { put(gear.finishes, readFinish(r)); });
  record.each("panels", [&](const Record& r) { put(gear.panels, readPanel(r, gear)); });
  record.each("paints", [&](const Record& r) {
    Paint p = named<Paint>(r);
    take(r, "colour", p.colour);
    if (!(luminance(p.colour) > 0))
      throw std::invalid_argument(say("A paint of luminance 0 has no colour. Write it lighter."));
    p.colour = p.colour / luminance(p.colour);
    put(gear.paints, p);
  });
  record.each("backdrops", [&](const Record& r) { put(gear.backdrops, readBackdrop(r)); });
}

const Gear& gear() {
  static const Gear all = gathered<Gear>(DataKind::Gear, readGear);
  return all;
}

}  // namespace easel
