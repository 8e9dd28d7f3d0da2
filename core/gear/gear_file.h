// The catalogue of gear as it stands in files of the format "jolly-easel-gear" (docs/formats/gear.md, data/).
//
// Everything else asks units(), modifiers(), gels() ...; this is where they come from, and how a unit or modifier is
// written, in the catalogue as in the user's kit.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <vector>

#include "gear/fittings.h"
#include "gear/inventory.h"
#include "gear/kit.h"
#include "gear/panel_kinds.h"

namespace easel {

class Record;

struct Gear {
  std::vector<Unit> units;
  std::vector<Modifier> modifiers;
  std::vector<Support> supports;
  std::vector<Gel> gels;
  std::vector<Diffusion> diffusions;
  std::vector<Finish> finishes;
  std::vector<PanelKind> panels;
  std::vector<Paint> paints;
  std::vector<BackdropMaterial> backdrops;
};

/// Adds to `gear` what stands in a file that keeps to the schema; a thing of the same id is replaced. Throws FileError
/// for what a schema cannot say (a modifier like one that is not there, a flash without energy ...).
void readGear(const Record& record, Gear& gear);

/// What ships and the user's own files; read at the first call, the same for good. Any thread.
const Gear& gear();

/// One entry, keeping to the schema. Throw std::invalid_argument.
Unit readUnit(const Record& record);
Modifier readModifier(const Record& record, const std::vector<Modifier>& known);
nlohmann::ordered_json written(const Unit& unit);
/// Without its measured profile.
nlohmann::ordered_json written(const Modifier& modifier);

}  // namespace easel
