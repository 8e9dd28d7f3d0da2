// From a wish to a set that can stand: places, fronts and powers for a wanted pattern or look, in this room, with this
// kit.
//
// The place of the key is searched on this sitter's face with NLopt (a global search by dividing rectangles, then a
// local one without derivatives): both are deterministic, so the same wish gives the same set. The other lights follow
// the look's recipe. Then the picture is read, and what is wrong with it is cured by what usually helps, as long as the
// wished pattern stays; what had to give is said.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "analysis/plan_reader.h"
#include "propose/shelf.h"

namespace easel {

struct Wish {
  std::string look = "one-soft";       ///< of the shelf
  std::optional<FacePattern> pattern;  ///< instead of the look's
  std::optional<Breadth> breadth;
  std::optional<double> ratioStops;  ///< fill under the key, unit against unit; adds a fill where the look has none
  std::optional<Hardness> hardness;
  std::string tone;                ///< of the backdrop; empty: the look's
  std::optional<double> aperture;  ///< exact f-number
  bool keyLeft = false;            ///< key on the camera's left
};

struct Proposed {
  std::string name;  ///< "Octagon softbox 90 cm at 4:10"
  Plan plan;
  FaceAnalysis reading;
  std::vector<std::string> reasons;  ///< why it stands so
  std::vector<std::string> gave;     ///< what had to give; empty: nothing
  bool patternAsAsked = false, ratioAsAsked = false, reachable = false;
  double ratioStops = 0;  ///< as it meters
  double cost = 0;        ///< of the search: lower is nearer to the wish
  bool asAsked() const { return patternAsAsked && ratioAsAsked && reachable && reading.count() == 0; }
};

/// Of the small pictures that faults are read from.
struct PictureEffort {
  int width = 160, height = 200, passes = 6;
};

/// Up to three sets, best first, each with another front. `here` gives room, sitter, camera, backdrop and kit in use.
/// `go` gets the share done and returns false to stop: what stands so far comes back. Throws std::invalid_argument with
/// a sentence for a look that is not on the shelf, and as PlanReader::read().
std::vector<Proposed> propose(const Wish& wish, const Plan& here, const std::function<bool(double)>& go = {},
                              int most = 3, const Spelling& spelling = {}, PictureEffort pictures = {});

/// Whether a reading shows the wished pattern.
bool showsPattern(const FaceAnalysis& reading, const Look& look, const Wish& wish);

/// The look's set as it is, without search or cures: fast, for the print on the shelf.
Plan sketchOf(const Look& look, const Plan& here);
/// How that turns the head, degrees.
double turnOf(const Look& look, const Plan& here);

}  // namespace easel
