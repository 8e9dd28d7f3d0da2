#include "gear/gear_file.h"

#include <nlohmann/json.hpp>
#include <stdexcept>

#include "colour/colour.h"
#include "data/by_id.h"
#include "data/data_files.h"
#include "data/taking.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

const JsonLimits kGearLimits{.kind = "list of gear"};
constexpr const char* kOutlines[] = {"rectangle", "octagon", "disc", "ring", "ball"};
constexpr const char* kFamilies[] = {"reflector", "dish",  "softbox",    "umbrella",
                                     "spot",      "small", "continuous", "large"};
constexpr const char* kMounts[] = {"stand", "lens"};
constexpr const char* kNotations[] = {"fraction", "stops", "percent", "watt-seconds"};
constexpr const char* kShapes[] = {"board",   "fold",  "disc",   "slit",  "cut-out", "photographer",
                                   "table",   "stool", "chair",  "block", "doorway", "window",
                                   "picture", "shade", "branch", "object"};

template <class T>
T named(const Json& json) {
  T out;
  take(json, "id", out.id);
  out.name = out.id;
  take(json, "name", out.name);
  out.name = translated(out.name);
  return out;
}
template <class T>
T sourced(const Json& json) {
  T out = named<T>(json);
  take(json, "source", out.source);
  return out;
}

Gel readGel(const Json& json) {
  Gel g = sourced<Gel>(json);
  take(json, "mired", g.mired);
  take(json, "transmission", g.transmission);
  take(json, "passes", g.passes);
  if (json.contains("passes")) {
    if (g.mired != 0) throw std::invalid_argument(say("A gel has either mired or passes. Take one of them out."));
    const Vec3 head = rawLightColour(5600);
    g.transmission = double(luminance(head * g.passes) / luminance(head));
  }
  return g;
}

Finish readFinish(const Json& json) {
  Finish f = sourced<Finish>(json);
  take(json, "diffuse", f.diffuse);
  take(json, "gloss", f.gloss);
  take(json, "roughness", f.roughness);
  take(json, "through", f.through);
  take(json, "grain", f.grain);
  for (int c = 0; c < 3; ++c)
    if (f.diffuse[c] + f.gloss[c] + f.through > 1.0001f)
      throw std::invalid_argument(
          say("Diffuse, gloss and through add up to more than 1: it would give more light than falls "
              "on it. Lower one of them."));
  return f;
}

PanelKind readPanel(const Json& json, const Gear& gear) {
  PanelKind p = named<PanelKind>(json);
  take(json, "shape", kShapes, p.shape);
  take(json, "width", p.width);
  take(json, "height", p.height);
  take(json, "front", p.front);
  take(json, "back", p.back);
  take(json, "above", p.above);
  take(json, "kilograms", p.kilograms);
  take(json, "depth", p.depth);
  take(json, "openWidth", p.openWidth);
  take(json, "openHeight", p.openHeight);
  take(json, "sill", p.sill);
  take(json, "use", p.use);
  p.use = translated(p.use);
  for (const std::string& finish : {p.front, p.back})
    if (!byId(gear.finishes, finish))
      throw std::invalid_argument(
          say("There is no finish \"{}\". Name one that stands in a file before it, or higher up.", foreign(finish)));
  return p;
}

BackdropMaterial readBackdrop(const Json& json) {
  BackdropMaterial b = sourced<BackdropMaterial>(json);
  for (size_t c = 0; c < 3; ++c) b.reflectance[c] = json["reflectance"][c].get<double>();
  take(json, "mottle", b.mottle);
  return b;
}

Support readSupport(const Json& json) {
  Support s = sourced<Support>(json);
  take(json, "highest", s.highest);
  take(json, "load", s.load);
  take(json, "boom", s.boom);
  take(json, "panels", s.panels);
  take(json, "kilograms", s.kilograms);
  take(json, "feet", s.feet);
  take(json, "armFront", s.armFront);
  take(json, "armBack", s.armBack);
  take(json, "armKilograms", s.armKilograms);
  if (s.boom && s.armFront <= 0) s.armFront = 1.5;  // the usual arm, of a file that says nothing of it
  if (s.boom && s.armBack <= 0) s.armBack = 0.45 * s.armFront;
  return s;
}

}  // namespace

Unit readUnit(const Json& json) {
  Unit u = sourced<Unit>(json);
  if (json.contains("kind")) u.kind = json["kind"] == "continuous" ? UnitKind::Continuous : UnitKind::Flash;
  u.efficacy = u.kind == UnitKind::Flash ? 25 : 0;
  u.scale.lowestStops = -7;
  u.scale.step = 0.1;
  u.scale.topNumber = 10;
  take(json, "wattSeconds", u.wattSeconds);
  take(json, "efficacy", u.efficacy);
  take(json, "lumens", u.lumens);
  take(json, "kelvin", u.kelvin);
  take(json, "kelvinTo", u.kelvinTo);
  take(json, "drift", u.drift);
  take(json, "recycle", u.recycle);
  take(json, "duration", u.duration);
  take(json, "durationLowest", u.durationLowest);
  take(json, "highSpeedLossStops", u.highSpeedLoss);
  take(json, "notation", kNotations, u.scale.notation);
  take(json, "lowestStops", u.scale.lowestStops);
  take(json, "step", u.scale.step);
  take(json, "topNumber", u.scale.topNumber);
  take(json, "modellingWatts", u.modellingWatts);
  take(json, "modellingLumens", u.modellingLumens);
  take(json, "modellingKelvin", u.modellingKelvin);
  take(json, "kilograms", u.kilograms);
  take(json, "mains", u.mains);
  take(json, "fullFlashes", u.fullFlashes);
  take(json, "hotShoe", u.hotShoe);
  take(json, "fixed", u.fixed);
  u.scale.fullWattSeconds = u.wattSeconds;
  if (u.kind == UnitKind::Flash ? u.wattSeconds * u.efficacy <= 0 : u.lumens <= 0)
    throw std::invalid_argument(say("This unit gives no light. A flash wants wattSeconds, a continuous unit lumens."));
  return u;
}

