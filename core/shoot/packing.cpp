#include "shoot/packing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

#include "data/by_id.h"
#include "exposure/stops.h"
#include "files/csv.h"
#include "gear/fittings.h"
#include "gear/panel_kinds.h"
#include "plan/lamp.h"
#include "shoot/supports.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::optional<int> ownedOf(const std::map<std::string, int>& counts, const std::string& id) {
  if (counts.empty()) return {};
  const auto found = counts.find(id);
  return found == counts.end() ? 0 : found->second;
}

// Of each thing as many as the look that wants most of it, and which looks want it.
struct Counted {
  std::map<std::string, int> most;
  std::map<std::string, std::string> looks;
  std::map<std::string, int> here;
  void add(const std::string& key, int n = 1) { here[key] += n; }
  void close(const std::string& look) {
    for (const auto& [key, n] : here) {
      most[key] = std::max(most[key], n);
      std::string& list = looks[key];
      list += (list.empty() ? "" : ", ") + look;
    }
    here.clear();
  }
};

void weightsOf(const Day& day, const Inventory& kit, double wind, const Spelling& spelling, Counted& supports,
               int& bags, double& counterweight) {
  const double bag = usualDay().bag;
  for (const DayLook& look : day.looks) {
    int here = 0;
    double weight = 0;
    for (const Carried& c : carriedIn(look.plan, kit, wind, spelling)) {
      if (!c.support.empty()) supports.add(c.support, c.supports);
      here += c.supports * int(std::ceil(c.sandbag / bag - 1e-9));
      weight += c.counterweight;
    }
    // A tall board that stands by itself wants a weight on each foot.
    for (const Panel& p : look.plan.panels)
      if (const PanelKind* k = findPanelKind(p.kind); p.on && k && k->shape == PanelShape::Fold) here += 2;
    supports.close(look.id);
    bags = std::max(bags, here);
    counterweight = std::max(counterweight, weight);
  }
}

}  // namespace

std::string packGroupName(PackGroup group) {
  switch (group) {
    case PackGroup::Heads:
      return say("Heads");
    case PackGroup::Modifiers:
      return say("Modifiers");
    case PackGroup::OnLights:
      return say("On the lights");
    case PackGroup::Boards:
      return say("Boards and backdrops");
    case PackGroup::Stands:
      return say("Stands and booms");
    case PackGroup::Weights:
      return say("Weights");
    case PackGroup::Power:
      return say("Power");
    case PackGroup::Small:
      return say("In the bag");
  }
  return {};
}

std::vector<FlashUse> flashUse(const Day& day) {
  std::map<std::string, FlashUse> all;
  for (const DayLook& look : day.looks) {
    std::map<std::string, int> heads;
    std::map<std::string, double> most;  // of the heads of a sort in one look, the one that is driven hardest
    for (const Light& l : look.plan.lights) {
      const Unit* u = findUnit(l.unit);
      if (!u || u->kind != UnitKind::Flash || !l.on) continue;
      ++heads[l.unit];
      most[l.unit] = std::max(most[l.unit], std::exp2(l.power));
      FlashUse& use = all[l.unit];
      use.unit = l.unit;
      use.ready = std::max(use.ready, u->readyAfter(l.power));
    }
    for (const auto& [id, n] : heads) {
      all[id].heads = std::max(all[id].heads, n);
      all[id].fullFlashes += most[id] * look.frames;
    }
  }
  std::vector<FlashUse> out;
  for (const auto& [id, use] : all) out.push_back(use);
  return out;
}

namespace {

// What a day needs, counted look by look and written down group by group.
class Packing {
 public:
  Packing(const Day& day, const Inventory& kit, const Spelling& spelling)
      : day_(day), kit_(kit), spelling_(spelling), uses_(flashUse(day)) {}

  std::vector<PackItem> all() {
    count();
    gear();
    standsAndWeights();
    power();
    small();
    std::stable_sort(out_.begin(), out_.end(), [](const PackItem& a, const PackItem& b) { return a.group < b.group; });
    return std::move(out_);
  }

