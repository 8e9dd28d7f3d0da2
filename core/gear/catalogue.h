// The gear that a computation may ask for, as one value: what ships, the user's own, and what the studio in use has
// taught about it.
//
// Immutable and as cheap to copy as a pointer; what it gives out stays valid for good. A computation that has taken one
// never sees another kit, whatever is taken into use meanwhile. Any thread.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "gear/inventory.h"
#include "gear/kit.h"

namespace easel {

class Catalogue {
 public:
  /// What is in use now (takeIntoUse()); what ships while nothing has been.
  static Catalogue inUse();
  /// What ships, with the own things and corrections of that kit, whether it is in use or not.
  explicit Catalogue(const Inventory& inventory);

  /// nullptr when there is none of that id.
  const Unit* unit(std::string_view id) const;
  const Modifier* modifier(std::string_view id) const;
  GearCorrection correction(std::string_view unit, std::string_view modifier) const;

  /// Of the catalogue and, after it, the user's own; those of the same id take its place.
  std::vector<Unit> units() const;
  std::vector<Modifier> modifiers() const;
  /// How many the kit has; empty while nobody has entered any of that sort.
  std::optional<int> unitsOwned(std::string_view id) const;
  std::optional<int> modifiersOwned(std::string_view id) const;
  /// Whose corrections count; empty: nobody's.
  std::string studio() const;

 private:
  friend void takeIntoUse(const Inventory& inventory);
  struct Own;
  explicit Catalogue(const Own* own) : own_(own) {}
  static const Own* kept(const Inventory& inventory);

  const Own* own_ = nullptr;  ///< null: nothing of the user's. Never freed: few are ever made
};

}  // namespace easel