Modifier readModifier(const Json& json, const std::vector<Modifier>& known) {
  Modifier m;
  m.outline = Outline::Rectangle;
  m.width = 0.3;
  m.depth = 0.2;
  m.transmission = 0.5;
  m.lobe = 1.3;
  if (json.contains("like")) {
    const auto like = json["like"].get<std::string>();
    const Modifier* other = byId(known, like);
    if (!other)
      throw std::invalid_argument(
          say("There is no modifier \"{}\" to be like. Name one that stands in a file before it, or higher up.",
              foreign(like)));
    m = *other;
  }
  const double gridBefore = m.grid;
  take(json, "id", m.id);
  if (!json.contains("like")) m.name = m.id;
  take(json, "name", m.name);
  m.name = translated(m.name);
  take(json, "family", kFamilies, m.family);
  take(json, "outline", kOutlines, m.outline);
  take(json, "width", m.width);
  if (json.contains("width")) m.height = m.width;
  if (m.height <= 0) m.height = m.width;
  take(json, "height", m.height);
  take(json, "centre", m.centre);
  take(json, "depth", m.depth);
  take(json, "lining", m.lining);
  take(json, "kilograms", m.kilograms);
  take(json, "transmission", m.transmission);
  take(json, "lobe", m.lobe);
  take(json, "hotCentre", m.hotCentre);
  take(json, "grid", m.grid);
  take(json, "squareCells", m.squareCells);
  take(json, "cutOff", m.cutOff);
  take(json, "brightest", m.brightest);
  take(json, "backShare", m.backShare);
  take(json, "mount", kMounts, m.mount);
  take(json, "zooms", m.zooms);
  take(json, "projects", m.projects);
  take(json, "innerDiffuser", m.innerDiffuser);
  take(json, "takesDeflector", m.takesDeflector);
  take(json, "takesDoors", m.takesDoors);
  take(json, "source", m.source);
  if (m.centre > 0.95 * m.width)
    throw std::invalid_argument(say("Its dark centre of {} m leaves nothing of a width of {} m.", m.centre, m.width));
  if (json.contains("axisLossStops") && m.grid <= 0)
    throw std::invalid_argument(say("axisLossStops belongs to a grid. Say its angle as grid, in degrees."));
  // A grid before a known front costs what is said, or what any grid costs; what stood behind one stays as bright.
  if (json.contains("axisLossStops") || (json.contains("grid") && m.grid > 0 && !json.contains("transmission"))) {
    Modifier open = m;
    open.grid = gridBefore;
    const double loss = json.value("axisLossStops", gridBefore > 0 ? 0 : kGridLoss);
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

void readGear(const Json& json, Gear& gear) {
  const auto each = [&](const char* name, const std::function<void(const Json&)>& read) {
    eachEntry(json, name, kGearLimits, read);
  };
  each("units", [&](const Json& j) { put(gear.units, readUnit(j)); });
  each("modifiers", [&](const Json& j) { put(gear.modifiers, readModifier(j, gear.modifiers)); });
  each("supports", [&](const Json& j) { put(gear.supports, readSupport(j)); });
  each("gels", [&](const Json& j) { put(gear.gels, readGel(j)); });
  each("diffusions", [&](const Json& j) {
    Diffusion d = sourced<Diffusion>(j);
    take(j, "transmission", d.transmission);
    take(j, "scatter", d.scatter);
    if (j.contains("axisLossStops")) {
      const double onAxis = std::exp2(-j["axisLossStops"].get<double>()), dish = Diffusion::kStatedOn;
      d.transmission = onAxis * (dish + 1) / (dish + (1 - dish) * d.scatter + 1);
      if (d.transmission > 1)
        throw std::invalid_argument(
            say("A sheet that scatters so much costs at least {:.2f} stop on the axis. Raise axisLossStops.",
                std::log2((dish + 1) / (dish + (1 - dish) * d.scatter + 1))));
    }
    put(gear.diffusions, d);
  });
  each("finishes", [&](const Json& j) { put(gear.finishes, readFinish(j)); });
  each("panels", [&](const Json& j) { put(gear.panels, readPanel(j, gear)); });
  each("paints", [&](const Json& j) {
    Paint p = named<Paint>(j);
    take(j, "colour", p.colour);
    if (!(luminance(p.colour) > 0))
      throw std::invalid_argument(say("A paint of luminance 0 has no colour. Write it lighter."));
    p.colour = p.colour / luminance(p.colour);
    put(gear.paints, p);
  });
  each("backdrops", [&](const Json& j) { put(gear.backdrops, readBackdrop(j)); });
}

const Gear& gear() {
  static const Gear all = gathered<Gear>(DataKind::Gear, readGear);
  return all;
}

}  // namespace easel