 private:
  void count();
  void gear();
  void standsAndWeights();
  void power();
  void small();
  static std::string looksOf(const std::string& list) {
    return list.find(',') == std::string::npos ? say("look {}", list) : say("looks {}", list);
  }

  const Day& day_;
  const Inventory& kit_;
  const Spelling& spelling_;
  const std::vector<FlashUse> uses_;
  std::vector<PackItem> out_;
  Counted units_, fronts_, fittings_, boards_, backdrops_, stands_;
  std::map<std::string, std::string> names_;
  int groups_ = 0;  // of the trigger, at most in one look
};

void Packing::count() {
  for (const DayLook& look : day_.looks) {
    std::set<std::string> letters;
    for (const Light& l : look.plan.lights) {
      const Unit* u = findUnit(l.unit);
      if (u && u->fixed) continue;
      letters.insert(l.group);
      units_.add(l.unit);
      if (u && u->hotShoe && findModifier(l.modifier) && !findModifier(l.modifier)->zooms) fittings_.add("bracket");
      fronts_.add(l.modifier);
      const auto put = [&](const std::string& key, const std::string& name) {
        fittings_.add(key);
        names_[key] = name;
      };
      const Fittings& f = l.fittings;
      if (f.gel != "none") put("gel:" + f.gel, nameOr(findGel(f.gel), f.gel));
      if (f.diffusion != "none") put("diffusion:" + f.diffusion, nameOr(findDiffusion(f.diffusion), f.diffusion));
      if (f.nd > 0.05) put("nd", say("Neutral density sheets"));
      if (f.grid > 0)
        put(fmt::format("grid:{:.0f}:{}", f.grid, l.modifier),
            say("Grid {:.0f} degrees for {}", f.grid, nameOr(findModifier(l.modifier), l.modifier)));
      if (f.doors.closed()) put("doors:" + l.modifier, say("Barn doors"));
      if (f.deflector) put("deflector:" + l.modifier, say("Inner deflector"));
      if (f.pattern != "none") put("gobo:" + f.pattern, say("Gobo: {}", f.pattern));
    }
    groups_ = std::max(groups_, int(letters.size()));
    for (const Panel& p : look.plan.panels)
      if (const PanelKind* k = findPanelKind(p.kind); p.on && !(k && k->shape == PanelShape::Photographer))
        boards_.add(p.kind);
    backdrops_.add(look.plan.backdrop.material);
    for (Counted* c : {&units_, &fronts_, &fittings_, &boards_, &backdrops_}) c->close(look.id);
  }
  names_["bracket"] = say("Bracket for a hot-shoe flash");
}

void Packing::gear() {
  for (const auto& [id, n] : units_.most) {
    std::string why = looksOf(units_.looks[id]);
    for (const FlashUse& use : uses_)
      if (use.unit == id && use.ready > 0) why += say("; ready again after {:.1f} s at the most", use.ready);
    out_.push_back({"unit:" + id, PackGroup::Heads, nameOr(findUnit(id), id), n, ownedOf(kit_.units, id), why});
  }
  for (const auto& [id, n] : fronts_.most) {
    const Modifier* m = findModifier(id);
    if (m && m->zooms) continue;  // of one piece with its head
    out_.push_back({"modifier:" + id, PackGroup::Modifiers, nameOr(m, id), n, ownedOf(kit_.modifiers, id),
                    looksOf(fronts_.looks[id])});
  }
  for (const auto& [key, n] : fittings_.most)
    out_.push_back({key, PackGroup::OnLights, names_[key], n,
                    key.starts_with("gel:") ? ownedOf(kit_.gels, key.substr(4)) : std::nullopt,
                    looksOf(fittings_.looks[key])});
  for (const auto& [id, n] : boards_.most)
    out_.push_back({"board:" + id, PackGroup::Boards, nameOr(findPanelKind(id), id), n, ownedOf(kit_.panels, id),
                    looksOf(boards_.looks[id])});
  for (const auto& [id, n] : backdrops_.most)
    out_.push_back(
        {"backdrop:" + id, PackGroup::Boards, nameOr(findBackdrop(id), id), 1, {}, looksOf(backdrops_.looks[id])});
  if (!backdrops_.most.empty())
    out_.push_back({"backdrop-stands", PackGroup::Stands, say("Backdrop stands with crossbar, pair"), 1, {}, {}});
}

void Packing::standsAndWeights() {
  int bags = 0;
  double counterweight = 0;
  weightsOf(day_, kit_, windOf(day_.pluggedIn), spelling_, stands_, bags, counterweight);
  bool booms = false;
  for (const auto& [id, n] : stands_.most) {
    const Support* s = byId(supports(), id);
    booms |= s && s->boom;
    out_.push_back(
        {"support:" + id, PackGroup::Stands, nameOr(s, id), n, ownedOf(kit_.supports, id), looksOf(stands_.looks[id])});
  }
  if (bags > 0)
    out_.push_back({"sandbags",
                    PackGroup::Weights,
                    say("Sandbags of {:.0f} kg", usualDay().bag),
                    bags,
                    {},
                    say("as computed for what stands")});
  if (counterweight > 0)
    out_.push_back({"counterweights",
                    PackGroup::Weights,
                    say("Counterweights, {:.1f} kg in all", std::ceil(counterweight * 2) / 2),
                    1,
                    {},
                    say("for booms")});
  if (booms) out_.push_back({"safety-line", PackGroup::Weights, say("Safety lines for booms"), 1, {}, {}});
}

void Packing::power() {
  for (const FlashUse& use : uses_) {
    const Unit* u = findUnit(use.unit);
    if (!u || u->mains) continue;
    const int per = u->fullFlashes > 0 ? int(std::ceil(use.fullFlashes / u->fullFlashes)) : 1;
    const int n = use.heads * std::max(1, per) + 1;
    out_.push_back({"battery:" + use.unit,
                    PackGroup::Power,
                    say("Batteries for {}", u->name),
                    n,
                    {},
                    u->fullFlashes > 0 ? say("{:.0f} full flashes a head, {} from a battery; one to spare",
                                             std::ceil(use.fullFlashes), u->fullFlashes)
                                       : say("flashes of a battery not known; one to spare")});
  }
  // Cables: of each length as many as the look that wants most.
  std::map<double, int> cables;
  int plugged = 0;
  for (const DayLook& look : day_.looks) {
    std::map<double, int> here;
    const MainsLoad load = spreadOver(day_.circuits, consumersOf(look.plan, day_.pluggedIn), spelling_);
    for (const MainsLoad::Plug& p : load.plugs)
      if (p.taken > 0) ++here[p.taken];
    for (const auto& [metres, n] : here) cables[metres] = std::max(cables[metres], n);
    plugged = std::max(plugged, int(load.plugs.size()));
  }
  for (const auto& [metres, n] : cables)
    out_.push_back({fmt::format("cable:{:.0f}", metres),
                    PackGroup::Power,
                    say("Mains cable {}", spelling_.length(metres)),
                    n,
                    {},
                    say("by the sockets of the room")});
  if (cables.empty() && plugged > 0)
    out_.push_back(
        {"cables", PackGroup::Power, say("Mains cables"), plugged, {}, say("no socket is written down for the room")});
}

void Packing::small() {
  if (groups_ > 0)
    out_.push_back({"receivers",
                    PackGroup::Small,
                    say("Trigger receivers, or heads with their own"),
                    int(std::accumulate(units_.most.begin(), units_.most.end(), 0,
                                        [](int sum, const auto& u) {
                                          const Unit* unit = findUnit(u.first);
                                          return sum + (unit && unit->kind == UnitKind::Flash ? u.second : 0);
                                        })),
                    {},
                    say("{} groups at most", groups_)});
  for (const AlwaysPacked& a : usualDay().always)
    out_.push_back({"always:" + a.id, PackGroup::Small, a.name, a.count, {}, a.why});
}

}  // namespace

