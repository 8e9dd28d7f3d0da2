// The shelf of looks: what each is for, how it is built step by step, and a recipe relative to sitter, backdrop and
// kit. The looks are data (data/looks.json, docs/formats/looks.md).
//
// A recipe names roles, levels, places on the face (FaceDirection) and kinds of front, never coordinates: the place of
// the key is searched on this sitter (propose.h), the others follow it. Levels and orders: common practice, no source.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/pattern.h"
#include "plan/plan.h"

namespace easel {

enum class Hardness { Any, Soft, Firm, Hard };

/// One light besides the key.
struct LookLight {
  std::string school;                 ///< as in plan/roles.h: "fill-below", "hair-under" ...
  std::optional<double> targetStops;  ///< none: the school's own
  std::vector<std::string> fronts;    ///< modifiers, best first; empty: the school's own
  double grid = 0;                    ///< degrees, 0 none
  double kelvin = 0;                  ///< wanted colour temperature; 0: the unit's own
  std::string gel = "none";
  std::string pattern = "none";  ///< that a focusing spot projects
};

struct Look {
  std::string id, name;
  std::vector<std::string> terms;  ///< what the trade calls it: "clamshell"
  std::string forWhat;             ///< one line
  std::vector<std::string> steps;  ///< how it is built
  std::string levels;              ///< its usual levels, in words
  std::string mistakes;            ///< what usually goes wrong
  // The recipe.
  FacePattern pattern = FacePattern::Loop;
  Breadth breadth = Breadth::Straight;
  double feather = 0;  ///< of the key, as a share of the turn that brings its edge to the face
  double turn = 0;     ///< of the head away from the camera, degrees; its sign follows the key's side and breadth
  bool clamshell = false, profile = false;
  Hardness hardness = Hardness::Soft;
  std::vector<std::string> keyFronts;              ///< best first
  double elevationLeast = 20, elevationMost = 50;  ///< where the key is looked for
  double nearest = 0;                              ///< metres: the key is not looked for nearer; 0: as its front asks
  std::vector<LookLight> lights;
  std::string backdrop;             ///< material wanted; empty: the plan's own
  std::string tone;                 ///< of the backdrop (balance/backdrop_tone.h); empty: as it falls
  std::string panel;                ///< kind of a panel that belongs to it; empty: none
  std::vector<std::string> pieces;  ///< kinds of what stands in the set; put up before the other lights
  double ratioStops = 0;            ///< fill under key, 0: no fill
  std::vector<std::string> wanted;  ///< faults that belong to the look
};

const std::vector<Look>& looks();
/// nullptr when there is none of that id.
const Look* findLook(const std::string& id);

/// A plan of the user's own brought to another sitter and room: its lights, panels, head and levels; heights follow the
/// eyes, the room, the sitter and the lens stay those of `here`. Powers are to be balanced afterwards.
Plan planForSitter(const Plan& look, const Plan& here);

}  // namespace easel
