#include "gear/catalogue.h"

#include <atomic>
#include <map>
#include <memory>
#include <mutex>
#include <optional>

#include "data/by_id.h"

namespace easel {
namespace {

using Counts = std::map<std::string, int, std::less<>>;
std::optional<int> countOf(const Counts& counts, std::string_view id) {
  if (counts.empty()) return {};
  const auto at = counts.find(id);
  return at == counts.end() ? 0 : at->second;
}

std::atomic<const void*> inUseNow{nullptr};  // of Catalogue::Own

}  // namespace

struct Catalogue::Own {
  std::vector<Unit> units;
  std::vector<Modifier> modifiers;
  Counts unitCount, modifierCount;
  std::optional<StudioCorrections> corrections;
};

// Pointers that somebody holds stay good.
const Catalogue::Own* Catalogue::kept(const Inventory& inventory) {
  static std::mutex guard;
  static auto& all = *new std::vector<std::unique_ptr<const Own>>;
  const StudioCorrections* in = inventory.studio.empty() ? nullptr : inventory.correctionsOf(inventory.studio);
  auto own = std::make_unique<Own>();
  own->units = inventory.ownUnits;
  own->modifiers = inventory.ownModifiers;
  own->unitCount = {inventory.units.begin(), inventory.units.end()};
  own->modifierCount = {inventory.modifiers.begin(), inventory.modifiers.end()};
  if (in) own->corrections = *in;
  const std::lock_guard lock(guard);
  all.push_back(std::move(own));
  return all.back().get();
}

Catalogue Catalogue::inUse() { return Catalogue(static_cast<const Own*>(inUseNow.load())); }
Catalogue::Catalogue(const Inventory& inventory) : own_(kept(inventory)) {}

const Unit* Catalogue::unit(std::string_view id) const {
  if (own_)
    if (const Unit* u = byId(own_->units, id)) return u;
  return byId(easel::units(), id);
}
const Modifier* Catalogue::modifier(std::string_view id) const {
  if (own_)
    if (const Modifier* m = byId(own_->modifiers, id)) return m;
  return byId(easel::modifiers(), id);
}

GearCorrection Catalogue::correction(std::string_view unit, std::string_view modifier) const {
  GearCorrection out;
  if (!own_ || !own_->corrections) return out;
  const StudioCorrections& c = *own_->corrections;
  const auto at = [](const std::map<std::string, double>& all, std::string_view id) {
    const auto found = all.find(std::string(id));
    return found == all.end() ? 0.0 : found->second;
  };
  out.stops = c.room + at(c.units, unit) + at(c.modifiers, modifier);
  for (const StudioCorrections::Sure& s : c.sure)
    if (s.unit == unit && s.modifier == modifier) out.within = s.within;
  return out;
}

std::string Catalogue::studio() const { return own_ && own_->corrections ? own_->corrections->studio : std::string(); }
std::optional<int> Catalogue::unitsOwned(std::string_view id) const {
  return own_ ? countOf(own_->unitCount, id) : std::nullopt;
}
std::optional<int> Catalogue::modifiersOwned(std::string_view id) const {
  return own_ ? countOf(own_->modifierCount, id) : std::nullopt;
}
std::vector<Unit> Catalogue::units() const {
  std::vector<Unit> out = easel::units();
  if (own_)
    for (const Unit& u : own_->units) put(out, u);
  return out;
}
std::vector<Modifier> Catalogue::modifiers() const {
  std::vector<Modifier> out = easel::modifiers();
  if (own_)
    for (const Modifier& m : own_->modifiers) put(out, m);
  return out;
}

void takeIntoUse(const Inventory& inventory) { inUseNow = Catalogue::kept(inventory); }

std::string studioInUse() { return Catalogue::inUse().studio(); }
std::optional<int> unitsOwned(std::string_view id) { return Catalogue::inUse().unitsOwned(id); }
std::optional<int> modifiersOwned(std::string_view id) { return Catalogue::inUse().modifiersOwned(id); }
std::vector<Unit> knownUnits() { return Catalogue::inUse().units(); }
std::vector<Modifier> knownModifiers() { return Catalogue::inUse().modifiers(); }
const Unit* findUnit(std::string_view id) { return Catalogue::inUse().unit(id); }
const Modifier* findModifier(std::string_view id) { return Catalogue::inUse().modifier(id); }
GearCorrection correctionOf(std::string_view unit, std::string_view modifier) {
  return Catalogue::inUse().correction(unit, modifier);
}

}  // namespace easel