std::vector<PackItem> packingFor(const Day& day, const Inventory& kit, const Spelling& spelling) {
  return Packing(day, kit, spelling).all();
}

std::vector<StandIn> standInsFor(const Plan& plan, const std::string& letter, const Inventory& kit) {
  std::vector<StandIn> out;
  const Light* light = plan.light(letter);
  if (!light) return out;
  const Unit* unit = findUnit(light->unit);
  const Modifier* front = findModifier(light->modifier);
  if (!unit || !front) return out;
  const auto count = [](const auto& counts, const std::string& id) { return ownedOf(counts, id).value_or(0); };
  const auto used = [&](bool heads, const std::string& id) {
    return int(std::count_if(plan.lights.begin(), plan.lights.end(),
                             [&](const Light& l) { return l.id != letter && (heads ? l.unit : l.modifier) == id; }));
  };
  std::vector<std::pair<double, StandIn>> all;
  // The same light on the axis as before, as near as the head can; what is left is said.
  const auto offer = [&](const std::string& id, const std::string& name, Light with, double unlike, std::string look) {
    const Unit* u = findUnit(with.unit);
    const double before = frontOf(*light).axialIntensity() * lampGives(*light, light->power, plan.camera).total();
    const double now = frontOf(with).axialIntensity() * lampGives(with, with.power, plan.camera).total();
    const double wanted = with.power + stopsFromRatio(before / std::max(1e-12, now));
    const PowerScale::Setting s = u->scale.settingFor(wanted);
    with.power = s.stops;
    StandIn one{id, name, std::move(look), plan};
    *one.plan.light(letter) = with;
    if (std::abs(s.shortfall) > 0.05)
      one.changes += (one.changes.empty() ? "" : " ") +
                     (s.shortfall > 0 ? say("{:.1f} stop too weak at full power.", s.shortfall)
                                      : say("{:.1f} stop too strong at its lowest.", -s.shortfall));
    else
      one.changes +=
          (one.changes.empty() ? "" : " ") + say("Set to {} it gives the same reading.", u->scale.write(s.stops));
    all.emplace_back(unlike + 2 * std::abs(s.shortfall), std::move(one));
  };
  if (count(kit.units, light->unit) <= used(true, light->unit))
    for (const Unit& u : knownUnits()) {
      if (u.id == light->unit || u.kind != unit->kind || u.fixed || count(kit.units, u.id) <= used(true, u.id))
        continue;
      Light with = *light;
      with.unit = u.id;
      const double shift = std::abs(1e6 / u.kelvin - 1e6 / unit->kelvin);
      offer(u.id, u.name, with, shift / 50,
            shift > 10 ? say("{:.0f} K instead of {:.0f} K.", u.kelvin, unit->kelvin) : std::string());
    }
  if (count(kit.modifiers, light->modifier) <= used(false, light->modifier))
    for (const Modifier& m : knownModifiers()) {
      if (m.id == light->modifier || m.mount != front->mount || count(kit.modifiers, m.id) <= used(false, m.id))
        continue;
      Light with = *light;
      with.modifier = m.id;
      const double size = std::sqrt(m.area() / front->area());
      const double spread = stopsFromRatio((m.lobe + 1) / (front->lobe + 1));
      std::string look = size < 0.9   ? say("{:.0f} % as wide: harder edges, faster fall-off on skin.", 100 * size)
                         : size > 1.1 ? say("{:.0f} % as wide: softer edges, more on the backdrop.", 100 * size)
                                      : say("About as large.");
      if (std::abs(spread) > 0.7) look += " " + (spread > 0 ? say("A narrower beam.") : say("A wider beam."));
      offer(m.id, m.name, with, 2 * std::abs(stopsFromRatio(size)) + std::abs(spread), look);
    }
  std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  for (auto& [unlike, one] : all)
    if (out.size() < 3) out.push_back(std::move(one));
  return out;
}

std::string packingCsv(const std::vector<PackItem>& items, const Day& day) {
  std::string out = "group,thing,count,owned,why,packed,packed again\n";
  for (const PackItem& i : items) {
    const auto found = day.packed.find(i.key);
    const Packed ticks = found == day.packed.end() ? Packed{} : found->second;
    out += fmt::format("{},{},{},{},{},{},{}\n", csvField(packGroupName(i.group)), csvField(i.name), i.count,
                       i.owned ? std::to_string(*i.owned) : std::string(), csvField(i.why), ticks.out ? "yes" : "",
                       ticks.home ? "yes" : "");
  }
  return out;
}

}  // namespace easel
